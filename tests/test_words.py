"""One thing has one word: words that were given up stay out of everything a user reads."""

import ast
import re
from collections.abc import Iterator
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]
# What was said once, and what is said in its place.
RETIRED = {
    r"\basks? \d|\basked (?:of|from)\b|\basks? for \d": "draws; must supply",
    r"\bbears?\b": "is rated for; carries; withstands",
    r"\blets? through\b": "passes; allows",
    r"\bkindness\b|\bbe kind\b|\bkind (?:for|to)\b": "for long life; gentle limit",
    r"\bspeaks? against\b": "problems",
    r"\btake (?:all|every|the) proposals?\b|\bproposals?\b": "suggestion",
    r"\bput away\b|\btake (?:it|them) away\b": "remove",
    r"\bknown from\b": "source",
    r"\bhangs? (?:on|straight|there)\b|\bon no rail\b": "is connected to; is not connected",
    r"\bno end in sight\b|\bnot at all\b": "longer than ...; does not run",
    r"\bk(?:eep|ept|eeps|eeping)[ -]back\b": "reserve",
    r"\busable here\b": "usable at this temperature and current",
    r"\bworst starts?\b": "highest start",
    r"\b(?:the|a|this|its|one|each|all|charging|longest|shortest|parallel|thick|thin|thicker|thinner)"
    r" leads?\b(?!-acid| (?:back|to)\b)": "cable",
    r"\bdrops? out\b|\bgives? up\b": "cuts out",
    r"\bcomes? back\b": "restarts",
    r"\bquick (?:amps|figure)\b|\bdesign amps\b": "at nominal volts; at lowest volts",
    r"\bgood for\b": "is rated for",
    r"\bin the place of\b": "instead of",
    r"\bbrings? up\b": "adds",
    r"\bbridge\b|\bwithout refill\b|\bfell out\b": "last without recharging; rejected",
    r"\bfork\b": "duplicate",
    r"\bwhole systems decided\b|\bin front\b": "systems checked; best so far",
    r"\btold by\b|\bstands in\b": "engine signal; location",
}
PATTERN = re.compile("|".join(f"(?:{word})" for word in RETIRED), re.IGNORECASE)


def _said_by_python(file: Path) -> Iterator[tuple[int, str]]:
    tree = ast.parse(file.read_text())
    docstrings = {
        id(node.body[0].value)
        for node in ast.walk(tree)
        if isinstance(node, ast.FunctionDef | ast.ClassDef | ast.Module)
        and node.body
        and isinstance(node.body[0], ast.Expr)
    }
    for node in ast.walk(tree):
        if not isinstance(node, ast.Constant) or not isinstance(node.value, str):
            continue
        # Patterns that quick entry reads by are no words of ours.
        if id(node) not in docstrings and " " in node.value and "(?" not in node.value:
            yield node.lineno, node.value


def _said_by_the_screen(file: Path) -> Iterator[tuple[int, str]]:
    for number, line in enumerate(file.read_text().splitlines(), 1):
        text = line.strip()
        if not text.startswith(("import ", "} from", "//", "*", "/*")):
            yield number, re.sub(r"\$\{[^}]*\}|\b\w+(?:\.\w+)+", " ", text)


def _said_by_a_page(file: Path) -> Iterator[tuple[int, str]]:
    for number, line in enumerate(file.read_text().splitlines(), 1):
        yield number, re.sub(r"`[^`]*`", " ", line)


def _all() -> Iterator[tuple[Path, int, str]]:
    for file in sorted((ROOT / "src/graveljar").rglob("*.py")):
        # Titles of books and standards are theirs.
        if file.name != "sources.py":
            yield from ((file, *said) for said in _said_by_python(file))
    for pattern in ("*.ts", "*.tsx"):
        for file in sorted((ROOT / "ui/src").rglob(pattern)):
            if file.name != "schema.ts" and ".test." not in file.name:
                yield from ((file, *said) for said in _said_by_the_screen(file))
    for name in ("README.md", "docs/method.md", "docs/glossary.md"):
        yield from ((ROOT / name, *said) for said in _said_by_a_page(ROOT / name))


def test_no_retired_word_is_read_by_a_user() -> None:
    found = [
        f"{file.relative_to(ROOT)}:{line}: “{match[0]}” in “{text.strip()[:90]}”"
        for file, line, text in _all()
        if (match := PATTERN.search(text))
    ]
    assert found == []


def test_constants_that_bound_something_are_named_max_and_min() -> None:
    files = [x for x in (*ROOT.glob("src/**/*.py"), *ROOT.glob("ui/src/**/*.ts*")) if x.is_file()]
    names = {x for file in files for x in re.findall(r"\b[A-Z]+(?:_[A-Z]+)+\b", file.read_text())}
    assert any(x.startswith("MAX_") for x in names)
    assert [x for x in sorted(names) if x.startswith(("MOST_", "LEAST_"))] == []


@pytest.mark.parametrize(
    ("said", "retired"),
    [
        ("The fuse bears 30 A", True), ("12 A are asked of it", True), ("It hangs on it", True),
        ("Take all proposals", True), ("The longest lead", True), ("a tenth kept back", True),
        ("flooded lead-acid", False), ("the rail leads back to itself", False),
        ("The fuse is rated for 30 A", False), ("a kind of fuse", False),
    ],
)  # fmt: skip
def test_retired_words_are_recognised_and_others_are_not(said: str, *, retired: bool) -> None:
    assert bool(PATTERN.search(said)) is retired

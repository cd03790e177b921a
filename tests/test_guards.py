"""Promises about the project itself: hand-kept lists, documents, sizes, outside hosts."""

import ast
import gzip
import importlib
import json
import os
import re
import subprocess
import tomllib
from graphlib import TopologicalSorter
from pathlib import Path

import pytest
from packaging.requirements import Requirement

from graveljar.core.evaluate import evaluate
from graveljar.core.model.parse import read_design
from graveljar.core.tables.assumptions import ASSUMPTIONS
from graveljar.core.tables.chemistry import CHEMISTRIES
from graveljar.core.tables.sources import SOURCES

ROOT = Path(__file__).parents[1]
CORE = ROOT / "src/graveljar/core"
LISTED = subprocess.run(
    ["git", "ls-files", "-co", "--exclude-standard"],
    cwd=ROOT, capture_output=True, text=True, check=True,
).stdout.split()  # fmt: skip
FILES = [ROOT / name for name in LISTED if (ROOT / name).is_file()]


def test_every_assumption_and_source_is_used() -> None:
    code = "".join(
        path.read_text() for path in CORE.rglob("*.py") if path.name not in ("assumptions.py",)
    )
    assert [key for key in ASSUMPTIONS if f'"{key}"' not in code] == []
    cited = code.replace((CORE / "tables/sources.py").read_text(), "")
    cited += (CORE / "tables/assumptions.py").read_text()
    assert [key for key in SOURCES if f'"{key}"' not in cited] == []


def test_chemistries_hold_together() -> None:
    for key, kind in CHEMISTRIES.items():
        assert key == kind.key
        assert kind.empty_v < kind.nominal_v < kind.full_v
        assert 0 <= kind.reserve < 1
        assert {kind.ocv_source, kind.capacity_source} <= set(SOURCES)
        charges = [charge for charge, _ in kind.ocv]
        volts = [v for _, v in kind.ocv]
        assert charges[0] == 0
        assert charges[-1] == 1
        assert charges == sorted(set(charges))
        assert volts == sorted(set(volts)), "the charge can be read back from the volts"
        shares = [share for _, share in kind.capacity_by_temperature]
        assert shares == sorted(shares)
        assert shares[-1] == 1


def test_the_example_in_the_formats_page_is_a_design() -> None:
    page = (ROOT / "docs/formats.md").read_text()
    example = re.search(r"```json\n(.*?)```", page, re.DOTALL)
    assert example is not None
    evaluation = evaluate(read_design(example[1].encode()))
    # 8 W x 4 h, and a hundredth of the volts in its cable.
    assert evaluation.jar.day_wh == pytest.approx(32 / 0.99, rel=1e-3)


@pytest.mark.parametrize(
    "page",
    [
        "README.md",
        "CONTRIBUTING.md",
        "docs/formats.md",
        "docs/benchmarks.md",
        "docs/architecture.md",
        "docs/cookbook.md",
        "docs/limits.md",
    ],
)
def test_links_lead_somewhere(page: str) -> None:
    text = (ROOT / page).read_text()
    targets = re.findall(r"\]\(([^)#]+)\)", text) + re.findall(r'src="([^"]+)"', text)
    local = [x for x in targets if "://" not in x]
    assert [x for x in local if not (ROOT / page).parent.joinpath(x).exists()] == []


def test_every_picture_is_shown_and_there_are_few() -> None:
    readme = (ROOT / "README.md").read_text()
    pictures = sorted((ROOT / "docs/screenshots").glob("*.png"))
    assert 0 < len(pictures) < 20
    assert [p.name for p in pictures if f"docs/screenshots/{p.name}" not in readme] == []


def test_commands_can_be_run() -> None:
    for name in ("bin/start", "bin/test", "bin/gravel-jar", ".ci/run", "scripts/generate"):
        assert os.access(ROOT / name, os.X_OK), name
    assert (ROOT / ".ci/run").read_text().count("bin/test") == 1


def test_lock_files_pin_everything_and_name_no_host() -> None:
    for name in ("requirements/app.txt", "requirements/dev.txt"):
        text = (ROOT / name).read_text()
        pins = re.findall(r"^[a-z0-9._-]+(?:\[[a-z,]+\])?==", text, re.MULTILINE)
        assert len(pins) >= 15
        assert text.count("--hash=sha256:") >= len(pins)
        assert "://" not in text
    packages = json.loads((ROOT / "ui/package-lock.json").read_text())["packages"]
    assert all("resolved" not in package for package in packages.values())
    own = json.loads((ROOT / "ui/package.json").read_text())
    versions = [*own["dependencies"].values(), *own["devDependencies"].values()]
    assert all(re.fullmatch(r"(npm:[a-z]+@)?\d+\.\d+\.\d+", version) for version in versions)


def test_the_application_is_pinned_as_it_is_tested() -> None:
    pins = [
        dict(re.findall(r"^([a-z0-9._-]+)(?:\[[a-z,]+\])?==(\S+)", text, re.MULTILINE))
        for text in ((ROOT / f"requirements/{n}.txt").read_text() for n in ("app", "dev"))
    ]
    assert pins[0].items() <= pins[1].items()


def test_the_first_page_is_small() -> None:
    """Under 250 kB of script, as a browser would fetch it compressed."""
    import gzip  # noqa: PLC0415

    dist = ROOT / "ui/dist"
    page = (dist / "index.html").read_text()
    scripts = re.findall(r'(?:src|href)="/(assets/[^"]+\.js)"', page)
    assert scripts
    assert sum(len(gzip.compress((dist / x).read_bytes())) for x in scripts) < 250_000
    assert "<script>" not in page
    assert all(x.startswith("/") for x in re.findall(r'(?:src|href)="([^"]+)"', page))


def _sections(doc: str) -> dict[str, str]:
    """The numpydoc sections of a docstring by their titles."""
    parts = re.split(r"^(\w+)\n-+\n", doc, flags=re.MULTILINE)
    return dict(zip(parts[1::2], parts[2::2], strict=True))


@pytest.mark.parametrize("folder", ["components", "kernel", "analysis"])
def test_public_functions_say_arguments_units_results_and_errors(folder: str) -> None:
    wrong = []
    for file in sorted((CORE / folder).glob("*.py")):
        for function in ast.parse(file.read_text()).body:
            if not isinstance(function, ast.FunctionDef) or function.name.startswith("_"):
                continue
            where = f"{folder}/{file.name}:{function.name}"
            said = _sections(ast.get_docstring(function) or "")
            arguments = [*function.args.args, *function.args.kwonlyargs]
            lines = re.findall(
                r"^(\w+(?:, \w+)*) : (.+(?:\n .+)*)", said.get("Parameters", ""), re.MULTILINE
            )
            told = {name: text for names, text in lines for name in names.split(", ")}
            if list(told) != [x.arg for x in arguments]:
                wrong.append(f"{where}: arguments")
            for x in arguments:
                kind = ast.unparse(x.annotation) if x.annotation else ""
                if kind.startswith("float") and "[" not in told.get(x.arg, ""):
                    wrong.append(f"{where}: unit of {x.arg}")
            gives = function.returns is not None and ast.unparse(function.returns) != "None"
            if gives != ("Returns" in said):
                wrong.append(f"{where}: result")
            raises = any(isinstance(x, ast.Raise) for x in ast.walk(function))
            if raises and "Raises" not in said:
                wrong.append(f"{where}: errors")
            if "Examples" not in said:
                wrong.append(f"{where}: example")
    assert wrong == []


def test_versions_and_bounds_agree() -> None:
    project = tomllib.loads((ROOT / "pyproject.toml").read_text())["project"]
    newest = re.search(r"^## (\S+)", (ROOT / "CHANGELOG.md").read_text(), re.MULTILINE)
    assert newest is not None
    ui = json.loads((ROOT / "ui/package.json").read_text())
    assert project["version"] == newest[1] == ui["version"]
    assert (ROOT / "src/graveljar/py.typed").exists()
    locked = (ROOT / "requirements/dev.txt").read_text()
    pins = dict(re.findall(r"^([a-z0-9._-]+)(?:\[[a-z,]+\])?==(\S+)", locked, re.MULTILINE))
    for wants in map(
        Requirement, [*project["dependencies"], *project["optional-dependencies"]["dev"]]
    ):
        assert wants.specifier, wants.name
        assert wants.specifier.contains(pins[wants.name], prereleases=True), wants.name


def test_the_page_of_limits_has_every_limit_with_its_value() -> None:
    page = (ROOT / "docs/limits.md").read_text()
    rows = re.findall(r"^\| `([\w.]+)\.(\w+)` \| ([^|]+) \|", page, re.MULTILINE)
    for module, name, said in rows:
        value = getattr(importlib.import_module(f"graveljar.{module}"), name)
        assert float(said.replace(" ", "")) == pytest.approx(value), f"{module}.{name}"
    source = ROOT / "src/graveljar"
    named = re.compile(r"^((?:MAX|MIN)_\w+|HAIR|\w*TOLERANCE)(?:: Final)? = ", re.MULTILINE)
    there = {
        (".".join(file.relative_to(source).with_suffix("").parts), name)
        for file in source.rglob("*.py")
        for name in named.findall(file.read_text())
    }
    assert {(module, name) for module, name, _ in rows} == there


def test_contributing_lists_every_folder() -> None:
    page = (ROOT / "CONTRIBUTING.md").read_text()
    told = set(re.findall(r"^\| `([\w/]+)` \|", page, re.MULTILINE))
    core = {f"src/graveljar/core/{x.name}" for x in CORE.iterdir() if (x / "__init__.py").exists()}
    around = {
        f"src/graveljar/{x.name}"
        for x in (ROOT / "src/graveljar").iterdir()
        if (x / "__init__.py").exists()
    }
    ui = {f"ui/src/{name}" for name in UI_FLOORS}
    assert told == core | around | ui | {"tests", "docs", "scripts"}
    assert set(UI_FLOORS) == {x.name for x in (ROOT / "ui/src").iterdir()}


UI_FLOORS = (
    "command", "app", "features", "verdict", "drawing", "pictures", "editor", "design", "ui",
    "testing", "api", "lib",
)  # fmt: skip


def test_the_interface_imports_point_down_and_never_in_a_circle() -> None:
    src = ROOT / "ui/src"
    imports: dict[Path, set[Path]] = {}
    for file in sorted([*src.rglob("*.ts"), *src.rglob("*.tsx")]):
        specs = re.findall(r'(?:from |import |import\()"(\.[^"]+)"', file.read_text())
        imports[file] = {
            found
            for target in [(file.parent / spec).resolve() for spec in specs]
            for end in ("", ".ts", ".tsx")
            if (found := target.with_name(target.name + end)).suffix in (".ts", ".tsx")
            and found.is_file()
        }
    assert len(imports) > 100
    floor = {name: n for n, name in enumerate(UI_FLOORS)}
    up = [
        f"{file.relative_to(src)} -> {target.relative_to(src)}"
        for file, targets in imports.items()
        for target in targets
        if floor[target.relative_to(src).parts[0]] < floor[file.relative_to(src).parts[0]]
    ]
    assert up == []
    assert list(TopologicalSorter(imports).static_order()), "raises CycleError on a circle"
    features = {
        file.relative_to(src).parts[1]: set[str]()
        for file in imports
        if file.relative_to(src).parts[0] == "features"
    }
    for file, targets in imports.items():
        here = file.relative_to(src).parts
        if here[0] == "features":
            there = {t.relative_to(src).parts[1] for t in targets if "features" in t.parts}
            features[here[1]] |= there - {here[1]}
    assert list(TopologicalSorter(features).static_order()), "no circles between features"


def test_files_stay_short() -> None:
    code = [
        f
        for f in FILES
        if f.suffix in (".py", ".ts", ".tsx") and f.name != "schema.ts" and "tests" not in f.parts
    ]
    # Docstrings of public functions do not count: they are read one by one.
    lengths = {
        str(f.relative_to(ROOT)): len(re.sub(r'\n +"""[^"]*"""', "", f.read_text()).splitlines())
        for f in code
    }
    assert len(lengths) > 80
    # The document is one thing to read from top to bottom, a little longer than the rest.
    assert {name: n for name, n in lengths.items() if n > 400} == {}


def test_sql_keeps_its_values_apart() -> None:
    """No statement is put together from values; they travel as parameters."""
    for path in (ROOT / "src/graveljar/store").glob("*.py"):
        for statement in re.findall(r'f"(?:SELECT|INSERT|UPDATE|DELETE)[^"]*"', path.read_text()):
            assert set(re.findall(r"\{(\w+)\}", statement)) <= {"change", "condition"}


def _static_scripts(start: Path) -> set[Path]:
    """A script and all that it imports before it begins."""
    found, left = set(), [start]
    while left:
        script = left.pop()
        if script not in found:
            found.add(script)
            names = re.findall(r'(?:from|import)\s*"(\./[^"]+\.js)"', script.read_text())
            left += [script.parent / name for name in names]
    return found


@pytest.mark.parametrize(
    ("opens", "most_kb"),
    [
        pytest.param((), 150, id="the first page"),
        pytest.param(("DesignPage",), 190, id="a design, by its address"),
    ],
)
def test_little_script_is_loaded_before_something_is_seen(
    opens: tuple[str, ...], most_kb: float
) -> None:
    """Views, panels and dialogs come when they are opened. Sizes as sent, by gzip."""
    dist = ROOT / "ui/dist"
    entry = re.search(
        r'<script type="module"[^>]* src="/([^"]+)"', (dist / "index.html").read_text()
    )
    assert entry
    starts = [dist / entry[1], *(next(dist.glob(f"assets/{name}-*.js")) for name in opens)]
    scripts = set().union(*(_static_scripts(start) for start in starts))
    kb = sum(len(gzip.compress(script.read_bytes())) for script in scripts) / 1000
    assert kb < most_kb

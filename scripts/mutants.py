"""Breaks the core in seeded places, one at a time, and tells which its tests do not notice.

Run it as `.venv/bin/python scripts/mutants.py [--count 60] [--seed 1] [--jobs 2] [--skip 0]`. Each
break is made in a copy; a test that fails or takes too long has noticed it. The sample depends on
the sources: go on with `--skip` in a checkout of the commit it was begun in.
"""

import argparse
import ast
import os
import random
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from queue import Queue

ROOT = Path(__file__).parents[1]
CORE = Path("src/graveljar/core")
TESTS = ("tests/core", "tests/reference")
MAX_S = 1_500
SWAPS: dict[type[ast.AST], str] = {
    ast.Lt: ">", ast.Gt: "<", ast.LtE: ">", ast.GtE: "<", ast.Eq: "!=", ast.NotEq: "==",
    ast.Add: "-", ast.Sub: "+", ast.Mult: "/", ast.Div: "*", ast.And: "or", ast.Or: "and",
}  # fmt: skip
NAMES = {"min": "max", "max": "min", "any": "all", "all": "any"}


@dataclass(frozen=True)
class Break:
    """A place in a file, and what stands there instead."""

    file: str
    line: int
    begin: int
    end: int
    was: str
    becomes: str

    def __str__(self) -> str:
        return f"{self.file}:{self.line}: {self.was} -> {self.becomes}"


class Source:
    """A file and the places in it."""

    def __init__(self, file: Path) -> None:
        self.file, self.text = file, (ROOT / file).read_text()
        self.starts = [0]
        for line in self.text.splitlines(keepends=True):
            self.starts.append(self.starts[-1] + len(line))

    def breaks(self) -> Iterator[Break]:
        """Every place in the file that can be broken."""
        for function in ast.walk(ast.parse(self.text)):
            if isinstance(function, ast.FunctionDef):
                for node in (x for statement in function.body for x in ast.walk(statement)):
                    yield from self._breaks_of(node)

    def _breaks_of(self, node: ast.AST) -> Iterator[Break]:
        match node:
            case ast.Compare(left=left, ops=[operator], comparators=[right]):
                yield from self._between(left, right, operator)
            case ast.BinOp(left=left, op=operator, right=right):
                yield from self._between(left, right, operator)
            case ast.BoolOp(op=operator, values=[left, right, *_]):
                yield from self._between(left, right, operator)
            case ast.Call(func=ast.Name(id=name) as called) if name in NAMES:
                yield self._break(*self._span(called), NAMES[name])
            case ast.Constant(value=float(number)) if number not in (0.0, 1.0):
                yield self._break(*self._span(node), repr(number * 1.5))

    def _between(self, left: ast.expr, right: ast.expr, operator: ast.AST) -> Iterator[Break]:
        begin, end = self._span(left)[1], self._span(right)[0]
        middle = self.text[begin:end]
        symbol = middle.strip("() \n")
        if type(operator) in SWAPS and symbol and "#" not in middle:
            at = begin + middle.index(symbol)
            yield self._break(at, at + len(symbol), SWAPS[type(operator)])

    def _span(self, node: ast.expr) -> tuple[int, int]:
        last, column = node.end_lineno or node.lineno, node.end_col_offset or node.col_offset
        return self._offset(node.lineno, node.col_offset), self._offset(last, column)

    def _offset(self, line: int, column: int) -> int:
        # Columns are counted in bytes.
        start, end = self.starts[line - 1], self.starts[line]
        return start + len(self.text[start:end].encode()[:column].decode())

    def _break(self, begin: int, end: int, becomes: str) -> Break:
        line = self.text.count("\n", 0, begin) + 1
        return Break(str(self.file), line, begin, end, self.text[begin:end], becomes)


def noticed(broken: Break, place: Path) -> bool:
    """Whether a test fails with a place broken in a copy of the sources."""
    shutil.copytree(ROOT / "src", place / "src", dirs_exist_ok=True)
    file = place / broken.file
    text = file.read_text()
    file.write_text(text[: broken.begin] + broken.becomes + text[broken.end :])
    command = [sys.executable, "-m", "pytest", "-x", "-q", "-p", "no:cacheprovider"]
    command += [*_nearest(broken), *TESTS]
    try:
        ran = subprocess.run(  # noqa: S603
            command,
            cwd=ROOT,
            env=os.environ | {"PYTHONPATH": str(place / "src"), "PYTHONDONTWRITEBYTECODE": "1"},
            capture_output=True,
            timeout=MAX_S,
            check=False,
        )
    except subprocess.TimeoutExpired:
        return True
    return ran.returncode != 0


def _nearest(broken: Break) -> list[str]:
    """Tests that name the broken module, or its topic: they notice it soonest."""
    path = Path(broken.file)
    module = ".".join(path.with_suffix("").parts[1:])
    files = sorted(file for folder in TESTS for file in (ROOT / folder).glob("test_*.py"))
    named = [x for x in files if path.stem in x.stem or path.parent.name in x.stem]
    imports = [x for x in files if module in x.read_text() and x not in named]
    return [str(x.relative_to(ROOT)) for x in (*named, *imports)]


def main() -> int:
    """Break so many places; tell which nobody noticed."""
    wants = argparse.ArgumentParser(description=__doc__)
    wants.add_argument("--count", type=int, default=60)
    wants.add_argument("--seed", type=int, default=1)
    wants.add_argument("--jobs", type=int, default=2)
    wants.add_argument("--skip", type=int, default=0, help="tried before, of the same sample")
    given = wants.parse_args()
    files = sorted((ROOT / CORE).rglob("*.py"))
    every = [x for file in files for x in Source(file.relative_to(ROOT)).breaks()]
    chosen = random.Random(given.seed).sample(every, given.count)[given.skip :]  # noqa: S311
    print(f"{len(every)} places; {len(chosen)} of them by seed {given.seed}", flush=True)
    survivors = []
    with tempfile.TemporaryDirectory() as folder:
        places: Queue[Path] = Queue()
        for job in range(given.jobs):
            places.put(Path(folder) / str(job))

        def tried(broken: Break) -> tuple[Break, bool]:
            place = places.get()
            try:
                return broken, noticed(broken, place)
            finally:
                places.put(place)

        with ThreadPoolExecutor(given.jobs) as pool:
            for broken, caught in pool.map(tried, chosen):
                print(f"{'noticed ' if caught else 'SURVIVED'} {broken}", flush=True)
                if not caught:
                    survivors.append(broken)
    print(f"{len(chosen) - len(survivors)} of {len(chosen)} noticed")
    return 0 if len(survivors) <= given.count // 12 else 1


if __name__ == "__main__":
    sys.exit(main())

"""`gravel-jar`: the core without a server. JSON on standard output; exit 2 on bad input."""

import argparse
import json
import sys
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from dataclasses import asdict
from datetime import datetime
from pathlib import Path
from typing import Any, get_args

from pydantic import TypeAdapter

from graveljar.core.context import Context
from graveljar.core.errors import GravelJarError, InvalidDocument, OutOfRange
from graveljar.core.evaluate import evaluate
from graveljar.core.evaluation import Evaluation
from graveljar.core.model import Bank, Design
from graveljar.core.model.parse import read_design
from graveljar.core.planning.balance import Balance, balance_of
from graveljar.core.planning.search import STEP_NAMES, SearchAsk, SearchPart, Step, search
from graveljar.core.planning.shelf import AnyPart, Candidate
from graveljar.core.readings import Fit, fit_log
from graveljar.core.sheet import sheet_of
from graveljar.core.views.refill import Refill, refill_of
from graveljar.formats.drawing import as_pdf, drawing_or_none, drawing_png, drawing_svg
from graveljar.formats.log_data import read_log_data
from graveljar.formats.parts_csv import read_parts, starting_id, starting_shelf
from graveljar.formats.sheet_html import PARTS, Paper, sheet_html
from graveljar.instruments.scpi import InstrumentServer
from graveljar.instruments.stand_ins import KINDS, StandIn
from graveljar.settings import data_folder, database_url
from graveljar.store.backup import restore, write_backup
from graveljar.store.cluster import ClusterFailed, reached_cluster
from graveljar.store.database import migrate

BAD_INPUT = 2


def main(arguments: list[str] | None = None) -> int:
    """Run one command and give its exit code."""
    parser = argparse.ArgumentParser(prog="gravel-jar", description=__doc__)
    commands = parser.add_subparsers(dest="command", required=True)
    evaluated = commands.add_parser("evaluate", help="work out a design document")
    evaluated.add_argument("file", help="a design document, or - for standard input")
    refilled = commands.add_parser("refill", help="run a week: what comes in, what goes out")
    refilled.add_argument("file", help="a design document, or - for standard input")
    searched = commands.add_parser("search", help="size whole systems for a design's loads")
    searched.add_argument("file", help="a design document, or - for standard input")
    searched.add_argument("--shelf", help="parts as CSV; the starting shelf without it")
    schema = commands.add_parser("schema", help="print a JSON Schema")
    schema.add_argument("document", choices=["design", "evaluation"])
    fitted = commands.add_parser("fit", help="what a log tells of a battery or a load")
    fitted.add_argument("log", help="a logger's CSV file, or - for standard input")
    fitted.add_argument("--design", required=True, help="a design document")
    fitted.add_argument("--subject", help="id of the bank or load; without it the first bank")
    simulated = commands.add_parser("instrument", help="a simulated instrument")
    simulated.add_argument("kind", choices=list(KINDS))
    simulated.add_argument("--design", required=True, help="a design document")
    simulated.add_argument("--subject", help="what it is at; without it the first store")
    simulated.add_argument("--port", type=int, default=0, help="on 127.0.0.1; a free one if unsaid")
    simulated.add_argument("--speed", type=float, default=1.0, help="times as fast as life")
    simulated.add_argument(
        "--lines", action="store_true", help="tell a line of figures every second, unasked"
    )
    printed = commands.add_parser("sheet", help="what to buy, build order and card, to print")
    printed.add_argument("file", help="a design document, or - for standard input")
    as_what = printed.add_mutually_exclusive_group(required=True)
    as_what.add_argument("--html", action="store_true", help="one file without scripts")
    as_what.add_argument("--pdf", action="store_true")
    printed.add_argument("--paper", choices=get_args(Paper), default="A4")
    printed.add_argument("--parts", nargs="+", choices=PARTS, default=PARTS)
    printed.add_argument("--shelf", help="parts as CSV; the starting shelf without it")
    printed.add_argument("--no-prices", action="store_true", help="leave prices out")
    printed.add_argument("--out", help="a file; standard output without it")
    drawn = commands.add_parser("drawing", help="the drawing as a picture")
    drawn.add_argument("file", help="a design document, or - for standard input")
    as_picture = drawn.add_mutually_exclusive_group(required=True)
    as_picture.add_argument("--svg", action="store_true")
    as_picture.add_argument("--png", action="store_true")
    drawn.add_argument("--out", help="a file; standard output without it")
    kept = commands.add_parser("backup", help="write all that is kept into one file")
    kept.add_argument("file", help="a new file, such as gravel-jar.gz")
    brought = commands.add_parser("restore", help="bring a backup back; what is there stays")
    brought.add_argument("file", help="a backup")
    commands.add_parser("bench", help="measure how fast the engine is on this machine")
    given = parser.parse_args(arguments)
    if given.command == "bench":
        # Only here: nothing else needs a server.
        from graveljar.bench import bench  # noqa: PLC0415

        print_json(bench())
        return 0
    work: dict[str, Callable[[], None]] = {
        "schema": lambda: print_json(schema_of(given.document)),
        "search": lambda: _search(given.file, given.shelf),
        "fit": lambda: _fit(given.log, given.design, given.subject),
        "instrument": lambda: _instrument(given),
        "refill": lambda: _refill(given.file),
        "evaluate": lambda: _evaluate(given.file),
        "sheet": lambda: _sheet(given),
        "drawing": lambda: _drawing(given),
        "backup": lambda: _backup(Path(given.file)),
        "restore": lambda: _restore(Path(given.file)),
    }
    return _guarded(work[given.command])


def _guarded(work: Callable[[], None]) -> int:
    """Exit code of a command; what is wrong with its input goes to standard error, in a line."""
    try:
        work()
    except (OSError, GravelJarError) as error:
        reason = error.message if isinstance(error, GravelJarError) else _unread(error)
        sys.stderr.write(f"gravel-jar: {reason}\n")
        return BAD_INPUT
    return 0


def _unread(error: OSError) -> str:
    return f"{error.strerror}: {error.filename}"


def schema_of(document: str) -> dict[str, Any]:
    """JSON Schema of a document, `design` or `evaluation`."""
    if document == "design":
        return Design.model_json_schema()
    return TypeAdapter(Evaluation).json_schema(mode="serialization")


def print_json(value: Any) -> None:
    """Write a value as JSON to standard output."""
    sys.stdout.write(json.dumps(value, indent=2, ensure_ascii=False) + "\n")


def _read(file: str) -> bytes:
    return sys.stdin.buffer.read() if file == "-" else Path(file).read_bytes()


def _evaluate(file: str) -> None:
    evaluation = evaluate(read_design(_read(file)))
    print_json(TypeAdapter(Evaluation).dump_python(evaluation, mode="json"))


def _refill(file: str) -> None:
    """Print the week of a design, and what would balance it."""
    design = read_design(_read(file))
    week = TypeAdapter(Refill).dump_python(refill_of(Context(design)), mode="json")
    rows = TypeAdapter(tuple[Balance, ...]).dump_python(balance_of(design), mode="json")
    print_json(week | {"balance": rows})


def _fit(log: str, file: str, subject: str | None) -> None:
    """Print what a log tells of a part of a design."""
    design = read_design(_read(file))
    text = _read(log).decode("utf-8-sig", errors="replace")
    data = read_log_data(text, "standard input" if log == "-" else Path(log).name)
    banks = [x.id for x in design.stores if isinstance(x, Bank)]
    of = subject or (banks[0] if banks else design.first.id)
    print_json(TypeAdapter(Fit).dump_python(fit_log(Context(design), of, data), mode="json"))


# How often an instrument that tells its figures unasked does so. [s]
LINE_EVERY_S = 1.0


def _instrument(given: argparse.Namespace) -> None:
    """Serve a simulated instrument until it is stopped; says its address first."""
    design = read_design(_read(given.design))
    subject = given.subject or design.first.id
    stand_in = StandIn(given.kind, design, subject, clock=time.monotonic, speed=given.speed)
    with InstrumentServer(stand_in, given.port, LINE_EVERY_S if given.lines else None) as server:
        sys.stdout.write(f"simulated {given.kind} at {server.address} (Ctrl-C stops it)\n")
        sys.stdout.flush()
        with suppress(KeyboardInterrupt):
            server.serve_forever()


def _sheet(given: argparse.Namespace) -> None:
    """Write the sheet of a design as HTML or PDF."""
    design = read_design(_read(given.file))
    parts = starting_shelf() if given.shelf is None else _shelf(Path(given.shelf))
    shelf = [Candidate(str(starting_id(part)), part) for part in parts]
    html = sheet_html(
        sheet_of(Context(design), shelf), parts=given.parts, paper=given.paper,
        day=datetime.now().astimezone().date(), prices=not given.no_prices,
        drawing=drawing_or_none(design) if "cover" in given.parts else "",
    )  # fmt: skip
    _hand_over(as_pdf(html) if given.pdf else html.encode(), given.out)


def _drawing(given: argparse.Namespace) -> None:
    """Write the drawing of a design as SVG or PNG."""
    svg = drawing_svg(read_design(_read(given.file)))
    _hand_over(drawing_png(svg) if given.png else svg.encode(), given.out)


def _hand_over(made: bytes, out: str | None) -> None:
    """Write what was made into a file; to standard output without one."""
    if out is None:
        sys.stdout.buffer.write(made)
    else:
        Path(out).write_bytes(made)


@contextmanager
def _database() -> Iterator[str]:
    """The database of this installation, running or not; its URL."""
    given = database_url()
    if given is not None:
        yield given
        return
    try:
        with reached_cluster(data_folder()) as url:
            yield url
    except ClusterFailed as error:
        raise OutOfRange(str(error)) from None


def _backup(file: Path) -> None:
    """Write all that is kept into a file."""
    if database_url() is None and not (data_folder() / "cluster").exists():
        raise OutOfRange(f"Nothing is kept yet at {data_folder()}.")
    with _database() as url:
        write_backup(url, file)
    print_json({"backup": str(file), "bytes": file.stat().st_size})


def _restore(file: Path) -> None:
    """Bring a backup back; says what came."""
    with file.open("rb"):
        # Said before a server is started for it.
        pass
    with _database() as url:
        migrate(url)
        print_json(asdict(restore(url, file)))


def _search(file: str, shelf: str | None) -> None:
    """Print each step of a search as a line of JSON, its end last."""
    design = read_design(_read(file))
    ask = SearchAsk(
        parts=tuple(
            SearchPart(id=part.name, part=part)
            for part in (starting_shelf() if shelf is None else _shelf(Path(shelf)))
        )
    )
    steps: TypeAdapter[Step] = TypeAdapter(Step)
    for step in search(design, ask):
        line = {"step": STEP_NAMES[type(step)]} | steps.dump_python(step, mode="json")
        sys.stdout.write(json.dumps(line, ensure_ascii=False) + "\n")
        sys.stdout.flush()


def _shelf(file: Path) -> list[AnyPart]:
    """Parts of a CSV file, all or none.

    Raises
    ------
    InvalidDocument : a row is wrong; says which and why.
    """
    parts = []
    for row in read_parts(file.read_text(encoding="utf-8")):
        if row.part is None:
            problem = row.problems[0]
            raise InvalidDocument(f"{file}: line {row.line}: {problem.column} {problem.message}")
        parts.append(row.part)
    return parts


if __name__ == "__main__":
    sys.exit(main())

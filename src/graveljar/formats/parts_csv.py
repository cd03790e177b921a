"""Parts of the shelf as CSV: one row a part, one column a figure."""

import csv
import json
import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from importlib.resources import files
from io import StringIO
from typing import Any, Final
from uuid import NAMESPACE_URL, UUID, uuid5

from pydantic import TypeAdapter, ValidationError

from graveljar.core.errors import Problem, UnreadableDocument
from graveljar.core.model.parse import parse, refusal
from graveljar.core.planning.shelf import AnyPart, ShelfPart
from graveljar.formats.cells import plain, written
from graveljar.formats.mains_twins import twin_for_120_v

MAX_ROWS: Final = 1_000
MAX_CHARACTERS: Final = 500_000

_PART: Final[TypeAdapter[AnyPart]] = TypeAdapter(ShelfPart)
_ABOUT: Final = ("kind", "name", "price", "mass_kg", "owned", "notes", "provenance", "known_from")
_TEXT: Final = {
    "chemistry", "waveform", "topology", "cold_charge", "resets", "changeover",
    "charger_kind", "profile", "cold_cut", "compensates", "size", "fuse_kind",
}  # fmt: skip
_FLAGS: Final = {"documented", "pass_through"}
# Lists of things with figures of their own, as JSON in their cell.
_LISTS: Final = {"outlets", "inputs", "curve"}
# Column by column where it is in the figures, and in which kinds of part.
_WINDOW: Final = {
    "accepts_least_v": ("accepts", "least_v"),
    "accepts_most_v": ("accepts", "most_v"),
}
_EFFICIENCY: Final = {
    "part_load_share": ("part_load", "load_share"),
    "part_load_efficiency": ("part_load", "efficiency"),
    "full_load_share": ("full_load", "load_share"),
    "full_load_efficiency": ("full_load", "efficiency"),
}


_NUMBERS: Final = ("price", "mass_kg", "owned")
_WHOLE: Final = ("owned", "cells", "most_series", "most_parallel", "most_cells")


def _own(*names: str) -> dict[str, tuple[str, ...]]:
    return {name: (name,) for name in names}


COLUMNS: Final[dict[str, dict[str, tuple[str, ...]]]] = {
    "battery": _own(
        "chemistry", "volts", "ah", "cells", "bms_a", "bms_peak_a", "low_v",
        "resistance_mohm", "peukert", "most_series", "most_parallel", "cold_charge",
        "discharge_from_c", "resets", "curve",
    ),
    "inverter": _own(
        "nominal_v", "output_v", "output_hz", "waveform", "continuous_w", "surge_w", "surge_s"
    )
    | _WINDOW
    | _own("restarts_v", "idle_w")
    | _EFFICIENCY
    | {"sleep_w": ("sleep", "watts"), "sleep_threshold_w": ("sleep", "threshold_w")},
    "converter": _own("topology", "set_v", "continuous_a", "peak_a")
    | _WINDOW
    | _own("restarts_v", "quiescent_w", "droop_v", "knee_c", "derate_per_c", "documented")
    | _EFFICIENCY,
    "station": _own(
        "label_wh", "measured_wh", "chemistry", "cells", "usable_share", "idle_w",
        "sleeps_below_w", "sleeps_after_h", "pass_through", "charge_efficiency", "taper_from",
        "most_in_w", "changeover", "outlets", "inputs",
    ),
    "charger": {"charger_kind": ("kind",)}
    | _own("profile", "amps", "most_w", "hold_v")
    | _WINDOW
    | _own("efficiency", "idle_w", "cold_cut", "float_v", "compensates", "most_cells"),
    "panel": _own("watts", "voc_v", "vmp_v", "isc_a", "imp_a", "voc_per_c"),
    "cable": _own("size"),
    "fuse": {"fuse_kind": ("kind",)} | _own("amps"),
}  # fmt: skip
# What a row must give: a default in its place would look like a label's figure.
NEEDED: Final = {
    "battery": ("chemistry", "volts", "ah"),
    "inverter": (
        "nominal_v", "continuous_w", "surge_w", "accepts_least_v", "accepts_most_v", "idle_w",
    ),
    "converter": ("topology", "set_v", "continuous_a", "accepts_least_v", "accepts_most_v"),
    "station": ("label_wh", "chemistry", "cells", "most_in_w", "outlets", "inputs"),
    "charger": ("charger_kind", "profile", "amps", "accepts_least_v", "accepts_most_v"),
    "panel": ("watts", "voc_v", "vmp_v", "isc_a", "imp_a"),
    "cable": ("size",),
    "fuse": ("fuse_kind", "amps"),
}  # fmt: skip
ALL_COLUMNS: Final = tuple(
    dict.fromkeys([*_ABOUT, *(c for kind in COLUMNS.values() for c in kind)])
)


@dataclass(frozen=True)
class CellProblem:
    """What is wrong in a row, and in which column; "" for the row as a whole."""

    column: str
    message: str


@dataclass(frozen=True)
class CsvRow:
    """A row as read, by its line in the file; `part` is None where something is wrong."""

    line: int
    name: str
    problems: tuple[CellProblem, ...]
    part: AnyPart | None


def write_parts(parts: Iterable[AnyPart]) -> str:
    """Parts as CSV text with every column."""
    return written([ALL_COLUMNS, *(_row(part) for part in parts)])


def _row(part: AnyPart) -> list[object]:
    document = part.model_dump(mode="json")
    known = "; ".join(f"{name}={source}" for name, source in part.known_from.items())
    about = document | {"known_from": known}
    return [
        about[column]
        if column in _ABOUT
        else _at(document["figures"], COLUMNS[part.kind].get(column, ()))
        for column in ALL_COLUMNS
    ]


def _at(figures: Any, way: tuple[str, ...]) -> object:
    if not way:
        return None
    for step in way:
        figures = None if figures is None else figures[step]
    if isinstance(figures, list):
        return json.dumps(figures, ensure_ascii=False)
    return str(figures).lower() if isinstance(figures, bool) else figures


def read_parts(text: str) -> tuple[CsvRow, ...]:
    """Every row of a CSV text, each with its part or with what is wrong in it.

    Commas, semicolons and tabs part the cells; with semicolons a comma may be a decimal sign.

    Raises
    ------
    UnreadableDocument : too large, no table, or a column that is not known.
    """
    if len(text) > MAX_CHARACTERS:
        raise UnreadableDocument(f"The file has more than {MAX_CHARACTERS} characters.")
    text = text.removeprefix("\ufeff")
    head = text.partition("\n")[0]
    delimiter = max(",;\t", key=head.count)
    reader = csv.reader(StringIO(text, newline=""), delimiter=delimiter, strict=True)
    rows: list[tuple[int, list[str]]] = []
    try:
        begins = 1
        for row in reader:
            rows.append((begins, row))
            begins = reader.line_num + 1
    except csv.Error as error:
        raise UnreadableDocument(f"The file is not CSV: {error}.") from None
    names = [name.strip().lower() for name in rows[0][1]] if rows else []
    if "kind" not in names or "name" not in names:
        raise UnreadableDocument(
            "The first line must name the columns, “kind” and “name” among them."
        )
    unknown = [name for name in names if name and name not in ALL_COLUMNS]
    if unknown:
        raise UnreadableDocument(f"“{unknown[0][:40]}” is not a column known here.")
    filled = [(line, row) for line, row in rows[1:] if any(c.strip() for c in row)]
    if len(filled) > MAX_ROWS:
        raise UnreadableDocument(f"The file has more than {MAX_ROWS} parts.")
    return tuple(_read(line, names, row, delimiter) for line, row in filled)


def _read(line: int, names: list[str], row: list[str], delimiter: str) -> CsvRow:
    cells = {name: plain(cell) for name, cell in zip(names, row, strict=False) if cell.strip()}
    name = cells.get("name", "")
    if len(row) > len(names):
        problem = CellProblem("", f"has {len(row)} cells; the first line names {len(names)}")
        return CsvRow(line, name, (problem,), None)
    kind = cells.get("kind", "")
    if kind not in COLUMNS:
        problem = CellProblem("kind", f"must be one of {', '.join(COLUMNS)}; {kind[:40]!r} is not")
        return CsvRow(line, name, (problem,), None)
    problems = [CellProblem(c, "is missing") for c in ("name", *NEEDED[kind]) if c not in cells]
    strange = [c for c in cells if c not in _ABOUT and c not in COLUMNS[kind]]
    problems += [CellProblem(c, f"is no figure of a kind “{kind}”") for c in strange]
    document, bad = _document(kind, cells, delimiter)
    problems += bad
    if problems:
        return CsvRow(line, name, tuple(problems), None)
    try:
        return CsvRow(line, name, (), _PART.validate_python(document))
    except ValidationError as error:
        found = refusal(error.errors(include_url=False)).problems
        said = tuple(CellProblem(_column(kind, problem), problem.message) for problem in found)
        return CsvRow(line, name, said, None)


def _document(
    kind: str, cells: dict[str, str], delimiter: str
) -> tuple[dict[str, Any], list[CellProblem]]:
    """A row as a part's document, and the cells that could not be read."""
    values = {
        column: _value(column, cell, delimiter)
        for column, cell in cells.items()
        if column in COLUMNS[kind] or column in _NUMBERS
    }
    problems = [
        CellProblem(column, f"{cells[column][:40]!r} is not {_wanted(column)}")
        for column, value in values.items()
        if value is None
    ]
    document: dict[str, Any] = {"kind": kind, "name": cells.get("name", "")}
    document |= {column: values[column] for column in _NUMBERS if column in values}
    document |= {c: cells[c] for c in ("notes", "provenance") if c in cells}
    document["figures"] = _figures(kind, values)
    if "known_from" in cells:
        pairs = [pair.partition("=") for pair in cells["known_from"].split(";") if pair.strip()]
        document["known_from"] = {name.strip(): source.strip() for name, _, source in pairs}
    return document, problems


def _wanted(column: str) -> str:
    if column in _LISTS:
        return "JSON"
    return "yes or no" if column in _FLAGS else "a number"


def _figures(kind: str, values: dict[str, Any]) -> dict[str, Any]:
    # Empty means: has no protection of its own; the default would be that of a labelled one.
    figures: dict[str, Any] = {"bms_a": None} if kind == "battery" else {}
    for column, way in COLUMNS[kind].items():
        if column in values:
            into = figures
            for step in way[:-1]:
                into = into.setdefault(step, {})
            into[way[-1]] = values[column]
    if "full_load" in figures:
        figures["full_load"].setdefault("load_share", 1.0)
    return figures


def _value(column: str, cell: str, delimiter: str) -> Any:
    """A cell's value; None where a number should stand and does not."""
    if column in _TEXT:
        return cell
    if column in _LISTS:
        try:
            return parse(cell.encode())
        except UnreadableDocument:
            return None
    if column in _FLAGS:
        return {"true": True, "false": False, "yes": True, "no": False}.get(cell.lower())
    text = cell.replace(",", ".") if delimiter != "," and cell.count(",") == 1 else cell
    share = re.fullmatch(r"([\d.]+)\s*%", text)
    if share:
        text = share[1]
    if not re.fullmatch(r"-?\d{1,12}(\.\d{1,12})?([eE]-?\d{1,2})?", text):
        return None
    value = float(text) / (100 if share else 1)
    return int(value) if column in _WHOLE and value == int(value) else value


def _column(kind: str, problem: Problem) -> str:
    """The column a place in a part's document is in."""
    way = tuple(step for step in problem.path.split("/")[1:] if step not in (kind, "figures"))
    if way and way[0] in _LISTS:
        return way[0]
    for column, steps in COLUMNS[kind].items():
        if steps[: len(way)] == way and way:
            return column
    return way[0] if way and way[0] in _ABOUT else ""


def starting_id(part: AnyPart) -> UUID:
    """The id of a part that every shelf starts with: the same on every machine."""
    return uuid5(NAMESPACE_URL, f"urn:gravel-jar:part:{part.name}")


def starting_shelf() -> Iterator[AnyPart]:
    """The plain parts every shelf starts with, those with a mains side for 230 V and for 120 V."""
    for name in ("shelf", "stations", "chargers", "wiring"):
        text = (files("graveljar.formats") / f"starting_{name}.csv").read_text(encoding="utf-8")
        for row in read_parts(text):
            if row.part is None:
                raise UnreadableDocument(f"starting_{name}.csv, line {row.line}: {row.problems}")
            yield row.part
            twin = twin_for_120_v(row.part)
            if twin is not None:
                yield twin

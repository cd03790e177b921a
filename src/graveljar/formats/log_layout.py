"""How a logger's CSV file is laid out: separator, decimal sign, columns, units, time and signs."""

import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from itertools import pairwise
from typing import Annotated, Final, Literal

from pydantic import Field

from graveljar.core.model.fields import Part

Role = Literal["time", "volts", "amps", "watts", "charge", "temperature", "skip"]
TimeKind = Literal[
    "date and time", "day first", "month first", "clock", "seconds", "minutes", "hours",
    "milliseconds",
]  # fmt: skip
# Of the beginning of a file, so much is looked at. [characters]
MAX_HEAD: Final = 200_000
MAX_COLUMNS: Final = 40
SEPARATORS: Final = (";", "\t", ",", "|")
SAMPLE: Final = 200

_NUMBER = re.compile(r"[-+]?\d{1,12}([.,]\d{1,12})?([eE][-+]?\d{1,3})?")
_DATE = re.compile(
    r"(\d{1,4})[-/.](\d{1,2})[-/.](\d{1,4})([ T]+\d{1,2}:\d{2}(:\d{2}([.,]\d+)?)?)?.*"
)
_CLOCK = re.compile(r"\d{1,3}:\d{2}(:\d{2}([.,]\d+)?)?")
# Words of the head in four languages, and units in brackets or at its end.
_ROLES: Final[tuple[tuple[Role, str], ...]] = (
    ("time", r"time|date|zeit|datum|heure|hora|fecha|stamp|elapsed|\bt\b|\b(s|sec|ms|min|h)\b"),
    ("temperature", r"temp|°\s?[cf]|\bdeg"),
    ("charge", r"soc|state of charge|charge level|charge share|ladezustand|\bper ?cent|%"),
    ("watts", r"watt|power|leistung|puissance|potencia|\bk?w\b|\bp\b"),
    ("amps", r"amp|current|strom|courant|corriente|\bm?a\b|\bi\b"),
    ("volts", r"volt|spannung|tension|voltaje|\bm?v\b|\bu\b"),
)
_FACTORS: Final[tuple[tuple[Role, str, float], ...]] = (
    ("volts", r"\bmv\b|millivolt", 1e-3),
    ("amps", r"\bma\b|milliamp", 1e-3),
    ("watts", r"\bkw\b|kilowatt", 1e3),
    ("charge", r"^(?!.*\bshare\b).*(%|per ?cent|soc)", 1e-2),
)
_TIME_UNITS: Final[tuple[tuple[TimeKind, str], ...]] = (
    ("milliseconds", r"\bms\b|millisec"),
    ("minutes", r"\bmin"),
    ("hours", r"\bh\b|hour|stunde"),
)
# Seconds since 1970 above this are a date, milliseconds above the next. [s], [ms]
EPOCH_S: Final = 1e9
EPOCH_MS: Final = 1e12


class LogColumn(Part):
    """A column: its head, what it holds, and the factor to V, A, W or a share."""

    name: Annotated[str, Field(max_length=80)]
    role: Role = "skip"
    factor: Annotated[float, Field(gt=0, le=1e6)] = 1.0


class LogLayout(Part):
    """How to read a file. `first_row` is the line of the first figures, from 0.

    `discharge`: whether current out of the battery is a positive or a negative figure.
    """

    separator: Literal[";", "\t", ",", "|"] = ","
    decimal: Literal[".", ","] = "."
    first_row: Annotated[int, Field(ge=0, le=1_000)] = 1
    columns: Annotated[
        tuple[LogColumn, ...], Field(min_length=1, max_length=MAX_COLUMNS, strict=False)
    ]
    time: TimeKind = "seconds"
    discharge: Literal["positive", "negative"] = "positive"


@dataclass(frozen=True)
class LookedAt:
    """What was found in the beginning of a file, to be confirmed: first rows, and doubts."""

    layout: LogLayout
    rows: tuple[tuple[str, ...], ...]
    doubts: tuple[str, ...]


def look_at(head: str) -> LookedAt:
    """Find out how a file is laid out, by its beginning."""
    lines = [x for x in head[:MAX_HEAD].lstrip("\ufeff").splitlines() if x.strip()]
    separator = _separator(lines)
    table = [[cell.strip().strip('"') for cell in line.split(separator)] for line in lines]
    if not head.endswith("\n") and len(table) > 1:
        # The last line may have been cut off.
        table.pop()
    first = _first_row(table)
    names = _names(table, first)
    sample = [row for row in table[first : first + SAMPLE] if len(row) == len(names)]
    decimal = _decimal(sample, separator)
    doubts: list[str] = []
    columns = _columns(names, sample)
    time = _time_kind(columns, sample, decimal, doubts)
    layout = LogLayout(
        separator=separator, decimal=decimal, first_row=first, columns=columns, time=time,
        discharge=_discharge(columns, sample, decimal),
    )  # fmt: skip
    roles = {x.role for x in columns}
    if "time" not in roles:
        doubts.append("No column looks like a time: choose it.")
    if not roles & {"volts", "amps", "watts"}:
        doubts.append("No column looks like volts, amps or watts: choose one.")
    if "amps" in roles:
        doubts.append(f"Amps out of the battery are taken to be {layout.discharge}: check it.")
    return LookedAt(layout, tuple(tuple(row[:MAX_COLUMNS]) for row in sample[:5]), tuple(doubts))


def _separator(lines: Sequence[str]) -> Literal[";", "\t", ",", "|"]:
    """The one that parts most lines into equally many cells, two at least."""

    def score(separator: str) -> tuple[int, int]:
        counts = Counter(line.count(separator) for line in lines[-SAMPLE:])
        count, times = counts.most_common(1)[0] if counts else (0, 0)
        return (times if count else 0, count)

    # A comma may be the decimal sign: it comes last where another parts as well.
    best = max(SEPARATORS, key=lambda x: (*score(x)[:1], x != ",", score(x)[1]))
    return best if score(best)[0] else ","  # type: ignore[return-value]


def _is_figure(cell: str) -> bool:
    return bool(_NUMBER.fullmatch(cell) or _DATE.fullmatch(cell) or _CLOCK.fullmatch(cell))


def _first_row(table: Sequence[Sequence[str]]) -> int:
    width = Counter(len(row) for row in table).most_common(1)[0][0] if table else 0
    for n, row in enumerate(table):
        if len(row) == width and 2 * sum(map(_is_figure, row)) >= len(row):
            return n
    return 0


def _names(table: Sequence[Sequence[str]], first: int) -> list[str]:
    width = len(table[first]) if table else 1
    if first and len(table[first - 1]) == width:
        return [name[:80] or f"Column {n + 1}" for n, name in enumerate(table[first - 1])]
    return [f"Column {n + 1}" for n in range(min(width, MAX_COLUMNS))]


def _decimal(sample: Sequence[Sequence[str]], separator: str) -> Literal[".", ","]:
    cells = [cell for row in sample for cell in row if not _DATE.fullmatch(cell)]
    commas = sum(bool(re.fullmatch(r"[-+]?\d+,\d+", cell)) for cell in cells)
    points = sum(bool(re.fullmatch(r"[-+]?\d+\.\d+", cell)) for cell in cells)
    return "," if separator != "," and commas > points else "."


def _columns(names: Sequence[str], sample: Sequence[Sequence[str]]) -> tuple[LogColumn, ...]:
    found: list[LogColumn] = []
    taken: set[Role] = set()
    dated = [
        n for n in range(len(names))
        if sample and all(_DATE.fullmatch(row[n]) or _CLOCK.fullmatch(row[n]) for row in sample)
    ]  # fmt: skip
    for n, name in enumerate(names[:MAX_COLUMNS]):
        words = re.sub(r"[_()\[\]/,.-]+", " ", name.lower())
        role: Role = next((x for x, pattern in _ROLES if re.search(pattern, words)), "skip")
        if dated:
            role = "time" if n == dated[0] else "skip" if role == "time" else role
        if role in taken:
            role = "skip"
        taken.add(role)
        factor = next(
            (times for of, unit, times in _FACTORS if of == role and re.search(unit, words)), 1.0
        )
        found.append(LogColumn(name=name[:80], role=role, factor=factor))
    if "time" not in taken and found:
        found[0] = found[0].model_copy(update={"role": "time"})
    return tuple(found)


def _time_kind(
    columns: Sequence[LogColumn],
    sample: Sequence[Sequence[str]],
    decimal: str,
    doubts: list[str],
) -> TimeKind:
    place = next((n for n, x in enumerate(columns) if x.role == "time"), None)
    if place is None or not sample:
        return "seconds"
    cells = [row[place] for row in sample]
    dates = [match for cell in cells if (match := _DATE.fullmatch(cell))]
    if len(dates) == len(cells):
        return _date_kind([match.groups()[:3] for match in dates], doubts)
    words = re.sub(r"[_()\[\]/,.-]+", " ", columns[place].name.lower())
    kind: TimeKind = next((kind for kind, unit in _TIME_UNITS if re.search(unit, words)), "seconds")
    last = cells[-1].replace(decimal, ".")
    if _NUMBER.fullmatch(last) and float(last) > EPOCH_MS:
        kind = "milliseconds"
    return "clock" if all(_CLOCK.fullmatch(cell) for cell in cells) else kind


def _date_kind(parts: Sequence[Sequence[str]], doubts: list[str]) -> TimeKind:
    if all(len(first) == 4 for first, _, _ in parts):
        return "date and time"
    if any(int(second) > 12 for _, second, _ in parts):
        return "month first"
    if not any(int(first) > 12 for first, _, _ in parts):
        doubts.append("Dates are read with the day first: choose, if the month stands first.")
    return "day first"


def _discharge(
    columns: Sequence[LogColumn], sample: Sequence[Sequence[str]], decimal: str
) -> Literal["positive", "negative"]:
    """By how volts answer to amps: they fall as more is drawn; else by the sign of most amps."""
    place = {x.role: n for n, x in enumerate(columns)}
    if "amps" not in place:
        return "positive"

    def values(role: Role) -> list[float]:
        cells = [row[place[role]].replace(decimal, ".") for row in sample]
        return [float(x) if _NUMBER.fullmatch(x) else 0.0 for x in cells]

    amps = values("amps")
    if "volts" in place:
        volts = values("volts")
        steps = zip(pairwise(amps), pairwise(volts), strict=True)
        moved = sum((b - a) * (d - c) for (a, b), (c, d) in steps)
        if abs(moved) > 1e-6:
            return "positive" if moved < 0 else "negative"
    return "negative" if sum(x < 0 for x in amps) * 2 > len(amps) else "positive"


_FORMATS: Final[dict[TimeKind, tuple[str, ...]]] = {
    "day first": ("%d/%m/%Y %H:%M:%S", "%d/%m/%Y %H:%M:%S.%f", "%d/%m/%Y %H:%M", "%d/%m/%Y"),
    "month first": ("%m/%d/%Y %H:%M:%S", "%m/%d/%Y %H:%M:%S.%f", "%m/%d/%Y %H:%M", "%m/%d/%Y"),
}


def seconds_of(cell: str, kind: TimeKind, decimal: str) -> float:
    """A time in seconds: since 1970 for dates, else since whatever the logger counts from. [s]

    Raises
    ------
    ValueError : it cannot be read so.

    Examples
    --------
    >>> seconds_of("02:30:00", "clock", "."), seconds_of("2,5", "hours", ",")
    (9000.0, 9000.0)
    >>> seconds_of("02.01.1970 00:00", "day first", ",")
    86400.0
    """
    if kind == "date and time":
        text = cell.replace("/", "-").replace(decimal, ".") if decimal == "," else cell
        found = datetime.fromisoformat(text.replace("/", "-").replace("Z", "+00:00"))
        return (found if found.tzinfo else found.replace(tzinfo=UTC)).timestamp()
    if kind in _FORMATS:
        text = re.sub(r"(?<=\d)[-.](?=\d{1,4}[-./ ]|\d{4}\b)", "/", cell.split(" ", maxsplit=1)[0])
        clock = cell[len(cell.split(" ", maxsplit=1)[0]) :].replace(",", ".")
        for way in _FORMATS[kind]:
            try:
                return datetime.strptime(text + clock, way).replace(tzinfo=UTC).timestamp()
            except ValueError:
                continue
        raise ValueError(cell)
    if kind == "clock":
        hours, minutes, *rest = cell.replace(",", ".").split(":")
        return float(hours) * 3600 + float(minutes) * 60 + (float(rest[0]) if rest else 0.0)
    value = float(cell.replace(decimal, "."))
    return value * {"milliseconds": 1e-3, "minutes": 60.0, "hours": 3600.0}.get(kind, 1.0)

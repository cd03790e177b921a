"""A year of hourly light: CSV with named columns, or the columns of an EPW weather file."""

import csv
from dataclasses import dataclass
from typing import Final

import numpy as np

from graveljar.core.components.sun_hourly import HourlySun, SunFrom, sun_of_plane, sun_of_sky
from graveljar.core.errors import Problem, UnreadableDocument
from graveljar.core.kernel.records import Floats, Ints

# A leap year of hours, and as many again for what is measured every half hour is too much.
MAX_HOURS: Final = 8_784
# More light than this never falls on a plane. Common practice. [W/m2]
MAX_LIGHT: Final = 1_500.0
WHEN: Final = ("month", "day", "hour")
SKY: Final = ("ghi", "dni", "dhi")
# Where these are in a row of an EPW file, whose first eight lines are about the place.
_EPW_LINES: Final = 8
_EPW: Final = {"month": 1, "day": 2, "hour": 3, "ghi": 13, "dni": 14, "dhi": 15}
_RANGES: Final = {"month": (1, 12), "day": (1, 31), "hour": (0, 24)}


@dataclass(frozen=True)
class _Light:
    """Rows of numbers by column, and where they were measured, if the file says so."""

    columns: dict[str, Floats]
    place: SunFrom | None
    hours_end: bool


def read_sun(text: str, latitude: float, tilt: float, azimuth: float) -> HourlySun:
    """Sun hours on a panel from a file.

    Parameters
    ----------
    text : CSV with the columns `month`, `day`, `hour` (0 to 23) and either `plane` or `ghi`, `dni`
        and `dhi`, in W/m2; or an EPW file.
    latitude : Where the panel is, if the file does not say; north positive. [°]
    tilt, azimuth : Of the panel. [°]

    Returns
    -------
    Sun hours by month.

    Raises
    ------
    UnreadableDocument : a column is missing, a cell is wrong, or too many hours; says which line.
    OutOfRange : a month is missing.
    """
    light = _epw(text) if text.startswith("LOCATION,") else _named(text)
    month, day, hour = (light.columns[x].astype(np.int64) for x in WHEN)
    if "plane" in light.columns:
        return sun_of_plane(month, day, light.columns["plane"])
    sky = np.stack([light.columns[x] for x in SKY], axis=1)
    ends: Ints = hour if light.hours_end else hour + 1
    return sun_of_sky(month, day, ends, sky, light.place or SunFrom(latitude), tilt, azimuth)


def _named(text: str) -> _Light:
    rows = list(csv.reader(text.lstrip("\ufeff").splitlines()))
    head = [cell.strip().lower() for cell in rows[0]] if rows else []
    wanted = (*WHEN, "plane") if "plane" in head else (*WHEN, *SKY)
    for name in wanted:
        if name not in head:
            raise _wrong(
                1, f"The column “{name}” is missing. These are needed: {', '.join(wanted)}."
            )
    return _Light(_read(rows[1:], {x: head.index(x) for x in wanted}, 2), None, hours_end=False)


def _epw(text: str) -> _Light:
    rows = list(csv.reader(text.splitlines()))
    try:
        latitude, longitude, zone = (float(rows[0][n]) for n in (6, 7, 8))
    except (IndexError, ValueError):
        raise _wrong(1, "It has no latitude, longitude and time zone.") from None
    columns = _read(rows[_EPW_LINES:], _EPW, _EPW_LINES + 1)
    return _Light(columns, SunFrom(latitude, longitude, zone), hours_end=True)


def _read(rows: list[list[str]], places: dict[str, int], first: int) -> dict[str, Floats]:
    rows = [row for row in rows if row]
    if not 1 <= len(rows) <= MAX_HOURS:
        raise _wrong(first, f"It has {len(rows)} rows; a year has up to {MAX_HOURS} hours.")
    found = {name: np.empty(len(rows)) for name in places}
    for n, row in enumerate(rows):
        for name, place in places.items():
            found[name][n] = _number(row, name, place, first + n)
    return found


def _number(row: list[str], name: str, place: int, line: int) -> float:
    cell = row[place].strip() if place < len(row) else ""
    try:
        value = float(cell)
    except ValueError:
        raise _wrong(line, f"“{name}” is “{cell[:20]}”, which is not a number.") from None
    low, high = _RANGES.get(name, (0.0, MAX_LIGHT))
    if not low <= value <= high:
        raise _wrong(line, f"“{name}” is {cell[:20]}; it must be {low:g} to {high:g}.")
    return value


def _wrong(line: int, message: str) -> UnreadableDocument:
    says = f"Line {line}: {message}"
    return UnreadableDocument(says, (Problem("/text", "bad_line", says),))

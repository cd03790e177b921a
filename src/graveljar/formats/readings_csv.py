"""Readings of the bench book as CSV: one a row, a column for each figure."""

from collections.abc import Iterable
from datetime import datetime
from typing import Final, get_args

from graveljar.core.readings import AnyReading
from graveljar.formats.cells import written

_FIRST: Final = ("kind", "subject")
_LAST: Final = ("air_c", "instrument", "note")
_OWN: Final = tuple(
    dict.fromkeys(
        name
        for kind in get_args(AnyReading)
        for name in kind.model_fields
        if name not in (*_FIRST, *_LAST)
    )
)
COLUMNS: Final = ("taken_at", *_FIRST, *_OWN, *_LAST)


def write_readings(rows: Iterable[tuple[datetime, AnyReading]]) -> str:
    """One row a reading; empty where its kind has no such figure."""
    return written([COLUMNS, *(_row(taken_at, reading) for taken_at, reading in rows)])


def _row(taken_at: datetime, reading: AnyReading) -> list[object]:
    figures = reading.model_dump(mode="json")
    cells = [figures.get(column) for column in COLUMNS[1:]]
    return [taken_at.isoformat(timespec="seconds"), *map(_plain, cells)]


def _plain(cell: object) -> object:
    if isinstance(cell, list):
        return "; ".join(map(str, cell))
    return str(cell).lower() if isinstance(cell, bool) else cell

"""A logger's CSV file, row by row, by a layout that was confirmed."""

import csv
import math
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from typing import Final

from graveljar.formats.log_layout import LogLayout, Role, seconds_of

MAX_LOG_ROWS: Final = 2_000_000
MAX_LOG_BYTES: Final = 150_000_000
# So many rows that cannot be read are told; more at once help nobody.
MAX_ROW_PROBLEMS: Final = 20
# Rows that are given at a time.
PART: Final = 10_000
_FIGURES: Final[tuple[Role, ...]] = ("volts", "amps", "watts", "charge", "temperature")

# Time since the first row [s]; volts, amps out of the battery, watts, share, °C; None if absent.
LogRow = tuple[float, float | None, float | None, float | None, float | None, float | None]


@dataclass(frozen=True)
class RowProblem:
    """What is wrong in a row, by its line in the file."""

    line: int
    column: str
    message: str


class LogFile:
    """Reads the rows of a file. `problems` are the first of those that could not be read.

    `begins_s` is the time of the first row, since 1970 where the file has dates. [s]
    """

    def __init__(self, layout: LogLayout, *, skip_bad: bool = False) -> None:
        self.layout = layout
        self.skip_bad = skip_bad
        self.problems: list[RowProblem] = []
        self.bad = 0
        self.rows = 0
        self.begins_s: float | None = None
        place: dict[Role, int] = {x.role: n for n, x in enumerate(layout.columns)}
        self._time = place.get("time")
        self._read: list[Callable[[list[str]], float | None]] = [
            self._reader(role, place.get(role)) for role in _FIGURES
        ]

    def parts(self, lines: Iterable[str]) -> Iterator[list[LogRow]]:
        """Rows, many at a time; without `skip_bad` it ends at the first part with a bad row."""
        found: list[LogRow] = []
        last_s = -math.inf
        reader = csv.reader(lines, delimiter=self.layout.separator)
        for line, cells in enumerate(reader):
            if line < self.layout.first_row or not any(cells):
                continue
            try:
                row = self._row(cells, last_s)
            except _Unreadable as error:
                self._bad(line + 1, error.column, error.message)
                continue
            last_s = row[0]
            found.append(row)
            self.rows += 1
            if self.rows > MAX_LOG_ROWS:
                self._bad(line + 1, "", f"the file has more than {MAX_LOG_ROWS} rows")
                break
            if len(found) == PART:
                if self.bad and not self.skip_bad:
                    return
                yield found
                found = []
        if found and (self.skip_bad or not self.bad):
            yield found

    def _row(self, cells: list[str], last_s: float) -> LogRow:
        columns = self.layout.columns
        if len(cells) < len(columns):
            raise _Unreadable("", f"has {len(cells)} cells; the head names {len(columns)}")
        if self._time is None:
            raise _Unreadable("", "no column is the time")
        cell, name = cells[self._time].strip(), columns[self._time].name
        try:
            at_s = seconds_of(cell, self.layout.time, self.layout.decimal)
        except ValueError:
            at_s = math.nan
        if not math.isfinite(at_s):
            raise _Unreadable(name, f"“{cell[:30]}” is no time read as {self.layout.time}")
        if self.begins_s is None:
            self.begins_s = at_s
        at_s -= self.begins_s
        if self.layout.time == "clock":
            # Past midnight the clock begins anew.
            while at_s < last_s - 43_200:
                at_s += 86_400
        if at_s < last_s:
            raise _Unreadable(name, "its time is before that of the row above")
        v, a, w, share, c = (read(cells) for read in self._read)
        return at_s, v, a, w, share, c

    def _reader(self, role: Role, place: int | None) -> Callable[[list[str]], float | None]:
        if place is None:
            return lambda _: None
        column = self.layout.columns[place]
        negative = role == "amps" and self.layout.discharge == "negative"
        factor = -column.factor if negative else column.factor
        comma = self.layout.decimal == ","

        def read(cells: list[str]) -> float | None:
            cell = cells[place].strip()
            if not cell or cell.lower() in ("nan", "null", "-", "--"):
                return None
            try:
                value = float(cell.replace(",", ".") if comma else cell) * factor
            except ValueError:
                raise _Unreadable(column.name, f"“{cell[:30]}” is no number") from None
            if not math.isfinite(value) or abs(value) > 1e6:
                raise _Unreadable(column.name, f"“{cell[:30]}” is out of range")
            return value

        return read

    def _bad(self, line: int, column: str, message: str) -> None:
        self.bad += 1
        if len(self.problems) < MAX_ROW_PROBLEMS:
            self.problems.append(RowProblem(line, column, message))


class _Unreadable(Exception):
    def __init__(self, column: str, message: str) -> None:
        self.column, self.message = column, message

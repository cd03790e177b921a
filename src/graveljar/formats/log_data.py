"""A logger's file as the fits read it, without a database."""

from datetime import UTC, datetime
from typing import Final

import numpy as np
from numpy.typing import NDArray

from graveljar.core.errors import UnreadableDocument
from graveljar.core.readings import LogData
from graveljar.formats.log_csv import LogFile, LogRow
from graveljar.formats.log_layout import MAX_HEAD, look_at

# Stretches that a log is fitted by.
STRETCHES: Final = 20_000
# Where a log has no temperature. [°C]
USUAL_C: Final = 20.0
# Below this a time is no date but seconds of a logger's own. [s]
FIRST_DATE_S: Final = 1e8


def read_log_data(text: str, name: str) -> LogData:
    """A log by the layout that it seems to have.

    Raises
    ------
    UnreadableDocument : a row cannot be read, or there is none.
    """
    file = LogFile(look_at(text[:MAX_HEAD]).layout)
    rows: list[LogRow] = [row for part in file.parts(text.splitlines()) for row in part]
    if file.problems:
        first = file.problems[0]
        place = f", {first.column}" if first.column else ""
        raise UnreadableDocument(f"{name}, line {first.line}{place}: {first.message}.")
    if not rows:
        raise UnreadableDocument(f"{name} has no rows with figures.")
    table = np.array(rows, dtype=np.float64)
    size = -(-len(table) // STRETCHES)
    starts = np.arange(0, len(table), size)
    count = np.diff(np.append(starts, len(table))).astype(np.float64)

    def column(n: int) -> NDArray[np.float64] | None:
        values = table[:, n]
        if np.isnan(values).all():
            return None
        known = np.add.reduceat((~np.isnan(values)).astype(np.float64), starts)
        with np.errstate(invalid="ignore", divide="ignore"):
            found: NDArray[np.float64] = np.add.reduceat(np.nan_to_num(values), starts) / known
        return found

    watts, air_c = table[:, 3], column(5)
    begins_s = file.begins_s or 0.0
    dated = begins_s > FIRST_DATE_S
    return LogData(
        name=name,
        taken_on=datetime.fromtimestamp(begins_s, UTC).date().isoformat() if dated else "",
        at_s=np.add.reduceat(table[:, 0], starts) / count,
        count=count,
        volts=column(1),
        amps=column(2),
        watts=column(3),
        most_w=None if np.isnan(watts).all() else np.fmax.reduceat(watts, starts),
        air_c=USUAL_C if air_c is None else float(np.nanmean(air_c)),
    )

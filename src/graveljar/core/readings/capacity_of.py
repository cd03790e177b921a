"""A capacity test out of rows of volts and amps, from the first draw to the last."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Final

from graveljar.core.errors import InvalidDocument, Problem
from graveljar.core.readings.reading import CapacityReading

# Less than this share of the highest amps is no draw. Ours. [1]
DRAWS: Final = 0.05


@dataclass(frozen=True)
class DrawnRow:
    """A row of a test: seconds, volts and amps; Ah and Wh where the instrument counts them."""

    at_s: float
    volts: float
    amps: float
    ah: float | None = None
    wh: float | None = None


def capacity_of(subject: str, rows: Sequence[DrawnRow], air_c: float) -> CapacityReading:
    """What a test comes to: charge, energy, hours, and the volts it ended at.

    An instrument's own count goes before the sum of the rows; hours are charge over mean current
    then, for it may run faster than the rows say.

    Raises
    ------
    InvalidDocument : nothing was drawn.

    Examples
    --------
    >>> rows = [DrawnRow(3600.0 * n, 13.0 - n, 20.0) for n in range(6)]
    >>> found = capacity_of("bank", rows, 20.0)
    >>> found.ah, found.hours, found.end_v  # 20 A for 5 h
    (100.0, 5.0, 8.0)
    """
    highest = max((abs(row.amps) for row in rows), default=0.0)
    drawn = [row for row in rows if row.amps > DRAWS * highest]
    if len(drawn) < 2:
        message = "Nothing was drawn for long enough to be a capacity test."
        raise InvalidDocument(message, (Problem("/rows", "nothing_drawn", message),))
    first, last = drawn[0], drawn[-1]
    # The count just before it began; where the recording began later, at its first row.
    before = next((row for row in reversed(rows) if row.at_s < first.at_s), first)
    after = next((row for row in rows if row.at_s > last.at_s), last)
    ah = wh = 0.0
    for one, then in pairwise(drawn):
        step_h = (then.at_s - one.at_s) / 3600
        ah += (one.amps + then.amps) / 2 * step_h
        wh += (one.amps * one.volts + then.amps * then.volts) / 2 * step_h
    hours = (last.at_s - first.at_s) / 3600
    if after.ah is not None and before.ah is not None:
        mean_a = sum(row.amps for row in drawn) / len(drawn)
        ah = after.ah - before.ah
        wh = (after.wh or 0.0) - (before.wh or 0.0)
        hours = ah / mean_a
    return CapacityReading(
        subject=subject, ah=round(ah, 2), wh=round(wh, 1) or None, hours=round(hours, 4),
        end_v=last.volts, ended_by="a cut-off", air_c=air_c,
    )  # fmt: skip

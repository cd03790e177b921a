"""What a log tells of a part: figures with their spread, and what it cannot tell."""

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from graveljar.core.readings.judged import Adoption
from graveljar.core.readings.reading import LogTaken

Floats = NDArray[np.float64]

# Normal quantile of a 95 % interval.
NINETY_FIVE: Final = 1.96
# A figure whose 95 % interval is wider than this share of it to each side is not told. Ours. [1]
TOLD_WITHIN: Final = 0.3
MIN_ROWS: Final = 20


@dataclass(frozen=True)
class LogData:
    """A log as the fits read it: times, and means of the rows around each. N stretches.

    Amps and watts out of the battery, or into a load. None for figures that the log has not.
    [s], [1], [V], [A], [W], shape (N,)
    """

    name: str
    taken_on: str
    at_s: Floats
    count: Floats
    volts: Floats | None
    amps: Floats | None
    watts: Floats | None
    most_w: Floats | None
    air_c: float

    def taken(self, subject: str) -> LogTaken:
        """What a figure that is read out of it says of its origin."""
        return LogTaken(
            subject=subject, air_c=self.air_c, instrument=f"log {self.name}"[:80],
            taken_on=self.taken_on,
        )  # fmt: skip


@dataclass(frozen=True)
class FittedFigure:
    """A figure that a log tells, with its 95 % interval beside that of the plan.

    Not `told`: the log says nothing of it, and `why` says what would. `adopt` puts it into the
    design.
    """

    name: str
    unit: str
    value: float
    low: float
    high: float
    planned: float | None
    told: bool
    why: str
    adopt: Adoption | None = None


@dataclass(frozen=True)
class Fit:
    """What a log tells: its figures, and remarks on the log itself in sentences."""

    figures: tuple[FittedFigure, ...]
    remarks: tuple[str, ...]
    rows: int
    hours: float


def half_width(sigma: float, share: float, value: float) -> float:
    """Half of a 95 % interval from chance and from the meter's own error.

    Parameters
    ----------
    sigma : Standard deviation by chance, in the unit of the value.
    share : A meter reads within this share of what is there. [1]

    Notes
    -----
    An error even between its bounds has a standard deviation of the bound over √3 (JCGM 100:2008,
    4.3.7; from memory).

    Examples
    --------
    >>> round(half_width(0.0, 0.01, 100.0), 2)
    1.13
    """
    return float(NINETY_FIVE * np.hypot(sigma, share * abs(value) / np.sqrt(3.0)))

"""How long an overloaded fuse lasts, by the fast edge of its kind: the earliest it may open."""

import math
from typing import Final

import numpy as np

from graveljar.core.kernel.compiled import inlined

# No known times, so it counts as opening at once above `HOLDS`; and blade fuses.
UNKNOWN: Final = 0
BLADE: Final = 1
# Every kind carries this share of its rating. ISO 8820-3, quoted from memory. [1]
HOLDS: Final = 1.1
# How long a start lasts; common practice: 50 to 200 ms. [s]
START_S: Final = 0.2
# ISO 8820-3, quoted from memory: share of the rating, and seconds within which it does not open.
BLADE_SHARE: Final = np.array([1.1, 1.35, 2.0, 3.5])
BLADE_FAST_S: Final = np.array([360_000.0, 0.75, 0.15, 0.04])


@inlined
def opens_in_h(share: float) -> float:
    """The shortest time in which a blade fuse opens at a share of its rating.

    Linear between the points of its table on logarithmic scales.

    Parameters
    ----------
    share : Current over the rating, >= 0. [1]

    Returns
    -------
    Time; infinite where it holds. [h]

    Notes
    -----
    Source: ISO 8820-3, from memory.

    Examples
    --------
    >>> round(opens_in_h(2.0) * 3600, 2)
    0.15
    """
    if share <= HOLDS:
        return np.inf
    last = len(BLADE_SHARE) - 1
    k = 0
    while k < last - 1 and BLADE_SHARE[k + 1] < share:
        k += 1
    along = math.log(share / BLADE_SHARE[k]) / math.log(BLADE_SHARE[k + 1] / BLADE_SHARE[k])
    rise = math.log(BLADE_FAST_S[k + 1] / BLADE_FAST_S[k])
    return float(BLADE_FAST_S[k] * math.exp(along * rise) / 3600.0)


def start_share() -> float:
    """Share of its rating that a blade fuse carries for the moment of a start.

    Returns
    -------
    Share, > 1. [1]

    Notes
    -----
    Source: ISO 8820-3, from memory.

    Examples
    --------
    >>> 1.8 < start_share() < 2.0
    True
    """
    along = math.log(START_S / BLADE_FAST_S[1]) / math.log(BLADE_FAST_S[2] / BLADE_FAST_S[1])
    return float(BLADE_SHARE[1] * (BLADE_SHARE[2] / BLADE_SHARE[1]) ** along)


START_SHARE: Final = start_share()

"""Days in a row during which the mains fails at times."""

from typing import Final

import numpy as np
from numpy.typing import NDArray

from graveljar.core.kernel.records import DayProfile, Flags, Floats
from graveljar.core.network.schedule import DAY_H

# Spans closer than this to an edge are cut there. [h]
_HAIR_H: Final = 1e-9


def with_outages(
    day: DayProfile, days: int, rows: list[int], spans: list[tuple[float, float]]
) -> DayProfile:
    """A day repeated, with some rows of rails off during spans of hours.

    Parameters
    ----------
    day : A usual day, 24 h.
    days : How often it is repeated, >= 1.
    rows : Rows of rails that are off then: those of the mains.
    spans : From and to, within the days. [h]

    Returns
    -------
    So many days, beginning at midnight.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> made = with_outages(lowered().day, 2, [0], [(20.0, 30.0)])
    >>> [float(x) for x in made.edges], made.plugged[:, 0].tolist()
    ([0.0, 20.0, 24.0, 30.0, 48.0], [True, False, False, True])
    """
    begins = np.concatenate([day.edges[:-1] + DAY_H * d for d in range(days)])
    edges = np.append(begins, DAY_H * days)
    at = np.tile(np.arange(len(day.edges) - 1), days)
    return switched_off(_stretches(day, edges, at), rows, spans)._replace(start_h=0.0)


def switched_off(days: DayProfile, rows: list[int], spans: list[tuple[float, float]]) -> DayProfile:
    """Days in a row with some rows of rails off during spans of hours.

    Parameters
    ----------
    days : As they are without.
    rows : Rows of rails that are off then: those of the mains.
    spans : From and to, within the days. [h]

    Returns
    -------
    The same days, cut where the spans begin and end.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> switched_off(lowered().day, [0], [(20.0, 22.0)]).plugged[:, 0].tolist()
    [True, False, True]
    """
    cuts = np.array([x for span in spans for x in span if 0.0 < x < days.edges[-1]])
    new = np.array([x for x in cuts if np.abs(days.edges - x).min() > _HAIR_H])
    edges: Floats = np.sort(np.concatenate([days.edges, np.unique(new)]))
    middles = 0.5 * (edges[:-1] + edges[1:])
    # The stretch that each of these lies in.
    at = np.searchsorted(days.edges, middles, side="right") - 1
    plugged: Flags = days.plugged[at].copy()
    for begin, end in spans:
        out = (middles > begin) & (middles < end)
        plugged[np.ix_(out, np.array(rows, dtype=np.int64))] = False
    return _stretches(days, edges, at)._replace(plugged=plugged)


def _stretches(day: DayProfile, edges: Floats, at: NDArray[np.int64]) -> DayProfile:
    """Stretches between edges, each as one of a profile. Shapes (M + 1,), (M,)"""
    return day._replace(
        edges=edges,
        warmth=day.warmth[at],
        cold_ohm=day.cold_ohm[at],
        frozen=day.frozen[at],
        too_cold=day.too_cold[at],
        full_at=day.full_at[at],
        most_a=day.most_a[at],
        demand=day.demand[at],
        plugged=day.plugged[at],
    )

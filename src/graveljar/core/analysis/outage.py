"""An outage of the mains: how long each load runs on, and when all is full again."""

from dataclasses import dataclass
from typing import Final

import numpy as np

from graveljar.core.analysis.simulation import answered
from graveljar.core.kernel.records import Floats
from graveljar.core.kernel.timestep import run as march
from graveljar.core.kernel.trace import POINTS, Trace, new_trace
from graveljar.core.lazy import cached_property
from graveljar.core.lowering.lower import LoweredDesign
from graveljar.core.lowering.outage import with_outages
from graveljar.core.model import Inverter, Mains
from graveljar.core.network.schedule import DAY_H

# The mains is there for a day before it fails, so that all is as full as it gets.
BEFORE_H: Final = DAY_H
# What runs on for so long outlasts any outage that is asked for. [h]
MAX_OUTAGE_H: Final = 168.0
# Two a day begin so far apart. [h]
HALF_DAY_H: Final = 12.0
# So many days with two outages each show whether it bears them. Ours.
TWICE_DAYS: Final = 5
# Charge short of that at which a charger ends, and full all the same. Ours. [1]
FULL_WITHIN: Final = 0.01


@dataclass(frozen=True)
class Outages:
    """A design whose mains fails.

    `lasts_h` : Hours that each load runs on, by the hour of day at which the mains fails; infinite
        if longer than a week. [h], shape (24, L)
    """

    lowered: LoweredDesign
    lasts_h: Floats

    @cached_property
    def counted(self) -> list[int]:
        """The loads that count: those that must run, or all; not what stops with the mains on."""
        loads = self.lowered.loads
        musts = [i for i, load in enumerate(loads) if load.priority == "must"]
        counted = musts or list(range(len(loads)))
        return [i for i in counted if self.lasts_h[:, i].min() >= 0.0] or counted

    @cached_property
    def survives_h(self) -> Floats:
        """Hours until the first counted load stops, by the hour at which it begins. [h], (24,)"""
        shortest: Floats = self.lasts_h[:, self.counted].min(axis=1)
        return shortest

    @property
    def worst_begin(self) -> int:
        """The hour of day at which the counted loads run on for the shortest time."""
        return int(np.argmin(self.survives_h))


@dataclass(frozen=True)
class Recovery:
    """After one outage: hours until each store is full again [h], infinite if not in a week."""

    lowest: Floats
    hours: Floats


def mains_rows(lowered: LoweredDesign) -> list[int]:
    """Rows of the mains sockets that feed something.

    Parameters
    ----------
    lowered : The design as arrays.

    Returns
    -------
    Their rows; none if nothing is fed from the mains.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> mains_rows(lowered())
    []
    """
    stores = lowered.design.stores
    fed = {link.rail for link in lowered.links}
    fed |= {x.transfer for x in lowered.design.stages if isinstance(x, Inverter) if x.transfer}
    return [lowered.place[x.id] for x in stores if isinstance(x, Mains) and x.id in fed]


def outages_of(lowered: LoweredDesign) -> Outages:
    """Let the mains fail at every hour of the day, for a week.

    Parameters
    ----------
    lowered : The design as arrays, with at least one load.

    Returns
    -------
    How long each load runs on.

    Raises
    ------
    NotSolved : no operating point is found, or the run does not end within its bounds.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> outages_of(lowered()).lasts_h.shape  # it has no mains: nothing fails
    (24, 1)
    """
    rows = mains_rows(lowered)
    lasts = np.empty((int(DAY_H), len(lowered.loads)))
    for hour in range(int(DAY_H)):
        begin = BEFORE_H + hour
        loads, _ = _run(lowered, rows, [(begin, begin + MAX_OUTAGE_H)], begin + MAX_OUTAGE_H)
        lasts[hour] = loads - begin
    return Outages(lowered, lasts)


def recovery_of(lowered: LoweredDesign, begin_h: int, hours: float) -> Recovery:
    """One outage, and the week after it.

    Parameters
    ----------
    lowered : The design as arrays.
    begin_h : Hour of day at which it begins, 0 to 23. [h]
    hours : Its length, more than 0 to `MAX_OUTAGE_H`. [h]

    Returns
    -------
    The lowest charge of each store by then, and the hours until it is full again. Shapes (S,)

    Raises
    ------
    NotSolved : as `outages_of`.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> recovery_of(lowered(), 0, 5.0).lowest.shape
    (1,)
    """
    begin, rows = BEFORE_H + begin_h, mains_rows(lowered)
    end = begin + hours
    _, trace = _run(lowered, rows, [(begin, end)], end + MAX_OUTAGE_H)
    points = int(trace.counts[POINTS])
    at_h, charge = trace.hours[:points], trace.charge[:points]
    full = np.minimum(lowered.store_records["full_at"], 1.0) - FULL_WITHIN
    after = np.full(charge.shape[1], np.inf)
    for s in range(charge.shape[1]):
        up = np.flatnonzero((at_h >= end) & (charge[:, s] >= full[s]))
        if len(up):
            k = int(up[0])
            after[s] = _crossing(at_h, charge[:, s], k, float(full[s]), end) - end
    within = (at_h >= begin) & (at_h <= end + 1e-6)
    # A run that has ended before stays as it ended.
    lowest = charge[within].min(axis=0) if within.any() else charge[-1]
    return Recovery(lowest, after)


def _crossing(at_h: Floats, charge: Floats, k: int, level: float, least_h: float) -> float:
    """When a course that is at a level from point k on met it. [h]"""
    if k == 0 or charge[k - 1] >= level or charge[k] == charge[k - 1]:
        return max(float(at_h[k]), least_h)
    share = (level - charge[k - 1]) / (charge[k] - charge[k - 1])
    return max(float(at_h[k - 1] + share * (at_h[k] - at_h[k - 1])), least_h)


def bears_two_a_day(lowered: LoweredDesign, begin_h: int, hours: float) -> Floats:
    """Hours that each load runs with two such outages a day, half a day apart. [h], shape (L,)

    Parameters
    ----------
    lowered : The design as arrays.
    begin_h : Hour of day at which the first begins, 0 to 23. [h]
    hours : The length of each, more than 0 and less than `HALF_DAY_H`. [h]

    Returns
    -------
    Since the first began; infinite if it runs through five days of them.

    Raises
    ------
    NotSolved : as `outages_of`.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> bears_two_a_day(lowered(), 0, 2.0).shape
    (1,)
    """
    first = BEFORE_H + begin_h
    begins = [first + HALF_DAY_H * n for n in range(2 * TWICE_DAYS)]
    spans = [(begin, begin + hours) for begin in begins]
    loads, _ = _run(lowered, mains_rows(lowered), spans, begins[-1] + HALF_DAY_H)
    return loads - first


def _run(
    lowered: LoweredDesign, rows: list[int], spans: list[tuple[float, float]], until_h: float
) -> tuple[Floats, Trace]:
    """When each load is first not served, and the course of the run, from full stores."""
    rails, loads, stores = lowered.fresh_records()
    stores["begin"] = np.minimum(stores["full_at"], 1.0)
    days = int(np.ceil(until_h / DAY_H))
    profile = with_outages(lowered.day, days, rows, spans)
    trace = new_trace(len(rails), len(loads), len(stores))
    march(rails, loads, stores, profile, until_h, trace)
    answered(trace)
    return loads["stop_h"].copy(), trace

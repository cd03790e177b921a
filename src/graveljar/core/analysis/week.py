"""A week hour by hour: what each source brings, where it goes, and how full the stores are."""

from dataclasses import dataclass, replace
from typing import Final

import numpy as np

from graveljar.core.analysis.simulation import answered
from graveljar.core.kernel.batch import as_bytes, run_by_hours
from graveljar.core.kernel.records import LINK, Flags, Floats, Records
from graveljar.core.kernel.trace import new_trace
from graveljar.core.lowering.lower import LoweredDesign
from graveljar.core.stop import heed

DAYS: Final = 7
HOURS: Final = 24 * DAYS
# Charge that two weeks may differ by and still be alike. Ours. [1]
ALIKE: Final = 2e-3
# Share left of what may be taken with which a load cuts out for its volts, not for want of energy.
# Ours. [1]
MUCH_LEFT: Final = 0.5


@dataclass(frozen=True)
class Week:
    """Energy of each hour, and the charge at its end, from Monday midnight on. N hours.

    `brought_wh` : Into the stores through each link. [Wh], shape (N, K)
    `used_wh` : By each load, standby included. [Wh], shape (N, L)
    `lost_wh` : As heat in stores and all behind them. [Wh], shape (N,)
    `passed_wh` : From the mains straight to loads, through the transfer switch of each stage or
        rail. [Wh], shape (N, R)
    `before_wh` : As heat before the stores: in chargers, links and sources. [Wh], shape (N,)
    `released_wh` : Out of the cells of each store; less than 0 into them. [Wh], shape (N, S)
    `charge` : Of each store, first at the start. [1], shape (N + 1, S)
    `missed_h`, `missed_left` : When each load was first not served, infinite if it always was, and
        the share left of what may be taken out of its store. [h], [1], shape (L,)
    """

    lowered: LoweredDesign
    brought_wh: Floats
    passed_wh: Floats
    used_wh: Floats
    lost_wh: Floats
    before_wh: Floats
    released_wh: Floats
    charge: Floats
    missed_h: Floats
    missed_left: Floats

    @property
    def hours(self) -> int:
        """How many hours."""
        return len(self.lost_wh)


def from_monday(lowered: LoweredDesign) -> LoweredDesign:
    """A design whose run begins on Monday at midnight.

    Parameters
    ----------
    lowered : The design as arrays.

    Returns
    -------
    The same with another start.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> from_monday(lowered()).week.start_h
    0.0
    """
    return replace(lowered, week=lowered.week._replace(start_h=0.0))


def simulate_week(lowered: LoweredDesign, hours: int = HOURS) -> Week:
    """Run a design from Monday at midnight, and count each hour.

    Parameters
    ----------
    lowered : The design as arrays.
    hours : How many, >= 1. [h]

    Returns
    -------
    Energy and charge by the hour.

    Raises
    ------
    NotSolved : no operating point is found, or the run does not end within its bounds.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> week = simulate_week(lowered(), 10)  # 5 A of 100 Ah
    >>> round(float(week.charge[-1, 0]), 6), round(float(week.used_wh[0, 0]), 1)
    (0.5, 66.5)
    """
    heed()
    monday = from_monday(lowered)
    rails, loads, stores = lowered.fresh_records()
    trace = new_trace(len(rails), len(loads), len(stores), kept=False)
    begin = stores["begin"].copy()
    rails_h, loads_h, stores_h = (
        np.zeros((hours, len(x)), x.dtype) for x in (rails, loads, stores)
    )
    now = as_bytes(rails), as_bytes(loads), as_bytes(stores)
    kept = as_bytes(rails_h), as_bytes(loads_h), as_bytes(stores_h)
    run_by_hours(rails, loads, stores, monday.week, trace, now, kept)
    answered(trace)
    parts = [_each_hour(x) for x in _counters(lowered, rails_h, loads_h, stores_h)]
    brought, passed, used, lost, before, released = parts
    charge = np.concatenate([begin[None], stores_h["charge"]])
    missed = loads["stop_h"].copy()
    return Week(
        lowered, brought, passed, used, lost, before, released, charge,
        missed, _left_at(lowered, charge, missed),
    )  # fmt: skip


def first_hours(week: Week, hours: int) -> Week:
    """The first hours of a week; what is missed later was not yet.

    Parameters
    ----------
    week : As it was run.
    hours : How many, 1 to those it has. [h]

    Returns
    -------
    The same, shorter.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> first_hours(simulate_week(lowered(), 30), 10).hours
    10
    """
    return replace(
        week,
        brought_wh=week.brought_wh[:hours],
        passed_wh=week.passed_wh[:hours],
        used_wh=week.used_wh[:hours],
        lost_wh=week.lost_wh[:hours],
        before_wh=week.before_wh[:hours],
        released_wh=week.released_wh[:hours],
        charge=week.charge[: hours + 1],
        missed_h=np.where(week.missed_h < hours, week.missed_h, np.inf),
    )


def short_of_energy(week: Week) -> bool:
    """Whether a load is missed for want of energy: with little charge left in its store.

    What cuts out with much charge left does so for its volts: no matter of refill.

    Parameters
    ----------
    week : One or more weeks.

    Returns
    -------
    True if one is.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> short_of_energy(simulate_week(lowered(), 10)), short_of_energy(simulate_week(lowered(), 30))
    (False, True)
    """
    return bool((np.isfinite(week.missed_h) & (week.missed_left <= MUCH_LEFT)).any())


def keeps_up(week: Week, places: list[int]) -> bool:
    """Whether the second of two weeks ends no emptier than the first, and no load is missed.

    Parameters
    ----------
    week : Two weeks.
    places : Of the stores that hold energy.

    Returns
    -------
    True if so: then every week does.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> keeps_up(simulate_week(lowered(), 2 * HOURS), [0])  # nothing charges it
    False
    """
    lost = week.charge[HOURS, places] - week.charge[2 * HOURS, places]
    return bool((lost <= ALIKE).all()) and not short_of_energy(week)


def _left_at(lowered: LoweredDesign, charge: Floats, missed: Floats) -> Floats:
    """What is left above the reserve at the begin of the hour in which a load is first missed. [1]

    As a share of what may be taken in the coldest hour.
    """
    usable = lowered.day.warmth.min(axis=0) * (1.0 - lowered.store_records["floor"])
    found = np.ones(len(missed))
    for i, load in enumerate(lowered.loads):
        if missed[i] < len(charge):
            store = lowered.place[lowered.rails[str(load.rail)].store]
            found[i] = 1.0 - (1.0 - charge[int(missed[i]), store]) / max(usable[store], ALIKE)
    return found


def _each_hour(counted: Floats) -> Floats:
    """What came in each hour, from what had been counted after it. Shapes (H,) or (H, N)"""
    return np.diff(counted, axis=0, prepend=np.zeros_like(counted[:1]))


def _counters(
    lowered: LoweredDesign, rails: Records, loads: Records, stores: Records
) -> tuple[Floats, Floats, Floats, Floats, Floats, Floats]:
    """What had been counted after each hour, from the records as they were then. [Wh]"""
    links = len(lowered.rails)
    brought = (rails["got"] - rails["idle"] - rails["conversion"])[:, links:]
    passed = rails["got"][:, :links]
    used = loads["used"] + loads["waited"]
    heat = rails["idle"] + rails["conversion"] + rails["cable"]
    source = lowered.store_records["endless"] == 1
    # A link, or a rail that a source feeds without a store between.
    store_of = lowered.rail_records["store"]
    first = (lowered.rail_records["kind"] == LINK) | source[store_of]
    on_source = source[store_of[lowered.load_records["rail"]]]
    wasted, inside = loads["cable"] + loads["adapter"], stores["inside"] + stores["rate_wh"]

    def together(here: Flags, there: Flags, within: Flags) -> Floats:
        rest = wasted[:, there].sum(axis=1) + inside[:, within].sum(axis=1)
        total: Floats = heat[:, here].sum(axis=1) + rest
        return total

    lost, before = together(~first, ~on_source, ~source), together(first, on_source, source)
    return brought, passed, used, lost, before, stores["released"]

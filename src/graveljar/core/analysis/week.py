"""A week hour by hour: what each source brings, where it goes, and how full the stores are."""

from dataclasses import dataclass, replace
from typing import Any, Final

import numpy as np

from graveljar.core.analysis.simulation import answered
from graveljar.core.kernel.records import Floats
from graveljar.core.kernel.timestep import go_on
from graveljar.core.kernel.timestep import run as march
from graveljar.core.kernel.trace import new_trace
from graveljar.core.lowering.lower import LoweredDesign

DAYS: Final = 7
HOURS: Final = 24 * DAYS


@dataclass(frozen=True)
class Week:
    """Energy of each hour, and the charge at its end, from Monday midnight on. N hours.

    `brought_wh` : Into the stores through each link. [Wh], shape (N, K)
    `used_wh` : By each load, standby included. [Wh], shape (N, L)
    `lost_wh` : As heat in stages, cables, chargers and stores. [Wh], shape (N,)
    `released_wh` : Out of the cells of each store; less than 0 into them. [Wh], shape (N, S)
    `charge` : Of each store, first at the start. [1], shape (N + 1, S)
    `missed_h`, `missed_at` : When each load was first not served, infinite if it always was, and
        the charge of its store then. [h], [1], shape (L,)
    """

    lowered: LoweredDesign
    brought_wh: Floats
    used_wh: Floats
    lost_wh: Floats
    released_wh: Floats
    charge: Floats
    missed_h: Floats
    missed_at: Floats

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
    (0.5, 66.8)
    """
    monday = from_monday(lowered)
    rails, loads = lowered.rail_records.copy(), lowered.load_records.copy()
    stores = lowered.store_records.copy()
    trace = new_trace(len(rails), len(loads), len(stores), kept=False)
    counted, charge = [], [stores["begin"].copy()]
    counted.append(_counters(lowered, rails, loads, stores, fresh=True))
    for hour in range(hours):
        walk = go_on if hour else march
        walk(rails, loads, stores, monday.week, float(hour + 1), trace)
        answered(trace)
        counted.append(_counters(lowered, rails, loads, stores))
        charge.append(stores["charge"].copy())
    parts = [np.diff(np.array([x[n] for x in counted]), axis=0) for n in range(4)]
    brought, used, lost, released = parts
    missed = loads["stop_h"].copy()
    return Week(
        lowered, brought, used, lost, released, np.array(charge),
        missed, _charge_at(lowered, np.array(charge), missed),
    )  # fmt: skip


def _charge_at(lowered: LoweredDesign, charge: Floats, missed: Floats) -> Floats:
    """Charge of each load's store at the begin of the hour in which it is first missed. [1]"""
    found = np.ones(len(missed))
    for i, load in enumerate(lowered.loads):
        if missed[i] < len(charge):
            store = lowered.place[lowered.rails[str(load.rail)].store]
            found[i] = charge[int(missed[i]), store]
    return found


def _counters(
    lowered: LoweredDesign, rails: Any, loads: Any, stores: Any, *, fresh: bool = False
) -> tuple[Floats, Floats, float, Floats]:
    """What has been counted until now. [Wh]"""
    links = len(lowered.rails)
    brought = rails["got"][links:] - rails["idle"][links:] - rails["conversion"][links:]
    used = loads["used"] + loads["waited"]
    lost = (
        rails["idle"].sum()
        + rails["conversion"].sum()
        + rails["cable"].sum()
        + loads["cable"].sum()
        + loads["adapter"].sum()
        + stores["inside"].sum()
        + stores["rate_wh"].sum()
    )
    if fresh:
        zero = 0.0
        return brought * zero, used * zero, zero, stores["released"] * zero
    return brought, used, float(lost), stores["released"].copy()

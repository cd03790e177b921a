"""A day of use at the store, by where its energy goes: what the loads want, served or not.

The engine's operating point in each stretch of the day, the stores held half full and nothing
cutting out.
"""

import math
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Any

import numpy as np

from graveljar.core.errors import NotSolved
from graveljar.core.kernel.batch import full_demand_day
from graveljar.core.kernel.records import DayProfile, Floats
from graveljar.core.kernel.trace import new_trace
from graveljar.core.lazy import cached_property
from graveljar.core.lowering.lower import LoweredDesign
from graveljar.core.network.schedule import DAY_H


@dataclass(frozen=True)
class LoadDay:
    """One load's day. `used_wh` running, `standby_wh` waiting, `loss_wh` on the way. [Wh]"""

    used_wh: float
    standby_wh: float
    loss_wh: float

    @property
    def at_bank_wh(self) -> float:
        """All the store gives for it, but for the stages' idle draw. [Wh]"""
        return self.used_wh + self.standby_wh + self.loss_wh


@dataclass(frozen=True)
class DailyEnergy:
    """A day's energy by destination, at the terminals of the stores. [Wh]

    `given_w` : Power at the terminals in each stretch. [W], shape (M, S)
    `powered` : Whether each rail is, awake or asleep, in each stretch. Shape (M, R)
    `plain` : The day without the loads that run once; None if there are none.
    """

    lowered: LoweredDesign
    rails: Any
    load_records: Any
    given_w: Floats
    powered: Any
    plain: "DailyEnergy | None" = None

    @cached_property
    def hours(self) -> Floats:
        """Length of each stretch. [h], shape (M,)"""
        return np.diff(self.lowered.day.edges)

    @cached_property
    def wh(self) -> float:
        """All that the stores give in a day. [Wh]"""
        return float((self.given_w.sum(axis=1) * self.hours).sum())

    def store_wh(self, store: int) -> float:
        """All that one store gives in a day. [Wh]"""
        return float((self.given_w[:, store] * self.hours).sum())

    @cached_property
    def given(self) -> dict[str, float]:
        """What each rail gives to all that is connected to it. [Wh]"""
        given: dict[str, float] = dict.fromkeys(self.lowered.rails, 0.0)
        columns = (self.load_records[x].tolist() for x in ("used", "waited", "adapter", "cable"))
        for load, *taken in zip(self.lowered.loads, *columns, strict=True):
            given[str(load.rail)] += sum(taken)
        for rail in reversed(tuple(self.lowered.rails.values())):
            if rail.parent is not None:
                given[rail.parent] += given[rail.id] + self._lost(rail.id) + self.idle_wh(rail.id)
        return given

    @cached_property
    def cost(self) -> dict[str, float]:
        """What the store gives for one Wh taken from each rail, idle draw left out. [1]"""
        cost: dict[str, float] = {}
        for rail in self.lowered.rails.values():
            given = self.given[rail.id]
            lost = self._lost(rail.id) if rail.parent is not None else 0.0
            before = cost[rail.parent] if rail.parent is not None else 1.0
            cost[rail.id] = before * (1.0 + lost / given if given else 1.0)
        return cost

    @cached_property
    def loads(self) -> dict[str, LoadDay]:
        """The day of each load that can run."""
        days = {}
        columns = (self.load_records[x].tolist() for x in ("used", "waited", "adapter", "cable"))
        for load, used, waited, adapter, cable in zip(self.lowered.loads, *columns, strict=True):
            taken = used + waited + adapter + cable
            loss = taken * self.cost[str(load.rail)] - used - waited
            days[load.id] = LoadDay(used, waited, loss)
        return days

    @cached_property
    def idle(self) -> dict[str, float]:
        """What the store gives for each stage's idle draw. [Wh]

        With nothing behind it, what its own joint loses is for that too.
        """
        found = {}
        for rail in self.lowered.rails.values():
            if rail.parent is None:
                continue
            own_wh = self.idle_wh(rail.id)
            if not self.given[rail.id]:
                own_wh += self._lost(rail.id)
            found[rail.id] = own_wh * self.cost[rail.parent]
        return found

    def idle_wh(self, stage: str) -> float:
        """Idle draw of a stage at its own input. [Wh]"""
        return float(self.rails[self.lowered.place[stage]]["idle"])

    def _lost(self, stage: str) -> float:
        record = self.rails[self.lowered.place[stage]]
        return float(record["conversion"] + record["cable"])

    @property
    def lost_wh(self) -> float:
        """Lost in stages, adapters and cables, idle draw apart. [Wh]"""
        used = sum(x.used_wh + x.standby_wh for x in self.loads.values())
        return self.wh - used - float(self.rails["idle"].sum())

    @property
    def overhead_wh(self) -> float:
        """All that no load uses: lost in stages, adapters and cables, and idle draw. [Wh]"""
        return self.wh - sum(x.used_wh + x.standby_wh for x in self.loads.values())

    @cached_property
    def on_h(self) -> dict[str, float]:
        """Hours a day each stage is powered, awake or asleep. [h]"""
        return {
            rail: float(self.hours[self.powered[:, r]].sum())
            for r, rail in enumerate(self.lowered.rails)
        }

    @property
    def once_wh(self) -> float:
        """What the loads take that run once, at the stores. [Wh]"""
        return self.wh - self.plain.wh if self.plain is not None else 0.0

    def until(self, hours: float) -> float:
        """Energy the stores give in the first hours from the start of the run. [Wh]

        What runs once does so in the first day of each week.
        """
        if self.plain is None:
            return self._until(hours)
        total = self.plain.until(hours)
        for week in range(math.ceil(hours / (7 * DAY_H))):
            first_h = min(hours - week * 7 * DAY_H, DAY_H)
            total += self._until(first_h) - self.plain.until(first_h)
        return total

    def _until(self, hours: float) -> float:
        """The same with every day alike. [Wh]"""
        start = self.lowered.day.start_h
        whole, rest = divmod(hours, DAY_H)
        total = whole * self.wh
        watts = self.given_w.sum(axis=1)
        for power, (low, high) in zip(watts, pairwise(self.lowered.day.edges), strict=True):
            for shift in (0.0, DAY_H):
                inside = min(high + shift, start + rest) - max(low + shift, start)
                total += float(power) * max(inside, 0.0)
        return total


def simulate_day(lowered: LoweredDesign) -> DailyEnergy:
    """A day's energy by destination, with every load served.

    Parameters
    ----------
    lowered : The design as arrays.

    Returns
    -------
    The energy of each load, stage and store. [Wh]

    Raises
    ------
    NotSolved : no operating point is found.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> round(simulate_day(lowered()).wh, 1)  # 24 h x 5 A x 13.0886 V, half full
    1570.6
    """
    whole = _of_day(lowered, lowered.day)
    once = [i for i, load in enumerate(lowered.loads) if load.once]
    if not once:
        return whole
    demand = lowered.day.demand.copy()
    demand[:, once] = 0.0
    return replace(whole, plain=_of_day(lowered, lowered.day._replace(demand=demand)))


def _of_day(lowered: LoweredDesign, profile: DayProfile) -> DailyEnergy:
    rails, loads, stores = lowered.fresh_records()
    half = (1.0 + stores["floor"]) / 2
    # A transfer switch passes nothing on: a day's use is what the battery has to bear.
    rails["other"] = -1
    nothing = new_trace(len(rails), len(loads), len(stores), kept=False)
    # What feeds a store is left out: a day's use is what its loads ask for.
    plugged = np.ones_like(profile.plugged)
    plugged[:, len(lowered.rails) :] = False
    day = profile._replace(plugged=plugged)
    given_w, powered, solved = full_demand_day(rails, loads, stores, day, half, nothing)
    if not solved:
        raise NotSolved("No stable voltages were found for a day of use of this network.")
    return DailyEnergy(lowered, rails, loads, given_w, powered)

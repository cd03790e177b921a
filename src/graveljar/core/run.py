"""The hours of a design: what stops when and why, what is left, and where the energy went."""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Any, Final, Literal

import numpy as np

from graveljar.core.engine import ledger
from graveljar.core.engine.ledger import EVENTS, OUT_OF_STEPS, POINTS, Trace, room
from graveljar.core.engine.lower import Lowered
from graveljar.core.engine.march import run as march
from graveljar.core.engine.net import Floats
from graveljar.core.errors import OutOfRange
from graveljar.core.tree import way_to_store

Cause = Literal[
    "keep-back",
    "empty",
    "cut-out",
    "protection",
    "collapse",
    "asleep",
    "charging",
    "horizon",
    "nothing drains it",
    "nothing can run",
]
What = Literal[
    "cuts out",
    "meets its floor",
    "protection opens",
    "collapses",
    "comes back",
    "switches its outlets on",
    "switches itself off",
    "is full",
]

_WHAT: Final[dict[int, What]] = {
    ledger.LOAD_OUT: "cuts out",
    ledger.STAGE_OUT: "cuts out",
    ledger.FLOOR: "meets its floor",
    ledger.PROTECTION: "protection opens",
    ledger.LOAD_COLLAPSED: "collapses",
    ledger.STAGE_COLLAPSED: "collapses",
    ledger.LOAD_BACK: "comes back",
    ledger.STAGE_BACK: "comes back",
    ledger.STORE_BACK: "switches its outlets on",
    ledger.SLEPT: "switches itself off",
    ledger.FULL: "is full",
}
_OF_LOADS: Final = (ledger.LOAD_OUT, ledger.LOAD_COLLAPSED, ledger.LOAD_BACK)
# Events closer than this belong together. [h]
TOGETHER_H: Final = 1e-6


@dataclass(frozen=True)
class Event:
    """Something that happened to a load, a stage or a store. [h], [V], [1]"""

    hours: float
    what: What
    subject: str
    volts: float
    charge: float


@dataclass(frozen=True)
class Stop:
    """When something first is not served, and why. `subject` is what gave up. [h]"""

    hours: float
    load: str
    cause: Cause
    subject: str


@dataclass(frozen=True)
class Run:
    """A design's hours from its start on. Records are those of the engine, after the run.

    `ends_h` is when the last store stopped, or the horizon. [h]
    """

    lowered: Lowered
    rails: Any
    loads: Any
    stores: Any
    trace: Trace
    horizon_h: float
    ends_h: float

    @cached_property
    def events(self) -> tuple[Event, ...]:
        """What happened, in its order; as much as was kept."""
        return tuple(self._events())

    def _events(self) -> Iterator[Event]:
        rails = self.lowered.names
        kept = min(int(self.trace.counts[EVENTS]), len(self.trace.events))
        for hours, code, index, volts, charge in self.trace.events[:kept]:
            names = [load.id for load in self.lowered.loads] if code in _OF_LOADS else rails
            yield Event(
                float(hours), _WHAT[int(code)], names[int(index)], float(volts), float(charge)
            )

    @property
    def events_beyond(self) -> int:
        """Events that happened beyond those that are kept."""
        return max(int(self.trace.counts[EVENTS]) - len(self.trace.events), 0)

    @cached_property
    def stops(self) -> dict[str, Stop]:
        """The first stop of each load that has one."""
        return {
            load.id: self._stop(load.id, float(self.loads[i]["stop_h"]))
            for i, load in enumerate(self.lowered.loads)
            if np.isfinite(self.loads[i]["stop_h"])
        }

    def _stop(self, load_id: str, hours: float) -> Stop:
        load = next(load for load in self.lowered.loads if load.id == load_id)
        way = [rail.id for rail in way_to_store(self.lowered.rails, str(load.rail))]
        then = [
            e for e in self.events if abs(e.hours - hours) <= TOGETHER_H and e.what != "comes back"
        ]
        for event in then:
            if event.what == "switches itself off" and event.subject == way[-1]:
                return Stop(hours, load_id, "asleep", event.subject)
            if event.what in ("meets its floor", "protection opens") and event.subject == way[-1]:
                store = next(s for s in self.lowered.banks if s.id == way[-1])
                floor: Cause = "keep-back" if store.keep_back else "empty"
                cause = floor if event.what == "meets its floor" else "protection"
                return Stop(hours, load_id, cause, event.subject)
        # What gave up earlier and has not come back counts too: it was not asked before.
        for event in reversed([e for e in self.events if e.hours <= hours + TOGETHER_H]):
            if event.subject in (load_id, *way) and event.what in ("cuts out", "collapses"):
                cause = "cut-out" if event.what == "cuts out" else "collapse"
                return Stop(hours, load_id, cause, event.subject)
        for event in reversed([e for e in self.events if e.hours <= hours + TOGETHER_H]):
            if event.subject == way[-1] and event.what == "meets its floor":
                return Stop(hours, load_id, "empty", way[-1])
        if self._closed(way[-1]):
            return Stop(hours, load_id, "charging", way[-1])
        return Stop(hours, load_id, "asleep", str(load.rail))

    def _closed(self, store: str) -> bool:
        """Whether a store's outlets are off while it is fed."""
        s = self.lowered.place[store]
        return bool(self.stores[s]["linked"] and self.stores[s]["no_pass"])

    @cached_property
    def first_stop(self) -> Stop | None:
        """The first stop of all."""
        return min(self.stops.values(), key=lambda stop: stop.hours, default=None)

    @cached_property
    def decisive(self) -> Stop | None:
        """The stop that ends it: the first of a must-load; of any load if none is a must."""
        musts = {load.id for load in self.lowered.loads if load.priority == "must"}
        counted = [s for s in self.stops.values() if s.load in musts or not musts]
        return min(counted, key=lambda stop: stop.hours, default=None)

    @property
    def released_wh(self) -> float:
        """All that the cells gave. [Wh]"""
        return float(self.stores["released"].sum())

    @cached_property
    def hours(self) -> float | None:
        """Until the decisive stop; None if there is none up to the horizon. [h]"""
        if not self.lowered.loads:
            # Nothing but idle draw: until the store is done.
            stops = self.stores["stop_h"]
            if self.lowered.design.loads:
                return 0.0
            return float(stops.min()) if np.isfinite(stops).any() else None
        return None if self.decisive is None else self.decisive.hours

    @property
    def cause(self) -> Cause:
        """What ends it."""
        if not self.lowered.loads and self.lowered.design.loads:
            return "nothing can run"
        if self.decisive is not None:
            return self.decisive.cause
        if not self.released_wh:
            return "nothing drains it"
        if self.hours is None:
            return "horizon"
        bank = self.lowered.banks[0]
        return "keep-back" if bank.keep_back else "empty"

    @cached_property
    def released_until_wh(self) -> float:
        """What the cells gave until the decisive stop. [Wh]"""
        hours, charge, _, amps, _ = self.points()
        end = self.hours
        if end is None or end >= self.ends_h - TOGETHER_H:
            return self.released_wh
        total = 0.0
        for s in range(len(self.stores)):
            x, v = self.lowered.day.curve[s, :, 0], self.lowered.day.curve[s, :, 1]
            open_v = np.interp(charge[:, s], x, v)
            until = hours <= end + TOGETHER_H
            total += float(np.trapezoid((open_v * amps[:, s])[until], hours[until]))
        return total

    def left_wh(self, store: int, *, down_to: float = 0.0) -> float:
        """Energy left in a store above a charge, by its open-circuit volts. [Wh]"""
        charge = float(self.stores[store]["charge"])
        return energy_between(self.lowered, store, down_to, charge)

    def points(self) -> tuple[Floats, Floats, Floats, Floats, Floats]:
        """Hours, charge, volts, amps and what loads draw over time, as in `ledger.Trace`."""
        n = int(self.trace.counts[POINTS])
        t = self.trace
        return t.hours[:n], t.charge[:n], t.volts[:n], t.amps[:n], t.drawn[:n]


def energy_between(lowered: Lowered, store: int, low: float, high: float) -> float:
    """Energy of a store between two charges, at open circuit and the start's temperature. [Wh]"""
    if high <= low:
        return 0.0
    x, v = lowered.day.curve[store, :, 0], lowered.day.curve[store, :, 1]
    inside = x[(x > low) & (x < high)]
    at = np.array([low, *inside, high])
    ah = float(lowered.store_records[store]["ah"] * lowered.day.warmth[0, store])
    return float(np.trapezoid(np.interp(at, x, v), at) * ah)


def horizon_of(lowered: Lowered) -> float:
    """How far to run: the horizon, or the goal if that is later. [h]"""
    return max(lowered.design.setting.horizon_h, lowered.design.goal.hours)


def simulate(lowered: Lowered, *, kept: bool = True) -> Run:
    """Run a design from its start until all has stopped, or to the horizon.

    Raises
    ------
    OutOfRange : it takes more steps than are allowed.
    """
    rails, loads = lowered.rail_records.copy(), lowered.load_records.copy()
    stores = lowered.store_records.copy()
    trace = room(len(rails), len(loads), len(stores), kept=kept)
    horizon_h = horizon_of(lowered)
    ends_h = march(rails, loads, stores, lowered.day, horizon_h, trace)
    if trace.counts[OUT_OF_STEPS]:
        raise OutOfRange("The run takes too many steps. Make the horizon shorter.")
    return Run(lowered, rails, loads, stores, trace, horizon_h, float(ends_h))

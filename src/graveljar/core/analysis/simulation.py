"""The hours of a design: what stops when and why, what is left, and where the energy went."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any, Final, Literal

import numpy as np

from graveljar.core.analysis.repetition import march_by_weeks
from graveljar.core.errors import NotSolved
from graveljar.core.kernel import trace
from graveljar.core.kernel.records import LOAD_PART, RAIL_PART, Floats
from graveljar.core.kernel.timestep import run as march
from graveljar.core.kernel.trace import (
    CONVERGED,
    EVENTS,
    EVERY,
    GOES_ON,
    PAUSES,
    POINTS,
    STATUS,
    Trace,
    new_trace,
)
from graveljar.core.lazy import cached_property
from graveljar.core.lowering.lower import LoweredDesign
from graveljar.core.stop import heed

Cause = Literal[
    "reserve",
    "empty",
    "cut-out",
    "protection",
    "overload",
    "fuse",
    "start",
    "cold",
    "collapse",
    "asleep",
    "charging",
    "engine off",
    "cannot run",
    "horizon",
    "nothing drains it",
    "nothing can run",
]
What = Literal[
    "cuts out",
    "meets its floor",
    "protection opens",
    "protection opens for its current",
    "is overloaded",
    "fuse opens",
    "main fuse opens",
    "fails to start",
    "is too cold",
    "collapses",
    "restarts",
    "switches its outlets on",
    "switches itself off",
    "is full",
]

_WHAT: Final[dict[int, What]] = {
    trace.LOAD_OUT: "cuts out",
    trace.STAGE_OUT: "cuts out",
    trace.FLOOR: "meets its floor",
    trace.PROTECTION: "protection opens",
    trace.STORE_OVERLOADED: "protection opens for its current",
    trace.OVERLOADED: "is overloaded",
    trace.FUSE_OPENED: "fuse opens",
    trace.LOAD_FUSE_OPENED: "fuse opens",
    trace.STORE_FUSE_OPENED: "main fuse opens",
    trace.START_FAILED: "fails to start",
    trace.TOO_COLD: "is too cold",
    trace.LOAD_COLLAPSED: "collapses",
    trace.STAGE_COLLAPSED: "collapses",
    trace.LOAD_BACK: "restarts",
    trace.STAGE_BACK: "restarts",
    trace.STORE_BACK: "switches its outlets on",
    trace.SLEPT: "switches itself off",
    trace.FULL: "is full",
}
_OF_LOADS: Final = (
    trace.LOAD_OUT,
    trace.LOAD_COLLAPSED,
    trace.LOAD_BACK,
    trace.LOAD_FUSE_OPENED,
    trace.START_FAILED,
)
_CAUSES: Final[dict[int, Cause]] = {
    trace.LOAD_OUT: "cut-out",
    trace.STAGE_OUT: "cut-out",
    trace.FLOOR: "empty",
    trace.PROTECTION: "protection",
    trace.STORE_OVERLOADED: "overload",
    trace.OVERLOADED: "overload",
    trace.FUSE_OPENED: "fuse",
    trace.LOAD_FUSE_OPENED: "fuse",
    trace.STORE_FUSE_OPENED: "fuse",
    trace.START_FAILED: "start",
    trace.TOO_COLD: "cold",
    trace.LOAD_COLLAPSED: "collapse",
    trace.STAGE_COLLAPSED: "collapse",
    trace.SLEPT: "asleep",
    trace.ASLEEP_THEN: "asleep",
    trace.CHARGING_THEN: "charging",
    trace.UNPLUGGED_THEN: "engine off",
}
_NO_ANSWER: Final = {
    trace.NOT_CONVERGED: "No stable voltages were found for this network",
    trace.NO_PROGRESS: "The simulation makes no progress",
    trace.OUT_OF_STEPS: "The simulation takes too many steps. Simulate fewer hours",
}
# Hours, charge, volts, amps and what loads draw over time, as in `trace.Trace`.
Points = tuple[Floats, Floats, Floats, Floats, Floats]
# Events closer than this belong together. [h]
TOGETHER_H: Final = 1e-6


@dataclass(frozen=True)
class Event:
    """Something that happened to a load, a stage or a store. [h], [V], [1]

    `by` is the load through whose start it happened.
    """

    hours: float
    what: What
    subject: str
    volts: float
    charge: float
    by: str | None


@dataclass(frozen=True)
class Stop:
    """When a load is first not served, and why. [h], [V], [1], [Wh]

    `subject` is what gave up, at `volts` and with `charge` in its store; `by` the load through
    whose start; `released_wh` what the cells had given until then.
    """

    hours: float
    load: str
    cause: Cause
    subject: str
    volts: float = 0.0
    charge: float = 1.0
    by: str | None = None
    released_wh: float = 0.0


@dataclass(frozen=True)
class Run:
    """A design's hours from its start on. Records are those of the engine, after the run.

    `ends_h` is when the last store stopped, or the horizon. [h]
    """

    lowered: LoweredDesign
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
        rails, loads = self.lowered.names, [load.id for load in self.lowered.loads]
        kept = min(int(self.trace.counts[EVENTS]), len(self.trace.events))
        for hours, code, index, volts, charge, by in self.trace.events[:kept].tolist():
            names = loads if code in _OF_LOADS else rails
            starts = loads[int(by)] if by >= 0 else None
            yield Event(hours, _WHAT[int(code)], names[int(index)], volts, charge, starts)

    @property
    def events_beyond(self) -> int:
        """Events that happened beyond those that are kept."""
        return max(int(self.trace.counts[EVENTS]) - len(self.trace.events), 0)

    @property
    def every(self) -> int:
        """Every so many-th point of the run is kept."""
        return int(self.trace.counts[EVERY])

    @cached_property
    def stops(self) -> dict[str, Stop]:
        """The first stop of each load that has one; at once for those that can never run."""
        able = {load.id for load in self.lowered.loads}
        never = {
            load.id: Stop(0.0, load.id, "cannot run", load.id)
            for load in self.lowered.design.loads
            if load.id not in able
        }
        stopped = np.flatnonzero(np.isfinite(self.loads["stop_h"])).tolist()
        return never | {x.load: x for x in (self._stop(i) for i in stopped)}

    def _stop(self, i: int) -> Stop:
        loads, records = self.lowered.loads, self.loads
        index, part, by, why = (records[f"stop_{x}"][i] for x in ("index", "part", "by", "why"))
        subject = loads[index].id if part == LOAD_PART else self.lowered.names[index]
        cause = _CAUSES[int(why)]
        if by >= 0:
            cause = "start"
        if cause == "empty" and part != RAIL_PART and self.lowered.banks[index].reserve:
            cause = "reserve"
        return Stop(
            float(records["stop_h"][i]),
            loads[i].id,
            cause,
            subject,
            float(records["stop_v"][i]),
            float(records["stop_x"][i]),
            loads[by].id if by >= 0 else None,
            float(records["stop_wh"][i]),
        )

    @cached_property
    def first_stop(self) -> Stop | None:
        """The first stop of all."""
        return min(self.stops.values(), key=lambda stop: stop.hours, default=None)

    @cached_property
    def decisive(self) -> Stop | None:
        """The stop that ends it: the first of a must-load; of any load if none is a must."""
        counted = [stop for stop in self.stops.values() if stop.load in self.counted]
        return min(counted, key=lambda stop: stop.hours, default=None)

    @cached_property
    def counted(self) -> frozenset[str]:
        """The loads the hours count: those that must run; without any, those that can."""
        musts = {load.id for load in self.lowered.design.loads if load.priority == "must"}
        return frozenset(musts or {load.id for load in self.lowered.loads})

    def meets(self, goal_h: float) -> bool:
        """Whether every load that is counted is served until the goal. [h]"""
        if not self.lowered.loads and self.lowered.design.loads:
            return False
        return self.hours is None or self.hours >= goal_h

    @property
    def released_wh(self) -> float:
        """All that the cells gave. [Wh]"""
        return float(self.stores["released"].sum())

    @cached_property
    def first_empty(self) -> int | None:
        """The store that stopped first, by its place; None if none did."""
        stops = self.stores["stop_h"]
        return int(np.argmin(stops)) if np.isfinite(stops).any() else None

    @cached_property
    def hours(self) -> float | None:
        """Until the decisive stop; None if there is none up to the horizon. [h]"""
        if not self.lowered.loads and self.lowered.design.loads:
            return 0.0
        if not self.lowered.design.loads:
            # Nothing but idle draw: until the first store is done.
            first = self.first_empty
            return None if first is None else float(self.stores["stop_h"][first])
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
        if self.hours is None or self.first_empty is None:
            return "horizon"
        why = _CAUSES[int(self.stores["why"][self.first_empty])]
        if why == "empty" and self.lowered.banks[self.first_empty].reserve:
            return "reserve"
        return why

    @cached_property
    def released_until_wh(self) -> float:
        """What the cells gave until the decisive stop. [Wh]"""
        if self.decisive is None or self.hours is None:
            return self.released_wh
        return self.decisive.released_wh

    def last_out(self, subject: str) -> Event | None:
        """How a load, stage or link cut out and has not restarted; None if it has."""
        record = self.record_of(subject)
        if record is None or record["latch"] == trace.IN:
            return None
        what = _WHAT.get(int(record["why"]))
        if what not in ("cuts out", "collapses"):
            return None
        volts, charge = float(record["why_v"]), float(record["why_x"])
        return Event(float(record["out_h"]), what, subject, volts, charge, None)

    def outs(self, subject: str) -> int:
        """How often a load, stage or link cut out."""
        record = self.record_of(subject)
        return 0 if record is None else int(record["outs"])

    def record_of(self, subject: str) -> Any:
        """What the engine counted of a load, stage or link; None if it is not there."""
        for i, load in enumerate(self.lowered.loads):
            if load.id == subject:
                return self.loads[i]
        place = self.lowered.place.get(subject)
        return None if place is None else self.rails[place]

    def left_wh(self, store: int, *, down_to: float = 0.0) -> float:
        """Energy left in a store above a charge, by its open-circuit volts. [Wh]"""
        charge = float(self.stores[store]["charge"])
        return energy_between(self.lowered, store, down_to, charge)

    def points(self) -> Points:
        """Hours, charge, volts, amps and what loads draw over time, as in `trace.Trace`."""
        n = int(self.trace.counts[POINTS])
        t = self.trace
        return t.hours[:n], t.charge[:n], t.volts[:n], t.amps[:n], t.drawn[:n]


def energy_between(lowered: LoweredDesign, store: int, low: float, high: float) -> float:
    """Energy of a store between two charges, at open circuit.

    Parameters
    ----------
    lowered : The design as arrays.
    store : Index of the store, 0 to S - 1.
    low, high : Charges, 0 to 1, low first. [1]

    Returns
    -------
    Energy, >= 0. [Wh]

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> half = energy_between(lowered(), 0, 0.5, 1.0)
    >>> bool(654.68 < half < 669.62)  # 50 Ah at 13.0936 to 13.3924 V
    True
    """
    if high <= low:
        return 0.0
    x, v = lowered.day.curve[store, :, 0], lowered.day.curve[store, :, 1]
    inside = x[(x > low) & (x < high)]
    at = np.array([low, *inside, high])
    ah = float(lowered.store_records[store]["ah"])
    return float(np.trapezoid(np.interp(at, x, v), at) * ah)


def every_point(lowered: LoweredDesign, until_h: float) -> Iterator[Points]:
    """Every point of a run up to a time, in parts: the run pauses where its trace is full.

    Parameters
    ----------
    lowered : The design as arrays.
    until_h : Time since the start, > 0. [h]

    Returns
    -------
    Points in the order of time.

    Raises
    ------
    NotSolved : as `simulate`.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> hours = next(every_point(lowered(), 30.0))[0]
    >>> round(float(hours[-1]), 6)
    20.0
    """
    rails, loads, stores = lowered.fresh_records()
    trace = new_trace(len(rails), len(loads), len(stores))
    trace.counts[PAUSES] = 1
    while True:
        march(rails, loads, stores, lowered.week, until_h, trace)
        answered(trace)
        n = int(trace.counts[POINTS])
        yield (
            trace.hours[:n], trace.charge[:n], trace.volts[:n], trace.amps[:n], trace.drawn[:n]
        )  # fmt: skip
        if not trace.counts[GOES_ON]:
            return
        trace.counts[POINTS] = 0


def horizon_of(lowered: LoweredDesign) -> float:
    """How long to simulate: the horizon, or the goal if that is later.

    Parameters
    ----------
    lowered : The design as arrays.

    Returns
    -------
    Time, > 0. [h]

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> horizon_of(lowered())
    720.0
    """
    return max(lowered.design.setting.horizon_h, lowered.design.goal.hours)


def simulate(lowered: LoweredDesign, *, kept: bool = True) -> Run:
    """Run a design from its start until all has stopped, or to the horizon.

    Parameters
    ----------
    lowered : The design as arrays.
    kept : Whether points and events are kept.

    Returns
    -------
    The run: stops, events, energy by destination.

    Raises
    ------
    NotSolved : no operating point is found, or the run does not end within its bounds.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> round(simulate(lowered()).hours, 6)  # 100 Ah at 5 A
    20.0
    """
    heed()
    rails, loads, stores = lowered.fresh_records()
    trace = new_trace(len(rails), len(loads), len(stores), kept=kept)
    horizon_h = horizon_of(lowered)
    ends_h = march_by_weeks(rails, loads, stores, lowered.week, horizon_h, trace)
    answered(trace)
    return Run(lowered, rails, loads, stores, trace, horizon_h, ends_h)


def answered(trace: Trace) -> None:
    """Refuse a run that found no answer.

    Parameters
    ----------
    trace : Of the run.

    Raises
    ------
    NotSolved : its status says so.

    Examples
    --------
    >>> answered(new_trace(1, 1, 1))
    """
    status = int(trace.counts[STATUS])
    if status != CONVERGED:
        raise NotSolved(f"{_NO_ANSWER[status]}, {float(trace.clock[0]):.3g} h after its start.")

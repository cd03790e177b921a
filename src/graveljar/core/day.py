"""A day of use at the bank: the loads laid over one another from midnight.

No hour of the day is known for a load, so all start together and overlap as far as they
can; loads kept apart follow one another. This gives the day's energy exactly, and the
currents as unkindly as the design allows.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise
from typing import Final, Literal

from graveljar.core.demand import System
from graveljar.core.document import Load
from graveljar.core.inverter import asleep
from graveljar.core.load import running_h, running_w, standby_h

DAY_H: Final = 24.0


@dataclass(frozen=True)
class Segment:
    """A stretch of the day with steady power. `drawn_w` is at the bank. [h], [W]"""

    hours: float
    ac_w: float
    dc_w: float
    inverter: Literal["on", "asleep", "off"]
    drawn_w: float


@dataclass(frozen=True)
class LoadDay:
    """One load's day. `used_wh` running, `standby_wh` waiting, `loss_wh` on the way. [Wh]"""

    used_wh: float
    standby_wh: float
    loss_wh: float

    @property
    def at_bank_wh(self) -> float:
        """All the bank gives for it, but for the inverter's idle draw. [Wh]"""
        return self.used_wh + self.standby_wh + self.loss_wh


@dataclass(frozen=True)
class Day:
    """A day's energy by destination; the parts add up to `wh`. [Wh]"""

    segments: tuple[Segment, ...]
    loads: dict[str, LoadDay]
    idle_wh: float
    conversion_wh: float
    adapter_wh: float
    on_h: float
    wh: float


@dataclass(frozen=True)
class _Stretch:
    """A load's time: from, to [h]; whether it runs or stands by."""

    start: float
    end: float
    load: Load
    runs: bool


def lay_out(system: System, *, with_ac: bool = True) -> Day:
    """A day with or without the AC side."""
    ac_loads = system.ac_loads if with_ac else ()
    stretches = tuple(_stretches((*ac_loads, *system.dc_loads)))
    ac_ids = {load.id for load in ac_loads}
    # 12 places, a tenth of a microsecond: sums of hours that should meet do meet.
    edges = sorted({0.0, DAY_H, *(round(edge, 12) for s in stretches for edge in (s.start, s.end))})
    tally = _Tally(system, with_ac=with_ac, ac_ids=ac_ids)
    for start, end in pairwise(edges):
        middle = (start + end) / 2
        tally.add(end - start, [s for s in stretches if s.start < middle < s.end])
    return tally.day()


def _stretches(loads: tuple[Load, ...]) -> Iterator[_Stretch]:
    taken = 0.0
    for load in loads:
        start = 0.0
        if load.kept_apart and taken + running_h(load) <= DAY_H + 1e-9:
            start, taken = taken, taken + running_h(load)
        end = min(start + running_h(load), DAY_H)
        yield _Stretch(start, end, load, runs=True)
        waiting = standby_h(load)
        before = min(waiting, start)
        if before:
            yield _Stretch(0.0, before, load, runs=False)
        if waiting > before:
            yield _Stretch(end, min(end + waiting - before, DAY_H), load, runs=False)


def kept_apart_hours(system: System) -> float:
    """Hours a day that the loads kept apart need in all. [h]"""
    loads = (*system.ac_loads, *system.dc_loads)
    return sum(running_h(load) for load in loads if load.kept_apart)


class _Tally:
    """Adds up a day, segment by segment."""

    def __init__(self, system: System, *, with_ac: bool, ac_ids: set[str]) -> None:
        self.system = system
        self.inverter = system.design.inverter if with_ac and system.loss else None
        self.ac_ids = ac_ids
        self.used: dict[str, float] = {}
        self.standby: dict[str, float] = {}
        self.adapter: dict[str, float] = {}
        self.segments: list[Segment] = []
        self.idle_wh = self.conversion_wh = self.on_h = 0.0

    def add(self, hours: float, now: list[_Stretch]) -> None:
        """Count a stretch of `hours` in which the same loads run or stand by."""
        ac_now = [s for s in now if s.load.id in self.ac_ids]
        dc_now = [s for s in now if s.load.id not in self.ac_ids]
        ac_w = sum(self._drawn_w(s) for s in ac_now)
        dc_w = sum(self._drawn_w(s) for s in dc_now)
        state = self._state(ac_w, any(s.runs for s in ac_now))
        drawn_w = dc_w
        if state == "on" and self.system.loss is not None:
            loss = self.system.loss
            drawn_w += loss.dc_w(ac_w)
            self.idle_wh += loss.p0 * hours
            self.conversion_wh += (loss.dc_w(ac_w) - loss.p0 - ac_w) * hours
            self.on_h += hours
        elif state == "asleep" and self.inverter is not None and self.inverter.sleep is not None:
            drawn_w += self.inverter.sleep.watts
            self.idle_wh += self.inverter.sleep.watts * hours
        served = dc_now + (ac_now if state == "on" else [])
        for stretch in served:
            self._serve(stretch, hours)
        self.segments.append(Segment(hours, ac_w if state == "on" else 0.0, dc_w, state, drawn_w))

    def _state(self, ac_w: float, runs: bool) -> Literal["on", "asleep", "off"]:
        if self.inverter is None:
            return "off"
        if self.inverter.switched == "on with its loads" and not runs:
            return "off"
        return "asleep" if asleep(self.inverter, ac_w) else "on"

    def _drawn_w(self, stretch: _Stretch) -> float:
        if stretch.runs:
            return self.system.ac_w(stretch.load)
        return stretch.load.standby_w * stretch.load.count

    def _serve(self, stretch: _Stretch, hours: float) -> None:
        load = stretch.load
        into = self.used if stretch.runs else self.standby
        drawn_w = self._drawn_w(stretch)
        used_w = running_w(load) if stretch.runs else drawn_w
        into[load.id] = into.get(load.id, 0.0) + used_w * hours
        self.adapter[load.id] = self.adapter.get(load.id, 0.0) + (drawn_w - used_w) * hours

    def day(self) -> Day:
        """Give the tally; the inverter's conversion loss is shared out by AC energy."""
        ids = [load.id for load in (*self.system.ac_loads, *self.system.dc_loads)]
        parts = {
            i: (self.used.get(i, 0.0), self.standby.get(i, 0.0), self.adapter.get(i, 0.0))
            for i in ids
        }
        ac_wh = sum(sum(parts[i]) for i in ids if i in self.ac_ids)
        share = self.conversion_wh / ac_wh if ac_wh else 0.0
        loads = {
            i: LoadDay(u, s, a + (share * (u + s + a) if i in self.ac_ids else 0.0))
            for i, (u, s, a) in parts.items()
        }
        return Day(
            segments=tuple(self.segments),
            loads=loads,
            idle_wh=self.idle_wh,
            conversion_wh=self.conversion_wh,
            adapter_wh=sum(self.adapter.values()),
            on_h=self.on_h,
            wh=sum(segment.drawn_w * segment.hours for segment in self.segments),
        )

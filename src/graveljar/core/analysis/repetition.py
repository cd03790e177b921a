"""A run whose weeks repeat: a week like the one before is counted again, not stepped through."""

from dataclasses import dataclass
from functools import lru_cache
from typing import Final

import numpy as np

from graveljar.core.kernel.records import BANK, LOAD, RAIL, DayProfile, Flags, Floats, Ints, Records
from graveljar.core.kernel.timestep import INSTANT
from graveljar.core.kernel.timestep import run as march
from graveljar.core.kernel.trace import (
    CONVERGED,
    EVENTS,
    EVERY,
    GOES_ON,
    HOURS,
    MIDNIGHT,
    POINTS,
    SERIAL,
    STATUS,
    Trace,
)

WEEK_H: Final = 168.0
# Charges, volts and amps that differ by less are the same; so do weeks that differ by less. Ours.
SAME_TOLERANCE: Final = 1e-6
# What happened longer ago changes nothing any more: what waits does so for minutes. Ours. [h]
FORGOTTEN_H: Final = 24.0


# What is counted, and times. All other fields tell how a part stands.
_COUNTED: Final = (
    "outs cable idle conversion got",
    "outs starts fails used waited adapter cable served_h scheduled_h",
    "released inside rate_wh seen_h",
)
_TIMES: Final = ("from_h back_h out_h", "from_h back_h out_h", "from_h low_since")


@dataclass(frozen=True)
class _Places:
    """Where the records of a network, one behind the other, hold what; whole numbers and real."""

    counted: tuple[Ints, Ints]
    stands: tuple[Ints, Ints]
    times: Ints


@lru_cache(maxsize=64)
def _places(rails: int, loads: int, stores: int) -> _Places:
    whole, counted, times = [], [], []
    rows = zip((RAIL, LOAD, BANK), _COUNTED, _TIMES, (rails, loads, stores), strict=True)
    for record, of_counted, of_times, n in rows:
        names = record.names or ()
        whole += n * [record[name] == np.int64 for name in names]
        counted += n * [name in of_counted.split() for name in names]
        times += n * [name in of_times.split() for name in names]
    is_whole, is_counted, is_time = np.array(whole), np.array(counted), np.array(times)
    stands = ~(is_counted | is_time)
    return _Places(
        (np.flatnonzero(is_counted & is_whole), np.flatnonzero(is_counted & ~is_whole)),
        (np.flatnonzero(stands & is_whole), np.flatnonzero(stands & ~is_whole)),
        np.flatnonzero(is_time),
    )


@dataclass(frozen=True)
class _Standing:
    """A run at the end of a week: its records, and how many points and events there are.

    `whole` : All fields, one behind the other, as whole numbers; `real` : the same as real ones.
    """

    hours: float
    whole: Ints
    points: int
    events: int

    @property
    def real(self) -> Floats:
        """The same numbers, those among them that are real."""
        return self.whole.view(np.float64)


def _standing(hours: float, records: tuple[Records, ...], trace: Trace) -> _Standing:
    whole = np.frombuffer(bytearray(b"".join(x.tobytes() for x in records)), np.int64)
    return _Standing(hours, whole, int(trace.counts[POINTS]), int(trace.counts[EVENTS]))


def march_by_weeks(
    rails: Records, loads: Records, stores: Records, day: DayProfile, horizon_h: float, trace: Trace
) -> float:
    """Run a design as `kernel.timestep.run` does; weeks that repeat the one before are counted.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)
    day : The day or week that repeats.
    horizon_h : How long to run at most, > 0. [h]
    trace : Where points and events are kept.

    Returns
    -------
    When it ended. [h]

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> round(march_by_weeks(*arrays()[:4], 1000.0, arrays()[4]), 6)  # 100 Ah at 5 A
    20.0
    """
    records, places = (rails, loads, stores), _places(len(rails), len(loads), len(stores))
    before = None
    end_h = WEEK_H - day.start_h
    while end_h + WEEK_H <= horizon_h:
        hours = march(*records, day, end_h, trace)
        if hours < end_h - INSTANT or trace.counts[STATUS] != CONVERGED:
            return float(hours)
        trace.counts[GOES_ON] = 1
        now = _standing(end_h, records, trace)
        if before is not None and _same(places, before, now) and trace.counts[EVERY] == 1:
            weeks = int((horizon_h - end_h) // WEEK_H)
            _count(places, before, now, weeks)
            _write(now, records)
            _repeat_points(trace, before.points, now.points, weeks)
            _repeat_events(trace, before.events, now.events, weeks)
            trace.clock[HOURS] += weeks * WEEK_H
            trace.clock[MIDNIGHT] += weeks * WEEK_H
            break
        before = now
        end_h += WEEK_H
    return float(march(*records, day, horizon_h, trace))


def _same(places: _Places, before: _Standing, now: _Standing) -> bool:
    """Whether a week ends as it began, so that the next is like it."""
    whole, real = places.stands
    if not np.array_equal(before.whole[whole], now.whole[whole]):
        return False
    at, later = before.real[real], now.real[real]
    with np.errstate(invalid="ignore"):
        near = np.abs(later - at) <= SAME_TOLERANCE * np.maximum(np.abs(at), 1.0)
    if not ((at == later) | near).all():
        return False
    at, later = before.real[places.times], now.real[places.times]
    stays = (at == later) & ((at < before.hours - FORGOTTEN_H) | (at == np.inf))
    return bool((stays | _moves(at, later)).all())


def _moves(at: Floats, later: Floats) -> Flags:
    """Which times are those of the next week."""
    with np.errstate(invalid="ignore"):
        moves: Flags = np.abs(later - at - WEEK_H) <= SAME_TOLERANCE
    return moves


def _count(places: _Places, before: _Standing, now: _Standing, weeks: int) -> None:
    """Count the week between two standings so many times more."""
    whole, real = places.counted
    now.whole[whole] += weeks * (now.whole[whole] - before.whole[whole])
    now.real[real] += weeks * (now.real[real] - before.real[real])
    moves = _moves(before.real[places.times], now.real[places.times])
    now.real[places.times[moves]] += weeks * WEEK_H


def _write(standing: _Standing, records: tuple[Records, ...]) -> None:
    begin = 0
    for x in records:
        fields = x.view(np.int64)
        fields[:] = standing.whole[begin : begin + len(fields)]
        begin += len(fields)


def _repeat_points(trace: Trace, first: int, last: int, weeks: int) -> None:
    """Keep the points of a week once more for each; only every so many-th, if they are too many."""
    all_of_them = last + weeks * (last - first)
    every = 1
    while all_of_them > every * len(trace.hours):
        every *= 2
    later = WEEK_H * np.repeat(np.arange(1, weeks + 1), last - first)
    for kept in (trace.hours, trace.charge, trace.volts, trace.amps, trace.drawn):
        again = np.concatenate([kept[first:last]] * weeks)
        if kept is trace.hours:
            again += later
        points = np.concatenate([kept[:last], again])[::every]
        kept[: len(points)] = points
    trace.counts[POINTS] = -(-all_of_them // every)
    trace.counts[EVERY], trace.counts[SERIAL] = every, all_of_them


def _repeat_events(trace: Trace, first: int, last: int, weeks: int) -> None:
    """Keep the events of a week once more for each, as many as there is room for."""
    for week in range(weeks):
        begin = last + week * (last - first)
        room = max(min(last - first, len(trace.events) - begin), 0)
        again = trace.events[first : first + room].copy()
        again[:, 0] += (week + 1) * WEEK_H
        trace.events[begin : begin + room] = again
    trace.counts[EVENTS] += weeks * (last - first)

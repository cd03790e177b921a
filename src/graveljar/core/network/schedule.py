"""When loads run: a day cut into stretches of steady demand.

A load with times of day runs at them. One that only says how long is laid from the hour at
which the run begins, over all others; those kept apart follow one another, and stay clear of the
hours of those that are kept apart and have times of day.
"""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from itertools import accumulate
from typing import Final

import numpy as np
from numpy.typing import NDArray

from graveljar.core.model import Anytime, AtTime, Design, Load

DAY_H: Final = 24.0
Span = tuple[float, float]
Hours = NDArray[np.float64]
Mask = NDArray[np.bool_]


@dataclass(frozen=True)
class Timetable:
    """Hours of a day, from midnight, in which a load runs and in which it stands by. [h]

    `cycles` are the parts of `runs` in which it takes its watts, if its duty is not averaged.
    """

    runs: tuple[Span, ...]
    waits: tuple[Span, ...]
    cycles: tuple[Span, ...] | None

    def edges(self) -> Iterator[float]:
        """Times at which something changes."""
        for spans in (self.runs, self.waits, self.cycles or ()):
            for begin, end in spans:
                yield begin
                yield end


def timetables(design: Design) -> dict[str, Timetable]:
    """The timetable of every load; one that says no time is laid from the run's begin on."""
    laid = kept_apart_begins(design)
    start_h = design.setting.starts_at_h
    return {x.id: timetable_at(x, start_h + laid.get(x.id, 0.0)) for x in design.loads}


def kept_apart_begins(design: Design) -> dict[str, float]:
    """When each load that is kept apart and says no time begins, after the run does. [h]

    Without those that find no room in a day.
    """
    start_h = design.setting.starts_at_h
    taken: list[Span] = []
    waiting = []
    for load in design.loads:
        if not load.kept_apart:
            continue
        if isinstance(load.when, Anytime):
            waiting.append((load, load.when.hours))
        else:
            taken += [
                span
                for a, b in timetable_at(load, 0.0).runs
                for span in wrapped([(a - start_h, b - start_h)])
            ]
    begins = {}
    for load, hours in waiting:
        begin = _first_gap(taken, hours)
        if begin is not None:
            begins[load.id] = begin
            taken.append((begin, begin + hours))
    return begins


def _first_gap(taken: list[Span], hours: float) -> float | None:
    """The first hour of a day from which so many are free in one piece; None if nowhere. [h]"""
    at = 0.0
    for begin, end in sorted(taken):
        if begin - at >= hours - 1e-9:
            return at
        at = max(at, end)
    return at if DAY_H - at >= hours - 1e-9 else None


def timetable_at(load: Load, begin: float) -> Timetable:
    """The timetable of one load, laid from a time of day if it says none itself. [h]"""
    match load.when:
        case Anytime(hours=hours):
            spans = [(begin, begin + hours)]
        case AtTime(at_h=at_h, hours=hours):
            spans = [(at_h, at_h + hours)]
        case between:
            spans = [(span.from_h, span.from_h + span.hours) for span in between.windows]
    runs = tuple(sorted(wrapped(spans)))
    cycles = None
    if load.cycle_min is not None and load.duty < 1:
        cycles = tuple(sorted(wrapped(_cycles(spans, load.cycle_min / 60, load.duty))))
    idle_h = max(load.plugged_in_h - load.hours_per_day, 0.0)
    waits = tuple(_waits(runs, spans[-1][1], idle_h)) if load.standby_w else ()
    return Timetable(runs, waits, cycles)


def wrapped(spans: Iterable[Span]) -> Iterator[Span]:
    """Spans that reach past midnight, cut there and brought back to the same day."""
    for begin, end in spans:
        if end - begin >= DAY_H:
            yield 0.0, DAY_H
            continue
        first, last = begin % DAY_H, begin % DAY_H + (end - begin)
        if last <= DAY_H:
            yield first, last
        else:
            yield first, DAY_H
            yield 0.0, last - DAY_H


def _cycles(spans: Iterable[Span], cycle_h: float, duty: float) -> Iterator[Span]:
    for begin, end in spans:
        at = begin
        while at < end - 1e-9:
            yield at, min(at + cycle_h * duty, end)
            at += cycle_h


def _waits(runs: tuple[Span, ...], begin: float, hours: float) -> Iterator[Span]:
    """Time plugged in and not running, from the end of a run on."""
    at, left = begin % DAY_H, hours
    for _ in range(2 * len(runs) + 2):
        if left <= 1e-9:
            return
        inside = next((end for first, end in runs if first <= at < end), None)
        if inside is not None:
            at = inside % DAY_H
            continue
        end = min([first for first, _ in runs if first > at], default=DAY_H)
        end = min(end, at + left)
        yield at, end
        left -= end - at
        at = end % DAY_H


def middles(edges: Hours) -> Hours:
    """The middle of each stretch between edges. Shapes (M + 1), (M) [h]"""
    return (edges[:-1] + edges[1:]) / 2


def within(spans: Iterable[Span], hours: Hours) -> Mask:
    """Whether each time of day lies in one of some spans. Shape as `hours`. [h]"""
    found = np.zeros(len(hours), dtype=bool)
    for begin, end in spans:
        found |= (begin < hours) & (hours < end)
    return found


def all_within(spans: Sequence[Sequence[Span]], hours: Hours) -> Mask:
    """The same of several, each with its own spans. Shapes (L), (M), found (M, L) [h]"""
    found = np.zeros((len(hours), len(spans)), dtype=bool)
    some = [i for i, own in enumerate(spans) if own]
    if some:
        begins, ends = np.array([span for own in spans for span in own]).T
        inside = (begins < hours[:, None]) & (hours[:, None] < ends)
        firsts = [0, *accumulate(len(spans[i]) for i in some[:-1])]
        found[:, some] = np.logical_or.reduceat(inside, firsts, axis=1)
    return found

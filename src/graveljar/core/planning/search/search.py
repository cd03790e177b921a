"""The search: every wiring and choice of parts through the engine, the best kept."""

from collections.abc import Iterator
from typing import Final

import numpy as np

from graveljar.core.context import Context
from graveljar.core.kernel.records import Floats
from graveljar.core.kernel.search_rows import MORE, fewest_strings
from graveljar.core.kernel.trace import new_trace
from graveljar.core.lowering.lower import LoweredDesign
from graveljar.core.model import Design
from graveljar.core.planning.search.ask import USUAL_STRINGS, SearchAsk
from graveljar.core.planning.search.combos import Combo, combos_of, least_strings, rows_of
from graveljar.core.planning.search.found import Best, Found, NearMiss, Progress, Searched
from graveljar.core.planning.search.front import ParetoFront
from graveljar.core.planning.search.refilled import refilled_by
from graveljar.core.planning.search.systems import Rejected, System, systems_of
from graveljar.core.planning.search.text import decided, found_of, why_none
from graveljar.core.rules import judge
from graveljar.core.rules.danger import is_danger
from graveljar.core.rules.finding import Finding, identity
from graveljar.core.tables.assumptions import resolve

# Choices of parts that go through the kernel at a time.
CHUNK: Final = 256
DAY_H: Final = 24.0
# Rules that more strings may mend: then the same parts may do with more of them.
BY_STRINGS: Final = ("bank.", "run.", "start.", "window.", "network.", "charger.")

Step = Progress | Found | Searched
# What a step is called in a line of an answer, whatever its class is called here.
STEP_NAMES: Final[dict[type[Step], str]] = {
    Progress: "progress",
    Found: "found",
    Searched: "searched",
}


def search(design: Design, ask: SearchAsk, part: tuple[int, int] = (0, 1)) -> Iterator[Step]:
    """Search whole systems for the loads, the goal and the setting of a design.

    Gives progress and what is found as it goes on, and the end of it last. The same design and
    parts give the same answer.

    Parameters
    ----------
    part : Which of how many parts of the search to do, for several processes. [1]
    """
    job = _Job(design, ask)
    mine = list(systems_of(design, ask, job.left, part)) if design.loads else []
    for place, system in enumerate(mine):
        yield from job.try_one(system)
        yield Progress(place + 1, len(mine), job.candidates)
    yield job.end()


class _Job:
    """A search under way. Memory holds the best and one chunk, however many are tried."""

    def __init__(self, design: Design, ask: SearchAsk) -> None:
        self.design, self.ask = design, ask
        self.assumed = resolve(design.assumptions)
        self.left = Rejected({}, {})
        self.front = ParetoFront()
        self.candidates = 0
        self.runs = 0
        self.misses: dict[str, tuple[Found, Finding]] = {}
        self.dead: dict[tuple[int, ...], str] = {}
        self.kept = _kept(design) if ask.refill else frozenset()

    def try_one(self, system: System) -> Iterator[Found]:
        """All parts of one wiring; gives what enters the best."""
        context = Context(system.design)
        combos = combos_of(system, context, self.left, self._most(system))
        if not combos:
            return
        lowered = context.analysis.lowered
        if len(lowered.loads) < len(system.design.loads):
            return
        self.dead = {}
        for start in range(0, len(combos), CHUNK):
            yield from self._chunk(system, lowered, combos[start : start + CHUNK])

    def _chunk(
        self, system: System, lowered: LoweredDesign, combos: list[Combo]
    ) -> Iterator[Found]:
        goal, setting = self.design.goal, self.design.setting
        musts = np.array([load.priority == "must" for load in lowered.loads])
        counted = musts if musts.any() else np.ones(len(lowered.loads), dtype=np.bool_)
        # A day at least: what a day takes must be there.
        until_h = max(goal.hours, DAY_H)
        least = least_strings(lowered, counted, until_h, self.design)
        fewest, hours, runs = fewest_strings(
            rows_of(system, lowered, combos),
            lowered.load_records.copy(),
            lowered.store_records.copy(),
            lowered.week,
            new_trace(
                len(lowered.rail_records),
                len(lowered.loads),
                len(lowered.banks),
                kept=False,
                stops_only=True,
            ),
            np.array([max(combo.strings, least) for combo in combos]),
            self._most(system),
            counted,
            until_h,
            max(setting.horizon_h, goal.hours),
            1.0 - goal.ageing_margin,
            1.0 + goal.guess_margin,
        )
        self.runs += int(runs)
        for n, combo in enumerate(combos):
            self.candidates += int(fewest[n] or self._most(system))
            if not fewest[n]:
                self.left.note("run.must_stops_early", system.battery.part.name)
                continue
            yield from self._tried(system, combo, int(fewest[n]), hours[n])

    def _tried(self, system: System, combo: Combo, fewest: int, hours: Floats) -> Iterator[Found]:
        """What enters the best of the fewest strings that last, and of some more."""
        why = "run.must_stops_early" if fewest > combo.strings else combo.why
        held = False
        for more in range(MORE + 1):
            if np.isnan(hours[more]):
                break
            self.candidates += more > 0
            new = found_of(system, combo, fewest + more, float(hours[more]))
            if not self.front.wants(new):
                held = True
            elif self._holds(combo, new):
                held = True
                told = decided(new, more, why)
                self.front.add(told)
                yield told
        # A start may need stiffer batteries than the hours do.
        for strings in () if held or self._key(combo) in self.dead else (2 * fewest, 4 * fewest):
            if not fewest + MORE < strings <= self._most(system):
                continue
            served = Context(found_of(system, combo, strings, np.inf).design).analysis.run.hours
            new = found_of(system, combo, strings, np.inf if served is None else served)
            if self.front.wants(new) and self._holds(combo, new):
                told = decided(new, 0, "start.trips_low")
                self.front.add(told)
                yield told
                return

    def _most(self, system: System) -> int:
        """Batteries in parallel: what is asked for and the maker allows; four where none says."""
        allowed, asked = system.bank.battery.most_parallel, self.ask.most_strings
        return min(allowed or 32, asked or 32) if allowed or asked else USUAL_STRINGS

    def _key(self, combo: Combo) -> tuple[int, ...]:
        return tuple(id(option) for option in combo.options)

    def _holds(self, combo: Combo, new: Found) -> bool:
        """Whether no rule is broken; a near miss is kept for its rule."""
        key = self._key(combo)
        if key in self.dead:
            self.left.note(self.dead[key], new.title)
            return False
        broken = [
            f
            for f in judge(Context(new.design))
            if is_danger(f) or (f.severity == "fix" and identity(f) not in self.kept)
        ]
        if not broken:
            return True
        rules = {finding.code for finding in broken}
        if not any(code.startswith(BY_STRINGS) for code in rules):
            self.dead[key] = broken[0].code
        self.left.note(broken[0].code, new.title)
        known = self.misses.get(broken[0].code)
        if len(rules) == 1 and (known is None or new.weighed < known[0].weighed):
            self.misses[broken[0].code] = (new, broken[0])
        return False

    def end(self) -> Searched:
        """The best, and what the others broke."""
        best = tuple(sorted(self.front.best, key=lambda one: (one.weighed, one.key)))
        return Searched(
            best,
            picks_of(best),
            tuple(self._broken()),
            self.candidates,
            self.runs,
            "" if best else why_none(self.design, self.ask, self.left),
        )

    def _broken(self) -> Iterator[NearMiss]:
        counts = sorted(self.left.counts.items(), key=lambda x: (-x[1], x[0]))
        for rule, count in counts:
            near = self.misses.get(rule)
            if near is not None:
                found, finding = near
                yield NearMiss(rule, finding.title, found.title, found.price, count)
            else:
                yield NearMiss(rule, "", self.left.examples[rule], None, count)


def _kept(design: Design) -> frozenset[tuple[str, str]]:
    """Findings that a design has now of the sources that stay: they are not of the search."""
    subjects = {x.id for source, link, _ in refilled_by(design) for x in (source, link)}
    if not subjects:
        return frozenset()
    return frozenset(identity(f) for f in judge(Context(design)) if f.subject in subjects)


def picks_of(best: tuple[Found, ...]) -> dict[Best, str]:
    """The best in each of what is weighed, by key; ties go to the best in the others."""
    if not best:
        return {}
    kinds: tuple[Best, ...] = ("cheapest", "lightest", "longest", "simplest")
    return {
        kind: min(best, key=lambda one: (one.weighed[place], one.weighed, one.key)).key
        for place, kind in enumerate(kinds)
    }


def merged(parts: list[Searched]) -> Searched:
    """One answer from those of the parts of a search."""
    front = ParetoFront()
    for found in sorted((x for part in parts for x in part.best), key=lambda one: one.key):
        if front.wants(found):
            front.add(found)
    best = tuple(sorted(front.best, key=lambda one: (one.weighed, one.key)))
    broken: dict[str, NearMiss] = {}
    for one in (x for part in parts for x in part.broken):
        known = broken.get(one.rule)
        if known is None:
            broken[one.rule] = one
            continue
        better = one if _nearer(one, known) else known
        broken[one.rule] = NearMiss(
            one.rule, better.title, better.example, better.price, one.count + known.count
        )
    ordered = tuple(sorted(broken.values(), key=lambda x: (-x.count, x.rule)))
    why = "" if best else next((x.why_none for x in parts if x.why_none), "")
    return Searched(
        best,
        picks_of(best),
        ordered,
        sum(x.candidates for x in parts),
        sum(x.runs for x in parts),
        why,
    )


def _nearer(one: NearMiss, other: NearMiss) -> bool:
    inf = float("inf")
    return (not one.title, inf if one.price is None else one.price, one.example) < (
        not other.title,
        inf if other.price is None else other.price,
        other.example,
    )

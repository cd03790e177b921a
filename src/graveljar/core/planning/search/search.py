"""The search: every wiring and choice of parts through the engine, the best kept."""

from collections.abc import Iterator
from dataclasses import replace
from math import prod
from typing import Final, Literal

import numpy as np

from graveljar.core.analysis.daily_energy import simulate_day
from graveljar.core.context import Context
from graveljar.core.errors import NotSolved
from graveljar.core.kernel.records import Flags, Floats, Ints, Records
from graveljar.core.kernel.search_rows import MORE, fewest_strings
from graveljar.core.kernel.trace import new_trace
from graveljar.core.lowering.lower import LoweredDesign
from graveljar.core.model import Bank, Battery, Design, Station, Store
from graveljar.core.planning.search.ask import USUAL_STRINGS, SearchAsk
from graveljar.core.planning.search.boxes import BoxSystem, boxes_of, grown_of
from graveljar.core.planning.search.combos import Combo, combos_of, least_strings, rows_of
from graveljar.core.planning.search.found import Found, NearMiss, Progress, Searched
from graveljar.core.planning.search.front import ParetoFront
from graveljar.core.planning.search.picks import next_best_of, picks_of
from graveljar.core.planning.search.refilled import refilled_by
from graveljar.core.planning.search.systems import Rejected, System, systems_of
from graveljar.core.planning.search.text import box_found, decided, found_of, why_none, with_wiring
from graveljar.core.planning.shelf import WiringPrices
from graveljar.core.rules import RULES, findings_of, gravest_first, judge
from graveljar.core.rules.danger import is_danger
from graveljar.core.rules.finding import Finding, Rule, identity
from graveljar.core.tables.assumptions import resolve

# Choices of parts that go through the kernel at a time.
CHUNK: Final = 256
DAY_H: Final = 24.0
# Rules that more strings may mend: then the same parts may do with more of them.
BY_STRINGS: Final = ("bank.", "run.", "start.", "window.", "network.", "charger.")

# Rules that a battery outside may mend.
BY_ENERGY: Final = ("run.", "start.")

# Of a system: with its own losses and cables another is as good in everything.
BEATEN: Final = "beaten"

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
    mine: list[System | BoxSystem] = []
    if design.loads:
        boxes = list(boxes_of(design, ask, job.left))
        mine = [*systems_of(design, ask, job.left, part), *boxes[part[0] :: part[1]]]
    for place, system in enumerate(mine):
        if isinstance(system, System):
            yield from job.try_one(system)
        else:
            yield from job.try_box(system)
        yield Progress(place + 1, len(mine), job.candidates)
    yield job.end()


class _Job:
    """A search under way. Memory holds the best and one chunk, however many are tried."""

    def __init__(self, design: Design, ask: SearchAsk) -> None:
        self.design, self.ask = design, ask
        self.assumed = resolve(design.assumptions)
        self.wiring = WiringPrices(x.part for x in ask.parts)
        self.left = Rejected({}, {})
        self.front = ParetoFront()
        self.candidates = 0
        self.runs = 0
        # Whether any parts carry the loads: until some do, that is what has to be said.
        self.carried = False
        self.misses: dict[str, tuple[Found, Finding]] = {}
        self.dead: dict[tuple[int, ...], str] = {}
        # The rule that broke the last system: it is asked first of the next.
        self.last: Rule | None = None
        self.kept = _kept(design) if ask.refill else frozenset()
        # A day at least: what a day takes must be there.
        self.until_h = max(design.goal.hours, DAY_H)

    def try_one(self, system: System) -> Iterator[Found]:
        """All parts of one wiring; gives what enters the best."""
        context = Context(system.design, tried=True)
        lowered, most = context.analysis.lowered, self._most(system.bank.battery)
        if len(lowered.loads) < len(system.design.loads):
            return
        least = least_strings(lowered, self._counted(lowered), self.until_h, self.design)
        if least > most and self.carried:
            # Too little with any choice of parts.
            choices = prod(len(options) for options in system.places)
            self.left.note("run.must_stops_early", system.battery.part.name, choices)
            self.candidates += choices * most
            return
        combos = combos_of(system, context, self.left, most)
        self.carried, self.dead = self.carried or bool(combos), {}
        for start in range(0, len(combos), CHUNK):
            yield from self._chunk(system, lowered, combos[start : start + CHUNK], least)

    def _chunk(
        self, system: System, lowered: LoweredDesign, combos: list[Combo], least: int
    ) -> Iterator[Found]:
        most = self._most(system.bank.battery)
        rows = rows_of(system, lowered, combos)
        wanted = np.array([max(combo.strings, least) for combo in combos])
        fewest, hours = self._fewest(lowered, rows, system.bank.id, wanted, most)
        for n, combo in enumerate(combos):
            self.candidates += int(fewest[n] or most)
            if not fewest[n]:
                self.left.note("run.must_stops_early", system.battery.part.name)
                continue
            yield from self._tried(system, combo, int(fewest[n]), hours[n], _lost(lowered, rows[n]))

    def _counted(self, lowered: LoweredDesign) -> Flags:
        """Loads that must be served: those that must run; all, where none must."""
        musts = np.array([load.priority == "must" for load in lowered.loads])
        return musts if musts.any() else np.ones(len(lowered.loads), dtype=np.bool_)

    def _fewest(
        self, lowered: LoweredDesign, rows: Records, joined: str, wanted: Ints, most: int
    ) -> tuple[Ints, Floats]:
        """The fewest in parallel of a store that last, for each row; the hours with some more."""
        goal = self.design.goal
        stores = lowered.design.stores
        _, load_records, store_records = lowered.fresh_records()
        fewest, hours, runs = fewest_strings(
            rows,
            load_records,
            store_records,
            lowered.week,
            new_trace(
                len(lowered.rail_records),
                len(lowered.loads),
                len(lowered.banks),
                kept=False,
                stops_only=True,
            ),
            [store.id for store in stores].index(joined),
            np.array([isinstance(x, Station) or _of_house(x) for x in stores]),
            wanted,
            most,
            self._counted(lowered),
            self.until_h,
            max(self.design.setting.horizon_h, goal.hours),
            1.0 - goal.ageing_margin,
            1.0 + goal.guess_margin,
        )
        self.runs += int(runs)
        return fewest, hours

    def try_box(self, box: BoxSystem) -> Iterator[Found]:
        """A station alone, and with each battery that can feed it."""
        found = self._broken_by(Context(box.design, tried=True))
        broken = [f.code for f in found if not f.code.startswith(BY_ENERGY)]
        if broken:
            # What its sockets cannot carry has no operating point: nothing else is known of it.
            why = "inverter.overloaded" if broken[0] == "network.collapse" else broken[0]
            self.left.note(why, box.station.part.name)
            return
        yield from self._one_box(box, 1)
        for grown in grown_of(box, self.ask):
            if grown.outside is not None:
                yield from self._one_box(grown, self._most(grown.outside.bank.battery))

    def _one_box(self, box: BoxSystem, most: int) -> Iterator[Found]:
        self.dead = {}
        lowered = Context(box.design, tried=True).analysis.lowered
        if len(lowered.loads) < len(box.design.loads):
            self.left.note("load.not_joined", box.station.part.name)
            return
        rows = lowered.rail_records[None].copy()
        fewest, hours = self._fewest(lowered, rows, box.joined, np.array([1]), most)
        self.candidates += int(fewest[0] or most)
        if not fewest[0]:
            self.left.note("run.must_stops_early", box.station.part.name)
            return
        lost_wh = _lost(lowered, lowered.rail_records)
        key = (0,)
        for more in range(MORE + 1):
            if np.isnan(hours[0, more]):
                break
            new = box_found(box, int(fewest[0]) + more, float(hours[0, more]), lost_wh)
            if self.front.wants(new) and isinstance(held := self._holds(key, new), Found):
                told = decided(held, more, "run.must_stops_early" if fewest[0] > 1 else "")
                self.front.add(told)
                yield told

    def _tried(
        self, system: System, combo: Combo, fewest: int, hours: Floats, lost_wh: float
    ) -> Iterator[Found]:
        """What enters the best of the fewest strings that last, and of some more."""
        why = "run.must_stops_early" if fewest > combo.strings else combo.why
        done, key = False, tuple(id(option) for option in combo.options)
        for more in range(MORE + 1):
            if np.isnan(hours[more]):
                break
            self.candidates += more > 0
            new = found_of(system, combo, fewest + more, float(hours[more]), lost_wh)
            held = self._holds(key, new) if self.front.wants(new) else BEATEN
            done = done or held is not None
            if isinstance(held, Found):
                told = decided(held, more, why)
                self.front.add(told)
                yield told
        # A start may need stiffer batteries than the hours do.
        for strings in () if done or key in self.dead else (2 * fewest, 4 * fewest):
            if not fewest + MORE < strings <= self._most(system.bank.battery):
                continue
            trial = found_of(system, combo, strings, np.inf, lost_wh)
            context = Context(trial.design, tried=True)
            new = replace(trial, hours=context.analysis.run.hours)
            if not self.front.wants(new):
                continue
            if isinstance(held := self._holds(key, new, context), Found):
                told = decided(held, 0, "start.trips_low")
                self.front.add(told)
                yield told
                return

    def _most(self, battery: Battery) -> int:
        """Batteries in parallel: what is asked for and the maker allows; four where none says."""
        allowed, asked = battery.most_parallel, self.ask.most_strings
        return min(allowed or 32, asked or 32) if allowed or asked else USUAL_STRINGS

    def _holds(
        self, key: tuple[int, ...], new: Found, context: Context | None = None
    ) -> Found | Literal["beaten"] | None:
        """The system with its own losses, cables and fuses, if it breaks no rule; else None.

        A near miss is kept for its rule. With what is its own another may beat it.
        """
        if key in self.dead:
            self.left.note(self.dead[key], new.title)
            return None
        context = context or Context(new.design, tried=True)
        try:
            broken = self._broken_again(context, new)
            if not broken:
                own = replace(new, lost_wh=context.analysis.day.overhead_wh)
                if not self.front.wants(own):
                    return BEATEN
                own = with_wiring(own, self.wiring.priced(context.cables.values()))
                if not self.front.wants(own):
                    return BEATEN
                broken = self._broken_by(context)
                if not broken:
                    return own
        except NotSolved:
            # No answer is none to propose.
            self.left.note("network.collapse", new.title)
            return None
        rules = {finding.code for finding in broken}
        if not any(code.startswith(BY_STRINGS) for code in rules):
            self.dead[key] = broken[0].code
        self.left.note(broken[0].code, new.title)
        known = self.misses.get(broken[0].code)
        if len(rules) == 1 and (known is None or new.weighed < known[0].weighed):
            self.misses[broken[0].code] = (new, broken[0])
        return None

    def _broken_by(self, context: Context) -> list[Finding]:
        """What breaks a system, the gravest first."""
        by_rule = {rule: self._broken_in(rule, context) for rule in RULES}
        broken = gravest_first(finding for found in by_rule.values() for finding in found)
        self.last = next((x for x in RULES if broken and broken[0] in by_rule[x]), self.last)
        return list(broken)

    def _broken_again(self, context: Context, new: Found) -> list[Finding]:
        """What the rule that broke the last system finds, where that is all there is to know.

        No more is asked where more strings may mend it, and a nearer miss is known.
        """
        for finding in self._broken_in(self.last, context) if self.last else ():
            known = self.misses.get(finding.code)
            if finding.code.startswith(BY_STRINGS) and known and new.weighed >= known[0].weighed:
                return [finding]
        return []

    def _broken_in(self, rule: Rule, context: Context) -> list[Finding]:
        return [finding for finding in findings_of(rule, context) if self._breaks(finding)]

    def _breaks(self, finding: Finding) -> bool:
        """Whether a system with a finding is none to propose."""
        return is_danger(finding) or (
            finding.severity == "fix" and identity(finding) not in self.kept
        )

    def end(self) -> Searched:
        """The best, and what the others broke."""
        best = tuple(sorted(self.front.best, key=lambda one: (one.weighed, one.key)))
        return Searched(
            best,
            picks_of(best),
            next_best_of(best),
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
                wires = self.wiring.priced(Context(found.design).cables.values())
                found = with_wiring(found, wires)
                yield NearMiss(rule, finding.title, found.title, found.price, count)
            else:
                yield NearMiss(rule, "", self.left.examples[rule], None, count)


def _kept(design: Design) -> frozenset[tuple[str, str]]:
    """Findings that a design has now of the sources that stay: they are not of the search."""
    subjects = {x.id for source, link, _ in refilled_by(design) for x in (source, link)}
    if not subjects:
        return frozenset()
    return frozenset(
        identity(f) for f in judge(Context(design, tried=True)) if f.subject in subjects
    )


def _of_house(store: Store) -> bool:
    return isinstance(store, Bank) and store.use == "house"


def _lost(lowered: LoweredDesign, rails: Records) -> float:
    """What a day loses with these stages, the bank of one battery in parallel. [Wh]"""
    return simulate_day(replace(lowered, rail_records=rails)).overhead_wh


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
        next_best_of(best),
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

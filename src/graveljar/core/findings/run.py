"""Rules about the hours: a day that is too large, a must-load that stops too early."""

from collections.abc import Iterator
from typing import Final

from graveljar.core.edit import Edit
from graveljar.core.facts import Facts
from graveljar.core.findings.finding import Finding, Remedy, Rule
from graveljar.core.words import duration, listed, quantity


def load_hours(facts: Facts, load_id: str) -> float | None:
    """Hours a load is served; None without end, 0 if it cannot run. [h]"""
    if load_id in {load.id for load in facts.system.ac_loads}:
        return facts.run.ac_hours
    if load_id in {load.id for load in facts.system.dc_loads}:
        return facts.run.dc_hours
    return 0.0


def day_above_usable(facts: Facts) -> Iterator[Finding]:
    """`run.day_above_usable`: one day takes more than the bank holds."""
    usable, day = facts.run.usable.wh, facts.run.day.wh
    if day <= usable:
        return
    yield Finding(
        "run.day_above_usable",
        "fix",
        facts.bank.id,
        f"A day takes {quantity(day, 'Wh')}; usable are {quantity(usable, 'Wh')}",
        "The bank is empty before the day is over, whatever refills it overnight.",
        ("day.wh", "bank.usable"),
        (*_switch_off(facts), *_grow(facts, day)),
        ("definition",),
    )


def must_stops_early(facts: Facts) -> Iterator[Finding]:
    """`run.must_stops_early`: a load that must not stop does so before the goal."""
    goal_h = facts.design.goal.hours
    early = []
    for load in facts.design.loads:
        hours = load_hours(facts, load.id)
        if load.priority == "must" and hours is not None and hours < goal_h:
            early.append((hours, load))
    if not early:
        return
    hours = min(hours for hours, _ in early)
    names = listed([load.name for _, load in early])
    verb = "stops" if len(early) == 1 else "stop"
    when = f"after {duration(hours)}" if hours else "at once"
    yield Finding(
        "run.must_stops_early",
        "fix",
        early[0][1].id,
        f"{names} {verb} {when}; the goal is {duration(goal_h)}",
        "Marked as a must: it should run until the goal without refill.",
        ("run.hours", "bank.usable", "day.wh") if hours else ("bank.usable",),
        (*_switch_off(facts), *_grow(facts, facts.run.day.wh / 24 * goal_h), *_only_musts(facts)),
        ("definition",),
    )


def _switch_off(facts: Facts) -> tuple[Remedy, ...]:
    inverter = facts.inverter
    if inverter is None or facts.system.loss is None or inverter.switched != "always on":
        return ()
    edit = Edit("replace", "/stages/0/switched", "on with its loads")
    return (Remedy("Switch the inverter off when none of its loads runs.", (edit,)),)


def _grow(facts: Facts, need_wh: float) -> tuple[Remedy, ...]:
    bank = facts.bank
    per_string = facts.run.usable.wh / bank.parallel
    if not per_string:
        return ()
    strings = int(-(-need_wh // per_string))
    if not bank.parallel < strings <= 32:
        return ()
    word = "batteries" if bank.series == 1 else f"strings of {bank.series}"
    edit = Edit("replace", "/stores/0/parallel", strings)
    return (Remedy(f"Use {strings} {word} in parallel.", (edit,)),)


def _only_musts(facts: Facts) -> tuple[Remedy, ...]:
    """Without the loads that may stop; removed from the last on, so that places hold."""
    nice = [i for i, load in enumerate(facts.design.loads) if load.priority == "nice"]
    edits = tuple(Edit("remove", f"/loads/{place}") for place in reversed(nice))
    return (Remedy("Leave out the loads that may stop.", edits),) if edits else ()


RUN_RULES: Final[tuple[Rule, ...]] = (day_above_usable, must_stops_early)

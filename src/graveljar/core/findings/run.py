"""Rules about the hours: a day that is too large, a must-load that stops too early."""

from collections.abc import Iterator
from typing import Final

from graveljar.core.edit import Edit
from graveljar.core.facts import Facts
from graveljar.core.findings.finding import Finding, Remedy, Rule
from graveljar.core.findings.remedies import grow_to, switch_off
from graveljar.core.run import TOGETHER_H
from graveljar.core.schedule import DAY_H
from graveljar.core.words import beyond, duration, listed


def load_hours(facts: Facts, load_id: str) -> float | None:
    """Hours a load is served; None without end, 0 if it cannot run. [h]"""
    if load_id not in {load.id for load in facts.lowered.loads}:
        return 0.0
    stop = facts.run.stops.get(load_id)
    return None if stop is None else stop.hours


def day_above_usable(facts: Facts) -> Iterator[Finding]:
    """`run.day_above_usable`: one day takes more than a store holds."""
    for place, bank in enumerate(facts.stores):
        usable_wh, day_wh = facts.usable[bank.id].wh, facts.day.store_wh(place)
        fed = any(link.to == bank.id for link in facts.design.links)
        stops_h = float(facts.run.stores[place]["stop_h"])
        lasts_a_day = stops_h >= DAY_H and facts.run.meets(DAY_H)
        if day_wh <= usable_wh or fed or facts.is_vehicle(bank.id) or lasts_a_day:
            continue
        takes, usable = beyond(day_wh, usable_wh, "Wh")
        yield Finding(
            "run.day_above_usable",
            "fix",
            bank.id,
            f"A day takes {takes}; usable are {usable}",
            "What it may give is used up before the day is over, whatever refills it overnight.",
            ("day.wh", f"store.{bank.id}.usable"),
            (*switch_off(facts), *grow_to(facts, bank, day_wh / usable_wh * bank.parallel)),
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
    hours = min(stops for stops, _ in early)
    first = [load for stops, load in early if stops - hours <= TOGETHER_H]
    names = listed([load.name for load in first])
    verb = "stops" if len(first) == 1 else "stop"
    later = f", {len(early) - len(first)} more later" if len(early) > len(first) else ""
    when = f"after {duration(hours)}" if hours else "at once"
    usable = f"store.{facts.bank.id}.usable"
    need = facts.day.until(goal_h) / max(facts.usable[facts.bank.id].wh, 1e-9)
    never = [load for load in first if load.id not in {x.id for x in facts.lowered.loads}]
    if never:
        verb = "never runs" if len(first) == 1 else "never run"
        when = "as it is connected" if len(first) == 1 else "as they are connected"
    yield Finding(
        "run.must_stops_early",
        "fix",
        first[0].id,
        f"{names} {verb} {when}{later}; the goal is {duration(goal_h)}",
        "It must run until the goal without recharging.",
        ("run.hours", usable, "day.wh") if hours else (usable,),
        (
            *switch_off(facts),
            *grow_to(facts, facts.bank, need * facts.bank.parallel),
            *_only_musts(facts),
        ),
        ("definition",),
    )


def _only_musts(facts: Facts) -> tuple[Remedy, ...]:
    """Without the loads that may stop; removed from the last on, so that places hold."""
    nice = [i for i, load in enumerate(facts.design.loads) if load.priority == "nice"]
    edits = tuple(Edit("remove", f"/loads/{place}") for place in reversed(nice))
    return (Remedy("Leave out the loads that may stop.", edits),) if edits else ()


RUN_RULES: Final[tuple[Rule, ...]] = (day_above_usable, must_stops_early)

"""Rules about the hours: a day that is too large, a must-load that stops too early."""

from collections.abc import Iterator
from typing import Final

from graveljar.core.analysis.simulation import TOGETHER_H
from graveljar.core.context import Context
from graveljar.core.model.patch import Edit
from graveljar.core.network.schedule import DAY_H
from graveljar.core.rules.finding import Finding, Remedy, Rule
from graveljar.core.rules.remedies import grow_to, switch_off
from graveljar.core.text import beyond, duration, listed
from graveljar.core.views.loads import load_hours


def day_above_usable(context: Context) -> Iterator[Finding]:
    """`run.day_above_usable`: one day takes more than a store holds."""
    network, analysis = context.network, context.analysis
    for place, bank in enumerate(network.stores):
        usable_wh, day_wh = (
            analysis.usable[bank.id].wh,
            analysis.day.store_wh(place),
        )
        fed = any(link.to == bank.id for link in network.design.links)
        stops_h = float(analysis.run.stores[place]["stop_h"])
        lasts_a_day = stops_h >= DAY_H and analysis.run.meets(DAY_H)
        if day_wh <= usable_wh or fed or network.is_source(bank.id) or lasts_a_day:
            continue
        takes, usable = beyond(day_wh, usable_wh, "Wh")
        yield Finding(
            "run.day_above_usable",
            "fix",
            bank.id,
            f"A day uses {takes}; {usable} is usable",
            "The usable energy is gone before the day is over, whatever recharges it overnight.",
            ("day.wh", f"store.{bank.id}.usable"),
            (*switch_off(context), *grow_to(context, bank, day_wh / usable_wh * bank.parallel)),
            ("definition",),
        )


def must_stops_early(context: Context) -> Iterator[Finding]:
    """`run.must_stops_early`: a load that must not stop does so before the goal."""
    network, analysis = context.network, context.analysis
    goal_h = network.design.goal.hours
    early = []
    for load in network.design.loads:
        hours = load_hours(context, load.id)
        if load.priority == "must" and hours is not None and hours < goal_h:
            early.append((hours, load))
    if not early:
        return
    hours = min(stops for stops, _ in early)
    first = [load for stops, load in early if stops - hours <= TOGETHER_H]
    names = listed([load.name for load in first])
    verb = "stops" if len(first) == 1 else "stop"
    later = f", {len(early) - len(first)} more later" if len(early) > len(first) else ""
    when = f"after {duration(hours)}" if hours else "immediately"
    usable = f"store.{network.bank.id}.usable"
    need = analysis.day.until(goal_h) / max(analysis.usable[network.bank.id].wh, 1e-9)
    never = [load for load in first if load.id not in {x.id for x in analysis.lowered.loads}]
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
            *switch_off(context),
            *grow_to(context, network.bank, need * network.bank.parallel),
            *_only_musts(context),
        ),
        ("definition",),
    )


def _only_musts(context: Context) -> tuple[Remedy, ...]:
    """Without the loads that may stop; removed from the last on, so that places hold."""
    nice = [i for i, load in enumerate(context.network.design.loads) if load.priority == "nice"]
    edits = tuple(Edit("remove", f"/loads/{place}") for place in reversed(nice))
    return (Remedy("Remove the loads that may stop.", edits),) if edits else ()


RUN_RULES: Final[tuple[Rule, ...]] = (day_above_usable, must_stops_early)

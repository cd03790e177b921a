"""The verdict in words: how long, what ends it, what stops first."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final

from graveljar.core.analysis.simulation import Cause, Run, Stop
from graveljar.core.context import Context
from graveljar.core.network.windows import LoadFit
from graveljar.core.text import duration, listed, quantity

# A share that the cold keeps back and that is worth a word. Ours.
COLD_MATTERS: Final = 0.005
_NEVER: Final[dict[LoadFit, str]] = {
    "fits": "its supply does not work",
    "check its label": "its supply does not work",
    "not joined": "it is not connected",
    "above its maximum": "its rail has a higher voltage than it accepts",
    "too many volts": "its rail has a higher voltage than it accepts",
    "too few volts": "the voltage of its rail is too low",
    "no such volts": "its rail has another mains voltage",
}


@dataclass(frozen=True)
class Verdict:
    """How long, and what ends it. `hours` None: no end up to `horizon_hours`. [h]

    Hours are until a must-load stops, 0 where one can never run; until any load that can run does
    if none is a must. `first` says what stops before that; `not_together` which loads would trip
    each other and are run one after the other; `never` which loads can never run, and why.
    """

    hours: float | None
    lasts: str
    cause: Cause
    then: str
    first: str
    not_together: tuple[str, ...]
    never: tuple[str, ...]
    horizon_hours: float
    goal_hours: float
    meets_goal: bool


def verdict_of(context: Context) -> Verdict:
    """Put the run in words."""
    run, goal_h = context.analysis.run, context.network.design.goal.hours
    return Verdict(
        hours=run.hours,
        lasts=lasts(run),
        cause=run.cause,
        then=_then(context),
        first=_first(context),
        not_together=tuple(_not_together(context)),
        never=tuple(_never(context)),
        horizon_hours=run.horizon_h,
        goal_hours=goal_h,
        meets_goal=run.meets(goal_h),
    )


def _never(context: Context) -> Iterator[str]:
    """Each load that can never run, with the reason."""
    able = {load.id for load in context.analysis.lowered.loads}
    for load in context.network.design.loads:
        if load.id not in able:
            yield f"{load.name}: {_NEVER[context.network.fit_of_load(load)]}"


def _not_together(context: Context) -> Iterator[str]:
    """Loads that would trip each other, and so are run one after the other."""
    names = context.network.names
    moved: dict[str, list[str]] = {}
    for load, other in context.analysis.lowered.apart:
        moved.setdefault(load, []).append(names[other])
    for load, others in moved.items():
        yield listed([names[load], *others])


def lasts(run: Run) -> str:
    """How long, in words."""
    if run.hours is None:
        return f"more than {duration(run.horizon_h)}" if run.released_wh else "without end"
    return duration(run.hours) if run.hours else "does not run"


def _then(context: Context) -> str:
    run = context.analysis.run
    match run.cause:
        case "nothing drains it":
            return "Nothing draws from the bank yet. Add your loads."
        case "nothing can run":
            return "None of the loads can run on the rail it is connected to."
        case "horizon":
            return "Nothing that must run stops before that."
        case _:
            stop = run.decisive
            if stop is None:
                return _emptied(context, context.network.stores[run.first_empty or 0].id)
            return why_of(context, stop)


def _emptied(context: Context, store: str) -> str:
    """A store that has met its reserve, in words."""
    network = context.network
    bank = next(x for x in network.stores if x.id == store)
    place = context.analysis.lowered.place[store]
    station = network.station(store)
    cold = float(context.analysis.run.stores[place]["least"]) - bank.reserve
    colder = ""
    if cold > COLD_MATTERS:
        colder = f"; the cold makes another {quantity(cold, 'share', 2)} unavailable"
    if station is not None:
        kept = f", except for the reserve of {quantity(station.reserve, 'share', 2)}"
        return f"{station.name} is empty{kept if station.reserve else ''}{colder}."
    name = "The bank" if len(network.stores) == 1 else bank.name
    if not bank.reserve:
        return f"{name} is empty{colder}."
    return f"{name} reaches its reserve of {quantity(bank.reserve, 'share', 2)}{colder}."


def why_of(context: Context, stop: Stop) -> str:
    """Why a load stops, in words."""
    network = context.network
    name = network.names[stop.subject]
    is_station = network.station(stop.subject) is not None
    left = f"with {quantity(stop.charge, 'share', 2)} still in {'it' if is_station else 'the bank'}"
    if stop.cause in ("reserve", "empty"):
        return _emptied(context, stop.subject)
    if stop.cause == "cannot run":
        return _cannot(context, stop)
    if stop.cause == "start":
        return _failed_start(context, stop, left)
    if stop.cause in ("cut-out", "collapse") and not stop.hours:
        what = "cuts out" if stop.cause == "cut-out" else "gets too low a voltage"
        begin = context.analysis.lowered.store_records[
            context.analysis.lowered.place[_store_of(context, stop)]
        ]["begin"]
        when = "even when the bank is full" if begin >= 1 else "with the charge at the start"
        return f"{name} {what} under this load {when}."
    if stop.cause == "asleep" and is_station:
        return f"{name} switches itself off {left}."
    return {
        "protection": f"The protection of {name} opens {left}.",
        "overload": _overloaded(context, stop, left),
        "fuse": f"The fuse of {name} opens {left}: the current is above its rating.",
        "cold": f"{name} is too cold to discharge, {left}.",
        "cut-out": f"{name} cuts out at {quantity(stop.volts, 'V')} {left}.",
        "collapse": f"The voltage collapses under {name}, {left}.",
        "charging": f"{name} has its outlets off while it charges.",
        "engine off": f"The engine of {name} is off.",
    }.get(
        stop.cause,
        f"{name} stays asleep: {network.names[stop.load]} is too small to wake it.",
    )


def _store_of(context: Context, stop: Stop) -> str:
    load = next(x for x in context.analysis.lowered.loads if x.id == stop.load)
    return context.network.rails[str(load.rail)].store


def _cannot(context: Context, stop: Stop) -> str:
    load = next(x for x in context.network.design.loads if x.id == stop.load)
    rest = [x for x in context.analysis.run.stops.values() if x.cause != "cannot run"]
    after = min((x.hours for x in rest), default=None)
    others = f" The other loads run {duration(after)}." if after else ""
    return f"{load.name} never runs: {_NEVER[context.network.fit_of_load(load)]}.{others}"


def _overloaded(context: Context, stop: Stop, left: str) -> str:
    name = context.network.names[stop.subject]
    if stop.subject in {bank.id for bank in context.network.stores}:
        return f"The current from {name} is above the limit of its protection, which opens {left}."
    return f"{name} carries more than it is rated for and shuts off {left}."


def _failed_start(context: Context, stop: Stop, left: str) -> str:
    """Told apart: a start that never works, and one that fails below some charge."""
    starter = context.network.names[stop.by or stop.load]
    record = context.analysis.run.record_of(stop.by or stop.load)
    always = record is not None and record["fails"] >= record["starts"]
    when = "at every start" if always else f"for the first time {left}"
    if stop.subject == (stop.by or stop.load):
        return f"{starter} does not start, {when}: its supply cannot deliver the starting power."
    return f"{starter} trips {context.network.names[stop.subject]} as it starts, {when}."


def _first(context: Context) -> str:
    """What stops before the hours are over, in words; empty if nothing does."""
    able = [x for x in context.analysis.run.stops.values() if x.cause != "cannot run"]
    first = min(able, key=lambda stop: stop.hours, default=None)
    decisive = context.analysis.run.decisive
    if first is None or (decisive is not None and first.hours >= decisive.hours - 1e-6):
        return ""
    when = f"after {duration(first.hours)}" if first.hours else "at once"
    why = why_of(context, first)
    if first.subject == first.load:
        return f"{when[0].upper()}{when[1:]}: {why}"
    return f"{context.network.names[first.load]} stops {when}: {why}"

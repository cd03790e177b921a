"""The verdict in words: how long, what ends it, what stops first."""

from typing import Final

from graveljar.core.evaluation import Verdict
from graveljar.core.facts import Facts
from graveljar.core.findings.finding import Finding
from graveljar.core.run import Run, Stop
from graveljar.core.words import duration, quantity

# Findings that stop everything at once, as soon as all of it runs together.
TRIPS: Final = (
    "inverter.overloaded",
    "inverter.start_above_surge",
    "converter.overloaded",
    "converter.start_above_peak",
    "bank.current_above_limit",
    "bank.start_above_peak",
)


def verdict_of(facts: Facts, findings: tuple[Finding, ...]) -> Verdict:
    """Put the run in words."""
    run, goal_h = facts.run, facts.design.goal.hours
    return Verdict(
        hours=run.hours,
        lasts=lasts(run),
        cause=run.cause,
        then=_then(facts),
        first=_first(facts),
        trips=tuple(finding.title for finding in findings if finding.code in TRIPS),
        horizon_hours=run.horizon_h,
        goal_hours=goal_h,
        meets_goal=run.hours is None or run.hours >= goal_h,
    )


def lasts(run: Run) -> str:
    """How long, in words."""
    if run.hours is None:
        return f"more than {duration(run.horizon_h)}" if run.released_wh else "without end"
    return duration(run.hours) if run.hours else "not at all"


def _then(facts: Facts) -> str:
    run = facts.run
    match run.cause:
        case "nothing drains it":
            return "Nothing draws from the bank yet. Add what has to run."
        case "nothing can run":
            return "None of the loads can run on its rail."
        case "horizon":
            return "Nothing that must run stops before that."
        case _:
            stop = run.decisive
            if stop is None:
                return _at_floor(facts, facts.bank.id)
            return _why(facts, stop)


def _at_floor(facts: Facts, store: str) -> str:
    bank = next(x for x in facts.stores if x.id == store)
    station = facts.station(store)
    if station is not None:
        kept = f", but for the {quantity(station.keep_back, 'share', 2)} you keep back"
        return f"{station.name} is empty{kept if station.keep_back else ''}."
    name = "The bank" if len(facts.stores) == 1 else bank.name
    if not bank.keep_back:
        return f"{name} is empty."
    return f"{name} meets its keep-back of {quantity(bank.keep_back, 'share', 2)}."


def _why(facts: Facts, stop: Stop) -> str:
    name = facts.names[stop.subject]
    charge, volts = _state_at(facts, stop)
    where = "it" if facts.station(stop.subject) is not None else "the bank"
    left = f"with {quantity(charge, 'share', 2)} still in {where}"
    if stop.cause in ("keep-back", "empty"):
        return _at_floor(facts, stop.subject)
    if stop.cause in ("cut-out", "collapse") and not stop.hours:
        what = "cuts out" if stop.cause == "cut-out" else "has too few volts"
        return f"{name} {what} under this load even when the bank is full."
    if stop.cause == "asleep" and facts.station(stop.subject) is not None:
        return f"{name} switches itself off {left}."
    return {
        "protection": f"The protection of {name} opens {left}.",
        "cut-out": f"{name} cuts out at {quantity(volts, 'V')} {left}.",
        "collapse": f"The volts collapse under {name}, {left}.",
        "charging": f"{name} has its outlets off while it charges.",
    }.get(stop.cause, f"{name} sleeps through {facts.names[stop.load]}.")


def _state_at(facts: Facts, stop: Stop) -> tuple[float, float]:
    """Charge and volts as the thing that stopped gave up."""
    before = [e for e in facts.run.events if e.subject == stop.subject and e.hours <= stop.hours]
    return (before[-1].charge, before[-1].volts) if before else (1.0, 0.0)


def _first(facts: Facts) -> str:
    """What stops before the hours are over, in words; empty if nothing does."""
    first, decisive = facts.run.first_stop, facts.run.decisive
    if first is None or (decisive is not None and first.hours >= decisive.hours - 1e-6):
        return ""
    names = {load.id: load.name for load in facts.design.loads}
    when = f"after {duration(first.hours)}" if first.hours else "at once"
    why = _why(facts, first)
    if first.subject == first.load:
        return f"{when[0].upper()}{when[1:]}: {why}"
    return f"{names[first.load]} stops {when}: {why}"

"""Where the energy in the stores went, and what is left inside and why."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from graveljar.core.analysis.simulation import energy_between
from graveljar.core.context import Context
from graveljar.core.text import listed
from graveljar.core.views.run_summary import destinations

FlowKind = Literal[
    "load", "standby", "idle", "stage", "adapter", "cable", "battery", "left", "reserve"
]


@dataclass(frozen=True)
class FlowPart:
    """One way the energy went, or stayed. `why` is said of what is left. [Wh]"""

    kind: FlowKind
    subject: str
    name: str
    wh: float
    why: str


@dataclass(frozen=True)
class Flow:
    """All that was in the stores at the start; the parts add up to it. [Wh]"""

    total_wh: float
    parts: tuple[FlowPart, ...]


def flow_of(context: Context) -> Flow:
    """Gather it: the run's destinations, then what stayed inside each store."""
    went = [FlowPart(x.kind, x.subject, x.name, x.wh, "") for x in destinations(context)]
    parts = [part for part in (*went, *_stayed(context)) if part.wh > 0]
    return Flow(sum(part.wh for part in parts), tuple(parts))


def _stayed(context: Context) -> Iterator[FlowPart]:
    run = context.analysis.run
    for s, bank in enumerate(context.network.stores):
        if context.network.is_source(bank.id):
            continue
        kept_wh = energy_between(
            context.analysis.lowered, s, 0.0, min(bank.reserve, float(run.stores[s]["charge"]))
        )
        left_wh = run.left_wh(s, down_to=bank.reserve)
        yield FlowPart("left", bank.id, f"{bank.name}, left inside", left_wh, _why(context))
        yield FlowPart(
            "reserve", bank.id, f"{bank.name}, reserve", kept_wh, "never taken: for a long life"
        )


def _why(context: Context) -> str:
    """Why something is left: what cut out and never restarted, or time ran out."""
    last = {}
    for event in context.analysis.run.events:
        last[event.subject] = event.what
    names = [
        thing.name
        for thing in (*context.network.stages, *context.network.design.loads)
        if last.get(thing.id) in ("cuts out", "collapses")
    ]
    if names:
        return f"{listed(names)} cut out before it was empty"
    if "protection opens" in last.values():
        return "its protection opened before it was empty"
    return "the simulated time ended first"

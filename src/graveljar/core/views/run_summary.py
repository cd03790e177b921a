"""The run as the screen shows it: happenings in words, stores, destinations, moments."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Final, Literal

import numpy as np

from graveljar.core.analysis.simulation import Event
from graveljar.core.context import Context
from graveljar.core.text import quantity
from graveljar.core.views.snapshots import Extremes, Snapshot, moments_of, worst_of

# Happenings that are told.
MAX_TOLD: Final = 60


@dataclass(frozen=True)
class Happening:
    """Something that happened in the run, in words. [h], [1]"""

    hours: float
    subject: str
    text: str
    charge: float


@dataclass(frozen=True)
class StoreRow:
    """A store after the run. [Wh], [1], [h]

    `left_wh` is above the reserve, `charge` what is left with it.
    """

    id: str
    stops_h: float | None
    charge: float
    left_wh: float
    released_wh: float


@dataclass(frozen=True)
class Destination:
    """Where the run's energy went. [Wh]"""

    kind: Literal["load", "standby", "idle", "stage", "adapter", "cable", "battery"]
    subject: str
    name: str
    wh: float


@dataclass(frozen=True)
class RunSummary:
    """The run: what happened, what is left, where the energy went; the network at moments.

    `worst` by store, stage and load.
    """

    ends_h: float
    happenings: tuple[Happening, ...]
    happenings_beyond: int
    stores: tuple[StoreRow, ...]
    destinations: tuple[Destination, ...]
    moments: tuple[Snapshot, ...]
    worst: Mapping[str, Extremes]


def run_summary(context: Context) -> RunSummary:
    """Gather what is shown of a run."""
    run = context.analysis.run
    told = run.events[:MAX_TOLD]
    return RunSummary(
        ends_h=run.ends_h,
        happenings=tuple(happening(context, event) for event in told),
        happenings_beyond=len(run.events) - len(told) + run.events_beyond,
        stores=tuple(_stores(context)),
        destinations=tuple(part for part in destinations(context) if part.wh > 0),
        moments=tuple(moments_of(context)),
        worst=worst_of(context),
    )


def happening(context: Context, event: Event) -> Happening:
    """An event in words."""
    network = context.network
    name, volts = network.names[event.subject], quantity(event.volts, "V")
    charge = quantity(event.charge, "share", 2)
    by = f", as {network.names[event.by]} starts" if event.by else ""
    floor = "reaches its reserve; everything on it stops"
    if network.station(event.subject) is not None:
        floor = "is empty; its outlets switch off"
    under = ""
    if event.what in ("cuts out", "collapses"):
        under = _under(context, event)
    text = {
        "cuts out": f"{name} cuts out at {volts}, with {charge} charge left{by or under}.",
        "meets its floor": f"{name} {floor}.",
        "protection opens for its current": (
            f"The protection of {name} opens: the current is above its limit{by}."
        ),
        "is overloaded": f"{name} carries more than it is rated for and shuts off{by}.",
        "fuse opens": f"The fuse of {name} opens{by}.",
        "main fuse opens": f"The main fuse of {name} opens{by}.",
        "fails to start": f"{name} does not start: its supply cannot deliver the starting power.",
        "is too cold": f"{name} is too cold to discharge.",
        "protection opens": f"The protection of {name} opens at {volts}, with {charge} left.",
        "collapses": f"The voltage collapses under {name}, with {charge} left{under}.",
        "restarts": f"{name} restarts at {volts}.",
        "switches its outlets on": f"{name} has {charge} again and switches its outlets on.",
        "switches itself off": (
            f"{name} switches itself off, with {charge} left: its loads drew too little for "
            "too long."
        ),
        "is full": f"{name} is full.",
    }[event.what]
    return Happening(event.hours, event.subject, text, event.charge)


def _under(context: Context, event: Event) -> str:
    """What else is on as something cuts out: the largest load, and the amps of the store."""
    analysis = context.analysis
    hours, _, volts, amps, drawn = analysis.run.points()
    if not len(hours) or event.hours > hours[-1] + 1e-9:
        return ""
    # The last point of that time: the one after it has cut out.
    at = max(int(np.searchsorted(hours, event.hours + 1e-9, side="right")) - 1, 0)
    loads = analysis.lowered.load_records
    watts = drawn[at] * volts[at, loads["rail"]]
    if not watts.any():
        return ""
    largest = analysis.lowered.loads[int(np.argmax(watts))]
    store = analysis.lowered.place[context.network.rails[str(largest.rail)].store]
    return f", while {largest.name} runs ({quantity(float(amps[at, store]), 'A')} in all)"


def _stores(context: Context) -> Iterator[StoreRow]:
    for s, bank in enumerate(context.network.stores):
        if context.network.is_source(bank.id):
            continue
        record = context.analysis.run.stores[s]
        stops_h = float(record["stop_h"])
        yield StoreRow(
            id=bank.id,
            stops_h=stops_h if np.isfinite(stops_h) else None,
            charge=float(record["charge"]),
            left_wh=context.analysis.run.left_wh(s, down_to=float(record["least"])),
            released_wh=float(record["released"]),
        )


def destinations(context: Context) -> Iterator[Destination]:
    """Where the energy went: all loads, stages, adapters, cables, and the stores themselves."""
    network, analysis = context.network, context.analysis
    run, place = analysis.run, analysis.lowered.place
    for i, load in enumerate(analysis.lowered.loads):
        record = run.loads[i]
        yield Destination("load", load.id, load.name, float(record["used"]))
        yield Destination("standby", load.id, f"{load.name}, standby", float(record["waited"]))
    for stage in network.stages:
        record = run.rails[place[stage.id]]
        yield Destination("idle", stage.id, f"{stage.name}, idle", float(record["idle"]))
        yield Destination("stage", stage.id, f"{stage.name}, loss", float(record["conversion"]))
    adapters, cables = run.loads["adapter"], run.rails["cable"].sum() + run.loads["cable"].sum()
    own = [_own_share(context, s) for s in range(len(network.stores))]
    cables += sum(run.stores[s]["inside"] * (1 - share) for s, share in enumerate(own))
    yield Destination("adapter", "design", "Plug-in adapters", float(adapters.sum()))
    yield Destination("cable", "design", "Cables", float(cables))
    for store in network.stores:
        own_wh = float(run.rails[place[store.id]]["idle"])
        yield Destination("idle", store.id, f"{store.name}, own draw", own_wh)
    for link in analysis.lowered.links:
        own_wh = float(run.rails[place[link.id]]["idle"])
        yield Destination("idle", link.id, f"{link.name}, own draw of the charger", own_wh)
        lost_wh = float(run.rails[place[link.id]]["conversion"])
        yield Destination("stage", link.id, f"{link.name}, charging loss", lost_wh)
    for s, bank in enumerate(network.stores):
        inside = float(run.stores[s]["inside"] * own[s] + run.stores[s]["rate_wh"])
        yield Destination("battery", bank.id, f"{bank.name}, internal loss", inside)


def _own_share(context: Context, place: int) -> float:
    """Share of the heat of a store and of the cables at its posts that is its own. [1]

    Both carry the same amps, in one row.
    """
    record = context.analysis.lowered.store_records[place]
    own = float(record["own_ohm"]) * float(context.analysis.lowered.day.cold_ohm[:, place].mean())
    both = own + float(record["leads_ohm"])
    return own / both if both else 1.0

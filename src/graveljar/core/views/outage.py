"""An outage of the mains, in words: what runs through it, and when all is full again."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final, Literal

import numpy as np

from graveljar.core.analysis.outage import (
    HALF_DAY_H,
    Outages,
    bears_two_a_day,
    mains_rows,
    outages_of,
    recovery_of,
)
from graveljar.core.context import Context
from graveljar.core.model import Inverter, Load, Station
from graveljar.core.text import duration, listed, quantity

Break = Literal["none", "break", "unknown"]
# Hours on that tell nothing: what begins with the mains gone for less has not begun. Ours. [h]
HAIR_H: Final = 1e-3


@dataclass(frozen=True)
class OutageLoad:
    """A load in an outage: how long it runs on, None if longer than a week. [h]

    `changeover`: whether it sees a break as the mains fails.
    """

    id: str
    name: str
    must: bool
    lasts_h: float | None
    runs_through: bool
    says: str
    changeover: Break


@dataclass(frozen=True)
class OutageStore:
    """A store after the outage: its lowest charge [1], and hours until full again, None: never."""

    id: str
    name: str
    lowest: float
    recharged_h: float | None


@dataclass(frozen=True)
class Outage:
    """An outage of `hours` that begins at the worst hour of the day, `begins_h`. [h]

    `survives` : Hours until the first load that counts stops, by the hour at which the mains fails;
        None if longer than a week. [h], shape (24,)
    `twice` : Whether two such outages a day are run through; None where they would overlap.
    """

    hours: float
    begins_h: int
    survives: tuple[float | None, ...]
    loads: tuple[OutageLoad, ...]
    stores: tuple[OutageStore, ...]
    twice: bool | None
    headline: str
    details: tuple[str, ...]


def outage_of(context: Context, hours: float) -> Outage | None:
    """Let the mains fail for some hours at its worst; None if it feeds no store. [h]"""
    lowered = context.analysis.lowered
    if not mains_rows(lowered) or not lowered.loads:
        return None
    found = outages_of(lowered)
    begin = found.worst_begin
    recovery = recovery_of(lowered, begin, hours)
    fed = {link.to for link in lowered.links}
    stores = tuple(
        OutageStore(bank.id, bank.name, float(recovery.lowest[s]), _finite(recovery.hours[s]))
        for s, bank in enumerate(context.network.stores)
        if bank.id in fed
    )
    loads = tuple(_loads(context, found, begin, hours))
    twice = None
    if hours < HALF_DAY_H:
        runs = bears_two_a_day(lowered, begin, hours)
        twice = bool(np.isinf(runs[found.counted]).all())
    return Outage(
        hours=hours,
        begins_h=begin,
        survives=tuple(_finite(x) for x in found.survives_h),
        loads=loads,
        stores=stores,
        twice=twice,
        headline=_headline(loads, found, begin, hours),
        details=tuple(_details(found, stores, twice)),
    )


def _finite(hours: float) -> float | None:
    return float(hours) if np.isfinite(hours) else None


def _loads(context: Context, found: Outages, begin: int, hours: float) -> Iterator[OutageLoad]:
    for i, load in enumerate(context.analysis.lowered.loads):
        lasts = _finite(found.lasts_h[begin, i])
        through = lasts is None or lasts >= hours
        if lasts is not None and lasts < -HAIR_H:
            says = "stops even while the mains is there"
            lasts, through = 0.0, False
        elif through:
            says = "runs through"
        elif lasts is not None and lasts <= HAIR_H:
            says = "stops at once"
        else:
            says = f"stops after {duration(lasts or 0.0)}"
        yield OutageLoad(
            load.id, load.name, load.priority == "must", lasts, through, says,
            changeover_of(context, load),
        )  # fmt: skip


def changeover_of(context: Context, load: Load) -> Break:
    """Whether a load sees a break as the mains fails: what a store feeds in any case does not."""
    network = context.network
    stage = network.rails[str(load.rail)].source if load.rail in network.rails else None
    if isinstance(stage, Inverter) and stage.transfer is not None:
        return stage.changeover
    store = network.rails[str(load.rail)].store if load.rail in network.rails else None
    station = network.station(store) if store is not None else None
    if station is None or not station.pass_through or network.rails[str(load.rail)].kind != "ac":
        return "none"
    inputs = {port.id for port in station.inputs if port.supply == "ac"}
    links = network.design.links
    if not any(link.to == station.id and link.input in inputs for link in links):
        return "none"
    return station.changeover


def passed_on(context: Context) -> Iterator[tuple[Station | Inverter, Load]]:
    """Stations and inverters that pass the mains on, each with what is on its sockets."""
    for load in context.network.design.loads:
        if load.rail in context.network.rails and changeover_of(context, load) != "none":
            rail = context.network.rails[str(load.rail)]
            station = context.network.station(rail.store)
            if station is not None:
                yield station, load
            elif isinstance(rail.source, Inverter):
                yield rail.source, load


def _headline(loads: tuple[OutageLoad, ...], found: Outages, begin: int, hours: float) -> str:
    musts = [x for x in loads if x.must] or list(loads)
    stopped = [x for x in musts if not x.runs_through]
    if not stopped:
        return f"{quantity(hours, 'h')} without mains are run through"
    survives = found.survives_h[begin]
    if survives <= HAIR_H:
        return f"{listed([x.name for x in stopped])} stops with the mains"
    return f"Runs for {duration(float(survives))} without mains"


def _details(found: Outages, stores: tuple[OutageStore, ...], twice: bool | None) -> Iterator[str]:
    begin = found.worst_begin
    if np.isinf(found.survives_h).all():
        yield "Longer than a week, whenever it begins."
    else:
        yield f"Worst if it begins at {begin:02d}:00: that is shown."
    for store in stores:
        back = "not in the week after"
        if store.recharged_h is not None:
            back = f"within {duration(store.recharged_h)} of the mains being back"
        if store.recharged_h == 0.0:
            back = "all the time"
        lowest = quantity(store.lowest, "share", 2)
        yield f"{store.name}: down to {lowest}; full again {back}."
    if twice is not None:
        yield "Two a day are run through." if twice else "Two a day are too many."

"""Rules about vehicles: how long their own battery bears it, and what an alternator may give."""

from collections.abc import Iterator
from typing import Final

import numpy as np

from graveljar.core.components.charging import hold_volts
from graveljar.core.context import Context
from graveljar.core.limits import exceeds
from graveljar.core.model import Bank, Charger, Vehicle
from graveljar.core.model.patch import Edit
from graveljar.core.rules.finding import Finding, Remedy, Rule
from graveljar.core.text import beyond, duration, quantity

# Share of its rating that an alternator gives for long without overheating; common practice. [1]
ALTERNATOR_SHARE: Final = 0.5
# Share of it that an engine gives at idle: 30 to 50 %; common practice. [1]
IDLE_SHARE: Final = 0.4
# Running so long counts as long. Ours. [h]
LONG_H: Final = 0.5
# Less than this is rounding. Ours. [A]
GIVES_A: Final = 0.01


def _starters(context: Context) -> Iterator[tuple[Bank, Vehicle, Charger]]:
    """Batteries that start an engine, each with what charges it."""
    network = context.network
    for link in network.design.links:
        bank = network.banks_by_id.get(link.to)
        if bank is None or bank.use != "starter" or link.charger is None:
            continue
        vehicle = network.store(network.rails[link.rail].store)
        if isinstance(vehicle, Vehicle) and link.charger.kind == "alternator":
            yield bank, vehicle, link.charger


def will_not_start(context: Context) -> Iterator[Finding]:
    """`vehicle.will_not_start`: a starter battery falls to what its engine needs to start."""
    run = context.analysis.run
    for bank in context.network.banks:
        if bank.use != "starter":
            continue
        fell = next(
            (x for x in run.events if x.subject == bank.id and x.what == "meets its floor"), None
        )
        if fell is None:
            continue
        yield Finding(
            "vehicle.will_not_start",
            "fix",
            bank.id,
            (
                f"{bank.name} no longer starts the engine after {duration(fell.hours)}: it is down "
                f"to {quantity(fell.charge, 'share', 2)}"
            ),
            (
                "A starter battery is made for a second of high current, not to be run down. What "
                "is used while the engine stands belongs on a battery of its own."
            ),
            (f"store.{bank.id}.usable",),
            (
                Remedy("Connect what runs for long to a house battery, with its own charger."),
                Remedy("Let the engine, or the ready mode, run for as long as the loads do."),
            ),
            ("trade",),
        )


def past_the_engine(context: Context) -> Iterator[Finding]:
    """`vehicle.past_engine`: more is drawn than the engine gives while it runs.

    The volts fall from what it holds to those of its battery at once, and go on falling.
    """
    for bank, vehicle, charger in _starters(context):
        drawn_w = context.analysis.demand.asked[bank.id].watts
        holds_v = hold_volts(bank, charger)
        by_amps = charger.most_w is None or charger.most_w >= charger.amps * holds_v
        held_w = charger.amps * holds_v if by_amps else float(charger.most_w or 0.0)
        if not exceeds(drawn_w, held_w):
            continue
        falls_to = _first_below(context, bank, vehicle)
        asked, gives = beyond(drawn_w, held_w, "W")
        yield Finding(
            "vehicle.past_engine",
            "fix",
            bank.id,
            (
                f"{asked} are drawn and {vehicle.name} gives {gives}: {bank.name} gives the rest"
                if falls_to is None
                else f"{asked} are drawn and {vehicle.name} gives {gives}: its volts fall to "
                f"{quantity(falls_to, 'V', 3)} at once"
            ),
            (
                f"{bank.name} gives what its engine cannot: from {quantity(holds_v, 'V', 3)} its "
                "volts fall, and go on falling. In minutes it cannot start the engine any more."
            ),
            (f"store.{bank.id}.running_design_a",),
            (Remedy(f"Draw no more than {quantity(held_w, 'W')} together."),),
            ("trade", "ohm"),
        )


def _first_below(context: Context, bank: Bank, vehicle: Vehicle) -> float | None:
    """Volts in the run as a starter battery first gives beside its running engine. [V]

    None if it never does.
    """
    lowered = context.analysis.lowered
    _, _, volts, amps, _ = context.analysis.run.points()
    mine, engine = lowered.place[bank.id], lowered.place[vehicle.id]
    both = np.flatnonzero((amps[:, engine] > GIVES_A) & (amps[:, mine] > GIVES_A))
    return float(volts[both[0], mine]) if len(both) else None


def alternator_load(context: Context) -> Iterator[Finding]:
    """`vehicle.alternator_strained`, `vehicle.idles`: more than half its rating for long."""
    network = context.network
    for vehicle in network.design.stores:
        if not isinstance(vehicle, Vehicle) or vehicle.alternator_a is None:
            continue
        amps = _taken_a(context, vehicle)
        runs_h = sum(_length(x.from_h, x.to_h) for x in vehicle.runs.windows)
        if vehicle.idles and exceeds(amps, IDLE_SHARE * vehicle.alternator_a):
            taken, gives = beyond(amps, IDLE_SHARE * vehicle.alternator_a, "A")
            yield Finding(
                "vehicle.idles",
                "fix",
                vehicle.id,
                f"{taken} are taken from {vehicle.name}, which idles: it gives some {gives}",
                (
                    "At idle an alternator gives 30 to 50 % of its rating, and is cooled least. "
                    "The rest comes from the starter battery."
                ),
                (),
                (
                    *_fewer_amps(context, vehicle, IDLE_SHARE * vehicle.alternator_a / amps),
                    Remedy("Drive instead. Never let an engine run in a closed space."),
                ),
                ("trade",),
            )
        elif runs_h > LONG_H and exceeds(amps, ALTERNATOR_SHARE * vehicle.alternator_a):
            taken, gives = beyond(amps, ALTERNATOR_SHARE * vehicle.alternator_a, "A")
            yield Finding(
                "vehicle.alternator_strained",
                "watch",
                vehicle.id,
                f"{taken} are taken from {vehicle.name} for long; its alternator spares {gives}",
                (
                    "Alternators are made for short loads: beyond about half their rating for long "
                    "they overheat, most of all in slow traffic and hot weather."
                ),
                (),
                (
                    *_fewer_amps(context, vehicle, ALTERNATOR_SHARE * vehicle.alternator_a / amps),
                    Remedy("Take less from it, or have a stronger alternator fitted."),
                ),
                ("trade",),
            )


def _fewer_amps(context: Context, vehicle: Vehicle, share: float) -> Iterator[Remedy]:
    """Set the largest charger on it lower, so that but this share is taken. [1]"""
    design = context.network.design
    mine = [
        (link.charger.amps, place)
        for place, link in enumerate(design.links)
        if link.charger is not None
        and link.charger.kind != "alternator"
        and context.network.rails[link.rail].store == vehicle.id
    ]
    if not mine:
        return
    amps, place = max(mine)
    fewer = float(int(0.97 * share * amps))
    if fewer >= 1.0:
        edit = Edit("replace", f"/links/{place}/charger/amps", fewer)
        yield Remedy(f"Set {design.links[place].name} to {quantity(fewer, 'A')}.", (edit,))


def _taken_a(context: Context, vehicle: Vehicle) -> float:
    """What is taken from an engine for loads and other batteries than its own. [A]"""
    asked = context.analysis.demand.asked
    own = [bank.id for bank, mine, _ in _starters(context) if mine.id == vehicle.id]
    if own:
        return asked[own[0]].watts / vehicle.running_v
    return asked[vehicle.id].watts / vehicle.running_v


def _length(from_h: float, to_h: float) -> float:
    return (to_h - from_h) % 24 or 24.0


def engine_signal(context: Context) -> Iterator[Finding]:
    """`vehicle.no_engine_signal`, `vehicle.by_voltage`: does it stop when the engine does?

    By voltage or by the ignition wire: both schools; modern alternators vary their volts.
    """
    for s, vehicle in enumerate(context.network.design.stores):
        if not isinstance(vehicle, Vehicle) or not _feeds(context, vehicle.id):
            continue
        edit = Edit("replace", f"/stores/{s}/signal", "ignition wire")
        remedy = Remedy("Connect an ignition (D+) wire to a relay or to its remote input.", (edit,))
        if vehicle.signal == "none":
            yield Finding(
                "vehicle.no_engine_signal",
                "fix",
                vehicle.id,
                f"Nothing switches off what is connected to {vehicle.name} when the engine stops",
                (
                    "A converter does not know whether the engine runs: it goes on drawing and "
                    "empties the starter battery."
                ),
                (),
                (remedy,),
                ("trade",),
            )
        elif vehicle.signal == "voltage":
            yield Finding(
                "vehicle.by_voltage",
                "watch" if vehicle.alternator == "smart" else "note",
                vehicle.id,
                f"The engine of {vehicle.name} is detected by voltage",
                (
                    "Modern alternators lower their voltage while driving, so a device that "
                    "detects the engine by voltage may switch off on the way. "
                    "An ignition wire is more reliable."
                ),
                (),
                (remedy,),
                ("trade",),
            )


def _feeds(context: Context, store: str) -> bool:
    network = context.network
    return any(x.rail == store for x in (*network.design.stages, *network.design.links)) or any(
        load.rail == store for load in network.design.loads
    )


def vehicle_current(context: Context) -> Iterator[Finding]:
    """`vehicle.current_above_limit`: more than its socket or own DC-DC converter gives.

    Past 1 to 1.5 kW a hybrid's small 12 V battery makes up the rest and sags.
    """
    for vehicle in context.network.design.stores:
        if not isinstance(vehicle, Vehicle):
            continue
        needs_a = context.analysis.demand.asked[vehicle.id].watts / vehicle.running_v
        # What a link would draw of it is said of the link.
        by_link = any(
            x.source == vehicle.id and x.full.watts
            for x in context.analysis.link_operations.values()
        )
        if by_link or not exceeds(needs_a, vehicle.limit_a):
            continue
        asked, gives = beyond(needs_a, vehicle.limit_a, "A")
        yield Finding(
            "vehicle.current_above_limit",
            "fix",
            vehicle.id,
            f"{vehicle.name} must supply {asked}; it is rated for {gives}",
            (
                "Above that a fuse blows, or, with the engine or ready mode on, its small "
                "battery supplies the rest and sags."
            ),
            (f"store.{vehicle.id}.running_design_a",),
            (Remedy("Draw less from it, or connect straight to the battery, with a fuse."),),
            ("trade",),
        )


VEHICLE_RULES: Final[tuple[Rule, ...]] = (
    will_not_start,
    past_the_engine,
    vehicle_current,
    alternator_load,
    engine_signal,
)

"""The card for the cupboard door: how long, what not together, what to do if it goes wrong."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final

import numpy as np

from graveljar.core.cautions import subjects
from graveljar.core.components.battery import bank_label, chemistry_of
from graveljar.core.components.load import running_w
from graveljar.core.context import Context
from graveljar.core.model import Anytime, Bank, BankLeads, Design, Generator, Load, Vehicle
from graveljar.core.readings.of_banks import FLAT_FROM, FLAT_TO, LEAD_RESTS_H, LITHIUM_RESTS_H
from graveljar.core.text import number, quantity
from graveljar.core.views.verdict import lasts, verdict_of

# Charges whose rested volts a card shows; on LFP's plateau none is told. Ours. [1]
SHOWN: Final = (1.0, 0.75, 0.5, 0.25, 0.1)


@dataclass(frozen=True)
class CardLoad:
    """How long one load runs alone, all the time, from full; and its watts."""

    name: str
    watts: str
    alone: str


@dataclass(frozen=True)
class RestedVolts:
    """Rested volts of a bank at a charge, in words."""

    charge: str
    volts: str


@dataclass(frozen=True)
class CardBank:
    """What a bank's volts tell after hours of rest."""

    name: str
    rests: str
    volts: tuple[RestedVolts, ...]
    note: str


@dataclass(frozen=True)
class Emergency:
    """What may go wrong, and what to do first."""

    what: str
    do: str


@dataclass(frozen=True)
class Card:
    """One page for the door. `together` is how long all of it runs as planned."""

    together: str
    then: str
    first: str
    loads: tuple[CardLoad, ...]
    not_together: tuple[str, ...]
    highest_start: str
    banks: tuple[CardBank, ...]
    switches: tuple[str, ...]
    fuses: tuple[str, ...]
    emergencies: tuple[Emergency, ...]


def card_of(context: Context) -> Card:
    """The card of a design."""
    verdict = verdict_of(context)
    return Card(
        together=verdict.lasts,
        then=verdict.then,
        first=verdict.first,
        loads=tuple(_loads(context)),
        not_together=verdict.not_together,
        highest_start=_highest_start(context),
        banks=tuple(_bank(bank) for bank in context.network.banks),
        switches=tuple(_switches(context)),
        fuses=tuple(_fuses(context)),
        emergencies=tuple(_emergencies(context)),
    )


def alone(design: Design, load: Load, kept: frozenset[str]) -> Design:
    """A design in which one load runs all the time and nothing charges it from outside.

    `kept` are the rails of stores that hold energy: links from these stay.
    """
    on = load.model_copy(
        update={
            "when": Anytime(hours=24.0), "kept_apart": False, "once": False, "priority": "must",
        }
    )  # fmt: skip
    links = tuple(x for x in design.links if x.rail in kept)
    return design.model_copy(update={"loads": (on,), "links": links})


def _loads(context: Context) -> Iterator[CardLoad]:
    network, design = context.network, context.network.design
    kept = frozenset(
        rail.id for rail in network.rails.values() if not network.is_source(rail.store)
    )
    able = {load.id for load in context.analysis.lowered.loads}
    for load in design.loads:
        watts = quantity(running_w(load), "W")
        if load.id not in able:
            yield CardLoad(load.name, watts, "does not run")
            continue
        if network.is_source(network.rails[str(load.rail)].store):
            yield CardLoad(load.name, watts, "while its source is there")
            continue
        run = Context(alone(design, load, kept)).analysis.run
        yield CardLoad(load.name, watts, lasts(run))


def _highest_start(context: Context) -> str:
    """The start that draws most, and what it needs."""
    dips = [dip for dip in context.analysis.dips.values() if dip is not None]
    if not dips:
        return ""
    dip = max(dips, key=lambda x: x.amps)
    return (
        f"{quantity(dip.amps, 'A')} from the battery for a moment, as {dip.load.name} starts while "
        "all else runs"
    )


def _bank(bank: Bank) -> CardBank:
    kind, label = chemistry_of(bank.battery), bank_label(bank)
    shares, cell_v = np.array(kind.ocv).T
    flat = kind.key == "lfp"
    shown = [
        x for x in (*SHOWN, bank.reserve)
        if not (flat and FLAT_FROM < x < FLAT_TO)
    ]  # fmt: skip
    rows = tuple(
        RestedVolts(
            quantity(x, "share", 2),
            quantity(float(np.interp(x, shares, cell_v)) * label.cells, "V", 4),
        )
        for x in sorted(set(shown), reverse=True)
    )
    hours = LITHIUM_RESTS_H if kind.lithium else LEAD_RESTS_H
    note = (
        "Between 20 and 95 % its volts tell nothing: count the Ah from full."
        if flat
        else "Under load or just after charging they tell nothing."
    )
    return CardBank(bank.name, f"{number(hours)} h at rest, nothing on", rows, note)


def _switches(context: Context) -> Iterator[str]:
    """What takes everything off."""
    for one in context.cables.values():
        joined = one.run.joined
        if one.run.kind != "post":
            continue
        if isinstance(joined, BankLeads) and joined.disconnect is not None:
            yield f"Main switch of {one.run.name}"
        else:
            yield f"{one.run.name} has no main switch: pull its main fuse"
    for store in context.network.design.stores:
        if context.network.station(store.id) is not None:
            yield f"Outlets and power button of {store.name}"


def _fuses(context: Context) -> Iterator[str]:
    for one in context.cables.values():
        at = "at its post" if one.run.kind == "post" else "where its cable begins"
        fuse = one.fuse or one.proposal.fuse
        if fuse is not None:
            yield f"{one.run.name}: {quantity(fuse.amps, 'A')}, {at}"
        end = one.end_fuse or one.end_proposal
        if end is not None:
            yield f"{one.run.name}: {quantity(end.amps, 'A')}, at the battery it charges"


def _emergencies(context: Context) -> Iterator[Emergency]:
    """What to do first; common practice. Those that cannot happen here are left out."""
    network = context.network
    kinds = [chemistry_of(bank.battery) for bank in network.held]
    yield Emergency(
        "Smoke or fire",
        "Everybody out; call the fire service. Main switch off only if it can be reached safely.",
    )
    if any(kind.lithium for kind in kinds):
        yield Emergency(
            "A lithium battery swells, hisses or smells sweet",
            "Stop charging, main switch off, get out and air the place. Much water cools a burning "
            "one, from a distance; it may flare up again for hours.",
        )
    if any(not kind.lithium for kind in kinds):
        yield Emergency(
            "Smell of rotten eggs or gas at a lead-acid battery",
            "Stop charging, air the place. No flame, no spark, no switch beside it.",
        )
        yield Emergency(
            "Acid on skin or in the eyes",
            "Rinse with running water for 20 minutes, then see a doctor.",
        )
    if any(rail.kind == "ac" for rail in network.rails.values()):
        yield Emergency(
            "Electric shock",
            "Do not touch whoever holds it: switch off or pull the plug first. Call for help; "
            "resuscitate.",
        )
    burns = (Generator, Vehicle)
    if any(isinstance(store, burns) for store in network.design.stores):
        yield Emergency(
            "Carbon monoxide alarm, headache near an engine",
            "Everybody into fresh air at once; engine off from outside; call for help.",
        )
    if any(True for _ in subjects.inverters(context)):
        yield Emergency(
            "A breaker or fuse opens again and again",
            "Leave it off. Find the fault; never fit a larger one.",
        )

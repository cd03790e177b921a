"""Rules about chargers: volts for the chemistry, amps for the bank, what has no end of its own."""

from collections.abc import Iterator
from typing import Final

from graveljar.core.components.battery import bank_label, chemistry_of
from graveljar.core.components.charging import hold_volts, usual_volts
from graveljar.core.context import Context
from graveljar.core.limits import exceeds
from graveljar.core.model import Bank, Charger, Link, Mains
from graveljar.core.model.patch import Edit
from graveljar.core.rules.finding import Finding, Remedy, Rule
from graveljar.core.tables.chemistry import OVER_FULL_LEAD, OVER_FULL_LITHIUM
from graveljar.core.text import beyond, number, quantity

# So far below the usual volts a bank does not get full. Ours. [1]
TOO_LOW: Final = 0.02
# Share of the full volts at which lithium may be held for long: 13.5 of 14.6 V. Common practice.
FLOAT_SHARE: Final = 0.93
# Volts that lead-acid wants more, for each cell and degree below 25 °C: 3 to 5 mV. Common practice.
COMPENSATION_V: Final = 0.004
COMPENSATED_FROM_C: Final = 25.0
# So many degrees from there it matters. Ours. [K]
COMPENSATED_K: Final = 10.0


def chargers_of(context: Context) -> Iterator[tuple[int, Link, Charger, Bank]]:
    """Each link with a charger into a bank: its place in the document, itself, both."""
    banks = context.network.banks_by_id
    for place, link in enumerate(context.network.design.links):
        if link.charger is not None and link.to in banks:
            yield place, link, link.charger, banks[link.to]


def _set_to(place: int, volts: float, says: str) -> Remedy:
    edit = Edit("replace", f"/links/{place}/charger/hold_v", round(volts, 1))
    return Remedy(f"Set it to {quantity(round(volts, 1), 'V')}, {says}.", (edit,))


def wrong_volts(context: Context) -> Iterator[Finding]:
    """`charger.volts_high`, `charger.volts_low`: it holds volts that do not suit the chemistry."""
    for place, link, charger, bank in chargers_of(context):
        kind, rest = chemistry_of(bank.battery), bank_label(bank)
        holds, usual = hold_volts(bank, charger), usual_volts(bank)
        over = OVER_FULL_LITHIUM if kind.lithium else OVER_FULL_LEAD
        most_v = kind.full_v * rest.cells * (1 + over)
        remedy = _set_to(place, usual, "usual for this battery; its maker's figure goes first")
        if exceeds(holds, most_v):
            held, limit = beyond(holds, most_v, "V")
            yield Finding(
                "charger.volts_high",
                "stop",
                link.id,
                f"The charger of {bank.name} holds {held}; {limit} is its highest",
                (
                    "More volts than the cells are made for overcharge them: lithium plates or "
                    "its protection opens, lead-acid boils dry."
                ),
                (f"store.{bank.id}.full_v",),
                (remedy,),
                ("trade",),
            )
        elif holds < usual * (1 - TOO_LOW):
            held, needs = beyond(holds, usual, "V")
            sulphates = "" if kind.lithium else " Lead-acid that is never full sulphates."
            yield Finding(
                "charger.volts_low",
                "watch" if kind.lithium else "fix",
                link.id,
                f"The charger of {bank.name} holds {held}; full takes {needs}",
                f"The bank takes ever less before it is full, and stays below it.{sulphates}",
                (f"store.{bank.id}.full_v",),
                (remedy,),
                ("trade",),
            )


def other_profile(context: Context) -> Iterator[Finding]:
    """`charger.other_profile`: lithium on a setting for lead-acid, or the other way round.

    Two schools for LFP on an AGM setting of 14.4 V: fine, and never.
    """
    for place, link, charger, bank in chargers_of(context):
        kind = chemistry_of(bank.battery)
        right = "lithium" if kind.lithium else ("flooded" if kind.vented else "AGM")
        suits = ("AGM", "gel") if right == "AGM" else (right,)
        if charger.profile == "set by hand" or charger.profile in suits:
            continue
        if charger.kind == "alternator":
            continue
        reason = (
            "A profile for lead-acid floats the battery at full, may equalise it at 15 V or more, "
            "and may shift its volts with the temperature: wrong for lithium. Some use the AGM "
            "setting without trouble, where equalising and temperature compensation are off."
            if kind.lithium
            else "Another profile has other volts and another end: it does not get full, or gases."
        )
        edit = Edit("replace", f"/links/{place}/charger/profile", right)
        yield Finding(
            "charger.other_profile",
            "fix" if kind.lithium and charger.profile == "flooded" else "watch",
            link.id,
            f"The charger of {bank.name} is set for {charger.profile}; the bank is {kind.name}",
            reason,
            (),
            (Remedy(f"Set its profile to {right}.", (edit,)),),
            ("trade",),
        )


def too_many_amps(context: Context) -> Iterator[Finding]:
    """`charger.above_rate`: all chargers of a bank together give more than it may take."""
    network = context.network
    for bank in network.banks:
        mine = [x for x in chargers_of(context) if x[3].id == bank.id]
        kind, rest = chemistry_of(bank.battery), network.bank_labels[bank.id]
        amps = sum(charger.amps for _, _, charger, _ in mine)
        share = network.assumed[kind.charge_c]
        if not mine or not exceeds(amps, share * rest.ah):
            continue
        if bank.use == "starter" and not kind.lithium:
            # Its alternator could give more than it lets in: it has done so in every vehicle.
            continue
        given, takes = beyond(amps, share * rest.ah, "A")
        place, link, charger, _ = max(mine, key=lambda x: x[2].amps)
        least = share * rest.ah - (amps - charger.amps)
        remedies = [Remedy("Use a smaller charger, or more batteries in parallel.")]
        if least >= 1:
            edit = Edit("replace", f"/links/{place}/charger/amps", float(int(least)))
            remedies.insert(0, Remedy(f"Set it to {quantity(int(least), 'A')}.", (edit,)))
        yield Finding(
            "charger.above_rate",
            "fix",
            link.id,
            f"{bank.name} is charged with {given}; it may take {takes}",
            (
                f"{number(share)}C, {number(share)} times its Ah, is the most for this kind of "
                "battery unless its maker allows more. Beyond that it gets hot, ages, and a "
                "protection may open while it charges, which sends the volts up."
            ),
            (f"store.{bank.id}.ah",),
            tuple(remedies),
            ("trade",),
        )


def no_end(context: Context) -> Iterator[Finding]:
    """`charger.no_end`: an adjustable bench supply holds its volts for ever."""
    for _, link, charger, bank in chargers_of(context):
        if charger.kind != "bench supply":
            continue
        yield Finding(
            "charger.no_end",
            "watch",
            link.id,
            f"The bench supply that charges {bank.name} does not end by itself",
            (
                "Set its volts first, with nothing connected, then its amps. Never leave it "
                "alone. Take it off when little flows, and disconnect the battery before the "
                "supply is switched off: some draw current backwards."
            ),
            (),
            (Remedy("Use a charger with a profile where nobody watches."),),
            ("trade",),
        )


def floats(context: Context) -> Iterator[Finding]:
    """`charger.floats`: lithium that is held near full for ever ages, and gains nothing."""
    for place, link, charger, bank in chargers_of(context):
        kind, cells = chemistry_of(bank.battery), bank_label(bank).cells
        if not kind.lithium or charger.float_v is None:
            continue
        most_v = FLOAT_SHARE * kind.full_v * cells
        if not exceeds(charger.float_v, most_v):
            continue
        held, limit = beyond(charger.float_v, most_v, "V")
        edit = Edit("replace", f"/links/{place}/charger/float_v", round(most_v - 0.05, 1))
        yield Finding(
            "charger.floats",
            "watch",
            link.id,
            f"Once full the charger of {bank.name} holds {held}; for lithium {limit} is plenty",
            (
                "Lithium needs no float charge: held near full it ages. Where the charger must "
                "float, for it carries loads too, lower volts do."
            ),
            (f"store.{bank.id}.full_v",),
            (Remedy(f"Set its float to {quantity(round(most_v - 0.05, 1), 'V')}.", (edit,)),),
            ("trade",),
        )


def compensates(context: Context) -> Iterator[Finding]:
    """`charger.compensates`: volts that follow the temperature, for lead-acid and only for that."""
    ambient_c = context.network.design.setting.ambient_c
    for place, link, charger, bank in chargers_of(context):
        lithium, cells = chemistry_of(bank.battery).lithium, bank_label(bank).cells
        wrong = lithium and charger.compensates == "yes"
        missing = (
            not lithium
            and charger.compensates == "no"
            and abs(ambient_c - COMPENSATED_FROM_C) > COMPENSATED_K
        )
        if not wrong and not missing:
            continue
        shift_v = COMPENSATION_V * cells * (COMPENSATED_FROM_C - ambient_c)
        shift = f"{'+' if shift_v > 0 else '-'}{quantity(abs(shift_v), 'V', 2)}"
        edit = Edit("replace", f"/links/{place}/charger/compensates", "no" if wrong else "yes")
        at = quantity(ambient_c, "°C")
        yield Finding(
            "charger.compensates",
            "watch",
            link.id,
            (
                f"The charger of {bank.name} shifts its volts with the temperature: {shift} at {at}"
                if wrong
                else f"The charger of {bank.name} does not follow the temperature: {shift} at {at}"
            ),
            (
                "Lithium is charged with the same volts in the cold as in the heat."
                if wrong
                else (
                    "Lead-acid wants 3 to 5 mV a cell more for each degree below 25 °C, and less "
                    "above: without that it is never full in the cold, and gases in the heat."
                )
            ),
            (),
            (
                Remedy(
                    "Switch its temperature compensation off."
                    if wrong
                    else "Use one with a sensor on the battery.",
                    (edit,),
                ),
            ),
            ("trade",),
        )


def cannot_keep_up(context: Context) -> Iterator[Finding]:
    """`charger.cannot_keep_up`: less than what is left on draws, though it is never unplugged."""
    network, day = context.network, context.analysis.day
    for s, bank in enumerate(network.stores):
        mine = [x for x in chargers_of(context) if x[3].id == bank.id]
        sources = [network.store(network.rails[x[1].rail].store) for x in mine]
        steady = all(isinstance(x, Mains) and x.times is None for x in sources)
        if not mine or not steady or any(x[1].times is not None for x in mine):
            continue
        mean_w = float(day.given_w[:, s] @ day.hours) / 24.0
        brings_w = sum(x[2].amps * hold_volts(bank, x[2]) for x in mine)
        if not exceeds(mean_w, brings_w):
            continue
        drawn, brought = beyond(mean_w, brings_w, "W")
        yield Finding(
            "charger.cannot_keep_up",
            "fix",
            mine[0][1].id,
            f"{bank.name} gives {drawn} on average; its charger brings {brought}",
            (
                "It runs down with the charger plugged in. A maintainer of an amp or two keeps a "
                "battery full that nothing is connected to; it does not feed loads."
            ),
            (f"store.{bank.id}.usable",),
            (Remedy("Use a charger with more amps, or switch off what is left on."),),
            ("trade",),
        )


def too_many_cells(context: Context) -> Iterator[Finding]:
    """`charger.too_many_cells`: a pack of more cells than a balance charger is made for."""
    for _, link, charger, bank in chargers_of(context):
        cells = bank_label(bank).cells
        if charger.kind != "balance charger" or charger.most_cells is None:
            continue
        if not chemistry_of(bank.battery).lithium or cells > charger.most_cells:
            why = (
                f"{bank.name} has {cells} cells in series; its balance charger takes "
                f"{charger.most_cells}"
            )
            if not chemistry_of(bank.battery).lithium:
                why = f"{bank.name} is lead-acid; a balance charger is for packs of lithium cells"
            yield Finding(
                "charger.too_many_cells",
                "stop",
                link.id,
                why,
                (
                    "It counts the cells at its balance plug and refuses, or takes the pack for "
                    "another one and charges it to other volts."
                ),
                (f"store.{bank.id}.full_v",),
                (Remedy("Use a charger made for this number of cells."),),
                ("trade",),
            )


def load_dump(context: Context) -> Iterator[Finding]:
    """`charger.load_dump`: an alternator whose only battery can switch itself off."""
    for _, link, charger, bank in chargers_of(context):
        if charger.kind != "alternator" or not chemistry_of(bank.battery).lithium:
            continue
        engine = context.network.names[context.network.rails[link.rail].store]
        yield Finding(
            "charger.load_dump",
            "fix",
            link.id,
            f"If the protection of {bank.name} opens, {engine} puts 35 V or more on all around it",
            (
                "An alternator cannot stop at once: without a battery its volts jump, for half a "
                "second or so. A lithium battery's protection opens when it is full, cold or "
                "overloaded; that destroys the alternator's diodes and what is on the same wires."
            ),
            (),
            (
                Remedy(
                    "Keep a lead-acid battery on the alternator, and fill the lithium bank through "
                    "a DC-DC charger."
                ),
            ),
            ("iso-16750-2",),
        )


CHARGER_RULES: Final[tuple[Rule, ...]] = (
    wrong_volts,
    other_profile,
    too_many_amps,
    no_end,
    floats,
    compensates,
    cannot_keep_up,
    too_many_cells,
    load_dump,
)

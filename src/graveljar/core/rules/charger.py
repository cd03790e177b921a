"""Rules about chargers: volts for the chemistry, amps for the bank, what has no end of its own."""

from collections.abc import Iterator
from typing import Final

from graveljar.core.components.battery import bank_label, chemistry_of
from graveljar.core.components.charging import hold_volts, usual_volts
from graveljar.core.components.sunlight import mean_sun
from graveljar.core.context import Context
from graveljar.core.limits import exceeds
from graveljar.core.lowering.lower_stores import daylight
from graveljar.core.model import Bank, Charger, Generator, Link, Sun
from graveljar.core.model.patch import Edit
from graveljar.core.rules.finding import Finding, Remedy, Rule
from graveljar.core.tables.chemistry import OVER_FULL_LEAD, OVER_FULL_LITHIUM
from graveljar.core.text import beyond, number, quantity

# So far below the usual volts a bank does not get full. Ours. [1]
TOO_LOW: Final = 0.02
# Sun that shines nowhere: more than full sun at noon and a quarter. Ours. [kW/m2]
MAX_SUN: Final = 1.25
# Share beyond the label's short-circuit amps that cable and controller are made for: NEC 690.8,
# from memory. [1]
SUN_MARGIN: Final = 1.25
# From so many strings on each has a fuse: NEC 690.9, from memory.
FUSED_STRINGS: Final = 3


def _chargers(context: Context) -> Iterator[tuple[int, Link, Charger, Bank]]:
    banks = context.network.banks_by_id
    for place, link in enumerate(context.network.design.links):
        if link.charger is not None and link.to in banks:
            yield place, link, link.charger, banks[link.to]


def _set_to(place: int, volts: float, says: str) -> Remedy:
    edit = Edit("replace", f"/links/{place}/charger/hold_v", round(volts, 1))
    return Remedy(f"Set it to {quantity(round(volts, 1), 'V')}, {says}.", (edit,))


def wrong_volts(context: Context) -> Iterator[Finding]:
    """`charger.volts_high`, `charger.volts_low`: it holds volts that do not suit the chemistry."""
    for place, link, charger, bank in _chargers(context):
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
    for place, link, charger, bank in _chargers(context):
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
        mine = [x for x in _chargers(context) if x[3].id == bank.id]
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
    for _, link, charger, bank in _chargers(context):
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


def sun_rules(context: Context) -> Iterator[Finding]:
    """`sun.no_sun`, `sun.too_many_hours`, `sun.hot_volts`, `sun.string_fuses`: panels."""
    network = context.network
    for s, store in enumerate(network.design.stores):
        if isinstance(store, Sun):
            yield from _hours(context, store)
            yield from _strings(context, store, s)
    for _, link, charger, bank in _chargers(context):
        source = network.store(network.rails[link.rail].store)
        holds = hold_volts(bank, charger)
        if isinstance(source, Sun) and network.rails[source.id].low_v < holds:
            low, needs = beyond(network.rails[source.id].low_v, holds, "V")
            yield Finding(
                "sun.hot_volts",
                "fix",
                source.id,
                f"Hot, {source.name} gives {low}; {bank.name} is charged up to {needs}",
                (
                    "A controller only steps down: with hot panels nothing flows just when the "
                    "sun is strongest."
                ),
                (),
                (Remedy("Use panels with more volts, or two in series."),),
                ("nec-690",),
            )


def _hours(context: Context, sun: Sun) -> Iterator[Finding]:
    design = context.network.design
    hours, daylight_h = sun.sun_hours[design.week.month - 1], daylight(design)
    noon = mean_sun(hours, daylight_h, 11.5, 12.5)
    if not hours or not daylight_h:
        dark = "the sun does not rise" if not daylight_h else "it has no sun hours"
        yield Finding(
            "sun.no_sun",
            "watch",
            sun.id,
            f"{sun.name} brings nothing: in this month {dark}",
            "The hours and the week are worked out without it.",
            (),
            (Remedy("Choose another month, or another source for the dark time."),),
            ("definition",),
        )
    elif noon > MAX_SUN:
        yield Finding(
            "sun.too_many_hours",
            "fix",
            sun.id,
            f"{number(hours)} sun hours do not fit in {quantity(daylight_h, 'h')} of daylight",
            (
                f"At noon that would be {number(noon)} kW/m²; full sun is about 1. What the week "
                "shows of this panel is too much."
            ),
            (),
            (Remedy("Look up the sun hours of this month on the plane of the panel."),),
            ("trade",),
        )


def _strings(context: Context, sun: Sun, place: int) -> Iterator[Finding]:
    links = [x for x in context.network.design.links if x.rail == sun.id]
    if sun.parallel < FUSED_STRINGS or all(x.fuse is not None for x in links):
        return
    amps = SUN_MARGIN * 1.25 * sun.panel.isc_a
    yield Finding(
        "sun.string_fuses",
        "fix",
        sun.id,
        f"{sun.parallel} strings of panels side by side, without fuses",
        (
            "From three strings on, the others can push more current into a damaged one than "
            "it withstands. Each string needs a DC fuse of about "
            f"{quantity(amps, 'A')}, and all of them a disconnect."
        ),
        (),
        (Remedy("Put a fuse made for solar panels into each string."),),
        ("nec-690",),
    )


def generator_rules(context: Context) -> Iterator[Finding]:
    """`generator.overloaded`, `generator.wants_sine`: its load, and its wave."""
    network, analysis = context.network, context.analysis
    for s, store in enumerate(network.design.stores):
        if not isinstance(store, Generator):
            continue
        asked = analysis.demand.asked[store.id].watts
        most_w = network.assumed["inverter_most_share"] * store.watts
        if exceeds(asked, most_w):
            drawn, should = beyond(asked, most_w, "W")
            yield Finding(
                "generator.overloaded",
                "fix",
                store.id,
                f"{drawn} are drawn from {store.name}; it should carry {should} at most",
                (
                    "A small generator holds its rating for minutes. Above four fifths of it its "
                    "volts sag, it gets hot, and a charger that sees the volts fall switches off."
                ),
                (),
                (Remedy("Use a smaller charger, fewer loads at a time, or a larger generator."),),
                ("trade-80",),
            )
        chargers = [x.name for x in network.design.links if x.rail == store.id]
        if store.waveform != "pure sine" and chargers:
            edit = Edit("replace", f"/stores/{s}/waveform", "pure sine")
            yield Finding(
                "generator.wants_sine",
                "watch",
                store.id,
                f"{chargers[0]} may not work from the wave of {store.name}",
                (
                    "Chargers want low distortion, about 10 % or less: from a plain generator some "
                    "refuse, hum, or charge with less than their amps."
                ),
                (),
                (Remedy("Use an inverter generator, which gives a sine wave.", (edit,)),),
                ("trade",),
            )


def controller_amps(context: Context) -> Iterator[Finding]:
    """`sun.controller_small`: the panels can push more than the controller is made for."""
    for place, link, charger, _ in _chargers(context):
        source = context.network.store(context.network.rails[link.rail].store)
        if not isinstance(source, Sun) or charger.kind != "PWM controller":
            continue
        most_a = SUN_MARGIN * source.panel.isc_a * source.parallel
        if not exceeds(most_a, charger.amps):
            continue
        pushed, rated = beyond(most_a, charger.amps, "A")
        edit = Edit("replace", f"/links/{place}/charger/amps", float(int(most_a) + 1))
        yield Finding(
            "sun.controller_small",
            "fix",
            link.id,
            f"{source.name} can push {pushed} through a controller of {rated}",
            "A PWM controller passes the panels' whole current: 1.25 times the short-circuit amps.",
            (),
            (Remedy(f"Use a controller of {quantity(int(most_a) + 1, 'A')}.", (edit,)),),
            ("nec-690",),
        )


CHARGER_RULES: Final[tuple[Rule, ...]] = (
    wrong_volts,
    other_profile,
    too_many_amps,
    no_end,
    sun_rules,
    generator_rules,
    controller_amps,
)

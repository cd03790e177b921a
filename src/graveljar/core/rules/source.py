"""Rules about panels, generators and mains: sun that cannot be, hot panels, fuses, load, wave."""

from collections.abc import Iterator
from typing import Final

from graveljar.core.components.charging import hold_volts
from graveljar.core.components.sunlight import mean_sun
from graveljar.core.context import Context
from graveljar.core.limits import exceeds
from graveljar.core.lowering.lower_stores import daylight
from graveljar.core.model import Generator, Mains, Sun
from graveljar.core.model.patch import Edit
from graveljar.core.rules.charger import chargers_of
from graveljar.core.rules.finding import Finding, Remedy, Rule
from graveljar.core.text import beyond, number, quantity

# Sun that shines nowhere: more than full sun at noon and a quarter. Ours. [kW/m2]
MAX_SUN: Final = 1.25
# Share beyond the label's short-circuit amps that cable and controller are made for: NEC 690.8,
# from memory. [1]
SUN_MARGIN: Final = 1.25
# Share of its amps that a breaker holds for long; common practice. [1]
BREAKER_SHARE: Final = 0.8
# From so many strings on each has a fuse: NEC 690.9, from memory.
FUSED_STRINGS: Final = 3


def sun_rules(context: Context) -> Iterator[Finding]:
    """`sun.no_sun`, `sun.too_many_hours`, `sun.hot_volts`, `sun.string_fuses`: panels."""
    network = context.network
    for s, store in enumerate(network.design.stores):
        if isinstance(store, Sun):
            yield from _hours(context, store)
            yield from _strings(context, store, s)
    for _, link, charger, bank in chargers_of(context):
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
    for place, link, charger, _ in chargers_of(context):
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


def mains_breaker(context: Context) -> Iterator[Finding]:
    """`mains.near_its_breaker`: charging, and what is passed on, near what its socket gives.

    A breaker is for four fifths of its amps for long; above them it trips.
    """
    network, analysis = context.network, context.analysis
    for store in network.design.stores:
        if not isinstance(store, Mains):
            continue
        fed = [x for x in analysis.link_operations.values() if x.source == store.id]
        charging_a = max((x.wanted.source_a for x in fed if x.wanted.watts), default=0.0)
        passed = [x for x in network.inverters if x.transfer == store.id]
        passed_a = sum(analysis.demand.asked[x.id].volt_amps for x in passed) / (
            network.rails[store.id].nominal_v
        )
        amps = charging_a + passed_a
        over = exceeds(amps, store.socket_a)
        if not exceeds(amps, BREAKER_SHARE * store.socket_a) or (over and not passed):
            # What charging alone draws beyond it is told at its link.
            continue
        limit_a = store.socket_a if over else BREAKER_SHARE * store.socket_a
        drawn, gives = beyond(amps, limit_a, "A")
        parts = f"charging {quantity(charging_a, 'A')}, loads {quantity(passed_a, 'A')}"
        yield Finding(
            "mains.near_its_breaker",
            "fix" if over else "watch",
            store.id,
            (
                f"{drawn} are drawn from {store.name}; it gives {gives}"
                if over
                else f"{drawn} are drawn from {store.name}; for long it should give {gives} at most"
            ),
            (
                f"Of that: {parts}. A breaker holds four fifths of its amps for long; beyond its "
                "amps it trips, and everything on it is out."
            ),
            (),
            (
                *_less_charging(context, store, amps - BREAKER_SHARE * store.socket_a),
                Remedy("Run fewer loads while it charges, or use a socket with more amps."),
            ),
            ("trade-80",),
        )


def _less_charging(context: Context, store: Mains, over_a: float) -> Iterator[Remedy]:
    """Set the largest charger on a socket lower by some amps of the socket. [A]"""
    mine = [
        (charger.amps, place, link)
        for place, link, charger, _ in chargers_of(context)
        if context.network.rails[link.rail].store == store.id
    ]
    if not mine:
        return
    amps, place, link = max(mine, key=lambda x: x[0])
    drawn_a = context.analysis.link_operations[link.id].wanted.amps
    fewer = float(int(amps * (1.0 - over_a / drawn_a))) if drawn_a > over_a else 0.0
    if fewer >= 1.0:
        edit = Edit("replace", f"/links/{place}/charger/amps", fewer)
        yield Remedy(f"Set {link.name} to {quantity(fewer, 'A')}.", (edit,))


SOURCE_RULES: Final[tuple[Rule, ...]] = (
    sun_rules,
    generator_rules,
    controller_amps,
    mains_breaker,
)

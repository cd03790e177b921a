"""Every caution, in order of danger, and what in a design each is tied to. Common practice."""

import re
from collections.abc import Iterator
from typing import Final

from graveljar.core.bank import chemistry_of
from graveljar.core.cautions.caution import Caution, Subjects
from graveljar.core.document import Bank, Station, Vehicle
from graveljar.core.facts import Facts

# Words in the name of a load that keeps an animal alive.
ANIMALS: Final = re.compile(
    r"aquari|terrari|vivari|fish tank|reptile|incubat|hatcher|brooder|air pump|tank heater|kennel",
    re.IGNORECASE,
)
# Lithium is not charged below this; warned of from a little above, for nights are colder. [°C]
FROST_C: Final = 5.0
# Amps from which a terminal that works loose gets hot enough to burn something. Ours. [A]
LARGE_A: Final = 50.0
# Direct current that must not be touched: dry, and in wet places. IEC 61140, from memory. [V]
DRY_TOUCH_V: Final = 60.0
WET_TOUCH_V: Final = 30.0


def _banks(facts: Facts) -> Iterator[str]:
    return (bank.id for bank in facts.banks)


def _held(facts: Facts) -> Iterator[str]:
    return (bank.id for bank in facts.held)


def _inverters(facts: Facts) -> Iterator[str]:
    return (inverter.id for inverter in facts.inverters)


def _touchable(facts: Facts) -> Iterator[str]:
    """Banks above 60 V direct current when full; above 30 V where it may be wet."""
    for bank in facts.banks:
        most_v = WET_TOUCH_V if bank.location == "outside" else DRY_TOUCH_V
        if facts.rests[bank.id].full_v > most_v:
            yield bank.id


def _no_bms(facts: Facts) -> Iterator[str]:
    for bank in facts.banks:
        if chemistry_of(bank.battery).lithium and (
            bank.battery.bms_a is None or bank.battery.volts < 5.0
        ):
            yield bank.id


def _vented(facts: Facts) -> Iterator[str]:
    return (bank.id for bank in facts.banks if chemistry_of(bank.battery).vented)


def _lithium_in_cold(facts: Facts) -> Iterator[str]:
    if facts.design.setting.coldest_c < FROST_C:
        yield from (x.id for x in facts.held if chemistry_of(x.battery).lithium)


def _several(facts: Facts) -> Iterator[str]:
    return (bank.id for bank in facts.banks if bank.series * bank.parallel > 1)


def _fed_stations(facts: Facts) -> Iterator[str]:
    return (link.id for link in facts.design.links if facts.station(link.to) is not None)


def _fed(facts: Facts) -> Iterator[str]:
    return (link.id for link in facts.design.links)


def _converters(facts: Facts) -> Iterator[str]:
    return (x.id for x in facts.converters if x in facts.design.stages)


def _hot(facts: Facts) -> Iterator[str]:
    yield from _converters(facts)
    yield from (x.id for x in facts.inverters if x in facts.design.stages)


def _vehicles(facts: Facts) -> Iterator[str]:
    return (store.id for store in facts.design.stores if isinstance(store, Vehicle))


def _heavy(facts: Facts) -> Iterator[str]:
    if facts.design.setting.place in ("vehicle", "boat"):
        yield from (store.id for store in facts.design.stores if isinstance(store, Bank | Station))


def _medical(facts: Facts) -> Iterator[str]:
    return (load.id for load in facts.design.loads if load.nature == "medical")


def _animals(facts: Facts) -> Iterator[str]:
    return (load.id for load in facts.design.loads if ANIMALS.search(load.name))


def _large(facts: Facts) -> Iterator[str]:
    return (x.run.subject for x in facts.cables.values() if x.lead_a > LARGE_A)


def _series_feeding(facts: Facts) -> Iterator[str]:
    sources = {feeding.source for feeding in facts.feedings.values()}
    return (bank.id for bank in facts.banks if bank.series > 1 and bank.id in sources)


def _fixed(facts: Facts) -> Iterator[str]:
    yield from _banks(facts)
    yield from _inverters(facts)


# What hurts at once first, then what hurts slowly, then what is lost.
CAUTIONS: Final[tuple[tuple[Caution, Subjects], ...]] = (
    (
        Caution(
            "caution.mains", (), "Behind the inverter is mains voltage",
            "It kills like the wall socket does.",
            (
                "Let a licensed electrician do fixed wiring, earthing, neutral bonding and "
                "residual-current protection.",
                "Use sockets and leads made for it; none of them home-made.",
            ),
            ("a licensed electrician",), True,
        ),
        _inverters,
    ),
    (
        Caution(
            "caution.touch_volts", (), "These volts must not be touched",
            "From 60 V direct current on (30 V in wet places) a touch is dangerous, and an arc "
            "does not go out.",
            (
                "Cover every bare part; no terminal within reach of a hand.",
                "Pull the main fuse before working on it, and measure that nothing is left.",
                "Use fuses, switches and connectors rated for these volts of direct current.",
            ),
            ("a licensed electrician",), True,
        ),
        _touchable,
    ),
    (
        Caution(
            "caution.back_feed", (), "Never feed a house through a plug",
            "A lead with two plugs has live pins, and kills those who work on the dead line, "
            "whichever breaker is off.",
            ("Use a transfer switch fitted by an electrician, or plug appliances in one by one.",),
            ("a licensed electrician",), True,
        ),
        _inverters,
    ),
    (
        Caution(
            "caution.short_circuit", (), "A battery can weld a spanner",
            "A short circuit makes an arc that burns hands and eyes, and sets fire to things.",
            (
                "Take off rings and watches; insulate tools; cover the posts you do not work on.",
                "Fit the fuse at the post before anything else; connect it last.",
                "Measure volts and polarity before plugging in.",
            ),
        ),
        _banks,
    ),
    (
        Caution(
            "caution.cells", (), "Bare lithium cells look after nothing",
            "Without protection (a BMS) one cell is overcharged or driven below empty, and burns "
            "later.",
            (
                "Do not use a lithium pack without a BMS.",
                "Building from cells: a fuse for each cell, alike cells, insulation between them, "
                "and somebody beside you who has done it.",
            ),
            ("the maker's manual",),
        ),
        _no_bms,
    ),
    (
        Caution(
            "caution.hydrogen", (), "Flooded batteries give off hydrogen",
            "While charged they fill a room with a gas that explodes at a spark; their acid burns "
            "skin and eyes.",
            (
                "Charge them in a box vented to the outside, never where people live or sleep.",
                "Nothing that sparks above them; goggles and water at hand.",
            ),
            ("the maker's manual",),
        ),
        _vented,
    ),
    (
        Caution(
            "caution.medical", (), "Somebody's health hangs on this",
            "A battery, an inverter, a fuse or a loose plug can fail at night.",
            (
                "Ask the device's maker which power it takes, and the clinician what happens "
                "without.",
                "Have a second plan that needs none of this, and try it.",
                "Try a whole night, with heated parts on, before relying on it.",
            ),
            ("the device maker and a clinician",),
        ),
        _medical,
    ),
    (
        Caution(
            "caution.animals", (), "An animal's life hangs on this",
            "Air, warmth or water that stop for hours kill.",
            ("Have a second plan that needs none of this, and an alarm when power fails.",),
            ("a veterinarian or breeder",),
        ),
        _animals,
    ),
    (
        Caution(
            "caution.frost", (), "No charging of lithium in frost",
            "Charged below 0 °C, cells are damaged for good and may fail dangerously later.",
            (
                "Use a battery with a low-temperature cut, a heater, or wait until it is warm.",
                "Measure at the battery: in the morning it is colder than the air.",
            ),
            ("the maker's manual",),
        ),
        _lithium_in_cold,
    ),
    (
        Caution(
            "caution.over_voltage", (), "Too many volts destroy an input at once",
            "A full battery has more than its nominal volts: “48 V” is up to 58.8 V.",
            (
                "Measure the source full, with no load, before the plug goes in.",
                "Measure polarity at the plug too: centre and outer, plus and minus.",
            ),
            ("the maker's manual",),
        ),
        _fed,
    ),
    (
        Caution(
            "caution.starter_battery", (), "A vehicle's battery must start its engine",
            "What stays on drains it overnight; what draws much overheats the alternator.",
            (
                "Switch by the ignition, or by a charger that knows when the engine runs.",
                "Draw no more than about half of the alternator's rating for long.",
                "A hybrid's or electric car's 12 V side gives 1 to 1.5 kW: ready mode on.",
            ),
            ("the vehicle's maker or workshop",),
        ),
        _vehicles,
    ),
    (
        Caution(
            "caution.crash", (), "Fix what is heavy against a crash",
            "In a crash a battery of 15 kg strikes like half a tonne.",
            (
                "Strap or bolt it to the frame, its posts covered.",
                "Nothing loose above or beside it.",
            ),
            ("the vehicle's maker or workshop",), True,
        ),
        _heavy,
    ),
    (
        Caution(
            "caution.warm_converters", (), "What changes volts gets hot",
            "In a closed cupboard converters and inverters shut down, or burn.",
            (
                "Leave air around them; nothing that burns near.",
                "Feel them after an hour at full load: warm is fine, hot is not.",
                "One without a remote switch drains a starter battery.",
            ),
            ("the maker's manual",),
        ),
        _hot,
    ),
    (
        Caution(
            "caution.terminals", (), "Loose terminals burn",
            "At these amps a few milliohms glow.",
            (
                "Tighten with the torque its maker names; check again after a week.",
                "Crimp lugs with the tool made for them; feel each joint after an hour.",
            ),
            ("the maker's manual",),
        ),
        _large,
    ),
    (
        Caution(
            "caution.first_charge", (), "Stay with it on its first charge",
            "What is wrong with a battery, a charger or a joint shows then.",
            ("Be there, and awake; feel battery, charger, leads and plugs every half hour.",),
        ),
        _held,
    ),
    (
        Caution(
            "caution.alike_batteries", (), "Only alike batteries together",
            "Packs at different charge push a large current through each other; in series the "
            "emptiest is driven below empty.",
            (
                "Same chemistry, volts, capacity and age; at the same charge when first joined.",
                "Mind the maker's limit on series and parallel.",
            ),
            ("the maker's manual",),
        ),
        _several,
    ),
    (
        Caution(
            "caution.packs_in_series", (), "Packs in series: charge them alike",
            "The emptier one runs dry first and is driven below empty by the others.",
            ("Both full before they are joined; each on its own charger.",),
            ("the maker's manual",),
        ),
        _series_feeding,
    ),
    (
        Caution(
            "caution.warranty", (), "An unapproved source may void the warranty",
            "The station's maker may refuse to repair what was fed by something else.",
            ("Ask its maker, and keep the answer.",),
            ("the maker's manual",),
        ),
        _fed_stations,
    ),
    (
        Caution(
            "caution.local_code", (), "What is fixed may be inspected",
            "Fixed wiring, mains, and what stays in a vehicle fall under rules that differ from "
            "place to place. Nothing here says that a design meets them.",
            (
                "Ask what applies where you are, before you buy.",
                "Have fixed and mains wiring done or checked by a licensed electrician.",
            ),
            ("a licensed electrician",), True,
        ),
        _fixed,
    ),
)  # fmt: skip

"""Rules about the bank: protection, current, gas, cold."""

from collections.abc import Iterator
from typing import Final

from graveljar.core.bank import cells_in_series, chemistry_of, temperature_range
from graveljar.core.edit import Edit
from graveljar.core.facts import Facts
from graveljar.core.findings.finding import Finding, Remedy, Rule
from graveljar.core.findings.staggering import keep_largest_apart
from graveljar.core.words import number, quantity

# Label volts further than this from a whole number of cells are unlikely. Ours.
VOLTS_TOLERANCE: Final = 0.08


def current_above_limit(facts: Facts) -> Iterator[Finding]:
    """`bank.current_above_limit`: the protection opens and everything goes dark.

    Design current at the lowest volts, against the limit of one battery times the strings.
    """
    give_a, needs_a = facts.system.rest.give_a, facts.demand.design_a
    if give_a is None or needs_a <= give_a:
        return
    strings = facts.needed.present.by_current or facts.bank.parallel
    remedies = [*keep_largest_apart(facts)]
    if facts.bank.parallel < strings <= 32:
        edit = Edit("replace", "/stores/0/parallel", strings)
        remedies.insert(0, Remedy(f"Use {strings} strings in parallel.", (edit,)))
    yield Finding(
        "bank.current_above_limit",
        "fix",
        facts.bank.id,
        f"The bank must give {quantity(needs_a, 'A')}; it may give {quantity(give_a, 'A')}",
        "With everything running, the batteries' protection opens and all of it stops. "
        "Each string in parallel adds its own limit.",
        ("bank.running_design_a", "bank.running_quick_a", "bank.give_a"),
        tuple(remedies),
        ("trade", "ohm"),
    )


def no_protection(facts: Facts) -> Iterator[Finding]:
    """`bank.no_protection`: a lithium pack without protective electronics is not to be used."""
    battery = facts.bank.battery
    if not chemistry_of(battery).lithium or battery.bms_a is not None:
        return
    yield Finding(
        "bank.no_protection",
        "stop",
        facts.bank.id,
        "A lithium battery without protective electronics (BMS)",
        "Nothing stops a cell from being driven too low, too high or too hot: it can burn. "
        "Do not use it. If it has a BMS, enter the amps it lets through.",
        (),
        (
            Remedy(
                f"Its label says {number(battery.ah)} A: enter that.",
                (Edit("replace", "/stores/0/battery/bms_a", battery.ah),),
            ),
        ),
        ("trade",),
    )


def vented_indoors(facts: Facts) -> Iterator[Finding]:
    """`bank.vented_indoors`: flooded lead-acid gives off hydrogen when charged."""
    if not chemistry_of(facts.bank.battery).vented or facts.bank.location != "living space":
        return
    yield Finding(
        "bank.vented_indoors",
        "stop",
        facts.bank.id,
        "A vented battery in a living space",
        "Flooded lead-acid gives off hydrogen when it is charged; a spark sets it off, and "
        "the acid mist harms. It needs a box vented to the outside.",
        (),
        (
            Remedy(
                "Put it in a box vented to the outside.",
                (Edit("replace", "/stores/0/location", "vented box"),),
            ),
            Remedy(
                "Use sealed batteries (AGM or gel) of the same size.",
                (Edit("replace", "/stores/0/battery/chemistry", "agm"),),
            ),
        ),
        ("trade",),
    )


def lithium_in_frost(facts: Facts) -> Iterator[Finding]:
    """`bank.lithium_in_frost`: charging lithium below 0 °C plates metal inside the cells."""
    ambient_c = facts.design.setting.ambient_c
    if not chemistry_of(facts.bank.battery).lithium or ambient_c >= 0:
        return
    yield Finding(
        "bank.lithium_in_frost",
        "watch",
        facts.bank.id,
        f"Never charge this bank at {number(ambient_c)} °C",
        "Charged below 0 °C, lithium cells are damaged for good and may fail dangerously "
        "later. Taking power out is fine. Use a battery with a low-temperature cut or a "
        "heater, or warm the place before charging.",
        ("bank.temperature_factor",),
        (
            Remedy(
                "Keep the batteries where it stays at 5 °C or more.",
                (Edit("replace", "/setting/ambient_c", 5.0),),
            ),
        ),
        ("trade",),
    )


def colder_than_known(facts: Facts) -> Iterator[Finding]:
    """`bank.colder_than_known`: the capacity table ends above this temperature."""
    coldest, _ = temperature_range(facts.bank.battery)
    ambient_c = facts.design.setting.ambient_c
    if ambient_c >= coldest:
        return
    yield Finding(
        "bank.colder_than_known",
        "watch",
        facts.bank.id,
        f"No figures are known below {number(coldest)} °C",
        f"Capacity is counted as at {number(coldest)} °C; at {number(ambient_c)} °C there is "
        "less. Treat the hours as too good.",
        ("bank.temperature_factor",),
        (
            Remedy(
                f"Keep the batteries at {number(coldest)} °C or more.",
                (Edit("replace", "/setting/ambient_c", coldest),),
            ),
        ),
        (chemistry_of(facts.bank.battery).capacity_source,),
    )


def unlikely_volts(facts: Facts) -> Iterator[Finding]:
    """`bank.unlikely_volts`: label volts that no number of these cells makes."""
    battery = facts.bank.battery
    kind = chemistry_of(battery)
    cells = cells_in_series(battery)
    likely_v = cells * kind.nominal_v
    if abs(battery.volts - likely_v) <= VOLTS_TOLERANCE * likely_v:
        return
    yield Finding(
        "bank.unlikely_volts",
        "watch",
        facts.bank.id,
        f"{quantity(battery.volts, 'V')} is unlikely for {kind.name}",
        f"A cell has {number(kind.nominal_v)} V; the nearest, {cells} in series, makes "
        f"{quantity(likely_v, 'V')}. Check the label and the chemistry.",
        ("bank.volts",),
        (
            Remedy(
                f"Make it {quantity(likely_v, 'V')}.",
                (Edit("replace", "/stores/0/battery/volts", likely_v),),
            ),
        ),
        ("trade",),
    )


# Danger first, then what stops the work, then habits.
BANK_RULES: Final[tuple[Rule, ...]] = (
    no_protection,
    vented_indoors,
    current_above_limit,
    lithium_in_frost,
    colder_than_known,
    unlikely_volts,
)

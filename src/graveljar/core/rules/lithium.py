"""Rules about lithium batteries: protection, cut-offs, frost, heat, high currents."""

from collections.abc import Iterator
from typing import Final

from graveljar.core.components.battery import chemistry_of, is_tool_pack
from graveljar.core.context import Context
from graveljar.core.limits import exceeds
from graveljar.core.lowering.lower_stores import is_frozen
from graveljar.core.model import Bank, Load
from graveljar.core.model.patch import Edit
from graveljar.core.network.windows import least_input_v
from graveljar.core.rules.finding import Finding, Remedy, Rule
from graveljar.core.rules.remedies import grow_to
from graveljar.core.text import number, quantity

# Warmest at which lithium is charged; common practice. [°C]
MAX_CHARGE_C: Final = 45.0
# Up to here lithium is charged at less than its usual current; common practice. [°C]
COOL_C: Final = 10.0
# Current it may still be charged with then. Ours: its gentle rate. [1/h]
COOL_RATE_C: Final = 0.2
# Above it a tool pack gets hot within minutes; common practice. [1/h]
HIGH_RATE_C: Final = 1.0
# Share held in reserve so that protection is not what stops it every day. Common practice. [1]
RESERVE: Final = 0.1


def _lithium(context: Context) -> Iterator[Bank]:
    return (bank for bank in context.network.banks if chemistry_of(bank.battery).lithium)


def no_protection(context: Context) -> Iterator[Finding]:
    """`bank.no_protection`: a lithium pack without protective electronics is not to be used."""
    for bank in _lithium(context):
        if bank.battery.bms_a is not None:
            continue
        yield Finding(
            "bank.no_protection",
            "stop",
            bank.id,
            "A lithium battery without protective electronics (BMS)",
            (
                "Nothing protects a cell from too low or too high a voltage or from heat: it "
                "can burn. Do not use it. If it has a BMS, enter the current it allows."
            ),
            (),
            (Remedy("Enter the current limit of its BMS from the label."),),
            ("trade",),
        )


def no_cut_off(context: Context) -> Iterator[Finding]:
    """`bank.no_cut_off`: a tool pack leaves it to the tool to stop before it is empty."""
    for bank in _lithium(context):
        battery, rest = bank.battery, context.network.bank_labels[bank.id]
        if not is_tool_pack(battery) or battery.low_v is not None:
            continue
        draining = [name for name, cut_v in _cut_outs(context, bank.id) if cut_v < rest.empty_v]
        if not draining:
            continue
        yield Finding(
            "bank.no_cut_off",
            "fix",
            bank.id,
            f"Nothing is known that stops {draining[0]} from emptying {bank.name} completely",
            (
                "Many tool packs leave the cut-off to the tool. Below "
                f"{quantity(rest.empty_v, 'V')} the cells are damaged, and may burn when charged "
                "again. The label or the maker says whether the pack cuts off by itself."
            ),
            (f"store.{bank.id}.usable",),
            (
                Remedy(
                    f"Use a low-voltage disconnect of {quantity(rest.empty_v, 'V')} or more before "
                    "everything it feeds."
                ),
            ),
            ("trade",),
        )


def _cut_outs(context: Context, bank: str) -> Iterator[tuple[str, float]]:
    """What a bank feeds, and the volts at which each stops by itself; 0 if it never does. [V]"""
    network = context.network
    for stage in network.stages:
        if stage.rail == bank:
            yield stage.name, (stage.cut_v or 0.0) if stage.kind == "feed" else least_input_v(stage)
    for load in context.analysis.lowered.loads:
        if load.rail == bank:
            yield load.name, _cut_v(load)
    for link in network.design.links:
        station = network.station(link.to)
        port = station.input(link.input) if station else None
        if link.rail == bank:
            yield link.name, port.accepts.least_v if port else 0.0


def _cut_v(load: Load) -> float:
    return load.window.cut_out_v if load.window is not None else 0.0


def high_rate(context: Context) -> Iterator[Finding]:
    """`bank.high_rate`: a tool pack gives such currents for minutes, not for hours."""
    for bank in _lithium(context):
        ah, needs_a = (
            context.network.bank_labels[bank.id].ah,
            context.analysis.bank_demands[bank.id].design_a,
        )
        if not is_tool_pack(bank.battery) or not exceeds(needs_a, HIGH_RATE_C * ah):
            continue
        yield Finding(
            "bank.high_rate",
            "watch",
            bank.id,
            (
                f"{bank.name} supplies up to {quantity(needs_a, 'A')}, "
                f"{quantity(needs_a / ah, 'C', 2)}"
            ),
            (
                "Tool packs are made for short bursts. Above 1C continuously they get hot, "
                "switch off or age fast, and so do their contacts. Use more packs, or lower the "
                "input setting of what they feed."
            ),
            (f"store.{bank.id}.running_design_a",),
            grow_to(context, bank, needs_a / (HIGH_RATE_C * ah) * bank.parallel)
            or (Remedy("Draw less: lower the input setting of what it feeds."),),
            ("trade",),
        )


def bms_cuts(context: Context) -> Iterator[Finding]:
    """`bank.bms_cuts`: protection is for the day on which all else fails, not for every evening."""
    opened = {x.subject for x in context.analysis.run.events if x.what == "protection opens"}
    for bank in _lithium(context):
        if bank.id not in opened:
            continue
        edit = Edit("replace", f"{context.network.store_path(bank)}/reserve", RESERVE)
        yield Finding(
            "bank.bms_cuts",
            "watch",
            bank.id,
            f"{bank.name} is switched off by its own protection",
            (
                "A BMS is the last line of defence. When it switches off every day, the cells "
                "drift apart, and some batteries wake up only on a charger. Let the inverter, "
                "converters or a disconnect stop first."
            ),
            (f"store.{bank.id}.usable",),
            (
                Remedy(f"Keep {quantity(RESERVE, 'share')} of it in reserve.", (edit,)),
                Remedy("Raise the cut-outs of what it feeds."),
            ),
            ("trade",),
        )


def in_frost(context: Context) -> Iterator[Finding]:
    """`bank.lithium_in_frost`: charging lithium below 0 °C plates metal inside the cells.

    A stop where something charges it and nothing is known that keeps it from that; else a warning
    before somebody does. With a cut-off or a heater no charge flows in frost (`bank.no_charge`).
    """
    network = context.network
    coldest_c = network.design.setting.coldest_c
    for bank in network.held:
        if not is_frozen(bank.battery, coldest_c):
            continue
        mine = [link for link in network.design.links if link.to == bank.id]
        charged = bool(mine)
        stops = all(x.charger is not None and x.charger.cold_cut == "yes" for x in mine)
        if bank.battery.cold_charge != "unknown" or (charged and stops):
            if charged:
                yield _no_charge_in_frost(context, bank, coldest_c)
            continue
        at = network.store_path(bank)
        at = f"{at}/battery/cold_charge" if bank in network.banks else f"{at}/cold_charge"
        yield Finding(
            "bank.lithium_in_frost",
            "stop" if charged else "watch",
            bank.id,
            f"{bank.name} is charged at {number(coldest_c)} °C"
            if charged
            else f"Never charge {bank.name} at {number(coldest_c)} °C",
            (
                "Charging below 0 °C damages lithium cells for good, and they may fail "
                "dangerously later. Discharging is fine. No charge is counted below 0 °C. Ask "
                "the maker whether the battery has a low-temperature cut-off; without one, do "
                "not charge it in the cold."
            ),
            (f"store.{bank.id}.temperature_factor",),
            (
                Remedy(
                    "Its maker states a low-temperature charge cut-off: enter that.",
                    (Edit("replace", at, "cut-off"),),
                ),
                Remedy("Use one with a heater.", (Edit("replace", at, "heater"),)),
            ),
            ("trade",),
        )


def _no_charge_in_frost(context: Context, bank: Bank, coldest_c: float) -> Finding:
    protected = {"cut-off": "Its cut-off", "heater": "Its heater"}.get(
        bank.battery.cold_charge, "The cut-off of its charger"
    )
    return Finding(
        "bank.no_charge",
        "note",
        bank.id,
        f"{bank.name} does not charge at {number(coldest_c)} °C",
        (
            f"{protected} prevents charging below 0 °C: until it is warmer, what arrives "
            "supplies only the loads."
        ),
        (f"store.{bank.id}.temperature_factor",),
        (Remedy("Warm the battery before charging."),),
        ("trade",),
    )


def in_the_cool(context: Context) -> Iterator[Finding]:
    """`bank.lithium_cool`: from 0 to 10 °C lithium is charged with less current."""
    coldest_c = context.network.design.setting.coldest_c
    for bank in _lithium(context):
        fed = [x for x in context.analysis.link_operations.values() if x.link.to == bank.id]
        amps, most_a = (
            sum(x.full.given_a for x in fed),
            COOL_RATE_C * context.network.bank_labels[bank.id].ah,
        )
        if not 0 <= coldest_c < COOL_C or not exceeds(amps, most_a):
            continue
        yield Finding(
            "bank.lithium_cool",
            "watch",
            bank.id,
            f"{bank.name} is charged with {quantity(amps, 'A')} at {number(coldest_c)} °C",
            (
                f"From 0 to {number(COOL_C)} °C a lithium battery must charge more slowly: about "
                f"{quantity(most_a, 'A')}, {number(COOL_RATE_C)}C, unless its maker says "
                "otherwise."
            ),
            (f"store.{bank.id}.temperature_factor",),
            (Remedy("Charge it more slowly, or when it is warmer."),),
            ("trade",),
        )


def in_heat(context: Context) -> Iterator[Finding]:
    """`bank.lithium_in_heat`: lithium is charged up to 45 °C."""
    network = context.network
    hottest_c = network.design.setting.hottest_c
    for bank in network.held:
        charged = any(link.to == bank.id for link in network.design.links)
        lithium = chemistry_of(bank.battery).lithium
        if not charged or not lithium or hottest_c <= MAX_CHARGE_C:
            continue
        yield Finding(
            "bank.lithium_in_heat",
            "fix",
            bank.id,
            f"{bank.name} is charged at {number(hottest_c)} °C; at most {number(MAX_CHARGE_C)} °C "
            "is allowed",
            (
                "Hot lithium cells age fast and swell, and their protection may switch off. The "
                "hours shown do not account for that."
            ),
            (f"store.{bank.id}.temperature_factor",),
            (Remedy(f"Charge it only while it is below {number(MAX_CHARGE_C)} °C."),),
            ("trade",),
        )


LITHIUM_RULES: Final[tuple[Rule, ...]] = (
    no_protection,
    no_cut_off,
    in_frost,
    in_heat,
    in_the_cool,
    high_rate,
    bms_cuts,
)

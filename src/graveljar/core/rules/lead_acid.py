"""Rules about lead-acid: amps it can carry, emptiness, frost, charging that never fills it."""

from collections.abc import Iterator
from typing import Final

from graveljar.core.components.battery import chemistry_of
from graveljar.core.context import Context
from graveljar.core.limits import exceeds
from graveljar.core.model import Bank, Load, Stage
from graveljar.core.model.patch import Edit
from graveljar.core.network.schedule import DAY_H
from graveljar.core.rules.finding import Finding, Remedy, Rule
from graveljar.core.rules.remedies import grow_to
from graveljar.core.tables.dc_windows import usual_window
from graveljar.core.tables.interpolate import between
from graveljar.core.text import listed, number, quantity

# Reserve below which lead-acid counts as run flat. Ours. [1]
FLAT_BELOW: Final = 0.2
# Charge, and the temperature at which the acid freezes then; from memory. [1], [°C]
FREEZES: Final = ((0.0, -7.0), (0.5, -25.0), (1.0, -50.0))
# Volts of six cells while they are equalised: 15.5 to 16; common practice. [V]
EQUALISING_V: Final = 16.0
# A charge from which on a battery counts as used, and as full again. Ours. [1]
USED, FULL = 0.95, 0.98


def _lead_acid(context: Context) -> Iterator[Bank]:
    return (bank for bank in context.network.banks if not chemistry_of(bank.battery).lithium)


def strained(context: Context) -> Iterator[Finding]:
    """`bank.strained`: over 0.5C lead-acid suffers; over 1C it is the wrong battery.

    Its label counts at 0.05C, and it has no electronics that stop it.
    """
    for bank in _lead_acid(context):
        kind, ah = chemistry_of(bank.battery), context.network.bank_labels[bank.id].ah
        needs_a = context.analysis.bank_demands[bank.id].design_a
        if not exceeds(needs_a, kind.strained_c * ah):
            continue
        beyond = exceeds(needs_a, kind.most_c * ah)
        key = f"store.{bank.id}"
        yield Finding(
            "bank.strained",
            "fix" if beyond else "watch",
            bank.id,
            f"{bank.name} must supply {quantity(needs_a, 'A')}, {quantity(needs_a / ah, 'C', 2)}",
            (
                "Above half its capacity in amps (0.5C) a lead-acid battery sags, gives far "
                "less than its label and ages fast; above 1C it should not be used. It has "
                "nothing in it that stops such a current."
            ),
            (f"{key}.running_design_a", f"{key}.running_quick_a"),
            grow_to(context, bank, needs_a / (kind.strained_c * ah) * bank.parallel),
            ("trade",),
        )


def run_flat(context: Context) -> Iterator[Finding]:
    """`bank.run_flat`: lead-acid that nothing disconnects before it is empty."""
    network = context.network
    for bank in _lead_acid(context):
        kind, rest = chemistry_of(bank.battery), network.bank_labels[bank.id]
        if bank.reserve >= FLAT_BELOW or rest.low_v > 0:
            continue
        if not any(
            network.rails[str(x.rail)].store == bank.id for x in context.analysis.lowered.loads
        ):
            continue
        edit = Edit("replace", f"{network.store_path(bank)}/reserve", kind.reserve)
        yield Finding(
            "bank.run_flat",
            "fix",
            bank.id,
            f"Nothing disconnects {bank.name} before it is flat",
            (
                "A flat lead-acid battery loses capacity for good within days. Use a "
                "low-voltage disconnect, and count on half its capacity."
            ),
            (f"store.{bank.id}.usable",),
            (Remedy(f"Keep {quantity(kind.reserve, 'share')} of it in reserve.", (edit,)),),
            ("trade",),
        )


def freezes(context: Context) -> Iterator[Finding]:
    """`bank.freezes`: the acid of an empty battery is nearly water."""
    coldest_c = context.network.design.setting.coldest_c
    _, charge, _, _, _ = context.analysis.run.points()
    for bank in _lead_acid(context):
        least = float(
            charge[:, context.analysis.lowered.place[bank.id]].min(initial=bank.starts_at)
        )
        from_c = between(FREEZES, least)
        if coldest_c >= from_c:
            continue
        yield Finding(
            "bank.freezes",
            "fix",
            bank.id,
            f"{bank.name} freezes: {number(coldest_c)} °C at {quantity(least, 'share', 2)} charge",
            (
                f"At that charge a lead-acid battery freezes from about {number(from_c)} °C "
                "down; ice bursts its case, and a frozen battery must never be charged. A full "
                "one withstands -50 °C."
            ),
            (f"store.{bank.id}.temperature_factor",),
            (Remedy("Keep it fuller, or move it to a warmer place."),),
            ("trade-freezing",),
        )


def equalising(context: Context) -> Iterator[Finding]:
    """`bank.equalising`: flooded cells are equalised at volts that other things do not take."""
    for bank in _lead_acid(context):
        volts = EQUALISING_V / 6 * context.network.bank_labels[bank.id].cells
        if not chemistry_of(bank.battery).vented:
            continue
        hurt = [x.name for x in _on(context, bank.id) if _most_v(x) < volts]
        if not hurt:
            continue
        yield Finding(
            "bank.equalising",
            "note",
            bank.id,
            f"Disconnect {listed(hurt)} before {bank.name} is equalised",
            (
                f"Equalising flooded cells needs up to {quantity(volts, 'V')}, more than "
                f"{'this accepts' if len(hurt) == 1 else 'these accept'}."
            ),
            (f"store.{bank.id}.full_v",),
            (Remedy("Switch off or unplug everything on its rail for that time."),),
            ("trade",),
        )


def _on(context: Context, bank: str) -> Iterator[Stage | Load]:
    """What is connected straight to a bank, or on plain feeds from it."""
    yield from (
        x for x in context.network.stages if x.kind != "feed" and _plain(context, x.rail) == bank
    )
    for load in context.analysis.lowered.loads:
        if _plain(context, str(load.rail)) == bank:
            yield load


def _plain(context: Context, rail: str) -> str:
    """The rail at which the volts of one are made: its own, or that before its feeds."""
    here = context.network.rails[rail]
    while here.source.kind == "feed" and here.parent is not None:
        here = context.network.rails[here.parent]
    return here.id


def _most_v(thing: Stage | Load) -> float:
    if isinstance(thing, Load):
        if thing.window is not None:
            return thing.window.most_v
        return usual_window(thing.supply.volts, thing.nature).most_v
    return thing.accepts.most_v if thing.kind != "feed" else EQUALISING_V * 100


def never_full(context: Context) -> Iterator[Finding]:
    """`bank.never_full`: lead-acid that is charged, and never gets full, sulphates."""
    hours, charge, _, _, _ = context.analysis.run.points()
    for bank in _lead_acid(context):
        mine = charge[:, context.analysis.lowered.place[bank.id]]
        used = (mine < USED).nonzero()[0]
        fed = any(link.to == bank.id for link in context.network.design.links)
        if not fed or not len(used) or hours[-1] - hours[used[0]] < DAY_H:
            continue
        most = float(mine[used[0] :].max())
        if most >= FULL:
            continue
        yield Finding(
            "bank.never_full",
            "watch",
            bank.id,
            f"{bank.name} is charged, but never above {quantity(most, 'share', 2)}",
            (
                "A lead-acid battery that is not full for weeks sulphates and loses capacity "
                "for good. Charge it to the end at least once a week; the last fifth takes "
                "hours."
            ),
            (f"store.{bank.id}.usable",),
            (Remedy("Charge it longer, or use less until it is full."),),
            ("trade",),
        )


LEAD_ACID_RULES: Final[tuple[Rule, ...]] = (strained, run_flat, freezes, never_full, equalising)

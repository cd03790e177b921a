"""Rules about connectors, bus bars, shunts, and how a bank's strings are joined."""

import math
from collections.abc import Iterator
from typing import Final

from graveljar.core.cables.plan import (
    SHUNT_FACTOR,
    PlannedRun,
    bus_bar_for,
    connector_of,
    proposed_connector,
    shunt_for,
    uneven_share,
)
from graveljar.core.components.fuse import MIN_FACTOR, runs_hot
from graveljar.core.context import Context
from graveljar.core.limits import exceeds
from graveljar.core.model import BankLeads
from graveljar.core.model.patch import Edit
from graveljar.core.rules.finding import Finding, Remedy, Rule
from graveljar.core.text import beyond, quantity

# Of a switch that states no DC volts: those of vehicle parts. Ours. [V]
UNSAID_V: Final = 32.0
# A string that takes this much more than its share is worth a word. Ours.
UNEVEN_MATTERS: Final = 1.1
# Sized for so many times what the loads can pull: somebody added up the batteries. Ours.
FAR_TOO_LARGE: Final = 2.0


def _larger_connector(one: PlannedRun) -> tuple[Remedy, ...]:
    proposed = proposed_connector(one)
    edit = Edit("replace", f"{one.run.path}/connector", proposed.key)
    return (Remedy(f"Use {proposed.name} in its place.", (edit,)),)


def connector(context: Context) -> Iterator[Finding]:
    """A connector carries more than its class, or gets hot: `connector.above_class`, `.runs_hot`.

    A socket of 10 A is rated for 8 A continuously.
    """
    for one in context.cables.values():
        found = connector_of(one)
        if found is None or found.amps is None or not runs_hot(one.lead_a, found.amps):
            continue
        above = exceeds(one.lead_a, found.amps)
        yield Finding(
            "connector.above_class" if above else "connector.runs_hot",
            "fix" if above else "watch",
            one.run.subject,
            f"The connector ({found.name}) at {one.run.name} carries "
            f"{quantity(one.lead_a, 'A')}",
            "Its contacts and shell melt, and may burn." if above else
            "Above 80 % of its rating it gets hot; its contacts age and then get hotter still. Use "
            "the next size, or split the current over two fused cables.",
            (f"cable.{one.run.subject}.lead_a",),
            _larger_connector(one),
            ("trade-fuse",),
        )  # fmt: skip


def bars(context: Context) -> Iterator[Finding]:
    """A bus bar or shunt below 125 %: `bus_bar.too_small`, `shunt.too_small`."""
    for one in context.cables.values():
        joined, design_a = one.run.joined, one.run.amps.design
        if joined is None:
            continue
        bar, shunt = bus_bar_for(design_a), shunt_for(design_a)
        for code, what, field, amps, wanted, times in (
            ("bus_bar.too_small", "bus bar", "bus_bar_a", joined.bus_bar_a, bar, MIN_FACTOR),
            ("shunt.too_small", "shunt", "shunt_a", joined.shunt_a, shunt, SHUNT_FACTOR),
        ):
            if amps is None or not exceeds(times * design_a, amps):
                continue
            remedy = Remedy("Split the system over two of them.")
            if wanted is not None:
                edit = Edit("replace", f"{one.run.path}/{field}", wanted)
                remedy = Remedy(f"Use one of {quantity(wanted, 'A')}.", (edit,))
            rated, flows = beyond(amps, design_a, "A")
            yield Finding(
                code,
                "fix",
                one.run.subject,
                (
                    f"The {what} of {one.run.name} is rated for {rated}; {flows} can flow "
                    "continuously"
                ),
                (
                    f"Choose one rated for {quantity(times, 'share')} of that or more: a hot one "
                    "ages, and a hot shunt reads wrong."
                ),
                (f"cable.{one.run.subject}.design_a",),
                (remedy,),
                ("trade-fuse",),
            )


def _banks(context: Context) -> Iterator[tuple[PlannedRun, BankLeads]]:
    for one in context.cables.values():
        if isinstance(one.run.joined, BankLeads):
            yield one, one.run.joined


def disconnect(context: Context) -> Iterator[Finding]:
    """The main switch of a bank: `disconnect.none`, `.too_small`, `.volts_too_low`.

    It opens the bank's full volts of direct current while current flows.
    """
    for one, leads in _banks(context):
        switch, run, full_v = leads.disconnect, one.run, one.asked.full_v
        at, wanted_a = f"{run.path}/disconnect", bus_bar_for(run.amps.design)
        new = {"amps": wanted_a, "volts": float(math.ceil(full_v))}
        label = (
            f"Use one for {quantity(wanted_a or 0.0, 'A')} and {quantity(math.ceil(full_v), 'V')}."
        )
        remedies = (Remedy(label, (Edit("add", at, new),)),) if wanted_a else ()
        figures = (f"cable.{run.subject}.design_a", f"cable.{run.subject}.least_bar_a")
        if switch is None:
            yield Finding(
                "disconnect.none", "note", run.subject, f"{run.name} has no main disconnect",
                "A switch at the battery cuts everything off at once, in an emergency or for "
                "work. It must be able to open the full direct voltage under load.",
                figures, remedies or (Remedy("Fit one."),), ("trade",),
            )  # fmt: skip
            continue
        if exceeds(MIN_FACTOR * run.amps.design, switch.amps):
            yield Finding(
                "disconnect.too_small", "fix", run.subject,
                f"The main disconnect of {run.name} is rated for {quantity(switch.amps, 'A')}; "
                f"{quantity(run.amps.design, 'A')} can flow continuously",
                f"Choose one rated for {quantity(MIN_FACTOR, 'share')} of that or more: "
                "otherwise its contacts get hot and weld together.",
                figures, remedies or (Remedy("Split the system over two of them."),), ("trade",),
            )  # fmt: skip
        opens_v = UNSAID_V if switch.volts is None else switch.volts
        if exceeds(full_v, opens_v):
            said = "states no DC volts" if switch.volts is None else (
                f"opens up to {quantity(opens_v, 'V')}"
            )  # fmt: skip
            yield Finding(
                "disconnect.volts_too_low", "stop", run.subject,
                f"The main disconnect of {run.name} {said}; a full battery gives "
                f"{quantity(full_v, 'V')}",
                "Opened under load above its DC rating, its arc does not go out and burns it. "
                "An AC rating does not count here.",
                (), remedies or (Remedy("Use one for these volts."),), ("trade",),
            )  # fmt: skip


def unequal_leads(context: Context) -> Iterator[Finding]:
    """`bank.unequal_leads`: the string with the shortest cables works hardest."""
    for one, leads in _banks(context):
        strings = one.run.strings
        if strings == 1 or leads.longest_m is None:
            continue
        share = uneven_share(context.analysis, one)
        if share * strings < UNEVEN_MATTERS:
            continue
        yield Finding(
            "bank.unequal_leads",
            "watch",
            one.run.subject,
            (
                f"The battery with the shortest cables gives {quantity(share, 'share', 2)} of "
                f"the current; its fair share is {quantity(1 / strings, 'share', 2)}"
            ),
            (
                "It is emptied first, charged most and ages first, and its protection opens "
                "first. Cut the cables of all parallel batteries to one length."
            ),
            (f"cable.{one.run.subject}.uneven",),
            (
                Remedy(
                    "Make all of them as long as the shortest one.",
                    (Edit("replace", f"{one.run.path}/longest_m", None),),
                ),
            ),
            ("ohm",),
        )


def one_sided(context: Context) -> Iterator[Finding]:
    """`bank.one_sided`: both leads come off one battery of several in parallel."""
    for one, leads in _banks(context):
        if one.run.strings == 1 or leads.take_off != "from one battery":
            continue
        yield Finding(
            "bank.one_sided",
            "watch",
            one.run.subject,
            f"Both cables of {one.run.name} are connected to one battery",
            (
                "The other batteries feed through the links between them, and give less. "
                "Connect the positive cable to one end and the negative to the other, or use "
                "bus bars with equal cables, so that they share."
            ),
            (f"cable.{one.run.subject}.lead_a",),
            (
                Remedy(
                    "Connect positive at one end and negative at the other.",
                    (Edit("replace", f"{one.run.path}/take_off", "from both ends"),),
                ),
            ),
            ("trade",),
        )


def sized_by_batteries(context: Context) -> Iterator[Finding]:
    """`bank.sized_by_batteries`: wiring for what the batteries could push, not for the loads."""
    for one, leads in _banks(context):
        run, give_a = one.run, context.network.bank_labels[one.run.subject].give_a
        if context.network.banks_by_id[run.subject].series * run.strings == 1:
            # One battery is not a bank that somebody added up.
            continue
        fuses_a = leads.fuse.amps * run.strings if leads.fuse else 0.0
        largest = max(fuses_a, leads.bus_bar_a or 0.0, leads.shunt_a or 0.0)
        needed_a = MIN_FACTOR * run.amps.design
        if give_a is None or largest < give_a or largest < FAR_TOO_LARGE * needed_a:
            continue
        yield Finding(
            "bank.sized_by_batteries",
            "note",
            run.subject,
            (
                f"{run.name} could supply {quantity(give_a, 'A')}; the loads can draw "
                f"{quantity(run.amps.design, 'A')}"
            ),
            (
                "Loads draw current; batteries do not push it: six 100 A batteries on a 250 A "
                f"inverter are a 250 A system. Wiring for {quantity(needed_a, 'A')} is enough; "
                "thicker does no harm as long as each fuse is no larger than its cable's "
                "rating."
            ),
            (f"cable.{run.subject}.design_a", f"cable.{run.subject}.least_bar_a"),
            (Remedy("When you buy, size it by the loads; what is there may stay."),),
            ("trade",),
        )


JOINT_RULES: Final[tuple[Rule, ...]] = (
    connector,
    bars,
    disconnect,
    unequal_leads,
    one_sided,
    sized_by_batteries,
)

"""Rules about cables: amps they carry, volts they lose, starts they spoil."""

from collections.abc import Iterator
from dataclasses import replace
from functools import partial
from typing import Final

from graveljar.core.analysis.start_dip import dip_of
from graveljar.core.cables.plan import PlannedRun
from graveljar.core.cables.sizing import PARALLEL_MM2, FuseChoice, SizedCable, choose, fuse_for
from graveljar.core.cables.take import resized, take_all
from graveljar.core.context import Context
from graveljar.core.limits import exceeds
from graveljar.core.rules.finding import Finding, Remedy, Rule
from graveljar.core.tables.conductors import AMPACITIES
from graveljar.core.text import beyond, number, quantity

# A start that a cable lets trip this much charge earlier is its fault. Ours.
CHARGE_MATTERS: Final = 0.05
# What lugs, holders and breakers carry at most, whatever their cable does; common practice. [°C]
TERMINALS_C: Final = 90.0


def chosen_of(context: Context) -> Iterator[PlannedRun]:
    """Runs whose size is chosen."""
    return (one for one in context.cables.values() if one.chosen is not None)


def lead_of(one: PlannedRun) -> str:
    """A run in a sentence."""
    if one.run.kind != "post":
        return f"The cable to {one.run.name}"
    return f"The cable of {one.run.name}" if one.run.strings == 1 else (
        f"Each parallel cable of {one.run.name}"
    )  # fmt: skip


def _thicker(one: PlannedRun) -> tuple[Remedy, ...]:
    return _of_size(one, one.fresh.proposed, one.fresh.fuse)


def _of_size(
    one: PlannedRun, proposed: SizedCable | None, fuse: FuseChoice | None
) -> tuple[Remedy, ...]:
    edits = resized(one, proposed, fuse)
    if not edits or proposed is None or fuse is None:
        return (
            Remedy(
                "Split the load, or use a higher system voltage: no common cable carries this "
                "current."
            ),
        )
    return (Remedy(f"Use {sized(proposed, fuse)}.", edits),)


def sized(choice: SizedCable, fuse: FuseChoice) -> str:
    """A size and its fuse in words."""
    kind = fuse.kind.name if fuse.kind else "fuse"
    size = choice.size.name
    what = f"{choice.leads} parallel cables of {size}, each fused" if choice.leads > 1 else size
    return f"{what} with a {kind} of {quantity(fuse.amps, 'A')}"


def under_ampacity(context: Context) -> Iterator[Finding]:
    """`cable.under_ampacity`: it carries more than its rated current."""
    for one in chosen_of(context):
        choice, school = one.chosen, one.conditions.school
        if choice is None:
            continue
        bears_a, key = choice.ampacity_a, f"cable.{one.run.subject}"
        if bears_a is None or not exceeds(one.lead_a, bears_a):
            continue
        carries, bears = beyond(one.lead_a, bears_a, "A")
        yield Finding(
            "cable.under_ampacity",
            "stop",
            one.run.subject,
            f"{lead_of(one)}, {choice.size.name}, carries {carries}; it is rated for {bears}",
            (
                "The insulation overheats, melts and burns. The current is the most that can be "
                "drawn continuously at the lowest voltage."
            ),
            (f"{key}.lead_a", f"{key}.ampacity_a"),
            partial(_thicker, one),
            (AMPACITIES[school].source,),
        )


def unknown_ampacity(context: Context) -> Iterator[Finding]:
    """`cable.unknown_ampacity`: its table has nothing so thin: nothing is known, good or bad."""
    for one in chosen_of(context):
        choice, school = one.chosen, one.conditions.school
        if choice is None or choice.ampacity_a is not None:
            continue
        yield Finding(
            "cable.unknown_ampacity",
            "watch",
            one.run.subject,
            f"The {school} table gives no rating for {choice.size.name} ({one.run.name})",
            (
                f"It carries {quantity(one.lead_a, 'A')}. This table cannot tell whether the "
                "fuse protects it: choose another table, or a size that the table lists."
            ),
            (f"cable.{one.run.subject}.lead_a",),
            partial(_thicker, one),
            (AMPACITIES[school].source,),
        )


def thin_parallel(context: Context) -> Iterator[Finding]:
    """`cable.thin_parallel`: conductors side by side are for thick ones only.

    From 50 mm² on, and all of one length, size and kind (NEC 310.10(G), from memory).
    """
    for one in chosen_of(context):
        choice = one.chosen
        if choice is None or choice.leads == 1 or choice.size.mm2 >= PARALLEL_MM2:
            continue
        yield Finding(
            "cable.thin_parallel",
            "fix",
            one.run.subject,
            f"{choice.leads} parallel cables of {choice.size.name} to {one.run.name}",
            (
                f"Run cables in parallel only from {number(PARALLEL_MM2)} mm² up, all of the "
                "same length, size and kind. Thin ones do not share evenly: one takes more than "
                "its share and overheats. Use one thicker cable."
            ),
            (f"cable.{one.run.subject}.lead_a",),
            partial(_thicker, one),
            ("nec-310-10",),
        )


def hot_terminals(context: Context) -> Iterator[Finding]:
    """`cable.hot_terminals`: lugs and terminals are rated for 90 °C, their cable for more."""
    for one in chosen_of(context):
        choice, conditions = one.chosen, one.conditions
        marked_c = conditions.insulation_c
        if choice is None or marked_c is None or marked_c <= TERMINALS_C:
            continue
        cooler = replace(conditions, insulation_c=TERMINALS_C)
        bears_a = cooler.ampacity_a(choice.size, choice.leads)
        above = choice.ampacity_a is None or exceeds(one.lead_a, choice.ampacity_a)
        if bears_a is None or above or not exceeds(one.lead_a, bears_a):
            continue
        carries, cooler_a = beyond(one.lead_a, bears_a, "A")
        yield Finding(
            "cable.hot_terminals",
            "watch",
            one.run.subject,
            (
                f"{lead_of(one)} carries {carries}; at {number(TERMINALS_C)} °C it is rated for "
                f"{cooler_a}"
            ),
            (
                f"The insulation is rated for {number(marked_c)} °C; most terminals, fuse "
                f"holders and breakers are rated for only 75 or {number(TERMINALS_C)} °C. Check "
                "the marking on yours."
            ),
            (f"cable.{one.run.subject}.lead_a", f"cable.{one.run.subject}.ampacity_a"),
            partial(_thicker, one),
            ("trade-cable",),
        )


def drop_too_large(context: Context) -> Iterator[Finding]:
    """`cable.drop_too_large`: more volts are lost on the way than may be."""
    for one in chosen_of(context):
        run, choice = one.run, one.chosen
        if choice is None or not exceeds(one.way_v, run.may_lose * run.volts):
            continue
        lost, may = beyond(one.way_v / run.volts, run.may_lose, "share", 2)
        key = f"cable.{run.subject}"
        # A run that is within its own share has others before it to thank for.
        remedies = _thicker(one) if exceeds(choice.drop_v, one.asked.drop_v) else ()
        yield Finding(
            "cable.drop_too_large",
            "fix",
            run.subject,
            (
                f"The voltage drop to {run.name} is {quantity(one.way_v, 'V', 2)}, {lost}; the "
                f"limit is {may}"
            ),
            (
                "The drop becomes heat, and devices cut out earlier. Limits: 3 % for inverters, "
                "electronics and critical loads, 10 % for lights; 1 % of it before the first "
                "branch."
            ),
            (f"{key}.way_share", f"{key}.drop_v", f"{key}.ohm"),
            remedies or (Remedy("Use thicker or shorter cables before it."),),
            ("abyc-e-11",),
        )


def start_drops_out(context: Context) -> Iterator[Finding]:
    """`cable.start_drops_out`: the volts lost at the highest start make something cut out."""
    network = context.network
    for store in network.held:
        dip = context.analysis.dips[store.id]
        if dip is None or dip.trips is None or dip.below is None:
            continue
        for one in chosen_of(context):
            run, choice = one.run, one.chosen
            if choice is None or network.rails[run.rail].store != store.id or run.kind == "link":
                continue
            if run.kind == "load" and run.subject not in {
                x.id for x in context.analysis.lowered.loads
            }:
                # It cannot run as it is connected: nothing is lost on the way to it.
                continue
            lost_v = choice.ohm * run.amps.start / run.strings
            if lost_v <= network.assumed["drop_start"] * run.volts:
                continue
            below = _trips_below(context, store.id, run.subject, 0.0)
            if dip.below - below < CHARGE_MATTERS:
                continue
            always = dip.below >= 1
            when = (
                "even from a full battery"
                if always
                else f"below {quantity(dip.below, 'share', 2)} charge"
            )
            better = (
                f"it trips only below {quantity(below, 'share', 2)}" if below else "nothing trips"
            )
            key = f"cable.{run.subject}"
            yield Finding(
                "cable.start_drops_out",
                "fix",
                run.subject,
                f"While {dip.load.name} starts, the cable to {run.name} drops "
                f"{quantity(lost_v, 'V', 2)}",
                f"{network.names[dip.trips]} then trips {when}; without this drop {better}.",
                (f"{key}.start_drop_v", f"{key}.start_a", f"{key}.ohm"),
                _steady(context, one, store.id, below),
                ("ohm",),
            )  # fmt: skip


def _steady(context: Context, one: PlannedRun, store: str, least: float) -> tuple[Remedy, ...]:
    """The thinnest lead with which the start trips hardly earlier than with a lossless one."""
    leads = one.chosen.leads if one.chosen else 1
    for size in one.sizes:
        choice = choose(size, leads, one.asked, one.conditions)
        fuse = fuse_for(choice, one.asked)
        if fuse is None or (one.chosen is not None and choice.ohm >= one.chosen.ohm):
            continue
        if _trips_below(context, store, one.run.subject, choice.ohm) - least < CHARGE_MATTERS:
            return _of_size(one, choice, fuse)
    return (Remedy("Shorten the cable, or add a soft start to what starts."),)


def _trips_below(context: Context, store: str, subject: str, ohm: float) -> float:
    """Charge below which the highest start trips something, were a run of so much resistance."""
    lowered = context.analysis.lowered
    rails, loads, stores = lowered.fresh_records()
    names = [load.id for load in lowered.loads]
    if subject in names:
        loads["ohm"][names.index(subject)] = ohm
    elif subject == store:
        strings = context.cables[subject].run.strings
        stores["leads_ohm"][lowered.place[store]] = ohm / strings
    else:
        rails["ohm"][lowered.place[subject]] = ohm
    changed = replace(lowered, rail_records=rails, load_records=loads, store_records=stores)
    dip = dip_of(replace(context.analysis.demand, lowered=changed), store)
    return 0.0 if dip is None or dip.below is None else dip.below


def not_planned(context: Context) -> Iterator[Finding]:
    """`cable.not_planned`: runs that nobody has chosen a size for."""
    runs = context.cables
    left = [one for one in runs.values() if one.chosen is None]
    if not left:
        return
    what = "No cable is" if len(left) == len(runs) else f"{len(left)} of {len(runs)} cables are not"
    yield Finding(
        "cable.not_planned",
        "note",
        "design",
        f"{what} chosen yet",
        (
            "For a cable that nobody described, 1 % voltage drop is assumed. The Cables "
            "view suggests a size and a fuse for every run, with the working: the smallest "
            "that is enough, and one size up."
        ),
        (),
        lambda: (Remedy("Apply all suggestions.", take_all(runs.values())),),
        ("trade-cable", "assumption"),
    )


CABLE_RULES: Final[tuple[Rule, ...]] = (
    under_ampacity,
    thin_parallel,
    hot_terminals,
    unknown_ampacity,
    drop_too_large,
    start_drops_out,
    not_planned,
)

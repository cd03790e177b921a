"""Rules about cables: amps they bear, volts they lose, starts they spoil."""

from collections.abc import Iterator
from dataclasses import replace
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
# What lugs, holders and breakers bear at most, whatever their cable does; common practice. [°C]
TERMINALS_C: Final = 90.0


def chosen_of(context: Context) -> Iterator[PlannedRun]:
    """Runs whose size is chosen."""
    return (one for one in context.cables.values() if one.chosen is not None)


def lead_of(one: PlannedRun) -> str:
    """A run in a sentence."""
    if one.run.kind != "post":
        return f"The lead to {one.run.name}"
    return f"The lead of {one.run.name}" if one.run.strings == 1 else (
        f"Each string's lead of {one.run.name}"
    )  # fmt: skip


def _thicker(one: PlannedRun) -> tuple[Remedy, ...]:
    return _of_size(one, one.fresh.proposed, one.fresh.fuse)


def _of_size(
    one: PlannedRun, proposed: SizedCable | None, fuse: FuseChoice | None
) -> tuple[Remedy, ...]:
    edits = resized(one, proposed, fuse)
    if not edits or proposed is None or fuse is None:
        return (Remedy("Split the load, or raise the volts: no common cable carries this."),)
    return (Remedy(f"Use {sized(proposed, fuse)}.", edits),)


def sized(choice: SizedCable, fuse: FuseChoice) -> str:
    """A size and its fuse in words."""
    kind = fuse.kind.name if fuse.kind else "fuse"
    size = choice.size.name
    what = f"{choice.leads} leads of {size}, each fused" if choice.leads > 1 else size
    return f"{what} with a {kind} of {quantity(fuse.amps, 'A')}"


def under_ampacity(context: Context) -> Iterator[Finding]:
    """`cable.under_ampacity`: it carries more than its table lets it for long."""
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
            f"{lead_of(one)}, {choice.size.name}, carries {carries}; it bears {bears}",
            "Its insulation gets hotter than it bears, melts and burns. The amps are those that "
            "can be drawn for long at the lowest volts.",
            (f"{key}.lead_a", f"{key}.ampacity_a"),
            _thicker(one),
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
            f"The {school} table names no amps for {choice.size.name} ({one.run.name})",
            f"{quantity(one.lead_a, 'A')} flow through it. Whether its fuse protects it cannot be "
            "judged by this table: choose another table, or a size that it names.",
            (f"cable.{one.run.subject}.lead_a",),
            _thicker(one),
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
            f"{choice.leads} leads of {choice.size.name} side by side to {one.run.name}",
            f"Conductors are laid in parallel from {number(PARALLEL_MM2)} mm² on, all of one "
            "length, size and kind. Of thin ones one takes more than its share, and gets hot "
            "without the others. Use one thicker lead.",
            (f"cable.{one.run.subject}.lead_a",),
            _thicker(one),
            ("nec-310-10",),
        )


def hot_terminals(context: Context) -> Iterator[Finding]:
    """`cable.hot_terminals`: lugs and terminals are good for 90 °C, their cable for more."""
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
            f"{lead_of(one)} carries {carries}; at {number(TERMINALS_C)} °C it bears {cooler_a}",
            f"Its insulation bears {number(marked_c)} °C; most terminals, fuse holders and breakers"
            f" are good for 75 or {number(TERMINALS_C)} °C only. Look at what theirs say.",
            (f"cable.{one.run.subject}.lead_a", f"cable.{one.run.subject}.ampacity_a"),
            _thicker(one),
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
            f"{quantity(one.way_v, 'V', 2)} are lost on the way to {run.name}, "
            f"{lost}; {may} may be",
            "What is lost on the way is heat, and devices drop out earlier. 3 % for inverters, "
            "electronics and what is critical, 10 % for lights, 1 % of it before the first branch.",
            (f"{key}.way_share", f"{key}.drop_v", f"{key}.ohm"),
            remedies or (Remedy("Use thicker or shorter leads before it."),),
            ("abyc-e-11",),
        )


def start_drops_out(context: Context) -> Iterator[Finding]:
    """`cable.start_drops_out`: the volts lost at the worst start make something drop out."""
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
            when = "even from full" if always else f"below {quantity(dip.below, 'share', 2)} charge"
            better = f"only below {quantity(below, 'share', 2)}" if below else "not at all"
            key = f"cable.{run.subject}"
            yield Finding(
                "cable.start_drops_out",
                "fix",
                run.subject,
                f"While {dip.load.name} starts, {quantity(lost_v, 'V', 2)} "
                f"are lost in the lead to {run.name}",
                f"{network.names[dip.trips]} then trips {when}; without this lead's drop "
                f"{better}.",
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
    return (Remedy("Shorten the lead, or give what starts a soft start."),)


def _trips_below(context: Context, store: str, subject: str, ohm: float) -> float:
    """Charge below which the worst start trips something, were a run of so much resistance."""
    lowered = context.analysis.lowered
    rails, loads = lowered.rail_records.copy(), lowered.load_records.copy()
    stores = lowered.store_records.copy()
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
        "A loss of a hundredth of the volts stands for what nobody described. Cables proposes "
        "sizes and fuses for every run, with their working: the smallest that does, and one up.",
        (),
        (Remedy("Take every proposal.", take_all(runs.values())),),
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

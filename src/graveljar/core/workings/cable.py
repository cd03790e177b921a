"""Workings of each cable run: its amps, resistance, drop, heat, ampacity, fuse, short circuit."""

from collections.abc import Callable

from graveljar.core.cables.plan import PlannedRun, uneven_share
from graveljar.core.cables.runs import CableRun, RunCurrents
from graveljar.core.components.cable import ambient_factor, bundle_factor, marked, table_a
from graveljar.core.components.fuse import MIN_FACTOR
from graveljar.core.context import Context
from graveljar.core.model import BankLeads, Feed
from graveljar.core.tables.conductors import AMPACITIES, COPPER_PER_K
from graveljar.core.workings.working import Figures, summed


def keep_cables(figures: Figures, context: Context, asked: Callable[[str], bool]) -> None:
    """Keep the figures of every run, those farthest from a store first: nearer ones add them.

    Of a run of which no figure is asked for, by how their keys begin, its currents alone.
    """
    pulled = RunCurrents(context.analysis)
    wanted = [one for one in context.cables.values() if asked(f"{_key(one.run)}.")]
    for one in reversed(context.cables.values()):
        if one.run.kind == "post" or isinstance(one.run.joined, Feed):
            _keep_added(figures, pulled, one.run)
        else:
            _keep_amps(figures, one.run)
    for one in wanted:
        _keep_lead(figures, context, one)
        if one.choice is not None:
            _keep_conductor(figures, context, one)
            _keep_ampacity(figures, one)
        _keep_rated(figures, one)
        if one.choice is not None:
            _keep_way(figures, one)
        _keep_short(figures, context, one)


def _key(run: CableRun) -> str:
    return f"cable.{run.subject}"


def _keep_amps(figures: Figures, run: CableRun) -> None:
    key, amps = _key(run), run.amps
    volts = figures.put("nominal volts", run.quick_v, "V")
    watts = run.watts or amps.design * run.lowest_v
    figures.add(
        f"{key}.quick_a", f"{run.name}: current at nominal volts", amps.quick, "A",
        "{watts} ÷ {volts}",
        ("definition",), "Without losses and sag; do not size by it.",
        watts=figures.put("watts delivered", amps.quick * run.quick_v, "W"), volts=volts,
    )  # fmt: skip
    figures.add(
        f"{key}.design_a",
        f"{run.name}: current at lowest volts",
        amps.design,
        "A",
        "{watts} ÷ {volts}",
        ("trade",),
        "The most it can draw continuously, with all losses, at the lowest voltage at "
        "which it works.",
        watts=figures.put("watts drawn", watts, "W"),
        volts=figures.put(
            "lowest volts", watts / amps.design if amps.design else run.lowest_v, "V"
        ),
    )
    start_w = run.start_w or amps.start * run.lowest_v
    figures.add(
        f"{key}.start_a",
        f"{run.name}: current at the highest start",
        amps.start,
        "A",
        "{watts} ÷ {volts}",
        ("trade-start",),
        watts=figures.put("watts drawn while something starts", start_w, "W"),
        volts=figures.put(
            "lowest volts", start_w / amps.start if amps.start else run.lowest_v, "V"
        ),
    )


def _keep_added(figures: Figures, pulled: RunCurrents, run: CableRun) -> None:
    """The cables of a bank and a feed carry the current of their rail."""
    key = _key(run)
    fixed, loads, _ = pulled.on_rail(run.subject)
    for end, name, together, value in (
        ("quick_a", "current at nominal volts", loads.quick, run.amps.quick),
        ("design_a", "current at lowest volts", loads.design, run.amps.design),
    ):
        terms = {f"s{i}": figures.term(f"{_key(x)}.{end}", x.name) for i, x in enumerate(fixed)}
        if together or not terms:
            terms["loads"] = figures.put("loads that run together", together, "A")
        expression = summed(terms)
        if run.charge_a and end == "design_a":
            expression = f"max({expression}, {{charge}})"
            terms["charge"] = figures.put("highest charging current", run.charge_a, "A")
        figures.add(
            f"{key}.{end}", f"{run.name}: {name}", value, "A", expression, ("trade",),
            "What the loads can draw; what the batteries could supply does not size the "
            "cable.",
            **terms,
        )  # fmt: skip
    jump = max(run.amps.start - run.amps.design, 0.0)
    figures.add(
        f"{key}.start_a", f"{run.name}: current at the highest start", run.amps.start, "A",
        "{design} + {jump}", ("trade-start",),
        "The load with the highest start starts while all others run.",
        design=figures.term(f"{key}.design_a"), jump=figures.put("more while it starts", jump, "A"),
    )  # fmt: skip


def _keep_lead(figures: Figures, context: Context, one: PlannedRun) -> None:
    key, run = _key(one.run), one.run
    design = figures.term(f"{key}.design_a")
    leads = figures.put("parallel cables", one.leads, "")
    if run.strings == 1:
        figures.add(
            f"{key}.lead_a", f"{run.name}: current of one cable", one.lead_a, "A",
            "{design} ÷ {leads}", ("definition",), design=design, leads=leads,
        )  # fmt: skip
        return
    strings = figures.put("strings", run.strings, "")
    limit_a = context.network.banks_by_id[run.subject].battery.bms_a
    terms = {"design": design, "strings": strings, "one": figures.put("one missing", 1, "")}
    without = "{design} ÷ ({strings} − {one})"
    if limit_a is not None:
        terms["limit"] = figures.put("limit of one battery's protection", limit_a, "A")
        without = f"min({without}, {{limit}})"
    figures.add(
        f"{key}.lead_a", f"{run.name}: current of one battery's cable", one.lead_a, "A",
        f"max({{design}} ÷ {{strings}}, {without}) ÷ {{leads}}", ("assumption",),
        "With one battery missing the others carry its share, up to the limit of their "
        "protection.",
        **terms, leads=leads,
    )  # fmt: skip


def _keep_conductor(figures: Figures, context: Context, one: PlannedRun) -> None:
    key, run, choice = _key(one.run), one.run, one.choice
    if choice is None:
        return
    source = "iec-60228" if choice.size.awg is None else "astm-b258"
    figures.add(
        f"{key}.ohm",
        f"{run.name}: resistance, out and back",
        choice.ohm * 1000,
        "mΩ",
        "{ways} × {length} × {r20} × ({one} + {alpha} × ({c} − {c20})) ÷ {leads}",
        (source,),
        "With the chosen size, or the suggested one.",
        ways=figures.put("conductors, out and back", 2, ""),
        length=figures.put("length, one way", one.cable.length_m, "m"),
        r20=figures.put(
            f"mΩ per metre of {choice.size.name} at 20 °C", choice.size.ohm_per_km, "mΩ/m"
        ),
        one=figures.put("at 20 °C", 1, ""),
        alpha=figures.put("more for each degree", COPPER_PER_K, "1/K"),
        c=figures.put("temperature of the copper", context.network.assumed["copper_c"], "°C"),
        c20=figures.put("of the table", 20, "°C"),
        leads=figures.put("parallel cables", choice.leads, ""),
    )
    ohm = figures.term(f"{key}.ohm")
    thousand = figures.put("milli", 1000, "")
    figures.add(
        f"{key}.drop_v",
        f"{run.name}: voltage drop",
        choice.drop_v,
        "V",
        "{amps} ÷ {strings} × {ohm} ÷ {thousand}",
        ("ohm",),
        "Out and back, with everything on it running.",
        amps=figures.term(f"{key}.design_a"),
        strings=figures.put("strings", run.strings, ""),
        ohm=ohm,
        thousand=thousand,
    )
    figures.add(
        f"{key}.drop_share", f"{run.name}: voltage drop as a share",
        choice.drop_v / run.volts, "share", "{drop} ÷ {volts}", ("definition",),
        drop=figures.term(f"{key}.drop_v"), volts=figures.put("nominal volts", run.volts, "V"),
    )  # fmt: skip
    figures.add(
        f"{key}.heat_w", f"{run.name}: heat", choice.heat_w * run.strings, "W",
        "{drop} × {amps}", ("definition",),
        "In both conductors of all parallel batteries and cables.",
        drop=figures.term(f"{key}.drop_v"), amps=figures.term(f"{key}.design_a"),
    )  # fmt: skip
    figures.add(
        f"{key}.start_drop_v",
        f"{run.name}: voltage drop at the highest start",
        choice.ohm * run.amps.start / run.strings,
        "V",
        "{amps} ÷ {strings} × {ohm} ÷ {thousand}",
        ("ohm",),
        amps=figures.term(f"{key}.start_a"),
        strings=figures.put("strings", run.strings, ""),
        ohm=ohm,
        thousand=thousand,
    )


def _keep_ampacity(figures: Figures, one: PlannedRun) -> None:
    choice, lies = one.choice, one.conditions
    if choice is None or choice.ampacity_a is None:
        return
    table, bears_c = AMPACITIES[lies.school], marked(lies.school, lies.insulation_c)
    in_table_a = table_a(choice.size, lies.school, lies.insulation_c)
    together = lies.counted(choice.leads)
    bundled = bundle_factor(lies.school, together)
    warm = ambient_factor(lies.school, lies.ambient_c, lies.insulation_c)
    figures.add(
        f"{_key(one.run)}.ampacity_a",
        f"{one.run.name}: rated current of a cable of {choice.size.name}",
        choice.ampacity_a, "A", "{table} × {warm} × {bundled}", (table.source,),
        f"By the {lies.school} table, for insulation marked {bears_c:g} °C. A size that "
        "the table does not list counts as the next smaller one that it lists.",
        table=figures.put("of the table", in_table_a or 0.0, "A"),
        warm=figures.put(f"factor for {lies.ambient_c:g} °C ambient temperature", warm, "share"),
        bundled=figures.put(f"factor for {together} conductors together", bundled, "share"),
    )  # fmt: skip


def _keep_rated(figures: Figures, one: PlannedRun) -> None:
    key, run = _key(one.run), one.run
    factor = figures.put("at least", MIN_FACTOR, "")
    figures.add(
        f"{key}.least_fuse_a", f"{run.name}: smallest fuse", MIN_FACTOR * one.lead_a, "A",
        "{factor} × {amps}", ("trade-fuse", "nec-240-6"),
        "The next standard size, and not above the rating of the cable.",
        factor=factor, amps=figures.term(f"{key}.lead_a"),
    )  # fmt: skip
    figures.add(
        f"{key}.least_bar_a", f"{run.name}: smallest bus bar and shunt",
        MIN_FACTOR * run.amps.design, "A", "{factor} × {amps}", ("trade-fuse",),
        factor=factor, amps=figures.term(f"{key}.design_a"),
    )  # fmt: skip


def _keep_way(figures: Figures, one: PlannedRun) -> None:
    key, run = _key(one.run), one.run
    figures.add(
        f"{key}.way_share", f"{run.name}: voltage drop from the source", one.way_v / run.volts,
        "share", "({before} + {own}) ÷ {volts}", ("abyc-e-11",),
        "From the posts, or from the converter that supplies the rail, with everything "
        "running.",
        before=figures.put("drop before it", one.before_v, "V"), own=figures.term(f"{key}.drop_v"),
        volts=figures.put("nominal volts", run.volts, "V"),
    )  # fmt: skip


def _keep_short(figures: Figures, context: Context, one: PlannedRun) -> None:
    key, run, short = _key(one.run), one.run, one.asked.short
    if short.volts is None or short.ohm is None:
        figures.add(
            f"{key}.short_a", f"{run.name}: short-circuit current", one.must_break_a, "A",
            "{amps}", ("trade",), "Electronics limit it.",
            amps=figures.put("passed for a moment", short.amps, "A"),
        )  # fmt: skip
        return
    choice = one.choice
    own = choice.ohm * choice.leads if choice and not one.asked.main else 0.0
    where = "Right behind the main fuse." if one.asked.main else (
        "At the end of its run: nearer to the store the main fuse protects."
    )  # fmt: skip
    figures.add(
        f"{key}.short_a",
        f"{run.name}: short-circuit current that its fuse must interrupt",
        one.must_break_a,
        "A",
        "{volts} ÷ ({before} + {own}) × {thousand}",
        ("ohm",),
        where,
        volts=figures.put("rested volts of the full store", short.volts, "V"),
        before=figures.put("the store and everything before it", short.ohm * 1000, "mΩ"),
        own=figures.put("one cable of its run", own * 1000, "mΩ"),
        thousand=figures.put("milli", 1000, ""),
    )
    if not isinstance(run.joined, BankLeads) or run.joined.longest_m is None:
        return
    _keep_uneven(figures, context, one, run.joined.longest_m)


def _keep_uneven(figures: Figures, context: Context, one: PlannedRun, longest_m: float) -> None:
    run, choice = one.run, one.choice
    if choice is None:
        return
    own = context.network.bank_labels[run.subject].resistance_ohm * run.strings * 1000
    longest = choice.ohm * 1000 * longest_m / one.cable.length_m
    figures.add(
        f"{_key(run)}.uneven",
        f"{run.name}: share of the current in the shortest cable",
        uneven_share(context.analysis, one),
        "share",
        "{one} ÷ ({one} + {others} × ({own} + {short}) ÷ ({own} + {long}))",
        ("ohm",),
        "The current divides by the resistance of battery and cable; the shortest cable "
        "carries most.",
        one=figures.put("it", 1, ""),
        others=figures.put("other batteries in parallel", run.strings - 1, ""),
        own=figures.put("one battery in parallel", own, "mΩ"),
        short=figures.put("the shortest cable", choice.ohm * 1000, "mΩ"),
        long=figures.put("the longest cable", longest, "mΩ"),
    )

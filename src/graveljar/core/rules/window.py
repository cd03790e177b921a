"""Rules about volts: where they damage, never suffice, or strand a share of the store."""

from collections.abc import Callable, Iterator
from functools import partial
from typing import Final

from graveljar.core.analysis.bank_sizing import most_in_series
from graveljar.core.context import Context
from graveljar.core.limits import exceeds
from graveljar.core.model import Converter, Feed, Inverter, Load
from graveljar.core.model.patch import Edit, free_id
from graveljar.core.network.rails import Rail
from graveljar.core.network.standard_sizes import class_volts, inverter_window, regulator_for
from graveljar.core.network.windows import Fit, least_input_v
from graveljar.core.rules.finding import Finding, Remedy, Rule, Severity
from graveljar.core.rules.remedies import grow_to, soft_start
from graveljar.core.tables.touch import DRY_TOUCH_V
from graveljar.core.text import beyond, duration, number, quantity
from graveljar.core.views.joints import Stranded, stranded_by

# Batteries in series that are proposed where their maker names no limit, and volts when full above
# which none is: common practice, IEC 61140 (memory). [V]

_MISFITS: Final[dict[Fit, tuple[str, Severity, str]]] = {
    "above its maximum": ("above_maximum", "stop", "That damages it."),
    "above its output": (
        "above_output",
        "stop",
        "A boost converter passes what is above its output voltage: its loads get all of it.",
    ),
    "never reaches its minimum": (
        "never_starts",
        "fix",
        "What arrives is below its minimum: it does not start.",
    ),
    "other nominal volts": (
        "other_volts",
        "fix",
        "Its nominal voltage lies outside what arrives.",
    ),
}


def volts_differ(context: Context) -> Iterator[Finding]:
    """What arrives at a stage does not fit.

    `inverter.above_maximum`, `.never_starts`, `.other_volts`; `converter.above_maximum`,
    `.never_starts`, `.above_output`. The full-charge
    volts decide: a "48 V" pack stands at 54.6 V when full.
    """
    network = context.network
    for stage in network.stages:
        fit = network.fit_of_stage(stage)
        if isinstance(stage, Feed) or fit == "fits":
            continue
        code, severity, what = _MISFITS[fit]
        parent = network.rails[stage.rail]
        yield Finding(
            f"{stage.kind}.{code}",
            severity,
            stage.id,
            _misfit(stage, parent, fit),
            f"{_when(context, parent)} {quantity(parent.low_v, 'V')} to "
            f"{quantity(parent.high_v, 'V')} arrive; it accepts "
            f"{quantity(least_input_v(stage), 'V')} to {quantity(stage.accepts.most_v, 'V')}. "
            f"{what}",
            _volts_of(parent),
            _misfit_remedies(context, stage, parent),
            ("trade",),
        )


def _misfit(stage: Inverter | Converter, parent: Rail, fit: Fit) -> str:
    """What does not fit, with the figure and the limit."""
    if fit == "above its maximum":
        arrives, accepts = beyond(parent.high_v, stage.accepts.most_v, "V")
        return f"{arrives} arrive at {stage.name}; it accepts {accepts}"
    if fit == "never reaches its minimum":
        arrives, needs = beyond(parent.high_v, least_input_v(stage), "V")
        return f"{stage.name} needs {needs}; at most {arrives} arrive"
    if isinstance(stage, Inverter):
        return f"A {number(stage.nominal_v)} V inverter on {quantity(parent.nominal_v, 'V')}"
    return f"{stage.name}, {quantity(stage.set_v, 'V')} out, on {quantity(parent.nominal_v, 'V')}"


def _when(context: Context, parent: Rail) -> str:
    """When what arrives reaches from its least to its most."""
    if context.network.is_source(parent.store) and parent.parent is None:
        return "With the engine running"
    return "From empty to full charge"


def _volts_of(rail: Rail) -> tuple[str, ...]:
    """Figures of a rail's volts: those of a store; what a stage is set to speaks for itself."""
    if rail.parent is not None:
        return ()
    return tuple(f"store.{rail.id}.{end}" for end in ("volts", "empty_v", "full_v"))


def _misfit_remedies(
    context: Context, stage: Inverter | Converter, parent: Rail
) -> tuple[Remedy, ...]:
    network = context.network
    at = network.stage_path(stage)
    window = inverter_window(parent)
    if isinstance(stage, Converter):
        edits = [Edit("replace", f"{at}/accepts", window), *_no_restart(stage, at)]
        if stage.topology != "buck-boost" and not parent.low_v > stage.set_v:
            edits.insert(0, Edit("replace", f"{at}/topology", "buck-boost"))
        label = f"Use one that makes {quantity(stage.set_v, 'V')} of {quantity(parent.low_v, 'V')}"
        return (Remedy(f"{label} to {quantity(parent.high_v, 'V')}.", tuple(edits)),)
    remedies = []
    bank = next((store for store in network.stores if store.id == stage.rail), None)
    if bank is not None:
        series = max(round(stage.nominal_v / bank.battery.volts), 1)
        full_v = network.bank_labels[bank.id].full_v / bank.series * series
        if (
            series <= most_in_series(bank.battery)
            and series != bank.series
            and full_v <= DRY_TOUCH_V
        ):
            word = "battery" if series == 1 else "batteries"
            edit = Edit("replace", f"{network.store_path(bank)}/series", series)
            remedies.append(Remedy(f"Put {series} {word} in series.", (edit,)))
    class_v = class_volts(parent)
    edits = [
        Edit("replace", f"{at}/nominal_v", class_v),
        Edit("replace", f"{at}/accepts", window),
        *_no_restart(stage, at),
    ]
    label = f"Use a {number(class_v)} V inverter."
    if class_v == stage.nominal_v:
        low, high = quantity(window["least_v"], "V"), quantity(window["most_v"], "V")
        label = f"Use a {number(class_v)} V inverter that accepts {low} to {high}."
    remedies.append(Remedy(label, tuple(edits)))
    return tuple(remedies)


def _no_restart(stage: Inverter | Converter, at: str) -> list[Edit]:
    return [] if stage.restarts_v is None else [Edit("replace", f"{at}/restarts_v", None)]


def strands(context: Context) -> Iterator[Finding]:
    """`window.strands`: it cuts out while much is left in the store.

    The classic: a 12 V fridge that cuts out at 10.5 V on a pack that runs down to 9 V leaves
    a third inside, and the owner thinks the battery is bad.
    """
    network = context.network
    for stage in network.stages:
        if isinstance(stage, Feed):
            continue
        stranded = stranded_by(context, stage.id, network.rails[stage.id].store)
        if stranded is not None:
            yield _strands(
                context, stage, stage.id, stranded, partial(_cut_out_remedies, context, stage)
            )
    for load in context.analysis.lowered.loads:
        rail = str(load.rail)
        stranded = stranded_by(context, load.id, network.rails[rail].store)
        if stranded is not None:
            ways = partial(_strand_remedies, context, load)
            yield _strands(context, load, rail, stranded, ways)


def _strands(
    context: Context,
    thing: Load | Inverter | Converter,
    rail: str,
    stranded: Stranded,
    ways: Callable[[], tuple[Remedy, ...]],
) -> Finding:
    store = context.network.rails[rail].store
    return Finding(
        "window.strands",
        "fix",
        thing.id,
        (
            f"{thing.name} cuts out at {quantity(stranded.at_v, 'V')} after "
            f"{duration(stranded.after_h)}; {quantity(stranded.wh, 'Wh')} above the reserve "
            f"stay unused, {quantity(stranded.share, 'share', 2)} of the bank"
        ),
        (
            "Under the load at that time the voltage falls below its cut-out before the store "
            "is empty."
        ),
        _volts_of(context.network.rails[store]),
        ways,
        ("trade", "ohm"),
    )


def _strand_remedies(context: Context, load: Load) -> tuple[Remedy, ...]:
    network = context.network
    at, rail = network.load_path(load), network.rails[str(load.rail)]
    new = regulator_for(rail, load, free_id(network.design, "regulator"), network.assumed)
    remedies = [
        Remedy(
            f"Put a {number(load.supply.volts)} V regulator (buck-boost) before {load.name}.",
            (
                Edit("add", "/stages/-", new),
                Edit("replace", f"{at}/rail", new["id"]),
            ),
        )
    ]
    window = load.window
    if window is not None and window.cut_out_v > rail.low_v:
        lower = {"cut_out_v": rail.low_v, "restarts_v": None, "most_v": window.most_v}
        remedies.append(
            Remedy(
                "Set its cut-out to the lowest, if it has a setting.",
                (Edit("replace", f"{at}/window", lower),),
            )
        )
    inverter = next((x for x in network.inverters if context.analysis.works(x)), None)
    if inverter is not None:
        edit = Edit("replace", f"{at}/rail", inverter.id)
        remedies.append(Remedy("Run it by its mains adapter from the inverter.", (edit,)))
    return tuple(remedies)


def _cut_out_remedies(context: Context, stage: Inverter | Converter) -> tuple[Remedy, ...]:
    network = context.network
    parent, at = network.rails[stage.rail], network.stage_path(stage)
    store = next(x for x in network.stores if x.id == parent.store)
    remedies = [*grow_to(context, store, store.parallel + 1)]
    if stage.accepts.least_v > parent.low_v and least_input_v(stage) == stage.accepts.least_v:
        window = {"least_v": parent.low_v, "most_v": stage.accepts.most_v}
        edits = [*_no_restart(stage, at), Edit("replace", f"{at}/accepts", window)]
        label = "Set its cut-out to the lowest, if it has a setting."
        remedies.insert(0, Remedy(label, tuple(edits)))
    return tuple(remedies) or (Remedy("Use one that accepts a lower voltage."),)


def collapses(context: Context) -> Iterator[Finding]:
    """`network.collapse`: the power asked has no operating point; the volts fall to nothing."""
    network = context.network
    names = network.names
    seen = set()
    for event in context.analysis.run.events:
        if event.what != "collapses" or event.subject in seen:
            continue
        seen.add(event.subject)
        things = (
            *network.stages,
            *network.design.links,
            *context.analysis.lowered.loads,
        )
        here = next(x.rail for x in things if x.id == event.subject)
        store = next(x for x in network.stores if x.id == network.rails[str(here)].store)
        yield Finding(
            "network.collapse",
            "fix",
            event.subject,
            f"The voltage collapses under {names[event.subject]}",
            (
                "This resistance cannot carry so much power at this voltage: more current only "
                "loses more on the way. Use thicker cable, more batteries in parallel, or a "
                "higher system voltage."
            ),
            (f"store.{store.id}.running_design_a",),
            grow_to(context, store, store.parallel * 2)
            or (Remedy("Use a higher system voltage, or draw less."),),
            ("ohm",),
        )


def _is_said(context: Context, trips: str) -> bool:
    """Whether a start is above the surge of an inverter or the peak of a bank, by their rules."""
    network, analysis = context.network, context.analysis
    start = analysis.demand.asked[trips].start if trips in analysis.demand.asked else None
    inverter = next((x for x in network.inverters if x.id == trips), None)
    if inverter is not None and start is not None:
        return exceeds(start.watts, network.surge_w(inverter))
    peak_a = network.bank_labels[trips].peak_a if trips in network.bank_labels else None
    return peak_a is not None and exceeds(analysis.bank_demands[trips].start_a, peak_a)


def start_trips(context: Context) -> Iterator[Finding]:
    """`start.trips_low`: below some charge the dip of a start trips what feeds it."""
    names = context.network.names
    for store in context.network.stores:
        dip = context.analysis.dips[store.id]
        if dip is None or dip.below is None or dip.trips is None:
            continue
        always = dip.below >= 1
        if always and dip.overloaded and _is_said(context, dip.trips):
            continue
        lower = "at a lower charge the dip goes below a cut-out"
        if dip.overloaded:
            draws = "" if always else "at a lower charge it draws more, and "
            lower = f"{draws}{names[dip.trips]} is overloaded at that moment"
        when = (
            "even from a full battery"
            if always
            else f"below {quantity(dip.below, 'share', 2)} charge"
        )
        yield Finding(
            "start.trips_low",
            "fix" if always else "watch",
            dip.load.id,
            f"The start of {dip.load.name} trips {names[dip.trips]} {when}",
            (
                f"The start draws {quantity(dip.amps, 'A')} and pulls the full bank down to "
                f"{quantity(dip.full_v, 'V')}; {lower}."
            ),
            (f"load.{dip.load.id}.start", f"store.{store.id}.start_a"),
            (*soft_start(context, dip.load), *grow_to(context, store, store.parallel + 1)),
            ("ohm", "trade-start"),
        )


WINDOW_RULES: Final[tuple[Rule, ...]] = (volts_differ, collapses, strands, start_trips)

"""The single changes worth trying on a design, before any of them is worked out."""

from collections.abc import Iterator, Sequence
from typing import Any, Final

from graveljar.core.analysis.bank_sizing import MAX_PARALLEL
from graveljar.core.cables.take import resized
from graveljar.core.context import Context
from graveljar.core.errors import GravelJarError
from graveljar.core.model import Anytime, Converter, Inverter, Load
from graveljar.core.model.patch import Edit
from graveljar.core.network.load_at_rail import via_adapter
from graveljar.core.planning.construction import AddRail, PutRegulator, build
from graveljar.core.planning.improvements.draft import Draft
from graveljar.core.planning.improvements.refill_drafts import refill_drafts
from graveljar.core.planning.shelf import Candidate, InverterPart, spread_from
from graveljar.core.text import number, quantity

# Where a battery gives its label's capacity. [°C]
WARM_C: Final = 20.0
# Devices up to this have a DC rail of their own, if they are connected to adapters. Ours. [V]
DC_BELOW_V: Final = 60.0


def drafts_of(context: Context, shelf: Sequence[Candidate]) -> Iterator[Draft]:
    """Every change worth trying, in the order of the work."""
    yield from _batteries(context, shelf)
    yield from _inverters(context, shelf)
    yield from refill_drafts(context.network.design, shelf)
    yield from _switches(context)
    yield from _standby(context)
    yield from _dc_rails(context)
    yield from _regulators(context)
    yield from _cables(context)
    yield from _warmth(context)
    yield from _measured(context)
    yield from _halved(context)


def _batteries(context: Context, shelf: Sequence[Candidate]) -> Iterator[Draft]:
    for bank in context.network.banks:
        if bank.parallel >= MAX_PARALLEL:
            continue
        more = bank.series
        part = next((x.part for x in shelf if x.part.name == bank.battery.name), None)
        what = "one more battery" if more == 1 else f"{more} more in parallel"
        edit = Edit("replace", f"{context.network.store_path(bank)}/parallel", bank.parallel + 1)
        yield Draft(
            "battery",
            bank.id,
            f"{what.capitalize()} in {bank.name}",
            (edit,),
            "something to buy",
            None if part is None or part.price is None else part.price * more,
            None if part is None or part.mass_kg is None else part.mass_kg * more,
        )


def _inverters(context: Context, shelf: Sequence[Candidate]) -> Iterator[Draft]:
    """The inverter of the shelf that idles least and still does its work."""
    network = context.network
    for stage in network.inverters:
        if stage not in network.design.stages:
            continue
        asked = context.analysis.demand.asked[stage.id]
        start_w = asked.start.watts if asked.start else 0.0
        fitting = [
            candidate
            for candidate in shelf
            if isinstance(candidate.part, InverterPart)
            and candidate.part.figures.nominal_v == stage.nominal_v
            and candidate.part.figures.waveform == "pure sine"
            and candidate.part.figures.idle_w < stage.idle_w
            and max(asked.watts, asked.volt_amps)
            <= network.assumed["inverter_most_share"] * candidate.part.figures.continuous_w
            and start_w <= network.assumed["trusted_surge_factor"]
            * candidate.part.figures.continuous_w
        ]  # fmt: skip
        if not fitting:
            continue
        best = min(fitting, key=lambda x: (x.part.figures.idle_w, x.part.name))  # type: ignore[union-attr]
        part = best.part
        figures: dict[str, Any] = part.figures.model_dump(mode="json")
        at = network.stage_path(stage)
        edits = [Edit("replace", f"{at}/{name}", value) for name, value in figures.items()]
        edits += [
            Edit("replace", f"{at}/name", part.name),
            Edit("replace", f"{at}/provenance", spread_from(part)),
        ]
        label = f"{part.name} instead of {stage.name}"
        yield Draft(
            "inverter", stage.id, label, tuple(edits), "something to buy", part.price, part.mass_kg
        )


def _switches(context: Context) -> Iterator[Draft]:
    network = context.network
    for stage in network.stages:
        if not isinstance(stage, Inverter | Converter) or stage not in network.design.stages:
            continue
        if stage.switched == "always on" and context.analysis.day.idle.get(stage.id, 0.0) > 0:
            edit = Edit("replace", f"{network.stage_path(stage)}/switched", "on with its loads")
            label = f"{stage.name} off while none of its loads is running"
            yield Draft("off", stage.id, label, (edit,), "a switch")


def _standby(context: Context) -> Iterator[Draft]:
    """Loads that keep an inverter awake while they only wait: unplugged, it can sleep."""
    network = context.network
    for stage in network.inverters:
        waiting = [
            (i, load)
            for i, load in enumerate(network.design.loads)
            if load.rail == stage.id and load.standby_w > 0
        ]
        if not waiting or stage not in network.design.stages:
            continue
        edits = tuple(Edit("replace", f"/loads/{i}/standby_w", 0.0) for i, _ in waiting)
        names = ", ".join(load.name for _, load in waiting)
        tail = f", so that {stage.name} can sleep" if stage.sleep is not None else ""
        yield Draft(
            "sleep", stage.id, f"Unplug them when not in use: {names}{tail}", edits, "a habit"
        )


def _dc_rails(context: Context) -> Iterator[Draft]:
    """A rail of their own for DC devices that run through their mains adapters."""
    network = context.network
    groups: dict[float, list[Load]] = {}
    for load in network.design.loads:
        if load.supply.volts <= DC_BELOW_V and via_adapter(load, network.rails):
            groups.setdefault(load.supply.volts, []).append(load)
    bank = next((x.id for x in network.banks), None)
    for volts, loads in sorted(groups.items()):
        if bank is None:
            return
        ask = AddRail(ask="rail", on=bank, volts=volts, loads=tuple(x.id for x in loads))
        try:
            built = build(network.design, ask)
        except GravelJarError:
            continue
        names = ", ".join(load.name for load in loads)
        label = f"A {number(volts)} V rail for {names}, without their adapters"
        off = emptied_off(context, {load.id for load in loads})
        if off:
            label += ", and the inverter off"
        yield Draft("dc rail", built.subject, label, (*built.edits, *off), "an hour's work")


def emptied_off(context: Context, moved: set[str]) -> tuple[Edit, ...]:
    """Edits that switch off each inverter that has nothing left on it once some loads move."""
    network = context.network
    edits = []
    for stage in network.inverters:
        mine = {load.id for load in network.design.loads if load.rail == stage.id}
        feeds = any(link.rail == stage.id for link in network.design.links)
        if stage in network.design.stages and mine and mine <= moved and not feeds:
            edits.append(
                Edit("replace", f"{network.stage_path(stage)}/switched", "on with its loads")
            )
    return tuple(edits)


def _regulators(context: Context) -> Iterator[Draft]:
    """A regulator before what cuts out early."""
    network = context.network
    out = {load.id for load in network.design.loads if context.analysis.run.outs(load.id)}
    for load in network.design.loads:
        if load.id in out and load.supply.kind == "dc":
            built = build(network.design, PutRegulator(ask="regulator", before=load.id))
            label = f"A regulator before {load.name}"
            yield Draft("regulator", load.id, label, built.edits, "an hour's work")


def _cables(context: Context) -> Iterator[Draft]:
    """The proposed size instead of a thinner one."""
    for one in context.cables.values():
        proposed = one.fresh.proposed
        if one.chosen is None or proposed is None or proposed.ohm >= one.chosen.ohm:
            continue
        edits = resized(one, proposed, one.fresh.fuse)
        if edits:
            label = f"{proposed.size.name} to {one.run.name} instead of {one.chosen.size.name}"
            yield Draft("cable", one.run.subject, label, edits, "an hour's work")


def _warmth(context: Context) -> Iterator[Draft]:
    setting = context.network.design.setting
    if setting.ambient_by_hour is None and setting.ambient_c < WARM_C:
        edit = Edit("replace", "/setting/ambient_c", WARM_C)
        label = f"Keep the battery at {quantity(WARM_C, '°C')}"
        yield Draft("warmth", context.network.bank.id, label, (edit,), "an hour's work")


def _measured(context: Context) -> Iterator[Draft]:
    """A measurement instead of a guess: no more hours, a narrower band."""
    for i, load in enumerate(context.network.design.loads):
        if load.provenance == "guess":
            edit = Edit("replace", f"/loads/{i}/provenance", "measured")
            label = f"Measure {load.name}: its watts are a guess"
            yield Draft("measure", load.id, label, (edit,), "a measurement")


def _halved(context: Context) -> Iterator[Draft]:
    for i, load in enumerate(context.network.design.loads):
        if load.count > 1:
            half = Edit("replace", f"/loads/{i}/count", load.count // 2)
            yield Draft("load", load.id, f"Half as many of {load.name}", (half,), "a habit")
        elif isinstance(load.when, Anytime):
            half = Edit("replace", f"/loads/{i}/when/hours", load.when.hours / 2)
            yield Draft("load", load.id, f"{load.name} for half the time", (half,), "a habit")
        else:
            half = Edit("replace", f"/loads/{i}/duty", load.duty / 2)
            yield Draft("load", load.id, f"{load.name} half as often", (half,), "a habit")

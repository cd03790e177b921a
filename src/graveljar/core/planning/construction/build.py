"""From what is asked to the edits that do it, with words for what they do."""

from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import Any, Final

from graveljar.core.components.stage_loss import converter_amps
from graveljar.core.context import Context
from graveljar.core.model import Design, Feed, Inverter, Load
from graveljar.core.model.patch import Edit, apply, as_sent, free_id
from graveljar.core.network.rail_choice import Place, places_of, rail_names
from graveljar.core.network.rails import Rail, rails_of
from graveljar.core.network.standard_sizes import (
    class_volts,
    common_amps,
    common_watts,
    converter_for,
    inverter_window,
    regulator_for,
)
from graveljar.core.planning.construction.asks import (
    AddFeed,
    AddInverter,
    AddLink,
    AddRail,
    AddRefill,
    AddStore,
    Ask,
    FeedLink,
    MoveLoads,
    PutRegulator,
    RemoveStage,
    RemoveStore,
    SupplyLoad,
)
from graveljar.core.planning.construction.built import BuildResult, refused
from graveljar.core.planning.construction.links import add_link, feed_link
from graveljar.core.planning.construction.stores import add_refill, add_store, remove_store
from graveljar.core.tables.assumptions import resolve
from graveljar.core.text import listed, number

# Amps of a converter nothing is connected to yet. Ours. [A]
UNASKED_A = 10.0


def build(design: Design, ask: Ask) -> BuildResult:
    """Work out the edits for what is asked.

    Raises
    ------
    InvalidDocument : it names a thing that is not there, or hangs DC on AC.
    """
    built = _DOES[type(ask)](design, ask)
    return replace(built, edits=as_sent(design, built.edits))


def _rail(design: Design, ask: AddRail) -> BuildResult:
    parent = _dc_rail(design, ask.on)
    new = converter_for(
        parent, ask.volts, UNASKED_A, free_id(design, f"rail-{ask.volts:.3g}-v".replace(".", "-"))
    )
    loads = _chosen(design, ask.loads, new)
    if loads:
        trial = Context(apply(design, [_added(new), *_moves(design, loads, str(new["id"]))]))
        asked = trial.analysis.demand.asked[str(new["id"])]
        start_w = asked.start.watts if asked.start else 0.0
        share = trial.network.assumed["converter_most_share"]
        amps = common_amps(max(asked.watts / share, start_w) / ask.volts / _holds(trial, new))
        new = converter_for(parent, ask.volts, amps, str(new["id"]))
    return _added_with(design, f"add a {number(ask.volts)} V rail", new, loads)


def _holds(trial: Context, new: dict[str, Any]) -> float:
    """Share of its amps a new converter holds at the ambient here. [1]"""
    stage = next(x for x in trial.network.converters if x.id == new["id"])
    return (
        converter_amps(stage, trial.network.design, trial.network.assumed).good_a
        / stage.continuous_a
    )


def _inverter(design: Design, ask: AddInverter) -> BuildResult:
    parent = _dc_rail(design, ask.on)
    nominal_v = class_volts(parent)
    blank = Inverter().model_dump(mode="json") | {
        "id": free_id(design, "inverter"),
        "rail": parent.id,
        "nominal_v": nominal_v,
        "accepts": inverter_window(parent),
        "output_v": design.setting.ac_volts,
        "output_hz": design.setting.ac_hz,
        "provenance": "rule of thumb",
    }
    loads = _chosen(design, ask.loads, blank)
    watts = Inverter().continuous_w
    if loads:
        trial = Context(apply(design, [_added(blank), *_moves(design, loads, str(blank["id"]))]))
        asked = trial.analysis.demand.asked[str(blank["id"])]
        start_w = asked.start.watts if asked.start else 0.0
        surge = trial.network.assumed["trusted_surge_factor"]
        most = max(asked.watts, asked.volt_amps) / trial.network.assumed["inverter_most_share"]
        watts = common_watts(max(most, start_w / surge))
    new = blank | {
        "name": f"Sine inverter {watts:.0f} W {number(nominal_v)} V",
        "continuous_w": watts,
        "surge_w": 2 * watts,
        "idle_w": round(max(watts * 0.011, 4.0)),
    }
    return _added_with(design, "add an inverter", new, loads)


def _feed(design: Design, ask: AddFeed) -> BuildResult:
    parent = _dc_rail(design, ask.on)
    new = Feed(id=free_id(design, "feed"), name="Fused feed", rail=parent.id)
    loads = _named(design, ask.loads or ())
    return _added_with(design, "add a fused feed", new.model_dump(mode="json"), loads)


def _regulator(design: Design, ask: PutRegulator) -> BuildResult:
    (load,) = _named(design, (ask.before,))
    if load.supply.kind == "ac":
        raise refused("/before", f"{load.name} needs AC; a regulator supplies DC.")
    rails = rails_of(design)
    here = rails[load.rail or design.first.id]
    parent = rails[here.store] if here.kind == "ac" else here
    new = regulator_for(parent, load, free_id(design, "regulator"), resolve(design.assumptions))
    return _added_with(design, f"put a regulator before {load.name}", new, (load,))


def _move(design: Design, ask: MoveLoads) -> BuildResult:
    loads = _named(design, ask.loads)
    if ask.to is not None:
        _rail_at(design, ask.to)
        for load in loads:
            if ask.to not in {place.rail for place in places_of(design, load)}:
                raise refused("/to", f"{load.name} needs AC; that rail is DC.")
    names = listed([load.name for load in loads]) if loads else "nothing"
    edits = tuple(_moves(design, loads, ask.to))
    says = _said(apply(design, edits), loads)
    moved = tuple(load.id for load in loads)
    return BuildResult(f"move {names}", says, ask.to or "", moved, edits)


def _supply(design: Design, ask: SupplyLoad) -> BuildResult:
    (load,) = _named(design, (ask.load,))
    supply = load.supply.model_copy(update={"kind": ask.kind})
    places = places_of(design, load.model_copy(update={"supply": supply}))
    edits = [Edit("replace", f"/loads/{design.loads.index(load)}/supply", supply.model_dump())]
    if load.rail is not None and load.rail not in {place.rail for place in places}:
        # To where what it needs arrives, the best first, though its volts may still be others.
        edits += _moves(design, (load,), places[0].rail if places else None)
    says = _said(apply(design, edits), (load,))
    return BuildResult(f"supply {load.name} with {ask.kind.upper()}", says, "", (), tuple(edits))


def _remove(design: Design, ask: RemoveStage) -> BuildResult:
    stage = next((stage for stage in design.stages if stage.id == ask.stage), None)
    if stage is None:
        raise refused("/stage", f"“{ask.stage}” is not a stage here.")
    if ask.loads_to is not None:
        _rail_at(design, ask.loads_to)
    if ask.loads_to == stage.id:
        raise refused("/loads_to", "is what is to be removed.")
    loads = tuple(load for load in design.loads if load.rail == stage.id)
    # Links on it go first, from the last on, so that places hold.
    edits = [
        Edit("remove", f"/links/{i}")
        for i in reversed(range(len(design.links)))
        if design.links[i].rail == stage.id
    ]
    edits += [
        Edit("replace", f"/stages/{i}/rail", stage.rail)
        for i, other in enumerate(design.stages)
        if other.rail == stage.id
    ]
    for load in loads:
        open_to = {place.rail for place in places_of(design, load)}
        to = ask.loads_to if ask.loads_to in open_to else None
        edits += _moves(design, (load,), to)
    edits.append(Edit("remove", f"/stages/{design.stages.index(stage)}"))
    says = _said(apply(design, edits), loads)
    moved = tuple(load.id for load in loads)
    return BuildResult(f"remove {stage.name}", says, stage.rail, moved, tuple(edits))


def _added_with(
    design: Design, label: str, new: dict[str, Any], loads: Sequence[Load]
) -> BuildResult:
    edits = (_added(new), *_moves(design, loads, str(new["id"])))
    says = _said(apply(design, edits), loads)
    return BuildResult(label, says, str(new["id"]), tuple(load.id for load in loads), edits)


def _added(new: dict[str, Any]) -> Edit:
    return Edit("add", "/stages/-", new)


def _moves(design: Design, loads: Sequence[Load], to: str | None) -> list[Edit]:
    return [
        Edit("replace", f"/loads/{i}/rail", to)
        for i, load in enumerate(design.loads)
        if load in loads
    ]


def _said(after: Design, loads: Sequence[Load]) -> tuple[str, ...]:
    """Where each load hangs now, and how that suits it."""
    names = rail_names(rails_of(after))
    told = []
    for load in after.loads:
        if load.id not in {one.id for one in loads}:
            continue
        if load.rail is None:
            told.append(f"{load.name} is not connected now.")
            continue
        here = next(place for place in places_of(after, load) if place.rail == load.rail)
        told.append(f"{load.name} on the {names[load.rail]}: {here.suits}; {here.why}.")
    return tuple(told)


def _chosen(design: Design, asked: tuple[str, ...] | None, new: dict[str, Any]) -> tuple[Load, ...]:
    """The loads asked for; else those that a new stage suits and that have no good place yet."""
    if asked is not None:
        return _named(design, asked)
    after = apply(design, [_added(new)])
    return tuple(load for load in design.loads if _suits_better(after, load, str(new["id"])))


def _suits_better(after: Design, load: Load, new: str) -> bool:
    places: dict[str | None, Place] = {place.rail: place for place in places_of(after, load)}
    there, now = places.get(new), places.get(load.rail)
    return there is not None and there.suits == "fits" and (now is None or now.suits != "fits")


def _named(design: Design, ids: Sequence[str]) -> tuple[Load, ...]:
    known = {load.id: load for load in design.loads}
    for name in ids:
        if name not in known:
            raise refused("/loads", f"“{name}” is not a load here.")
    return tuple(known[name] for name in ids)


def _rail_at(design: Design, rail: str) -> Rail:
    found = rails_of(design).get(rail)
    if found is None:
        raise refused("/on", f"“{rail}” is not a rail here.")
    return found


def _dc_rail(design: Design, rail: str) -> Rail:
    found = _rail_at(design, rail)
    if found.kind == "ac":
        raise refused("/on", f"{found.source.name} supplies AC; this needs DC.")
    if found.inside:
        raise refused("/on", f"{found.source.name} is a station: use one of its outlets.")
    if found.panels:
        raise refused("/on", f"{found.source.name} is a solar panel: use what it fills.")
    return found


_DOES: Final[dict[type, Callable[[Design, Any], BuildResult]]] = {
    AddRail: _rail,
    AddInverter: _inverter,
    AddFeed: _feed,
    PutRegulator: _regulator,
    MoveLoads: _move,
    SupplyLoad: _supply,
    RemoveStage: _remove,
    AddStore: add_store,
    RemoveStore: remove_store,
    AddLink: add_link,
    FeedLink: feed_link,
    AddRefill: add_refill,
}

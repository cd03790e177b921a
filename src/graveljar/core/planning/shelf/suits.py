"""Whether parts of the shelf suit a place in a design, told before one is taken."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from pydantic import ValidationError

from graveljar.core.components.battery import bank_label
from graveljar.core.components.stage_loss import converter_amps
from graveljar.core.components.sunlight import array_watts
from graveljar.core.context import Context
from graveljar.core.errors import InvalidDocument, Problem
from graveljar.core.model import Bank, Converter, Design, Inverter, Link, Stage, Station, Sun
from graveljar.core.model.patch import Edit, apply
from graveljar.core.network.rails import rails_of
from graveljar.core.network.windows import LABEL_TOLERANCE, fit_stage
from graveljar.core.planning.shelf.part import (
    AnyPart,
    BatteryPart,
    ChargerPart,
    PanelPart,
    StationPart,
)
from graveljar.core.planning.shelf.places import StationPlace, carries, other_sockets
from graveljar.core.rules.charger import CHARGER_RULES
from graveljar.core.rules.link import source_side, volts_differ
from graveljar.core.rules.source import SOURCE_RULES
from graveljar.core.text import quantity


@dataclass(frozen=True)
class Candidate:
    """A part of the shelf, by its id."""

    id: str
    part: AnyPart


@dataclass(frozen=True)
class Suitability:
    """Whether a part suits a place, and why."""

    id: str
    suits: bool
    why: str


def suits_of(design: Design, subject: str, shelf: Sequence[Candidate]) -> tuple[Suitability, ...]:
    """Judge every part of the right kind for a place, those that suit first.

    Raises
    ------
    InvalidDocument : `subject` is no store, stage or charger that parts are made for.
    """
    things = {thing.id: thing for thing in (*design.stores, *design.stages, *design.links)}
    thing = things.get(subject)
    if isinstance(thing, Bank):
        found = list(_batteries(design, thing, shelf))
    elif isinstance(thing, Station):
        found = list(_stations(design, thing, shelf))
    elif isinstance(thing, Inverter | Converter):
        found = list(_stages(design, thing, shelf))
    elif isinstance(thing, Link) and thing.charger is not None:
        found = list(_chargers(design, thing, shelf))
    elif isinstance(thing, Sun):
        found = list(_panels(design, thing, shelf))
    else:
        message = f"“{subject}” cannot be a part from the shelf."
        raise InvalidDocument(message, (Problem("/subject", "no_such_part", message),))
    return tuple(sorted(found, key=lambda suit: not suit.suits))


def _stages(
    design: Design, stage: Inverter | Converter, shelf: Sequence[Candidate]
) -> Iterator[Suitability]:
    for candidate in shelf:
        if candidate.part.kind == stage.kind:
            why = _judge(design, stage, _taken(stage, candidate))
            yield Suitability(candidate.id, suits=why.startswith("fits"), why=why)


def _judge(design: Design, stage: Inverter | Converter, taken: Inverter | Converter | None) -> str:
    """Whether a stage with a part's figures does its work: by volts, then running, then starts."""
    if taken is None:
        return "its figures do not match the settings here"
    stages = tuple(taken if x is stage else x for x in design.stages)
    context = Context(design.model_copy(update={"stages": stages}))
    fit = fit_stage(context.network.rails, taken)
    if fit != "fits":
        return f"volts: what arrives is {fit}" if "above" in fit else f"volts: {fit}"
    if isinstance(stage, Converter) and isinstance(taken, Converter) and not _same(taken, stage):
        return f"gives {quantity(taken.set_v, 'V')}"
    asked = context.analysis.demand.asked[stage.id]
    start_w = asked.start.watts if asked.start else asked.watts
    if isinstance(taken, Inverter):
        other = other_sockets(context, taken, taken.id)
        if other is not None:
            return other
        return carries(asked.watts, start_w, taken.continuous_w, context.network.surge_w(taken))
    amps = converter_amps(taken, design, context.network.assumed)
    return carries(asked.watts, start_w, taken.set_v * amps.limit_a, taken.set_v * amps.peak_a)


def _same(taken: Converter, stage: Converter) -> bool:
    """Whether two converters give the same volts, as labels go: 12 V and 12.6 V are one."""
    return abs(taken.set_v - stage.set_v) <= LABEL_TOLERANCE * stage.set_v


def _stations(
    design: Design, station: Station, shelf: Sequence[Candidate]
) -> Iterator[Suitability]:
    """Stations by what they hold, if what is plugged into the one here runs from them."""
    here = StationPlace(design, station)
    for candidate in shelf:
        part = candidate.part
        if isinstance(part, StationPart):
            what = quantity(part.figures.label_wh, "Wh", 4)
            wrong = here.why_not(part.figures)
            if wrong:
                yield Suitability(candidate.id, suits=False, why=f"{what}: {wrong}")
                continue
            adapters = here.adapters(part.figures)
            more = f"; with adapters: {', '.join(adapters)}" if adapters else ""
            yield Suitability(candidate.id, suits=True, why=what + more)


def _batteries(design: Design, bank: Bank, shelf: Sequence[Candidate]) -> Iterator[Suitability]:
    for candidate in shelf:
        part = candidate.part
        if not isinstance(part, BatteryPart):
            continue
        battery = bank.battery.model_copy(update=dict(part.figures))
        changed = bank.model_copy(update={"battery": battery})
        stores = tuple(changed if store is bank else store for store in design.stores)
        after = design.model_copy(update={"stores": stores})
        rails = rails_of(after)
        wrong = [stage.name for stage in _on(after, bank) if fit_stage(rails, stage) != "fits"]
        rest = bank_label(changed)
        what = f"{quantity(rest.nominal_v, 'V')}, {quantity(rest.wh, 'Wh')} in the bank"
        if wrong:
            yield Suitability(
                candidate.id, suits=False, why=f"{what}: its voltage does not fit {wrong[0]}"
            )
        else:
            yield Suitability(candidate.id, suits=True, why=what)


def _chargers(design: Design, link: Link, shelf: Sequence[Candidate]) -> Iterator[Suitability]:
    """Chargers that work from what feeds the link, each tried in it."""
    place = design.links.index(link)
    for candidate in shelf:
        part = candidate.part
        if isinstance(part, ChargerPart):
            figures = part.figures.model_dump(mode="json")
            edit = Edit("replace", f"/links/{place}/charger", figures)
            what = f"{quantity(part.figures.amps, 'A')}, {part.figures.profile}"
            yield from _tried(candidate, design, edit, {link.id}, what)


def _panels(design: Design, sun: Sun, shelf: Sequence[Candidate]) -> Iterator[Suitability]:
    """Panels by what their strings give the controller; each is tried in its place."""
    place = design.stores.index(sun)
    fed = {sun.id} | {link.id for link in design.links if link.rail == sun.id}
    for candidate in shelf:
        part = candidate.part
        if isinstance(part, PanelPart):
            edit = Edit("replace", f"/stores/{place}/panel", part.figures.model_dump(mode="json"))
            all_w = array_watts(sun.model_copy(update={"panel": part.figures}))
            yield from _tried(candidate, design, edit, fed, f"{quantity(all_w, 'W')} in all")


def _tried(
    candidate: Candidate, design: Design, edit: Edit, judged: set[str], what: str
) -> Iterator[Suitability]:
    """Whether a part does its work, by the rules on charging; nothing if it is of another kind."""
    try:
        context = Context(apply(design, (edit,)))
    except ValidationError:
        return
    found = [
        f
        for rule in (volts_differ, source_side, *CHARGER_RULES, *SOURCE_RULES)
        for f in rule(context)
    ]
    mine = [f for f in found if f.subject in judged and f.severity != "note"]
    grave = [f for f in mine if f.severity != "watch"]
    if grave:
        yield Suitability(candidate.id, suits=False, why=grave[0].title)
    elif mine:
        yield Suitability(candidate.id, suits=True, why=f"{what}, with care: {mine[0].title}")
    else:
        yield Suitability(candidate.id, suits=True, why=f"fits; {what}")


def _on(design: Design, bank: Bank) -> Iterator[Stage]:
    return (stage for stage in design.stages if stage.rail == bank.id)


def _taken(stage: Inverter | Converter, candidate: Candidate) -> Inverter | Converter | None:
    """The stage with the part's figures; None if they do not go together with its own."""
    figures = candidate.part.figures.model_dump(mode="json")
    try:
        return type(stage).model_validate(stage.model_dump(mode="json") | figures)
    except ValidationError:
        return None

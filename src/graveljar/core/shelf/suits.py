"""Whether parts of the shelf suit a place in a design, told before one is taken."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from pydantic import ValidationError

from graveljar.core.bank import at_rest
from graveljar.core.document import Bank, Converter, Design, Inverter, Stage
from graveljar.core.errors import InvalidDocument, Problem
from graveljar.core.facts import Facts, gather
from graveljar.core.shelf.part import BatteryPart, ConverterPart, InverterPart
from graveljar.core.tree import rails_of
from graveljar.core.window import fit_stage
from graveljar.core.words import quantity


@dataclass(frozen=True)
class Candidate:
    """A part of the shelf, by its id."""

    id: str
    part: BatteryPart | InverterPart | ConverterPart


@dataclass(frozen=True)
class Suit:
    """Whether a part suits a place, and why."""

    id: str
    suits: bool
    why: str


def suits_of(design: Design, subject: str, shelf: Sequence[Candidate]) -> tuple[Suit, ...]:
    """Judge every part of the right kind for a store or stage, those that suit first.

    Raises
    ------
    InvalidDocument : `subject` is neither a store nor a stage that parts are made for.
    """
    things = {thing.id: thing for thing in (*design.stores, *design.stages)}
    thing = things.get(subject)
    facts = gather(design)
    if isinstance(thing, Bank):
        found = list(_batteries(design, thing, shelf))
    elif isinstance(thing, Inverter | Converter):
        found = list(_stages(facts, thing, shelf))
    else:
        message = f"“{subject}” is nothing a part of the shelf could be."
        raise InvalidDocument(message, (Problem("/subject", "no_such_part", message),))
    return tuple(sorted(found, key=lambda suit: not suit.suits))


def _stages(
    facts: Facts, stage: Inverter | Converter, shelf: Sequence[Candidate]
) -> Iterator[Suit]:
    asked = facts.demand.asked[stage.id]
    start_w = asked.start.watts if asked.start else asked.watts
    for candidate in shelf:
        if candidate.part.kind != stage.kind:
            continue
        taken = _taken(stage, candidate)
        if taken is None:
            yield Suit(candidate.id, suits=False, why="its figures do not fit what is set here")
            continue
        fit = fit_stage(facts.rails, taken)
        if fit != "fits":
            yield Suit(candidate.id, suits=False, why=f"volts: what arrives is {fit}")
        elif isinstance(taken, Converter) and taken.set_v != getattr(stage, "set_v", None):
            yield Suit(candidate.id, suits=False, why=f"gives {quantity(taken.set_v, 'V')}")
        elif isinstance(taken, Inverter):
            yield _carries(
                candidate.id, asked.watts, start_w, taken.continuous_w, facts.surge_w(taken)
            )
        else:
            most_w = taken.set_v * taken.continuous_a * taken.parallel
            peak_w = taken.set_v * (taken.peak_a or taken.continuous_a) * taken.parallel
            yield _carries(candidate.id, asked.watts, start_w, most_w, peak_w)


def _carries(part: str, running_w: float, start_w: float, most_w: float, peak_w: float) -> Suit:
    if running_w > most_w:
        why = f"carries {quantity(most_w, 'W')} of the {quantity(running_w, 'W')} that run together"
        return Suit(part, suits=False, why=why)
    if start_w > peak_w:
        why = f"starts {quantity(peak_w, 'W')} of the {quantity(start_w, 'W')} the worst start asks"
        return Suit(part, suits=False, why=why)
    share = quantity(running_w / most_w, "share", 2)
    return Suit(part, suits=True, why=f"fits; {share} of what it carries")


def _batteries(design: Design, bank: Bank, shelf: Sequence[Candidate]) -> Iterator[Suit]:
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
        rest = at_rest(changed)
        what = f"{quantity(rest.nominal_v, 'V')}, {quantity(rest.wh, 'Wh')} in the bank"
        if wrong:
            yield Suit(candidate.id, suits=False, why=f"{what}: its volts do not fit {wrong[0]}")
        else:
            yield Suit(candidate.id, suits=True, why=what)


def _on(design: Design, bank: Bank) -> Iterator[Stage]:
    return (stage for stage in design.stages if stage.rail == bank.id)


def _taken(stage: Inverter | Converter, candidate: Candidate) -> Inverter | Converter | None:
    """The stage with the part's figures; None if they do not go together with its own."""
    figures = candidate.part.figures.model_dump(mode="json")
    try:
        return type(stage).model_validate(stage.model_dump(mode="json") | figures)
    except ValidationError:
        return None

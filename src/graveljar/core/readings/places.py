"""Where the parts of a design are in its document, and what cannot be measured on them."""

from collections.abc import Iterable
from typing import Any

from pydantic import JsonValue

from graveljar.core.context import Context
from graveljar.core.errors import InvalidDocument, Problem
from graveljar.core.model import Design, MeasuredFigure
from graveljar.core.model.patch import Edit, as_sent
from graveljar.core.readings.judged import Adoption
from graveljar.core.readings.reading import Taken
from graveljar.core.text import quantity


def place_of(context: Context, subject: str) -> str:
    """JSON Pointer of a store, stage, link or load of the document.

    Raises
    ------
    InvalidDocument : it is built into another part.
    """
    design = context.network.design
    for part in ("stores", "stages", "links", "loads"):
        for n, thing in enumerate(getattr(design, part)):
            if thing.id == subject:
                return f"/{part}/{n}"
    raise refused(context, subject, "is built into a station: it is measured there")


def part_of(context: Context, subject: str, *kinds: type[Any]) -> Any:
    """The part of an id, if it is of one of these kinds.

    Raises
    ------
    InvalidDocument : it is of another kind.
    """
    design = context.network.design
    for thing in (*design.stores, *context.network.stages, *design.links, *design.loads):
        if thing.id == subject and isinstance(thing, kinds):
            return thing
    raise refused(context, subject, "is not a part that this can be measured on")


def refused(context: Context, subject: str, why: str) -> InvalidDocument:
    """A refusal with the part's name."""
    message = f"{context.network.names.get(subject, subject)} {why}."
    return InvalidDocument(message, (Problem("/reading/subject", "not_measured", message),))


def adoption(
    context: Context,
    reading: Taken,
    name: str,
    before: str,
    after: str,
    *,
    decides: bool = False,
    **figures: Any,
) -> Adoption:
    """What puts measured figures into a part and keeps those of its label beside them.

    `name` of the figures together; `before` and `after` say them. `decides`: among them is the
    figure whose source sets the spread of the part in the band; the part is marked as measured
    then, and only then.
    """
    at = place_of(context, reading.subject)
    measured = {name.replace("__", "/"): value for name, value in figures.items()}
    owner = (
        "battery/provenance" if any(x.startswith("battery/") for x in measured) else "provenance"
    )
    if decides:
        measured[owner] = "measured"
    known = list(context.network.design.measured)
    mine = [n for n, x in enumerate(known) if (x.subject, x.name) == (reading.subject, name)]
    # Measured once more, or otherwise, such as with its heater off: the label stays that of the
    # first time.
    first = next((x for x in known if _alike(x, reading.subject, measured)), None)
    label = first.label if first else values_at(context.network.design, at, measured)
    says = first.label_says if first else before
    kept = MeasuredFigure(
        subject=reading.subject, name=name, label=label, measured=measured, label_says=says,
        measured_says=after, counts="measured", conditions=_conditions(reading),
    ).model_dump(mode="json")  # fmt: skip
    keep = (
        Edit("replace", f"/measured/{mine[0]}", kept) if mine else Edit("add", "/measured/-", kept)
    )
    found = [Edit("replace", f"{at}/{way}", value) for way, value in measured.items()]
    return Adoption(name, before, after, as_sent(context.network.design, (*found, keep)))


def _alike(one: MeasuredFigure, subject: str, measured: dict[str, Any]) -> bool:
    """Whether figures that were measured before are those that are measured now."""
    return one.subject == subject and set(one.measured) == set(measured)


def values_at(design: Design, at: str, ways: Iterable[str]) -> dict[str, JsonValue]:
    """What a document has at some ways within a part."""
    document: Any = design.model_dump(mode="json")

    def value(way: str) -> Any:
        here = document
        for step in f"{at}/{way}".split("/")[1:]:
            here = here[int(step)] if isinstance(here, list) else here[step]
        return here

    return {way: value(way) for way in ways}


def _conditions(reading: Taken) -> str:
    said = [f"{quantity(reading.air_c, '°C')}", reading.instrument, reading.taken_on]
    return ", ".join(x for x in said if x)[:120]

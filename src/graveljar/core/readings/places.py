"""Where the parts of a design are in its document, and what cannot be measured on them."""

from typing import Any

from graveljar.core.context import Context
from graveljar.core.errors import InvalidDocument, Problem
from graveljar.core.model.patch import Edit


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


def edits(
    context: Context, subject: str, *, decides: bool = False, **figures: object
) -> tuple[Edit, ...]:
    """Edits that put figures into a part.

    `decides`: among them is the figure whose source sets the spread of the part in the band; the
    part is marked as measured then, and only then.
    """
    at = place_of(context, subject)
    found = [Edit("replace", f"{at}/{name.replace('__', '/')}", x) for name, x in figures.items()]
    owner = f"{at}/battery" if any(name.startswith("battery__") for name in figures) else at
    marked = (Edit("replace", f"{owner}/provenance", "measured"),) if decides else ()
    return (*found, *marked)

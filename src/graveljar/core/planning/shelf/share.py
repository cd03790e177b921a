"""A design in one file with the parts it holds copies of, to hand on with or without prices."""

from collections.abc import Iterable, Iterator
from typing import Annotated, Any, Literal

from pydantic import Field

from graveljar.core.model import Design, Part
from graveljar.core.planning.shelf.part import AnyPart, ShelfPart
from graveljar.core.planning.shelf.suits import Candidate

MAX_SHARED = 200
# What any wiring may be priced by, whether a design holds a copy of it or not.
WIRING = ("cable", "fuse")


class SharedPart(Part):
    """A part with its id on the shelf it comes from."""

    id: Annotated[str, Field(pattern=r"^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$")]
    part: ShelfPart


class SharedDesign(Part):
    """A design and the parts of a shelf that it was made with."""

    format: Literal["gravel-jar/shared-design"]
    version: Literal[1]
    design: Design
    shelf: Annotated[tuple[SharedPart, ...], Field(max_length=MAX_SHARED, strict=False)] = ()


def shared(design: Design, shelf: Iterable[Candidate], *, prices: bool) -> SharedDesign:
    """A design with the parts it holds copies of, and with what its wiring is priced by.

    How many of a part are there already stays at home. Without prices notes stay too, as they may
    say what was paid; and parts of wiring, which would only say prices.

    Examples
    --------
    >>> shared(Design(), (), prices=True).shelf
    ()
    """
    used = set(_copies(design.model_dump(mode="json")))
    return SharedDesign(
        format="gravel-jar/shared-design",
        version=1,
        design=design,
        shelf=tuple(
            SharedPart(id=one.id, part=_handed_on(one.part, prices=prices))
            for one in shelf
            if one.id in used or (prices and one.part.kind in WIRING)
        )[:MAX_SHARED],
    )


def _handed_on(part: AnyPart, *, prices: bool) -> AnyPart:
    keeps = {} if prices else {"price": None, "notes": ""}
    return part.model_copy(update={"owned": 0, **keeps})


def _copies(value: Any) -> Iterator[str]:
    """Ids of the parts that a document holds copies of, wherever they stand."""
    if isinstance(value, dict):
        copy = value.get("shelf")
        if isinstance(copy, dict):
            yield copy["part"]
        for inner in value.values():
            yield from _copies(inner)
    elif isinstance(value, list):
        for inner in value:
            yield from _copies(inner)

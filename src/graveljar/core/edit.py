"""Edits to a document as JSON Patch (RFC 6902), as fixes and proposals carry them."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal

import jsonpatch

from graveljar.core.document import Design


@dataclass(frozen=True)
class Edit:
    """One operation of a JSON Patch."""

    op: Literal["replace", "add", "remove"]
    path: str
    value: Any = None


def apply(design: Design, edits: Sequence[Edit]) -> Design:
    """The design with the edits made; checked anew."""
    operations: list[Any] = [
        {"op": e.op, "path": e.path} | ({} if e.op == "remove" else {"value": e.value})
        for e in edits
    ]
    # In place: the dump is fresh, and copying it again would cost more than all the rest.
    document = jsonpatch.apply_patch(design.model_dump(mode="json"), operations, in_place=True)
    return Design.model_validate(document)


def ids_of(design: Design) -> set[str]:
    """Every id that a design uses, those of stations' outlets too."""
    parts = (design.stores, design.stages, design.links, design.loads)
    outlets = (x.id for store in design.stores for x in getattr(store, "outlets", ()))
    return {thing.id for part in parts for thing in part} | set(outlets)


def free_id(design: Design, wanted: str) -> str:
    """An id that nothing in a design has yet: as wanted, or with a number."""
    return free_among(ids_of(design), wanted)


def free_among(taken: set[str], wanted: str) -> str:
    """An id that is not taken: as wanted, or with a number."""
    names = (wanted if n == 1 else f"{wanted}-{n}" for n in range(1, len(taken) + 2))
    return next(name for name in names if name not in taken)

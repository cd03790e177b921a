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


def free_id(design: Design, wanted: str) -> str:
    """An id that nothing in a design has yet: as wanted, or with a number."""
    parts = (design.stores, design.stages, design.links, design.loads)
    taken = {thing.id for part in parts for thing in part}
    taken |= {x.id for store in design.stores for x in getattr(store, "outlets", ())}
    return next(
        name for n in range(1, len(taken) + 2) if (name := wanted if n == 1 else f"{wanted}-{n}")
        not in taken
    )  # fmt: skip

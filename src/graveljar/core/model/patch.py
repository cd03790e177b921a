"""Edits to a document as JSON Patch (RFC 6902), as fixes and suggestions carry them."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal

import jsonpatch
from pydantic import BaseModel

from graveljar.core.model import Design


@dataclass(frozen=True)
class Edit:
    """One operation of a JSON Patch."""

    op: Literal["replace", "add", "remove"]
    path: str
    value: Any = None


def as_sent(design: Design, edits: Sequence[Edit]) -> tuple[Edit, ...]:
    """Edits that apply to the document as its sender has it, with defaults left out.

    `replace` fails on a member that is not there: members are added, which replaces them too; of
    an object that was left out the whole is added, with the edit made.
    """
    made: set[str] = set()
    return tuple(_as_sent(design, edit, made) for edit in edits)


def _as_sent(design: Design, edit: Edit, made: set[str]) -> Edit:
    steps = edit.path.split("/")[1:]
    here: Any = design
    for depth, step in enumerate(steps[:-1]):
        path = "/" + "/".join(steps[: depth + 1])
        if isinstance(here, BaseModel):
            there = getattr(here, step, None)
            left_out = step not in here.model_fields_set and path not in made
            if left_out and isinstance(there, BaseModel):
                made.add(path)
                rest = "/" + "/".join(steps[depth + 1 :])
                whole = jsonpatch.apply_patch(
                    there.model_dump(mode="json"), [_operation(edit, rest)], in_place=True
                )
                return Edit("add", path, whole)
            here = there
        elif isinstance(here, tuple) and step.isdigit() and int(step) < len(here):
            here = here[int(step)]
        else:
            return edit
    if edit.op == "replace" and isinstance(here, BaseModel | dict):
        return Edit("add", edit.path, edit.value)
    return edit


def _operation(edit: Edit, path: str) -> Any:
    made: dict[str, Any] = {"op": "add" if edit.op == "replace" else edit.op, "path": path}
    return made if edit.op == "remove" else made | {"value": edit.value}


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

"""Edits to a document as JSON Patch (RFC 6902), as fixes and suggestions carry them."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any, Final, Literal

import jsonpatch
from pydantic import BaseModel

from graveljar.core.model import Design

# Errors of edits that point at what is not there.
NOT_THERE: Final = (
    jsonpatch.JsonPatchException,
    jsonpatch.JsonPointerException,  # type: ignore[attr-defined]
)


@dataclass(frozen=True)
class Edit:
    """One operation of a JSON Patch."""

    op: Literal["replace", "add", "remove", "test"]
    path: str
    value: Any = None


def as_sent(design: Design, edits: Sequence[Edit]) -> tuple[Edit, ...]:
    """Edits that apply to the document as its sender has it, and to no other.

    `replace` fails on a member that is not there: members are added, which replaces them too; of
    an object or list that was left out the whole is added, with the edit made. Before each edit
    stand `test` operations on the ids of the things it points at, so that it never changes another.
    """
    made: set[str] = set()
    ids = _Ids(design)
    sent: list[Edit] = []
    tested: set[tuple[str, str]] = set()
    for edit in (_as_sent(design, edit, made) for edit in edits):
        for test in () if edit.op == "test" else ids.at(edit):
            if test not in tested:
                tested.add(test)
                path, value = test
                sent.append(Edit("test", path, value))
        sent.append(edit)
        ids.follow(edit)
    return tuple(sent)


class _Ids:
    """The ids of a document by their place, followed through edits."""

    def __init__(self, design: Design) -> None:
        self._design = design
        # Made once an edit moves things: most only change a figure.
        self._moved: Any = None
        # What members were added to already, while nothing was moved.
        self._added_to: set[str] = set()

    def at(self, edit: Edit) -> Iterator[tuple[str, str]]:
        """Path and value of the ids of the things that an edit leads through or replaces.

        None of a member that is added beside another: it leads through the same.
        """
        if edit.op == "add" and self._moved is None:
            above = edit.path.rpartition("/")[0]
            if above in self._added_to:
                return
            self._added_to.add(above)
        here: Any = self._design if self._moved is None else self._moved
        path = ""
        for step in edit.path.split("/")[1:]:
            path += f"/{step}"
            here = _within(here, step)
            if edit.op == "add" and path == edit.path:
                break
            if (thing := _id_of(here)) is not None:
                yield f"{path}/id", thing
        if isinstance(here, list | tuple) and path == edit.path:
            for n, one in enumerate(here):
                if (thing := _id_of(one)) is not None:
                    yield f"{path}/{n}/id", thing

    def follow(self, edit: Edit) -> None:
        """Make an edit that adds, removes or replaces things."""
        *above, last = edit.path.split("/")[1:]
        moves = last == "-" or last.isdigit() or last in (*_PARTS, *_INNER)
        if self._moved is None:
            if not moves:
                return
            self._moved = _ids(self._design)
        here = self._moved
        for step in above:
            here = _within(here, step)
        if isinstance(here, list):
            at = len(here) if last == "-" else int(last)
            if edit.op in ("remove", "replace"):
                del here[at]
            if edit.op in ("add", "replace"):
                here.insert(at, edit.value)
        elif isinstance(here, dict) and last in here and edit.op in ("add", "replace"):
            here[last] = edit.value


# Where a document has things with ids, and what of them has such things again.
_PARTS = ("stores", "stages", "links", "loads")
_INNER = ("outlets", "inputs")


def _ids(design: Design) -> Any:
    """A document of nothing but ids."""
    return {
        part: [
            {"id": _id_of(thing)}
            | {
                inner: [{"id": _id_of(x)} for x in getattr(thing, inner)]
                for inner in _INNER
                if inner in (_fields(thing) or ())
            }
            for thing in getattr(design, part)
        ]
        for part in _PARTS
    }


# By kind: to ask the library each time takes far longer.
_FIELDS: Final[dict[type, frozenset[str] | None]] = {}


def _fields(here: object) -> frozenset[str] | None:
    """Names of a part's fields; None of what is no part."""
    kind = type(here)
    if kind not in _FIELDS:
        _FIELDS[kind] = frozenset(kind.model_fields) if issubclass(kind, BaseModel) else None
    return _FIELDS[kind]


def _id_of(here: Any) -> str | None:
    fields = _fields(here)
    if fields is None:
        found: str | None = here.get("id") if isinstance(here, dict) else None
        return found
    # An id that was left out is no member of the document that its sender has.
    return str(here.id) if "id" in fields and "id" in here.model_fields_set else None


def _within(here: Any, step: str) -> Any:
    fields = _fields(here)
    if fields is not None:
        return getattr(here, step) if step in fields else None
    if isinstance(here, list | tuple):
        return here[int(step)] if step.isdigit() and int(step) < len(here) else None
    return here.get(step) if isinstance(here, dict) else None


def _as_sent(design: Design, edit: Edit, made: set[str]) -> Edit:
    steps = edit.path.split("/")[1:]
    here: Any = design
    for depth, step in enumerate(steps[:-1]):
        if _fields(here) is not None:
            there = getattr(here, step, None)
            path = "/" + "/".join(steps[: depth + 1])
            left_out = step not in here.model_fields_set and path not in made
            if left_out and isinstance(there, BaseModel | tuple):
                made.add(path)
                rest = "/" + "/".join(steps[depth + 1 :])
                whole = jsonpatch.apply_patch(_written(there), [_operation(edit, rest)])
                return Edit("add", path, whole)
            here = there
        elif isinstance(here, tuple) and step.isdigit() and int(step) < len(here):
            here = here[int(step)]
        else:
            return edit
    if edit.op == "replace" and (isinstance(here, dict) or _fields(here) is not None):
        return Edit("add", edit.path, edit.value)
    return edit


def _operation(edit: Edit, path: str) -> Any:
    # A member that is not there is added; a thing in a list that is added moves the others.
    adds = edit.op == "replace" and not path.rsplit("/", 1)[1].isdigit()
    made: dict[str, Any] = {"op": "add" if adds else edit.op, "path": path}
    return made if edit.op == "remove" else made | {"value": edit.value}


def apply(design: Design, edits: Sequence[Edit]) -> Design:
    """The design with the edits made; checked anew."""
    operations: list[Any] = [
        {"op": e.op, "path": e.path} | ({} if e.op == "remove" else {"value": e.value})
        for e in edits
    ]
    # In place: what is written out is fresh, and to copy it again would cost more than the rest.
    document = jsonpatch.apply_patch(_opened(design, edits), operations, in_place=True)
    return Design.model_validate(document)


def _opened(design: Design, edits: Sequence[Edit]) -> dict[str, Any]:
    """A document in which only what the edits lead through is written out.

    The rest stays as it is: it was checked when it was read, and is not checked again.
    """
    document: dict[str, Any] = {name: getattr(design, name) for name in type(design).model_fields}
    ways = [edit.path.split("/")[1:] for edit in edits]
    for part in {way[0] for way in ways} & document.keys():
        whole = document[part]
        if not isinstance(whole, tuple):
            document[part] = _written(whole) if isinstance(whole, BaseModel) else whole
            continue
        led = [way for way in ways if way[0] == part]
        # Where things come or go, the others have other places afterwards.
        moves = any(len(way) < 3 for way in led)
        places = {way[1] for way in led if len(way) > 1}
        document[part] = [
            _written(x) if isinstance(x, BaseModel) and (moves or str(n) in places) else x
            for n, x in enumerate(whole)
        ]
    return document


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


def _written(part: BaseModel | tuple[Any, ...]) -> Any:
    if isinstance(part, BaseModel):
        return part.model_dump(mode="json")
    return [_written(x) if isinstance(x, BaseModel | tuple) else x for x in part]

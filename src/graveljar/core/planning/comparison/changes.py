"""What differs between two documents of a design, in words: for its history and for conflicts."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Final

from graveljar.core.model import Design
from graveljar.core.tables.assumptions import ASSUMPTIONS
from graveljar.core.text import number, quantity

MAX_CHANGES: Final = 400

# How a field's name ends, and the unit it then has. The longest first.
_UNITS: Final = {
    "_mohm": "mOhm",
    "_ohm": "Ohm",
    "_mm2": "mm²",
    "_min": "min",
    "_kg": "kg",
    "_hz": "Hz",
    "_wh": "Wh",
    "_ah": "Ah",
    "_ka": "kA",
    "_mm": "mm",
    "_va": "VA",
    "_v": "V",
    "_a": "A",
    "_w": "W",
    "_h": "h",
    "_m": "m",
    "_c": "°C",
    "_s": "s",
}
_WHOLE: Final = {
    "ah": "Ah",
    "wh": "Wh",
    "volts": "V",
    "watts": "W",
    "amps": "A",
    "hours": "h",
    "va": "VA",
}
_SHARES: Final = {
    "starts_at",
    "reserve",
    "usable",
    "efficiency",
    "load_share",
    "duty",
    "power_factor",
    "derate_per_c",
}
# Names of the document that a reader would not guess.
_WORDS: Final = {
    "ah": "capacity",
    "wh": "capacity",
    "rail": "connected to",
    "to": "charges",
    "hours": "hours a day",
    "most": "highest",
    "least": "lowest",
    "bms": "limit of its electronics",
    "parallel": "in parallel",
    "starts_at": "charge at the start",
}
_REFERENCES: Final = ("rail", "to")
_PARTS: Final = {"stores": "store", "stages": "stage", "links": "link", "loads": "load"}


@dataclass(frozen=True)
class Change:
    """One difference: of which thing, what, and what it is on each side (empty: not there)."""

    subject: str
    what: str
    before: str
    after: str


def changes_between(before: Design, after: Design) -> tuple[Change, ...]:
    """Every difference between two documents; things are the same if their ids are.

    At most 400 are told, in the order of the document.
    """
    old, new = (_by_name(x.model_dump(mode="json")) for x in (before, after))
    found = _of_document(old, new)
    return tuple(change for _, change in zip(range(MAX_CHANGES), found, strict=False))


def _by_name(document: dict[str, Any]) -> dict[str, Any]:
    """The document with names where it refers to a thing by its id."""
    outlets = (x for store in document["stores"] for x in store.get("outlets", ()))
    things = [thing for part in _PARTS for thing in document[part]]
    names = {thing["id"]: _named(thing) for thing in (*things, *outlets)}
    for thing in things:
        for field in _REFERENCES:
            if field in thing:
                thing[field] = names.get(thing[field], thing[field])
    return document


def summary(changes: Sequence[Change], most: int = 3) -> str:
    """The first changes in one line.

    Examples
    --------
    >>> summary([Change("kettle", "watts", "900 W", "1 200 W")])
    'kettle: watts 900 W → 1 200 W'
    """
    told = "; ".join(_line(change) for change in changes[:most])
    more = len(changes) - most
    return f"{told}; and {more} more" if more > 0 else told


def _line(change: Change) -> str:
    if change.what in ("added", "removed"):
        return f"{change.subject} {change.what}"
    what = f"{change.subject}: {change.what}" if change.subject else change.what
    return f"{what} {change.before or 'not set'} → {change.after or 'not set'}"


def _of_document(before: Mapping[str, Any], after: Mapping[str, Any]) -> Iterator[Change]:
    for key in dict.fromkeys((*before, *after)):
        if key in _PARTS:
            yield from _of_things(before[key], after[key], _PARTS[key])
        else:
            yield from _of_value("", (key,), before.get(key), after.get(key))


def _of_things(
    before: Sequence[Mapping[str, Any]],
    after: Sequence[Mapping[str, Any]],
    kind: str,
    owner: str = "",
) -> Iterator[Change]:
    old, new = ({x["id"]: x for x in things} for things in (before, after))
    for key, thing in old.items():
        if key not in new:
            yield Change(_named(thing, owner), "removed", _named(thing), "")
    for key, thing in new.items():
        name = _named(thing, owner)
        if key not in old:
            yield Change(name, "added", "", _named(thing))
            continue
        for field in dict.fromkeys((*old[key], *thing)):
            yield from _of_value(name, (field,), old[key].get(field), thing.get(field))
    kept = [key for key in old if key in new]
    if kept != [key for key in new if key in old]:
        yield Change("", f"order of the {kind}s", _order(old, kept), _order(new, new))


def _named(thing: Mapping[str, Any], owner: str = "") -> str:
    name = str(thing.get("name") or thing["id"])
    return f"{owner}, {name}" if owner else name


def _order(things: Mapping[str, Mapping[str, Any]], keys: Sequence[str] | Mapping[str, Any]) -> str:
    return ", ".join(_named(things[key]) for key in keys)


def _of_value(subject: str, path: tuple[str, ...], before: Any, after: Any) -> Iterator[Change]:
    if before == after:
        return
    if isinstance(before, dict) and isinstance(after, dict):
        for key in dict.fromkeys((*before, *after)):
            yield from _of_value(subject, (*path, key), before.get(key), after.get(key))
    elif _are_things(before) and _are_things(after):
        yield from _of_things(before, after, path[-1].rstrip("s"), subject)
    else:
        yield Change(subject, _label(path), _written(path[-1], before), _written(path[-1], after))


def _are_things(value: Any) -> bool:
    return isinstance(value, list) and all(isinstance(x, dict) and "id" in x for x in value)


def _label(path: Sequence[str]) -> str:
    if path[0] == "assumptions" and path[-1] in ASSUMPTIONS:
        return ASSUMPTIONS[path[-1]].name
    words = [_word(step) for step in path]
    return ", ".join(words[1:] if path[0] == "setting" and len(path) > 1 else words)


def _word(field: str) -> str:
    bare = _bare(field)
    return _WORDS.get(bare, bare.replace("_", " "))


def _bare(field: str) -> str:
    ending = next((x for x in _UNITS if field.endswith(x)), "")
    return field.removesuffix(ending)


def _written(field: str, value: Any) -> str:
    if isinstance(value, dict):
        return _object_written(value)
    if isinstance(value, list):
        return ", ".join(_written(field, x) for x in value)
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, float | int):
        share = field in _SHARES
        return (
            quantity(value, "share", 4) if share else f"{number(value, 6)} {_unit(field)}".strip()
        )
    return value or ""


def _object_written(value: Mapping[str, Any]) -> str:
    if {"from_h", "to_h"} <= set(value):
        return f"{_clock(value['from_h'])}-{_clock(value['to_h'])}"
    name = value.get("name")
    return name or ", ".join(f"{_word(k)} {_written(k, x)}" for k, x in value.items())


def _unit(field: str) -> str:
    ending = next((x for x in _UNITS if field.endswith(x)), "")
    return _WHOLE.get(field) or _UNITS.get(ending, "")


def _clock(hour: float) -> str:
    whole, minutes = divmod(round(hour * 60), 60)
    return f"{whole}:{minutes:02d}"

"""Requests with one value of their body changed to an odd one, at every place there is."""

import copy
import random
from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any, Final

from pydantic import TypeAdapter

from graveljar.core.planning.beginnings import Have, Region, begin
from graveljar.demo import demo_designs, demo_readings

ODD: Final[tuple[Any, ...]] = (
    0, -1, 1e-9, -0.0, 1e9, 1e308, "", "ghost", "bank", "x" * 2_000, "\x00", "\ud800", None, True,
    [], {}, [1], 2**63,
)  # fmt: skip
BeginningHave: Final[TypeAdapter[Have]] = TypeAdapter(Have)
# What takes a design as its body, and what holds one beside other things.
PLAIN: Final = (
    "evaluate?quick=true", "evaluate", "cables.csv?what=joints", "cables/schools", "refill/balance",
    "refill/year", "readings/checklist", "readings/figures", "readings/band-causes",
    "options/levers", "options/sweeps?against=batteries", "options/mend", "options/variants",
    "sheet",
)  # fmt: skip
HELD: Final[dict[str, dict[str, Any]]] = {
    "course": {"until_h": None},
    "course.csv": {"until_h": 48},
    "refill": {"fill_from": 0.3},
    "refill/outage": {"hours": 9.0},
    "places": {"loads": []},
    "shared-design": {"prices": True},
    "sheet/print": {"prints": "html", "parts": ["card", "build"]},
}
# Some seconds each: left to `scripts/attack`.
HEAVY: Final = {
    "evaluate", "options/levers", "options/sweeps?against=batteries", "options/mend",
    "options/variants", "readings/band-causes", "refill/balance", "refill/year", "sheet",
    "sheet/print",
}  # fmt: skip
BEGINNINGS: Final[tuple[dict[str, Any], ...]] = (
    {"have": "nothing", "goal_h": 24},
    {"have": "battery", "series": 2, "parallel": 2},
    {"have": "station"},
    {"have": "grown"},
    {"have": "packs", "volts": 36, "series": 1},
    {"have": "vehicle", "volts": 24},
    {"have": "router"},
)


@dataclass(frozen=True)
class Spoiled:
    """A request, and where its body was changed to what."""

    path: str
    body: Any
    place: str
    odd: Any


def of_design(document: Any) -> Iterator[tuple[str, Any]]:
    """Everything that is asked of a design with a bank."""
    yield from ((path, document) for path in PLAIN)
    bank = next(one["id"] for one in document["stores"] if one["kind"] == "bank")
    asked: dict[str, dict[str, Any]] = {
        "readings/outlook": {"now": {"store": bank, "percent": 50.0}},
        "build": {"ask": {"ask": "inverter", "on": bank}},
        "shelf/suits": {"subject": bank},
    }
    for path, rest in (*HELD.items(), *asked.items()):
        yield path, {"design": document, **rest}


def right() -> Iterator[tuple[str, Any]]:
    """Requests as they are right: a path and its body."""
    designs = {name: made.model_dump(mode="json") for name, made in demo_designs().items()}
    for document in designs.values():
        yield from of_design(document)
    for have in BEGINNINGS:
        yield "designs/begin", {"have": have, "region": Region().model_dump(mode="json")}
        # With every figure that it has.
        whole = BeginningHave.validate_python(have)
        yield "designs/begin", {"have": whole.model_dump(mode="json")}
        yield "evaluate?quick=true", begin(whole, Region()).model_dump(mode="json")
    for name, readings in demo_readings().items():
        for reading in readings:
            body = {"design": designs[name], "readings": [reading.model_dump(mode="json")]}
            yield "readings/judge", body


def places(value: Any, way: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    """Every place in a document, whatever stands there."""
    if way:
        yield way
    if isinstance(value, dict | list):
        for step, inner in value.items() if isinstance(value, dict) else enumerate(value):
            yield from places(inner, (*way, step))


def spoil(document: Any, way: tuple[Any, ...], odd: Any) -> Any:
    """A document with an odd value at a place; the rest is shared with the one before."""
    step, *rest = way
    made = copy.copy(document)
    made[step] = spoil(made[step], tuple(rest), odd) if rest else odd
    return made


def likely(value: Any, dice: random.Random) -> Any:
    """A value that may be let through: what is wrong with it shows only further in."""
    if isinstance(value, bool):
        return not value
    if isinstance(value, int | float):
        factor = dice.choice([0.0, 1e-6, 0.01, 0.5, 0.9, 1.1, 2.0, 10.0, 1e3])
        return type(value)(value * factor)
    if isinstance(value, list):
        return dice.choice([[], [*value, *value], value[:1], value[::-1]])
    return None


def spoiled(seed: int, *, heavy: bool = True) -> Iterator[Spoiled]:
    """Requests without end, each with one value changed; the same for the same seed.

    Every kind of request comes as often as any other, whatever it holds.
    """
    dice = random.Random(seed)
    known: dict[str, list[Any]] = defaultdict(list)
    for path, body in right():
        if heavy or path not in HEAVY:
            known[path].append((body, list(places(body))))
    while True:
        path = dice.choice(sorted(known))
        body, ways = dice.choice(known[path])
        way = dice.choice(ways)
        there = body
        for step in way:
            there = there[step]
        odd = dice.choice(ODD) if dice.random() < 0.3 else likely(there, dice)
        yield Spoiled(path, spoil(body, way, odd), "/".join(map(str, way)), odd)

"""What changed between two versions is told by thing, with both values, and misses nothing."""

from typing import Any

import jsonpatch
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from graveljar.core.model import Design
from graveljar.core.planning.comparison.changes import changes_between, summary
from graveljar.demo import demo_designs

VAN = demo_designs()["puppet-van"]


def changed(place: str, value: Any) -> Design:
    """The van with a value put at a JSON Pointer."""
    document = VAN.model_dump(mode="json")
    return Design.model_validate(
        jsonpatch.apply_patch(document, [{"op": "replace", "path": place, "value": value}])
    )


FAN = VAN.loads.index(next(x for x in VAN.loads if x.id == "roof-fan"))
FEED = next(x.name for x in VAN.stages if x.id == VAN.loads[FAN].rail)


@pytest.mark.parametrize(
    ("place", "value", "told"),
    [
        (
            "/loads/0/demand/watts", 1200.0,
            "Interval kettle: demand, watts 900 W → 1\u202f200 W",
        ),
        ("/stores/0/starts_at", 0.8, "Van bank: charge at the start 100 % → 80 %"),
        ("/setting/ambient_c", -5.0, "ambient 8 °C → -5 °C"),
        (f"/loads/{FAN}/rail", "bank", f"Roof fan: connected to {FEED} → Van bank"),
        ("/loads/0/cycle_min", 20.0, "Interval kettle: cycle not set → 20 min"),
        ("/name", "Autumn tour", f"name {VAN.name} → Autumn tour"),
    ],
)  # fmt: skip
def test_a_change_is_told_in_the_words_of_the_thing(place: str, value: Any, told: str) -> None:
    assert summary(changes_between(VAN, changed(place, value))) == told


def test_a_removed_load_is_one_change_and_the_others_are_none() -> None:
    document = VAN.model_dump(mode="json")
    gone = document["loads"].pop(1)["name"]
    found = changes_between(VAN, Design.model_validate(document))
    assert [(one.subject, one.what) for one in found] == [(gone, "removed")]
    back = changes_between(Design.model_validate(document), VAN)
    assert [(one.subject, one.what) for one in back] == [(gone, "added")]


@settings(max_examples=80, deadline=None)
@given(
    order=st.permutations(range(len(VAN.loads))),
    watts=st.lists(st.sampled_from([5.0, 60.0]), min_size=7, max_size=7),
    cold=st.booleans(),
)
def test_nothing_is_told_of_equal_documents_and_something_of_any_other(
    order: list[int], watts: list[float], cold: bool
) -> None:
    document = VAN.model_dump(mode="json")
    for load, power in zip(document["loads"], watts, strict=False):
        load["demand"] = {"kind": "watts", "watts": power}
    document["loads"] = [document["loads"][n] for n in order]
    document["setting"]["ambient_c"] = -5.0 if cold else 8.0
    other = Design.model_validate(document)
    found = changes_between(VAN, other)
    assert bool(found) == (other != VAN)
    watted = [
        x for x in other.loads if x.demand != next(y for y in VAN.loads if y.id == x.id).demand
    ]
    assert {one.subject for one in found if one.what.startswith("demand")} == {
        x.name for x in watted
    }
    assert ("ambient" in {one.what for one in found}) == cold
    assert any(one.what == "order of the loads" for one in found) == (order != sorted(order))

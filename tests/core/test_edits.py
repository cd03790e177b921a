"""Edits that leave the core point at things by place, and say by id which thing is meant."""

from collections.abc import Callable
from functools import cache
from typing import Any

import jsonpatch
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from graveljar.core.evaluate import evaluate
from graveljar.core.model import Design
from graveljar.core.model.patch import Edit, apply, as_sent
from graveljar.demo import demo_designs
from tests.building import bank, behind, converter, design, load


def offered(document: Design) -> list[tuple[Edit, ...]]:
    """Every set of edits on an evaluation."""
    found = evaluate(document)
    sets = [fix.edits for finding in found.findings for fix in finding.fixes if fix.edits]
    sets += [row.edits for row in found.cables.rows if row.edits]
    if found.needed is not None:
        sets += [x for one in found.needed.choices for x in (one.edits, one.alike_edits) if x]
    return sets


NAMES = tuple(sorted(demo_designs()))


@cache
def demo(name: str) -> tuple[Design, list[tuple[Edit, ...]]]:
    """A demo design with all edits that it is offered."""
    document = demo_designs()[name]
    return document, offered(document)


def operations(edits: tuple[Edit, ...]) -> Any:
    return [
        {"op": e.op, "path": e.path} | ({} if e.op == "remove" else {"value": e.value})
        for e in edits
    ]


@settings(max_examples=60, deadline=None)
@given(name=st.sampled_from(NAMES), data=st.data())
def test_an_edit_never_lands_on_another_thing(name: str, data: st.DataObject) -> None:
    """When a load went and others changed places, it is made on the thing meant or not at all."""
    document, sets = demo(name)
    edits = data.draw(st.sampled_from(sets))
    shuffled = document.model_dump(mode="json")
    shuffled["loads"] = data.draw(st.permutations(shuffled["loads"]))[1:]
    before = {x["id"]: x for part in ("stores", "stages", "links", "loads") for x in shuffled[part]}
    meant = {e.value for e in edits if e.op == "test" and e.path.count("/") == 3}
    try:
        after = jsonpatch.apply_patch(shuffled, operations(edits))
    except (jsonpatch.JsonPatchTestFailed, jsonpatch.JsonPatchConflict):
        return
    for part in ("stores", "stages", "links", "loads"):
        for thing in after[part]:
            if thing != before.get(thing["id"], thing):
                assert thing["id"] in meant


@pytest.mark.parametrize("name", NAMES)
def test_a_document_with_edits_is_that_read_from_their_patch(name: str) -> None:
    """What the edits do not touch is not checked anew: it must come out the same."""
    document, sets = demo(name)
    wrong = (Edit("replace", "/loads/0/supply/volts", -1.0),)
    away = (Edit("remove", "/loads/0"), Edit("replace", "/loads/0/id", "first"))
    nowhere = (Edit("replace", "/nothing", 1),)
    for edits in (*sets, wrong, away, nowhere):
        assert _or_why(apply, document, edits) == _or_why(_read, document, edits), edits


def _read(document: Design, edits: tuple[Edit, ...]) -> Design:
    whole = document.model_dump(mode="json")
    return Design.model_validate(jsonpatch.apply_patch(whole, operations(edits)))


def _or_why(make: Callable[[Design, Any], Design], document: Design, edits: Any) -> Any:
    try:
        return make(document, edits).model_dump(mode="json")
    except ValidationError as refused:
        return refused.errors(include_url=False, include_input=False)
    except jsonpatch.JsonPatchConflict as refused:
        return str(refused)


def test_every_edit_of_a_thing_in_a_list_says_which_is_meant() -> None:
    """No set of edits without a test, unless it only adds, or is of the design as a whole."""
    for name in NAMES:
        for edits in demo(name)[1]:
            places = [
                e for e in edits if e.op != "test" and any(x.isdigit() for x in e.path.split("/"))
            ]
            tested = {e.path.removesuffix("/id") for e in edits if e.op == "test"}
            for edit in places:
                assert any(edit.path.startswith(x) for x in tested)


@pytest.mark.parametrize(
    ("edits", "tests"),
    [
        pytest.param(
            [Edit("remove", "/loads/0"), Edit("replace", "/loads/0/watts", 5)],
            [("/loads/0/id", "lamp"), ("/loads/0/id", "radio")],
            id="after a removal the same place is another thing",
        ),
        pytest.param(
            [Edit("add", "/loads/0", {"id": "new"}), Edit("replace", "/loads/1/watts", 5)],
            [("/loads/1/id", "lamp")],
            id="an added thing moves the others",
        ),
        pytest.param(
            [Edit("replace", "/stores/0/reserve", 0.2), Edit("replace", "/stores/0/parallel", 2)],
            [("/stores/0/id", "bank")],
            id="a thing is tested once",
        ),
        pytest.param(
            [Edit("add", "/stages/-", {"id": "new"}), Edit("replace", "/goal/hours", 24)],
            [],
            id="nothing to mistake",
        ),
    ],
)
def test_ids_are_followed_through_edits(edits: list[Edit], tests: list[tuple[str, str]]) -> None:
    """RFC 6902: operations are applied one after the other, so a place means what is there then."""
    document = design(
        load(5, "lamp"), behind(5, name="radio"), stores=[bank(id="bank")], more=[converter()]
    )
    sent = as_sent(document, edits)
    assert [(e.path, e.value) for e in sent if e.op == "test"] == tests


def test_a_test_that_fails_stops_the_whole_patch() -> None:
    """RFC 6902, section 5: a patch that fails anywhere changes nothing."""
    document = design(load(5, "lamp"), stores=[bank()])
    edits = [Edit("test", "/loads/0/id", "radio"), Edit("replace", "/loads/0/name", "x")]
    with pytest.raises(jsonpatch.JsonPatchTestFailed):
        apply(document, edits)
    assert document.loads[0].name == "lamp"

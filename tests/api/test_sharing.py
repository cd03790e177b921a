"""A design handed on in one file with its parts, and taken in where none of them are."""

from collections.abc import Iterator
from typing import Any
from uuid import UUID, uuid4

import pytest
from fastapi.testclient import TestClient

from graveljar.core.planning.shelf import AnyPart, BatteryPart
from graveljar.demo import demo_designs
from graveljar.formats.parts_csv import starting_id, starting_shelf
from graveljar.store.database import Pool
from graveljar.store.designs import Designs
from graveljar.store.parts import MAX_PARTS, Parts
from tests.api.asgi import app_over

VAN = demo_designs()["puppet-van"].model_dump(mode="json")
MINE: dict[UUID, AnyPart] = {
    starting_id(x): x.model_copy(update={"owned": 3, "notes": "42 at the fair"})
    for x in starting_shelf()
}
PACK = BatteryPart.model_validate({"kind": "battery", "name": "Pack", "figures": {}})


@pytest.fixture
def shelf(pool: Pool) -> Parts:
    return Parts(pool)


@pytest.fixture
def web(pool: Pool, shelf: Parts) -> Iterator[TestClient]:
    app = app_over(designs=Designs(pool), parts=shelf)
    with TestClient(app, base_url="http://127.0.0.1:8734") as client:
        yield client


def handed_on(web: TestClient, pool: Pool, *, prices: bool) -> Any:
    """The van as one file, from a shelf that is cleared then, as another person's is."""
    Parts(pool).start(MINE)
    answer = web.post("/api/shared-design", json={"design": VAN, "prices": prices})
    assert answer.status_code == 200, answer.text
    with pool.connection() as connection:
        connection.execute("DELETE FROM part")
    return answer.json()


@pytest.mark.parametrize("prices", [True, False])
def test_a_design_goes_with_its_parts_and_comes_in(
    web: TestClient, shelf: Parts, pool: Pool, prices: bool
) -> None:
    file = handed_on(web, pool, prices=prices)
    parts = {x["id"]: x["part"] for x in file["shelf"]}
    # Panels, solar controller and engine charger are copies of parts; the old bank is none.
    assert {"panel", "charger"} <= {part["kind"] for part in parts.values()}
    assert "battery" not in {part["kind"] for part in parts.values()}
    assert all(part["owned"] == 0 for part in parts.values())
    if prices:
        mine = {str(key): part.price for key, part in MINE.items()}
        assert {key: part["price"] for key, part in parts.items()} == {x: mine[x] for x in parts}
        assert {"cable", "fuse"} <= {part["kind"] for part in parts.values()}
    else:
        assert all((x["price"], x["notes"]) == (None, "") for x in parts.values())
    taken = web.post("/api/shared-design/take-in", json=file)
    assert taken.status_code == 201, taken.text
    assert taken.json()["new_parts"] == len(parts)
    assert taken.json()["design"]["document"] == VAN
    assert {str(one.id) for one in shelf.all()} == set(parts)
    # Once more: another design, no new part.
    again = web.post("/api/shared-design/take-in", json=file).json()
    assert again["new_parts"] == 0
    assert again["design"]["id"] != taken.json()["design"]["id"]


def test_what_is_on_the_shelf_stays_as_it_is(web: TestClient, shelf: Parts, pool: Pool) -> None:
    file = handed_on(web, pool, prices=True)
    dearer, gone = (UUID(x["id"]) for x in file["shelf"][:2])
    shelf.start({dearer: MINE[dearer].model_copy(update={"price": 9_999.0}), gone: MINE[gone]})
    shelf.delete(gone)
    assert web.post("/api/shared-design/take-in", json=file).status_code == 201
    mine = {one.id: one.part for one in shelf.all()}
    assert mine[dearer].price == 9_999.0
    assert gone not in mine


@pytest.mark.parametrize(
    ("wrong", "place"),
    [({"version": 2}, "/version"), ({"format": "gravel-jar/design"}, "/format"),
     ({"design": {"goal": {"hours": -1}}}, "/design/goal/hours"),
     ({"shelf": [{"id": "me", "part": PACK.model_dump(mode="json")}]}, "/shelf/0/id"),
     ({"shelf": [{"id": str(uuid4()), "part": {"kind": "sun"}}]}, "/shelf/0/part"),
     ({"more": 1}, "/more")],
)  # fmt: skip
def test_a_file_with_a_fault_is_refused_whole(
    web: TestClient, shelf: Parts, wrong: dict[str, Any], place: str
) -> None:
    file = {"format": "gravel-jar/shared-design", "version": 1, "design": VAN, "shelf": []} | wrong
    answer = web.post("/api/shared-design/take-in", json=file)
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["path"].startswith(place)
    assert web.get("/api/designs").json() == []
    assert shelf.all() == []


def test_a_full_shelf_takes_none_in(web: TestClient, shelf: Parts) -> None:
    shelf.start({uuid4(): PACK for _ in range(MAX_PARTS)})
    part = {"id": str(uuid4()), "part": PACK.model_dump(mode="json")}
    file = {"format": "gravel-jar/shared-design", "version": 1, "design": VAN, "shelf": [part]}
    answer = web.post("/api/shared-design/take-in", json=file)
    assert (answer.status_code, answer.json()["code"]) == (422, "out_of_range")
    assert len(shelf.all()) == MAX_PARTS
    assert web.get("/api/designs").json() == []

"""The shelf through the API: kept with revisions, nothing lost in silence, CSV in and out."""

import json
from collections.abc import Iterator
from typing import Any
from uuid import uuid4

import pytest
from fastapi.testclient import TestClient

from graveljar.core.model import Design
from graveljar.demo import demo_designs
from graveljar.formats.parts_csv import starting_shelf
from graveljar.serve import keep_starting_shelf
from graveljar.store.database import Pool
from graveljar.store.designs import Designs
from graveljar.store.parts import MAX_PARTS, Parts
from tests.api.asgi import app_over

VAN = demo_designs()["puppet-van"].model_dump(mode="json")
PACK: Any = {
    "kind": "battery",
    "name": "Measured pack",
    "figures": {"chemistry": "lfp", "volts": 12.8, "ah": 96.0, "bms_a": 100.0},
    "known_from": {"ah": "measured"},
    "price": 200.0,
    "mass_kg": 10.5,
    "notes": "tested in May",
}


@pytest.fixture
def web(pool: Pool) -> Iterator[TestClient]:
    app = app_over(designs=Designs(pool), parts=Parts(pool))
    with TestClient(app, base_url="http://127.0.0.1:8734") as client:
        yield client


def _put(web: TestClient, *parts: Any) -> Any:
    answer = web.post("/api/shelf", json={"parts": list(parts)})
    assert answer.status_code == 201, answer.text
    return answer.json()


def test_a_part_is_kept_changed_taken_off_and_put_back(web: TestClient) -> None:
    (kept,) = _put(web, PACK)
    assert (kept["revision"], kept["spread_from"]) == (1, "measured")
    url = f"/api/shelf/parts/{kept['id']}"
    changed = kept["part"] | {"price": 180.0}
    saved = web.put(url, json={"base": 1, "part": changed}).json()
    assert (saved["revision"], saved["part"]["price"]) == (2, 180.0)
    # The same again changes nothing; from an older revision it is refused.
    assert web.put(url, json={"base": 1, "part": changed}).json()["revision"] == 2
    stale = web.put(url, json={"base": 1, "part": changed | {"price": 1.0}})
    assert (stale.status_code, stale.json()["code"]) == (409, "stale_part")
    assert web.get("/api/shelf").json() == [saved]
    assert web.delete(url).status_code == 204
    assert web.get("/api/shelf").json() == []
    gone = web.put(url, json={"base": 2, "part": changed})
    assert (gone.status_code, gone.json()["code"]) == (404, "part_not_found")
    assert web.delete(url).status_code == 404
    assert web.post(f"{url}/restore").json() == saved
    assert web.post(f"/api/shelf/parts/{uuid4()}/restore").status_code == 404


@pytest.mark.parametrize(
    ("change", "path"),
    [
        ({"kind": "toaster"}, "/parts/0"),
        ({"price": -1}, "/parts/0/price"),
        ({"figures": PACK["figures"] | {"ah": 0}}, "/parts/0/figures/ah"),
        ({"known_from": {"colour": "label"}}, "/parts/0"),
        ({"name": " "}, "/parts/0/name"),
        ({"colour": "red"}, "/parts/0/colour"),
    ],
)
def test_a_bad_part_is_refused_with_its_place_and_none_is_kept(
    web: TestClient, change: Any, path: str
) -> None:
    answer = web.post("/api/shelf", json={"parts": [PACK | change, PACK]})
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["path"] == path
    assert web.get("/api/shelf").json() == []


def test_the_shelf_goes_out_as_csv_and_comes_in_row_by_row(web: TestClient) -> None:
    _put(web, *(part.model_dump(mode="json") for part in starting_shelf()), PACK)
    answer = web.get("/api/shelf/parts.csv")
    assert answer.headers["content-type"].startswith("text/csv")
    assert "attachment" in answer.headers["content-disposition"]
    rows = web.post("/api/shelf/read-csv", json={"text": answer.text + "battery,,,\n"}).json()
    assert [row["part"] for row in rows[:-1]] == [x["part"] for x in web.get("/api/shelf").json()]
    assert rows[-1]["part"] is None
    assert {problem["column"] for problem in rows[-1]["problems"]} >= {"name", "ah"}
    bad = web.post("/api/shelf/read-csv", json={"text": "a,b\n"})
    assert (bad.status_code, bad.json()["code"]) == (400, "unreadable_document")


def test_the_starting_shelf_comes_once_and_edits_stay(web: TestClient, pool: Pool) -> None:
    parts = Parts(pool)
    keep_starting_shelf(parts)
    first = parts.all()
    assert len(first) >= 40
    parts.delete(first[0].id)
    edited = parts.save(first[1].id, 1, first[1].part.model_copy(update={"notes": "mine"}))
    keep_starting_shelf(parts)
    again = {kept.id: kept for kept in parts.all()}
    assert first[0].id not in again
    assert again[first[1].id] == edited


def test_the_shelf_does_not_grow_without_end(web: TestClient) -> None:
    for _ in range(MAX_PARTS // 1000):
        _put(web, *[PACK] * 1000)
    answer = web.post("/api/shelf", json={"parts": [PACK]})
    assert (answer.status_code, answer.json()["code"]) == (422, "out_of_range")


def test_parts_are_judged_for_a_place_in_a_design(web: TestClient) -> None:
    _put(web, *(part.model_dump(mode="json") for part in starting_shelf()))
    shelf = {kept["id"]: kept["part"] for kept in web.get("/api/shelf").json()}
    suits = web.post("/api/shelf/suits", json={"design": VAN, "subject": "inverter"}).json()
    assert {shelf[one["id"]]["kind"] for one in suits} == {"inverter"}
    assert suits[0]["suits"]
    wrong = web.post("/api/shelf/suits", json={"design": VAN, "subject": "nothing"})
    assert (wrong.status_code, wrong.json()["errors"][0]["path"]) == (422, "/subject")


def test_building_placing_and_the_course_answer(web: TestClient) -> None:
    """Wiring only: what they say is tried in the core."""
    ask = {"ask": "regulator", "before": "roof-fan"}
    built = web.post("/api/build", json={"design": VAN, "ask": ask}).json()
    assert built["moved"] == ["roof-fan"]
    assert [edit["op"] for edit in built["edits"]] == ["add", "test", "add"]
    bad = web.post("/api/build", json={"design": VAN, "ask": ask | {"before": "ghost"}})
    assert (bad.status_code, bad.json()["errors"][0]["path"]) == (422, "/ask/loads")
    places = web.post("/api/places", json={"design": VAN, "loads": ["stage-bars"]}).json()
    assert places[0]["rail"] == "stage-rail"
    course = web.post("/api/course", json={"design": VAN}).json()
    assert len(course["series"]["hours"]) > 50
    table = web.post("/api/course.csv", json={"design": VAN, "until_h": 5})
    assert table.headers["content-type"].startswith("text/csv")
    assert float(table.text.splitlines()[-1].split(",")[0]) <= 5
    for until_h in (0, -1, 1e9, "nan"):
        answer = web.post("/api/course", json={"design": VAN, "until_h": until_h})
        assert answer.status_code == 422


BOOTH = demo_designs()["ticket-booth"].model_dump(mode="json")


def test_routes_are_worked_out_from_what_is_on_the_shelf(web: TestClient, pool: Pool) -> None:
    """Without parts there are fewer ways; a boost that is put on the shelf is taken."""
    ask = {"station": "booth-station", "battery": "old-battery"}
    bare = web.post("/api/shelf/routes", json={"design": BOOTH, "grow": ask}).json()
    assert [route["way"] for route in bare] == ["present", "straight", "boost"]
    keep_starting_shelf(Parts(pool))
    full = {
        route["way"]: route
        for route in web.post("/api/shelf/routes", json={"design": BOOTH, "grow": ask}).json()
    }
    assert set(full) == {"present", "straight", "boost", "matched", "series", "bigger"}
    assert full["boost"]["parts"][1]["name"] == "Boost 24 V 15 A"
    # What a route shows can be opened, and what it leads to evaluates.
    assert full["boost"]["figures"]["route.gained"]["value"] == full["boost"]["gained_wh"]
    changed = dict(BOOTH)
    for edit in full["bigger"]["edits"]:
        if edit["op"] != "test":
            changed[edit["path"].removeprefix("/")] = edit["value"]
    assert web.post("/api/evaluate", json=changed).status_code == 200


@pytest.mark.parametrize(
    ("ask", "path"),
    [
        ({"station": "old-battery"}, "/grow/station"),
        ({"station": "booth-station", "battery": "boost"}, "/grow/battery"),
        ({"station": "booth-station", "module_wh": -5}, "/grow/module_wh"),
        ({"station": "booth-station", "module_price": 1e12}, "/grow/module_price"),
        ({}, "/grow/station"),
    ],
)
def test_routes_that_cannot_be_asked_for_are_refused(
    web: TestClient, ask: dict[str, Any], path: str
) -> None:
    answer = web.post("/api/shelf/routes", json={"design": BOOTH, "grow": ask})
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["path"] == path


def test_a_station_goes_on_the_shelf_and_through_csv(web: TestClient) -> None:
    figures = BOOTH["stores"][0]
    kept = {k: v for k, v in figures.items() if k not in (
        "id", "kind", "name", "module_wh", "reserve", "starts_at", "location", "provenance",
        "shelf")}  # fmt: skip
    part = {"kind": "station", "name": "Booth, grown", "figures": kept, "price": 330.0}
    (made,) = _put(web, part)
    assert made["part"]["figures"]["outlets"] == figures["outlets"]
    text = web.get("/api/shelf/parts.csv").text
    (row,) = web.post("/api/shelf/read-csv", json={"text": text}).json()
    assert row["problems"] == []
    assert row["part"]["figures"] == made["part"]["figures"]
    # A cell that is no JSON, and one whose input is upside down: told by the column.
    for old, new, said in (
        ('""kind"": ""ac""', '""kind"" ""ac""', "is not JSON"),
        ('""least_v"": 11.0', '""least_v"": 99.0', "least volts below its most volts"),
    ):
        spoiled = text.replace(old, new)
        assert spoiled != text
        (row,) = web.post("/api/shelf/read-csv", json={"text": spoiled}).json()
        assert row["part"] is None
        assert row["problems"][0]["column"] in ("outlets", "inputs")
        assert said in row["problems"][0]["message"]


def test_a_shelf_station_suits_by_its_outlets(web: TestClient, pool: Pool) -> None:
    keep_starting_shelf(Parts(pool))
    names = {kept["id"]: kept["part"]["name"] for kept in web.get("/api/shelf").json()}
    asked = {"design": BOOTH, "subject": "booth-station"}
    suits = web.post("/api/shelf/suits", json=asked).json()
    by_name = {names[suit["id"]]: suit for suit in suits}
    assert by_name["Station 1024 Wh, 60 V input"]["suits"]
    # A router's backup unit has no mains sockets.
    router = by_name["Backup unit 60 Wh 12 V, for a router"]
    assert (router["suits"], "nothing like AC sockets" in router["why"]) == (False, True)


def test_measured_figures_go_into_a_part_and_are_noted_so(web: TestClient) -> None:
    (kept,) = _put(web, PACK | {"known_from": {}})
    figures = {"battery/ah": 96.0, "battery/provenance": "measured"}
    found = web.post("/api/shelf/measured", json={"part": kept["part"], "figures": figures}).json()
    assert (found["figures"]["ah"], found["known_from"]) == (96.0, {"ah": "measured"})
    wrong = {"part": kept["part"], "figures": {"idle_w": 3.0}}
    assert web.post("/api/shelf/measured", json=wrong).json()["code"] == "invalid_document"


def test_designs_that_hold_a_copy_of_a_part_are_named(web: TestClient, pool: Pool) -> None:
    """By name, each with the revision of the part that it has; deleted ones are left out."""
    (kept,) = _put(web, PACK)
    copy = {"part": kept["id"], "revision": 1}
    designs = Designs(pool)
    made = []
    for name in ("Van", "Booth", "Gone"):
        (store,) = [x for x in VAN["stores"] if x["kind"] == "bank"][:1]
        battery = store["battery"] | {"shelf": copy}
        document = VAN | {
            "name": name,
            "stores": [store | {"battery": battery}, *VAN["stores"][1:]],
        }
        made.append(designs.create(Design.model_validate_json(json.dumps(document))))
    designs.create(Design.model_validate_json(json.dumps(VAN)))
    designs.delete(made[2].id)
    found = web.get(f"/api/shelf/parts/{kept['id']}/copies").json()
    assert [(x["name"], x["revisions"]) for x in found] == [("Booth", [1]), ("Van", [1])]
    assert web.get(f"/api/shelf/parts/{uuid4()}/copies").json() == []

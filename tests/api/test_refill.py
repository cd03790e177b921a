"""The week over HTTP: every demo is answered, bad input is explained with its place."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from graveljar.core.model.parse import MAX_BYTES
from graveljar.core.model.patch import Edit, apply
from graveljar.core.model.sources import FLAT_AT_50_NORTH
from graveljar.demo import demo_designs
from tests.api.asgi import app_over

NAMES = sorted(demo_designs())


@pytest.fixture
def web() -> TestClient:
    return TestClient(app_over(), base_url="http://127.0.0.1:8734")


def _demo(name: str) -> Any:
    return demo_designs()[name].model_dump(mode="json")


@pytest.mark.parametrize("name", NAMES)
def test_every_demo_has_a_week(web: TestClient, name: str) -> None:
    answer = web.post("/api/refill", json={"design": _demo(name), "fill_from": 0.5})
    assert answer.status_code == 200
    week = answer.json()
    assert len(week["days"]) == 7
    assert len(week["charge"]) == len(week["low"]) == len(week["high"]) == 169
    for row in (*week["inflows"], *week["outflows"]):
        assert len(row["wh"]) == 168
        assert min(row["wh"]) > -1e-6
    assert all(curve["charge"][0] == pytest.approx(0.5) for curve in week["fills"])
    names = {store["id"] for store in _demo(name)["stores"]}
    assert week["store"] in names


def test_changes_that_balance_are_edits_of_the_design_that_was_sent(web: TestClient) -> None:
    van = _demo("puppet-van")
    rows = web.post("/api/refill/balance", json=van).json()
    possible = [row for row in rows if row["possible"]]
    assert possible
    assert rows == sorted(rows, key=lambda row: not row["possible"])
    for row in possible:
        assert row["share"] > 1
        # They test the ids of what they point at before they change it.
        assert row["edits"][0]["op"] == "test"
    assert all(not row["edits"] for row in rows if not row["possible"])


@pytest.mark.parametrize(
    ("path", "body", "place"),
    [
        ("/api/refill", {"design": {}, "fill_from": 0.0}, "/fill_from"),
        ("/api/refill", {"design": {}, "fill_from": 1.0}, "/fill_from"),
        ("/api/refill", {"design": {}, "fill_from": "half"}, "/fill_from"),
        ("/api/refill", {"design": {"week": {"month": 0}}}, "/design/week/month"),
        ("/api/refill", {}, "/design"),
        ("/api/refill/outage", {"design": {}, "hours": 0.0}, "/hours"),
        ("/api/refill/outage", {"design": {}, "hours": 169.0}, "/hours"),
        ("/api/refill/outage", {"hours": 9.0}, "/design"),
        ("/api/refill/pairs", {"design": {}, "poor": "rain"}, "/poor"),
        ("/api/refill/year", {"week": {"latitude": 91.0}}, "/week/latitude"),
        ("/api/sun/place", {"latitude": 91.0, "tilt": 0.0, "azimuth": 0.0}, "/latitude"),
        ("/api/sun/place", {"latitude": 50.0, "tilt": 91.0, "azimuth": 0.0}, "/tilt"),
        ("/api/sun/place", {"latitude": 50.0, "tilt": 0.0, "azimuth": 361.0}, "/azimuth"),
        ("/api/sun/place",
         {"latitude": 50.0, "tilt": 0.0, "azimuth": 0.0, "clearness": [0.5] * 11}, "/clearness"),
        ("/api/sun/place",
         {"latitude": 50.0, "tilt": 0.0, "azimuth": 0.0, "clearness": [1.5] * 12}, "/clearness/0"),
        ("/api/refill/balance", {"week": {"days": []}}, "/week/days"),
        ("/api/build", {"design": {}, "ask": {"ask": "refill", "what": "wind", "to": "bank"}},
         "/ask"),
        ("/api/build", {"design": {}, "ask": {"ask": "refill", "what": "sun", "to": "none"}},
         "/to"),
    ],
)  # fmt: skip
def test_bad_requests_say_where(web: TestClient, path: str, body: Any, place: str) -> None:
    answer = web.post(path, json=body)
    assert answer.status_code == 422
    assert any(place in error["path"] for error in answer.json()["errors"])


@pytest.mark.parametrize("name", NAMES)
def test_every_demo_has_a_year_if_the_sun_shines_on_it_and_an_outage_if_mains_feeds_it(
    web: TestClient, name: str
) -> None:
    made = _demo(name)
    kinds = {store["kind"] for store in made["stores"]}
    year = web.post("/api/refill/year", json=made).json()
    assert len(year) == (12 if "sun" in kinds else 0)
    assert all(row["in_wh"] >= row["sun_wh"] >= 0 for row in year)
    outage = web.post("/api/refill/outage", json={"design": made, "hours": 5.0})
    assert outage.status_code == 200
    assert (outage.json() is None) is ("mains" not in kinds)


def test_an_outage_names_every_load_and_the_worst_hour(web: TestClient) -> None:
    made = _demo("tide-gauge-hut")
    bank = made["stores"][0]["id"]
    ask = {"ask": "refill", "what": "mains", "to": bank}
    built = web.post("/api/build", json={"design": made, "ask": ask})
    assert built.status_code == 200
    after = apply(demo_designs()["tide-gauge-hut"], tuple(
        Edit(x["op"], x["path"], x.get("value")) for x in built.json()["edits"] if x["op"] != "test"
    )).model_dump(mode="json")  # fmt: skip
    found = web.post("/api/refill/outage", json={"design": after, "hours": 6.0}).json()
    assert {row["id"] for row in found["loads"]} == {load["id"] for load in made["loads"]}
    assert len(found["survives"]) == 24
    known = [hours for hours in found["survives"] if hours is not None]
    assert found["survives"][found["begins_h"]] == min(known)
    assert [store["id"] for store in found["stores"]] == [bank]


def test_sun_hours_of_a_place_come_with_the_clearness_they_were_made_with(web: TestClient) -> None:
    place = {"latitude": 50.0, "tilt": 0.0, "azimuth": 180.0}
    usual = web.post("/api/sun/place", json=place).json()
    # The usual sun hours at 50 degrees north are what they were taken from.
    assert usual["flat"] == pytest.approx(FLAT_AT_50_NORTH, abs=0.01)
    typed = web.post("/api/sun/place", json=place | {"clearness": [0.5] * 12}).json()
    assert typed["clearness"] == [0.5] * 12
    assert typed["flat"] == pytest.approx([0.5 * x for x in typed["clear"]], abs=0.001)


def test_a_year_of_light_is_read_and_may_be_larger_than_a_document(web: TestClient) -> None:
    """Definition: an hour of 500 W/m2 a day is half a sun hour."""
    rows = [f"{m},{d},12,500{' ' * 6000}" for m in range(1, 13) for d in range(1, 29)]
    text = "\n".join(["month,day,hour,plane", *rows])
    assert len(text) > MAX_BYTES
    body = {"text": text, "latitude": 50.0, "tilt": 30.0, "azimuth": 180.0}
    assert web.post("/api/sun/file", json=body).json()["plane"] == [0.5] * 12
    wrong = web.post("/api/sun/file", json=body | {"text": "month,day,hour,plane\n1,1,25,3"})
    assert (wrong.status_code, wrong.json()["errors"][0]["path"]) == (400, "/text")
    assert "Line 2" in wrong.json()["detail"]
    assert web.post("/api/sun/file", json=body | {"text": "x" * 3_100_000}).status_code == 413

"""The week over HTTP: every demo is answered, bad input is explained with its place."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from graveljar.api.app import create_app
from graveljar.demo import demo_designs

NAMES = sorted(demo_designs())


@pytest.fixture
def web() -> TestClient:
    return TestClient(create_app(), base_url="http://127.0.0.1:8734")


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

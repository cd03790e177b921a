"""The bench book over HTTP: kept, judged by the design as it is, exported, taken away and back."""

import csv
import io
from collections.abc import Callable, Iterator
from typing import Any
from uuid import uuid4

import pytest
from fastapi.testclient import TestClient
from PIL import Image

from graveljar.demo import demo_designs
from graveljar.formats.drawing import as_pdf
from graveljar.store.database import Pool
from graveljar.store.designs import Designs
from graveljar.store.readings import Readings
from tests.api.asgi import app_over
from tests.building import bank, design, load

BOOTH = demo_designs()["ticket-booth"].model_dump(mode="json")
VOLTS = {"kind": "volts", "subject": BOOTH["links"][0]["rail"], "volts": 36.1, "note": "= plug"}


@pytest.fixture
def web(pool: Pool) -> Iterator[TestClient]:
    app = app_over(designs=Designs(pool), readings=Readings(pool))
    with TestClient(app, base_url="http://127.0.0.1:8734") as client:
        yield client


def _design(web: TestClient) -> str:
    made = web.post("/api/designs", json={"document": BOOTH}).json()
    return f"/api/designs/{made['id']}/readings"


def test_a_reading_is_kept_taken_away_and_brought_back(web: TestClient) -> None:
    url = _design(web)
    kept = web.post(url, json={"reading": VOLTS}).json()
    second = web.post(url, json={"reading": VOLTS | {"volts": 24.1}}).json()
    assert [x["id"] for x in web.get(url).json()] == [second["id"], kept["id"]]
    assert kept["reading"]["volts"] == 36.1
    one = f"{url}/{kept['id']}"
    changed = web.put(one, json={"reading": VOLTS | {"volts": 36.2}}).json()
    assert (changed["reading"]["volts"], changed["taken_at"]) == (36.2, kept["taken_at"])
    web.put(one, json={"reading": VOLTS})
    assert web.delete(one).status_code == 204
    assert [x["id"] for x in web.get(url).json()] == [second["id"]]
    assert web.delete(one).json()["code"] == "reading_not_found"
    assert web.put(one, json={"reading": VOLTS}).json()["code"] == "reading_not_found"
    assert web.post(f"{one}/restore").status_code == 204
    assert len(web.get(url).json()) == 2
    # One column a figure; a text that a spreadsheet would work out is only text.
    rows = list(csv.DictReader(io.StringIO(web.get(f"{url}.csv").text)))
    assert [row["volts"] for row in rows] == ["24.1", "36.1"]
    assert all(row["note"] == "'= plug" and row["ah"] == "" for row in rows)


def _picture(kind: str, size: tuple[int, int] = (40, 20), **more: Any) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", size, (200, 120, 40)).save(out, kind, **more)
    return out.getvalue()


@pytest.mark.parametrize(("kind", "media"), [("PNG", "image/png"), ("JPEG", "image/jpeg")])
def test_a_picture_is_kept_with_nothing_but_the_picture(
    web: TestClient, kind: str, media: str
) -> None:
    """A place, a camera and a turn by 90° in EXIF: the turn is made, the rest is left out."""
    url = _design(web)
    one = f"{url}/{web.post(url, json={'reading': VOLTS}).json()['id']}"
    exif = Image.Exif()
    exif[0x0112], exif[0x010F], exif[0x9286] = 6, "A camera", "52.1 N 4.2 E"
    assert web.put(f"{one}/picture", content=_picture(kind, exif=exif)).status_code == 204
    assert web.get(url).json()[0]["picture"] is True
    kept = web.get(f"{one}/picture")
    assert (kept.headers["content-type"], kept.headers["x-content-type-options"]) == (
        media, "nosniff",
    )  # fmt: skip
    again = Image.open(io.BytesIO(kept.content))
    assert again.size == (20, 40)
    assert not again.getexif()
    assert b"camera" not in kept.content
    assert web.delete(f"{one}/picture").status_code == 204
    assert web.get(f"{one}/picture").json()["code"] == "reading_not_found"
    assert web.get(url).json()[0]["picture"] is False


@pytest.mark.parametrize(
    ("made", "status", "words"),
    [
        (lambda: b"<svg onload='x'/>", 400, "no picture in PNG or JPEG"),
        (lambda: _picture("GIF"), 400, "no picture in PNG or JPEG"),
        (lambda: _picture("PNG")[:60], 400, "no picture in PNG or JPEG"),
        (lambda: _picture("PNG", (8_000, 6_000)), 400, "more than 40000000 pixels"),
        (lambda: b"x" * 4_000_001, 413, "at most 4000000 bytes"),
    ],
    ids=["svg", "gif", "cut off", "too many pixels", "too large"],
)
def test_what_is_no_picture_is_refused(
    web: TestClient, made: Callable[[], bytes], status: int, words: str
) -> None:
    # A page was printed before: what sets the type would let cut-off pictures pass.
    as_pdf("<p>sheet</p>")
    url = _design(web)
    one = f"{url}/{web.post(url, json={'reading': VOLTS}).json()['id']}/picture"
    refused = web.put(one, content=made())
    assert (refused.status_code, words in refused.text) == (status, True), refused.text
    good = web.put(one.replace(one.split("/")[-2], str(uuid4())), content=_picture("PNG"))
    assert good.json()["code"] == "reading_not_found"


def test_a_bench_book_goes_out_and_comes_back_in(web: TestClient) -> None:
    url, other = _design(web), _design(web)
    for volts in (36.1, 24.1):
        web.post(url, json={"reading": VOLTS | {"volts": volts}})
    book = web.get(url.replace("/readings", "/bench-book.json")).json()
    assert [x["reading"]["volts"] for x in book["readings"]] == [36.1, 24.1]
    into = other.replace("/readings", "/bench-book")
    assert web.post(into, json=book).json() == 2
    assert web.post(into, json=book).json() == 0
    same = [(x["taken_at"], x["reading"]) for x in web.get(url).json()]
    assert [(x["taken_at"], x["reading"]) for x in web.get(other).json()] == same
    newer = web.post(into, json=book | {"version": 2}).json()
    assert newer["errors"][0]["path"] == "/version"
    wrong = {"readings": [{"taken_at": "2026-11-28T10:00:00Z", "reading": VOLTS | {"volts": -1}}]}
    assert web.post(into, json=book | wrong).json()["errors"][0]["path"].startswith("/readings/0")


def test_readings_are_judged_by_the_design_that_is_sent(web: TestClient) -> None:
    """36.1 V for an input of 28 V is bad; with an input up to 60 V it is as planned."""
    ghost = VOLTS | {"subject": "ghost"}
    found = web.post("/api/readings/judge", json={"design": BOOTH, "readings": [VOLTS, ghost]})
    assert [x and x["verdict"] for x in found.json()] == ["bad", None]
    other: Any = BOOTH | {"stores": [*BOOTH["stores"]]}
    station = other["stores"][0]
    inputs = [x | {"accepts": {"least_v": 11.0, "most_v": 60.0}} for x in station["inputs"]]
    other["stores"][0] = station | {"inputs": inputs}
    found = web.post("/api/readings/judge", json={"design": other, "readings": [VOLTS]})
    assert found.json()[0]["verdict"] == "good"
    checks = web.post("/api/readings/checklist", json=BOOTH).json()
    assert {"rested", "volts", "polarity", "heat", "capacity"} <= {x["kind"] for x in checks}


def test_what_is_left_from_now_on_and_what_the_band_depends_on(web: TestClient) -> None:
    """Hours by what is above the reserve of 5 % and the 3.2 % that the cold takes: definition."""
    store = BOOTH["stores"][0]["id"]
    on = [BOOTH["loads"][0]["id"]]
    hours = []
    for percent in (50, 100):
        now = {"store": store, "percent": percent, "clock_h": 9.5, "on": on}
        found = web.post("/api/readings/outlook", json={"design": BOOTH, "now": now}).json()
        hours.append(found["hours"])
    assert hours[0] == pytest.approx(hours[1] * (0.5 - 0.082) / (1 - 0.082), rel=0.03)
    wrong = {"design": BOOTH, "now": {"store": store}}
    refused = web.post("/api/readings/outlook", json=wrong)
    assert (refused.status_code, refused.json()["errors"][0]["path"]) == (422, "/now")
    causes = web.post("/api/readings/band-causes", json=BOOTH).json()
    assert set(causes) == {"width_h", "causes", "says", "next_subject"}


def test_what_other_figures_do_is_told_before_and_after(web: TestClient) -> None:
    """Half the energy lasts half as long: definition. A reader that needs 12 V on USB is found."""
    whole, half = (
        design(load(50.0, hours_per_day=24.0), stores=bank(reserve=0.0, starts_at=share))
        .model_dump(mode="json")
        for share in (1.0, 0.5)
    )  # fmt: skip
    same = web.post("/api/readings/effect", json={"design": whole, "changed": whole}).json()
    assert (same["before"], same["solves"], same["adds"]) == (same["after"], [], [])
    found = web.post("/api/readings/effect", json={"design": whole, "changed": half}).json()
    assert found["after"]["p10"] == pytest.approx(0.5 * found["before"]["p10"], rel=0.03)
    assert found["after"]["p10"] < found["after"]["p90"]
    loads: Any = [x | {"supply": {"kind": "dc", "volts": 12.0}} for x in BOOTH["loads"]]
    wrong: Any = BOOTH | {"loads": loads}
    there = web.post("/api/readings/effect", json={"design": BOOTH, "changed": wrong}).json()
    back = web.post("/api/readings/effect", json={"design": wrong, "changed": BOOTH}).json()
    assert any("needs 12 V DC; its rail has 5 V DC" in title for title in there["adds"])
    assert there["adds"] == back["solves"]


@pytest.mark.parametrize(
    ("reading", "path"),
    [
        (VOLTS | {"volts": -3}, "/reading/volts/volts"),
        (VOLTS | {"colour": 1}, "/reading/volts/colour"),
        (VOLTS | {"kind": "smell"}, "/reading"),
        (VOLTS | {"note": "x" * 1_001}, "/reading/volts/note"),
        (VOLTS | {"air_c": 1e9}, "/reading/volts/air_c"),
    ],
)
def test_a_reading_out_of_bounds_is_refused(web: TestClient, reading: Any, path: str) -> None:
    url = _design(web)
    answer = web.post(url, json={"reading": reading})
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["path"] == path
    assert web.get(url).json() == []
    assert web.post(f"/api/designs/{uuid4()}/readings", json={"reading": VOLTS}).status_code == 404

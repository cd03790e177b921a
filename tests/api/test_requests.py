"""Requests without a database: evaluation, quick entry, bad input, hosts, origins, headers."""

import asyncio
import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from graveljar.api import guard
from graveljar.api.app import create_app
from graveljar.api.reference import reference
from graveljar.core.model import VERSION
from graveljar.core.model.parse import MAX_BYTES
from graveljar.demo import demo_designs
from tests.api.asgi import ask

VAN = demo_designs()["puppet-van"].model_dump(mode="json")
HOST = "http://127.0.0.1:8734"


@pytest.fixture(scope="module")
def web(tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    ui = tmp_path_factory.mktemp("ui")
    (ui / "assets").mkdir()
    (ui / "assets/a.js").write_text("1")
    for page in ("index.html", "docs.html"):
        (ui / page).write_text('<script type="module" nonce="%NONCE%" src="/assets/a.js"></script>')
    app = create_app(ui=ui)
    with TestClient(app, base_url=HOST, raise_server_exceptions=False) as client:
        yield client


def test_an_evaluation_comes_back_whole(web: TestClient) -> None:
    answer = web.post("/api/evaluate", json=VAN).json()
    assert {"verdict", "band", "findings"} <= set(answer)
    assert answer["verdict"]["cause"] == "cut-out"
    assert len(answer["loads"]) == len(VAN["loads"])
    assert answer["figures"]["run.hours"]["value"] == answer["verdict"]["hours"]


def test_a_line_is_read_for_its_design(web: TestClient) -> None:
    body = {"line": "kettle 230V 900W 18 min", "design": VAN}
    answer = web.post("/api/read-load", json=body).json()
    assert answer["load"]["rail"] == "inverter"
    too_long = web.post("/api/read-load", json=body | {"line": "x" * 301})
    assert too_long.status_code == 422
    assert too_long.json()["errors"][0]["path"] == "/line"


def test_the_reference_holds_what_the_screen_needs(web: TestClient) -> None:
    answer = web.get("/api/reference").json()
    assert {c["key"] for c in answer["chemistries"]} == {"lfp", "nmc", "agm", "flooded"}
    assert {a["source"] for a in answer["assumptions"]} <= set(answer["sources"])
    blank = reference().blank_parts["inverter"]
    assert answer["blank_parts"]["inverter"] == blank.model_dump(mode="json")


def _with(path: str, value: Any) -> Any:
    document = json.loads(json.dumps(VAN))
    place = document
    *steps, last = [int(s) if s.isdigit() else s for s in path.strip("/").split("/")]
    for step in steps:
        place = place[step]
    place[last] = value
    return document


@pytest.mark.parametrize(
    ("body", "status", "code", "path"),
    [
        (_with("/loads/2/demand/watts", -1), 422, "invalid_document", "/loads/2/demand/watts"),
        (_with("/loads/2/hours_per_day", 25), 422, "invalid_document", "/loads/2/hours_per_day"),
        (_with("/colour", "red"), 422, "invalid_document", "/colour"),
        (_with("/loads", [{}] * 201), 422, "invalid_document", "/loads"),
        (_with("/loads/0/demand/watts", None), 422, "invalid_document", "/loads/0/demand/watts"),
        (_with("/version", VERSION + 1), 422, "newer_version", ""),
        ([], 422, "invalid_document", ""),
        ("text", 422, "invalid_document", ""),
    ],
)
def test_bad_documents_are_refused_with_the_place(
    web: TestClient, body: Any, status: int, code: str, path: str
) -> None:
    answer = web.post("/api/evaluate", json=body)
    problem = answer.json()
    assert (answer.status_code, problem["code"]) == (status, code)
    assert answer.headers["content-type"] == "application/problem+json"
    assert problem["status"] == status
    assert problem["errors"][0]["path"] == path
    assert problem["errors"][0]["message"]


@pytest.mark.parametrize(
    ("raw", "status"),
    [
        (b"", 422),
        (b"{", 400),
        (b'{"format": "gravel-jar/design", "loads": [', 400),
        (b"[" * 50_000, 400),
        (b'{"a":' * 50_000, 400),
        (b'{"setting": {"ambient_c": NaN}}', 400),
        (b'{"setting": {"ambient_c": 1e999}}', 422),
        (b"\xff", 400),
        (b"null", 422),
        (b" " * (MAX_BYTES + 1), 413),
    ],
)
def test_raw_rubbish_never_makes_an_accident(web: TestClient, raw: bytes, status: int) -> None:
    for path in ("/api/evaluate", "/api/read-load", "/api/designs"):
        answer = web.post(path, content=raw, headers={"content-type": "application/json"})
        if path == "/api/evaluate":
            assert answer.status_code == status
        assert 400 <= answer.status_code < 500
        assert answer.json()["title"]


def test_a_large_body_is_refused_even_without_its_length(web: TestClient) -> None:
    def chunks() -> Iterator[bytes]:
        for _ in range(12):
            yield b" " * 100_000

    answer = web.post("/api/evaluate", content=chunks())
    assert answer.status_code == 413
    assert answer.json()["code"] == "too_large"


@pytest.mark.parametrize(
    ("headers", "status"),
    [
        ({"host": "127.0.0.1:8734"}, 200),
        ({"host": "localhost:9999"}, 200),
        ({"host": "evil.example"}, 421),
        ({"host": "127.0.0.1.evil.example"}, 421),
        ({"host": "localhost:9999", "origin": "http://localhost:9999"}, 200),
        ({"origin": "http://evil.example"}, 403),
        ({"origin": "http://127.0.0.1:1"}, 403),
        ({"origin": "null"}, 403),
        ({"content-length": "-5"}, 400),
        ({"host": "["}, 421),
        # A form on a page elsewhere, which a browser may send without an origin.
        ({"sec-fetch-site": "cross-site"}, 403),
        ({"sec-fetch-site": "same-origin"}, 200),
    ],
)
def test_only_its_own_pages_may_change_things(
    web: TestClient, headers: dict[str, str], status: int
) -> None:
    answer = web.post("/api/evaluate", json=VAN, headers=headers)
    assert answer.status_code == status


def test_a_page_elsewhere_loads_nothing_but_may_link_here(web: TestClient) -> None:
    elsewhere = {"sec-fetch-site": "cross-site"}
    assert web.get("/api/reference", headers=elsewhere).status_code == 403
    assert web.get("/", headers=elsewhere).status_code == 200
    refused = web.get("/api/reference", headers={"host": "evil.example"})
    assert refused.headers["x-content-type-options"] == "nosniff"


def test_a_body_that_does_not_come_is_given_up(monkeypatch: pytest.MonkeyPatch) -> None:
    """Its length is said, its last part never sent."""
    monkeypatch.setattr(guard, "PART_S", 0.05)

    async def never() -> Any:
        await asyncio.sleep(60)

    sent = ask(create_app(), "/api/evaluate", never, content_length="10")
    assert sent[0]["status"] == 408
    assert b"did not come" in sent[1]["body"]


def test_an_unforeseen_error_shows_nothing_of_the_inside(web: TestClient) -> None:
    """The application of this module has no store: asking it for designs is an accident."""
    answer = web.get("/api/designs")
    assert answer.status_code == 500
    assert answer.json()["code"] == "unforeseen"
    assert "Traceback" not in answer.text
    assert "NoneType" not in answer.text


@pytest.mark.parametrize("path", ["/", "/d/some-id/plan", "/api/docs"])
def test_pages_carry_a_strict_policy_with_a_fresh_nonce(web: TestClient, path: str) -> None:
    first, second = web.get(path), web.get(path)
    policy = first.headers["content-security-policy"]
    assert "default-src 'none'" in policy
    assert "script-src 'self';" in policy
    assert "unsafe" not in policy
    nonce = policy.split("'nonce-")[1].split("'")[0]
    assert f'nonce="{nonce}"' in first.text
    assert nonce not in second.text


def test_every_answer_has_the_guarding_headers(web: TestClient) -> None:
    for answer in (web.get("/api/reference"), web.get("/nowhere"), web.post("/api/evaluate")):
        assert answer.headers["x-content-type-options"] == "nosniff"
        assert "frame-ancestors 'none'" in answer.headers["content-security-policy"]
        assert answer.headers["referrer-policy"] == "no-referrer"
    assert "immutable" in web.get("/assets/a.js").headers["cache-control"]
    assert web.get("/assets/../index.html").status_code == 404


def test_the_description_of_the_api_names_no_other_host() -> None:
    """Everything the page loads comes from here."""
    root = Path(__file__).parents[2]
    for page in ("index.html", "docs.html"):
        assert "//" not in (root / "ui" / page).read_text().replace("</", "<")

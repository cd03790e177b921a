"""Cables and cautions through the API: rows, both schools, CSV, bounds, and the page of method."""

import csv
import io
import re
from pathlib import Path
from typing import Any, get_args

import pytest
from fastapi.testclient import TestClient

from graveljar.api.app import create_app
from graveljar.core.components.cable import SIZES
from graveljar.core.tables.conductors import (
    AMPACITIES,
    AWG_NUMBERS,
    CLASS_5_OHM_PER_KM,
    SizeName,
)
from graveljar.core.tables.connectors import CONNECTORS, ConnectorKey
from graveljar.core.tables.fuses import FUSE_KINDS, FuseKindKey
from graveljar.core.tables.sources import SOURCES
from graveljar.demo import demo_designs
from tests.reference.random_designs import wired_design

ROOT = Path(__file__).parents[2]
DEMOS = {name: made.model_dump(mode="json") for name, made in demo_designs().items()}


@pytest.fixture(scope="module")
def web() -> TestClient:
    return TestClient(create_app(ui=ROOT / "ui/dist"), base_url="http://127.0.0.1:8734")


@pytest.mark.parametrize("name", sorted(DEMOS))
def test_rows_stand_in_the_order_of_the_current(web: TestClient, name: str) -> None:
    cables = web.post("/api/cables", json=DEMOS[name]).json()["cables"]
    seen = {x["id"] for x in DEMOS[name]["stores"]}
    seen |= {o["id"] for x in DEMOS[name]["stores"] for o in x.get("outlets", ())}
    for row in cables["rows"]:
        thing = next(
            (x for part in ("stages", "links", "loads") for x in DEMOS[name][part]
             if x["id"] == row["subject"]), None,
        )  # fmt: skip
        assert row["kind"] == "post" or (thing is not None and thing["rail"] in seen)
        seen.add(row["subject"])
        # Where it points to is what it describes.
        assert re.fullmatch(r"/(stores/\d+/leads|stages/\d+|links/\d+|loads/\d+)", row["path"])
        assert row["quick_a"] <= row["design_a"] * (1 + 1e-9) or row["kind"] == "link"
        assert row["design_a"] <= row["start_a"] * (1 + 1e-9)
    assert set(cables["sources"]) <= set(SOURCES)


def test_every_table_is_told_for_every_run(web: TestClient) -> None:
    van = DEMOS["puppet-van"]
    rows = web.post("/api/cables", json=van).json()["cables"]["rows"]
    both = web.post("/api/cables/schools", json=van).json()
    assert [x["subject"] for x in both] == [x["subject"] for x in rows] * len(AMPACITIES)
    assert {x["school"] for x in both} == set(AMPACITIES)
    # What is chosen does not matter to it.
    stages = [
        x | {"fuse": None, "cable": x["cable"] and {**x["cable"], "size": None}}
        for x in van["stages"]
    ]
    bare = {**van, "stages": stages}
    unwired = web.post("/api/cables/schools", json=bare).json()
    inverter = [[x for x in rows if x["subject"] == "inverter"] for rows in (both, unwired)]
    assert inverter[0] == inverter[1]


@pytest.mark.parametrize("what", ["runs", "cuts"])
@pytest.mark.parametrize("name", sorted(DEMOS))
def test_tables_are_whole_csv(web: TestClient, name: str, what: str) -> None:
    answer = web.post(f"/api/cables.csv?what={what}", json=DEMOS[name])
    assert answer.headers["content-type"].startswith("text/csv")
    rows = list(csv.DictReader(io.StringIO(answer.text)))
    cables = web.post("/api/cables", json=DEMOS[name]).json()["cables"]
    assert len(rows) == len(cables["rows" if what == "runs" else "cuts"])
    assert all(None not in row and None not in row.values() for row in rows)
    if what == "cuts":
        metres = sum(float(row["metres in all [m]"] or 0) for row in rows)
        assert metres == pytest.approx(sum(x["metres"] or 0 for x in cables["cuts"]))
        for row in rows:
            pieces = [float(x) for x in row["pieces [m]"].split("; ") if x]
            assert sum(pieces) == pytest.approx(float(row["metres in all [m]"] or 0))
    else:
        for row, shown in zip(rows, cables["rows"], strict=True):
            assert float(row["design [A]"]) == pytest.approx(shown["design_a"])


@pytest.mark.parametrize("name", sorted(DEMOS))
def test_conductors_go_from_terminal_to_terminal(web: TestClient, name: str) -> None:
    """Plus and minus of each run, fuses in plus; red and black (common practice)."""
    text = web.post("/api/cables.csv?what=joints", json=DEMOS[name]).text
    rows = list(csv.DictReader(io.StringIO(text)))
    shown = web.post("/api/cables", json=DEMOS[name]).json()["cables"]["rows"]
    assert len(rows) == 2 * len(shown)
    for n, run in enumerate(shown):
        plus, minus = rows[2 * n : 2 * n + 2]
        assert (plus["conductor"], minus["conductor"]) == (
            f"{run['name']}, plus", f"{run['name']}, minus",
        )  # fmt: skip
        assert (plus["terminal"], minus["terminal there"]) == ("plus", "minus")
        assert (plus["colour"], minus["colour"]) == ("red", "black")
        assert plus["to"] == (f"{run['name']}, bus bar" if run["kind"] == "post" else run["name"])
        fuse = run["fuse"] or run["proposed_fuse"]
        assert plus["fuse [A]"] == ("" if fuse is None else f"{fuse['amps']:g}")
        assert minus["fuse [A]"] == ""


def test_a_name_that_a_spreadsheet_would_run_is_written_as_text(web: TestClient) -> None:
    van = {**DEMOS["puppet-van"]}
    van["loads"] = [x | {"name": "=1+1"} if x["id"] == "roof-fan" else x for x in van["loads"]]
    text = web.post("/api/cables.csv", json=van).text
    assert "'=1+1" in text
    assert "\n=1+1" not in text


@pytest.mark.parametrize(
    ("path", "body", "status"),
    [
        ("/api/cables.csv?what=all", DEMOS["puppet-van"], 422),
        ("/api/cables.csv", {"format": "gravel-jar/design", "loads": [{}]}, 422),
        ("/api/cables/schools", {"format": "gravel-jar/design", "version": 99}, 422),
        ("/api/cables/schools", [], 422),
    ],
)
def test_bad_requests_are_explained(web: TestClient, path: str, body: Any, status: int) -> None:
    answer = web.post(path, json=body)
    assert answer.status_code == status
    assert answer.json()["code"]


@pytest.mark.parametrize("seed", range(6))
def test_any_wiring_survives_the_way_there_and_back(web: TestClient, seed: int) -> None:
    """Proposals of a random wiring taken through the document leave nothing to propose."""
    from graveljar.core.model import Design  # noqa: PLC0415
    from graveljar.core.model.patch import Edit, apply  # noqa: PLC0415

    made = wired_design(seed)
    cables = web.post("/api/cables", json=made.model_dump(mode="json")).json()["cables"]
    edits = [Edit(x["op"], x["path"], x["value"]) for x in cables["edits"]]
    taken = Design.model_validate(apply(made, edits).model_dump(mode="json"))
    again = web.post("/api/cables", json=taken.model_dump(mode="json")).json()
    assert again["cables"]["edits"] == [] or all(
        row["proposed"] is None or row["proposed_fuse"] is None
        for row in again["cables"]["rows"]
        if row["edits"]
    )


@pytest.mark.parametrize(
    ("page", "first"), [("method", "cables"), ("glossary", "words-of-the-trade")]
)
def test_pages_of_the_docs_are_whole_and_under_the_same_policy(
    web: TestClient, page: str, first: str
) -> None:
    answer = web.get(f"/{page}")
    assert "script-src 'self'" in answer.headers["content-security-policy"]
    assert f'<h2 id="{first}"' in answer.text
    assert "%NONCE%" not in answer.text
    assert "<script>" not in answer.text
    # All of it: as many headings as the file has.
    written = (ROOT / f"docs/{page}.md").read_text()
    assert answer.text.count("<h2") == written.count("\n## ")


def test_hand_kept_lists_of_wiring_agree() -> None:
    assert set(get_args(SizeName)) == {size.name for size in SIZES}
    assert set(get_args(ConnectorKey)) == {connector.key for connector in CONNECTORS}
    assert set(get_args(FuseKindKey)) == {kind.key for kind in FUSE_KINDS}
    for table in AMPACITIES.values():
        for column in table.columns.values():
            assert set(column) <= set(CLASS_5_OHM_PER_KM if table.metric else AWG_NUMBERS)
        assert table.source in SOURCES
        shares = [share for _, share in table.bundled]
        assert shares == sorted(shares, reverse=True)
        assert shares[0] == 1.0


def test_the_reference_tells_the_screen_what_can_be_chosen(web: TestClient) -> None:
    answer = web.get("/api/reference").json()
    assert [x["name"] for x in answer["sizes"]] == list(get_args(SizeName))
    assert {x["system"] for x in answer["sizes"]} == {"metric", "AWG"}
    areas = [x["mm2"] for x in answer["sizes"] if x["system"] == "metric"]
    assert areas == sorted(areas)
    assert {x["key"] for x in answer["fuse_kinds"]} == set(get_args(FuseKindKey))
    assert {x["key"] for x in answer["connectors"]} == set(get_args(ConnectorKey))

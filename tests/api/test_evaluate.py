"""The engine through the API and the commands: whole trees, refusals, the bench's design."""

import json
from pathlib import Path
from typing import Any

import jsonpatch
import pytest
from fastapi.testclient import TestClient
from jsonschema import Draft202012Validator

from graveljar.api.answers import _evaluation
from graveljar.bench import sample
from graveljar.cli import main, schema_of
from graveljar.core.evaluate import evaluate
from graveljar.core.model.design import VERSION
from tests.api.asgi import app_over
from tests.reference.random_designs import random_design

SCHEMA = Draft202012Validator(schema_of("evaluation"))
DESIGN_SCHEMA = Draft202012Validator(schema_of("design"))


@pytest.fixture
def web() -> TestClient:
    return TestClient(app_over(), base_url="http://127.0.0.1:8734")


def _tree(seed: int = 3) -> Any:
    return random_design(seed, cut_outs=True).model_dump(mode="json")


@pytest.mark.parametrize("seed", [3, 7, 11])
def test_an_evaluation_is_as_its_schema_says(web: TestClient, seed: int) -> None:
    document = _tree(seed)
    assert list(DESIGN_SCHEMA.iter_errors(document)) == []
    answer = web.post("/api/evaluate", json=document)
    assert answer.status_code == 200
    workings = web.post("/api/workings", json=document).json()
    short = {key: {x: v[x] for x in ("name", "value", "unit")} for key, v in workings.items()}
    # Each figure once in one of three answers, but for those of the others that findings name.
    cables, needed = (web.post(f"/api/{x}", json=document).json() for x in ("cables", "needed"))
    named = {key for one in answer.json()["findings"] for key in one["figures"]}
    others = cables["figures"] | needed["figures"]
    assert cables["figures"].keys() & needed["figures"].keys() == set()
    assert answer.json()["figures"] | others == short
    assert answer.json()["figures"].keys() & others.keys() == named & others.keys()
    marks = {"format": "gravel-jar/evaluation", "version": 11}
    parts = {"cables": cables["cables"], "needed": needed["needed"]}
    written = answer.json() | {"figures": workings} | marks | parts
    assert list(SCHEMA.iter_errors(written)) == []
    rails = {x["id"] for x in (*document["stores"], *document["stages"])}
    moments = written["run"]["moments"]
    assert [m["hours"] for m in moments] == sorted(m["hours"] for m in moments)
    assert sum(m["most"] for m in moments) == 1
    joined = {x["id"] for x in document["loads"] if x["rail"]}
    for moment in moments:
        assert set(moment["volts"]) == set(moment["amps"]) == set(moment["gives"]) == rails
        assert set(moment["takes"]) == joined
    assert set(written["run"]["worst"]) == rails | joined


def test_the_command_and_the_api_say_the_same(
    web: TestClient, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    file = tmp_path / "design.json"
    file.write_text(json.dumps(_tree()))
    assert main(["evaluate", str(file)]) == 0
    said = json.loads(capsys.readouterr().out)
    assert said["figures"] == web.post("/api/workings", json=_tree()).json()
    answer = web.post("/api/evaluate", json=_tree()).json()
    assert {key: said[key] for key in answer} == answer | {"figures": said["figures"]}
    for part in ("cables", "needed"):
        assert said[part] == web.post(f"/api/{part}", json=_tree()).json()[part]


def test_an_answer_that_was_kept_is_the_answer_and_its_edits_fit_what_was_sent(
    web: TestClient,
) -> None:
    """A frozen bank, its defaults and ids left out as a client may."""
    sent: Any = {
        "format": "gravel-jar/design", "version": 9, "setting": {"ambient_c": -5.0},
        "stores": [{"battery": {"chemistry": "lfp"}}],
        "loads": [{"id": "lamp", "name": "Lamp", "rail": "bank",
                   "supply": {"kind": "dc", "volts": 12.0}, "when": {"kind": "hours"},
                   "demand": {"kind": "watts", "watts": 20.0}}],
    }  # fmt: skip
    first = web.post("/api/evaluate", json=sent)
    before = _evaluation.cache_info().hits
    again = web.post("/api/evaluate", json=sent)
    assert (first.status_code, again.content) == (200, first.content)
    assert _evaluation.cache_info().hits == before + 1
    fixes = [fix for x in again.json()["findings"] for fix in x["fixes"] if fix["edits"]]
    assert fixes
    for fix in fixes:
        taken = jsonpatch.apply_patch(sent, fix["edits"])
        assert web.post("/api/evaluate?quick=true", json=taken).status_code == 200
    # Another question: not mixed up.
    warmer = web.post("/api/evaluate", json=sent | {"setting": {"ambient_c": 20.0}})
    frozen, mild = ({x["code"] for x in one.json()["findings"]} for one in (first, warmer))
    assert "bank.lithium_in_frost" in frozen - mild


def _in_design(**parts: Any) -> Any:
    return {"format": "gravel-jar/design", "version": VERSION} | parts


def _port(**fields: Any) -> Any:
    return _in_design(stores=[{"kind": "station", "outlets": [{"kind": "dc", "id": "p"} | fields]}])


@pytest.mark.parametrize(
    ("document", "fits"),
    [
        (_port(volts=5.0), True),
        (_port(gives="sagging", volts=None), True),
        (_port(gives="sagging"), False),
        (_port(gives="sagging", volts=12.0), False),
        (_port(volts=None), False),
        (_port(cut_v=1e-9), False),
        (_in_design(setting={"ambient_c": 0.0}), True),
        (_in_design(setting={"ambient_c": 1e-9}), False),
        (_in_design(stores=[{"leads": {"longest_m": 2.0, "cable": {"length_m": 1.0}}}]), True),
        (_in_design(stores=[{"leads": {"longest_m": 2.0}}]), False),
    ],
)
def test_the_schema_accepts_what_the_program_does(
    web: TestClient, document: Any, fits: bool
) -> None:
    assert DESIGN_SCHEMA.is_valid(document) == fits
    assert (web.post("/api/evaluate?quick=true", json=document).status_code == 200) == fits


def _feeds(*pairs: tuple[str, str]) -> Any:
    made = [{"kind": "feed", "id": a, "name": a, "rail": b} for a, b in pairs]
    return {"format": "gravel-jar/design", "version": 3, "stages": made}


def _efficient(efficiency: float) -> Any:
    full = {"load_share": 1.0, "efficiency": efficiency}
    return {"stages": [{"kind": "converter", "full_load": full}]}


@pytest.mark.parametrize(
    ("document", "path", "said"),
    [
        (_feeds(("a", "b"), ("b", "a")), "/stages/0/rail", "a → b → a"),
        (_feeds(("a", "nowhere")), "/stages/0/rail", "not a rail here"),
        (
            {
                "stages": [
                    {"kind": "converter", "full_load": {"load_share": 1.0, "efficiency": 0.0}}
                ]
            },
            "/stages/0/full_load/efficiency",
            "must be more than 0",
        ),
        (
            {
                "stages": [
                    {"kind": "converter", "full_load": {"load_share": 1.0, "efficiency": 1.1}}
                ]
            },
            "/stages/0/full_load/efficiency",
            "must be 1 or less",
        ),
        (
            {"stages": [{"kind": "converter", "topology": "linear", "set_v": 48.0}]},
            "/stages/0",
            "a higher voltage than a linear one supplies",
        ),
        ({"setting": {"horizon_h": 87_600.0}}, "/setting/horizon_h", "8760 or less"),
        ({"setting": {"ambient_by_hour": [20.0] * 23}}, "/setting/ambient_by_hour", "at least 24"),
        ({"stores": [{}] * 9}, "/stores", "at most 8"),
    ],
)
def test_trees_that_cannot_be_are_refused_with_the_path(
    web: TestClient, document: Any, path: str, said: str
) -> None:
    answer = web.post("/api/evaluate", json=document)
    assert answer.status_code == 422
    problems = answer.json()["errors"]
    assert problems[0]["path"] == path
    assert said in problems[0]["message"]


def test_the_design_of_the_bench_is_what_it_is_said_to_be() -> None:
    """Twelve loads on four rails, still running after 72 h: no event cuts its work short."""
    made = sample(12, 72.0)
    assert len(made.loads) == 12
    assert len({load.rail for load in made.loads}) == 4
    evaluation = evaluate(made)
    assert evaluation.verdict.cause == "horizon"
    assert evaluation.run.ends_h == 72

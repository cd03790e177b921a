"""Whatever is sent, the answer is a result or an explained refusal: never a fault."""

import csv
import io
import json
from collections.abc import Iterator
from itertools import islice
from typing import Any

import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from graveljar.api.app import create_app
from graveljar.demo import demo_designs
from graveljar.formats.parts_csv import ALL_COLUMNS, starting_shelf, write_parts
from graveljar.store.database import Pool
from graveljar.store.designs import Designs
from graveljar.store.parts import Parts
from tests.api.asgi import app_over
from tests.building import design, load
from tests.spoiling import of_design, spoiled

DEMOS = {name: made.model_dump(mode="json") for name, made in demo_designs().items()}
ADDRESS = "http://127.0.0.1:8734"
JSON = {"Content-Type": "application/json"}
WEB = TestClient(create_app(), base_url=ADDRESS, raise_server_exceptions=False)
# One request takes some tens of milliseconds; many small ones are tried.
TRIED = settings(
    max_examples=40, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture]
)
IDS = st.sampled_from(
    sorted({x["id"] for d in DEMOS.values() for part in ("stores", "stages", "links", "loads")
            for x in d[part]} | {"booth-ac", "booth-usb", "", "ghost", "BANK", "a" * 41})
)  # fmt: skip
VOLTS = st.one_of(
    st.floats(allow_nan=False, allow_infinity=False), st.sampled_from([0, -1, 5, 12.0, 24, 1e3])
)
SOME = st.lists(IDS, max_size=4)
ASKS = st.one_of(
    st.fixed_dictionaries({"ask": st.just("rail"), "on": IDS, "volts": VOLTS},
                          optional={"loads": st.none() | SOME}),
    st.fixed_dictionaries({"ask": st.just("inverter"), "on": IDS},
                          optional={"loads": st.none() | SOME}),
    st.fixed_dictionaries({"ask": st.just("feed"), "on": IDS}, optional={"loads": SOME}),
    st.fixed_dictionaries({"ask": st.just("regulator"), "before": IDS}),
    st.fixed_dictionaries({"ask": st.just("move"), "loads": SOME, "to": st.none() | IDS}),
    st.fixed_dictionaries(
        {"ask": st.just("remove"), "stage": IDS, "loads_to": st.none() | IDS}
    ),
    st.fixed_dictionaries(
        {"ask": st.just("store"), "what": st.sampled_from(["bank", "station", "vehicle", "jar"])},
        optional={"name": st.text(max_size=90)},
    ),
    st.fixed_dictionaries({"ask": st.just("remove store"), "store": IDS}),
    st.fixed_dictionaries({"ask": st.just("link"), "rail": IDS, "to": IDS},
                          optional={"input": st.none() | st.sampled_from(["solar", "mains"])}),
    st.fixed_dictionaries({"ask": st.text(max_size=5)}),
)  # fmt: skip


def _explained(answer: Any) -> bool:
    """Whether it is a refusal that says what and where."""
    problem = answer.json()
    return (
        answer.headers["content-type"] == "application/problem+json"
        and answer.status_code in (400, 422)
        and bool(problem["detail"])
        and all(place["message"] for place in problem["errors"])
    )


@TRIED
@given(name=st.sampled_from(sorted(DEMOS)), ask=ASKS)
def test_whatever_is_asked_for_is_built_or_refused_and_can_be_taken(
    name: str, ask: dict[str, Any]
) -> None:
    answer = WEB.post("/api/build", json={"design": DEMOS[name], "ask": ask})
    if answer.status_code != 200:
        assert _explained(answer), answer.text
        return
    built = answer.json()
    document = json.loads(json.dumps(DEMOS[name]))
    for edit in built["edits"]:
        *way, last = edit["path"].strip("/").split("/")
        place: Any = document
        for step in way:
            place = place[int(step) if isinstance(place, list) else step]
        if edit["op"] == "remove":
            del place[int(last)]
        elif last == "-":
            place.append(edit["value"])
        else:
            place[int(last) if isinstance(place, list) else last] = edit["value"]
    taken = WEB.post("/api/evaluate?quick=true", json=document)
    # Too large to run is an explained refusal as well; nothing else may be wrong with it.
    assert taken.status_code == 200 or _explained(taken), taken.text
    assert {x["id"] for x in document["loads"]} == {x["id"] for x in DEMOS[name]["loads"]}


@TRIED
@given(
    name=st.sampled_from(sorted(DEMOS)),
    until=st.none() | VOLTS,
    starts_at=st.floats(0.001, 1.0),
    hour=st.floats(0.0, 23.99),
)
def test_a_course_is_whole_from_any_charge_and_hour_and_however_far(
    name: str, until: float | None, starts_at: float, hour: float
) -> None:
    document = json.loads(json.dumps(DEMOS[name]))
    document["stores"][0]["starts_at"] = starts_at
    document["setting"]["starts_at_h"] = hour
    answer = WEB.post("/api/course", json={"design": document, "until_h": until})
    if answer.status_code != 200:
        assert _explained(answer), answer.text
        return
    course = answer.json()
    series, flow = course["series"], course["flow"]
    lengths = {len(series[part]) for part in ("hours", "idle", "lost")}
    for part in ("charge", "volts", "amps", "given", "watts"):
        lengths |= {len(column) for column in series[part].values()}
    assert len(lengths) == 1
    assert series["hours"] == sorted(series["hours"])
    assert course["until_h"] <= course["horizon_h"]
    assert all(0 <= x <= 1 for column in series["charge"].values() for x in column)
    for store, low in course["band"]["low"].items():
        high = course["band"]["high"][store]
        assert all(a <= b + 1e-9 for a, b in zip(low, high, strict=True))
    assert sum(part["wh"] for part in flow["parts"]) == pytest.approx(flow["total_wh"])
    for row in course["served"]:
        assert 0 <= row["served_h"] <= row["scheduled_h"] + 1e-6
    assert all(flag["text"].endswith(".") for flag in course["flags"])


def _spoiled(rows: list[list[str]], at: tuple[int, int], cell: str) -> str:
    row, column = at
    rows = [list(line) for line in rows]
    rows[row % len(rows)][column % len(rows[0])] = cell
    text = io.StringIO()
    csv.writer(text).writerows(rows)
    return text.getvalue()


ROWS = list(csv.reader(io.StringIO(write_parts([*starting_shelf()][-12:]))))


@TRIED
@given(
    at=st.tuples(st.integers(0, len(ROWS) - 1), st.integers(0, len(ALL_COLUMNS) - 1)),
    cell=st.one_of(
        st.text(max_size=30),
        st.floats().map(str),
        st.sampled_from(["=cmd()", "1e400", "-0", "1,5", "50 %", "nan", "\u0661", "lfp", '"']),
    ),
)
def test_a_cell_changed_at_random_spoils_its_own_row_and_no_other(
    at: tuple[int, int], cell: str
) -> None:
    answer = WEB.post("/api/shelf/read-csv", json={"text": _spoiled(ROWS, at, cell)})
    if answer.status_code != 200:
        # A column of another name, or a broken quote: the file as a whole, with the reason.
        assert _explained(answer), answer.text
        return
    rows = {row["line"]: row for row in answer.json()}
    for line, row in rows.items():
        assert (row["part"] is None) is bool(row["problems"])
        if at[0] and "\n" not in cell and "\r" not in cell and line != at[0] + 1:
            assert row["part"] is not None, (line, row["problems"])


@TRIED
@given(text=st.text(max_size=300))
def test_any_text_is_read_as_a_table_or_refused(text: str) -> None:
    answer = WEB.post("/api/shelf/read-csv", json={"text": text})
    assert answer.status_code == 200 or _explained(answer), answer.text


@pytest.mark.parametrize(
    ("path", "body"),
    [
        ("build", {"design": DEMOS["puppet-van"]}),
        ("build", {"design": DEMOS["puppet-van"], "ask": {"ask": "rail", "on": "bank"}}),
        ("build", {"design": {"loads": [{}]}, "ask": {"ask": "feed", "on": "bank"}}),
        ("places", {"design": DEMOS["puppet-van"], "loads": ["x"] * 201}),
        ("places", {"design": DEMOS["puppet-van"], "loads": "all"}),
        ("course", {"design": DEMOS["puppet-van"], "until_h": "all"}),
        ("course", {"design": DEMOS["puppet-van"], "colour": "red"}),
        ("course.csv", {"design": DEMOS["puppet-van"], "until_h": 1e300}),
        ("shelf/read-csv", {"text": "x" * 500_001}),
        ("shelf/read-csv", {"text": None}),
        ("evaluate?quick=perhaps", DEMOS["puppet-van"]),
        ("evaluate", DEMOS["puppet-van"] | {"notes": "so\0so"}),
        ("cables.csv?what=all", DEMOS["puppet-van"]),
        ("cables/schools", {"loads": [{}]}),
        ("options/levers", {"loads": [{}]}),
        ("options/sweeps?against=temperature", {"setting": {"ambient_c": 1e9}}),
        ("options/sweeps?against=the moon", DEMOS["puppet-van"]),
        ("options/sides", {"designs": "all"}),
        ("options/variants", {"stages": [{"kind": "lever"}]}),
    ],
)
def test_what_is_missing_or_too_much_is_refused_with_its_place(path: str, body: Any) -> None:
    answer = WEB.post(f"/api/{path}", json=body)
    assert answer.status_code == 422
    assert answer.json()["errors"]
    assert _explained(answer)


@pytest.fixture
def web(pool: Pool) -> Iterator[TestClient]:
    app = app_over(designs=Designs(pool), parts=Parts(pool))
    with TestClient(app, base_url=ADDRESS, raise_server_exceptions=False) as client:
        yield client


def test_what_is_right_is_answered(web: TestClient) -> None:
    """Else the requests that are spoiled below were no requests before."""
    for path, body in of_design(design(load(10.0)).model_dump(mode="json")):
        answer = web.post(f"/api/{path}", json=body)
        assert answer.status_code == 200, f"{path}: {answer.text}"


@pytest.mark.parametrize("seed", range(3))
def test_one_value_changed_anywhere_is_worked_out_or_refused_with_its_place(
    web: TestClient, seed: int
) -> None:
    """`scripts/attack` does the same for as long as one likes."""
    for one in islice(spoiled(seed, heavy=False), 30):
        try:
            body = json.dumps(one.body)
        except ValueError:
            continue
        answer = web.post(f"/api/{one.path}", content=body, headers=JSON)
        assert answer.status_code in (200, 201) or _explained(answer), f"{one}: {answer.text}"

"""Logs over HTTP: a file looked at, read in whole or not at all, thinned, taken away."""

import json
from collections.abc import Iterator
from typing import Any

import pytest
from fastapi.testclient import TestClient

from graveljar.demo import demo_designs
from graveljar.formats.log_csv import LogFile
from graveljar.formats.log_layout import look_at, seconds_of
from graveljar.store.database import Pool
from graveljar.store.designs import Designs
from graveljar.store.logs import Logs
from tests.api.asgi import app_over

HUT = demo_designs()["tide-gauge-hut"].model_dump(mode="json")


@pytest.fixture
def web(pool: Pool) -> Iterator[TestClient]:
    app = app_over(designs=Designs(pool), logs=Logs(pool))
    with TestClient(app, base_url="http://127.0.0.1:8734") as client:
        yield client


def _design(web: TestClient) -> str:
    return f"/api/designs/{web.post('/api/designs', json={'document': HUT}).json()['id']}/logs"


def _read_in(web: TestClient, url: str, text: str, **more: Any) -> dict[str, Any]:
    """Look at a file, confirm what was found, and read it in; gives the last line."""
    layout = web.post("/api/logs/look", json={"head": text[:5_000]}).json()["layout"]
    query = {"name": "Night", "subject": "bank", "layout": json.dumps(layout), **more}
    answer = web.post(url, params=query, content=text.encode())
    assert answer.status_code == 200, answer.text
    found: dict[str, Any] = json.loads(answer.text.splitlines()[-1])
    return found


@pytest.mark.parametrize(
    ("head", "separator", "decimal", "time", "discharge", "roles"),
    [
        pytest.param("time,voltage,current\n0,12.8,5.0\n10,12.79,5.1\n20,12.85,2\n", ",", ".",
                     "seconds", "positive", "time volts amps", id="plain"),
        pytest.param("Zeit;Spannung (V);Strom (mA)\n02.11.2026 20:00:00;12,80;-5000\n"
                     "02.11.2026 20:00:10;12,70;-7000\n", ";", ",", "day first", "negative",
                     "time volts amps", id="German, mA, charging positive"),
        pytest.param("Timestamp\tU [mV]\tI [A]\tP [kW]\n2026-11-02T20:00:00Z\t12800\t1.5\t0.02\n"
                     "2026-11-02T20:00:01Z\t12790\t2.5\t0.03\n", "\t", ".", "date and time",
                     "positive", "time volts amps watts", id="ISO, mV, kW"),
        pytest.param("# logger 7\n# made by hand\nDate,Volts,SOC (%),Temp (C)\n"
                     "11/28/2026 08:00,12.9,97,6\n11/28/2026 08:01,12.9,97,6\n", ",", ".",
                     "month first", "positive", "time volts charge temperature",
                     id="remarks before the head, month first"),
        pytest.param("elapsed (min);Leistung W\n0;60,5\n1;61\n2;0\n", ";", ",", "minutes",
                     "positive", "time watts", id="a plug meter"),
        pytest.param("23:59:50|13.1|4\n00:00:00|13.0|6\n", "|", ".", "clock", "positive",
                     "time skip skip", id="no head"),
    ],
)  # fmt: skip
def test_the_layout_of_a_file_is_found(
    head: str, separator: str, decimal: str, time: str, discharge: str, roles: str
) -> None:
    found = look_at(head).layout
    said = (found.separator, found.decimal, found.time, found.discharge)
    assert said == (separator, decimal, time, discharge)
    assert " ".join(x.role for x in found.columns) == roles
    factors = {x.role: x.factor for x in found.columns}
    if "(mA)" in head:
        assert factors["amps"] == 1e-3
    if "mV" in head:
        assert (factors["volts"], factors["watts"]) == (1e-3, 1e3)


def test_dates_are_read_as_they_are_meant() -> None:
    """2 January 1970 is 86 400 s after the epoch: definition."""
    day_s = 86_400.0
    assert seconds_of("02.01.1970 00:00:00", "day first", ",") == day_s
    assert seconds_of("01/02/1970 00:00", "month first", ".") == day_s
    assert seconds_of("1970-01-02 00:00:00", "date and time", ".") == day_s
    assert "day first" in " ".join(look_at("date,volts\n02/03/2026 10:00,12\n").doubts)


def test_a_log_is_read_in_thinned_and_taken_away(web: TestClient) -> None:
    """A peak of one row among ten thousand is still the most of its stretch."""
    url = _design(web)
    rows = [f"{n},{12.8 - n * 1e-5:.5f},{40.0 if n == 7_777 else 5.0}" for n in range(10_000)]
    text = "\n".join(["seconds,volts,amps", *rows]) + "\n"
    done = _read_in(web, url, text)
    assert (done["step"], done["rows"], done["bad"]) == ("kept", 10_000, 0)
    log = done["log"]
    assert (log["ends_s"], log["begins_at"]) == (9_999.0, None)
    assert [x["id"] for x in web.get(url).json()] == [log["id"]]
    one = f"{url}/{log['id']}"
    picture = web.get(f"{one}/picture", params={"points": 100}).json()
    assert sum(picture["count"]) == 10_000
    assert len(picture["at_s"]) <= 100
    assert max(picture["most"]["amps"]) == 40.0
    assert picture["mean"]["amps"][0] == pytest.approx(5.0)
    assert set(picture["mean"]) == {"volts", "amps"}
    # It goes out as it came in, and comes back in.
    out = web.get(f"{one}/rows.csv").text
    assert out.splitlines()[7_778] == "7777,12.72223,40,,,"
    again = _read_in(web, url, out)
    assert (again["rows"], again["log"]["ends_s"]) == (10_000, 9_999.0)
    web.delete(f"{url}/{again['log']['id']}")
    part = web.get(f"{one}/picture", params={"from_s": 7_770, "until_s": 7_780}).json()
    assert (sum(part["count"]), max(part["most"]["amps"])) == (11, 40.0)
    assert web.delete(one).status_code == 204
    assert web.get(url).json() == []
    assert web.get(f"{one}/picture").json()["code"] == "log_not_found"
    assert web.post(f"{one}/restore").status_code == 204
    assert len(web.get(url).json()) == 1


def test_a_bad_row_is_named_and_nothing_is_half_read_in(web: TestClient) -> None:
    url = _design(web)
    text = "seconds,volts,amps\n0,12.8,5\n10,twelve,5\n20,12.7\n15,12.7,5\n30,12.7,5\n25,12.7,5\n"
    done = _read_in(web, url, text)
    assert (done["step"], done["log"]) == ("refused", None)
    said = [(x["line"], x["column"], x["message"]) for x in done["problems"]]
    assert [line for line, _, _ in said] == [3, 4, 7]
    assert said[0][1:] == ("volts", "“twelve” is no number")
    assert "2 cells" in said[1][2]
    assert "before that of the row above" in said[2][2]
    assert web.get(url).json() == []
    left_out = _read_in(web, url, text, skip_bad=True)
    assert (left_out["step"], left_out["rows"], left_out["bad"]) == ("kept", 3, 3)
    empty = _read_in(web, url, "seconds,volts,amps\n")
    assert empty["step"] == "refused"
    wrong = {"name": "x", "subject": "bank", "layout": "{}"}
    assert web.post(url, params=wrong, content=b"").json()["code"] == "invalid_document"
    spoiled = {"name": "so\0so"}, {"subject": "ba\0nk"}, {"layout": '{"time": "\\u0000"}'}
    for one in spoiled:
        assert web.post(url, params=wrong | one, content=b"").status_code == 422
    ghost = "/api/designs/00000000-0000-0000-0000-000000000000/logs"
    good = wrong | {"layout": json.dumps(look_at(text).layout.model_dump())}
    gone = web.post(ghost, params=good, content=text.encode())
    assert (gone.status_code, gone.json()["code"]) == (404, "design_not_found")


def test_amps_out_of_the_battery_are_positive_and_midnight_passes(web: TestClient) -> None:
    url = _design(web)
    text = "clock;volts;mA\n23:59:50;12,80;-5000\n00:00:00;12,70;-7000\n00:00:10;12,80;-5000\n"
    done = _read_in(web, url, text)
    assert done["log"]["ends_s"] == 20.0
    picture = web.get(f"{url}/{done['log']['id']}/picture", params={"points": 10}).json()
    assert (max(picture["most"]["amps"]), min(picture["least"]["amps"])) == (7.0, 5.0)


def test_a_log_tells_of_its_part_in_the_design_that_is_sent(web: TestClient) -> None:
    """A lamp of 9 W all night, 1 % more or less: 9 W running (hand)."""
    url = _design(web)
    lamp = HUT["loads"][-1]["id"]
    rows = [f"2026-11-27T{20 + n // 60 % 4:02}:{n % 60:02}:00Z,{9 + 0.09 * (n % 3 - 1):.2f}"
            for n in range(200)]  # fmt: skip
    done = _read_in(web, url, "\n".join(["time,watts", *rows]) + "\n", subject=lamp)
    assert done["log"]["begins_at"] == "2026-11-27T20:00:00Z"
    one = f"{url}/{done['log']['id']}/fit"
    fit = web.post(one, json=HUT).json()
    running = next(x for x in fit["figures"] if x["name"] == "Running")
    assert running["low"] <= 9.0 <= running["high"]
    assert running["adopt"]["edits"]
    without = HUT | {"loads": HUT["loads"][:-1]}
    assert web.post(one, json=without).json()["code"] == "invalid_document"


def _file(text: str, **layout: Any) -> tuple[LogFile, list[Any]]:
    """A file's rows, by the layout that is found but for what is said otherwise."""
    found = look_at(text).layout.model_copy(update=layout)
    file = LogFile(found, skip_bad=True)
    return file, [row for part in file.parts(text.splitlines()) for row in part]


@pytest.mark.parametrize(
    ("text", "rows"),
    [
        pytest.param("s,volts,amps\n0,12.8,5\n1,,5\n2,NaN,--\n", [12.8, None, None],
                     id="cells left empty"),
        pytest.param('s,"volts","amps"\n"0","12.8","5"\n"1","12.7","5"\n', [12.8, 12.7],
                     id="quoted"),
        pytest.param("s;V;A\n0;12,8;5,0\n\n1;12,7;5,0\n\n", [12.8, 12.7], id="blank lines"),
        pytest.param("s,volts,amps\n0,1e7,5\n1,12.7,5\n", [12.7], id="beyond any voltage"),
        pytest.param("s,volts,amps,\n0,12.8,5,\n1,12.7,5,\n", [12.8, 12.7],
                     id="a comma at the end"),
    ],
)  # fmt: skip
def test_figures_are_read_as_they_are_written(text: str, rows: list[float | None]) -> None:
    _, found = _file(text)
    assert [row[1] for row in found] == rows


def test_times_that_jump_back_are_bad_rows_and_the_same_time_is_none() -> None:
    file, found = _file("s,volts,amps\n0,12,1\n5,12,1\n5,12,1\n3,12,1\n9,12,1\n")
    assert [row[0] for row in found] == [0, 5, 5, 9]
    assert (file.bad, file.problems[0].line) == (1, 5)


def test_of_many_bad_rows_the_first_are_told() -> None:
    text = "s,volts,amps\n" + "".join(f"{n},x,1\n" for n in range(50))
    file, found = _file(text)
    assert (found, file.bad, len(file.problems)) == ([], 50, 20)

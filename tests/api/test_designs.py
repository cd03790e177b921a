"""Designs through the API: kept as revisions, never overwritten in silence, nothing lost."""

from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from typing import Any
from uuid import UUID, uuid4

import psycopg
import psycopg.types.json
import pytest
from fastapi.testclient import TestClient

from graveljar.core.context import Context
from graveljar.core.model import VERSION, Design
from graveljar.core.readings import judge_reading
from graveljar.demo import demo_designs
from graveljar.serve import load_demo
from graveljar.store.database import Pool, migrate
from graveljar.store.designs import Designs
from graveljar.store.logs import Logs
from graveljar.store.readings import Readings
from tests.api.asgi import app_over

VAN = demo_designs()["puppet-van"].model_dump(mode="json")


@pytest.fixture
def web(pool: Pool) -> Iterator[TestClient]:
    app = app_over(designs=Designs(pool))
    with TestClient(app, base_url="http://127.0.0.1:8734") as client:
        yield client


def _kept(web: TestClient, document: Any = VAN) -> Any:
    answer = web.post("/api/designs", json={"document": document})
    assert answer.status_code == 201
    return answer.json()


def _named(name: str) -> Any:
    return VAN | {"name": name}


def test_a_new_design_is_empty_and_an_imported_one_is_itself(web: TestClient) -> None:
    empty = web.post("/api/designs", json={}).json()
    assert empty["document"] == Design().model_dump(mode="json")
    kept = _kept(web)
    assert kept["revision"] == 1
    assert web.get(f"/api/designs/{kept['id']}").json()["document"] == VAN
    exported = web.get(f"/api/designs/{kept['id']}/document")
    assert exported.json() == VAN
    assert "attachment" in exported.headers["content-disposition"]


def test_each_save_is_a_revision_and_old_ones_stay(web: TestClient, database: str) -> None:
    kept = _kept(web)
    url = f"/api/designs/{kept['id']}"
    for base, name in enumerate(["one", "two", "three"], start=1):
        saved = web.put(url, json={"base": base, "document": _named(name)}).json()
        assert saved["revision"] == base + 1
    again = web.put(url, json={"base": 4, "document": _named("three")}).json()
    assert again["revision"] == 4, "the same document again appends nothing"
    with psycopg.connect(database) as link:
        names = link.execute("SELECT document ->> 'name' FROM revision ORDER BY number").fetchall()
    assert [name for (name,) in names] == [VAN["name"], "one", "two", "three"]


@pytest.mark.parametrize("statement", ["UPDATE revision SET number = 9", "DELETE FROM revision"])
def test_the_table_itself_refuses_to_change_a_revision(
    web: TestClient, database: str, statement: Any
) -> None:
    _kept(web)
    with (
        psycopg.connect(database) as link,
        pytest.raises(psycopg.errors.RaiseException, match="append-only"),
    ):
        link.execute(statement)


def test_a_stale_save_is_refused_with_what_stands_there_now(web: TestClient) -> None:
    kept = _kept(web)
    url = f"/api/designs/{kept['id']}"
    web.put(url, json={"base": 1, "document": _named("theirs")})
    answer = web.put(url, json={"base": 1, "document": _named("mine")})
    assert answer.status_code == 409
    assert answer.headers["content-type"] == "application/problem+json"
    assert answer.json()["code"] == "stale_revision"
    assert answer.json()["current"]["document"]["name"] == "theirs"
    assert answer.json()["current"]["revision"] == 2
    assert web.get(url).json()["document"]["name"] == "theirs"


def test_of_many_saves_at_once_one_wins(web: TestClient, pool: Pool) -> None:
    kept = _kept(web)
    url = f"/api/designs/{kept['id']}"

    def save(name: str) -> int:
        return int(web.put(url, json={"base": 1, "document": _named(name)}).status_code)

    with ThreadPoolExecutor(8) as crowd:
        codes = sorted(crowd.map(save, [f"writer {n}" for n in range(8)]))
    assert codes == [200] + [409] * 7


def test_a_deleted_design_is_gone_and_can_be_had_back(web: TestClient) -> None:
    kept = _kept(web)
    url = f"/api/designs/{kept['id']}"
    assert web.delete(url).status_code == 204
    assert web.get("/api/designs").json() == []
    for answer in (
        web.get(url),
        web.delete(url),
        web.put(url, json={"base": 1, "document": VAN}),
        web.get(f"{url}/document"),
    ):
        assert answer.status_code == 404
        assert answer.json()["code"] == "design_not_found"
    assert web.post(f"{url}/restore").json()["document"] == VAN
    assert [x["id"] for x in web.get("/api/designs").json()] == [kept["id"]]


def test_a_design_is_put_away_and_brought_back(web: TestClient) -> None:
    """It is in one list at a time; put away it opens and saves as before."""
    first, second = _kept(web), _kept(web)
    url = f"/api/designs/{first['id']}"

    def places() -> dict[str, list[str]]:
        return {
            place: [x["id"] for x in web.get("/api/designs", params={"place": place}).json()]
            for place in ("current", "archived", "deleted")
        }

    assert web.post(f"{url}/archive").status_code == 204
    assert places() == {"current": [second["id"]], "archived": [first["id"]], "deleted": []}
    changed = VAN | {"name": "Put away"}
    assert web.put(url, json={"base": 1, "document": changed}).json()["revision"] == 2
    web.delete(url)
    assert places() == {"current": [second["id"]], "archived": [], "deleted": [first["id"]]}
    assert web.post(f"{url}/bring-back").status_code == 404
    web.post(f"{url}/restore")
    web.post(f"{url}/bring-back")
    assert set(places()["current"]) == {first["id"], second["id"]}
    # What is skipped is not given again; another place is none.
    assert len(web.get("/api/designs", params={"skip": 1}).json()) == 1
    assert web.get("/api/designs", params={"place": "attic"}).status_code == 422


def test_words_find_a_design_again(web: TestClient) -> None:
    kept = _kept(web)
    url = f"/api/designs/{kept['id']}/tags"
    assert web.put(url, json={"tags": ["winter", "van", "winter"]}).status_code == 204
    assert web.get("/api/designs").json()[0]["tags"] == ["winter", "van"]
    for wrong in (["x" * 25], [""], ["two\nlines"], [str(n) for n in range(9)]):
        assert web.put(url, json={"tags": wrong}).status_code == 422
    assert web.get("/api/designs").json()[0]["tags"] == ["winter", "van"]
    assert web.put(f"/api/designs/{uuid4()}/tags", json={"tags": []}).status_code == 404


def test_what_was_never_there_is_not_found(web: TestClient) -> None:
    nowhere = f"/api/designs/{uuid4()}"
    assert web.get(nowhere).status_code == 404
    assert web.post(f"{nowhere}/restore").status_code == 404
    assert web.get("/api/designs/no-id").status_code == 422


def test_the_list_tells_names_loads_and_order(web: TestClient) -> None:
    _kept(web)
    last = _kept(web, _named("later"))
    listed = web.get("/api/designs").json()
    assert [x["name"] for x in listed] == ["later", VAN["name"]]
    assert listed[0]["id"] == last["id"]
    assert listed[1]["loads"] == len(VAN["loads"])


def test_the_demo_is_loaded_once_and_edits_to_it_stay(web: TestClient, pool: Pool) -> None:
    stores = (Designs(pool), Readings(pool), Logs(pool))
    load_demo(*stores)
    first = next(x for x in web.get("/api/designs").json() if x["name"] == VAN["name"])
    web.put(f"/api/designs/{first['id']}", json={"base": 1, "document": _named("changed")})
    # A reading that was removed stays away; the hut's night is there once.
    kept = {x["name"]: UUID(x["id"]) for x in web.get("/api/designs").json()}
    readings, logs = stores[1], stores[2]
    van = UUID(first["id"])
    for one in readings.all(van):
        readings.delete(van, one.id)
    load_demo(*stores)
    assert readings.all(van) == []
    booth = kept["Ticket booth, market days"]
    context = Context(demo_designs()["ticket-booth"])
    judged = [judge_reading(context, x.reading).verdict for x in readings.all(booth)]
    assert sorted(judged) == ["bad", "watch"]
    (night,) = logs.all(kept["Tide-gauge hut"])
    assert (night.rows, round(night.ends_s / 3600)) == (420, 14)
    names = {x["name"] for x in web.get("/api/designs").json()}
    assert names == {
        "changed",
        "Set-building trailer",
        "Ticket booth, market days",
        "Tide-gauge hut",
    }


def test_migrating_again_changes_nothing(web: TestClient, database: str) -> None:
    kept = _kept(web)
    migrate(database)
    assert web.get(f"/api/designs/{kept['id']}").json() == kept


def test_health_tells_when_the_database_is_away_and_errors_say_so(
    database: str, server_url: str, web: TestClient
) -> None:
    assert web.get("/api/health").json() == {"status": "ok", "database": "ok"}
    with psycopg.connect(server_url, autocommit=True) as link:
        name = database.rsplit("/", 1)[1]
        # Names are made by the fixture; the server is this run's own.
        link.execute(f'ALTER DATABASE "{name}" ALLOW_CONNECTIONS false')
        link.execute(
            "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = %s", (name,)
        )
        away = web.get("/api/health")
        assert (away.status_code, away.json()["database"]) == (503, "away")
        answer = web.put(f"/api/designs/{uuid4()}", json={"base": 1, "document": VAN})
        assert answer.status_code == 503
        assert answer.json()["code"] == "database_away"
        assert "postgresql" not in answer.text
        # Figures need no database.
        assert web.post("/api/evaluate", json=VAN).status_code == 200
        link.execute(f'ALTER DATABASE "{name}" ALLOW_CONNECTIONS true')
    assert web.get("/api/health").status_code == 200


def test_a_revision_of_an_older_version_is_brought_up_to_date_and_stays(
    web: TestClient, database: str
) -> None:
    """What an earlier program kept is read as the present version; the row itself never changes."""
    kept = _kept(web)
    old = {
        "format": "gravel-jar/design",
        "version": 1,
        "name": "From before",
        "loads": [
            {
                "id": "lamp", "name": "Lamp", "rail": "bank", "hours_per_day": 4.0,
                "supply": {"kind": "dc", "volts": 12.0}, "demand": {"kind": "watts", "watts": 8.0},
            }
        ],
    }  # fmt: skip
    with psycopg.connect(database) as link:
        link.execute(
            "INSERT INTO revision (design_id, number, document) VALUES (%s, 2, %s)",
            (kept["id"], psycopg.types.json.Jsonb(old)),
        )
        link.execute("UPDATE design SET head = 2 WHERE id = %s", (kept["id"],))
    url = f"/api/designs/{kept['id']}"
    read = web.get(url).json()
    assert read["document"]["version"] == VERSION
    assert read["document"]["loads"][0]["when"] == {"kind": "hours", "hours": 4.0}
    changed = read["document"] | {"name": "Carried on"}
    assert web.put(url, json={"base": 2, "document": changed}).json()["revision"] == 3
    with psycopg.connect(database) as link:
        versions = link.execute("SELECT document -> 'version' FROM revision ORDER BY number")
        assert [version for (version,) in versions] == [VERSION, 1, VERSION]


def test_the_history_tells_each_version_and_keeps_names(web: TestClient) -> None:
    kept = _kept(web)
    url = f"/api/designs/{kept['id']}"
    warm = VAN | {"setting": VAN["setting"] | {"ambient_c": 21.0}}
    web.put(url, json={"base": 1, "document": warm})
    web.put(url, json={"base": 2, "document": warm | {"name": "Warm tour"}})
    assert web.put(f"{url}/revisions/2/name", json={"name": " warm "}).status_code == 204
    told = web.get(f"{url}/revisions").json()
    assert [(x["number"], x["name"], x["what"]) for x in told] == [
        (3, None, f"name {VAN['name']} → Warm tour"),
        (2, "warm", "ambient 8 °C → 21 °C"),
        (1, None, "first version"),
    ]
    page = web.get(f"{url}/revisions", params={"before": 3, "count": 1}).json()
    assert [(x["number"], x["what"]) for x in page] == [(2, "ambient 8 °C → 21 °C")]
    old = web.get(f"{url}/revisions/1").json()
    assert old["document"] == VAN
    differs = web.post("/api/changes", json={"before": VAN, "after": warm}).json()
    assert [(x["what"], x["before"], x["after"]) for x in differs] == [("ambient", "8 °C", "21 °C")]
    web.put(f"{url}/revisions/2/name", json={"name": ""})
    assert web.get(f"{url}/revisions").json()[1]["name"] is None


@pytest.mark.parametrize(
    ("method", "place", "body"),
    [
        ("GET", "revisions/9", None),
        ("PUT", "revisions/9/name", {"name": "x"}),
    ],
)
def test_a_version_that_is_not_there_is_not_found(
    web: TestClient, method: str, place: str, body: Any
) -> None:
    kept = _kept(web)
    answer = web.request(method, f"/api/designs/{kept['id']}/{place}", json=body)
    assert answer.status_code == 404
    assert answer.json()["code"] == "design_not_found"
    assert web.request(method, f"/api/designs/{uuid4()}/{place}", json=body).status_code == 404

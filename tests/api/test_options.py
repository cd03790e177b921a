"""Options through the API: searches in worker processes, levers, sweeps."""

import asyncio
import gc
import json
import multiprocessing
from collections.abc import Iterator, Sequence
from typing import Any

import pytest
from fastapi.testclient import TestClient

from graveljar.api.searches import MAX_SEARCHES, PARTS, Busy, Searches
from graveljar.core.context import Context
from graveljar.core.planning.comparison import side_of, variants_of
from graveljar.core.planning.improvements import levers_of
from graveljar.core.planning.search import Progress, SearchAsk, Searched, SearchPart, search
from graveljar.core.planning.sensitivity import sweep_of
from graveljar.core.planning.shelf import AnyPart, Candidate
from graveljar.demo import demo_designs
from graveljar.formats.parts_csv import starting_shelf
from graveljar.store.database import Pool
from graveljar.store.designs import Designs
from graveljar.store.parts import Parts
from tests.api.asgi import app_over

HUT = demo_designs()["tide-gauge-hut"]
VAN = demo_designs()["puppet-van"]
FEW = ("LFP 12.8 V 280 Ah", "LFP 12.8 V 100 Ah", "Sine inverter 300 W 12 V")


@pytest.fixture
def web(pool: Pool) -> Iterator[TestClient]:
    yield from _web(pool, [*starting_shelf()])


@pytest.fixture
def half(pool: Pool) -> Iterator[TestClient]:
    """With every second part of the shelf for 230 V: enough to choose from."""
    yield from _web(pool, [x for x in starting_shelf() if "120 V 60 Hz" not in x.name][1::2])


def _web(pool: Pool, shelf: Sequence[AnyPart]) -> Iterator[TestClient]:
    parts = Parts(pool)
    parts.add(shelf)
    app = app_over(designs=Designs(pool), parts=parts)
    with TestClient(app, base_url="http://127.0.0.1:8734") as client:
        yield client


def _lines(web: TestClient, body: Any) -> list[Any]:
    answer = web.post("/api/options/search", json=body)
    assert answer.status_code == 200, answer.text
    return [json.loads(line) for line in answer.text.splitlines()]


def test_a_search_streams_and_ends_as_the_core_does(half: TestClient) -> None:
    """The same best as one search alone, in the same order, from many parts in two processes."""
    assert half.post("/api/options/wake").status_code == 204
    body = {"design": HUT.model_dump(mode="json")}
    lines = _lines(half, body)
    told = [line["progress"]["tried"] for line in lines if line["step"] == "progress"]
    assert told == sorted(told)
    assert told[-1] == PARTS
    best = lines[-1]["searched"]["best"]
    kept = half.get("/api/shelf").json()
    parts = tuple(
        SearchPart.model_validate({"id": x["id"], "part": x["part"]})
        for x in kept
        if x["part"]["kind"] != "panel"
    )
    alone = list(search(HUT, SearchAsk(parts=parts)))[-1]
    assert isinstance(alone, Searched)
    assert [x["key"] for x in best] == [x.key for x in alone.best]
    found = {line["found"]["key"] for line in lines if line["step"] == "found"}
    assert {x["key"] for x in best} <= found
    # What is there already costs nothing; a found system is a design to evaluate.
    lead = best[0]["key"].split("|")[0]
    mine = next(x for x in kept if x["id"] == lead)
    put = {"base": mine["revision"], "part": mine["part"] | {"owned": 16}}
    assert half.put(f"/api/shelf/parts/{lead}", json=put).status_code == 200
    again = _lines(half, body)[-1]["searched"]["best"]
    assert any(x["used"][0]["owned"] and x["used"][0]["price"] == 0 for x in again)
    verdict = half.post("/api/evaluate?quick=true", json=again[0]["design"]).json()["verdict"]
    assert verdict["meets_goal"]


@pytest.mark.parametrize(
    ("change", "path"),
    [
        ({"most_strings": 0}, "/most_strings"),
        ({"most_strings": 33}, "/most_strings"),
        ({"reserve": 0.95}, "/reserve"),
        ({"stations": "perhaps"}, "/stations"),
        ({"design": {"format": "gravel-jar/design", "goal": {"hours": -1}}}, "/design/goal/hours"),
        ({"shelf": []}, "/shelf"),
    ],
)
def test_what_is_out_of_bounds_is_refused_with_its_place(
    web: TestClient, change: Any, path: str
) -> None:
    body = {"design": HUT.model_dump(mode="json")} | change
    answer = web.post("/api/options/search", json=body)
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["path"] == path


def test_levers_and_sweeps_are_those_of_the_core(web: TestClient) -> None:
    document = VAN.model_dump(mode="json")
    shelf = [Candidate(part.name, part) for part in starting_shelf()]
    levers = web.post("/api/options/levers", json=document).json()
    assert [x["label"] for x in levers] == [x.label for x in levers_of(VAN, shelf)]
    sweep = web.post("/api/options/sweeps?against=temperature", json=document).json()
    assert [x["hours"] for x in sweep["points"]] == [
        x.hours for x in sweep_of(VAN, "temperature").points
    ]


def test_variants_and_sides_are_those_of_the_core(web: TestClient) -> None:
    document = VAN.model_dump(mode="json")
    shelf = [Candidate(part.name, part) for part in starting_shelf()]
    variants = web.post("/api/options/variants", json=document).json()
    assert [x["key"] for x in variants] == [x.key for x in variants_of(Context(VAN))]
    sides = web.post("/api/options/sides", json={"designs": [document, document]}).json()
    assert sides[0] == sides[1]
    assert sides[0]["lasts"] == side_of(VAN, shelf).lasts
    for count in (0, 5):
        refused = web.post("/api/options/sides", json={"designs": [document] * count})
        assert refused.status_code == 422
        assert refused.json()["errors"][0]["path"] == "/designs"


def _ask() -> SearchAsk:
    parts = [part for part in starting_shelf() if part.name in FEW]
    return SearchAsk(parts=tuple(SearchPart(id=part.name, part=part) for part in parts))


def test_only_so_many_searches_at_a_time_and_a_stopped_one_makes_room() -> None:
    async def work() -> None:
        searches = Searches()
        slots = [searches.admit() for _ in range(MAX_SEARCHES)]
        with pytest.raises(Busy):
            searches.admit()
        # One is listened to for a while, then stopped.
        steps = searches.steps(HUT, _ask(), slots.pop())
        assert isinstance(await anext(steps), Progress)
        await steps.aclose()
        slots.append(searches.admit())
        # Of another nobody ever hears a word: its client left before the first answer.
        unheard = searches.steps(HUT, _ask(), slots.pop())
        del unheard
        gc.collect()
        searches.admit()
        with pytest.raises(Busy):
            searches.admit()
        searches.close()

    asyncio.run(work())


def test_a_worker_that_is_killed_is_replaced() -> None:
    async def work() -> Searched:
        searches = Searches()
        last = None
        async for step in searches.steps(HUT, _ask(), searches.admit()):
            if last is None:
                searches.wake()
                for process in multiprocessing.active_children():
                    process.kill()
            last = step
        searches.close()
        assert isinstance(last, Searched)
        return last

    assert asyncio.run(work()).best


def test_searches_take_turns() -> None:
    """Two at a time go on side by side: neither waits for the other's end."""

    async def listen(searches: Searches, name: str, told: list[str]) -> None:
        async for step in searches.steps(HUT, _ask(), searches.admit()):
            if isinstance(step, Progress) and step.tried:
                told.append(name)

    async def work() -> list[str]:
        searches = Searches()
        told: list[str] = []
        await asyncio.gather(*(listen(searches, name, told) for name in "ab"))
        searches.close()
        return told

    told = asyncio.run(work())
    half = told[: len(told) // 2]
    assert {half.count("a"), half.count("b")} & {0} == set()
    assert abs(half.count("a") - half.count("b")) <= 8

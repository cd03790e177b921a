"""Computing in worker processes: the same answers, and an end to what is stuck or not wanted."""

import asyncio
import json
import multiprocessing
import os
import signal
import subprocess
import sys
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import suppress
from pathlib import Path

import pytest
from fastapi.testclient import TestClient
from numba.core import dispatcher

from graveljar.api.answers import evaluation_json, week_json
from graveljar.api.app import create_app
from graveljar.api.searches import Searches
from graveljar.computing.workers import WORKERS, Workers, both, compute_here
from graveljar.core.context import Context
from graveljar.core.errors import OutOfRange, Problem
from graveljar.core.planning.mending import mend
from graveljar.core.planning.search import Progress, SearchAsk, SearchPart
from graveljar.core.stop import Stopped, stopped_by
from graveljar.demo import demo_designs
from graveljar.formats.parts_csv import starting_shelf
from graveljar.store.database import Pool
from graveljar.store.designs import Designs
from graveljar.store.parts import Parts
from graveljar.store.readings import Readings

VAN = demo_designs()["puppet-van"]


@pytest.fixture(scope="module")
def workers() -> Iterator[Workers]:
    made = Workers()
    made.wake()
    yield made
    made.close()


def _pid() -> int:
    return os.getpid()


def _spin() -> None:
    """As stuck as can be: it never asks whether to go on."""
    while True:
        pass


def _begin_to_spin(file: Path) -> None:
    file.write_text(str(os.getpid()))
    _spin()


def _until_closed(workers: Workers) -> None:
    with suppress(Stopped):
        workers.within(None)(_spin)


def _refuse() -> None:
    raise OutOfRange("Too many volts.", (Problem("/stores/0", "too_many", "Too many."),))


def _refuse_badly() -> None:
    class Unheard(Exception):  # no other process can know it
        pass

    raise Unheard("lost")


def _ended(*pids: int | None) -> None:
    """Wait until processes are gone."""
    latest = time.monotonic() + 60.0
    while left := [pid for pid in pids if Path(f"/proc/{pid}").exists()]:
        assert time.monotonic() < latest, f"{left} go on"
        time.sleep(0.01)


def _at_it(pid: int | None) -> bool:
    """Whether a process has computed for a while: a tenth of a second, in ticks."""
    return int(Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()[11]) > 10


@pytest.mark.all_draws
def test_a_worker_gives_the_answers_that_are_given_here(workers: Workers) -> None:
    compute = workers.within(20.0)
    assert compute(_pid) != os.getpid()
    assert compute(mend, VAN) == mend(VAN)
    for name in ("puppet-van", "ticket-booth"):
        # Under other names: answers that were given once are kept.
        here, there = (demo_designs()[name].model_copy(update={"name": x}) for x in "ab")
        assert week_json(there, compute, 0.2) == week_json(here, compute_here, 0.2)
        one = evaluation_json(here, compute_here, quick=True)
        assert evaluation_json(there, compute, quick=True) == one
        # In two halves there, in one here.
        whole = [
            evaluation_json(x, y, quick=False) for x, y in ((there, compute), (here, compute_here))
        ]
        assert json.loads(whole[0]) == json.loads(whole[1])


def test_errors_come_as_they_are(workers: Workers) -> None:
    with pytest.raises(OutOfRange, match="Too many volts") as refused:
        workers.within(20.0)(_refuse)
    assert refused.value.problems[0].path == "/stores/0"
    with pytest.raises(RuntimeError, match="lost"):
        workers.within(20.0)(_refuse_badly)
    assert workers.within(20.0)(_pid)


def _tell_and_die_once(tell: Callable[[int], None], file: Path) -> str:
    tell(os.getpid())
    if not file.exists():
        file.touch()
        os.kill(os.getpid(), signal.SIGKILL)
    return "the first"


def _told_of(pid: int) -> tuple[int, int]:
    return pid, os.getpid()


def test_what_one_tells_another_works_out_once(workers: Workers, tmp_path: Path) -> None:
    """Also where the first is ended after it told, and does its work once more."""
    first, (told, done_by) = both(
        workers.within(20.0), _tell_and_die_once, _told_of, tmp_path / "told"
    )
    assert (first, len({told, done_by, os.getpid()})) == ("the first", 3)
    assert both(compute_here, _tell_and_die_once, _told_of, tmp_path / "told")[1][0] == os.getpid()


def test_what_is_stuck_is_ended_and_said(workers: Workers) -> None:
    began = time.monotonic()

    def late() -> str:
        return "never ended" if time.monotonic() - began > 60.0 else ""

    with pytest.raises(Stopped, match=r"computed for 0\.1 s without an end"), stopped_by(late):
        workers.within(0.1)(_spin)
    assert workers.within(20.0)(_pid)


def test_what_nobody_waits_for_ends_with_its_process(workers: Workers, tmp_path: Path) -> None:
    file = tmp_path / "pid"
    with pytest.raises(Stopped, match="gone"), stopped_by(lambda: "gone" * file.exists()):
        workers.within(None)(_begin_to_spin, file)
    while not file.read_text():
        time.sleep(0.01)
    _ended(int(file.read_text()))
    assert workers.within(20.0)(_pid)


VAN_SENT = VAN.model_dump(mode="json")
WITH_DESIGN = {"design": VAN_SENT}


def test_the_server_itself_computes_nothing(monkeypatch: pytest.MonkeyPatch, pool: Pool) -> None:
    """In this process nothing can be worked out, and every answer is there."""
    parts, designs = Parts(pool), Designs(pool)
    app = create_app(designs, parts, readings=Readings(pool), apart=True)

    def here(*_: object) -> None:
        raise AssertionError("worked out in the process that serves")

    monkeypatch.setattr(Context, "__init__", here)
    monkeypatch.setattr(dispatcher.Dispatcher, "_compile_for_args", here)
    kept = designs.create(VAN)
    with TestClient(app, base_url="http://127.0.0.1:8734") as web:
        answers = {
            path: web.post(f"/api/{path}", json=body)
            for path, body in (
                *((path, VAN_SENT) for path in (
                    "evaluate", "evaluate?quick=true", "workings", "options/variants", "sheet",
                    "needed", "cables", "cables/schools", "cables.csv?what=cuts",
                    "readings/checklist", "readings/figures", "readings/band-causes",
                )),
                *((path, WITH_DESIGN) for path in (
                    "course", "course.csv", "refill", "refill/outage", "sheet/print",
                    "sheet/drawing",
                )),
                ("options/sides", {"designs": [VAN_SENT]}),
                ("read-load", WITH_DESIGN | {"line": "fridge 45 W 12 V 24 h"}),
                ("read-goal", WITH_DESIGN | {"line": "three days without sun"}),
                ("build", WITH_DESIGN | {"ask": {"ask": "rail", "on": "bank", "volts": 24.0}}),
                ("places", WITH_DESIGN | {"loads": [VAN.loads[0].id]}),
                ("shelf/suits", WITH_DESIGN | {"subject": "bank"}),
                ("readings/effect", WITH_DESIGN | {"changed": VAN_SENT}),
                ("readings/judge", WITH_DESIGN | {"readings": []}),
            )
        }  # fmt: skip
        answers["glance"] = web.get(f"/api/designs/{kept.id}/glance")
    assert {path: x.text for path, x in answers.items() if x.status_code != 200} == {}
    assert answers["course.csv"].text.count("\n") > 100
    assert answers["sheet/print"].content.startswith(b"%PDF")


def test_an_edit_never_waits_for_a_longer_answer() -> None:
    app = create_app(apart=True)
    with TestClient(app, base_url="http://127.0.0.1:8734") as web:
        app.state.workers.wake()
        app.state.quick_workers.wake()
        for _ in range(WORKERS):
            threading.Thread(target=_until_closed, args=(app.state.workers,)).start()
        sent = VAN.model_dump(mode="json") | {"name": "edited"}
        answer = web.post("/api/evaluate?quick=true", json=sent)
        assert (answer.status_code, answer.json()["quick"]) == (200, True)
        assert web.post("/api/workings", json=sent).status_code == 200


def test_a_search_that_is_left_ends_with_its_workers(workers: Workers) -> None:
    workers.close()
    parts = tuple(SearchPart(id=part.name, part=part) for part in starting_shelf())

    async def work() -> None:
        searches = Searches()
        steps = searches.steps(VAN, SearchAsk(parts=parts), searches.admit())
        assert isinstance(await anext(steps), Progress)
        listening = asyncio.ensure_future(anext(steps))
        while not (at_it := [x.pid for x in multiprocessing.active_children() if _at_it(x.pid)]):
            await asyncio.sleep(0.01)
        listening.cancel()
        await asyncio.to_thread(_ended, *at_it)
        searches.close()

    asyncio.run(work())


def test_nobody_waits_for_ever_because_another_gave_up(tmp_path: Path) -> None:
    """The process of what was given up had taken the next already, and that was lost with it."""
    made, file = Workers(1), tmp_path / "pid"
    made.wake()
    answers: list[int] = []
    next_one = threading.Thread(target=lambda: answers.append(made.within(None)(_pid)))

    def given_up() -> str:
        if file.exists() and not next_one.ident:
            next_one.start()
        return "gone" * bool(next_one.ident)

    with pytest.raises(Stopped, match="gone"), stopped_by(given_up):
        made.within(None)(_begin_to_spin, file)
    next_one.join(timeout=30.0)
    assert answers
    made.close()


# One that loads for another, which ends meanwhile.
LOADS = """
import os
from threading import Event
from graveljar.computing.begin import end_with
parent = os.getppid()
print(flush=True)
end_with(parent, Event())
"""
LEAVES = """
import subprocess, sys
child = subprocess.Popen([sys.executable, "-c", sys.argv[1]], stdout=subprocess.PIPE)
child.stdout.readline()
print(child.pid)
"""


def test_what_loads_for_a_program_that_was_ended_ends_too() -> None:
    """To compile the engine goes on for a minute and more."""
    asked = [sys.executable, "-c", LEAVES, LOADS]
    left = subprocess.run(asked, capture_output=True, text=True, check=True, timeout=60)
    _ended(int(left.stdout))

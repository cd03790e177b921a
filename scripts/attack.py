"""Attacks the program as it runs: odd requests, kills at random moments, and many at a time.

The same seed asks the same. What it finds stands in `faults`, each with what brings it up again;
it ends with 1 if there is one. Times depend on the machine.
"""

import argparse
import json
import random
import socket
import statistics
import sys
import tempfile
import threading
import time
from collections import Counter
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from contextlib import ExitStack, suppress
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import httpx2 as httpx

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT))

from tests.api.test_commands import Started  # noqa: E402
from tests.spoiling import right, spoiled  # noqa: E402

# A request must be answered in so many seconds, whatever it holds.
PATIENCE_S = 120.0
AT_A_TIME = 4
HALF_OPEN = 150


@dataclass
class Report:
    """What was done, and what went wrong."""

    done: Counter[str] = field(default_factory=Counter)
    faults: list[str] = field(default_factory=list)
    slowest: list[tuple[float, str]] = field(default_factory=list)


def spoil(folder: Path, seed: int, seconds: float) -> Report:
    """Requests with one value changed, several at a time."""
    report, lock = Report(), threading.Lock()
    ends = time.monotonic() + seconds
    with Started(folder, "--demo") as started, httpx.Client(timeout=PATIENCE_S) as client:

        def ask(part: int) -> None:
            for one in spoiled(seed * AT_A_TIME + part):
                if time.monotonic() > ends:
                    return
                try:
                    body = json.dumps(one.body)
                except ValueError:
                    continue
                began = time.monotonic()
                what = f"{one.path} {one.place} = {one.odd!r:.60}"
                try:
                    answer = client.post(
                        f"{started.address}api/{one.path}", content=body,
                        headers={"Content-Type": "application/json"},
                    )  # fmt: skip
                    status = answer.status_code
                except httpx.HTTPError as error:
                    status, what = 599, f"{what}: {error!r}"
                with lock:
                    report.done[f"spoiled, answered {status}"] += 1
                    report.slowest.append((round(time.monotonic() - began, 2), what))
                    report.slowest = sorted(report.slowest, reverse=True)[:10]
                    # Too much to compute is said with 422; nothing else is the server's fault.
                    if status >= 500:
                        report.faults.append(what)

        with ThreadPoolExecutor(AT_A_TIME) as crew:
            list(crew.map(ask, range(AT_A_TIME)))
        if client.get(f"{started.address}api/health").json()["database"] != "ok":
            report.faults.append("not well after spoiled requests")
        if started.stop() != 0:
            report.faults.append("did not end as it should")
    return report


def kill(folder: Path, seed: int, seconds: float) -> Report:
    """Kills at random moments of starts and of saving; no acknowledged save may be lost."""
    report, dice = Report(), random.Random(seed)  # noqa: S311
    kept: dict[str, int] = {}
    ends = time.monotonic() + seconds
    while time.monotonic() < ends:
        with Started(folder, wait=False) as early:
            time.sleep(dice.uniform(0.1, 4.0))
            early.process.kill()
            early.process.wait()
        report.done["killed while starting"] += 1
        with Started(folder) as started:
            if not started.address:
                report.faults.append(f"no start after {report.done.total()} kills: {started.line}")
                return report
            report.faults += list(_lost(started.address, kept))
            timer = threading.Timer(dice.uniform(0.05, 2.0), started.process.kill)
            timer.start()
            with suppress(httpx.HTTPError):
                _save(started.address, kept, report)
            timer.join()
            started.process.wait()
        report.done["killed while saving"] += 1
    return report


def _save(address: str, kept: dict[str, int], report: Report) -> None:
    """Make designs and save them again and again, until the server is gone."""
    with httpx.Client(timeout=PATIENCE_S) as client:
        while True:
            made = client.post(f"{address}api/designs", json={}).raise_for_status().json()
            document = made["document"]
            for revision in range(1, 6):
                document |= {"name": f"saved {revision}"}
                body = {"base": revision, "document": document}
                client.put(f"{address}api/designs/{made['id']}", json=body).raise_for_status()
                kept[made["id"]] = revision + 1
                report.done["saves acknowledged"] += 1


def _lost(address: str, kept: dict[str, int]) -> Any:
    with httpx.Client(timeout=PATIENCE_S) as client:
        for design, revision in kept.items():
            found = client.get(f"{address}api/designs/{design}").json()
            if found.get("revision", 0) < revision:
                yield f"lost: {design} is at {found.get('revision')}, {revision} was acknowledged"


def crowd(folder: Path, seed: int, seconds: float) -> Report:
    """Half-sent requests and long work beside somebody who saves."""
    report, taken = Report(), []
    ends = time.monotonic() + seconds
    with Started(folder) as started, httpx.Client(timeout=PATIENCE_S) as client:
        crew = [
            threading.Thread(target=_leave, args=(started.address, seed, ends, report)),
            threading.Thread(target=_half_send, args=(started.address, ends, report)),
        ]
        for one in crew:
            one.start()
        while time.monotonic() < ends:
            began = time.monotonic()
            answer = client.post(f"{started.address}api/designs", json={})
            taken.append(time.monotonic() - began)
            report.done["saves beside it"] += 1
            if answer.status_code != 201:
                report.faults.append(f"a save was answered {answer.status_code}")
            time.sleep(0.05)
        for one in crew:
            one.join()
        began = time.monotonic()
        if started.stop() != 0:
            report.faults.append("did not end as it should")
        report.slowest.append((round(time.monotonic() - began, 2), "to end after it"))
    cuts = statistics.quantiles(taken, n=100)
    report.slowest.append((round(cuts[49], 3), "a save beside it, p50"))
    report.slowest.append((round(cuts[94], 3), "a save beside it, p95"))
    return report


def _leave(address: str, seed: int, ends: float, report: Report) -> None:
    """Ask for long work and go away before it is done."""
    dice = random.Random(seed)  # noqa: S311
    bodies = [(path, body) for path, body in right() if not path.startswith("designs")]
    while time.monotonic() < ends:
        path, body = dice.choice(bodies)
        with suppress(httpx.HTTPError):
            httpx.post(f"{address}api/{path}", json=body, timeout=0.2)
        report.done["left before the answer"] += 1


def _half_send(address: str, ends: float, report: Report) -> None:
    """Hold connections with requests that never end."""
    port = int(address.rsplit(":", 1)[1].strip("/"))
    head = b"POST /api/evaluate HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 9\r\n"
    with ExitStack() as links:
        for _ in range(HALF_OPEN):
            link = links.enter_context(socket.create_connection(("127.0.0.1", port)))
            link.sendall(head)
            report.done["half-sent requests"] += 1
        time.sleep(max(ends - time.monotonic(), 0))


def main() -> int:
    """Attack, one way after the other; print the report."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--minutes", type=float, default=6.0)
    parser.add_argument("--seed", type=int, default=1)
    given = parser.parse_args()
    ways: dict[str, Callable[[Path, int, float], Report]] = {
        "spoil": spoil, "kill": kill, "crowd": crowd,
    }  # fmt: skip
    seconds = given.minutes * 60 / len(ways)
    reports = {}
    with tempfile.TemporaryDirectory() as folder:
        # As root the database is another user's, who has to get in.
        Path(folder).chmod(0o755)
        for name, attack in ways.items():
            reports[name] = attack(Path(folder) / name, given.seed, seconds)
    faults = [fault for one in reports.values() for fault in one.faults]
    said = {name: {"done": dict(one.done), "seconds": one.slowest} for name, one in reports.items()}
    json.dump({"seed": given.seed, "minutes": given.minutes, **said, "faults": faults},
              sys.stdout, indent=1, ensure_ascii=False)  # fmt: skip
    print()
    return 1 if faults else 0


if __name__ == "__main__":
    sys.exit(main())

"""`gravel-jar bench`: how fast the engine is, as ratios within one run on one machine."""

import json
import resource
import threading
import time
import urllib.request
from collections.abc import Callable
from typing import Any, Final

import numpy as np
import uvicorn

from graveljar.api.app import create_app
from graveljar.core.analysis.band import DRAWS, band_of
from graveljar.core.analysis.simulation import horizon_of
from graveljar.core.kernel.timestep import run
from graveljar.core.kernel.trace import new_trace
from graveljar.core.lowering.lower import lower
from graveljar.core.model import BatteryFigures, Design
from graveljar.core.network.network import Network
from graveljar.core.planning.search import SearchAsk, Searched, SearchPart, search
from graveljar.core.planning.shelf import AnyPart
from graveljar.core.warmup import warm
from graveljar.demo import demo_designs
from graveljar.formats.mains_twins import SUFFIX
from graveljar.formats.parts_csv import starting_shelf
from graveljar.store.cluster import free_port

# A season.
DAYS: Final = 120


def bench() -> dict[str, Any]:
    """Measure; times in milliseconds."""
    warm()
    design = sample(12, 72.0)
    found: dict[str, Any] = {
        "design": "12 loads, 4 rails, 72 h",
        "engine_run_ms": run_ms(design),
        "band_ms": _typical_ms(lambda: band_of(lower(Network(design)))),
        "draws": DRAWS,
    }
    found["two_stores_run_ms"] = run_ms(grown())
    found["runs_a_second_a_core"] = round(1000 / run_ms(sample(12, 48.0)))
    found["120_days_two_sources_ms"] = run_ms(refilled(), DAYS * 24.0)
    found |= _through_http(design)
    found |= _growth()
    found |= _search()
    found |= _others(found)
    return found


def sample(loads: int, hours: float) -> Design:
    """A 12 V bank that lasts, an inverter, a 24 V and a 5 V rail, loads at all hours on them."""
    rails = [("inverter", 230.0, "ac"), ("up", 24.0, "dc"), ("down", 5.0, "dc"),
             ("bank", 12.0, "dc")]  # fmt: skip
    made = []
    for n in range(loads):
        rail, volts, kind = rails[n % 4]
        span = {"from_h": float(n % 20), "to_h": float(n % 20 + 3)}
        made.append({
            "id": f"l{n}", "name": f"l{n}", "rail": rail,
            "supply": {"kind": kind, "volts": volts},
            "demand": {"kind": "watts", "watts": 60.0 / loads * (2 + n % 3)},
            "when": {"kind": "windows", "windows": [span]},
        })  # fmt: skip
    up = {"kind": "converter", "id": "up", "rail": "bank", "topology": "boost", "set_v": 24.0}
    down = {"kind": "converter", "id": "down", "rail": "up", "topology": "buck", "set_v": 5.0}
    return Design.model_validate({
        "setting": {"horizon_h": hours}, "goal": {"hours": 24.0},
        "stores": [{"parallel": 8}],
        "stages": [{"kind": "inverter", "continuous_w": 1500.0}, up, down],
        "loads": made,
    })  # fmt: skip


def grown() -> Design:
    """A station with loads at all hours, fed through a boost from a bank that lasts."""
    plain = sample(12, 72.0).model_dump(mode="json")
    ports = [
        {"kind": "ac", "id": "inverter", "continuous_w": 1500.0},
        {"kind": "dc", "id": "up", "volts": 24.0},
        {"kind": "dc", "id": "down", "volts": 5.0},
    ]
    into = {"id": "in", "modes": [{"name": "One", "amps": 15.0}], "most_w": 400.0}
    station = {"kind": "station", "id": "bank", "label_wh": 2000.0, "outlets": ports,
               "inputs": [into]}  # fmt: skip
    boost = {"kind": "converter", "id": "boost", "rail": "outside", "topology": "boost",
             "set_v": 24.0, "continuous_a": 20.0}  # fmt: skip
    loads = [x | {"rail": "up" if x["rail"] == "bank" else x["rail"]} for x in plain["loads"]]
    for load in loads:
        if load["rail"] == "up":
            load["supply"] = {"kind": "dc", "volts": 24.0}
    return Design.model_validate(plain | {
        "stores": [station, {"kind": "bank", "id": "outside", "parallel": 8}],
        "stages": [boost],
        "links": [{"id": "lead", "rail": "boost", "to": "bank", "input": "in"}],
        "loads": loads,
    })  # fmt: skip


def refilled() -> Design:
    """The same loads on a bank that the puppet van's roof panels and engine fill."""
    plain = sample(12, 72.0).model_dump(mode="json")
    van = demo_designs()["puppet-van"].model_dump(mode="json")
    stores = [*plain["stores"], *(x for x in van["stores"] if x["kind"] != "bank")]
    kept = {name: van[name] for name in ("links", "week", "setting")}
    return Design.model_validate(plain | kept | {"stores": stores})


def run_ms(design: Design, hours: float | None = None) -> float:
    """A run of the engine by itself. [ms]"""
    lowered = lower(Network(design))
    rails, loads, stores = lowered.fresh_records()
    nothing = new_trace(len(rails), len(loads), len(stores), kept=False)
    horizon_h = hours or horizon_of(lowered)
    return _typical_ms(lambda: run(rails, loads, stores, lowered.week, horizon_h, nothing), 200)


def _typical_ms(work: Callable[[], Any], times: int = 30) -> float:
    work()
    spent = []
    for _ in range(times):
        start = time.perf_counter()
        work()
        spent.append(time.perf_counter() - start)
    return round(float(np.median(spent)) * 1000, 3)


def _through_http(design: Design) -> dict[str, float]:
    """Evaluations and a week with its band over loopback, each of another document. [ms]"""
    port = free_port()
    app = create_app(apart=True)
    server = uvicorn.Server(uvicorn.Config(app, port=port, log_level="error"))
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    while not server.started:
        time.sleep(0.01)
    for workers in (app.state.workers, app.state.quick_workers):
        workers.wake()
    found = {}
    for name, path, made in (
        ("evaluate", "evaluate", design),
        ("quick", "evaluate?quick=true", design),
        ("week", "refill", refilled()),
    ):
        document = made.model_dump(mode="json")
        spent = []
        for n in range(60):
            document["loads"][0]["demand"]["watts"] = 10.0 + n / 10
            request = urllib.request.Request(
                f"http://127.0.0.1:{port}/api/{path}",
                json.dumps({"design": document} if path == "refill" else document).encode(),
                {"Content-Type": "application/json"},
            )
            start = time.perf_counter()
            urllib.request.urlopen(request).read()  # noqa: S310
            spent.append((time.perf_counter() - start) * 1000)
        p50, p95 = np.quantile(spent[5:], (0.5, 0.95))
        found[f"{name}_http_p50_ms"] = round(float(p50), 1)
        found[f"{name}_http_p95_ms"] = round(float(p95), 1)
    server.should_exit = True
    thread.join()
    return found


def _search() -> dict[str, float]:
    """Part of a search on one core, over the starting shelf eight times, each a little else."""
    parts = tuple(
        SearchPart(id=f"{n}-{part.name}", part=_a_little_else(part, 0.79 + 0.06 * n))
        for n in range(8)
        for part in starting_shelf()
        if part.kind != "station" and not part.name.endswith(SUFFIX)
    )
    before_kb = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    start, candidates = time.perf_counter(), 0
    for step in search(demo_designs()["puppet-van"], SearchAsk(parts=parts), (0, 120)):
        if isinstance(step, Searched):
            candidates = step.candidates
    spent_s = time.perf_counter() - start
    after_kb = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    return {
        "search_candidates": candidates,
        "search_candidates_a_second_a_core": round(candidates / spent_s),
        "search_more_memory_mb": round((after_kb - before_kb) / 1024, 1),
    }


def _a_little_else(part: AnyPart, times: float) -> AnyPart:
    """A part of another size and price."""
    price = None if part.price is None else round(part.price * times)
    figures = part.figures
    if isinstance(figures, BatteryFigures):
        figures = figures.model_copy(update={"ah": round(figures.ah * times, 1)})
    return part.model_copy(update={"price": price, "figures": figures})


def _growth() -> dict[str, float]:
    """Time for four times the loads, and for four times the hours, over the plain one."""
    plain = run_ms(sample(8, 72.0))
    return {
        "four_times_the_hours": round(run_ms(sample(8, 288.0)) / plain, 2),
        "four_times_the_loads": round(run_ms(sample(32, 72.0)) / plain, 2),
    }


def _others(found: dict[str, Any]) -> dict[str, float]:
    """The same machine's time for other ways to a battery's hours, where they are installed."""
    others: dict[str, float] = {}
    try:
        from scipy.integrate import solve_ivp  # noqa: PLC0415
    except ImportError:
        return others
    curve = lower(Network(sample(1, 72.0))).day.curve[0]

    def slope(_: float, charge: Any) -> list[float]:
        open_v = np.interp(charge[0], curve[:, 0], curve[:, 1])
        amps = 2 * 60 / (open_v + np.sqrt(open_v**2 - 4 * 0.001 * 60))
        return [-amps / 800]

    others["scipy_one_load_72h_ms"] = _typical_ms(
        lambda: solve_ivp(slope, (0, 72), [1.0], method="DOP853", rtol=1e-10, max_step=2.0), 10
    )
    others["engine_runs_in_that_time"] = round(
        others["scipy_one_load_72h_ms"] / found["engine_run_ms"]
    )
    try:
        import pybamm  # noqa: PLC0415
    except ImportError:
        return others
    pybamm.set_logging_level("ERROR")
    experiment = pybamm.Experiment([("Discharge at 0.02C for 24 hours", "Rest for 24 hours")])

    def anew() -> None:
        # Set up each time: after an edit its parameters are others.
        model = pybamm.equivalent_circuit.Thevenin()
        pybamm.Simulation(model, experiment=experiment).solve()

    others["pybamm_48h_experiment_ms"] = _typical_ms(anew, 5)
    others["evaluate_over_pybamm"] = round(
        found["evaluate_http_p50_ms"] / others["pybamm_48h_experiment_ms"], 2
    )
    return others

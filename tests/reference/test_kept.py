"""What is kept of a run, and how finely it is stepped, changes nothing of what happens in it."""

from typing import Any

import numpy as np
import pytest

from graveljar.core.analysis.simulation import horizon_of
from graveljar.core.kernel.records import Floats
from graveljar.core.kernel.timestep import run as march
from graveljar.core.kernel.trace import CONVERGED, GOES_ON, POINTS, STATUS, Trace, new_trace
from graveljar.core.lowering.lower import LoweredDesign, lower
from graveljar.core.network.network import Network
from graveljar.demo import demo_designs
from tests.building import design, load
from tests.reference.random_designs import random_design
from tests.reference.random_growing import random_growing

# A lamp of some 12 A on a fuse of 10 A, which opens after some hours.
WORN = design(load(150.0, hours_per_day=24.0, fuse={"amps": 10.0, "kind": "blade"}))
SINGLE = demo_designs() | {"worn fuse": WORN}
MADE = (*(f"tree {n}" for n in range(24)), *(f"grown {n}" for n in range(12)), *SINGLE)


def _made(name: str) -> LoweredDesign:
    kind, _, seed = name.partition(" ")
    if kind == "tree":
        return lower(Network(random_design(int(seed), cut_outs=True)))
    if kind == "grown":
        return lower(Network(random_growing(int(seed))))
    return lower(Network(SINGLE[name]))


def _trace(lowered: LoweredDesign, **kept: bool) -> Trace:
    rows = (lowered.rail_records, lowered.load_records, lowered.store_records)
    return new_trace(*(len(x) for x in rows), **kept)


def _ran(lowered: LoweredDesign, trace: Trace, every_h: float = np.inf) -> tuple[Any, Any]:
    """Loads and stores at the end of a run, halted every so many hours."""
    rails, loads, stores = lowered.fresh_records()
    end_h, until = horizon_of(lowered), every_h
    march(rails, loads, stores, lowered.week, min(until, end_h), trace)
    while until < end_h:
        until += every_h
        trace.counts[GOES_ON] = 1
        march(rails, loads, stores, lowered.week, min(until, end_h), trace)
    assert trace.counts[STATUS] == CONVERGED
    return loads, stores


def _first_stops(loads: Any) -> Floats:
    found: Floats = np.minimum(loads["stop_h"], 1e9)
    return found


@pytest.mark.parametrize("name", MADE)
def test_what_is_kept_of_a_run_changes_nothing(name: str) -> None:
    """With a trace each step's end is solved; without one most are not, being far from a limit."""
    lowered = _made(name)
    whole, charges = _trace(lowered), _trace(lowered, charge_only=True)
    loads, stores = _ran(lowered, whole)
    bare = _ran(lowered, _trace(lowered, kept=False))
    less = _ran(lowered, charges)
    for other, _ in (bare, less):
        assert _first_stops(other) == pytest.approx(_first_stops(loads), rel=1e-4, abs=1e-4)
    assert bare[1]["charge"] == pytest.approx(stores["charge"], abs=2e-3)
    at_h = np.linspace(0.0, min(_first_stops(loads).min(), 48.0), 60)
    drawn = [
        np.interp(at_h, x.hours[: x.counts[POINTS]], x.charge[: x.counts[POINTS], s])
        for x in (whole, charges)
        for s in range(len(stores))
    ]
    half = len(stores)
    assert np.array(drawn[half:]) == pytest.approx(np.array(drawn[:half]), abs=1e-3)


@pytest.mark.parametrize("name", MADE)
def test_a_draw_goes_in_fewer_points_to_the_same_stops(name: str) -> None:
    """Within a quarter of the 0.2 % that a run may differ from the exact one.

    An overloaded fuse ten times that: its time goes with a high power of its current.
    """
    lowered = _made(name)
    sharp, rough = (
        _ran(lowered, _trace(lowered, charge_only=True, rough=x)) for x in (False, True)
    )
    within = 5e-3 if name == "worn fuse" else 5e-4
    stops = _first_stops(sharp[0])
    assert _first_stops(rough[0]) == pytest.approx(stops, rel=within, abs=5e-4)
    assert rough[1]["charge"] == pytest.approx(sharp[1]["charge"], abs=within)


@pytest.mark.parametrize("name", [x for x in MADE if x.startswith("tree")][::2])
def test_short_steps_lead_to_the_same_stops(name: str) -> None:
    """Halted every six minutes no step is longer: what longer ones miss would show."""
    lowered = _made(name)
    long, short = (_ran(lowered, _trace(lowered, kept=False), h)[0] for h in (np.inf, 0.1))
    assert _first_stops(long) == pytest.approx(_first_stops(short), rel=2e-3, abs=2e-3)

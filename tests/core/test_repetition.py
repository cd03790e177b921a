"""Weeks that are counted instead of stepped through give what stepping through them gives."""

from collections.abc import Callable

import numpy as np
import pytest

from graveljar.core.analysis.repetition import march_by_weeks
from graveljar.core.context import Context
from graveljar.core.kernel.records import Records
from graveljar.core.kernel.timestep import run as march
from graveljar.core.kernel.trace import EVENTS, EVERY, POINTS, STEPS, Trace, new_trace
from graveljar.core.model import Design
from graveljar.demo import demo_designs
from tests.reference.random_growing import random_growing

YEAR_H = 8760.0


def _ran(design: Design, way: Callable[..., float]) -> tuple[float, list[Records], Trace]:
    lowered = Context(design).analysis.lowered
    records = lowered.fresh_records()
    trace = new_trace(*(len(x) for x in records))
    return (
        float(way(*records, lowered.week, design.setting.horizon_h, trace)),
        list(records),
        trace,
    )


def _as_if_stepped_through(design: Design, horizon_h: float) -> bool:
    """Check both ways against each other; tells whether weeks were counted."""
    setting = design.setting.model_copy(update={"horizon_h": horizon_h})
    design = design.model_copy(update={"setting": setting})
    ends_h, records, trace = _ran(design, march_by_weeks)
    plain_h, plain, stepped = _ran(design, march)
    assert ends_h == pytest.approx(plain_h)
    for own, other in zip(records, plain, strict=True):
        for name in own.dtype.names or ():
            assert own[name] == pytest.approx(other[name], rel=1e-6, abs=1e-6), name
    assert trace.counts[: EVERY + 1].tolist() == stepped.counts[: EVERY + 1].tolist()
    points, events = int(trace.counts[POINTS]), int(trace.counts[EVENTS])
    for kept, by_steps in zip(trace[2:7], stepped[2:7], strict=True):
        assert np.allclose(kept[:points], by_steps[:points], 1e-6, 1e-6)
    assert np.allclose(trace.events[:events], stepped.events[:events], 1e-6, 1e-6)
    return bool(trace.clock[STEPS] < stepped.clock[STEPS])


@pytest.mark.parametrize("horizon_h", [720.0, 1000.5, YEAR_H])
@pytest.mark.parametrize(
    ("demo", "repeats"),
    [
        ("puppet-van", True),
        ("ticket-booth", True),
        ("tide-gauge-hut", True),
        ("set-building-trailer", False),  # it runs down within days
    ],
)
def test_a_demo_far_ahead(demo: str, repeats: bool, horizon_h: float) -> None:
    assert _as_if_stepped_through(demo_designs()[demo], horizon_h) == repeats


def test_what_is_fed_far_ahead() -> None:
    """Stations fed by batteries and vehicles: those that are fed often enough repeat."""
    counted = [_as_if_stepped_through(random_growing(seed), 2000.0) for seed in range(24)]
    assert 0 < sum(counted) < len(counted)

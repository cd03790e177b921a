"""What must hold on any tree of rails: random designs, some of which do not work at all."""

import math
from typing import Any

import numpy as np
import pytest
from pydantic import TypeAdapter

from graveljar.core.analysis.band import DRAWS, band_of
from graveljar.core.analysis.simulation import horizon_of, simulate
from graveljar.core.context import Context
from graveljar.core.evaluate import evaluate
from graveljar.core.evaluation import Evaluation
from graveljar.core.kernel.batch import run_many
from graveljar.core.kernel.timestep import run
from graveljar.core.kernel.trace import new_trace
from graveljar.core.lowering.lower import LoweredDesign, lower
from graveljar.core.model import Design
from graveljar.core.model.patch import apply
from graveljar.core.network.network import Network
from graveljar.core.rules import judge
from graveljar.core.tables.sources import SOURCES
from graveljar.core.views.verdict import verdict_of
from tests.building import the_bank
from tests.core.test_workings import by_hand
from tests.reference.random_designs import random_design, wired_design

ADAPTER = TypeAdapter(Evaluation)


def _spoiled(seed: int) -> Design:
    """A random tree with something wrong in it: volts that fit nothing, no rail, no power."""
    made = random_design(seed, cut_outs=True).model_dump(mode="json")
    stage, load = made["stages"][0], made["loads"][0]
    match seed % 6:
        case 0 if "accepts" in stage:
            stage["accepts"] = {"least_v": 300.0, "most_v": 400.0}
        case 1:
            load["rail"] = None
        case 2:
            load["demand"] = {"kind": "watts", "watts": 90_000.0}
        case 3:
            # As many volts and amps as a document may name.
            made["stores"][0] |= {"series": 16, "parallel": 32}
            made["stores"][0]["battery"] |= {"volts": 600.0, "ah": 10_000.0, "cells": 200}
        case 4:
            made["stores"][0]["starts_at"] = 0.01
        case _:
            made["setting"]["ambient_by_hour"] = [float(hour - 20) for hour in range(24)]
    return Design.model_validate(made)


def _numbers(value: Any) -> Any:
    if isinstance(value, dict):
        for child in value.values():
            yield from _numbers(child)
    elif isinstance(value, list):
        for child in value:
            yield from _numbers(child)
    elif isinstance(value, float):
        yield value


@pytest.mark.parametrize(
    "make", [random_design, _spoiled, wired_design], ids=["sound", "spoiled", "wired"]
)
@pytest.mark.parametrize("seed", range(100, 115))
def test_any_design_is_worked_out_whole(seed: int, make: Any) -> None:
    """Every figure finite and its working true; findings name figures and sources that exist."""
    design = make(seed)
    evaluation = evaluate(design)
    assert all(math.isfinite(number) for number in _numbers(ADAPTER.dump_python(evaluation)))
    for key, figure in evaluation.figures.items():
        assert by_hand(figure) == pytest.approx(figure.value, rel=1e-6, abs=1e-9), key
    ids = {x.id for part in (design.stores, design.stages, design.loads) for x in part}
    for finding in evaluation.findings:
        assert finding.subject in ids | {"design"}
        assert set(finding.figures) <= set(evaluation.figures), finding.code
        assert set(finding.sources) <= set(SOURCES)
    # The jar's layers are the day; the run's destinations what the cells gave.
    assert sum(x.wh for x in evaluation.jar.layers) == pytest.approx(
        evaluation.jar.day_wh, rel=1e-6, abs=1e-6
    )
    assert sum(x.wh for x in evaluation.run.destinations) == pytest.approx(
        sum(x.released_wh for x in evaluation.run.stores), rel=1e-6, abs=1e-6
    )


@pytest.mark.parametrize("make", [_spoiled, wired_design], ids=["spoiled", "wired"])
@pytest.mark.parametrize("seed", range(200, 212))
def test_every_fix_can_be_taken_and_does_what_it_showed(seed: int, make: Any) -> None:
    design = make(seed)
    evaluation = evaluate(design)
    for finding in evaluation.findings:
        for fix in finding.fixes:
            if fix.effect is None:
                continue
            after = Context(apply(design, fix.edits))
            assert verdict_of(after).hours == fix.effect.hours_after, (finding.code, fix.label)
            still = {(x.code, x.subject) for x in judge(after)}
            assert ((finding.code, finding.subject) not in still) is fix.effect.clears


def _ends(design: Design) -> float:
    return simulate(lower(Network(design)), kept=False).ends_h


def _with_bank(design: Design, **change: Any) -> Design:
    bank = design.stores[0].model_copy(update=change)
    return design.model_copy(update={"stores": (bank,)})


@pytest.mark.parametrize("seed", range(300, 325))
def test_more_store_lasts_longer_and_more_load_does_not(seed: int) -> None:
    """Where nothing drops out; one string more, one load drawing a tenth more."""
    design = random_design(seed, stages=4)
    plain = _ends(design)
    grown = _with_bank(design, parallel=the_bank(design).parallel + 1)
    assert _ends(grown) > plain or plain == design.setting.horizon_h
    first = next(load for load in design.loads if load.rail is not None)
    more: Any = first.demand.model_copy(update={"watts": first.demand.watts * 1.1})  # type: ignore[union-attr]
    heavier = tuple(
        load.model_copy(update={"demand": more}) if load is first else load for load in design.loads
    )
    assert _ends(design.model_copy(update={"loads": heavier})) <= plain * (1 + 1e-9)


@pytest.mark.parametrize("seed", range(400, 412))
def test_two_halves_of_a_load_are_the_load(seed: int) -> None:
    """Twice the resistance in the joint of each half, as two equal leads side by side have."""
    design = random_design(seed, cut_outs=True)
    first, *others = design.loads
    half = first.model_copy(
        update={
            "demand": first.demand.model_copy(update={"watts": first.demand.watts / 2}),  # type: ignore[union-attr]
            "standby_w": first.standby_w / 2,
            "cable_mohm": None if first.cable_mohm is None else first.cable_mohm * 2,
        }
    )
    other = half.model_copy(update={"id": "other"})
    halved = design.model_copy(update={"loads": (half, other, *others)})
    assert _ends(halved) == pytest.approx(_ends(design), rel=1e-6)


def _rows(lowered: LoweredDesign, rows: int, **factors: Any) -> Any:
    records = (lowered.rail_records, lowered.load_records, lowered.store_records)
    names = ("on_loss", "on_demand", "on_capacity")
    by = [
        factors.get(name, np.ones((rows, len(x)))) for name, x in zip(names, records, strict=True)
    ]
    nothing = new_trace(*[len(x) for x in records], kept=False)
    copies = [x.copy() for x in records]
    rails, loads, stores = copies
    end_h, no_times = horizon_of(lowered), np.empty(0)
    return run_many(rails, loads, stores, lowered.week, end_h, no_times, nothing, *by)[0]


@pytest.mark.all_draws
@pytest.mark.parametrize("seed", range(500, 508))
def test_one_run_is_a_row_of_many(seed: int) -> None:
    lowered = lower(Network(random_design(seed, cut_outs=True)))
    one = simulate(lowered).loads["stop_h"]
    demand = np.ones((5, len(lowered.loads)))
    demand[[0, 2, 4]] = 1.3
    many = _rows(lowered, 5, on_demand=demand)
    # A run that keeps a trace looks at the end of every step: the same but for rounding.
    np.testing.assert_allclose(many[1], one, rtol=1e-8)
    assert (many[1] == many[3]).all()
    # A row leaves nothing behind for the next.
    assert (many[0] == many[2]).all()
    # The same rows again, alone, and on the threads of the band.
    assert (_rows(lowered, 1) == many[1]).all()
    assert band_of(lowered) == band_of(lowered)
    assert band_of(lowered).draws == DRAWS


@pytest.mark.parametrize("seed", [601, 603])
def test_the_kernel_gives_the_same_uncompiled(seed: int) -> None:
    """Its outermost function as plain Python, as a debugger sees it."""
    lowered = lower(Network(random_design(seed, stages=2)))
    found = []
    for function in (run, run.py_func):  # type: ignore[attr-defined]
        rails, loads, stores = lowered.fresh_records()
        nothing = new_trace(len(rails), len(loads), 1, kept=False)
        ends_h = function(rails, loads, stores, lowered.day, 30.0, nothing)
        found.append((ends_h, float(stores["charge"][0]), loads["used"].sum()))
    assert found[0] == pytest.approx(found[1], rel=1e-12)

"""Whole designs against a run in plain Python that shares no code with the engine."""

import random
from typing import Any

import pytest

from graveljar.core.context import Context
from graveljar.core.model import Design
from graveljar.core.tables.charging import CHARGING
from graveljar.core.tables.chemistry import CHEMISTRIES
from tests.reference.plain_run import STEP_H, PlainRun

MAX_H = 120.0
CELLS = {"lfp": 4, "nmc": 3, "flooded": 6}


def _document(seed: int) -> dict[str, Any]:
    """A 12 V bank in hourly temperatures; mains loads cycle and start, DC loads cut out."""
    dice = random.Random(seed)
    kind = dice.choice(sorted(CELLS))
    volts = CELLS[kind] * CHEMISTRIES[kind].nominal_v  # type: ignore[index]
    mean, swing = dice.uniform(-5, 25), dice.uniform(0, 8)
    hourly = [round(mean + swing * (1 if 9 <= h < 19 else -1), 1) for h in range(24)]
    ah = round(dice.uniform(60, 200))

    def when() -> dict[str, Any]:
        begin = dice.randrange(0, 96) / 4
        return {
            "kind": "windows",
            "windows": [{"from_h": begin, "to_h": (begin + dice.randrange(4, 40) / 4) % 24}],
        }

    loads = [
        {"id": "lamp", "rail": "bank", "watts": round(dice.uniform(5, 40), 1), "volts": 12.0,
         "window": dice.choice([None, {"cut_out_v": round(dice.uniform(0.94, 1.0) * volts, 2),
                                       "restarts_v": None, "most_v": 18.0}])},
        {"id": "pump", "rail": "converter", "watts": round(dice.uniform(3, 20), 1), "volts": 5.0},
        {"id": "fridge", "rail": "inverter", "watts": round(dice.uniform(60, 140)), "volts": 230.0,
         "duty": 0.4, "cycle_min": dice.choice([30.0, 45.0]),
         "start": {"method": "factor", "factor": dice.choice([3.0, 6.0, 9.0])}},
        {"id": "screen", "rail": "inverter", "watts": round(dice.uniform(20, 90)), "volts": 230.0},
    ]  # fmt: skip
    return {
        "setting": {"ambient_by_hour": hourly, "horizon_h": MAX_H},
        "stores": [{
            "battery": {"chemistry": kind, "volts": volts, "ah": float(ah), "cells": CELLS[kind],
                        "bms_a": None, "resistance_mohm": round(800 / ah, 3)},
            "parallel": dice.randint(1, 2), "reserve": round(dice.uniform(0.1, 0.5), 2),
        }],
        "stages": [
            {"kind": "inverter", "id": "inverter", "rail": "bank", "cable_mohm": 2.0,
             "nominal_v": 12.0, "accepts": {"least_v": round(0.93 * volts, 2), "most_v": 18.0},
             "continuous_w": 400.0, "surge_w": 800.0, "idle_w": 6.0, "output_v": 230.0,
             "part_load": {"load_share": 0.3, "efficiency": 0.91},
             "full_load": {"load_share": 1.0, "efficiency": 0.87}},
            {"kind": "converter", "id": "converter", "rail": "bank", "cable_mohm": 20.0,
             "accepts": {"least_v": 6.0, "most_v": 30.0}, "set_v": 5.0, "continuous_a": 10.0,
             "quiescent_w": 0.3, "full_load": {"load_share": 1.0, "efficiency": 0.9}},
        ],
        "loads": [
            {"id": x["id"], "name": x["id"], "rail": x["rail"], "nature": "lighting",
             "supply": {"kind": "ac" if x["rail"] == "inverter" else "dc", "volts": x["volts"]},
             "demand": {"kind": "watts", "watts": x["watts"]}, "when": when(),
             "cable_mohm": 0.0 if x["rail"] != "bank" else 30.0, "duty": x.get("duty", 1.0),
             "cycle_min": x.get("cycle_min"), "start": x.get("start", {"method": "none"}),
             "window": x.get("window")}
            for x in loads
        ],
    }  # fmt: skip


def _fed(seed: int) -> dict[str, Any]:
    """The same, charged from a vehicle through a DC-DC converter while the engine runs."""
    document, dice = _document(seed), random.Random(seed)
    bank = document["stores"][0]
    battery, begin = bank["battery"], float(dice.randrange(0, 24))
    full_v = battery["cells"] * CHEMISTRIES[battery["chemistry"]].full_v
    set_v, amps = round(full_v - 0.1, 1), dice.choice([5.0, 10.0, 20.0])
    span = {"from_h": begin, "to_h": (begin + dice.choice([1.0, 3.0, 6.0])) % 24}
    document["stores"].append(
        {
            "kind": "vehicle",
            "id": "car",
            "limit_a": 100.0,
            "runs": {"kind": "windows", "windows": [span]},
        }
    )
    document["stages"].append(
        {
            "kind": "converter",
            "id": "charger",
            "rail": "car",
            "set_v": set_v,
            "cable_mohm": 0.0,
            "topology": "buck-boost",
            "continuous_a": amps,
            "documented": True,
        }
    )
    document["links"] = [{"id": "lead", "rail": "charger", "to": "bank", "cable_mohm": 0.0}]
    ah = battery["ah"] * bank["parallel"]
    # The defaults of the method page: at most half the Ah into lithium, 13 % into flooded cells.
    kind = CHARGING[battery["chemistry"]]
    most_a = (0.13 if battery["chemistry"] == "flooded" else 0.5) * ah
    hold_v = kind.hold_v * battery["cells"]
    document["plain_link"] = {
        "span": span,
        "watts": min(set_v * amps, most_a * hold_v),
        "most_a": most_a,
        "hold_v": hold_v,
        "tail_a": kind.tail_c * ah,
        "curve": kind.curve,
        "accepts_per_h": kind.accepts_per_h,
        "ah_efficiency": kind.ah_efficiency,
    }
    return document  # fmt: skip


@pytest.mark.parametrize("seed", range(40, 48))
def test_a_run_that_is_charged_agrees_with_plain_python(seed: int) -> None:
    """First stops of every load within 0.5 %, or three small steps; frost and taper with it."""
    document = _fed(seed)
    plain = _plain(document)
    plain.run(MAX_H)
    document.pop("plain_link")
    run = Context(Design.model_validate(document)).analysis.run
    for load, stop_h in plain.stops.items():
        near = pytest.approx(stop_h, rel=5e-3, abs=3 * STEP_H)
        assert run.stops[load].hours == near, load


def _plain(document: Any) -> PlainRun:
    kind = CHEMISTRIES[document["stores"][0]["battery"]["chemistry"]]
    return PlainRun(
        document, kind.ocv, kind.capacity_by_temperature, kind.ohm_by_temperature, kind.peukert
    )


@pytest.mark.parametrize("seed", range(16))
def test_a_whole_run_agrees_with_plain_python(seed: int) -> None:
    """First stops of every load, the end and the Wh within 0.5 %, or three small steps."""
    document = _document(seed)
    run = Context(Design.model_validate(document)).analysis.run
    plain = _plain(document)
    ends_h = plain.run(MAX_H)
    near: Any = {"rel": 5e-3, "abs": 3 * STEP_H}
    assert run.ends_h == pytest.approx(ends_h, **near)
    assert run.released_wh == pytest.approx(plain.given_wh, rel=5e-3)
    for load, stop_h in plain.stops.items():
        assert run.stops[load].hours == pytest.approx(stop_h, **near), load

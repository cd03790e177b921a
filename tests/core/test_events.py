"""Events of a run: what gives up, in which order, with how much left, and what it is told as."""

from typing import Any

import pytest

from graveljar.core.analysis.simulation import Run, simulate
from graveljar.core.lowering.lower import lower
from graveljar.core.network.network import Network
from tests.building import bank, behind, converter, design, evaluated, inverter, load


def _run(*loads: Any, **rest: Any) -> Run:
    return simulate(lower(Network(design(*loads, **rest, assumptions={"joint_drop": 0.0}))))


def test_the_protection_opens_before_a_bank_with_nothing_kept_back_is_empty() -> None:
    """LFP at 2.5 V a cell is empty: under load the terminals reach 10 V with charge inside."""
    run = _run(load(900, hours_per_day=24.0), stores=bank(reserve=0.0))
    assert run.cause == "protection"
    assert run.events[-1].volts == pytest.approx(10.0, abs=1e-5)
    # 900 W at 10 V are 90 A, 0.72 V inside: 10.72 V open, 2.68 V a cell, between 2.6394 (2 %)
    # and 2.8254 (5 %): 2.65 % (Afshar et al. 2017, Ecker et al. 2015, anchored below 20 %).
    assert run.events[-1].charge == pytest.approx(0.0265, abs=2e-4)


def test_without_protection_a_lead_battery_runs_down_to_what_is_kept_back() -> None:
    run = _run(load(60, hours_per_day=24.0), stores=bank("agm", 12.0, reserve=0.2))
    assert run.cause == "reserve"
    assert float(run.stores[0]["charge"]) == pytest.approx(0.2, abs=1e-9)


def test_a_run_starts_at_the_charge_that_is_given() -> None:
    """From 60 % down to 10 % is five ninths of from full."""
    full, part = (
        _run(load(48, hours_per_day=24.0), stores=bank(starts_at=at)) for at in (1.0, 0.6)
    )
    assert part.hours is not None
    assert full.hours is not None
    # A hair less: the volts are lower down there, so that the same watts are more amps.
    assert part.hours / full.hours == pytest.approx(5 / 9, rel=0.02)


def test_the_device_with_the_highest_cut_out_goes_first() -> None:
    lamps = [
        load(30, name, hours_per_day=24.0, window={"cut_out_v": volts, "most_v": 15.0})
        for name, volts in (("low", 11.0), ("high", 13.0), ("middle", 12.6))
    ]
    run = _run(*lamps, stores=bank(reserve=0.0, bms_a=None))
    assert [e.subject for e in run.events if e.what == "cuts out"] == ["high", "middle", "low"]
    assert run.first_stop is not None
    assert run.first_stop.load == "high"
    # Nothing is a must: the first that stops ends it.
    assert run.decisive == run.first_stop


def test_a_must_load_decides_and_what_stops_before_is_told() -> None:
    must = load(20, "must", hours_per_day=24.0, priority="must")
    nice = load(20, "nice", hours_per_day=24.0, window={"cut_out_v": 13.0, "most_v": 15.0})
    verdict = evaluated(must, nice).verdict
    assert verdict.cause == "reserve"
    assert verdict.first.startswith("After")
    assert "nice cuts out at 13 V" in verdict.first


def test_a_stage_takes_all_behind_it_along() -> None:
    """The 24 V boost cuts out at 12.5 V; what hangs on the rail behind it stops with it."""
    chain = [
        converter(id="up", name="Up", topology="boost", set_v=24.0, quiescent_w=0.0,
                  accepts={"least_v": 12.5, "most_v": 36.0}, restarts_v=14.0),
        converter(id="down", name="Down", rail="up", set_v=5.0, quiescent_w=0.0),
    ]  # fmt: skip
    run = _run(
        load(40, "bar", rail="up", volts=24.0, hours_per_day=24.0),
        load(5, "phone", rail="down", volts=5.0, hours_per_day=24.0),
        load(5, "modem", hours_per_day=24.0),
        more=chain,
    )
    stops = run.stops
    assert stops["bar"].hours == stops["phone"].hours < stops["modem"].hours
    assert stops["phone"].subject == "up"
    assert stops["modem"].cause == "reserve"
    # 45 / 0.92 and more W behind it, 5 W beside it: the modem lives on what is left for long.
    assert stops["modem"].hours > 1.2 * stops["bar"].hours


def test_a_cut_out_that_comes_back_at_once_waits_for_the_loads_to_change() -> None:
    """One that chatters is told once a stretch of the day, not a thousand times."""
    # The inverter drops under 700 W, rests above its restart, and drops again.
    run = _run(
        load(700, "heater", ac=True, when={"kind": "at", "at_h": 2.0, "hours": 2.0}),
        load(5, "modem", hours_per_day=24.0),
        stages=inverter(accepts={"least_v": 12.9, "most_v": 15.0}, restarts_v=13.0),
    )
    first_day = [e for e in run.events if e.subject == "inverter" and e.hours < 4.0]
    assert [e.what for e in first_day[:3]] == ["cuts out", "restarts", "cuts out"]
    assert len(first_day) <= 4
    assert run.stops["heater"].hours == pytest.approx(first_day[0].hours)
    assert run.events_beyond == 0


def test_a_collapse_takes_off_the_largest_and_the_rest_goes_on() -> None:
    run = _run(
        load(600, "heater", hours_per_day=24.0),
        load(5, "modem", hours_per_day=24.0),
        stores=bank(ah=10.0, bms_a=None),
    )
    # Told again as each day begins; once on the first.
    assert [e.subject for e in run.events if e.what == "collapses" and e.hours < 24] == ["heater"]
    assert run.stops["heater"].cause == "collapse"
    assert run.stops["modem"].hours > 10


@pytest.mark.parametrize("switched", ["always on", "on with its loads"])
def test_a_converter_is_off_with_its_loads_if_it_has_a_switch(switched: str) -> None:
    evaluation = evaluated(
        behind(10, hours_per_day=4.0), more=[converter(switched=switched, quiescent_w=1.0)]
    )
    idle = next(layer.wh for layer in evaluation.jar.layers if layer.kind == "idle")
    assert idle == pytest.approx(24 if switched == "always on" else 4)

"""What trips in the hours: overloads, fuses, starts, cold; and what is run in turn instead."""

from typing import Any

import numpy as np
import pytest

from graveljar.core.context import Context
from graveljar.core.kernel.fuses import opens_in_h
from graveljar.core.kernel.limits import tightest
from graveljar.core.kernel.trace import LOAD_OUT
from graveljar.core.lowering.example import arrays
from tests.building import (
    bank,
    behind,
    converter,
    design,
    inverter,
    load,
    looked_at,
    on_port,
    station,
)

ALL_DAY: Any = {"hours_per_day": 24.0}
AT_NOON: Any = {"when": {"kind": "at", "at_h": 12.0, "hours": 2.0}}
TIMES_6: Any = {"start": {"method": "factor", "factor": 6.0}}


def _stop(*loads: Any, **rest: Any) -> Any:
    return Context(design(*loads, **rest)).analysis.run.first_stop


@pytest.mark.parametrize(
    ("arguments", "cause", "subject"),
    [
        # Fixed hours: 700 + 400 W at noon on 1 000 W trip it, and nobody presses its button.
        pytest.param(
            {"loads": [load(700, "a", ac=True, **AT_NOON), load(400, "b", ac=True, **AT_NOON)],
             "stages": inverter(), "stores": bank(ah=400.0, bms_a=400.0)},
            "overload", "inverter", id="inverter"),
        # 600 W at a power factor of 0.5 are 1 200 VA.
        pytest.param(
            {"loads": [load(600, "a", ac=True, power_factor=0.5, **AT_NOON)],
             "stages": inverter()}, "overload", "inverter", id="apparent power"),
        # 11 A at 5 V of 10 A.
        pytest.param({"loads": [behind(55, **AT_NOON)], "more": [converter()]},
                     "overload", "converter", id="converter"),
        # 1 500 W at 13 V are 115 A of 100 A.
        pytest.param({"loads": [load(1500, **AT_NOON)]}, "overload", "bank", id="battery"),
        # A 10 A fuse of a kind whose times are known: 30 A open it within a second.
        pytest.param({"loads": [load(390, fuse={"amps": 10.0, "kind": "blade"}, **AT_NOON)]},
                     "fuse", "lamp", id="blade fuse"),
        pytest.param({"loads": [load(390, fuse={"amps": 10.0}, **AT_NOON)]},
                     "fuse", "lamp", id="fuse of no known times"),
        # 5 A at 12.8 V are 64 W.
        pytest.param(
            {"loads": [on_port(80, **AT_NOON)],
             "stores": [station(outlets=[{"kind": "dc", "id": "port", "gives": "sagging",
                                          "volts": None, "amps": 5.0}], cells=4)]},
            "overload", "port", id="port of a station"),
        pytest.param(
            {"loads": [load(200, rail="vehicle", **AT_NOON)],
             "stores": [bank(), {"kind": "vehicle", "runs": {"kind": "windows", "windows": [
                 {"from_h": 0.0, "to_h": 24.0}]}}]},
            "overload", "vehicle", id="vehicle"),
        # Six times 400 W are above twice 1 000 W: the start trips the inverter.
        pytest.param({"loads": [load(400, "pump", ac=True, **TIMES_6, **AT_NOON)],
                      "stages": inverter(), "stores": bank(ah=400.0, bms_a=400.0)},
                     "start", "inverter", id="surge"),
        # A converter holds its amps: the motor does not start, the converter stays.
        pytest.param({"loads": [behind(9, name="pump", **TIMES_6, **AT_NOON)],
                      "more": [converter()]}, "start", "pump", id="converter's peak"),
        pytest.param({"loads": [load(20, **AT_NOON)], "ambient_c": -15.0,
                      "stores": {**bank(), "battery": {"discharge_from_c": -10.0}}},
                     "cold", "bank", id="too cold to give"),
    ],
)  # fmt: skip
def test_what_is_exceeded_stops_the_hours_and_is_named(
    arguments: dict[str, Any], cause: str, subject: str
) -> None:
    """Each limit is that of the label; all of it common practice but for the sums beside it."""
    found = _stop(*arguments.pop("loads"), **arguments)
    assert found is not None
    assert (found.cause, found.subject) == (cause, subject)
    assert found.hours == pytest.approx(0.0 if cause == "cold" else 12.0, abs=1e-4)


def test_what_restarts_by_itself_is_back_and_what_does_not_stays_off() -> None:
    """Overloaded for two hours at noon; a lamp of its own runs on in the evening, or does not."""
    together = [load(600, name, ac=True, **AT_NOON) for name in ("a", "b")]
    evening = load(20, "lamp", ac=True, when={"kind": "at", "at_h": 20.0, "hours": 1.0})
    served = []
    for resets in ("by hand", "by itself"):
        made = design(*together, evening, stages=inverter(resets=resets), stores=bank(ah=300.0),
                      setting={"horizon_h": 24.0}, goal={"hours": 24.0})  # fmt: skip
        run = Context(made).analysis.run
        lamp = [x.id for x in run.lowered.loads].index("lamp")
        served.append(float(run.loads[lamp]["served_h"]))
    assert served == pytest.approx([0.0, 1.0])


def test_loads_without_times_run_in_turn_where_together_they_would_trip() -> None:
    """900 and 700 W for an hour each on 1 000 W: one after the other, 1.6 kWh, nothing trips."""
    kettle, haze = load(900, "kettle", ac=True), load(700, "haze", ac=True)
    made = looked_at(design(kettle, haze, stages=inverter(), stores=bank(ah=400.0)))
    assert made.verdict.not_together
    assert made.verdict.cause != "overload"
    used = sum(x.wh for x in made.run.destinations if x.kind == "load" and x.subject == "kettle")
    assert used > 900
    # Where hours do not allow it they trip; where nothing would trip nothing is moved.
    day = [load(x, n, ac=True, **ALL_DAY) for n, x in (("a", 900), ("b", 700))]
    assert _stop(*day, stages=inverter(), stores=bank(ah=400.0)).cause == "overload"
    fan = load(90, "fan", ac=True)
    calm = Context(design(kettle, fan, stages=inverter(), stores=bank(ah=400.0, bms_a=400.0)))
    assert calm.analysis.lowered.apart == ()
    assert calm.analysis.lowered.tables["fan"].runs == ((0.0, 1.0),)


@pytest.mark.parametrize(
    ("share", "seconds"), [(1.35, 0.75), (2.0, 0.15), (3.5, 0.04), (1.1, np.inf), (1.0, np.inf)]
)
def test_a_blade_fuse_opens_by_the_fast_edge_of_its_table(share: float, seconds: float) -> None:
    """ISO 8820-3, from memory: what it carries at 110 %, and how soon it may open above."""
    assert opens_in_h(share) * 3600 == pytest.approx(seconds)


def test_an_overloaded_fuse_wears_out_and_one_within_its_rating_does_not() -> None:
    """At 120 % between 100 h (110 %) and 0.75 s (135 %), straight on logarithmic scales."""
    lamp = load(12.0, draw="constant current", fuse={"amps": 1.0 / 1.2, "kind": "blade"}, **ALL_DAY)
    along = np.log(1.2 / 1.1) / np.log(1.35 / 1.1)
    hours = 100 * (0.75 / 360_000) ** along
    assert _stop(lamp, stores=bank(ah=400.0)).hours == pytest.approx(hours, rel=1e-3)
    fine = load(12.0, draw="constant current", fuse={"amps": 1.0, "kind": "blade"}, **ALL_DAY)
    assert _stop(fine).cause == "reserve"


def _fridge(ah: float = 100.0, **rest: Any) -> Any:
    """A compressor on an inverter that cuts out at 12.2 V: its start dips below that when low."""
    fridge = load(150, "fridge", ac=True, nature="compressor", start={"method": "factor"},
                  **ALL_DAY, **rest)  # fmt: skip
    stage = inverter(accepts={"least_v": 12.2, "most_v": 15.0}, cable_mohm=0.0)
    return design(fridge, stages=stage, stores=bank(ah=ah, bms_a=200.0, reserve=0.1))


@pytest.mark.parametrize("cycle", [{"cycle_min": 40.0}, {}])
def test_a_start_that_dips_below_a_cut_out_ends_the_hours(cycle: Any) -> None:
    """900 W at 8 mOhm: V (E - V) / R = P gives the open-circuit volts at which V is 12.2.

    E = 12.2 + 0.008 x P_in / 12.2, with 900 W out of the inverter: about 12.88 V, on LFP's knee.
    A start fails first where the curve falls below that; each later one fails too.
    """
    made = _fridge(duty=0.35, **cycle)
    context = Context(made)
    stop = context.analysis.run.first_stop
    assert stop is not None
    assert (stop.cause, stop.subject, stop.by) == ("start", "inverter", "fridge")
    drawn_w = context.network.losses["inverter"].dc_w(900.0)
    open_v = 12.2 + 0.008 * drawn_w / 12.2
    x, v = context.analysis.lowered.day.curve[0, :, 0], context.analysis.lowered.day.curve[0, :, 1]
    expected = float(np.interp(open_v, v, x))
    # Cycling it is tried at each cycle only: some charge later, never earlier.
    assert expected - 0.02 < stop.charge <= expected + 1e-4
    dip = context.analysis.dips["bank"]
    assert dip is not None
    assert dip.below == pytest.approx(expected, abs=1e-3)
    assert "trips Inverter as it starts" in looked_at(made).verdict.then


def test_a_start_that_always_fails_and_one_that_fails_later_are_told_apart() -> None:
    always = load(400, "pump", ac=True, **TIMES_6, **AT_NOON)
    assert "at every start" in looked_at(design(always, stages=inverter())).verdict.then
    assert "for the first time" in looked_at(_fridge(duty=0.35, cycle_min=40.0)).verdict.then


def test_ah_are_counted_whatever_the_temperature() -> None:
    """A week of cold nights, charged by day: Ah in less Ah out is the change of what is inside."""
    ambient = [-8.0 + 26.0 * (6 <= hour < 20) for hour in range(24)]
    times = {"kind": "windows", "windows": [{"from_h": 9.0, "to_h": 17.0}]}
    made = design(
        load(25, **ALL_DAY),
        stores=[bank(ah=100.0, starts_at=0.6), bank(id="big", ah=1000.0, bms_a=200.0)],
        links=[{"id": "fill", "name": "fill", "rail": "big", "to": "bank", "times": times}],
        setting={"ambient_by_hour": ambient, "horizon_h": 168.0}, goal={"hours": 168.0},
    )  # fmt: skip
    run = Context(made).analysis.run
    hours, charge, _, amps, _ = run.points()
    # As it gets full its current ends at once: those last minutes are no straight lines.
    counts = charge[1:, 0] < 0.98
    moved = (amps[1:, 0] + amps[:-1, 0]) / 2 * np.diff(hours)
    # Of the Ah that go into lithium 99.5 % stay; common practice.
    moved = np.where(moved < 0, 0.995 * moved, moved)
    change = -100.0 * np.diff(charge[:, 0])
    through_ah = np.abs(moved[counts]).sum()
    assert moved[counts].sum() == pytest.approx(change[counts].sum(), abs=1e-3 * through_ah)
    assert change.sum() == pytest.approx(100.0 * (charge[0, 0] - charge[-1, 0]))
    # In the frost, from eight in the evening to six, nothing goes in.
    night = ((hours % 24 < 6) | (hours % 24 > 20)) & (hours > 0)
    assert (amps[night, 0] >= -1e-9).all()
    assert (amps[~night, 0] < -1).any()


@pytest.mark.parametrize(
    ("chemistry", "celsius", "times"),
    [("lfp", 0.0, 2.0), ("lfp", -10.0, 3.0), ("nmc", 0.0, 2.0), ("agm", 0.0, 1.3)],
)
def test_resistance_rises_in_the_cold(chemistry: str, celsius: float, times: float) -> None:
    """Whole batteries, common practice: lithium twice at 0 °C, three times at -10; lead 1.3."""
    sag = []
    for ambient_c in (25.0, celsius):
        label_v = {"agm": 12.0, "nmc": 11.1}.get(chemistry, 12.8)
        made = design(load(300), stores=bank(chemistry, label_v), ambient_c=ambient_c)
        run = Context(made).analysis.run
        rail = run.lowered.store_records[0]
        _, charge, volts, amps, _ = run.points()
        x, v = run.lowered.day.curve[0, :, 0], run.lowered.day.curve[0, :, 1]
        sag.append((np.interp(charge[0, 0], x, v) - volts[0, 0]) / amps[0, 0])
        assert rail["own_ohm"] > 0
    assert sag[1] / sag[0] == pytest.approx(times, rel=1e-6)


def test_a_cycle_and_its_mean_cost_the_same_by_peukert() -> None:
    """Peukert is for steady currents: cycles are counted by their mean, within 3 %."""
    found = []
    for cycle in (None, 20.0, 40.0, 60.0):
        pump = load(120, hours_per_day=24.0, duty=0.4, cycle_min=cycle)
        run = Context(design(pump, stores=bank("flooded", 12.0, 100.0))).analysis.run
        assert run.hours is not None
        # What it was given: it ends somewhere within a cycle.
        found.append(float(run.loads[0]["used"]))
    assert found == pytest.approx([found[0]] * 4, rel=0.03)


def test_a_must_load_that_can_never_run_fails_the_goal_and_is_named() -> None:
    cpap = load(30, "cpap", volts=24.0, nature="medical", priority="must")
    made = looked_at(design(cpap, load(5, "lamp")))
    assert not made.verdict.meets_goal
    assert (made.verdict.hours, made.verdict.cause) == (0.0, "cannot run")
    assert any(text.startswith("cpap:") for text in made.verdict.never)
    assert "cpap" in made.verdict.then


@pytest.mark.parametrize("rail", ["bank", None])
def test_a_load_that_is_not_served_is_wanted_all_the_same(rail: str | None) -> None:
    """48 W all day behind a cut-out above a half-full bank, or not connected: 1 152 Wh are needed.

    By a fifth for ageing and a tenth for guesses 1 584 Wh, of 1 152 usable in one battery.
    """
    fan = load(48, "fan", **ALL_DAY) | {"rail": rail}
    window = {"cut_out_v": 13.3, "most_v": 15.0}
    made = looked_at(design(fan | {"window": window if rail else None}))
    assert made.needed is not None
    assert made.needed.goal_wh == pytest.approx(1152, rel=0.1)
    assert made.needed.present.by_energy == 2
    if rail:
        assert made.jar.day_wh == pytest.approx(1152, rel=0.02)
        stone = next(x for x in made.jar.layers if x.subject == "fan")
        assert stone.missed > 0.5


def test_a_margin_is_a_share_of_its_limit() -> None:
    """Of 13.3924 V 5 mV are lost in 1 mOhm; a cut-out of 12 V is 11.6 % below the rest."""
    rails, loads, stores, _, _ = arrays()
    loads[0].cut_v = 12.0
    what, index, margin = tightest(rails, loads, stores, False)
    assert (what, index) == (LOAD_OUT, 0)
    assert margin == pytest.approx((13.3924 - 0.005 - 12) / 12, rel=1e-9)


@pytest.mark.parametrize(("watts", "starts"), [(1000.0, True), (700.0, False)])
def test_rule_and_run_agree_on_a_start(watts: float, starts: bool) -> None:
    """220-240 V, 1 A, x6 are 1 440 W (common practice): under twice 1 000 W, above twice 700 W.

    Whatever its power factor: a nameplate's volts and amps are its start already.
    """
    fridge = load(240.0, "fridge", ac=True, power_factor=0.7, nature="compressor", **TIMES_6,
                  **AT_NOON)  # fmt: skip
    made = design(
        fridge, stages=inverter(continuous_w=watts, surge_w=2 * watts),
        stores=bank(ah=400.0, bms_a=400.0),
    )  # fmt: skip
    found = {f.code for f in looked_at(made).findings if f.severity in ("stop", "fix")}
    stop = Context(made).analysis.run.first_stop
    assert stop is not None
    assert (stop.cause != "start") is starts
    assert ("inverter.start_above_surge" in found) is not starts

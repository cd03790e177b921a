"""A vehicle and the battery that starts it, which gives what its engine cannot."""

import json
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from graveljar.core.analysis.week import simulate_week
from graveljar.core.context import Context
from graveljar.core.model import Design
from graveljar.core.model.patch import apply
from graveljar.core.planning.construction import build
from graveljar.core.planning.construction.asks import AddStore
from tests.building import design, load, looked_at

ALTERNATOR = {
    "kind": "alternator", "profile": "set by hand", "amps": 130.0, "hold_v": 14.5, "idle_w": 0.0,
    "efficiency": 1.0, "accepts": {"least_v": 9.0, "most_v": 16.0},
}  # fmt: skip
ENGINE = {"kind": "vehicle", "id": "engine", "running_v": 14.5, "cable_mohm": 0.0,
          "limit_a": 150.0, "alternator": "fixed",
          "runs": {"kind": "windows", "windows": [{"from_h": 0.0, "to_h": 24.0}]}}  # fmt: skip


def hybrid(watts: float, *, runs: Any = None, ah: float = 45.0, **charger: Any) -> Design:
    """A hybrid car in ready mode: 1.3 kW, a small battery of 18 mOhm, a load on it."""
    starter = {
        "id": "starter", "name": "Car battery", "use": "starter", "reserve": 0.5,
        "leads": {"cable_mohm": 0.0},
        "battery": {"chemistry": "agm", "volts": 12.0, "ah": ah, "bms_a": None,
                    "resistance_mohm": 18.0},
    }  # fmt: skip
    return design(
        load(watts, "heater", rail="starter", hours_per_day=24.0, priority="must",
             window={"cut_out_v": 9.0, "most_v": 16.0}),
        stores=[starter, ENGINE | ({} if runs is None else {"runs": runs})],
        links=[{"id": "alternator", "rail": "engine", "to": "starter", "cable_mohm": 0.0,
                "charger": ALTERNATOR | {"most_w": 1300.0} | charger}],
        setting={"horizon_h": 24.0},
    )  # fmt: skip


def volts_at_first(made: Design) -> float:
    """Volts at the posts of the starter battery, as the run begins."""
    return float(Context(made).analysis.run.points()[2][0, 0])


def test_past_its_limit_a_hybrid_falls_to_its_small_battery() -> None:
    """Common practice: 1.3 kW, 18 mOhm and 2 kW: 14.5 V fall to about 11.5 V at once, and on;
    flat in some 10 to 20 minutes. 113 A at 11.6 V are 1.31 kW.
    """
    assert volts_at_first(hybrid(1000.0)) == pytest.approx(14.5)
    past = hybrid(2000.0)
    at_once = volts_at_first(past)
    assert at_once == pytest.approx(11.5, abs=0.35)
    run = Context(past).analysis.run
    volts = run.points()[2][:, 0]
    assert volts[2] < at_once
    assert run.hours is not None
    assert 10 / 60 <= run.hours <= 20 / 60
    found = {f.code: f for f in looked_at(past).findings}
    assert f"{at_once:.3g} V" in found["vehicle.past_engine"].title
    assert "2000 W are drawn" in found["vehicle.past_engine"].title.replace("\u202f", "")
    assert "no longer starts the engine after 1" in found["vehicle.will_not_start"].title


def test_ohm_and_kirchhoff_give_the_volts() -> None:
    """E 12.89 V, R (I - I0) with I = P / V and I0 = 1300 / V: V = E - 0.018 (P - 1300) / V."""
    for watts in (1400.0, 1700.0, 2300.0):
        volts = volts_at_first(hybrid(watts))
        rest_v = volts + 0.018 * (watts - 1300.0) / volts
        assert rest_v == pytest.approx(6 * 2.1487, abs=0.02)


@pytest.mark.parametrize(
    ("starts_at", "charger"),
    [(1.0, {"most_w": None, "amps": 90.0}), (0.6, {}), (0.6, {"most_w": None, "amps": 90.0})],
)
def test_the_finding_names_the_volts_of_the_run(starts_at: float, charger: Any) -> None:
    """Kirchhoff: what 18 mOhm lose of the battery's rest is what the engine does not give."""
    made = hybrid(2000.0, **charger)
    bank = made.stores[0].model_copy(update={"starts_at": starts_at})
    made = made.model_copy(update={"stores": (bank, made.stores[1])})
    volts = volts_at_first(made)
    engine_a = 90.0 if charger else 1300.0 / volts
    curve = Context(made).analysis.lowered.day.curve[0]
    rest_v = float(np.interp(starts_at, curve[:, 0], curve[:, 1]))
    assert rest_v - 0.018 * (2000.0 / volts - engine_a) == pytest.approx(volts, abs=0.01)
    found = {f.code: f.title for f in looked_at(made).findings}
    assert f"fall to {volts:.3g} V at once" in found["vehicle.past_engine"]


def test_within_its_limit_it_runs_for_as_long_as_the_engine() -> None:
    steady = looked_at(hybrid(1200.0))
    assert steady.verdict.hours is None
    assert not [f for f in steady.findings if f.code.startswith("vehicle.")]
    # Two hours of engine: from then on the small battery is alone; 45 Ah x 0.5 at 1.2 kW and
    # 12 V are some 13 minutes, less for so high a current (Peukert).
    spans = {"kind": "windows", "windows": [{"from_h": 12.0, "to_h": 14.0}]}
    made = hybrid(1200.0, runs=spans)
    made = made.model_copy(
        update={"setting": made.setting.model_copy(update={"starts_at_h": 12.0})}
    )
    hours = Context(made).analysis.run.hours
    assert hours is not None
    assert 2.0 + 5 / 60 < hours < 2.0 + 14 / 60


def test_an_engine_with_its_battery_is_built_in_one_step() -> None:
    made = design(load())
    built = build(made, AddStore(ask="store", what="starter"))
    after = apply(made, built.edits)
    bank, engine = after.stores[2], after.stores[1]
    assert (bank.id, getattr(bank, "use", ""), engine.kind) == (built.subject, "starter", "vehicle")
    assert after.links[0].charger is not None
    assert after.links[0].charger.kind == "alternator"
    brought = {f.code for f in looked_at(after).findings if f.severity in ("stop", "fix")}
    assert brought <= {f.code for f in looked_at(made).findings}


@settings(max_examples=40, deadline=None)
@given(
    st.floats(50, 2600), st.floats(20, 120), st.floats(0.55, 1.0), st.floats(20, 200),
    st.sampled_from([None, 800.0, 1300.0]), st.integers(1, 23),
)  # fmt: skip
def test_energy_balances_and_no_alternator_gives_more_than_its_limits(
    watts: float, ah: float, starts_at: float, amps: float, most_w: float | None, hours: int
) -> None:
    """Conservation, and Kirchhoff at the posts: what the battery does not give the engine does."""
    spans = {"kind": "windows", "windows": [{"from_h": 0.0, "to_h": float(hours)}]}
    made = hybrid(watts, runs=spans, ah=ah, amps=amps, most_w=most_w)
    stores = (made.stores[0].model_copy(update={"starts_at": starts_at}), *made.stores[1:])
    made = made.model_copy(update={"stores": stores})
    lowered = Context(made).analysis.lowered
    week = simulate_week(lowered, 30)
    heat = week.lost_wh.sum() + week.before_wh.sum()
    assert week.released_wh.sum() == pytest.approx(week.used_wh.sum() + heat, rel=1e-3, abs=1e-2)
    assert (week.charge[:, 0] <= 1.0 + 1e-9).all()
    # Of an hour no more comes in than its amps at its volts, or its watts.
    limit_w = min(amps * 14.5, most_w or 1e9, 150.0 * 14.5)
    assert week.brought_wh.max() <= limit_w * (1 + 1e-6)
    run = Context(made).analysis.run
    _, _, volts, given_a, drawn = run.points()
    # At the posts: the load's watts less the battery's own, at every point that was kept.
    from_engine = drawn[:, 0] - volts[:, 0] * given_a[:, 0]
    assert from_engine.max() <= limit_w * (1 + 1e-6) + 1e-6
    assert volts[:, 0].max() <= 14.5 + 1e-9


@pytest.mark.parametrize(
    ("kept_alternator_a", "links", "finding"),
    [
        # 40 A into the house bank are some 45 A out of the engine: half of 90 A, and 0.4 of 112 A.
        (80.0, 1, "vehicle.alternator_strained"),
        (110.0, 1, None),
        (None, 1, None),
    ],
)
def test_what_a_charger_takes_on_a_starter_battery_counts_on_its_alternator(
    kept_alternator_a: float | None, links: int, finding: str | None
) -> None:
    """Common practice: half of an alternator's rating for long."""
    made = hybrid(10.0, amps=90.0, most_w=None).model_dump(mode="json")
    made["stores"][1]["alternator_a"] = kept_alternator_a
    made["stores"].append({"kind": "bank", "id": "house", "starts_at": 0.3})
    made["links"].append(
        {"id": "house-charger", "rail": "starter", "to": "house",
         "charger": {"amps": 40.0, "efficiency": 0.9, "accepts": {"least_v": 11, "most_v": 16}}}
    )  # fmt: skip
    found = {f.code for f in looked_at(Design.model_validate_json(json.dumps(made))).findings}
    assert len(made["links"]) == links + 1
    strained = {code for code in found if code == "vehicle.alternator_strained"}
    assert strained == ({finding} if finding else set())

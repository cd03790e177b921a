"""The course of a run and its moments against what is known from outside."""

from typing import Any

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from graveljar.core.analysis.band import DRAWS, begin_charge_band
from graveljar.core.context import Context
from graveljar.core.lowering.lower import lower
from graveljar.core.model import Design
from graveljar.core.network.network import Network
from graveljar.core.tables.chemistry import CHEMISTRIES
from graveljar.core.views.snapshots import moments_of
from graveljar.core.views.timeline import course_of
from tests.building import bank, converter, design, inverter, load


def _steady(watts: float, ah: float = 100.0, mohm: float = 8.0) -> Design:
    """A bank of 4S LFP without losses but its own, and one load all day."""
    store = bank(ah=ah)
    store["battery"] |= {"resistance_mohm": mohm, "bms_a": None}
    return design(load(watts, hours_per_day=24.0), stores=store)


@pytest.mark.parametrize("watts", [20.0, 120.0, 600.0])
def test_the_charge_drawn_is_that_of_an_adaptive_solution(watts: float) -> None:
    """SciPy DOP853 at 1e-10 on the same equations, written down here anew."""
    course = course_of(Context(_steady(watts)))
    curve = np.array(CHEMISTRIES["lfp"].ocv)

    def slope(_: float, charge: Any) -> list[float]:
        open_v = 4 * np.interp(charge[0], curve[:, 0], curve[:, 1])
        # I = 2P / (V + sqrt(V² - 4RP)): constant power behind the bank's resistance (Ohm).
        amps = 2 * watts / (open_v + np.sqrt(open_v**2 - 4 * 0.008 * watts))
        return [-amps / 100.0]

    hours = np.linspace(0.0, 0.98 * course.ends_h, 40)
    solved = solve_ivp(
        slope, (0, hours[-1]), [1.0], method="DOP853", rtol=1e-10, max_step=0.05, t_eval=hours
    )
    drawn = np.interp(hours, course.series.hours, course.series.charge["bank"])
    assert drawn == pytest.approx(solved.y[0], abs=2e-3)
    # The layers: all of it reaches the load, nothing idles, nothing is converted.
    assert set(course.series.watts["lamp"]) == {watts}
    assert max(course.series.lost) < 1e-3 * watts
    assert course.series.given["bank"] == pytest.approx(course.series.watts["lamp"], rel=1e-3)


def test_the_volts_drawn_sag_by_ohm_and_jump_at_the_switching() -> None:
    """600 W from 13.2 V behind 8 mOhm: 45.5 A, 0.36 V (Ohm's law); on from 20 to 21 h only."""
    made = _steady(600.0).model_dump(mode="json")
    made["loads"][0]["when"] = {"kind": "windows", "windows": [{"from_h": 20.0, "to_h": 21.0}]}
    made["stores"][0]["starts_at"] = 0.72
    series = course_of(Context(Design.model_validate(made)), 24.0).series
    at = [i for i, hour in enumerate(series.hours) if hour == pytest.approx(20.0)]
    before, after = series.volts["bank"][at[0]], series.volts["bank"][at[-1]]
    assert before == pytest.approx(13.2, abs=0.05)
    assert before - after == pytest.approx(0.008 * 600 / (before - 0.36), rel=0.02)
    assert series.amps["bank"][at[-1]] == pytest.approx(600 / after, rel=1e-3)
    # 600 Wh at the 12.85 V it sags to, and less as it empties.
    took = series.charge["bank"][0] - series.charge["bank"][-1]
    assert took == pytest.approx(600 / 12.85 / 100.0, rel=0.02)


def test_moments_are_the_sums_one_does_by_hand() -> None:
    """A rail tree by hand: 24 W at 24 V, by a boost of 92 %, 0.3 W own draw, from 13.2 V.

    1 A out; (24 / 0.92 + 0.3) / 13.2 = 2.0 A in. 100 W of mains at 91 % and 12 W idle.
    """
    store = bank(ah=1000.0, starts_at=0.72)
    store["battery"] |= {"resistance_mohm": 0.01}
    made = design(
        load(24, "bar", rail="boost", volts=24.0, hours_per_day=24.0),
        load(100, "amp", ac=True, hours_per_day=24.0),
        load(13.2, "lamp", hours_per_day=24.0),
        stores=store,
        stages=inverter(
            idle_w=12.0,
            part_load={"load_share": 0.1, "efficiency": 100 / 122},
            full_load={"load_share": 1.0, "efficiency": 1000 / 1112},
        ),
        more=[converter(id="boost", topology="boost", set_v=24.0, accepts={"least_v": 9.0,
                        "most_v": 20.0})],
    )  # fmt: skip
    (moment,) = [m for m in moments_of(Context(made)) if m.hours == 0]
    volts = moment.volts["bank"]
    assert volts == pytest.approx(13.2, abs=0.05)
    assert moment.takes["bar"] == pytest.approx(1.0, rel=1e-3)
    assert moment.gives["boost"] == pytest.approx(1.0, rel=1e-3)
    assert moment.amps["boost"] == pytest.approx((24 / 0.92 + 0.3) / volts, rel=1e-3)
    # 12 W idle + 1.1 x 100 W: the label's two points lie on that line.
    assert moment.amps["inverter"] == pytest.approx(122 / volts, rel=2e-3)
    assert moment.takes["amp"] == pytest.approx(100 / 230, rel=1e-3)
    assert moment.takes["lamp"] == pytest.approx(13.2 / volts, rel=1e-3)
    assert moment.amps["bank"] == pytest.approx((24 / 0.92 + 0.3 + 122 + 13.2) / volts, rel=2e-3)


@pytest.mark.all_draws
def test_the_band_is_what_one_draw_after_the_other_gives() -> None:
    """Each draw as a design of its own: the factors applied by hand, run alone."""
    made = design(
        load(40, hours_per_day=24.0, provenance="guess"),
        stores=bank(ah=100.0),
        assumptions={"joint_drop": 0.0, "spread_guess": 0.4, "spread_label": 0.1},
    )
    at_h = np.linspace(0.0, 20.0, 21)
    draws, found = begin_charge_band(lower(Network(made)), at_h)()
    assert draws == DRAWS
    dice = np.random.default_rng(1)
    alone = []
    for _ in range(200):
        on_load, on_capacity = dice.uniform(0.6, 1.4), dice.uniform(0.9, 1.1)
        one = design(load(40 * on_load, hours_per_day=24.0), stores=bank(ah=100.0 * on_capacity))
        hours, charge, *_ = Context(one).analysis.run.points()
        alone.append(np.interp(at_h, hours, charge[:, 0]))
    expected = np.quantile(np.array(alone), (0.1, 0.5, 0.9), axis=0)
    # Two samples of the same spread: alike to a few hundredths.
    assert found[:, 0, :] == pytest.approx(expected, abs=0.05)
    assert (np.diff(found[:, 0, :], axis=1) <= 1e-9).all()

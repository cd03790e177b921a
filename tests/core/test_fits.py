"""What a log tells: the truth lies within the stated spread, and what is not told is said."""

from dataclasses import replace
from typing import Any

import numpy as np
import pytest

from graveljar.core.components.battery import bank_label, chemistry_of
from graveljar.core.components.stage_loss import loss_of
from graveljar.core.context import Context
from graveljar.core.errors import InvalidDocument
from graveljar.core.model import Bank, Design
from graveljar.core.model.patch import Edit, apply
from graveljar.core.readings import against, both_figures, fit_log
from graveljar.core.readings.fit_bank import fit_bank
from graveljar.core.readings.fit_load import fit_load
from graveljar.core.readings.fitted import Fit, FittedFigure, LogData
from tests.building import bank, design, inverter, load, the_bank

MINUTE_S = 60.0


def on_bench(**of_bank: Any) -> Design:
    """A bank and a lamp."""
    return design(load(100.0, "lamp"), stores=bank(**of_bank))


def discharged(
    made: Design, seed: int, *, ah: float, ohm: float, begin: float = 1.0, until: float = 0.02,
    noise: float = 0.01, steady: bool = False, charge_after: float = 0.0, efficiency: float = 1.0,
) -> LogData:  # fmt: skip
    """A logger's minute by minute: Coulombs counted, Ohm's law, noise on volts and on amps.

    Written here anew, step by step, without the engine.
    """
    draw = np.random.default_rng(seed)
    own = made.first
    assert isinstance(own, Bank)
    shares, cell_v = np.array(chemistry_of(own.battery).ocv).T
    cells = bank_label(own).cells
    share, volts, amps = begin, [], []
    level = 15.0
    while share > until:
        if not steady and draw.random() < 0.05:
            level = float(draw.choice([4.0, 10.0, 20.0, 28.0]))
        volts.append(np.interp(share, shares, cell_v) * cells - level * ohm)
        amps.append(level)
        share -= level * MINUTE_S / 3600 / ah
    goal = share + charge_after
    while share < goal:
        volts.append(np.interp(share, shares, cell_v) * cells + 20.0 * ohm)
        amps.append(-20.0)
        share += efficiency * 20.0 * MINUTE_S / 3600 / ah
    v: Any = np.array(volts)
    a: Any = np.array(amps)
    v = v * (1 + noise * draw.standard_normal(len(v)))
    a = a * (1 + noise * draw.standard_normal(len(a)))
    at_s: Any = np.arange(len(v)) * MINUTE_S
    return LogData("test", "2026-11-28", at_s, np.ones(len(v)), v, a, None, None, 25.0)


def figure(fit: Fit, name: str) -> FittedFigure:
    """One figure of a fit."""
    return next(x for x in fit.figures if x.name.startswith(name))


@pytest.mark.parametrize("chemistry", ["lfp", "agm", "nmc"])
def test_the_truth_lies_within_the_spread_in_nine_of_ten_logs(chemistry: str) -> None:
    """A 95 % interval holds the truth in 95 of 100 (definition); 9 in 10 leave room for chance."""
    made = on_bench(chemistry=chemistry, volts={"lfp": 12.8, "agm": 12.0, "nmc": 14.4}[chemistry])
    context = Context(made)
    held = {"Charge": 0, "Resistance": 0}
    widths = []
    for seed in range(60):
        draw = np.random.default_rng(1_000 + seed)
        ah, ohm = float(draw.uniform(85, 110)), float(draw.uniform(0.015, 0.04))
        begin = float(draw.uniform(0.95, 1.0))
        fit = fit_bank(context, "bank", discharged(made, seed, ah=ah, ohm=ohm, begin=begin))
        for name, truth in (("Charge", ah), ("Resistance", ohm * 1000)):
            one = next(x for x in fit.figures if x.name == name)
            held[name] += one.low <= truth <= one.high
        widths.append((fit.figures[0].high - fit.figures[0].low) / ah)
    assert min(held.values()) >= 54, held
    # A spread that holds everything would tell nothing.
    assert np.median(widths) < 0.12


def test_a_fit_goes_into_the_design() -> None:
    made = on_bench()
    log = discharged(made, 7, ah=92.0, ohm=0.03)
    fit = fit_bank(Context(made), "bank", log)
    charge = figure(fit, "Charge")
    assert charge.planned == 100.0
    assert charge.adopt is not None
    after = apply(made, charge.adopt.edits)
    own = the_bank(after).battery
    assert own.ah == pytest.approx(92.0, rel=0.03)
    assert own.provenance == "measured"
    assert both_figures(Context(after))[0].conditions == "25 °C, log test, 2026-11-28"
    assert fit.rows == len(log.at_s)
    assert fit.hours == pytest.approx(log.at_s[-1] / 3600)


@pytest.mark.parametrize(
    ("chemistry", "log", "name", "why"),
    [
        # LFP from 80 to 50 % is flat: its charge shows at neither end. Common practice.
        ("lfp", {"begin": 0.8, "until": 0.5}, "Charge", "do not show both ends"),
        # A tenth of lead-acid: its own curve is not so well known. Common practice.
        ("agm", {"until": 0.9}, "Charge", "do not show both ends"),
        ("lfp", {"steady": True}, "Resistance", "A steady load tells no resistance"),
    ],
)
def test_what_a_log_does_not_tell_is_said(
    chemistry: str, log: dict[str, Any], name: str, why: str
) -> None:
    made = on_bench(chemistry=chemistry)
    one = figure(
        fit_bank(Context(made), "bank", discharged(made, 3, ah=100.0, ohm=0.02, **log)), name
    )
    assert not one.told
    assert why in one.why
    assert one.adopt is None


def test_what_is_charged_and_comes_out_again_tells_the_efficiency() -> None:
    """85 of 100 Ah put into lead-acid come out again; common practice."""
    made = on_bench(chemistry="agm", volts=12.0)
    log = discharged(made, 5, ah=100.0, ohm=0.02, until=0.1, charge_after=0.8, efficiency=0.85)
    taken = figure(fit_bank(Context(made), "bank", log), "Charge taken up")
    assert taken.told
    assert taken.low <= 0.85 <= taken.high
    assert taken.high - taken.low < 0.15
    without = fit_bank(Context(made), "bank", discharged(made, 5, ah=100.0, ohm=0.02))
    assert not [x for x in without.figures if x.name.startswith("Charge taken up")]


def test_a_log_that_cannot_be_used_says_why() -> None:
    made = on_bench()
    log = discharged(made, 1, ah=100.0, ohm=0.02)
    no_amps = fit_bank(Context(made), "bank", replace(log, amps=None))
    assert no_amps.figures == ()
    assert "volts and amps" in no_amps.remarks[0]
    first: Any = {x: getattr(log, x)[:5] for x in ("at_s", "count", "volts", "amps")}
    few = replace(log, **first)
    assert "fewer than 20 rows" in fit_bank(Context(made), "bank", few).remarks[0]
    later = log.at_s + np.where(np.arange(len(log.at_s)) > 100, 7_200.0, 0.0)
    gap = fit_bank(Context(made), "bank", replace(log, at_s=later))
    assert "a gap of 121 min" in gap.remarks[0]
    with pytest.raises(InvalidDocument):
        fit_bank(Context(made), "lamp", log)


def cycling(
    seed: int, *, watts: float = 60.0, duty: float = 0.4, off_w: float = 2.0,
    cycle_s: float = 1_800.0, every_s: float = 30.0, hours: float = 24.0,
    noise: float = 0.01,
) -> LogData:  # fmt: skip
    """A fridge at a plug meter: on and off, each cycle a little longer or shorter."""
    draw = np.random.default_rng(seed)
    edges, on = [0.0], []
    while edges[-1] < hours * 3600:
        length = cycle_s * draw.uniform(0.9, 1.1)
        edges += [edges[-1] + duty * length, edges[-1] + length]
        on += [True, False]
    at_s: Any = np.arange(0, hours * 3600, every_s)
    running = np.array(on)[np.searchsorted(edges, at_s, side="right") - 1]
    w: Any = np.where(running, watts, off_w) * (1 + noise * draw.standard_normal(len(at_s)))
    return LogData("night", "", at_s, np.ones(len(w)), None, None, w, w, 25.0)


def test_a_fridge_over_a_day_tells_its_watts_duty_and_mean() -> None:
    """60 W for 40 % of the time and 2 W else are 25.2 W (hand); in 90 of 100 logs and more."""
    made = design(load(80.0, "fridge", duty=0.5, hours_per_day=24.0))
    truth = {"Running": 60.0, "Standing by": 2.0, "Share of the time": 0.4, "On average": 25.2}
    held = dict.fromkeys(truth, 0)
    for seed in range(60):
        fit = fit_load(Context(made), "fridge", cycling(seed))
        for name, value in truth.items():
            one = figure(fit, name)
            assert one.told
            held[name] += one.low <= value <= one.high
    assert min(held.values()) >= 54, held
    fit = fit_load(Context(made), "fridge", cycling(1))
    after = made
    for name in ("Running", "Standing by", "Share of the time"):
        adopt = figure(fit, name).adopt
        assert adopt is not None
        after = apply(after, adopt.edits)
    fridge: Any = after.loads[0]
    assert fridge.demand.watts == pytest.approx(60.0, rel=0.01)
    assert (fridge.duty, fridge.hours_per_day) == (pytest.approx(0.4, abs=0.02), 24.0)
    assert "over in 0.2 s" in figure(fit, "Starting").why


def test_a_log_in_step_with_its_load_is_noticed() -> None:
    """A row every ten minutes of a load that is on for eight of twenty: whole cycles are missed."""
    made = design(load(80.0, "fridge"))
    fit = fit_load(Context(made), "fridge", cycling(1, every_s=600.0, cycle_s=1_200.0))
    assert any("in step" in remark for remark in fit.remarks)
    assert not figure(fit, "Share of the time").told
    short = fit_load(Context(made), "fridge", cycling(1, hours=1.0))
    assert "3 and more" in figure(short, "Share of the time").why


def test_a_steady_load_has_no_duty_and_a_fast_log_shows_its_start() -> None:
    made = design(load(80.0, "pump"))
    log = cycling(1, duty=1.0, every_s=0.05, hours=0.05)
    assert log.watts is not None
    log.watts[3] = 300.0
    fit = fit_load(Context(made), "pump", log)
    assert [x.name for x in fit.figures] == ["Running", "On average", "Starting"]
    start = figure(fit, "Starting")
    assert (start.told, start.value) == (True, 300.0)
    volts_amps = replace(log, watts=None, volts=np.full(len(log.at_s), 12.0),
                         amps=np.full(len(log.at_s), 5.0))  # fmt: skip
    running = figure(fit_load(Context(made), "pump", volts_amps), "Running")
    assert running.value == pytest.approx(60.0)
    assert fit_load(Context(made), "pump", replace(log, watts=None)).figures == ()


def lasting(amps: float, hours: float, *, empty: bool = True) -> LogData:
    """A steady log of so many amps and hours, down to an empty battery or not."""
    at_s: Any = np.linspace(0.0, hours * 3600, 500)
    volts: Any = np.linspace(13.3, 10.2 if empty else 13.0, 500)
    return LogData("run", "", at_s, np.ones(500), volts, np.full(500, amps), None, None, 25.0)


@pytest.mark.parametrize(
    ("log", "by", "words"),
    [
        # The plan: 100 Ah at 5 A, 20 h. Hours are charge over current (definition).
        (lasting(5.0, 20.0), "agrees", "They agree"),
        (lasting(6.25, 16.0), "load", "6.25 A on average, 25 % more than the 5 A"),
        (lasting(5.0, 17.0), "capacity", "gave 85 Ah, 15 % less than the 100 Ah"),
        (lasting(4.0, 25.0), "load", "4 A on average, 20 % less"),
        (lasting(5.0, 12.0, empty=False), "still running", "was not empty"),
        (replace(lasting(5.0, 16.0), amps=None), "unknown", "Amps in the log would tell"),
    ],
)
def test_what_explains_the_difference_between_plan_and_log(
    log: LogData, by: str, words: str
) -> None:
    radio = load(60.0, "radio", hours_per_day=24.0, draw="constant current")
    made = design(radio, stores=bank(reserve=0.0, resistance_mohm=0.001))
    found = against(Context(made), "bank", log)
    assert found.by == by, found
    assert found.said_h == pytest.approx(20.0, rel=0.01)
    assert words in found.explained
    assert ("shorter" in found.says) is (by not in ("agrees", "still running") and found.was_h < 20)


def test_a_slow_discharge_tells_a_curve_of_its_own() -> None:
    """A battery whose cells stand 50 mV above their kind at half charge; noise of 0.2 %.

    The log is made by Ohm's law and by counting Coulombs, from the curve itself.
    """
    made = on_bench(chemistry="agm", volts=12.0)
    shares, cell_v = np.array(chemistry_of(the_bank(made).battery).ocv).T
    raised = cell_v + 0.05 * np.sin(np.pi * shares)
    draw = np.random.default_rng(4)
    share: Any = np.linspace(1.0, 0.0, 1_200)
    volts = np.interp(share, shares, raised) * 6 - 5.0 * 0.02
    volts *= 1 + 0.002 * draw.standard_normal(len(share))
    at_s: Any = (1.0 - share) * 100.0 / 5.0 * 3600
    log = LogData(
        "slow", "2026-11-28", at_s, np.ones(len(at_s)), volts, np.full(len(at_s), 5.0), None,
        None, 25.0,
    )  # fmt: skip
    # Its resistance cannot be told from one steady current: that of the label puts the sag right.
    context = Context(apply(made, [Edit("replace", "/stores/0/battery/resistance_mohm", 20.0)]))
    curve = figure(fit_bank(context, "bank", log), "Own curve")
    assert curve.told
    assert curve.low <= 6 * 0.05 <= curve.high
    assert curve.adopt is not None
    after = apply(context.network.design, curve.adopt.edits)
    own = the_bank(after).battery.curve
    assert own is not None
    for point in own:
        assert point.volts == pytest.approx(np.interp(point.charge, shares, raised) * 6, rel=0.004)
    # Measured, it counts: rested at half charge it stands higher by 6 x 50 mV.
    before_v, now_v = (
        np.interp(0.5, *np.array(chemistry_of(the_bank(x).battery).ocv).T) * 6
        for x in (made, after)
    )
    assert now_v - before_v == pytest.approx(0.3, abs=0.03)


@pytest.mark.parametrize(
    ("log", "why"),
    [
        ({"begin": 0.8}, "does not begin full"),
        ({"until": 0.3}, "does not end empty"),
        ({"charge_after": 0.5}, "does not end empty"),
        ({"steady": True, "noise": 0.001}, "the curve of its kind"),
    ],
)
def test_a_curve_needs_a_whole_discharge_and_a_difference(log: dict[str, Any], why: str) -> None:
    made = on_bench(chemistry="agm", volts=12.0)
    ohm = bank_label(the_bank(made)).resistance_ohm
    one = figure(
        fit_bank(Context(made), "bank", discharged(made, 3, ah=100.0, ohm=ohm, **log)), "Own curve"
    )
    assert not one.told
    assert why in one.why
    assert one.adopt is None


def test_volts_and_amps_in_and_watts_out_tell_what_a_stage_loses() -> None:
    """The form of King et al., SAND2007-5036: 9 W idle, 8 % of the watts, 60 W at full load."""
    made = design(
        load(100.0, "lamp", ac=True), stores=bank(parallel=2),
        stages=inverter(continuous_w=1_000.0, idle_w=15.0),
    )  # fmt: skip
    draw = np.random.default_rng(2)
    out_w: Any = draw.choice([0.0, 60.0, 250.0, 500.0, 800.0], 400)
    in_w = 9.0 + 1.08 * out_w + 60.0 * (out_w / 1_000.0) ** 2
    n = len(out_w)
    volts = 12.8 * (1 + 0.002 * draw.standard_normal(n))
    at_s: Any = np.arange(n) * 10.0
    log = LogData(
        "night", "2026-11-28", at_s, np.ones(n), volts, in_w / volts,
        out_w * (1 + 0.003 * draw.standard_normal(n)), None, 20.0,
    )  # fmt: skip
    context = Context(made)
    fit = fit_log(context, "inverter", log)
    idle, full, half = fit.figures
    assert idle.planned == 15.0
    for one, truth in (
        (idle, 9.0),
        (full, 800 / (9 + 864 + 38.4)),
        (half, 400 / (9 + 432 + 9.6)),
    ):
        assert one.told
        assert one.low <= truth <= one.high
    after = made
    for one in (idle, full):
        assert one.adopt is not None
        after = apply(after, one.adopt.edits)
    stage = Context(after).network.inverters[0]
    assert stage.idle_w == pytest.approx(9.0, abs=0.5)
    # Between the loads that were logged the adopted label draws what was logged.
    assert loss_of(stage).dc_w(600.0) == pytest.approx(9 + 648 + 21.6, rel=0.01)


def test_what_a_stage_cannot_be_fitted_to_is_said() -> None:
    made = design(load(100.0, ac=True), stages=inverter())
    made_log = discharged(on_bench(), 1, ah=100.0, ohm=0.02)
    watts: Any = made_log.volts * made_log.amps  # type: ignore[operator]
    context = Context(made)
    for log, words in (
        (made_log, "not all three"),
        (replace(made_log, watts=2 * watts), "More comes out than goes in"),
    ):
        (remark,) = fit_log(context, "inverter", log).remarks
        assert words in remark
    steady = replace(made_log, amps=np.full(len(watts), 2.0), watts=np.full(len(watts), 20.0))
    idle, *rest = fit_log(context, "inverter", steady).figures
    assert (idle.told, *(x.told for x in rest)) == (True, False, False)

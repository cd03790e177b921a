"""The check values of the trade. Common practice unless a source is named."""

import pytest

from graveljar.core.components.battery import bank_label, peukert_capacity
from graveljar.core.components.stage_loss import calibrate
from graveljar.core.errors import OutOfRange
from graveljar.core.evaluate import evaluate
from graveljar.core.model import Bank, Inverter
from graveljar.core.model.patch import apply
from graveljar.core.tables.chemistry import CHEMISTRIES, ChemistryKey
from graveljar.core.tables.ocv import LEAD_ACID
from tests.building import bank, design, evaluated, figure, inverter, load, the_need


@pytest.mark.parametrize(
    ("series", "parallel", "volts", "ah"),
    [
        pytest.param(1, 2, 12.8, 200, id="two in parallel: 200 Ah at 12.8 V"),
        pytest.param(2, 1, 25.6, 100, id="two in series: 100 Ah at 25.6 V"),
    ],
)
def test_series_adds_volts_and_parallel_adds_charge(
    series: int, parallel: int, volts: float, ah: float
) -> None:
    rest = bank_label(Bank.model_validate(bank(series=series, parallel=parallel)))
    assert (rest.nominal_v, rest.ah, rest.wh) == (volts, ah, 2560)


@pytest.mark.parametrize(
    ("watts", "volts", "ac", "amps"),
    [
        pytest.param(100, 12.8, False, 7.81, id="100 W at 12.8 V"),
        pytest.param(100, 25.6, False, 3.91, id="100 W at 25.6 V"),
        pytest.param(1200, 12.6, False, 95.2, id="1 200 W at 12.6 V"),
        pytest.param(1200, 120, True, 10.0, id="1 200 W at 120 V"),
        pytest.param(13_000, 51.2, False, 254, id="13 kW at 51.2 V"),
        pytest.param(13_000, 25.6, False, 508, id="13 kW at 25.6 V"),
    ],
)
def test_amps_are_watts_over_volts(watts: float, volts: float, ac: bool, amps: float) -> None:
    evaluation = evaluated(
        load(watts, volts=volts, ac=ac), stages=inverter(output_v=volts if ac else 230.0)
    )
    assert figure(evaluation, "load.lamp.amps") == pytest.approx(amps, rel=2e-3)


def test_100_amps_at_51_2_volts_are_5120_watts() -> None:
    heater = load(volts=51.2, demand={"kind": "amps", "amps": 100.0})
    evaluation = evaluated(heater, stores=bank(series=4, parallel=2))
    assert figure(evaluation, "load.lamp.watts") == pytest.approx(5120)


def test_a_1500_w_inverter_at_12_v_pulls_125_amps_quick_and_160_by_design() -> None:
    # 125 A quick; about 160 A at 10.5 V and 89 %.
    stage = inverter(
        continuous_w=1500.0,
        surge_w=3000.0,
        accepts={"least_v": 10.5, "most_v": 15.0},
        full_load={"load_share": 1.0, "efficiency": 0.89},
        part_load={"load_share": 0.3, "efficiency": 0.91},
    )
    evaluation = evaluated(stages=stage)
    assert figure(evaluation, "stage.inverter.full_quick_a") == pytest.approx(125)
    assert figure(evaluation, "stage.inverter.full_design_a") == pytest.approx(160, rel=5e-3)


@pytest.mark.parametrize(("batteries", "enough"), [(1, False), (2, True)])
def test_one_100_a_battery_cannot_carry_1500_w_and_two_can(batteries: int, enough: bool) -> None:
    stage = inverter(continuous_w=1500.0, surge_w=3000.0)
    evaluation = evaluated(
        load(1500, ac=True), stages=stage, stores=bank(parallel=batteries, bms_a=100.0)
    )
    found = {f.code for f in evaluation.findings}
    assert ("bank.current_above_limit" not in found) is enough


def test_a_220_to_240_v_1_a_nameplate_is_240_w_and_starts_at_1440() -> None:
    fridge = load(
        name="fridge",
        ac=True,
        volts=240.0,
        demand={"kind": "amps", "amps": 1.0},
        nature="compressor",
        start={"method": "factor"},
    )
    evaluation = evaluated(fridge, stages=inverter())
    assert figure(evaluation, "load.fridge.watts") == pytest.approx(240)
    assert figure(evaluation, "load.fridge.start") == pytest.approx(1440)


@pytest.mark.parametrize(
    ("idle_w", "amps"),
    [
        pytest.param(20.4, 1.7, id="cheap: 1.7 A at 12 V is 20.4 W"),
        pytest.param(10.8, 0.9, id="good: 0.9 A at 12 V is 10.8 W"),
    ],
)
def test_idle_draw_in_amps_and_over_a_day(idle_w: float, amps: float) -> None:
    evaluation = evaluated(stages=inverter(idle_w=idle_w))
    assert figure(evaluation, "stage.inverter.idle_a") == pytest.approx(amps)
    assert figure(evaluation, "stage.inverter.idle_wh") == pytest.approx(idle_w * 24)


@pytest.mark.parametrize(("batteries", "amps"), [(3, 60), (6, 120), (12, 240)])
def test_kind_current_is_a_fifth_of_the_charge(batteries: int, amps: float) -> None:
    evaluation = evaluated(stores=bank(parallel=batteries))
    assert figure(evaluation, "store.bank.gentle_a") == pytest.approx(amps)


def test_a_pack_of_small_cells_adds_up() -> None:
    # 16P7S of 2.375 Ah cells: 38 Ah, 25.9 V nominal, 984 Wh.
    rest = bank_label(Bank.model_validate(bank("nmc", 3.7, 2.375, series=7, parallel=16)))
    assert (rest.cells, rest.ah) == (7, 38)
    assert rest.nominal_v == pytest.approx(25.9)
    assert rest.wh == pytest.approx(984, rel=1e-3)


@pytest.mark.parametrize(
    ("chemistry", "volts", "cells", "full_v"),
    [
        pytest.param("lfp", 12.8, 4, 14.6, id="4S LFP"),
        pytest.param("nmc", 18, 5, 21.0, id="18 V tool pack, 5S"),
        pytest.param("nmc", 36, 10, 42.0, id="36 V tool pack, 10S"),
        pytest.param("nmc", 47.5, 13, 54.6, id="13S"),
        pytest.param("nmc", 51.8, 14, 58.8, id="14S"),
        pytest.param("nmc", 25.9, 7, 29.4, id="7S"),
        pytest.param("agm", 12, 6, 14.7, id="12 V lead-acid"),
    ],
)
def test_full_charge_volts_follow_from_the_cells(
    chemistry: str, volts: float, cells: int, full_v: float
) -> None:
    rest = bank_label(Bank.model_validate(bank(chemistry, volts)))
    assert rest.cells == cells
    assert rest.full_v == pytest.approx(full_v)


@pytest.mark.parametrize(
    ("amps", "exponent", "ah"),
    [
        pytest.param(10, 1.2, 87.1, id="worked: 20 (100 / 200)^1.2 x 10 (Peukert 1897)"),
        pytest.param(5, 1.2, 100.0, id="limit: at the rated current the label holds"),
        pytest.param(50, 1.0, 100.0, id="limit: exponent 1 takes nothing away"),
    ],
)
def test_peukert_capacity(amps: float, exponent: float, ah: float) -> None:
    assert peukert_capacity(100, 20, amps, exponent) == pytest.approx(ah, abs=0.05)


@pytest.mark.parametrize(
    "arguments", [(0, 20, 10, 1.2), (100, 0, 10, 1.2), (100, 20, 0, 1.2), (100, 20, 10, 1.6)]
)
def test_peukert_refuses_what_it_does_not_hold_for(
    arguments: tuple[float, float, float, float],
) -> None:
    with pytest.raises(OutOfRange):
        peukert_capacity(*arguments)


def test_inverter_loss_meets_its_two_label_points_and_its_idle() -> None:
    # By definition of the model: P_dc = p0 + k1 P + k2 P^2 through the three points.
    stage = Inverter(continuous_w=1230.0, idle_w=14.0)
    loss = calibrate(stage)
    assert loss.agreed
    assert loss.dc_w(0) == 14.0
    for point in (stage.part_load, stage.full_load):
        given_w = point.load_share * stage.continuous_w
        assert given_w / loss.dc_w(given_w) == pytest.approx(point.efficiency)


def test_simple_runtime_by_hand() -> None:
    # 1 280 Wh x 0.9 usable = 1 152 Wh; 48 W all day: 24 h.
    evaluation = evaluated(load(48, hours_per_day=24.0))
    assert figure(evaluation, "run.quick_hours") == pytest.approx(24)
    # 1 152 Wh at 12.8 V are 90 Ah.
    assert figure(evaluation, "day.ah") == pytest.approx(90)
    assert figure(evaluation, "load.lamp.ah") == pytest.approx(90)
    # Stepped through: a little longer, for LFP rests above its nominal 3.2 V.
    assert evaluation.verdict.hours == pytest.approx(24, rel=0.03)
    assert evaluation.verdict.cause == "reserve"


@pytest.mark.parametrize(
    ("days", "strings", "amps"), [(2.6, 3, 60), (5.3, 6, 120), (11.4, 12, 240)]
)
def test_the_sums_of_the_whiteboard(days: float, strings: int, amps: float) -> None:
    """Common practice: 0.2C on 3, 6 and 12 batteries of 100 Ah are 60, 120 and 240 A.

    48 W all day without margins: 1 152 Wh a day, 96 Ah at 12 V, one battery; beyond so many whole
    batteries one more. Its cables are those of the Cables view once the button was pressed.
    """
    goal = {"hours": 24 * days, "ageing_margin": 0.0, "guess_margin": 0.0}
    made = design(load(48, hours_per_day=24.0), goal=goal, setting={"horizon_h": 720.0})
    evaluation = evaluate(made)
    assert figure(evaluation, "needed.ah_12") == pytest.approx(96 * days, rel=0.03)
    assert figure(evaluation, "needed.ah_48") == pytest.approx(24 * days, rel=0.03)
    needed = the_need(evaluation)
    assert needed.present.parallel == strings
    assert figure(evaluation, "needed.1s.charger_a") == pytest.approx(amps)
    after = evaluate(apply(made, needed.present.edits), quick=True).cables.rows
    for one in needed.cables:
        (row,) = [x for x in after if x.name == one.name]
        size = row.chosen or row.proposed
        assert size is not None
        assert one.cable == size.name
    assert bool(needed.cables) is bool(needed.present.edits)


def test_lead_acid_at_its_20_hour_rate_by_hand() -> None:
    # 100 Ah, 12 V, half usable, 5 A (60 W) all day: the rated current, so 50 Ah in 10 h.
    evaluation = evaluated(load(60, hours_per_day=24.0), stores=bank("agm", 12.0))
    assert figure(evaluation, "run.quick_hours") == pytest.approx(10)
    # Stepped through: the upper half of its charge lies above its nominal 2 V a cell.
    assert evaluation.verdict.hours == pytest.approx(10, rel=0.07)


@pytest.mark.parametrize(
    ("chemistry", "ambient_c", "share"),
    [
        pytest.param("lfp", 25, 1.0, id="LFP 25 °C"),
        pytest.param("lfp", 10, 0.95, id="LFP 10 °C"),
        pytest.param("lfp", 0, 0.88, id="LFP 0 °C"),
        pytest.param("lfp", -10, 0.75, id="LFP -10 °C"),
        pytest.param("agm", 25, 1.0, id="lead 25 °C (IEEE 485, memory)"),
        pytest.param("agm", 15.6, 1 / 1.11, id="lead 15.6 °C: 1.11 (IEEE 485, memory)"),
        pytest.param("agm", 10, 1 / 1.19, id="lead 10 °C: 1.19 (IEEE 485, memory)"),
        pytest.param("agm", 0, 1 / 1.39, id="lead 0 °C: 1.35 to 1.43 (IEEE 485, memory)"),
    ],
)
def test_cold_takes_capacity_away(chemistry: str, ambient_c: float, share: float) -> None:
    evaluation = evaluated(stores=bank(chemistry, 12.0), ambient_c=float(ambient_c))
    assert figure(evaluation, "store.bank.temperature_factor") == pytest.approx(share, rel=1e-6)


@pytest.mark.parametrize(
    ("chemistry", "volts", "fit"),
    [
        pytest.param("lfp", 12.8, "fits", id="4S LFP, 10 to 14.6 V"),
        pytest.param("nmc", 14.8, "above its maximum", id="4S Li-ion, to 16.8 V"),
        pytest.param("nmc", 11.1, "fits", id="3S Li-ion, 12.6 V full"),
        pytest.param("nmc", 7.4, "never reaches its minimum", id="2S Li-ion, 8.4 V full"),
    ],
)
def test_what_fits_a_12_volt_window_of_10_to_15_volts(
    chemistry: str, volts: float, fit: str
) -> None:
    stage = inverter(accepts={"least_v": 10.0, "most_v": 15.0})
    evaluation = evaluated(stages=stage, stores=bank(chemistry, volts))
    assert evaluation.joints[0].fit == fit


@pytest.mark.parametrize(
    ("chemistry", "empty_v", "half_v", "full_v"),
    # Rested volts of common charts, from memory.
    [("flooded", 11.7, 12.2, 12.7), ("agm", 11.8, 12.35, 12.9)],
)
def test_rested_volts_of_lead_acid_by_kind(
    chemistry: ChemistryKey, empty_v: float, half_v: float, full_v: float
) -> None:
    curve = dict(CHEMISTRIES[chemistry].ocv)
    found = [6 * curve[share] for share in (0.0, 0.5, 1.0)]
    assert found == pytest.approx([empty_v, half_v, full_v])
    assert sorted(curve.values()) == list(curve.values())


def test_open_circuit_volts_of_six_lead_cells() -> None:
    # Sulzer et al. 2019 at C/50: six cells 11.78 V empty to 12.99 V full.
    assert 6 * LEAD_ACID[0][1] == pytest.approx(11.78, abs=0.005)
    assert 6 * LEAD_ACID[-1][1] == pytest.approx(12.99, abs=0.005)


def test_energy_of_a_day_counts_duty_and_standby() -> None:
    # 60 W x 8 h x 50 % + 2 W x (12 - 4) h = 256 Wh, by definition.
    evaluation = evaluated(load(60, hours_per_day=8.0, duty=0.5, standby_w=2.0, plugged_in_h=12.0))
    assert figure(evaluation, "load.lamp.day") == pytest.approx(256)
    assert figure(evaluation, "load.lamp.at_bank") == pytest.approx(256)


def test_worst_start_is_the_largest_single_one_on_top_of_all_that_runs() -> None:
    # 1 000 W start of a 150 W grinder (x6.5, measured) while a 500 W heater runs: 1 500 W;
    # the pump's own start, 500 + 150 + 3 x 100, is less.
    evaluation = evaluated(
        load(150, "grinder", ac=True, start={"method": "measured", "watts": 1000.0}),
        load(500, "heater", ac=True),
        load(100, "pump", ac=True, start={"method": "factor", "factor": 3.0}),
        stages=inverter(),
    )
    assert figure(evaluation, "stage.inverter.worst_start_w") == pytest.approx(1000 + 500 + 100)
    assert evaluation.figures["stage.inverter.worst_start_w"].name.endswith("grinder")


def test_an_inverter_must_carry_the_volt_amperes() -> None:
    # VA = W / power factor, by definition: 600 W at 0.6 is 1 000 VA.
    evaluation = evaluated(load(600, ac=True, power_factor=0.6), stages=inverter())
    assert figure(evaluation, "stage.inverter.running_va") == pytest.approx(1000)
    assert figure(evaluation, "stage.inverter.share") == pytest.approx(1.0)


@pytest.mark.parametrize(
    ("surge", "trusted"),
    [
        pytest.param({"surge_w": 5000.0}, 2000, id="fantasy: twice the continuous"),
        pytest.param({"surge_w": 1500.0}, 1500, id="printed less: believed"),
        pytest.param({"surge_w": 2800.0, "surge_s": 5.0}, 2800, id="seconds stated: believed"),
        pytest.param({"surge_w": 9000.0, "surge_s": 5.0}, 3000, id="never above three times"),
    ],
)
def test_trusted_surge(surge: dict[str, float], trusted: float) -> None:
    evaluation = evaluated(stages=inverter(continuous_w=1000.0, **surge))
    assert figure(evaluation, "stage.inverter.trusted_surge_w") == pytest.approx(trusted)


def test_130_w_for_10_h_of_a_fifth_of_20_kwh_is_a_third() -> None:
    # 130 W x 10 h = 1.3 kWh of the 4 kWh that 20 % of 20 kWh are: 32.5 %.
    stores = bank("lfp", 51.2, 390.625, reserve=0.8, bms_a=200.0)
    evaluation = evaluated(load(130, volts=48.0, hours_per_day=10.0), stores=stores)
    share = figure(evaluation, "day.wh") / figure(evaluation, "store.bank.usable")
    assert share == pytest.approx(0.325)

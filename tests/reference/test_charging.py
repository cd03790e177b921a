"""Charging at constant current, then constant volts: another simulator, closed forms, the trade."""

import math
from typing import Any

import numpy as np
import pybamm
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from graveljar.core.components.battery import bank_label
from graveljar.core.components.charging import Charger, Filling, fill, usual_charger
from graveljar.core.errors import OutOfRange
from graveljar.core.model import Bank, Battery
from graveljar.core.tables.charging import CHARGING
from graveljar.core.tables.chemistry import CHEMISTRIES, ChemistryKey

VOLTS: dict[ChemistryKey, float] = {"lfp": 12.8, "nmc": 25.2, "agm": 12.0, "flooded": 12.0}


def _bank(chemistry: ChemistryKey, ah: float = 100.0, **rest: Any) -> Bank:
    return Bank(battery=Battery(chemistry=chemistry, volts=VOLTS[chemistry], ah=ah), **rest)


@pytest.mark.parametrize(
    ("chemistry", "amps", "begin"),
    [("lfp", 20.0, 0.1), ("lfp", 50.0, 0.5), ("nmc", 30.0, 0.1), ("nmc", 80.0, 0.6)],
)
def test_a_simulator_of_batteries_agrees(
    chemistry: ChemistryKey, amps: float, begin: float
) -> None:
    """PyBaMM, an equivalent circuit of one resistance, at constant current and constant volts."""
    bank = _bank(chemistry)
    kind, rest, charger = CHARGING[chemistry], bank_label(bank), usual_charger(bank, amps)
    shares, volts = (np.array(x) for x in zip(*kind.curve, strict=True))
    model = pybamm.equivalent_circuit.Thevenin(options={"number of rc elements": 0})
    values = model.default_parameter_values
    values.update(
        {
            "Open-circuit voltage [V]": lambda charge: pybamm.Interpolant(
                shares, volts * rest.cells, charge, interpolator="linear"
            ),
            "R0 [Ohm]": rest.resistance_ohm,
            # It knows no loss of Ah: as many more have to be put in.
            "Cell capacity [A.h]": rest.ah / kind.ah_efficiency,
            "Initial SoC": begin,
            "Lower voltage cut-off [V]": 1.0,
            "Upper voltage cut-off [V]": 100.0,
            "Entropic change [V/K]": 0.0,
        },
        check_already_exists=False,
    )
    steps = pybamm.Experiment(
        [(f"Charge at {amps} A until {charger.hold_v} V",
          f"Hold at {charger.hold_v} V until {charger.tail_a} A")],
        period="10 seconds",
    )  # fmt: skip
    solver = pybamm.IDAKLUSolver(rtol=1e-8, atol=1e-8)
    simulated = pybamm.Simulation(
        model, parameter_values=values, experiment=steps, solver=solver
    ).solve()
    found = fill(bank, charger, begin)
    bulk, hold = simulated.cycles[0].steps
    assert found.ends == "tail"
    assert found.bulk_h == pytest.approx(bulk["Time [h]"].entries[-1], rel=1e-3)
    assert found.total_h == pytest.approx(hold["Time [h]"].entries[-1], rel=1e-3)
    assert found.charge[-1] == pytest.approx(hold["SoC"].entries[-1], abs=1e-4)


@pytest.mark.parametrize("chemistry", sorted(CHEMISTRIES))
def test_constant_current_is_ah_over_amps(chemistry: ChemistryKey) -> None:
    """From 10 to 60 %: half the Ah, and what is lost of them, over the amps."""
    found = fill(_bank(chemistry), usual_charger(_bank(chemistry), 10.0), 0.1)
    hours = np.interp(0.6, found.charge, found.hours)
    assert hours == pytest.approx(50 / 10 / CHARGING[chemistry].ah_efficiency, rel=1e-9)


@pytest.mark.parametrize("amps", [10.0, 20.0, 30.0])
def test_lead_acid_accepts_no_more_amps_than_ah_are_missing(amps: float) -> None:
    """The ampere-hour law (from memory), solved: what is missing falls as an exponential."""
    bank = _bank("agm")
    found = fill(bank, usual_charger(bank, amps), 0.5)
    stays = CHARGING["agm"].ah_efficiency
    assert found.bulk_h == pytest.approx((50 - amps) / amps / stays, rel=1e-3)
    assert found.hold_h == pytest.approx(math.log(amps / 1.0) / stays, rel=1e-3)


@pytest.mark.parametrize(
    ("ah", "amps", "hours"),
    # 30 A into 100 Ah: 3 h 20 min plus taper; 10, 20 and 60 A into 200 Ah. Common practice.
    [(100, 30, 10 / 3), (200, 10, 20.0), (200, 20, 10.0), (200, 60, 10 / 3)],
)
def test_hours_of_the_trade(ah: float, amps: float, hours: float) -> None:
    bank = _bank("lfp", ah)
    assert fill(bank, usual_charger(bank, amps), 0.0).total_h == pytest.approx(hours, rel=0.02)


@pytest.mark.parametrize("rate", [0.2, 0.3, 0.5])
def test_charge_volts_of_lfp_are_met_near_97_percent(rate: float) -> None:
    """Common practice."""
    bank = _bank("lfp")
    found = fill(bank, usual_charger(bank, 100 * rate), 0.2)
    assert np.interp(found.bulk_h, found.hours, found.charge) == pytest.approx(0.97, abs=0.011)


@pytest.mark.parametrize("rate", [0.1, 0.2, 0.3])
def test_the_last_fifth_of_lead_acid_takes_hours(rate: float) -> None:
    """2 to 6 h. Common practice."""
    bank = _bank("flooded")
    assert 2.0 < fill(bank, usual_charger(bank, 100 * rate), 0.8).total_h < 6.0


def test_a_car_socket_takes_over_ten_hours() -> None:
    """120 W at some 13.5 V into 100 Ah. Common practice."""
    bank = _bank("lfp")
    assert fill(bank, usual_charger(bank, 120 / 13.5), 0.0).total_h > 10.0


@settings(max_examples=60, deadline=None)
@given(
    st.sampled_from(sorted(CHEMISTRIES)), st.floats(0.01, 1.0), st.floats(0.0, 0.97),
    st.floats(0.97, 1.03), st.integers(1, 6), st.floats(0.0, 30.0),
)  # fmt: skip
def test_any_course_keeps_its_limits_and_its_energy(
    chemistry: ChemistryKey, rate: float, begin: float, volts: float, parallel: int, ambient: float
) -> None:
    bank = _bank(chemistry, parallel=parallel)
    usual = usual_charger(bank, rate * 100 * parallel)
    charger = Charger(usual.amps, usual.hold_v * volts, usual.tail_a)
    found = fill(bank, charger, begin, ambient)
    if found.ends == "no charge":
        return
    assert (np.diff(found.hours) >= 0).all()
    assert (found.amps <= charger.amps * (1 + 1e-9)).all()
    assert (found.volts <= charger.hold_v * (1 + 1e-9)).all()
    stretches = np.diff(found.hours) * (found.amps[1:] + found.amps[:-1]) / 2
    assert found.in_ah == pytest.approx(stretches.sum(), rel=5e-3)
    gained_ah = (found.charge[-1] - begin) * 100 * parallel
    assert found.in_ah * CHARGING[chemistry].ah_efficiency == pytest.approx(gained_ah)
    # More goes in than is held; the rest is heat.
    assert found.in_wh > found.stored_wh > 0


@pytest.mark.parametrize(
    ("volts", "ambient", "ends"),
    # Half full it stands at 13.1 V; 14.8 V press on when it is full.
    [(13.0, 25.0, "no charge"), (14.8, 25.0, "full"), (14.4, -5.0, "frost"), (14.4, 0.0, "tail")],
)
def test_how_it_ends(volts: float, ambient: float, ends: str) -> None:
    found = fill(_bank("lfp"), Charger(20.0, volts, 5.0), 0.5, ambient)
    assert found.ends == ends
    assert (found.total_h > 0) is (ends in ("tail", "full"))


@pytest.mark.parametrize(
    ("charger", "begin"),
    [(Charger(20, 14.4, 5), 1.0), (Charger(20, 14.4, 5), -0.1), (Charger(0, 14.4, 5), 0.5)],
)
def test_out_of_range_is_refused(charger: Charger, begin: float) -> None:
    with pytest.raises(OutOfRange):
        fill(_bank("lfp"), charger, begin)


def test_a_charger_already_at_its_volts_only_tapers() -> None:
    """60 A into 38 Ah of Li-ion from 90 %: the volts are met at once."""
    bank = _bank("nmc", 38.0)
    found: Filling = fill(bank, usual_charger(bank, 60.0), 0.9)
    assert found.bulk_h == 0.0
    assert found.amps[0] < 60.0

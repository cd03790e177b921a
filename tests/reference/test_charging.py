"""Charging at constant current, then constant volts: another simulator, closed forms, the trade."""

from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from graveljar.core.analysis.charging_time import Charging
from graveljar.core.components.battery import bank_label
from graveljar.core.context import Context
from graveljar.core.model import Bank
from graveljar.core.tables.charging import CHARGING
from graveljar.core.tables.chemistry import CHEMISTRIES, ChemistryKey
from tests.building import bank as bank_of
from tests.building import design, load, the_bank
from tests.reference.plain_charging import Filling, fill, usual

VOLTS: dict[ChemistryKey, float] = {"lfp": 12.8, "nmc": 25.2, "agm": 12.0, "flooded": 12.0}


def charged(
    chemistry: ChemistryKey, amps: float, begin: float, ah: float = 100.0, **rest: Any
) -> tuple[Charging, Bank]:
    """A bank charged from the mains by so many amps; the simulated run."""
    charger = {
        "kind": "mains charger", "amps": amps, "accepts": {"least_v": 90.0, "most_v": 265.0},
        "hold_v": rest.pop("hold_v", None),
    }  # fmt: skip
    made = design(
        stores=[
            bank_of(chemistry, VOLTS[chemistry], ah, starts_at=begin) | {"reserve": 0.0},
            {"kind": "mains", "socket_a": 200.0},
        ],
        links=[{"id": "cord", "rail": "mains", "to": "bank", "charger": charger}],
        **rest,
    )
    found = Context(made).analysis.charging["cord"]
    assert found is not None
    return found, the_bank(made)


@pytest.mark.parametrize("ambient", [25.0, 5.0])
@pytest.mark.parametrize("begin", [0.05, 0.6, 0.9])
@pytest.mark.parametrize("rate", [0.05, 0.2, 0.5])
@pytest.mark.parametrize("chemistry", sorted(CHEMISTRIES))
def test_the_run_charges_as_the_closed_forms_say(
    chemistry: ChemistryKey, rate: float, begin: float, ambient: float
) -> None:
    """Hours within 1 % to 95 %, and of the rest within a minute; where it ends within 0.1 %."""
    found, bank = charged(chemistry, 100 * rate, begin, ambient_c=ambient)
    says = fill(bank, usual(bank, 100 * rate), begin, ambient)
    assert found.ends == "full"
    assert found.hours == pytest.approx(says.total_h, rel=1e-3, abs=1 / 60)
    assert found.end == pytest.approx(says.charge[-1], abs=1e-3)
    if ambient == 25.0:
        assert found.bulk_h == pytest.approx(says.bulk_h, rel=1e-3)


@pytest.mark.parametrize(
    ("chemistry", "amps", "begin"),
    [("lfp", 20.0, 0.1), ("lfp", 50.0, 0.5), ("nmc", 30.0, 0.1), ("nmc", 80.0, 0.6)],
)
def test_a_simulator_of_batteries_agrees(
    chemistry: ChemistryKey, amps: float, begin: float
) -> None:
    """PyBaMM, an equivalent circuit of one resistance, at constant current and constant volts."""
    import pybamm  # noqa: PLC0415

    found, bank = charged(chemistry, amps, begin)
    kind, rest, charger = CHARGING[chemistry], bank_label(bank), usual(bank, amps)
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
    bulk, hold = simulated.cycles[0].steps
    assert found.ends == "full"
    assert found.bulk_h == pytest.approx(bulk["Time [h]"].entries[-1], rel=1e-3)
    assert found.hours == pytest.approx(hold["Time [h]"].entries[-1], rel=1e-2)
    assert found.end == pytest.approx(hold["SoC"].entries[-1], abs=1e-3)


@pytest.mark.parametrize(
    ("ah", "amps", "hours"),
    # 30 A into 100 Ah: 3 h 20 min plus taper; 10, 20 and 60 A into 200 Ah. Common practice.
    [(100, 30, 10 / 3), (200, 10, 20.0), (200, 20, 10.0), (200, 60, 10 / 3)],
)
def test_hours_of_the_trade(ah: float, amps: float, hours: float) -> None:
    # Nothing counts as no charge at all: all but empty.
    assert charged("lfp", amps, 0.001, ah)[0].hours == pytest.approx(hours, rel=0.02)


@pytest.mark.parametrize("rate", [0.2, 0.3, 0.5])
def test_charge_volts_of_lfp_are_met_near_97_percent(rate: float) -> None:
    """Common practice."""
    assert charged("lfp", 100 * rate, 0.2)[0].taper == pytest.approx(0.97, abs=0.011)


@pytest.mark.parametrize("rate", [0.1, 0.2, 0.3])
def test_the_last_fifth_of_lead_acid_takes_hours(rate: float) -> None:
    """2 to 6 h. Common practice."""
    assert 2.0 < charged("flooded", 100 * rate, 0.8)[0].hours < 6.0


@pytest.mark.parametrize(
    ("volts", "ambient", "ends"),
    # Half full it stands at 13.1 V.
    [(13.0, 25.0, "no charge"), (14.4, -5.0, "frost"), (14.4, 0.0, "full"), (14.8, 25.0, "full")],
)
def test_how_it_ends(volts: float, ambient: float, ends: str) -> None:
    found, _ = charged("lfp", 20.0, 0.5, hold_v=volts, ambient_c=ambient)
    assert found.ends == ends
    assert (found.hours > 0) is (ends == "full")


def test_a_car_socket_takes_over_ten_hours() -> None:
    """120 W at some 13.5 V into 100 Ah. Common practice."""
    assert charged("lfp", 120 / 13.5, 0.001)[0].hours > 10.0


@settings(max_examples=60, deadline=None)
@given(
    st.sampled_from(sorted(CHEMISTRIES)), st.floats(0.01, 1.0), st.floats(0.0, 0.97),
    st.integers(1, 6), st.floats(0.0, 30.0),
)  # fmt: skip
def test_any_closed_form_keeps_its_limits_and_its_energy(
    chemistry: ChemistryKey, rate: float, begin: float, parallel: int, ambient: float
) -> None:
    bank = the_bank(design(stores=bank_of(chemistry, VOLTS[chemistry], parallel=parallel)))
    charger = usual(bank, rate * 100 * parallel)
    found: Filling = fill(bank, charger, begin, ambient)
    if found.ends == "no charge":
        return
    assert (np.diff(found.hours) >= 0).all()
    assert (found.amps <= charger.amps * (1 + 1e-9)).all()
    assert (found.volts <= charger.hold_v * (1 + 1e-9)).all()
    gained_ah = (found.charge[-1] - begin) * 100 * parallel
    assert found.in_ah * CHARGING[chemistry].ah_efficiency == pytest.approx(gained_ah)
    # More goes in than is held; the rest is heat.
    assert found.in_wh > found.stored_wh > 0


def test_a_charger_carries_the_loads_and_keeps_the_energy() -> None:
    """12 A charged, 5 A drawn: +7 A net, as a meter at the bank shows. Definition."""
    made = design(
        load(60.0, hours_per_day=24.0, draw="constant current", cable_mohm=0.0),
        stores=[bank_of(starts_at=0.3), {"kind": "mains"}],
        links=[{"id": "cord", "rail": "mains", "to": "bank", "charger": {
            "kind": "mains charger", "amps": 12.0, "idle_w": 3.0,
            "accepts": {"least_v": 90.0, "most_v": 265.0}}}],
        setting={"horizon_h": 48.0},
    )  # fmt: skip
    run = Context(made).analysis.run
    hours, charge, volts, amps, _ = run.points()
    first, last = int(np.argmax(hours > 0.0)), int(np.argmax(charge[:, 0]))
    assert amps[first, 0] == pytest.approx(-7.0, rel=1e-6)
    # From 30 to 95 % at 7 A, of which 0.995 stay; then it is kept full, and the lamp lit.
    to_95_h = float(np.interp(0.95, charge[:last, 0], hours[:last]))
    assert to_95_h == pytest.approx(65.0 / 7.0 / 0.995, rel=2e-3)
    assert charge[-1, 0] == charge[:, 0].max()
    assert run.hours is None
    link, store = run.rails[-1], run.stores[0]
    given = float(link["got"] - link["idle"] - link["conversion"])
    used = float(run.loads[0]["used"] + run.loads[0]["cable"])
    assert float(link["idle"]) == pytest.approx(3.0 * 48.0)
    # Energy in is energy out, what is kept, and what becomes heat inside.
    kept = float(store["inside"]) - float(store["released"])
    assert given == pytest.approx(used + kept, rel=1e-3)
    assert 12.0 < volts[:, 0].min() < volts[:, 0].max() <= 14.4 + 1e-6

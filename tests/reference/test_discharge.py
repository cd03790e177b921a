"""Constant-power discharges against stored figures, a closed form, and another simulator."""

import math
from typing import Any

import numpy as np
import pytest

from graveljar.core.analysis.simulation import Run, simulate
from graveljar.core.lowering.lower import lower
from graveljar.core.model import Design
from graveljar.core.network.network import Network
from graveljar.core.tables.chemistry import CHEMISTRIES, ChemistryKey


def discharge(
    chemistry: str, cells: int, ah: float, mohm: float, watts: float, cut_v: float, **bank: float
) -> Run:
    """One load of constant power on a bank from full, out for good at its cut-out."""
    volts = CHEMISTRIES[chemistry].nominal_v * cells  # type: ignore[index]
    return simulate(
        lower(
            Network(
                Design.model_validate(
                    {
                        "setting": {"ambient_c": 25.0, "horizon_h": 200.0},
                        "stores": [
                            {
                                "reserve": 0.0,
                                "battery": {
                                    "chemistry": chemistry,
                                    "volts": volts,
                                    "ah": ah,
                                    "cells": cells,
                                    "resistance_mohm": mohm,
                                    "bms_a": None,
                                    "peukert": 1.0,
                                },
                                **bank,
                            }
                        ],
                        "loads": [
                            {
                                "id": "load",
                                "name": "load",
                                "rail": "bank",
                                "supply": {"kind": "dc", "volts": volts},
                                "demand": {"kind": "watts", "watts": watts},
                                "when": {"kind": "hours", "hours": 24.0},
                                "cable_mohm": 0.0,
                                "window": {
                                    "cut_out_v": cut_v,
                                    "restarts_v": volts * 1.3,
                                    "most_v": 200.0,
                                },
                            }
                        ],
                    }
                )
            )
        )
    )


# PyBaMM 26.10 (Thevenin, power mode) and SciPy DOP853, which agree to 0.0002 %: open-circuit
# curves of Afshar et al. 2017 with Ecker et al. 2015, and of Chen et al. 2020, straight between
# the points; N cells, constant resistance, from full to the cut-off.
STORED = [
    pytest.param(("lfp", 4, 100.0, 8.0, 250.0, 10.8), (4.93725, 96.2759, 1234.313), id="lfp 250 W"),
    pytest.param(
        ("lfp", 4, 100.0, 8.0, 1200.0, 10.8), (0.946041, 92.6269, 1135.249), id="lfp 1200 W"
    ),
    pytest.param(("nmc", 7, 38.0, 50.0, 150.0, 21.0), (6.312013, 36.3696, 946.802), id="nmc 150 W"),
]


@pytest.mark.parametrize(("case", "figures"), STORED)
def test_discharges_agree_with_stored_figures(
    case: tuple[str, int, float, float, float, float], figures: tuple[float, float, float]
) -> None:
    run = discharge(*case)
    charge = float(run.stores[0]["charge"])
    taken_ah = case[2] * (1 - charge)
    given_wh = float(run.loads[0]["used"])
    assert (run.hours, taken_ah, given_wh) == pytest.approx(figures, rel=2e-6)


@pytest.mark.parametrize(("case", "figures"), STORED)
def test_a_simulator_of_batteries_agrees_live(
    case: tuple[ChemistryKey, int, float, float, float, float], figures: object
) -> None:
    import pybamm  # noqa: PLC0415

    chemistry, cells, ah, mohm, watts, cut_v = case
    charges, volts = zip(*CHEMISTRIES[chemistry].ocv, strict=True)

    def open_circuit(charge: Any) -> Any:
        pack_v = np.array(volts) * cells
        return pybamm.Interpolant(np.array(charges), pack_v, charge, interpolator="linear")

    model = pybamm.equivalent_circuit.Thevenin(
        options={"number of rc elements": 0, "operating mode": "power"}
    )
    values = model.default_parameter_values
    values.update(
        {
            "Open-circuit voltage [V]": open_circuit,
            "R0 [Ohm]": mohm / 1000,
            "Cell capacity [A.h]": ah,
            "Initial SoC": 1.0 - 1e-9,
            "Power function [W]": watts,
            "Lower voltage cut-off [V]": cut_v,
            "Upper voltage cut-off [V]": 100.0,
            "Entropic change [V/K]": 0.0,
        },
        check_already_exists=False,
    )
    solver = pybamm.IDAKLUSolver(rtol=1e-9, atol=1e-9)
    found = pybamm.Simulation(model, parameter_values=values, solver=solver).solve([0, 3600 * 20])
    run = discharge(*case)
    assert run.hours == pytest.approx(found["Time [h]"].entries[-1], rel=1e-5)
    assert float(run.stores[0]["charge"]) == pytest.approx(found["SoC"].entries[-1], abs=1e-5)


def _closed_form_h(ah: float, ohm: float, watts: float, ends: tuple[float, float],
                   volts: tuple[float, float]) -> float:  # fmt: skip
    """Hours on one straight piece of the curve: 1/I = (E + sqrt(E² - 4 R P)) / 2 P, integrated."""
    a = 4 * ohm * watts

    def whole(e: float) -> float:
        root = math.sqrt(e * e - a)
        return (e * e / 2 + (e * root - a * math.log(e + root)) / 2) / (2 * watts)

    slope = (ends[0] - ends[1]) / (volts[0] - volts[1])
    return ah * slope * (whole(volts[0]) - whole(volts[1]))


@pytest.mark.parametrize("watts", [60.0, 400.0, 1500.0])
@pytest.mark.parametrize("piece", [3, 12, 20])
def test_one_straight_piece_has_a_closed_form(watts: float, piece: int) -> None:
    """From the top of a piece of the LFP curve to its bottom, where the bank is kept back."""
    (low, low_v), (high, high_v) = CHEMISTRIES["lfp"].ocv[piece : piece + 2]
    run = discharge("lfp", 4, 100.0, 8.0, watts, 5.0, starts_at=high, reserve=low)
    expected = _closed_form_h(100.0, 0.008, watts, (high, low), (4 * high_v, 4 * low_v))
    assert run.hours == pytest.approx(expected, rel=1e-6)

"""Whole runs against SciPy's DOP853 on the same equations, and what must hold on any tree."""

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from graveljar.core.analysis.simulation import energy_between, simulate
from graveljar.core.lowering.lower import lower
from graveljar.core.network.network import Network
from tests.building import the_bank
from tests.reference.by_hand import Hand
from tests.reference.random_designs import random_design


@pytest.mark.parametrize("seed", [8, 13, 21])
def test_a_run_agrees_with_an_adaptive_solution(seed: int) -> None:
    """Hours and Wh within 0.2 %; straight pieces of the curve are integrated on their own."""
    design = random_design(seed, stages=3)
    run = simulate(lower(Network(design)))
    hand = Hand(design)
    edges = sorted(set(run.lowered.day.edges[1:-1]))
    floor = the_bank(design).reserve
    hours, charge, given_wh, mean_a = 0.0, 1.0, 0.0, hand.bank_amps(1.0, 1e-6)

    def slopes(t: float, y: np.ndarray) -> list[float]:
        amps = hand.bank_amps(float(y[0]), middle % 24)
        volts = hand.open_v(float(y[0])) - amps * hand.rest.resistance_ohm
        # Peukert by the mean current: of all so far, then of the last two hours.
        rate = max(0.5, 1 / max(t, 1e-6))
        more = (amps - float(y[2])) * rate
        return [-amps * hand.costs(float(y[2])) / hand.ah, volts * amps, more]

    def at_floor(t: float, y: np.ndarray) -> float:
        return float(y[0] - floor)

    at_floor.terminal = True  # type: ignore[attr-defined]
    while charge > floor + 1e-9 and hours < 2000:
        day, hour = divmod(hours + 1e-9, 24)
        end = day * 24 + next((edge for edge in edges if edge > hour), 24.0)
        middle = (hours + end) / 2
        found = solve_ivp(
            slopes, (hours, end), [charge, given_wh, mean_a], method="DOP853", rtol=1e-8,
            atol=1e-10, events=at_floor, max_step=2.0,
        )  # fmt: skip
        hours, (charge, given_wh, mean_a) = found.t[-1], found.y[:, -1]
    assert run.ends_h == pytest.approx(hours, rel=2e-3)
    terminal_wh = run.released_wh - float((run.stores["inside"] + run.stores["rate_wh"]).sum())
    assert terminal_wh == pytest.approx(given_wh, rel=2e-3)


@pytest.mark.parametrize("seed", range(60))
def test_energy_in_is_energy_out_on_any_tree(seed: int) -> None:
    """Also through cut-outs and returns: what left the cells is what arrived or was lost."""
    run = simulate(lower(Network(random_design(seed, cut_outs=True))))
    rails, loads, stores = run.rails, run.loads, run.stores
    into = sum(float(loads[x].sum()) for x in ("used", "waited", "adapter", "cable"))
    into += sum(float(rails[x].sum()) for x in ("idle", "conversion", "cable"))
    into += float(stores["inside"].sum() + stores["rate_wh"].sum())
    assert into == pytest.approx(run.released_wh, rel=1e-9)
    # And by another way: what is no longer inside.
    gone = energy_between(run.lowered, 0, float(stores[0]["charge"]), float(stores[0]["begin"]))
    assert run.released_wh == pytest.approx(gone, rel=1e-3)
    for part in ("idle", "conversion", "cable"):
        assert (rails[part] >= -1e-7 * run.released_wh).all(), part
    assert run.events_beyond == 0

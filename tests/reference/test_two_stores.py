"""Runs with two stores: no limit exceeded, no energy lost, and the same as an adaptive solution."""

import numpy as np
import pytest
from scipy.integrate import solve_ivp
from scipy.optimize import brentq

from graveljar.core.analysis.simulation import Run, energy_between, simulate
from graveljar.core.components.joint import fuse_a
from graveljar.core.components.stage_loss import converter_amps
from graveljar.core.kernel.trace import CONVERGED, STATUS
from graveljar.core.lowering.lower import lower
from graveljar.core.model import Converter, Design, Station
from graveljar.core.network.network import Network
from graveljar.core.tables.assumptions import resolve
from graveljar.core.tables.chemistry import CHEMISTRIES
from tests.reference.random_growing import random_growing

# A hair of rounding on a limit.
HAIR = 1 + 1e-7


def _run(design: Design) -> Run:
    return simulate(lower(Network(design)))


@pytest.mark.parametrize("seed", range(80))
def test_no_link_ever_exceeds_a_limit(seed: int) -> None:
    """At every point of the run: mode, input, all inputs, fuses, converter, source."""
    design = random_growing(seed)
    run, station = _run(design), design.stores[0]
    assert isinstance(station, Station)
    _, charge, volts, amps, drawn = run.points()
    place, link = run.lowered.place, design.links[0]
    records = run.lowered.rail_records
    k, r = place["lead"], place[link.rail]
    flows = amps[:, k] > 0
    port = station.inputs[0]
    taken = amps[:, k]
    watts = (volts[:, r] - taken * records[k]["ohm"]) * taken
    assert (taken <= port.mode(link.mode).amps * HAIR).all()
    assert (watts <= min(port.most_w, station.most_in_w) * HAIR).all()
    assert (taken <= (fuse_a(link)) * HAIR).all()
    for stage in design.stages:
        assert isinstance(stage, Converter)
        beside = sum(drawn[:, i] for i, x in enumerate(run.lowered.loads) if x.rail == stage.id)
        most_out_a = converter_amps(stage, design, resolve({})).limit_a
        # What else hangs there may alone be more than it is good for: then nothing is left.
        assert (taken + beside <= np.maximum(most_out_a, beside) * HAIR)[flows].all()
        most_a = fuse_a(stage)
        alone = amps[:, place[stage.id]] <= most_a * HAIR
        assert (alone | (taken < 1e-6))[flows].all()
    limit_a = float(run.lowered.store_records[1]["limit_a"])
    assert ((amps[:, 1] <= limit_a * HAIR) | (taken < 1e-6))[flows].all()
    assert (charge <= 1.0).all()
    assert (charge[:, 0] >= 1 - station.usable_share - 1e-9).all()


@pytest.mark.parametrize("seed", range(80))
def test_energy_in_is_energy_out_with_two_stores(seed: int) -> None:
    """All that left the cells arrived, was lost, or is inside of the other store."""
    run = _run(random_growing(seed))
    rails, loads, stores = run.rails, run.loads, run.stores
    into = sum(float(loads[x].sum()) for x in ("used", "waited", "adapter", "cable"))
    into += sum(float(rails[x].sum()) for x in ("idle", "conversion", "cable"))
    into += float(stores["inside"].sum() + stores["rate_wh"].sum())
    passed = float(np.abs(stores["released"]).sum()) + float(rails["got"].sum())
    assert into == pytest.approx(run.released_wh, abs=1e-7 * max(passed, 1.0))
    assert run.trace.counts[STATUS] == CONVERGED
    for s, store in enumerate(stores):
        if not store["endless"]:
            begin, end = float(store["begin"]), float(store["charge"])
            gone = energy_between(run.lowered, s, min(begin, end), max(begin, end))
            gone = gone if end < begin else -gone
            assert float(store["released"]) == pytest.approx(gone, abs=3e-4 * max(passed, 1.0))


class TwoStores:
    """A station and a bank by their equations: P = V I, V = E(charge) - I R, one load."""

    load_w, own_w, input_w, kept, taper = 80.0, 4.0, 200.0, 0.92, 0.9
    boost, floor, quiescent_w, cable_ohm, low = 0.9, 0.05, 1.0, 0.01, 0.2
    cells, bank_cells, wh, ah = 8, 4, 600.0, 80.0

    def __init__(self) -> None:
        lfp = CHEMISTRIES["lfp"]
        self.x, self.v = np.array(lfp.ocv).T
        self.station_ah = self.wh / (self.cells * lfp.nominal_v)
        self.station_ohm = lfp.resistance_ohm_ah / self.station_ah * self.cells
        self.bank_ohm = lfp.resistance_ohm_ah / self.ah * self.bank_cells

    def design(self) -> Design:
        """The same as a document."""
        return Design.model_validate(
            {
                "setting": {"ambient_c": 25.0, "horizon_h": 200.0},
                "stores": [
                    {"kind": "station", "id": "station", "label_wh": self.wh, "cells": self.cells,
                     "usable_share": 1 - self.floor, "idle_w": self.own_w, "starts_at": 0.6,
                     "charge_efficiency": self.kept, "taper_from": self.taper,
                     "most_in_w": self.input_w,
                     "outlets": [{"kind": "dc", "id": "port", "volts": 12.0, "efficiency": 1.0}],
                     "inputs": [{"id": "in", "accepts": {"least_v": 11.0, "most_v": 60.0},
                                 "modes": [{"name": "One", "amps": 30.0}],
                                 "most_w": self.input_w}]},
                    {"id": "bank", "battery": {"volts": 12.8, "ah": self.ah},
                     "reserve": self.low},
                ],
                "stages": [
                    {"kind": "converter", "id": "boost", "rail": "bank", "topology": "boost",
                     "set_v": 30.0, "continuous_a": 50.0, "quiescent_w": self.quiescent_w,
                     "accepts": {"least_v": 9.0, "most_v": 20.0}, "cable_mohm": 10.0,
                     "full_load": {"load_share": 1.0, "efficiency": self.boost}}],
                "links": [{"id": "lead", "rail": "boost", "to": "station", "input": "in",
                           "cable_mohm": 0.0}],
                "loads": [{"id": "radio", "name": "radio", "rail": "port", "cable_mohm": 0.0,
                           "supply": {"kind": "dc", "volts": 12.0},
                           "demand": {"kind": "watts", "watts": self.load_w},
                           "when": {"kind": "hours", "hours": 24.0}}],
            }
        )  # fmt: skip

    def open_v(self, charge: float, cells: int) -> float:
        return float(np.interp(charge, self.x, self.v)) * cells

    def amps_at(self, watts: float, open_v: float, ohm: float) -> float:
        """Current at which a source behind a resistance gives a power, negative as it takes it."""
        return float(brentq(lambda i: i * (open_v - i * ohm) - watts, -60.0, open_v / 2 / ohm))

    def slopes(self, t: float, y: np.ndarray, on: bool) -> list[float]:
        station, bank = float(y[0]), float(y[1])
        needs = self.load_w + self.own_w
        taken = 0.0
        if on:
            taken = self.input_w
            if station > self.taper:
                late = (station - self.taper) / (1 - self.taper)
                room = self.input_w * self.kept * (1 - 2 / 3 * late) if station < 1 else 0.0
                taken = min(taken, (needs + room) / self.kept)
        out = self.amps_at(
            needs - taken * self.kept, self.open_v(station, self.cells), self.station_ohm
        )
        into = 0.0
        if on:
            into = self.amps_at(
                taken / self.boost + self.quiescent_w,
                self.open_v(bank, self.bank_cells),
                self.bank_ohm + self.cable_ohm,
            )
        return [-out / self.station_ah, -into / self.ah, taken if on else 0.0]


def test_a_run_with_two_stores_agrees_with_an_adaptive_solution() -> None:
    """SciPy's DOP853 on the same equations: hours and Wh within 0.2 %."""
    two = TwoStores()
    run = _run(two.design())

    def ends(store: int, at: float, rising: bool = False) -> object:
        def event(t: float, y: np.ndarray, on: bool) -> float:
            return float(y[store] - at)

        event.terminal = True  # type: ignore[attr-defined]
        event.direction = 1 if rising else -1  # type: ignore[attr-defined]
        return event

    hours, y, fed = 0.0, [0.6, 1.0, 0.0], True
    full_h = outside_h = 0.0
    while y[0] > two.floor + 1e-9:
        found = solve_ivp(
            two.slopes, (hours, 400.0), y, method="DOP853", rtol=1e-10, atol=1e-12, args=(fed,),
            events=[ends(0, two.floor), ends(1, two.low), ends(0, 1.0 - 1e-9, rising=True)],
            max_step=0.05,
        )  # fmt: skip
        hours, y = float(found.t[-1]), [float(v) for v in found.y[:, -1]]
        if len(found.t_events[2]):
            full_h, y[0] = hours, 1.0
        elif len(found.t_events[1]):
            outside_h, fed = hours, False
    told = {(e.subject, e.what): e.hours for e in run.events}
    assert told["station", "is full"] == pytest.approx(full_h, rel=2e-3)
    assert told["bank", "meets its floor"] == pytest.approx(outside_h, rel=2e-3)
    assert run.hours == pytest.approx(hours, rel=2e-3)
    assert float(run.rails[run.lowered.place["lead"]]["got"]) == pytest.approx(y[2], rel=2e-3)

"""The operating point against ngspice, a general circuit simulator, run live."""

import re
import subprocess
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from graveljar.core.assumptions import resolve
from graveljar.core.document import Design
from graveljar.core.engine import net as n
from graveljar.core.engine.ledger import begin, room
from graveljar.core.engine.lower import Lowered, lower
from graveljar.core.engine.march import open_circuit
from graveljar.core.engine.point import SOLVED, settle
from graveljar.core.engine.states import arrange
from graveljar.core.engine.switches import steady
from tests.reference.random_designs import random_design


def _spice(lines: list[str], printed: list[str], folder: Path) -> dict[str, float]:
    """Run a circuit; gives what was asked to be printed."""
    deck = ["* circuit", *lines, ".options reltol=1e-10 abstol=1e-13 vntol=1e-13 gmin=1e-16 "
            "itl1=2000", ".control", "set numdgt=12", "op", *[f"print {x}" for x in printed],
            "quit", ".endc", ".end"]  # fmt: skip
    file = folder / "circuit.cir"
    file.write_text("\n".join(deck))
    done = subprocess.run(["ngspice", "-b", str(file)], capture_output=True, text=True, check=False)
    found = dict(re.findall(r"^(\S+) = (\S+)$", done.stdout, re.MULTILINE))
    assert len(found) == len(set(printed)), done.stdout + done.stderr
    return {name: float(value) for name, value in found.items()}


def _circuit(rails: Any, loads: Any, stores: Any) -> tuple[list[str], list[str]]:
    """A settled state as a circuit: same branches, solved by somebody else."""
    lines, nodes = [], []
    for r, rail in enumerate(rails):
        if rail.state == n.OFF:
            continue
        if rail.kind == n.STORE:
            lines += [f"Ve{r} e{r} 0 DC {stores[r].emf:.12g}", f"Re{r} e{r} n{r} {stores[r].ohm}"]
        else:
            lines += _stage_lines(r, rail, loads)
            if rail.kind != n.FEED:
                near_v = rails[rail.parent].volts - rail.amps * rail.ohm
                lines.append(f".nodeset v(i{r})={near_v:.3g}")
        # Near the answer to three figures: a device of constant power has a second, false one.
        if rail.kind != n.INVERTER:
            nodes.append(f"v(n{r})")
            lines.append(f".nodeset v(n{r})={rail.volts:.3g}")
    for i, load in enumerate(loads):
        if load.watts > 0 and rails[load.rail].kind != n.INVERTER:
            near_v = rails[load.rail].volts - load.amps * load.ohm
            lines += [f"Rl{i} n{load.rail} m{i} {load.ohm:.12g}", f".nodeset v(m{i})={near_v:.3g}"]
            by = {
                n.POWER: f"Bl{i} m{i} 0 I = {load.watts:.12g}/max(v(m{i}),0.1)",
                n.CURRENT: f"Il{i} m{i} 0 DC {load.watts / load.nominal_v:.12g}",
                n.RESISTIVE: f"Rx{i} m{i} 0 {load.nominal_v**2 / load.watts:.12g}",
            }
            lines.append(by[int(load.draw)])
    return lines, nodes


def _stage_lines(r: int, rail: Any, loads: Any) -> list[str]:
    joint = f"Rj{r} n{rail.parent} i{r} {rail.ohm:.12g}"
    if rail.kind == n.FEED:
        return [f"Rj{r} n{rail.parent} n{r} {rail.ohm:.12g}"]
    if rail.kind == n.INVERTER:
        given = sum(load.watts for load in loads if load.rail == r)
        power = f"{rail.p0 + rail.k1 * given + rail.k2 * given**2:.12g}"
        return [joint, f"Bj{r} i{r} 0 I = {power}/max(v(i{r}),0.1)"]
    source = [
        f"Vs{r} s{r} 0 DC {rail.set_v:.12g}",
        f"Rs{r} s{r} n{r} {max(rail.droop_ohm, 1e-9):.12g}",
    ]
    if rail.kind == n.LINEAR:
        own = f"{rail.p0:.12g}/v(n{rail.parent})"
        return [joint, *source, f"Bj{r} i{r} 0 I = -i(Vs{r}) + {own}"]
    given = f"(-v(n{r})*i(Vs{r}))"
    power = f"({rail.p0:.12g} + {rail.k1:.12g}*{given} + {rail.k2:.12g}*{given}*{given})"
    return [joint, *source, f"Bj{r} i{r} 0 I = {power}/max(v(i{r}),0.1)"]


def _busiest(lowered: Lowered) -> int:
    return int(np.argmax(lowered.day.demand.sum(axis=(1, 2))))


@pytest.mark.parametrize("seed", range(20))
def test_random_rail_trees_settle_as_the_circuit_does(seed: int, tmp_path: Path) -> None:
    lowered = lower(random_design(seed), resolve({}))
    rails, loads = lowered.rail_records.copy(), lowered.load_records.copy()
    stores = lowered.store_records.copy()
    begin(rails, loads, stores)
    stores["charge"] = 0.6
    open_circuit(stores, lowered.day)
    trace = room(len(rails), len(loads), 1)
    steady(rails, loads, stores, lowered.day, trace, _busiest(lowered), 0.0)
    lines, nodes = _circuit(rails, loads, stores)
    found = _spice(lines, [*nodes, "i(ve0)"], tmp_path)
    for node in nodes:
        assert rails[int(node[3:-1])].volts == pytest.approx(found[node], rel=1e-4), node
    assert rails[0].amps == pytest.approx(-found["i(ve0)"], rel=1e-4)


def _bench(watts: float) -> Lowered:
    """The network of a bank at 13.2 V, 8 mOhm; 2 m of 25 mm²; a load, a boost, 24 Ohm.

    A bank rests at 13.2 V where its LFP cells have 3.3 V: on the piece from 70 to 75 %.
    """
    charge = 0.7 + 0.05 * (3.3 - 3.2956) / (3.3138 - 3.2956)

    def dc(name: str, watts: float, mohm: float, **more: Any) -> dict[str, Any]:
        return {
            "id": name, "name": name, "rail": "bus", "supply": {"kind": "dc", "volts": 12.0},
            "demand": {"kind": "watts", "watts": watts}, "cable_mohm": mohm,
            "when": {"kind": "hours", "hours": 24.0}, **more,
        }  # fmt: skip

    return lower(
        Design.model_validate(
            {
                "setting": {"ambient_c": 25.0},
                "stores": [
                    {
                        "starts_at": charge,
                        "battery": {"resistance_mohm": 8.0, "bms_a": None, "ah": 100.0},
                    }
                ],
                # 25 mm²: 0.780 mOhm/m (IEC 60228, from memory), 2 m each way.
                "stages": [
                    {"kind": "feed", "id": "bus", "name": "bus", "rail": "bank", "cable_mohm": 3.12}
                ],
                "loads": [
                    dc("heater", watts, 3.0),
                    dc("boost", 420 / 0.90, 6.0),
                    dc("lamp", 144 / 24, 0.0, draw="resistive"),
                ],
            }
        ),
        resolve({}),
    )


def _settled(lowered: Lowered) -> tuple[int, Any, Any]:
    rails, loads = lowered.rail_records.copy(), lowered.load_records.copy()
    stores = lowered.store_records.copy()
    begin(rails, loads, stores)
    open_circuit(stores, lowered.day)
    arrange(rails, loads, stores, lowered.day, 0)
    return settle(rails, loads, stores), rails, loads


def test_the_worked_network_agrees_with_its_circuit() -> None:
    """Figures of ngspice 39 for the circuit of the worked example."""
    solved, rails, loads = _settled(_bench(800.0))
    assert solved == SOLVED
    assert rails[0].volts == pytest.approx(12.33599, rel=1e-5)
    assert rails[1].volts == pytest.approx(11.99902, rel=1e-5)
    assert rails[0].amps == pytest.approx(108.00145, rel=1e-5)
    assert list(loads["amps"]) == pytest.approx([67.82214, 39.67934, 0.49996], rel=1e-4)
    heater_v, boost_v = (rails[1].volts - loads[i].amps * loads[i].ohm for i in (0, 1))
    assert heater_v == pytest.approx(11.79556, rel=1e-5)
    assert boost_v == pytest.approx(11.76095, rel=1e-5)


@pytest.mark.parametrize(
    ("others", "collapse_w"),
    [
        pytest.param(True, 2759.588, id="whole network: ngspice 39, by bisection"),
        pytest.param(False, 3084.986, id="that branch alone: E²/4R over 14.12 mOhm"),
    ],
)
def test_volts_collapse_where_they_must(others: bool, collapse_w: float) -> None:
    def holds(watts: float) -> bool:
        lowered = _bench(watts)
        if not others:
            lowered.day.demand[:, 1:] = 0.0
        return _settled(lowered)[0] == SOLVED

    low, high = 800.0, 6000.0
    while high - low > 1e-3:
        middle = (low + high) / 2
        low, high = (middle, high) if holds(middle) else (low, middle)
    assert low == pytest.approx(collapse_w, rel=1e-3 if others else 1e-5)
    # Just below it the volts are still a solution, not a guess: what is drawn is what is given.
    solved, rails, loads = _settled(_bench(2700.0))
    assert solved == SOLVED
    drawn = sum(float(load.amps) for load in loads)
    assert rails[0].amps == pytest.approx(drawn, rel=1e-9)
    assert rails[0].volts == pytest.approx(13.2 - 0.008 * rails[0].amps, rel=1e-7)

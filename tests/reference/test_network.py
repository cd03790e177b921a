"""The operating point against ngspice, a general circuit simulator, run live."""

import os
import re
import shutil
import subprocess
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from graveljar.core.evaluate import evaluate
from graveljar.core.kernel import records as n
from graveljar.core.kernel.conditions import open_circuit, weather
from graveljar.core.kernel.operating_point import SOLVED, settle
from graveljar.core.kernel.protection import steady
from graveljar.core.kernel.states import arrange
from graveljar.core.kernel.trace import begin, new_trace
from graveljar.core.lowering.lower import LoweredDesign, lower
from graveljar.core.model import Design
from graveljar.core.network.network import Network
from tests.reference.random_designs import random_design


def _spice(lines: list[str], printed: list[str], folder: Path) -> dict[str, float]:
    """Run a circuit; gives what was asked to be printed."""
    deck = ["* circuit", *lines, ".options reltol=1e-10 abstol=1e-13 vntol=1e-13 gmin=1e-16 "
            "itl1=2000", ".control", "set numdgt=12", "op", *[f"print {x}" for x in printed],
            "quit", ".endc", ".end"]  # fmt: skip
    file = folder / "circuit.cir"
    file.write_text("\n".join(deck))
    if shutil.which("ngspice") is None and os.geteuid() != 0 and not os.environ.get("CI"):
        pytest.skip("ngspice is missing on this machine: not checked against it")
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


def _busiest(lowered: LoweredDesign) -> int:
    return int(np.argmax(lowered.day.demand.sum(axis=(1, 2))))


@pytest.mark.parametrize("seed", range(20))
def test_random_rail_trees_settle_as_the_circuit_does(seed: int, tmp_path: Path) -> None:
    lowered = lower(Network(random_design(seed)))
    rails, loads, stores = lowered.fresh_records()
    trace = new_trace(len(rails), len(loads), 1)
    begin(rails, loads, stores, trace)
    stores["charge"] = 0.6
    # Currents decide here, not what would trip for them.
    for limit in ("limit_a", "limit_w", "fuse_a"):
        rails[limit] = np.inf
    stores["limit_a"] = np.inf
    weather(stores, lowered.day, 0)
    open_circuit(stores, lowered.day)
    steady(rails, loads, stores, lowered.day, trace, _busiest(lowered), 0.0)
    lines, nodes = _circuit(rails, loads, stores)
    found = _spice(lines, [*nodes, "i(ve0)"], tmp_path)
    for node in nodes:
        assert rails[int(node[3:-1])].volts == pytest.approx(found[node], rel=1e-4), node
    assert rails[0].amps == pytest.approx(-found["i(ve0)"], rel=1e-4)


def _bench(watts: float) -> LoweredDesign:
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
        Network(
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
                        {
                            "kind": "feed",
                            "id": "bus",
                            "name": "bus",
                            "rail": "bank",
                            "cable_mohm": 3.12,
                        }
                    ],
                    "loads": [
                        dc("heater", watts, 3.0),
                        dc("boost", 420 / 0.90, 6.0),
                        dc("lamp", 144 / 24, 0.0, draw="resistive"),
                    ],
                }
            )
        )
    )


def _settled(lowered: LoweredDesign) -> tuple[int, Any, Any]:
    rails, loads, stores = lowered.fresh_records()
    begin(rails, loads, stores, new_trace(3, 3, 1, kept=False))
    weather(stores, lowered.day, 0)
    open_circuit(stores, lowered.day)
    arrange(rails, loads, stores, lowered.day, 0, False)
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


# Ohm/km at 20 °C: class 5 copper (IEC 60228, from memory); gauges by 1.7241e-8 Ohm m over their
# area in mm² (IACS; ASTM B258): 8 AWG 8.37, 2 AWG 33.6.
OHM_PER_KM = {
    "25 mm²": 0.780, "10 mm²": 1.91, "4 mm²": 4.95, "1.5 mm²": 13.3,
    "8 AWG": 17.241 / 8.366, "2 AWG": 17.241 / 33.63,
}  # fmt: skip


def _cable(size: str, length_m: float, leads: int = 1) -> tuple[dict[str, Any], float]:
    """A described run, and its resistance out and back with its copper at 40 °C. [Ohm]"""
    ohm = 2 * length_m * OHM_PER_KM[size] / 1000 * (1 + 0.00393 * 20) / leads
    return {"length_m": length_m, "size": size, "leads": leads}, ohm


def test_drop_and_heat_of_every_cable_agree_with_a_circuit(tmp_path: Path) -> None:
    """A whole design by its lengths and sizes, against ngspice: volts, amps, heat of each run."""
    post, r_post = _cable("25 mm²", 0.6)
    to_inverter, r_inverter = _cable("2 AWG", 1.5, leads=2)
    to_feed, r_feed = _cable("10 mm²", 4.0)
    to_boost, r_boost = _cable("8 AWG", 3.0)
    to_fan, r_fan = _cable("1.5 mm²", 5.0)
    to_bars, r_bars = _cable("4 mm²", 7.0)
    made = Design.model_validate(
        {
            "setting": {"ambient_c": 25.0},
            "stores": [
                {
                    "battery": {"resistance_mohm": 10.0, "bms_a": None, "ah": 200.0},
                    "parallel": 2, "leads": {"cable": post},
                }
            ],
            "stages": [
                {"kind": "inverter", "cable": to_inverter, "idle_w": 10.0,
                 "part_load": {"load_share": 0.5, "efficiency": 0.9},
                 "full_load": {"load_share": 1.0, "efficiency": 0.9}},
                {"kind": "feed", "id": "feed", "cable": to_feed},
                {"kind": "converter", "id": "boost", "rail": "feed", "topology": "boost",
                 "set_v": 24.0, "cable": to_boost, "quiescent_w": 0.0},
            ],
            "loads": [
                _always("kettle", "inverter", 900.0, 230.0, "ac"),
                _always("fan", "feed", 60.0, 12.0, cable=to_fan),
                _always("bars", "boost", 96.0, 24.0, cable=to_bars),
            ],
        }
    )  # fmt: skip
    evaluation = evaluate(made)
    moment = next(x for x in evaluation.run.moments if x.hours == 0)
    # The bank full: 3.3481 V a cell of four; two strings of 10 mOhm, each behind its own lead.
    # Through 10 W idle and 90 % at 500 and 1 000 W: k2 = 2e-5, k1 = 1.08111 (by hand).
    drawn_w = 10 + 1.0811111 * 900 + 2e-5 * 900**2
    lines = ["Ve e 0 DC 13.3924"]
    lines += [f"Rb{s} e p{s} 10m\nRp{s} p{s} bus {r_post:.12g}" for s in (0, 1)]
    lines += [
        f"Ri bus i {r_inverter:.12g}", f"Bi i 0 I = {drawn_w:.12g}/max(v(i),0.1)",
        f"Rf bus feed {r_feed:.12g}",
        f"Rn feed fan {r_fan:.12g}", "Bn fan 0 I = 60/max(v(fan),0.1)",
        f"Rc feed c {r_boost:.12g}", "Bc c 0 I = -24*i(Vs)/0.92/max(v(c),0.1)",
        "Vs s 0 DC 24", f"Rl s bars {r_bars:.12g}", "Bl bars 0 I = 96/max(v(bars),0.1)",
        *(f".nodeset v({x})=12.5" for x in ("bus", "i", "feed", "fan", "c")),
        ".nodeset v(bars)=23",
    ]  # fmt: skip
    nodes = [f"v({x})" for x in ("e", "p0", "bus", "i", "feed", "fan", "c", "s", "bars")]
    v = {name[2:-1]: volts for name, volts in _spice(lines, nodes, tmp_path).items()}
    ours = {**moment.amps, **moment.takes}
    for subject, ohm, drop_v in (
        ("inverter", r_inverter, v["bus"] - v["i"]),
        ("feed", r_feed, v["bus"] - v["feed"]),
        ("boost", r_boost, v["feed"] - v["c"]),
        ("fan", r_fan, v["feed"] - v["fan"]),
        ("bars", r_bars, v["s"] - v["bars"]),
    ):
        figure = evaluation.figures[f"cable.{subject}.ohm"]
        assert figure.value / 1000 == pytest.approx(ohm, rel=1e-3)
        assert ours[subject] * ohm == pytest.approx(drop_v, rel=3e-4), subject
        heat_w = drop_v**2 / ohm
        assert ours[subject] ** 2 * ohm == pytest.approx(heat_w, rel=6e-4), subject
    assert moment.volts["bank"] == pytest.approx(v["bus"], rel=1e-4)
    assert moment.amps["bank"] / 2 * r_post == pytest.approx(v["p0"] - v["bus"], rel=3e-4)


def _always(
    name: str, rail: str, watts: float, volts: float, kind: str = "dc", **rest: Any
) -> dict[str, Any]:
    """A load that is always on."""
    return {
        "id": name, "name": name, "rail": rail, "supply": {"kind": kind, "volts": volts},
        "demand": {"kind": "watts", "watts": watts}, "when": {"kind": "hours", "hours": 24.0},
        **rest,
    }  # fmt: skip

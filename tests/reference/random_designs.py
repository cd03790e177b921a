"""Random designs of whole rail trees, from a seed."""

import random
from typing import Any

from graveljar.core.components.cable import SIZES
from graveljar.core.model import Design
from graveljar.core.tables.connectors import CONNECTORS
from graveljar.core.tables.fuses import FUSE_KINDS

CELLS = {"lfp": 3.2, "nmc": 3.7, "agm": 2.0}


def random_design(seed: int, *, cut_outs: bool = False, stages: int = 6) -> Design:
    """A bank, some stages chained in any order that fits, loads of all kinds on their rails."""
    dice = random.Random(seed)
    chemistry = dice.choice(sorted(CELLS))
    cells = dice.choice([4, 8, 16]) if chemistry == "lfp" else dice.choice([6, 12, 24])
    volts = CELLS[chemistry] * cells
    bank = {
        "battery": {
            "chemistry": chemistry,
            "volts": volts,
            "ah": dice.uniform(60, 300),
            "cells": cells,
            "bms_a": None,
        },
        "parallel": dice.randint(1, 3),
        "reserve": round(dice.uniform(0.05, 0.5), 2),
    }
    rails: list[tuple[str, float, str]] = [("bank", volts, "dc")]
    made = []
    for n in range(dice.randint(1, stages)):
        rail, v, _ = dice.choice([r for r in rails if r[2] == "dc"])
        stage = _stage(dice, f"s{n}", rail, v)
        made.append(stage)
        kind = "ac" if stage["kind"] == "inverter" else "dc"
        rails.append((stage["id"], stage.get("set_v", 230.0 if kind == "ac" else v), kind))
    loads = [
        _load(dice, f"l{n}", *dice.choice(rails), cut_outs=cut_outs)
        for n in range(dice.randint(2, 8))
    ]
    return Design.model_validate(
        {
            "setting": {"ambient_c": 25.0, "horizon_h": 2000.0},
            "stores": [bank],
            "stages": made,
            "loads": loads,
        }
    )


def wired_design(seed: int) -> Design:
    """The same with cables, fuses, connectors and bars here and there, right and wrong."""
    dice = random.Random(seed + 10_000)
    made = random_design(seed, cut_outs=seed % 2 == 0).model_dump(mode="json")
    made["setting"] |= {
        "school": dice.choice([None, "building wire", "boat and vehicle"]),
        "place": dice.choice(["vehicle", "boat", "building", "box"]),
        "sizes": dice.choice(["metric", "AWG"]),
    }
    for thing in (*made["stages"], *made["loads"]):
        thing.update(_wiring(dice))
    leads = _wiring(dice)
    if leads["cable"]:
        leads["longest_m"] = leads["cable"]["length_m"] * dice.choice([1.0, 4.0])
    made["stores"][0] |= {"parallel": dice.randint(1, 3), "leads": leads}
    return Design.model_validate(made)


def _wiring(dice: random.Random) -> dict[str, Any]:
    def perhaps(value: Any) -> Any:
        return value if dice.random() < 0.6 else None

    cable = {
        "length_m": round(dice.uniform(0.2, 8), 2),
        "size": perhaps(dice.choice([size.name for size in SIZES])),
        "leads": dice.choice([1, 1, 2]),
        "installed": dice.choice(["in conduit or enclosed", "bundled", "in free air"]),
        "together": dice.randint(2, 20),
        "insulation_c": perhaps(dice.choice([60, 70, 75, 90, 105])),
        "ambient_c": perhaps(round(dice.uniform(10, 70))),
    }
    fuse = {
        "amps": dice.choice([5, 15, 40, 125]),
        "kind": perhaps(dice.choice([x.key for x in FUSE_KINDS])),
        "from_post_m": perhaps(round(dice.uniform(0, 1), 2)),
    }
    return {
        "cable_mohm": None, "cable": perhaps(cable), "fuse": perhaps(fuse),
        "connector": perhaps(dice.choice([x.key for x in CONNECTORS])),
        "bus_bar_a": perhaps(dice.choice([50.0, 300.0])), "shunt_a": perhaps(100.0),
    }  # fmt: skip


def _stage(dice: random.Random, name: str, rail: str, volts: float) -> dict[str, Any]:
    base: dict[str, Any] = {"id": name, "name": name, "rail": rail}
    cable = {"cable_mohm": round(dice.uniform(0.5, 8), 2)}
    window = {"accepts": {"least_v": volts * 0.3, "most_v": volts * 3}}
    kind = dice.choice(["inverter", "buck", "boost", "buck-boost", "linear", "feed"])
    if kind == "feed":
        return base | cable | {"kind": "feed"}
    if kind == "inverter":
        return base | cable | window | {
            "kind": "inverter", "nominal_v": volts, "idle_w": round(dice.uniform(2, 20), 1),
            "continuous_w": 800.0,
        }  # fmt: skip
    set_v = {"buck": 0.5, "linear": 0.6, "boost": 2.6, "buck-boost": 1.05}[kind] * volts
    two = {"part_load": {"load_share": 0.3, "efficiency": 0.94}} if dice.random() < 0.5 else {}
    return base | cable | window | two | {
        "kind": "converter", "topology": kind, "set_v": set_v, "continuous_a": 20.0,
        "full_load": {"load_share": 1.0, "efficiency": round(dice.uniform(0.85, 0.97), 3)},
        "quiescent_w": round(dice.uniform(0.05, 1), 2),
        "droop_v": 0.0 if kind == "linear" else round(dice.choice([0.0, 0.05]) * set_v, 3),
    }  # fmt: skip


def _load(
    dice: random.Random, name: str, rail: str, volts: float, kind: str, *, cut_outs: bool
) -> dict[str, Any]:
    begin = round(dice.uniform(0, 23), 2)
    when = dice.choice(
        [
            {"kind": "hours", "hours": round(dice.uniform(0.5, 24), 2)},
            {"kind": "at", "at_h": begin, "hours": round(dice.uniform(0.2, 5), 2)},
            {
                "kind": "windows",
                "windows": [{"from_h": begin, "to_h": round((begin + 4) % 24, 2)}],
            },
        ]
    )
    load: dict[str, Any] = {
        "id": name, "name": name, "rail": rail, "supply": {"kind": kind, "volts": volts},
        "demand": {"kind": "watts", "watts": round(dice.uniform(3, 60), 1)}, "when": when,
        "duty": dice.choice([1.0, 0.4]), "standby_w": dice.choice([0.0, 0.8]),
        "provenance": dice.choice(["measured", "label", "guess"]),
        "priority": dice.choice(["must", "nice"]), "once": cut_outs and name.endswith("3"),
    }  # fmt: skip
    if kind == "dc":
        load["draw"] = dice.choice(["constant power", "constant current", "resistive"])
        load["cable_mohm"] = round(dice.uniform(2, 60), 1)
        if cut_outs and dice.random() < 0.6:
            cut_v = volts * dice.uniform(0.9, 1.03)
            load["window"] = {"cut_out_v": cut_v, "most_v": volts * 1.6}
    return load

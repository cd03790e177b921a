"""Random stations grown from random sources, from a seed."""

import random
from typing import Any

from graveljar.core.model import Design


def random_growing(seed: int) -> Design:
    """A station with loads, fed by a bank or a vehicle, straight or through a converter."""
    dice = random.Random(seed)
    source, volts = _source(dice)
    stages, rail, arrives = [], source["id"], volts
    if dice.random() < 0.7:
        rail, arrives = "boost", dice.choice([20.0, 24.0, 30.0, 36.0, 48.0])
        stages.append(_converter(dice, source["id"], arrives))
    loads: list[dict[str, Any]] = [
        _load(dice, f"l{n}", dice.choice([("port", 12.0), ("sockets", 230.0)]))
        for n in range(dice.randint(1, 4))
    ]
    if dice.random() < 0.4:
        # Something else on the same rail leaves the link less.
        loads.append(_load(dice, "beside", (rail, arrives)))
    link = {
        "id": "lead", "rail": rail, "to": "station", "input": "dc-in",
        "mode": dice.choice(["Low", "High"]), "cable_mohm": round(dice.uniform(0, 60), 1),
        "fuse": dice.choice([None, None, {"amps": dice.uniform(3, 20)}]),
    }  # fmt: skip
    return Design.model_validate(
        {
            "setting": {"ambient_c": 25.0, "horizon_h": 120.0, "starts_at_h": 0.0},
            "stores": [_station(dice), source],
            "stages": stages,
            "links": [link],
            "loads": loads,
        }
    )


def _source(dice: random.Random) -> tuple[dict[str, Any], float]:
    if dice.random() < 0.2:
        begin = dice.uniform(0, 20)
        spans = [{"from_h": begin, "to_h": begin + dice.uniform(1, 3)}]
        return {
            "kind": "vehicle", "id": "source", "running_v": dice.uniform(12.5, 14.4),
            "limit_a": dice.uniform(8, 60), "runs": {"kind": "windows", "windows": spans},
        }, 13.0  # fmt: skip
    series = dice.choice([1, 1, 2])
    battery = {"volts": 12.8, "ah": dice.uniform(40, 200), "bms_a": dice.uniform(10, 100)}
    return {
        "id": "source", "battery": battery, "series": series,
        "reserve": round(dice.uniform(0, 0.4), 2),
    }, 12.8 * series  # fmt: skip


def _converter(dice: random.Random, rail: str, volts: float) -> dict[str, Any]:
    return {
        "kind": "converter", "id": "boost", "rail": rail, "topology": "buck-boost",
        "accepts": {"least_v": 9.0, "most_v": 60.0}, "set_v": volts,
        "continuous_a": dice.uniform(3, 20), "parallel": dice.randint(1, 2),
        "full_load": {"load_share": 1.0, "efficiency": dice.uniform(0.85, 0.97)},
        "droop_v": round(dice.uniform(0, 2), 2), "quiescent_w": round(dice.uniform(0, 2), 2),
        "documented": dice.random() < 0.7,
        "fuse": dice.choice([None, {"amps": dice.uniform(10, 60)}]),
        "cable_mohm": round(dice.uniform(0, 15), 1),
        "switched": dice.choice(["always on", "on with its loads"]),
    }  # fmt: skip


def _station(dice: random.Random) -> dict[str, Any]:
    outlets = [
        {"kind": "ac", "id": "sockets", "continuous_w": 600.0, "idle_w": dice.uniform(0, 12)},
        {"kind": "dc", "id": "port", "gives": "regulated", "volts": 12.6, "amps": 20.0},
    ]
    into = {
        "id": "dc-in", "accepts": {"least_v": 10.0, "most_v": 65.0},
        "most_w": dice.uniform(60, 500),
        "modes": [{"name": "Low", "amps": dice.uniform(3, 8)},
                  {"name": "High", "amps": dice.uniform(8, 20)}],
    }  # fmt: skip
    return {
        "kind": "station", "id": "station", "label_wh": dice.uniform(200, 2000),
        "cells": dice.choice([4, 8, 16]), "usable_share": round(dice.uniform(0.8, 1), 2),
        "idle_w": dice.uniform(0, 8), "charge_efficiency": round(dice.uniform(0.85, 1), 2),
        "taper_from": round(dice.uniform(0.7, 0.95), 2), "most_in_w": dice.uniform(100, 600),
        "starts_at": round(dice.uniform(0.3, 1), 2), "pass_through": dice.random() < 0.8,
        "outlets": outlets, "inputs": [into],
    }  # fmt: skip


def _load(dice: random.Random, name: str, place: tuple[str, float]) -> dict[str, Any]:
    rail, volts = place
    begin = dice.uniform(0, 20)
    spans = [{"from_h": begin, "to_h": min(begin + dice.uniform(0.5, 10), 24)}]
    return {
        "id": name, "name": name, "rail": rail,
        "supply": {"kind": "ac" if volts > 200 else "dc", "volts": volts},
        "demand": {"kind": "watts", "watts": dice.uniform(5, 120)},
        "window": None if volts > 200 else {"cut_out_v": 5.0, "most_v": 70.0},
        "when": dice.choice([{"kind": "hours", "hours": 24.0},
                             {"kind": "windows", "windows": spans}]),
    }  # fmt: skip

"""How large a new stage has to be, and the window it should accept."""

import math
from bisect import bisect_left
from typing import Final

from graveljar.core.components.load import one_start_w, one_w, running_w
from graveljar.core.model import Converter, Load
from graveljar.core.network.rails import Rail
from graveljar.core.text import number

# Where the trade changes to the next system voltage, by power drawn. Common practice.
SYSTEM_VOLTS: Final = ((12.0, 2_000.0), (24.0, 4_000.0), (48.0, math.inf))
# The same as limits: below so many volts, up to so many watts. [V], [W]
COMFORT_W: Final = ((20.0, 2_000.0), (40.0, 4_000.0))
# Continuous watts inverters are commonly sold with. Common practice.
COMMON_SIZES_W: Final = (
    150, 300, 500, 600, 800, 1000, 1200, 1500, 2000, 2500, 3000, 4000, 5000, 6000, 8000, 10000,
)  # fmt: skip
# Whose surge, twice that, a document may still name. [W]
MAX_INVERTER_W: Final = 50_000.0
# Amps converters are commonly sold with. Common practice. [A]
COMMON_AMPS: Final = (1, 2, 3, 5, 8, 10, 15, 20, 25, 30, 40, 50, 60, 80, 100, 150, 200, 300, 500)
# A regulator for one load carries so many times what it runs at. Ours.
FREE_FOR_STARTS: Final = 2.0
KINDS: Final = {"buck": "Buck", "boost": "Boost", "buck-boost": "Buck-boost", "linear": "Linear"}


def common_amps(amps: float) -> float:
    """The next common size, or the amps rounded up beyond the largest. [A]"""
    place = bisect_left(COMMON_AMPS, amps)
    return float(COMMON_AMPS[place] if place < len(COMMON_AMPS) else math.ceil(amps))


def common_watts(watts: float) -> float:
    """The next common inverter, the largest a document may name beyond them. [W]"""
    place = bisect_left(COMMON_SIZES_W, watts)
    if place < len(COMMON_SIZES_W):
        return float(COMMON_SIZES_W[place])
    return min(float(math.ceil(watts / 1000) * 1000), MAX_INVERTER_W)


def class_volts(parent: Rail) -> float:
    """The nominal volts of inverters made for a rail: 12, 24 or 48. [V]"""
    return min((v for v, _ in SYSTEM_VOLTS), key=lambda v: abs(parent.nominal_v / v - 1.07))


def inverter_window(parent: Rail) -> dict[str, float]:
    """A window a little wider than what arrives, as makers print for their class. [V]"""
    least_v = min(parent.low_v * 1.05, parent.nominal_v * 0.95)
    return {"least_v": round(least_v, 1), "most_v": round(parent.high_v * 1.1, 1)}


def converter_window(parent: Rail) -> dict[str, float]:
    """A window well wider than what arrives. [V]"""
    return {"least_v": round(parent.low_v * 0.8, 1), "most_v": round(parent.high_v * 1.5, 1)}


def topology_for(parent: Rail, volts: float) -> str:
    """Which converter makes `volts` of whatever arrives, from empty to full. [V]"""
    if parent.low_v > volts:
        return "buck"
    return "boost" if parent.high_v <= volts else "buck-boost"


def converter_for(parent: Rail, volts: float, amps: float, new_id: str) -> dict[str, object]:
    """A converter that makes `volts` on a rail, as a document holds it. [V], [A]"""
    kind = topology_for(parent, volts)
    return Converter().model_dump(mode="json") | {
        "id": new_id,
        "name": f"{KINDS[kind]} {number(volts)} V {number(amps)} A",
        "rail": parent.id,
        "topology": kind,
        "accepts": converter_window(parent),
        "set_v": volts,
        "continuous_a": amps,
        "full_load": {"load_share": 1.0, "efficiency": 0.93},
        "provenance": "rule of thumb",
    }


def regulator_for(
    parent: Rail, load: Load, new_id: str, assumed: dict[str, float]
) -> dict[str, object]:
    """A regulator for one load: steady volts, amps for its start and a few times its running.

    A twentieth above the load's label; more if it would not restart at that.
    """
    set_v = load.supply.volts * 1.05
    if load.window is not None:
        back_v = load.window.restarts_v or load.window.cut_out_v * 1.05
        set_v = min(max(set_v, back_v * 1.02), load.window.most_v)
    running, start = running_w(load), one_start_w(load, assumed)
    start += running - one_w(load)
    amps = common_amps(max(FREE_FOR_STARTS * running, start) / load.supply.volts)
    return converter_for(parent, load.supply.volts, amps, new_id) | {
        "name": f"Regulator {number(load.supply.volts)} V",
        "topology": "buck-boost",
        "set_v": round(set_v, 2),
    }

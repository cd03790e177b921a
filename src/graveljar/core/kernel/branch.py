"""The current of one branch at some volts, and how it answers to them."""

import math
from typing import Any, Final

from graveljar.core.kernel.compiled import inlined
from graveljar.core.kernel.records import CURRENT, POWER

# Stands for "no operating point": no current of ours is negative.
NONE: Final = -1.0


@inlined
def constant_power(watts: float, ohm: float, volts: float) -> tuple[float, float]:
    """Current of a constant-power device behind a resistance, and its slope. [A], [A/V]

    P = I (V - I R): the smaller root, where such a device works. `NONE` where there is no
    real root, the volts having collapsed.
    """
    inside = volts * volts - 4.0 * ohm * watts
    if volts <= 0.0 or inside <= 1e-18 * volts * volts:
        return NONE, 0.0
    root = math.sqrt(inside)
    amps = 2.0 * watts / (volts + root)
    return amps, -amps / root


@inlined
def load_current(
    draw: int, watts: float, nominal_v: float, ohm: float, volts: float
) -> tuple[float, float]:
    """Current of a load at its rail's volts, and its slope. [A], [A/V]

    `NONE` where no volts would be left at the load.
    """
    if draw == POWER:
        return constant_power(watts, ohm, volts)
    if draw == CURRENT:
        current = watts / nominal_v
        return (current, 0.0) if current * ohm < volts else (NONE, 0.0)
    siemens = 1.0 / (nominal_v * nominal_v / watts + ohm)
    return volts * siemens, siemens


@inlined
def drawn(rail: Any, watts: float) -> float:
    """Power a stage draws for what it gives: p0 + k1 P + k2 P². [W]

    Its loss is known up to its surge; what is beyond counts at the efficiency it has there.
    """
    if watts > rail.peak_w:
        full = rail.p0 + rail.k1 * rail.peak_w + rail.k2 * rail.peak_w * rail.peak_w
        return float(full * watts / rail.peak_w)
    return float(rail.p0 + rail.k1 * watts + rail.k2 * watts * watts)


@inlined
def own_draw(stores: Any, s: int, fed_w: float) -> float:
    """What an awake store draws itself; with its outlets off no more than it is fed. [W]"""
    if stores[s].on:
        return float(stores[s].idle_w)
    return float(min(stores[s].idle_w, fed_w))

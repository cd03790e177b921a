"""The current of one branch at some volts, and how it answers to them."""

import math
from typing import Any, Final

from graveljar.core.kernel.compiled import inlined
from graveljar.core.kernel.formulas import stage_draw
from graveljar.core.kernel.records import CURRENT, POWER

# Stands for "no operating point": no current of ours is negative.
NONE: Final = -1.0

_stage_draw = inlined(stage_draw)


@inlined
def constant_power(watts: float, ohm: float, volts: float) -> tuple[float, float]:
    """Current of a constant-power device behind a resistance, and its slope.

    The smaller root of P = I (V - I R), where such a device works.

    Parameters
    ----------
    watts : Power of the device, >= 0. [W]
    ohm : Resistance before it, >= 0. [Ohm]
    volts : Before the resistance, > 0. [V]

    Returns
    -------
    Current and its slope by the volts; `NONE` where there is no real root: the voltage has
    collapsed. [A], [A/V]

    Notes
    -----
    Definition; the limit is E²/4R.

    Examples
    --------
    >>> amps, _ = constant_power(800.0, 0.003, 12.0)
    >>> round(amps * (12.0 - 0.003 * amps), 6)
    800.0
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
    """Current of a load at its rail's volts, and its slope.

    Parameters
    ----------
    draw : POWER, CURRENT or RESISTIVE.
    watts : At nominal volts, >= 0. [W]
    nominal_v : Of the load's label, > 0. [V]
    ohm : Resistance of its cable, >= 0. [Ohm]
    volts : Of its rail, > 0. [V]

    Returns
    -------
    Current and its slope by the volts; `NONE` where no volts would be left at the load. [A], [A/V]

    Notes
    -----
    Definition.

    Examples
    --------
    >>> load_current(CURRENT, 60.0, 12.0, 0.0, 13.4)
    (5.0, 0.0)
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
    """Power that a stage draws for what it supplies, as `stage_draw`.

    Parameters
    ----------
    rail : Record of the rail that the stage makes.
    watts : Supplied, >= 0. [W]

    Returns
    -------
    Power drawn, >= `watts`. [W]

    Notes
    -----
    Source: King et al., SAND2007-5036.

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> rails[0].p0, rails[0].k1, rails[0].k2 = 10.0, 1.1, 0.0
    >>> round(drawn(rails[0], 100.0), 6)
    120.0
    """
    return float(_stage_draw(rail.p0, rail.k1, rail.k2, rail.peak_w, watts))


@inlined
def own_draw(stores: Any, s: int, fed_w: float) -> float:
    """Own draw of an awake store; with its outlets off, no more than it receives.

    Parameters
    ----------
    stores : Records of the stores, shape (S,).
    s : Index of the store, 0 to S - 1.
    fed_w : Power that it receives at present, >= 0. [W]

    Returns
    -------
    Own draw, >= 0. [W]

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> stores[0].idle_w = 3.0
    >>> own_draw(stores, 0, 0.0)
    3.0
    """
    if stores[s].on:
        return float(stores[s].idle_w)
    return float(min(stores[s].idle_w, fed_w))

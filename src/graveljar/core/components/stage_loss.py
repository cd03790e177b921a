"""Stages: what they draw for what they give, idle and asleep, and what they can start."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Final

from graveljar.core.kernel.formulas import stage_draw
from graveljar.core.model import Converter, Design, Efficiency, Inverter

# Even with stated seconds; common practice.
MAX_SURGE_FACTOR: Final = 3.0
# Time constants R C after which capacitors count as charged; common practice.
CHARGED_AFTER: Final = 5.0
# Inverters from this size on, and above 12 V half as large, are pre-charged. Ours. [W]
LARGE_W: Final = 2_000.0
LARGE_AT_MORE_V: Final = 1_000.0


@dataclass(frozen=True)
class Loss:
    """Power drawn for power given: P_dc = p0 + k1 P_ac + k2 P_ac^2. [W], [1], [1/W]

    Source: King et al., SAND2007-5036. `agreed` is false when the label's figures contradict
    one another (they would give more than they draw), and the worse efficiency stands for all.
    Beyond `most_w`, its surge, it has the efficiency that it has there: an overload trips.
    """

    p0: float
    k1: float
    k2: float
    agreed: bool = True
    most_w: float = math.inf

    def dc_w(self, ac_w: float) -> float:
        """Power drawn from the battery while `ac_w` is given. [W]"""
        return float(stage_draw(self.p0, self.k1, self.k2, self.most_w, ac_w))


def calibrate(inverter: Inverter) -> Loss:
    """Loss of an inverter from its idle watts and its efficiencies at two loads.

    Parameters
    ----------
    inverter : As on its label.

    Returns
    -------
    Coefficients of P_dc = p0 + k1 P + k2 P².

    Notes
    -----
    Source: King et al., SAND2007-5036.

    Examples
    --------
    >>> loss = calibrate(Inverter(continuous_w=1500, idle_w=16))
    >>> round(450 / loss.dc_w(450), 4), round(1500 / loss.dc_w(1500), 4)
    (0.91, 0.87)
    """
    loss = _through(inverter.idle_w, inverter.continuous_w, inverter.part_load, inverter.full_load)
    most_w = min(inverter.surge_w, MAX_SURGE_FACTOR * inverter.continuous_w)
    return replace(loss, most_w=max(most_w, inverter.continuous_w))


def loss_of(stage: Inverter | Converter) -> Loss:
    """Loss of a stage; of parallel converters, all together.

    A converter with one efficiency has it at all loads, its quiescent draw on top; one with
    two has a quadratic loss like an inverter. A linear one draws the current that it supplies.

    Parameters
    ----------
    stage : Inverter or converter, as on its label.

    Returns
    -------
    Coefficients of P_dc = p0 + k1 P + k2 P².

    Notes
    -----
    Source: King et al., SAND2007-5036; for linear ones the definition.

    Examples
    --------
    >>> loss_of(Converter(set_v=36, continuous_a=10, quiescent_w=0)).dc_w(360)  # 360 / 0.92
    391.304...
    """
    if isinstance(stage, Inverter):
        return calibrate(stage)
    count = stage.parallel
    if stage.topology == "linear":
        return Loss(stage.quiescent_w * count, 1.0, 0.0)
    if stage.part_load is None:
        return Loss(stage.quiescent_w * count, 1 / stage.full_load.efficiency, 0.0)
    rated_w = stage.set_v * stage.continuous_a
    one = _through(stage.quiescent_w, rated_w, stage.part_load, stage.full_load)
    return Loss(one.p0 * count, one.k1, one.k2 / count, agreed=one.agreed)


def _through(idle_w: float, rated_w: float, part: Efficiency, full: Efficiency) -> Loss:
    points = []
    for point in (part, full):
        given_w = point.load_share * rated_w
        points.append((given_w, (given_w / point.efficiency - idle_w) / given_w))
    (low_w, low), (high_w, high) = points
    k2 = (high - low) / (high_w - low_w)
    # A resistance heats by the square and never less: where the label would have it fall, the
    # worse ratio stands for all loads.
    loss = Loss(idle_w, low - k2 * low_w, k2) if k2 >= 0 else Loss(idle_w, low, 0.0)
    if _gives_no_more_than_it_draws(loss, rated_w):
        return loss
    return Loss(idle_w, 1 / min(part.efficiency, full.efficiency), 0.0, agreed=False)


def _gives_no_more_than_it_draws(loss: Loss, rated_w: float) -> bool:
    # The loss itself, p0 + (k1 - 1) P + k2 P², at both ends and at its lowest point between.
    lowest = -(loss.k1 - 1) / (2 * loss.k2) if loss.k2 else 0.0
    places = (0.0, rated_w, lowest) if 0 < lowest < rated_w else (0.0, rated_w)
    return loss.k1 > 0 and all(loss.dc_w(ac_w) >= ac_w * (1 - 1e-12) for ac_w in places)


def trusted_surge_w(inverter: Inverter, factor: float) -> float:
    """Surge to count on: at most `factor` x continuous, 3 x if a datasheet states the seconds.

    A lower printed surge is believed: makers do not print less than they have.

    Parameters
    ----------
    inverter : As on its label.
    factor : Trusted multiple of the continuous watts, >= 1. [1]

    Returns
    -------
    Surge. [W]

    Notes
    -----
    Common practice.

    Examples
    --------
    >>> trusted_surge_w(Inverter(continuous_w=1500, surge_w=6000), 2.0)
    3000.0
    """
    most = MAX_SURGE_FACTOR if inverter.surge_s is not None else factor
    return min(inverter.surge_w, most * inverter.continuous_w)


@dataclass(frozen=True)
class ConverterAmps:
    """Amps a converter gives where it stands, all parallel ones together. [A], [1]

    Up to `limit_a` it gives what is drawn, by its label or as measured; `good_a` is what it is
    trusted with continuously.
    """

    trust: float
    derated: float
    limit_a: float
    good_a: float
    peak_a: float


def converter_amps(
    converter: Converter, design: Design, assumed: dict[str, float]
) -> ConverterAmps:
    """Continuous and peak output current of a converter, less the derating for heat.

    The label of an undocumented one limits its current all the same; only half of it is advised
    continuously. Without a stated peak it has none above its limit.

    Parameters
    ----------
    converter : As on its label, or measured.
    design : Its hottest ambient temperature counts.
    assumed : Assumptions by key; `undocumented_trust` is used.

    Returns
    -------
    Limit, advised and peak current, and the factors behind them. [A]

    Notes
    -----
    Common practice.

    Examples
    --------
    >>> converter_amps(Converter(continuous_a=10), Design(), {"undocumented_trust": 0.5}).limit_a
    10.0
    """
    trust = 1.0 if converter.documented else assumed["undocumented_share"]
    above_c = max(design.setting.hottest_c - converter.knee_c, 0.0)
    derated = max(1.0 - converter.derate_per_c * above_c, 0.0)
    here = converter.parallel * derated
    limit_a = (converter.measured_a or converter.continuous_a) * here
    good_a = converter.continuous_a * here * trust
    peak_a = max((converter.peak_a or 0.0) * here, limit_a)
    return ConverterAmps(trust, derated, limit_a, good_a, peak_a)


def is_large(inverter: Inverter) -> bool:
    """Whether an inverter's capacitors are large enough to need pre-charging.

    Parameters
    ----------
    inverter : As on its label.

    Returns
    -------
    True for a large one.

    Notes
    -----
    Common practice.

    Examples
    --------
    >>> is_large(Inverter(continuous_w=150))
    False
    """
    least_w = LARGE_AT_MORE_V if inverter.nominal_v > 16.0 else LARGE_W
    return inverter.continuous_w >= least_w


def precharge_s(assumed: Mapping[str, float]) -> float:
    """Seconds in which an inverter's capacitors are charged through a resistor: 5 R C.

    Parameters
    ----------
    assumed : Assumptions by key; `precharge_ohm` and `inverter_mf` are used. [Ohm, mF]

    Returns
    -------
    Time, > 0. [s]

    Notes
    -----
    Common practice: after 5 R C less than 1 % of the voltage is missing.

    Examples
    --------
    >>> precharge_s({"precharge_ohm": 20.0, "inverter_mf": 10.0})
    1.0
    """
    return CHARGED_AFTER * assumed["precharge_ohm"] * assumed["inverter_mf"] / 1000

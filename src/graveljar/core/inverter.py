"""An inverter: what it draws for what it gives, idle and asleep, and what it can start."""

from dataclasses import dataclass
from typing import Final

from graveljar.core.document import Inverter

# Even with stated seconds; common practice.
MOST_SURGE_FACTOR: Final = 3.0


@dataclass(frozen=True)
class Loss:
    """Power drawn for power given: P_dc = p0 + k1 P_ac + k2 P_ac^2. [W], [1], [1/W]

    Source: King et al., SAND2007-5036. `agreed` is false when the label's figures contradict
    one another (they would give more than they draw), and the worse efficiency stands for all.
    """

    p0: float
    k1: float
    k2: float
    agreed: bool = True

    def dc_w(self, ac_w: float) -> float:
        """Power drawn from the battery while `ac_w` is given. [W]"""
        return self.p0 + self.k1 * ac_w + self.k2 * ac_w * ac_w


def calibrate(inverter: Inverter) -> Loss:
    """Loss from idle watts and the efficiencies at two loads.

    Examples
    --------
    >>> loss = calibrate(Inverter(continuous_w=1500, idle_w=16))
    >>> round(450 / loss.dc_w(450), 4), round(1500 / loss.dc_w(1500), 4)
    (0.91, 0.87)
    """
    points = []
    for point in (inverter.part_load, inverter.full_load):
        ac_w = point.load_share * inverter.continuous_w
        points.append((ac_w, (ac_w / point.efficiency - inverter.idle_w) / ac_w))
    (low_w, low), (high_w, high) = points
    k2 = (high - low) / (high_w - low_w)
    loss = Loss(inverter.idle_w, low - k2 * low_w, k2)
    if _gives_no_more_than_it_draws(loss, inverter.continuous_w):
        return loss
    worse = min(inverter.part_load.efficiency, inverter.full_load.efficiency)
    return Loss(inverter.idle_w, 1 / worse, 0.0, agreed=False)


def _gives_no_more_than_it_draws(loss: Loss, rated_w: float) -> bool:
    # The loss itself, p0 + (k1 - 1) P + k2 P^2, at both ends and at its lowest point between;
    # a drawn power that falls with the load is wrong too.
    ends = (0.0, rated_w)
    lowest = -(loss.k1 - 1) / (2 * loss.k2) if loss.k2 else 0.0
    places = (*ends, lowest) if 0 < lowest < rated_w else ends
    rises = min(loss.k1, loss.k1 + 2 * loss.k2 * rated_w) > 0
    return rises and all(loss.dc_w(ac_w) >= ac_w * (1 - 1e-12) for ac_w in places)


def asleep(inverter: Inverter, ac_w: float) -> bool:
    """Whether search mode lets it sleep while the AC side asks for `ac_w`."""
    return inverter.sleep is not None and ac_w < inverter.sleep.threshold_w


def trusted_surge_w(inverter: Inverter, factor: float) -> float:
    """Surge to count on: at most `factor` x continuous, 3 x if a datasheet states seconds.

    A printed surge below that is believed: makers do not print less than they have. [W]
    """
    most = MOST_SURGE_FACTOR if inverter.surge_s is not None else factor
    return min(inverter.surge_w, most * inverter.continuous_w)

"""What a stage is asked against what it carries, by labels: once, for rules and search."""

from dataclasses import dataclass

from graveljar.core.analysis.peak_demand import RailDemand
from graveljar.core.components.stage_loss import ConverterAmps, trusted_surge_w
from graveljar.core.limits import exceeds
from graveljar.core.model import Converter, Inverter


@dataclass(frozen=True)
class StageLoad:
    """What a stage is asked, running and at the highest start, and what it carries.

    Of an inverter watts, or volt-amperes where they are more; of a converter amps of its output.
    """

    running: float
    rated: float
    start: float
    peak: float

    @property
    def share(self) -> float:
        """Running load over the rating. [1]"""
        return self.running / self.rated

    @property
    def overloaded(self) -> bool:
        """Whether more runs together than it is rated for."""
        return exceeds(self.running, self.rated)

    @property
    def start_too_high(self) -> bool:
        """Whether the highest start takes more than its peak."""
        return exceeds(self.start, self.peak)


def inverter_load(asked: RailDemand, inverter: Inverter, surge_factor: float) -> StageLoad:
    """The load of an inverter.

    Parameters
    ----------
    asked : The highest demand on its output. [W], [VA]
    inverter : As on its label.
    surge_factor : Surge to count on over continuous watts, where the label states no seconds. [1]

    Returns
    -------
    Its load in watts or volt-amperes; a start in watts.

    Notes
    -----
    An inverter must carry the volt-amperes; a printed surge is trusted up to a factor. Common
    practice.

    Examples
    --------
    >>> from graveljar.core.analysis.peak_demand import NOTHING
    >>> label = Inverter(continuous_w=1000.0, surge_w=3000.0)
    >>> inverter_load(NOTHING, label, 2.0).peak
    2000.0
    """
    return StageLoad(
        max(asked.watts, asked.volt_amps),
        inverter.continuous_w,
        asked.start.watts if asked.start else 0.0,
        trusted_surge_w(inverter, surge_factor),
    )


def converter_load(asked: RailDemand, converter: Converter, amps: ConverterAmps) -> StageLoad:
    """The load of a converter.

    Parameters
    ----------
    asked : The highest demand on its output. [W]
    converter : As on its label, or measured.
    amps : What it gives at its temperature. [A]

    Returns
    -------
    Its load in amps of its output.

    Notes
    -----
    I = P / V.

    Examples
    --------
    >>> from graveljar.core.analysis.peak_demand import NOTHING
    >>> amps = ConverterAmps(trust=1.0, derated=1.0, limit_a=10.0, good_a=10.0, peak_a=12.0)
    >>> converter_load(NOTHING, Converter(set_v=5.0), amps).rated
    10.0
    """
    start_w = asked.start.watts if asked.start else 0.0
    return StageLoad(
        asked.watts / converter.set_v, amps.limit_a, start_w / converter.set_v, amps.peak_a
    )

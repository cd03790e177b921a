"""What a load draws from its rail: through its mains adapter, by the rail's volts and wave."""

from graveljar.core.components.load import HEATED_BY_STEPS
from graveljar.core.model import Inverter, Load
from graveljar.core.network.rails import Rail


def via_adapter(load: Load, rails: dict[str, Rail]) -> bool:
    """Whether a DC appliance runs through its mains adapter on an AC rail."""
    return load.supply.kind == "dc" and load.rail is not None and rails[load.rail].kind == "ac"


def at_rail(watts: float, load: Load, rails: dict[str, Rail], assumed: dict[str, float]) -> float:
    """Power drawn from the load's rail. [W]

    More than it uses if an adapter is between, or a stepped wave heats its motor; a resistance on
    mains follows the square of the volts that are there.
    """
    if via_adapter(load, rails):
        return watts / assumed["adapter_efficiency"]
    source = rails[load.rail].source if load.rail is not None else None
    if not isinstance(source, Inverter):
        return watts
    if load.draw == "resistive":
        return watts * (source.output_v / load.supply.volts) ** 2
    if source.waveform != "pure sine" and load.nature in HEATED_BY_STEPS:
        return watts * (1 + assumed["stepped_motor_extra"])
    return watts

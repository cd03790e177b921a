"""Does the voltage fit? What arrives, from empty to full on charge, on what is accepted."""

from dataclasses import dataclass
from typing import Literal

from graveljar.core.bank import Rest
from graveljar.core.document import Design, Inverter, Load

Fit = Literal["fits", "above its maximum", "never reaches its minimum", "other nominal volts"]

# A mains appliance takes a tenth more or less than its label (220-240 V ranges; IEC 60038
# allows a supply to stray by a tenth). From memory.
MAINS_TOLERANCE = 0.1


@dataclass(frozen=True)
class Joint:
    """A place where volts meet. `least_v`, `most_v` are accepted; None where unknown. [V]"""

    subject: str
    name: str
    arrives_low_v: float
    arrives_high_v: float
    least_v: float
    most_v: float
    fit: Fit


def fit_inverter(rest: Rest, inverter: Inverter) -> Fit:
    """Judge a bank against an inverter; the full-charge volts decide, never the nominal."""
    if rest.full_v > inverter.accepts.most_v:
        return "above its maximum"
    if rest.full_v < inverter.accepts.least_v:
        return "never reaches its minimum"
    if not rest.empty_v <= inverter.nominal_v <= rest.full_v:
        return "other nominal volts"
    return "fits"


def inverter_joint(rest: Rest, inverter: Inverter) -> Joint:
    """The joint between a bank and its inverter."""
    return Joint(
        subject=inverter.id,
        name=inverter.name,
        arrives_low_v=rest.empty_v,
        arrives_high_v=rest.full_v,
        least_v=inverter.accepts.least_v,
        most_v=inverter.accepts.most_v,
        fit=fit_inverter(rest, inverter),
    )


LoadFit = Literal["fits", "needs AC", "too many volts", "too few volts", "no such volts"]


def fit_load(design: Design, rest: Rest, load: Load) -> LoadFit:
    """Judge an appliance against its rail by nominal volts.

    A DC appliance on the AC rail runs through its own adapter and fits.
    """
    inverter = design.inverter
    if inverter is not None and load.rail == inverter.id:
        if load.supply.kind == "dc":
            return "fits"
        stray = abs(load.supply.volts - inverter.output_v) / inverter.output_v
        return "fits" if stray <= MAINS_TOLERANCE else "no such volts"
    if load.supply.kind == "ac":
        return "needs AC"
    if load.supply.volts < rest.empty_v:
        return "too many volts"
    return "fits" if load.supply.volts <= rest.full_v else "too few volts"

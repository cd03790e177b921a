"""Does the voltage fit? What arrives, from empty to full on charge, on what is accepted."""

from typing import Final, Literal

from graveljar.core.limits import exceeds
from graveljar.core.model import Converter, Feed, Inverter, Load, Stage
from graveljar.core.network.rails import Rail
from graveljar.core.tables.dc_windows import UsualWindow, usual_window

Fit = Literal[
    "fits",
    "above its maximum",
    "above its output",
    "never reaches its minimum",
    "other nominal volts",
]
LoadFit = Literal[
    "fits",
    "check its label",
    "not joined",
    "above its maximum",
    "too many volts",
    "too few volts",
    "no such volts",
]
# Fits with which an appliance is counted as running.
RUNS: Final[tuple[LoadFit, ...]] = ("fits", "check its label")

# A mains appliance takes a tenth more or less than its label (220-240 V ranges; IEC 60038
# allows a supply to stray by a tenth). From memory.
MAINS_TOLERANCE: Final = 0.1
# A source within a twentieth of its label is as labelled. Common practice.
LABEL_TOLERANCE: Final = 0.05


def least_input_v(stage: Inverter | Converter) -> float:
    """Volts below which a stage cuts out: its own, or what a step-down has to give. [V]"""
    if isinstance(stage, Converter) and stage.topology in ("buck", "linear"):
        return max(stage.accepts.least_v, stage.set_v)
    return stage.accepts.least_v


def fit_stage(rails: dict[str, Rail], stage: Stage) -> Fit:
    """Judge what arrives at a stage; the full-charge volts decide, never the nominal."""
    parent = rails[stage.rail]
    if isinstance(stage, Feed):
        return "fits"
    if parent.high_v > stage.accepts.most_v:
        return "above its maximum"
    if parent.high_v < least_input_v(stage):
        return "never reaches its minimum"
    if isinstance(stage, Inverter) and not _near(parent, stage.nominal_v):
        return "other nominal volts"
    if isinstance(stage, Converter) and stage.topology == "boost" and parent.high_v > stage.set_v:
        return "above its output"
    return "fits"


def fit_load(rails: dict[str, Rail], load: Load) -> LoadFit:
    """Judge an appliance against its rail: by its window if it states one, else by the usual one.

    A DC appliance on an AC rail runs through its own adapter and fits.
    """
    if load.rail is None:
        return "not joined"
    rail = rails[load.rail]
    return _fit_ac(rail, load) if rail.kind == "ac" else _fit_dc(rail, load)


def accepted_window(load: Load) -> UsualWindow:
    """What an appliance is taken to accept that states no window. [V]"""
    volts = load.supply.volts
    if load.supply.kind == "dc":
        return usual_window(volts, load.nature)
    high_v = volts * (1 + MAINS_TOLERANCE)
    return UsualWindow(volts * (1 - MAINS_TOLERANCE), high_v, high_v)


def _fit_ac(rail: Rail, load: Load) -> LoadFit:
    if load.supply.kind == "dc":
        return "fits"
    stray = abs(load.supply.volts - rail.nominal_v) / rail.nominal_v
    return "fits" if stray <= MAINS_TOLERANCE else "no such volts"


def _fit_dc(rail: Rail, load: Load) -> LoadFit:
    if load.window is not None:
        if rail.high_v > load.window.most_v:
            return "above its maximum"
        return "too few volts" if rail.high_v < load.window.cut_out_v else "fits"
    usual = usual_window(load.supply.volts, load.nature)
    if exceeds(rail.high_v, usual.most_v):
        return "too many volts"
    if rail.high_v < usual.least_v:
        return "too few volts"
    return "check its label" if exceeds(rail.high_v, usual.fits_to_v) else "fits"


def _near(rail: Rail, volts: float) -> bool:
    """Whether nominal volts are among those of a rail, give or take the label."""
    low_v = rail.low_v * (1 - LABEL_TOLERANCE)
    return low_v <= volts <= rail.high_v * (1 + LABEL_TOLERANCE)

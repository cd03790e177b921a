"""The design document, version 3: what a user plans, and nothing computed.

Stores and stages each make a rail named by their id; a stage or a load hangs on one rail.
Rails form trees with a store at each root.
"""

from graveljar.core.document.base import LEAST, Part, Provenance, ShelfCopy, Window
from graveljar.core.document.design import MOST_LOADS, VERSION, Design, Goal, Setting
from graveljar.core.document.loads import (
    Anytime,
    AtTime,
    Between,
    ByAmps,
    ByEnergy,
    ByWatts,
    Load,
    LoadWindow,
    Nature,
    Span,
    StartFactor,
    StartMeasured,
    StartNone,
    Supply,
)
from graveljar.core.document.stages import (
    Converter,
    ConverterFigures,
    Efficiency,
    Feed,
    Inverter,
    InverterFigures,
    Sleep,
    Stage,
)
from graveljar.core.document.stores import Bank, Battery, BatteryFigures

__all__ = [
    "LEAST",
    "MOST_LOADS",
    "VERSION",
    "Anytime",
    "AtTime",
    "Bank",
    "Battery",
    "BatteryFigures",
    "Between",
    "ByAmps",
    "ByEnergy",
    "ByWatts",
    "Converter",
    "ConverterFigures",
    "Design",
    "Efficiency",
    "Feed",
    "Goal",
    "Inverter",
    "InverterFigures",
    "Load",
    "LoadWindow",
    "Nature",
    "Part",
    "Provenance",
    "Setting",
    "ShelfCopy",
    "Sleep",
    "Span",
    "Stage",
    "StartFactor",
    "StartMeasured",
    "StartNone",
    "Supply",
    "Window",
]

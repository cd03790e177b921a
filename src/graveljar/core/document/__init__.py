"""The design document, version 2: what a user plans, and nothing computed.

Stores and stages each make a rail named by their id; a stage or a load hangs on one rail.
Rails form trees with a store at each root.
"""

from graveljar.core.document.base import LEAST, Part, Provenance, Window
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
from graveljar.core.document.stages import Converter, Efficiency, Feed, Inverter, Sleep, Stage
from graveljar.core.document.stores import Bank, Battery

__all__ = [
    "LEAST",
    "MOST_LOADS",
    "VERSION",
    "Anytime",
    "AtTime",
    "Bank",
    "Battery",
    "Between",
    "ByAmps",
    "ByEnergy",
    "ByWatts",
    "Converter",
    "Design",
    "Efficiency",
    "Feed",
    "Goal",
    "Inverter",
    "Load",
    "LoadWindow",
    "Nature",
    "Part",
    "Provenance",
    "Setting",
    "Sleep",
    "Span",
    "Stage",
    "StartFactor",
    "StartMeasured",
    "StartNone",
    "Supply",
    "Window",
]

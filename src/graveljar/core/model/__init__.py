"""The design document, version 12: what a user plans.

Stores and stages each make a rail named by their id; a stage or a load is connected to one rail.
Rails form trees with a store at each root; links lead from a rail to another store.
"""

from graveljar.core.model.chargers import Charger, ChargerFigures
from graveljar.core.model.design import (
    MAX_LOADS,
    VERSION,
    Acknowledged,
    Design,
    Goal,
    MeasuredFigure,
    Setting,
    Store,
)
from graveljar.core.model.fields import (
    MIN_POSITIVE,
    Part,
    Plug,
    Polarity,
    Provenance,
    ShelfCopy,
    Window,
)
from graveljar.core.model.links import Link
from graveljar.core.model.loads import (
    Anytime,
    AtTime,
    Between,
    ByAmps,
    ByEnergy,
    ByWatts,
    Load,
    LoadWindow,
    Span,
    StartFactor,
    StartMeasured,
    StartNone,
    Supply,
)
from graveljar.core.model.sources import Generator, Mains, Panel, Sun, Week, WeekDay
from graveljar.core.model.stages import (
    Converter,
    ConverterFigures,
    Efficiency,
    Feed,
    Inverter,
    InverterFigures,
    Sleep,
    Stage,
)
from graveljar.core.model.stations import (
    AcOutlet,
    ChargeInput,
    DcPort,
    Mode,
    Outlet,
    Station,
    StationFigures,
)
from graveljar.core.model.stores import Bank, Battery, BatteryFigures, CurvePoint
from graveljar.core.model.vehicles import Vehicle
from graveljar.core.model.wiring import BankLeads, Cable, Fuse, Joined

__all__ = [
    "MAX_LOADS",
    "MIN_POSITIVE",
    "VERSION",
    "AcOutlet",
    "Acknowledged",
    "Anytime",
    "AtTime",
    "Bank",
    "BankLeads",
    "Battery",
    "BatteryFigures",
    "Between",
    "ByAmps",
    "ByEnergy",
    "ByWatts",
    "Cable",
    "ChargeInput",
    "Charger",
    "ChargerFigures",
    "Converter",
    "ConverterFigures",
    "CurvePoint",
    "DcPort",
    "Design",
    "Efficiency",
    "Feed",
    "Fuse",
    "Generator",
    "Goal",
    "Inverter",
    "InverterFigures",
    "Joined",
    "Link",
    "Load",
    "LoadWindow",
    "Mains",
    "MeasuredFigure",
    "Mode",
    "Outlet",
    "Panel",
    "Part",
    "Plug",
    "Polarity",
    "Provenance",
    "Setting",
    "ShelfCopy",
    "Sleep",
    "Span",
    "Stage",
    "StartFactor",
    "StartMeasured",
    "StartNone",
    "Station",
    "StationFigures",
    "Store",
    "Sun",
    "Supply",
    "Vehicle",
    "Week",
    "WeekDay",
    "Window",
]

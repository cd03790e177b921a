"""Building: what a person asks for, as edits to the document."""

from graveljar.core.planning.construction.asks import (
    AddFeed,
    AddInverter,
    AddLink,
    AddRail,
    AddRefill,
    AddStore,
    Ask,
    FeedLink,
    MoveLoads,
    PutRegulator,
    RemoveStage,
    RemoveStore,
    SupplyLoad,
)
from graveljar.core.planning.construction.build import build
from graveljar.core.planning.construction.built import BuildResult
from graveljar.core.planning.construction.stores import (
    BLANK_INPUTS,
    BLANK_OUTLETS,
    usual_inputs,
    usual_ports,
)

__all__ = [
    "BLANK_INPUTS",
    "BLANK_OUTLETS",
    "AddFeed",
    "AddInverter",
    "AddLink",
    "AddRail",
    "AddRefill",
    "AddStore",
    "Ask",
    "BuildResult",
    "FeedLink",
    "MoveLoads",
    "PutRegulator",
    "RemoveStage",
    "RemoveStore",
    "SupplyLoad",
    "build",
    "usual_inputs",
    "usual_ports",
]

"""Building: what a person asks for, as edits to the document."""

from graveljar.core.build.asks import (
    AddFeed,
    AddInverter,
    AddRail,
    Ask,
    MoveLoads,
    PutRegulator,
    RemoveStage,
)
from graveljar.core.build.build import Built, build

__all__ = [
    "AddFeed",
    "AddInverter",
    "AddRail",
    "Ask",
    "Built",
    "MoveLoads",
    "PutRegulator",
    "RemoveStage",
    "build",
]

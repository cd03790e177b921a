"""The shelf: a user's parts, as labelled or measured, with price, mass and notes."""

from graveljar.core.planning.shelf.part import (
    AnyPart,
    BatteryPart,
    CableFigures,
    CablePart,
    ChargerPart,
    ConverterPart,
    FuseFigures,
    FusePart,
    InverterPart,
    PanelPart,
    ShelfPart,
    StationPart,
    spread_from,
)
from graveljar.core.planning.shelf.suits import Candidate, Suitability, suits_of

__all__ = [
    "AnyPart",
    "BatteryPart",
    "CableFigures",
    "CablePart",
    "Candidate",
    "ChargerPart",
    "ConverterPart",
    "FuseFigures",
    "FusePart",
    "InverterPart",
    "PanelPart",
    "ShelfPart",
    "StationPart",
    "Suitability",
    "spread_from",
    "suits_of",
]

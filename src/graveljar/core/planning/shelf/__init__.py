"""The shelf: a user's parts, as labelled or measured, with price, mass and notes."""

from graveljar.core.planning.shelf.part import (
    AnyPart,
    BatteryPart,
    ChargerPart,
    ConverterPart,
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
    "Candidate",
    "ChargerPart",
    "ConverterPart",
    "InverterPart",
    "PanelPart",
    "ShelfPart",
    "StationPart",
    "Suitability",
    "spread_from",
    "suits_of",
]

"""The shelf: a user's parts, as labelled or measured, with price, mass and notes."""

from graveljar.core.planning.shelf.part import (
    AnyPart,
    BatteryPart,
    ConverterPart,
    InverterPart,
    ShelfPart,
    StationPart,
    spread_from,
)
from graveljar.core.planning.shelf.suits import Candidate, Suitability, suits_of

__all__ = [
    "AnyPart",
    "BatteryPart",
    "Candidate",
    "ConverterPart",
    "InverterPart",
    "ShelfPart",
    "StationPart",
    "Suitability",
    "spread_from",
    "suits_of",
]

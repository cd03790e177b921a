"""The shelf: a user's parts, as labelled or measured, with price, mass and notes."""

from graveljar.core.shelf.part import (
    BatteryPart,
    ConverterPart,
    InverterPart,
    ShelfPart,
    spread_from,
)
from graveljar.core.shelf.suits import Candidate, Suit, suits_of

__all__ = [
    "BatteryPart",
    "Candidate",
    "ConverterPart",
    "InverterPart",
    "ShelfPart",
    "Suit",
    "spread_from",
    "suits_of",
]

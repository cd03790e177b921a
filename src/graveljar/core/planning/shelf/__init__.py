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
    to_pay,
    with_measured,
)
from graveljar.core.planning.shelf.suits import Candidate, Suitability, suits_of
from graveljar.core.planning.shelf.wiring_prices import PricedItem, WiringPrices

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
    "PricedItem",
    "ShelfPart",
    "StationPart",
    "Suitability",
    "WiringPrices",
    "spread_from",
    "suits_of",
    "to_pay",
    "with_measured",
]

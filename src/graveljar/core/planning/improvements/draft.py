"""A single change that may help, before it is worked out."""

from dataclasses import dataclass
from typing import Literal

from graveljar.core.model.patch import Edit

Kind = Literal[
    "battery",
    "inverter",
    "off",
    "sleep",
    "dc rail",
    "regulator",
    "cable",
    "warmth",
    "panel",
    "charger",
    "engine",
    "measure",
    "load",
]
Effort = Literal["a switch", "a habit", "a measurement", "an hour's work", "something to buy"]


@dataclass(frozen=True)
class Draft:
    """A change: what it is called, the edits, what it costs and weighs where that is known."""

    kind: Kind
    subject: str
    label: str
    edits: tuple[Edit, ...]
    effort: Effort
    price: float | None = None
    mass_kg: float | None = None

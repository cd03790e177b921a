"""What a design is bought of: parts, cables and fuses, with count, price and mass."""

from collections.abc import Sequence
from dataclasses import dataclass

from graveljar.core.context import Context
from graveljar.core.planning.comparison.side import priced_parts
from graveljar.core.planning.shelf import Candidate


@dataclass(frozen=True)
class BuyItem:
    """One line of the shopping list. Price and mass of all of it; None where unsaid. [kg]

    `owned`: all of it is there already, and costs nothing. A cable's name says its metres.
    """

    name: str
    count: int
    price: float | None
    mass_kg: float | None
    owned: bool


@dataclass(frozen=True)
class Shopping:
    """What is bought, and what all of it comes to; `unpriced` names what has no price. [kg]"""

    items: tuple[BuyItem, ...]
    price: float
    mass_kg: float
    unpriced: tuple[str, ...]


def shopping_of(context: Context, shelf: Sequence[Candidate]) -> Shopping:
    """The shopping list of a design by the prices of a shelf: the sum is that of side by side."""
    found = priced_parts(context, shelf)
    items = tuple(BuyItem(x.name, x.count, x.price, x.mass_kg, x.owned) for x in found)
    return Shopping(
        items=items,
        price=round(sum(x.price or 0.0 for x in items), 6),
        mass_kg=round(sum(x.mass_kg or 0.0 for x in items), 6),
        unpriced=tuple(x.name for x in items if x.price is None),
    )

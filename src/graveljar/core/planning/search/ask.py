"""What a search is asked: which parts, how many, and the reserve."""

from typing import Annotated

from pydantic import Field

from graveljar.core.model import Part
from graveljar.core.planning.shelf import ShelfPart, to_pay

MAX_PARTS = 5_000
# Batteries in parallel where their maker says nothing; common practice.
USUAL_STRINGS = 4


class SearchPart(Part):
    """A part that may be used. Those that are there already cost nothing."""

    id: Annotated[str, Field(min_length=1, max_length=80)]
    part: ShelfPart

    def price_of(self, count: int) -> float | None:
        """What so many cost, but for those that are there; None where the price is unsaid."""
        return to_pay(self.part, count)


class SearchAsk(Part):
    """Bounds of a search.

    `most_strings` in parallel at most; unsaid, as many as the maker of each battery allows, or
    four. `reserve` instead of each chemistry's own [1]. `refill`: whether what fills the bank of
    the design fills those that are tried. `stations`: whether power stations are tried too, alone
    and with a battery outside.
    """

    parts: Annotated[tuple[SearchPart, ...], Field(max_length=MAX_PARTS, strict=False)]
    most_strings: Annotated[int, Field(ge=1, le=32)] | None = None
    reserve: Annotated[float, Field(ge=0, le=0.9)] | None = None
    refill: bool = True
    stations: bool = True

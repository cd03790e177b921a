"""What a search is asked: which parts, how many, and the reserve."""

from typing import Annotated

from pydantic import Field

from graveljar.core.model import Part
from graveljar.core.planning.shelf import ShelfPart

MAX_PARTS = 500
# Batteries in parallel where their maker says nothing; common practice.
USUAL_STRINGS = 4


class SearchPart(Part):
    """A part that may be used. One that is there already (`have`) costs nothing."""

    id: Annotated[str, Field(min_length=1, max_length=80)]
    part: ShelfPart
    have: bool = False


class SearchAsk(Part):
    """Bounds of a search.

    `most_strings` in parallel at most; unsaid, as many as the maker of each battery allows, or
    four. `reserve` instead of each chemistry's own [1]. `refill`: whether what fills the bank of
    the design fills those that are tried.
    """

    parts: Annotated[tuple[SearchPart, ...], Field(max_length=MAX_PARTS, strict=False)]
    most_strings: Annotated[int, Field(ge=1, le=32)] | None = None
    reserve: Annotated[float, Field(ge=0, le=0.9)] | None = None
    refill: bool = True

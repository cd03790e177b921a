"""A route: one way to grow a station, worked out on the user's own design."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from graveljar.core.model.patch import Edit
from graveljar.core.rules.finding import Severity
from graveljar.core.views.joints import Joint
from graveljar.core.views.links import LinkRow
from graveljar.core.workings.working import Figure

Way = Literal["present", "straight", "boost", "matched", "series", "module", "bigger"]


@dataclass(frozen=True)
class RoutePart:
    """A part of a route; `have` it is not to be bought. `price` of all of them, if known."""

    name: str
    count: int
    price: float | None
    have: bool


@dataclass(frozen=True)
class RouteFinding:
    """A finding the route adds."""

    severity: Severity
    title: str


@dataclass(frozen=True)
class Route:
    """A way, what it takes and what it brings.

    `joint` is the window where it meets the station, `link` what it carries; None where nothing
    is led in. `gained_wh` comes out of the station beyond its own, after all losses; `price_a_wh`
    is the price over it. `hours` of the whole design, `alone_h` of the station as it is with
    nothing led in; None: no end. `refill_h` fills it all again, `refill` says by what. `mind` is
    what to see to that no rule can tell. `figures` are the workings of what is shown, and those
    they build on. [W], [A], [Wh], [h]
    """

    way: Way
    title: str
    says: str
    fits: bool
    joint: Joint | None
    link: LinkRow | None
    gained_wh: float
    hours: float | None
    alone_h: float | None
    lasts: str
    gains: str
    refill_h: float | None
    refill: str
    parts: tuple[RoutePart, ...]
    price: float | None
    price_a_wh: float | None
    warnings: tuple[RouteFinding, ...]
    mind: tuple[str, ...]
    edits: tuple[Edit, ...]
    figures: Mapping[str, Figure]

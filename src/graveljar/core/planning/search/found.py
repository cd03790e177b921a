"""What a search gives, as it goes on."""

from dataclasses import dataclass
from typing import Literal

from graveljar.core.model import Design

Best = Literal["cheapest", "lightest", "longest", "simplest", "thriftiest"]


@dataclass(frozen=True)
class UsedPart:
    """Parts of a system: a name, how many, what they cost and weigh, None where unsaid.

    `owned` of them are there already.
    """

    name: str
    count: int
    price: float | None
    mass_kg: float | None
    owned: int


@dataclass(frozen=True)
class Found:
    """A system that breaks no rule. Hours until a must-load stops, None up to the horizon. [h]

    `price` and `mass_kg` are None where that of a part is unsaid; `boxes` are its batteries,
    inverters, converters and stations. `lost_wh` is what a day loses in stages, cables, adapters
    and idle draw [Wh]. `system_v` is None for a station. `decided` says in words what made it so.
    `unpriced` are cables and fuses that the price leaves out: the shelf has no price for them.
    """

    key: str
    title: str
    store: Literal["bank", "station", "grown station"]
    system_v: float | None
    strategy: Literal["DC first", "AC for all"]
    strings: int
    series: int
    price: float | None
    mass_kg: float | None
    hours: float | None
    boxes: int
    lost_wh: float
    used: tuple[UsedPart, ...]
    decided: str
    design: Design
    unpriced: tuple[str, ...] = ()

    @property
    def weighed(self) -> tuple[float, float, float, float, float]:
        """What is weighed, the less the better: price, mass, hours (less than 0), boxes, losses.

        Losses by two figures: a smaller difference decides nothing.
        """
        inf = float("inf")
        hours = inf if self.hours is None else self.hours
        price = inf if self.price is None else self.price
        mass = inf if self.mass_kg is None else self.mass_kg
        return price, mass, -hours, float(self.boxes), float(f"{self.lost_wh:.1e}")


def total(values: list[float | None]) -> float | None:
    """A sum; None where one of its parts is unsaid."""
    if any(value is None for value in values):
        return None
    return round(sum(value or 0.0 for value in values), 6)


@dataclass(frozen=True)
class NearMiss:
    """A near miss: what breaks one rule only, and which; `count` systems break it."""

    rule: str
    title: str
    example: str
    price: float | None
    count: int


@dataclass(frozen=True)
class Progress:
    """How far a search is: wirings of `total` tried, and the systems checked in them."""

    tried: int
    total: int
    candidates: int


@dataclass(frozen=True)
class Searched:
    """The end of a search: none of `best` is worse than another in all that is weighed.

    `candidates` are systems checked, `runs` those the engine was needed for. `next_best` says of
    each pick what comes after it in its own measure, and what that costs and gives.
    """

    best: tuple[Found, ...]
    picks: dict[Best, str]
    next_best: dict[Best, str]
    broken: tuple[NearMiss, ...]
    candidates: int
    runs: int
    why_none: str

"""Links as the screen shows them: what they bring, what binds, what comes out together."""

from collections.abc import Iterator
from dataclasses import dataclass

from graveljar.core.document import Station
from graveljar.core.facts import Facts
from graveljar.core.feeding import Binds, Feeding, Limit
from graveljar.core.link import LinkFit
from graveljar.core.words import quantity


@dataclass(frozen=True)
class LinkRow:
    """A link at work with its source full. [W], [V], [A], [h]

    `held_by` names what binds. `source_a` is what its source gives then, `source_least_a` at its
    least charge, `wanted_a` what it would give if nothing but converter and input held it back.
    `refill_h`: from empty, with no load on, taper left out. `says` puts it in words.
    """

    id: str
    name: str
    rail: str
    to: str
    input: str | None
    fit: LinkFit
    watts: float
    volts: float
    amps: float
    binds: Binds
    held_by: str
    limits: tuple[Limit, ...]
    source: str
    source_a: float
    source_least_a: float
    wanted_a: float
    refill_h: float | None
    says: str


def link_rows(facts: Facts) -> Iterator[LinkRow]:
    """Every link, in the document's order."""
    for link in facts.design.links:
        feeding = facts.feedings[link.id]
        full = feeding.full
        yield LinkRow(
            link.id,
            link.name,
            link.rail,
            link.to,
            link.input,
            feeding.fit,
            full.watts,
            full.volts,
            full.amps,
            full.binds,
            _held_by(feeding),
            feeding.limits if full.watts else (),
            feeding.source,
            full.source_a,
            feeding.least.source_a,
            feeding.wanted.source_a,
            refill_h(facts, link.id),
            _says(facts, link.id),
        )


def refill_h(facts: Facts, link: str) -> float | None:
    """Hours to fill what may be taken out of a link's store, with no load on. [h]"""
    feeding = facts.feedings[link]
    charging_w = feeding.full.watts * feeding.efficiency
    return facts.usable[feeding.link.to].wh / charging_w if charging_w else None


def combined_wh(facts: Facts, link: str) -> float:
    """What comes out of a link's store with all that its source has passed through it. [Wh]

    Station usable + outside usable x what of it arrives x charging efficiency.
    """
    feeding = facts.feedings[link]
    brought = facts.usable[feeding.source].wh * feeding.way_efficiency * feeding.efficiency
    return facts.usable[feeding.link.to].wh + brought


def _held_by(feeding: Feeding) -> str:
    """What binds a link, by its name."""
    held = feeding.limit(feeding.full.binds)
    return held.name if held is not None else feeding.full.binds


def _says(facts: Facts, link: str) -> str:
    feeding = facts.feedings[link]
    if feeding.fit != "fits":
        return f"does not charge: what arrives is {feeding.fit}"
    point = feeding.full
    if not point.watts:
        return "does not charge: its source gives nothing"
    said = f"{quantity(point.watts, 'W')} at {quantity(point.volts, 'V')}"
    held = feeding.limit(point.binds)
    if held is None:
        return said
    return f"{said}; held by {held.name}, {quantity(held.limit, held.unit)}"


def feeds_station(facts: Facts, link: str) -> Station | None:
    """The station a link feeds, if it is one."""
    return facts.station(facts.feedings[link].link.to)

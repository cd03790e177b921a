"""Links as the screen shows them: what they bring, what binds, what comes out together."""

from collections.abc import Iterator
from dataclasses import dataclass

from graveljar.core.analysis.link_operation import Binds, Limit, LinkOperation
from graveljar.core.context import Context
from graveljar.core.model import Station
from graveljar.core.model.chargers import ChargerKind
from graveljar.core.model.references import kinds_fed
from graveljar.core.network.charge_input import LinkFit
from graveljar.core.text import quantity


@dataclass(frozen=True)
class LinkRow:
    """A link at work with its source full. [W], [V], [A], [h]

    `held_by` names what binds; `deciding` is the one of `limits` that does, if it is among them.
    `given_a` flows into the store. `source_a` is what its source gives then, `source_least_a` at
    its least charge, `wanted_a` what it would give if nothing but converter and input held it
    back. `chargers` are the kinds of charger that its rail can feed, into a bank. `says` and
    `fills` put in words what it brings, and how long it takes to fill its store.
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
    given_a: float
    binds: Binds
    held_by: str
    limits: tuple[Limit, ...]
    deciding: str | None
    source: str
    source_a: float
    source_least_a: float
    wanted_a: float
    chargers: tuple[ChargerKind, ...]
    says: str
    fills: str


def link_rows(context: Context) -> Iterator[LinkRow]:
    """Every link, in the document's order."""
    design = context.network.design
    for link in design.links:
        feeding = context.analysis.link_operations[link.id]
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
            full.given_a,
            full.binds,
            _held_by(feeding),
            feeding.limits if full.watts else (),
            _deciding(feeding),
            feeding.source,
            full.source_a,
            feeding.least.source_a,
            feeding.wanted.source_a,
            kinds_fed(design, link.rail) if link.input is None else (),
            _says(context, link.id),
            _fills(context, link.id),
        )


def combined_wh(context: Context, link: str) -> float:
    """What comes out of a link's store with all that its source has passed through it. [Wh]

    Station usable + outside usable x what of it arrives x charging efficiency.
    """
    analysis = context.analysis
    feeding = analysis.link_operations[link]
    brought = analysis.usable[feeding.source].wh * feeding.way_efficiency * feeding.efficiency
    return analysis.usable[feeding.link.to].wh + brought


def _held_by(feeding: LinkOperation) -> str:
    """What binds a link, by its name."""
    held = feeding.limit(feeding.full.binds)
    return held.name if held is not None else feeding.full.binds


def _deciding(feeding: LinkOperation) -> str | None:
    held = feeding.limit(feeding.full.binds) if feeding.full.watts else None
    return held.name if held is not None else None


def _says(context: Context, link: str) -> str:
    feeding = context.analysis.link_operations[link]
    if feeding.fit != "fits":
        return f"does not charge: what arrives is {feeding.fit}"
    point = feeding.full
    if not point.watts:
        return "does not charge: its source gives nothing"
    said = f"{quantity(point.watts, 'W')} at {quantity(point.volts, 'V')}"
    if feeding.link.charger is not None:
        said = f"charges with {quantity(point.given_a, 'A')}, {said} from its source"
    held = feeding.limit(point.binds)
    if held is None:
        return said
    return f"{said}; limited by {held.name}, {quantity(held.limit, held.unit)}"


def _fills(context: Context, link: str) -> str:
    """How far a link fills its store with no load on, and what ends that."""
    charging, feeding = context.analysis.charging[link], context.analysis.link_operations[link]
    if charging is None:
        return "does not charge"
    store, source = context.network.names[feeding.link.to], context.network.names[feeding.source]
    begin, end = (quantity(x, "share", 2) for x in (charging.begin, charging.end))
    charges = charging.hours > 0
    goes = f"{store} goes from {begin} to {end}" if charges else f"{store} stays at {begin}"
    return {
        "full": f"{store} goes from {begin} to full" if charges else f"{store} is full",
        "not solved": "no hours: no stable voltage and current was found",
        "source ends": (
            f"{goes}{'; then' if charges else ':'} {source} supplies no "
            f"{'more' if charges else 'charge'}"
        ),
        "too slow": f"{goes}, and is still not full",
        "frost": f"{goes}: it does not charge below freezing",
        "no charge": f"{store} reaches {end} at most: it draws as much as it receives",
    }[charging.ends]


def feeds_station(context: Context, link: str) -> Station | None:
    """The station a link feeds, if it is one."""
    return context.network.station(context.analysis.link_operations[link].link.to)

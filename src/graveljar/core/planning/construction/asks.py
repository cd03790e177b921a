"""What may be asked for: a rail, a stage, a store, a link, a move, a supply, a removal."""

from typing import Annotated, Literal

from pydantic import Field

from graveljar.core.model import BatteryFigures, StationFigures
from graveljar.core.model.design import MAX_LOADS
from graveljar.core.model.fields import Id, Name, Part, ShelfCopy, Volts

Loads = Annotated[tuple[Id, ...], Field(max_length=MAX_LOADS, strict=False)]


class AddRail(Part):
    """A DC rail of so many volts [V] `on` another; without `loads`, those it suits move there."""

    ask: Literal["rail"]
    on: Id
    volts: Volts
    loads: Loads | None = None


class AddInverter(Part):
    """An AC rail; without `loads`, mains appliances that are not connected move there."""

    ask: Literal["inverter"]
    on: Id
    loads: Loads | None = None


class AddFeed(Part):
    """A plain fused feed."""

    ask: Literal["feed"]
    on: Id
    loads: Loads | None = None


class PutRegulator(Part):
    """A regulating converter before one load, on the rail it is connected to."""

    ask: Literal["regulator"]
    before: Id


class MoveLoads(Part):
    """Loads to another rail, or to none."""

    ask: Literal["move"]
    loads: Loads
    to: Id | None


class SupplyLoad(Part):
    """A load on AC or DC; from a rail that has not what it needs it moves to one that has."""

    ask: Literal["supply"]
    load: Id
    kind: Literal["ac", "dc"]


class RemoveStage(Part):
    """A stage away: its loads to another rail or none, stages on it to the rail before it."""

    ask: Literal["remove"]
    stage: Id
    loads_to: Id | None


class AddStore(Part):
    """A store more: a bank, a station, a source; with the figures of a part, if one is taken.

    A `starter` comes with its engine and the alternator between them.
    """

    ask: Literal["store"]
    what: Literal["bank", "station", "vehicle", "starter", "mains", "generator", "sun"]
    name: Name | None = None
    battery: BatteryFigures | None = None
    station: StationFigures | None = None
    shelf: ShelfCopy | None = None


class AddRefill(Part):
    """A source and what leads from it into a store: through a charger into a bank."""

    ask: Literal["refill"]
    what: Literal["sun", "vehicle", "mains", "generator"]
    to: Id


class RemoveStore(Part):
    """A store away, with the stages and links on it; its loads are not connected then."""

    ask: Literal["remove store"]
    store: Id


class AddLink(Part):
    """A rail led into a station, or a bank; without an input, the one it suits best."""

    ask: Literal["link"]
    rail: Id
    to: Id
    input: Id | None = None


class FeedLink(Part):
    """A link fed from another rail, or into another input of its station; with what that asks for.

    That is a charger that works from the rail, or a rail that supplies what the input needs.
    """

    ask: Literal["feed link"]
    link: Id
    rail: Id | None = None
    input: Id | None = None


Ask = Annotated[
    AddRail
    | AddInverter
    | AddFeed
    | PutRegulator
    | MoveLoads
    | SupplyLoad
    | RemoveStage
    | AddStore
    | RemoveStore
    | AddLink
    | FeedLink
    | AddRefill,
    Field(discriminator="ask"),
]

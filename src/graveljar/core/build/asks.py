"""What may be asked for: a rail, an inverter, a feed, a regulator, a move, a removal."""

from typing import Annotated, Literal

from pydantic import Field

from graveljar.core.document.base import Id, Part, Volts
from graveljar.core.document.design import MOST_LOADS

Loads = Annotated[tuple[Id, ...], Field(max_length=MOST_LOADS, strict=False)]


class AddRail(Part):
    """A DC rail of so many volts [V] `on` another; without `loads`, those it suits move there."""

    ask: Literal["rail"]
    on: Id
    volts: Volts
    loads: Loads | None = None


class AddInverter(Part):
    """An AC rail; without `loads`, mains appliances that are on no rail move there."""

    ask: Literal["inverter"]
    on: Id
    loads: Loads | None = None


class AddFeed(Part):
    """A plain fused feed."""

    ask: Literal["feed"]
    on: Id
    loads: Loads | None = None


class PutRegulator(Part):
    """A regulating converter before one load, on the rail it hangs on."""

    ask: Literal["regulator"]
    before: Id


class MoveLoads(Part):
    """Loads to another rail, or to none."""

    ask: Literal["move"]
    loads: Loads
    to: Id | None


class RemoveStage(Part):
    """A stage away: its loads to another rail or none, stages on it to the rail before it."""

    ask: Literal["remove"]
    stage: Id
    loads_to: Id | None


Ask = Annotated[
    AddRail | AddInverter | AddFeed | PutRegulator | MoveLoads | RemoveStage,
    Field(discriminator="ask"),
]

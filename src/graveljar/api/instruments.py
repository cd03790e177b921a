"""Routes of instruments: those that the settings list, and what they read now."""

from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, Field

from graveljar.api.carried import Listed
from graveljar.api.problems import PROBLEMS
from graveljar.api.requests import Body, BoundedRoute
from graveljar.core.model.fields import Celsius, Id
from graveljar.core.readings import CapacityReading, DrawnRow, capacity_of
from graveljar.instruments.reader import InstrumentSetting
from graveljar.instruments.stand_ins import Quantity

router = APIRouter(prefix="/api/instruments", route_class=BoundedRoute, responses=PROBLEMS)


class ReadRequest(Body):
    """Which instrument, and what of it."""

    name: Annotated[str, Field(max_length=80)]
    quantities: Annotated[list[Quantity], Field(min_length=1, max_length=6)]


class InstrumentReading(BaseModel):
    """Figures of an instrument in V, A, W, Ah, Wh or shares; null beyond its range."""

    values: dict[Quantity, float | None]


@router.get("")
def get_instruments(instruments: Listed) -> list[InstrumentSetting]:
    """Instruments that the settings list; only these are ever opened."""
    return instruments.listed()


@router.post("/read")
def post_read(body: ReadRequest, instruments: Listed) -> InstrumentReading:
    """What an instrument reads now."""
    return InstrumentReading(values=instruments.read(body.name, body.quantities))


class DrawnRows(Body):
    """Rows that were recorded of a capacity test."""

    subject: Id
    air_c: Celsius = 20.0
    rows: Annotated[list[DrawnRow], Field(max_length=100_000)]


@router.post("/capacity")
def post_capacity(body: DrawnRows) -> CapacityReading:
    """What a recorded capacity test comes to; nothing is stored."""
    return capacity_of(body.subject, body.rows, body.air_c)

"""Refill: the week, what balances it, an outage, the year, the sun of a place."""

from typing import Annotated

from fastapi import APIRouter, Response
from pydantic import Field

from graveljar.api.answers import week_json
from graveljar.api.carried import KeptParts
from graveljar.api.problems import PROBLEMS
from graveljar.api.requests import Body, BoundedRoute, Computing
from graveljar.computing import works
from graveljar.core.components.sun_hourly import HourlySun
from graveljar.core.components.sun_place import PlaceSun, sun_of_place, usual_clearness
from graveljar.core.model import Design
from graveljar.core.planning.balance import Balance, Pair, balance_of
from graveljar.core.planning.shelf import Candidate
from graveljar.core.views.outage import Outage
from graveljar.core.views.refill import Refill
from graveljar.core.views.year import MonthRow
from graveljar.formats.sun_csv import read_sun

router = APIRouter(prefix="/api", route_class=BoundedRoute, responses=PROBLEMS)


class RefillRequest(Body):
    """A week of a design, and the charge from which to fill its stores. [1]"""

    design: Design
    fill_from: Annotated[float, Field(ge=0.01, le=0.95, allow_inf_nan=False)] = 0.2


class OutageRequest(Body):
    """A design, and how long its mains fails. [h]"""

    design: Design
    hours: Annotated[float, Field(ge=0.1, le=168, allow_inf_nan=False)] = 9.0


class SunPlaceRequest(Body):
    """Where panels stand and face [°], and by month how clear the sky is, or as usual. [1]"""

    latitude: Annotated[float, Field(ge=-90, le=90, allow_inf_nan=False)]
    tilt: Annotated[float, Field(ge=0, le=90, allow_inf_nan=False)]
    azimuth: Annotated[float, Field(ge=0, le=360, allow_inf_nan=False)]
    clearness: (
        Annotated[
            list[Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]],
            Field(min_length=12, max_length=12),
        ]
        | None
    ) = None


class SunFileRequest(Body):
    """A year of hourly light as CSV or EPW, and how the panels stand and face. [°]"""

    text: Annotated[str, Field(min_length=1, max_length=2_800_000)]
    latitude: Annotated[float, Field(ge=-90, le=90, allow_inf_nan=False)]
    tilt: Annotated[float, Field(ge=0, le=90, allow_inf_nan=False)]
    azimuth: Annotated[float, Field(ge=0, le=360, allow_inf_nan=False)]


class PairsRequest(Body):
    """A design, and whether the sun is poor on every day."""

    design: Design
    poor: bool = False


@router.post("/refill", response_model=Refill)
def post_refill(body: RefillRequest, compute: Computing) -> Response:
    """A week of a design: what comes in by source, what goes out, how full it is."""
    return Response(week_json(body.design, compute, body.fill_from), media_type="application/json")


@router.post("/refill/balance")
def post_balance(design: Design, compute: Computing) -> list[Balance]:
    """Single changes that make every week end as it began; none where it does."""
    return list(compute(balance_of, design))


@router.post("/refill/year")
def post_year(design: Design, compute: Computing) -> list[MonthRow]:
    """The week of a design in every month; none if no sun shines on it."""
    return list(compute(works.months_of, design))


@router.post("/refill/outage")
def post_outage(body: OutageRequest, compute: Computing) -> Outage | None:
    """An outage of the mains at its worst; null where the mains feeds nothing."""
    return compute(works.outage_of_mains, body.design, body.hours)


@router.post("/sun/place")
def post_sun_place(body: SunPlaceRequest) -> PlaceSun:
    """Sun hours by month on panels at a place."""
    clearness = usual_clearness() if body.clearness is None else tuple(body.clearness)
    return sun_of_place(body.latitude, body.tilt, body.azimuth, clearness)


@router.post("/sun/file")
def post_sun_file(body: SunFileRequest) -> HourlySun:
    """Sun hours by month on panels from a year of hourly light."""
    return read_sun(body.text, body.latitude, body.tilt, body.azimuth)


@router.post("/refill/pairs")
def post_pairs(body: PairsRequest, parts: KeptParts, compute: Computing) -> list[Pair]:
    """Numbers of batteries and panels that balance the week, with the prices of the shelf."""
    shelf = [Candidate(str(kept.id), kept.part) for kept in parts.all()]
    return list(compute(works.pairs_in, body.design, shelf, body.poor))

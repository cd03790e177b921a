"""Routes of the shelf: parts in and out, and which of them suit a place in a design."""

from typing import Annotated
from uuid import UUID

from fastapi import APIRouter
from pydantic import Field, JsonValue

from graveljar.api.carried import KeptDesigns, KeptParts
from graveljar.api.described import Csv, as_csv
from graveljar.api.problems import PROBLEMS
from graveljar.api.requests import Body, BoundedRoute, Computing
from graveljar.core.model import Design
from graveljar.core.planning.shelf import (
    Candidate,
    ShelfPart,
    Suitability,
    suits_of,
    with_measured,
)
from graveljar.core.planning.station_growth import Route, RoutesAsk, routes_of
from graveljar.formats.parts_csv import MAX_CHARACTERS, MAX_ROWS, CsvRow, read_parts, write_parts
from graveljar.store.parts import KeptPart
from graveljar.store.records import CopyOfPart

router = APIRouter(prefix="/api/shelf", route_class=BoundedRoute, responses=PROBLEMS)


class NewParts(Body):
    """Parts to put on the shelf, all or none."""

    parts: Annotated[list[ShelfPart], Field(min_length=1, max_length=MAX_ROWS)]


class SavePart(Body):
    """A part, and the revision it was changed from."""

    base: Annotated[int, Field(ge=1)]
    part: ShelfPart


class MeasuredOn(Body):
    """A part, and figures that were measured on a copy of it."""

    part: ShelfPart
    figures: Annotated[dict[str, JsonValue], Field(max_length=8)]


class CsvText(Body):
    """The text of a CSV file."""

    text: Annotated[str, Field(max_length=MAX_CHARACTERS)]


class GrowthRequest(Body):
    """A station of a design that is to grow."""

    design: Design
    grow: RoutesAsk


class SuitRequest(Body):
    """A store or stage of a design that a part is looked for."""

    design: Design
    subject: str


@router.get("")
def get_parts(parts: KeptParts) -> list[KeptPart]:
    """Every part on the shelf."""
    return parts.all()


@router.post("", status_code=201)
def post_parts(body: NewParts, parts: KeptParts) -> list[KeptPart]:
    """Put parts on the shelf."""
    return parts.add(body.parts)


@router.put("/parts/{part_id}")
def put_part(part_id: UUID, body: SavePart, parts: KeptParts) -> KeptPart:
    """Change a part; 409 if it was changed from an older revision."""
    return parts.save(part_id, body.base, body.part)


@router.get("/parts/{part_id}/copies")
def get_copies(part_id: UUID, designs: KeptDesigns) -> list[CopyOfPart]:
    """Designs that hold a copy of a part."""
    return designs.copies_of(part_id)


@router.delete("/parts/{part_id}", status_code=204)
def delete_part(part_id: UUID, parts: KeptParts) -> None:
    """Take a part off the shelf; it can be restored."""
    parts.delete(part_id)


@router.post("/parts/{part_id}/restore")
def restore_part(part_id: UUID, parts: KeptParts) -> KeptPart:
    """Put a part back."""
    return parts.restore(part_id)


@router.get("/parts.csv", response_class=Csv)
def export_parts(parts: KeptParts) -> Csv:
    """The whole shelf as CSV."""
    return as_csv([write_parts([kept.part for kept in parts.all()])], "gravel-jar-shelf.csv")


@router.post("/read-csv")
def post_csv(body: CsvText) -> list[CsvRow]:
    """Read a CSV file row by row; nothing is stored."""
    return list(read_parts(body.text))


@router.post("/measured")
def post_measured(body: MeasuredOn) -> ShelfPart:
    """A part with measured figures; nothing is stored."""
    return with_measured(body.part, body.figures)


@router.post("/suits")
def post_suits(body: SuitRequest, parts: KeptParts, compute: Computing) -> list[Suitability]:
    """Which parts suit a store or stage, those that do first."""
    shelf = [Candidate(str(kept.id), kept.part) for kept in parts.all()]
    return list(compute(suits_of, body.design, body.subject, shelf))


@router.post("/routes")
def post_routes(body: GrowthRequest, parts: KeptParts, compute: Computing) -> list[Route]:
    """Ways to grow a station, by what is on the shelf; nothing is stored."""
    shelf = [Candidate(str(kept.id), kept.part) for kept in parts.all()]
    return list(compute(routes_of, body.design, body.grow, shelf))

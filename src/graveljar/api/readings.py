"""Routes of the bench book: what to measure, readings and how they are judged."""

from typing import Annotated, Literal
from uuid import UUID

from fastapi import APIRouter, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import AwareDatetime, Field

from graveljar.api.carried import KeptReadings
from graveljar.api.described import Csv, as_csv
from graveljar.api.problems import PROBLEMS
from graveljar.api.requests import Body, BoundedRoute, Computing
from graveljar.computing import works
from graveljar.core.model import Design
from graveljar.core.readings import (
    BothFigures,
    Check,
    FiguresEffect,
    Judged,
    Now,
    Outlook,
    Reading,
)
from graveljar.core.views.band_causes import BandCauses
from graveljar.formats.pictures import cleaned
from graveljar.formats.readings_csv import write_readings
from graveljar.store.readings import MAX_READINGS, KeptReading

router = APIRouter(prefix="/api", route_class=BoundedRoute, responses=PROBLEMS)
# Its body is no JSON.
pictures = APIRouter(prefix="/api", responses=PROBLEMS)


class NewReading(Body):
    """A reading to keep."""

    reading: Reading


class JudgeRequest(Body):
    """Readings, and the design that they are judged by."""

    design: Design
    readings: Annotated[list[Reading], Field(max_length=MAX_READINGS)]


class EffectRequest(Body):
    """A design, and what it would be with other figures."""

    design: Design
    changed: Design


class OutlookRequest(Body):
    """A design, and what is known of one of its stores now."""

    design: Design
    now: Now


@router.post("/readings/checklist")
def post_checklist(design: Design, compute: Computing) -> list[Check]:
    """What to measure on a design, in order; nothing is stored."""
    return compute(works.checks_of, design)


@router.post("/readings/figures")
def post_figures(design: Design, compute: Computing) -> list[BothFigures]:
    """Figures that were measured beside those of the label; nothing is stored."""
    return compute(works.figures_of, design)


@router.post("/readings/effect")
def post_effect(body: EffectRequest, compute: Computing) -> FiguresEffect:
    """Hours, band and findings before and after a change of figures; nothing is stored."""
    return compute(works.effect_of, body.design, body.changed)


@router.post("/readings/band-causes")
def post_band_causes(design: Design, compute: Computing) -> BandCauses:
    """What the band of hours depends on, and what to measure next; nothing is stored."""
    return compute(works.causes_of, design)


@router.post("/readings/outlook")
def post_outlook(body: OutlookRequest, compute: Computing) -> Outlook:
    """What is left from now on, by what the meter or the display says; nothing is stored."""
    return compute(works.left_from, body.design, body.now)


@router.post("/readings/judge")
def post_judge(body: JudgeRequest, compute: Computing) -> list[Judged | None]:
    """How each reading is judged by a design; null where its part is there no more."""
    return compute(works.judged_by, body.design, body.readings)


@router.get("/designs/{design_id}/readings")
def get_readings(design_id: UUID, readings: KeptReadings) -> list[KeptReading]:
    """Readings of a design, the last taken first."""
    return readings.all(design_id)


@router.post("/designs/{design_id}/readings", status_code=201)
def post_reading(design_id: UUID, body: NewReading, readings: KeptReadings) -> KeptReading:
    """Keep a reading."""
    return readings.add(design_id, body.reading)


@router.put("/designs/{design_id}/readings/{reading_id}")
def put_reading(
    design_id: UUID, reading_id: UUID, body: NewReading, readings: KeptReadings
) -> KeptReading:
    """Put other figures into a reading."""
    return readings.change(design_id, reading_id, body.reading)


@router.delete("/designs/{design_id}/readings/{reading_id}", status_code=204)
def delete_reading(design_id: UUID, reading_id: UUID, readings: KeptReadings) -> None:
    """Take a reading away; it can be restored."""
    readings.delete(design_id, reading_id)


@router.post("/designs/{design_id}/readings/{reading_id}/restore", status_code=204)
def restore_reading(design_id: UUID, reading_id: UUID, readings: KeptReadings) -> None:
    """Bring a reading back."""
    readings.restore(design_id, reading_id)


@pictures.put(
    "/designs/{design_id}/readings/{reading_id}/picture",
    status_code=204,
    openapi_extra={
        "requestBody": {
            "content": {"image/*": {"schema": {"type": "string", "format": "binary"}}},
            "required": True,
        }
    },
)
async def put_picture(
    design_id: UUID, reading_id: UUID, request: Request, readings: KeptReadings
) -> None:
    """Put a picture beside a reading; all that it carries beside the picture is left out."""
    media, data = await run_in_threadpool(cleaned, await request.body())
    await run_in_threadpool(readings.keep_picture, design_id, reading_id, media, data)


@router.get(
    "/designs/{design_id}/readings/{reading_id}/picture",
    response_class=Response,
    responses={200: {"content": {"image/png": {}, "image/jpeg": {}}}},
)
def get_picture(design_id: UUID, reading_id: UUID, readings: KeptReadings) -> Response:
    """The picture beside a reading."""
    media, data = readings.picture(design_id, reading_id)
    return Response(data, media_type=media, headers={"Cache-Control": "no-store"})


@router.delete("/designs/{design_id}/readings/{reading_id}/picture", status_code=204)
def delete_picture(design_id: UUID, reading_id: UUID, readings: KeptReadings) -> None:
    """Take the picture beside a reading away."""
    readings.remove_picture(design_id, reading_id)


class DatedReading(Body):
    """A reading, and when it was taken."""

    taken_at: AwareDatetime
    reading: Reading


class BenchBook(Body):
    """The readings of a design as a file, out and in again."""

    format: Literal["gravel-jar/bench-book"] = "gravel-jar/bench-book"
    version: Literal[1] = 1
    readings: Annotated[list[DatedReading], Field(max_length=MAX_READINGS)]


@router.get("/designs/{design_id}/bench-book.json")
def export_bench_book(design_id: UUID, readings: KeptReadings, response: Response) -> BenchBook:
    """The readings of a design as JSON, the first taken first."""
    response.headers["Content-Disposition"] = 'attachment; filename="gravel-jar-bench-book.json"'
    kept = reversed(readings.all(design_id))
    return BenchBook(readings=[DatedReading(taken_at=x.taken_at, reading=x.reading) for x in kept])


@router.post("/designs/{design_id}/bench-book")
def import_bench_book(design_id: UUID, body: BenchBook, readings: KeptReadings) -> int:
    """Read a bench book back in; what is there already stays. Gives how many were new."""
    return readings.add_all(design_id, [(x.taken_at, x.reading) for x in body.readings])


@router.get("/designs/{design_id}/readings.csv", response_class=Csv)
def export_readings(design_id: UUID, readings: KeptReadings) -> Csv:
    """The readings of a design as CSV, one a row."""
    rows = [(kept.taken_at, kept.reading) for kept in readings.all(design_id)]
    return as_csv([write_readings(rows)], "gravel-jar-readings.csv")

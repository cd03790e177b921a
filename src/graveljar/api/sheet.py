"""Routes of the sheet: its parts for the screen, and as a file to print."""

import re
from datetime import UTC, datetime
from typing import Annotated, Literal

from fastapi import APIRouter, Response
from pydantic import Field

from graveljar.api.carried import KeptParts
from graveljar.api.problems import PROBLEMS
from graveljar.api.requests import Body, BoundedRoute, Computing
from graveljar.computing import works
from graveljar.core.model import Design
from graveljar.core.model.fields import ONE_LINE
from graveljar.core.planning.shelf import Candidate
from graveljar.core.sheet import Sheet
from graveljar.formats.sheet_html import PARTS, Paper, Part
from graveljar.store.parts import Parts

router = APIRouter(prefix="/api/sheet", route_class=BoundedRoute, responses=PROBLEMS)


Revision = Annotated[int, Field(ge=1, le=1_000_000_000)]


class PrintRequest(Body):
    """A design, and which parts of its sheet are printed on which paper, as what."""

    design: Design
    parts: Annotated[tuple[Part, ...], Field(min_length=1, max_length=len(PARTS), strict=False)] = (
        PARTS
    )
    paper: Paper = "A4"
    prints: Literal["html", "pdf"] = "pdf"
    revision: Revision | None = None
    currency: Annotated[str, Field(max_length=8, pattern=ONE_LINE)] = ""
    prices: bool = True


class DrawingRequest(Body):
    """A design whose drawing is wanted as a picture."""

    design: Design
    picture: Literal["svg", "png"] = "svg"
    revision: Revision | None = None


def _shelf(parts: Parts) -> list[Candidate]:
    return [Candidate(str(kept.id), kept.part) for kept in parts.all()]


@router.post("")
def post_sheet(design: Design, parts: KeptParts, compute: Computing) -> Sheet:
    """Everything of a design that is printed; nothing is stored."""
    return compute(works.whole_sheet, design, _shelf(parts))


@router.post(
    "/print",
    response_class=Response,
    responses={200: {"content": {"text/html": {}, "application/pdf": {}}}},
)
def post_print(body: PrintRequest, parts: KeptParts, compute: Computing) -> Response:
    """The sheet as one file: HTML without scripts, or PDF."""
    today = datetime.now(UTC).astimezone().date()
    made = compute(
        works.printed_sheet, body.design, _shelf(parts), body.parts, body.paper, body.revision,
        today, body.currency, body.prices, body.prints,
    )  # fmt: skip
    media = "text/html; charset=utf-8" if body.prints == "html" else "application/pdf"
    return Response(made, media_type=media, headers=_as_file(body.design, "-sheet", body.prints))


@router.post(
    "/drawing",
    response_class=Response,
    responses={200: {"content": {"image/svg+xml": {}, "image/png": {}}}},
)
def post_drawing(body: DrawingRequest, compute: Computing) -> Response:
    """The drawing as a picture of its own: all loads, wires with size, fuse and length."""
    made = compute(works.drawn, body.design, body.revision, body.picture)
    media = "image/svg+xml" if body.picture == "svg" else "image/png"
    return Response(made, media_type=media, headers=_as_file(body.design, "", body.picture))


def _as_file(design: Design, what: str, kind: str) -> dict[str, str]:
    name = re.sub(r"[^a-z0-9]+", "-", design.name.lower()).strip("-") or "design"
    return {"Content-Disposition": f'attachment; filename="{name}{what}.{kind}"'}

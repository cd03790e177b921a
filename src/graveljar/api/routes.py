"""The routes: each hands over to the core or the store."""

from typing import Annotated, Literal
from uuid import UUID

from fastapi import APIRouter, Depends, Request, Response
from fastapi.responses import JSONResponse
from pydantic import BaseModel, ConfigDict, Field, TypeAdapter

from graveljar.api.problems import ProblemDetails
from graveljar.api.reference import Reference, reference
from graveljar.api.requests import BoundedRoute
from graveljar.core.document import Design
from graveljar.core.entry import Reading, read_line
from graveljar.core.evaluate import evaluate
from graveljar.core.evaluation import Evaluation
from graveljar.store.designs import Designs, Stored, Summary

_EVALUATION = TypeAdapter(Evaluation)
_PROBLEM = {"model": ProblemDetails, "content": {"application/problem+json": {}}}

router = APIRouter(
    prefix="/api",
    route_class=BoundedRoute,
    responses={"4XX": _PROBLEM, "5XX": _PROBLEM},
)


def _designs(request: Request) -> Designs:
    designs: Designs = request.app.state.designs
    return designs


Kept = Annotated[Designs, Depends(_designs)]


class _Body(BaseModel):
    model_config = ConfigDict(extra="forbid")


class Line(_Body):
    """One line of quick entry, and the design it is for."""

    line: Annotated[str, Field(max_length=300)]
    design: Design


class NewDesign(_Body):
    """A design to keep; without a document an empty one."""

    document: Design = Design()


class Save(_Body):
    """A document, and the revision it was made from."""

    base: Annotated[int, Field(ge=1)]
    document: Design


class Health(BaseModel):
    """Whether this program and its database answer."""

    status: Literal["ok", "degraded"]
    database: Literal["ok", "away"]


@router.get("/health")
def health(designs: Kept, response: Response) -> Health:
    """Tell whether the database answers; 503 if it does not."""
    if designs.reachable():
        return Health(status="ok", database="ok")
    response.status_code = 503
    return Health(status="degraded", database="away")


@router.get("/reference")
def get_reference() -> Reference:
    """Chemistries, assumptions, sources and blank parts."""
    return reference()


@router.post("/evaluate", response_model=Evaluation)
def post_evaluate(design: Design) -> Response:
    """Work a design out; nothing is stored."""
    # Asked at each edit: written out at once, without a second pass over its hundreds of figures.
    return Response(_EVALUATION.dump_json(evaluate(design)), media_type="application/json")


@router.post("/read-load")
def post_read_load(body: Line) -> Reading:
    """Read one line in nameplate words as a load; nothing is stored."""
    return read_line(body.line, body.design)


@router.get("/designs")
def get_designs(designs: Kept) -> list[Summary]:
    """Every design, the last saved first."""
    return designs.all()


@router.post("/designs", status_code=201)
def post_design(body: NewDesign, designs: Kept) -> Stored:
    """Keep a new design: empty, or imported as its document."""
    return designs.create(body.document)


@router.get("/designs/{design_id}")
def get_design(design_id: UUID, designs: Kept) -> Stored:
    """The newest revision of a design."""
    return designs.get(design_id)


@router.put("/designs/{design_id}")
def put_design(design_id: UUID, body: Save, designs: Kept) -> Stored:
    """Append a revision; 409 with the newest one if it was made from an older."""
    return designs.save(design_id, body.base, body.document)


@router.delete("/designs/{design_id}", status_code=204)
def delete_design(design_id: UUID, designs: Kept) -> None:
    """Hide a design; it can be restored."""
    designs.delete(design_id)


@router.post("/designs/{design_id}/restore")
def restore_design(design_id: UUID, designs: Kept) -> Stored:
    """Bring a deleted design back."""
    return designs.restore(design_id)


@router.get("/designs/{design_id}/document", response_model=Design)
def export_design(design_id: UUID, designs: Kept) -> JSONResponse:
    """The document alone, as a file to keep or to import elsewhere."""
    stored = designs.get(design_id)
    name = f"gravel-jar-{str(stored.id)[:8]}.json"
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return JSONResponse(stored.document.model_dump(mode="json"), headers=headers)

"""Designs as they are kept: list, open, save, delete, restore."""

from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Path, Query
from fastapi.responses import JSONResponse
from pydantic import Field

from graveljar.api.answers import glance
from graveljar.api.carried import KeptDesigns
from graveljar.api.problems import PROBLEMS
from graveljar.api.requests import Body, BoundedRoute, Computing
from graveljar.computing.glance import Glance
from graveljar.core.model import Design
from graveljar.core.model.fields import ONE_LINE
from graveljar.core.planning.beginnings import Have, Region, begin
from graveljar.demo import demo_designs
from graveljar.store.errors import DesignNotFound
from graveljar.store.records import Place, Stored, Summary

router = APIRouter(prefix="/api", route_class=BoundedRoute, responses=PROBLEMS)


Tag = Annotated[str, Field(min_length=1, max_length=24, pattern=ONE_LINE)]


class NewDesign(Body):
    """A design to keep; without a document an empty one."""

    document: Design = Design()


class Beginning(Body):
    """What somebody has, and where it is built."""

    have: Have
    region: Region = Region()


class Example(Body):
    """An example by its key."""

    key: str
    name: str
    notes: str


class Save(Body):
    """A document, and the revision it was made from."""

    base: Annotated[int, Field(ge=1)]
    document: Design


class Tags(Body):
    """Words to find a design by, each once."""

    tags: Annotated[tuple[Tag, ...], Field(max_length=8)]


@router.get("/designs")
def get_designs(
    designs: KeptDesigns,
    place: Place = "current",
    skip: Annotated[int, Query(ge=0, le=1_000_000)] = 0,
) -> list[Summary]:
    """Designs at hand, archived or deleted, the last saved first; 1 000 at a time."""
    return designs.all(place, skip)


@router.post("/designs", status_code=201)
def post_design(body: NewDesign, designs: KeptDesigns) -> Stored:
    """Keep a new design: empty, or imported as its document."""
    return designs.create(body.document)


@router.post("/designs/begin", status_code=201)
def post_begin(body: Beginning, designs: KeptDesigns) -> Stored:
    """Keep a new design made of what somebody has."""
    return designs.create(begin(body.have, body.region))


@router.get("/examples")
def get_examples() -> list[Example]:
    """Designs to look at, made up."""
    return [Example(key=key, name=x.name, notes=x.notes) for key, x in demo_designs().items()]


@router.post("/examples/{key}", status_code=201)
def post_example(key: Annotated[str, Path(max_length=40)], designs: KeptDesigns) -> Stored:
    """Keep a copy of an example, to change at will."""
    found = demo_designs().get(key)
    if found is None:
        raise DesignNotFound("There is no such example.")
    return designs.create(found)


@router.get("/designs/{design_id}")
def get_design(design_id: UUID, designs: KeptDesigns) -> Stored:
    """The newest revision of a design."""
    return designs.get(design_id)


@router.get("/designs/{design_id}/glance")
def get_glance(design_id: UUID, designs: KeptDesigns, compute: Computing) -> Glance:
    """A design as the list of all shows it."""
    stored = designs.get(design_id)
    return glance(stored.document, compute, stored.revision)


@router.put("/designs/{design_id}")
def put_design(design_id: UUID, body: Save, designs: KeptDesigns) -> Stored:
    """Append a revision; 409 with the newest one if it was made from an older."""
    return designs.save(design_id, body.base, body.document)


@router.delete("/designs/{design_id}", status_code=204)
def delete_design(design_id: UUID, designs: KeptDesigns) -> None:
    """Hide a design; it can be restored."""
    designs.delete(design_id)


@router.post("/designs/{design_id}/archive", status_code=204)
def archive_design(design_id: UUID, designs: KeptDesigns) -> None:
    """Put a design away."""
    designs.archive(design_id, away=True)


@router.post("/designs/{design_id}/bring-back", status_code=204)
def bring_back_design(design_id: UUID, designs: KeptDesigns) -> None:
    """Bring an archived design back."""
    designs.archive(design_id, away=False)


@router.put("/designs/{design_id}/tags", status_code=204)
def put_tags(design_id: UUID, body: Tags, designs: KeptDesigns) -> None:
    """Give a design words to find it by, in place of those it had."""
    designs.tag(design_id, tuple(dict.fromkeys(body.tags)))


@router.post("/designs/{design_id}/restore")
def restore_design(design_id: UUID, designs: KeptDesigns) -> Stored:
    """Bring a deleted design back."""
    return designs.restore(design_id)


@router.get("/designs/{design_id}/document", response_model=Design)
def export_design(design_id: UUID, designs: KeptDesigns) -> JSONResponse:
    """The document alone, as a file to keep or to import elsewhere."""
    stored = designs.get(design_id)
    name = f"gravel-jar-{str(stored.id)[:8]}.json"
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return JSONResponse(stored.document.model_dump(mode="json"), headers=headers)

"""The history of a design: what changed when, older versions, names for them."""

from dataclasses import dataclass
from datetime import datetime
from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Path, Query
from pydantic import Field

from graveljar.api.carried import KeptDesigns
from graveljar.api.problems import PROBLEMS
from graveljar.api.requests import Body, BoundedRoute
from graveljar.core.model import Design
from graveljar.core.model.fields import ANY_TEXT
from graveljar.core.planning.comparison.changes import Change, changes_between, summary
from graveljar.store.records import Revision

router = APIRouter(prefix="/api", route_class=BoundedRoute, responses=PROBLEMS)

MAX_NUMBER = 2_147_483_647


Number = Annotated[int, Path(ge=1, le=MAX_NUMBER)]


class TwoDesigns(Body):
    """Two documents to compare."""

    before: Design
    after: Design


class RevisionName(Body):
    """What a person calls a version; empty takes the name away."""

    name: Annotated[str, Field(max_length=80, pattern=ANY_TEXT)]


@dataclass(frozen=True)
class HistoryEntry:
    """One version of a design: when it was saved and what changed since the one before."""

    number: int
    saved_at: datetime
    name: str | None
    what: str


@router.post("/changes")
def post_changes(body: TwoDesigns) -> list[Change]:
    """What differs between two documents, in words."""
    return list(changes_between(body.before, body.after))


@router.get("/designs/{design_id}/revisions")
def get_revisions(
    design_id: UUID,
    designs: KeptDesigns,
    before: Annotated[int | None, Query(ge=1, le=MAX_NUMBER)] = None,
    count: Annotated[int, Query(ge=1, le=100)] = 40,
) -> list[HistoryEntry]:
    """Versions of a design, the newest first; `before` goes on from a number."""
    # One more than asked, to tell what the oldest of them changed.
    found = designs.revisions(design_id, before, count + 1)
    older = [*found[1:], None]
    return [_entry(one, last) for one, last in zip(found, older, strict=True)][:count]


@router.get("/designs/{design_id}/revisions/{number}")
def get_revision(design_id: UUID, number: Number, designs: KeptDesigns) -> Revision:
    """One version of a design, with its document."""
    return designs.revision(design_id, number)


@router.put("/designs/{design_id}/revisions/{number}/name", status_code=204)
def put_revision_name(
    design_id: UUID, number: Number, body: RevisionName, designs: KeptDesigns
) -> None:
    """Give a version a name."""
    designs.name_revision(design_id, number, body.name.strip())


def _entry(one: Revision, last: Revision | None) -> HistoryEntry:
    if last is None:
        what = "first version"
    else:
        what = summary(changes_between(last.document, one.document)) or "nothing"
    return HistoryEntry(one.number, one.saved_at, one.name, what)

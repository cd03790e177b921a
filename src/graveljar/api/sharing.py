"""Routes to hand a design on as one file, and to take one in."""

from uuid import UUID

from fastapi import APIRouter

from graveljar.api.carried import KeptDesigns, KeptParts
from graveljar.api.problems import PROBLEMS
from graveljar.api.requests import Body, BoundedRoute
from graveljar.core.model import Design
from graveljar.core.planning.shelf import Candidate
from graveljar.core.planning.shelf.share import SharedDesign, shared
from graveljar.store.records import Stored

router = APIRouter(prefix="/api/shared-design", route_class=BoundedRoute, responses=PROBLEMS)


class ShareRequest(Body):
    """A design to hand on, with or without the prices of the shelf."""

    design: Design
    prices: bool = True


class TakenIn(Body):
    """A design that was taken in, and how many parts are new on the shelf with it."""

    design: Stored
    new_parts: int


@router.post("")
def post_share(body: ShareRequest, parts: KeptParts) -> SharedDesign:
    """A design with the parts of the shelf that it was made with; nothing is stored."""
    shelf = [Candidate(str(kept.id), kept.part) for kept in parts.all()]
    return shared(body.design, shelf, prices=body.prices)


@router.post("/take-in", status_code=201)
def post_take_in(body: SharedDesign, designs: KeptDesigns, parts: KeptParts) -> TakenIn:
    """Keep a design that was handed on, and parts that were never on this shelf.

    A part that is there stays as it is, with its own price; one that was deleted stays deleted.
    """
    new = parts.take_in({UUID(one.id): one.part for one in body.shelf})
    return TakenIn(design=designs.create(body.design), new_parts=new)

"""Options: whole systems sized from the shelf, single changes ranked, hours against one thing."""

import json
from collections.abc import AsyncGenerator, AsyncIterator
from typing import Annotated, Literal

from fastapi import APIRouter
from fastapi.responses import StreamingResponse
from pydantic import Field, TypeAdapter

from graveljar.api.carried import KeptParts, Running
from graveljar.api.problems import PROBLEMS
from graveljar.api.requests import Body, BoundedRoute, Computing
from graveljar.computing import works
from graveljar.core.model import Design, Part
from graveljar.core.planning.comparison import ComparedDesign, Variant
from graveljar.core.planning.improvements import Lever, levers_of
from graveljar.core.planning.mending import Mend, mend
from graveljar.core.planning.search import (
    STEP_NAMES,
    Found,
    Progress,
    SearchAsk,
    Searched,
    SearchPart,
    Step,
)
from graveljar.core.planning.search.front import ParetoFront
from graveljar.core.planning.sensitivity import Against, Sweep, sweep_of
from graveljar.core.planning.shelf import Candidate

router = APIRouter(prefix="/api/options", route_class=BoundedRoute, responses=PROBLEMS)

MAX_SIDES = 4
_STEP: TypeAdapter[Step] = TypeAdapter(Step)


class SearchRequest(Body):
    """What to size, from the parts on the shelf.

    `refill`: whether what fills the bank of the design is counted. `stations`: whether power
    stations are tried too.
    """

    design: Design
    most_strings: Annotated[int, Field(ge=1, le=32)] | None = None
    reserve: Annotated[float, Field(ge=0, le=0.9)] | None = None
    refill: bool = True
    stations: bool = True


class CompareRequest(Body):
    """Designs to lay side by side."""

    designs: Annotated[tuple[Design, ...], Field(min_length=1, max_length=MAX_SIDES)]


class SearchLine(Part):
    """A line of a search's answer: how far it is, something found, or its end.

    `beaten` are the keys of what was found before and is beaten by it in everything.
    """

    step: Literal["progress", "found", "searched"]
    progress: Progress | None = None
    found: Found | None = None
    beaten: tuple[str, ...] = ()
    searched: Searched | None = None


@router.post("/levers")
def post_levers(design: Design, parts: KeptParts, compute: Computing) -> list[Lever]:
    """Single changes by the hours they buy; nothing is stored."""
    shelf = [Candidate(str(kept.id), kept.part) for kept in parts.all()]
    return list(compute(levers_of, design, shelf))


@router.post("/mend")
def post_mend(design: Design, compute: Computing) -> Mend:
    """The fewest changes that clear every stop and fix; nothing is stored."""
    return compute(mend, design)


@router.post("/sweeps")
def post_sweep(design: Design, against: Against, compute: Computing) -> Sweep:
    """Hours against the number of batteries, the temperature, or the largest load's hours."""
    return compute(sweep_of, design, against)


@router.post("/wake", status_code=204)
def post_wake(searches: Running) -> None:
    """Have the workers of a search ready: somebody looks at the options."""
    searches.wake()


@router.post("/variants")
def post_variants(design: Design, compute: Computing) -> list[Variant]:
    """The schools of the trade as variants of a design; nothing is stored."""
    return compute(works.variants_in, design)


@router.post("/sides")
def post_sides(body: CompareRequest, parts: KeptParts, compute: Computing) -> list[ComparedDesign]:
    """Designs in columns, with the prices of the shelf; nothing is stored."""
    shelf = [Candidate(str(kept.id), kept.part) for kept in parts.all()]
    return compute(works.sides_of, body.designs, shelf)


@router.post(
    "/search",
    response_class=StreamingResponse,
    responses={200: {"model": SearchLine, "content": {"application/x-ndjson": {}}}},
)
def post_search(body: SearchRequest, parts: KeptParts, searches: Running) -> StreamingResponse:
    """Size whole systems: a line of JSON a step, as it is found. It ends with the connection."""
    ask = SearchAsk(
        parts=tuple(
            SearchPart(id=str(kept.id), part=kept.part)
            for kept in parts.all()
            if kept.part.kind != "panel"
        ),
        most_strings=body.most_strings,
        reserve=body.reserve,
        refill=body.refill,
        stations=body.stations,
    )
    steps = searches.steps(body.design, ask, searches.admit())
    return StreamingResponse(_lines(steps), media_type="application/x-ndjson")


async def _lines(steps: AsyncGenerator[Step, None]) -> AsyncIterator[str]:
    # Each worker knows its own best; what is shown is the best of all.
    front = ParetoFront()
    async for step in steps:
        name = STEP_NAMES[type(step)]
        line = {"step": name, name: _STEP.dump_python(step, mode="json")}
        if isinstance(step, Found):
            if not front.wants(step):
                continue
            line["beaten"] = [one.key for one in front.add(step)]
        yield json.dumps(line, ensure_ascii=False) + "\n"

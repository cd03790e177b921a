"""The routes: each hands over to the core or the store."""

from collections.abc import Iterator
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import IO, Annotated, Final, Literal

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field

from graveljar.api.answers import course_json, evaluation_json, workings_json
from graveljar.api.carried import KeptDesigns
from graveljar.api.described import Csv, as_csv
from graveljar.api.problems import PROBLEMS
from graveljar.api.reference import Reference, reference
from graveljar.api.requests import Body, BoundedRoute, Computing, ComputingAtOnce
from graveljar.computing import works
from graveljar.core.evaluation import ShortEvaluation, WorkedCables, WorkedNeeded
from graveljar.core.model import MAX_LOADS, Design
from graveljar.core.network.rail_choice import Place, places_of_all
from graveljar.core.planning.construction import Ask, BuildResult, build
from graveljar.core.quick_entry import (
    GoalReading,
    LabelReading,
    PartKind,
    Reading,
    read_goal,
    read_label,
    read_line,
)
from graveljar.core.quick_entry.label import MAX_LABEL
from graveljar.core.views.cables import SchoolRow
from graveljar.core.views.timeline import Course
from graveljar.core.workings.working import Figure

router = APIRouter(prefix="/api", route_class=BoundedRoute, responses=PROBLEMS)
# Of a file, so much is sent at a time. [bytes]
PART_BYTES: Final = 65_536


class Line(Body):
    """One line of quick entry, and the design it is for."""

    line: Annotated[str, Field(max_length=300)]
    design: Design


class LabelText(Body):
    """The text of a part's label, and what the part is, if that is known."""

    text: Annotated[str, Field(max_length=MAX_LABEL)]
    kind: PartKind | None = None


class BuildRequest(Body):
    """Something to be built into a design."""

    design: Design
    ask: Ask


class RailChoiceRequest(Body):
    """Loads of a design that look for a rail."""

    design: Design
    loads: Annotated[list[str], Field(max_length=MAX_LOADS)]


class RunRequest(Body):
    """How far to look at a run; of its own accord to its end or a week. [h]"""

    design: Design
    until_h: Annotated[float, Field(gt=0, le=8_760, allow_inf_nan=False)] | None = None


class Health(BaseModel):
    """Whether this program and its database answer."""

    status: Literal["ok", "degraded"]
    database: Literal["ok", "away"]


@router.get("/health")
def health(designs: KeptDesigns, response: Response) -> Health:
    """Tell whether the database answers; 503 if it does not."""
    if designs.reachable():
        return Health(status="ok", database="ok")
    response.status_code = 503
    return Health(status="degraded", database="away")


@router.get("/reference")
def get_reference() -> Reference:
    """Chemistries, assumptions, sources and blank parts."""
    return reference()


@router.post("/evaluate", response_model=ShortEvaluation)
def post_evaluate(
    design: Design, compute: Computing, at_once: ComputingAtOnce, *, quick: bool = False
) -> Response:
    """Work a design out, without workings. A quick one has no band and no effects of fixes."""
    # Asked at each edit: written out at once, without a second pass over its hundreds of figures.
    answer = evaluation_json(design, at_once if quick else compute, quick=quick)
    return Response(answer, media_type="application/json")


@router.post("/workings", response_model=dict[str, Figure])
def post_workings(design: Design, at_once: ComputingAtOnce) -> Response:
    """Every figure of a design with its working: what stands behind those of its evaluation."""
    return Response(workings_json(design, at_once), media_type="application/json")


@router.post("/read-load")
def post_read_load(body: Line) -> Reading:
    """Read one line in nameplate words as a load; nothing is stored."""
    return read_line(body.line, body.design)


@router.post("/read-goal")
def post_read_goal(body: Line) -> GoalReading:
    """Read a goal in plain words: how long, by how much sun; nothing is stored."""
    return read_goal(body.line, body.design)


@router.post("/read-label")
def post_read_label(body: LabelText) -> LabelReading:
    """Read a part's label: what is understood, what is missing, what is unsure."""
    return read_label(body.text, body.kind)


@router.post("/build")
def post_build(body: BuildRequest, at_once: ComputingAtOnce) -> BuildResult:
    """Work out the edits that add, move or remove what is asked; nothing is stored."""
    return at_once(build, body.design, body.ask)


@router.post("/places")
def post_places(body: RailChoiceRequest) -> list[Place]:
    """Rails that could take all of some loads, the best first."""
    loads = [load for load in body.design.loads if load.id in set(body.loads)]
    return list(places_of_all(body.design, loads))


@router.post("/course", response_model=Course)
def post_course(body: RunRequest, compute: Computing) -> Response:
    """A run in full, for the time line; nothing is stored."""
    return Response(course_json(body.design, compute, body.until_h), media_type="application/json")


@router.post("/course.csv", response_class=Csv)
def post_course_csv(body: RunRequest, compute: Computing) -> Csv:
    """Every point of a run as CSV."""
    with TemporaryDirectory() as folder:
        file = Path(folder) / "course.csv"
        compute(works.points_into, file, body.design, body.until_h)
        # It has no name any more once it is sent: nothing is left, however that ends.
        opened = file.open("rb")
    return as_csv(_parts_of(opened))


def _parts_of(opened: IO[bytes]) -> Iterator[bytes]:
    with opened:
        while part := opened.read(PART_BYTES):
            yield part


@router.post("/needed", response_model=WorkedNeeded)
def post_needed(design: Design, compute: Computing) -> Response:
    """What the loads need of the bank until the goal, and what each choice would do."""
    return Response(compute(works.needed_in, design), media_type="application/json")


@router.post("/cables", response_model=WorkedCables)
def post_cables(design: Design, compute: Computing) -> Response:
    """Every cable run, what is bought and cut for them, and the figures of the runs."""
    return Response(compute(works.cables_in, design), media_type="application/json")


@router.post("/cables/schools")
def post_schools(design: Design, compute: Computing) -> list[SchoolRow]:
    """Every cable run by the ampacity table of each school, side by side."""
    return compute(works.schools_in, design)


@router.post("/cables.csv", response_class=Csv)
def post_cables_csv(
    design: Design, compute: Computing, what: Literal["runs", "joints", "cuts"] = "runs"
) -> Csv:
    """Every cable run, its conductors end to end, or what is bought and cut, as CSV."""
    return as_csv([compute(works.cables_csv, design, what)])

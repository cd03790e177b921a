"""What workers work out, by name: a worker is told the function and its arguments."""

import pickle
from collections.abc import Callable, Mapping, Sequence
from datetime import date
from pathlib import Path
from typing import Final, Literal

from pydantic import TypeAdapter

from graveljar.core.cables.colours import colours_of
from graveljar.core.context import Context
from graveljar.core.errors import InvalidDocument
from graveljar.core.evaluate import (
    cables_worked_out,
    evaluate_short,
    evaluate_without_half,
    needed_worked_out,
    other_half,
)
from graveljar.core.evaluation import Judgement, ShortEvaluation, WorkedCables, WorkedNeeded
from graveljar.core.fixes import Standing
from graveljar.core.model import Design
from graveljar.core.planning.balance import Pair, pairs_of
from graveljar.core.planning.comparison import ComparedDesign, Variant, side_of, variants_of
from graveljar.core.planning.search import Progress, SearchAsk, Step, search
from graveljar.core.planning.shelf import Candidate
from graveljar.core.readings import (
    Against,
    BothFigures,
    CapacityReading,
    Check,
    DrawnRow,
    FiguresEffect,
    Fit,
    Judged,
    LogData,
    Now,
    Outlook,
    Reading,
    against,
    both_figures,
    capacity_of,
    checklist,
    effect_of_figures,
    fit_log,
    judge_reading,
    outlook_of,
)
from graveljar.core.sheet import Sheet, sheet_of
from graveljar.core.views.band_causes import BandCauses, band_causes
from graveljar.core.views.cables import SchoolRow, cables_of, schools_of
from graveljar.core.views.outage import Outage, outage_of
from graveljar.core.views.refill import Refill, refill_of
from graveljar.core.views.series import all_series_of
from graveljar.core.views.timeline import Course, course_of
from graveljar.core.views.year import MonthRow, year_of
from graveljar.core.workings import keep_all
from graveljar.core.workings.working import Figure
from graveljar.formats.cables_csv import write_cuts, write_joints, write_runs
from graveljar.formats.course_csv import write_series
from graveljar.formats.drawing import as_pdf, drawing_or_none, drawing_png, drawing_svg
from graveljar.formats.sheet_html import Paper, Part, sheet_html

_EVALUATION: Final = TypeAdapter(ShortEvaluation)
_JUDGEMENT: Final = TypeAdapter(Judgement)
_WORKINGS: Final = TypeAdapter(Mapping[str, Figure])
_COURSE: Final = TypeAdapter(Course)
_WEEK: Final = TypeAdapter(Refill)
_CABLES: Final = TypeAdapter(WorkedCables)
_NEEDED: Final = TypeAdapter(WorkedNeeded)


def evaluation_of(design: Design, quick: bool) -> bytes:
    """An evaluation, written out."""
    return _EVALUATION.dump_json(evaluate_short(design, quick=quick))


def evaluation_but_half(
    tell: Callable[[bytes], None], design: Design
) -> tuple[bytes, list[bytes], tuple[int, ...]]:
    """An evaluation without half of its trials: all but its findings, those, and which are left.

    The findings are each written out; those that are left have no fixes yet. What the other half
    needs is told as soon as it is known.
    """
    evaluation, left_out = evaluate_without_half(design, lambda x: tell(pickle.dumps(x)))
    rest = _EVALUATION.dump_json(evaluation, exclude={"findings"})
    return rest, [_JUDGEMENT.dump_json(x) for x in evaluation.findings], left_out


def other_half_of(told: bytes) -> list[bytes]:
    """The findings that `evaluation_but_half` leaves, each written out."""
    before: Standing = pickle.loads(told)  # noqa: S301
    return [_JUDGEMENT.dump_json(x) for x in other_half(before)]


def put_together(half: tuple[bytes, list[bytes], tuple[int, ...]], other: list[bytes]) -> bytes:
    """An evaluation of its two halves, as `evaluation_of` writes it."""
    rest, findings, left_out = half
    for place, finding in zip(left_out, other, strict=True):
        findings[place] = finding
    return rest[:-1] + b',"findings":[' + b",".join(findings) + b"]}"


def cables_in(design: Design) -> bytes:
    """The cables and the figures of their runs, written out."""
    return _CABLES.dump_json(cables_worked_out(design))


def needed_in(design: Design) -> bytes:
    """What is needed of the bank and the figures of it, written out."""
    return _NEEDED.dump_json(needed_worked_out(design))


def workings_of(design: Design) -> bytes:
    """Every figure with its working, written out."""
    return _WORKINGS.dump_json(keep_all(Context(design)).by_key)


def run_of(design: Design, until_h: float | None) -> bytes:
    """A run in full, written out."""
    return _COURSE.dump_json(course_of(Context(design), until_h))


def week_of(design: Design, fill_from: float) -> bytes:
    """A week, written out."""
    return _WEEK.dump_json(refill_of(Context(design), fill_from))


def points_into(file: Path, design: Design, until_h: float | None) -> None:
    """Write every point of a run into a file, as CSV."""
    context = Context(design)
    # The whole run first: one that finds no answer is an error, not half a file.
    ends_h = context.analysis.run.ends_h
    lines = write_series(design, all_series_of(context, min(until_h or ends_h, ends_h)))
    with file.open("w", encoding="utf-8", newline="") as out:
        out.writelines(lines)


def months_of(design: Design) -> tuple[MonthRow, ...]:
    """The week in every month."""
    return tuple(year_of(Context(design)))


def outage_of_mains(design: Design, hours: float) -> Outage | None:
    """An outage of so many hours at its worst."""
    return outage_of(Context(design), hours)


def pairs_in(design: Design, shelf: list[Candidate], poor: bool) -> tuple[Pair, ...]:
    """Numbers of batteries and panels that balance the week."""
    return tuple(pairs_of(design, shelf, poor=poor))


def variants_in(design: Design) -> list[Variant]:
    """The schools of the trade as variants."""
    return list(variants_of(Context(design)))


def sides_of(designs: Sequence[Design], shelf: list[Candidate]) -> list[ComparedDesign]:
    """Designs in columns."""
    return [side_of(design, shelf) for design in designs]


def part_of_search(design: Design, ask: SearchAsk, part: tuple[int, int]) -> list[Step]:
    """One part of a search, of so many."""
    return [step for step in search(design, ask, part) if not isinstance(step, Progress)]


def schools_in(design: Design) -> list[SchoolRow]:
    """Cables by the table of each school."""
    return list(schools_of(Context(design)))


def cables_csv(design: Design, what: Literal["runs", "joints", "cuts"]) -> str:
    """Cable runs, joints or cuts as CSV."""
    cables = cables_of(Context(design))
    if what == "joints":
        return write_joints(cables, colours_of(design.setting))
    return write_runs(cables) if what == "runs" else write_cuts(cables)


def whole_sheet(design: Design, shelf: list[Candidate]) -> Sheet:
    """Everything that is printed."""
    return sheet_of(Context(design), shelf)


def printed_sheet(
    design: Design,
    shelf: list[Candidate],
    parts: tuple[Part, ...],
    paper: Paper,
    revision: int | None,
    day: date,
    currency: str,
    prices: bool,
    prints: Literal["html", "pdf"],
) -> bytes:
    """The sheet as one file."""
    html = sheet_html(
        whole_sheet(design, shelf), parts=parts, paper=paper, revision=revision, day=day,
        currency=currency, prices=prices,
        drawing=drawing_or_none(design, revision) if "cover" in parts else "",
    )  # fmt: skip
    return html.encode() if prints == "html" else as_pdf(html)


def drawn(design: Design, revision: int | None, picture: Literal["svg", "png"]) -> bytes:
    """The drawing as a picture."""
    svg = drawing_svg(design, revision)
    return svg.encode() if picture == "svg" else drawing_png(svg)


def checks_of(design: Design) -> list[Check]:
    """What to measure, in order."""
    return list(checklist(Context(design)))


def figures_of(design: Design) -> list[BothFigures]:
    """Measured figures beside those of the label."""
    return list(both_figures(Context(design)))


def effect_of(design: Design, changed: Design) -> FiguresEffect:
    """What a change of figures does."""
    return effect_of_figures(Context(design), Context(changed))


def causes_of(design: Design) -> BandCauses:
    """What the band depends on."""
    return band_causes(Context(design))


def left_from(design: Design, now: Now) -> Outlook:
    """What is left from now on."""
    return outlook_of(Context(design), now)


def judged_by(design: Design, readings: list[Reading]) -> list[Judged | None]:
    """Readings judged; None where the part is there no more."""
    context = Context(design)
    found: list[Judged | None] = []
    for reading in readings:
        try:
            found.append(judge_reading(context, reading, readings))
        except InvalidDocument:
            found.append(None)
    return found


def fit_of(design: Design, subject: str, data: LogData) -> Fit:
    """What a log tells of its part."""
    return fit_log(Context(design), subject, data)


def against_run(design: Design, subject: str, data: LogData) -> Against:
    """A log beside the run."""
    return against(Context(design), subject, data)


def capacity_in(subject: str, rows: list[DrawnRow], air_c: float) -> CapacityReading:
    """A log as a capacity test."""
    return capacity_of(subject, rows, air_c)

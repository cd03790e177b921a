"""What was worked out lately, kept as it was sent: undo and a second look cost nothing.

A design evaluates the same always, so an answer kept is the answer.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import lru_cache
from typing import Final

from pydantic import TypeAdapter

from graveljar.api.workers import Compute
from graveljar.core.context import Context
from graveljar.core.evaluate import evaluate
from graveljar.core.evaluation import ShortEvaluation
from graveljar.core.model import Design
from graveljar.core.views.refill import Refill, refill_of
from graveljar.core.views.timeline import Course, course_of
from graveljar.core.workings import keep_all
from graveljar.core.workings.working import Figure

# A usual answer takes 0.1 MB, one of the largest design 2 MB.
MAX_EVALUATIONS: Final = 32
MAX_COURSES: Final = 16
MAX_WEEKS: Final = 16

_EVALUATION: Final = TypeAdapter(ShortEvaluation)
_WORKINGS: Final = TypeAdapter(Mapping[str, Figure])
_COURSE: Final = TypeAdapter(Course)
_WEEK: Final = TypeAdapter(Refill)


@dataclass(frozen=True)
class _Sent:
    """A design as it was sent: known by what stands in it."""

    document: str
    design: Design = field(compare=False)
    compute: Compute = field(compare=False)


def evaluation_json(design: Design, compute: Compute, *, quick: bool) -> bytes:
    """The evaluation of a design, written out."""
    return _evaluation(_sent(design, compute), quick)


def workings_json(design: Design, compute: Compute) -> bytes:
    """Every figure of a design with its working, written out."""
    return compute(_worked, design)


def course_json(design: Design, compute: Compute, until_h: float | None) -> bytes:
    """A run in full until some hours from its start, or to its end, written out. [h]"""
    return _course(_sent(design, compute), until_h)


def week_json(design: Design, compute: Compute, fill_from: float) -> bytes:
    """A week of a design, and how its stores fill from a charge, written out. [1]"""
    return _week(_sent(design, compute), fill_from)


def _sent(design: Design, compute: Compute) -> _Sent:
    # Only what was sent: edits point into that.
    return _Sent(design.model_dump_json(exclude_unset=True), design, compute)


@lru_cache(MAX_EVALUATIONS)
def _evaluation(sent: _Sent, quick: bool) -> bytes:
    return sent.compute(_evaluated, sent.design, quick)


@lru_cache(MAX_COURSES)
def _course(sent: _Sent, until_h: float | None) -> bytes:
    return sent.compute(_run, sent.design, until_h)


@lru_cache(MAX_WEEKS)
def _week(sent: _Sent, fill_from: float) -> bytes:
    return sent.compute(_refilled, sent.design, fill_from)


def _evaluated(design: Design, quick: bool) -> bytes:
    return _EVALUATION.dump_json(evaluate(design, quick=quick))


def _worked(design: Design) -> bytes:
    return _WORKINGS.dump_json(keep_all(Context(design)).by_key)


def _run(design: Design, until_h: float | None) -> bytes:
    return _COURSE.dump_json(course_of(Context(design), until_h))


def _refilled(design: Design, fill_from: float) -> bytes:
    return _WEEK.dump_json(refill_of(Context(design), fill_from))

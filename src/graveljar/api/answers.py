"""What was worked out lately, kept as it was sent: undo and a second look cost nothing.

A design evaluates the same always, so an answer kept is the answer.
"""

from functools import lru_cache
from typing import Final

from pydantic import TypeAdapter

from graveljar.core.context import Context
from graveljar.core.evaluate import evaluate
from graveljar.core.evaluation import Evaluation
from graveljar.core.model import Design
from graveljar.core.views.timeline import Course, course_of

# A usual answer takes 0.2 MB, one of the largest design 3 MB.
MAX_EVALUATIONS: Final = 32
MAX_COURSES: Final = 16

_EVALUATION: Final = TypeAdapter(Evaluation)
_COURSE: Final = TypeAdapter(Course)


def evaluation_json(design: Design, *, quick: bool) -> bytes:
    """The evaluation of a design, written out."""
    return _evaluation(_sent(design), quick)


def course_json(design: Design, until_h: float | None) -> bytes:
    """A run in full until some hours from its start, or to its end, written out. [h]"""
    return _course(_sent(design), until_h)


def _sent(design: Design) -> str:
    # Only what was sent: edits point into that.
    return design.model_dump_json(exclude_unset=True)


@lru_cache(MAX_EVALUATIONS)
def _evaluation(document: str, quick: bool) -> bytes:
    return _EVALUATION.dump_json(evaluate(Design.model_validate_json(document), quick=quick))


@lru_cache(MAX_COURSES)
def _course(document: str, until_h: float | None) -> bytes:
    return _COURSE.dump_json(course_of(Context(Design.model_validate_json(document)), until_h))

"""What was worked out lately, kept as it was sent: undo and a second look cost nothing.

A design evaluates the same always, so an answer kept is the answer.
"""

from dataclasses import dataclass, field
from functools import lru_cache
from typing import Final

from graveljar.computing import works
from graveljar.computing.glance import Glance, glance_of
from graveljar.computing.workers import Compute, Written, both, compute_here
from graveljar.core.model import Design

# A usual answer takes 0.1 MB, one of the largest design 2 MB.
MAX_EVALUATIONS: Final = 32
MAX_COURSES: Final = 16
MAX_WEEKS: Final = 16
# Glances kept; each is small.
MAX_GLANCES: Final = 512


@dataclass(frozen=True)
class _Sent:
    """A design as it was sent: known by what stands in it, written out once for whoever works."""

    written: bytes
    design: Design | Written = field(compare=False)
    compute: Compute = field(compare=False)


def evaluation_json(design: Design, compute: Compute, *, quick: bool) -> bytes:
    """The evaluation of a design, written out."""
    return _evaluation(_sent(design, compute), quick)


def workings_json(design: Design, compute: Compute) -> bytes:
    """Every figure of a design with its working, written out."""
    return compute(works.workings_of, design)


def course_json(design: Design, compute: Compute, until_h: float | None) -> bytes:
    """A run in full until some hours from its start, or to its end, written out. [h]"""
    return _course(_sent(design, compute), until_h)


def week_json(design: Design, compute: Compute, fill_from: float) -> bytes:
    """A week of a design, and how its stores fill from a charge, written out. [1]"""
    return _week(_sent(design, compute), fill_from)


def glance(design: Design, compute: Compute, revision: int) -> Glance:
    """What the list of designs shows of one."""
    return _glance(_sent(design, compute), revision)


def _sent(design: Design, compute: Compute) -> _Sent:
    written = Written(design)
    return _Sent(written.data, design if compute is compute_here else written, compute)


@lru_cache(MAX_EVALUATIONS)
def _evaluation(sent: _Sent, quick: bool) -> bytes:
    if quick or sent.compute is compute_here:
        return sent.compute(works.evaluation_of, sent.design, quick)
    halves = both(sent.compute, works.evaluation_but_half, works.other_half_of, sent.design)
    return works.put_together(*halves)


@lru_cache(MAX_COURSES)
def _course(sent: _Sent, until_h: float | None) -> bytes:
    return sent.compute(works.run_of, sent.design, until_h)


@lru_cache(MAX_WEEKS)
def _week(sent: _Sent, fill_from: float) -> bytes:
    return sent.compute(works.week_of, sent.design, fill_from)


@lru_cache(MAX_GLANCES)
def _glance(sent: _Sent, revision: int) -> Glance:
    return sent.compute(glance_of, sent.design, revision)

"""Hours against one thing at a time: batteries, temperature, the largest load's hours."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Final, Literal

from graveljar.core.analysis.band import band_of
from graveljar.core.analysis.bank_sizing import MAX_PARALLEL
from graveljar.core.context import Context
from graveljar.core.model import Anytime, Design
from graveljar.core.model.patch import Edit, apply

Against = Literal["batteries", "temperature", "largest load"]
TEMPERATURES_C: Final = (-10.0, -5.0, 0.0, 5.0, 10.0, 15.0, 20.0, 25.0, 30.0)
SHARES: Final = (0.0625, 0.125, 0.25, 0.5, 0.75, 1.0, 1.5, 2.0)


@dataclass(frozen=True)
class SweepPoint:
    """Hours at one value. None: no end up to the horizon. [h]"""

    value: float
    hours: float | None
    p10: float | None
    p90: float | None
    meets_goal: bool
    present: bool


@dataclass(frozen=True)
class Sweep:
    """Hours against one thing, at rising values.

    `meets_from` is the value from which on the goal is met for good: upward for batteries and
    warmth, downward for a load's hours; None if nowhere.
    """

    against: Against
    subject: str
    unit: str
    points: tuple[SweepPoint, ...]
    meets_from: float | None


def sweeps_of(design: Design) -> tuple[Sweep, ...]:
    """All that there is something to say of."""
    return tuple(sweep for sweep in _sweeps(design) if len(sweep.points) > 1)


def _sweeps(design: Design) -> Iterator[Sweep]:
    context = Context(design)
    bank = next(iter(context.network.banks), None)
    if bank is not None:
        at = f"{context.network.store_path(bank)}/parallel"
        counts = sorted({bank.parallel, *range(1, min(2 * bank.parallel + 4, MAX_PARALLEL) + 1)})
        edits = [(float(n), (Edit("replace", at, n),)) for n in counts]
        yield _sweep(design, "batteries", bank.id, "strings", edits, float(bank.parallel))
    setting = design.setting
    if setting.ambient_by_hour is None:
        now_c = setting.ambient_c
        warm = [
            (c, (Edit("replace", "/setting/ambient_c", c),))
            for c in sorted({now_c, *TEMPERATURES_C})
        ]
        yield _sweep(design, "temperature", "design", "°C", warm, now_c)
    largest = max(
        (
            x
            for x in design.loads
            if isinstance(x.when, Anytime) and x.id in context.analysis.day.loads
        ),
        key=lambda load: context.analysis.day.loads[load.id].at_bank_wh,
        default=None,
    )
    if largest is not None:
        now_h, at = largest.when.hours, f"{context.network.load_path(largest)}/when/hours"
        spans = sorted({min(round(now_h * share, 4), 24.0) for share in SHARES})
        hours = [(h, (Edit("replace", at, h),)) for h in spans]
        yield _sweep(design, "largest load", largest.id, "h a day", hours, now_h)


def _sweep(
    design: Design,
    against: Against,
    subject: str,
    unit: str,
    edits: Sequence[tuple[float, tuple[Edit, ...]]],
    now: float,
) -> Sweep:
    points = tuple(
        _at(apply(design, edit), value, present=abs(value - now) < 1e-9) for value, edit in edits
    )
    falling = against == "largest load"
    meets_from = None
    for point in points if falling else reversed(points):
        if not point.meets_goal:
            break
        meets_from = point.value
    return Sweep(against, subject, unit, points, meets_from)


def _at(design: Design, value: float, *, present: bool) -> SweepPoint:
    context = Context(design)
    band = band_of(context.analysis.lowered)
    hours = context.analysis.run.hours
    meets = context.analysis.run.meets(design.goal.hours)
    return SweepPoint(value, hours, band.p10, band.p90, meets, present)

"""Hours against one thing at a time: batteries, temperature, the largest load's hours."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Final, Literal

from graveljar.core.analysis.band import begin_band
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


def sweep_of(design: Design, against: Against) -> Sweep:
    """Hours against one thing; without points where the design has no such thing."""
    return _SWEEPS[against](Context(design)) or Sweep(against, "design", "", (), None)


def _against_batteries(context: Context) -> Sweep | None:
    bank = next(iter(context.network.banks), None)
    if bank is None:
        return None
    at = f"{context.network.store_path(bank)}/parallel"
    counts = sorted({bank.parallel, *range(1, min(2 * bank.parallel + 4, MAX_PARALLEL) + 1)})
    edits = [(float(n), (Edit("replace", at, n),)) for n in counts]
    return _sweep(context, "batteries", bank.id, "strings", edits, float(bank.parallel))


def _against_temperature(context: Context) -> Sweep | None:
    setting = context.network.design.setting
    if setting.ambient_by_hour is not None:
        return None
    now_c = setting.ambient_c
    warm = [
        (c, (Edit("replace", "/setting/ambient_c", c),)) for c in sorted({now_c, *TEMPERATURES_C})
    ]
    return _sweep(context, "temperature", "design", "°C", warm, now_c)


def _against_largest_load(context: Context) -> Sweep | None:
    known = context.analysis.day.loads
    spans = {
        load: load.when.hours
        for load in context.network.design.loads
        if isinstance(load.when, Anytime) and load.id in known
    }
    largest = max(spans, key=lambda load: known[load.id].at_bank_wh, default=None)
    if largest is None:
        return None
    now_h, at = spans[largest], f"{context.network.load_path(largest)}/when/hours"
    values = sorted({min(round(now_h * share, 4), 24.0) for share in SHARES})
    hours = [(h, (Edit("replace", at, h),)) for h in values]
    return _sweep(context, "largest load", largest.id, "h a day", hours, now_h)


_SWEEPS: Final[dict[Against, Callable[[Context], Sweep | None]]] = {
    "batteries": _against_batteries,
    "temperature": _against_temperature,
    "largest load": _against_largest_load,
}
AGAINST: Final = tuple(_SWEEPS)


def _sweep(
    context: Context,
    against: Against,
    subject: str,
    unit: str,
    edits: Sequence[tuple[float, tuple[Edit, ...]]],
    now: float,
) -> Sweep:
    points = tuple(
        _at(context, edit, value, present=abs(value - now) < 1e-9) for value, edit in edits
    )
    falling = against == "largest load"
    meets_from = None
    for point in points if falling else reversed(points):
        if not point.meets_goal:
            break
        meets_from = point.value
    return Sweep(against, subject, unit, points, meets_from)


def _at(context: Context, edits: tuple[Edit, ...], value: float, *, present: bool) -> SweepPoint:
    after = context if present else Context(apply(context.network.design, edits))
    band = begin_band(after.analysis.lowered)
    # Beside the draws on their threads.
    run = after.analysis.run
    found = band()
    meets = run.meets(after.network.design.goal.hours)
    return SweepPoint(value, run.hours, found.p10, found.p90, meets, present)

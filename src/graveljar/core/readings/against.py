"""Plan against log: how far off the hours are, and by which input that is most likely explained."""

from dataclasses import dataclass
from typing import Final, Literal

import numpy as np

from graveljar.core.components.battery import bank_label
from graveljar.core.context import Context
from graveljar.core.model import Bank
from graveljar.core.readings.fitted import MIN_ROWS, Floats, LogData
from graveljar.core.readings.places import part_of
from graveljar.core.text import duration, quantity

# A log that ends within this share above the volts of an empty battery ran it empty. Ours. [1]
EMPTY_WITHIN: Final = 0.06
# Hours that differ by less agree. Ours. [1]
AGREES: Final = 0.03


@dataclass(frozen=True)
class Against:
    """Hours by the plan and by a log, and what explains the difference. [h], [A], [Ah]

    `was_h` is how long the log is; `ended`: the battery was empty then. `said_h` is None where the
    plan has no end. Means and charge are None where the log has no amps.
    """

    said_h: float | None
    was_h: float
    ended: bool
    planned_a: float
    logged_a: float | None
    planned_ah: float
    logged_ah: float | None
    by: Literal["agrees", "load", "capacity", "unknown", "still running"]
    says: str
    explained: str


def against(context: Context, subject: str, log: LogData) -> Against:
    """Lay a log of a bank beside the run of a design. Both begin together.

    Raises
    ------
    InvalidDocument : it is no bank.
    """
    bank: Bank = part_of(context, subject, Bank)
    run = context.analysis.run
    was_h = float(log.at_s[-1] - log.at_s[0]) / 3600 if len(log.at_s) else 0.0
    place = context.analysis.lowered.place[subject]
    hours, _, _, amps, _ = run.points()
    until_h = min(was_h, float(hours[-1])) if len(hours) else 0.0
    planned_ah = _charge(hours, amps[:, place], was_h if run.hours is None else run.hours)
    planned_a = _charge(hours, amps[:, place], until_h) / until_h if until_h else 0.0
    logged_a = logged_ah = None
    if log.amps is not None and np.isfinite(log.amps).sum() >= MIN_ROWS:
        good = np.isfinite(log.amps)
        at_h = (log.at_s[good] - log.at_s[0]) / 3600
        logged_ah = _charge(at_h, log.amps[good], was_h)
        logged_a = _charge(at_h, log.amps[good], until_h) / until_h if until_h else None
    ended = _ended(bank, log)
    by, explained = _explained(run.hours, was_h, planned_a, logged_a, planned_ah, logged_ah, ended)
    said = "longer than simulated" if run.hours is None else duration(run.hours)
    says = f"The plan says {said}; the log has {duration(was_h)}"
    if run.hours and by in ("load", "capacity", "unknown"):
        off_h = was_h - run.hours
        says += f": {duration(abs(off_h))} {'longer' if off_h > 0 else 'shorter'}"
    return Against(
        run.hours,
        was_h,
        ended,
        planned_a,
        logged_a,
        planned_ah,
        logged_ah,
        by,
        f"{says}.",
        explained,
    )


def _charge(hours: Floats, amps: Floats, until_h: float) -> float:
    """Ah that flow out until a time. [Ah]"""
    inside = hours <= until_h
    if inside.sum() < 2:
        return 0.0
    return float(np.trapezoid(amps[inside], hours[inside]))


def _ended(bank: Bank, log: LogData) -> bool:
    """Whether the last rows are those of an empty battery."""
    if log.volts is None or not np.isfinite(log.volts).any():
        return False
    last = float(log.volts[np.isfinite(log.volts)][-1])
    return last <= bank_label(bank).empty_v * (1 + EMPTY_WITHIN)


def _explained(
    said_h: float | None,
    was_h: float,
    planned_a: float,
    logged_a: float | None,
    planned_ah: float,
    logged_ah: float | None,
    ended: bool,
) -> tuple[Literal["agrees", "load", "capacity", "unknown", "still running"], str]:
    """Hours are charge over current: the one that is further from the plan explains them."""
    if said_h is None or not said_h:
        return "unknown", "The plan has no hours to compare with."
    if not ended and was_h < said_h * (1 + AGREES):
        return "still running", "The battery was not empty when the log ended."
    if abs(was_h / said_h - 1) <= AGREES:
        return "agrees", "They agree."
    if logged_a is None or logged_ah is None or min(planned_a, planned_ah, logged_a) <= 0:
        return "unknown", "Amps in the log would tell whether the loads or the battery differ."
    draws, holds = logged_a / planned_a - 1, logged_ah / planned_ah - 1
    load = (
        f"The loads draw {quantity(logged_a, 'A')} on average, {quantity(abs(draws), 'share', 2)} "
        f"{'more' if draws > 0 else 'less'} than the {quantity(planned_a, 'A')} of the plan"
    )
    capacity = (
        f"the battery gave {quantity(logged_ah, 'Ah')}, {quantity(abs(holds), 'share', 2)} "
        f"{'more' if holds > 0 else 'less'} than the {quantity(planned_ah, 'Ah')} of the plan"
    )
    if abs(np.log1p(draws)) >= abs(np.log1p(holds)):
        return "load", f"Most likely the loads: {load[0].lower()}{load[1:]}; {capacity}."
    return "capacity", f"Most likely the battery: {capacity}; {load[0].lower()}{load[1:]}."

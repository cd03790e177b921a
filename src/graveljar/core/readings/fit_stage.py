"""An inverter or converter from a log: volts and amps going in, watts coming out."""

from typing import Any, Final

import numpy as np

from graveljar.core.components.stage_loss import loss_of
from graveljar.core.context import Context
from graveljar.core.model import Converter, Inverter
from graveljar.core.readings.fitted import (
    MIN_ROWS,
    TOLD_WITHIN,
    Fit,
    FittedFigure,
    Floats,
    LogData,
    half_width,
)
from graveljar.core.readings.places import adoption, part_of
from graveljar.core.readings.reading import LogTaken
from graveljar.core.text import quantity

# Class of meters on watts; common practice. [1]
METER_SHARE: Final = 0.01
# Below this share of its watts its idle draw shows, above the other its efficiency. Ours. [1]
LITTLE: Final = 0.1
MUCH: Final = 0.4
# Watts that differ by less than this share of its rating tell no curve. Ours. [1]
VARIES: Final = 0.2


def fit_stage(context: Context, subject: str, log: LogData) -> Fit:
    """Idle draw and efficiency of an inverter or converter: P_in = p0 + k1 P + k2 P².

    Raises
    ------
    InvalidDocument : it is neither.

    Notes
    -----
    Linear least squares. Source of the form: King et al., SAND2007-5036.
    """
    stage: Inverter | Converter = part_of(context, subject, Inverter, Converter)
    hours = float(log.at_s[-1] - log.at_s[0]) / 3600 if len(log.at_s) else 0.0
    rows = int(log.count.sum())
    if log.volts is None or log.amps is None or log.watts is None:
        says = (
            "An inverter or converter is fitted to volts and amps going in and watts coming out: "
            "this log has not all three."
        )
        return Fit((), (says,), rows, hours)
    good = np.isfinite(log.volts) & np.isfinite(log.amps) & np.isfinite(log.watts)
    if good.sum() < MIN_ROWS:
        return Fit((), (f"It has fewer than {MIN_ROWS} rows with all three figures.",), rows, hours)
    in_w, out_w = np.abs(log.volts[good] * log.amps[good]), np.abs(log.watts[good])
    if in_w.sum() <= out_w.sum():
        says = "More comes out than goes in: one of the two is wrong, or they are the other way."
        return Fit((), (says,), rows, hours)
    taken = log.taken(subject)
    return Fit(tuple(_figures(context, stage, taken, in_w, out_w)), (), rows, hours)


def _rated_w(stage: Inverter | Converter) -> float:
    if isinstance(stage, Inverter):
        return stage.continuous_w
    return stage.set_v * stage.continuous_a * stage.parallel


def _figures(
    context: Context,
    stage: Inverter | Converter,
    taken: LogTaken,
    in_w: Floats,
    out_w: Floats,
) -> list[FittedFigure]:
    rated_w = _rated_w(stage)
    share = out_w / rated_w
    curved = float(np.ptp(share)) > VARIES
    # With one load there is one figure: what it then takes.
    powers = (0, 1, 2) if curved else (0,)
    rows = np.stack([share**n for n in powers], axis=1)
    found, *_ = np.linalg.lstsq(rows, in_w, rcond=None)
    misses = in_w - rows @ found
    variance = float(misses @ misses) / max(len(in_w) - len(powers), 1)
    covariance = variance * np.linalg.pinv(rows.T @ rows)

    def drawn(at: float) -> tuple[float, float]:
        """Watts drawn at a share of its rating, and half of their 95 % interval. [W]"""
        row = np.array([at**n for n in powers])
        watts = float(row @ found)
        return watts, half_width(float(np.sqrt(row @ covariance @ row)), METER_SHARE, watts)

    figures = [_idle(context, stage, taken, float(share.min()), *drawn(0.0))]
    most = float(share.max())
    planned = loss_of(stage)
    for name, at, enough in (
        ("Efficiency at its highest load in the log", most, most >= MUCH),
        ("Efficiency at half of that", most / 2, most >= MUCH and curved),
    ):
        given_w = at * rated_w
        watts, half_w = drawn(at)
        value = given_w / watts if watts > 0 else 0.0
        half = value * half_w / watts if watts > 0 else 1.0
        figures.append(
            FittedFigure(
                name, "share", value, value - half, min(value + half, 1.0),
                given_w / planned.dc_w(given_w) if given_w else None, enough and 0 < value < 1,
                "" if enough else f"Load it with {quantity(MUCH * rated_w, 'W')} or more.",
            )
        )  # fmt: skip
    full, half_load = figures[1], figures[2]
    if full.told and half_load.told:
        figures[1] = _efficiencies(context, stage, taken, full, half_load, most)
    return figures


def _idle(
    context: Context,
    stage: Inverter | Converter,
    taken: LogTaken,
    least: float,
    watts: float,
    half: float,
) -> FittedFigure:
    own = isinstance(stage, Inverter)
    planned = stage.idle_w if isinstance(stage, Inverter) else stage.quiescent_w * stage.parallel
    parallel = 1 if isinstance(stage, Inverter) else stage.parallel
    told = least < LITTLE and watts > 0 and half < max(TOLD_WITHIN * watts, 1.0)
    changed: dict[str, Any] = {"idle_w" if own else "quiescent_w": round(watts / parallel, 2)}
    return FittedFigure(
        "Idle draw", "W", watts, watts - half, watts + half, planned, told,
        "" if told else "Log it with nothing on for some minutes too.",
        adoption(
            context, taken, "Idle draw", quantity(planned, "W"), quantity(watts, "W"), **changed
        ) if told else None,
    )  # fmt: skip


def _efficiencies(
    context: Context,
    stage: Inverter | Converter,
    taken: LogTaken,
    full: FittedFigure,
    half: FittedFigure,
    most: float,
) -> FittedFigure:
    """The highest load's efficiency, with what puts it and that of its half into the design."""
    at = min(round(most, 4), 1.0)
    changed: dict[str, Any] = {
        "full_load": {"load_share": at, "efficiency": round(full.value, 4)},
        "part_load": {"load_share": round(at / 2, 4), "efficiency": round(half.value, 4)},
    }
    adopt = adoption(
        context, taken, "Efficiency",
        quantity(stage.full_load.efficiency, "share"),
        f"{quantity(full.value, 'share')} at {quantity(at, 'share', 2)} load, "
        f"{quantity(half.value, 'share')} at half of that",
        decides=True, **changed,
    )  # fmt: skip
    return FittedFigure(
        full.name, full.unit, full.value, full.low, full.high, full.planned, full.told, "", adopt
    )

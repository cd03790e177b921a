"""A load from a log of its watts: running, standby, duty, mean, starting."""

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise
from typing import Final

import numpy as np

from graveljar.core.components.load import day_wh, one_start_w, one_w
from graveljar.core.context import Context
from graveljar.core.model import Load
from graveljar.core.network.schedule import DAY_H
from graveljar.core.readings.fitted import (
    MIN_ROWS,
    NINETY_FIVE,
    TOLD_WITHIN,
    Fit,
    FittedFigure,
    Floats,
    LogData,
    half_width,
)
from graveljar.core.readings.judged import Adoption
from graveljar.core.readings.places import adoption, part_of
from graveljar.core.readings.reading import LogTaken
from graveljar.core.text import a_day, quantity

# Class of plug meters and clamps; common practice. [1]
METER_SHARE: Final = 0.02
# On draws so many times as much as off, at least; else it runs all the time. Ours.
APART: Final = 1.5
# A start is over in 50 to 200 ms: rows further apart miss it. Common practice. [s]
START_S: Final = 0.1
# Fewer goings on and off tell no share of the time. Ours.
MIN_CYCLES: Final = 3
# On or off for so few rows at a time, a log may go in step with its load. Ours.
IN_STEP: Final = 2.5
# On for a smaller share of the rows, one at a time, is a start and no level. Ours. [1]
MIN_ON: Final = 0.02


@dataclass(frozen=True)
class _Levels:
    """When a load is on, and how it goes on and off."""

    on: np.ndarray[tuple[int], np.dtype[np.bool_]]
    cycles: int
    rows_a_run: float


def fit_load(context: Context, subject: str, log: LogData) -> Fit:
    """Watts of a load while it runs and stands by, its share of the time, its start.

    Raises
    ------
    InvalidDocument : it is no load.
    """
    load: Load = part_of(context, subject, Load)
    hours = float(log.at_s[-1] - log.at_s[0]) / 3600 if len(log.at_s) else 0.0
    rows = int(log.count.sum())
    watts, most_w = log.watts, log.most_w
    if watts is None and log.volts is not None and log.amps is not None:
        watts = most_w = np.abs(log.volts * log.amps)
    if watts is None or most_w is None:
        says = "A load is fitted to its watts, or to volts and amps: this log has neither."
        return Fit((), (says,), rows, hours)
    good = np.isfinite(watts)
    if good.sum() < MIN_ROWS:
        return Fit((), (f"It has fewer than {MIN_ROWS} rows with watts.",), rows, hours)
    at_s, watts, most_w = log.at_s[good], watts[good], most_w[good]
    levels = _levels(watts)
    taken = log.taken(subject)
    figures = tuple(_figures(context, load, taken, at_s, watts, most_w, levels))
    return Fit(figures, tuple(_remarks(at_s, levels)), rows, hours)


def _levels(watts: Floats) -> _Levels:
    """When it is on: above the middle of two levels that lie far apart.

    A start is one row, and no level: it is left out, unless rows are so few that all are single.
    """
    # A part of a second to load, for this alone: a start must not wait for it.
    from scipy.signal import medfilt  # noqa: PLC0415

    middle = _threshold(medfilt(watts, 3))
    if middle is None and (single := _threshold(watts)) is not None:
        middle = single if np.mean(watts > single) > MIN_ON else None
    if middle is None:
        return _Levels(np.ones(len(watts), dtype=np.bool_), 0, float(len(watts)))
    on = watts > middle
    edges = int(np.count_nonzero(on[1:] & ~on[:-1]))
    runs = np.count_nonzero(on[1:] != on[:-1]) + 1
    return _Levels(on, edges, len(watts) / runs)


def _threshold(watts: Floats) -> float | None:
    """The watts that part on from off best (Otsu 1979; from memory); None for one level. [W]"""
    ordered = np.sort(watts)
    total = np.cumsum(ordered)
    n = np.arange(1, len(ordered))
    below, above = total[:-1] / n, (total[-1] - total[:-1]) / (len(ordered) - n)
    best = int(np.argmax(n * (len(ordered) - n) * (above - below) ** 2))
    if above[best] < APART * max(below[best], 0.02 * above[best]):
        return None
    return float(below[best] + above[best]) / 2


def _remarks(at_s: Floats, levels: _Levels) -> Iterator[str]:
    every_s = float(np.median(np.diff(at_s)))
    if levels.cycles and levels.rows_a_run < IN_STEP:
        yield (
            f"It is on or off for one or two rows at a time: a row every {quantity(every_s, 's')} "
            "may go in step with it and miss whole cycles. Log more often."
        )


def _figures(
    context: Context,
    load: Load,
    taken: LogTaken,
    at_s: Floats,
    watts: Floats,
    most_w: Floats,
    levels: _Levels,
) -> Iterator[FittedFigure]:
    on = levels.on
    running = float(np.median(watts[on]))
    half = half_width(_chance(watts[on]), METER_SHARE, running)
    yield _figure(
        "Running", "W", running, half, one_w(load), "",
        adoption(
            context, taken, "Watts", quantity(one_w(load), "W"), quantity(running, "W"),
            decides=True, demand={"kind": "watts", "watts": round(running, 2)},
        ),
    )  # fmt: skip
    if not on.all():
        off = float(np.mean(watts[~on]))
        yield _figure(
            "Standing by", "W", off, half_width(_chance(watts[~on]), METER_SHARE, off),
            load.standby_w or 0.0, "",
            adoption(
                context, taken, "Standby", quantity(load.standby_w or 0.0, "W"),
                quantity(off, "W"), standby_w=round(max(off, 0.0), 2),
            ),
        )  # fmt: skip
        yield _duty(context, load, taken, at_s, levels)
    mean_w, chance = _mean(at_s, watts, levels)
    yield _figure(
        "On average", "W", mean_w, half_width(chance, METER_SHARE, mean_w),
        day_wh(load) / load.count / DAY_H, "The log is too short for what goes on and off.", None,
    )  # fmt: skip
    every_s = float(np.median(np.diff(at_s)))
    planned = one_start_w(load, context.network.assumed)
    highest = float(np.nanmax(most_w))
    if every_s <= START_S:
        yield _figure(
            "Starting", "W", highest, half_width(0.0, METER_SHARE, highest), planned, "",
            adoption(
                context, taken, "Start", quantity(planned, "W"), quantity(highest, "W"),
                start={"method": "measured", "watts": round(highest, 1)},
            ),
        )  # fmt: skip
    else:
        why = f"A start is over in 0.2 s; this log has a row every {quantity(every_s, 's')}."
        yield FittedFigure("Starting", "W", highest, highest, highest, planned, told=False, why=why)


def _figure(
    name: str,
    unit: str,
    value: float,
    half: float,
    planned: float,
    why: str,
    adopt: Adoption | None,
) -> FittedFigure:
    told = half <= max(TOLD_WITHIN * abs(value), 0.05 if unit == "W" else 0.0)
    return FittedFigure(
        name, unit, value, value - half, value + half, planned, told, "" if told else why,
        adopt if told else None,
    )  # fmt: skip


def _duty(
    context: Context, load: Load, taken: LogTaken, at_s: Floats, levels: _Levels
) -> FittedFigure:
    """Share of the time it is on, by its cycles: each is one reading of it."""
    shares = _by_cycle(at_s, levels.on.astype(np.float64), levels)
    duty = float(np.mean(shares)) if shares else float(levels.on.mean())
    enough = levels.cycles >= MIN_CYCLES and levels.rows_a_run >= IN_STEP
    chance = float(np.std(shares, ddof=1) / np.sqrt(len(shares))) if len(shares) > 1 else np.inf
    # Between two rows nobody sees when it goes on: even over the time between them.
    unseen = float(np.median(np.diff(at_s))) / max(float(at_s[-1] - at_s[0]), 1e-9)
    sampling = unseen * np.sqrt(max(levels.cycles, 1) / 12.0)
    half = NINETY_FIVE * float(np.hypot(chance, sampling)) if enough else duty
    words = f"24 h, {quantity(duty, 'share')}"
    planned = load.duty * load.hours_per_day / DAY_H
    told = enough and half < TOLD_WITHIN
    return FittedFigure(
        "Share of the time", "share", duty, max(duty - half, 0.0), min(duty + half, 1.0), planned,
        told,
        "" if told else f"It went on {levels.cycles} times: {MIN_CYCLES} and more tell the share, "
        "each of three rows or more.",
        adoption(
            context, taken, "Time a day and duty",
            f"{a_day(load.hours_per_day)}, {quantity(load.duty, 'share')}", words, decides=True,
            duty=round(max(duty, 1e-4), 4), when={"kind": "hours", "hours": DAY_H},
        ) if told else None,
    )  # fmt: skip


def _mean(at_s: Floats, watts: Floats, levels: _Levels) -> tuple[float, float]:
    """Mean watts, and its standard deviation by chance: by cycles where it goes on and off."""
    mean_w = _whole(at_s, watts)
    if levels.on.all():
        return mean_w, _chance(watts)
    # Whole cycles only: a part of one at either end would count too much.
    means = _by_cycle(at_s, watts, levels)
    if len(means) < MIN_CYCLES:
        return mean_w, np.inf
    return float(np.mean(means)), float(np.std(means, ddof=1) / np.sqrt(len(means)))


def _by_cycle(at_s: Floats, values: Floats, levels: _Levels) -> list[float]:
    """The mean of each whole cycle, from one going on to the next."""
    starts = np.flatnonzero(levels.on[1:] & ~levels.on[:-1]) + 1
    return [_whole(at_s[a : b + 1], values[a : b + 1]) for a, b in pairwise(starts) if b > a + 1]


def _whole(at_s: Floats, values: Floats) -> float:
    """The mean over time; a row counts until the next."""
    steps = np.diff(at_s)
    if not steps.sum():
        return float(values.mean())
    return float((values[:-1] * steps).sum() / steps.sum())


def _chance(values: Floats) -> float:
    """Standard deviation of the mean of rows that may be like their neighbours."""
    if len(values) < 3 or np.ptp(values) == 0:
        return 0.0
    alike = float(np.clip(np.corrcoef(values[1:], values[:-1])[0, 1], 0.0, 0.99))
    return float(np.std(values, ddof=1) * np.sqrt((1 + alike) / (1 - alike) / len(values)))

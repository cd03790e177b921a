"""A run over time: charge, volts, amps, and the power of each load and of what is lost."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Final

import numpy as np

from graveljar.core.analysis.simulation import Points, every_point
from graveljar.core.context import Context
from graveljar.core.kernel.records import FEED, STORE, Floats
from graveljar.core.lowering.lower import LoweredDesign
from graveljar.core.views.snapshots import amps_given

# Points beyond which only every second, third ... is given. Ours.
MAX_POINTS: Final = 6_000

Column = tuple[float, ...]


@dataclass(frozen=True)
class Series:
    """Columns over the same points; straight lines between them; two points at a switching.

    `amps` out of each rail; `given` by each store; `watts` of each load as it takes them from its
    rail, `idle` of all stages, `lost` in conversion and cables: together what the stores give.
    `every`: 1, or n where each n-th point is given. [h], [1], [V], [A], [W]
    """

    every: int
    hours: Column
    charge: Mapping[str, Column]
    volts: Mapping[str, Column]
    amps: Mapping[str, Column]
    given: Mapping[str, Column]
    watts: Mapping[str, Column]
    idle: Column
    lost: Column


def series_of(context: Context, until_h: float, most: int = MAX_POINTS) -> Series:
    """The points of a run up to a time, at most so many. [h]"""
    return _series(
        context, context.analysis.run.points(), until_h, most, context.analysis.run.every
    )


def all_series_of(context: Context, until_h: float) -> Iterator[Series]:
    """Every point of a run up to a time, however many there are, a part at a time. [h]"""
    for points in every_point(context.analysis.lowered, until_h):
        yield _series(context, points, until_h, len(points[0]) + 1, 1)


def _series(context: Context, points: Points, until_h: float, most: int, kept_every: int) -> Series:
    analysis = context.analysis
    hours, charge, volts, amps, drawn = points
    watts = volts[:, analysis.lowered.load_records["rail"]] * drawn
    idle, lost = losses(analysis.lowered, volts, amps, watts)
    inside = int(np.searchsorted(hours, until_h + 1e-9, side="right"))
    every = -(-inside // most) if inside else 1
    keep = np.arange(0, inside, every) if inside else np.arange(0)
    if inside and keep[-1] != inside - 1:
        keep = np.append(keep, inside - 1)

    def column(values: Floats) -> Column:
        return tuple(float(f"{value:.5g}") for value in values[keep])

    rails = tuple(analysis.lowered.rails)
    out = amps_given(analysis.lowered, amps, drawn)
    return Series(
        every * kept_every,
        tuple(round(float(hour), 6) for hour in hours[keep]),
        {bank.id: column(charge[:, s]) for s, bank in enumerate(context.network.stores)},
        {rail: column(volts[:, r]) for r, rail in enumerate(rails)},
        {rail: column(out[:, r]) for r, rail in enumerate(rails)},
        {
            bank.id: column(volts[:, s] * amps[:, s])
            for s, bank in enumerate(context.network.stores)
        },
        {load.id: column(watts[:, i]) for i, load in enumerate(analysis.lowered.loads)},
        column(idle),
        column(lost),
    )


def losses(
    lowered: LoweredDesign, volts: Floats, amps: Floats, watts: Floats
) -> tuple[Floats, Floats]:
    """Power that stages idle on, and that conversion and cables take, at each point.

    Parameters
    ----------
    volts, amps : Of each rail. [V], [A], shape (N, R)
    watts : Of each load, as taken from its rail. [W], shape (N, L)

    Returns
    -------
    Idle power; all else that the stores give and no load takes. [W], shapes (N,)
    """
    rails, loads = lowered.rail_records, lowered.load_records
    idle = np.zeros(len(volts))
    given = np.zeros(len(volts))
    for r, rail in enumerate(rails):
        if rail["kind"] == STORE:
            given += volts[:, r] * amps[:, r]
            store = lowered.store_records[r]
            idle += np.where(volts[:, r] > 0, store["idle_w"], 0.0)
        elif rail["kind"] != FEED:
            before = volts[:, rail["parent"]]
            takes = (before - amps[:, r] * rail["ohm"]) * amps[:, r]
            passed = volts[:, r] * amps[:, rails["parent"] == r].sum(axis=1)
            passed += watts[:, loads["rail"] == r].sum(axis=1)
            idle += np.where(amps[:, r] > 0, np.clip(takes - passed, 0.0, rail["p0"]), 0.0)
    lost = given - watts.sum(axis=1) - idle
    return idle, np.maximum(lost, 0.0)

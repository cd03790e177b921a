"""The network at moments of its first day, and at its worst: volts and amps of everything."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Final

import numpy as np

from graveljar.core.components.load import one_start_w, one_w
from graveljar.core.context import Context
from graveljar.core.kernel.records import Floats
from graveljar.core.lowering.lower import LoweredDesign
from graveljar.core.model import Feed
from graveljar.core.network.windows import least_input_v

MAX_MOMENTS: Final = 48
FIRST_DAY_H: Final = 24.0


@dataclass(frozen=True)
class Snapshot:
    """The network just after something switched. [h], [V], [A]

    `most`: the stores give most here. `volts` of each rail; `amps` out of a store (less than 0:
    into it), into a stage or a link; `gives` out of each rail; `takes` of each load from its rail.
    """

    hours: float
    most: bool
    volts: Mapping[str, float]
    amps: Mapping[str, float]
    gives: Mapping[str, float]
    takes: Mapping[str, float]


@dataclass(frozen=True)
class Extremes:
    """The least volts something may meet, and the most amps: the highest start there. [V], [A]

    `gives` is what a store or stage then gives to its rail.
    """

    volts: float
    amps: float
    gives: float


def moments_of(context: Context) -> Iterator[Snapshot]:
    """Each switching of the first day, and the moment at which most is given."""
    hours, _, volts, amps, drawn = context.analysis.run.points()
    if not len(hours):
        return
    stores = len(context.network.stores)
    given = (volts[:, :stores] * amps[:, :stores]).sum(axis=1)
    most = int(np.argmax(given > given.max() * (1 - 1e-6)))
    first = hours <= FIRST_DAY_H
    # What runs, and which stages are on.
    runs = np.hstack([drawn > 0, amps > 0])
    changed = (runs[1:] != runs[:-1]).any(axis=1)
    switched = np.flatnonzero(np.append(True, changed) & first)
    if len(switched) > MAX_MOMENTS:
        switched = switched[np.linspace(0, len(switched) - 1, MAX_MOMENTS).round().astype(int)]
    shown = sorted({*switched.tolist(), most})
    trace = (hours[shown], volts[shown], amps[shown], drawn[shown])
    yield from _moments(context.analysis.lowered, trace, most=shown.index(most))


def amps_given(lowered: LoweredDesign, amps: Floats, drawn: Floats) -> Floats:
    """Amps out of each rail, into its loads and all that is connected to it.

    Parameters
    ----------
    amps : Out of each store, into each stage and link. [A], shape (N, R + K)
    drawn : Of each load, from its rail. [A], shape (N, L)

    Returns
    -------
    [A], shape (N, R)
    """
    above, homes = lowered.rail_records["parent"], lowered.load_records["rail"]
    return np.stack(
        [
            amps[:, above == r].sum(axis=1) + drawn[:, homes == r].sum(axis=1)
            for r in range(len(lowered.rails))
        ],
        axis=1,
    )


def _moments(
    lowered: LoweredDesign, trace: tuple[Floats, Floats, Floats, Floats], *, most: int
) -> Iterator[Snapshot]:
    """Moments by the hours, volts, amps, and what each load takes, of N of them."""
    hours, volts, amps, drawn = (x.tolist() for x in trace)
    gives = amps_given(lowered, trace[2], trace[3]).tolist()
    rails, loads = tuple(lowered.rails), [load.id for load in lowered.loads]
    for at, hour in enumerate(hours):
        yield Snapshot(
            round(hour, 5),
            at == most,
            _named(rails, volts[at][: len(rails)]),
            _named(lowered.names, amps[at]),
            _named(rails, gives[at]),
            _named(loads, drawn[at]),
        )


def _named(names: Sequence[str], values: Sequence[float]) -> dict[str, float]:
    return dict(zip(names, map(_short, values), strict=True))


def worst_of(context: Context) -> dict[str, Extremes]:
    """The worst of each store, stage and joined load."""
    network, analysis = context.network, context.analysis
    found = {
        store: Extremes(_short(demand.lowest_v), _short(demand.start_a), _short(demand.start_a))
        for store, demand in analysis.bank_demands.items()
    }
    for stage in network.stages:
        parent = network.rails[stage.rail]
        lowest_v = parent.low_v
        if not isinstance(stage, Feed):
            lowest_v = max(least_input_v(stage), parent.low_v)
        watts = analysis.demand.start_w(stage.id)
        asked, rail = analysis.demand.asked[stage.id], network.rails[stage.id]
        given_w = asked.start.watts if asked.start else asked.watts
        found[stage.id] = Extremes(
            _short(lowest_v), _short(watts / lowest_v), _short(given_w / rail.nominal_v)
        )
    for link in network.design.links:
        full = analysis.link_operations[link.id].full
        found[link.id] = Extremes(_short(full.volts), _short(full.amps), 0.0)
    for load in analysis.lowered.loads:
        rail = network.rails[str(load.rail)]
        lowest_v = rail.low_v
        if load.window is not None:
            lowest_v = max(lowest_v, load.window.cut_out_v)
        watts = one_start_w(load, network.assumed) + (load.count - 1) * one_w(load)
        found[load.id] = Extremes(_short(lowest_v), _short(watts / lowest_v), 0.0)
    return found


# The same values come again from moment to moment.
@lru_cache(maxsize=4096)
def _short(value: float) -> float:
    return float(f"{value:.5g}")

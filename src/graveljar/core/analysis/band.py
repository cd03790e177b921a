"""The band around the hours: the uncertain inputs drawn at random, run through the engine."""

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from functools import cache
from typing import Final
from zlib import crc32

import numpy as np

from graveljar.core.analysis.simulation import horizon_of
from graveljar.core.kernel.batch import charge_many, run_many
from graveljar.core.kernel.records import Floats
from graveljar.core.kernel.trace import new_trace
from graveljar.core.lowering.lower import LoweredDesign
from graveljar.core.model import Bank, Feed

DRAWS: Final = 256
MIN_DRAWS: Final = 16
# Stretches that all draws together may have to step through.
MAX_STEPS: Final = 1_000_000
# Rows are shared out among as many threads: the kernel runs without the interpreter's lock.
THREADS: Final = 2
SPREADS: Final = {
    "measured": "spread_measured",
    "label": "spread_label",
    "rule of thumb": "spread_rule",
    "guess": "spread_guess",
}


@dataclass(frozen=True)
class Band:
    """Hours of which a tenth, half and nine tenths of the draws fall short; None: no end. [h]

    `p10`, `p50`, `p90` of the runtime; `first_*` of the first stop of any load.
    """

    draws: int
    p10: float | None
    p50: float | None
    p90: float | None
    first_p10: float | None
    first_p50: float | None
    first_p90: float | None


NO_BAND: Final = Band(0, None, None, None, None, None, None)


@cache
def _threads() -> ThreadPoolExecutor:
    """The threads of all bands, made when the first band is asked for."""
    return ThreadPoolExecutor(THREADS)


def draws_for(lowered: LoweredDesign) -> int:
    """Monte Carlo draws for a design: fewer for long simulations with many switchings.

    Parameters
    ----------
    lowered : The design as arrays.

    Returns
    -------
    Draws, 16 to 256.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> draws_for(lowered())
    256
    """
    stretches = (len(lowered.week.edges) - 1) * horizon_of(lowered) / lowered.week.edges[-1]
    return int(min(max(MAX_STEPS / max(stretches, 1.0), MIN_DRAWS), DRAWS))


def _factors(subject: str, provenance: str, lowered: LoweredDesign, draws: int) -> Floats:
    """Factors even between 1 - spread and 1 + spread. [1], shape (draws,)

    The same for the same subject always: an edit elsewhere changes nothing by chance.
    """
    spread = lowered.assumed[SPREADS[provenance]]
    draw = np.random.default_rng(crc32(subject.encode()))
    return 1.0 + spread * draw.uniform(-1.0, 1.0, draws)


def band_of(lowered: LoweredDesign) -> Band:
    """Band of runtimes from Monte Carlo draws of the uncertain inputs.

    Loads vary by their demand, batteries by their capacity, stages by their losses.

    Parameters
    ----------
    lowered : The design as arrays.

    Returns
    -------
    Tenths of the runtime and of the first stop. [h]

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> band = band_of(lowered())
    >>> band.p10 < 20.0 < band.p90  # 100 Ah at 5 A, and a tenth more or less
    True
    """
    return begin_band(lowered)()


def begin_band(lowered: LoweredDesign) -> Callable[[], Band]:
    """Start the draws of a band on their threads.

    Parameters
    ----------
    lowered : The design as arrays.

    Returns
    -------
    A function that waits for them and returns the band.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> begin_band(lowered())().draws
    256
    """
    if not lowered.loads:
        return lambda: NO_BAND
    draws = draws_for(lowered)
    running = [_threads().submit(_run, lowered, part) for part in _parts(lowered, draws)]

    def gather() -> Band:
        stops = np.concatenate([part.result() for part in running])
        musts = np.array([load.priority == "must" for load in lowered.loads])
        decisive = stops[:, musts] if musts.any() else stops
        return Band(draws, *_tenths(decisive.min(axis=1)), *_tenths(stops.min(axis=1)))

    return gather


def _parts(lowered: LoweredDesign, draws: int) -> list[tuple[Floats, ...]]:
    """Factors on losses, demand and capacity for each draw, shared out among the threads."""
    on_loss = [
        np.ones(draws)
        if isinstance(rail.source, Bank | Feed)
        else _factors(rail.id, rail.source.provenance, lowered, draws)
        for rail in lowered.rails.values()
    ]
    on_loss += [np.ones(draws) for _ in lowered.links]
    on_demand = [_factors(load.id, load.provenance, lowered, draws) for load in lowered.loads]
    on_capacity = [
        _factors(bank.id, bank.battery.provenance, lowered, draws) for bank in lowered.banks
    ]
    by_row = [
        np.ascontiguousarray(np.array(x).reshape(-1, draws).T)
        for x in (on_loss, on_demand, on_capacity)
    ]
    size = -(-draws // THREADS)
    return [
        tuple(factors[start : start + size] for factors in by_row)
        for start in range(0, draws, size)
    ]


def charge_band(lowered: LoweredDesign, at_h: Floats, most: int = DRAWS) -> tuple[int, Floats]:
    """Tenths of the charge over time, from Monte Carlo draws of the uncertain inputs.

    Parameters
    ----------
    lowered : The design as arrays.
    at_h : Times, rising. [h], shape (T,)
    most : Draws at most, >= 16.

    Returns
    -------
    Draws; and the charge that a tenth, half and nine tenths of them fall below.
    [1], shape (3, S, T)

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> draws, tenths = charge_band(lowered(), np.array([10.0]))
    >>> bool(tenths[0, 0, 0] < 0.5 < tenths[2, 0, 0])  # 50 of 100 Ah, more or less
    True
    """
    draws = min(draws_for(lowered), most)
    running = [_threads().submit(_charges, lowered, at_h, part) for part in _parts(lowered, draws)]
    charges = np.concatenate([part.result() for part in running])
    return draws, np.quantile(charges, (0.1, 0.5, 0.9), axis=0)


def _charges(lowered: LoweredDesign, at_h: Floats, factors: tuple[Floats, ...]) -> Floats:
    rails, loads, stores = lowered.fresh_records()
    trace = new_trace(len(rails), len(loads), len(stores))
    return charge_many(rails, loads, stores, lowered.week, at_h, trace, *factors)


def _run(lowered: LoweredDesign, factors: tuple[Floats, ...]) -> Floats:
    rails, loads, stores = lowered.fresh_records()
    return run_many(
        rails,
        loads,
        stores,
        lowered.week,
        horizon_of(lowered),
        new_trace(len(rails), len(loads), len(stores), kept=False, stops_only=True),
        *factors,
    )


def _tenths(hours: Floats) -> tuple[float | None, float | None, float | None]:
    # One of the draws each, never a mean of one that stops and one that does not.
    p10, p50, p90 = (
        float(x) if np.isfinite(x) else None
        for x in np.quantile(hours, (0.1, 0.5, 0.9), method="inverted_cdf")
    )
    return p10, p50, p90

"""The band around the hours: the uncertain inputs drawn at random, run through the engine."""

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from functools import cache
from typing import Final

import numpy as np

from graveljar.core.analysis.draws import Factors, draw_all, factors_of
from graveljar.core.analysis.simulation import horizon_of
from graveljar.core.kernel.batch import run_many
from graveljar.core.kernel.records import Floats
from graveljar.core.kernel.trace import new_trace
from graveljar.core.lowering.lower import LoweredDesign

DRAWS: Final = 256
MIN_DRAWS: Final = 16
# Stretches that all draws together may have to step through.
MAX_STEPS: Final = 1_000_000
# Rows are shared out among as many threads: the kernel runs without the interpreter's lock.
THREADS: Final = 2


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


def end_threads() -> None:
    """End the threads; the next band makes new ones.

    Examples
    --------
    >>> end_threads()
    """
    _threads().shutdown()
    _threads.cache_clear()


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
    running = [_threads().submit(_run, lowered, part) for part in _drawn(lowered, draws)]

    def gather() -> Band:
        stops = np.concatenate([part.result() for part in running])
        return Band(draws, *tenths(decisive(lowered, stops)), *tenths(stops.min(axis=1)))

    return gather


def _drawn(lowered: LoweredDesign, draws: int) -> list[Factors]:
    """Factors of all draws, shared out among the threads."""
    return _parts(factors_of(lowered, draw_all(lowered, draws)))


def _parts(factors: Factors) -> list[Factors]:
    size = -(-factors.draws // THREADS)
    return [factors.rows(start, start + size) for start in range(0, factors.draws, size)]


def stops_of(lowered: LoweredDesign, factors: Factors) -> Floats:
    """First hours at which each load was not served, of each draw; infinite if it always was.

    Parameters
    ----------
    lowered : The design as arrays.
    factors : Of N draws.

    Returns
    -------
    Hours; NaN where a run found no answer. [h], shape (N, L)

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> one = factors_of(lowered(), np.zeros((1, 2)))
    >>> stops_of(lowered(), one)  # 100 Ah at 5 A
    array([[20.]])
    """
    running = [_threads().submit(_run, lowered, part) for part in _parts(factors)]
    return np.concatenate([part.result() for part in running])


def decisive(lowered: LoweredDesign, stops: Floats) -> Floats:
    """Hours until the first load that must run stops; any load, where none must. [h], shape (N,)

    Parameters
    ----------
    lowered : The design as arrays.
    stops : First hours at which each load was not served. [h], shape (N, L)

    Returns
    -------
    The least of those that count.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> decisive(lowered(), np.array([[20.0]]))
    array([20.])
    """
    musts = np.array([load.priority == "must" for load in lowered.loads])
    found: Floats = (stops[:, musts] if musts.any() else stops).min(axis=1)
    return found


def begin_charge_band(lowered: LoweredDesign, at_h: Floats) -> Callable[[], tuple[int, Floats]]:
    """Start the draws of a band of charge over time on their threads.

    Parameters
    ----------
    lowered : The design as arrays.
    at_h : Times, rising. [h], shape (T,)

    Returns
    -------
    A function that waits for them and returns how many there are, and the charge that a tenth, half
    and nine tenths of them fall below. [1], shape (3, S, T)

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> draws, tenths = begin_charge_band(lowered(), np.array([10.0]))()
    >>> bool(tenths[0, 0, 0] < 0.5 < tenths[2, 0, 0])  # 50 of 100 Ah, more or less
    True
    """
    draws = draws_for(lowered)
    running = [_threads().submit(_charges, lowered, at_h, part) for part in _drawn(lowered, draws)]

    def gather() -> tuple[int, Floats]:
        charges = np.concatenate([part.result() for part in running])
        # A source stays as full as it is, in every draw.
        tenths_of = np.repeat(charges[None, 0], 3, axis=0)
        lasting = lowered.store_records["endless"] == 0
        tenths_of[:, lasting] = np.quantile(charges[:, lasting], (0.1, 0.5, 0.9), axis=0)
        return draws, tenths_of

    return gather


def _charges(lowered: LoweredDesign, at_h: Floats, factors: Factors) -> Floats:
    rails, loads, stores = lowered.fresh_records()
    trace = new_trace(len(rails), len(loads), len(stores), charge_only=True, rough=True)
    return run_many(
        rails,
        loads,
        stores,
        lowered.week,
        at_h[-1],
        at_h,
        trace,
        factors.on_loss,
        factors.on_demand,
        factors.on_capacity,
    )[1]


def _run(lowered: LoweredDesign, factors: Factors) -> Floats:
    rails, loads, stores = lowered.fresh_records()
    return run_many(
        rails,
        loads,
        stores,
        lowered.week,
        horizon_of(lowered),
        np.empty(0),
        new_trace(len(rails), len(loads), len(stores), kept=False, stops_only=True, rough=True),
        factors.on_loss,
        factors.on_demand,
        factors.on_capacity,
    )[0]


def tenths(hours: Floats) -> tuple[float | None, float | None, float | None]:
    """Hours of which a tenth, half and nine tenths fall short; None: no end. [h]

    Parameters
    ----------
    hours : One for each draw. [h], shape (N,)

    Returns
    -------
    One of the draws each, never a mean of one that stops and one that does not.

    Examples
    --------
    >>> tenths(np.array([1.0, 2.0, np.inf]))
    (1.0, 2.0, None)
    """
    p10, p50, p90 = (
        float(x) if np.isfinite(x) else None
        for x in np.quantile(hours, (0.1, 0.5, 0.9), method="inverted_cdf")
    )
    return p10, p50, p90

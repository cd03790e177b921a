"""Which input the band of hours depends on, and what a measurement would narrow it to."""

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.polynomial.legendre import legvander

from graveljar.core.analysis.band import decisive, draws_for, stops_of, tenths
from graveljar.core.analysis.draws import UncertainInput, draw_all, factors_of, inputs_of
from graveljar.core.analysis.simulation import horizon_of
from graveljar.core.kernel.records import Floats
from graveljar.core.lowering.lower import LoweredDesign

# Polynomials of each input: straight and bent.
DEGREE: Final = 2
# Draws for each polynomial that is fitted; fewer tell nothing. Ours.
MIN_DRAWS_A_TERM: Final = 4
MIN_DRAWS_TOLD: Final = 64
# A smaller share of the variance is not worth a measurement. Ours. [1]
MIN_SHARE: Final = 0.02
MAX_TRIED: Final = 4


@dataclass(frozen=True)
class InputShare:
    """An uncertain input and its part in the band.

    `share` of the variance of the hours comes from it alone [1]. `width_h` is the width of the
    band once it is measured [h]; None where that was not tried.
    """

    input: UncertainInput
    share: float
    width_h: float | None


@dataclass(frozen=True)
class Uncertainty:
    """Where the band comes from, the largest share first.

    `width_h` lies between a tenth and nine tenths; None where one has no end. [h] `explained` is
    the share of the variance that the inputs explain one by one; the rest is of several together,
    or of loads that switch. [1] `too_few_draws`: too few to tell the inputs apart.
    """

    width_h: float | None
    explained: float
    shares: tuple[InputShare, ...]
    too_few_draws: bool


NO_BAND: Final = Uncertainty(None, 0.0, (), too_few_draws=False)


def uncertainty_of(lowered: LoweredDesign) -> Uncertainty:
    """Share of each uncertain input in the variance of the hours, and what measuring it would do.

    Hours without an end count as the horizon.

    Parameters
    ----------
    lowered : The design as arrays.

    Returns
    -------
    Shares above 0, the largest first.

    Notes
    -----
    First-order indices by a polynomial chaos expansion without mixed terms, fitted to the draws of
    the band (Sudret 2008; from memory). The narrower band is that of the same draws with one input
    spread as a measured one is.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> found = uncertainty_of(lowered())
    >>> [(x.input.what, round(x.share, 1)) for x in found.shares]  # alike, one over the other
    [('capacity', 0.5), ('demand', 0.5)]
    """
    if not lowered.loads:
        return NO_BAND
    inputs, draws = inputs_of(lowered), draws_for(lowered)
    if draws < max(MIN_DRAWS_A_TERM * DEGREE * len(inputs), MIN_DRAWS_TOLD):
        return Uncertainty(None, 0.0, (), too_few_draws=True)
    drawn = draw_all(lowered, draws)
    hours = decisive(lowered, stops_of(lowered, factors_of(lowered, drawn)))
    width_h = _width(hours)
    shares, explained = first_order_shares(drawn, np.minimum(hours, horizon_of(lowered)))
    ordered = sorted(zip(inputs, shares, strict=True), key=lambda x: -x[1])
    found: list[InputShare] = []
    for one, share in ordered:
        width = None
        tries = share > MIN_SHARE and one.provenance != "measured" and len(found) < MAX_TRIED
        if tries and width_h is not None:
            measured = factors_of(lowered, drawn, measured=one)
            width = _width(decisive(lowered, stops_of(lowered, measured)))
        if share > 0:
            found.append(InputShare(one, float(share), width))
    return Uncertainty(width_h, explained, tuple(found), too_few_draws=False)


def first_order_shares(drawn: Floats, values: Floats) -> tuple[Floats, float]:
    """Share of the variance of some values that comes from each of their inputs alone.

    Parameters
    ----------
    drawn : Inputs, each drawn evenly between -1 and 1. [1], shape (N, K)
    values : What came of them, finite. Shape (N,)

    Returns
    -------
    Shares, 0 where chance would give as much [1], shape (K,); and the share explained by all. [1]

    Notes
    -----
    Legendre polynomials are orthogonal over even draws, so their squared coefficients are parts of
    the variance. What noise adds to each is subtracted.

    Examples
    --------
    >>> drawn = np.random.default_rng(1).uniform(-1, 1, (400, 2))
    >>> shares, _ = first_order_shares(drawn, 2 * drawn[:, 0] + drawn[:, 1])
    >>> [round(float(x), 1) for x in shares]  # 4 to 1
    [0.8, 0.2]
    """
    count, width = drawn.shape
    # 1 / (2 d + 1) is the variance of the polynomial of degree d.
    norms = 1.0 / (2.0 * np.arange(1, DEGREE + 1) + 1.0)
    terms = [legvander(drawn[:, k], DEGREE)[:, 1:] for k in range(width)]
    matrix = np.column_stack([np.ones(count), *terms])
    coefficients, *_ = np.linalg.lstsq(matrix, values, rcond=None)
    variance = float(np.var(values))
    if variance <= 0.0:
        return np.zeros(width), 0.0
    left = values - matrix @ coefficients
    noise = float(left @ left) / max(count - matrix.shape[1], 1) / count
    squares = coefficients[1:].reshape(width, DEGREE) ** 2 * norms - noise
    shares = np.maximum(squares.sum(axis=1) / variance, 0.0)
    return shares, 1.0 - float(np.var(left)) / variance


def _width(hours: Floats) -> float | None:
    p10, _, p90 = tenths(hours)
    return None if p10 is None or p90 is None else p90 - p10

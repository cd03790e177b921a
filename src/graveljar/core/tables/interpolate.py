"""Straight lines between the points of a table."""

from collections.abc import Sequence

import numpy as np

from graveljar.core.errors import OutOfRange


def between(points: Sequence[tuple[float, float]], x: float) -> float:
    """Value on the line between the two neighbours of `x`.

    Parameters
    ----------
    points : (x, y) with x rising, at least two.
    x : Where to read; inside the table.

    Raises
    ------
    OutOfRange : `x` is outside the table.

    Examples
    --------
    >>> between(((0.0, 10.0), (2.0, 20.0)), 1.0)
    15.0
    """
    xs, ys = zip(*points, strict=True)
    if not xs[0] <= x <= xs[-1]:
        raise OutOfRange(f"{x:g} is outside the table, {xs[0]:g} to {xs[-1]:g}.")
    return float(np.interp(x, xs, ys))

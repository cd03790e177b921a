"""Straight lines between the points of a table."""

from collections.abc import Sequence
from itertools import pairwise

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
    for (x0, y0), (x1, y1) in pairwise(points):
        if x0 <= x <= x1:
            return y0 + (y1 - y0) * (x - x0) / (x1 - x0)
    raise OutOfRange(f"{x:g} is outside the table, {points[0][0]:g} to {points[-1][0]:g}.")

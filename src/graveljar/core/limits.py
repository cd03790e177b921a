"""One comparison with a limit, for every rule."""

from graveljar.core.kernel.records import LIMIT_TOLERANCE


def exceeds(value: float, limit: float) -> bool:
    """Whether a value lies above a limit by more than rounding: a millionth of it.

    Examples
    --------
    >>> exceeds(3.0000000000000004, 3.0), exceeds(3.1, 3.0)
    (False, True)
    """
    return value > limit * (1.0 + LIMIT_TOLERANCE)

"""Formulas that the kernel and the parts share: each is written here and nowhere else.

Plain functions: the kernel compiles them into its own with `inlined`.
"""


def stage_draw(p0: float, k1: float, k2: float, surge_w: float, watts: float) -> float:
    """Power that a stage draws for what it supplies: p0 + k1 P + k2 P².

    Its loss is known up to its surge; beyond it the efficiency at the surge counts.

    Parameters
    ----------
    p0 : Idle draw, >= 0. [W]
    k1, k2 : Coefficients of its loss, k1 >= 1, k2 >= 0. [1], [1/W]
    surge_w : Up to which they are known, > 0. [W]
    watts : Supplied, >= 0. [W]

    Returns
    -------
    Power drawn, >= `watts`. [W]

    Notes
    -----
    Source: King et al., SAND2007-5036.

    Examples
    --------
    >>> round(stage_draw(10.0, 1.1, 0.0, 1e9, 100.0), 6)
    120.0
    """
    if watts > surge_w:
        return (p0 + k1 * surge_w + k2 * surge_w * surge_w) * watts / surge_w
    return p0 + k1 * watts + k2 * watts * watts


def peukert_cost(amps: float, rated_a: float, exponent: float) -> float:
    """Charge that a steady current costs over the charge that it carries.

    Parameters
    ----------
    amps : Steady current, > 0. [A]
    rated_a : Current of the rated hours, > 0. [A]
    exponent : Peukert exponent, 1.0 (no effect) to 1.5. [1]

    Returns
    -------
    Factor, below 1 for less than the rated current. [1]

    Notes
    -----
    Source: Peukert 1897.

    Examples
    --------
    >>> round(peukert_cost(10.0, 5.0, 1.2), 3)  # (10 / 5) ** 0.2
    1.149
    """
    return float((amps / rated_a) ** (exponent - 1.0))

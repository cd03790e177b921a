"""What charge and temperature make of the stores: open-circuit volts, resistance, what is left."""

from graveljar.core.kernel.compiled import compiled
from graveljar.core.kernel.records import DayProfile, Floats, Records


@compiled
def weather(stores: Records, day: DayProfile, m: int) -> None:
    """Apply the temperature of a stretch to the stores.

    Parameters
    ----------
    stores : Records of the stores, shape (S,).
    day : The day that repeats.
    m : Index of the stretch of the day, 0 to M - 1.

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> weather(stores, day, 0)
    >>> bool(stores[0].frozen)
    False
    """
    for s in range(len(stores)):
        store = stores[s]
        store.ohm = store.own_ohm * day.cold_ohm[m, s] + store.leads_ohm
        store.least = 1.0 - day.warmth[m, s] * (1.0 - store.floor)
        store.frozen = 1 if day.frozen[m, s] else 0
        store.too_cold = 1 if day.too_cold[m, s] else 0


@compiled
def open_circuit(stores: Records, day: DayProfile) -> None:
    """Set the open-circuit volts of each store at its charge, linear along its curve.

    Parameters
    ----------
    stores : Records of the stores, shape (S,).
    day : The day that repeats.

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> open_circuit(stores, day)
    >>> round(float(stores[0].emf), 4)  # 4 x 3.3481 V
    13.3924
    """
    for s in range(len(stores)):
        x, v = day.curve[s, :, 0], day.curve[s, :, 1]
        charge = stores[s].charge
        k = piece(x, charge)
        stores[s].emf = v[k] + (v[k + 1] - v[k]) * (charge - x[k]) / (x[k + 1] - x[k])


@compiled
def piece(x: Floats, charge: float) -> int:
    """The piece of a curve on which a charge lies, the lower one at a corner.

    Parameters
    ----------
    x : Charges of the curve's points, rising. [1], shape (K,)
    charge : 0 to 1. [1]

    Returns
    -------
    Index of the piece, 0 to K - 2.

    Examples
    --------
    >>> import numpy as np
    >>> int(piece(np.array([0.0, 0.5, 1.0]), 0.7))
    1
    """
    low, high = 0, len(x) - 1
    while high - low > 1:
        middle = (low + high) // 2
        if x[middle] < charge - 1e-12:
            low = middle
        else:
            high = middle
    return low

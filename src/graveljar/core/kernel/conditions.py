"""What charge and temperature make of the stores: open-circuit volts, resistance, what is left."""

from typing import Final

import numpy as np

from graveljar.core.kernel.compiled import compiled, inlined
from graveljar.core.kernel.records import DayProfile, Floats, Records

# Up to this current the volts of a bank that is charged rise from those at rest to those of its
# charging curve. Ours. [1/h]
SOFT_C: Final = 0.02
# Charge missing that is rounding. [1]
NEARLY: Final = 1e-9


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
        store.full_at = day.full_at[m, s]
        if day.most_a[m, s] < np.inf:
            store.limit_a = day.most_a[m, s]


@compiled
def open_circuit(stores: Records, day: DayProfile) -> None:
    """Set the volts of each store at its charge: at rest, and while it is charged.

    Linear along its curves. Lead-acid accepts only so many amps at the volts its chargers hold.

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
        store = stores[s]
        store.emf = _at(day.curve[s, :, 0], day.curve[s, :, 1], store.charge)
        store.charge_emf, store.charge_ohm = store.emf, store.ohm
        store.soft_ohm = store.ohm
        if store.usual_v <= 0.0:
            continue
        if store.accepts_per_h > 0.0:
            accepts = store.accepts_per_h * store.ah * max(1.0 - store.charge, NEARLY)
            store.charge_ohm = max(store.ohm, (store.usual_v - store.emf) / accepts)
            store.soft_ohm = store.charge_ohm
        else:
            own_v = _at(day.charging[s, :, 0], day.charging[s, :, 1], store.charge)
            store.charge_emf = own_v
            store.soft_ohm += (own_v - store.emf) / (SOFT_C * store.ah)


@inlined
def _at(x: Floats, v: Floats, charge: float) -> float:
    k = piece(x, charge)
    return float(v[k] + (v[k + 1] - v[k]) * (charge - x[k]) / (x[k + 1] - x[k]))


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

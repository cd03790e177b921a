"""How far a step goes: to a corner of a store's curve, its floor, full, or until time is up."""

from typing import Final

import numpy as np

from graveljar.core.kernel.accounting import peukert
from graveljar.core.kernel.compiled import compiled, merged
from graveljar.core.kernel.conditions import piece
from graveljar.core.kernel.link_balance import FULL_HAIR
from graveljar.core.kernel.records import OFF, DayProfile, Records

# A step moves no store's charge by more than this share, nor past a corner of its curve.
MAX_STEP: Final = 0.04
# The same while a store takes less and less, near full.
TAPER_STEP: Final = 0.005
# Current over capacity that is rounding. [1/h]
NO_AMPS: Final = 1e-10


@compiled
def set_rates(rails: Records, stores: Records, ahead_h: float) -> None:
    """Set the share of its charge that each store loses in an hour.

    Less than 0 while it is charged; lead-acid loses more at high currents.

    Parameters
    ----------
    rails, stores : Records of the network. Shapes (R,), (S,)
    ahead_h : How far into a step the currents are, >= 0. [h]

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> set_rates(rails, stores, 0.0)  # 5 A of 100 Ah
    >>> float(stores[0].rate)
    0.05
    """
    for s in range(len(stores)):
        store = stores[s]
        store.rate = 0.0
        if rails[s].state == OFF or store.endless:
            continue
        amps = rails[s].amps
        full = amps < 0.0 and store.charge >= 1.0 - FULL_HAIR
        if full or abs(amps) <= NO_AMPS * store.ah:
            # What is left of the balance is rounding.
            continue
        counted = amps * (peukert(stores, s, amps, ahead_h) if amps > 0.0 else store.ah_give)
        store.rate = counted / store.ah


@compiled
def reach(stores: Records, day: DayProfile, hours_left: float) -> tuple[int, float]:
    """The store that bounds the next step, and how far it goes.

    Parameters
    ----------
    stores : Records of the stores with their rates, shape (S,).
    day : The day that repeats.
    hours_left : Until something else ends the step, > 0. [h]

    Returns
    -------
    Its index and the charge it gives, less than 0 if it takes; (-1, 0) where time bounds it.

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> stores[0].rate = 0.05
    >>> reach(stores, day, 24.0) == (0, 1.0 - 0.99)  # a corner of its curve
    True
    >>> reach(stores, day, 0.1)
    (-1, 0.0)
    """
    lead, gap, dt = -1, 0.0, hours_left
    for s in range(len(stores)):
        rate = abs(stores[s].rate)
        if rate <= 0.0:
            continue
        stores[s].room = _room(stores, day, s)
        room = min(stores[s].room, MAX_STEP)
        if room < dt * rate:
            dt, lead, gap = room / rate, s, room
    if lead >= 0 and stores[lead].rate < 0.0:
        gap = -gap
    return lead, gap


@merged
def _room(stores: Records, day: DayProfile, s: int) -> float:
    """Charge to the next corner of a store's curve, its floor, its taper or full. [1]"""
    store, x = stores[s], day.curve[s, :, 0]
    if store.rate > 0.0:
        # Below its floor, which rose in the cold, only what it draws itself is left.
        floor = store.least if store.charge > store.least else 0.0
        return float(store.charge - max(x[piece(x, store.charge)], floor))
    k = 1
    while k < len(x) - 1 and x[k] <= store.charge + 1e-12:
        k += 1
    top = x[k]
    k = piece(day.charging[s, :, 0], store.charge + 2e-12) + 1
    top = min(top, day.charging[s, k, 0], 1.0)
    if store.charge < store.full_at - 1e-12:
        top = min(top, store.full_at)
    if store.charge < store.taper - 1e-12:
        return float(min(top, store.taper) - store.charge)
    return float(max(min(top - store.charge, TAPER_STEP), 0.0))


@compiled
def plan(stores: Records, lead: int, gap: float, dt: float) -> float:
    """Set how far each store goes in a step, by its rate.

    Parameters
    ----------
    stores : Records of the stores with their rates, shape (S,).
    lead : Index of the store that bounds the step, or -1.
    gap : Charge that it gives; less than 0 if it takes. [1]
    dt : Length of the step where time bounds it, > 0. [h]

    Returns
    -------
    Length of the step. [h]

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> stores[0].rate = 0.05
    >>> round(float(plan(stores, 0, 0.02, 24.0)), 9)
    0.4
    """
    if lead >= 0:
        dt = gap / stores[lead].rate
    for s in range(len(stores)):
        stores[s].change = stores[s].rate * dt
    if lead >= 0:
        stores[lead].change = gap
    return dt


@compiled
def mended(
    stores: Records, lead: int, gap: float, dt: float, hours_left: float, first: float
) -> tuple[int, float]:
    """What bounds a step, and its length, by the rates in its middle.

    Parameters
    ----------
    stores : Records of the stores with their rates, shape (S,).
    lead, gap, dt : As planned by the rates at its begin. [1], [1], [h]
    hours_left : Until something else ends the step, > 0. [h]
    first : Rate of the store that bounds it at its begin. [1/h]

    Returns
    -------
    The store that bounds it, or -1, and its length. [h]

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> stores[0].rate = 0.01
    >>> mended(stores, 0, 0.02, 0.4, 1.0, 0.05)  # slower than at first: time bounds it
    (-1, 1.0)
    """
    if lead < 0:
        return lead, dt
    rate = stores[lead].rate
    if 0.0 < gap * rate < np.inf:
        # Slower than it seemed at first: it does not get as far before time is up.
        return (-1, hours_left) if gap / rate > hours_left else (lead, dt)
    if gap < 0.0 and stores[lead].before - gap >= stores[lead].full_at - FULL_HAIR:
        # All but full: the little that is missing by the rate at its begin.
        stores[lead].rate = first
        return lead, dt
    # It turned from giving to taking: too fast for a step of this length.
    return -1, 0.5 * dt


@compiled
def stretched(stores: Records, lead: int, by: float) -> float:
    """Let the other stores go on as long as the one that bounds a step does.

    Where one would pass what bounds itself, only a share of the step is gone.

    Parameters
    ----------
    stores : Records of the stores, at the end of the step, shape (S,).
    lead : Index of the store that bounds it.
    by : Its length over that planned, > 0. [1]

    Returns
    -------
    Share of the step that is gone, 0 to 1. [1]

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> stretched(stores, 0, 1.1)  # there is no other
    1.0
    """
    share = 1.0
    for s in range(len(stores)):
        store = stores[s]
        if s == lead or store.change == 0.0:
            continue
        store.change *= by
        way = store.before - store.charge
        if way * store.change > 0.0 and abs(store.change) > max(store.room, abs(way)):
            share = min(share, max(store.room, abs(way)) / abs(store.change))
    for s in range(len(stores)):
        stores[s].change *= share
        move(stores, s, 1.0)
    return share


@compiled
def move(stores: Records, s: int, share: float) -> None:
    """Set a store's charge a share of the way through a step.

    Parameters
    ----------
    stores : Records of the stores, shape (S,).
    s : Index of the store, 0 to S - 1.
    share : Of the step, 0 to 1. [1]

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> stores[0].before, stores[0].change = 0.8, 0.02
    >>> move(stores, 0, 0.5)
    >>> float(stores[0].charge)
    0.79
    """
    store = stores[s]
    charge = store.before - share * store.change
    store.charge = 1.0 if charge > 1.0 - 0.1 * FULL_HAIR else max(charge, 0.0)

"""Where a step's energy went, by the volts and currents in its middle."""

import math
from typing import Final

from graveljar.core.kernel.branch import own_draw
from graveljar.core.kernel.compiled import compiled, inlined, merged
from graveljar.core.kernel.formulas import peukert_cost
from graveljar.core.kernel.records import (
    ASLEEP,
    FEED,
    INVERTER,
    LINEAR,
    LINK,
    OFF,
    STORE,
    DayProfile,
    Records,
)

# Time over which the current of a lead-acid battery is averaged. Ours. [h]
MEAN_H: Final = 2.0

_peukert_cost = inlined(peukert_cost)


@compiled
def keep_middle(rails: Records, loads: Records, stores: Records) -> None:
    """Keep the present volts and currents as those of the middle of a step.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> keep_middle(rails, loads, stores)
    >>> float(loads[0].mid_amps)
    5.0
    """
    for s in range(len(stores)):
        stores[s].mid_fed, stores[s].mid_emf = stores[s].fed_w, stores[s].emf
    for r in range(len(rails)):
        rails[r].mid_volts = rails[r].volts
        rails[r].mid_amps = rails[r].amps
    for i in range(len(loads)):
        loads[i].mid_amps = loads[i].amps


@compiled
def peukert(stores: Records, s: int, amps: float, ahead_h: float) -> float:
    """Charge that a current costs over the charge that it carries; no gain below the rated current.

    By the mean current of the last two hours (see `mean_over`), as it is `ahead_h` from now.

    Parameters
    ----------
    stores : Records of the stores, shape (S,).
    s : Index of the store, 0 to S - 1.
    amps : Present current, >= 0. [A]
    ahead_h : Time from now, >= 0. [h]

    Returns
    -------
    Factor, >= 1. [1]

    Notes
    -----
    Source: Peukert 1897, for steady currents; that it does not hold for changing ones: Doerffel
    and Sharkh 2006, from memory.

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> stores[0].peukert, stores[0].rated_a = 1.2, 5.0
    >>> round(peukert(stores, 0, 10.0, 0.0), 3)  # (10 / 5) ** 0.2
    1.149
    """
    store = stores[s]
    if store.peukert == 1.0 or amps <= 0.0:
        # Charge that goes in is no more than it carries.
        return 1.0
    mean = store.mean_a if store.mean_a >= 0.0 else amps
    if ahead_h > 0.0:
        mean += (amps - mean) * _followed(store.seen_h + ahead_h, ahead_h)
    if mean <= store.rated_a:
        return 1.0
    return float(_peukert_cost(mean, store.rated_a, store.peukert))


@inlined
def _followed(seen_h: float, dt: float) -> float:
    """Share of the way to the present current that the mean goes in a step. [1]"""
    return max(-math.expm1(-dt / MEAN_H), dt / seen_h)


@compiled
def mean_over(stores: Records, s: int, amps: float, dt: float) -> None:
    """Let the mean current of a store follow the present one; at first it is the mean of all.

    Parameters
    ----------
    stores : Records of the stores, shape (S,).
    s : Index of the store, 0 to S - 1.
    amps : Present current, >= 0. [A]
    dt : Length of the step, > 0. [h]

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> stores[0].peukert = 1.2
    >>> mean_over(stores, 0, 10.0, 0.5)
    >>> float(stores[0].mean_a)
    10.0
    """
    store = stores[s]
    if store.peukert == 1.0:
        return
    drawn = max(amps, 0.0)
    store.seen_h += dt
    if store.mean_a < 0.0:
        store.mean_a = drawn
    elif dt > 0.0:
        store.mean_a += (drawn - store.mean_a) * _followed(store.seen_h, dt)


@compiled
def account(
    rails: Records, loads: Records, stores: Records, day: DayProfile, m: int, dt: float
) -> None:
    """Add the energy of a step to the counters.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)
    day : The day that repeats.
    m : Index of the stretch of the day, 0 to M - 1.
    dt : Length of the step, > 0. [h]

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> keep_middle(rails, loads, stores)
    >>> account(rails, loads, stores, day, 0, 2.0)
    >>> round(float(loads[0].used), 2)  # 5 A x 13.3874 V x 2 h
    133.87
    """
    for s in range(len(stores)):
        if rails[s].state == OFF:
            continue
        if stores[s].awake:
            rails[s].idle += own_draw(stores, s, stores[s].mid_fed) * dt
        amps, open_v = rails[s].mid_amps, stores[s].mid_emf
        costs = peukert(stores, s, amps, 0.5 * dt)
        # Of what goes in, the Ah that do not stay and the volts above those at rest are lost.
        counts = costs if amps >= 0.0 else stores[s].ah_give
        stores[s].released += open_v * amps * counts * dt
        stores[s].rate_wh += open_v * amps * (costs - 1.0) * dt
        stores[s].inside += amps * (open_v * min(counts, 1.0) - rails[s].mid_volts) * dt
        mean_over(stores, s, amps, dt)
    for r in range(len(rails)):
        if rails[r].kind != STORE and rails[r].state != OFF:
            _account_stage(rails, loads, r, dt)
    for i in range(len(loads)):
        if day.demand[m, i, 0] > 0.0:
            loads[i].scheduled_h += dt
        if loads[i].watts > 0.0:
            _account_load(rails, loads, day, m, i, dt)


@merged
def _account_load(
    rails: Records, loads: Records, day: DayProfile, m: int, i: int, dt: float
) -> None:
    run_w, wait_w = day.demand[m, i, 0], day.demand[m, i, 1]
    r = loads[i].rail
    amps = loads[i].mid_amps
    lost = 0.0
    if rails[r].kind != INVERTER:
        lost = amps * amps * loads[i].ohm
    arrives = rails[r].mid_volts * amps - lost
    useful = arrives * loads[i].useful
    running = run_w / (run_w + wait_w)
    into = loads[i]
    into.cable += lost * dt
    into.used += useful * running * dt
    into.waited += useful * (1.0 - running) * dt
    into.adapter += (arrives - useful) * dt
    if run_w > 0.0:
        into.served_h += dt


@merged
def _account_stage(rails: Records, loads: Records, r: int, dt: float) -> None:
    amps, ohm = rails[r].mid_amps, rails[r].ohm
    before_v = rails[rails[r].parent].mid_volts
    if rails[rails[r].parent].kind == INVERTER or rails[r].passes:
        ohm = 0.0
    rails[r].cable += amps * amps * ohm * dt
    if rails[r].kind == FEED:
        return
    arrives_v = before_v - amps * ohm
    takes = arrives_v * amps
    if rails[r].state == ASLEEP:
        rails[r].idle += takes * dt
        return
    if rails[r].passes:
        rails[r].got += takes * dt
        return
    idle = rails[r].p0
    if rails[r].kind == LINK:
        rails[r].got += takes * dt
        rails[r].idle += min(idle, takes) * dt
        rails[r].conversion += (1.0 - rails[r].give) * max(takes - idle, 0.0) * dt
        return
    if rails[r].kind == LINEAR:
        # Its own current is set by the volts before the joint.
        idle *= arrives_v / before_v
    # A label's idle watts may be more than all it loses at some load: then they are all of it.
    lost = takes - _given(rails, loads, r)
    rails[r].idle += min(idle, lost) * dt
    rails[r].conversion += max(lost - idle, 0.0) * dt


@merged
def _given(rails: Records, loads: Records, rail: int) -> float:
    """Power a stage gives to what is connected to its rail. [W]"""
    amps = 0.0
    for i in range(rails[rail].first, rails[rail].last):
        amps += loads[i].mid_amps
    for r in range(rail + 1, len(rails)):
        if rails[r].parent == rail:
            amps += rails[r].mid_amps
    return float(amps * rails[rail].mid_volts)

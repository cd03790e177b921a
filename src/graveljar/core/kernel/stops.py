"""First stops: when a load is first not served, and why, kept as it happens."""

from graveljar.core.kernel.compiled import compiled, inlined, merged
from graveljar.core.kernel.records import (
    ASLEEP,
    LOAD_PART,
    RAIL_PART,
    STORE,
    STORE_PART,
    DayProfile,
    Records,
)
from graveljar.core.kernel.trace import ASLEEP_THEN, CHARGING_THEN, IN, UNPLUGGED_THEN


@merged
def _stop(
    rails: Records, loads: Records, stores: Records, i: int, hours: float, part: int, index: int
) -> None:
    """Keep the first stop of a load by what is known of the part that gave up."""
    load = loads[i]
    load.stop_h, load.stop_part, load.stop_index = hours, part, index
    if part == LOAD_PART:
        load.stop_why, load.stop_by = load.why, -1
        load.stop_v, load.stop_x = load.why_v, load.why_x
    elif part == RAIL_PART:
        rail = rails[index]
        load.stop_why, load.stop_by = rail.why, rail.why_by
        load.stop_v, load.stop_x = rail.why_v, rail.why_x
    else:
        store = stores[index]
        load.stop_why, load.stop_by = store.why, store.why_by
        load.stop_v, load.stop_x = store.why_v, store.why_x
    total = 0.0
    for s in range(len(stores)):
        total += stores[s].released
    load.stop_wh = total


@compiled
def stop_store(rails: Records, loads: Records, stores: Records, s: int, hours: float) -> None:
    """Record the stop of all loads on a store that has switched off.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)
    s : Index of the store, 0 to S - 1.
    hours : Time since the start, >= 0. [h]

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> stop_store(rails, loads, stores, 0, 20.0)
    >>> float(loads[0].stop_h)
    20.0
    """
    for i in range(len(loads)):
        if rails[loads[i].rail].store == s and loads[i].stop_h > hours:
            _stop(rails, loads, stores, i, hours, STORE_PART, s)


@compiled
def mark_stops(
    rails: Records, loads: Records, stores: Records, day: DayProfile, m: int, hours: float
) -> None:
    """Mark the loads that should run now and do not, each by what is off between it and its store.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)
    day : The day that repeats.
    m : Index of the stretch of the day, 0 to M - 1.
    hours : Time since the start, >= 0. [h]

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> loads[0].watts, loads[0].latch = 0.0, 1
    >>> mark_stops(rails, loads, stores, day, 0, 3.0)
    >>> float(loads[0].stop_h)
    3.0
    """
    for i in range(len(loads)):
        if day.demand[m, i, 0] > 0.0 and loads[i].watts <= 0.0 and loads[i].stop_h > hours:
            _mark(rails, loads, stores, day, i, hours, m)


@inlined
def _mark(
    rails: Records, loads: Records, stores: Records, day: DayProfile, i: int, hours: float, m: int
) -> None:
    here = loads[i].rail
    asleep = -1
    while rails[here].kind != STORE:
        if rails[here].latch != IN:
            _stop(rails, loads, stores, i, hours, RAIL_PART, here)
            return
        if rails[here].state == ASLEEP:
            asleep = here
        here = rails[here].parent
    s = rails[here].store
    if day.plugged[m, here] and not stores[s].on:
        _stop(rails, loads, stores, i, hours, STORE_PART, s)
        return
    if loads[i].latch != IN:
        _stop(rails, loads, stores, i, hours, LOAD_PART, i)
        return
    _stop(rails, loads, stores, i, hours, STORE_PART, s)
    loads[i].stop_v, loads[i].stop_x = rails[here].volts, stores[s].charge
    if not day.plugged[m, here]:
        loads[i].stop_why = UNPLUGGED_THEN
    elif stores[s].closed:
        loads[i].stop_why = CHARGING_THEN
    else:
        loads[i].stop_why = ASLEEP_THEN
        if asleep >= 0:
            loads[i].stop_part, loads[i].stop_index = RAIL_PART, asleep

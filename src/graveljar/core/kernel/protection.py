"""What switches off and restarts: cut-outs, overloads, collapse, the stores' own limits, sleep."""

from typing import Final

import numpy as np

from graveljar.core.kernel.branch import drawn
from graveljar.core.kernel.compiled import compiled, inlined, merged
from graveljar.core.kernel.limits import worst_miss
from graveljar.core.kernel.link_balance import FULL_HAIR, balance
from graveljar.core.kernel.operating_point import SOLVED, UNSETTLED, input_v, load_v
from graveljar.core.kernel.records import (
    FEED,
    INVERTER,
    LINK,
    OFF,
    ON,
    RESISTIVE,
    STORE,
    DayProfile,
    Records,
)
from graveljar.core.kernel.states import arrange, gives
from graveljar.core.kernel.stops import stop_store
from graveljar.core.kernel.trace import (
    EVENTS,
    FLOOR,
    FULL,
    FUSE_OPENED,
    IN,
    LOAD_BACK,
    LOAD_COLLAPSED,
    LOAD_FUSE_OPENED,
    LOAD_OUT,
    LOCKED,
    NO_PROGRESS,
    NOT_CONVERGED,
    OUT,
    OVERLOADED,
    PROTECTION,
    SLEPT,
    STAGE_BACK,
    STAGE_COLLAPSED,
    START_FAILED,
    STATUS,
    STORE_BACK,
    STORE_FUSE_OPENED,
    STORE_OVERLOADED,
    TOO_COLD,
    TRIPPED,
    WAITS,
    Trace,
)

# A device that cut out stays out for three minutes; one that cuts out again as soon as it is
# back waits until the loads change. Ours.
RETURN_H: Final = 0.05
# A thermostat whose compressor did not start tries again after so long; common practice. [h]
RETRY_H: Final = 0.5
FLOOR_HAIR: Final = 1e-10
# Charge missing with which a full store is not full any more. Ours.
NO_LONGER_FULL: Final = 0.02
# Amps out of a store that is fed all it gives. [A]
DRAIN_A: Final = 1e-6


@merged
def note(
    trace: Trace, hours: float, what: int, index: int, volts: float, charge: float, by: int
) -> None:
    """Keep an event while there is space; count it in any case.

    Parameters
    ----------
    trace : Where points and events are kept.
    hours : Time since the start, >= 0. [h]
    what : Kind of event, as in `trace`.
    index : Of the load, rail or store, by the kind of event.
    volts : At that device. [V]
    charge : Of its store. [1]
    by : Index of the load whose start caused it; -1 for none.

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> note(trace, 1.0, LOAD_OUT, 0, 10.5, 0.2, -1)
    >>> int(trace.counts[EVENTS])
    1
    """
    count = trace.counts[EVENTS]
    trace.counts[EVENTS] += 1
    if count < len(trace.events):
        trace.events[count, 0] = hours
        trace.events[count, 1] = what
        trace.events[count, 2] = index
        trace.events[count, 3] = volts
        trace.events[count, 4] = charge
        trace.events[count, 5] = by


@inlined
def _latch(back_h: float, hours: float, returns: bool) -> tuple[int, float]:
    """How a device goes out: it may restart later, or has to wait for the loads to change."""
    if not returns or hours - back_h < RETURN_H:
        return LOCKED, hours
    return OUT, hours + RETURN_H


@compiled
def trip(
    rails: Records,
    loads: Records,
    stores: Records,
    trace: Trace,
    what: int,
    index: int,
    hours: float,
    by: int,
) -> None:
    """Switch a device off, or a whole store.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)
    trace : Where points and events are kept.
    what : Kind of event, as in `trace`.
    index : Of the load, rail or store, by the kind of event.
    hours : Time since the start, >= 0. [h]
    by : Index of the load whose start caused it; -1 for none.

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> trip(rails, loads, stores, trace, LOAD_OUT, 0, 1.0, -1)
    >>> int(loads[0].outs), int(trace.counts[EVENTS])
    (1, 1)
    """
    if what in (LOAD_OUT, LOAD_COLLAPSED, LOAD_FUSE_OPENED, START_FAILED):
        volts = load_v(rails, loads, index)
        charge = stores[rails[loads[index].rail].store].charge
        _trip_load(loads, what, index, hours)
        loads[index].why_v, loads[index].why_x = volts, charge
    elif what in (PROTECTION, STORE_OVERLOADED, STORE_FUSE_OPENED):
        s = rails[index].store
        volts, charge = rails[index].volts, stores[s].charge
        if what == STORE_FUSE_OPENED or (what == STORE_OVERLOADED and not stores[s].returns):
            # Off for good: until a person sees to it.
            stores[s].slept = 1
        stores[s].from_h = np.inf
        _switch_off(rails, loads, stores, s, what, hours, by)
    else:
        rail = rails[index]
        volts, charge = input_v(rails, index), stores[rail.store].charge
        for_long = what == FUSE_OPENED or (what == OVERLOADED and not rail.returns)
        if for_long:
            rail.latch = TRIPPED
        else:
            rail.latch, rail.from_h = _latch(rail.back_h, hours, what != STAGE_COLLAPSED)
        rail.why, rail.why_by, rail.why_v, rail.why_x = what, by, volts, charge
        rail.out_h = hours
        rail.outs += 1
    note(trace, hours, what, index, volts, charge, by)


@merged
def _trip_load(loads: Records, what: int, index: int, hours: float) -> None:
    load = loads[index]
    if what == LOAD_FUSE_OPENED:
        load.latch = TRIPPED
    elif what == START_FAILED:
        wait_for_start(loads, index, hours)
    else:
        load.latch, load.from_h = _latch(load.back_h, hours, what == LOAD_OUT)
    load.why, load.out_h = what, hours
    load.outs += 1


@compiled
def wait_for_start(loads: Records, index: int, hours: float) -> None:
    """Let a load that did not start wait for its next start.

    Parameters
    ----------
    loads : Records of the loads, shape (L,).
    index : Of the load, 0 to L - 1.
    hours : Time since the start, >= 0. [h]

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> wait_for_start(loads, 0, 1.0)
    >>> bool(loads[0].latch == WAITS)
    True
    """
    if loads[index].thermostat:
        loads[index].latch, loads[index].from_h = OUT, hours + RETRY_H
    else:
        loads[index].latch = WAITS
    loads[index].why, loads[index].started = START_FAILED, 0


@merged
def _switch_off(
    rails: Records, loads: Records, stores: Records, s: int, why: int, hours: float, by: int
) -> None:
    """Switch a store off, and with it all that lives on it."""
    store = stores[s]
    store.on, store.stop_h = 0, min(store.stop_h, hours)
    store.why, store.why_by, store.why_v, store.why_x = why, by, rails[s].volts, store.charge
    stop_store(rails, loads, stores, s, hours)


@merged
def _largest_in(rails: Records, loads: Records, zone: int) -> tuple[int, int]:
    """The largest branch of a zone whose volts have collapsed.

    A resistance only if there is nothing else, for it takes less the less it gets.
    """
    what, index, most, mild = 0, 0, 0.0, True
    for i in range(len(loads)):
        r = loads[i].rail
        if rails[r].zone != zone or rails[r].kind == INVERTER or loads[i].watts <= 0.0:
            continue
        resists = loads[i].draw == RESISTIVE
        if (mild and not resists) or (mild == resists and loads[i].watts > most):
            what, index, most, mild = LOAD_COLLAPSED, i, loads[i].watts, resists
    for r in range(len(rails) - 1, -1, -1):
        if rails[r].kind in (STORE, FEED) or rails[r].state == OFF:
            continue
        if rails[rails[r].parent].zone != zone:
            continue
        takes = rails[r].want_w
        if rails[r].kind != LINK:
            takes = drawn(rails[r], _beyond(rails, loads, r))
        if takes > 0.0 and (mild or takes > most):
            what, index, most, mild = STAGE_COLLAPSED, r, takes, False
    return what, index


@merged
def _beyond(rails: Records, loads: Records, rail: int) -> float:
    """Watts asked by all loads that a rail feeds, losses left out."""
    total = 0.0
    for i in range(len(loads)):
        r = loads[i].rail
        while r > rail:
            r = rails[r].parent
        if r == rail:
            total += loads[i].watts
    return total


@merged
def _come_back(rails: Records, loads: Records, stores: Records, trace: Trace, hours: float) -> bool:
    """Let devices restart whose restart volts arrive; tells whether any did."""
    any_did = False
    for s in range(len(stores)):
        if _store_returns(stores, s, hours):
            stores[s].on = 1
            any_did = True
            note(trace, hours, STORE_BACK, s, rails[s].volts, stores[s].charge, -1)
    for r in range(len(rails)):
        if rails[r].latch != OUT or rails[r].from_h > hours + 1e-12:
            continue
        p = rails[r].parent
        if gives(rails, stores, p) and rails[p].volts >= rails[r].restart_v:
            rails[r].latch, rails[r].back_h = IN, hours
            any_did = True
            note(trace, hours, STAGE_BACK, r, rails[p].volts, stores[rails[r].store].charge, -1)
    for i in range(len(loads)):
        if loads[i].latch != OUT or loads[i].from_h > hours + 1e-12:
            continue
        r = loads[i].rail
        if gives(rails, stores, r) and rails[r].volts >= loads[i].restart_v:
            loads[i].latch, loads[i].back_h = IN, hours
            any_did = True
            note(trace, hours, LOAD_BACK, i, rails[r].volts, stores[rails[r].store].charge, -1)
    return any_did


@merged
def _store_returns(stores: Records, s: int, hours: float) -> bool:
    store = stores[s]
    if store.on or store.slept or store.too_cold:
        return False
    if store.why == TOO_COLD:
        return bool(store.charge > store.least + FLOOR_HAIR)
    if store.why == STORE_OVERLOADED:
        return bool(store.from_h <= hours)
    back_at = store.least + store.returns_at * (1.0 - store.least)
    return bool(store.linked and store.charge >= back_at)


@compiled
def steady(
    rails: Records,
    loads: Records,
    stores: Records,
    day: DayProfile,
    trace: Trace,
    m: int,
    hours: float,
) -> float:
    """Settle, switch off what exceeds a limit and let restart what may, until nothing changes.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)
    day : The day that repeats.
    trace : Where points and events are kept.
    m : Index of the stretch of the day, 0 to M - 1.
    hours : Time since the start, >= 0. [h]

    Returns
    -------
    Margin to the tightest limit; of no use where the status says that nothing is steady. [1]

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> stores[0].low_v = 14.0
    >>> room = steady(rails, loads, stores, day, trace, 0, 0.0)
    >>> bool(rails[0].state == OFF)
    True
    """
    _see_to_stores(rails, loads, stores, trace, hours)
    room = 0.0
    # Each device goes out and restarts once at the most.
    for _ in range(3 * (len(rails) + len(loads)) + 3):
        arrange(rails, loads, stores, day, m, False)
        failed = balance(rails, loads, stores)
        if failed == UNSETTLED:
            trace.counts[STATUS] = NOT_CONVERGED
            return room
        if failed != SOLVED:
            what, index = _largest_in(rails, loads, failed)
            if not what:
                trace.counts[STATUS] = NOT_CONVERGED
                return room
        else:
            what, index, room = worst_miss(rails, loads, stores, False)
        if what:
            trip(rails, loads, stores, trace, what, index, hours, -1)
        elif not _drained(rails, loads, stores, trace, hours) and not _come_back(
            rails, loads, stores, trace, hours
        ):
            return room
    trace.counts[STATUS] = NO_PROGRESS
    return room


@merged
def _see_to_stores(
    rails: Records, loads: Records, stores: Records, trace: Trace, hours: float
) -> None:
    """Switch off the stores that are empty or too cold; note those that are full."""
    for s in range(len(stores)):
        store = stores[s]
        if store.on and store.too_cold:
            _switch_off(rails, loads, stores, s, TOO_COLD, hours, -1)
            note(trace, hours, TOO_COLD, s, rails[s].volts, store.charge, -1)
        if store.linked:
            _note_full(stores, s, rails[s].volts, trace, hours)
        elif store.on and not store.endless and _at_floor(stores, s):
            _meet_floor(rails, loads, stores, trace, s, hours)


@inlined
def _at_floor(stores: Records, s: int) -> bool:
    return bool(stores[s].charge <= stores[s].least + FLOOR_HAIR)


@compiled
def _meet_floor(
    rails: Records, loads: Records, stores: Records, trace: Trace, s: int, hours: float
) -> None:
    _switch_off(rails, loads, stores, s, FLOOR, hours, -1)
    note(trace, hours, FLOOR, s, rails[s].volts, stores[s].charge, -1)


@merged
def _drained(rails: Records, loads: Records, stores: Records, trace: Trace, hours: float) -> bool:
    """Switch off what is fed too little at its floor; fed enough it carries on there."""
    any_did = False
    for s in range(len(stores)):
        store = stores[s]
        if store.linked and store.on and _at_floor(stores, s) and rails[s].amps > DRAIN_A:
            _meet_floor(rails, loads, stores, trace, s, hours)
            any_did = True
    return any_did


@merged
def _note_full(stores: Records, s: int, volts: float, trace: Trace, hours: float) -> None:
    store = stores[s]
    if not store.full and store.charge >= store.full_at - FULL_HAIR:
        store.full = 1
        note(trace, hours, FULL, s, volts, store.charge, -1)
    elif store.full and store.charge < store.full_at - NO_LONGER_FULL:
        store.full = 0


@compiled
def fall_asleep(
    rails: Records, loads: Records, stores: Records, trace: Trace, hours: float, end_h: float
) -> float:
    """Switch off stations whose loads have drawn too little for too long.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)
    trace : Where points and events are kept.
    hours : Time since the start, >= 0. [h]
    end_h : End of the stretch, > `hours`. [h]

    Returns
    -------
    When the next one switches off, at most `end_h`. [h]

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> fall_asleep(rails, loads, stores, trace, 0.0, 24.0)
    24.0
    """
    for s in range(len(stores)):
        store = stores[s]
        if store.sleep_at_w <= 0.0 or not store.on:
            continue
        if store.fed_w > 0.0 or _asked_of(rails, loads, s) >= store.sleep_at_w:
            store.low_since = np.inf
            continue
        store.low_since = min(store.low_since, hours)
        due_h = store.low_since + store.sleep_h
        if due_h <= hours + 1e-12:
            store.slept = 1
            _switch_off(rails, loads, stores, s, SLEPT, hours, -1)
            note(trace, hours, SLEPT, s, rails[s].volts, store.charge, -1)
            # At once: what is on has to be found anew.
            end_h = hours
        else:
            end_h = min(end_h, due_h)
    return end_h


@merged
def _asked_of(rails: Records, loads: Records, s: int) -> float:
    """Watts that loads and links take from a store at present."""
    total = 0.0
    for i in range(len(loads)):
        if rails[loads[i].rail].store == s:
            total += loads[i].watts
    for r in range(len(rails)):
        if rails[r].kind == LINK and rails[r].store == s and rails[r].state == ON:
            total += rails[r].amps * input_v(rails, r)
    return total


@compiled
def unlock(
    rails: Records, loads: Records, stores: Records, day: DayProfile, m: int, hours: float
) -> None:
    """Let what waited for another set of loads try again.

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
    >>> loads[0].latch = LOCKED
    >>> unlock(rails, loads, stores, day, 0, 1.0)
    >>> bool(loads[0].latch == LOCKED)
    False
    """
    for s in range(len(stores)):
        if stores[s].why == STORE_OVERLOADED and not stores[s].on and stores[s].returns:
            stores[s].from_h = hours
    for r in range(len(rails)):
        if rails[r].latch == LOCKED:
            rails[r].latch, rails[r].from_h = OUT, hours
    for i in range(len(loads)):
        if loads[i].latch == LOCKED:
            loads[i].latch, loads[i].from_h = OUT, hours
        if day.demand[m, i, 0] <= 0.0:
            loads[i].started = 0
            if loads[i].latch == WAITS:
                loads[i].latch = IN


@compiled
def next_return(rails: Records, loads: Records, hours: float, end_h: float) -> float:
    """When the next device may restart.

    Parameters
    ----------
    rails, loads : Records of the network. Shapes (R,), (L,)
    hours : Time since the start, >= 0. [h]
    end_h : End of the stretch, > `hours`. [h]

    Returns
    -------
    Time, at most `end_h`. [h]

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> next_return(rails, loads, 0.0, 24.0)
    24.0
    """
    for r in range(len(rails)):
        if rails[r].latch == OUT and hours + 1e-12 < rails[r].from_h < end_h:
            end_h = rails[r].from_h
    for i in range(len(loads)):
        if loads[i].latch == OUT and hours + 1e-12 < loads[i].from_h < end_h:
            end_h = loads[i].from_h
    return end_h

"""What goes off and comes back: cut-outs, collapse, the stores' own limits, their sleep."""

from typing import Final

import numpy as np

from graveljar.core.engine.branch import drawn
from graveljar.core.engine.compiled import compiled, inlined
from graveljar.core.engine.feeding import FULL_HAIR, balance
from graveljar.core.engine.ledger import (
    EVENTS,
    FLOOR,
    FULL,
    IN,
    LOAD_BACK,
    LOAD_COLLAPSED,
    LOAD_OUT,
    LOCKED,
    OUT,
    PROTECTION,
    SLEPT,
    STAGE_BACK,
    STAGE_COLLAPSED,
    STAGE_OUT,
    STORE_BACK,
    Trace,
)
from graveljar.core.engine.net import (
    FEED,
    INVERTER,
    LINK,
    OFF,
    ON,
    POWER,
    STORE,
    Day,
    Records,
)
from graveljar.core.engine.point import SOLVED, input_v, load_v
from graveljar.core.engine.states import arrange, gives

# A device that cut out stays out for three minutes; one that cuts out again as soon as it is
# back waits until the loads change. Ours.
RETURN_H: Final = 0.05
# Relative volts by which a cut-out must be missed to count.
HAIR: Final = 1e-9
FLOOR_HAIR: Final = 1e-10
# Charge below which a full store is not full any more. Ours.
NO_LONGER_FULL: Final = 0.98
# Amps out of a store that is fed all it gives. [A]
DRAIN_A: Final = 1e-6


@compiled
def note(trace: Trace, hours: float, what: int, index: int, volts: float, charge: float) -> None:
    """Keep an event, as long as there is room; count it in any case."""
    count = trace.counts[EVENTS]
    trace.counts[EVENTS] += 1
    if count < len(trace.events):
        trace.events[count, 0] = hours
        trace.events[count, 1] = what
        trace.events[count, 2] = index
        trace.events[count, 3] = volts
        trace.events[count, 4] = charge


@inlined
def worst_miss(rails: Records, loads: Records, stores: Records) -> tuple[int, int]:
    """The device whose cut-out is missed by most, as (what, index); (0, 0) if none is."""
    what, index, room = tightest(rails, loads, stores)
    return (what, index) if room < -HAIR else (0, 0)


@inlined
def tightest(rails: Records, loads: Records, stores: Records) -> tuple[int, int, float]:
    """The device nearest to its cut-out, and its room: volts above it over the cut-out. [1]"""
    what, index, least = 0, 0, 1e9
    for r in range(len(rails)):
        rail = rails[r]
        if rail.state == OFF:
            continue
        is_store = rail.kind == STORE
        low = stores[rail.store].low_v if is_store else rail.cut_v
        if low <= 0.0:
            continue
        arrives = rail.volts if is_store else input_v(rails, r)
        room = (arrives - low) / low
        if room < least:
            what, index, least = (PROTECTION if is_store else STAGE_OUT), r, room
    for i in range(len(loads)):
        low = loads[i].cut_v
        if low > 0.0 and loads[i].watts > 0.0:
            room = (load_v(rails, loads, i) - low) / low
            if room < least:
                what, index, least = LOAD_OUT, i, room
    return what, index, least


@inlined
def _latch(back_h: float, hours: float, returns: bool) -> tuple[int, float]:
    """How a device goes out: it may come back later, or has to wait for the loads to change."""
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
) -> None:
    """Take a device off, or a whole store."""
    if what in (LOAD_OUT, LOAD_COLLAPSED):
        r = loads[index].rail
        volts = load_v(rails, loads, index)
        loads[index].latch, loads[index].from_h = _latch(
            loads[index].back_h, hours, what == LOAD_OUT
        )
    else:
        r = index
        volts = rails[r].volts if what == PROTECTION else input_v(rails, r)
        if what == PROTECTION:
            stores[rails[r].store].on = 0
            _stop_store(rails, loads, stores, rails[r].store, hours)
        else:
            rails[r].latch, rails[r].from_h = _latch(rails[r].back_h, hours, what == STAGE_OUT)
    note(trace, hours, what, index, volts, stores[rails[r].store].charge)


@compiled
def _stop_store(rails: Records, loads: Records, stores: Records, s: int, hours: float) -> None:
    stores[s].stop_h = hours
    for i in range(len(loads)):
        if rails[loads[i].rail].store == s:
            loads[i].stop_h = min(loads[i].stop_h, hours)


@compiled
def _largest_in(rails: Records, loads: Records, zone: int) -> tuple[int, int]:
    """The largest constant-power branch of a zone whose volts have collapsed."""
    what, index, most = 0, 0, 0.0
    for i in range(len(loads)):
        r = loads[i].rail
        of_zone = rails[r].zone == zone and rails[r].kind != INVERTER
        if of_zone and loads[i].draw == POWER and loads[i].watts > most:
            what, index, most = LOAD_COLLAPSED, i, loads[i].watts
    for r in range(len(rails) - 1, -1, -1):
        if rails[r].kind in (STORE, FEED) or rails[r].state == OFF:
            continue
        if rails[r].kind == LINK:
            if rails[rails[r].parent].zone == zone and rails[r].want_w > most:
                what, index, most = STAGE_COLLAPSED, r, rails[r].want_w
            continue
        takes = drawn(rails[r], _beyond(rails, loads, r))
        if rails[rails[r].parent].zone == zone and takes > most:
            what, index, most = STAGE_COLLAPSED, r, takes
    return what, index


@compiled
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


@compiled
def _come_back(rails: Records, loads: Records, stores: Records, trace: Trace, hours: float) -> bool:
    """Let devices come back whose restart volts arrive; tells whether any did."""
    any_did = False
    for s in range(len(stores)):
        store = stores[s]
        if store.linked and not store.on and not store.slept and store.charge >= store.back_at:
            store.on = 1
            any_did = True
            note(trace, hours, STORE_BACK, s, rails[s].volts, store.charge)
    for r in range(len(rails)):
        if rails[r].latch != OUT or rails[r].from_h > hours + 1e-12:
            continue
        p = rails[r].parent
        if gives(rails, stores, p) and rails[p].volts >= rails[r].restart_v:
            rails[r].latch, rails[r].back_h = IN, hours
            any_did = True
            note(trace, hours, STAGE_BACK, r, rails[p].volts, stores[rails[r].store].charge)
    for i in range(len(loads)):
        if loads[i].latch != OUT or loads[i].from_h > hours + 1e-12:
            continue
        r = loads[i].rail
        if gives(rails, stores, r) and rails[r].volts >= loads[i].restart_v:
            loads[i].latch, loads[i].back_h = IN, hours
            any_did = True
            note(trace, hours, LOAD_BACK, i, rails[r].volts, stores[rails[r].store].charge)
    return any_did


@compiled
def steady(
    rails: Records, loads: Records, stores: Records, day: Day, trace: Trace, m: int, hours: float
) -> None:
    """Settle, take off what cuts out and let back in what may, until nothing changes."""
    for s in range(len(stores)):
        store = stores[s]
        if store.linked:
            _note_full(stores, s, rails[s].volts, trace, hours)
        elif store.on and not store.endless and _at_floor(stores, s):
            _meet_floor(rails, loads, stores, trace, s, hours)
    # Each device goes out and comes back once at the most.
    for _ in range(3 * (len(rails) + len(loads)) + 3):
        arrange(rails, loads, stores, day, m)
        failed = balance(rails, loads, stores)
        if failed != SOLVED:
            what, index = _largest_in(rails, loads, failed)
        else:
            what, index = worst_miss(rails, loads, stores)
        if what:
            trip(rails, loads, stores, trace, what, index, hours)
        elif not _drained(rails, loads, stores, trace, hours) and not _come_back(
            rails, loads, stores, trace, hours
        ):
            return


@inlined
def _at_floor(stores: Records, s: int) -> bool:
    return bool(stores[s].charge <= stores[s].floor + FLOOR_HAIR)


@compiled
def _meet_floor(
    rails: Records, loads: Records, stores: Records, trace: Trace, s: int, hours: float
) -> None:
    stores[s].on = 0
    _stop_store(rails, loads, stores, s, hours)
    note(trace, hours, FLOOR, s, rails[s].volts, stores[s].charge)


@inlined
def _drained(rails: Records, loads: Records, stores: Records, trace: Trace, hours: float) -> bool:
    """Switch off what is fed too little at its floor; fed enough it carries on there."""
    any_did = False
    for s in range(len(stores)):
        store = stores[s]
        if store.linked and store.on and _at_floor(stores, s) and rails[s].amps > DRAIN_A:
            _meet_floor(rails, loads, stores, trace, s, hours)
            any_did = True
    return any_did


@inlined
def _note_full(stores: Records, s: int, volts: float, trace: Trace, hours: float) -> None:
    store = stores[s]
    if not store.full and store.charge >= 1.0 - FULL_HAIR:
        store.full = 1
        note(trace, hours, FULL, s, volts, store.charge)
    elif store.full and store.charge < NO_LONGER_FULL:
        store.full = 0


@compiled
def fall_asleep(
    rails: Records, loads: Records, stores: Records, trace: Trace, hours: float, end_h: float
) -> float:
    """Switch off what has been asked for too little for too long; gives when the next one is."""
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
            store.on, store.slept = 0, 1
            _stop_store(rails, loads, stores, s, hours)
            note(trace, hours, SLEPT, s, rails[s].volts, store.charge)
            # At once: what is on has to be found anew.
            end_h = hours
        else:
            end_h = min(end_h, due_h)
    return end_h


@inlined
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


@inlined
def unlock(rails: Records, loads: Records, hours: float) -> None:
    """As the loads change, what waited for that may try again."""
    for r in range(len(rails)):
        if rails[r].latch == LOCKED:
            rails[r].latch, rails[r].from_h = OUT, hours
    for i in range(len(loads)):
        if loads[i].latch == LOCKED:
            loads[i].latch, loads[i].from_h = OUT, hours


@inlined
def next_return(rails: Records, loads: Records, hours: float, end_h: float) -> float:
    """When the next device may come back, or `end_h`. [h]"""
    for r in range(len(rails)):
        if rails[r].latch == OUT and hours + 1e-12 < rails[r].from_h < end_h:
            end_h = rails[r].from_h
    for i in range(len(loads)):
        if loads[i].latch == OUT and hours + 1e-12 < loads[i].from_h < end_h:
            end_h = loads[i].from_h
    return end_h

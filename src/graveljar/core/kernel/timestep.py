"""A run through time: from event to event, with bounded steps between (midpoint rule)."""

from typing import Final

import numpy as np

from graveljar.core.kernel.accounting import MEAN_H, account, keep_middle, mean_over
from graveljar.core.kernel.compiled import compiled, inlined, merged
from graveljar.core.kernel.conditions import open_circuit, weather
from graveljar.core.kernel.limits import worst_miss
from graveljar.core.kernel.link_balance import balance
from graveljar.core.kernel.operating_point import SOLVED
from graveljar.core.kernel.protection import fall_asleep, next_return, steady, unlock
from graveljar.core.kernel.records import OFF, DayProfile, Records
from graveljar.core.kernel.starting import start_up, starts_far, starts_hold
from graveljar.core.kernel.step_length import mended, move, plan, reach, set_rates, stretched
from graveljar.core.kernel.stops import mark_stops
from graveljar.core.kernel.trace import (
    CONVERGED,
    GOES_ON,
    HOURS,
    MIDNIGHT,
    NO_PROGRESS,
    OUT_OF_STEPS,
    PAUSES,
    POINTS,
    ROUGH,
    STATUS,
    STEPS,
    STOPS_ONLY,
    STORE_OVERLOADED,
    STRETCH,
    STUCK,
    TOO_COLD,
    Trace,
    begin,
    record,
)
from graveljar.core.kernel.wear import wear, wear_out

MAX_STEPS: Final = 1_000_000
HALVINGS: Final = 26
# The same in one of many draws: an hour to a second. Ours.
ROUGH_HALVINGS: Final = 12
# Volts that move by less than this share within a step of a draw count as those at its begin. [1]
SAME_VOLTS: Final = 1e-3
# Room above every cut-out, also at a start, at which a step's end need not be looked at. [1]
FAR: Final = 0.02
# Charges closer than this are one. [1]
SAME_CHARGE: Final = 1e-6
# Times closer than this are one. [h]
INSTANT: Final = 1e-11
# Steps without progress after which a run is given up. Ours.
MAX_STUCK: Final = 200
# Steps while the mean current of lead-acid still moves. Ours. [h]
MEAN_STEP_H: Final = 0.1 * MEAN_H


@compiled
def run(
    rails: Records, loads: Records, stores: Records, day: DayProfile, horizon_h: float, trace: Trace
) -> float:
    """Run a design until all its stores have stopped, or up to the horizon.

    The status of the run is in `trace.counts`. Where `trace.counts[GOES_ON]` is 1 it goes on from
    where the last run came to; where the trace is full and it is to pause, it sets that itself.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)
    day : The day that repeats.
    horizon_h : How long to run at most, > 0. [h]
    trace : Where points and events are kept.

    Returns
    -------
    When it ended or paused. [h]

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> round(float(run(rails, loads, stores, day, 8.0, trace)), 6), float(stores[0].charge)
    (8.0, 0.6)
    >>> trace.counts[GOES_ON] = 1
    >>> round(float(run(rails, loads, stores, day, 100.0, trace)), 6)  # 100 Ah at 5 A
    20.0
    """
    if not trace.counts[GOES_ON]:
        _begin(rails, loads, stores, day, trace)
    trace.counts[GOES_ON] = 0
    hours, midnight = float(trace.clock[HOURS]), float(trace.clock[MIDNIGHT])
    m = int(trace.clock[STRETCH])
    while hours < horizon_h and _any_on(stores) and trace.counts[STATUS] == CONVERGED:
        if trace.counts[STOPS_ONLY] and _decided(loads):
            break
        end = min(midnight + day.edges[m + 1], horizon_h)
        hours = _to_end(rails, loads, stores, day, trace, m, hours, end)
        if trace.counts[GOES_ON]:
            break
        # Not where only the horizon ends it: it may be continued from there.
        if hours >= midnight + day.edges[m + 1] - INSTANT:
            m += 1
            if m == len(day.edges) - 1:
                m = 0
                midnight += day.edges[len(day.edges) - 1]
                if _repeats(stores) and trace.counts[STOPS_ONLY]:
                    # As before, so from now on: nothing stops any more.
                    hours = horizon_h
                    break
            weather(stores, day, m)
            unlock(rails, loads, stores, day, m, hours)
    trace.clock[HOURS], trace.clock[MIDNIGHT], trace.clock[STRETCH] = hours, midnight, m
    return hours


@merged
def _begin(rails: Records, loads: Records, stores: Records, day: DayProfile, trace: Trace) -> None:
    begin(rails, loads, stores, trace)
    trace.clock[MIDNIGHT] = -day.start_h
    m = 0
    while day.edges[m + 1] <= day.start_h:
        m += 1
    trace.clock[STRETCH] = m
    weather(stores, day, m)
    unlock(rails, loads, stores, day, m, 0.0)


@merged
def _to_end(
    rails: Records,
    loads: Records,
    stores: Records,
    day: DayProfile,
    trace: Trace,
    m: int,
    hours: float,
    end: float,
) -> float:
    """Go step by step to the end of a stretch; gives the hours there, or where it pauses."""
    while hours < end - INSTANT and trace.counts[STATUS] == CONVERGED:
        if trace.counts[PAUSES] and trace.counts[POINTS] > len(trace.hours) - 4:
            trace.counts[GOES_ON] = 1
            return hours
        before = hours
        hours = _go(rails, loads, stores, day, trace, m, hours, end)
        _watch(trace, hours - before)
        if not _any_on(stores):
            break
    return end if hours >= end - INSTANT else hours


@merged
def _go(
    rails: Records,
    loads: Records,
    stores: Records,
    day: DayProfile,
    trace: Trace,
    m: int,
    hours: float,
    end: float,
) -> float:
    """One step, or none where something switches first; gives the hours at its end."""
    open_circuit(stores, day)
    room = steady(rails, loads, stores, day, trace, m, hours)
    if not _any_on(stores) or trace.counts[STATUS] != CONVERGED:
        return hours
    if start_up(rails, loads, stores, day, trace, m, hours):
        return hours
    mark_stops(rails, loads, stores, day, m, hours)
    record(rails, loads, stores, trace, hours)
    until = next_return(rails, loads, hours, end)
    until = fall_asleep(rails, loads, stores, trace, hours, until)
    until = wear_out(rails, loads, stores, trace, hours, until)
    if until <= hours:
        return hours
    for s in range(len(stores)):
        if _mean_moves(stores, s, max(rails[s].amps, 0.0)):
            until = min(until, hours + MEAN_STEP_H)
    then = _step(rails, loads, stores, day, trace, m, hours, until, room)
    wear(rails, loads, stores, then - hours)
    return then


@merged
def _mean_moves(stores: Records, s: int, amps: float) -> bool:
    """Whether the mean current of a store still moves, and matters."""
    store = stores[s]
    mean = store.mean_a
    if store.peukert == 1.0 or mean < 0.0 or max(mean, amps) <= store.rated_a:
        return False
    return bool(abs(mean - amps) > 0.02 * (mean + amps))


@merged
def _repeats(stores: Records) -> bool:
    """Whether all stores are as full as when the days last began anew; remembers how full."""
    same = True
    for s in range(len(stores)):
        same = same and abs(stores[s].charge - stores[s].at_wrap) < SAME_CHARGE
        stores[s].at_wrap = stores[s].charge
    return same


@merged
def _decided(loads: Records) -> bool:
    """Whether a load that decides how long it lasts has stopped: no other stops before it."""
    for i in range(len(loads)):  # noqa: SIM110
        if loads[i].counted and loads[i].stop_h < np.inf:
            return True
    return False


@inlined
def _watch(trace: Trace, moved: float) -> None:
    """Give up what takes too many steps, or stands still."""
    trace.clock[STEPS] += 1
    trace.clock[STUCK] = 0.0 if moved > INSTANT else trace.clock[STUCK] + 1
    if trace.counts[STATUS] != CONVERGED:
        return
    if trace.clock[STUCK] > MAX_STUCK:
        trace.counts[STATUS] = NO_PROGRESS
    elif trace.clock[STEPS] >= MAX_STEPS:
        trace.counts[STATUS] = OUT_OF_STEPS


@compiled
def _any_on(stores: Records) -> bool:
    """Whether something can still happen: a vehicle goes on, but only for what it feeds."""
    endless, waiting = False, False
    for s in range(len(stores)):
        store = stores[s]
        if not store.endless and not store.slept:
            back_later = store.why in (TOO_COLD, STORE_OVERLOADED)
            if store.on or back_later:
                return True
        endless = endless or bool(store.endless and not store.slept)
        waiting = waiting or bool(store.linked and not store.slept)
    return endless and (waiting or len(stores) == 1)


@merged
def _step(
    rails: Records,
    loads: Records,
    stores: Records,
    day: DayProfile,
    trace: Trace,
    m: int,
    hours: float,
    until: float,
    room_before: float,
) -> float:
    """One step from a steady state with so much room; gives the hours at its end."""
    for s in range(len(stores)):
        stores[s].before = stores[s].charge
    set_rates(rails, stores, 0.0)
    lead, gap = reach(stores, day, until - hours)
    first = stores[max(lead, 0)].rate
    dt = plan(stores, lead, gap, until - hours)
    far = room_before > 2.0 * FAR and starts_far(loads, 2.0 * FAR)
    if far and trace.counts[ROUGH] and _at_once(rails, loads, stores, day, trace, m, dt):
        end = min(hours + dt, until)
        record(rails, loads, stores, trace, end)
        return end
    holds, room = _holds_at(rails, loads, stores, day, 0.5)
    if not holds:
        # What does not hold in the middle does not at the end: the event lies before it.
        return _to_event(rails, loads, stores, day, trace, m, hours, dt)
    keep_middle(rails, loads, stores)
    set_rates(rails, stores, 0.5 * dt)
    lead, dt = mended(stores, lead, gap, dt, until - hours, first)
    dt = plan(stores, lead, gap, dt)
    nearing = 4.0 * (room_before - room)
    far = room > FAR and room > nearing and starts_far(loads, max(nearing, FAR))
    if lead < 0 and far and not len(trace.volts):
        # Far from any cut-out and hardly nearing it: the end holds if the middle does.
        for s in range(len(stores)):
            move(stores, s, 1.0)
        _count(rails, loads, stores, day, trace, m, dt)
        end = min(hours + dt, until)
        record(rails, loads, stores, trace, end)
        return end
    holds, _ = _holds_at(rails, loads, stores, day, 1.0)
    if not holds or not (far or starts_hold(rails, loads, stores)):
        return _to_event(rails, loads, stores, day, trace, m, hours, dt)
    if lead >= 0:
        # Time over charge by Simpson's rule: on a steep piece the middle alone is not enough.
        middle = stores[lead].rate
        set_rates(rails, stores, dt)
        last = stores[lead].rate
        if last * gap > 0.0:
            took = gap * (1.0 / first + 4.0 / middle + 1.0 / last) / 6.0
        else:
            # Full at its end: by the middle.
            took = gap / middle
        dt = took * stretched(stores, lead, took / dt)
    _count(rails, loads, stores, day, trace, m, dt)
    end = min(hours + dt, until)
    record(rails, loads, stores, trace, end)
    return end


@merged
def _at_once(
    rails: Records,
    loads: Records,
    stores: Records,
    day: DayProfile,
    trace: Trace,
    m: int,
    dt: float,
) -> bool:
    """Go a planned step of a draw by the currents at its begin; False where they may change."""
    for s in range(len(stores)):
        if stores[s].change != 0.0 and _tapers(rails, stores, s):
            return False
        move(stores, s, 1.0)
        stores[s].mid_emf = _moving_v(rails, stores, s)
    open_circuit(stores, day)
    for s in range(len(stores)):
        before = stores[s].mid_emf
        if abs(_moving_v(rails, stores, s) - before) > SAME_VOLTS * before:
            return False
    # Fuses wear by the currents of a step's middle.
    keep_middle(rails, loads, stores)
    _count(rails, loads, stores, day, trace, m, dt)
    return True


@inlined
def _moving_v(rails: Records, stores: Records, s: int) -> float:
    """Volts of a store as its charge moves: by its charging curve while it is charged. [V]"""
    return float(stores[s].charge_emf if rails[s].amps < 0.0 else stores[s].emf)


@merged
def _tapers(rails: Records, stores: Records, s: int) -> bool:
    """Whether a store takes less and less: held at its charger's volts, lead-acid, nearly full."""
    if rails[s].amps >= 0.0:
        return False
    store = stores[s]
    return bool(store.held_v > 0.0 or store.accepts_per_h > 0.0 or store.charge > store.taper)


@compiled
def _count(
    rails: Records,
    loads: Records,
    stores: Records,
    day: DayProfile,
    trace: Trace,
    m: int,
    dt: float,
) -> None:
    """Count the energy of a step, unless nobody asks: where only stops or charges are kept."""
    if not trace.counts[STOPS_ONLY] and (len(trace.volts) or not len(trace.hours)):
        account(rails, loads, stores, day, m, dt)
        return
    for s in range(len(stores)):
        if rails[s].state != OFF:
            mean_over(stores, s, rails[s].mid_amps, dt)


@compiled
def _holds_at(
    rails: Records, loads: Records, stores: Records, day: DayProfile, share: float
) -> tuple[bool, float]:
    """Settle a share of the way through a step; tells whether all still holds, with what room."""
    for s in range(len(stores)):
        move(stores, s, share)
    open_circuit(stores, day)
    if balance(rails, loads, stores) != SOLVED:
        return False, 0.0
    what, _, room = worst_miss(rails, loads, stores, False)
    return what == 0, room


@compiled
def _to_event(
    rails: Records,
    loads: Records,
    stores: Records,
    day: DayProfile,
    trace: Trace,
    m: int,
    hours: float,
    dt: float,
) -> float:
    """Go as far as everything holds, a hair beyond: the next steady state takes it off."""
    low, high = 0.0, 1.0
    for _ in range(ROUGH_HALVINGS if trace.counts[ROUGH] else HALVINGS):
        share = 0.5 * (low + high)
        holds, _ = _holds_at(rails, loads, stores, day, share)
        if holds and starts_hold(rails, loads, stores):
            low = share
        else:
            high = share
    _holds_at(rails, loads, stores, day, 0.5 * low)
    keep_middle(rails, loads, stores)
    set_rates(rails, stores, 0.5 * dt * low)
    took, most = dt * low, 0
    for s in range(len(stores)):
        if abs(stores[s].change) > abs(stores[most].change):
            most = s
    if stores[most].rate * stores[most].change > 0.0:
        took = low * stores[most].change / stores[most].rate
    _count(rails, loads, stores, day, trace, m, took)
    if len(trace.volts) and took > 0.0:
        # As it is just before something cuts out.
        _holds_at(rails, loads, stores, day, low)
        record(rails, loads, stores, trace, hours + took)
    for s in range(len(stores)):
        move(stores, s, high)
    return hours + took

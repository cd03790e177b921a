"""Starts: the moment in which something takes a multiple of its watts, and what that trips."""

from typing import Final

from graveljar.core.kernel.compiled import compiled, inlined, merged
from graveljar.core.kernel.limits import HAIR, tightest
from graveljar.core.kernel.link_balance import balance
from graveljar.core.kernel.operating_point import SOLVED, UNSETTLED
from graveljar.core.kernel.protection import trip, wait_for_start
from graveljar.core.kernel.records import (
    CONVERTER,
    INVERTER,
    LINEAR,
    OFF,
    STORE,
    DayProfile,
    Records,
)
from graveljar.core.kernel.trace import (
    LOAD_OUT,
    NOT_CONVERGED,
    OVERLOADED,
    STAGE_OUT,
    START_FAILED,
    STATUS,
    Trace,
)

# No operating point was found for a start: neither a fault nor none.
UNKNOWN_START: Final = -1


@compiled
def start_fault(rails: Records, loads: Records, stores: Records, i: int) -> tuple[int, int]:
    """What the start of a load trips; keeps how far it is from tripping anything.

    The other loads stay as they are. Leaves the volts and currents of the start behind.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)
    i : Index of the load, 0 to L - 1.

    Returns
    -------
    What and its index, as in `trace`; (0, 0) if everything holds.

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> start_fault(rails, loads, stores, 0)
    (0, 0)
    """
    watts = loads[i].watts
    loads[i].watts = watts + loads[i].factor * loads[i].jump
    failed = balance(rails, loads, stores)
    loads[i].watts = watts
    loads[i].start_room = -1.0
    if failed == UNSETTLED:
        return UNKNOWN_START, 0
    if failed != SOLVED:
        return _collapsed(rails, loads, i, failed)
    what, index, room = tightest(rails, loads, stores, True)
    loads[i].start_room = min(room, _room_to_collapse(rails, stores))
    if room >= -HAIR:
        return 0, 0
    if what == OVERLOADED and rails[index].kind in (CONVERTER, LINEAR):
        # It holds its amps: its output falls for a moment, and the motor does not start.
        return START_FAILED, i
    if what == LOAD_OUT and index == i:
        return START_FAILED, i
    return what, index


@merged
def _room_to_collapse(rails: Records, stores: Records) -> float:
    """The least share of a store's volts that is left above half of them, where they collapse."""
    least = 1.0
    for s in range(len(stores)):
        if rails[s].state != OFF:
            least = min(least, 2.0 * rails[s].volts / stores[s].emf - 1.0)
    return float(least)


@inlined
def _remember(rails: Records) -> None:
    for r in range(len(rails)):
        rails[r].before_v, rails[r].before_w = rails[r].volts, rails[r].want_w


@inlined
def _recall(rails: Records) -> None:
    """Go back to the volts before a start: from there the next balance is at hand."""
    for r in range(len(rails)):
        rails[r].volts, rails[r].want_w = rails[r].before_v, rails[r].before_w


@merged
def _collapsed(rails: Records, loads: Records, i: int, zone: int) -> tuple[int, int]:
    """The stage through which a start collapses the volts of a zone; else the load itself."""
    here = loads[i].rail
    while rails[here].kind != STORE:
        rail = rails[here]
        if rail.kind == INVERTER and rail.taken > rail.peak_w:
            # More than its surge, whatever becomes of the volts.
            return OVERLOADED, here
        if rail.kind in (CONVERTER, INVERTER) and rails[rail.parent].zone == zone:
            return STAGE_OUT, here
        here = rails[here].parent
    return START_FAILED, i


@compiled
def start_up(
    rails: Records,
    loads: Records,
    stores: Records,
    day: DayProfile,
    trace: Trace,
    m: int,
    hours: float,
) -> bool:
    """Start the loads that begin to run while everything else is running.

    What failed waits for its next start.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)
    day : The day that repeats.
    trace : Where points and events are kept.
    m : Index of the stretch of the day, 0 to M - 1.
    hours : Time since the start, >= 0. [h]

    Returns
    -------
    Whether a start tripped something.

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> start_up(rails, loads, stores, day, trace, 0, 0.0)
    False
    """
    tried = False
    for i in range(len(loads)):
        load = loads[i]
        if load.watts <= 0.0 or day.demand[m, i, 0] <= 0.0:
            load.started = 0
            continue
        if load.jump <= 0.0 or (load.started and not load.thermostat):
            continue
        if not tried:
            _remember(rails)
        tried = True
        what, index = start_fault(rails, loads, stores, i)
        if what == UNKNOWN_START:
            trace.counts[STATUS] = NOT_CONVERGED
            return False
        if not load.started or what:
            load.starts += 1
        load.started = 1
        if what:
            load.fails += 1
            trip(rails, loads, stores, trace, what, index, hours, i)
            wait_for_start(loads, i, hours)
            return True
        _recall(rails)
    if tried:
        balance(rails, loads, stores)
    return False


@inlined
def starts_far(loads: Records, room: float) -> bool:
    """Whether every load that may start at any moment last did so with more room than given.

    Parameters
    ----------
    loads : Records of the loads, shape (L,).
    room : Share of a limit. [1]

    Returns
    -------
    True if all of them did.

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> starts_far(loads, 0.02)
    True
    """
    for i in range(len(loads)):
        if loads[i].thermostat and loads[i].watts > 0.0 and loads[i].start_room <= room:
            return False
    return True


@compiled
def starts_hold(rails: Records, loads: Records, stores: Records) -> bool:
    """Whether every load that may start at any moment could start now.

    Leaves the running volts behind.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)

    Returns
    -------
    True if all of them could.

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> starts_hold(rails, loads, stores)
    True
    """
    tried, held = False, True
    for i in range(len(loads)):
        if loads[i].thermostat and loads[i].started and loads[i].watts > 0.0:
            if not tried:
                _remember(rails)
            tried = True
            what, _ = start_fault(rails, loads, stores, i)
            _recall(rails)
            if what:
                held = False
                break
    if tried:
        balance(rails, loads, stores)
    return held

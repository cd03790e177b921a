"""The trace of a run: points over time and events; and how a run is begun anew."""

from typing import Final, NamedTuple

import numpy as np

from graveljar.core.kernel.compiled import compiled, inlined
from graveljar.core.kernel.records import OFF, Floats, Ints, Records

# What happened, as kept with an event.
LOAD_OUT: Final = 1
STAGE_OUT: Final = 2
FLOOR: Final = 3
PROTECTION: Final = 4
LOAD_COLLAPSED: Final = 5
STAGE_COLLAPSED: Final = 6
LOAD_BACK: Final = 7
STAGE_BACK: Final = 8
STORE_BACK: Final = 9
SLEPT: Final = 10
FULL: Final = 11
# An inverter, converter or port carries more than it is rated for.
OVERLOADED: Final = 12
# The protection of a store opens for its current.
STORE_OVERLOADED: Final = 13
# The fuse before a stage, a load, or in a store's leads.
FUSE_OPENED: Final = 14
LOAD_FUSE_OPENED: Final = 15
STORE_FUSE_OPENED: Final = 16
# A load does not start: what feeds it cannot give that much for a moment.
START_FAILED: Final = 17
TOO_COLD: Final = 18
# Why a load stops without any event: its stage sleeps, its station charges, its vehicle is off.
ASLEEP_THEN: Final = 19
CHARGING_THEN: Final = 20
UNPLUGGED_THEN: Final = 21

# Latches of a device: out it restarts by itself, locked it waits for the loads to change; what
# was overloaded has tripped until a person resets it; a load that failed to start waits for its
# next start.
IN: Final = 0
OUT: Final = 1
LOCKED: Final = 2
TRIPPED: Final = 3
WAITS: Final = 4

LONG_AGO: Final = -1e9
MAX_EVENTS: Final = 1_000
MAX_POINTS: Final = 20_000
# Places in `counts`.
POINTS: Final = 0
EVENTS: Final = 1
STATUS: Final = 2
EVERY: Final = 3
SERIAL: Final = 4
PAUSES: Final = 5
STOPS_ONLY: Final = 6
ROUGH: Final = 7
GOES_ON: Final = 8
# Status of a run.
CONVERGED: Final = 0
NOT_CONVERGED: Final = 1
NO_PROGRESS: Final = 2
OUT_OF_STEPS: Final = 3
# Places in `clock`.
HOURS: Final = 0
MIDNIGHT: Final = 1
STRETCH: Final = 2
STEPS: Final = 3
STUCK: Final = 4


class Trace(NamedTuple):
    """Points over time and events, as far as there is room for them.

    `counts` : Points kept; events that happened, kept or not; status of the run; every so many-th
        point is kept; points that there were; 1 if the run pauses where there is no more room;
        1 if it ends with the first stop of a load that counts, or once its days repeat; 1 if it
        is one of many draws, for which less sharpness does; 1 if the next run goes on from where
        this one came to, as after a pause.
    `clock` : Hours, midnight [h], stretch, steps, steps without progress.
    `hours` [h], shape (N,); `charge` [1], (N, S); `volts` [V] and `amps` [A], (N, R);
    `drawn` by each load [A], (N, L); these three with N = 0 where only charges are kept.
    `events` : (hours, what, index, volts, charge, through the start of load), shape (E, 6).
    """

    counts: Ints
    clock: Floats
    hours: Floats
    charge: Floats
    volts: Floats
    amps: Floats
    drawn: Floats
    events: Floats


def new_trace(
    rails: int,
    loads: int,
    stores: int,
    *,
    kept: bool = True,
    stops_only: bool = False,
    charge_only: bool = False,
    rough: bool = False,
) -> Trace:
    """An empty trace with space for points and events, or for none of them.

    Parameters
    ----------
    rails, loads, stores : Numbers of rows, R, L and S, >= 0.
    kept : Whether points and events are kept at all.
    stops_only : Whether it ends with the first stop of a load that counts.
    charge_only : Whether of each point only its time and the charges are kept.
        With either no energy is counted.
    rough : Whether it is one of many draws: a step over which no store's volts move by more than
        a thousandth goes by the currents at its begin, and events are found less sharply.

    Returns
    -------
    The trace.

    Examples
    --------
    >>> new_trace(1, 1, 1, kept=False).hours.shape
    (0,)
    """
    points = MAX_POINTS if kept else 0
    whole = 0 if charge_only else points
    return Trace(
        np.array([0, 0, CONVERGED, 1, 0, 0, int(stops_only), int(rough), 0]),
        np.zeros(5),
        np.empty(points),
        np.empty((points, stores)),
        np.empty((whole, rails)),
        np.empty((whole, rails)),
        np.empty((whole, loads)),
        np.empty((MAX_EVENTS if kept else 0, 6)),
    )


@compiled
def begin(rails: Records, loads: Records, stores: Records, trace: Trace) -> None:
    """Reset the present state and all counters to the start of a run.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)
    trace : Where points and events are kept.

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> stores[0].charge = 0.3
    >>> begin(rails, loads, stores, trace)
    >>> float(stores[0].charge)
    1.0
    """
    trace.counts[POINTS], trace.counts[EVENTS], trace.counts[STATUS] = 0, 0, CONVERGED
    trace.counts[EVERY], trace.counts[SERIAL] = 1, 0
    trace.clock[:] = 0.0
    for r in range(len(rails)):
        rail = rails[r]
        rail.latch, rail.back_h, rail.volts = IN, LONG_AGO, 0.0
        rail.why, rail.why_by, rail.outs, rail.wear = 0, -1, 0, 0.0
        rail.cable, rail.idle, rail.conversion, rail.got = 0.0, 0.0, 0.0, 0.0
        rail.want_w = rail.most_w
        if rail.other >= 0:
            rail.passes, rail.parent = 0, rail.own_parent
            rail.store = rails[rail.own_parent].store
    for i in range(len(loads)):
        load = loads[i]
        load.latch, load.back_h, load.stop_h = IN, LONG_AGO, np.inf
        load.why, load.outs, load.wear, load.stop_why, load.stop_by = 0, 0, 0.0, 0, -1
        load.started, load.starts, load.fails, load.start_room = 0, 0, 0, np.inf
        load.used, load.waited, load.adapter, load.cable = 0.0, 0.0, 0.0, 0.0
        load.served_h, load.scheduled_h = 0.0, 0.0
    for s in range(len(stores)):
        store = stores[s]
        store.on, store.charge, store.stop_h = 1, store.begin, np.inf
        store.released, store.inside, store.rate_wh = 0.0, 0.0, 0.0
        store.closed, store.slept, store.fed_w, store.low_since = 0, 0, 0.0, np.inf
        store.why, store.why_by, store.wear = 0, -1, 0.0
        store.mean_a, store.seen_h, store.at_wrap = -1.0, 0.0, -1.0
        store.full = 1 if store.begin >= store.full_at else 0


@compiled
def record(rails: Records, loads: Records, stores: Records, trace: Trace, hours: float) -> None:
    """Keep a point; where the trace is full, every second one makes space.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)
    trace : Where points and events are kept.
    hours : Time since the start, >= 0. [h]

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> record(rails, loads, stores, trace, 0.0)
    >>> int(trace.counts[POINTS]), float(trace.drawn[0, 0])
    (1, 5.0)
    """
    most = len(trace.hours)
    if most == 0:
        return
    serial = trace.counts[SERIAL]
    trace.counts[SERIAL] += 1
    if serial % trace.counts[EVERY]:
        return
    if trace.counts[POINTS] == most:
        half = most // 2
        for n in range(half):
            _keep(rails, loads, stores, trace, 2 * n, n)
        trace.counts[POINTS] = half
        trace.counts[EVERY] *= 2
    n = trace.counts[POINTS]
    trace.hours[n] = hours
    trace.counts[POINTS] = n + 1
    for s in range(len(stores)):
        trace.charge[n, s] = stores[s].charge
    if not len(trace.volts):
        return
    for r in range(len(rails)):
        off = rails[r].state == OFF
        trace.volts[n, r] = 0.0 if off else rails[r].volts
        # Nothing flows at the joint of what passes the mains on.
        trace.amps[n, r] = 0.0 if off or rails[r].passes else rails[r].amps
    for i in range(len(loads)):
        trace.drawn[n, i] = loads[i].amps if loads[i].watts > 0.0 else 0.0


@inlined
def _keep(
    rails: Records, loads: Records, stores: Records, trace: Trace, old: int, new: int
) -> None:
    """Move a point to another place."""
    trace.hours[new] = trace.hours[old]
    for s in range(len(stores)):
        trace.charge[new, s] = trace.charge[old, s]
    if not len(trace.volts):
        return
    for r in range(len(rails)):
        trace.volts[new, r], trace.amps[new, r] = trace.volts[old, r], trace.amps[old, r]
    for i in range(len(loads)):
        trace.drawn[new, i] = trace.drawn[old, i]

"""The trace of a run: points over time and events; and how a run is begun anew."""

from typing import Final, NamedTuple

import numpy as np

from graveljar.core.engine.compiled import compiled
from graveljar.core.engine.net import Floats, Ints, Records

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

# Latches of a device.
IN: Final = 0
OUT: Final = 1
LOCKED: Final = 2

LONG_AGO: Final = -1e9
MOST_EVENTS: Final = 1_000
MOST_POINTS: Final = 20_000
# Places in `counts`.
POINTS: Final = 0
EVENTS: Final = 1
OUT_OF_STEPS: Final = 2


class Trace(NamedTuple):
    """Points over time and events, as far as there is room for them.

    `counts` : Points kept; events that happened, kept or not; 1 if the steps were used up.
    `hours` [h], shape (N,); `charge` [1], (N, S); `volts` [V] and `amps` [A], (N, R);
    `drawn` by each load [A], (N, L). `events` : (hours, what, index, volts, charge), shape (E, 5).
    """

    counts: Ints
    hours: Floats
    charge: Floats
    volts: Floats
    amps: Floats
    drawn: Floats
    events: Floats


def room(rails: int, loads: int, stores: int, *, kept: bool = True) -> Trace:
    """Room for a trace, or for none of it."""
    points = MOST_POINTS if kept else 0
    return Trace(
        np.zeros(3, dtype=np.int64),
        np.empty(points),
        np.empty((points, stores)),
        np.empty((points, rails)),
        np.empty((points, rails)),
        np.empty((points, loads)),
        np.empty((MOST_EVENTS if kept else 0, 5)),
    )


@compiled
def begin(rails: Records, loads: Records, stores: Records) -> None:
    """Set the present and all that is counted back to the beginning."""
    for r in range(len(rails)):
        rail = rails[r]
        rail.latch, rail.back_h, rail.volts = IN, LONG_AGO, 0.0
        rail.cable, rail.idle, rail.conversion, rail.got = 0.0, 0.0, 0.0, 0.0
        rail.want_w = rail.most_w
    for i in range(len(loads)):
        load = loads[i]
        load.latch, load.back_h, load.stop_h = IN, LONG_AGO, np.inf
        load.used, load.waited, load.adapter, load.cable = 0.0, 0.0, 0.0, 0.0
        load.served_h, load.wanted_h = 0.0, 0.0
    for s in range(len(stores)):
        store = stores[s]
        store.on, store.charge, store.stop_h = 1, store.begin, np.inf
        store.released, store.inside, store.rate_wh = 0.0, 0.0, 0.0
        store.closed, store.slept, store.fed_w, store.low_since = 0, 0, 0.0, np.inf
        store.full = 1 if store.begin >= 1.0 else 0

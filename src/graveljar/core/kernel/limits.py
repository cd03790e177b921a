"""What holds and what switches off: cut-outs, and the limits of what carries the current."""

from typing import Final

import numpy as np

from graveljar.core.kernel.compiled import compiled, inlined, merged
from graveljar.core.kernel.fuses import HOLDS, START_SHARE, UNKNOWN
from graveljar.core.kernel.operating_point import input_v, load_v
from graveljar.core.kernel.records import INVERTER, LIMIT_TOLERANCE, LINK, OFF, STORE, Records
from graveljar.core.kernel.trace import (
    FUSE_OPENED,
    LOAD_FUSE_OPENED,
    LOAD_OUT,
    OVERLOADED,
    PROTECTION,
    STAGE_OUT,
    STORE_FUSE_OPENED,
    STORE_OVERLOADED,
)

# Relative volts by which a cut-out must be missed to count.
HAIR: Final = 1e-9


@compiled
def worst_miss(
    rails: Records, loads: Records, stores: Records, at_start: bool
) -> tuple[int, int, float]:
    """The limit that is exceeded most.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)
    at_start : Whether the limits for the moment of a start count.

    Returns
    -------
    What and its index, as in `trace`, 0 and 0 if nothing is exceeded; margin to the tightest. [1]

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> what, index, room = worst_miss(rails, loads, stores, False)
    >>> what, bool(room > 0.0)
    (0, True)
    """
    what, index, room = tightest(rails, loads, stores, at_start)
    return (what, index, room) if room < -HAIR else (0, 0, room)


@compiled
def tightest(
    rails: Records, loads: Records, stores: Records, at_start: bool
) -> tuple[int, int, float]:
    """The limit with the smallest margin, as a share of the limit.

    A margin of volts above a cut-out, or of current that may still be carried: continuously, or
    for the moment of a start.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)
    at_start : Whether the limits for the moment of a start count.

    Returns
    -------
    What and its index, as in `trace`, and the margin, negative beyond the limit. [1]

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> rails[0].volts = 9.9
    >>> stores[0].low_v = 11.0
    >>> round(float(tightest(rails, loads, stores, False)[2]), 2)  # 9.9 V against 11 V
    -0.1
    """
    what, index, least = 0, 0, 1e9
    for r in range(len(rails)):
        rail = rails[r]
        if rail.state == OFF:
            continue
        if rail.kind == STORE:
            code, room = _room_of_store(rails, stores, r, at_start)
        else:
            code, room = _room_of_stage(rails, r, at_start)
        if room < least:
            what, index, least = code, r, room
    for i in range(len(loads)):
        load = loads[i]
        if load.watts <= 0.0:
            continue
        if load.cut_v > 0.0:
            room = (load_v(rails, loads, i) - load.cut_v) / load.cut_v
            if room < least:
                what, index, least = LOAD_OUT, i, room
        room = _room_of_fuse(load.amps, load.fuse_a, load.fuse_kind, at_start)
        if room < least:
            what, index, least = LOAD_FUSE_OPENED, i, room
    return what, index, least


@inlined
def _under(value: float, limit: float) -> float:
    """Room under a limit as a share of it; a hair above it is at it. [1]"""
    if limit == np.inf:
        return 1e9
    return (limit * (1.0 + LIMIT_TOLERANCE) - value) / limit if limit > 0.0 else -value


@inlined
def _room_of_fuse(amps: float, fuse_a: float, kind: int, at_start: bool) -> float:
    """A fuse whose times are known wears (see `march`); at a start it may open by its fast edge."""
    if fuse_a == np.inf or amps <= 0.0:
        return 1e9
    if kind == UNKNOWN:
        return 1e9 if at_start else _under(amps, HOLDS * fuse_a)
    return _under(amps, START_SHARE * fuse_a) if at_start else 1e9


@merged
def _room_of_store(rails: Records, stores: Records, r: int, at_start: bool) -> tuple[int, float]:
    store, amps = stores[rails[r].store], rails[r].amps
    code, least = STORE_OVERLOADED, 1e9
    if not store.only_links:
        # Else its links take no more than it gives (see `link_balance`).
        least = _under(amps, store.peak_a if at_start else store.limit_a)
    if store.low_v > 0.0:
        room = (rails[r].volts - store.low_v) / store.low_v
        if room < least:
            code, least = PROTECTION, room
    room = _room_of_fuse(amps, store.fuse_a, store.fuse_kind, at_start)
    return (STORE_FUSE_OPENED, room) if room < least else (code, least)


@merged
def _room_of_stage(rails: Records, r: int, at_start: bool) -> tuple[int, float]:
    rail = rails[r]
    code, least = STAGE_OUT, 1e9
    if rail.cut_v > 0.0:
        least = (input_v(rails, r) - rail.cut_v) / rail.cut_v
    if rail.kind == LINK:
        # What it takes is held to every limit on its way (see `feeding`).
        return code, least
    if rail.kind == INVERTER:
        # A surge is printed in watts, and so a start is told; what runs must be carried in VA.
        if at_start:
            room = _under(rail.taken, rail.peak_w)
        else:
            room = _under(max(rail.taken, rail.va), rail.limit_w)
    else:
        room = _under(rail.taken, rail.peak_a if at_start else rail.limit_a)
    if room < least:
        code, least = OVERLOADED, room
    room = _room_of_fuse(rail.amps, rail.fuse_a, rail.fuse_kind, at_start)
    return (FUSE_OPENED, room) if room < least else (code, least)

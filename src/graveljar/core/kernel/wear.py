"""Fuses of known times: worn by what they carry above their rating, until they open."""

from graveljar.core.kernel.compiled import compiled, inlined
from graveljar.core.kernel.fuses import BLADE, HOLDS, opens_in_h
from graveljar.core.kernel.protection import trip
from graveljar.core.kernel.records import LINK, OFF, STORE, Records
from graveljar.core.kernel.trace import (
    FUSE_OPENED,
    LOAD_FUSE_OPENED,
    STORE_FUSE_OPENED,
    Trace,
)

# Left to wear, less than which a fuse is worn out. [h]
INSTANT = 1e-11


@inlined
def _overload(amps: float, fuse_a: float, kind: int) -> float:
    """Share of its rating that a fuse of known times carries above what it holds; else 0."""
    if kind != BLADE or amps <= HOLDS * fuse_a:
        return 0.0
    return amps / fuse_a


@compiled
def wear_out(
    rails: Records, loads: Records, stores: Records, trace: Trace, hours: float, until: float
) -> float:
    """Open the fuses that are worn out.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)
    trace : Where points and events are kept.
    hours : Time since the start, >= 0. [h]
    until : End of the step, > `hours`. [h]

    Returns
    -------
    When the next one opens, at most `until`. [h]

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> wear_out(rails, loads, stores, trace, 0.0, 24.0)
    24.0
    """
    for r in range(len(rails)):
        if rails[r].state == OFF or rails[r].kind == LINK:
            continue
        s = rails[r].store
        of_store = rails[r].kind == STORE
        fuse_a = stores[s].fuse_a if of_store else rails[r].fuse_a
        kind = stores[s].fuse_kind if of_store else rails[r].fuse_kind
        share = _overload(rails[r].amps, fuse_a, kind)
        if share > 0.0:
            worn = stores[s].wear if of_store else rails[r].wear
            left_h = (1.0 - worn) * opens_in_h(share)
            if left_h <= INSTANT:
                what = STORE_FUSE_OPENED if of_store else FUSE_OPENED
                trip(rails, loads, stores, trace, what, r, hours, -1)
                return hours
            until = min(until, hours + left_h)
    for i in range(len(loads)):
        share = _overload(loads[i].amps, loads[i].fuse_a, loads[i].fuse_kind)
        if share > 0.0 and loads[i].watts > 0.0:
            left_h = (1.0 - loads[i].wear) * opens_in_h(share)
            if left_h <= INSTANT:
                trip(rails, loads, stores, trace, LOAD_FUSE_OPENED, i, hours, -1)
                return hours
            until = min(until, hours + left_h)
    return until


@compiled
def wear(rails: Records, loads: Records, stores: Records, dt: float) -> None:
    """Wear overloaded fuses by a step; those within their rating cool down.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)
    dt : Length of the step, > 0. [h]

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> stores[0].fuse_kind, stores[0].fuse_a, rails[0].mid_amps = BLADE, 2.5, 5.0
    >>> wear(rails, loads, stores, opens_in_h(2.0) / 2)  # half the time that 5 A are carried
    >>> round(float(stores[0].wear), 6)
    0.5
    """
    for r in range(len(rails)):
        if rails[r].kind == STORE:
            s = rails[r].store
            share = _overload(rails[r].mid_amps, stores[s].fuse_a, stores[s].fuse_kind)
            stores[s].wear = stores[s].wear + dt / opens_in_h(share) if share > 0.0 else 0.0
        else:
            share = _overload(rails[r].mid_amps, rails[r].fuse_a, rails[r].fuse_kind)
            rails[r].wear = rails[r].wear + dt / opens_in_h(share) if share > 0.0 else 0.0
    for i in range(len(loads)):
        amps = loads[i].mid_amps if loads[i].watts > 0.0 else 0.0
        share = _overload(amps, loads[i].fuse_a, loads[i].fuse_kind)
        loads[i].wear = loads[i].wear + dt / opens_in_h(share) if share > 0.0 else 0.0

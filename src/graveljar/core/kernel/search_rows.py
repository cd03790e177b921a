"""Whole systems as rows: the same loads on other batteries, inverters and converters."""

import numpy as np

from graveljar.core.kernel.compiled import compiled_with_arrays, inlined, merged
from graveljar.core.kernel.records import LINK, DayProfile, Flags, Floats, Ints, Records
from graveljar.core.kernel.timestep import run
from graveljar.core.kernel.trace import CONVERGED, STATUS, Trace

# Strings more than the fewest that do are run too: what they would add. Ours.
MORE = 2


@compiled_with_arrays
def fewest_strings(
    rails: Records,
    loads: Records,
    stores: Records,
    day: DayProfile,
    trace: Trace,
    joined: int,
    aged: Flags,
    from_strings: Ints,
    most: int,
    counted: Flags,
    goal_h: float,
    horizon_h: float,
    capacity: float,
    demand: float,
) -> tuple[Ints, Floats, int]:
    """Fewest batteries in parallel that serve the counted loads to the goal, for each row.

    Parameters
    ----------
    rails : Records of the rails of each row, shape (N, R)
    loads : Records of the loads, shape (L,)
    stores : Records of the stores, `joined` of one battery in parallel. Shape (S,)
    day : The days that repeat.
    trace : For one run at a time.
    joined : The store of which several go in parallel.
    aged : Stores that the margins are put on. Shape (S,)
    from_strings : Where to begin for each row, shape (N,)
    most : Where to give up, >= 1.
    counted : Loads that must be served. Shape (L,)
    goal_h, horizon_h : How long they must last, and how long to simulate, > 0. [h]
    capacity, demand : Margins: factors on the Ah and on the watts, > 0. [1]

    Returns
    -------
    Fewest in parallel, 0 where none is enough, shape (N,); hours until the first counted load is
    not served with those and with up to `MORE` more, without margins, infinite if it always is
    [h], shape (N, MORE + 1); and the runs made.

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> strings, hours, _ = fewest_strings(
    ...     rails[None].copy(), loads, stores, day, trace, 0, np.array([True]), np.array([1]), 8,
    ...     np.array([True]), 30.0, 100.0, 1.0, 1.0,
    ... )  # 5 A for 30 h: 150 Ah
    >>> strings, hours.round(6)
    (array([2]), array([[40., 60., 80.]]))
    """
    rows = len(rails)
    fewest = np.zeros(rows, dtype=np.int64)
    hours = np.full((rows, MORE + 1), np.nan)
    base = stores.copy()
    rails_more = rails.copy()
    for n in range(rows):
        for r in range(len(rails[n])):
            _widen(rails_more[n], r, demand)
    runs = 0
    for n in range(rows):
        for strings in range(from_strings[n], most + 1):
            # A margin on use is one on energy: what carries the current has the same margin.
            _join(stores, base, joined, aged, strings, capacity, demand)
            _ask(loads, demand)
            run(rails_more[n], loads, stores, day, goal_h, trace)
            runs += 1
            if _served(loads, counted, trace) >= goal_h:
                fewest[n] = strings
                break
        if not fewest[n]:
            continue
        for more in range(MORE + 1):
            if fewest[n] + more > most:
                break
            if more and hours[n, more - 1] == np.inf:
                # What always lasts does with more.
                hours[n, more] = np.inf
                continue
            _join(stores, base, joined, aged, fewest[n] + more, 1.0, 1.0)
            _ask(loads, 1.0)
            run(rails[n], loads, stores, day, horizon_h, trace)
            runs += 1
            hours[n, more] = _served(loads, counted, trace)
    return fewest, hours, runs


@merged
def _widen(rails: Records, r: int, by: float) -> None:
    """Widen the limits of a row by the margin on use; a charger gives no more for it."""
    rail = rails[r]
    if rail.kind == LINK:
        return
    rail.limit_a, rail.limit_w = rail.limit_a * by, rail.limit_w * by
    rail.peak_a, rail.peak_w, rail.fuse_a = rail.peak_a * by, rail.peak_w * by, rail.fuse_a * by


@inlined
def _ask(loads: Records, demand: float) -> None:
    for i in range(len(loads)):
        loads[i].factor = demand


@inlined
def _join(
    stores: Records,
    base: Records,
    joined: int,
    aged: Flags,
    strings: int,
    capacity: float,
    use: float,
) -> None:
    """Join so many strings, aged; their limits widened by the margin on use."""
    for s in range(len(stores)):
        if aged[s]:
            many = strings if s == joined else 1
            stores[s].ah = base[s].ah * many * capacity
            stores[s].rated_a = base[s].rated_a * many * capacity
            stores[s].limit_a = base[s].limit_a * many * use
            stores[s].peak_a = base[s].peak_a * many * use
            stores[s].fuse_a = base[s].fuse_a * many * use
            stores[s].own_ohm = base[s].own_ohm / many
            stores[s].leads_ohm = base[s].leads_ohm / many


@inlined
def _served(loads: Records, counted: Flags, trace: Trace) -> float:
    """Hours until a counted load is first not served; none where the run found no answer."""
    if trace.counts[STATUS] != CONVERGED:
        return 0.0
    hours = np.inf
    for i in range(len(loads)):
        if counted[i]:
            hours = min(hours, loads[i].stop_h)
    return hours

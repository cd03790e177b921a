"""Whole systems as rows: the same loads on other batteries, inverters and converters."""

import numpy as np

from graveljar.core.kernel.compiled import compiled, inlined
from graveljar.core.kernel.records import DayProfile, Flags, Floats, Ints, Records
from graveljar.core.kernel.timestep import run
from graveljar.core.kernel.trace import CONVERGED, STATUS, Trace

# Strings more than the fewest that do are run too: what they would add. Ours.
MORE = 2


@compiled
def fewest_strings(
    rails: Records,
    loads: Records,
    stores: Records,
    day: DayProfile,
    trace: Trace,
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
    stores : Records of the stores, the first of one battery in parallel. Shape (S,)
    day : The days that repeat.
    trace : For one run at a time.
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
    ...     rails[None].copy(), loads, stores, day, trace, np.array([1]), 8, np.array([True]),
    ...     30.0, 100.0, 1.0, 1.0,
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
            _join(stores, base, strings, capacity, demand)
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
            _join(stores, base, fewest[n] + more, 1.0, 1.0)
            _ask(loads, 1.0)
            run(rails[n], loads, stores, day, horizon_h, trace)
            runs += 1
            hours[n, more] = _served(loads, counted, trace)
    return fewest, hours, runs


@inlined
def _widen(rails: Records, r: int, by: float) -> None:
    """Widen the limits of a row by the margin on use."""
    rail = rails[r]
    rail.limit_a, rail.limit_w = rail.limit_a * by, rail.limit_w * by
    rail.peak_a, rail.peak_w, rail.fuse_a = rail.peak_a * by, rail.peak_w * by, rail.fuse_a * by


@inlined
def _ask(loads: Records, demand: float) -> None:
    for i in range(len(loads)):
        loads[i].factor = demand


@inlined
def _join(stores: Records, base: Records, strings: int, capacity: float, use: float) -> None:
    """Join so many strings, aged; their limits widened by the margin on use."""
    stores[0].ah = base[0].ah * strings * capacity
    stores[0].rated_a = base[0].rated_a * strings * capacity
    stores[0].limit_a = base[0].limit_a * strings * use
    stores[0].peak_a = base[0].peak_a * strings * use
    stores[0].fuse_a = base[0].fuse_a * strings * use
    stores[0].own_ohm = base[0].own_ohm / strings
    stores[0].leads_ohm = base[0].leads_ohm / strings


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

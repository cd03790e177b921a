"""Many rows through the same kernel: the draws of uncertain inputs; and a day at rest."""

import numpy as np

from graveljar.core.kernel.accounting import account, keep_middle
from graveljar.core.kernel.compiled import compiled, compiled_with_arrays, inlined
from graveljar.core.kernel.conditions import open_circuit, weather
from graveljar.core.kernel.link_balance import balance
from graveljar.core.kernel.operating_point import SOLVED
from graveljar.core.kernel.records import (
    LINEAR,
    LINK,
    OFF,
    STORE,
    DayProfile,
    Flags,
    Floats,
    Records,
)
from graveljar.core.kernel.states import arrange
from graveljar.core.kernel.timestep import go_on, run
from graveljar.core.kernel.trace import CONVERGED, POINTS, STATUS, Trace, begin


@compiled_with_arrays
def run_many(
    rails: Records,
    loads: Records,
    stores: Records,
    day: DayProfile,
    horizon_h: float,
    trace: Trace,
    on_loss: Floats,
    on_demand: Floats,
    on_capacity: Floats,
) -> Floats:
    """Run a design once for each row of factors.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)
    day : The day that repeats.
    horizon_h : How long to run at most, > 0. [h]
    trace : For one run at a time.
    on_loss, on_demand, on_capacity : Factors on the losses of the stages, the demand of the
        loads and the capacity of the stores. [1], shapes (N, R), (N, L), (N, S)

    Returns
    -------
    First hours at which a load was not served; infinite if it always was, or was until the first
    that counts was not; NaN where the run found no answer. [h], shape (N, L)

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> one = np.ones((1, 1))
    >>> run_many(rails, loads, stores, day, 100.0, trace, one, 2 * one, one)  # 100 Ah at 10 A
    array([[10.]])
    """
    rows = len(on_loss)
    stops = np.empty((rows, len(loads)))
    base_rails, base_stores = rails.copy(), stores.copy()
    for n in range(rows):
        _vary(rails, base_rails, on_loss[n])
        _vary_stores(stores, base_stores, on_capacity[n])
        _vary_loads(loads, on_demand[n])
        run(rails, loads, stores, day, horizon_h, trace)
        solved = trace.counts[STATUS] == CONVERGED
        for i in range(len(loads)):
            stops[n, i] = loads[i].stop_h if solved else np.nan
    return stops


@compiled_with_arrays
def charge_many(
    rails: Records,
    loads: Records,
    stores: Records,
    day: DayProfile,
    at_h: Floats,
    trace: Trace,
    on_loss: Floats,
    on_demand: Floats,
    on_capacity: Floats,
) -> Floats:
    """Charge over time of a design that is run once for each row of factors.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)
    day : The day that repeats.
    at_h : Times at which the charge is read, rising; the runs end with the last. [h], shape (T,)
    trace : With space for the points of one run.
    on_loss, on_demand, on_capacity : As in `run_many`. [1], shapes (N, R), (N, L), (N, S)

    Returns
    -------
    Charge of each store, as it stays once all has stopped; NaN where the run found no answer.
    [1], shape (N, S, T)

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> one, at_h = np.ones((1, 1)), np.array([10.0])
    >>> charge_many(rails, loads, stores, day, at_h, trace, one, one, one)  # 50 of 100 Ah
    array([[[0.5]]])
    """
    rows = len(on_loss)
    charges = np.empty((rows, len(stores), len(at_h)))
    base_rails, base_stores = rails.copy(), stores.copy()
    for n in range(rows):
        _vary(rails, base_rails, on_loss[n])
        _vary_stores(stores, base_stores, on_capacity[n])
        _vary_loads(loads, on_demand[n])
        run(rails, loads, stores, day, at_h[-1], trace)
        kept = trace.counts[POINTS]
        solved = trace.counts[STATUS] == CONVERGED
        for s in range(len(stores)):
            if not solved:
                charges[n, s, :] = np.nan
            elif kept and not stores[s].endless:
                charges[n, s] = np.interp(at_h, trace.hours[:kept], trace.charge[:kept, s])
            else:
                # It never runs down, or began at the reserve or below: nothing ever ran.
                charges[n, s, :] = stores[s].charge
    return charges


@compiled
def run_by_hours(
    rails: Records,
    loads: Records,
    stores: Records,
    day: DayProfile,
    trace: Trace,
    rails_h: Records,
    loads_h: Records,
    stores_h: Records,
) -> None:
    """Run a design hour by hour, and keep all records as they are after each.

    Ends early where the run finds no answer: the status is in `trace.counts`.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)
    day : The day that repeats.
    trace : Without points.
    rails_h, loads_h, stores_h : Written to. Shapes (H, R), (H, L), (H, S)

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> after = [np.zeros((2, len(x)), x.dtype) for x in (rails, loads, stores)]
    >>> run_by_hours(rails, loads, stores, day, trace, *after)  # 100 Ah at 5 A
    >>> after[2]["charge"][:, 0].round(6).tolist()
    [0.95, 0.9]
    """
    for hour in range(len(rails_h)):
        if hour == 0:
            run(rails, loads, stores, day, 1.0, trace)
        else:
            go_on(rails, loads, stores, day, hour + 1.0, trace)
        if trace.counts[STATUS] != CONVERGED:
            return
        for r in range(len(rails)):
            rails_h[hour, r] = rails[r]
        for i in range(len(loads)):
            loads_h[hour, i] = loads[i]
        for s in range(len(stores)):
            stores_h[hour, s] = stores[s]


@inlined
def _vary(rails: Records, base: Records, on_loss: Floats) -> None:
    for r in range(len(rails)):
        kind = rails[r].kind
        if kind != STORE and kind != LINEAR and kind != LINK:  # noqa: PLR1714
            by = on_loss[r]
            rails[r].p0 = base[r].p0 * by
            rails[r].k1 = 1.0 + (base[r].k1 - 1.0) * by
            rails[r].k2 = base[r].k2 * by


@inlined
def _vary_loads(loads: Records, on_demand: Floats) -> None:
    for i in range(len(loads)):
        loads[i].factor = on_demand[i]


@inlined
def _vary_stores(stores: Records, base: Records, on_capacity: Floats) -> None:
    for s in range(len(stores)):
        stores[s].ah = base[s].ah * on_capacity[s]
        stores[s].rated_a = base[s].rated_a * on_capacity[s]


@compiled_with_arrays
def full_demand_day(
    rails: Records, loads: Records, stores: Records, day: DayProfile, charge: Floats, trace: Trace
) -> tuple[Floats, Flags, bool]:
    """Count a day with every load served, the stores held at a charge and nothing cutting out.

    Where so much power has no operating point, it is counted without the resistances.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)
    day : The day that repeats.
    charge : Of each store. [1], shape (S,)
    trace : Of one run.

    Returns
    -------
    Power at the terminals in each stretch, whether each rail is powered, and whether all of it
    was solved. [W], shape (M, S); shape (M, R)

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> given, powered, solved = full_demand_day(rails, loads, stores, day, np.array([0.5]), trace)
    >>> given.round(2)  # 5 A at (13.0936 - 0.005) V
    array([[65.44]])
    """
    begin(rails, loads, stores, trace)
    given = np.zeros((len(day.edges) - 1, len(stores)))
    powered = np.zeros((len(day.edges) - 1, len(rails)), dtype=np.bool_)
    solved = True
    for s in range(len(stores)):
        stores[s].charge = charge[s]
    open_circuit(stores, day)
    base_rails, base_loads = rails.copy(), loads.copy()
    for m in range(len(day.edges) - 1):
        weather(stores, day, m)
        arrange(rails, loads, stores, day, m, True)
        if balance(rails, loads, stores) != SOLVED:
            _lossless(rails, loads, stores)
            solved = solved and balance(rails, loads, stores) == SOLVED
        keep_middle(rails, loads, stores)
        account(rails, loads, stores, day, m, day.edges[m + 1] - day.edges[m])
        for r in range(len(rails)):
            rails[r].ohm, rails[r].droop_ohm = base_rails[r].ohm, base_rails[r].droop_ohm
        for i in range(len(loads)):
            loads[i].ohm = base_loads[i].ohm
        for s in range(len(stores)):
            given[m, s] = rails[s].volts * rails[s].amps
        for r in range(len(rails)):
            powered[m, r] = rails[r].state != OFF
    return given, powered, solved


@inlined
def _lossless(rails: Records, loads: Records, stores: Records) -> None:
    for r in range(len(rails)):
        rails[r].ohm, rails[r].droop_ohm, rails[r].volts = 0.0, 0.0, 0.0
    for i in range(len(loads)):
        loads[i].ohm = 0.0
    for s in range(len(stores)):
        stores[s].ohm = 0.0

"""Many rows through the same kernel: the draws of uncertain inputs; and a day at rest."""

import numpy as np

from graveljar.core.kernel.accounting import account, keep_middle
from graveljar.core.kernel.compiled import compiled, compiled_with_arrays, inlined, merged
from graveljar.core.kernel.conditions import open_circuit, weather
from graveljar.core.kernel.link_balance import balance
from graveljar.core.kernel.operating_point import SOLVED
from graveljar.core.kernel.records import (
    LINEAR,
    LINK,
    OFF,
    STORE,
    Bytes,
    DayProfile,
    Flags,
    Floats,
    Records,
)
from graveljar.core.kernel.states import arrange
from graveljar.core.kernel.timestep import run
from graveljar.core.kernel.trace import CONVERGED, GOES_ON, POINTS, STATUS, Trace, begin


@compiled_with_arrays
def run_many(
    rails: Records,
    loads: Records,
    stores: Records,
    day: DayProfile,
    horizon_h: float,
    at_h: Floats,
    trace: Trace,
    on_loss: Floats,
    on_demand: Floats,
    on_capacity: Floats,
) -> tuple[Floats, Floats]:
    """Run a design once for each row of factors.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)
    day : The day that repeats.
    horizon_h : How long to run at most, > 0. [h]
    at_h : Times at which the charge is read, rising; may be none. [h], shape (T,)
    trace : For one run at a time; with space for its points where charges are read.
    on_loss, on_demand, on_capacity : Factors on the losses of the stages, the demand of the
        loads and the capacity of the stores. [1], shapes (N, R), (N, L), (N, S)

    Returns
    -------
    First hours at which a load was not served; infinite if it always was, or was until the first
    that counts was not [h], shape (N, L); and the charge of each store, as it stays once all has
    stopped [1], shape (N, S, T). NaN where the run found no answer.

    Examples
    --------
    >>> from graveljar.core.kernel.trace import new_trace
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, _ = arrays()
    >>> one, at_h = np.ones((1, 1)), np.array([5.0])
    >>> trace = new_trace(1, 1, 1, charge_only=True)
    >>> run_many(rails, loads, stores, day, 100.0, at_h, trace, one, 2 * one, one)  # 10 of 100 Ah
    (array([[10.]]), array([[[0.5]]]))
    """
    rows = len(on_loss)
    stops = np.empty((rows, len(loads)))
    charges = np.empty((rows, len(stores), len(at_h)))
    base_rails, base_stores = rails.copy(), stores.copy()
    for n in range(rows):
        _vary(rails, base_rails, on_loss[n])
        _vary_stores(stores, base_stores, on_capacity[n])
        _vary_loads(loads, on_demand[n])
        run(rails, loads, stores, day, horizon_h, trace)
        solved = trace.counts[STATUS] == CONVERGED
        for i in range(len(loads)):
            stops[n, i] = loads[i].stop_h if solved else np.nan
        kept = trace.counts[POINTS]
        for s in range(len(stores)):
            if not solved:
                charges[n, s, :] = np.nan
            elif kept and len(at_h) and not stores[s].endless:
                charges[n, s] = np.interp(at_h, trace.hours[:kept], trace.charge[:kept, s])
            else:
                # It never runs down, or began at the reserve or below: nothing ever ran.
                charges[n, s, :] = stores[s].charge
    return stops, charges


def as_bytes(records: Records) -> Bytes:
    """The same memory as bytes, without copying.

    Parameters
    ----------
    records : Records of any kind, as they lie in memory. Shape (..., N)

    Returns
    -------
    Their bytes, B in each, shape (..., N, B)

    Examples
    --------
    >>> as_bytes(np.zeros((2, 3), np.dtype([("watts", float)]))).shape
    (2, 3, 8)
    """
    return records.view(np.uint8).reshape(*records.shape, records.dtype.itemsize)


@compiled
def run_by_hours(
    rails: Records,
    loads: Records,
    stores: Records,
    day: DayProfile,
    trace: Trace,
    records: tuple[Bytes, Bytes, Bytes],
    records_h: tuple[Bytes, Bytes, Bytes],
) -> None:
    """Run a design hour by hour, and keep all records as they are after each.

    Ends early where the run finds no answer: the status is in `trace.counts`.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)
    day : The day that repeats.
    trace : Without points.
    records : The same rails, loads and stores as bytes, which compile in a tenth of the time that
        copying records takes. B bytes, shapes (R, B), (L, B), (S, B)
    records_h : Written to. Shapes (H, R, B), (H, L, B), (H, S, B)

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> records = rails, loads, stores
    >>> after = [np.zeros((2, len(x)), x.dtype) for x in records]
    >>> now, kept = tuple(as_bytes(x) for x in records), tuple(as_bytes(x) for x in after)
    >>> run_by_hours(rails, loads, stores, day, trace, now, kept)  # 100 Ah at 5 A
    >>> after[2]["charge"][:, 0].round(6).tolist()
    [0.95, 0.9]
    """
    for hour in range(len(records_h[0])):
        trace.counts[GOES_ON] = 1 if hour else 0
        run(rails, loads, stores, day, hour + 1.0, trace)
        if trace.counts[STATUS] != CONVERGED:
            return
        for now, kept in zip(records, records_h):  # noqa: B905
            _keep(now, kept, hour)


@inlined
def _keep(now: Bytes, kept: Bytes, hour: int) -> None:
    for n in range(now.shape[0]):
        for byte in range(now.shape[1]):
            kept[hour, n, byte] = now[n, byte]


@merged
def _vary(rails: Records, base: Records, on_loss: Floats) -> None:
    for r in range(len(rails)):
        kind = rails[r].kind
        if kind != STORE and kind != LINEAR and kind != LINK:  # noqa: PLR1714
            by = on_loss[r]
            rails[r].p0 = base[r].p0 * by
            rails[r].k1 = 1.0 + (base[r].k1 - 1.0) * by
            rails[r].k2 = base[r].k2 * by


@merged
def _vary_loads(loads: Records, on_demand: Floats) -> None:
    for i in range(len(loads)):
        loads[i].factor = on_demand[i]


@merged
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


@merged
def _lossless(rails: Records, loads: Records, stores: Records) -> None:
    for r in range(len(rails)):
        rails[r].ohm, rails[r].droop_ohm, rails[r].volts = 0.0, 0.0, 0.0
    for i in range(len(loads)):
        loads[i].ohm = 0.0
    for s in range(len(stores)):
        stores[s].ohm = 0.0

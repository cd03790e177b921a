"""Many rows through the same kernel: the draws of uncertain inputs; and a day at rest."""

import numpy as np

from graveljar.core.engine.account import account, keep_middle
from graveljar.core.engine.compiled import compiled
from graveljar.core.engine.ledger import Trace, begin
from graveljar.core.engine.march import open_circuit, run
from graveljar.core.engine.net import LINEAR, OFF, STORE, Day, Flags, Floats, Records
from graveljar.core.engine.switches import steady, unlock


@compiled
def run_many(
    rails: Records,
    loads: Records,
    stores: Records,
    day: Day,
    horizon_h: float,
    trace: Trace,
    on_loss: Floats,
    on_demand: Floats,
    on_capacity: Floats,
) -> Floats:
    """Run a design once for each row of factors; gives when each load stops.

    Parameters
    ----------
    on_loss, on_demand, on_capacity : Factors on the losses of the stages, the demand of the
        loads and the capacity of the stores. [1], shapes (N, R), (N, L), (N, S)

    Returns
    -------
    First hours at which a load was not served; infinite if it always was. [h], shape (N, L)
    """
    rows = len(on_loss)
    stops = np.empty((rows, len(loads)))
    base_rails, base_stores = rails.copy(), stores.copy()
    for n in range(rows):
        for r in range(len(rails)):
            if rails[r].kind != STORE and rails[r].kind != LINEAR:
                by = on_loss[n, r]
                rails[r].p0 = base_rails[r].p0 * by
                rails[r].k1 = 1.0 + (base_rails[r].k1 - 1.0) * by
                rails[r].k2 = base_rails[r].k2 * by
        for i in range(len(loads)):
            loads[i].factor = on_demand[n, i]
        for s in range(len(stores)):
            stores[s].ah = base_stores[s].ah * on_capacity[n, s]
            stores[s].rated_a = base_stores[s].rated_a * on_capacity[n, s]
        run(rails, loads, stores, day, horizon_h, trace)
        for i in range(len(loads)):
            stops[n, i] = loads[i].stop_h
    return stops


@compiled
def live_a_day(
    rails: Records, loads: Records, stores: Records, day: Day, charge: Floats, trace: Trace
) -> tuple[Floats, Flags]:
    """Count one day with the stores held at a charge.

    Parameters
    ----------
    charge : Of each store. [1], shape (S,)

    Returns
    -------
    Power at the terminals in each stretch, and whether each rail is powered.
    [W], shape (M, S); shape (M, R)
    """
    begin(rails, loads, stores)
    given = np.zeros((len(day.edges) - 1, len(stores)))
    powered = np.zeros((len(day.edges) - 1, len(rails)), dtype=np.bool_)
    for s in range(len(stores)):
        stores[s].charge = charge[s]
    open_circuit(stores, day)
    for m in range(len(day.edges) - 1):
        unlock(rails, loads, 0.0)
        steady(rails, loads, stores, day, trace, m, 0.0)
        keep_middle(rails, loads)
        account(rails, loads, stores, day, m, day.edges[m + 1] - day.edges[m])
        for s in range(len(stores)):
            given[m, s] = rails[s].volts * rails[s].amps
        for r in range(len(rails)):
            powered[m, r] = rails[r].state != OFF
    return given, powered

"""Starts through the voltage dip they make: below which charge the worst one trips something."""

from dataclasses import dataclass

import numpy as np

from graveljar.core.analysis.peak_demand import Demand, rail_watts
from graveljar.core.components.load import one_start_w, one_w
from graveljar.core.errors import NotSolved
from graveljar.core.kernel import records as n
from graveljar.core.kernel.conditions import open_circuit, weather
from graveljar.core.kernel.starting import UNKNOWN_START, start_fault
from graveljar.core.kernel.trace import (
    LOAD_FUSE_OPENED,
    LOAD_OUT,
    OVERLOADED,
    START_FAILED,
    STORE_OVERLOADED,
)
from graveljar.core.model import Load

HALVINGS = 24
LOADS_TRIP = (LOAD_OUT, LOAD_FUSE_OPENED, START_FAILED)
OVERLOADS = (OVERLOADED, STORE_OVERLOADED)


@dataclass(frozen=True)
class Dip:
    """The highest start of a store through its dip, at the coldest of the day.

    load : What starts.
    trips : Id of what cuts out first; of the load itself where it does not start.
    below : Charge below which it does; 1 if even when full. [1]
    full_v, amps : At the terminals of the full store, while it starts. [V], [A]
    overloaded : It cuts out for its watts or amps, whatever the volts.
    """

    load: Load
    trips: str | None
    below: float | None
    full_v: float
    amps: float
    overloaded: bool = False


def dip_of(demand: Demand, store: str) -> Dip | None:
    """The voltage dip of a store's highest start.

    Parameters
    ----------
    demand : The highest demand.
    store : Id of the store.

    Returns
    -------
    The dip; None if nothing starts above its running power.

    Raises
    ------
    NotSolved : no operating point is found.

    Examples
    --------
    >>> from graveljar.core.analysis.peak_demand import demand_of
    >>> from graveljar.core.lowering.example import lowered
    >>> dip_of(demand_of(lowered(), {}, {}), "bank") is None  # a lamp takes no more at its start
    True
    """
    lowered = demand.lowered
    start = demand.asked[store].start
    if start is None or one_start_w(start.load, demand.lowered.assumed) <= one_w(start.load):
        return None
    if not any(start.load in running for running in demand.sets):
        return None
    probe = _Probe(demand, store, start.load)
    full = probe.at(1.0)
    rail = probe.rails[lowered.place[store]]
    full_v, amps = float(rail["volts"]), float(rail["amps"])
    floor = float(probe.stores[lowered.place[store]]["least"])
    if full is not None:
        return Dip(start.load, full, 1.0, full_v, amps, probe.overloaded)
    at_floor = probe.at(floor)
    if at_floor is None:
        return Dip(start.load, None, None, full_v, amps)
    low, high = floor, 1.0
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        found = probe.at(middle)
        if found is None:
            high = middle
        else:
            low, at_floor = middle, found
    return Dip(start.load, at_floor, high, full_v, amps, probe.overloaded)


def _running(demand: Demand, starting: Load) -> dict[str, float]:
    """Watts of all that runs with the start at its worst, `starting` too."""
    lowered = demand.lowered
    sets = [running for running in demand.sets if starting in running]
    running = max(sets, key=lambda loads: sum(rail_watts(lowered, load) for load in loads))
    return {load.id: rail_watts(lowered, load) for load in running}


class _Probe:
    """A start, with all that may run with it, at any charge of one store."""

    def __init__(self, demand: Demand, store: str, starting: Load) -> None:
        self.lowered = lowered = demand.lowered
        self.rails, self.loads, self.stores = lowered.fresh_records()
        self.place = lowered.place[store]
        coldest = int(np.argmax(lowered.day.cold_ohm[:, self.place]))
        weather(self.stores, lowered.day, coldest)
        self.stores["charge"] = 1.0
        self.stores["on"] = 1
        self.overloaded = False
        states: list[int] = []
        columns = (self.rails[x].tolist() for x in ("parent", "blocked", "kind"))
        for parent, blocked, kind in zip(*columns, strict=True):
            alive = parent < 0 or states[parent] == n.ON
            states.append(n.ON if alive and not blocked and kind != n.LINK else n.OFF)
        self.rails["state"] = states
        watts = _running(demand, starting)
        self.loads["watts"] = [
            watts.get(load.id, 0.0) if states[rail] == n.ON else 0.0
            for load, rail in zip(lowered.loads, self.loads["rail"].tolist(), strict=True)
        ]
        self.starting = [load.id for load in lowered.loads].index(starting.id)
        # On top of all of them running at full watts, whatever their duty.
        more_w = one_start_w(starting, lowered.assumed) - one_w(starting)
        scale = watts[starting.id] / (one_w(starting) * starting.count)
        self.loads[self.starting]["jump"] = more_w * scale

    def at(self, charge: float) -> str | None:
        """What cuts out at a charge; None if all holds.

        Raises
        ------
        NotSolved : the volts do not settle.
        """
        self.stores[self.place]["charge"] = charge
        open_circuit(self.stores, self.lowered.day)
        self.rails["volts"] = 0.0
        what, index = start_fault(self.rails, self.loads, self.stores, self.starting)
        if what == UNKNOWN_START:
            raise NotSolved("No stable voltages were found for this network while a load starts.")
        if not what:
            return None
        self.overloaded = what in OVERLOADS
        if what in LOADS_TRIP:
            return self.lowered.loads[index].id
        return self.lowered.names[index]

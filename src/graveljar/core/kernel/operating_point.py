"""The operating point: backward/forward sweeps over the rails until volts and currents agree.

Each sweep gathers currents and their slopes from the loads to the stores, then takes volts
back outward: Newton's method on a tree. From the highest volts possible it falls on the
operating point from above and cannot step over it; where there is none, it says so.
"""

from typing import Any, Final

from graveljar.core.kernel.branch import NONE, constant_power, drawn, load_current, own_draw
from graveljar.core.kernel.compiled import compiled, inlined, merged
from graveljar.core.kernel.conditions import SOFT_C
from graveljar.core.kernel.records import (
    ASLEEP,
    CONVERTER,
    FEED,
    INVERTER,
    LINEAR,
    LINK,
    OFF,
    STORE,
    Records,
)

MAX_SWEEPS: Final = 80
# Volts that change by less than this share have settled: Newton squares what is left.
SETTLED: Final = 1e-9
SOLVED: Final = -1
# Volts that still change after all sweeps: no collapse, and no answer.
UNSETTLED: Final = -2


@compiled
def settle(rails: Records, loads: Records, stores: Records) -> int:
    """Find the volts of all rails and the currents of all joints.

    Reads the watts of the loads (0 if off), the states of the rails and the open-circuit
    volts of the stores; writes volts and amps. Amps of a store are those out of
    it; of a load on an AC rail, its watts over the rail's volts.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)

    Returns
    -------
    SOLVED, the zone whose volts have collapsed, or UNSETTLED: it did not converge.

    Notes
    -----
    Newton's method on the tree: decision 0006.

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> settle(rails, loads, stores) == SOLVED
    True
    >>> float(rails[0].amps)
    5.0
    """
    # From where it stood last it is a step or two; what fails so is tried from above.
    if _sweep(rails, loads, stores) == SOLVED:
        return SOLVED
    _from_above(rails, stores)
    return _sweep(rails, loads, stores)


@merged
def _from_above(rails: Records, stores: Records) -> None:
    for r in range(len(rails)):
        rails[r].volts = _source_v(rails, stores, r)


@inlined
def _source_v(rails: Records, stores: Records, r: int) -> float:
    """Volts of a rail with nothing drawn from it."""
    kind = rails[r].kind
    if kind == STORE:
        return float(stores[rails[r].store].emf)
    if kind == FEED:
        return float(rails[rails[r].parent].volts)
    return float(rails[r].set_v)


@compiled
def _sweep(rails: Records, loads: Records, stores: Records) -> int:
    count = len(rails)
    # Links have no volts of their own.
    while rails[count - 1].kind == LINK:
        count -= 1
    for _ in range(MAX_SWEEPS):
        failed = _inward(rails, loads, stores)
        if failed != SOLVED:
            return failed
        change = 0.0
        for r in range(count):
            if rails[r].state == OFF:
                continue
            new = _new_volts(rails, stores, r)
            if new == NONE:
                return int(rails[r].zone)
            moved = abs(new - rails[r].volts) / new
            rails[r].volts = new
            change = max(change, moved)
        if change < SETTLED:
            return SOLVED
    return UNSETTLED


@merged
def _inward(rails: Records, loads: Records, stores: Records) -> int:
    """Gather currents and slopes from the outermost rails to the stores."""
    count = len(rails)
    for s in range(len(stores)):
        stores[s].fed_w = 0.0
    for r in range(count):
        rails[r].taken = 0.0
        rails[r].va = 0.0
        rails[r].slope = 0.0
        rails[r].amps = 0.0
        if rails[r].volts <= 0.0:
            # Off when last seen.
            rails[r].volts = _source_v(rails, stores, r)
    for r in range(count - 1, -1, -1):
        if rails[r].state == OFF:
            continue
        if not _add_loads(rails, loads, r):
            return int(rails[r].zone)
        if rails[r].kind == STORE:
            _add_own(rails, stores, r)
        elif rails[r].kind == LINK:
            _add_link(rails, stores, r)
        elif not _add_input(rails, r):
            return int(rails[rails[r].parent].zone)
    return SOLVED


@merged
def _add_loads(rails: Records, loads: Records, r: int) -> bool:
    volts = rails[r].volts
    for i in range(rails[r].first, rails[r].last):
        watts = loads[i].watts
        loads[i].amps = 0.0
        if watts <= 0.0:
            continue
        if rails[r].kind == INVERTER:
            rails[r].taken += watts
            rails[r].va += watts * loads[i].va
            loads[i].amps = watts / rails[r].set_v
            continue
        load = loads[i]
        current, answers = load_current(load.draw, watts, load.nominal_v, load.ohm, volts)
        if current == NONE:
            return False
        loads[i].amps = current
        rails[r].taken += current
        rails[r].slope += answers
    return True


@merged
def _add_input(rails: Records, r: int) -> bool:
    """Add what a stage takes to its parent's rail."""
    rail, here = rails[r], rails[r]
    there = rails[rail.parent]
    if rail.kind == FEED:
        # Norton's equivalent of all behind it, seen through the joint.
        across = 1.0 + rail.ohm * here.slope
        if across <= 0.0:
            return False
        end_v = (there.volts - rail.ohm * (here.taken - here.slope * here.volts)) / across
        current = here.taken + here.slope * (end_v - here.volts)
        answers = here.slope / across
    elif rail.kind == LINEAR:
        # What goes out goes in; the rest is heat.
        own = rails[r].p0 / there.volts
        current = here.taken + own
        answers = -own / there.volts
    elif here.passes:
        # What arrives goes on as it is.
        current, answers = constant_power(here.taken, 0.0, there.volts)
    else:
        power = rail.sleep_w
        if here.state != ASLEEP:
            given = here.taken * here.volts if rail.kind == CONVERTER else here.taken
            power = drawn(rail, given)
        current, answers = constant_power(power, rail.ohm, there.volts)
        if current == NONE:
            return False
    here.amps = current
    there.taken += current
    there.slope += answers
    return True


@merged
def _add_link(rails: Records, stores: Records, r: int) -> None:
    """Add what a link takes: its watts, or its most amps where they are less."""
    rail = rails[r]
    there = rails[rail.parent]
    if there.kind == INVERTER:
        current, answers = rail.want_w / there.set_v, 0.0
        there.taken += rail.want_w
        there.va += rail.want_w
    else:
        current, answers = constant_power(rail.want_w, rail.ohm, there.volts)
        if current == NONE or current > rail.limit_a:
            current, answers = rail.limit_a, 0.0
        there.taken += current
        there.slope += answers
    rail.amps = current
    # On AC no joint is counted.
    arrives = there.volts if there.kind == INVERTER else there.volts - current * rail.ohm
    stores[rail.to].fed_w += rail.give * max(arrives * current - rail.p0, 0.0)


@merged
def _add_own(rails: Records, stores: Records, r: int) -> None:
    """What a store gives: all that is taken and its own idle draw, less what it is fed."""
    rail, store = rails[r], stores[rails[r].store]
    own_w = (own_draw(stores, rail.store, store.fed_w) if store.awake else 0.0) - store.fed_w
    if own_w != 0.0:
        current = own_w / rail.volts
        rail.taken += current
        rail.slope -= current / rail.volts
    rail.amps = rail.taken


@merged
def _new_volts(rails: Records, stores: Records, r: int) -> float:
    """Volts of a rail from its source and what is drawn, by the slopes at the last ones."""
    rail, here = rails[r], rails[r]
    source = _source_v(rails, stores, r)
    if rail.kind == STORE:
        store = stores[rail.store]
        if store.held_v > 0.0:
            return float(store.held_v)
        new = _behind(source, store.ohm, here)
        amps = here.taken + here.slope * (new - here.volts)
        if store.usual_v <= 0.0 or new == NONE or amps >= 0.0:
            return new
        # Charged: on one of the two pieces of how its volts rise.
        new = _behind(source, store.soft_ohm, here)
        amps = here.taken + here.slope * (new - here.volts)
        if new == NONE or amps >= -SOFT_C * store.ah:
            return new
        return _behind(store.charge_emf, store.charge_ohm, here)
    return _behind(source, rail.ohm if rail.kind == FEED else rail.droop_ohm, here)


@inlined
def _behind(source: float, ohm: float, here: Any) -> float:
    """Volts of a rail behind a resistance, by the slopes at the last ones."""
    if ohm == 0.0:
        return source
    across = 1.0 + ohm * here.slope
    if across <= 1e-9:
        return NONE
    new = (source - ohm * (here.taken - here.slope * here.volts)) / across
    return new if new > 0.0 else NONE


@inlined
def input_v(rails: Records, r: int) -> float:
    """Volts that arrive at a stage.

    Parameters
    ----------
    rails : Records of the rails, shape (R,).
    r : Index of the rail that it makes, 0 to R - 1.

    Returns
    -------
    Volts. [V]

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> from graveljar.demo import demo_designs
    >>> rails, loads, stores, day, trace = arrays(demo_designs()["set-building-trailer"])
    >>> bool(48.0 < input_v(rails, 1) < rails[0].volts)
    True
    """
    rail = rails[r]
    if rails[rail.parent].kind == INVERTER or rail.passes:
        return float(rails[rail.parent].volts)
    return float(rails[rail.parent].volts - rails[r].amps * rail.ohm)


@inlined
def load_v(rails: Records, loads: Records, i: int) -> float:
    """Volts that arrive at a load.

    Parameters
    ----------
    rails, loads : Records of the network. Shapes (R,), (L,)
    i : Index of the load, 0 to L - 1.

    Returns
    -------
    Volts. [V]

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> round(load_v(rails, loads, 0), 4)  # 13.3924 V less 5 A x 1 mOhm
    13.3874
    """
    r = loads[i].rail
    if rails[r].kind == INVERTER:
        return float(rails[r].volts)
    return float(rails[r].volts - loads[i].amps * loads[i].ohm)

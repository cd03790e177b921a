"""What is on at present, from what is latched, plugged in, asked and asleep."""

from graveljar.core.kernel.compiled import compiled, inlined, merged
from graveljar.core.kernel.link_balance import begin_feeding
from graveljar.core.kernel.records import ASLEEP, LINK, OFF, ON, STORE, DayProfile, Records
from graveljar.core.kernel.trace import IN, TRIPPED


@compiled
def arrange(
    rails: Records, loads: Records, stores: Records, day: DayProfile, m: int, wanted: bool
) -> None:
    """Set states and watts in a stretch of the day from what is tripped, asked and asleep.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)
    day : The day that repeats.
    m : Index of the stretch of the day, 0 to M - 1.
    wanted : If true, nothing sleeps while a load behind it should run.

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> arrange(rails, loads, stores, day, 0, False)
    >>> float(loads[0].watts)
    60.0
    """
    for s in range(len(stores)):
        stores[s].closed, stores[s].awake = 0, stores[s].on
    _set_states(rails, stores, day, m)
    if _close(rails, stores):
        _set_states(rails, stores, day, m)
    _ask(rails, loads, stores, day, m)
    for r in range(len(rails)):
        rail = rails[r]
        if rail.kind == STORE or rail.state == OFF:
            continue
        if rails[rail.parent].state != ON or (rail.with_loads and not rail.runs):
            rail.state = OFF
        elif rail.asked < rail.sleep_at_w and not rail.passes and not (wanted and rail.runs):
            rail.state = ASLEEP
    for i in range(len(loads)):
        if rails[loads[i].rail].state != ON:
            loads[i].watts = 0.0
    begin_feeding(rails, stores)


@inlined
def gives(rails: Records, stores: Records, r: int) -> bool:
    """Whether a rail has volts for its loads: a store that is fed may have its own outlets off.

    Parameters
    ----------
    rails, stores : Records of the network. Shapes (R,), (S,)
    r : Index of the rail, 0 to R - 1.

    Returns
    -------
    True if it has.

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> bool(gives(rails, stores, 0))
    True
    """
    if rails[r].state != ON:
        return False
    if rails[r].kind != STORE:
        return True
    store = stores[rails[r].store]
    return bool(store.on and not store.closed)


@compiled
def _set_states(rails: Records, stores: Records, day: DayProfile, m: int) -> None:
    for r in range(len(rails)):
        rail = rails[r]
        rail.runs, rail.asked = 0, 0.0
        if rail.other >= 0:
            # A transfer switch: the mains goes before the battery.
            rail.passes = 1 if rails[rail.other].state == ON else 0
            rail.parent = rail.other if rail.passes else rail.own_parent
            rail.store = rails[rail.parent].store
        if not day.plugged[m, r]:
            on = False
        elif rail.kind == STORE:
            store = stores[rail.store]
            on = store.on or (store.linked and not store.slept)
        else:
            # What cut out for its battery's volts still passes the mains on.
            works = rail.latch == IN or (rail.passes and rail.latch != TRIPPED)
            on = not rail.blocked and works and gives(rails, stores, rail.parent)
            if rail.kind == LINK and rails[rail.to].state != ON:
                on = False
        rail.state = ON if on else OFF


@merged
def _close(rails: Records, stores: Records) -> bool:
    """Switch off the outlets of stations that do not pass through what they are fed."""
    any_did = False
    for r in range(len(rails)):
        if rails[r].kind == LINK and rails[r].state == ON and stores[rails[r].to].no_pass:
            stores[rails[r].to].closed = 1
            any_did = True
    return any_did


@compiled
def _ask(rails: Records, loads: Records, stores: Records, day: DayProfile, m: int) -> None:
    """Set what each load asks of its rail, and which rails have something running behind them."""
    for i in range(len(loads)):
        load, rail = loads[i], rails[loads[i].rail]
        load.watts = 0.0
        if load.latch == IN and gives(rails, stores, load.rail):
            load.watts = load.factor * (day.demand[m, i, 0] + day.demand[m, i, 1])
            rail.asked += load.watts
            if day.demand[m, i, 0] > 0.0:
                rail.runs = 1
    for r in range(len(rails) - 1, 0, -1):
        rail = rails[r]
        if rail.kind == STORE:
            continue
        if rail.kind == LINK and rail.state == ON:
            rail.runs = 1
            rails[rail.parent].asked += rail.most_w
        if rail.runs:
            rails[rail.parent].runs = 1

"""Links in balance: each takes the most that its input, its source and all between them allow."""

from typing import Final

from graveljar.core.engine.compiled import compiled, inlined
from graveljar.core.engine.net import (
    BY_CONVERTER,
    BY_FULL,
    BY_FUSE,
    BY_INPUT,
    BY_SOURCE,
    BY_TAPER,
    BY_TOTAL,
    BY_VOLTS,
    CONVERTER,
    FREE,
    INVERTER,
    LINK,
    ON,
    STORE,
    Records,
)
from graveljar.core.engine.point import SOLVED, input_v, settle

MOST_PASSES: Final = 40
MOST_TRIES: Final = 60
# Watts that change by less than this share are found; limits are met to within it from below.
FOUND: Final = 1e-10
# Share of its charging power a store still takes just before it is full. Ours.
LAST_SHARE: Final = 0.1


@inlined
def begin_feeding(rails: Records, stores: Records) -> None:
    """Let each link that is on want all its input takes; see who is awake."""
    for s in range(len(stores)):
        stores[s].awake = stores[s].on
    for r in range(len(rails)):
        if rails[r].kind != LINK:
            continue
        rails[r].want_w, rails[r].binds = 0.0, FREE
        if rails[r].state == ON:
            rails[r].want_w, rails[r].binds = rails[r].most_w, rails[r].first_binds
            stores[rails[r].to].awake = 1


@compiled
def balance(rails: Records, loads: Records, stores: Records) -> int:
    """Settle with every link at its most; gives SOLVED or the zone that fails, as `settle`.

    Links stand in an order in which those behind a store come before those that feed it.
    """
    count = len(rails)
    if rails[count - 1].kind != LINK:
        return settle(rails, loads, stores)
    for _ in range(MOST_PASSES):
        failed = settle(rails, loads, stores)
        moved = False
        for r in range(count):
            if rails[r].kind == LINK and rails[r].state == ON:
                before = rails[r].want_w
                failed = _feed(rails, loads, stores, r, failed)
                if abs(rails[r].want_w - before) > FOUND * rails[r].most_w:
                    moved = True
        if failed != SOLVED or not moved:
            return failed
    return failed


@inlined
def _feed(rails: Records, loads: Records, stores: Records, r: int, failed: int) -> int:
    """Find what one link may take with the others as they are; settled when it is done."""
    upper, binds = _upper(rails, stores, r)
    if failed == SOLVED and rails[r].want_w == upper:
        over, _ = _excess(rails, stores, r)
        if over <= 0.0:
            rails[r].binds = _named(rails, r, binds)
            return failed
    held, held_by = rails[r].want_w, rails[r].binds
    rails[r].want_w = upper
    failed = settle(rails, loads, stores)
    over, why = _excess(rails, stores, r)
    if failed == SOLVED and over <= 0.0:
        rails[r].binds = _named(rails, r, binds)
        return failed
    if failed != SOLVED:
        over, why = 1.0, BY_VOLTS
    # Regula falsi with the end that stays halved (Illinois), the lower end always allowed.
    low, high, f_low, f_high = 0.0, upper, -1.0, over
    guess = held if held_by in (BY_CONVERTER, BY_FUSE, BY_SOURCE) and held < upper else -1.0
    side = 0
    for _ in range(MOST_TRIES):
        if guess <= low or guess >= high:
            guess = low + (high - low) * f_low / (f_low - f_high) if side else 0.5 * (low + high)
        rails[r].want_w = guess
        failed = settle(rails, loads, stores)
        if failed == SOLVED:
            over, why_now = _excess(rails, stores, r)
        else:
            over, why_now = 1.0, BY_VOLTS
        if over > 0.0:
            high, f_high, why = guess, over, why_now
            f_low = 0.5 * f_low if side == 1 else f_low
            side = 1
        else:
            low, f_low = guess, min(over, -1e-15)
            f_high = 0.5 * f_high if side == -1 else f_high
            side = -1
            if over > -FOUND:
                break
        if high - low <= FOUND * upper:
            break
        guess = -1.0
    rails[r].want_w, rails[r].binds = low, why
    return settle(rails, loads, stores)


@inlined
def _named(rails: Records, r: int, binds: int) -> int:
    """What binds a link that takes its most: its amps, if they are reached, or its watts."""
    if rails[r].amps >= rails[r].limit_a * (1.0 - FOUND):
        return int(rails[r].first_binds)
    return binds


@inlined
def _upper(rails: Records, stores: Records, r: int) -> tuple[float, int]:
    """The most a link's input takes: its watts, all inputs' together, what the store wants."""
    store = stores[rails[r].to]
    extra, others = 0.0, 0.0
    for k in range(len(rails)):
        if rails[k].kind == INVERTER and rails[k].parent == rails[r].to and rails[k].state == ON:
            extra += rails[k].taken
        if k != r and rails[k].kind == LINK and rails[k].to == rails[r].to:
            others += rails[k].amps * input_v(rails, k)
    if not rails[r].bypass:
        extra = 0.0
    most, binds = rails[r].most_w, BY_INPUT
    total = max(store.most_in_w - others, 0.0)
    if total < most:
        most, binds = total, BY_TOTAL
    most += extra
    if store.charge > store.taper:
        here = rails[rails[r].to]
        mine = rails[r].amps * input_v(rails, r) * rails[r].give
        # All it has to give but for what this link brings; and what its cells take.
        needs = here.volts * here.taken + mine
        full = store.charge >= 1.0 - 1e-9
        if not full:
            late = (store.charge - store.taper) / (1.0 - store.taper)
            needs += store.most_in_w * rails[r].give * (1.0 - (1.0 - LAST_SHARE) * late)
        wants = max(needs / rails[r].give, 0.0)
        if wants < most:
            most, binds = wants, BY_FULL if full else BY_TAPER
    return most, binds


@inlined
def _excess(rails: Records, stores: Records, r: int) -> tuple[float, int]:
    """By how much a link's way exceeds what it may carry, as a share; and what is exceeded."""
    most, why = -1.0, FREE
    here = r
    while rails[here].kind != STORE:
        over = rails[here].amps / rails[here].fuse_a - 1.0
        if over > most:
            most, why = over, BY_FUSE
        here = rails[here].parent
        if rails[here].kind == CONVERTER:
            over = rails[here].taken / rails[here].limit_a - 1.0
            if over > most:
                most, why = over, BY_CONVERTER
    over = rails[here].amps / stores[rails[here].store].limit_a - 1.0
    if over > most:
        most, why = over, BY_SOURCE
    return most, why

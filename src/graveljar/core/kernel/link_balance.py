"""Links in balance: each takes the most that its input, its source and all between them allow."""

import math
from typing import Any, Final

import numpy as np

from graveljar.core.kernel.compiled import compiled, inlined, merged
from graveljar.core.kernel.conditions import SOFT_C
from graveljar.core.kernel.operating_point import SOLVED, UNSETTLED, input_v, settle
from graveljar.core.kernel.records import (
    BY_CONVERTER,
    BY_FROST,
    BY_FULL,
    BY_FUSE,
    BY_INPUT,
    BY_MODE,
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

MAX_PASSES: Final = 40
MAX_TRIES: Final = 60
# Watts that change by less than this share are found; limits are met to within it from below.
FOUND: Final = 1e-10
# A search that ends with a wider gap has not found it.
FOUND_ENOUGH: Final = 1e-6
# Share of its charging power a station still takes just before it is full: half of it was seen at
# a displayed 100 %; common practice.
LAST_SHARE: Final = 1.0 / 3.0
# A store short of full by less is full; one that was full is charged anew from this on. [1]
FULL_HAIR: Final = 1e-9
TOPPED: Final = 1e-4
# A bank without any resistance counts as having so much. [Ohm]
MIN_OHM: Final = 1e-6
# Share by which loads may take less at the volts of a charger than at the bank's own: a bound on
# what their cables lose. [1]
HELD_SAVES: Final = 0.3


@compiled
def begin_feeding(rails: Records, stores: Records) -> None:
    """Let each link that is on draw all that its input takes; a store that is fed is awake.

    Parameters
    ----------
    rails, stores : Records of the network. Shapes (R,), (S,)

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> from graveljar.demo import demo_designs
    >>> rails, loads, stores, day, trace = arrays(demo_designs()["ticket-booth"])
    >>> rails[-1].state = ON
    >>> begin_feeding(rails, stores)
    >>> bool(rails[-1].want_w == rails[-1].most_w)
    True
    """
    for r in range(len(rails)):
        if rails[r].kind != LINK:
            continue
        if rails[r].state != ON:
            rails[r].want_w, rails[r].binds = 0.0, FREE
            continue
        stores[rails[r].to].awake = 1
        # What it took last is not far from what it may take now.
        if rails[r].want_w <= 0.0:
            rails[r].want_w, rails[r].binds = rails[r].most_w, rails[r].first_binds


@compiled
def balance(rails: Records, loads: Records, stores: Records) -> int:
    """Find the operating point with every link at its limit.

    Links are ordered so that those behind a store come before those that feed it.

    Parameters
    ----------
    rails, loads, stores : Records of the network, changed in place. Shapes (R,), (L,), (S,)

    Returns
    -------
    SOLVED, the zone whose volts have collapsed, or UNSETTLED, as `settle`.

    Examples
    --------
    >>> from graveljar.core.lowering.example import arrays
    >>> rails, loads, stores, day, trace = arrays()
    >>> balance(rails, loads, stores) == SOLVED
    True
    """
    count = len(rails)
    if rails[count - 1].kind != LINK:
        return settle(rails, loads, stores)
    for s in range(len(stores)):
        _note_held(rails, stores, s)
    failed = settle(rails, loads, stores)
    for _ in range(MAX_PASSES):
        moved = False
        for r in range(count):
            if rails[r].kind == LINK and rails[r].state == ON:
                before = rails[r].want_w
                failed = _feed(rails, loads, stores, r, failed)
                if abs(rails[r].want_w - before) > FOUND * rails[r].most_w:
                    moved = True
        if failed != SOLVED or not moved:
            return failed
    return UNSETTLED


@inlined
def _note_held(rails: Records, stores: Records, s: int) -> None:
    """Set the volts at which a bank is held by those of its chargers that do; 0 if none does."""
    volts, r = 0.0, len(rails) - 1
    while rails[r].kind == LINK:
        if rails[r].to == s and rails[r].holds:
            if rails[r].state == ON:
                volts = max(volts, _hold_v(rails[r], stores[s]))
            else:
                rails[r].holds = 0
        r -= 1
    stores[s].held_v = volts


@inlined
def _hold_v(rail: Any, store: Any) -> float:
    """Volts that a charger holds: its own; those at rest of a bank that is full. [V]"""
    return float(store.emf if _is_full(store) else rail.hold_v)


@inlined
def _is_full(store: Any) -> bool:
    """Whether no charge goes into a bank: it is full, kept so, or in frost."""
    hair = TOPPED if store.full else FULL_HAIR
    return bool(store.frozen or store.charge >= store.full_at - hair)


@compiled
def _feed(rails: Records, loads: Records, stores: Records, r: int, failed: int) -> int:
    """Find what one link may take with the others as they are; settled when it is done."""
    if stores[rails[r].to].usual_v > 0.0:
        failed = _try_to_hold(rails, loads, stores, r, failed)
        if failed == UNSETTLED or rails[r].holds:
            return failed
    upper, binds = _upper(rails, stores, r)
    held, held_by = rails[r].want_w, rails[r].binds
    if failed != SOLVED or abs(held - upper) > FOUND * rails[r].most_w:
        rails[r].want_w = upper
        failed = settle(rails, loads, stores)
    over, why = _excess(rails, stores, r, failed)
    if over <= 0.0:
        # What binds it at its most: its amps, if they are reached, or its watts.
        by_amps = rails[r].amps >= rails[r].limit_a * (1.0 - FOUND)
        rails[r].binds = rails[r].first_binds if by_amps else binds
        return failed
    rails[r].want_w, guess = upper, 0.5 * upper
    if held_by in (BY_CONVERTER, BY_FUSE, BY_SOURCE) and 0.0 < held < upper:
        # From where it stood last it is not far.
        guess = held
    return _search(rails, loads, stores, r, guess, over, why)


@merged
def _try_to_hold(rails: Records, loads: Records, stores: Records, r: int, failed: int) -> int:
    """Let a charger hold its volts, if what that takes is within all limits; settled then.

    With a load of constant watts there may be lower volts that balance too: not these count, for
    a charger comes from above.
    """
    s = rails[r].to
    volts, want_w = _hold_v(rails[r], stores[s]), rails[r].want_w
    if stores[s].held_v != volts or failed != SOLVED:
        if failed == SOLVED and not rails[r].holds:
            # Far from it: what loads take at higher volts is not so much less.
            others_w = _others_w(rails, r)
            least_w = (1.0 - HELD_SAVES) * others_w if others_w > 0.0 else others_w
            if not _can_hold(rails, stores, r, least_w):
                return failed
        stores[s].held_v = volts
        failed = settle(rails, loads, stores)
    if failed == SOLVED:
        others_w = _others_w(rails, r)
        needs_w = _into_w(rails, stores, r) + others_w
        if needs_w >= 0.0 and _can_hold(rails, stores, r, others_w):
            full = BY_FROST if stores[s].frozen else BY_FULL
            rails[r].holds, rails[r].binds = 1, full if _is_full(stores[s]) else BY_TAPER
            rails[r].want_w = rails[r].p0 + needs_w / rails[r].give
            if abs(rails[r].want_w - want_w) > FOUND * rails[r].most_w:
                failed = settle(rails, loads, stores)
            if failed == SOLVED and _excess(rails, stores, r, failed)[0] <= 0.0:
                return failed
    rails[r].holds, rails[r].want_w = 0, want_w
    _note_held(rails, stores, s)
    return settle(rails, loads, stores)


@inlined
def _into_w(rails: Records, stores: Records, r: int) -> float:
    """What the cells of a bank take at the volts that a charger holds. [W]"""
    store = stores[rails[r].to]
    if _is_full(store):
        return 0.0
    return float(rails[r].hold_v * _bank_amps(store, rails[r].hold_v))


@inlined
def _can_hold(rails: Records, stores: Records, r: int, others_w: float) -> bool:
    """Whether a charger's amps, its input and its source allow it to hold its volts."""
    rail = rails[r]
    needs_w = rail.p0 + (_into_w(rails, stores, r) + others_w) / rail.give
    amps = _own_amps(rails, r)
    most_w = rail.p0 + amps * _hold_v(rail, stores[rail.to]) / rail.give
    return bool(needs_w <= min(most_w, rail.most_w, _of_source(rails, stores, r)))


@inlined
def _others_w(rails: Records, r: int) -> float:
    """What all else takes at the terminals of the bank that a charger fills, or brings. [W]"""
    rail, here = rails[r], rails[rails[r].to]
    mine = rail.give * max(rail.amps * input_v(rails, r) - rail.p0, 0.0)
    return float(here.volts * here.taken + mine)


@inlined
def _own_amps(rails: Records, r: int) -> float:
    """The most amps of a charger: its own, less what another in the same box gives. [A]"""
    k, most_a = rails[r].shares, float(rails[r].charge_a)
    if k < 0 or rails[k].state != ON:
        return most_a
    given_w = rails[k].give * max(rails[k].amps * input_v(rails, k) - rails[k].p0, 0.0)
    bank_v = rails[rails[r].to].volts
    return max(most_a - given_w / bank_v, 0.0) if bank_v > 0.0 else most_a


@compiled
def _search(
    rails: Records, loads: Records, stores: Records, r: int, guess: float, f_high: float, why: int
) -> int:
    """The most watts of a link at which nothing on its way is exceeded; settled at it.

    Regula falsi with the end that stays halved (Illinois); the lower end is always allowed.
    """
    upper = rails[r].want_w
    low, high, f_low, side, over = 0.0, upper, -1.0, 0, 1.0
    for _ in range(MAX_TRIES):
        rails[r].want_w = guess
        # So near a collapse that it does not settle is too much as well.
        failed = settle(rails, loads, stores)
        over, by = _excess(rails, stores, r, failed)
        if over > 0.0:
            high, f_high, why = guess, over, by
            f_low = 0.5 * f_low if side == 1 else f_low
            side = 1
        else:
            low, f_low = guess, min(over, -1e-15)
            f_high = 0.5 * f_high if side == -1 else f_high
            side = -1
        if high - low <= FOUND * upper or -FOUND < over <= 0.0:
            break
        guess = low + (high - low) * f_low / (f_low - f_high)
        # A collapse says nothing of how far it is: the middle then.
        if why == BY_VOLTS or not low < guess < high:
            guess = 0.5 * (low + high)
    if high - low > FOUND_ENOUGH * upper and not -FOUND_ENOUGH < over <= 0.0:
        return UNSETTLED
    rails[r].want_w, rails[r].binds = low, why
    return settle(rails, loads, stores)


@merged
def _upper(rails: Records, stores: Records, r: int) -> tuple[float, int]:
    """The most a link takes by what is behind it: its charger and bank, or a station's input."""
    if stores[rails[r].to].usual_v > 0.0:
        most, binds = _into_bank(rails, stores, r)
    else:
        most, binds = _into_station(rails, stores, r)
    given = _of_source(rails, stores, r)
    return (given, BY_SOURCE) if given < most else (most, binds)


@inlined
def _of_source(rails: Records, stores: Records, r: int) -> float:
    """What arrives of a vehicle, mains or the sun at its limit, less what others draw. [W]"""
    there = rails[rails[r].parent]
    if there.kind != STORE or not stores[there.store].endless:
        return np.inf
    store = stores[there.store]
    # A hair less than the limit: as much as rounding may add.
    limit_a = store.limit_a * (1.0 - FOUND)
    mine = limit_a - (there.taken - rails[r].amps)
    if mine <= 0.0 or limit_a == np.inf:
        return np.inf
    volts = store.emf - limit_a * store.ohm - mine * rails[r].ohm
    return float(mine * volts) if volts > 0.0 else np.inf


@merged
def _into_bank(rails: Records, stores: Records, r: int) -> tuple[float, int]:
    """The most of a charger: its amps, then its volts; once full what is drawn from the bank."""
    rail, store = rails[r], stores[rails[r].to]
    others_w = _others_w(rails, r)
    if _is_full(store):
        given, binds = max(others_w, 0.0), BY_FROST if store.frozen else BY_FULL
    else:
        given = max(rail.hold_v * _bank_amps(store, rail.hold_v) + others_w, 0.0)
        binds = BY_TAPER
    amps = _own_amps(rails, r)
    if given > amps * _hold_v(rail, store):
        # It cannot hold its volts: its amps decide, at the lower volts that come of them.
        at_amps = amps * _terminal_v(store, amps, others_w)
        if at_amps < given:
            given, binds = at_amps, BY_MODE
    takes = rail.p0 + given / rail.give
    return (takes, binds) if takes < rail.most_w else (rail.most_w, BY_MODE)


@inlined
def _bank_amps(store: Any, volts: float) -> float:
    """Amps into a bank that is held at some volts; less than 0 out of it. [A]"""
    if volts <= store.emf:
        return float((volts - store.emf) / max(store.ohm, MIN_OHM))
    amps = (volts - store.charge_emf) / max(store.charge_ohm, MIN_OHM)
    return float(
        max(amps, min((volts - store.emf) / max(store.soft_ohm, MIN_OHM), SOFT_C * store.ah))
    )


@merged
def _terminal_v(store: Any, amps: float, others_w: float) -> float:
    """Volts of a bank into which some amps flow, of which others take some watts. [V]

    The lowest there are: with much resistance while it is charged there may be higher ones.
    """
    volts = _with_amps(store.emf, store.ohm, amps, others_w)
    if volts > 0.0 and amps - others_w / volts < 0.0:
        return volts
    volts = _with_amps(store.emf, store.soft_ohm, amps, others_w)
    if volts > 0.0 and amps - others_w / volts < SOFT_C * store.ah:
        return volts
    return _with_amps(store.charge_emf, store.charge_ohm, amps, others_w)


@inlined
def _with_amps(emf: float, ohm: float, amps: float, others_w: float) -> float:
    """The higher root of V = E + R (I - P / V); 0 where there is none. [V]"""
    half = 0.5 * (emf + ohm * amps)
    inside = half * half - ohm * others_w
    return half + math.sqrt(inside) if inside > 0.0 else 0.0


@merged
def _into_station(rails: Records, stores: Records, r: int) -> tuple[float, int]:
    """The most a station's input takes: its watts, all inputs' together, what its cells want."""
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
    if store.charge > store.taper or store.frozen:
        here = rails[rails[r].to]
        mine = rails[r].amps * input_v(rails, r) * rails[r].give
        # All it has to give but for what this link brings; and what its cells take.
        needs = here.volts * here.taken + mine
        # Once full it is kept so, not topped up at every hair it lost.
        full = store.frozen or store.charge >= 1.0 - (TOPPED if store.full else FULL_HAIR)
        if not full:
            late = (store.charge - store.taper) / (1.0 - store.taper)
            needs += store.most_in_w * rails[r].give * (1.0 - (1.0 - LAST_SHARE) * late)
        wants = max(needs / rails[r].give, 0.0)
        if wants < most:
            most, binds = wants, BY_FULL if full else BY_TAPER
            if store.frozen:
                binds = BY_FROST
    return most, binds


@compiled
def _excess(rails: Records, stores: Records, r: int, failed: int) -> tuple[float, int]:
    """By how much a link's way exceeds what it may carry, as a share; and what is exceeded."""
    if failed != SOLVED:
        return 1.0, BY_VOLTS
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

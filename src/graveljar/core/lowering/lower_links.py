"""Lowers the links of a design to rows behind those of its rails."""

import math

import numpy as np

from graveljar.core.components.battery import bank_label
from graveljar.core.components.charging import hold_volts
from graveljar.core.components.joint import described_ohm, end_fuse_a, fuse_a
from graveljar.core.kernel import records as n
from graveljar.core.kernel.records import Flags, Floats, Records
from graveljar.core.model import (
    Bank,
    Between,
    Design,
    Generator,
    Link,
    Mains,
    Station,
    Store,
    Sun,
    Vehicle,
)
from graveljar.core.model.references import store_of
from graveljar.core.network.charge_input import (
    accepts_of,
    cap_w,
    charge_amps,
    charge_efficiency,
    fit_link,
)
from graveljar.core.network.rails import Rail
from graveljar.core.network.schedule import Span, middles, within, wrapped
from graveljar.core.network.station_expansion import as_bank


def in_order(design: Design) -> tuple[Link, ...]:
    """Links so that those behind a store come before those that feed it."""
    waiting, found = list(design.links), []
    while waiting:
        # Without loops some link always feeds a store that feeds none of those waiting.
        last = next(x for x in waiting if all(store_of(design, y.rail) != x.to for y in waiting))
        waiting.remove(last)
        found.append(last)
    return tuple(found)


def times_of(design: Design) -> dict[str, tuple[Span, ...]]:
    """Times of day at which links and sources are on, where they are not always. [h]"""
    between: dict[str, Between] = {x.id: x.times for x in design.links if x.times is not None}
    between |= {x.id: x.runs for x in design.stores if isinstance(x, Vehicle | Generator)}
    between |= {
        x.id: x.times for x in design.stores if isinstance(x, Mains) and x.times is not None
    }
    return {
        name: tuple(sorted(wrapped((s.from_h, s.from_h + s.hours) for s in spans.windows)))
        for name, spans in between.items()
    }


def plugged(design: Design, names: tuple[str, ...], edges: Floats) -> Flags:
    """Whether each row may be on in each stretch. Shape (M, R)"""
    on = np.ones((len(edges) - 1, len(names)), dtype=np.bool_)
    for name, spans in times_of(design).items():
        r = names.index(name)
        on[:, r] = within(spans, middles(edges))
    return on


def lower_links(
    design: Design,
    rails: dict[str, Rail],
    links: tuple[Link, ...],
    place: dict[str, int],
    records: Records,
    assumed: dict[str, float],
) -> Records:
    """The rows of the rails with those of the links behind them."""
    made = np.zeros(len(links), n.RAIL)
    stores = {store.id: store for store in design.stores}
    for k, (into, link) in enumerate(zip(made, links, strict=True)):
        store = stores[link.to]
        parent = place[link.rail]
        into["kind"], into["parent"], into["zone"] = n.LINK, parent, len(rails) + k
        into["store"], into["to"] = records[parent]["store"], place[link.to]
        into["other"], into["own_parent"] = -1, parent
        with_it = None if link.charger is None else link.charger.shares_with
        into["shares"] = -1 if with_it is None else place[with_it]
        into["k1"] = 1.0
        for limit in ("limit_a", "fuse_a", "limit_w", "peak_w", "peak_a"):
            into[limit] = np.inf
        into["most_w"] = cap_w(store, link, assumed)
        into["give"] = charge_efficiency(store, link)
        if isinstance(store, Bank):
            _charge(into, design, store, link, assumed)
        window = accepts_of(store, link)
        into["cut_v"] = window.least_v
        into["restart_v"] = window.least_v
        into["blocked"] = fit_link(rails, store, link) != "fits"
        into["ohm"] = (
            0.0
            if rails[link.rail].kind == "ac"
            else _ohm(rails[link.rail], link, into["most_w"], assumed)
        )
        into["first_binds"] = n.BY_INPUT
        _limit(into, design, link, store, records[parent])
    # As bytes: NumPy copies records field by field.
    return np.frombuffer(bytearray(records.tobytes() + made.tobytes()), n.RAIL)


def _charge(
    into: np.void, design: Design, bank: Bank, link: Link, assumed: dict[str, float]
) -> None:
    """What a link gives a bank: its charger's amps and volts."""
    charger = link.charger
    into["charge_a"] = charge_amps(bank, link, assumed)
    into["hold_v"] = hold_volts(bank, charger)
    if charger is None:
        return
    into["p0"] = charger.idle_w
    source = next((x for x in design.stores if x.id == link.rail), None)
    if charger.kind == "PWM controller" and isinstance(source, Sun):
        # It passes the panel's current at the volts of the battery: the rest is not taken.
        bank_v = 0.5 * (bank_label(bank).nominal_v + float(into["hold_v"]))
        into["give"] *= min(bank_v / (source.panel.vmp_v * source.series), 1.0)


def limits_of(link: Link, store: Store) -> tuple[tuple[float, int], ...]:
    """The most amps of a link by its mode and its own fuses, each with what it binds by. [A]"""
    found = []
    if isinstance(store, Station):
        port = store.input(link.input)
        if port is not None and port.supply == "dc":
            found.append((port.mode(link.mode).amps, n.BY_MODE))
    elif link.charger is None:
        rest = bank_label(as_bank(store))
        found.append((rest.give_a or rest.ah, n.BY_MODE))
    # Behind a charger its fuse at the battery carries the charger's amps, not these.
    fuses = (fuse_a(link), end_fuse_a(link) if link.charger is None else math.inf)
    found += [(amps, n.BY_FUSE) for amps in fuses if amps < math.inf]
    return tuple(found)


def _limit(into: np.void, design: Design, link: Link, store: Store, parent: np.void) -> None:
    """The least of what is known beforehand: mode, the cable's own fuse, the converter before."""
    found = list(limits_of(link, store))
    port = store.input(link.input) if isinstance(store, Station) else None
    if port is not None and isinstance(store, Station):
        into["bypass"] = port.supply == "ac" and store.pass_through
    alone = not any(load.rail == link.rail for load in design.loads) and not any(
        x.rail == link.rail for x in (*design.stages, *design.links) if x is not link
    )
    if alone and parent["kind"] == n.CONVERTER:
        # With others on its rail it is found each time from what they leave.
        found.append((float(parent["limit_a"]), n.BY_CONVERTER))
    if found:
        into["limit_a"], into["first_binds"] = min(found)


def _ohm(rail: Rail, link: Link, watts: float, assumed: dict[str, float]) -> float:
    known = described_ohm(link, assumed)
    if known is not None:
        return known
    return assumed["joint_drop"] * rail.nominal_v**2 / watts

"""Links: whether the volts fit an input, and the limits its label sets."""

from typing import Literal

from graveljar.core.components.battery import bank_label, chemistry_of
from graveljar.core.components.charging import hold_volts
from graveljar.core.model import Bank, Link, Station, Store, Window
from graveljar.core.network.rails import Rail
from graveljar.core.network.station_expansion import as_bank
from graveljar.core.tables.chemistry import OVER_FULL_LEAD, OVER_FULL_LITHIUM

LinkFit = Literal[
    "fits", "above its maximum", "never reaches its minimum", "not above the inner battery"
]


def accepts_of(store: Store, link: Link) -> Window:
    """Volts a link's end accepts: an input's, a charger's; a bare bank's, empty to full. [V]"""
    if isinstance(store, Station):
        port = store.input(link.input)
        if port is not None:
            return port.accepts
    if link.charger is not None:
        return link.charger.accepts
    rest = bank_label(as_bank(store))
    # By its fewest cells: more volts than they may take are not for it.
    kind = chemistry_of(as_bank(store).battery)
    full_v, over = kind.full_v * rest.cells, OVER_FULL_LITHIUM if kind.lithium else OVER_FULL_LEAD
    return Window(least_v=rest.empty_v, most_v=full_v * (1 + over))


def fit_link(rails: dict[str, Rail], store: Store, link: Link) -> LinkFit:
    """Judge what arrives at an input; the volts at full charge and no load decide."""
    arrives, window = rails[link.rail], accepts_of(store, link)
    if arrives.high_v > window.most_v:
        return "above its maximum"
    if arrives.high_v < window.least_v:
        return "never reaches its minimum"
    port = store.input(link.input) if isinstance(store, Station) else None
    if port is not None and port.steps_down_only and arrives.high_v <= rails[store.id].nominal_v:
        return "not above the inner battery"
    return "fits"


def charge_amps(bank: Bank, link: Link, assumed: dict[str, float]) -> float:
    """The most amps into a bank: its charger's; of a plain supply, what it may take. [A]"""
    if link.charger is not None:
        return link.charger.amps
    return assumed[chemistry_of(bank.battery).charge_c] * bank_label(bank).ah


def cap_w(store: Store, link: Link, assumed: dict[str, float]) -> float:
    """Most watts an input takes; of a bank, what its charger draws at the volts it holds. [W]"""
    if isinstance(store, Station):
        port = store.input(link.input)
        if port is not None:
            return port.most_w
    bank = as_bank(store)
    given_w = charge_amps(bank, link, assumed) * hold_volts(bank, link.charger)
    if link.charger is None:
        return given_w
    if link.charger.most_w is not None:
        given_w = min(given_w, link.charger.most_w)
    return link.charger.idle_w + given_w / link.charger.efficiency


def charge_efficiency(store: Store, link: Link) -> float:
    """Share of what arrives at an input, or a charger, that it gives to the cells. [1]"""
    if isinstance(store, Station):
        return store.charge_efficiency
    return 1.0 if link.charger is None else link.charger.efficiency


def accept_amps(store: Store, name: str | None, mode: str | None) -> float:
    """Amps an input takes in a mode; ten, of what has none. [A]"""
    port = store.input(name) if isinstance(store, Station) else None
    return port.mode(mode).amps if port is not None else 10.0

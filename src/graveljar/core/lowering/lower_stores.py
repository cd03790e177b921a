"""Lowers the stores of a design to the engine's arrays: records, curves, warmth."""

from collections.abc import Callable
from typing import Any

import numpy as np

from graveljar.core.components.battery import (
    bank_label,
    chemistry_of,
    peukert_exponent,
    resistance_factor,
    temperature_factor,
)
from graveljar.core.components.joint import bank_leads_ohm, fuse_a, fuse_code
from graveljar.core.kernel import records as n
from graveljar.core.kernel.records import Floats, Records
from graveljar.core.model import Bank, Battery, Design, Station, Vehicle
from graveljar.core.tables.chemistry import NO_CHARGE_BELOW_C


def lower_stores(design: Design, banks: tuple[Bank, ...], assumed: dict[str, float]) -> Records:
    """A record of each store."""
    made = np.zeros(len(banks), n.BANK)
    fed = {link.to for link in design.links}
    for into, bank, store in zip(made, banks, design.stores, strict=True):
        rest, kind = bank_label(bank), chemistry_of(bank.battery)
        into["ah"], into["low_v"] = rest.ah, rest.low_v
        into["own_ohm"], into["leads_ohm"] = rest.resistance_ohm, bank_leads_ohm(bank, assumed)
        into["floor"], into["begin"] = bank.reserve, bank.starts_at
        into["peukert"] = peukert_exponent(bank.battery)
        into["rated_a"] = rest.ah / kind.rated_h
        into["limit_a"] = np.inf if rest.give_a is None else rest.give_a
        into["peak_a"] = np.inf if rest.peak_a is None else rest.peak_a
        into["returns"] = bank.battery.resets == "by itself"
        into["fuse_a"], into["fuse_kind"] = np.inf, fuse_code(bank.leads)
        if bank.leads is not None:
            into["fuse_a"] = fuse_a(bank.leads) * bank.parallel
        into["linked"] = store.id in fed
        into["returns_at"] = assumed["station_returns"]
        into["taper"], into["most_in_w"] = 1.0, np.inf
        into["low_since"] = np.inf
        match store:
            case Station():
                into["taper"], into["most_in_w"] = store.taper_from, store.most_in_w
                into["idle_w"], into["no_pass"] = store.idle_w, not store.pass_through
                into["sleep_at_w"], into["sleep_h"] = store.sleeps_below_w, store.sleeps_after_h
            case Vehicle():
                into["endless"], into["low_v"], into["peukert"] = 1, 0.0, 1.0
            case _:
                into["taper"] = assumed[kind.taper]
                into["most_in_w"] = assumed[kind.charge_c] * rest.ah * rest.nominal_v
    return made


def curves(design: Design, banks: tuple[Bank, ...]) -> Floats:
    """Open-circuit curves, the shorter ones padded with their last point; a vehicle's is flat."""
    found = []
    for bank, store in zip(banks, design.stores, strict=True):
        curve = np.array(chemistry_of(bank.battery).ocv)
        curve[:, 1] *= bank_label(bank).cells
        if isinstance(store, Vehicle):
            curve[:, 1] = store.running_v
        found.append(curve)
    most = max(len(curve) for curve in found)
    return np.array([np.pad(c, ((0, most - len(c)), (0, 0)), mode="edge") for c in found])


def weather_of(design: Design, banks: tuple[Bank, ...], edges: Floats) -> dict[str, Any]:
    """What the temperature of each stretch does to each store, as in `net.Day`. Shapes (M, S)"""
    hourly = design.setting.ambient_by_hour
    temperatures_c = [design.setting.ambient_c] if hourly is None else list(hourly)
    at = np.zeros(len(edges) - 1, dtype=np.int64)
    if hourly is not None:
        at = (edges[:-1] + 1e-6).astype(np.int64)
    batteries = [bank.battery for bank in banks]
    # A vehicle's resistance is that of its socket and lead.
    vehicles = [isinstance(store, Vehicle) for store in design.stores]

    def rows(of: Callable[[Battery, float], float | bool]) -> Any:
        return np.array([[of(x, ambient_c) for x in batteries] for ambient_c in temperatures_c])[at]

    return {
        "warmth": rows(temperature_factor),
        "cold_ohm": np.where(vehicles, 1.0, rows(resistance_factor)),
        "frozen": rows(is_frozen),
        "too_cold": rows(_too_cold),
    }


def _too_cold(battery: Battery, ambient_c: float) -> bool:
    return battery.discharge_from_c is not None and ambient_c < battery.discharge_from_c


def is_frozen(battery: Battery, ambient_c: float) -> bool:
    """Whether no charge goes into a battery at a temperature: lithium below 0 °C.

    Where a cut-off or heater keeps it from that, and where nothing does: it is never counted on.
    """
    return chemistry_of(battery).lithium and ambient_c < NO_CHARGE_BELOW_C

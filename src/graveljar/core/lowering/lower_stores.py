"""Lowers the stores of a design to the engine's arrays: records, curves, warmth."""

from collections.abc import Callable
from itertools import pairwise
from typing import Any, Final

import numpy as np

from graveljar.core.components.battery import (
    bank_label,
    chemistry_of,
    peukert_exponent,
    resistance_factor,
    temperature_factor,
)
from graveljar.core.components.charging import full_charge, taper_charge, usual_volts
from graveljar.core.components.joint import bank_leads_ohm, fuse_a, fuse_code
from graveljar.core.components.sunlight import array_amps, daylight_hours, mean_sun
from graveljar.core.kernel import records as n
from graveljar.core.kernel.records import Floats, Records
from graveljar.core.model import (
    Bank,
    Battery,
    Design,
    Generator,
    Mains,
    Station,
    Store,
    Sun,
    Vehicle,
)
from graveljar.core.network.charge_input import charge_amps
from graveljar.core.tables.charging import CHARGING
from graveljar.core.tables.chemistry import NO_CHARGE_BELOW_C

# A charge that no store reaches: what holds its volts for ever takes none for full. [1]
NEVER_FULL: Final = 2.0


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
        into["ah_give"], into["full_at"] = 1.0, 1.0
        into["low_since"] = np.inf
        match store:
            case Station():
                into["taper"], into["most_in_w"] = store.taper_from, store.most_in_w
                into["idle_w"], into["no_pass"] = store.idle_w, not store.pass_through
                into["sleep_at_w"], into["sleep_h"] = store.sleeps_below_w, store.sleeps_after_h
            case Vehicle() | Mains() | Generator() | Sun():
                into["endless"], into["low_v"], into["peukert"] = 1, 0.0, 1.0
            case _ if store.id in fed:
                _charged(into, design, bank, assumed)
            case _:
                pass
    return made


def _charged(into: Any, design: Design, bank: Bank, assumed: dict[str, float]) -> None:
    """What a bank that is charged takes."""
    kind = CHARGING[bank.battery.chemistry]
    ohm = float(into["own_ohm"] + into["leads_ohm"])
    amps = max(charge_amps(bank, x, assumed) for x in design.links if x.to == bank.id)
    into["usual_v"], into["ah_give"] = usual_volts(bank), kind.ah_efficiency
    into["accepts_per_h"] = kind.accepts_per_h or 0.0
    into["taper"], into["full_at"] = taper_charge(bank, ohm, amps), full_charge(bank, ohm)
    if _never_ends(design, bank):
        into["full_at"] = NEVER_FULL


def curves(design: Design, banks: tuple[Bank, ...], *, charging: bool = False) -> Floats:
    """Open-circuit curves, the shorter ones padded with their last point; a source's is flat."""
    found = []
    for bank, store in zip(banks, design.stores, strict=True):
        kind = bank.battery.chemistry
        curve = np.array(CHARGING[kind].curve if charging else chemistry_of(bank.battery).ocv)
        curve[:, 1] *= bank_label(bank).cells
        if isinstance(store, Vehicle):
            curve[:, 1] = store.running_v
        elif isinstance(store, Mains | Generator | Sun):
            curve[:, 1] = bank.battery.volts
        found.append(curve)
    most = max(len(curve) for curve in found)
    # By hand: NumPy's own way takes ten times as long.
    return np.array([np.concatenate((c, np.repeat(c[-1:], most - len(c), axis=0))) for c in found])


def weather_of(
    design: Design, banks: tuple[Bank, ...], edges: Floats, assumed: dict[str, float]
) -> dict[str, Any]:
    """What the temperature of each stretch does to each store, as in `net.Day`. Shapes (M, S)"""
    hourly = design.setting.ambient_by_hour
    temperatures_c = [design.setting.ambient_c] if hourly is None else list(hourly)
    at = np.zeros(len(edges) - 1, dtype=np.int64)
    if hourly is not None:
        at = (edges[:-1] + 1e-6).astype(np.int64)
    batteries = [bank.battery for bank in banks]
    leads = [bank_leads_ohm(bank, assumed) for bank in banks]
    pairs = tuple(zip(zip(banks, design.stores, strict=True), leads, strict=True))
    # The resistance of a source is that of its socket and cable.
    sources = [isinstance(store, Vehicle | Mains | Generator | Sun) for store in design.stores]
    full = [
        [_full(bank, store, design, ambient_c, ohm) for (bank, store), ohm in pairs]
        for ambient_c in temperatures_c
    ]

    def rows(of: Callable[[Battery, float], float | bool]) -> Any:
        return np.array([[of(x, ambient_c) for x in batteries] for ambient_c in temperatures_c])[at]

    return {
        "warmth": rows(temperature_factor),
        "cold_ohm": np.where(sources, 1.0, rows(resistance_factor)),
        "full_at": np.array(full)[at],
        "frozen": rows(is_frozen),
        "too_cold": rows(_too_cold),
    }


def _never_ends(design: Design, bank: Bank) -> bool:
    """Whether something holds its volts at a bank for as long as it runs."""
    kinds = (x.charger.kind for x in design.links if x.to == bank.id and x.charger is not None)
    return "alternator" in kinds


def _full(bank: Bank, store: Store, design: Design, ambient_c: float, leads_ohm: float) -> float:
    """Charge at which a store is full: of a bank that is charged, where its charger ends."""
    if not isinstance(store, Bank) or all(link.to != store.id for link in design.links):
        return 1.0
    if _never_ends(design, bank):
        return NEVER_FULL
    own_ohm = bank_label(bank).resistance_ohm * resistance_factor(bank.battery, ambient_c)
    return full_charge(bank, own_ohm + leads_ohm)


def sun_amps(design: Design, edges: Floats) -> Floats:
    """What each store gives on a usual day: the sun's current; else no limit. [A], shape (M, S)"""
    most = np.full((len(edges) - 1, len(design.stores)), np.inf)
    month, daylight_h = design.week.month, daylight(design)
    for s, store in enumerate(design.stores):
        if isinstance(store, Sun):
            hours = store.sun_hours[month - 1]
            most[:, s] = [
                array_amps(store, mean_sun(hours, daylight_h, begin, end))
                for begin, end in pairwise(edges)
            ]
    return most


def daylight(design: Design) -> float:
    """From sunrise to sunset in the month of a design. [h]"""
    return daylight_hours(design.week.latitude, design.week.month)


def _too_cold(battery: Battery, ambient_c: float) -> bool:
    return battery.discharge_from_c is not None and ambient_c < battery.discharge_from_c


def is_frozen(battery: Battery, ambient_c: float) -> bool:
    """Whether no charge goes into a battery at a temperature: lithium below 0 °C.

    Where a cut-off or heater keeps it from that, and where nothing does: it is never counted on.
    """
    return chemistry_of(battery).lithium and ambient_c < NO_CHARGE_BELOW_C

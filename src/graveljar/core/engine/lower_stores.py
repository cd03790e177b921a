"""Lowers the stores of a design to the engine's arrays: records, curves, warmth."""

import numpy as np

from graveljar.core.bank import at_rest, chemistry_of, peukert_exponent, temperature_factor
from graveljar.core.cables.described import bank_leads_ohm
from graveljar.core.document import Bank, Design, Station, Vehicle
from graveljar.core.engine import net as n
from graveljar.core.engine.net import Floats, Records


def lower_stores(design: Design, banks: tuple[Bank, ...], assumed: dict[str, float]) -> Records:
    """A record of each store."""
    made = np.zeros(len(banks), n.BANK)
    fed = {link.to for link in design.links}
    for into, bank, store in zip(made, banks, design.stores, strict=True):
        rest, kind = at_rest(bank), chemistry_of(bank.battery)
        into["ah"], into["low_v"] = rest.ah, rest.low_v
        into["ohm"] = rest.resistance_ohm + bank_leads_ohm(bank, assumed)
        into["floor"], into["begin"] = bank.keep_back, bank.starts_at
        into["peukert"] = peukert_exponent(bank.battery)
        into["rated_a"] = rest.ah / kind.rated_h
        into["limit_a"] = np.inf if rest.give_a is None else rest.give_a
        into["linked"] = store.id in fed
        into["back_at"] = bank.keep_back + assumed["station_returns"] * (1 - bank.keep_back)
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
                into["taper"] = assumed["bank_taper"]
                into["most_in_w"] = assumed["bank_charge_c"] * rest.ah * rest.nominal_v
    return made


def curves(design: Design, banks: tuple[Bank, ...]) -> Floats:
    """Open-circuit curves, the shorter ones padded with their last point; a vehicle's is flat."""
    found = []
    for bank, store in zip(banks, design.stores, strict=True):
        curve = np.array(chemistry_of(bank.battery).ocv)
        curve[:, 1] *= at_rest(bank).cells
        if isinstance(store, Vehicle):
            curve[:, 1] = store.running_v
        found.append(curve)
    most = max(len(curve) for curve in found)
    return np.array([np.pad(c, ((0, most - len(c)), (0, 0)), mode="edge") for c in found])


def warmth(design: Design, banks: tuple[Bank, ...], edges: Floats) -> Floats:
    """Share of its capacity each store has in each stretch."""
    hourly = design.setting.ambient_by_hour
    rows = []
    for begin in edges[:-1]:
        ambient_c = design.setting.ambient_c if hourly is None else hourly[int(begin + 1e-6)]
        rows.append([temperature_factor(bank.battery, ambient_c) for bank in banks])
    return np.array(rows)

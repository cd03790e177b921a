"""How a bank is charged: the volts a charger holds, and the charge at which it ends."""

import numpy as np

from graveljar.core.components.battery import bank_label
from graveljar.core.model import Bank, Charger
from graveljar.core.tables.charging import BLOCK_V, CHARGING, PROFILE_V


def usual_volts(bank: Bank) -> float:
    """Volts that a charger set for the chemistry of a bank holds.

    Parameters
    ----------
    bank : What is charged.

    Returns
    -------
    Volts at the terminals, > 0. [V]

    Notes
    -----
    Common practice: 3.6 V a cell of LFP, 4.2 V of Li-ion, 2.4 V of lead-acid.

    Examples
    --------
    >>> from graveljar.core.model import Battery
    >>> round(usual_volts(Bank(battery=Battery(volts=12.8, ah=100))), 2)
    14.4
    """
    return CHARGING[bank.battery.chemistry].hold_v * bank_label(bank).cells


def hold_volts(bank: Bank, charger: Charger | None) -> float:
    """Volts that a charger holds at the end: set, of its profile, or usual for the bank.

    Parameters
    ----------
    bank : What is charged.
    charger : What charges it; None for a plain supply, which counts as one that fits.

    Returns
    -------
    Volts at the terminals, > 0. [V]

    Notes
    -----
    Common practice. A profile for lead-acid knows blocks of 12 V; one for lithium the cells.

    Examples
    --------
    >>> from graveljar.core.model import Battery
    >>> pack = Bank(battery=Battery(chemistry="nmc", volts=25.9, ah=38))
    >>> round(hold_volts(pack, Charger(profile="lithium")), 1)  # seven cells
    29.4
    >>> round(hold_volts(pack, Charger(profile="AGM")), 1)  # two blocks
    28.8
    """
    if charger is None:
        return usual_volts(bank)
    if charger.hold_v is not None:
        return charger.hold_v
    blocks = max(round(bank_label(bank).nominal_v / BLOCK_V), 1)
    of_block_v = PROFILE_V.get(charger.profile)
    lithium = bank.battery.chemistry in ("lfp", "nmc")
    if of_block_v is None or (charger.profile == "lithium" and lithium):
        return usual_volts(bank)
    return of_block_v * blocks


def full_charge(bank: Bank, ohm: float) -> float:
    """Charge at which the current at usual volts has fallen to the tail: a charger ends.

    Parameters
    ----------
    bank : What is charged.
    ohm : From its cells to the charger, >= 0. [Ohm]

    Returns
    -------
    Share, more than 0 to 1. [1]

    Notes
    -----
    Tail current 0.05C for lithium, 0.01C for lead-acid; common practice.

    Examples
    --------
    >>> from graveljar.core.model import Battery
    >>> round(full_charge(Bank(battery=Battery(volts=12.8, ah=100)), 0.008), 4)  # 14.36 V left
    0.9875
    >>> full_charge(Bank(battery=Battery(chemistry="agm", volts=12, ah=100)), 0.006)
    0.99
    """
    return _charge_at(bank, ohm, CHARGING[bank.battery.chemistry].tail_c * bank_label(bank).ah)


def taper_charge(bank: Bank, ohm: float, amps: float) -> float:
    """Charge from which a bank takes less than some amps at the usual volts.

    Parameters
    ----------
    bank : What is charged.
    ohm : From its cells to the charger, >= 0. [Ohm]
    amps : Of the charger, > 0. [A]

    Returns
    -------
    Share, 0 to that at which a charger ends. [1]

    Notes
    -----
    Lead-acid by the ampere-hour law, from memory.

    Examples
    --------
    >>> from graveljar.core.model import Battery
    >>> taper_charge(Bank(battery=Battery(chemistry="agm", volts=12, ah=100)), 0.006, 20.0)
    0.8
    """
    return min(_charge_at(bank, ohm, amps), full_charge(bank, ohm))


def _charge_at(bank: Bank, ohm: float, amps: float) -> float:
    """Charge at which it takes some amps at the usual volts; lower, it takes more. [1]"""
    kind, rest = CHARGING[bank.battery.chemistry], bank_label(bank)
    shares, cell_v = np.array(kind.curve).T
    by_volts = float(np.interp(kind.hold_v - amps * ohm / rest.cells, cell_v, shares))
    if kind.accepts_per_h is None:
        return by_volts
    return max(min(by_volts, 1.0 - amps / (kind.accepts_per_h * rest.ah)), 0.0)

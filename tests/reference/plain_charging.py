"""Charging by closed forms: constant current, then constant volts; nothing of the engine's code."""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from graveljar.core.components.battery import bank_label, resistance_factor
from graveljar.core.kernel.records import Floats
from graveljar.core.model import Bank
from graveljar.core.tables.charging import CHARGING, ChargingKind
from graveljar.core.tables.chemistry import CHEMISTRIES, NO_CHARGE_BELOW_C

# Points between two points of a curve: lead-acid accepts along a line that is not straight.
POINTS = 64

Ends = Literal["tail", "full", "no charge", "frost"]


@dataclass(frozen=True)
class Profile:
    """What a charger gives: at most `amps`, at most `hold_v`; at `tail_a` it ends. [A], [V], [A]"""

    amps: float
    hold_v: float
    tail_a: float


@dataclass(frozen=True)
class Filling:
    """A bank charged by one charger.

    `ends` : "tail", as a charger should; "full", while more than the tail still flowed: it would
        go on and overcharge; "no charge", its volts are too low; "frost", lithium below 0 °C.
    `bulk_h`, `hold_h` : At constant current, then at constant volts. [h]
    `in_ah`, `in_wh` : Put in at the terminals. `stored_wh` : What the cells hold of it. [Ah], [Wh]
    `hours`, `charge`, `amps`, `volts` : Its course. [h], [1], [A], [V], shapes (N,)
    """

    ends: Ends
    bulk_h: float
    hold_h: float
    in_ah: float
    in_wh: float
    stored_wh: float
    hours: Floats
    charge: Floats
    amps: Floats
    volts: Floats

    @property
    def total_h(self) -> float:
        """All of it. [h]"""
        return self.bulk_h + self.hold_h


def usual(bank: Bank, amps: float) -> Profile:
    """So many amps, and the volts and tail current that are usual for a bank."""
    kind, rest = CHARGING[bank.battery.chemistry], bank_label(bank)
    return Profile(amps, kind.hold_v * rest.cells, kind.tail_c * rest.ah)


def fill(bank: Bank, charger: Profile, begin: float, ambient_c: float = 25.0) -> Filling:
    """Charge a bank: the charger's amps, then its volts, until its tail current.

    What flows at volts held follows from the curve and the resistance; lead-acid accepts less
    and less besides.

    Notes
    -----
    Lead-acid by the ampere-hour law, which names a most of amps for the Ah that are missing;
    from memory. At other volts than usual it accepts in proportion to those above its own.
    """
    kind, rest = CHARGING[bank.battery.chemistry], bank_label(bank)
    if CHEMISTRIES[bank.battery.chemistry].lithium and ambient_c < NO_CHARGE_BELOW_C:
        return _nothing("frost", begin)
    ohm = rest.resistance_ohm * resistance_factor(bank.battery, ambient_c)
    charge = _grid(kind, begin)
    own_v, resists = _resistance(kind, rest.cells, rest.ah, ohm, charge)
    accepts = (charger.hold_v - own_v) / resists
    if accepts[0] <= 0.0:
        return _nothing("no charge", begin)
    # What is accepted only falls: where it meets the charger's amps, and where the tail.
    hold_at, end_at = (
        float(np.interp(-amps, -accepts, charge)) for amps in (charger.amps, charger.tail_a)
    )
    ends: Ends = "tail" if accepts[-1] <= charger.tail_a else "full"
    # A tail above its amps: over as soon as its volts are met.
    end_at = max(end_at, hold_at)
    charge = np.unique(np.concatenate([charge[charge < end_at], [begin, hold_at, end_at]]))
    own_v, resists = _resistance(kind, rest.cells, rest.ah, ohm, charge)
    amps = np.minimum((charger.hold_v - own_v) / resists, charger.amps)
    volts = own_v + amps * resists
    in_ah = np.diff(charge) * rest.ah / kind.ah_efficiency
    hours = np.concatenate([[0.0], np.cumsum(in_ah / _log_mean(amps))])
    bulk_h = float(np.interp(hold_at, charge, hours))
    return Filling(
        ends=ends,
        bulk_h=bulk_h,
        hold_h=float(hours[-1]) - bulk_h,
        in_ah=float(in_ah.sum()),
        in_wh=float((in_ah * _middle(volts)).sum()),
        stored_wh=float((np.diff(charge) * rest.ah * _middle(own_v)).sum()),
        hours=hours,
        charge=charge,
        amps=amps,
        volts=volts,
    )


def _nothing(ends: Ends, begin: float) -> Filling:
    none = np.zeros(1)
    return Filling(ends, 0.0, 0.0, 0.0, 0.0, 0.0, none, np.array([begin]), none, none)


def _grid(kind: ChargingKind, begin: float) -> Floats:
    """Charges from the start to full, with every point of the curve among them. [1]"""
    knots = np.array([begin, *(share for share, _ in kind.curve if share > begin)])
    between = knots[:-1, None] + np.diff(knots)[:, None] * np.arange(POINTS) / POINTS
    return np.append(between.ravel(), 1.0)


def _resistance(
    kind: ChargingKind, cells: int, ah: float, ohm: float, charge: Floats
) -> tuple[Floats, Floats]:
    """Volts of the bank's own, and what stands between them and its terminals. [V], [Ohm]"""
    shares, volts = zip(*kind.curve, strict=True)
    own_v = np.interp(charge, shares, volts) * cells
    if kind.accepts_per_h is None:
        return own_v, np.full_like(charge, ohm)
    accepts = kind.accepts_per_h * ah * np.maximum(1.0 - charge, 1e-9)
    return own_v, np.maximum((kind.hold_v * cells - own_v) / accepts, ohm)


def _log_mean(amps: Floats) -> Floats:
    """Mean amps of each stretch by time, as a current that falls in a straight line over Ah. [A]"""
    first, last = amps[:-1], amps[1:]
    even = np.abs(first - last) <= 1e-9 * first
    # Equal ends have no logarithm to divide by; their mean is either.
    ratio = np.where(even, 2.0, first / last)
    return np.where(even, first, (first - last) / np.log(ratio))


def _middle(values: Floats) -> Floats:
    return (values[:-1] + values[1:]) / 2

"""A battery's own curve of rested volts, from a slow discharge from full to empty."""

from dataclasses import dataclass
from typing import Final

import numpy as np

from graveljar.core.components.battery import bank_label, chemistry_of
from graveljar.core.context import Context
from graveljar.core.model import Bank
from graveljar.core.readings.fitted import NINETY_FIVE, FittedFigure, Floats
from graveljar.core.readings.places import adoption
from graveljar.core.readings.reading import LogTaken
from graveljar.core.text import number, quantity

# Where the curve is told, by charge. Ours. [1]
POINTS: Final = (0.0, 0.05, *(n / 10 for n in range(1, 10)), 0.95, 1.0)
# Rows within so much charge of a point tell its volts. Ours. [1]
WITHIN: Final = 0.04
MIN_ROWS_AT_POINT: Final = 4
# Faster than this the volts under load are not those at rest; common practice near 0.2C. [1/h]
SLOW_C: Final = 0.25
# A log shows the whole curve where it begins above and ends below these charges, by its volts. [1]
BEGINS_ABOVE: Final = 0.96
ENDS_BELOW: Final = 0.08
# Class of multimeters and shunts on volts; common practice. [1]
METER_V_SHARE: Final = 0.005


@dataclass(frozen=True)
class Discharge:
    """Rows of a log while a bank is discharged. [Ah], [V], [A], shape (N,)

    `ohm` is the resistance that its sag is put right with. [Ohm]
    """

    out_ah: Floats
    in_ah: float
    volts: Floats
    amps: Floats
    ohm: float


def fit_curve(context: Context, bank: Bank, rows: Discharge, taken: LogTaken) -> FittedFigure:
    """How far the rested volts of a bank stray from those of its chemistry, charge by charge.

    Notes
    -----
    Volts under load plus amps times resistance (Ohm's law), over the charge that was drawn; made
    to rise by isotonic regression.
    """
    # A part of a second to load, for this alone: a start must not wait for it.
    from scipy.optimize import isotonic_regression  # noqa: PLC0415

    why = _why_not(bank, rows)
    if why:
        return FittedFigure("Own curve, furthest from its kind", "V", 0, 0, 0, 0.0, told=False,
                            why=why)  # fmt: skip
    label = bank_label(bank)
    charge = 1.0 - rows.out_ah / rows.out_ah[-1]
    rested = rows.volts + rows.amps * rows.ohm
    volts, chance = np.array([_at(charge, rested, point) for point in POINTS]).T
    volts = np.asarray(isotonic_regression(volts).x)
    # It has to rise: where noise hides how it does, by less than a meter shows.
    volts += np.array(POINTS) * 1e-4 * label.nominal_v
    usual = np.interp(POINTS, *np.array(chemistry_of(bank.battery).ocv).T) * label.cells
    at = int(np.argmax(np.abs(volts - usual)))
    strays = float(abs(volts[at] - usual[at]))
    half = NINETY_FIVE * float(np.hypot(chance[at], METER_V_SHARE * volts[at] / np.sqrt(3.0)))
    told = strays > half
    own = volts / bank.series
    points = [
        {"charge": share, "volts": round(float(v), 4)} for share, v in zip(POINTS, own, strict=True)
    ]
    before = "that of its chemistry" if bank.battery.curve is None else "its own, measured before"
    return FittedFigure(
        "Own curve, furthest from its kind", "V", strays, max(strays - half, 0.0), strays + half,
        0.0, told,
        "" if told else f"It has the curve of its kind, within the ±{quantity(half, 'V', 2)} that "
        "a meter tells.",
        adoption(
            context, taken, "Curve of a battery", before,
            f"{len(points)} points, {number(own[0], 3)} to {quantity(float(own[-1]), 'V', 3)}",
            battery__curve=points,
        ) if told else None,
    )  # fmt: skip


def _why_not(bank: Bank, rows: Discharge) -> str:
    """Why a log does not show the whole curve; "" if it does."""
    label = bank_label(bank)
    shares, cell_v = np.array(chemistry_of(bank.battery).ocv).T
    few = max(len(rows.volts) // 50, 1)
    rested = rows.volts + rows.amps * rows.ohm
    begins, ends = rested[:few].mean() / label.cells, rested[-few:].mean() / label.cells
    if begins < np.interp(BEGINS_ABOVE, shares, cell_v):
        return "It does not begin full: log it from full to where it cuts out."
    if ends > np.interp(ENDS_BELOW, shares, cell_v):
        return "It does not end empty: log it from full to where it cuts out."
    if rows.in_ah > 0.02 * rows.out_ah[-1]:
        return "It is charged in between: log one discharge."
    if float(rows.amps.mean()) > SLOW_C * label.ah:
        return f"It is drawn at more than {quantity(SLOW_C, 'C', 2)}: log a slower discharge."
    return ""


def _at(charge: Floats, rested: Floats, point: float) -> tuple[float, float]:
    """Volts at a charge by a line through the rows around it, and their standard deviation."""
    near = np.abs(charge - point) <= WITHIN
    if near.sum() < MIN_ROWS_AT_POINT:
        near = np.zeros(len(charge), dtype=np.bool_)
        near[np.argsort(np.abs(charge - point))[:MIN_ROWS_AT_POINT]] = True
    x, y = charge[near] - point, rested[near]
    slope, volts = np.polyfit(x, y, 1)
    misses = y - (volts + slope * x)
    n = len(x)
    variance = float(misses @ misses) / max(n - 2, 1)
    spread = float(((x - x.mean()) ** 2).sum())
    chance = np.sqrt(variance * (1 / n + (x.mean() ** 2 / spread if spread else 0.0)))
    return float(volts), float(chance)

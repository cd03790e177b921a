"""A bank from a log of its volts and amps: charge, resistance, charge efficiency."""

from typing import Any, Final

import numpy as np

from graveljar.core.components.battery import bank_label, chemistry_of, resistance_factor
from graveljar.core.context import Context
from graveljar.core.model import Bank
from graveljar.core.readings.fit_curve import Discharge, fit_curve
from graveljar.core.readings.fitted import (
    MIN_ROWS,
    TOLD_WITHIN,
    Fit,
    FittedFigure,
    Floats,
    LogData,
    half_width,
)
from graveljar.core.readings.places import adoption, part_of
from graveljar.core.readings.reading import LogTaken
from graveljar.core.text import quantity

# Class of shunts and clamps that people own; common practice. [1]
METER_SHARE: Final = 0.01
# Charged in by this share of its charge, the efficiency of charging is fitted too. Ours. [1]
CHARGED: Final = 0.1
# Amps that vary by less than this share of their mean tell no resistance. Ours. [1]
VARIES: Final = 0.05
BOUNDS: Final = (0.2, 3.0)
# A log that draws less than this share of a charge does not tell it: how the curve of this battery
# differs from that of its kind would count for more. Ours. [1]
COVERED: Final = 0.5


def fit_bank(context: Context, subject: str, log: LogData) -> Fit:
    """Fit a bank's charge, resistance and state at the start to a log of its volts and amps.

    The model is that of the engine: open-circuit volts by charge, less amps times resistance, the
    charge counted. The interval counts noise, what one row has from the next, and the meter's own
    error on amps.

    Raises
    ------
    InvalidDocument : it is no bank.
    """
    bank: Bank = part_of(context, subject, Bank)
    hours = float(log.at_s[-1] - log.at_s[0]) / 3600 if len(log.at_s) else 0.0
    rows = int(log.count.sum())
    if log.volts is None or log.amps is None:
        return Fit((), ("A bank is fitted to volts and amps: this log has not both.",), rows, hours)
    good = np.isfinite(log.volts) & np.isfinite(log.amps)
    if good.sum() < MIN_ROWS:
        return Fit((), (f"It has fewer than {MIN_ROWS} rows with both figures.",), rows, hours)
    data = _Data(bank, log.at_s[good], log.count[good], log.volts[good], log.amps[good])
    taken = log.taken(subject)
    figures = _figures(context, bank, data, taken)
    remarks = list(data.remarks())
    return Fit(tuple(figures), tuple(remarks), rows, hours)


class _Data:
    """A log as the model reads it, and the model."""

    def __init__(
        self, bank: Bank, at_s: Floats, count: Floats, volts: Floats, amps: Floats
    ) -> None:
        self.bank, self.label = bank, bank_label(bank)
        self.at_s, self.count, self.volts, self.amps = at_s, count, volts, amps
        steps_h = np.diff(at_s) / 3600
        middle = (amps[1:] + amps[:-1]) / 2
        out, into = np.maximum(middle, 0.0), np.maximum(-middle, 0.0)
        # Ah out of and into it since the first row. [Ah]
        self.out_ah = np.concatenate([[0.0], np.cumsum(out * steps_h)])
        self.in_ah = np.concatenate([[0.0], np.cumsum(into * steps_h)])
        shares, cell_v = np.array(chemistry_of(bank.battery).ocv).T
        self.curve = shares, cell_v * self.label.cells
        self.charged = self.in_ah[-1] > CHARGED * self.label.ah

    def model(self, at: Floats) -> Floats:
        """Volts by charge [Ah], resistance [Ohm], charge at the start [1], charging efficiency."""
        ah, ohm, begin, efficiency = at
        share = begin - (self.out_ah - efficiency * self.in_ah) / ah
        found: Floats = np.asarray(np.interp(share, *self.curve) - self.amps * ohm)
        return found

    def fit(self) -> tuple[Floats, Floats]:
        """The best figures, and their standard deviations by chance."""
        # A part of a second to load, for this alone: a start must not wait for it.
        from scipy.optimize import least_squares  # noqa: PLC0415

        label = self.label
        start_v = self.volts[: max(len(self.volts) // 50, 1)].mean()
        begin = float(np.interp(start_v + self.amps[0] * label.resistance_ohm, *self.curve[::-1]))
        free = np.array([True, True, True, self.charged])
        first = np.array([label.ah, label.resistance_ohm, begin, 0.98])
        low = np.array([BOUNDS[0] * label.ah, 0.0, 0.0, 0.5])
        high = np.array([BOUNDS[1] * label.ah, 20 * label.resistance_ohm + 0.05, 1.0, 1.0])
        weight = np.sqrt(self.count / self.count.mean())
        best: Any = None
        # The curve is flat in its middle: from one start the search may rest there.
        for ah_times, at in ((1.0, begin), (0.8, 1.0), (1.2, 1.0), (0.6, begin)):
            start = first * (ah_times, 1.0, 1.0, 1.0)
            start[2] = min(max(at, 0.01), 1.0)

            def misses(x: Floats, start: Floats = start) -> Floats:
                whole = start.copy()
                whole[free] = x
                missed: Floats = np.asarray(weight * (self.model(whole) - self.volts))
                return missed

            found = least_squares(
                misses, np.clip(start, low + 1e-9, high - 1e-9)[free], x_scale=first[free],
                bounds=(low[free], high[free]), max_nfev=200,
            )  # fmt: skip
            if best is None or found.cost < best.cost:
                best = found
        values = first.copy()
        values[free] = np.asarray(best.x)
        sigma = np.full(4, np.inf)
        sigma[free] = _spread(best.jac, best.fun)
        return values, sigma

    def remarks(self) -> list[str]:
        """What is to be said of the log itself."""
        said = []
        gaps_s = np.diff(self.at_s)
        typical_s = float(np.median(gaps_s))
        longest_s = float(gaps_s.max())
        if longest_s > 20 * typical_s and longest_s > 600:
            gap = quantity(longest_s / 60, "min")
            said.append(f"There is a gap of {gap}: what flowed in it is a guess.")
        return said


def _spread(jacobian: Floats, misses: Floats) -> Floats:
    """Standard deviations of the fitted figures.

    Neighbouring rows that miss alike are no independent readings: their number is reduced by the
    correlation from one to the next.
    """
    count, width = jacobian.shape
    variance = float(misses @ misses) / max(count - width, 1)
    alike = float(np.corrcoef(misses[1:], misses[:-1])[0, 1]) if variance > 0 else 0.0
    alike = min(max(alike, 0.0), 0.99)
    inflated = variance * (1 + alike) / (1 - alike)
    normal = jacobian.T @ jacobian
    found: Floats = np.sqrt(np.maximum(np.diag(np.linalg.pinv(normal)), 0.0) * inflated)
    # A figure that the rows do not depend on is free.
    found[np.diag(normal) <= 0] = np.inf
    return found


def _figures(context: Context, bank: Bank, data: _Data, taken: LogTaken) -> list[FittedFigure]:
    values, sigma = data.fit()
    ah, ohm, begin, efficiency = (float(x) for x in values)
    label = data.label
    drawn = quantity(float(data.out_ah[-1]), "Ah")
    ah_half = half_width(float(sigma[0]), METER_SHARE, ah)
    told = ah_half < TOLD_WITHIN * ah and float(data.out_ah[-1]) > COVERED * ah
    per_battery = ah / bank.parallel
    found = [
        FittedFigure(
            "Charge", "Ah", ah, ah - ah_half, ah + ah_half, label.ah, told,
            "" if told else f"{drawn} drawn do not show both ends of its curve: log from full to "
            "where it cuts out.",
            adoption(
                context, taken, "Charge of a battery", quantity(bank.battery.ah, "Ah"),
                quantity(per_battery, "Ah", 4), decides=True, battery__ah=round(per_battery, 2),
            ) if told else None,
        )
    ]  # fmt: skip
    factor = resistance_factor(bank.battery, taken.air_c)
    ohm_half = half_width(float(sigma[1]), METER_SHARE, ohm)
    varies = float(np.std(data.amps)) > VARIES * abs(float(np.mean(data.amps)))
    told_ohm = varies and ohm > 0 and ohm_half < TOLD_WITHIN * ohm
    own = ohm / factor * bank.parallel / bank.series
    before = bank.battery.resistance_mohm
    found.append(
        FittedFigure(
            "Resistance", "mΩ", ohm * 1000, (ohm - ohm_half) * 1000, (ohm + ohm_half) * 1000,
            label.resistance_ohm * factor * 1000, told_ohm,
            "" if told_ohm else "A steady load tells no resistance: switch a large one on and off."
            if not varies else "Its volts are too noisy: switch a larger load on and off.",
            adoption(
                context, taken, "Resistance of a battery",
                "by the rule" if before is None else quantity(before, "mΩ"),
                quantity(own * 1000, "mΩ", 2), battery__resistance_mohm=round(own * 1000, 2),
            ) if told_ohm else None,
        )
    )  # fmt: skip
    begin_half = half_width(float(sigma[2]), 0.0, begin)
    found.append(
        FittedFigure(
            "Charge at the start", "share", begin, begin - begin_half, begin + begin_half, None,
            begin_half < TOLD_WITHIN, "" if begin_half < TOLD_WITHIN else "Begin it full.",
        )
    )  # fmt: skip
    sag_ohm = ohm if told_ohm else label.resistance_ohm * factor
    rows = Discharge(data.out_ah, float(data.in_ah[-1]), data.volts, data.amps, sag_ohm)
    found.append(fit_curve(context, bank, rows, taken))
    if data.charged:
        half = half_width(float(sigma[3]), METER_SHARE, efficiency)
        found.append(
            FittedFigure(
                "Charge taken up, of that put in", "share", efficiency, efficiency - half,
                min(efficiency + half, 1.0), None, half < TOLD_WITHIN, "",
            )
        )  # fmt: skip
    return found

"""Readings of a bank: rested volts, sag, a capacity test."""

from typing import Final

import numpy as np

from graveljar.core.components.battery import (
    bank_label,
    chemistry_of,
    peukert_exponent,
    resistance_factor,
    temperature_factor,
)
from graveljar.core.context import Context
from graveljar.core.model import Bank
from graveljar.core.readings.judged import Judged, Result, Verdict, result
from graveljar.core.readings.places import adoption, part_of
from graveljar.core.readings.reading import CapacityReading, RestedReading, SagReading
from graveljar.core.text import number, quantity

# Lead-acid rests so long before its volts tell its charge; lithium needs less. Common practice. [h]
LEAD_RESTS_H: Final = 4.0
LITHIUM_RESTS_H: Final = 1.0
# Between these shares LFP's volts say nothing: a meter is off by more than the curve. Common
# practice. [1]
FLAT_FROM: Final = 0.20
FLAT_TO: Final = 0.95
# A resistance so many times as expected is looked at, and is bad. Ours. [1]
MORE_OHM: Final = 1.5
FAR_MORE_OHM: Final = 3.0
# A battery with less of its label is weak, and worn out. Common practice. [1]
WEAK: Final = 0.95
WORN: Final = 0.80
# A test near this rate compares with a label; lead-acid's is its 20-hour rate. Common practice.
TEST_C: Final = 0.2
FAR_FROM_RATE: Final = 2.0


def rested(context: Context, reading: RestedReading) -> Judged:
    """Charge from rested volts, where they tell it."""
    bank: Bank = part_of(context, reading.subject, Bank)
    kind, label = chemistry_of(bank.battery), bank_label(bank)
    least_h = LITHIUM_RESTS_H if kind.lithium else LEAD_RESTS_H
    shares, cell_v = np.array(kind.ocv).T
    volts = reading.volts / label.cells
    expected = f"{number(cell_v[0] * label.cells)} to {quantity(label.full_v, 'V')}"
    if reading.rested_h < least_h:
        return Judged(
            "says nothing",
            f"After {quantity(reading.rested_h, 'h')} the volts still move.",
            expected,
            f"Leave it alone for {quantity(least_h, 'h')} or longer, nothing connected.",
            sources=(kind.ocv_source, "trade-bench"),
        )
    if volts < cell_v[0] * 0.98 or reading.volts > label.full_v * 1.02:
        return Judged(
            "bad", f"{quantity(reading.volts, 'V')} is no voltage of {label.cells} such cells.",
            expected, "Check the count of cells, the chemistry, and the meter.",
            sources=(kind.ocv_source,),
        )  # fmt: skip
    share = float(np.interp(volts, cell_v, shares))
    if kind.key == "lfp" and FLAT_FROM < share < FLAT_TO:
        low_v, high_v = (float(np.interp(x, shares, cell_v)) for x in (FLAT_FROM, FLAT_TO))
        return Judged(
            "says nothing",
            f"Between {number(low_v * label.cells, 4)} and "
            f"{quantity(high_v * label.cells, 'V', 4)} LFP may hold 20 to 95 %: a meter is off by "
            "more than the curve rises.",
            expected,
            "Count the Ah from full instead, or charge it full.",
            sources=(kind.ocv_source, "trade-bench"),
        )
    says = f"About {quantity(share, 'share', 2)} charged, by its rested volts."
    worked = f"{quantity(reading.volts, 'V')} ÷ {label.cells} cells = {quantity(volts, 'V', 4)}"
    found = Result("Charge", share, "share", f"{worked}, on the curve of {kind.name}")
    low = share < bank.reserve
    return Judged(
        "watch" if low else "good", says, expected, "Charge it soon." if low else "", (found,),
        sources=(kind.ocv_source, "trade-bench"),
    )  # fmt: skip


def sag(context: Context, reading: SagReading) -> Judged:
    """Resistance of a bank by Ohm's law, against that of the plan at this temperature."""
    bank: Bank = part_of(context, reading.subject, Bank)
    planned = bank_label(bank).resistance_ohm * resistance_factor(bank.battery, reading.air_c)
    expected = f"about {quantity(planned * 1000, 'mΩ', 2)}"
    fallen_v = reading.rest_v - reading.loaded_v
    if fallen_v <= 0:
        return Judged(
            "bad", "The volts do not fall under load: one of the two is wrong.", expected,
            "Measure both at the battery's posts, the second while it runs.", sources=("ohm",),
        )  # fmt: skip
    ohm = fallen_v / reading.amps
    found = result(
        "Resistance", ohm * 1000, "mΩ",
        f"({quantity(reading.rest_v, 'V', 4)} − {quantity(reading.loaded_v, 'V', 4)}) ÷ "
        f"{quantity(reading.amps, 'A')}",
    )  # fmt: skip
    # The design has it at 25 °C, of one battery.
    own = ohm / resistance_factor(bank.battery, reading.air_c) * bank.parallel / bank.series
    before = bank.battery.resistance_mohm
    adopt = adoption(
        context,
        reading,
        "Resistance of a battery",
        "by the rule" if before is None else quantity(before, "mΩ"),
        quantity(own * 1000, "mΩ", 2),
        battery__resistance_mohm=round(own * 1000, 2),
    )
    ratio = ohm / planned
    says = f"{quantity(ohm * 1000, 'mΩ', 2)}, {quantity(ratio, 'share', 2)} of the plan's."
    if ratio > MORE_OHM:
        do = "Clean and tighten posts and lugs, and measure again; a worn one sags more."
        verdict: Verdict = "bad" if ratio > FAR_MORE_OHM else "watch"
        return Judged(verdict, says, expected, do, (found,), (adopt,), ("ohm", "trade-bench"))
    return Judged("good", says, expected, "", (found,), (adopt,), ("ohm", "trade-bench"))


def capacity(context: Context, reading: CapacityReading) -> Judged:
    """Ah of a test against the label: as measured, and down to the battery's own end."""
    bank: Bank = part_of(context, reading.subject, Bank)
    battery, kind, label = bank.battery, chemistry_of(bank.battery), bank_label(bank)
    expected = f"{quantity(label.ah, 'Ah')} on its label"
    amps = reading.ah / reading.hours
    rate_c = amps / label.ah
    found = [
        result("Share of the label", reading.ah / label.ah, "share",
               f"{quantity(reading.ah, 'Ah', 5)} ÷ {quantity(label.ah, 'Ah')}"),
        result("Mean current", amps, "A",
               f"{quantity(reading.ah, 'Ah', 5)} ÷ {quantity(reading.hours, 'h', 4)}"),
    ]  # fmt: skip
    if reading.wh is not None:
        mean_v = reading.wh / reading.ah
        worked = f"{quantity(reading.wh, 'Wh', 5)} ÷ {quantity(reading.ah, 'Ah', 5)}"
        found.append(result("Mean volts", mean_v, "V", worked))
        if not 0.9 * label.empty_v <= mean_v <= 1.02 * label.full_v:
            return Judged(
                "bad",
                f"{quantity(reading.wh, 'Wh', 5)} and {quantity(reading.ah, 'Ah', 5)} make "
                f"{quantity(mean_v, 'V')} on average: one of them is wrong.",
                expected, "Read both again.", tuple(found), sources=("definition",),
            )  # fmt: skip
    whole_ah = _whole(bank, reading, amps)
    found.append(
        Result(
            "Down to its own end, at the label's rate and 25 °C", whole_ah, "Ah",
            f"with what was left at {quantity(reading.end_v, 'V')}, the air of "
            f"{quantity(reading.air_c, '°C')} and {quantity(rate_c, 'C', 2)} put right",
        )
    )  # fmt: skip
    share = whole_ah / label.ah
    says = (
        f"{quantity(reading.ah, 'Ah', 5)}: {quantity(reading.ah / label.ah, 'share', 2)} of its "
        f"label as tested, {quantity(share, 'share', 2)} down to its own end."
    )
    judged: Verdict = "good" if share >= WEAK else "watch" if share >= WORN else "bad"
    adopt = adoption(
        context, reading,
        "Charge of a battery", quantity(battery.ah, "Ah"),
        quantity(whole_ah / bank.parallel, "Ah", 4),
        decides=True, battery__ah=round(whole_ah / bank.parallel, 2),
    )  # fmt: skip
    sources = ("trade-bench", kind.capacity_source, *(() if kind.lithium else ("peukert",)))
    do = _how(reading, rate_c, TEST_C if kind.lithium else 1 / kind.rated_h)
    return Judged(judged, says, expected, do, tuple(found), (adopt,), sources)


def down_to_end(bank: Bank, reading: CapacityReading) -> float:
    """Charge down to the battery's own end, at the rate of a test and 25 °C. [Ah]"""
    label, amps = bank_label(bank), reading.ah / reading.hours
    shares, cell_v = np.array(chemistry_of(bank.battery).ocv).T
    ohm = label.resistance_ohm * resistance_factor(bank.battery, reading.air_c)
    left = float(np.interp((reading.end_v + amps * ohm) / label.cells, cell_v, shares))
    if reading.ended_by == "the battery":
        left = 0.0
    return reading.ah / max(1.0 - left, 0.05) / temperature_factor(bank.battery, reading.air_c)


def _whole(bank: Bank, reading: CapacityReading, amps: float) -> float:
    """Charge down to the battery's own end, at its label's rate and 25 °C. [Ah]"""
    battery, kind = bank.battery, chemistry_of(bank.battery)
    whole_ah = down_to_end(bank, reading)
    exponent = peukert_exponent(battery)
    # Peukert: t = H (C / (I H))^k, turned to C.
    hours = whole_ah / amps
    return float(amps * kind.rated_h * (hours / kind.rated_h) ** (1 / exponent))


def _how(reading: CapacityReading, rate_c: float, usual_c: float) -> str:
    """What to do better at the next test."""
    said = []
    if reading.ended_by == "an inverter":
        said.append("The inverter ended it, not the battery: this much you have with it.")
    elif reading.ended_by == "by hand":
        said.append("It was ended by hand: use an automatic cut-off.")
    if not 1 / FAR_FROM_RATE <= rate_c / usual_c <= FAR_FROM_RATE:
        said.append(
            f"{quantity(rate_c, 'C', 2)} is far from the usual {quantity(usual_c, 'C', 2)}: a "
            "slower test gives more, a faster one less."
        )
    said.append("Recharge it at once.")
    return " ".join(said)

"""Peukert's exponent of a battery, from capacity tests at several rates."""

import math
from collections.abc import Sequence
from dataclasses import replace
from typing import Final

import numpy as np

from graveljar.core.components.battery import chemistry_of, peukert_exponent
from graveljar.core.context import Context
from graveljar.core.model import Bank
from graveljar.core.readings.fitted import NINETY_FIVE
from graveljar.core.readings.judged import Judged, result
from graveljar.core.readings.of_banks import down_to_end
from graveljar.core.readings.places import adoption, part_of
from graveljar.core.readings.reading import AnyReading, CapacityReading
from graveljar.core.text import number, quantity

# Currents nearer to one another tell no exponent. Ours. [1]
MIN_RATIO: Final = 1.5
# What a shunt and a clock tell of charge and hours together; common practice. [1]
METER_SHARE: Final = 0.01
MIN_EXPONENT: Final = 1.0
MAX_EXPONENT: Final = 1.5


def with_exponent(
    context: Context, reading: CapacityReading, judged: Judged, others: Sequence[AnyReading]
) -> Judged:
    """A capacity test with the exponent that it gives together with others of the same bank.

    Notes
    -----
    t = H (C / (I H))^k, so that ln t falls by k with ln I: the slope of a straight line. Source:
    Peukert 1897.
    """
    bank: Bank = part_of(context, reading.subject, Bank)
    tests = {
        x for x in (reading, *others)
        if isinstance(x, CapacityReading) and x.subject == reading.subject
    }  # fmt: skip
    if chemistry_of(bank.battery).lithium or len(tests) < 2:
        return judged
    ordered = sorted(tests, key=lambda x: x.ah / x.hours)
    amps = np.array([x.ah / x.hours for x in ordered])
    if amps[-1] < MIN_RATIO * amps[0]:
        return judged
    hours = np.array([down_to_end(bank, x) / a for x, a in zip(ordered, amps, strict=True)])
    slope, _ = np.polyfit(np.log(amps), np.log(hours), 1)
    value = -float(slope)
    spread = np.sqrt(float(((np.log(amps) - np.log(amps).mean()) ** 2).sum()))
    half = NINETY_FIVE * METER_SHARE / spread
    worked = "; ".join(
        f"{quantity(float(a), 'A')} for {quantity(float(h), 'h')}"
        for a, h in zip(amps, hours, strict=True)
    )
    found = result("Peukert’s exponent", value, "", f"{worked}: ±{number(half, 2)}")
    if not MIN_EXPONENT - half <= value <= MAX_EXPONENT + half:
        says = (
            f"{judged.says} Together the tests give an exponent of {number(value, 3)}: a battery "
            f"has {number(MIN_EXPONENT)} to {number(MAX_EXPONENT)}, so one of them is wrong."
        )
        return replace(judged, verdict="bad", says=says, results=(*judged.results, found))
    kept = min(max(round(value, 3), MIN_EXPONENT), MAX_EXPONENT)
    before = peukert_exponent(bank.battery)
    adopt = judged.adopt
    if not math.isclose(kept, before, abs_tol=5e-4):
        one = adoption(
            context, reading, "Peukert’s exponent", number(before), number(kept, 4),
            battery__peukert=kept,
        )  # fmt: skip
        adopt = (*adopt, one)
    return replace(judged, results=(*judged.results, found), adopt=adopt)

"""Judges a reading by the design it was taken on: handbook rules, each with its source."""

from collections.abc import Callable, Sequence
from typing import Any, Final

from graveljar.core.context import Context
from graveljar.core.errors import InvalidDocument, Problem
from graveljar.core.readings.judged import Judged
from graveljar.core.readings.of_banks import capacity, rested, sag
from graveljar.core.readings.of_hours import lasted
from graveljar.core.readings.of_joints import changeover, heat, polarity, volts
from graveljar.core.readings.of_loads import energy, power
from graveljar.core.readings.of_looks import look
from graveljar.core.readings.of_stages import converter, idle, inverter, limit
from graveljar.core.readings.of_stations import given_out, taken_in, taper
from graveljar.core.readings.reading import AnyReading, CapacityReading
from graveljar.core.readings.several_rates import with_exponent

_JUDGES: Final[dict[str, Callable[[Context, Any], Judged]]] = {
    "volts": volts,
    "polarity": polarity,
    "rested": rested,
    "idle": idle,
    "power": power,
    "energy": energy,
    "lasted": lasted,
    "sag": sag,
    "converter": converter,
    "inverter": inverter,
    "heat": heat,
    "capacity": capacity,
    "station": given_out,
    "input": taken_in,
    "taper": taper,
    "changeover": changeover,
    "limit": limit,
    "look": look,
}


def judge_reading(
    context: Context, reading: AnyReading, others: Sequence[AnyReading] = ()
) -> Judged:
    """What a reading says of the design it was taken on, beside others of the same bench book.

    Raises
    ------
    InvalidDocument : there is no such part, or nothing of this kind can be measured on it.
    """
    if reading.subject not in context.network.names:
        message = f"“{reading.subject}” is no part of this design."
        raise InvalidDocument(message, (Problem("/reading/subject", "unknown_id", message),))
    judged = _JUDGES[reading.kind](context, reading)
    if isinstance(reading, CapacityReading):
        return with_exponent(context, reading, judged, others)
    return judged

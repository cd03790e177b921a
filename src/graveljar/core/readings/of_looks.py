"""Looks from a moment on: what was said, beside what then happened."""

from graveljar.core.context import Context
from graveljar.core.model import Bank, Station
from graveljar.core.readings.judged import Judged, result
from graveljar.core.readings.places import part_of
from graveljar.core.readings.reading import LookReading
from graveljar.core.text import duration, quantity


def look(context: Context, reading: LookReading) -> Judged:
    """What was said of a store, and how long it ran."""
    part_of(context, reading.subject, Bank, Station)
    said = "longer than simulated" if reading.said_h is None else duration(reading.said_h)
    likely = ""
    if reading.low_h is not None:
        top = "longer" if reading.high_h is None else duration(reading.high_h)
        likely = f", likely {duration(reading.low_h)} to {top}"
    if reading.was_h is None:
        return Judged("open", f"It said {said} left{likely}.", "", "Note how long it ran.")
    says = f"It said {said}{likely}; it was {duration(reading.was_h)}"
    if not reading.said_h:
        return Judged("watch", f"{says}.", "", _MEASURE)
    off = reading.was_h / reading.said_h - 1
    found = result(
        "Off by",
        off,
        "share",
        f"{quantity(reading.was_h, 'h')} ÷ {quantity(reading.said_h, 'h')} − 1",
    )
    says += f", {quantity(abs(off), 'share', 2)} {'more' if off > 0 else 'less'}."
    low_h, high_h = reading.low_h or 0.0, reading.high_h or float("inf")
    if low_h <= reading.was_h <= high_h:
        return Judged("good", f"{says} That is within the likely range.", "", "", (found,))
    return Judged("watch", says, "", _MEASURE, (found,))


_MEASURE = "Measure what the likely range depends on most, and look again."

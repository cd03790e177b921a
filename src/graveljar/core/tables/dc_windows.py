"""Volts that DC appliances take whose label states no window.

Vehicle equipment: 9 to 16 V for 12 V, 16 to 32 V for 24 V (ISO 16750-2, supply ranges, quoted
from memory). Regulated electronics: a tenth more or less than the label; common practice.
"""

from dataclasses import dataclass
from typing import Final

# Natures of appliances that are made for a vehicle's battery: fridge, pump, fan, lamp, radio.
VEHICLE_NATURES: Final = frozenset({"compressor", "motor", "lighting", "audio"})
ELECTRONICS_TOLERANCE: Final = 0.1


@dataclass(frozen=True)
class UsualWindow:
    """What is usually taken. [V]

    From `least_v` to `fits_to_v` without a thought; up to `most_v` its label has to say so; more
    may damage it.
    """

    least_v: float
    fits_to_v: float
    most_v: float


# Nominal volts from, to, and what vehicle equipment of them takes.
VEHICLE_CLASSES: Final = (
    (11.5, 14.0, UsualWindow(9.0, 15.0, 16.0)),
    (23.0, 28.0, UsualWindow(16.0, 30.0, 32.0)),
    # No standard of its own; common practice for a 48 V bank, within 60 V.
    (46.0, 54.0, UsualWindow(40.0, 58.4, 60.0)),
)


def usual_window(volts: float, nature: str) -> UsualWindow:
    """The window of a DC appliance by its nominal volts and nature.

    Examples
    --------
    >>> usual_window(12, "motor").fits_to_v, round(usual_window(12, "electronics").fits_to_v, 2)
    (15.0, 13.2)
    >>> round(usual_window(5, "charger").most_v, 2)
    5.5
    """
    least_v, fits_to_v = (
        volts * (1 - ELECTRONICS_TOLERANCE),
        volts * (1 + ELECTRONICS_TOLERANCE),
    )
    for low_v, high_v, vehicle in VEHICLE_CLASSES:
        if low_v <= volts < high_v:
            if nature in VEHICLE_NATURES:
                return vehicle
            return UsualWindow(least_v, fits_to_v, vehicle.most_v)
    return UsualWindow(least_v, fits_to_v, fits_to_v)

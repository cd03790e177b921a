"""Outlets and charge inputs as stations usually have them, to begin one with. Common practice."""

from typing import Final

# What the button says; a DC port's name, volts, amps, plug. USB-C by USB Power Delivery, quoted
# from memory: 20 V, and 3 or 5 A by the cable. [V], [A]
PORTS: Final = (
    ("12 V socket", "12 V socket", 12.6, 10.0, "vehicle socket"),
    ("12 V barrel", "12 V barrel", 12.6, 3.0, "barrel"),
    ("USB port", "USB port", 5.0, 2.4, "USB"),
    ("USB-C, 60 W", "USB-C port", 20.0, 3.0, "USB"),
    ("USB-C, 100 W", "USB-C port", 20.0, 5.0, "USB"),
)
# A charge input's name, the volts it accepts, amps, watts.
INPUTS: Final = (
    ("Car input", 11.0, 30.0, 8.0, 120.0),
    ("Solar input, to 28 V", 11.0, 28.0, 10.0, 200.0),
    ("Solar input, to 60 V", 12.0, 60.0, 15.0, 500.0),
)

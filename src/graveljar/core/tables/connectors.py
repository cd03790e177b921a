"""Connectors, bus bars and shunts by the amps of their class. Common practice."""

from dataclasses import dataclass
from typing import Final, Literal

ConnectorKey = Literal[
    "lugs",
    "barrel-3",
    "barrel-5",
    "barrel-8",
    "blade-terminal",
    "lever-splice",
    "panel-30",
    "pack-60",
    "pack-90",
    "usb-c-3",
    "usb-c-5",
    "vehicle-socket-10",
    "two-pole-30",
    "two-pole-45",
    "two-pole-50",
    "two-pole-60",
    "two-pole-75",
    "two-pole-90",
    "two-pole-175",
]


@dataclass(frozen=True)
class Connector:
    """A class of connector and its amps; lugs bolted tight carry what their cable does. [A]"""

    key: ConnectorKey
    name: str
    amps: float | None


CONNECTORS: Final = (
    Connector("lugs", "bolted lugs", None),
    Connector("barrel-3", "5.5 mm barrel, 3 A", 3.0),
    Connector("barrel-5", "5.5 mm barrel, 5 A", 5.0),
    Connector("barrel-8", "8 mm barrel, 8 A", 8.0),
    Connector("blade-terminal", "blade terminals, 15 A", 15.0),
    Connector("lever-splice", "lever splice, 32 A", 32.0),
    Connector("panel-30", "panel connector, 30 A", 30.0),
    # Hobby pack connectors by their label: half of it continuously.
    Connector("pack-60", "pack connector labelled 60 A, 30 A for long", 30.0),
    Connector("pack-90", "pack connector labelled 90 A, 45 A for long", 45.0),
    Connector("usb-c-3", "USB-C, 3 A", 3.0),
    Connector("usb-c-5", "USB-C, 5 A", 5.0),
    Connector("vehicle-socket-10", "vehicle socket, 10 A", 10.0),
    Connector("two-pole-30", "two-pole, 30 A", 30.0),
    Connector("two-pole-45", "two-pole, 45 A", 45.0),
    Connector("two-pole-50", "two-pole, 50 A", 50.0),
    Connector("two-pole-60", "two-pole, 60 A", 60.0),
    Connector("two-pole-75", "two-pole, 75 A", 75.0),
    Connector("two-pole-90", "two-pole, 90 A", 90.0),
    Connector("two-pole-175", "two-pole, 175 A", 175.0),
)

# Common sizes of bus bars and of shunts. [A]
BUS_BARS_A: Final = (100.0, 150.0, 200.0, 250.0, 300.0, 400.0, 500.0, 600.0, 800.0, 1_000.0)
SHUNTS_A: Final = (50.0, 100.0, 150.0, 200.0, 300.0, 500.0, 600.0, 1_000.0)

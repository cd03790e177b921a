"""What appliances usually draw and how long they run, where nobody has read the label yet.

All common practice, quoted from memory of the trade; a label or a meter beats every figure here.
Compressor fridges: 50 l run at 3 to 4.3 A, 100 l at 7 to 9 A of 12 V; full-size ones at 150 to
170 W. Compressors run 25 to 50 % of the time in mild weather, more when it is hot.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Final

import numpy as np

# Share of the time that a fridge's compressor runs at 25 °C, and how much more each K warmer.
FRIDGE_DUTY: Final = 0.35
DUTY_PER_K: Final = 0.015
MILD_C: Final = 25.0
# A freezer runs so many times as long as a fridge.
FREEZER_TIMES: Final = 1.3
MIN_DUTY: Final = 0.2
MAX_DUTY: Final = 0.9
# A portable fridge of so many litres draws so many watts while it runs, in between by line.
FRIDGE_LITRES_W: Final = ((20.0, 38.0), (50.0, 45.0), (100.0, 95.0), (250.0, 160.0))


@dataclass(frozen=True)
class UsualUse:
    """What an appliance usually takes. [W], [h a day]

    `volts` DC where it usually has a DC side, None for mains. `duty` is the share of that time.
    """

    watts: float
    hours: float
    volts: float | None = None
    duty: float = 1.0
    thermostat: bool = False


USUAL: Final[dict[str, UsualUse]] = {
    "fridge": UsualUse(160.0, 24.0, thermostat=True),
    "refrigerator": UsualUse(160.0, 24.0, thermostat=True),
    "freezer": UsualUse(130.0, 24.0, thermostat=True),
    "coolbox": UsualUse(45.0, 24.0, volts=12.0, thermostat=True),
    "cool box": UsualUse(45.0, 24.0, volts=12.0, thermostat=True),
    "cooler": UsualUse(45.0, 24.0, volts=12.0, thermostat=True),
    "router": UsualUse(8.0, 24.0, volts=12.0),
    "modem": UsualUse(8.0, 24.0, volts=12.0),
    "laptop": UsualUse(50.0, 4.0),
    "notebook": UsualUse(50.0, 4.0),
    "monitor": UsualUse(25.0, 5.0),
    "television": UsualUse(60.0, 3.0),
    "tv": UsualUse(60.0, 3.0),
    "cpap": UsualUse(35.0, 8.0),
    "oxygen concentrator": UsualUse(300.0, 24.0),
    "nebuliser": UsualUse(60.0, 0.75),
    "nebulizer": UsualUse(60.0, 0.75),
    "kettle": UsualUse(1_500.0, 0.25),
    "toaster": UsualUse(900.0, 0.1),
    "microwave": UsualUse(800.0, 0.2),
    "coffee machine": UsualUse(1_000.0, 0.25),
    "coffee maker": UsualUse(1_000.0, 0.25),
    "induction": UsualUse(1_800.0, 0.5),
    "hotplate": UsualUse(1_500.0, 0.5),
    "hairdryer": UsualUse(1_200.0, 0.1),
    "heater": UsualUse(1_000.0, 3.0, duty=0.5),
    "electric blanket": UsualUse(100.0, 8.0, duty=0.5),
    "diesel heater": UsualUse(25.0, 10.0, volts=12.0),
    "washing machine": UsualUse(2_000.0, 1.5, duty=0.35),
    "dishwasher": UsualUse(1_800.0, 1.5, duty=0.4),
    "vacuum": UsualUse(800.0, 0.25),
    "fan": UsualUse(20.0, 8.0, volts=12.0),
    "water pump": UsualUse(60.0, 0.3, volts=12.0),
    "bilge pump": UsualUse(40.0, 0.2, volts=12.0),
    "pump": UsualUse(60.0, 0.3, volts=12.0),
    "well pump": UsualUse(750.0, 0.5),
    "sump pump": UsualUse(500.0, 0.5),
    "air pump": UsualUse(5.0, 24.0),
    "lamp": UsualUse(8.0, 5.0),
    "light": UsualUse(8.0, 5.0),
    "dehumidifier": UsualUse(250.0, 24.0, thermostat=True),
    "alarm": UsualUse(5.0, 24.0, volts=12.0),
    "radio": UsualUse(10.0, 4.0, volts=12.0),
    "drill": UsualUse(700.0, 0.25),
    "saw": UsualUse(1_200.0, 0.25),
}  # fmt: skip


def usual_use(words: Iterable[str], litres: float | None, air_c: float) -> UsualUse | None:
    """What an appliance of some words usually takes; None where none of them is known.

    Parameters
    ----------
    words : Of its name. Phrases of two go before single words, later ones before earlier.
    litres : Of a fridge, if they are said. [l]
    air_c : Temperature around it: a compressor runs longer when it is hot. [°C]

    Examples
    --------
    >>> usual_use(["fridge"], 50.0, 25.0)
    UsualUse(watts=45.0, hours=24.0, volts=12.0, duty=0.35, thermostat=True)
    >>> usual_use(["sump", "pump"], None, 22.0).watts
    500.0
    """
    plain = [word.lower().strip(".:") for word in words]
    for end in range(len(plain), 0, -1):
        phrase, word = " ".join(plain[max(end - 2, 0) : end]), plain[end - 1]
        key = phrase if phrase in USUAL else word
        if key in USUAL:
            return _sized(USUAL[key], key, litres, air_c)
    return None


def _sized(use: UsualUse, key: str, litres: float | None, air_c: float) -> UsualUse:
    if not use.thermostat:
        return use
    watts, volts = use.watts, use.volts
    if litres is not None:
        watts = float(round(by_litres(litres)))
        # Up to 100 l they are portable ones of 12 V; common practice.
        volts = 12.0 if litres <= FRIDGE_LITRES_W[2][0] else None
    return UsualUse(watts, use.hours, volts, duty_at(air_c, freezer=key == "freezer"), True)


def by_litres(litres: float) -> float:
    """Watts of a fridge of so many litres while its compressor runs. [W]

    Examples
    --------
    >>> by_litres(75.0)
    70.0
    """
    sizes, watts = zip(*FRIDGE_LITRES_W, strict=True)
    return float(np.interp(litres, sizes, watts))


def duty_at(air_c: float, *, freezer: bool = False) -> float:
    """Share of the time a fridge's compressor runs in air of so many degrees. [1]

    Examples
    --------
    >>> duty_at(25.0), round(duty_at(35.0), 2), duty_at(-10.0)
    (0.35, 0.5, 0.2)
    """
    duty = FRIDGE_DUTY + DUTY_PER_K * (air_c - MILD_C)
    return min(max(duty * (FREEZER_TIMES if freezer else 1.0), MIN_DUTY), MAX_DUTY)

"""Words that tell what kind of appliance it is, and how it starts. Common practice."""

import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Final, Literal

Nature = Literal[
    "heating",
    "lighting",
    "electronics",
    "charger",
    "audio",
    "motor",
    "compressor",
    "tool",
    "medical",
]


@dataclass(frozen=True)
class ApplianceDefaults:
    """What a word implies. `charger` devices are given by their own battery.

    A `thermostat` runs day and night, at a third of the time if nothing else is said. `glow_w` is
    what it takes for some minutes at its start. [W]
    """

    nature: Nature
    cooking_watts: bool = False
    thermostat: bool = False
    glow_w: float | None = None


def _words(nature: Nature, words: str) -> dict[str, ApplianceDefaults]:
    return {word: ApplianceDefaults(nature) for word in words.split()}


def _phrases(nature: Nature, phrases: str) -> dict[str, ApplianceDefaults]:
    return {phrase.strip(): ApplianceDefaults(nature) for phrase in phrases.split(",")}


# Diesel heaters: 100 to 130 W while their plug glows; common practice.
_GLOWS: Final = ApplianceDefaults("heating", glow_w=120.0)

APPLIANCES: Final[Mapping[str, ApplianceDefaults]] = MappingProxyType(
    {
        word: ApplianceDefaults("compressor", thermostat=True)
        for word in ("fridge", "freezer", "refrigerator", "cooler", "coolbox", "dehumidifier",
                     "conditioner", "aircon")
    }
    | _words("compressor", "compressor")
    | _words("motor", "motor pump fan blower washer mixer sewing winch dishwasher")
    | _words("tool", "drill saw grinder sander router-tool jigsaw planer tool vacuum hoover "
                     "blender")
    | _words("heating", "kettle heater toaster iron cooker hotplate blanket oven haze warmer "
                        "dryer hairdryer grill fryer induction")
    | _words("lighting", "lamp lamps light lights bulb led bar bars spotlight")
    | _words("audio", "amplifier amp speaker speakers radio mixer-desk receiver receivers stereo")
    | _words("charger", "phone tablet laptop charger notebook camera")
    | _words("medical", "cpap bipap apap ventilator oxygen concentrator nebuliser nebulizer "
                        "medical")
    | _words("electronics", "welder")
    # What two words say together goes before what each says alone.
    | _phrases("compressor", "ice maker, air conditioner, heat pump")
    | _phrases("motor", "washing machine, sewing machine, tumble dryer, air pump, bilge pump")
    | _phrases("heating", "heat lamp, coffee machine, coffee maker, heat gun")
    | _phrases("medical", "feeding pump, infusion pump, breast pump")
    | {"diesel heater": _GLOWS, "parking heater": _GLOWS, "air heater": _GLOWS}
    | {"microwave": ApplianceDefaults("heating", cooking_watts=True)}
)  # fmt: skip

# What a stepped wave may make fail, run hot or lose its control: common practice.
STEPS_MAY_HARM: Final = re.compile(
    r"blanket|dimm|induction|microwave|laser printer|thermostat", re.IGNORECASE
)


def appliance_defaults(words: Iterable[str]) -> ApplianceDefaults | None:
    """The kind of appliance some words name: the last that says one, phrases before words.

    Examples
    --------
    >>> names = ("bar fridge", "fan heater", "heat lamp", "pump")
    >>> [appliance_defaults(x.split()).nature for x in names]
    ['compressor', 'heating', 'heating', 'motor']
    """
    plain = [word.lower().strip(".:") for word in words]
    for end in range(len(plain), 0, -1):
        phrase, word = " ".join(plain[max(end - 2, 0) : end]), plain[end - 1]
        if phrase in APPLIANCES or word in APPLIANCES:
            return APPLIANCES.get(phrase) or APPLIANCES[word]
    return None

"""Words that tell what kind of appliance it is, and how it starts. Common practice."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Final

from graveljar.core.document import Nature


@dataclass(frozen=True)
class Habit:
    """What a word implies. `charger` devices are given by their own battery.

    A `thermostat` runs day and night, at a third of the time if nothing else is said.
    """

    nature: Nature
    cooking_watts: bool = False
    thermostat: bool = False


def _words(nature: Nature, words: str) -> dict[str, Habit]:
    return {word: Habit(nature) for word in words.split()}


APPLIANCES: Final[Mapping[str, Habit]] = MappingProxyType(
    {
        word: Habit("compressor", thermostat=True)
        for word in ("fridge", "freezer", "refrigerator", "cooler", "coolbox")
    }
    | _words("compressor", "compressor")
    | _words("motor", "motor pump fan blower washer mixer sewing")
    | _words("tool", "drill saw grinder sander router-tool jigsaw planer tool")
    | _words("heating", "kettle heater toaster iron cooker hotplate blanket oven haze warmer")
    | _words("lighting", "lamp lamps light lights bulb led bar bars spotlight")
    | _words("audio", "amplifier amp speaker speakers radio mixer-desk receiver receivers stereo")
    | _words("charger", "phone tablet laptop charger notebook camera")
    | _words("medical", "cpap ventilator oxygen nebuliser nebulizer medical")
    | {"microwave": Habit("heating", cooking_watts=True)}
)

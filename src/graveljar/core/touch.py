"""Direct current that must not be touched."""

from typing import Final

from graveljar.core.document import Bank
from graveljar.core.facts import Facts

# Dry, and in wet places. IEC 61140, from memory. [V]
DRY_TOUCH_V: Final = 60.0
WET_TOUCH_V: Final = 30.0


def is_wet(facts: Facts, bank: Bank) -> bool:
    """Whether a bank stands where it may be wet: outside, or on a boat."""
    return bank.location == "outside" or facts.design.setting.place == "boat"

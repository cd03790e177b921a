"""Which direct current must not be touched where it is."""

from graveljar.core.model import Bank, Setting
from graveljar.core.tables.touch import DRY_TOUCH_V, WET_TOUCH_V


def touch_v(setting: Setting, bank: Bank | None) -> float:
    """Volts from which nobody may touch it: fewer where a bank is outside, or on a boat. [V]"""
    outside = bank is not None and bank.location == "outside"
    wet = outside or setting.place == "boat"
    return WET_TOUCH_V if wet else DRY_TOUCH_V

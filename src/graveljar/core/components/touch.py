"""Which direct current must not be touched where it is."""

from graveljar.core.model import Bank, Setting
from graveljar.core.tables.touch import DRY_TOUCH_V, WET_TOUCH_V


def touch_v(setting: Setting, bank: Bank | None) -> float:
    """Direct voltage above which nobody may touch a part: lower outside, or on a boat.

    Parameters
    ----------
    setting : Where the design is built.
    bank : The bank in question; None for another part.

    Returns
    -------
    Volts. [V]

    Notes
    -----
    Source: IEC 61140 and 60364-4-41, from memory.

    Examples
    --------
    >>> touch_v(Setting(place="boat"), None)
    30.0
    """
    outside = bank is not None and bank.location == "outside"
    wet = outside or setting.place == "boat"
    return WET_TOUCH_V if wet else DRY_TOUCH_V

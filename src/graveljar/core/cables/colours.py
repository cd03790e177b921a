"""Colours of conductors, by what is the custom where a design is built."""

from dataclasses import dataclass
from typing import Final

from graveljar.core.model import Setting

# Mains up to so many volts is that of North America and those who have its colours. [V]
AMERICAN_V: Final = 130.0


@dataclass(frozen=True)
class Colours:
    """Colours of plus and minus of direct current, and in words, mains too."""

    plus: str
    minus: str
    words: str


def colours_of(setting: Setting) -> Colours:
    """The colours of conductors by custom.

    Parameters
    ----------
    setting : Where a design is built, and its mains.

    Returns
    -------
    Colours of plus and minus, and sentences that say them, and those of mains there and elsewhere.

    Notes
    -----
    NEC 200.6 and 250.119, IEC 60446 (now in 60445), ABYC E-11: yellow for minus on boats, as black
    is hot in North American mains. From memory.

    Examples
    --------
    >>> colours_of(Setting(place="boat")).minus
    'yellow'
    """
    american = setting.ac_volts <= AMERICAN_V
    minus = "yellow" if setting.place == "boat" else "black"
    direct = f"Direct current: red is plus, {minus} is minus."
    if minus == "yellow":
        direct += " Older boats have black for minus."
    here = "black is hot, white neutral, green or bare earth"
    there = "brown is hot, blue neutral, green-yellow earth"
    if not american:
        here, there = there, here
    where = "elsewhere" if american else "in North America"
    mains = f"Mains here: {here}; {where} {there}."
    return Colours("red", minus, f"{direct} {mains} Label both ends: colours alone mislead.")

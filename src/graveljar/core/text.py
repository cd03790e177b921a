"""Numbers and hours as people write them, for sentences."""

import math
from decimal import ROUND_HALF_UP, Decimal
from functools import lru_cache

THIN_SPACE = "\u202f"


def number(value: float, digits: int = 3) -> str:
    """Give a value to `digits` significant figures, never more than one needs.

    Halves are rounded away from zero, as browsers do: the same figure looks the same everywhere.

    Examples
    --------
    >>> number(125.0), number(0.4567), number(19.96), number(7.8125), number(20.5, 2)
    ('125', '0.457', '20', '7.81', '21')
    """
    return _number(value, digits)


# From one edit to the next most figures stay as they are.
@lru_cache(maxsize=8192)
def _number(value: float, digits: int) -> str:
    if value == 0 or not math.isfinite(value):
        return "0" if value == 0 else "unlimited"
    places = digits - 1 - math.floor(math.log10(abs(value)))
    rounded = Decimal(value).quantize(Decimal(1).scaleb(-places), ROUND_HALF_UP)
    text = f"{rounded:.{max(places, 0)}f}"
    whole, dot, rest = text.partition(".")
    if len(whole.lstrip("-")) > 3:
        whole = f"{int(whole):,}".replace(",", THIN_SPACE)
    rest = rest.rstrip("0")
    return whole + (dot + rest if rest else "")


def quantity(value: float, unit: str, digits: int = 3) -> str:
    """Give a value with its unit; shares in per cent.

    Examples
    --------
    >>> quantity(0.125, "share"), quantity(12.8, "V")
    ('12.5 %', '12.8 V')
    """
    if unit == "share":
        return f"{number(value * 100, digits)} %"
    return f"{number(value, digits)} {unit}"


def beyond(value: float, limit: float, unit: str, digits: int = 3) -> tuple[str, str]:
    """Give a figure and the limit it exceeds with as many digits as tell them apart.

    Examples
    --------
    >>> beyond(14.7, 14.673, "V"), beyond(120.0, 100.0, "A")
    (('14.7 V', '14.67 V'), ('120 A', '100 A'))
    """
    for more in range(digits, digits + 6):
        said = quantity(value, unit, more), quantity(limit, unit, more)
        if said[0] != said[1]:
            return said
    return quantity(value, unit, digits), quantity(limit, unit, digits)


def duration(hours: float) -> str:
    """Give hours as days, hours and minutes, two of them at most.

    Examples
    --------
    >>> duration(41.2), duration(0.3), duration(3.5), duration(200)
    ('1 day 17 h', '18 min', '3 h 30 min', '8 days 8 h')
    """
    if hours < 23.99:
        minutes = math.floor(hours * 60 + 0.5)
        whole, rest = divmod(minutes, 60)
        if not whole:
            return f"{rest} min"
        return f"{whole} h {rest} min" if rest else f"{whole} h"
    days, rest = divmod(math.floor(hours + 0.5), 24)
    unit = "day" if days == 1 else "days"
    return f"{days} {unit} {rest} h" if rest and days < 100 else f"{days} {unit}"


def a_day(hours: float) -> str:
    """Give hours out of a day; a whole day is 24 h.

    Examples
    --------
    >>> a_day(24), a_day(0.3)
    ('24 h', '18 min')
    """
    return "24 h" if hours == 24 else duration(hours)


def listed(names: list[str]) -> str:
    """Join names with commas and a last "and".

    Examples
    --------
    >>> listed(["kettle", "fan", "lamp"])
    'kettle, fan and lamp'
    """
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"

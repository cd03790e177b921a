"""Sun on a panel: from sunrise to sunset, and how a day's sun hours are spread between."""

import math

from graveljar.core.errors import OutOfRange
from graveljar.core.model import Sun

# The day of the year whose sun stands for a month. Klein 1977, from memory.
MIDDLE_DAYS = (17, 47, 75, 105, 135, 162, 198, 228, 258, 288, 318, 344)


def daylight_hours(latitude: float, month: int) -> float:
    """Hours from sunrise to sunset in the middle of a month.

    Parameters
    ----------
    latitude : North positive, -90 to 90. [°]
    month : 1 to 12.

    Returns
    -------
    Hours, 0 (polar night) to 24. [h]

    Raises
    ------
    OutOfRange : an argument leaves its range.

    Notes
    -----
    Declination by Cooper 1969; cos w = -tan(latitude) tan(declination). From memory. Without the
    refraction and the size of the sun, which add some ten minutes.

    Examples
    --------
    >>> round(daylight_hours(50.0, 6), 1), round(daylight_hours(50.0, 12), 1)
    (16.1, 7.9)
    """
    if not -90 <= latitude <= 90 or not 1 <= month <= 12:
        raise OutOfRange("A latitude must be -90 to 90 degrees, a month 1 to 12.")
    turn = 2 * math.pi * (284 + MIDDLE_DAYS[month - 1]) / 365
    declination = math.radians(23.45) * math.sin(turn)
    cosine = -math.tan(math.radians(latitude)) * math.tan(declination)
    return 24.0 / math.pi * math.acos(min(max(cosine, -1.0), 1.0))


def mean_sun(sun_hours: float, daylight_h: float, begin_h: float, end_h: float) -> float:
    """Mean sun in a stretch of a day: its sun hours as a half sine from sunrise to sunset.

    Parameters
    ----------
    sun_hours : Of the day, >= 0. [kWh/m2]
    daylight_h : From sunrise to sunset, the middle at 12:00, 0 to 24. [h]
    begin_h, end_h : The stretch, 0 to 24, begin first. [h]

    Returns
    -------
    Sun on the plane, >= 0. [kW/m2]

    Notes
    -----
    The integral of a half sine. Near the course of a clear day; ours.

    Examples
    --------
    >>> round(sum(mean_sun(4.0, 10.0, h, h + 1) for h in range(24)), 6)
    4.0
    """
    rise = 12.0 - daylight_h / 2
    if daylight_h <= 0.0 or end_h <= rise or begin_h >= rise + daylight_h:
        return 0.0
    first, last = (
        math.cos(math.pi * (min(max(h - rise, 0.0), daylight_h)) / daylight_h)
        for h in (begin_h, end_h)
    )
    return sun_hours * (first - last) / 2 / (end_h - begin_h)


def array_watts(sun: Sun) -> float:
    """Power of all panels by their labels.

    Parameters
    ----------
    sun : The panels.

    Returns
    -------
    Watts, > 0. [W]

    Notes
    -----
    Definition.

    Examples
    --------
    >>> array_watts(Sun(series=2, parallel=3))
    600.0
    """
    return sun.panel.watts * sun.series * sun.parallel


def array_amps(sun: Sun, kw_per_m2: float) -> float:
    """Current of all panels at the volts of most power. [A]

    Parameters
    ----------
    sun : The panels.
    kw_per_m2 : Sun on their plane, >= 0. [kW/m2]

    Returns
    -------
    Amps after dirt, heat, wires and shade. [A]

    Notes
    -----
    Definition.

    Examples
    --------
    >>> round(array_amps(Sun(yields=0.8), 0.5) * 18.6, 6)
    40.0
    """
    watts = array_watts(sun) * kw_per_m2 * sun.yields * (1 - sun.shaded)
    return watts / (sun.panel.vmp_v * sun.series)


def cold_volts(sun: Sun, coldest_c: float) -> float:
    """Highest volts of an array: open, in the cold.

    Parameters
    ----------
    sun : The panels.
    coldest_c : Coldest air. [°C]

    Returns
    -------
    Volts. [V]

    Notes
    -----
    By the label's coefficient; without one by NEC table 690.7(A) for crystalline silicon, from
    memory.

    Examples
    --------
    >>> round(cold_volts(Sun(), -5.0), 2)  # 22.3 V x 1.12
    24.98
    >>> from graveljar.core.model import Panel
    >>> round(cold_volts(Sun(panel=Panel(voc_per_c=-0.003)), -5.0), 2)  # 22.3 V x 1.09
    24.31
    """
    open_v = sun.panel.voc_v * sun.series
    if coldest_c >= 25:
        return open_v
    if sun.panel.voc_per_c is not None:
        return open_v * (1 + sun.panel.voc_per_c * (coldest_c - 25))
    return open_v * next(factor for least_c, factor in COLD_VOC if coldest_c >= least_c)


# NEC table 690.7(A), from memory: Voc of crystalline silicon down to an air of so many degrees;
# between those quoted in steps of five degrees. [°C], [1]
COLD_VOC = (
    (20, 1.02), (15, 1.04), (10, 1.06), (5, 1.08), (0, 1.10), (-5, 1.12), (-10, 1.14),
    (-15, 1.16), (-20, 1.18), (-25, 1.20), (-30, 1.21), (-35, 1.23), (-40, 1.25),
)  # fmt: skip


def hot_volts(sun: Sun, hottest_c: float) -> float:
    """Volts of most power with hot panels.

    Parameters
    ----------
    sun : The panels.
    hottest_c : Hottest air. [°C]

    Returns
    -------
    Volts. [V]

    Notes
    -----
    Cells some 30 K above the air in full sun lose 0.45 % a degree; common practice.

    Examples
    --------
    >>> round(hot_volts(Sun(), 35.0), 1)
    15.3
    """
    return sun.panel.vmp_v * sun.series * (1 - 0.0045 * max(hottest_c + 30 - 25, 0.0))

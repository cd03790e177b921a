"""Sun hours on a tilted panel from a year of hourly light."""

from dataclasses import dataclass
from typing import Final

import numpy as np

from graveljar.core.components.sun_place import GROUND
from graveljar.core.errors import OutOfRange
from graveljar.core.kernel.records import Floats, Ints

# Share of the days of a year that count as its dull, or its bright ones. Ours. [1]
FIFTH: Final = 0.2
_MONTHS: Final = 12
_YEAR: Final = 2024
_DAYS: Final = (31, 29, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31)


@dataclass(frozen=True)
class SunFrom:
    """Where light was measured [°], [h]: east and ahead of UTC positive; hours end at theirs."""

    latitude: float
    longitude: float = 0.0
    zone_h: float = 0.0


@dataclass(frozen=True)
class HourlySun:
    """Sun hours a day by month, January first, and how days differ from their month's mean.

    `flat` is None where only light on the panel is known. [kWh/m2], [1]
    """

    flat: tuple[float, ...] | None
    plane: tuple[float, ...]
    dull: float
    bright: float
    days: int


def sun_of_plane(month: Ints, day: Ints, watts: Floats) -> HourlySun:
    """Sun hours from hourly light on the panel itself.

    Parameters
    ----------
    month, day : Of each hour, 1 to 12 and 1 to 31. Shapes (N,)
    watts : Mean light of each hour, >= 0. [W/m2], shape (N,)

    Returns
    -------
    Sun hours by month.

    Raises
    ------
    OutOfRange : a month has no hours.

    Notes
    -----
    Definition: kWh/m2 are hours of full sun.

    Examples
    --------
    >>> month = np.repeat(np.arange(1, 13), 24)
    >>> light = np.tile(np.where(np.arange(24) < 8, 500.0, 0.0), 12)
    >>> sun_of_plane(month, np.ones(288, dtype=np.int64), light).plane[0]
    4.0
    """
    plane, dull, bright, days = _by_month(month, day, watts)
    return HourlySun(None, plane, dull, bright, days)


def sun_of_sky(
    month: Ints, day: Ints, hour: Ints, sky: Floats, at: SunFrom, tilt: float, azimuth: float
) -> HourlySun:
    """Sun hours on a panel from hourly light of the sky.

    Parameters
    ----------
    month, day, hour : Of each hour; it ends at `hour`, 1 to 24, in standard time. Shapes (N,)
    sky : Light on the flat, of the sun itself, of the rest of the sky. [W/m2], shape (N, 3)
    at : Where it was measured.
    tilt : Of the panel from the flat, 0 to 90. [°]
    azimuth : Where it faces, from north over east, 0 to 360. [°]

    Returns
    -------
    Sun hours by month.

    Raises
    ------
    OutOfRange : a month has no hours.

    Notes
    -----
    pvlib: the sun's place at the middle of each hour, turned to the plane by Hay and Davies 1980.

    Examples
    --------
    >>> month, day = np.arange(1, 13), np.ones(12, dtype=np.int64)
    >>> noon = np.tile([300.0, 500.0, 100.0], (12, 1))  # an hour of light in each month
    >>> sun_of_sky(month, day, 12 * day, noon, SunFrom(50.0), 0.0, 180.0).flat[0]
    0.3
    """
    too_late = day > np.array(_DAYS)[month - 1]
    if too_late.any():
        n = int(np.argmax(too_late))
        raise OutOfRange(f"Month {month[n]} has no day {day[n]}.")
    # Two seconds to load, for this alone.
    import pandas as pd  # noqa: PLC0415
    from pvlib import irradiance, solarposition  # noqa: PLC0415

    dates = pd.to_datetime(pd.DataFrame({"year": _YEAR, "month": month, "day": day}))
    times = pd.DatetimeIndex(dates + pd.to_timedelta(hour - 0.5 - at.zone_h, unit="h"), tz="UTC")
    sun = solarposition.get_solarposition(times, at.latitude, at.longitude)
    total = irradiance.get_total_irradiance(
        tilt, azimuth, sun["apparent_zenith"].to_numpy(), sun["azimuth"].to_numpy(),
        sky[:, 1], sky[:, 0], sky[:, 2],
        dni_extra=irradiance.get_extra_radiation(times.day_of_year.to_numpy()),
        albedo=GROUND, model="haydavies",
    )  # fmt: skip
    on_plane = np.maximum(np.nan_to_num(np.asarray(total["poa_global"])), 0.0)
    flat, _, _, _ = _by_month(month, day, sky[:, 0])
    plane, dull, bright, days = _by_month(month, day, on_plane)
    return HourlySun(flat, plane, dull, bright, days)


def _by_month(month: Ints, day: Ints, watts: Floats) -> tuple[tuple[float, ...], float, float, int]:
    """Mean of a day by month [kWh/m2]; dull and bright days over that [1]; how many days."""
    of_day = 32 * month + day
    dates, place = np.unique(of_day, return_inverse=True)
    sums = np.bincount(place, watts) / 1000.0
    months = dates // 32
    missing = sorted(set(range(1, _MONTHS + 1)) - set(months.tolist()))
    if missing:
        raise OutOfRange(f"There are no hours of month {missing[0]}. A whole year is needed.")
    means = np.array([sums[months == m].mean() for m in range(1, _MONTHS + 1)])
    lit = means[months - 1] > 0.0
    shares = np.sort(sums[lit] / means[months - 1][lit])
    fifth = max(int(FIFTH * len(shares)), 1)
    dull, bright = (
        (float(shares[:fifth].mean()), float(shares[-fifth:].mean())) if len(shares) else (1.0, 1.0)
    )
    figures = tuple(round(float(x), 4) for x in means)
    return figures, round(dull, 2), round(bright, 2), len(dates)

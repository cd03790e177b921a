"""Sun hours on a tilted panel from a place and how clear its sky is, month by month."""

from dataclasses import dataclass
from functools import lru_cache
from typing import Final

import numpy as np

from graveljar.core.components.sunlight import MIDDLE_DAYS
from graveljar.core.errors import OutOfRange
from graveljar.core.kernel.records import Floats
from graveljar.core.model.sources import FLAT_AT_50_NORTH

# Of a clear day's sun on the flat, what a dull one has. Ours. [1]
DULL_SHARE: Final = 0.25
# Share of the light that light ground throws back. Common practice. [1]
GROUND: Final = 0.2
# A sun lower than this, as the sine of its height, sends no direct light. Ours. [1]
LOWEST_SUN: Final = 0.02
_STEPS_A_DAY: Final = 96


@dataclass(frozen=True)
class PlaceSun:
    """Sun hours a day by month, January first: of a clear sky, flat, on the plane. [kWh/m2]

    `clearness` is what they were worked out with. [1]
    """

    clearness: tuple[float, ...]
    clear: tuple[float, ...]
    flat: tuple[float, ...]
    plane: tuple[float, ...]


def sun_of_place(
    latitude: float, tilt: float, azimuth: float, clearness: tuple[float, ...]
) -> PlaceSun:
    """Sun hours on a panel, from days that are either clear or dull.

    Parameters
    ----------
    latitude : North positive, -90 to 90. [°]
    tilt : Of the panel from the flat, 0 to 90. [°]
    azimuth : Where it faces, from north over east, 0 to 360. [°]
    clearness : By month, January first, 0 to 1: the mean horizontal sun over that of a clear sky.
        Twelve. [1]

    Returns
    -------
    Sun hours by month.

    Raises
    ------
    OutOfRange : an argument leaves its range.

    Notes
    -----
    pvlib: a clear sky (simplified Solis), and dull days with a quarter of its horizontal sun,
    divided into direct and diffuse light by Erbs 1982, both turned to the plane by Hay and Davies
    1980. So many of each that their mean horizontal sun is the clearness; a tilted clear-sky yield
    is never scaled. The longitude only shifts the clock.

    Examples
    --------
    >>> june = sun_of_place(50.0, 0.0, 180.0, (0.6,) * 12)
    >>> round(june.flat[5] / june.clear[5], 2)
    0.6
    """
    in_range = -90 <= latitude <= 90 and 0 <= tilt <= 90 and 0 <= azimuth <= 360
    if not in_range or len(clearness) != 12 or not all(0 <= x <= 1 for x in clearness):
        raise OutOfRange(
            "A latitude must be -90 to 90, a tilt 0 to 90 and an azimuth 0 to 360 degrees; "
            "clearness twelve shares from 0 to 1."
        )
    clear, clear_plane, dull_plane = _skies(latitude, tilt, azimuth)
    shares = np.array(clearness)
    # Below what a dull day has every day is as dull, with less of it.
    dim = np.minimum(shares / DULL_SHARE, 1.0)
    sunny = np.maximum((shares - DULL_SHARE) / (1.0 - DULL_SHARE), 0.0)
    plane = sunny * clear_plane + (1.0 - sunny) * dim * dull_plane
    return PlaceSun(clearness, _figures(clear), _figures(shares * clear), _figures(plane))


def usual_clearness() -> tuple[float, ...]:
    """Clearness by month where nothing is known: that of the usual sun hours at 50° north.

    Returns
    -------
    Twelve shares, January first. [1]

    Examples
    --------
    >>> 0.4 < min(usual_clearness()) < max(usual_clearness()) < 0.7
    True
    """
    clear, _, _ = _skies(50.0, 0.0, 180.0)
    return _figures(np.array(FLAT_AT_50_NORTH) / clear)


def _figures(values: Floats) -> tuple[float, ...]:
    return tuple(round(float(x), 3) for x in values)


@lru_cache(maxsize=64)
def _skies(latitude: float, tilt: float, azimuth: float) -> tuple[Floats, Floats, Floats]:
    """Sums of a day in each month: clear and flat, clear and dull on the plane. Shapes (12,)"""
    # Two seconds to load, for this alone: a start must not wait for it.
    import pandas as pd  # noqa: PLC0415
    from pvlib import clearsky, irradiance, solarposition  # noqa: PLC0415
    from pvlib.atmosphere import get_relative_airmass  # noqa: PLC0415

    days = [pd.Timestamp("2025-01-01", tz="UTC") + pd.Timedelta(days=d - 1) for d in MIDDLE_DAYS]
    step = pd.Timedelta(days=1) / _STEPS_A_DAY
    times = pd.DatetimeIndex([day + step * (n + 0.5) for day in days for n in range(_STEPS_A_DAY)])
    sun = solarposition.get_solarposition(times, latitude, 0.0)
    up = (sun["apparent_elevation"] > 0).to_numpy()
    of_year = np.repeat(np.array(MIDDLE_DAYS), _STEPS_A_DAY)
    beyond = irradiance.get_extra_radiation(of_year)
    sky = clearsky.simplified_solis(sun["apparent_elevation"], dni_extra=beyond)
    ghi, dhi = (np.where(up, sky[x].to_numpy(), 0.0) for x in ("ghi", "dhi"))
    # So that direct and diffuse light add up to that on the flat.
    across = np.cos(np.radians(sun["zenith"].to_numpy()))
    dni = np.where(across > LOWEST_SUN, (ghi - dhi) / np.maximum(across, LOWEST_SUN), 0.0)
    dull = DULL_SHARE * ghi
    parts = irradiance.erbs(dull, sun["zenith"].to_numpy(), of_year)
    zenith, facing = sun["apparent_zenith"].to_numpy(), sun["azimuth"].to_numpy()
    mass = get_relative_airmass(np.minimum(zenith, 89.0))

    def on_plane(direct: Floats, flat: Floats, diffuse: Floats) -> Floats:
        total = irradiance.get_total_irradiance(
            tilt, azimuth, zenith, facing, direct, flat, diffuse, dni_extra=beyond, airmass=mass,
            albedo=GROUND, model="haydavies",
        )  # fmt: skip
        return _sums(np.where(up, np.asarray(total["poa_global"]), 0.0))

    dull_dni, dull_dhi = (np.nan_to_num(np.asarray(parts[x])) for x in ("dni", "dhi"))
    return _sums(ghi), on_plane(dni, ghi, dhi), on_plane(dull_dni, dull, dull_dhi)


def _sums(watts: Floats) -> Floats:
    """kWh/m2 of each day from W/m2. Shape (12,)"""
    sums: Floats = watts.reshape(12, _STEPS_A_DAY).sum(axis=1) * 24.0 / _STEPS_A_DAY / 1000.0
    return sums

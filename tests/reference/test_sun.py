"""Sun on a panel: daylight and its course against a solar library; volts by the code."""

import numpy as np
import pandas as pd
import pytest
from pvlib import irradiance, location, solarposition

from graveljar.core.components.sun_place import sun_of_place, usual_clearness
from graveljar.core.components.sunlight import MIDDLE_DAYS, cold_volts, daylight_hours, mean_sun
from graveljar.core.errors import OutOfRange
from graveljar.core.model import Panel, Sun


@pytest.mark.parametrize("month", range(1, 13))
@pytest.mark.parametrize("latitude", [-45.0, 0.0, 35.0, 50.0, 60.0])
def test_daylight_is_that_of_the_suns_position(latitude: float, month: int) -> None:
    """pvlib, NREL's algorithm; refraction and the sun's size add some ten to twenty minutes."""
    day = pd.Timestamp("2025-01-01", tz="UTC") + pd.Timedelta(days=MIDDLE_DAYS[month - 1] - 1)
    found = solarposition.sun_rise_set_transit_spa(pd.DatetimeIndex([day]), latitude, 0.0)
    hours = (found["sunset"].iloc[0] - found["sunrise"].iloc[0]).total_seconds() / 3600 % 24
    assert daylight_hours(latitude, month) == pytest.approx(hours - 0.2, abs=0.3)


@pytest.mark.parametrize(("latitude", "month", "hours"), [(75, 12, 0.0), (75, 6, 24.0)])
def test_the_sun_does_not_rise_or_set_in_polar_night_and_day(
    latitude: float, month: int, hours: float
) -> None:
    assert daylight_hours(latitude, month) == hours


@pytest.mark.filterwarnings("ignore:DatetimeIndex.dayofyear")
@pytest.mark.parametrize("month", [3, 6, 9, 12])
def test_a_half_sine_is_near_the_course_of_a_clear_day(month: int) -> None:
    """pvlib's clear sky, flat, at 45° north: no hour differs by more than 4 % of the day."""
    day = pd.Timestamp("2025-01-01", tz="UTC") + pd.Timedelta(days=MIDDLE_DAYS[month - 1] - 1)
    minutes = pd.date_range(day, periods=1440, freq="1min")
    place = location.Location(45.0, 0.0)
    sky = place.get_clearsky(minutes, model="simplified_solis")
    sun = place.get_solarposition(minutes)
    flat = irradiance.get_total_irradiance(
        0, 180, sun["apparent_zenith"], sun["azimuth"], sky["dni"], sky["ghi"], sky["dhi"]
    )["poa_global"].to_numpy()
    by_hour = np.nan_to_num(flat).reshape(24, 60).sum(axis=1)
    ours = [mean_sun(1.0, daylight_hours(45.0, month), h, h + 1) for h in range(24)]
    assert sum(ours) == pytest.approx(1.0)
    assert np.abs(by_hour / by_hour.sum() - ours).max() < 0.04


@pytest.mark.parametrize(
    ("celsius", "factor"),
    # NEC table 690.7(A), crystalline silicon, quoted from memory.
    [(25, 1.0), (5, 1.08), (-5, 1.12), (-15, 1.16), (-25, 1.20)],
)
def test_open_volts_in_the_cold(celsius: float, factor: float) -> None:
    sun = Sun(panel=Panel(voc_v=40.0), series=2)
    assert cold_volts(sun, celsius) == pytest.approx(80.0 * factor)
    # By a label's coefficient: straight.
    by_label = Sun(panel=Panel(voc_v=40.0, voc_per_c=-0.003), series=2)
    assert cold_volts(by_label, celsius) == pytest.approx(80.0 * (1 + 0.003 * (25 - celsius)))


def test_out_of_range_is_refused() -> None:
    with pytest.raises(OutOfRange):
        daylight_hours(91.0, 6)
    with pytest.raises(OutOfRange):
        daylight_hours(50.0, 13)


@pytest.mark.parametrize("clearness", [0.15, 0.4, 0.7, 1.0])
def test_the_mean_on_the_flat_is_the_clearness(clearness: float) -> None:
    """By definition; a panel that lies flat has what the flat has, whatever the days are like."""
    found = sun_of_place(47.0, 0.0, 180.0, (clearness,) * 12)
    assert found.flat == pytest.approx([clearness * x for x in found.clear], abs=2e-3)
    assert found.plane == pytest.approx(found.flat, rel=0.02, abs=0.005)


def test_a_tilted_panel_in_december_has_three_times_the_flat_under_clear_sky_alone() -> None:
    """Common practice: flat gives a third of tilted under a clear sky, all of it under dull, and
    0.4 to 0.6 over a northern December; a scaled clear-sky yield would give a third always.
    """

    def flat_of_tilted(clearness: float) -> float:
        found = sun_of_place(50.0, 60.0, 180.0, (clearness,) * 12)
        return found.flat[11] / found.plane[11]

    assert flat_of_tilted(1.0) == pytest.approx(1 / 3, abs=0.06)
    assert flat_of_tilted(0.2) == pytest.approx(1.0, abs=0.25)
    assert 0.38 < flat_of_tilted(usual_clearness()[11]) < 0.6
    assert 0.4 < flat_of_tilted(0.4) < 0.6


@pytest.mark.filterwarnings("ignore:DatetimeIndex.dayofyear")
@pytest.mark.parametrize(("tilt", "azimuth"), [(0.0, 180.0), (35.0, 180.0), (60.0, 135.0)])
def test_a_clear_month_is_that_of_the_library(tilt: float, azimuth: float) -> None:
    """pvlib by the minute, with an even sky: within 12 % of ours, which knows the sun's glow."""
    place, ours = location.Location(45.0, 0.0), sun_of_place(45.0, tilt, azimuth, (1.0,) * 12)
    for month in (3, 6, 12):
        day = pd.Timestamp("2025-01-01", tz="UTC") + pd.Timedelta(days=MIDDLE_DAYS[month - 1] - 1)
        minutes = pd.date_range(day, periods=1440, freq="1min")
        sky = place.get_clearsky(minutes, model="simplified_solis")
        sun = place.get_solarposition(minutes)
        light = (sky["dni"], sky["ghi"], sky["dhi"])
        total = irradiance.get_total_irradiance(
            tilt, azimuth, sun["apparent_zenith"], sun["azimuth"], *light, albedo=0.2
        )["poa_global"].to_numpy()
        assert ours.plane[month - 1] == pytest.approx(np.nansum(total) / 60_000, rel=0.12)


def test_the_south_mirrors_the_north_and_the_poles_have_their_night() -> None:
    north = sun_of_place(35.0, 30.0, 180.0, (0.6,) * 12).plane
    south = sun_of_place(-35.0, 30.0, 0.0, (0.6,) * 12).plane
    # Half a year apart; the sun is 7 % stronger in January than in July.
    assert south == pytest.approx([north[(m + 6) % 12] for m in range(12)], rel=0.12)
    assert sun_of_place(80.0, 60.0, 180.0, (0.6,) * 12).plane[11] == 0.0
    for place in ((91.0, 0.0, 0.0), (50.0, 91.0, 0.0), (50.0, 0.0, 361.0)):
        with pytest.raises(OutOfRange):
            sun_of_place(*place, (0.5,) * 12)
    with pytest.raises(OutOfRange):
        sun_of_place(50.0, 0.0, 180.0, (1.5,) * 12)

"""Sun hours from a year of hourly light, against geometry and definitions."""

import math
from collections.abc import Callable
from typing import Any

import numpy as np
import pytest

from graveljar.core.errors import GravelJarError
from graveljar.formats.sun_csv import MAX_HOURS, read_sun

DAYS = (31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31)
Row = Callable[[int, int, int], tuple[float, ...]]


def year(head: str, row: Row) -> str:
    """A year of hours as CSV."""
    lines = [
        ",".join(str(x) for x in (month, day, hour, *row(month, day, hour)))
        for month, days in enumerate(DAYS, start=1)
        for day in range(1, days + 1)
        for hour in range(24)
    ]
    return "\n".join([f"month,day,hour,{head}", *lines])


def test_hours_of_light_on_the_panel_are_its_sun_hours() -> None:
    """Definition: eight hours of 500 W/m2 are 4 kWh/m2; of every fifth day a tenth of that."""

    def light(month: int, day: int, hour: int) -> tuple[float, ...]:
        full = 500.0 if 8 <= hour < 16 else 0.0
        return (0.1 * full if day % 5 == 0 else full,)

    found = read_sun(year("plane", light), 50.0, 0.0, 180.0)
    assert found.plane[3] == pytest.approx((24 * 4.0 + 6 * 0.4) / 30, abs=1e-3)
    # 71 days of the year are dull, with 0.4 of some 3.28 kWh/m2; the dullest fifth are 73.
    assert found.dull == pytest.approx((71 * 0.4 + 2 * 4.0) / 73 / 3.28, abs=0.01)
    assert (found.flat, found.days) == (None, 365)


@pytest.mark.parametrize(("tilt", "beam"), [(0.0, math.sin(math.radians(40.0))), (50.0, 1.0)])
def test_a_panel_that_faces_the_noon_sun_at_an_equinox_takes_all_of_it(
    tilt: float, beam: float
) -> None:
    """Geometry: at 50° north the noon sun stands 40° high on 20 March; tilted by 50° a panel is
    square to it. Only direct light; the ground gives 0.2 of the flat's, times (1 - cos tilt) / 2.
    """
    flat = 1000.0 * math.sin(math.radians(40.0))

    def noon(month: int, day: int, hour: int) -> tuple[float, ...]:
        # Solar noon is 12:07 then: the hour from 11:30 on would be nearest, that from 12 will do.
        lit = (month, day, hour) == (3, 20, 12)
        return (flat, 1000.0, 0.0) if lit else (0.0, 0.0, 0.0)

    found = read_sun(year("ghi,dni,dhi", noon), 50.0, tilt, 180.0)
    ground = 0.2 * flat * (1 - math.cos(math.radians(tilt))) / 2
    assert found.plane[2] * 31 * 1000 == pytest.approx(1000.0 * beam + ground, rel=0.02)
    assert found.flat is not None
    assert found.flat[2] * 31 * 1000 == pytest.approx(flat, rel=0.01)


def weather_file(light: str = "500,600,100") -> str:
    """A year of an EPW file: a place, seven more lines, hours from 1 to 24."""
    head = ["LOCATION,Tide gauge,-,-,-,0,50.0,15.0,1.0,10.0", *[f"LINE {n}" for n in range(7)]]
    rows = [
        f"2020,{month},{day},{hour},60,x,5,1,80,100000,0,0,300,{light if hour == 12 else '0,0,0'},0"
        for month, days in enumerate(DAYS, start=1)
        for day in range(1, days + 1)
        for hour in range(1, 25)
    ]
    return "\n".join(head + rows)


def test_a_weather_file_says_where_and_when_it_was_measured() -> None:
    """Definition: an hour of 500 W/m2 on the flat is half a sun hour, wherever it is."""
    found = read_sun(weather_file(), -10.0, 0.0, 180.0)
    assert found.flat == pytest.approx(np.full(12, 0.5))
    # Flat, direct light counts by the height of the sun: low in December.
    assert found.plane[11] < found.plane[5]
    # The file's own latitude counts, not the -10 degrees that were asked with.
    assert found == read_sun(weather_file(), 50.0, 0.0, 180.0)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "the column"),
        ("month,day,hour,ghi,dni\n1,1,1,2,3", "“dhi” is missing"),
        ("month,day,hour,plane\n1,1,1,-5", "line 2: “plane” is -5; it must be 0 to 1500"),
        ("month,day,hour,plane\n1,1,1,dark", "“plane” is “dark”, which is not a number"),
        ("month,day,hour,plane\n1,1,1,nan", "it must be 0 to 1500"),
        ("month,day,hour,plane\n1,1,1", "“plane” is “”"),
        ("month,day,hour,plane\n13,1,1,5", "“month” is 13"),
        ("month,day,hour,plane\n1,1,1,5", "no hours of month 2"),
        ("month,day,hour,plane\n" + "1,1,1,5\n" * (MAX_HOURS + 1), "a year has up to"),
        ("LOCATION,somewhere", "no latitude"),
        (weather_file("9999,9999,9999"), "line 20: “ghi” is 9999"),
    ],
)
def test_a_file_that_cannot_be_read_says_where(text: str, says: str) -> None:
    with pytest.raises(GravelJarError) as caught:
        read_sun(text, 50.0, 30.0, 180.0)
    assert says in str(caught.value).lower() or says in str(caught.value)


def test_a_day_that_is_none_is_refused() -> None:
    text: Any = "month,day,hour,ghi,dni,dhi\n" + "\n".join(f"{m},31,12,1,1,1" for m in range(1, 13))
    with pytest.raises(GravelJarError, match="31"):
        read_sun(text, 50.0, 0.0, 180.0)

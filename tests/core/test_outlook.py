"""From here on: hours left by what the meter says now, worked out by hand."""

from typing import Any

import pytest

from graveljar.core.context import Context
from graveljar.core.errors import InvalidDocument
from graveljar.core.model import Design
from graveljar.core.readings import Now, Outlook, outlook_of
from tests.building import IDEAL, bank, design, load, on_port, station
from tests.core.charger_cases import charged
from tests.core.test_readings import judged


def lamps(more: Any = None, **rest: Any) -> Design:
    """5 A and 10 A day and night on 100 Ah without any loss; the second one need not run."""
    amps = {"hours_per_day": 24.0, "draw": "constant current"}
    return design(
        load(5 * 12.0, "radio", priority="must", **amps),
        load(10 * 12.0, "heater", **amps),
        setting={"horizon_h": 240.0},
        **(more or {"stores": bank(**{"reserve": 0.0, "resistance_mohm": 0.001, **rest})}),
    )


def looked(made: Design, **now: Any) -> Outlook:
    """What is left of the design's first store."""
    return outlook_of(Context(made), Now(store=made.stores[0].id, **now))


@pytest.mark.parametrize(
    ("now", "hours"),
    [
        pytest.param({"percent": 60.0}, 4.0, id="60 Ah at 15 A"),
        pytest.param({"used_ah": 40.0}, 4.0, id="100 - 40 Ah at 15 A"),
        pytest.param({"percent": 60.0, "on": ("radio",)}, 12.0, id="60 Ah at 5 A"),
        pytest.param({"percent": 60.0, "on": ("heater",)}, 6.0, id="60 Ah at 10 A"),
    ],
)
def test_hours_are_amp_hours_over_amps(now: dict[str, Any], hours: float) -> None:
    found = looked(lamps(), **now)
    assert found.hours == pytest.approx(hours, rel=0.005)
    assert found.charge == pytest.approx(0.6)
    # A tenth more or less of each: they stop earlier or later by no more than both.
    assert found.p10 is not None
    assert found.p90 is not None
    assert 0.9 / 1.1 * hours < found.p10 < hours < found.p90 < 1.1 / 0.9 * hours


@pytest.mark.parametrize(
    ("clock_h", "lasts", "words"),
    [
        # 12 h from 18:00 end at 06:00; from 20:00 at 08:00, after seven.
        (18.0, False, "it stops at 06:00 tomorrow"),
        (20.0, True, "It lasts until 07:00"),
        (6.5, True, "It lasts until 07:00"),
    ],
)
def test_whether_the_night_is_survived(clock_h: float, lasts: bool, words: str) -> None:
    found = looked(lamps(), percent=60.0, clock_h=clock_h, on=("radio",))
    assert (found.lasts_the_night, words in found.night) == (lasts, True), found


def test_time_until_full_is_what_is_missing_over_the_charger() -> None:
    """40 Ah missing at 10 A are 4 h; a charger of 14.4 V ends a little before."""
    made = lamps(charged(bank(reserve=0.0, resistance_mohm=0.001), amps=10.0))
    found = looked(made, percent=60.0, on=())
    assert found.full_h == pytest.approx(3.95, rel=0.05)
    assert found.hours is None
    assert looked(lamps(), percent=60.0).full_h is None
    assert looked(made, percent=100.0, on=()).full == "It is full now."


@pytest.mark.parametrize(
    ("now", "words"),
    [
        ({}, "Say one of"),
        ({"percent": 50.0, "used_ah": 20.0}, "Say one of"),
        ({"used_ah": 120.0}, "all of the 100 Ah"),
        # Between 20 and 95 % a meter is off by more than the curve of LFP; common practice.
        ({"volts": 13.15, "rested_h": 8.0}, "LFP may hold 20 to 95 %"),
        ({"volts": 12.6, "rested_h": 0.1}, "volts still move"),
        ({"percent": 50.0, "on": ("ghost",)}, "no load of this design"),
    ],
)
def test_what_does_not_tell_the_charge_is_refused(now: dict[str, Any], words: str) -> None:
    with pytest.raises(InvalidDocument, match=words):
        looked(lamps(), **now)


def test_a_station_is_told_by_its_display_and_rested_lead_acid_by_its_volts() -> None:
    box = design(on_port(50.0, hours_per_day=24.0), stores=[station(**IDEAL)])
    half, whole = (looked(box, percent=share).hours or 0.0 for share in (50.0, 100.0))
    assert half == pytest.approx(whole / 2, rel=0.03)
    with pytest.raises(InvalidDocument, match="on its display"):
        looked(box, volts=12.0, rested_h=5.0)
    lead = lamps(chemistry="agm", volts=12.0)
    # AGM of 12.35 V at rest is about half; common practice.
    assert looked(lead, volts=12.35, rested_h=8.0).charge == pytest.approx(0.5, abs=0.08)


@pytest.mark.parametrize(
    ("was_h", "verdict", "words"),
    [
        (None, "open", "likely 16 h to 20 h. Note how long it ran"),
        # 16 h 40 min of 18 h are 7.4 % less.
        (16 + 40 / 60, "good", "it was 16 h 40 min, 7.4 % less."),
        (12.0, "watch", "33 % less"),
        (24.0, "watch", "33 % more"),
    ],
)
def test_what_was_said_is_laid_beside_what_happened(
    was_h: float | None, verdict: str, words: str
) -> None:
    look = {"charge": 0.6, "clock_h": 20.0, "said_h": 18.0, "low_h": 16.0, "high_h": 20.0}
    found = judged(lamps(), "look", "bank", **look, was_h=was_h)
    assert found.verdict == verdict
    assert words in f"{found.says} {found.do}"

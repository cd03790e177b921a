"""Quick entry: what it must read, and what it says when it cannot."""

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from graveljar.core.entry import Reading, read_line
from graveljar.core.errors import OutOfRange
from graveljar.core.load import day_wh, one_start_w, one_w
from graveljar.core.tables.appliances import APPLIANCES
from tests.building import converter, design, inverter

WITH_INVERTER = design(stages=inverter())


def _read(line: str, made: Any = WITH_INVERTER) -> Reading:
    return read_line(line, made)


# Line; name, AC or DC, volts, watts of one, Wh a day of all. Sums of the trade: V x A at the
# top of a printed range, W x h x duty, Ah x V.
READ = [
    ("kettle 230V 900W 18 min", "Kettle", "ac", 230, 900, 270),
    ("fridge 220-240V~ 1.0A 24h 35%", "Fridge", "ac", 240, 240, 2016),
    ("router 12V 1A 24h", "Router", "dc", 12, 12, 288),
    ("sewing machine 220-240V~ 0.45A motor 20 min", "Sewing machine", "ac", 240, 108, 36),
    ("INPUT 100-240V~ 50/60Hz 1.5A OUTPUT 24V DC 3.75A", "24 V DC load", "dc", 24, 90, 90),
    ("4 x lamp 24 V 24 W 4h", "Lamp", "dc", 24, 24, 384),
    ("phone 5000mAh 3.7V", "Phone", "dc", 5, 9.25, 18.5),
    ("Kettle 230 V 0,9 kW 18 min", "Kettle", "ac", 230, 900, 270),
    ("heater 1 500 W 2 h 30 min", "Heater", "ac", 230, 1500, 3750),
    ("lamp 10W 1h30", "Lamp", "ac", 230, 10, 15),
    ("230V 900W kettle 0,3h", "Kettle", "ac", 230, 900, 270),
    ("fan 12V 500mA 6h", "Fan", "dc", 12, 6, 36),
    ("sensor 12000mV 100mA 10h", "Sensor", "dc", 12, 1.2, 12),
    ("projector 300VA pf 0.8 1h", "Projector", "ac", 230, 240, 240),
    ("charger 100-240V~ 0.5A 1h", "Charger", "ac", 230, 120, 120),
    ("tablet 30Wh", "Tablet", "dc", 5, 15, 30),
    ("pump 24VDC 2A 1h", "Pump", "dc", 24, 48, 48),
    ("tv 60W 3h standby 2W", "Tv", "ac", 230, 60, 180 + 2 * 21),
    # The printed watts of a microwave are cooking watts; 1.5 times that goes in.
    ("microwave 800W 15 min", "Microwave", "ac", 230, 1200, 300),
]


@pytest.mark.parametrize(("line", "name", "kind", "volts", "watts", "wh"), READ)
def test_nameplates_are_read(
    line: str, name: str, kind: str, volts: float, watts: float, wh: float
) -> None:
    load = _read(line).load
    assert load is not None
    assert (load.name, load.supply.kind, load.supply.volts) == (name, kind, volts)
    assert one_w(load) == pytest.approx(watts)
    assert day_wh(load) == pytest.approx(wh)


@pytest.mark.parametrize(
    ("line", "start_w"),
    [
        ("sewing machine 220-240V~ 0.45A motor 20 min", 648),
        ("fridge 240V 1A 24h", 1440),
        ("drill 230V 600W 10 min", 1800),
        ("compressor 230V 500W start 2100W", 2100),
        ("mill 230V 500W x4", 2000),
        ("mill 230V 500W start x4,5", 2250),
        ("kettle 900W", 900),
    ],
)
def test_starts_follow_the_rule_of_the_word_or_what_is_said(line: str, start_w: float) -> None:
    load = _read(line).load
    assert load is not None
    assumed = {"start_factor_compressor": 6.0, "start_factor_motor": 6.0, "start_factor_tool": 3.0}
    assert one_start_w(load, assumed) == pytest.approx(start_w)


@pytest.mark.parametrize(
    ("line", "piece", "reason"),
    [
        ("lamp 24", "24", "of what?"),
        ("lamp 5 kg", "5 kg", "not a unit"),
        ("lamp -5W", "-5W", "negative"),
        ("lamp 1,500 W", "1,500 W", "could be 1500"),
        ("lamp 900 MW", "900 MW", "not a unit"),
        ("battery pack 5000mAh", "5000mAh", "add the volts"),
        ("lamp 12W 24W", "24W", "a second figure"),
        ("lamp 2A", "2A", "amps need volts"),
        ("lamp 10W start 3h", "3h", "a start is in watts"),
    ],
)
def test_what_cannot_be_read_is_marked_with_the_reason(line: str, piece: str, reason: str) -> None:
    reading = _read(line)
    wrong = [mark for mark in reading.marks if mark.kind == "problem"]
    assert [line[mark.start : mark.end] for mark in wrong] == [piece]
    assert reason in wrong[0].text
    assert reading.load is None
    assert wrong[0].text in reading.problems


@pytest.mark.parametrize(
    ("line", "problem"),
    [
        ("lamp", "How many watts"),
        ("fridge 60W 30h", "24 or less"),
        ("lamp 0W 1h", "more than 0"),
        ("heater 200kW", "100000 or less"),
        ("lamp 10W 150%", "1 or less"),
        ("4000 x lamp 10W", "1000 or less"),
    ],
)
def test_figures_out_of_range_are_refused_in_words(line: str, problem: str) -> None:
    reading = _read(line)
    assert reading.load is None
    assert any(problem in text for text in reading.problems)


@pytest.mark.parametrize(
    ("line", "made", "rail", "note"),
    [
        ("kettle 900W", WITH_INVERTER, "inverter", "No volts given"),
        ("kettle 900W", design(), None, "no inverter"),
        ("lamp 5V 5W", design(more=[converter()]), "converter", "No time given"),
        ("router 12V 1A", WITH_INVERTER, "bank", "No time given"),
        ("lamp 24V 5W", WITH_INVERTER, "inverter", "mains adapter"),
        ("INPUT 100-240V 1A OUTPUT 12V 2A", WITH_INVERTER, "bank", "OUTPUT is what"),
        ("server 300VA 1h", WITH_INVERTER, "inverter", "no power factor"),
    ],
)
def test_a_load_goes_on_the_rail_that_fits_and_it_says_why(
    line: str, made: Any, rail: str | None, note: str
) -> None:
    reading = _read(line, made)
    assert reading.load is not None
    assert reading.load.rail == rail
    assert any(note in text for text in reading.notes)


def test_words_on_provenance_and_priority_are_taken() -> None:
    load = _read("must kettle 900W measured").load
    assert load is not None
    assert (load.name, load.priority, load.provenance) == ("Kettle", "must", "measured")
    assert _read("lamp 5W guessed nice").load.provenance == "guess"  # type: ignore[union-attr]


def test_ids_stay_free_of_those_taken() -> None:
    first = _read("kettle 900W").load
    assert first is not None
    made = WITH_INVERTER.model_copy(update={"loads": (first,)})
    second = _read("kettle 900W", made).load
    assert second is not None
    assert (first.id, second.id) == ("kettle", "kettle-2")
    assert _read("Bank 5W").load.id == "bank-2"  # type: ignore[union-attr]


def test_a_summary_says_what_was_understood() -> None:
    summary = _read("sewing machine 220-240V~ 0.45A motor 20 min").summary
    for part in ("AC 240 V", "108 W", "starts at 648 W (×6)", "20 min", "36 Wh a day"):
        assert part in summary


def test_every_known_word_gives_a_load() -> None:
    for word in APPLIANCES:
        load = _read(f"{word} 100W 1h").load
        assert load is not None, word


@settings(max_examples=300, deadline=None)
@given(st.text(max_size=80))
def test_any_text_is_read_without_an_accident(line: str) -> None:
    """Marks lie inside the line, in order of reading, and say what they are."""
    reading = _read(line)
    assert all(0 <= mark.start < mark.end <= len(line) for mark in reading.marks)
    assert reading.load is None or not reading.problems


@settings(max_examples=150, deadline=None)
@given(
    st.lists(
        st.sampled_from(
            ["kettle", "4 x", "230V", "12V DC", "900W", "1,5A", "x6", "standby", "2W", "start",
             "INPUT", "OUTPUT", "50Hz", "35%", "24h", "5000mAh", "pf 0.5", "must", "-1", "~", "1/2"]
        ),
        max_size=9,
    )
)  # fmt: skip
def test_any_jumble_of_nameplate_words_is_read_without_an_accident(words: list[str]) -> None:
    reading = _read(" ".join(words))
    if any(mark.kind == "problem" for mark in reading.marks):
        assert reading.load is None


def test_a_line_too_long_is_refused() -> None:
    with pytest.raises(OutOfRange):
        _read("x" * 301)

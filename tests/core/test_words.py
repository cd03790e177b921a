"""Numbers and hours in sentences."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from graveljar.core.text import a_day, duration, listed, number, quantity


@given(st.floats(1e-4, 1e7))
def test_a_number_is_within_half_of_its_last_figure(value: float) -> None:
    read = float(number(value).replace("\u202f", ""))
    assert read == pytest.approx(value, rel=5.01e-3)


@pytest.mark.parametrize(
    ("value", "unit", "text"),
    [
        (0, "W", "0 W"),
        (0.1, "share", "10 %"),
        (2_016, "Wh", "2\u202f020 Wh"),
        (12_345_678, "Wh", "12\u202f300\u202f000 Wh"),
        (-5, "°C", "-5 °C"),
        (999.6, "W", "1\u202f000 W"),
        (float("inf"), "h", "unlimited h"),
    ],
)
def test_quantities(value: float, unit: str, text: str) -> None:
    assert quantity(value, unit) == text


@given(st.floats(0.01, 20_000))
def test_a_duration_says_the_hours_to_the_half_of_its_last_part(hours: float) -> None:
    worth = {"min": 1 / 60, "h": 1.0, "day": 24.0, "days": 24.0}
    parts = duration(hours).split()
    read = sum(int(n) * worth[unit] for n, unit in zip(parts[::2], parts[1::2], strict=True))
    assert len(parts) <= 4
    slack = 0.5 / 60 if hours < 23.9 else 0.5 if hours < 2400 else 24.0
    assert abs(read - hours) <= slack + 1e-9


@pytest.mark.parametrize(
    ("hours", "text"), [(24, "24 h"), (0.25, "15 min"), (1.5, "1 h 30 min"), (23, "23 h")]
)
def test_time_out_of_a_day(hours: float, text: str) -> None:
    assert a_day(hours) == text


@pytest.mark.parametrize(
    ("names", "text"), [(["a"], "a"), (["a", "b"], "a and b"), (["a", "b", "c"], "a, b and c")]
)
def test_lists(names: list[str], text: str) -> None:
    assert listed(names) == text

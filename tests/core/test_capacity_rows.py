"""A capacity test out of recorded rows, by hand: charge is amps times hours (definition)."""

from typing import Any

import pytest

from graveljar.core.errors import InvalidDocument
from graveljar.core.readings import CapacityReading, DrawnRow, capacity_of


def rows(*amps: float, step_h: float = 1.0, volts: float = 12.8, counts: Any = None) -> Any:
    """Rows an hour apart, or so; `counts` are the Ah that the instrument itself shows."""
    return [
        DrawnRow(n * step_h * 3600, volts - 0.1 * n, a, None if counts is None else counts[n],
                 None if counts is None else counts[n] * volts)
        for n, a in enumerate(amps)
    ]  # fmt: skip


def tested(made: Any) -> CapacityReading:
    """What rows come to."""
    return capacity_of("bank", made, 20.0)


tested.__test__ = False  # type: ignore[attr-defined]


@pytest.mark.parametrize(
    ("made", "ah", "hours", "end_v"),
    [
        pytest.param(rows(20, 20, 20, 20, 20, 20), 100.0, 5.0, 12.3, id="20 A for 5 h"),
        pytest.param(rows(0, 0, 10, 10, 10, 0, 0), 20.0, 2.0, 12.4, id="rest before and after"),
        pytest.param(rows(10, 20, 10), 30.0, 2.0, 12.6, id="a trapezium each hour"),
        pytest.param(rows(8, 8, step_h=0.5), 4.0, 0.5, 12.7, id="half an hour"),
        # The instrument's own count goes first, and it ran faster than the rows say.
        pytest.param(
            rows(0, 20, 20, 0, step_h=0.001, counts=(0, 10, 80, 96)), 96.0, 4.8, 12.6,
            id="96 Ah counted at 20 A",
        ),
        pytest.param(
            rows(20, 20, 0, step_h=0.001, counts=(10, 60, 110)), 100.0, 5.0, 12.7,
            id="recorded from 10 Ah on",
        ),
        pytest.param(
            rows(0, 10, 10, 0, counts=(50, 55, 65, 70)), 20.0, 2.0, 12.6,
            id="counted on from an earlier test",
        ),
    ],
)  # fmt: skip
def test_charge_hours_and_the_volts_at_the_end(
    made: Any, ah: float, hours: float, end_v: float
) -> None:
    found = tested(made)
    assert found.ah == pytest.approx(ah)
    assert found.hours == pytest.approx(hours)
    assert found.end_v == pytest.approx(end_v)
    assert (found.subject, found.air_c, found.ended_by) == ("bank", 20.0, "a cut-off")
    # Between the volts at its start and at its end: energy is charge times volts.
    assert found.wh == pytest.approx(ah * 12.8, rel=0.05)


@pytest.mark.parametrize("made", [rows(), rows(0, 0, 0), rows(20), rows(0, 20, 0), rows(-5, -5)])
def test_nothing_drawn_is_no_test(made: Any) -> None:
    with pytest.raises(InvalidDocument, match="Nothing was drawn"):
        tested(made)

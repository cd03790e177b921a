"""When loads run: times of day, cycles, standby, hours of which nobody knows when."""

from typing import Any

import pytest

from graveljar.core.analysis.band import band_of
from graveljar.core.context import Context
from graveljar.core.errors import OutOfRange
from graveljar.core.evaluate import evaluate
from graveljar.core.model import Design
from graveljar.core.network.schedule import timetables
from tests.building import bank, design, figure, inverter, load, looked_at


def _made(start_h: float = 0.0, **fields: Any) -> Design:
    return design(load(60, **fields), setting={"starts_at_h": start_h})


@pytest.mark.parametrize(
    ("start_h", "when", "runs"),
    [
        pytest.param(0.0, {"kind": "hours", "hours": 3.0}, [(0, 3)], id="any time, from midnight"),
        pytest.param(22.0, {"kind": "hours", "hours": 3.0}, [(0, 1), (22, 24)], id="past midnight"),
        pytest.param(6.0, {"kind": "hours", "hours": 24.0}, [(0, 24)], id="all day"),
        pytest.param(0.0, {"kind": "at", "at_h": 20.5, "hours": 0.3}, [(20.5, 20.8)], id="at"),
        pytest.param(
            0.0,
            {"kind": "windows", "windows": [{"from_h": 23.0, "to_h": 1.0},
                                            {"from_h": 7.0, "to_h": 8.5}]},
            [(0, 1), (7, 8.5), (23, 24)],
            id="windows",
        ),
    ],
)  # fmt: skip
def test_a_load_runs_when_it_says(
    start_h: float, when: Any, runs: list[tuple[float, float]]
) -> None:
    table = timetables(_made(start_h, when=when))["lamp"]
    assert [x for span in table.runs for x in span] == pytest.approx([x for s in runs for x in s])


@pytest.mark.parametrize(
    ("plugged_in_h", "waits"),
    [(24.0, [(0, 18), (22, 24)]), (10.0, [(0, 4), (22, 24)]), (4.0, []), (3.0, [])],
)
def test_standby_follows_the_run(plugged_in_h: float, waits: list[tuple[float, float]]) -> None:
    span = {"kind": "windows", "windows": [{"from_h": 18.0, "to_h": 22.0}]}
    made = _made(when=span, standby_w=1.0, plugged_in_h=plugged_in_h)
    assert sorted(timetables(made)["lamp"].waits) == waits


def test_cycles_and_an_averaged_duty_take_the_same_energy() -> None:
    """A compressor of 60 W, a third of the time: 480 Wh, on and off or evened out."""
    fields: Any = {"hours_per_day": 24.0, "duty": 1 / 3}
    even, cycled = (
        looked_at(design(load(60, **fields, cycle_min=cycle), stores=bank(parallel=2)))
        for cycle in (None, 30.0)
    )
    assert even.jar.day_wh == pytest.approx(480)
    assert cycled.jar.day_wh == pytest.approx(480)
    assert cycled.verdict.hours == pytest.approx(even.verdict.hours, rel=0.02)
    # On and off costs more in the wires than evened out: the square of the amps.
    inside = [next(d.wh for d in x.run.destinations if d.kind == "battery") for x in (even, cycled)]
    assert inside[1] == pytest.approx(3 * inside[0], rel=0.05)


def test_cold_nights_take_what_warm_days_give_back() -> None:
    """Twelve hours at 10 °C (95 % can be had) and twelve at 25, by Ah at a constant current.

    2 A leave 10 + 0.9 x 5 Ah of 100 at 10 °C: after 42.75 h; after 45 h at 25 °C. The other way
    about the cold ends it in the second night, 24 to 36 h, if by then 85.5 Ah were gone: no.
    """
    hours = []
    for ambient in ([25.0] * 24, [10.0] * 24, [10.0] * 12 + [25.0] * 12):
        lamp = load(24, hours_per_day=24.0, draw="constant current")
        made = design(lamp, setting={"ambient_by_hour": ambient})
        found = looked_at(made).verdict.hours
        assert found is not None
        hours.append(found)
    warm, cold, mixed = hours
    assert (warm, cold, mixed) == pytest.approx((45.0, 42.75, 45.0), rel=1e-6)


def test_a_sleeping_inverter_wakes_for_its_loads_alone() -> None:
    """Asleep 19 h at 2 W, awake 5 h at 12: 98 Wh; with its loads only, 60 Wh; 288 all day."""
    lamp = load(100, ac=True, hours_per_day=5.0)
    found = [
        looked_at(design(lamp, stages=inverter(**fields), stores=bank(parallel=2)))
        for fields in (
            {"sleep": {"watts": 2.0, "threshold_w": 20.0}},
            {"switched": "on with its loads"},
            {},
        )
    ]
    idle = [sum(layer.wh for layer in one.jar.layers if layer.kind == "idle") for one in found]
    assert idle == pytest.approx([98, 60, 288], rel=1e-6)
    served = [next(row.served_h for row in one.loads) for one in found]
    # Served until the bank is done: sleep is no stop for what wakes it.
    assert all(hours is not None and hours > 24 for hours in served)


def test_what_takes_too_long_to_step_through_is_refused_with_the_place() -> None:
    def often(count: int, horizon_h: float) -> Design:
        loads = [
            load(
                5,
                f"l{n}",
                when={"kind": "at", "at_h": n / 100, "hours": 20.0},
                duty=0.5,
                cycle_min=5.0 + n / 10,
            )
            for n in range(count)
        ]
        return design(*loads, setting={"horizon_h": horizon_h})

    for made, path in ((often(20, 24.0), "/loads"), (often(2, 8_760.0), "/setting/horizon_h")):
        with pytest.raises(OutOfRange) as caught:
            looked_at(made)
        assert caught.value.problems[0].path == path


@pytest.mark.all_draws
def test_a_year_ahead_has_fewer_draws_and_says_so() -> None:
    loads = [
        load(0.2, f"l{n}", when={"kind": "at", "at_h": n / 2, "hours": 0.2}) for n in range(40)
    ]
    analysis = Context(design(*loads, setting={"horizon_h": 8_760.0})).analysis
    # 80 stretches on 365 days: 29 200, so that 34 draws make a million.
    assert band_of(analysis.lowered).draws == 34
    assert analysis.run.cause in ("reserve", "horizon")


def _with_drill(starts_at: float, at: float, **rest: Any) -> Design:
    """A lamp of 10 W day and night, and a drill of 200 W for 2 h once."""
    drill = load(200.0, "drill", when={"kind": "at", "at_h": at, "hours": 2.0}) | {"once": True}
    lamp = load(10.0, hours_per_day=24.0)
    setting = {"horizon_h": 700.0, "starts_at_h": starts_at}
    return design(lamp, drill, setting=setting, stores=bank(ah=350.0), **rest)


@pytest.mark.parametrize(("starts_at", "at"), [(0.0, 10.0), (18.0, 10.0), (9.5, 9.0)])
def test_what_runs_once_runs_on_the_first_day_and_a_week_later(starts_at: float, at: float) -> None:
    """400 Wh in the first 24 h, none in the six days after it, 400 Wh again in the eighth.

    Energy is power times hours, by hand: LFP holds its volts within a few per cent.
    """
    analysis = Context(_with_drill(starts_at, at)).analysis
    for hours, wh in ((24.0, 640.0), (48.0, 880.0), (168.0, 2_080.0), (192.0, 2_720.0)):
        assert analysis.day.until(hours) == pytest.approx(wh, rel=1e-6)
    # 4 480 Wh less the reserve of a tenth, the drill twice: 3 232 Wh of the lamp's 10 W.
    assert analysis.run.hours == pytest.approx(323.2, rel=0.03)


def test_the_goal_counts_what_runs_once_once() -> None:
    """Three days: 3 x 240 Wh and 400 Wh; a simple sum of (4 032 - 400) / 240 days. By hand."""
    goal = {"hours": 72.0, "ageing_margin": 0.0, "guess_margin": 0.0}
    evaluation = evaluate(_with_drill(0.0, 10.0, goal=goal))
    assert figure(evaluation, "needed.goal_wh") == pytest.approx(1_120.0, rel=1e-6)
    assert figure(evaluation, "run.quick_hours") == pytest.approx(3_632.0 / 10.0, rel=1e-3)
    assert evaluation.jar.once_wh == pytest.approx(400.0, rel=1e-6)
    assert figure(evaluation, "day.wh") == pytest.approx(640.0, rel=1e-6)

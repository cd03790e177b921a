"""What must hold whatever the figures are."""

from typing import Any

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from graveljar.core.analysis.bank_sizing import common_size
from graveljar.core.components.stage_loss import calibrate
from graveljar.core.context import Context
from graveljar.core.evaluate import evaluate
from graveljar.core.model import Anytime, Inverter
from graveljar.core.model.patch import apply
from tests.building import bank, codes, design, inverter, load, looked_at, the_bank, the_need, tidy

quick = settings(max_examples=60, deadline=None)

LOADS = st.builds(
    load,
    watts=st.floats(1, 300),
    ac=st.booleans(),
    count=st.integers(1, 3),
    hours_per_day=st.floats(0.1, 24),
    duty=st.floats(0.1, 1),
    standby_w=st.sampled_from([0.0, 0.9]),
    kept_apart=st.booleans(),
    power_factor=st.floats(0.5, 1),
    nature=st.sampled_from(["motor", "heating", "audio"]),
    start=st.sampled_from([{"method": "none"}, {"method": "factor"}]),
)


@st.composite
def designs(draw: st.DrawFn) -> Any:
    """A design that works: one 12 V bank large enough to have hours, an inverter, some loads."""
    loads = draw(st.lists(LOADS, min_size=1, max_size=6))
    return design(
        *({**x, "id": f"l{i}", "name": f"l{i}"} for i, x in enumerate(loads)),
        stores=bank(
            draw(st.sampled_from(["lfp", "agm", "flooded"])),
            12.0,
            draw(st.floats(50, 400)),
            parallel=draw(st.integers(1, 8)),
            bms_a=200.0,
        ),
        stages=inverter(
            idle_w=draw(tidy(0, 15)),
            switched=draw(st.sampled_from(["always on", "on with its loads"])),
            continuous_w=2000.0,
            surge_w=4000.0,
        ),
        ambient_c=draw(tidy(-10, 35)),
    )


def _hours(made: Any) -> float:
    hours = Context(made).analysis.run.hours
    return float("inf") if hours is None else hours


@quick
@given(designs())
def test_energy_in_is_energy_out(made: Any) -> None:
    jar = looked_at(made).jar
    assert sum(layer.wh for layer in jar.layers) == pytest.approx(jar.day_wh, rel=1e-9)
    assert jar.usable_wh <= jar.label_wh - jar.reserve_wh + 1e-9


@quick
@given(designs(), st.integers(1, 4))
def test_more_strings_never_shorten_a_run(made: Any, more: int) -> None:
    grown = made.model_copy(
        update={
            "stores": (
                the_bank(made).model_copy(update={"parallel": the_bank(made).parallel + more}),
            )
        }
    )
    assert _hours(grown) >= _hours(made) * (1 - 1e-6)


@quick
@given(designs(), st.floats(1.01, 3))
def test_more_hours_of_a_load_never_lengthen_a_run(made: Any, times: float) -> None:
    first = made.loads[0]
    assume(first.hours_per_day * times <= 24)
    assume(not first.kept_apart)
    longer = first.model_copy(update={"when": Anytime(hours=first.hours_per_day * times)})
    changed = made.model_copy(update={"loads": (longer, *made.loads[1:])})
    # Loads that would trip each other run in turn, and which goes first may change.
    assume(not Context(made).analysis.lowered.apart and not Context(changed).analysis.lowered.apart)
    assert _hours(changed) <= _hours(made) * (1 + 1e-6)


@quick
@given(designs())
def test_two_halves_of_a_load_are_the_load(made: Any) -> None:
    first = made.loads[0].model_copy(update={"kept_apart": False, "count": 1})
    made = made.model_copy(update={"loads": (first, *made.loads[1:])})
    half = first.model_copy(
        update={
            "demand": first.demand.model_copy(update={"watts": first.demand.watts / 2}),
            "standby_w": first.standby_w / 2,
        }
    )
    other = half.model_copy(update={"id": "other"})
    halved = made.model_copy(update={"loads": (half, other, *made.loads[1:])})
    assert _hours(halved) == pytest.approx(_hours(made), rel=1e-6)


@quick
@given(designs())
def test_series_and_parallel_of_equal_energy_last_alike(made: Any) -> None:
    """DC loads apart, an inverter of the matching volts makes the arrangement irrelevant."""
    ac = [x.model_copy(update={"rail": "inverter"}) for x in made.loads if x.supply.kind == "ac"]
    assume(ac)
    one = made.model_copy(
        update={
            "loads": tuple(ac),
            "stores": (the_bank(made).model_copy(update={"parallel": 4, "series": 1}),),
        }
    )
    stage = made.inverter.model_copy(
        update={
            "nominal_v": 48.0,
            "accepts": made.inverter.accepts.model_copy(update={"least_v": 42.0, "most_v": 60.0}),
        }
    )
    four = one.model_copy(
        update={
            "stores": (the_bank(made).model_copy(update={"parallel": 1, "series": 4}),),
            "stages": (stage,),
        }
    )
    assert _hours(four) == pytest.approx(_hours(one), rel=1e-6)


@quick
@given(designs(), st.floats(1, 3))
def test_higher_ratings_never_add_a_finding_of_ratings(made: Any, times: float) -> None:
    ratings = {
        "inverter.overloaded",
        "inverter.start_above_surge",
        "bank.current_above_limit",
    }
    # Losses are kept in watts, so that only the ratings rise.
    stage = made.inverter.model_copy(
        update={
            "continuous_w": made.inverter.continuous_w * times,
            "surge_w": made.inverter.surge_w * times,
            "part_load": made.inverter.part_load.model_copy(
                update={"load_share": made.inverter.part_load.load_share / times}
            ),
            "full_load": made.inverter.full_load.model_copy(
                update={"load_share": made.inverter.full_load.load_share / times}
            ),
        }
    )
    battery = the_bank(made).battery
    assert battery.bms_a is not None
    battery = battery.model_copy(update={"bms_a": battery.bms_a * times})
    raised = made.model_copy(
        update={
            "stages": (stage,),
            "stores": (the_bank(made).model_copy(update={"battery": battery}),),
        }
    )
    assert codes(looked_at(raised)) & ratings <= codes(looked_at(made)) & ratings


@quick
@given(designs())
def test_the_proposal_meets_the_goal_with_its_margins(made: Any) -> None:
    """Taken, it leaves no finding of energy, current or inverter size."""
    present = the_need(evaluate(made)).present
    assume(present.edits)
    after = evaluate(apply(made, present.edits), quick=True)
    assert after.verdict.meets_goal
    assert not codes(after) & {
        "bank.current_above_limit",
        "inverter.overloaded",
        "inverter.little_margin",
        "inverter.start_above_surge",
    }


@quick
@given(st.floats(0.1, 0.9), st.floats(0.5, 0.98), st.floats(0.5, 0.98), tidy(0, 60))
def test_an_inverter_never_gives_more_than_it_draws(
    share: float, part: float, full: float, idle_w: float
) -> None:
    stage = Inverter.model_validate(
        {
            "part_load": {"load_share": share, "efficiency": part},
            "full_load": {"load_share": 1.0, "efficiency": full},
            "idle_w": idle_w,
        }
    )
    loss = calibrate(stage)
    for tenth in range(11):
        given_w = stage.continuous_w * tenth / 10
        assert loss.dc_w(given_w) >= given_w * (1 - 1e-6)


@quick
@given(st.floats(1, 40_000))
def test_a_common_size_is_never_too_small(watts: float) -> None:
    assert watts <= common_size(watts) <= max(2 * watts, watts + 1000)

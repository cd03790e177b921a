"""Against slow, simple programs that do the same sums another way."""

from itertools import combinations
from typing import Any

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from graveljar.core.components.load import one_start_w, one_w
from graveljar.core.components.stage_loss import calibrate
from graveljar.core.context import Context
from graveljar.core.model import Design
from graveljar.core.model.patch import Edit, apply
from graveljar.core.tables.assumptions import resolve
from tests.building import bank, design, inverter, load, looked_at, the_need, tidy

quick = settings(max_examples=80, deadline=None)
ADAPTER = 0.87
QUARTER_H = 0.25

QUARTERED = st.builds(
    load,
    watts=st.floats(1, 250),
    ac=st.booleans(),
    count=st.integers(1, 2),
    hours_per_day=st.integers(1, 40).map(lambda n: n * QUARTER_H),
    standby_w=st.sampled_from([0.0, 0.5, 4.0]),
    plugged_in_h=st.integers(4, 96).map(lambda n: n * QUARTER_H),
    kept_apart=st.booleans(),
    power_factor=st.sampled_from([0.6, 1.0]),
    nature=st.sampled_from(["motor", "tool", "heating"]),
    start=st.sampled_from([{"method": "none"}, {"method": "factor"}]),
)


@st.composite
def quartered(draw: st.DrawFn) -> Design:
    """A design whose times are whole quarters of an hour."""
    loads = draw(st.lists(QUARTERED, min_size=1, max_size=5))
    named = [{**x, "id": f"l{i}", "name": f"l{i}"} for i, x in enumerate(loads)]
    # Some DC loads run behind the inverter, through an adapter.
    for x in named:
        if x["supply"]["kind"] == "dc" and draw(st.booleans()):
            x |= {"rail": "inverter", "supply": {"kind": "dc", "volts": 19.0}}
    made = design(
        *named,
        stores=bank(draw(st.sampled_from(["lfp", "agm"])), 12.0, 200.0, parallel=4, bms_a=200.0),
        stages=inverter(
            continuous_w=2500.0,
            surge_w=5000.0,
            idle_w=draw(st.floats(1, 20)),
            switched=draw(st.sampled_from(["always on", "on with its loads"])),
            sleep=draw(st.sampled_from([None, {"watts": 1.5, "threshold_w": 12.0}])),
        ),
    )
    assume(sum(x.hours_per_day for x in made.loads if x.kept_apart) <= 24)
    return made


def _drawn_w(x: Any) -> float:
    """Watts all of a load take from their rail."""
    adapter = ADAPTER if x.rail == "inverter" and x.supply.kind == "dc" else 1.0
    return float(one_w(x) * x.count / adapter)


def _runs(x: Any, made: Design, quarter: int) -> bool:
    """Whether a load runs in a quarter; those kept apart queue in their order."""
    queue = [y for y in made.loads if y.kept_apart]
    before = sum(y.hours_per_day for y in queue[: queue.index(x)]) if x.kept_apart else 0.0
    return bool(before <= quarter * QUARTER_H < before + x.hours_per_day)


def _waits(x: Any, made: Design, quarter: int) -> bool:
    """Whether it stands by: plugged in from the end of its run on, round midnight."""
    ends = next(q for q in range(96, 0, -1) if _runs(x, made, q - 1))
    since = (quarter - ends) % 96 * QUARTER_H
    return not _runs(x, made, quarter) and since < x.plugged_in_h - x.hours_per_day


def _day_wh(made: Design) -> float:
    """A day at the bank, quarter by quarter."""
    stage = made.inverter
    assert stage is not None
    loss = calibrate(stage)
    total = 0.0
    for quarter in range(96):
        running = [x for x in made.loads if _runs(x, made, quarter)]
        ac_w = dc_w = 0.0
        for x in made.loads:
            adapter = ADAPTER if x.rail == "inverter" and x.supply.kind == "dc" else 1.0
            watts = _drawn_w(x) if x in running else 0.0
            if _waits(x, made, quarter):
                watts = x.standby_w * x.count / adapter
            if x.rail == "inverter":
                ac_w += watts
            else:
                dc_w += watts
        needed = any(x.rail == "inverter" for x in running)
        if stage.switched == "on with its loads" and not needed:
            drawn = 0.0
        elif stage.sleep is not None and ac_w < stage.sleep.threshold_w and not needed:
            drawn = stage.sleep.watts
        else:
            drawn = loss.p0 + loss.k1 * ac_w + loss.k2 * ac_w**2
        total += (dc_w + drawn) * QUARTER_H
    return total


@quick
@given(quartered())
def test_a_day_is_what_its_quarters_add_up_to(made: Design) -> None:
    # Those that would trip each other run one after the other: other quarters than here.
    assume(not Context(made).analysis.lowered.apart)
    assert looked_at(made).jar.day_wh == pytest.approx(_day_wh(made), rel=1e-8)


def _allowed(loads: Any) -> Any:
    """Every set of loads that may run at one time."""
    for size in range(len(loads) + 1):
        for chosen in combinations(loads, size):
            if sum(x.kept_apart for x in chosen) <= 1:
                yield chosen


def _behind(made: Design) -> list[Any]:
    return [x for x in made.loads if x.rail == "inverter"]


@quick
@given(quartered())
def test_what_runs_together_is_the_largest_set_allowed(made: Design) -> None:
    context = Context(made)
    sums = [sum(_drawn_w(x) for x in chosen) for chosen in _allowed(_behind(made))]
    assert context.analysis.demand.asked["inverter"].watts == pytest.approx(max(sums))
    loss = context.network.losses["inverter"]
    drawn = [
        sum(_drawn_w(x) for x in chosen if x.rail == "bank")
        + loss.dc_w(sum(_drawn_w(x) for x in chosen if x.rail == "inverter"))
        for chosen in _allowed(made.loads)
    ]
    assert context.analysis.bank_demands["bank"].drawn_w == pytest.approx(max(drawn))


@quick
@given(quartered())
def test_the_worst_start_is_the_worst_of_all(made: Design) -> None:
    context = Context(made)
    found, at_bank = [], []
    for chosen in _allowed(made.loads):
        behind = [x for x in chosen if x.rail == "inverter"]
        straight = sum(_drawn_w(x) for x in chosen if x.rail == "bank")
        running = sum(_drawn_w(x) for x in behind)
        for x in chosen:
            adapter = ADAPTER if x in behind and x.supply.kind == "dc" else 1.0
            extra = (one_start_w(x, resolve({})) - one_w(x)) / adapter
            if x in behind:
                found.append(running + extra)
                at_bank.append(straight + context.network.losses["inverter"].dc_w(running + extra))
            else:
                at_bank.append(straight + extra + context.network.losses["inverter"].dc_w(running))
    worst = context.analysis.demand.asked["inverter"].start
    assert (worst.watts if worst else None) == (pytest.approx(max(found)) if found else None)
    start = context.analysis.demand.asked["bank"].start
    assert start is not None
    assert start.watts == pytest.approx(max(at_bank))


@settings(max_examples=25, deadline=None)
@given(quartered(), st.floats(4, 60), tidy(0, 0.4), tidy(0, 0.5))
def test_the_strings_needed_are_the_first_that_do(
    made: Design, hours: float, ageing: float, guess: float
) -> None:
    """Tried one string more at a time, by energy and by current."""
    goal = made.goal.model_copy(
        update={"hours": hours, "ageing_margin": ageing, "guess_margin": guess}
    )
    made = made.model_copy(update={"goal": goal})
    context = Context(made)
    assert context.analysis.needed is not None
    choice = context.analysis.needed.present
    need_wh = context.analysis.day.until(hours) * (1 + guess)
    for strings in range(1, 33):
        tried = apply(made, (Edit("replace", "/stores/0/parallel", strings),))
        aged = looked_at(tried).jar.usable_wh * (1 - ageing)
        if aged >= need_wh * (1 - 1e-6):
            assert choice.by_energy == strings
            break
    else:
        assert choice.by_energy > 32
    amps = context.analysis.bank_demands["bank"].design_a
    assert choice.by_current is not None
    assert (choice.by_current - 1) * 200.0 < amps <= choice.by_current * 200.0 + 1e-6


def test_use_until_the_goal_counts_the_hours_it_covers() -> None:
    """48 W from six to ten in the evening, from noon on: nothing in the first six hours."""
    lamp = load(48, when={"kind": "windows", "windows": [{"from_h": 18.0, "to_h": 22.0}]})
    made = design(lamp, setting={"starts_at_h": 12.0})
    day = Context(made).analysis.day
    found = [day.until(hours) for hours in (5.0, 8.0, 24.0, 31.0, 48.0)]
    assert found == pytest.approx([0, 96, 192, 240, 384], rel=1e-6)


def test_long_life_looks_at_what_lasts_an_hour() -> None:
    """A kettle of 12 minutes does not count; a heater of two hours does."""
    short = load(600, "kettle", hours_per_day=0.2)
    long = load(240, "heater", hours_per_day=2.0)
    both = the_need(looked_at(design(short, long)))
    assert both.long_w == pytest.approx(240)
    # 240 W at 12.8 V are 18.75 A, under 0.2C of 100 Ah.
    assert both.present.by_long_life == 1
    longer = the_need(looked_at(design(load(600, "kettle", hours_per_day=1.0), long)))
    assert longer.long_w == pytest.approx(840)
    assert longer.present.by_long_life == 4

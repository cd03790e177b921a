"""The course of a run: its layers add up, its lines stand at the labels, its flow is whole."""

import csv
import io
from typing import Any

import numpy as np
import pytest

from graveljar.core.context import Context
from graveljar.core.model.patch import apply
from graveljar.core.planning.construction import RemoveStage, build
from graveljar.core.tables.chemistry import CHEMISTRIES
from graveljar.core.views.series import all_series_of, series_of
from graveljar.core.views.snapshots import moments_of, worst_of
from graveljar.core.views.timeline import Course, course_of
from graveljar.demo import demo_designs
from graveljar.formats.course_csv import write_series
from tests.building import bank, converter, design, inverter, load
from tests.reference.random_designs import random_design

FRIDGE = load(
    60, "fridge", hours_per_day=24.0, rail="feed", cable_mohm=100.0,
    window={"cut_out_v": 10.5, "restarts_v": 11.0, "most_v": 15.0},
)  # fmt: skip
STRANDING = design(
    FRIDGE,
    stores=bank("nmc", 11.1, 40.0, reserve=0.05),
    more=[{"kind": "feed", "id": "feed", "name": "Feed"}],
)


def _layers(course: Course) -> Any:
    series = course.series
    return sum(np.array(column) for column in (*series.watts.values(), series.idle, series.lost))


@pytest.mark.parametrize("seed", range(600, 612))
def test_the_layers_are_what_the_stores_give(seed: int) -> None:
    """Energy in equals energy out: at each point, and over the whole run."""
    context = Context(random_design(seed, cut_outs=True))
    course = course_of(context)
    series, total = course.series, _layers(course)
    given = sum(
        np.array(series.volts[bank.id]) * np.array(series.amps[bank.id])
        for bank in context.network.design.stores
    )
    assert sum(np.array(x) for x in series.given.values()) == pytest.approx(given, rel=1e-3)
    assert total == pytest.approx(given, rel=1e-3, abs=0.05)
    for stage in context.network.design.stages:
        # P = V I on a rail that only loads hang on, as a clamp meter on it would say.
        if all(other.rail != stage.id for other in context.network.design.stages):
            used = sum((np.array(series.watts[x.id]) for x in context.analysis.lowered.loads
                        if x.rail == stage.id), np.zeros(len(series.hours)))  # fmt: skip
            out = np.array(series.volts[stage.id]) * np.array(series.amps[stage.id])
            assert out == pytest.approx(used, rel=1e-3, abs=0.05)
    if course.until_h < course.ends_h:
        return
    at_terminals = sum(
        float(row["released"] - row["inside"] - row["rate_wh"])
        for row in context.analysis.run.stores
    )
    assert float(np.trapezoid(total, series.hours)) == pytest.approx(at_terminals, rel=2e-3)
    wh = sum(part.wh for part in course.flow.parts if part.kind not in ("left", "reserve"))
    assert wh == pytest.approx(context.analysis.run.released_wh, rel=1e-6)


@pytest.mark.parametrize("seed", range(620, 632))
def test_currents_add_up_at_every_joint_of_every_moment(seed: int) -> None:
    """Kirchhoff's current law on each rail; no stage gives more power than it takes."""
    made = random_design(seed, cut_outs=True)
    context = Context(made)
    stages = {stage.id: stage for stage in made.stages}
    found = list(moments_of(context))
    assert sum(moment.most for moment in found) == 1
    for moment in found:
        for rail, gives in moment.gives.items():
            into = [moment.amps[stage] for stage, x in stages.items() if x.rail == rail]
            taken = [moment.takes[x.id] for x in context.analysis.lowered.loads if x.rail == rail]
            assert gives == pytest.approx(sum(into) + sum(taken), rel=1e-3, abs=1e-3)
            if rail in stages:
                before = moment.volts[stages[rail].rail] * moment.amps[rail]
                assert moment.volts[rail] * gives <= before * 1.0001 + 0.01
            else:
                assert gives == pytest.approx(moment.amps[rail], rel=1e-3, abs=1e-3)
    worst = worst_of(context)
    for store in made.stores:
        assert worst[store.id].amps >= max(moment.amps[store.id] for moment in found) * 0.9


def test_lines_stand_at_the_label_volts_on_the_rail_they_cut_off_from() -> None:
    course = course_of(Context(STRANDING))
    lines = {(line.subject, line.kind): (line.rail, line.volts) for line in course.lines}
    assert lines["fridge", "cuts out"] == ("bank", 10.5)
    assert lines["fridge", "restarts"] == ("bank", 11.0)
    assert "cuts out on its feed 10.5 V" in course.lines[0].text
    drops = next(flag for flag in course.flags if flag.kind == "cuts out")
    assert drops.text.startswith("fridge cuts out at 10.5 V")
    assert "while" not in drops.text
    at = next(i for i, hours in enumerate(course.series.hours) if hours >= drops.hours)
    # What arrives falls to the cut-out; the rail itself stands above it by what the lead takes.
    assert 10.5 < course.series.volts["bank"][at - 1] < 11.3


def test_what_is_left_inside_is_told_with_its_reason() -> None:
    """The store's energy from its open-circuit table, summed here anew; 3 % in its cells' heat."""
    course = course_of(Context(STRANDING))
    curve = np.array(CHEMISTRIES["nmc"].ocv)
    stored_wh = float(np.trapezoid(curve[:, 1], curve[:, 0])) * 3 * 40.0
    assert course.flow.total_wh == pytest.approx(stored_wh, rel=2e-3)
    left = next(part for part in course.flow.parts if part.kind == "left")
    assert 0.25 < left.wh / stored_wh < 0.5
    assert left.why == "fridge cut out before it was empty"
    (row,) = course.served
    assert row.missed_from_h == pytest.approx(row.served_h, abs=1e-3)
    assert row.scheduled_h > row.served_h or course.ends_h == pytest.approx(row.served_h, abs=1e-3)


def test_idle_and_sleep_show_their_label_watts() -> None:
    """A lamp from 20 to 22 h; else the inverter sleeps at 2 W; idle is 12 W while it is awake."""
    made = design(
        load(50, ac=True)
        | {"when": {"kind": "windows", "windows": [{"from_h": 20.0, "to_h": 22.0}]}},
        stages=inverter(idle_w=12.0, sleep={"watts": 2.0, "threshold_w": 20.0}),
    )
    series = course_of(Context(made), 24.0).series
    by_hour = {round(hour, 3): watts for hour, watts in zip(series.hours, series.idle, strict=True)}
    assert by_hour[0.0] == pytest.approx(2.0)
    assert by_hour[22.0] == pytest.approx(2.0)
    awake = [x for hour, x in by_hour.items() if 20.0 < hour < 22.0]
    assert awake == pytest.approx([12.0] * len(awake))


@pytest.mark.all_draws
def test_the_band_of_the_charge_follows_from_the_spread() -> None:
    """Small steady watts, a guess: +-40 % evenly on the load, next to nothing on the battery.

    A tenth of the draws take more than 1.32 times the watts, a tenth less than 0.68 times.
    """
    made = design(
        load(2.0, hours_per_day=24.0, provenance="guess"),
        stores=bank(ah=100.0),
        assumptions={"joint_drop": 0.0, "spread_guess": 0.4, "spread_label": 0.0},
    )
    course = course_of(Context(made), 100.0)
    assert course.band.draws == 256
    took = 1.0 - course.series.charge["bank"][-1]
    assert 1.0 - course.band.low["bank"][-1] == pytest.approx(1.32 * took, rel=0.04)
    assert 1.0 - course.band.high["bank"][-1] == pytest.approx(0.68 * took, rel=0.06)
    assert course.band.low["bank"][0] == course.band.high["bank"][0] == 1.0


def test_a_long_run_is_thinned_in_the_open_and_written_in_full() -> None:
    made = design(
        load(3, "fridge", hours_per_day=24.0, duty=0.5, cycle_min=10.0),
        load(2, "modem", hours_per_day=24.0, rail="converter", volts=5.0),
        stores=bank(ah=1000.0),
        more=[converter()],
    )
    context = Context(made)
    thin, full = series_of(context, 168.0, most=500), series_of(context, 168.0, most=10**6)
    assert thin.every > 1
    assert full.every == 1
    assert len(thin.hours) <= 501
    assert thin.hours[-1] == full.hours[-1] == pytest.approx(168.0)
    # Every switching of the week: on and off each ten minutes, two points each, day edges more.
    assert len(full.hours) >= 2 * 2 * 6 * 24 * 7
    rows = list(csv.reader(io.StringIO("".join(write_series(made, [full])))))
    assert len(rows) == len(full.hours) + 1
    assert rows[0][:2] == ["hours [h]", "Bank charge [1]"]
    watts = rows[0].index("modem watts [W]")
    assert float(rows[1][watts]) == pytest.approx(2.0)


def test_what_is_thinned_says_so_and_the_csv_streams_all_of_it() -> None:
    """On and off each five minutes for a month: some 17 000 switchings, two points each."""
    pump = load(3, hours_per_day=24.0, duty=0.5, cycle_min=5.0)
    made = design(pump, stores=bank(ah=500.0), setting={"horizon_h": 720.0})
    context = Context(made)
    course = course_of(context, 720.0)
    assert course.until_h == 720.0
    assert course.series.every > context.analysis.run.every > 1
    assert course.series.hours[-1] == pytest.approx(course.until_h, rel=0.02)
    # The band goes on falling to its end.
    low = course.band.low["bank"]
    assert low[-1] < low[-10] < low[0]
    # 3 W half of the time for 720 h are 1 080 Wh, whatever was kept.
    assert context.analysis.run.loads["used"].sum() == pytest.approx(1080.0, rel=1e-6)
    text = "".join(write_series(made, all_series_of(context, 720.0)))
    rows = list(csv.reader(io.StringIO(text)))
    hours = np.array([float(row[0]) for row in rows[1:]])
    assert len(hours) > 2 * 8 * 720
    assert (np.diff(hours) >= 0).all()
    assert len({len(row) for row in rows}) == 1


def test_the_demo_fan_strands_and_the_hut_lives_five_times_longer_without_its_inverter() -> None:
    van, hut = demo_designs()["puppet-van"], demo_designs()["tide-gauge-hut"]
    # By its battery alone.
    hut = hut.model_copy(update={"stores": hut.stores[:1], "links": ()})
    fan = next(row for row in course_of(Context(van)).served if row.id == "roof-fan")
    assert fan.served_h < 0.5 * fan.scheduled_h
    without = apply(
        hut, build(hut, RemoveStage(ask="remove", stage="inverter", loads_to=None)).edits
    )
    # 8.5 W idle and 1.7 W of loads: about a sixth of the power without it.
    assert course_of(Context(without)).ends_h > 4.5 * course_of(Context(hut)).ends_h

"""Levers and sweeps: what each shows is what the edited design does."""

from typing import Any

import pytest

from graveljar.core.analysis.band import band_of
from graveljar.core.context import Context
from graveljar.core.evaluate import evaluate
from graveljar.core.model import Design
from graveljar.core.model.patch import apply
from graveljar.core.planning.improvements import Lever, levers_of
from graveljar.core.planning.sensitivity import AGAINST, sweep_of
from graveljar.core.planning.shelf import Candidate
from graveljar.demo import demo_designs
from graveljar.formats.parts_csv import starting_shelf
from tests.building import bank, design, inverter, load
from tests.core.charger_cases import sunny

SHELF = [Candidate(part.name, part) for part in starting_shelf()]


def levers(made: Design) -> dict[str, Lever]:
    """Levers by their kind and subject."""
    return {f"{x.kind} {x.subject}": x for x in levers_of(made, SHELF)}


@pytest.mark.parametrize("name", sorted(demo_designs()))
def test_each_does_what_the_edited_document_does(name: str) -> None:
    made = demo_designs()[name]
    before = evaluate(made)
    found = levers_of(made, SHELF)
    assert found
    assert [x.gained_h for x in found] == sorted((x.gained_h for x in found), reverse=True)
    for lever in found:
        after = evaluate(apply(made, lever.edits), quick=True)
        assert after.verdict.hours == lever.hours
        assert after.verdict.lasts == lever.lasts
        open_ones = [
            {(f.code, f.subject): f.title for f in x.findings if f.severity != "note"}
            for x in (before, after)
        ]
        assert set(lever.brings) == _new(open_ones[1], open_ones[0])
        assert set(lever.clears) == _new(open_ones[0], open_ones[1])
        assert lever.saved_wh == pytest.approx(before.jar.day_wh - after.jar.day_wh)


def _new(these: dict[tuple[str, str], str], others: dict[tuple[str, str], str]) -> set[str]:
    """Titles of findings that the others do not have.

    Of the hours as a whole there is one finding, whichever load it names.
    """
    codes = {code for code, _ in others}
    whole = "run.must_stops_early"
    return {
        title
        for key, title in these.items()
        if key not in others and not (key[0] == whole and whole in codes)
    }


def test_a_second_battery_doubles_what_one_gives() -> None:
    """A steady load on LFP: twice the Ah, twice the hours, a hair more for less sag."""
    made = design(load(40.0, hours_per_day=24.0), stores=bank(name="LFP 12.8 V 100 Ah"))
    lever = levers(made)["battery bank"]
    assert lever.hours == pytest.approx(
        2 * (evaluate(made, quick=True).verdict.hours or 0.0), rel=5e-3
    )
    assert (lever.price, lever.mass_kg) == (230.0, 10.8)


def test_idle_draw_is_the_silent_drain() -> None:
    """20 W against 11 W all day (common practice): switching it off buys more than any load."""
    made = design(
        load(60.0, "lamp", ac=True, hours_per_day=1.0),
        load(1.0, "clock", hours_per_day=24.0, priority="must"),
        stages=inverter(idle_w=20.4),
    )
    found = levers_of(made, SHELF)
    assert found[0].kind == "off"
    # 20.4 W for 23 h a day.
    assert found[0].saved_wh == pytest.approx(20.4 * 23, rel=0.02)
    smaller = levers(made)["inverter inverter"]
    assert smaller.price is not None
    assert 0 < smaller.gained_h < found[0].gained_h


def test_adapters_on_dc_save_both_conversions() -> None:
    """DC to DC is better than DC-AC-DC for small electronics (common practice)."""
    modem = load(8.0, "modem", hours_per_day=24.0, volts=12.0) | {"rail": "inverter"}
    made = design(modem, stages=inverter(switched="on with its loads"))
    lever = next(x for x in levers_of(made, SHELF) if x.kind == "dc rail")
    assert lever.effort == "an hour's work"
    # Through the adapter 8 / 0.87 W, 12 W of idle and the inverter's loss; on DC 8 / 0.93 W.
    assert lever.saved_wh == pytest.approx(24 * (12 + 8 / 0.87 * 1.08 - 8 / 0.93), rel=0.1)


@pytest.mark.parametrize(
    ("made", "kind"),
    [
        (design(load(30.0, "fan", hours_per_day=24.0, window={"cut_out_v": 12.9, "most_v": 15.0})),
         "regulator"),
        (design(load(40.0, hours_per_day=24.0), ambient_c=-5.0), "warmth"),
        (design(load(50.0, "tv", ac=True, hours_per_day=2.0, standby_w=18.0),
                stages=inverter(sleep={"watts": 2.0, "threshold_w": 15.0})), "sleep"),
        (design(load(150.0, "pump", hours_per_day=24.0, window={"cut_out_v": 12.0, "most_v": 15.0},
                     cable={"length_m": 5.0, "size": "2.5 mm²"})), "cable"),
        (design(load(40.0, hours_per_day=24.0, count=4)), "load"),
    ],
)  # fmt: skip
def test_every_kind_of_lever_can_come_up(made: Design, kind: str) -> None:
    found = [x for x in levers_of(made, SHELF) if x.kind == kind]
    assert found
    assert all(x.gained_h > 0 for x in found)


def test_more_of_each_source_buys_the_hours_of_hand_sums() -> None:
    """30 W of a bank of 100 Ah, 0.9 of it at some 13.1 V; a panel brings 100 W x 2 sun hours
    x 0.78 x 0.96 a day, an hour of engine 10 A: hours are energy over what is missing.
    """
    watts, day_wh = 30.0, 30.0 * 24
    usable_wh = 0.9 * 100 * 13.1
    panel_wh = 100 * 2.0 * 0.78 * 0.96
    made = sunny(
        bank(), panel={"watts": 100.0, "imp_a": 5.4, "isc_a": 5.8}, of_charger={"amps": 10.0},
        week={"days": [{"sun": "usual"}] * 7}, sun_hours=[2.0] * 12,
    )  # fmt: skip
    lamp = load(watts, hours_per_day=24.0, priority="must")
    sunned = design(lamp, setting={"horizon_h": 500.0}, **made)
    lever = levers(sunned)["panel sun"]
    assert lever.hours == pytest.approx(24 * usable_wh / (day_wh - 2 * panel_wh), rel=0.15)
    assert lever.gained_h > 0.8 * 24 * usable_wh * (
        1 / (day_wh - 2 * panel_wh) - 1 / (day_wh - panel_wh)
    )
    parallel = [x.value for x in lever.edits if x.path.endswith("/parallel")]
    assert parallel == [2]

    spans = {"kind": "windows", "windows": [{"from_h": 9.0, "to_h": 10.0}]}
    engine = {"kind": "vehicle", "limit_a": 100.0, "alternator": "fixed", "runs": spans}
    charger = {"amps": 10.0, "accepts": {"least_v": 11.0, "most_v": 17.0}}
    driven = design(
        lamp, stores=[bank(), engine], setting={"horizon_h": 500.0},
        links=[{"id": "cord", "rail": "vehicle", "to": "bank", "charger": charger}],
    )  # fmt: skip
    found = levers(driven)
    brought_wh = 10.0 * 13.4
    for name, times in (("engine vehicle", 2.0), ("charger cord", 1.5)):
        missing_wh = day_wh - times * brought_wh
        assert found[name].hours == pytest.approx(24 * usable_wh / missing_wh, rel=0.12)


def test_a_measurement_buys_no_hours_but_narrows_the_band() -> None:
    made = design(load(40.0, hours_per_day=24.0, provenance="guess"))
    lever = levers(made)["measure lamp"]
    assert abs(lever.gained_h) < 1e-6
    widths = []
    for one in (made, apply(made, lever.edits)):
        band = band_of(Context(one).analysis.lowered)
        widths.append((band.p90 or 0.0) - (band.p10 or 0.0))
    assert lever.narrower == pytest.approx(1 - widths[1] / widths[0])
    assert (lever.narrower or 0.0) > 0.5


def test_an_empty_design_has_no_levers_and_nothing_to_sweep_but_itself() -> None:
    assert levers_of(design(), SHELF) == ()
    assert [x for x in AGAINST if sweep_of(design(), x).points] == ["batteries", "temperature"]


def test_sweeps_agree_with_the_design_at_each_value() -> None:
    made = demo_designs()["puppet-van"]
    sweeps = {x: sweep_of(made, x) for x in AGAINST}
    for sweep in sweeps.values():
        values = [point.value for point in sweep.points]
        assert values == sorted(values)
        present = next(point for point in sweep.points if point.present)
        assert present.hours == evaluate(made).verdict.hours
    document: Any = made.model_dump(mode="json")
    document["stores"][0]["parallel"] = 5
    five = evaluate(Design.model_validate(document))
    point = next(x for x in sweeps["batteries"].points if x.value == 5)
    assert (point.hours, point.p10, point.p90) == (
        five.verdict.hours, five.band.p10, five.band.p90,
    )  # fmt: skip


def test_the_goal_is_read_off_where_it_is_met_for_good() -> None:
    """100 W on 100 Ah LFP less a tenth kept back: about 11.5 h each; 30 h need three."""
    made = design(load(100.0, hours_per_day=24.0, priority="must"), goal={"hours": 30.0})
    sweep = sweep_of(made, "batteries")
    assert sweep.meets_from == 3
    warm = sweep_of(made, "temperature")
    assert warm.meets_from is None
    colder = [point.hours or 0.0 for point in warm.points]
    assert colder == sorted(colder)
    less = sweep_of(made, "largest load")
    assert [point.meets_goal for point in less.points] == sorted(
        (point.meets_goal for point in less.points), reverse=True
    )
    assert less.meets_from == max(x.value for x in less.points if x.meets_goal)

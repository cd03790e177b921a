"""The week: hour by hour, by its days, and what balances it."""

from dataclasses import replace
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from graveljar.core.analysis.simulation import simulate
from graveljar.core.analysis.week import HOURS, from_monday, simulate_week
from graveljar.core.context import Context
from graveljar.core.model import Design
from graveljar.core.model.patch import Edit, apply
from graveljar.core.planning.balance import balance_of, pairs_of
from graveljar.core.planning.balance.balance import balances
from graveljar.core.planning.construction import AddRefill, build
from graveljar.core.planning.shelf import Candidate
from graveljar.core.views.refill import refill_of
from graveljar.core.views.year import year_of
from graveljar.demo import demo_designs
from graveljar.formats.parts_csv import starting_id, starting_shelf
from tests.building import bank, codes, design, load, looked_at
from tests.core.cases import ALL_DAY
from tests.core.charger_cases import charged, sunny

SHELF = [Candidate(str(starting_id(part)), part) for part in starting_shelf()]
SUNS = ["good", "usual", "poor"]


def driven(hours: float, watts: float, amps: float = 10.0, **of_bank: Any) -> Design:
    """A lamp day and night on 100 Ah, charged while the engine runs from nine on. [h], [W], [A]"""
    return design(
        load(watts, **ALL_DAY),
        stores=[
            bank(**of_bank),
            {"kind": "vehicle", "limit_a": 100.0, "alternator": "fixed", "cable_mohm": 0.0,
             "runs": {"kind": "windows", "windows": [{"from_h": 9.0, "to_h": 9.0 + hours}]}},
        ],
        links=[{"id": "cord", "rail": "vehicle", "to": "bank", "charger": {
            "amps": amps, "idle_w": 0.0, "accepts": {"least_v": 11.0, "most_v": 17.0}}}],
    )  # fmt: skip


def test_the_hours_of_the_week_are_those_of_the_run() -> None:
    """Counted hour by hour, and in one go: the same charge, stops and energy."""
    lowered = from_monday(Context(demo_designs()["puppet-van"]).analysis.lowered)
    week, run = simulate_week(lowered), simulate(lowered)
    hours, charge, _, _, _ = run.points()
    at = np.interp(np.arange(HOURS + 1.0), hours, charge[:, 0])
    assert week.charge[:, 0] == pytest.approx(at, abs=2e-3)
    stops = [run.stops[x.id].hours if x.id in run.stops else np.inf for x in lowered.loads]
    stops = [hour if hour < HOURS else np.inf for hour in stops]
    assert week.missed_h.tolist() == pytest.approx(stops, rel=1e-6)


@settings(max_examples=25, deadline=None)
@given(
    st.sampled_from(["lfp", "nmc", "agm", "flooded"]), st.floats(30, 1500), st.floats(2, 120),
    st.integers(1, 12), st.lists(st.sampled_from(SUNS), min_size=7, max_size=7),
    st.floats(5, 60), st.booleans(), st.integers(-5, 30),
)  # fmt: skip
def test_energy_in_is_energy_out(
    chemistry: str, panel: float, lamp: float, month: int, sun: list[str], amps: float, mains: bool,
    ambient: int,
) -> None:  # fmt: skip
    """What all sources and cells give is what loads use and what becomes heat."""
    made = sunny(
        bank(chemistry, 25.2 if chemistry == "nmc" else 12.0 if chemistry != "lfp" else 12.8),
        week={"month": month, "days": [{"sun": x} for x in sun]},
        panel={"watts": panel}, series=2, of_charger={"amps": amps},
    )  # fmt: skip
    if mains:
        more = charged(amps=amps)
        made["stores"].append(more["stores"][1])
        made["links"].append(more["links"][0] | {"id": "other"})
    week = simulate_week(
        Context(design(load(lamp, volts=24.0 if chemistry == "nmc" else 12.0, **ALL_DAY),
                       ambient_c=float(ambient), **made)).analysis.lowered
    )  # fmt: skip
    given = week.released_wh.sum()
    heat = week.lost_wh.sum() + week.before_wh.sum()
    assert given == pytest.approx(week.used_wh.sum() + heat, rel=1e-3, abs=1e-2)
    # What comes in is what goes out and what is kept.
    out = week.used_wh.sum() + week.lost_wh.sum() - week.released_wh[:, 0].sum()
    assert week.brought_wh.sum() == pytest.approx(out, rel=1e-3, abs=1e-2)
    assert (np.diff(week.charge, axis=0) > -1).all()
    assert (week.charge <= 1.0).all()
    # A bank's cells change by what was counted.
    x, v = week.lowered.day.curve[0, :, 0], week.lowered.day.curve[0, :, 1]
    ends = [np.interp(np.linspace(0, c, 4001), x, v) for c in week.charge[[0, -1], 0]]
    ah = float(week.lowered.store_records[0]["ah"])
    held = [
        np.trapezoid(e, dx=c / 4000) * ah
        for e, c in zip(ends, week.charge[[0, -1], 0], strict=True)
    ]
    spent = week.released_wh[:, 0].sum()
    if chemistry in ("lfp", "nmc"):
        assert spent == pytest.approx(held[0] - held[1], rel=2e-3, abs=5e-3 * ah * v[-1])


def test_a_panel_brings_its_sun_hours() -> None:
    """By hand: 100 W x 2 h x 0.8 = 160 Wh at the panel, 0.96 of it less the controller's own."""
    made = design(
        **sunny(bank(ah=400.0, starts_at=0.2), panel={"watts": 100.0}, sun_hours=[2.0] * 12,
                yields=0.8, of_charger={"idle_w": 0.0, "efficiency": 0.96, "amps": 20.0})
    )  # fmt: skip
    week = simulate_week(Context(made).analysis.lowered)
    assert week.brought_wh[:, 0].reshape(7, 24).sum(axis=1) == pytest.approx([153.6] * 7, rel=1e-3)


@pytest.mark.parametrize(("sun", "times"), [("good", 1.5), ("usual", 1.0), ("poor", 0.25)])
def test_a_good_day_has_more_sun_and_a_poor_one_less(sun: str, times: float) -> None:
    """Our assumptions on days: 1.5 and 0.25 times the mean of the month."""
    days = [{"sun": "usual"}, {"sun": sun}, *[{}] * 5]
    made = design(
        **sunny(bank(ah=400.0, starts_at=0.2), week={"days": days}, of_charger={"idle_w": 0.0})
    )
    brought = simulate_week(Context(made).analysis.lowered).brought_wh[:48, 0]
    assert brought[24:].sum() / brought[:24].sum() == pytest.approx(times, rel=1e-3)


def test_a_pwm_controller_takes_the_current_of_the_panel_alone() -> None:
    """Imp x battery volts (NEC 690 practice, memory): 13.6 of 18.6 V, 0.73 of what MPPT takes."""
    found = []
    for kind in ("MPPT controller", "PWM controller"):
        made = sunny(bank(ah=400.0, starts_at=0.2), of_charger={"kind": kind, "idle_w": 0.0})
        found.append(simulate_week(Context(design(**made)).analysis.lowered).brought_wh.sum())
    assert found[1] / found[0] == pytest.approx(13.6 / 18.6, rel=0.02)


def test_a_day_without_its_engine_or_mains_brings_nothing() -> None:
    days = [{"engine": n != 2, "mains": n != 2} for n in range(7)]
    for made in (driven(2.0, 20.0), design(load(20, **ALL_DAY), **charged(amps=10.0))):
        off = made.model_copy(update={"week": made.week.model_validate({"days": days})})
        days_in = [day.in_wh for day in refill_of(Context(off)).days]
        assert days_in[2] == 0.0
        assert min(days_in[3:]) > 0.0


def test_the_words_of_the_week_say_what_its_figures_do() -> None:
    """20 W x 24 h are 480 Wh a day; 10 A for 2 h bring 267 Wh, for 4 h 533 Wh. By hand."""
    short, enough, none = (
        refill_of(Context(x))
        for x in (driven(2.0, 20.0), driven(4.0, 20.0), design(load(20, **ALL_DAY)))
    )
    assert (short.trend, enough.trend, none.trend) == ("runs down", "keeps up", "no source")
    assert short.days[3].in_wh == pytest.approx(10.0 * 13.4 * 2, rel=0.03)
    assert "Runs down" in short.headline
    assert enough.headline == "Keeps up"
    assert none.headline == "Nothing refills it"
    assert "Full on 7 days of 7." in enough.details
    assert [day.full for day in enough.days] == [True] * 7


def test_the_least_that_balances_is_found_by_running_it() -> None:
    """A day takes 20 W x 24 h = 480 Wh, and 0.5 % of the Ah: 10 A at 13.4 V for 3.6 h. By hand."""
    made = driven(2.0, 20.0, ah=200.0)
    rows = {row.what: row for row in balance_of(made)}
    assert rows["engine"].possible
    times = rows["engine"].share
    assert 2.0 * times == pytest.approx(480 / 0.995 / 134, rel=0.05)
    assert balances(Context(apply(made, rows["engine"].edits)))
    # Twice the amps bring as much in the same time, until the taper.
    assert 10.0 * rows["charger"].share == pytest.approx(10.0 * times, rel=0.15)
    assert balance_of(driven(5.0, 20.0)) == ()


def test_all_together_fill_faster_than_each_alone() -> None:
    """10 A and 20 A into 80 Ah that are missing: 8 h, 4 h, and 2 h 40 min; by hand, taper apart."""
    made = charged(bank(starts_at=0.5), amps=10.0)
    made["links"].append({**made["links"][0], "id": "second"})
    made["links"][1]["charger"] = made["links"][1]["charger"] | {"amps": 20.0}
    made["stores"][1]["socket_a"] = 100.0
    hours = [x.hours[-1] for x in refill_of(Context(design(**made)), 0.2).fills]
    ah = (0.9875 - 0.2) * 100 / 0.995
    assert hours == pytest.approx([ah / 10, ah / 20, ah / 30], rel=0.02)
    later = refill_of(Context(design(**made)), 0.6).fills[0]
    assert later.charge[0] == pytest.approx(0.6)


@pytest.mark.parametrize(
    ("what", "name"),
    # The DC input of the booth's station is in use.
    [("mains", "ticket-booth"), *[(what, name) for what in ("sun", "vehicle", "mains", "generator")
                                  for name in ("puppet-van", "tide-gauge-hut")]],
)  # fmt: skip
def test_a_source_is_added_with_what_leads_from_it(what: Any, name: str) -> None:
    made = demo_designs()[name]
    to = made.first.id
    built = build(made, AddRefill(ask="refill", what=what, to=to))
    after = apply(made, built.edits)
    link = after.links[-1]
    assert (link.rail, link.to) == (built.subject, to)
    assert (link.charger is None) is (name == "ticket-booth")
    assert Context(after).analysis.link_operations[link.id].fit == "fits"


def test_an_outage_of_nine_hours_is_run_through() -> None:
    """A router of 12 W on 25 Ah: 108 Wh of some 300; without a battery it would be off."""
    times = {"kind": "windows", "windows": [{"from_h": 17.0, "to_h": 8.0}]}
    made = charged(bank(ah=25.0), amps=5.0)
    made["stores"][1]["times"] = times
    week = simulate_week(Context(design(load(12, "router", **ALL_DAY), **made)).analysis.lowered)
    assert np.isinf(week.missed_h).all()
    # 12 W x 9 h over some 13.2 V, of 25 Ah.
    lowest = week.charge[24:48, 0].min()
    full = float(week.lowered.store_records[0]["full_at"])
    assert full - lowest == pytest.approx(108 / 13.2 / 25, rel=0.03)


@pytest.mark.parametrize("horizon_h", [720.0, 729.0, 2000.0, 2001.0])
def test_a_cut_out_that_lasts_until_the_next_charge_strands_what_is_left(horizon_h: float) -> None:
    """The fan of the van stops each evening, with much left, and waits for the engine.

    Some of these runs end at 20:00 or 21:00, as it is out, some while it runs.
    """
    van = demo_designs()["puppet-van"]
    setting = van.setting.model_copy(update={"horizon_h": horizon_h})
    found = looked_at(van.model_copy(update={"setting": setting}))
    stranded = next(x.stranded for x in found.joints if x.subject == "roof-fan")
    assert stranded is not None
    assert stranded.after_h == pytest.approx(8.5)
    assert stranded.share > 0.5
    assert "window.strands" in codes(found)


def test_no_change_that_balances_charges_with_more_than_the_bank_may_take() -> None:
    """40 Ah may take 20 A; a lamp of 20 W needs more than that in an hour's drive."""
    rows = {row.what: row for row in balance_of(driven(1.0, 20.0, 15.0, ah=40.0))}
    assert not rows["charger"].possible
    assert rows["charger"].edits == ()


def test_the_year_says_of_each_month_what_its_week_does() -> None:
    """A panel of some hours a day: it keeps up when its month brings more than goes out."""
    made = demo_designs()["tide-gauge-hut"]
    rows = list(year_of(Context(made)))
    assert [row.month for row in rows] == list(range(1, 13))
    for row in (rows[0], rows[5], rows[11]):
        week = made.week.model_copy(update={"month": row.month})
        alone = refill_of(Context(made.model_copy(update={"week": week})))
        assert row.keeps_up is (alone.trend != "runs down")
        assert row.asked_wh == pytest.approx(looked_at(made).jar.day_wh)
        # Once it keeps up no more comes in than goes out; else all there is.
        assert row.in_wh <= alone.day_in_wh * 1.01
    # At 50 degrees north June has nine times the sun of December (common practice).
    assert rows[5].sun_wh > 1.5 * rows[11].sun_wh
    assert list(year_of(Context(driven(2.0, 30.0)))) == []


def test_batteries_with_the_fewest_panels_balance_and_one_panel_less_does_not() -> None:
    """20 W all day are 480 Wh and more; 2.5 sun hours at 0.78 are 195 Wh of a panel of 100 W."""
    hungry = load(20.0, "modem", hours_per_day=24.0)
    made = design(hungry, **sunny(bank(ah=50.0), sun_hours=[2.5] * 12), setting={"ambient_c": 20.0})
    pairs = pairs_of(made, SHELF, poor=False)
    assert [(x.batteries, x.panels) for x in pairs] == sorted(
        (x.batteries, x.panels) for x in pairs
    )
    assert [x.panels for x in pairs] == sorted({x.panels for x in pairs}, reverse=True)
    assert pairs[-1].panels == 3
    for pair in pairs:
        after = apply(made, pair.edits)
        assert refill_of(Context(after)).trend != "runs down"
        fewer = [Edit("replace", "/stores/1/parallel", pair.panels - 1)]
        assert refill_of(Context(apply(after, fewer))).trend == "runs down"
    # A quarter of the sun: four times the panels, or more.
    poor = pairs_of(made, SHELF, poor=True)
    assert poor[-1].panels >= 11
    assert pairs_of(design(hungry), SHELF, poor=False) == ()


@pytest.mark.parametrize("name", ["puppet-van", "tide-gauge-hut"])
def test_a_source_that_feeds_links_alone_is_never_overloaded(name: str) -> None:
    """They are held to what it gives: to look for it at the end of each step changes nothing."""
    lowered = Context(demo_designs()[name]).analysis.lowered
    assert lowered.store_records["only_links"].any()
    looked_for = lowered.store_records.copy()
    looked_for["only_links"] = 0
    charges = [
        simulate_week(x).charge for x in (lowered, replace(lowered, store_records=looked_for))
    ]
    assert charges[0] == pytest.approx(charges[1], abs=1e-9)


@pytest.mark.parametrize(("rail", "alone"), [("bank", True), ("vehicle", False)])
def test_a_load_beside_them_can_overload_a_source(rail: str, alone: bool) -> None:
    made = driven(2.0, 12.0)
    lamp = made.loads[0].model_copy(update={"id": "lamp-2", "rail": rail})
    lowered = Context(made.model_copy(update={"loads": (*made.loads, lamp)})).analysis.lowered
    assert lowered.store_records["only_links"].tolist() == [0, int(alone)]

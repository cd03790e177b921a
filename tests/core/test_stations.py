"""Stations taken apart: what is in them, what comes out, several leads, stores behind stores."""

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from graveljar.core.analysis.delivery import deliveries_of
from graveljar.core.context import Context
from graveljar.core.model.patch import apply
from graveljar.core.network.rail_choice import places_of
from graveljar.core.network.station_expansion import as_bank, inner_wh, stages_of
from tests.building import (
    IDEAL,
    bank,
    codes,
    converter,
    design,
    evaluated,
    figure,
    inverter,
    lead,
    load,
    looked_at,
    on_port,
    station,
)
from tests.core.test_workings import by_hand
from tests.reference.random_growing import random_growing

ALL_DAY: dict[str, Any] = {"hours_per_day": 24.0}


@pytest.mark.parametrize(
    ("figures", "inside_wh", "usable_wh"),
    [
        # 512 Wh printed, 95 % come out; or 450 Wh came out in a test; a module of 500 Wh more.
        ({}, 512.0, 486.4),
        ({"measured_wh": 450.0}, 450 / 0.95, 450.0),
        ({"module_wh": 500.0}, 1012.0, 961.4),
        # A tenth kept back by its owner, of what comes out.
        ({"reserve": 0.1}, 512.0, 486.4 * 0.9),
        ({"usable_share": 1.0, "measured_wh": 540.0}, 540.0, 540.0),
    ],
)
def test_what_a_station_holds_and_gives(
    figures: dict[str, Any], inside_wh: float, usable_wh: float
) -> None:
    made = design(on_port(5), stores=[station(**figures)])
    store: Any = made.stores[0]
    assert inner_wh(store) == pytest.approx(inside_wh)
    evaluation = looked_at(made)
    assert figure(evaluation, "store.station.wh") == pytest.approx(inside_wh)
    assert figure(evaluation, "store.station.usable") == pytest.approx(usable_wh)
    assert evaluation.jar.usable_wh == pytest.approx(usable_wh)


def test_a_measured_capacity_narrows_the_band() -> None:
    """Measured figures spread by 3 %, those of a label by 10 %."""
    wide = evaluated(on_port(20, **ALL_DAY, provenance="measured"), stores=[station()], whole=True)
    narrow = evaluated(
        on_port(20, **ALL_DAY, provenance="measured"),
        stores=[station(measured_wh=486.4)],
        whole=True,
    )
    spreads = [(x.band.p90 or 0) - (x.band.p10 or 0) for x in (wide, narrow)]
    assert spreads[1] < 0.5 * spreads[0]


@pytest.mark.parametrize(
    ("chemistry", "cells", "volts", "full_v"),
    # Cells of 3.2 V, 3.65 V full; of 3.6 to 3.7 V, 4.2 V full (common practice).
    [("lfp", 8, 25.6, 29.2), ("nmc", 7, 25.55, 29.4), ("nmc", 3, 10.95, 12.6)],
)
def test_inner_volts_follow_from_the_cells(
    chemistry: str, cells: int, volts: float, full_v: float
) -> None:
    made = design(stores=[station(chemistry=chemistry, cells=cells)])
    battery = as_bank(made.stores[0]).battery
    assert battery.volts == pytest.approx(volts, rel=0.015)
    rail = Context(made).network.rails["station"]
    assert rail.high_v == pytest.approx(full_v)
    assert rail.inside


def test_a_sagging_port_follows_the_battery_and_strands_what_needs_more() -> None:
    """Common practice: an unregulated 12 V port sags from 12 to 9 V; a fridge that cuts out at
    10.5 V leaves part inside, on a regulated port nothing.
    """
    fridge = on_port(40.0, "fridge", **ALL_DAY, priority="must",
                     window={"cut_out_v": 10.5, "restarts_v": 11.0, "most_v": 16.0})  # fmt: skip
    ports: dict[str, Any] = {
        "sagging": {"kind": "dc", "id": "port", "gives": "sagging", "volts": None, "cut_v": 9.0},
        "regulated": {"kind": "dc", "id": "port", "gives": "regulated", "volts": 12.6},
    }
    three_cells: dict[str, Any] = {"chemistry": "nmc", "cells": 3, "usable_share": 1.0}
    hours = {}
    for name, port in ports.items():
        made = evaluated(fridge, stores=[station(**three_cells, outlets=[port])])
        hours[name] = made.verdict.hours
        assert ("window.strands" in codes(made)) is (name == "sagging")
    assert hours["sagging"] is not None
    assert hours["regulated"] is not None
    assert 0.4 * hours["regulated"] < hours["sagging"] < 0.9 * hours["regulated"]


def test_a_sagging_ports_own_cut_off_ends_it() -> None:
    port = {"kind": "dc", "id": "port", "gives": "sagging", "volts": None, "cut_v": 10.5}
    wide = {"cut_out_v": 6.0, "most_v": 16.0}
    made = design(
        on_port(40.0, **ALL_DAY, window=wide),
        stores=[station(chemistry="nmc", cells=3, outlets=[port])],
    )
    events = [e for e in Context(made).analysis.run.events if e.subject == "port"]
    assert [e.what for e in events][:1] == ["cuts out"]
    assert events[0].volts == pytest.approx(10.5, rel=1e-3)


def test_two_leads_share_what_all_inputs_take() -> None:
    """300 W of mains and 420 W of DC into 500 W together."""
    made = design(
        on_port(1.0),
        stores=[
            station(**IDEAL, starts_at=0.3, most_in_w=500.0),
            bank(id="a", ah=400.0, bms_a=400.0),
            bank(id="b", ah=400.0, bms_a=400.0),
        ],
        more=[converter(rail="a", set_v=28.0, topology="boost", continuous_a=40.0, cable_mohm=0.0)],
        stages=inverter(rail="b"),
        links=[lead("converter"), lead("inverter", id="mains", input="mains", mode=None)],
    )
    context = Context(made)
    _, _, volts, amps, _ = context.analysis.run.points()
    into_w = -volts[0, 0] * amps[0, 0]
    assert into_w == pytest.approx(500.0 - 1.0, rel=5e-3)


def test_a_store_behind_a_store_reaches_the_loads_through_both() -> None:
    """Bank, station, station: each passes on what it is fed; shares multiply."""
    last = station(
        id="last",
        charge_efficiency=0.8,
        outlets=[{"kind": "dc", "id": "socket", "volts": 12.0, "efficiency": 1.0}],
    )
    boost = {"topology": "boost", "continuous_a": 20.0, "quiescent_w": 0.0, "cable_mohm": 0.0,
             "full_load": {"load_share": 1.0, "efficiency": 0.9}}  # fmt: skip
    made = design(
        load(30.0, rail="socket", hours_per_day=24.0),
        stores=[last, station(charge_efficiency=0.9), bank(id="outside", ah=200.0)],
        more=[
            converter(rail="outside", set_v=28.0, **boost),
            converter(id="second", rail="port", set_v=24.0, **boost),
        ],
        links=[lead("converter"), lead("second", id="on", to="last")],
    )
    context = Context(made)
    reach = {x.store: x.share for x in deliveries_of(context.analysis)}
    assert reach["last"] == 1.0
    assert reach["station"] == pytest.approx(0.9 * 0.8, rel=0.02)
    assert reach["outside"] == pytest.approx(0.9 * 0.9 * reach["station"], rel=0.03)
    run = context.analysis.run
    # What the last one served came from all three.
    assert [e.subject for e in run.events if e.what == "meets its floor"] == [
        "outside", "station", "last",
    ]  # fmt: skip
    served = float(run.loads["used"].sum())
    usable = sum(
        context.analysis.usable[x.store].wh * x.share for x in deliveries_of(context.analysis)
    )
    # Own draw of the stations for as long as they are on, and the curve's ends.
    own = float(run.rails["idle"].sum())
    assert 0.85 * usable < served + own < 1.2 * usable


def test_nothing_can_be_put_inside_of_a_station() -> None:
    made = design(stores=[station(), bank()])
    lamp = Context(design(load(5.0))).network.design.loads[0].model_copy(update={"rail": None})
    assert "station" not in {place.rail for place in places_of(made, lamp)}
    assert {"port", "sockets", "bank"} >= {place.rail for place in places_of(made, lamp)}


def test_outlets_stand_in_the_order_of_the_label() -> None:
    made = design(stores=[bank(), station()], more=[converter()])
    assert [stage.id for stage in stages_of(made)] == ["converter", "sockets", "port"]


def test_a_fix_never_changes_what_is_built_in() -> None:
    """800 W on sockets of 600 W: no fix swaps the station's inverter; something is said."""
    heater = load(800.0, "heater", ac=True) | {"rail": "sockets"}
    made = design(heater, stores=[station()])
    found = next(f for f in looked_at(made).findings if f.code == "inverter.overloaded")
    assert found.fixes
    for fix in found.fixes:
        store: Any = apply(made, fix.edits).stores[0]
        assert store.outlets == made.stores[0].outlets  # type: ignore[union-attr]


@settings(max_examples=40, deadline=None)
@given(seed=st.integers(0, 10_000))
def test_every_working_holds_on_any_grown_station(seed: int) -> None:
    evaluation = looked_at(random_growing(seed))
    for key, found in evaluation.figures.items():
        # Volts settle to 1e-9: what is left of two large sums to a little less.
        assert by_hand(found) == pytest.approx(found.value, rel=1e-7, abs=1e-7), key
    named = {key for f in evaluation.findings for key in f.figures}
    assert named <= set(evaluation.figures)
    assert evaluation.jar.usable_wh == pytest.approx(figure(evaluation, "run.usable"))


@settings(max_examples=25, deadline=None)
@given(seed=st.integers(0, 10_000))
def test_what_a_link_says_is_what_its_limits_say(seed: int) -> None:
    """No limit is used beyond itself, and the one that binds is used up."""
    made = random_growing(seed)
    (row,) = looked_at(made).links
    for limit in row.limits:
        assert limit.used <= limit.limit * (1 + 1e-7), limit
    if row.watts and row.binds != "nothing":
        used = max(x.used / x.limit for x in row.limits if x.binds == row.binds)
        assert used == pytest.approx(1.0, rel=1e-6), row
        assert row.held_by in row.says
    if row.watts:
        assert row.source_least_a >= row.source_a * (1 - 1e-9) or row.binds != "its mode"


@settings(max_examples=15, deadline=None)
@given(seed=st.integers(0, 10_000))
def test_fixes_of_grown_stations_do_what_they_promise(seed: int) -> None:
    made = random_growing(seed)
    for found in looked_at(made).findings:
        for fix in found.fixes:
            if fix.effect is None:
                continue
            after = looked_at(apply(made, fix.edits))
            still = {(f.code, f.subject) for f in after.findings}
            if found.code != "run.must_stops_early":
                assert ((found.code, found.subject) not in still) is fix.effect.clears
            assert after.verdict.hours == fix.effect.hours_after


@pytest.mark.parametrize("seed", range(6))
def test_more_outside_never_shortens_the_hours(seed: int) -> None:
    made = random_growing(1000 + seed)
    station_: Any = made.stores[0]
    # One without pass-through has its outlets off for as long as it is fed.
    passing = station_.model_copy(update={"pass_through": True})
    made = made.model_copy(update={"stores": (passing, made.stores[1])})
    source: Any = made.stores[1]
    if source.kind != "bank":
        source = source.model_copy(update={"limit_a": source.limit_a * 2})
    else:
        source = source.model_copy(update={"parallel": source.parallel + 1})
    more = made.model_copy(update={"stores": (made.stores[0], source)})
    before, after = Context(made).analysis.run, Context(more).analysis.run
    served = [float(run.loads["served_h"].sum()) for run in (before, after)]
    assert served[1] >= served[0] - 0.05

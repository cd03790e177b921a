"""Growing a station: the operating point of a link against context of the trade, and its runs."""

import math
from typing import Any

import pytest
from hypothesis import given
from pydantic import ValidationError

from graveljar.core.analysis import charging_time as charging
from graveljar.core.context import Context
from graveljar.core.errors import InvalidDocument, NotSolved
from graveljar.core.evaluation import Evaluation
from graveljar.core.kernel.trace import Trace
from graveljar.core.model.parse import refusal
from graveljar.core.model.patch import Edit, apply
from graveljar.core.views.links import LinkRow
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
    tidy,
)

# A store that gives whatever is asked at next to its nominal volts.
STIFF: dict[str, Any] = {"battery": {"volts": 12.8, "ah": 5000.0, "resistance_mohm": 0.001}}
# Figures without a converter's own losses and limits.
FREE: dict[str, Any] = {
    "topology": "boost", "continuous_a": 200.0, "quiescent_w": 0.0, "droop_v": 0.0,
    "full_load": {"load_share": 1.0, "efficiency": 0.9}, "cable_mohm": 0.0,
}  # fmt: skip


def link_of(evaluation: Evaluation) -> LinkRow:
    """The only link."""
    (row,) = evaluation.links
    return row


def fed_at(volts: float, mode: str = "Solar", **of_station: Any) -> LinkRow:
    """A link from a converter set to some volts."""
    made = evaluated(
        stores=[station(**IDEAL, **of_station), STIFF],
        more=[converter(set_v=volts, **FREE)],
        links=[lead("converter", mode=mode)],
    )
    return link_of(made)


@pytest.mark.parametrize(
    ("volts", "mode", "watts", "binds"),
    [
        # Common practice: an input of 15 A and 500 W, in its 8 A mode too.
        (28.0, "Solar", 420.0, "its mode"),
        (30.0, "Solar", 450.0, "its mode"),
        (33.4, "Solar", 500.0, "the input's watts"),
        (60.0, "Solar", 500.0, "the input's watts"),
        (30.0, "Car", 240.0, "its mode"),
    ],
)
def test_an_input_takes_the_least_of_its_limits(
    volts: float, mode: str, watts: float, binds: str
) -> None:
    row = fed_at(volts, mode)
    assert row.watts == pytest.approx(watts, rel=1e-6)
    assert row.binds == binds


@pytest.mark.parametrize(
    ("volts", "watts"),
    # Common practice: a car socket of 10 A at 12 and at 13.3 V.
    [(12.0, 120.0), (13.3, 133.0)],
)
def test_a_car_socket_gives_ten_amps(volts: float, watts: float) -> None:
    car = {"kind": "vehicle", "running_v": volts, "limit_a": 10.0, "cable_mohm": 0.0}
    row = link_of(evaluated(stores=[station(**IDEAL), car], links=[lead("vehicle")]))
    assert row.watts == pytest.approx(watts, rel=1e-6)
    assert row.binds == "the source"


def test_two_boosts_in_parallel_give_what_was_measured() -> None:
    """Two 36 V 5 A boosts: 360 W nominal; 432 W at 36.3 V 11.9 A took 38 A from 13 V, 87 %."""
    source = {"battery": {"volts": 13.0, "ah": 5000.0, "resistance_mohm": 0.001, "cells": 4}}
    boost = FREE | {"full_load": {"load_share": 1.0, "efficiency": 0.87}}

    def fed(**changed: Any) -> LinkRow:
        boosts = converter(**(boost | {"parallel": 2, **changed}))
        made: Any = {"stores": [station(**IDEAL), source], "more": [boosts]}
        return link_of(evaluated(**made, links=[lead("converter")]))

    nominal = fed(set_v=36.0, continuous_a=5.0)
    assert nominal.watts == pytest.approx(360, rel=1e-6)
    assert nominal.binds == "the converter"
    measured = fed(set_v=36.3, continuous_a=5.95)
    assert measured.watts == pytest.approx(432, rel=1e-3)
    assert measured.source_a == pytest.approx(432 / 0.87 / 13.39, rel=1e-3)
    # At the 13 V of the measurement.
    assert measured.source_a * 13.39 / 13 == pytest.approx(38, rel=0.01)


@pytest.mark.parametrize(
    ("battery", "series", "most_v", "fits"),
    [
        # Common practice: 13S is 54.6 V when full, 14S 58.8 V; two 5S packs are 42 V.
        ({"chemistry": "nmc", "volts": 46.8, "ah": 14.0, "cells": 13}, 1, 58.0, True),
        ({"chemistry": "nmc", "volts": 50.4, "ah": 13.0, "cells": 14}, 1, 58.0, False),
        ({"chemistry": "nmc", "volts": 18.0, "ah": 5.0, "cells": 5}, 2, 65.0, True),
        ({"chemistry": "nmc", "volts": 18.0, "ah": 5.0, "cells": 5}, 2, 28.0, False),
    ],
)
def test_volts_at_full_charge_decide(
    battery: dict[str, Any], series: int, most_v: float, fits: bool
) -> None:
    stores = [
        station(accepts={"least_v": 12.0, "most_v": most_v}),
        {"battery": battery, "series": series},
    ]
    made = evaluated(stores=stores, links=[lead("bank")])
    assert (link_of(made).fit == "fits") is fits
    assert ("link.above_maximum" in codes(made)) is not fits
    (joint,) = [joint for joint in made.joints if joint.kind == "link"]
    assert joint.arrives_high_v == pytest.approx(4.2 * battery["cells"] * series)


def test_a_hybrid_car_gives_what_its_converter_does() -> None:
    """Common practice: 113 A at 11.6 V are 1.31 kW."""
    car = {"kind": "vehicle", "running_v": 11.6, "limit_a": 113.0, "cable_mohm": 0.0}
    large = station(**IDEAL, most_w=4000.0, modes=[{"name": "Solar", "amps": 500.0}])
    row = link_of(evaluated(stores=[large | {"most_in_w": 9000.0}, car], links=[lead("vehicle")]))
    assert row.watts == pytest.approx(1310, rel=2e-3)


@given(
    share=tidy(0.5, 1.0),
    charge=tidy(0.7, 1.0),
    boost=tidy(0.8, 0.98),
    keep=tidy(0.0, 0.5),
)
def test_together_is_never_the_sum_of_the_labels(
    share: float, charge: float, boost: float, keep: float
) -> None:
    """Station usable + outside usable x converter x charging (common practice)."""
    made = evaluated(
        stores=[
            station(usable_share=share, charge_efficiency=charge, idle_w=0.0),
            STIFF | {"battery": STIFF["battery"] | {"ah": 100.0}, "reserve": keep},
        ],
        more=[
            converter(set_v=28.0, **FREE | {"full_load": {"load_share": 1.0, "efficiency": boost}})
        ],
        links=[lead("converter")],
    )
    together = figure(made, "link.lead.combined")
    assert together < 512 + 1280
    assert together == pytest.approx(512 * share + 1280 * (1 - keep) * boost * charge, rel=1e-4)


@pytest.mark.parametrize(
    ("mains_from_h", "watts"),
    # Its inputs are for 500 W and 300 W; the station takes 600 W in all (hand sum).
    [(0.0, 600.0), (12.0, 800.0)],
)
def test_a_limit_of_two_inputs_is_shared_only_while_both_are_plugged_in(
    mains_from_h: float, watts: float
) -> None:
    def times(from_h: float) -> Any:
        return {"windows": [{"from_h": from_h, "to_h": from_h + 12.0}]}

    made = evaluated(
        stores=[station(**IDEAL) | {"most_in_w": 600.0}, STIFF],
        more=[
            converter(set_v=40.0, **FREE),
            {"kind": "inverter", "id": "inverter", "continuous_w": 2000.0},
        ],
        links=[
            lead("converter", times=times(0.0)),
            lead("inverter", id="cord", input="mains", mode="Mains", times=times(mains_from_h)),
        ],
    )
    assert sum(row.watts for row in made.links) == pytest.approx(watts)


def grown(*loads: Any, links: Any = None, setting: Any = None, **of_station: Any) -> Any:
    """A station at half charge fed from a 12.8 V 100 Ah bank through a 28 V boost."""
    return design(
        *loads,
        stores=[station(**{"starts_at": 0.5, **of_station}), bank(id="outside", reserve=0.1)],
        more=[converter(rail="outside", set_v=28.0, **FREE)],
        links=[lead("converter")] if links is None else links,
        setting={"horizon_h": 400.0, **(setting or {})},
    )


def happened(made: Any, subject: str = "station") -> list[str]:
    """What happened to a thing, in order."""
    return [event.what for event in Context(made).analysis.run.events if event.subject == subject]


def test_the_load_comes_first_and_the_rest_charges() -> None:
    """420 W arrive, 93 % are kept; 100 W of load and 3 W of its own go first."""
    run = Context(grown(on_port(100.0, hours_per_day=24.0))).analysis.run
    _, charge, volts, amps, _ = run.points()
    into_cells = -volts[0, 0] * amps[0, 0]
    assert into_cells == pytest.approx(420 * 0.93 - 103, rel=2e-3)
    assert charge[:, 0].max() == pytest.approx(1.0, abs=1e-6)


def test_near_full_it_takes_less_and_then_only_what_is_used() -> None:
    """From 98 % on the charging power falls to a third; full, it takes load and idle alone."""
    run = Context(grown(on_port(50.0, hours_per_day=24.0), most_in_w=420.0)).analysis.run
    hours, charge, volts, amps, _ = run.points()
    into = -volts[:, 0] * amps[:, 0]
    late = (charge[:, 0] > 0.985) & (charge[:, 0] < 0.999) & (amps[:, 3] > 0)
    expected = 420 * 0.93 * (1 - 2 / 3 * (charge[late, 0] - 0.98) / 0.02)
    assert into[late] == pytest.approx(expected.clip(max=420 * 0.93 - 53), rel=1e-3)
    full = (charge[:, 0] == 1.0) & (amps[:, 3] > 0) & (hours < 8)
    link_w = volts[full, 2] * amps[full, 3]
    assert link_w == pytest.approx(53 / 0.93, rel=1e-3)
    assert happened(grown(on_port(50.0, hours_per_day=24.0))) == ["is full", "meets its floor"]


def test_the_outside_battery_ends_and_the_station_goes_on() -> None:
    made = grown(on_port(100.0, hours_per_day=24.0))
    run = Context(made).analysis.run
    assert [(e.subject, e.what) for e in run.events if e.what == "meets its floor"] == [
        ("outside", "meets its floor"), ("station", "meets its floor"),
    ]  # fmt: skip
    # By hand: (0.45 x 512 left + 1 152 x 0.9 x 0.93) Wh over 103 W, cables apart.
    hand_h = (0.45 * 512 + 1152 * 0.9 * 0.93) / 103
    assert run.hours == pytest.approx(hand_h, rel=0.03)
    alone = Context(grown(on_port(100.0, hours_per_day=24.0), links=[])).analysis.run
    assert alone.hours == pytest.approx(0.45 * 512 / 103, rel=0.03)


def test_too_small_a_feed_stretches_and_does_not_refill() -> None:
    slow = [{"name": "Solar", "amps": 2.0}]
    made = grown(on_port(100.0, hours_per_day=24.0), modes=slow)
    evaluation = looked_at(made)
    assert "link.net_negative" in codes(evaluation)
    what = happened(made)
    assert what[0] == "meets its floor"
    # Fed on, it comes back, and runs empty again, until the battery outside is empty.
    assert what.count("switches its outlets on") >= 3
    assert evaluation.verdict.hours == pytest.approx(0.45 * 512 / (103 - 56 * 0.93), rel=0.03)


@pytest.mark.parametrize(
    ("outside_ah", "of_station", "hours", "fills"),
    [
        # By hand, of 20 Ah: 8 Ah at 387.6 W and 26.4 V + 14.1 A x 80 mOhm; the last 2 Ah at
        # some 27.2 V while the watts fall to a third.
        pytest.param(
            100.0, {"most_in_w": 420.0},
            9.6 * 27.5 / 387.6 + 0.4 * 27.2 / 390.6 * math.log(3) / (2 / 3),
            "from 50 % to full", id="full",
        ),
        # By hand: 115.2 Wh x 0.9 x 0.93 arrive within 0.25 h; 3 W of its own go off them.
        pytest.param(10.0, {}, 115.2 * 0.9 / 420, "to 68 %; then Bank supplies no more", id="out"),
        pytest.param(
            100.0, {"modes": [{"name": "Solar", "amps": 0.1}]}, None, "at most", id="2.6 W"
        ),
        pytest.param(100.0, {"starts_at": 1.0}, None, "station is full", id="full already"),
        # Lithium takes no charge below 0 °C (common practice).
        pytest.param(100.0, {"setting": {"ambient_c": -1.0}}, None, "below freezing", id="frost"),
    ],
)  # fmt: skip
def test_hours_to_fill_go_from_the_present_charge_until_full_or_the_source_ends(
    outside_ah: float, of_station: dict[str, Any], hours: float | None, fills: str
) -> None:
    battery = {"ah": outside_ah, "volts": 12.8, "bms_a": None, "resistance_mohm": 1.0}
    made = grown(on_port(500.0), **of_station)
    made = apply(made, (Edit("add", "/stores/1/battery", battery),))
    evaluation = looked_at(made)
    assert fills in link_of(evaluation).fills
    found = evaluation.figures.get("link.lead.refill_h")
    assert (found and found.value) == (hours and pytest.approx(hours, rel=0.02))


def test_a_source_at_its_reserve_gives_no_charge() -> None:
    made = apply(grown(on_port(50.0)), (Edit("add", "/stores/1/starts_at", 0.1),))
    assert link_of(looked_at(made)).fills == "Power station stays at 50 %: Bank supplies no charge"


def test_hours_to_fill_that_cannot_be_worked_out_cost_no_other_figure(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    def refused(_trace: Trace) -> None:
        raise NotSolved("The volts swing.")

    monkeypatch.setattr(charging, "answered", refused)
    evaluation = looked_at(grown(on_port(50.0)))
    assert evaluation.verdict.hours
    assert link_of(evaluation).fills == "no hours: no stable voltage and current was found"
    assert evaluation.figures.get("link.lead.refill_h") is None


def test_a_switching_load_adds_no_stretch_to_the_day_without_loads() -> None:
    context = Context(grown(on_port(50.0, duty=0.4, cycle_min=10.0, hours_per_day=24.0)))
    (feeding,) = context.analysis.link_operations.values()
    k = context.analysis.lowered.place[feeding.link.id]
    day = charging._without_loads(context.analysis.lowered, feeding, k)
    assert len(context.analysis.lowered.day.edges) > 100
    assert day.edges.tolist() == [0.0, 24.0]
    assert len(day.plugged) == len(day.warmth) == len(day.demand) == 1


@pytest.mark.parametrize("starts_at", [0.04, 0.06, 0.15])
def test_below_its_reserve_in_frost_a_fed_station_waits(starts_at: float) -> None:
    """No charge goes into lithium below 0 °C: it stays as it is, and time goes on."""
    made = grown(on_port(50.0), starts_at=starts_at, setting={"ambient_c": -1.0})
    run = Context(made).analysis.run
    assert run.ends_h > 24
    assert float(run.stores[0]["charge"]) == pytest.approx(starts_at)


def test_without_pass_through_the_phases_take_turns() -> None:
    """Plugged in from 20 to 6 h its port is off; a lamp from 18 to 22 h is missed for two."""
    evening = {"kind": "windows", "windows": [{"from_h": 18.0, "to_h": 22.0}]}
    times = {"kind": "windows", "windows": [{"from_h": 20.0, "to_h": 6.0}]}
    lamp = on_port(20.0, "lamp", when=evening, priority="must")
    made = grown(lamp, links=[lead("converter", times=times)], pass_through=False)
    evaluation = looked_at(made)
    assert evaluation.verdict.hours == pytest.approx(20.0)
    assert evaluation.verdict.cause == "charging"
    assert "station.no_pass_through" in codes(evaluation)
    passing = looked_at(grown(lamp, links=[lead("converter", times=times)]))
    assert passing.verdict.hours is None or passing.verdict.hours > 100


def test_a_station_asked_for_little_switches_itself_off() -> None:
    small = on_port(4.0, hours_per_day=24.0, priority="must")
    made = design(small, stores=[station(sleeps_below_w=5.0, sleeps_after_h=2.0)])
    evaluation = looked_at(made)
    assert evaluation.verdict.hours == pytest.approx(2.0)
    assert evaluation.verdict.cause == "asleep"
    assert "switches itself off" in evaluation.verdict.then
    # Two hours of 4 W and 3 W of its own, and not a moment more.
    released_wh = float(Context(made).analysis.run.stores[0]["released"])
    assert released_wh == pytest.approx(2 * (4 + 3), rel=0.01)
    more = on_port(6.0, hours_per_day=24.0, priority="must")
    awake = evaluated(more, stores=[station(sleeps_below_w=5.0, sleeps_after_h=2.0)])
    assert awake.verdict.hours == pytest.approx(0.95 * 512 / (6 + 3), rel=0.02)


def test_a_backup_unit_shares_its_supply_between_load_and_battery() -> None:
    """A router's: 24 W in, 12 W of load; what is left over charges, and without supply it runs."""
    unit = {
        "kind": "station", "id": "station", "label_wh": 60.0, "chemistry": "nmc", "cells": 3,
        "usable_share": 1.0, "idle_w": 0.0, "charge_efficiency": 1.0, "starts_at": 0.5,
        "outlets": [{"kind": "dc", "id": "port", "volts": 12.0, "efficiency": 1.0}],
        "inputs": [{"id": "dc-in", "accepts": {"least_v": 11.0, "most_v": 13.0},
                    "modes": [{"name": "Solar", "amps": 2.0}], "most_w": 24.0}],
    }  # fmt: skip
    router = on_port(12.0, "router", hours_per_day=24.0)
    first_hour = {"kind": "windows", "windows": [{"from_h": 0.0, "to_h": 1.0}]}
    made = design(
        router,
        stores=[unit, STIFF],
        more=[converter(set_v=12.0, **FREE | {"topology": "buck-boost"})],
        links=[lead("converter", times=first_hour)],
    )
    run = Context(made).analysis.run
    hours, _, volts, amps, _ = run.points()
    early = (hours > 0) & (hours < 0.9)
    assert -(volts * amps)[early, 0] == pytest.approx(12.0, rel=1e-3)
    # 30 Wh and 12 more, then 12 W: three hours and a half after the supply went. The lower half
    # of its charge is at lower volts: a little less.
    assert run.hours == pytest.approx(1 + (30 + 12) / 12, rel=0.05)


def test_a_vehicle_gives_only_while_its_engine_runs() -> None:
    runs = {"kind": "windows", "windows": [{"from_h": 8.0, "to_h": 10.0}]}
    car = {"kind": "vehicle", "running_v": 13.8, "limit_a": 10.0, "cable_mohm": 0.0, "runs": runs}
    empty = station(starts_at=0.06)
    made = design(
        on_port(0.5), stores=[empty, car], links=[lead("vehicle")], setting={"horizon_h": 24.0}
    )
    run = Context(made).analysis.run
    link = run.rails[run.lowered.place["lead"]]
    assert float(link["got"]) == pytest.approx(2 * 138, rel=1e-3)
    assert float(run.stores[1]["released"]) == pytest.approx(2 * 138, rel=1e-3)


def test_charging_by_mains_passes_its_loads_straight_through() -> None:
    """300 W to charge and 250 W on its sockets are 550 W for the inverter that feeds both."""
    made = evaluated(
        load(250.0, "fridge", rail="sockets", ac=True) | {"rail": "sockets"},
        stores=[station(), bank(id="outside")],
        stages=inverter(rail="outside", continuous_w=600.0),
        links=[lead("inverter", input="mains", mode=None)],
    )
    assert figure(made, "stage.inverter.running_w") == pytest.approx(550.0)
    assert "link.overload_trap" in codes(made)


@pytest.mark.parametrize(
    ("changed", "path", "code"),
    [
        ({"rail": "nowhere"}, "/links/0/rail", "unknown_rail"),
        ({"rail": "station"}, "/links/0/rail", "inside"),
        ({"to": "vehicle"}, "/links/0/to", "unknown_store"),
        ({"input": "front"}, "/links/0/input", "unknown_input"),
        ({"mode": "Turbo"}, "/links/0/mode", "unknown_mode"),
        ({"rail": "sockets"}, "/links/0/rail", "other_kind"),
        ({"rail": "port"}, "/links/0/to", "loop"),
        ({"to": "bank", "input": None, "mode": None}, "/links/0/to", "loop"),
        ({"cable_mohm": float("nan")}, "/links/0/cable_mohm", "finite_number"),
        ({"id": "port"}, "/links/0/id", "id_taken"),
    ],
)
def test_what_cannot_be_joined_is_refused(changed: Any, path: str, code: str) -> None:
    with pytest.raises(ValidationError) as refused:
        design(stores=[station(), bank()], links=[lead("bank") | changed])
    problems = refusal(refused.value.errors(include_url=False)).problems
    assert (path, code) in {(problem.path, problem.code) for problem in problems}


def test_loops_of_links_are_refused_with_their_way() -> None:
    ports = [{"kind": "dc", "id": "other", "volts": 13.0}]
    second = station(id="second", name="Shed", outlets=ports)
    with pytest.raises(ValidationError) as refused:
        design(
            stores=[station(name="Booth"), second],
            links=[lead("port", to="second"), lead("other", id="back", to="station")],
        )
    error = refusal(refused.value.errors(include_url=False))
    assert isinstance(error, InvalidDocument)
    assert any("Booth → Shed → Booth" in problem.message for problem in error.problems)


def test_what_hangs_inside_of_a_station_is_refused() -> None:
    for at, things in (
        ("/loads/0/rail", {"loads": [load(5, rail="station")]}),
        ("/stages/0/rail", {"stages": [converter(rail="station")]}),
    ):
        document = design(stores=[station()]).model_dump(mode="json") | things
        with pytest.raises(ValidationError) as refused:
            type(design()).model_validate(document)
        problems = refusal(refused.value.errors(include_url=False)).problems
        assert (at, "inside") in {(problem.path, problem.code) for problem in problems}


def test_a_documented_limit_on_the_way_binds() -> None:
    """A fuse of 20 A before the boost: 20 A x 13.4 V x 0.9 arrive."""
    made = grown()
    fused = apply(made, (Edit("replace", "/stages/0/fuse", {"amps": 20.0}),))
    row = link_of(looked_at(fused))
    assert row.binds == "a fuse"
    assert row.source_a == pytest.approx(20.0, rel=1e-6)
    assert "link.source_current" in codes(looked_at(fused))
    assert row.wanted_a > 30


@pytest.mark.parametrize(
    ("changed", "ambient_c", "amps", "code"),
    [
        # Of 10 A: all of it, hot, without an ambient on the label; a fifth less at 50 °C; what was
        # measured where it was; 8 A asked of 10.
        ({"documented": False}, 20.0, 10.0, "converter.undocumented"),
        ({"documented": False, "measured_a": 14.0}, 20.0, 14.0, "converter.undocumented"),
        ({}, 50.0, 8.0, "converter.hot"),
        ({}, 20.0, 10.0, "converter.little_margin"),
    ],
)
def test_a_converter_gives_a_link_no_more_than_it_is_good_for(
    changed: Any, ambient_c: float, amps: float, code: str
) -> None:
    boost = converter(rail="outside", set_v=28.0, **FREE | {"continuous_a": 10.0} | changed)
    made = evaluated(
        stores=[station(), bank(id="outside")],
        more=[boost],
        links=[lead("converter")],
        ambient_c=ambient_c,
    )
    row = link_of(made)
    assert row.amps == pytest.approx(amps, rel=1e-6)
    assert row.binds == "the converter"
    assert code in codes(made)


def test_a_stage_on_a_vehicle_idles_only_while_its_engine_runs() -> None:
    """An inverter of 12 W idle on a car that runs two hours a day takes 24 Wh of it a day."""
    runs = {"kind": "windows", "windows": [{"from_h": 8.0, "to_h": 10.0}]}
    car = {"kind": "vehicle", "runs": runs, "cable_mohm": 0.0, "alternator": "fixed"}
    lamp = load(1.0, ac=True, hours_per_day=24.0)
    made = design(
        lamp,
        stores=[car],
        stages=inverter(rail="vehicle", idle_w=12.0),
        setting={"horizon_h": 24.0},
        goal={"hours": 24.0},
    )
    run = Context(made).analysis.run
    assert float(run.rails[1]["idle"]) == pytest.approx(24.0, rel=1e-6)
    stop = run.first_stop
    assert stop is not None
    assert (stop.hours, stop.cause) == (0.0, "engine off")


def test_an_empty_station_fed_a_trickle_waits_and_comes_back() -> None:
    """Fed less than its own 3 W while its outlets are off: it takes that, and runs no lower."""
    trickle = grown(on_port(50.0, hours_per_day=24.0), starts_at=0.1, most_w=1.0)
    run = Context(trickle).analysis.run
    _, charge, *_ = run.points()
    assert charge[:, 0].min() == pytest.approx(0.05, abs=1e-6)
    # The last tenth of an LFP cell is at lower volts: less than its share of the label.
    assert run.hours == pytest.approx(0.05 * 512 / (53 - 0.93), rel=0.12)
    assert happened(trickle) == ["meets its floor"]

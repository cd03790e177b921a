"""Routes side by side, against sums by hand and evaluations of the designs they lead to."""

from typing import Any

import pytest

from graveljar.core.errors import InvalidDocument
from graveljar.core.evaluate import evaluate
from graveljar.core.model.patch import apply
from graveljar.core.planning.shelf import Candidate
from graveljar.core.planning.station_growth import Route, RoutesAsk, routes_of
from graveljar.core.planning.station_growth.compare import filled
from graveljar.demo import demo_designs
from graveljar.formats.parts_csv import starting_shelf
from tests.building import IDEAL, bank, design, on_port, station
from tests.core.test_workings import by_hand

SHELF = [Candidate(str(n), part) for n, part in enumerate(starting_shelf())]
BOOTH = demo_designs()["ticket-booth"]
PLAIN = {"battery": "old-battery", "module_wh": 512.0, "module_price": 400.0}


def by_way(made: Any, **ask: Any) -> dict[str, Route]:
    """The routes of a design's station."""
    found = routes_of(made, RoutesAsk.model_validate({"station": "station", **ask}), SHELF)
    return {route.way: route for route in found}


@pytest.fixture(scope="module")
def booth() -> dict[str, Route]:
    """The routes of the ticket booth with the van's old battery."""
    return by_way(BOOTH, station="booth-station", **PLAIN)


def test_every_route_of_the_trade_is_there(booth: dict[str, Route]) -> None:
    ways = ["present", "straight", "boost", "matched", "series", "module", "bigger"]
    assert list(booth) == ways


def test_straight_is_slow_and_a_boost_three_times_that(booth: dict[str, Route]) -> None:
    """Common practice: 13.3 V x 8 A = 106 W; into 15 A at 24 V about three times as much."""
    straight, boost = booth["straight"].link, booth["boost"].link
    assert straight is not None
    assert boost is not None
    assert straight.watts == pytest.approx(13.3 * 8, rel=0.01)
    assert 2.7 < boost.watts / straight.watts < 3.6
    assert boost.source_a > 2 * boost.amps * 0.8


def test_what_is_too_many_volts_is_shown_and_does_not_fit(booth: dict[str, Route]) -> None:
    """36 V as it is now, and 42 V of two 5S packs, into an input of 28 V."""
    for way in ("present", "series"):
        route = booth[way]
        assert not route.fits
        assert route.joint is not None
        assert route.joint.arrives_high_v > route.joint.most_v
        assert any(warned.severity == "stop" for warned in route.warnings)
    assert booth["matched"].fits


def test_hours_are_those_of_the_design_it_leads_to(booth: dict[str, Route]) -> None:
    """Every store full, to compare like with like; none that brings danger can be used."""
    for way, route in booth.items():
        if any(x.severity == "stop" for x in route.warnings) and way != "present":
            assert not route.edits
            continue
        led_to = evaluate(filled(apply(BOOTH, route.edits)), quick=True)
        assert route.hours == led_to.verdict.hours
        stops = {f.title for f in led_to.findings if f.severity == "stop"}
        assert {x.title for x in route.warnings if x.severity == "stop"} == stops
        kept = {load.id for load in apply(BOOTH, route.edits).loads if load.rail is not None}
        assert kept == {load.id for load in BOOTH.loads}


def test_a_price_is_over_what_is_delivered() -> None:
    """Common practice: 500 for 1 024 Wh is 0.49 a Wh, for 2 560 Wh 0.20; where nothing is lost."""
    for wh, a_wh in ((1024.0, 0.49), (2560.0, 0.20)):
        route = by_way(design(on_port(20), stores=[station(**IDEAL)]),
                       module_wh=wh, module_price=500.0)["module"]  # fmt: skip
        assert route.price_a_wh == pytest.approx(a_wh, abs=0.005)
    lossy = by_way(design(on_port(20), stores=[station(usable_share=0.8)]),
                   module_wh=1024.0, module_price=500.0)["module"]  # fmt: skip
    assert lossy.price_a_wh == pytest.approx(500 / (0.8 * 1024))


def test_every_figure_of_a_route_has_its_working(booth: dict[str, Route]) -> None:
    for route in booth.values():
        for key, figure in route.figures.items():
            assert by_hand(figure) == pytest.approx(figure.value, rel=1e-9), key
            assert {t.figure for t in figure.terms.values() if t.figure} <= set(route.figures)
        if route.fits:
            assert route.figures["route.gained"].value == route.gained_wh
            assert route.figures["route.refill_h"].value == route.refill_h
        if route.price_a_wh is not None:
            assert route.figures["route.price_a_wh"].value == route.price_a_wh


def test_what_is_at_hand_is_not_bought_again(booth: dict[str, Route]) -> None:
    assert (booth["straight"].price, booth["boost"].price) == (0.0, 75.0)
    shelf_only = by_way(BOOTH, station="booth-station")
    assert shelf_only["straight"].price
    assert "module" not in shelf_only


def test_gained_energy_is_never_what_is_printed(booth: dict[str, Route]) -> None:
    """Outside usable x converter x charging, by hand: 82 Ah x 12.8 V x 0.9 x temperature."""
    usable = 82 * 12.8 * 0.9 * (0.95 + 0.05 * 5 / 15)
    assert booth["straight"].gained_wh == pytest.approx(usable * 0.93, rel=0.01)
    boost = booth["boost"]
    assert boost.gained_wh == pytest.approx(usable * 0.93 * 0.93, rel=0.025)
    assert boost.gained_wh < booth["straight"].gained_wh < 82 * 12.8


def test_refilling_is_told_with_what_does_it(booth: dict[str, Route]) -> None:
    """0.2C for nine tenths of the charge, a tenth longer for the taper: about five hours."""
    route = booth["boost"]
    assert route.refill_h == pytest.approx(0.9 / 0.2 * 1.1)
    assert "16 A" in route.refill
    assert "mains" in booth["module"].refill


def test_a_battery_that_feeds_something_else_stays() -> None:
    lamp = {"id": "lamp", "name": "lamp", "rail": "bank", "supply": {"kind": "dc", "volts": 12.0},
            "demand": {"kind": "watts", "watts": 5.0}}  # fmt: skip
    made = design(on_port(20), lamp, stores=[station(), bank()])
    route = by_way(made, battery="bank")["straight"]
    after = apply(made, route.edits)
    assert [store.id for store in after.stores] == ["station", "bank"]
    assert after.loads == made.loads


@pytest.mark.parametrize("ask", [{"station": "bank"}, {"station": "nothing"}, {"battery": "port"}])
def test_unknown_things_are_refused(ask: dict[str, str]) -> None:
    with pytest.raises(InvalidDocument):
        by_way(design(stores=[station(), bank()]), **ask)


def test_a_station_without_inputs_and_an_empty_shelf_still_tell_what_there_is() -> None:
    closed = design(on_port(20), stores=[station(inputs=[])])
    assert set(by_way(closed, module_wh=500.0)) == {"module", "bigger"}
    found = routes_of(design(stores=[station()]), RoutesAsk(station="station"), [])
    assert [route.way for route in found] == ["straight", "boost"]
    assert all(route.price is None for route in found)


def test_the_bigger_station_is_the_smallest_that_holds_what_is_wanted(
    booth: dict[str, Route],
) -> None:
    """512 Wh inside and 1 050 Wh of the battery are 1 562 Wh: 1 024 is too small."""
    assert [part.name for part in booth["bigger"].parts] == ["Station 2048 Wh, 58 V input"]

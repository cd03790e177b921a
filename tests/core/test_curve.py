"""A battery's own curve: bounded, and in its place wherever that of its chemistry would count."""

from typing import Any

import pytest
from pydantic import TypeAdapter, ValidationError

from graveljar.core.components.battery import bank_label, chemistry_of
from graveljar.core.context import Context
from graveljar.core.evaluate import evaluate
from graveljar.core.model import Battery
from graveljar.core.planning.shelf import AnyPart, ShelfPart
from graveljar.core.readings import judge_reading
from graveljar.core.readings.reading import RestedReading
from graveljar.core.tables.chemistry import CHEMISTRIES
from graveljar.formats.parts_csv import read_parts, write_parts
from tests.building import bank, design, inverter, load, station, the_bank

PART: TypeAdapter[AnyPart] = TypeAdapter(ShelfPart)


def level(volts: float) -> list[dict[str, float]]:
    """A curve that is as good as flat. [V]"""
    return [{"charge": x, "volts": volts + 0.01 * (x - 0.5)} for x in (0.0, 0.5, 1.0)]


@pytest.mark.parametrize("volts", [11.0, 12.8, 14.2])
def test_hours_are_those_of_its_own_volts(volts: float) -> None:
    """100 Ah at so many volts over 64 W: Wh over W, definition. Nothing is lost on the way."""
    made = design(
        load(64.0, hours_per_day=24.0, window={"cut_out_v": 8.0, "most_v": 16.0}),
        stores=bank(reserve=0.0, resistance_mohm=0.001, low_v=8.0, curve=level(volts)),
    )
    hours = Context(made).analysis.run.hours
    assert hours == pytest.approx(100.0 * volts / 64.0, rel=2e-3)


def test_a_higher_curve_keeps_a_load_on_for_longer() -> None:
    """A fan that cuts out at 12.4 V: on a curve that reaches 12.4 V at a quarter it runs for
    three quarters of the charge (the curve itself).
    """
    curve = [{"charge": x, "volts": v} for x, v in ((0.0, 11.9), (0.25, 12.4), (1.0, 13.9))]
    fan = load(65.0, hours_per_day=24.0, draw="constant current",
               window={"cut_out_v": 12.4, "most_v": 16.0})  # fmt: skip
    run: dict[str, float] = {}
    for name, own in (("own", curve), ("kind", None)):
        made = design(fan, stores=bank("agm", 12.0, 100.0, reserve=0.0, resistance_mohm=0.001,
                                       peukert=1.0, curve=own))  # fmt: skip
        run[name] = Context(made).analysis.run.hours or 0.0
    amps = 65.0 / 12.0
    assert run["own"] == pytest.approx(75.0 / amps, rel=0.02)
    # That of AGM has 12.4 V at about half (common charts, from memory).
    assert 0 < run["kind"] < 0.75 * run["own"]


@pytest.mark.parametrize(
    ("curve", "why"),
    [
        ([(0.0, 12.0), (0.4, 12.5)], "at least 3"),
        ([(0.1, 12.0), (0.5, 12.5), (1.0, 13.0)], "from charge 0 to 1"),
        ([(0.0, 12.0), (0.5, 12.5), (0.9, 13.0)], "from charge 0 to 1"),
        ([(0.0, 12.0), (0.5, 12.5), (0.5, 12.6), (1.0, 13.0)], "rises from point to point"),
        ([(0.0, 12.0), (0.5, 12.5), (1.0, 12.4)], "rises from point to point"),
        # 0.6 and 1.4 times 12.8 V.
        ([(0.0, 7.6), (0.5, 12.5), (1.0, 13.0)], "between 7.68 and 17.92 V"),
        ([(0.0, 12.0), (0.5, 12.5), (1.0, 18.0)], "between 7.68 and 17.92 V"),
    ],
)
def test_a_curve_that_no_battery_has_is_refused(curve: list[tuple[float, float]], why: str) -> None:
    points = [{"charge": x, "volts": v} for x, v in curve]
    with pytest.raises(ValidationError, match=why):
        Battery.model_validate({"chemistry": "lfp", "volts": 12.8, "curve": points})


def test_only_its_curve_is_its_own() -> None:
    own = Battery.model_validate({"chemistry": "lfp", "volts": 12.8, "curve": level(13.0)})
    kind, usual = chemistry_of(own), CHEMISTRIES["lfp"]
    assert kind.ocv_source == "ocv-measured"
    # By cell: 13 V over four.
    assert [v for _, v in kind.ocv] == pytest.approx([3.249, 3.25, 3.251], abs=0.001)
    assert (kind.full_v, kind.empty_v, kind.lithium) == (usual.full_v, usual.empty_v, True)
    assert chemistry_of(Battery()) is usual
    assert bank_label(the_bank(design(stores=bank(curve=level(13.0))))).rested_v == pytest.approx(
        13.005
    )


def test_rested_volts_tell_the_charge_on_its_own_curve() -> None:
    """12.95 V lies in the middle between 12 V empty and 13.9 V full (the curve itself)."""
    curve = [{"charge": 0.0, "volts": 12.0}, {"charge": 0.5, "volts": 12.95},
             {"charge": 1.0, "volts": 13.9}]  # fmt: skip
    made = design(load(20.0, "lamp"), stores=bank("agm", 12.0, curve=curve))
    reading = RestedReading(subject="bank", volts=12.95, rested_h=12.0)
    found = judge_reading(Context(made), reading)
    assert "50 % charged" in found.says
    assert found.sources[0] == "ocv-measured"
    figures = evaluate(made, quick=True).figures
    assert figures


def test_it_goes_through_the_shelf_and_its_csv() -> None:
    part = PART.validate_python(
        {"kind": "battery", "name": "Measured", "figures": {"volts": 12.8, "ah": 96.0,
                                                            "curve": level(13.1)}}
    )  # fmt: skip
    bare = PART.validate_python({"kind": "battery", "name": "Bare", "figures": {}})
    rows = read_parts(write_parts([part, bare]))
    assert [row.problems for row in rows] == [(), ()]
    assert [row.part for row in rows] == [part, bare]
    broken = write_parts([part]).replace('""volts"": 13.105', '""volts"": 1')
    (row,) = read_parts(broken)
    assert [(x.column, "rises" in x.message) for x in row.problems] == [("", True)]


@pytest.mark.parametrize(
    ("port", "why"),
    [
        ({"volts": 12.0, "selects_v": [5.0, 9.0]}, "one of the volts that its switch offers"),
        ({"gives": "sagging", "volts": None, "selects_v": [12.0]}, "its switch offers"),
        ({"volts": 12.0, "selects_v": [12.0] * 9}, "at most 8"),
        ({"volts": 12.0, "selects_v": [12.0, -5.0]}, "greater than 0"),
        ({"volts": 12.0, "polarity": "inside out"}, "centre positive"),
    ],
)
def test_a_port_that_no_station_has_is_refused(port: Any, why: str) -> None:
    with pytest.raises(ValidationError, match=why):
        design(stores=station(outlets=[{"kind": "dc", "id": "port"} | port]))


def test_a_station_with_a_switch_goes_through_csv() -> None:
    port = {"kind": "dc", "id": "port", "volts": 16.5, "selects_v": [12.0, 16.5, 20.0],
            "plug": "barrel", "polarity": "centre positive"}  # fmt: skip
    figures = {"label_wh": 60.0, "chemistry": "nmc", "cells": 3, "outlets": [port], "inputs": []}
    part = PART.validate_python({"kind": "station", "name": "Box", "figures": figures})
    (row,) = read_parts(write_parts([part]))
    assert row.part == part


def test_what_a_measured_curve_does_reaches_what_hangs_behind_stages() -> None:
    """An inverter that cuts out at 12 V: on a curve that never falls so far it uses all of it."""
    high = [{"charge": x, "volts": v} for x, v in ((0.0, 12.3), (0.5, 12.6), (1.0, 13.0))]
    hours = []
    for curve in (high, None):
        made = design(
            load(50.0, ac=True, hours_per_day=24.0),
            stores=bank("agm", 12.0, reserve=0.0, resistance_mohm=0.001, curve=curve),
            stages=inverter(accepts={"least_v": 12.0, "most_v": 15.0}),
        )
        hours.append(Context(made).analysis.run.hours)
    # AGM is at 12 V with some 15 to 25 % left (common charts, from memory).
    on_its_own, of_its_kind = hours
    assert on_its_own is not None
    assert of_its_kind is not None
    assert of_its_kind < 0.9 * on_its_own

"""Limits of wiring that practice or a code sets beside the tables."""

import math
from typing import Any

import pytest

from graveljar.core.cables.plan import PlannedRun, shunt_for
from graveljar.core.cables.sizing import Conditions, choose
from graveljar.core.components.cable import most_fuse_a, size_of
from graveljar.core.context import Context
from graveljar.core.model import Design
from graveljar.core.tables.conductors import School, SizeName
from graveljar.formats.parts_csv import read_parts, write_parts
from tests.building import bank, converter, design, lead, load, station
from tests.core.cases import lead_of
from tests.core.test_cables import asked


def run_of(made: Design, subject: str) -> PlannedRun:
    """One run of a design."""
    return Context(made).cables[subject]


@pytest.mark.parametrize(
    ("size", "school", "most_a"),
    # NEC 240.4(D), from memory: 15, 20 and 30 A on 14, 12 and 10 AWG; a metric size counts as the
    # gauge it covers. Boats and larger wire go by what they bear.
    [("14 AWG", "building wire", 15.0), ("12 AWG", "building wire", 20.0),
     ("10 AWG", "building wire", 30.0), ("8 AWG", "building wire", 50.0),
     ("2.5 mm²", "building wire", 15.0), ("4 mm²", "building wire", 20.0),
     ("14 AWG", "boat and vehicle", 20.0)],
)  # fmt: skip
def test_small_building_wire_keeps_to_its_fuses(
    size: SizeName, school: School, most_a: float
) -> None:
    choice = choose(size_of(size), 1, asked(5.0), Conditions(school, 30.0, 2, 75.0))
    assert choice.most_fuse_a == pytest.approx(most_a)
    assert most_fuse_a(size_of(size), school, 1.0) == 1.0


@pytest.mark.parametrize(
    ("leads", "apart", "amps"),
    # 1/0 AWG bears 150 A; four conductors in one conduit 80 %, eight 70 % of it (NEC 310.16 and
    # 310.15(C)(1), from memory); in free air they do not heat one another.
    [(1, False, 150.0), (2, False, 120.0), (4, False, 105.0), (4, True, 150.0)],
)
def test_conductors_of_parallel_leads_heat_one_another(
    leads: int, apart: bool, amps: float
) -> None:
    lies = Conditions("building wire", 30.0, 2, None, apart=apart)
    assert lies.ampacity_a(size_of("1/0 AWG"), leads) == pytest.approx(amps)


@pytest.mark.parametrize(("flows_a", "shunt_a"), [(66.0, 100.0), (67.0, 150.0), (200.0, 300.0)])
def test_a_shunt_carries_two_thirds_for_long(flows_a: float, shunt_a: float) -> None:
    """Common practice."""
    assert shunt_for(flows_a) == shunt_a


@pytest.mark.parametrize(
    ("car", "low_v", "high_v"),
    # Smart alternators 12.2 to 15.5 V (common practice); twice that on 24 V.
    [({}, 12.2, 15.5), ({"alternator": "smart"}, 12.2, 15.5),
     ({"alternator": "fixed", "running_v": 14.2}, 12.2, 14.2),
     ({"nominal_v": 24, "running_v": 27.6}, 24.4, 31.0)],
)  # fmt: skip
def test_a_vehicles_rail_strays_with_its_alternator(
    car: dict[str, Any], low_v: float, high_v: float
) -> None:
    made = design(stores=[bank(), {"kind": "vehicle", **car}])
    rail = Context(made).network.rails["vehicle"]
    assert (rail.low_v, rail.high_v) == pytest.approx((low_v, high_v))


@pytest.mark.parametrize(("rail", "amps"), [("vehicle", 25 / math.sqrt(2)), ("bank", 25.0)])
def test_cables_by_an_engine_lie_at_50_degrees(rail: str, amps: float) -> None:
    """2.5 mm² of 70 °C cable bears 25 A (ISO 10133, memory); at 50 °C half the heat goes off."""
    wired = load(20, rail=rail, **lead_of("2.5 mm²", fuse={"amps": 5.0}))
    chosen = run_of(design(wired, stores=[bank(), {"kind": "vehicle"}]), "lamp").chosen
    assert chosen is not None
    assert chosen.ampacity_a == pytest.approx(amps)


@pytest.mark.parametrize(("end_a", "brings_a"), [(None, 15.0), (5.0, 5.0)])
def test_a_fuse_at_either_end_holds_a_link(end_a: float | None, brings_a: float) -> None:
    """15 A of its mode, or what the fuse at the far end lets through."""
    end = None if end_a is None else {"amps": end_a}
    made = design(
        stores=[station(), bank(id="outside", ah=300.0, bms_a=300.0)],
        more=[converter(rail="outside", set_v=28.0, continuous_a=30.0, topology="boost")],
        links=[lead("converter", end_fuse=end)],
    )
    assert Context(made).analysis.link_operations["lead"].full.amps == pytest.approx(brings_a)


@pytest.mark.parametrize(
    ("strings", "posts_a"),
    # 100 Ah of 12.8 V: 13.392 V rested over 4 mOhm (common practice). Of three, two push through
    # their own leads and that of the third: 2 x 0.5 m of 35 mm², 0.554 mOhm/m (IEC 60228, memory).
    [(1, 13.3924 / 4e-3), (3, 13.3924 / ((4e-3 + 0.554e-3) / 2 + 0.554e-3))],
)
def test_a_main_fuse_breaks_what_the_others_push(strings: int, posts_a: float) -> None:
    leads = {**lead_of("35 mm²", 0.5), "fuse": {"amps": 100.0, "kind": "class-t"}}
    made = design(stores=bank(parallel=strings, leads=leads), assumptions={"copper_c": 20.0})
    assert run_of(made, "bank").must_break_a == pytest.approx(posts_a, rel=1e-6)


def test_what_a_maker_allows_goes_through_a_file_and_back() -> None:
    text = (
        "kind,name,chemistry,volts,ah,bms_a,most_series,most_parallel,cold_charge,resets\n"
        "battery,LFP 12.8 V 90 Ah,lfp,12.8,90,90,4,8,heater,by itself\n"
    )
    (row,) = read_parts(text)
    assert row.problems == ()
    (again,) = read_parts(write_parts([row.part] if row.part else []))
    assert again.part == row.part
    figures: Any = row.part.figures if row.part else None
    assert (figures.most_series, figures.most_parallel) == (4, 8)
    assert (figures.cold_charge, figures.resets) == ("heater", "by itself")

"""Conductors and fuses against published tables, and sayings of the trade."""

import math
from typing import Any

import pytest

from graveljar.core.components.battery import bank_label
from graveljar.core.components.cable import (
    AMERICAN,
    METRIC,
    SIZES,
    ambient_factor,
    ampacity_a,
    awg_area_mm2,
    awg_name,
    bundle_factor,
    resistance_ohm,
)
from graveljar.core.components.fuse import able_kinds, runs_hot
from graveljar.core.errors import OutOfRange
from graveljar.core.model import Bank, Battery
from graveljar.core.tables.conductors import School
from graveljar.core.tables.fuses import FUSE_KINDS

AWG = {size.name.removesuffix(" AWG"): size for size in AMERICAN}
MM2 = {size.mm2: size for size in METRIC}
BUILDING: School = "building wire"
BOAT: School = "boat and vehicle"
METRIC_BOAT: School = "metric boat and vehicle"


@pytest.mark.parametrize(
    ("number", "mm2", "diameter_mm"),
    # ASTM B258 (values as tabulated there, from memory).
    [(36, 0.0127, 0.127), (18, 0.823, 1.024), (10, 5.26, 2.588), (2, 33.6, 6.544),
     (0, 53.5, 8.251), (-1, 67.4, 9.266), (-3, 107.2, 11.684)],
)  # fmt: skip
def test_gauges_have_the_published_geometry(number: int, mm2: float, diameter_mm: float) -> None:
    area = awg_area_mm2(number)
    assert area == pytest.approx(mm2, rel=3e-3)
    assert 2 * math.sqrt(area / math.pi) == pytest.approx(diameter_mm, rel=1e-3)


def test_three_gauges_are_twice_the_copper() -> None:
    """A rule of thumb of the gauge (common practice): three numbers double the area."""
    for number in range(-3, 16):
        assert awg_area_mm2(number) / awg_area_mm2(number + 3) == pytest.approx(2.0, rel=0.01)
    assert [awg_name(n) for n in (2, 1, 0, -1)] == ["2 AWG", "1 AWG", "1/0 AWG", "2/0 AWG"]


@pytest.mark.parametrize(
    ("mm2", "ohm_per_km"),
    # IEC 60228, class 5, from memory.
    [(0.5, 39.0), (1.5, 13.3), (2.5, 7.98), (6.0, 3.30), (16.0, 1.21), (25.0, 0.780),
     (50.0, 0.386), (120.0, 0.161)],
)  # fmt: skip
def test_metric_resistances_are_those_of_the_standard(mm2: float, ohm_per_km: float) -> None:
    """And at most a fifth above bare copper: strands are longer than the cable."""
    assert resistance_ohm(MM2[mm2], 100.0) * 10 == pytest.approx(ohm_per_km)
    bare = 1.7241e-8 / (mm2 * 1e-6) * 1000
    assert 1.0 < ohm_per_km / bare < 1.2


def test_copper_gains_resistance_with_heat() -> None:
    """0.393 % a kelvin from 20 °C (IACS): at 75 °C 21.6 % more."""
    six = MM2[6.0]
    hot, cold = resistance_ohm(six, 10.0, 75.0), resistance_ohm(six, 10.0, 20.0)
    assert hot / cold == pytest.approx(1.216, abs=1e-3)


@pytest.mark.parametrize(
    ("gauge", "building_a", "boat_a"),
    # NEC table 310.16, copper, 75 °C; 33 CFR 183.425 table 5, 105 °C. Both from memory.
    [("14", 20, 35), ("12", 25, 45), ("10", 35, 60), ("8", 50, 80), ("6", 65, 120), ("4", 85, 160),
     ("3", 100, 180), ("2", 115, 210), ("1", 130, 245), ("1/0", 150, 285), ("2/0", 175, 330),
     ("3/0", 200, 385), ("4/0", 230, 445)],
)  # fmt: skip
def test_ampacities_are_those_of_the_tables(gauge: str, building_a: float, boat_a: float) -> None:
    assert ampacity_a(AWG[gauge], BUILDING) == building_a
    assert ampacity_a(AWG[gauge], BOAT, insulation_c=105) == boat_a


@pytest.mark.parametrize(
    ("mm2", "pvc_a", "hot_a"),
    # ISO 10133 and 13297, one conductor, 70 and 105 °C insulation; from memory.
    [(0.75, 10, 16), (1.0, 14, 20), (1.5, 18, 25), (2.5, 25, 35), (4.0, 35, 45), (6.0, 45, 60),
     (10.0, 65, 90), (16.0, 90, 130), (25.0, 120, 170), (35.0, 160, 210), (50.0, 210, 270),
     (70.0, 265, 330), (95.0, 310, 390), (120.0, 360, 450)],
)  # fmt: skip
def test_metric_cable_goes_by_its_own_table(mm2: float, pvc_a: float, hot_a: float) -> None:
    """What is not marked counts as 70 °C (common practice)."""
    assert ampacity_a(MM2[mm2], METRIC_BOAT) == pvc_a
    assert ampacity_a(MM2[mm2], METRIC_BOAT, insulation_c=70) == pvc_a
    assert ampacity_a(MM2[mm2], METRIC_BOAT, insulation_c=105) == hot_a


@pytest.mark.parametrize(
    ("gauge", "by_insulation"),
    # 33 CFR 183.425 table 5 from memory: at 60, 75 and 90 °C. A root of the room for heat would
    # give 18 AWG 15.5 A at 75 °C, half as much again as the table.
    [("18", {60: 10, 75: 10, 90: 20}), ("14", {60: 20, 75: 20, 90: 30}),
     ("6", {60: 80, 75: 95, 90: 100}), ("2", {60: 140, 75: 170, 90: 180})],
)  # fmt: skip
def test_worse_insulation_goes_by_the_tables_own_columns(
    gauge: str, by_insulation: dict[int, float]
) -> None:
    for marked_c, amps in by_insulation.items():
        assert ampacity_a(AWG[gauge], BOAT, insulation_c=marked_c) == amps
    # Not marked is 70 °C: between the columns of 60 and 75.
    unmarked = ampacity_a(AWG[gauge], BOAT)
    assert unmarked is not None
    assert by_insulation[60] <= unmarked <= by_insulation[75]


@pytest.mark.parametrize(
    ("gauge", "amps"),
    # Sayings of the trade (common practice).
    [("16", 5), ("8", 40), ("4", 85), ("2", 125), ("2/0", 200)],
)
def test_sayings_lie_between_the_schools(gauge: str, amps: float) -> None:
    """Above four fifths of the stricter table, below the other."""
    strict = ampacity_a(AWG[gauge], BUILDING)
    loose = ampacity_a(AWG[gauge], BOAT, insulation_c=105)
    assert loose is not None
    assert 0.8 * (strict or 0.0) <= amps <= loose


@pytest.mark.parametrize(
    ("school", "ambient_c", "marked_c", "factor"),
    [
        # NEC table 310.15(B)(1), 75 °C column, from memory.
        (BUILDING, 30, 75, 1.0), (BUILDING, 40, 75, 0.88), (BUILDING, 45, 75, 0.82),
        (BUILDING, 50, 75, 0.75), (BUILDING, 45, 60, 0.71),
        # 33 CFR 183.425: inside of engine spaces, 50 °C, 0.85 for 105 °C insulation; from memory.
        (BOAT, 50, 105, 0.85),
    ],
)  # fmt: skip
def test_heat_takes_amps_away(
    school: School, ambient_c: float, marked_c: float, factor: float
) -> None:
    assert ambient_factor(school, ambient_c, marked_c) == pytest.approx(factor, abs=0.01)


def test_better_insulation_than_the_tables_gains_nothing() -> None:
    assert ampacity_a(AWG["6"], BUILDING, insulation_c=105) == 65
    assert ambient_factor(BUILDING, 70, 60) == 0.0
    with pytest.raises(OutOfRange):
        ambient_factor(BUILDING, 71)


def test_a_bundle_carries_less() -> None:
    """4 to 6: 80 % (NEC 310.15(C)(1)) and 60 % (ABYC E-11); both from memory."""
    assert (bundle_factor(BUILDING, 6), bundle_factor(BOAT, 6)) == (0.8, 0.6)
    assert ampacity_a(AWG["8"], BUILDING, conductors=6) == pytest.approx(40)
    with pytest.raises(OutOfRange):
        bundle_factor(BUILDING, 21)


def test_a_metric_size_counts_as_the_gauge_it_covers() -> None:
    """35 mm2 is more than 2 AWG (33.6) and less than 1 AWG (42.4)."""
    assert ampacity_a(MM2[35.0], BUILDING) == 115
    assert ampacity_a(MM2[1.5], BUILDING) is None
    assert ampacity_a(MM2[1.5], BOAT, insulation_c=105) == 25
    # And a gauge as the metric size it covers: 2 AWG, 33.6 mm2, as 25 mm2.
    assert ampacity_a(AWG["2"], METRIC_BOAT) == 120


@pytest.mark.parametrize("school", [BUILDING, BOAT, METRIC_BOAT])
@pytest.mark.parametrize("marked_c", [None, 60, 70, 75, 80, 90, 105, 125])
def test_more_copper_never_carries_less_and_better_insulation_neither(
    school: School, marked_c: float | None
) -> None:
    amps = [ampacity_a(size, school, insulation_c=marked_c) or 0.0 for size in SIZES]
    assert amps == sorted(amps)
    for size, here in zip(SIZES, amps, strict=True):
        assert here >= (ampacity_a(size, school, insulation_c=60) or 0.0)


@pytest.mark.parametrize("length_m", [-1.0, 201.0])
def test_lengths_out_of_range_are_refused(length_m: float) -> None:
    with pytest.raises(OutOfRange):
        resistance_ohm(MM2[6.0], length_m)


def test_a_fuse_at_95_per_cent_runs_hot() -> None:
    """38 A on a 40 A fuse (common practice)."""
    assert runs_hot(38, 40)


@pytest.mark.parametrize(
    ("rated_a", "full_v", "bank_ohm", "kind"),
    [
        # A bank of 8 mOhm with 4 mOhm of leads; two strings of a 16S bank, 5 mOhm in all.
        (20, 14.6, 0.020, "blade"),
        # Strips interrupt 1 to 2 kA (ISO 8820-5, from memory); a fuse on the terminal 5 kA.
        (125, 14.6, 0.020, "link"),
        (125, 14.6, 0.012, "stud"),
        # None of those is made in 110 A; 400 A needs a large open link, to 6 kA.
        (110, 14.6, 0.012, "class-t"),
        (400, 14.6, 0.012, "open-link"),
        # 32 V strips are not for 48 V (common practice).
        (125, 56.0, 0.040, "stud"),
        (125, 56.0, 0.005, "class-t"),
        # Lithium in parallel soon beyond 2 kA, and 58.4 V beyond a stud fuse's 58.
        (100, 58.4, 0.040, "class-t"),
        # Small fuses made for panels interrupt many volts.
        (15, 58.4, 0.010, "panel-string"),
        (400, 140.0, 0.010, None),
    ],
)
def test_a_kind_is_chosen_that_bears_and_breaks(
    rated_a: float, full_v: float, bank_ohm: float, kind: str | None
) -> None:
    able = able_kinds(full_v, full_v / bank_ohm)
    found = next((x.key for x in able if x.is_made(rated_a)), None)
    assert found == kind


@pytest.mark.parametrize(
    ("key", "full_v", "breaks_a"),
    # From memory: ISO 8820-3 and -5, datasheets of terminal-stud and class T fuses.
    [("blade", 14.6, 1e3), ("large-blade", 14.6, 1e3), ("link", 29.2, 1e3), ("link", 33.0, 0.0),
     ("stud", 13.5, 1e4), ("stud", 14.6, 5e3), ("stud", 29.2, 5e3), ("stud", 54.6, 2e3),
     ("stud", 58.4, 0.0), ("open-link", 29.2, 6e3), ("class-t", 58.4, 2e4)],
)  # fmt: skip
def test_a_family_interrupts_less_at_more_volts(key: str, full_v: float, breaks_a: float) -> None:
    kind = next(x for x in FUSE_KINDS if x.key == key)
    assert kind.breaks_a(full_v) == breaks_a


def test_terminal_stud_fuses_come_in_their_own_sizes() -> None:
    """From 30 A, with 75 A; none of 15, 20, 25, 35, 45, 70 and 110 A (from memory)."""
    stud = next(x for x in FUSE_KINDS if x.key == "stud")
    assert all(stud.is_made(a) for a in (30, 75, 300))
    assert not any(stud.is_made(a) for a in (15, 20, 25, 35, 45, 70, 110))


@pytest.mark.parametrize(
    ("battery", "least_a", "most_a"),
    [
        # "About 3 kA", and more than 6 kA (common practice).
        ({"volts": 12.8, "ah": 100.0}, 2.5e3, 4e3),
        ({"volts": 12.8, "ah": 280.0}, 6e3, 9e3),
        # Six blocks of lead-acid cells of 100 Ah: 2.5 to 3.5 kA by datasheets, from memory.
        ({"chemistry": "agm", "volts": 12.0, "ah": 100.0, "bms_a": None}, 2.5e3, 3.6e3),
        # A 5S2P tool pack: 24 mOhm of cells at least, and its posts: under 1 kA.
        ({"chemistry": "nmc", "volts": 18.0, "ah": 5.0}, 300.0, 900.0),
    ],
)
def test_short_circuits_count_with_the_low_resistance_of_cells(
    battery: dict[str, Any], least_a: float, most_a: float
) -> None:
    rest = bank_label(Bank(battery=Battery(**battery)))
    assert least_a <= rest.rested_v / rest.short_ohm <= most_a
    # Two in parallel push twice as much.
    two = bank_label(Bank(battery=Battery(**battery), parallel=2))
    assert rest.short_ohm == pytest.approx(2 * two.short_ohm)
    assert rest.short_ohm <= rest.resistance_ohm


def test_no_kind_is_asked_beyond_what_it_bears() -> None:
    for kind in FUSE_KINDS:
        assert kind not in able_kinds(kind.volts, 1.0)
        assert kind.sizes == tuple(sorted(kind.sizes))

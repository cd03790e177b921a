"""Conductors and fuses against published tables, and sayings of the trade."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from graveljar.core.conductor import (
    AMERICAN,
    METRIC,
    SIZES,
    Demand,
    Size,
    ambient_factor,
    ampacity_a,
    awg_area_mm2,
    awg_name,
    bundle_factor,
    drop_v,
    heat_w,
    one_up,
    resistance_ohm,
    smallest,
)
from graveljar.core.errors import OutOfRange
from graveljar.core.fuse import fuse_kind, fuse_window, runs_hot, short_circuit_a
from graveljar.core.tables.conductors import AMPACITIES, School
from graveljar.core.tables.fuses import BLADE_A, FUSE_KINDS, STANDARD_A

AWG = {size.name.removesuffix(" AWG"): size for size in AMERICAN}
MM2 = {size.mm2: size for size in METRIC}
BUILDING: School = "building wire"
BOAT: School = "boat and vehicle"


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
    assert ampacity_a(AWG[gauge], BOAT) == boat_a


@pytest.mark.parametrize(
    ("gauge", "amps"),
    # Sayings of the trade (common practice).
    [("16", 5), ("8", 40), ("4", 85), ("2", 125), ("2/0", 200)],
)
def test_sayings_lie_between_the_schools(gauge: str, amps: float) -> None:
    """Above four fifths of the stricter table, below the other."""
    strict, loose = ampacity_a(AWG[gauge], BUILDING), ampacity_a(AWG[gauge], BOAT)
    assert loose is not None
    assert 0.8 * (strict or 0.0) <= amps <= loose


@pytest.mark.parametrize(
    ("school", "ambient_c", "factor"),
    [
        # NEC table 310.15(B)(1), 75 °C column, from memory.
        (BUILDING, 30, 1.0), (BUILDING, 40, 0.88), (BUILDING, 45, 0.82), (BUILDING, 50, 0.75),
        # 33 CFR 183.425: inside of engine spaces, 50 °C, 0.85 for 105 °C insulation; from memory.
        (BOAT, 50, 0.85),
    ],
)  # fmt: skip
def test_heat_takes_amps_away(school: School, ambient_c: float, factor: float) -> None:
    assert ambient_factor(school, ambient_c) == pytest.approx(factor, abs=0.01)


def test_worse_insulation_carries_less_and_better_no_more() -> None:
    assert ambient_factor(BOAT, 30, 75) == pytest.approx(math.sqrt(45 / 75))
    assert ambient_factor(BUILDING, 30, 105) == 1.0
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
    assert ampacity_a(MM2[1.5], BOAT) == 25


@pytest.mark.parametrize("school", [BUILDING, BOAT])
def test_more_copper_never_carries_less(school: School) -> None:
    amps = [ampacity_a(size, school) or 0.0 for size in SIZES]
    assert amps == sorted(amps)
    table = AMPACITIES[school].by_awg
    assert list(table.values()) == sorted(table.values())


runs = st.builds(
    Demand,
    continuous_a=st.floats(0.5, 400),
    volts=st.sampled_from([12.8, 25.6, 51.2]),
    length_m=st.floats(0.2, 15),
    drop=st.sampled_from([0.03, 0.1]),
)


@given(
    run=runs, school=st.sampled_from([BUILDING, BOAT]), sizes=st.sampled_from([METRIC, AMERICAN])
)
def test_the_smallest_size_does_and_the_next_smaller_does_not(
    run: Demand, school: School, sizes: tuple[Size, ...]
) -> None:
    def does(size: Size) -> bool:
        amps = ampacity_a(size, school)
        lost = 2 * run.length_m * run.continuous_a * size.ohm_per_km / 1000
        return amps is not None and amps >= run.continuous_a and lost <= run.drop * run.volts

    found = smallest(run, school, sizes)
    if found is None:
        assert not does(sizes[-1])
        return
    place = sizes.index(found)
    assert does(found)
    assert place == 0 or not does(sizes[place - 1])
    assert one_up(found, sizes).mm2 >= found.mm2
    assert heat_w(found, run) == pytest.approx(run.continuous_a * drop_v(found, run))


def test_a_size_up_loses_less() -> None:
    """1 500 W at 12 V over 1.5 m: one size up saves heat (common practice)."""
    run = Demand(continuous_a=125, volts=12.8, length_m=1.5, drop=0.03)
    least = smallest(run, BUILDING)
    assert least is not None
    assert heat_w(one_up(least), run) < 0.75 * heat_w(least, run)


@pytest.mark.parametrize("length_m", [-1.0, 201.0])
def test_lengths_out_of_range_are_refused(length_m: float) -> None:
    with pytest.raises(OutOfRange):
        resistance_ohm(MM2[6.0], length_m)


@pytest.mark.parametrize(
    ("load_a", "cable_a", "rated_a"),
    [
        # Common practice: 100 A -> 125 A; 13 kW at 51.2 V are 254 A -> 350 A.
        (100, 130, 125), (254, 445, 350), (40, 50, 50), (32, 40, 40),
        # Nothing fits between: the cable has to grow.
        (100, 115, None), (41, 50, None), (600, 900, None),
    ],
)  # fmt: skip
def test_a_fuse_lies_between_load_and_cable(
    load_a: float, cable_a: float, rated_a: float | None
) -> None:
    assert fuse_window(load_a, cable_a).rated_a == rated_a


@given(load_a=st.floats(0.5, 450), cable_a=st.floats(1, 700))
def test_a_fuse_never_melts_its_cable_nor_under_its_load(load_a: float, cable_a: float) -> None:
    rated = fuse_window(load_a, cable_a, BLADE_A if load_a < 30 else STANDARD_A).rated_a
    if rated is not None:
        assert 1.25 * load_a <= rated * (1 + 1e-6)
        assert rated <= cable_a * (1 + 1e-6)
        assert not runs_hot(load_a, rated)


def test_a_fuse_at_95_per_cent_runs_hot() -> None:
    """38 A on a 40 A fuse (common practice)."""
    assert runs_hot(38, 40)


@pytest.mark.parametrize(
    ("rated_a", "full_v", "bank_ohm", "kind"),
    [
        # A bank of 8 mOhm with 4 mOhm of leads; two strings of a 16S bank, 5 mOhm in all.
        (20, 14.6, 0.020, "blade"),
        (125, 14.6, 0.012, "link"),
        # 32 V links are not for 48 V (common practice).
        (125, 56.0, 0.040, "stud"),
        (125, 56.0, 0.005, "class-t"),
        # Lithium in parallel soon beyond 2 kA, and 58.4 V beyond a stud fuse's 58.
        (100, 58.4, 0.040, "class-t"),
        (400, 140.0, 0.010, None),
    ],
)
def test_a_kind_is_chosen_that_bears_and_breaks(
    rated_a: float, full_v: float, bank_ohm: float, kind: str | None
) -> None:
    found = fuse_kind(rated_a, full_v, short_circuit_a(full_v, bank_ohm))
    assert (found.key if found else None) == kind


def test_no_kind_is_asked_beyond_what_it_bears() -> None:
    for kind in FUSE_KINDS:
        assert fuse_kind(kind.sizes[-1], kind.volts, 1.0) != kind
        assert kind.sizes == tuple(sorted(kind.sizes))
    with pytest.raises(OutOfRange):
        short_circuit_a(14.6, 0.0)
    with pytest.raises(OutOfRange):
        fuse_window(0, 10)


def test_a_bus_bar_bears_a_quarter_more_than_flows() -> None:
    """13 kW are 254 A at 51.2 V, 508 A at 25.6 V: bars of 317 and 635 A (common practice)."""
    for volts, amps in ((51.2, 254), (25.6, 508)):
        assert 13_000 / volts == pytest.approx(amps, rel=1e-3)
        assert fuse_window(amps, 1e6).least_a == pytest.approx(1.25 * amps)

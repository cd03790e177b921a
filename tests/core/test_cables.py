"""Cables, fuses, connectors and bus bars of whole designs, against context of the trade."""

from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from graveljar.core.cables.plan import bus_bar_for, shunt_for
from graveljar.core.cables.runs import string_a
from graveljar.core.cables.short_circuit import ShortCircuit
from graveljar.core.cables.sizing import (
    FUSES_A,
    CableDuty,
    Conditions,
    Proposal,
    choose,
    fuse_for,
    propose,
)
from graveljar.core.components.cable import AMERICAN, METRIC, SIZES, Size
from graveljar.core.components.fuse import runs_hot
from graveljar.core.context import Context
from graveljar.core.evaluate import evaluate
from graveljar.core.evaluation import Evaluation
from graveljar.core.model import Design
from graveljar.core.model.patch import apply
from graveljar.core.tables.conductors import AMPACITIES, School, SizeName
from graveljar.core.tables.connectors import CONNECTORS, ConnectorKey
from graveljar.core.tables.fuses import FUSE_KINDS
from graveljar.core.views.cables import CableRow, cables_of, schools_of
from graveljar.demo import demo_designs
from tests.building import (
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
    station,
)

BUILDING = Conditions("building wire", 30.0, 2, None)
BOAT = Conditions("boat and vehicle", 30.0, 2, 105.0)
WEAK = ShortCircuit(100.0, None, None)


def row(evaluation: Evaluation, subject: str) -> CableRow:
    return next(x for x in evaluation.cables.rows if x.subject == subject)


def asked(amps: float, length_m: float = 1.0, drop_v: float = 10.0, **rest: Any) -> CableDuty:
    """A run of a 12 V bank that any fuse can break, of copper at 20 °C."""
    given = {"full_v": 14.6, "short": WEAK, "main": False, "lithium": False, "copper_c": 20.0,
             **rest}  # fmt: skip
    return CableDuty(amps, amps, amps, length_m, drop_v, drop_v, **given)


@pytest.mark.parametrize(
    ("load_a", "conditions", "fuse_a", "gauge"),
    [
        # Common practice: 100 A -> a 125 A fuse, so a cable of 125 A or more: 1 AWG bears 130
        # (NEC 310.16), 4 AWG 160 (33 CFR 183.425), both from memory.
        (100.0, BUILDING, 125.0, "1 AWG"),
        (100.0, BOAT, 125.0, "4 AWG"),
        # 13 kW at 51.2 V: 254 A -> 350 A; no building wire of one lead bears that.
        (254.0, BOAT, 350.0, "3/0 AWG"),
        # 38 A are 95 % of 40 A: 50 A it is, on 8 AWG (50 A) by the stricter table.
        (38.0, BUILDING, 50.0, "8 AWG"),
        (32.0, BUILDING, 40.0, "8 AWG"),
        (4.0, BUILDING, 5.0, "14 AWG"),
    ],
)
def test_the_least_cable_is_one_that_a_fuse_fits(
    load_a: float, conditions: Conditions, fuse_a: float, gauge: str
) -> None:
    found = propose(asked(load_a), conditions, AMERICAN)
    assert found.minimum is not None
    assert found.fuse is not None
    assert found.minimum.leads == 1
    assert (found.fuse.amps, found.minimum.size.name) == (fuse_a, gauge)


def test_what_is_too_much_for_one_lead_is_split_over_fused_leads() -> None:
    """508 A, 13 kW at 25.6 V (common practice): 4/0 bears 230 A by the building-wire table."""
    apart = replace(BUILDING, apart=True)
    found = propose(asked(508.0), apart, AMERICAN)
    assert found.minimum is not None
    assert found.fuse is not None
    # Each of three carries 169 A: a 225 A fuse (211 A at least) on 230 A of cable.
    assert (found.minimum.leads, found.minimum.size.name) == (3, "4/0 AWG")
    assert found.fuse.amps == 225.0
    # In one conduit six conductors bear 80 % (NEC 310.15(C)(1), memory): 184 A, so four leads of
    # 127 A, whose eight bear 70 %: 161 A, and a fuse of 159 A at least is none.
    assert propose(asked(508.0), BUILDING, AMERICAN).minimum is None
    assert propose(asked(4_000.0), BUILDING, AMERICAN).minimum is None


def test_above_extra_low_volts_nothing_is_proposed() -> None:
    """120 V DC (IEC 61140, from memory): a job for people trained for it."""
    assert propose(asked(10.0, full_v=116.8), BUILDING, METRIC).fuse is not None
    assert propose(asked(10.0, full_v=124.1), BUILDING, METRIC) == Proposal(None, None, None)
    high = design(load(50.0, volts=350.0), stores=bank("nmc", 351.0))
    assert looked_at(high).cables.edits == ()


def test_conductors_lie_in_parallel_from_50_mm2_on() -> None:
    """NEC 310.10(G), from memory: 1/0 AWG and up; thinner ones are not laid side by side."""
    found = propose(asked(200.0), BUILDING, tuple(x for x in AMERICAN if x.mm2 < 60))
    assert found.minimum is not None
    # 200 A: two of 1/0, 150 A each, four conductors at 80 %: 120 A; a 125 A fuse does not fit.
    assert (found.minimum.leads, found.minimum.size.name) == (3, "1/0 AWG")
    assert propose(asked(200.0), BUILDING, tuple(x for x in AMERICAN if x.mm2 < 50)) == Proposal(
        None, None, None
    )


@given(
    amps=st.floats(0.05, 350),
    length_m=st.floats(0.05, 15),
    drop_v=st.sampled_from([0.13, 0.38, 1.3]),
    conditions=st.sampled_from([BUILDING, BOAT]),
    sizes=st.sampled_from([METRIC, AMERICAN]),
)
def test_the_least_does_and_nothing_thinner_does(
    amps: float, length_m: float, drop_v: float, conditions: Conditions, sizes: tuple[Size, ...]
) -> None:
    def does(size: Size, leads: int) -> bool:
        if leads > 1 and size.mm2 < 50:
            return False
        # 15, 20 and 30 A on building wire up to 14, 12 and 10 AWG; NEC 240.4(D), from memory.
        small = ((3.30, 15.0), (5.25, 20.0), (8.36, 30.0), (float("inf"), float("inf")))
        most = next(a for mm2, a in small if size.mm2 < mm2) if conditions == BUILDING else 1e9
        bears = min(conditions.ampacity_a(size, leads) or 0.0, most)
        fuses = [a for a in FUSES_A if 1.25 * amps / leads <= a <= bears]
        lost = 2 * length_m * size.ohm_per_km / 1000 * amps / leads
        return bool(fuses) and lost <= drop_v

    found = propose(asked(amps, length_m, drop_v), conditions, sizes)
    if found.minimum is None or found.proposed is None or found.fuse is None:
        assert not any(does(size, leads) for size in sizes for leads in range(1, 5))
        return
    leads, place = found.minimum.leads, sizes.index(found.minimum.size)
    assert does(found.minimum.size, leads)
    assert not any(does(size, leads) for size in sizes[:place])
    assert not any(does(size, fewer) for size in sizes for fewer in range(1, leads))
    # One up, unless half of the least would do; the fuse never melts its cable nor runs hot.
    assert sizes.index(found.proposed.size) - place in (0, 1)
    assert found.proposed.heat_w <= found.minimum.heat_w
    assert 1.25 * amps / leads <= found.fuse.amps * (1 + 1e-9)
    assert found.fuse.amps <= (found.minimum.ampacity_a or 0.0)
    assert not runs_hot(amps / leads, found.fuse.amps)


def test_one_size_up_loses_less() -> None:
    """1 500 W at 12 V are 125 A: one size up saves a quarter of the heat (common practice)."""
    found = propose(asked(125.0, 1.5), BUILDING, METRIC)
    assert found.minimum is not None
    assert found.proposed is not None
    assert found.proposed.heat_w < 0.8 * found.minimum.heat_w
    # Heat is what is lost at these amps: 2 x 1.5 m x 0.272 mOhm/m x 125² (IEC 60228, memory).
    assert found.minimum.size.name == "70 mm²"
    assert found.minimum.heat_w == pytest.approx(2 * 1.5 * 0.272e-3 * 125**2)


@pytest.mark.parametrize(
    ("amps", "size"),
    # What the trade says of a gauge lies between what the two tables say (common practice).
    [(5.0, "16 AWG"), (37.5, "8 AWG"), (85.0, "4 AWG"), (125.0, "2 AWG"), (200.0, "2/0 AWG")],
)
def test_sayings_of_the_trade_lie_between_the_schools(amps: float, size: SizeName) -> None:
    conductor = next(x for x in SIZES if x.name == size)
    strict, mild = BUILDING.ampacity_a(conductor), BOAT.ampacity_a(conductor)
    assert mild is not None
    assert mild >= amps
    # The thinnest are not in the stricter table at all; 8 AWG and 4 AWG are just at its edge.
    assert strict is None or strict <= amps * 1.35


def test_a_bank_is_wired_for_the_load_not_for_the_sum_of_its_batteries() -> None:
    """Six 100 A batteries on a 250 A inverter are a 250 A system (common practice)."""
    found = evaluated(
        load(100.0, ac=True),
        stores=bank(parallel=6),
        stages=inverter(continuous_w=3000.0, idle_w=0.0, accepts={"least_v": 12.0, "most_v": 15.0},
                        part_load={"load_share": 0.3, "efficiency": 1.0},
                        full_load={"load_share": 1.0, "efficiency": 1.0}),
    )  # fmt: skip
    post = row(found, "bank")
    assert post.design_a == pytest.approx(250.0)
    # With one string gone the other five carry 50 A each.
    assert post.lead_a == pytest.approx(50.0)
    assert post.proposed_bus_bar_a == 400.0


@pytest.mark.parametrize(
    ("volts", "amps", "bar_a"),
    # 13 kW are 254 A at 51.2 V and 508 A at 25.6 V (common practice): bars of 317 and 635 A.
    [(51.2, 254.0, 400.0), (25.6, 508.0, 800.0)],
)
def test_thirteen_kilowatts_and_their_bus_bar(volts: float, amps: float, bar_a: float) -> None:
    stage = inverter(nominal_v=volts, continuous_w=13_000.0, surge_w=26_000.0, idle_w=0.0,
                     accepts={"least_v": volts * 0.9, "most_v": 70.0})  # fmt: skip
    found = evaluated(stores=bank(volts=volts, ah=1000.0, bms_a=800.0), stages=stage)
    assert row(found, "inverter").quick_a == pytest.approx(amps, rel=1e-3)
    assert bus_bar_for(amps) == bar_a
    assert shunt_for(amps) >= 1.25 * amps  # type: ignore[operator]


@pytest.mark.parametrize(
    ("amps", "strings", "limit_a", "one_a"),
    [
        (120.0, 1, 100.0, 120.0),
        (120.0, 2, None, 120.0),
        (120.0, 2, 100.0, 100.0),
        (300.0, 2, 100.0, 150.0),
        (400.0, 5, 200.0, 100.0),
    ],
)
def test_strings_carry_for_one_that_is_gone(
    amps: float, strings: int, limit_a: float | None, one_a: float
) -> None:
    assert string_a(amps, strings, limit_a) == pytest.approx(one_a)


def test_a_short_circuit_is_the_volts_over_all_that_resists_it() -> None:
    """E / R of bank and cable (Ohm): 13.39 V over 4 mOhm, then 2 x 2 m of 4 mm² on top.

    Four LFP cells rest at 3.348 V when full (Afshar et al. 2017).

    100 Ah of large cells: four of 0.5 mOhm, and 2 of protection and posts (common practice).
    """
    thin: dict[str, Any] = {"cable": {"length_m": 2.0, "size": "4 mm²"}}
    posts = {"cable": {"length_m": 0.5, "size": "16 mm²"}, "fuse": {"amps": 50.0}}
    made = design(load(30.0, **thin), stores=bank(leads=posts), assumptions={"copper_c": 20.0})
    evaluation = looked_at(made)
    assert row(evaluation, "bank").must_break_a == pytest.approx(4 * 3.3481 / 4e-3)
    ohm = 4e-3 + 2 * 0.5 * 1.21e-3 + 4 * 4.95e-3
    assert row(evaluation, "lamp").must_break_a == pytest.approx(4 * 3.3481 / ohm)
    behind = design(
        load(10.0, rail="converter", volts=5.0),
        more=[converter(continuous_a=10.0, peak_a=18.0)],
    )
    assert row(looked_at(behind), "lamp").must_break_a == pytest.approx(18.0)


def test_the_whole_way_shares_what_may_be_lost() -> None:
    """3 % to what matters, 10 % to lights, 1 % of it in a feed (ABYC E-11, from memory)."""
    feed: Any = {"kind": "feed", "id": "feed", "name": "feed", "rail": "bank",
            "cable": {"length_m": 10.0}}  # fmt: skip
    far: Any = {"rail": "feed", "cable": {"length_m": 10.0}}
    made = design(
        load(60.0, "radio", **far), load(60.0, "lamp", nature="lighting", **far), more=[feed]
    )
    taken = apply(made, looked_at(made).cables.edits)
    found = looked_at(taken)
    radio, lamp, before = (row(found, x) for x in ("radio", "lamp", "feed"))
    assert (radio.may_lose, lamp.may_lose, before.may_lose) == (0.03, 0.1, 0.01)
    assert before.way_share <= 0.01
    assert radio.way_share <= 0.03
    assert radio.chosen is not None
    assert lamp.chosen is not None
    assert lamp.chosen.mm2 < radio.chosen.mm2
    assert radio.way_share > radio.chosen.drop_share


WIRED = ("cable.", "fuse.", "connector.", "bus_bar.", "shunt.", "bank.unequal", "bank.one_sided")


@pytest.mark.parametrize("school", [None, *AMPACITIES])
@pytest.mark.parametrize("sizes", ["metric", "AWG"])
@pytest.mark.parametrize("name", sorted(demo_designs()))
def test_all_proposals_taken_leave_nothing_to_find(
    name: str, sizes: str, school: School | None
) -> None:
    made = demo_designs()[name]
    bare = made.model_dump(mode="json")
    bare["setting"] |= {"school": school, "sizes": sizes}
    for thing in (*bare["stages"], *bare["links"], *bare["loads"]):
        thing |= {"cable": None, "cable_mohm": None, "fuse": None, "connector": None}
    for store in bare["stores"]:
        if store["kind"] == "bank":
            store["leads"] = None
    found = Design.model_validate(bare)
    taken = apply(found, looked_at(found).cables.edits)
    evaluation = looked_at(taken)
    assert [f.title for f in evaluation.findings if f.code.startswith(WIRED)] == []
    assert all(x.chosen is not None and x.fuse is not None for x in evaluation.cables.rows)
    assert evaluation.cables.edits == ()
    table = school or found.setting.usual_table
    assert {str(x.school) for x in evaluation.cables.rows} == {table}
    # And all tables side by side, the stricter never thinner.
    both: dict[str, dict[str, float]] = {}
    for one in schools_of(Context(taken)):
        assert one.minimum is not None
        area = one.minimum.mm2 * one.minimum.leads
        both.setdefault(one.subject, {})[one.school] = area
    # Thicker leads before a run leave it more volts to lose: only the first is compared.
    first = both[evaluation.cables.rows[0].subject]
    assert first["building wire"] >= first["boat and vehicle"]
    assert set(first) == set(AMPACITIES)


def test_a_given_cable_enters_the_hours_and_its_loss_is_counted() -> None:
    """Of 100 W of constant current, the share of the volts lost in the lead (Ohm)."""
    lossless = design(load(60.0, hours_per_day=24.0, draw="constant current"))
    thin = {"length_m": 6.0, "size": "2.5 mm²"}
    lossy = apply_cable(lossless, thin)
    kept, lost = looked_at(lossless), looked_at(lossy)
    wh = {x.kind: x.wh for x in lost.run.destinations}
    # 5 A through 2 x 6 m x 7.98 mOhm/m, its copper at 40 °C: 0.393 % a kelvin (IACS).
    watts = 25.0 * 12 * 7.98e-3 * (1 + 0.00393 * 20)
    assert wh["cable"] == pytest.approx(watts * (lost.verdict.hours or 0.0), rel=1e-6)
    assert row(lost, "lamp").chosen is not None
    # The amps do not answer to the volts: the hours stay, the lamp gets less.
    assert lost.verdict.hours == pytest.approx(kept.verdict.hours)
    assert wh["load"] < {x.kind: x.wh for x in kept.run.destinations}["load"]


def apply_cable(made: Design, cable: dict[str, Any]) -> Design:
    document = made.model_dump(mode="json")
    document["loads"][0]["cable"] = cable
    return Design.model_validate(document)


def test_leads_of_a_bank_lose_apart_from_its_own_resistance() -> None:
    leads = {"cable": {"length_m": 2.0, "size": "16 mm²"}, "fuse": {"amps": 60.0}}
    found = evaluated(load(300.0, hours_per_day=24.0), stores=bank(parallel=2, leads=leads))
    wh = {x.kind: x.wh for x in found.run.destinations}
    one = 2 * 2.0 * 1.21e-3 * (1 + 0.00393 * 20)
    # Each string: 8 mOhm of battery and its lead, in series; the heat divides as they do.
    assert wh["cable"] / wh["battery"] == pytest.approx(one / 8e-3, rel=1e-9)
    assert figure(found, "cable.bank.drop_v") == pytest.approx(one * 300 / 10 / 2)


def test_uneven_leads_share_as_ohm_has_it() -> None:
    """Batteries of 8 mOhm behind leads of 0.3 and 3 m: currents as 1 / R."""
    leads = {"cable": {"length_m": 0.3, "size": "16 mm²"}, "longest_m": 3.0}
    found = evaluated(stores=bank(parallel=2, leads=leads))
    short, long = (8e-3 + 2 * m * 1.21e-3 * (1 + 0.00393 * 20) for m in (0.3, 3.0))
    assert figure(found, "cable.bank.uneven") == pytest.approx(long / (short + long))


def test_split_leads_are_fused_each() -> None:
    """38 A on 40 A is hot; over two leads each carries 19 A (common practice)."""

    def with_leads(leads: int) -> Evaluation:
        cable = {"length_m": 1.0, "size": "10 mm²", "leads": leads}
        return evaluated(load(380.0, cable=cable, fuse={"amps": 40.0, "kind": "blade"}))

    one, two = with_leads(1), with_leads(2)
    assert row(one, "lamp").lead_a == pytest.approx(38.0)
    assert "fuse.runs_hot" in {f.code for f in one.findings}
    assert row(two, "lamp").lead_a == pytest.approx(19.0)
    assert "fuse.runs_hot" not in {f.code for f in two.findings}
    assert row(two, "lamp").chosen.drop_v == pytest.approx(  # type: ignore[union-attr]
        row(one, "lamp").chosen.drop_v / 2  # type: ignore[union-attr]
    )


def test_the_cut_list_adds_up() -> None:
    made = design(
        load(30.0, "lamp", cable={"length_m": 3.0, "size": "2.5 mm²"}, fuse={"amps": 5.0,
             "kind": "blade"}, connector="two-pole-30"),
        load(30.0, "fan", cable={"length_m": 4.0, "size": "2.5 mm²", "leads": 2},
             fuse={"amps": 5.0, "kind": "blade"}, connector="lugs"),
        stores=bank(parallel=3, leads={"cable": {"length_m": 0.5, "size": "35 mm²"},
                    "longest_m": 0.6, "fuse": {"amps": 80.0, "kind": "class-t"},
                    "bus_bar_a": 150.0, "shunt_a": 100.0, "connector": "lugs"}),
    )  # fmt: skip
    cuts = {(x.kind, x.item): x for x in looked_at(made).cables.cuts}
    red = cuts["cable", "2.5 mm² (about 13 AWG), red"]
    assert (red.count, red.metres, red.pieces) == (3, 11.0, (4.0, 4.0, 3.0))
    black = cuts["cable", "35 mm² (about 2 AWG), black"]
    assert black.count == 3
    assert black.metres == pytest.approx(0.5 + 2 * 0.6)
    assert cuts["fuse", "blade fuse, 5 A"].count == 3
    assert cuts["fuse", "class T fuse, 80 A"].count == cuts["holder", "for class T fuse"].count == 3
    # Two ends of two conductors, and both sides of a bolted fuse, of each string.
    assert cuts["lug", "for 35 mm² (about 2 AWG)"].count == 3 * (4 + 2)
    assert cuts["connector", "two-pole, 30 A"].count == 1
    assert (cuts["bus bar", "150 A"].count, cuts["shunt", "100 A"].count) == (2, 1)
    assert not red.proposed


def test_mains_is_left_to_an_electrician_and_a_stations_ports_to_its_maker() -> None:
    made = design(
        load(50.0, "phone", rail="port"),
        load(100.0, "kettle", ac=True),
        stores=[station(), bank(id="outside")],
        stages=inverter(rail="outside"),
        more=[converter(rail="outside", set_v=28.0, topology="boost", continuous_a=20.0)],
        links=[lead("converter")],
    )
    found = looked_at(made).cables
    assert [x.subject for x in found.rows] == ["outside", "inverter", "converter", "lead"]
    assert {x.rail for x in found.mains} == {"sockets", "inverter"}
    assert [x.level for x in found.rows] == [0, 1, 1, 2]


def test_a_mains_charger_is_wired_to_its_bank_and_fused_at_the_battery() -> None:
    """20 A through 2 m of 10 mm2, out and back: 2 x 2 m x 1.91 mOhm/m x 20 A = 0.153 V at 20 °C.

    1.91 Ohm/km: IEC 60228, from memory; copper has 0.393 % more for each degree. What a charger
    gives is limited by itself; the battery at the other end is not (common practice).
    """
    cord = {
        "id": "cord", "rail": "mains", "to": "bank", "cable": {"length_m": 2.0, "size": "10 mm²"},
        "charger": {"kind": "mains charger", "amps": 20.0,
                    "accepts": {"least_v": 90.0, "most_v": 265.0}},
    }  # fmt: skip
    made = design(load(50.0), stores=[bank(), {"kind": "mains"}], links=[cord])
    (row,) = [x for x in cables_of(Context(made)).rows if x.subject == "cord"]
    assert (row.before, row.volts) == ("the charger", 12.8)
    assert row.lead_a == pytest.approx(20.0)
    assert row.chosen is not None
    warm = 1 + 0.00393 * (Context(made).network.assumed["copper_c"] - 20)
    assert row.chosen.drop_v == pytest.approx(0.1528 * warm, rel=0.01)
    assert (row.limited, row.fuse, row.proposed_fuse, row.fuse_fits) == (True, None, None, True)
    assert row.proposed_end_fuse is not None
    assert row.chosen.ampacity_a is not None
    # 125 % of 20 A at least, and no more than the cable is rated for.
    assert 25.0 <= row.proposed_end_fuse.amps <= row.chosen.ampacity_a
    found = codes(evaluate(made, quick=True))
    assert "fuse.none_before" not in found
    assert "fuse.battery_end" in found
    taken = apply(made, row.edits)
    assert "fuse.battery_end" not in codes(evaluate(taken, quick=True))
    assert taken.links[0].fuse is None


def test_a_lead_that_brings_nothing_yet_is_sized_by_its_input() -> None:
    """36 V into 28 V does not charge; the mode it is in takes 8 A all the same."""
    made = design(
        stores=[station(accepts={"least_v": 11.0, "most_v": 28.0}), bank(id="outside")],
        more=[converter(rail="outside", set_v=36.0, topology="boost", continuous_a=10.0)],
        links=[lead("converter", mode="Car")],
    )
    assert row(looked_at(made), "lead").design_a == 8.0


def test_a_metric_size_chosen_by_hand_is_judged_by_the_gauge_it_covers() -> None:
    choice = choose(next(x for x in METRIC if x.mm2 == 25), 1, asked(80.0), BUILDING)
    # 4 AWG is 21.2 mm², 3 AWG 26.7: 85 A (NEC 310.16, from memory).
    assert choice.ampacity_a == 85.0
    assert fuse_for(choice, asked(80.0)) is None
    assert fuse_for(choice, asked(64.0)) is not None


@pytest.mark.parametrize("key", [x.key for x in CONNECTORS if x.amps])
def test_each_class_runs_hot_above_80_per_cent(key: ConnectorKey) -> None:
    amps = next(x.amps for x in CONNECTORS if x.key == key) or 0.0
    for share, expected in ((0.79, set()), (0.9, {"connector.runs_hot"}),
                            (1.05, {"connector.above_class"})):  # fmt: skip
        made = evaluated(load(10.0 * amps * share, connector=key), stores=bank(bms_a=500.0))
        found = {f.code for f in made.findings if f.code.startswith("connector.")}
        assert found == expected


def test_a_fuse_says_what_is_known_of_its_kind_and_its_own_figures_go_before() -> None:
    for kind in FUSE_KINDS:
        made = evaluated(stores=bank(leads={"fuse": {"amps": 100.0, "kind": kind.key}}))
        fuse = row(made, "bank").fuse
        assert fuse is not None
        assert (fuse.volts, fuse.breaks_a) == (kind.volts, kind.breaks_a(14.6))
    own = {"amps": 100.0, "kind": "blade", "volts": 80.0, "breaks_a": 5e3}
    fuse = row(evaluated(stores=bank(leads={"fuse": own})), "bank").fuse
    assert fuse is not None
    assert (fuse.volts, fuse.breaks_a) == (80.0, 5e3)

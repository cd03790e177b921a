"""Readings at the bench: judged as the trade judges them, and what may be adopted."""

from typing import Any

import pytest
from pydantic import TypeAdapter, ValidationError

from graveljar.core.components.battery import bank_label
from graveljar.core.components.stage_loss import loss_of
from graveljar.core.context import Context
from graveljar.core.errors import InvalidDocument
from graveljar.core.evaluate import evaluate
from graveljar.core.model import Design
from graveljar.core.model.patch import Edit, apply
from graveljar.core.readings import Judged, both_figures, checklist, judge_reading
from graveljar.core.readings.judge import _JUDGES
from graveljar.core.readings.reading import Reading
from graveljar.demo import demo_designs
from tests.building import bank, converter, design, inverter, lead, load, station, the_bank

READING: Any = TypeAdapter(Reading)


def judged(made: Design, kind: str, subject: str, **values: Any) -> Judged:
    """A reading of a part, judged."""
    return judge_reading(
        Context(made), READING.validate_python({"kind": kind, "subject": subject, **values})
    )


def value(found: Judged, name: str) -> float:
    """One figure of a reading."""
    return next(x.value for x in found.results if x.name.startswith(name))


def bench(**of_bank: Any) -> Design:
    """A bank, an inverter, a converter of 24 V 3 A, a lamp that goes on and off."""
    return design(
        load(100.0, "lamp", ac=True, duty=0.5, hours_per_day=10.0),
        stores=bank(**({"ah": 200.0} | of_bank)),
        stages=inverter(continuous_w=300.0, surge_w=600.0, idle_w=12.0),
        more=[converter(set_v=24.0, continuous_a=3.0, accepts={"least_v": 9.0, "most_v": 36.0})],
    )


@pytest.mark.parametrize(
    ("ah", "label_ah", "wh", "hours", "share", "rate_c"),
    [
        # Common practice: 196 Ah and 2 510 Wh in 5 h 12 min from 200 Ah are 98 %; 105.07 Ah and
        # 1 333.94 Wh in 15 h 15 min 55 s from 100 Ah are 105 %, at 0.07C.
        (196.0, 200.0, 2_510.0, 5.2, 0.98, 0.19),
        (105.07, 100.0, 1_333.94, 15 + 15 / 60 + 55 / 3600, 1.05, 0.069),
    ],
)
def test_a_capacity_test_is_laid_beside_the_label(
    ah: float, label_ah: float, wh: float, hours: float, share: float, rate_c: float
) -> None:
    test = {"ah": ah, "wh": wh, "hours": hours, "end_v": 10.8, "ended_by": "an inverter"}
    found = judged(bench(ah=label_ah), "capacity", "bank", **test, air_c=25.0)
    assert found.verdict == "good"
    assert value(found, "Share of the label") == pytest.approx(share, rel=0.005)
    assert value(found, "Mean current") / label_ah == pytest.approx(rate_c, rel=0.02)
    assert value(found, "Mean volts") == pytest.approx(12.75, rel=0.01)
    # What an inverter ends at 10.8 V leaves a few per cent inside.
    assert value(found, "Down to its own end") == pytest.approx(ah * 1.03, rel=0.03)
    assert "The inverter ended it" in found.do
    assert ("far from the usual" in found.do) is (rate_c < 0.1)


@pytest.mark.parametrize(
    ("tests", "exponent", "verdict"),
    [
        # 100 Ah at the 20-hour rate and k = 1.2, from the law itself: t = 20 h x (5 A / I)^1.2.
        ([(5.0, 20.0), (10.0, 20.0 / 2**1.2), (25.0, 20.0 / 5**1.2)], 1.2, "good"),
        ([(5.0, 20.0), (20.0, 20.0 / 4**1.05)], 1.05, "good"),
        # Twice the current for a quarter of the time: no battery has an exponent of 2.
        ([(5.0, 20.0), (10.0, 5.0)], 2.0, "bad"),
        # Currents that are nearly alike tell nothing.
        ([(5.0, 20.0), (6.0, 16.0)], None, "good"),
    ],
)
def test_capacity_tests_at_several_rates_tell_the_exponent(
    tests: list[tuple[float, float]], exponent: float | None, verdict: str
) -> None:
    """Source: Peukert 1897."""
    made = bench(chemistry="flooded", volts=12.0, ah=100.0)
    readings = [
        READING.validate_python(
            {"kind": "capacity", "subject": "bank", "ah": amps * hours, "hours": hours,
             "end_v": 10.5, "ended_by": "the battery", "air_c": 25.0}
        )
        for amps, hours in tests
    ]  # fmt: skip
    found = judge_reading(Context(made), readings[0], readings)
    assert found.verdict == verdict
    alone = judge_reading(Context(made), readings[0])
    if exponent is None:
        assert found == alone
        return
    assert value(found, "Peukert") == pytest.approx(exponent, rel=0.002)
    adopted = [x for x in found.adopt if x.name.startswith("Peukert")]
    assert bool(adopted) is (verdict == "good")
    for one in adopted:
        assert the_bank(apply(made, one.edits)).battery.peukert == pytest.approx(
            exponent, rel=0.002
        )


def test_a_lead_acid_test_is_put_at_the_rate_of_its_label() -> None:
    """By Peukert's law, k = 1.1: 75 Ah in 5 h of a 100 Ah battery at its 20-hour rate.

    15 A x 20 h x (5 / 20)^(1 / 1.1) = 85.1 Ah. Source: Peukert 1897.
    """
    made = bench(chemistry="agm", volts=12.0, ah=100.0, peukert=1.1)
    test = {"ah": 75.0, "hours": 5.0, "end_v": 10.5, "ended_by": "the battery", "air_c": 25.0}
    found = judged(made, "capacity", "bank", **test)
    assert value(found, "Down to its own end") == pytest.approx(85.1, rel=0.001)
    assert found.verdict == "watch"


@pytest.mark.parametrize(
    ("reading", "verdict", "words"),
    [
        # Within 5 % is as labelled (24.26 on 24); 36.3 V on a converter of 24 V is not.
        (("volts", "converter", {"volts": 24.26}), "good", "as planned"),
        (("volts", "converter", {"volts": 21.0}), "watch", "not what the plan expects"),
        (("volts", "bank", {"volts": 40.0}), "bad", "accepts 15 V"),
        # LFP's volts tell nothing between 20 and 95 %; lead-acid rests for hours.
        (("rested", "bank", {"volts": 13.15, "rested_h": 12}), "says nothing", "20 to 95 %"),
        (("rested", "bank", {"volts": 13.39, "rested_h": 12}), "good", "100 % charged"),
        (("rested", "bank", {"volts": 12.4, "rested_h": 12}), "good", "13 % charged"),
        (("rested", "bank", {"volts": 13.3, "rested_h": 0.1}), "says nothing", "still move"),
        (("rested", "bank", {"volts": 30.0, "rested_h": 12}), "bad", "no voltage of 4 such cells"),
        # 1.7 A at 12 V are 20.4 W, 0.9 A 10.8 W: a cheap and a good inverter's idle draw.
        (("idle", "inverter", {"amps": 1.7, "volts": 12.0}), "watch", "20.4 W, 490 Wh a day"),
        (("idle", "inverter", {"amps": 0.9, "volts": 12.0}), "good", "10.8 W"),
        # 280 W run on a 300 W inverter, the next lamp trips it.
        (("limit", "inverter", {"carried_w": 280, "tripped_w": 320}), "good", "carries 280 W"),
        (("limit", "inverter", {"carried_w": 180, "tripped_w": 220}), "watch", "less than its"),
        # 68 °C in an 18 °C room is a rise of 50 K, so 95 °C in a van of 45 °C.
        (("heat", "inverter", {"warm_c": 68, "air_c": 18}), "bad", "50 K above the air: 95 °C"),
        (("heat", "inverter", {"warm_c": 50, "air_c": 18}), "watch", "32 K"),
        (("heat", "inverter", {"warm_c": 35, "air_c": 18}), "good", "17 K"),
        (("heat", "inverter", {"warm_c": 45, "air_c": 18, "place": "cable"}), "bad", "72 °C"),
        (("heat", "inverter", {"warm_c": 68, "air_c": 18, "minutes": 10}), "says nothing", "short"),
        (("polarity", "bank", {"found": "reversed"}), "bad", "reversed"),
        (("polarity", "bank", {"found": "as labelled"}), "good", "Plus is where"),
        # Contradictions: more out than in, volts that rise under load.
        (("converter", "converter", {"open_v": 24, "out_v": 24, "out_a": 5, "in_v": 12,
                                     "in_a": 8}), "bad", "one of them is wrong"),
        (("inverter", "inverter", {"out_w": 200, "in_v": 12, "in_a": 15}), "bad",
         "one of them is wrong"),
        # 200 W out of 12 V x 18.7 A = 224 W are 89 %; out of 22.8 A 73 %. 190 V are 17 % short.
        (("inverter", "inverter", {"out_w": 200, "in_v": 12, "in_a": 18.7}), "good", "89"),
        (("inverter", "inverter", {"out_w": 200, "in_v": 12, "in_a": 22.8}), "watch", "73.1 %"),
        (("inverter", "inverter", {"out_w": 200, "out_v": 190, "in_v": 12, "in_a": 19}), "bad",
         "190 V under load"),
        (("inverter", "inverter", {"out_w": 20, "in_v": 12, "in_a": 3}), "says nothing", "30 W"),
        (("sag", "bank", {"rest_v": 13.0, "loaded_v": 13.2, "amps": 20}), "bad", "do not fall"),
        (("capacity", "bank", {"ah": 200, "wh": 500, "hours": 5, "end_v": 11}), "bad",
         "one of them is wrong"),
        (("energy", "lamp", {"wh": 100, "hours": 2}), "says nothing", "50 W on average"),
    ],
)  # fmt: skip
def test_a_reading_is_judged_as_the_trade_does(reading: Any, verdict: str, words: str) -> None:
    """Common practice, each; LFP's curve as in its table."""
    kind, subject, values = reading
    made = bench().model_copy(
        update={"setting": bench().setting.model_copy(update={"ambient_c": 45.0})}
    )
    found = judged(made, kind, subject, **values)
    assert (found.verdict, words in f"{found.says} {found.do}") == (verdict, True), found
    assert found.expected
    assert found.do or verdict == "good"


def test_too_many_volts_for_an_input_are_found_before_it_is_plugged_in() -> None:
    """36.1 V for an input of 28 V: common practice, over-voltage destroys."""
    booth = demo_designs()["ticket-booth"]
    found = judged(booth, "volts", booth.links[0].rail, volts=36.1)
    assert found.verdict == "bad"
    assert "28 V" in found.says
    assert found.do.startswith("Do not plug it in")


def test_what_is_measured_goes_into_the_design() -> None:
    """Ohm's law, watts over watts, Wh over hours, by hand; each is marked as measured."""
    made = bench()
    sags = judged(made, "sag", "bank", rest_v=13.2, loaded_v=12.8, amps=20.0, air_c=25.0)
    assert value(sags, "Resistance") == pytest.approx(20.0)
    gives = judged(made, "converter", "converter", open_v=24.2, out_v=23.9, out_a=4.1,
                   in_v=12.6, in_a=9.0)  # fmt: skip
    # A "72 W" unit gave 98 W: 23.9 x 4.1 over 12.6 x 9.0 is 86.4 %.
    assert value(gives, "Given") == pytest.approx(97.99)
    assert value(gives, "Efficiency") == pytest.approx(0.8641, abs=1e-4)
    mean = judged(made, "energy", "lamp", wh=240.0, hours=8.0)
    assert value(mean, "Share of the time") == pytest.approx(0.3)
    start = judged(made, "power", "lamp", watts=90.0, start_w=400.0, holds_peaks=True)
    without = judged(made, "power", "lamp", watts=90.0, start_w=400.0)
    assert "inrush" in without.do
    # 12 V x 20 A for 200 W, of which 12 W are idle.
    heats = judged(made, "inverter", "inverter", out_w=200.0, in_v=12.0, in_a=20.0)
    for found in (sags, gives, mean, start, heats):
        made = apply(made, found.adopt[0].edits)
    own = the_bank(made)
    assert bank_label(own).resistance_ohm == pytest.approx(0.020)
    # Its resistance was measured, not its Ah: the band is as wide as before.
    assert own.battery.provenance == "label"
    stage: Any = made.stages[1]
    assert (stage.set_v, stage.full_load.efficiency, stage.provenance) == (24.2, 0.8641, "measured")
    given: Any = made.stages[0]
    assert loss_of(given).dc_w(200.0) == pytest.approx(240.0, rel=1e-3)
    assert (given.idle_w, given.provenance) == (12.0, "measured")
    lamp: Any = made.loads[0]
    assert lamp.provenance == "measured"
    assert (lamp.demand.watts, lamp.start.watts, lamp.duty) == (90.0, 400.0, 0.3)
    assert "start" not in str(without.adopt[0].edits)
    assert evaluate(made, quick=True).verdict.hours


def test_label_and_measured_stand_side_by_side_and_one_of_them_counts() -> None:
    """96 Ah of a 100 Ah label: hours are to each other as the charges are (definition)."""
    made = bench(ah=100.0)
    test = {"ah": 96.0, "hours": 5.0, "end_v": 10.0, "ended_by": "the battery", "air_c": 25.0}
    found = judged(made, "capacity", "bank", **test, taken_on="2026-11-28", instrument="shunt")
    after = apply(made, found.adopt[0].edits)
    one = both_figures(Context(after))[0]
    assert (one.counts, one.label, one.conditions) == (
        "measured", "100 Ah", "25 °C, shunt, 2026-11-28",
    )  # fmt: skip
    assert one.with_label is not None
    assert (one.with_measured or 0.0) / one.with_label == pytest.approx(0.96, rel=0.02)
    back = apply(after, one.use_label)
    own = the_bank(back).battery
    assert (own.ah, own.provenance, both_figures(Context(back))[0].counts) == (
        100,
        "label",
        "label",
    )
    again = apply(back, both_figures(Context(back))[0].use_measured)
    assert the_bank(again).battery.provenance == "measured"
    # Measured once more, its label is still that of the first time.
    third = judged(again, "capacity", "bank", **(test | {"ah": 90.0})).adopt[0]
    twice = both_figures(Context(apply(again, third.edits)))
    assert [(x.label, x.counts) for x in twice] == [("100 Ah", "measured")]
    typed = apply(again, (Edit("replace", "/stores/0/battery/ah", 80.0),))
    assert both_figures(Context(typed))[0].counts == "neither"
    gone = apply(again, (Edit("replace", "/stores/0/id", "other"), Edit("replace", "/loads", []),
                         Edit("replace", "/stages", [])))  # fmt: skip
    assert both_figures(Context(gone)) == ()


def test_with_and_without_its_heater_stand_beside_one_label() -> None:
    """A humidifier takes twice as much heated (common practice): either counts, by one press."""
    made = bench()
    for heated, watts in (("off", 45.0), ("on", 95.0)):
        found = judged(made, "power", "lamp", watts=watts, heated=heated)
        assert f"heated part {heated}" in found.says
        made = apply(made, found.adopt[0].edits)
    off, on = both_figures(Context(made))
    assert (off.label, on.label) == ("100 W", "100 W")
    assert (off.measured, on.measured) == ("45 W", "95 W")
    assert (off.counts, on.counts) == ("neither", "measured")
    back = apply(made, off.use_measured)
    assert back.loads[0].demand.watts == 45.0  # type: ignore[union-attr]


def test_watts_above_a_label_are_not_adopted() -> None:
    """It may run so for minutes, and get too hot for long: common practice."""
    assert judged(bench(), "limit", "inverter", carried_w=500.0, tripped_w=600.0).adopt == ()
    low = judged(bench(), "limit", "inverter", carried_w=180.0, tripped_w=220.0).adopt[0]
    assert Context(apply(bench(), low.edits)).network.inverters[0].continuous_w == 180.0


def test_a_changeover_is_adopted() -> None:
    made = design(stores=[station(), bank()], links=[lead("bank")])
    found = judged(made, "changeover", "station", went_on=False)
    assert found.verdict == "watch"
    after: Any = Context(apply(made, found.adopt[0].edits)).network.store("station")
    assert after.changeover == "break"


@pytest.mark.parametrize("name", sorted(demo_designs()))
def test_the_list_of_a_design_is_in_the_order_of_the_bench(name: str) -> None:
    """Volts and polarity before the first plug-in, heat after an hour: common practice.

    Every entry can be measured on the part that it names, and its words say what is expected.
    """
    made = demo_designs()[name]
    checks = checklist(Context(made))
    order = [("before", "at work", "now and then").index(x.when) for x in checks]
    assert order == sorted(order)
    assert len({(x.kind, x.subject) for x in checks}) == len(checks)
    for check in checks:
        assert check.kind in _JUDGES
        assert check.expected
        values = SAMPLES[check.kind]
        assert judged(made, check.kind, check.subject, **values).says


SAMPLES: dict[str, dict[str, Any]] = {
    "volts": {"volts": 12.0},
    "polarity": {"found": "as labelled"},
    "rested": {"volts": 13.0, "rested_h": 6.0},
    "idle": {"amps": 0.5, "volts": 12.0},
    "power": {"watts": 20.0},
    "energy": {"wh": 300.0, "hours": 10.0},
    "sag": {"rest_v": 13.0, "loaded_v": 12.8, "amps": 10.0},
    "converter": {"open_v": 24.0, "out_v": 23.5, "out_a": 2.0, "in_v": 12.5, "in_a": 4.5},
    "heat": {"warm_c": 40.0},
    "capacity": {"ah": 90.0, "hours": 5.0, "end_v": 11.0},
    "changeover": {"went_on": True},
    "limit": {"carried_w": 200.0},
    "station": {"wh": 300.0, "hours": 10.0},
    "input": {"volts": 13.0, "amps": 8.0},
    "taper": {"charge": 0.97},
    "lasted": {"to_charge": 0.5, "hours": 5.0},
    "inverter": {"out_w": 200.0, "in_v": 12.5, "in_a": 18.0},
}


def test_what_cannot_be_measured_on_a_part_is_refused() -> None:
    nowhere = [("capacity", "lamp"), ("idle", "bank"), ("volts", "ghost"), ("station", "bank")]
    for kind, subject in (*nowhere, ("input", "bank"), ("taper", "bank")):
        with pytest.raises(InvalidDocument):
            judged(bench(), kind, subject, **SAMPLES[kind])


def grown() -> Design:
    """A station of 512 Wh with a DC port, charged from a bank of 12.8 V through its DC input."""
    port = {"kind": "dc", "id": "port", "volts": 12.0, "amps": 10.0, "efficiency": 0.92}
    return design(
        stores=[bank(), station(outlets=[port], label_wh=512.0, idle_w=3.0)],
        links=[lead("bank")],
    )


@pytest.mark.parametrize(
    ("kind", "subject", "values", "verdict", "words", "adopted"),
    [
        # 20 W for 18 h are 360 Wh; by 92 %, and 3 W of its own: 391.3 + 54 = 445.3 Wh (hand), 87 %.
        ("station", "port", {"wh": 360.0, "hours": 18.0}, "watch", "87 % of its label",
         ("measured_wh", 445.3)),
        # 430 Wh in 4 h: 467.4 + 12 = 479.4 Wh (hand).
        ("station", "port", {"wh": 430.0, "hours": 4.0}, "good", "94 % of its label",
         ("measured_wh", 479.4)),
        ("station", "port", {"wh": 700.0, "hours": 4.0}, "bad", "cannot be", None),
        # An input rises over several seconds (common practice).
        ("input", "lead", {"volts": 13.0, "amps": 2.0, "after_s": 5.0}, "says nothing",
         "still rises", None),
        # 12.9 V x 5.6 A = 72.2 W (hand).
        ("input", "lead", {"volts": 12.9, "amps": 5.6}, "watch", "72.2 W go in",
         ("inputs/0/modes/1/amps", 5.6)),
        ("taper", "station", {"charge": 0.99}, "good", "from 99 % on", ("taper_from", 0.99)),
        # 12.3 of 12 V is within 5 % of its label (common practice), and what it really gives.
        ("volts", "port", {"volts": 12.3}, "good", "as planned", ("outlets/0/volts", 12.3)),
    ],
)  # fmt: skip
def test_a_station_is_measured_at_its_outlets_inputs_and_display(
    kind: str, subject: str, values: Any, verdict: str, words: str,
    adopted: tuple[str, float] | None,
) -> None:  # fmt: skip
    found = judged(grown(), kind, subject, **values)
    assert (found.verdict, words in found.says) == (verdict, True), found.says
    assert len(found.adopt) == (adopted is not None)
    if adopted is None:
        return
    after = apply(grown(), found.adopt[0].edits)
    here: Any = next(x for x in after.stores if x.id == "station").model_dump()
    for step in adopted[0].split("/"):
        here = here[int(step)] if isinstance(here, list | tuple) else here[step]
    assert here == pytest.approx(adopted[1], abs=0.06)
    # The label's figure stays beside it; where its input is there no more, it is left out.
    assert both_figures(Context(after))[0].counts == "measured"
    bare = after.model_dump(mode="json") | {"links": []}
    bare["stores"][1] |= {"inputs": [], "outlets": []}
    shown = both_figures(Context(Design.model_validate(bare)))
    assert bool(shown) is ("/" not in adopted[0])


@pytest.mark.parametrize(
    ("values", "watts"),
    [
        # Half of 100 Ah in 7 h are 7.14 A; at the 13.2 V of LFP's middle 94.3 W (hand).
        ({"from_charge": 0.9, "to_charge": 0.4, "hours": 7.0}, 7.143 * 13.2),
        # From full to 3 % in 18 h: 97 Ah are 5.39 A, 71 W (hand).
        ({"to_charge": 0.03, "hours": 18.0}, 97 / 18 * 13.2),
    ],
)
def test_hours_tell_watts_by_the_design_run_backwards(values: Any, watts: float) -> None:
    """Amps are Ah by hours: definition; the volts are those of the reference curve, within 2 %."""
    made = design(load(30.0, "lamp"), stores=bank(resistance_mohm=0.001))
    found = judged(made, "lasted", "lamp", **values)
    assert value(found, "Mean power") == pytest.approx(watts, rel=0.02)
    after = apply(made, found.adopt[0].edits)
    assert after.loads[0].when.hours == 24.0
    # Run forward with what was adopted it ends there too.
    again = judged(after, "lasted", "lamp", **values)
    assert value(again, "Mean power") == pytest.approx(value(found, "Mean power"), rel=1e-3)


def test_hours_that_cannot_be_are_said() -> None:
    """An inverter of 12 W idle takes 60 Wh in 5 h of 1 280: 5 % go without any load (hand)."""
    made = design(load(30.0, "lamp", ac=True), stores=bank(), stages=inverter(idle_w=12.0))
    idle = judged(made, "lasted", "lamp", from_charge=1.0, to_charge=0.98, hours=5.0)
    assert (idle.verdict, "without it" in idle.says) == ("bad", True)
    # 1 280 Wh in 6 min are 12.8 kW: the inverter of 1 000 W trips long before.
    fast = judged(made, "lasted", "lamp", from_charge=1.0, to_charge=0.1, hours=0.1)
    assert (fast.verdict, "No load on this rail" in fast.says) == ("bad", True)
    with pytest.raises(ValidationError, match="less charge than it began"):
        judged(made, "lasted", "lamp", from_charge=0.3, to_charge=0.5, hours=5.0)
    bare = design(load(30.0, "lamp", ac=True, rail="mains"), stores=[bank(), {"kind": "mains"}])
    with pytest.raises(InvalidDocument, match="takes nothing from a battery"):
        judged(bare, "lasted", "lamp", to_charge=0.5, hours=5.0)

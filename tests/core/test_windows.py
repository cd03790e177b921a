"""Windows on known packs, and what happens at cut-outs, restarts and starts."""

from typing import Any

import pytest

from graveljar.core.evaluate import evaluate
from graveljar.demo import demo_designs
from tests.building import (
    bank,
    converter,
    design,
    evaluated,
    figure,
    inverter,
    lead,
    load,
    looked_at,
)

CAR_12 = {"least_v": 10.0, "most_v": 15.0}
CAR_24 = {"least_v": 20.0, "most_v": 30.0}


@pytest.mark.parametrize(
    ("store", "window", "volts", "verdict"),
    [
        # Common practice; cells in series by their label.
        pytest.param(bank("nmc", 11.1), CAR_12, 12.0, "strands", id="3S Li-ion, 9 to 12.6 V"),
        pytest.param(bank("nmc", 14.8), CAR_12, 12.0, "above its maximum", id="4S, to 16.8 V"),
        pytest.param(bank("lfp", 12.8), CAR_12, 12.0, "fits", id="4S LFP, 10 to 14.6 V"),
        pytest.param(bank("nmc", 25.9), CAR_24, 24.0, "fits", id="7S Li-ion on 24 V, to 29.4 V"),
    ],
)
def test_known_packs_on_car_inverters(
    store: Any, window: dict[str, float], volts: float, verdict: str
) -> None:
    # Down to empty, as the owner of such a pack runs it.
    store = store | {"reserve": 0.0}
    evaluation = evaluated(
        load(150, ac=True, hours_per_day=24.0),
        stores=store,
        stages=inverter(accepts=window, nominal_v=volts, idle_w=5.0),
    )
    joint = evaluation.joints[0]
    stranded = joint.stranded.share if joint.stranded else 0.0
    assert joint.fit == ("above its maximum" if "above" in verdict else "fits")
    # A pack whose empty volts lie below the cut-out keeps some back; one that fits hardly any.
    assert (stranded > 0.03) is (verdict == "strands")


def test_a_fridge_with_an_early_cut_out_leaves_a_third_inside() -> None:
    """Common practice: a 12 V fridge out at 10.5 V on a pack that runs down to 9 V strands
    30 to 50 %, and a regulator before it gets it out.
    """
    fridge = load(
        60, "fridge", hours_per_day=24.0, cable_mohm=100.0,
        window={"cut_out_v": 10.5, "restarts_v": 11.0, "most_v": 15.0},
    )  # fmt: skip
    made = design(fridge, stores=bank("nmc", 11.1, 40.0, reserve=0.0))
    evaluation = evaluate(made)
    stranded = evaluation.joints[0].stranded
    assert stranded is not None
    assert 0.3 < stranded.share < 0.5
    assert stranded.at_v == pytest.approx(10.5, abs=1e-4)
    finding = next(f for f in evaluation.findings if f.code == "window.strands")
    regulator = finding.fixes[0].effect
    assert regulator is not None
    assert regulator.clears
    assert regulator.hours_after is not None
    assert regulator.hours_before is not None
    # All of it instead of two thirds, less some per cent of loss.
    assert 1.3 < regulator.hours_after / regulator.hours_before < 1.9


def test_a_device_comes_back_when_the_volts_do() -> None:
    """A heavy load drags the rail below the fan's cut-out; as it ends, the fan returns."""
    fan = load(20, "fan", hours_per_day=24.0, window={"cut_out_v": 12.6, "most_v": 15.0})
    heater = load(1100, "heater", when={"kind": "at", "at_h": 1.0, "hours": 0.25}, cable_mohm=0.0)
    evaluation = evaluated(fan, heater, stores=bank(ah=100.0, parallel=1))
    told = [(h.subject, "restarts" in h.text, round(h.hours, 2)) for h in evaluation.run.happenings]
    # 1 120 W at 8 mOhm take 0.71 V of 13.28: below 12.6; restart by the rule at 13.23.
    assert told[0] == ("fan", False, 1.0)
    assert ("fan", True, 1.25) in told
    row = next(row for row in evaluation.loads if row.id == "fan")
    assert row.served_h == pytest.approx(1.0)
    assert evaluation.verdict.first or evaluation.verdict.hours == pytest.approx(1.0)


def test_rails_chain_down_and_each_stage_costs() -> None:
    """48 -> 24 -> 12 -> 5 V, 90 % each: 10 W at the end are 10 / 0.9³ = 13.72 W at the bank."""
    chain = [
        converter(id=name, name=name, rail=rail, set_v=volts, quiescent_w=0.0,
                  accepts={"least_v": 5.0, "most_v": 80.0},
                  full_load={"load_share": 1.0, "efficiency": 0.9})
        for name, rail, volts in (("a", "bank", 24.0), ("b", "a", 12.0), ("c", "b", 5.0))
    ]  # fmt: skip
    evaluation = evaluated(
        load(10, rail="c", volts=5.0, hours_per_day=24.0), more=chain, stores=bank(series=4)
    )
    assert evaluation.jar.day_wh == pytest.approx(24 * 10 / 0.9**3, rel=1e-6)
    assert evaluation.figures["stage.a.draws_w"].value == pytest.approx(13.717, rel=1e-4)
    assert evaluation.figures["day.path_efficiency"].value == pytest.approx(0.9**3, rel=1e-6)


@pytest.mark.parametrize(
    ("made", "watts"),
    [
        # Common practice: linear 24 to 12 V is 50 %, the rest heat.
        pytest.param(converter(topology="linear", set_v=12.0, quiescent_w=0.0), 100, id="linear"),
        # Two 36 V 5 A boosts in parallel from 13 V, 87 %: 360 W take 414 W.
        pytest.param(
            converter(topology="boost", set_v=36.0, continuous_a=5.0, parallel=2, quiescent_w=0.0,
                      full_load={"load_share": 1.0, "efficiency": 0.87}),
            50 / 0.87, id="boost",
        ),
    ],
)  # fmt: skip
def test_what_converters_draw(made: Any, watts: float) -> None:
    series = 2 if made["topology"] == "linear" else 1
    lamp = load(50, rail="converter", volts=made["set_v"], hours_per_day=1.0)
    # Nominal, without sag: 25.6 V on a linear 12 V are 53.3 %, close to the rule's half.
    day_wh = evaluated(lamp, more=[made], stores=bank(series=series, ah=1000.0)).jar.day_wh
    assert day_wh == pytest.approx(watts, rel=0.1)


def test_stores_have_lives_of_their_own() -> None:
    """Two banks, each with its load: each stops at its own time, 1 152 Wh at 48 and at 24 W."""
    made = design(
        load(48, "a", hours_per_day=24.0),
        load(24, "b", rail="second", hours_per_day=24.0),
        stores=[bank(), bank(id="second", name="Second")],
    )
    evaluation = looked_at(made)
    stops = [store.stops_h for store in evaluation.run.stores]
    assert stops == pytest.approx([24, 48], rel=0.03)
    assert evaluation.verdict.hours == stops[0]


def test_the_band_lies_around_the_hours_and_narrows_with_knowledge() -> None:
    """Same seed, same band; a measured load has less spread than a guessed one."""

    def band(provenance: str) -> Any:
        return evaluated(
            load(48, hours_per_day=24.0, provenance=provenance, priority="must"),
            stores=bank(),
            whole=True,
        ).band

    guess, measured = band("guess"), band("measured")
    assert guess == band("guess")
    assert guess.p10 < 24.5 < guess.p90
    assert measured.p90 - measured.p10 < 0.5 * (guess.p90 - guess.p10)
    # +-40 % on the load and +-10 % on the battery, evenly: a tenth each lie beyond a third more.
    assert guess.p10 == pytest.approx(24.5 / 1.32, rel=0.05)
    assert guess.p90 == pytest.approx(24.5 / 0.68, rel=0.07)


def test_demo_designs_run_on_the_engine() -> None:
    for made in demo_designs().values():
        evaluation = looked_at(made)
        assert evaluation.verdict.hours
        assert len(evaluation.run.moments) > 2
        assert evaluation.run.destinations


@pytest.mark.parametrize(
    ("chemistry", "label_v", "cells", "full_v"),
    # Common practice: what is not stated may be the most cells that packs of that label have.
    [("lfp", 48.0, None, 58.4), ("lfp", 48.0, 15, 54.75), ("nmc", 48.0, None, 58.8),
     ("nmc", 48.0, 13, 54.6), ("nmc", 60.0, None, 71.4), ("nmc", 40.0, None, 42.0),
     ("nmc", 80.0, None, 84.0), ("nmc", 18.0, None, 21.0), ("lfp", 12.8, None, 14.6)],
)  # fmt: skip
def test_a_full_pack_has_the_volts_of_the_most_cells_it_may_have(
    chemistry: str, label_v: float, cells: int | None, full_v: float
) -> None:
    made = evaluated(stores=bank(chemistry, label_v, cells=cells))
    assert figure(made, "store.bank.full_v") == pytest.approx(full_v)


@pytest.mark.parametrize(
    ("chemistry", "volts", "fed_v", "fits"),
    # Lithium takes its charge volts and half a per cent more, lead-acid 4 % (common practice).
    [("nmc", 36.0, 42.0, True), ("nmc", 36.0, 43.6, False), ("lfp", 12.8, 14.6, True),
     ("lfp", 12.8, 14.8, False), ("agm", 12.0, 15.2, True), ("agm", 12.0, 15.4, False)],
)  # fmt: skip
def test_a_battery_is_not_charged_beyond_its_volts(
    chemistry: str, volts: float, fed_v: float, fits: bool
) -> None:
    feeder = converter(rail="outside", set_v=fed_v, topology="buck-boost", continuous_a=5.0)
    link = lead("converter", to="bank", input=None, mode=None)
    made = evaluated(
        stores=[bank(chemistry, volts, cells=None), bank(id="outside")], more=[feeder], links=[link]
    )
    stops = {f.code for f in made.findings if f.severity == "stop"}
    assert ("link.above_maximum" not in stops) is fits

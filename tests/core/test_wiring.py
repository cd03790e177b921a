"""What holds of any wiring, however it is described: amps, volts, heat, fuses, what is bought."""

import math
from typing import Any

import pytest

from graveljar.core.cables.plan import PlannedRun
from graveljar.core.cables.sizing import FUSES_A
from graveljar.core.components.cable import ambient_factor, bundle_factor, size_of
from graveljar.core.context import Context
from graveljar.core.model import BankLeads, Design, Feed
from graveljar.core.model.patch import apply
from graveljar.core.tables.conductors import AMPACITIES, School
from graveljar.core.tables.fuses import FUSE_KINDS
from tests.building import bank, converter, design, inverter, load, looked_at
from tests.reference.random_designs import wired_design

SEEDS = range(300, 330)


def planned(seed: int) -> tuple[Context, list[PlannedRun]]:
    context = Context(wired_design(seed))
    return context, list(context.cables.values())


@pytest.mark.parametrize("seed", SEEDS)
def test_proposals_keep_every_bound(seed: int) -> None:
    """125 % at least, no more than the lead bears, volts and amps it breaks (common practice)."""
    _, plans = planned(seed)
    for one in plans:
        fresh, asked = one.fresh, one.asked
        if fresh.minimum is None or fresh.proposed is None or fresh.fuse is None:
            continue
        for choice in (fresh.minimum, fresh.proposed):
            bears = choice.ampacity_a or 0.0
            assert bears >= 1.25 * asked.amps / choice.leads * (1 - 1e-9)
            assert choice.drop_v <= asked.drop_v * (1 + 1e-9)
            assert choice.ohm * asked.start_a <= asked.start_drop_v * (1 + 1e-9)
        assert fresh.fuse.amps in FUSES_A
        assert fresh.fuse.amps <= (fresh.proposed.ampacity_a or 0.0) * (1 + 1e-9)
        kind = fresh.fuse.kind
        must_break_a = asked.must_break_a(fresh.proposed.ohm * fresh.proposed.leads)
        if kind is not None:
            assert kind.volts > asked.full_v
            assert kind.breaks_a(asked.full_v) > must_break_a
            assert kind.breaks_a(asked.full_v) >= asked.least_breaks_a
        else:
            able = [x for x in FUSE_KINDS if x.breaks_a(asked.full_v) > must_break_a]
            assert not able


@pytest.mark.parametrize("seed", SEEDS)
def test_amps_add_up_from_the_loads_to_the_posts(seed: int) -> None:
    """What a bank's leads and a feed carry is no more than all that hangs on their rail, and no
    less than the largest of it (Kirchhoff, with loads that never run together left out)."""
    context, plans = planned(seed)
    for one in plans:
        if one.run.kind != "post" and not isinstance(one.run.joined, Feed):
            continue
        behind = [x.run for x in plans if x.run.rail == one.run.subject and x.run.kind != "post"]
        able = {load.id for load in context.analysis.lowered.loads}
        fixed = [x for x in behind if x.kind != "load"]
        loads = [x for x in behind if x.kind == "load" and x.subject in able]
        everything = sum(x.amps.design for x in (*fixed, *loads))
        assert one.run.amps.design <= everything * (1 + 1e-9)
        assert one.run.amps.design >= sum(x.amps.design for x in fixed) * (1 - 1e-9)
        assert one.run.amps.start >= one.run.amps.design


@pytest.mark.parametrize("seed", SEEDS)
def test_drop_and_heat_are_ohms_law_on_copper(seed: int) -> None:
    """2 x length x r x (1 + 0.393 %/K x 20 K) (IACS; IEC 60228 and ASTM B258, from memory)."""
    context, plans = planned(seed)
    for one in plans:
        choice, cable = one.chosen, one.cable
        if choice is None:
            continue
        size = size_of(choice.size.name)
        per_m = size.ohm_per_km / 1000 if size.awg is None else 1.7241e-8 / (size.mm2 * 1e-6)
        ohm = 2 * cable.length_m * per_m * (1 + 0.00393 * 20) / cable.leads
        assert choice.ohm == pytest.approx(ohm, rel=1e-9)
        amps = one.run.amps.design / one.run.strings
        assert choice.drop_v == pytest.approx(amps * ohm, rel=1e-9, abs=1e-12)
        assert choice.heat_w == pytest.approx(amps**2 * ohm, rel=1e-9, abs=1e-12)
        # The engine reckons with the same resistance, where nothing measured goes before it.
        if one.run.kind == "stage":
            record = context.analysis.lowered.rail_records[
                context.analysis.lowered.place[one.run.subject]
            ]
            assert float(record["ohm"]) == pytest.approx(ohm, rel=1e-9)


@pytest.mark.parametrize("seed", SEEDS)
def test_ampacity_is_the_tables_less_heat_and_company(seed: int) -> None:
    _, plans = planned(seed)
    for one in plans:
        choice, lies = one.chosen, one.conditions
        if choice is None or choice.ampacity_a is None:
            continue
        table = AMPACITIES[lies.school]
        share = ambient_factor(lies.school, lies.ambient_c, lies.insulation_c)
        share *= bundle_factor(lies.school, lies.counted(choice.leads))
        if share:
            bears_c = min(lies.insulation_c or table.usual_c, table.best_c)
            column = table.columns.get(bears_c)
            amps = choice.ampacity_a / share
            assert column is None or any(amps == pytest.approx(a) for a in column.values())
        else:
            assert choice.ampacity_a == 0
        assert lies.ambient_c >= 30 or one.cable.ambient_c is not None


@pytest.mark.parametrize("seed", SEEDS)
def test_a_short_circuit_is_never_more_than_nearer_to_the_store(seed: int) -> None:
    context, plans = planned(seed)
    by_subject = {one.run.subject: one for one in plans}
    for one in plans:
        before = by_subject.get(one.run.rail)
        if before is None or before is one or one.asked.short.volts is None:
            continue
        if before.run.kind == "post" or isinstance(before.run.joined, Feed):
            nearer_a = before.asked.short.amps
            if before.run.kind == "post":
                # Its main fuses see what the other strings push, the runs behind it all of them.
                rest = context.network.bank_labels[before.run.subject]
                nearer_a = rest.rested_v / rest.short_ohm
            assert one.asked.short.amps <= nearer_a * (1 + 1e-9)
        assert one.must_break_a <= one.asked.short.amps * (1 + 1e-9)


@pytest.mark.parametrize("seed", SEEDS)
def test_what_is_cut_is_what_the_runs_need(seed: int) -> None:
    made = wired_design(seed)
    found = looked_at(made)
    metres = 0.0
    for one in Context(made).cables.values():
        if one.choice is None:
            continue
        joined = one.run.joined
        longest = joined.longest_m if isinstance(joined, BankLeads) else None
        ways = one.cable.length_m + (longest or one.cable.length_m) * (one.run.strings - 1)
        metres += 2 * ways * one.choice.leads
    cut = [x for x in found.cables.cuts if x.kind == "cable"]
    assert sum(x.metres or 0.0 for x in cut) == pytest.approx(metres)
    red = sum(x.count for x in cut if x.item.endswith("red"))
    assert red == sum(x.count for x in cut if x.item.endswith(("black", "yellow")))
    fuses = sum(x.count for x in found.cables.cuts if x.kind == "fuse")
    assert fuses <= red
    for line in found.cables.cuts:
        assert line.count > 0
        assert line.runs


@pytest.mark.parametrize("seed", SEEDS)
def test_more_heat_or_company_never_needs_less_copper(seed: int) -> None:
    made = wired_design(seed).model_dump(mode="json")
    for thing in (*made["stages"], *made["loads"]):
        thing["cable"] = {"length_m": 1.0}
    cool = Context(Design.model_validate(made)).cables
    for thing in (*made["stages"], *made["loads"]):
        thing["cable"] = {"length_m": 1.0, "ambient_c": 50.0, "together": 6, "installed": "bundled"}
    warm = Context(Design.model_validate(made)).cables
    for subject, one in cool.items():
        least, more = one.fresh.minimum, warm[subject].fresh.minimum
        if one.run.kind == "post" or more is None:
            continue
        assert least is not None
        assert least.size.mm2 * least.leads <= more.size.mm2 * more.leads * (1 + 1e-9)


@pytest.mark.parametrize("school", AMPACITIES)
@pytest.mark.parametrize("watts", [20.0, 120.0, 600.0, 1_500.0, 3_000.0])
def test_the_longer_the_run_the_thicker_the_proposal(school: School, watts: float) -> None:
    areas = []
    for metres in (0.5, 2.0, 5.0, 10.0, 20.0):
        made = design(
            load(watts, cable={"length_m": metres}),
            stores=bank(parallel=8),
            setting={"school": school},
        )
        fresh = Context(made).cables["lamp"].fresh
        if fresh.minimum is not None:
            areas.append(fresh.minimum.size.mm2 * fresh.minimum.leads)
    assert areas == sorted(areas)
    assert areas


@pytest.mark.parametrize(
    ("stage", "quick_a", "design_a"),
    [
        # 1 500 W on 12 V: 125 A; at 10.5 V and 89 % about 160 A (common practice).
        ({"continuous_w": 1500.0, "idle_w": 0.0,
          "full_load": {"load_share": 1.0, "efficiency": 0.89},
          "part_load": {"load_share": 0.3, "efficiency": 0.89}}, 125.0, 160.5),
        # 36 V 10 A out is 30 to 40 A in from 12 V (common practice).
        (converter(topology="boost", set_v=36.0, continuous_a=10.0, quiescent_w=0.0,
                   full_load={"load_share": 1.0, "efficiency": 0.9}), 28.1, 40.0),
    ],
    ids=["inverter", "boost"],
)  # fmt: skip
def test_a_stage_is_wired_for_what_it_can_give(stage: Any, quick_a: float, design_a: float) -> None:
    """Whatever hangs on it today (common practice)."""
    more = [stage] if stage.get("kind") else [{"kind": "inverter", **stage}]
    found = looked_at(design(more=more))
    row = next(x for x in found.cables.rows if x.kind == "stage")
    assert row.quick_a == pytest.approx(quick_a, rel=2e-3)
    assert row.design_a == pytest.approx(design_a, rel=2e-3)


def test_taking_a_proposal_changes_one_run_and_only_what_is_open() -> None:
    mine = {"length_m": 3.0, "size": "4 mm²"}
    made = design(load(50.0, "lamp", cable=mine), load(20.0, "fan"), stages=inverter())
    rows = {x.subject: x for x in looked_at(made).cables.rows}
    taken = apply(made, rows["lamp"].edits)
    lamp = next(x for x in taken.loads if x.id == "lamp")
    assert lamp.cable is not None
    assert (lamp.cable.length_m, lamp.cable.size) == (3.0, "4 mm²")
    assert lamp.fuse is not None
    assert [x for x in taken.loads if x.id == "fan"] == [x for x in made.loads if x.id == "fan"]
    assert taken.stages == made.stages
    again = {x.subject: x for x in looked_at(taken).cables.rows}
    assert again["lamp"].edits == ()
    assert again["fan"].edits == rows["fan"].edits


def test_nothing_common_carries_what_is_too_much() -> None:
    """50 kW at 12 V are some 5 kA: said in words, with no proposal and no invented figure."""
    found = looked_at(design(load(50_000.0), stores=bank(parallel=32, ah=1000.0, bms_a=500.0)))
    row = next(x for x in found.cables.rows if x.subject == "lamp")
    assert (row.minimum, row.proposed, row.proposed_fuse) == (None, None, None)
    assert row.most_fuse_a is None
    assert math.isfinite(row.least_fuse_a)
    assert "cable.lamp.ampacity_a" not in found.figures

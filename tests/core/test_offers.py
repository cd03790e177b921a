"""Nothing that is offered leads into danger: fixes, variants, levers, routes, choices."""

from collections.abc import Iterator
from typing import Any

import jsonpatch
import pytest

from graveljar.core.components.fuse import MAX_SHARE
from graveljar.core.context import Context
from graveljar.core.evaluate import evaluate
from graveljar.core.fixes import UNTRIED
from graveljar.core.limits import exceeds
from graveljar.core.model import Bank, Design, Station
from graveljar.core.model.patch import Edit
from graveljar.core.planning.comparison.schools import variants_of
from graveljar.core.planning.improvements import levers_of
from graveljar.core.planning.shelf import Candidate
from graveljar.core.planning.station_growth import RoutesAsk, routes_of
from graveljar.core.rules import judge
from graveljar.core.rules.danger import dangers_of
from graveljar.core.tables.connectors import CONNECTORS
from graveljar.demo import demo_designs
from graveljar.formats.parts_csv import starting_shelf
from tests.building import bank, evaluated, inverter, load, the_need
from tests.core.cases import fed
from tests.reference.random_designs import wired_design

SHELF = [Candidate(part.name, part) for part in starting_shelf()]
AMPS_OF = {x.key: x.amps for x in CONNECTORS}


def offers(made: Design) -> Iterator[tuple[str, Any]]:
    """Everything that can be taken on a design, by what offers it."""
    evaluation, context = evaluate(made), Context(made)
    for finding in evaluation.findings:
        yield from ((f"{finding.code}: {x.label}", x.edits) for x in finding.fixes)
    for choice in evaluation.needed.choices if evaluation.needed else ():
        yield f"Needed: {choice.system_v} V", choice.edits
        yield f"Needed, as many: {choice.system_v} V", choice.alike_edits
    yield from ((f"variant {x.key}", x.edits) for x in variants_of(context))
    yield from ((f"lever {x.label}", x.edits) for x in levers_of(made, SHELF))
    for store in made.stores:
        if isinstance(store, Station):
            ask = RoutesAsk(station=store.id)
            yield from ((f"route {x.way}", x.edits) for x in routes_of(made, ask, SHELF))


def applied(document: Any, edits: Any) -> Design:
    """A document as its sender has it, with edits of an answer taken."""
    operations: Any = [
        {"op": x.op, "path": x.path} | ({} if x.op == "remove" else {"value": x.value})
        for x in edits
    ]
    return Design.model_validate(jsonpatch.apply_patch(document, operations))


def unsafe(context: Context) -> set[tuple[str, str]]:
    """What must not come about, told from the design itself rather than from its findings."""
    found = set()
    for one in context.cables.values():
        joined = one.run.joined
        key = joined.connector if joined else None
        class_a = AMPS_OF.get(key) if key else None
        if class_a is not None and exceeds(one.lead_a, MAX_SHARE * class_a):
            found.add(("connector", one.run.subject))
        bears_a = one.chosen.ampacity_a if one.chosen else None
        if one.fuse and bears_a is not None and exceeds(one.fuse.amps, bears_a):
            found.add(("fuse above cable", one.run.subject))
        if one.run.kind == "post" and one.chosen is not None and one.fuse is None:
            found.add(("no main fuse", one.run.subject))
    for store in context.network.design.stores:
        if isinstance(store, Bank) and context.network.bank_labels[store.id].full_v > 60:
            found.add(("touch", store.id))
        if isinstance(store, Bank) and store.series > 4:
            found.add(("series", store.id))
    return found


@pytest.mark.parametrize(
    "made",
    [*demo_designs().values(), *(wired_design(seed) for seed in range(900, 907))],
    ids=lambda made: made.name,
)
def test_nothing_offered_leads_into_danger(made: Design) -> None:
    """Also as its sender has it, with every default left out; and nothing stops running for it."""
    context = Context(made)
    known, there = dangers_of(judge(context)), unsafe(context)
    able = {x.id for x in context.analysis.lowered.loads}
    bare = made.model_dump(mode="json", exclude_unset=True)
    taken = 0
    for what, edits in offers(made):
        if not edits:
            continue
        after = Context(applied(bare, edits))
        assert dangers_of(judge(after)) <= known, what
        assert unsafe(after) <= there, what
        assert able & {x.id for x in after.network.design.loads} <= {
            x.id for x in after.analysis.lowered.loads
        }
        taken += 1
    assert taken


@pytest.mark.parametrize("seed", range(912, 932))
def test_all_proposals_of_a_wired_design_leave_nothing_unfused(seed: int) -> None:
    """Where nobody has chosen: sizes, fuses at both ends, connectors, all taken at once."""
    document = wired_design(seed).model_dump(mode="json", exclude_unset=True)
    for thing in (*document["stages"], *document["loads"], document["stores"][0]):
        for field in ("cable", "fuse", "connector", "bus_bar_a", "shunt_a", "leads"):
            thing.pop(field, None)
    made = Design.model_validate(document)
    edits: tuple[Edit, ...] = evaluate(made, quick=True).cables.edits
    after = Context(applied(document, edits))
    assert unsafe(after) <= unsafe(Context(made))
    wiring = ("cable.", "fuse.", "connector.", "bus_bar.")
    found = {x.code for x in judge(after) if x.code.startswith(wiring) and x.severity != "note"}
    # What no common cable or fuse does stays without one.
    assert found <= {"cable.drop_too_large", "cable.start_drops_out"}


@pytest.mark.parametrize(
    ("at", "offered"),
    # 15 A of the solar mode: a vehicle socket carries 10 A, a 30 A connector 24 for long.
    [({"of_link": {"mode": "Car", "connector": "two-pole-30"}}, True),
     ({"of_link": {"mode": "Car", "fuse": {"amps": 10.0}}}, False),
     ({"of_link": {"mode": "Car"}, "of_station": {"plug": "barrel"}}, False)],
)  # fmt: skip
def test_a_mode_of_more_amps_is_offered_only_where_plug_and_fuse_carry_it(
    at: dict[str, Any], *, offered: bool
) -> None:
    wrong = next(f for f in evaluated(**fed(**at), whole=True).findings
                 if f.code == "link.wrong_mode")  # fmt: skip
    plain = [x for x in wrong.fixes if x.label == "Switch it to Solar mode." and x.edits]
    assert bool(plain) is offered


FAN: dict[str, Any] = {"window": {"cut_out_v": 12.6, "most_v": 15.0}, "hours_per_day": 24.0}
TIMES_6: dict[str, Any] = {"start": {"method": "factor", "factor": 6.0}}


@pytest.mark.parametrize(
    ("start", "amps"),
    # 30 W at 12 V: twice as much for long are 5 A; six times at its start 15 A.
    [({}, 5.0), (TIMES_6, 15.0)],
)
def test_a_regulator_that_is_put_in_has_room_for_the_start(
    start: dict[str, Any], amps: float
) -> None:
    evaluation = evaluated(load(30.0, "fan", **FAN, **start), whole=True)
    strands = next(f for f in evaluation.findings if f.code == "window.strands")
    regulator = next(fix for fix in strands.fixes if "regulator" in fix.label)
    assert regulator.edits[0].value["continuous_a"] == amps


@pytest.mark.parametrize(
    ("start", "amps"),
    # 100 W and 50 W at 12 V with a quarter more are 15.6 A; the start takes 250 W more: 33 A.
    [({}, 20.0), (TIMES_6, 40.0)],
)
def test_a_converter_that_carries_loads_along_has_room_for_the_start(
    start: dict[str, Any], amps: float
) -> None:
    loads = (load(100.0), load(50.0, "pump", **start))
    needed = the_need(evaluated(*loads, stores=bank(bms_a=500.0), whole=True))
    edits = next(x.edits for x in needed.choices if x.system_v == 24)
    (added,) = [x.value for x in edits if x.path == "/stages/-"]
    assert added["continuous_a"] == amps


def test_other_volts_take_inverter_and_disconnect_along() -> None:
    """Twice the volts: a window of 10.5 to 15 V becomes 21 to 30 V; wiring is proposed anew."""
    switch = {"fuse": {"amps": 200.0, "kind": "class-t"}, "disconnect": {"amps": 200.0}}
    needed = the_need(
        evaluated(
            load(400.0, ac=True),
            stores=bank(series=1, bms_a=200.0, leads=switch),
            stages=inverter(restarts_v=11.5),
            whole=True,
        )
    )
    edits = {x.path: x.value for x in next(x for x in needed.choices if x.system_v == 24).edits}
    assert edits["/stages/0/accepts"] == {"least_v": 21.0, "most_v": 30.0}
    assert edits["/stages/0/restarts_v"] == 23.0
    assert edits["/stores/0/leads"] is None


def test_of_a_design_with_too_many_fixes_the_gravest_are_tried_and_no_other_is_offered(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    made = demo_designs()["puppet-van"]
    whole = evaluate(made)
    monkeypatch.setattr("graveljar.core.fixes.MAX_TRIED", 1)
    monkeypatch.setattr("graveljar.core.fixes.MIN_TRIALS", 4)
    found = evaluate(made)
    assert [f.title for f in found.findings] == [f.title for f in whole.findings]
    assert found.verdict == whole.verdict
    tried = [[fix.effect is not None for fix in f.fixes if fix.edits] for f in found.findings]
    assert all(all(one) for one in tried)
    # Those of the first finding as before; of the last none.
    assert found.findings[0].fixes == whole.findings[0].fixes
    untried = [fix for f in found.findings for fix in f.fixes if fix.label.endswith(UNTRIED)]
    assert untried
    assert all(fix.edits == () for fix in untried)

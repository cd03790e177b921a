"""One answer to each question, on random designs; and every plausible edit of a demo answered."""

import os
import random
import re
import time
from collections.abc import Iterator
from typing import Any

import jsonpatch
import pytest

from graveljar.core.context import Context
from graveljar.core.errors import GravelJarError, NotSolved
from graveljar.core.evaluate import evaluate
from graveljar.core.model import Design
from graveljar.core.model.patch import Edit, as_sent
from graveljar.demo import demo_designs
from tests.building import load
from tests.reference.random_designs import random_design, wired_design

SEED = 20_000
# Seconds after which an evaluation of a handful of loads has hung; it takes about half a one.
DEADLINE_S = 30.0


def _hostile(seed: int) -> Design:
    """Far past the comfortable: kilowatts, ohms, frost by the hour, cycles, every kind of draw."""
    dice = random.Random(seed)
    loads = [
        {
            "id": f"l{n}", "name": f"l{n}", "rail": dice.choice(["bank", "feed"]),
            "supply": {"kind": "dc", "volts": 12.0},
            "demand": {"kind": "watts", "watts": round(10 ** dice.uniform(0, 3.7), 2)},
            "draw": dice.choice(["constant power", "constant current", "resistive"]),
            "cable_mohm": round(10 ** dice.uniform(0, 3.7), 1),
            "when": dice.choice([{"kind": "hours", "hours": round(dice.uniform(0.1, 24), 2)},
                                 {"kind": "at", "at_h": round(dice.uniform(0, 23), 1),
                                  "hours": round(dice.uniform(0.1, 12), 2)}]),
            "duty": dice.choice([1.0, 0.5]),
            "cycle_min": dice.choice([None, 20.0]), "standby_w": dice.choice([0.0, 2.0]),
            "start": dice.choice([{"method": "none"}, {"method": "factor", "factor": 6.0}]),
            "priority": dice.choice(["must", "nice"]),
            "window": dice.choice([None, {"cut_out_v": 11.5, "most_v": 16.0}]),
            "nature": "lighting",
        }
        for n in range(dice.randint(1, 6))
    ]  # fmt: skip
    kind = dice.choice(["lfp", "nmc", "agm", "flooded"])
    volts = {"lfp": 12.8, "nmc": 11.1}.get(kind, 12.0)
    hourly = [round(dice.uniform(-30, 35), 1) for _ in range(24)]
    return Design.model_validate(
        {
            "setting": {"ambient_by_hour": dice.choice([None, hourly]),
                        "ambient_c": dice.uniform(-20, 40), "horizon_h": 200.0},
            "stores": [{"battery": {"chemistry": kind, "volts": volts,
                                    "ah": round(10 ** dice.uniform(0, 3), 1),
                                    "bms_a": dice.choice([None, 100.0])},
                        "reserve": dice.choice([0.0, 0.2]),
                        "starts_at": dice.choice([1.0, 0.3, 0.05])}],
            "stages": [{"kind": "feed", "id": "feed", "name": "feed", "rail": "bank",
                        "cable_mohm": round(10 ** dice.uniform(0, 3), 1)}],
            "loads": loads,
        }
    )  # fmt: skip


@pytest.mark.parametrize("seed", range(SEED, SEED + 60))
def test_hostile_designs_end_and_use_no_negative_energy(seed: int) -> None:
    """Volts at a load are above 0 and time goes on, or it says that there is no answer."""
    begin = time.monotonic()
    try:
        run = Context(_hostile(seed)).analysis.run
    except NotSolved as error:
        pytest.fail(f"seed {seed}: {error.message}")
    assert time.monotonic() - begin < DEADLINE_S
    for part in ("used", "waited", "adapter", "cable", "served_h"):
        assert (run.loads[part] >= 0).all(), part
    _, _, volts, amps, drawn = run.points()
    for i in range(len(run.lowered.loads)):
        record = run.lowered.load_records[i]
        arrives = volts[:, record["rail"]] - drawn[:, i] * record["ohm"]
        assert (arrives[drawn[:, i] > 0] > 0).all()
    assert (amps[:, 0] >= 0).all()


@pytest.mark.parametrize(
    "made", [random_design(s, cut_outs=True) for s in range(700, 716)]
    + [wired_design(s) for s in range(725, 733)] + [_hostile(s) for s in range(SEED, SEED + 10)],
    ids=lambda made: made.name,
)  # fmt: skip
def test_no_two_figures_of_one_evaluation_differ(made: Design) -> None:
    evaluation, context = evaluate(made), Context(made)
    verdict, run = evaluation.verdict, context.analysis.run
    musts = {x.id for x in made.loads if x.priority == "must"}
    counted = [row for row in evaluation.loads
               if row.id in musts or (not musts and row.missed_share is not None)]  # fmt: skip
    # The goal is met exactly if every load that counts is served until it.
    reached = all(x.served_h is None or x.served_h >= made.goal.hours for x in counted)
    assert verdict.meets_goal is (reached and bool(counted or not made.loads))
    assert verdict.hours == min((x.served_h for x in counted if x.served_h is not None),
                                default=verdict.hours)  # fmt: skip
    # What a finding calls the first stop is the verdict's, at the same hour.
    early = [x for x in evaluation.findings if x.code == "run.must_stops_early"]
    assert bool(early) is (bool(musts) and not verdict.meets_goal)
    if early and run.decisive is not None:
        stops = [x for x in run.stops.values() if x.load in musts and x.load == early[0].subject]
        assert stops[0].hours == pytest.approx(run.decisive.hours, abs=1e-5)
    # The day of the jar, of the workings and of Needed is one day.
    day = evaluation.figures["day.wh"].value
    assert evaluation.jar.day_wh == day
    assert sum(x.wh for x in evaluation.jar.layers) == pytest.approx(day, rel=1e-6, abs=1e-6)
    daily = not any(load.once for load in made.loads)
    if daily and evaluation.needed is not None and context.analysis.whole is context.analysis:
        assert evaluation.needed.goal_wh == pytest.approx(day * made.goal.hours / 24, rel=1e-6)
    if verdict.hours:
        assert evaluation.figures["run.hours"].value == verdict.hours
    # What the drawing says of a run is what its row in Cables does.
    for wire, cable in zip(evaluation.wires, evaluation.cables.rows, strict=True):
        assert (wire.subject, wire.kind, wire.length_m) == (
            cable.subject,
            cable.kind,
            cable.length_m,
        )
        for brief, full in ((wire.chosen, cable.chosen), (wire.proposed, cable.proposed)):
            assert (brief and (brief.name, brief.leads)) == (full and (full.name, full.leads))
        assert wire.fuse_a == (cable.fuse and cable.fuse.amps)
        assert wire.proposed_fuse_a == (cable.proposed_fuse and cable.proposed_fuse.amps)
    # Energy out of the cells is what their curve holds between the charges.
    store = run.stores[0]
    gone = float(store["begin"] - store["charge"])
    assert gone >= -1e-9
    for row in evaluation.run.stores:
        assert row.charge == float(store["charge"])


def _applied(document: Any, edits: Any) -> Design:
    operations: Any = [
        {"op": x.op, "path": x.path} | ({} if x.op == "remove" else {"value": x.value})
        for x in edits
    ]
    return Design.model_validate(jsonpatch.apply_patch(document, operations))


def test_edits_apply_to_a_document_with_its_defaults_left_out() -> None:
    made = Design.model_validate({"stages": [{"kind": "inverter"}]})
    bare = made.model_dump(mode="json", exclude_unset=True)
    wanted = (
        Edit("replace", "/setting/ambient_c", 5.0),
        Edit("replace", "/setting/ac_volts", 120.0),
        Edit("replace", "/stages/0/accepts/least_v", 11.0),
        Edit("replace", "/stages/0/idle_w", 3.0),
    )
    after = _applied(bare, as_sent(made, wanted))
    assert (after.setting.ambient_c, after.setting.ac_volts) == (5.0, 120.0)
    assert after.inverter is not None
    assert (after.inverter.accepts.least_v, after.inverter.idle_w) == (11.0, 3.0)
    # A list that was left out, and a thing in it.
    more = (
        Edit("replace", "/stores/0/parallel", 3),
        Edit("replace", "/stores/0", {"id": "bank", "series": 2}),
        Edit("add", "/loads/-", load(5.0)),
    )
    grown = _applied(bare, as_sent(made, more[::2]))
    assert (grown.stores[0].parallel, len(grown.loads)) == (3, 1)  # type: ignore[union-attr]
    (only,) = _applied(bare, as_sent(made, more[1:2])).stores
    assert only.series == 2  # type: ignore[union-attr]


# Values at the edge, usual and wrong, by what a field holds.
VALUES: dict[type, tuple[Any, ...]] = {float: (0.01, 9.0, 12.0, 24.0, 230.0), int: (1, 2, 16)}


def _edits(document: Any, path: str = "") -> Iterator[tuple[str, Any]]:
    """Every single change of a number or a rail of a document to a plausible value."""
    if isinstance(document, dict):
        for key, value in document.items():
            if key in ("rail", "to") and isinstance(value, str):
                for other in ("bank", None):
                    yield f"{path}/{key}", other
            elif key not in ("version", "format", "revision", "shelf", "acknowledged"):
                yield from _edits(value, f"{path}/{key}")
    elif isinstance(document, list):
        for index, value in enumerate(document):
            yield from _edits(value, f"{path}/{index}")
    elif type(document) in VALUES:
        for value in VALUES[type(document)]:
            yield path, value


@pytest.mark.parametrize("name", sorted(demo_designs()))
def test_any_plausible_edit_of_a_demo_is_answered(name: str) -> None:
    """A quick answer to each; the whole one, with what each fix does, to some. Refusals say why."""
    document = demo_designs()[name].model_dump(mode="json", exclude_unset=True)
    every = list(_edits(document))
    dice = random.Random(SEED)
    grid = every if os.environ.get("EXPLORE") else dice.sample(every, len(every) // 5)
    whole = set(dice.sample(range(len(grid)), 3))
    answered = 0
    for place, (path, value) in enumerate(grid):
        try:
            made = _applied(document, [Edit("replace", path, value)])
            found = evaluate(made, quick=place not in whole)
        except (ValueError, GravelJarError):
            continue
        answered += 1
        assert "program.rule_failed" not in {x.code for x in found.findings}, (path, value)
    assert answered > len(grid) / 2


_FIGURE = re.compile(r"[\d.\u202f]+ (?:A|V|W|Wh|%)")


@pytest.mark.parametrize("seed", range(600, 640))
def test_a_figure_and_its_limit_never_look_the_same(seed: int) -> None:
    """Either side of a title's semicolon stands another figure, however near they are."""
    dice = random.Random(seed)
    document = wired_design(seed).model_dump(mode="json")
    made = Design.model_validate(document)
    found = evaluate(made, quick=True)
    titles = [x.title for x in found.findings if x.severity != "note"]
    # Amps of a fuse a hair below what flows through it.
    for stage, row in ((x, y) for x in document["stages"] for y in found.cables.rows
                       if y.subject == x["id"]):  # fmt: skip
        stage["fuse"] = {"amps": max(row.lead_a * (1 - dice.choice([1e-5, 1e-4, 1e-3])), 0.001)}
    near = evaluate(Design.model_validate(document), quick=True)
    titles += [x.title for x in near.findings if x.severity != "note"]
    for title in titles:
        left, _, right = title.partition(";")
        said = _FIGURE.findall(left)[-1:] + _FIGURE.findall(right)[:1]
        assert len(set(said)) == len(said), title

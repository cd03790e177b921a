"""Mending: the changes that are offered leave no stop and no fix, and take nothing away."""

from itertools import permutations
from typing import Any

import pytest

from graveljar.core.context import Context
from graveljar.core.errors import GravelJarError
from graveljar.core.fixes import is_built_in
from graveljar.core.model import Design
from graveljar.core.model.patch import Edit, apply
from graveljar.core.planning.mending import mend
from graveljar.core.rules import judge
from graveljar.core.rules.danger import is_danger, is_worse
from graveljar.core.rules.finding import Finding, Remedy
from graveljar.demo import demo_designs
from tests.building import bank, converter, design, inverter, load, looked_at
from tests.reference.random_designs import wired_design


def opened(made: Design) -> list[Finding]:
    """Stops, other dangers and fixes of a design."""
    return [x for x in judge(Context(made)) if is_danger(x) or x.severity == "fix"]


@pytest.mark.parametrize("name", sorted(demo_designs()))
def test_every_demo_ends_without_stop_and_fix(name: str) -> None:
    made = demo_designs()[name]
    found = mend(made)
    after = apply(made, found.edits)
    assert found.left == ()
    assert [f.title for f in looked_at(after).findings if f.severity in ("stop", "fix")] == []
    # Nothing is taken away; what is told is what happens.
    assert {x.id for x in made.loads} == {x.id for x in after.loads}
    assert {x.id for x in made.links} <= {x.id for x in after.links}
    assert looked_at(after).verdict.lasts == found.after
    assert looked_at(made).verdict.lasts == found.before
    assert 0 < len(found.steps) <= len(opened(made))


SMALL: dict[str, Any] = {
    # A fridge that strands 30 to 50 %: a regulator, or its lowest cut-out. Common practice.
    "stranded fridge": design(
        load(40.0, "fridge", hours_per_day=24.0, window={"cut_out_v": 12.9, "most_v": 15.0}),
        goal={"hours": 20.0, "ageing_margin": 0.0, "guess_margin": 0.0},
    ),
    # 1.5 kW on one 100 A battery: two carry it. Common practice.
    "one battery too few": design(
        load(1400.0, "heater", ac=True, hours_per_day=0.4, nature="heating"),
        stages=inverter(continuous_w=2000.0, surge_w=4000.0),
    ),
    "inverter too small": design(
        load(1200.0, "kettle", ac=True, hours_per_day=0.2, nature="heating"),
        stores=bank(parallel=3), stages=inverter(continuous_w=1000.0),
    ),
    "converter too small": design(
        load(70.0, "radio", rail="converter", volts=5.0, hours_per_day=1.0), more=[converter()],
    ),
    "nothing wrong": design(load(10.0)),
}  # fmt: skip


@pytest.mark.parametrize("name", sorted(SMALL))
def test_a_mend_is_found_where_trying_everything_finds_one(name: str) -> None:
    """Every remedy, and every two in a row, of small designs."""
    made = SMALL[name]
    found = mend(made)
    shortest = next(
        (n for n in (0, 1, 2) if any(_mends(made, way) for way in _ways(made, n))), None
    )
    if shortest is not None:
        assert (found.left, len(found.steps)) == ((), shortest)
    assert len(opened(apply(made, found.edits))) == len(found.left)


def _ways(made: Design, length: int) -> Any:
    return permutations(_remedies(made), length)


def _remedies(made: Design) -> list[Remedy]:
    return [
        x
        for finding in opened(made)
        for x in finding.remedies
        if x.edits
        and not any(e.op == "remove" and e.path.startswith(("/loads", "/links")) for e in x.edits)
        and not any(map(is_built_in, x.edits))
    ]


def _mends(made: Design, way: Any) -> bool:
    first = Context(made)
    try:
        after = made
        for remedy in way:
            after = apply(after, remedy.edits)
    except (ValueError, GravelJarError):
        return False
    then = Context(after)
    return not opened(after) and not is_worse(first, judge(first), then, judge(then))


@pytest.mark.parametrize("seed", range(0, 50, 6))
def test_no_random_design_is_made_worse(seed: int) -> None:
    made = wired_design(seed)
    before, known = Context(made), judge(Context(made))
    found = mend(made)
    after = Context(apply(made, found.edits))
    assert not is_worse(before, known, after, judge(after))
    assert len(found.left) == len(opened(after.network.design)) <= len(opened(made))
    assert {x.id for x in made.loads} == {x.id for x in after.network.design.loads}
    if not found.left:
        assert not opened(after.network.design)


@pytest.mark.parametrize(("path", "value"), [("/loads/0/rail", None), ("/stages/2/set_v", 0.05)])
def test_what_one_change_puts_in_is_not_left_out_while_others_change_it(
    path: str, value: float | None
) -> None:
    """Where it was left out to see whether it is needed, the others pointed at nothing."""
    made = apply(demo_designs()["tide-gauge-hut"], (Edit("replace", path, value),))
    found = mend(made)
    assert opened(made)
    assert (found.left, opened(apply(made, found.edits))) == ((), [])

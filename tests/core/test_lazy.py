"""What is worked out late: once, each object by itself; and what a fault in a rule costs."""

import gc
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from threading import Barrier

import pytest

from graveljar.core import rules
from graveljar.core.analysis.simulation import Run
from graveljar.core.context import Context
from graveljar.core.evaluate import cables_worked_out, evaluate_short, needed_worked_out
from graveljar.core.lazy import cached_property
from graveljar.core.lowering.example import lamp
from graveljar.core.model import Design
from graveljar.core.planning.improvements import levers_of
from graveljar.core.planning.mending import mend
from graveljar.core.rules import judge
from graveljar.core.rules.finding import Finding, Remedy, identity
from graveljar.demo import demo_designs

BOTH = Barrier(2, timeout=20.0)


@dataclass(frozen=True)
class Slow:
    """A frozen object with a value that waits until another one works out its own too."""

    n: int

    @cached_property
    def value(self) -> int:
        """Twice the number."""
        BOTH.wait()
        return 2 * self.n


def test_two_objects_are_worked_out_at_the_same_time() -> None:
    """With a lock for the whole class the first would wait for the second for ever."""
    with ThreadPoolExecutor(2) as threads:
        assert list(threads.map(lambda x: x.value, [Slow(1), Slow(2)])) == [2, 4]


def test_it_is_kept_in_its_object_and_named_after_it() -> None:
    context = Context(lamp())
    assert context.analysis is context.analysis
    assert Context(lamp()).analysis is not context.analysis
    assert Slow.value.__doc__ == "Twice the number."
    with pytest.raises(AttributeError):
        Slow(1).other  # type: ignore[attr-defined]  # noqa: B018


@pytest.mark.parametrize("name", sorted(demo_designs()))
def test_what_is_only_tried_has_the_same_findings_and_remedies(name: str) -> None:
    """Of one that is only tried they are worked out late: they are no others."""
    design = demo_designs()[name]
    whole, tried = (judge(Context(design, tried=late)) for late in (False, True))
    assert [identity(x) for x in tried] == [identity(x) for x in whole]
    assert [x.remedies for x in tried] == [x.remedies for x in whole]
    assert any("remedies" not in vars(x) for x in judge(Context(design, tried=True)))


def _broken() -> tuple[Remedy, ...]:
    raise ZeroDivisionError


@pytest.mark.parametrize("where", ["its condition", "its remedies"])
def test_a_rule_with_a_fault_costs_its_own_findings_alone(
    where: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    def faulty(_context: Context) -> Iterator[Finding]:
        ways = _broken if where == "its remedies" else _broken()
        yield Finding("bank.faulty", "stop", "bank", "Faulty", "", (), ways, ())

    design = demo_designs()["puppet-van"]
    before = judge(Context(design))
    monkeypatch.setattr(rules, "RULES", (*rules.RULES, faulty))
    after = evaluate_short(design, quick=True).findings
    assert [x.code for x in before] == [x.code for x in after if x.code != "program.rule_failed"]
    (told,) = (x for x in after if x.code == "program.rule_failed")
    assert told.title == "One check could not be made: faulty"


@pytest.mark.parametrize(
    "work",
    [
        pytest.param(evaluate_short, id="all that is shown"),
        pytest.param(cables_worked_out, id="cables"),
        pytest.param(needed_worked_out, id="what is needed"),
        pytest.param(lambda made: levers_of(made, []), id="changes by their hours"),
        pytest.param(mend, id="mending"),
    ],
)
def test_what_was_worked_out_is_let_go(work: Callable[[Design], object]) -> None:
    """At once, by nobody holding on to it: a worker answers for days."""
    gc.collect()
    others = set(map(id, _worked_out()))
    gc.disable()
    try:
        work(demo_designs()["puppet-van"])
        left = [one for one in _worked_out() if id(one) not in others]
    finally:
        gc.enable()
    assert left == []


def _worked_out() -> list[object]:
    return [one for one in gc.get_objects() if isinstance(one, Context | Run)]

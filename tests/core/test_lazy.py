"""Values that are worked out once: each object by itself, whatever others do meanwhile."""

from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from threading import Barrier

import pytest

from graveljar.core.context import Context
from graveljar.core.lazy import cached_property
from graveljar.core.lowering.example import lamp

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

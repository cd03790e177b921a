"""What is made of a reading."""

from dataclasses import dataclass
from typing import Literal

from graveljar.core.model.patch import Edit
from graveljar.core.text import quantity

Verdict = Literal["good", "watch", "bad", "says nothing", "open"]


@dataclass(frozen=True)
class Result:
    """A figure that a reading gives, and how: `working` has the numbers put in."""

    name: str
    value: float
    unit: str
    working: str


@dataclass(frozen=True)
class Adoption:
    """A measured figure in the place of the design's: what it was, what it becomes, the edits."""

    name: str
    before: str
    after: str
    edits: tuple[Edit, ...]


@dataclass(frozen=True)
class Judged:
    """A reading judged: what it says, what the plan expected, what to do, what may be adopted."""

    verdict: Verdict
    says: str
    expected: str = ""
    do: str = ""
    results: tuple[Result, ...] = ()
    adopt: tuple[Adoption, ...] = ()
    sources: tuple[str, ...] = ("trade-bench",)


def result(name: str, value: float, unit: str, working: str) -> Result:
    """A result with its working in words.

    Examples
    --------
    >>> result("Resistance", 0.02, "Ω", "0.4 V ÷ 20 A").working
    '0.4 V ÷ 20 A = 0.02 Ω'
    """
    return Result(name, value, unit, f"{working} = {quantity(value, unit, 3)}")

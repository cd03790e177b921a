"""The arithmetic behind a figure, kept so that every figure on screen can open it.

An expression names its inputs in braces and uses + − × ÷ ( ) and ², `sum`, `max` and `min`:
"{volts} × {ah}". Written with the inputs' names it is the formula; with their values, the
sum a person would do by hand.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, Final


@dataclass(frozen=True)
class Term:
    """One number put in. `figure` names the working it comes from, if there is one."""

    name: str
    value: float
    unit: str
    figure: str | None = None


# Where no working is kept.
NO_TERM: Final = Term("", math.nan, "")


@dataclass(frozen=True)
class FigureValue:
    """A value by its name. `unit` is as people write it; shares are in "share"."""

    name: str
    value: float
    unit: str


@dataclass(frozen=True)
class Figure(FigureValue):
    """A value with its working."""

    expression: str
    terms: Mapping[str, Term]
    sources: tuple[str, ...]
    note: str = ""


@dataclass
class Figures:
    """The figures of one evaluation by key, in the order they were worked out: values alone."""

    values: dict[str, FigureValue] = field(default_factory=dict)

    def add(
        self,
        key: str,
        name: str,
        value: float,
        unit: str,
        expression: str,
        sources: tuple[str, ...],
        note: str = "",
        /,
        **terms: Term,
    ) -> float:
        """Keep a figure under its key and give its value back."""
        # A plain number: what comes out of the engine's arrays is of another kind.
        plain = float(value)
        self.values[key] = self._made(name, plain, unit, expression, terms, sources, note)
        return value

    def _made(self, name: str, value: float, unit: str, *working: Any) -> FigureValue:
        del working
        return FigureValue(name, value, unit)

    def put(self, name: str, value: float, unit: str, figure: str | None = None) -> Term:
        """Make a term of a working; nobody reads it where values are alone."""
        del name, value, unit, figure
        return NO_TERM

    def term(self, key: str, name: str | None = None) -> Term:
        """An earlier figure as a term of a later one."""
        figure = self.values[key]
        return self.put(name or figure.name, figure.value, figure.unit, key)


class WorkedFigures(Figures):
    """The figures of one evaluation, each with its working."""

    @property
    def by_key(self) -> dict[str, Figure]:
        """Every figure by its key."""
        return {key: one for key, one in self.values.items() if isinstance(one, Figure)}

    def _made(self, name: str, value: float, unit: str, *working: Any) -> FigureValue:
        return Figure(name, value, unit, *working)

    def put(self, name: str, value: float, unit: str, figure: str | None = None) -> Term:
        """Make a term of a working, with a plain number."""
        return Term(name, float(value), unit, figure)


def summed(terms: Mapping[str, Term]) -> str:
    """Give the expression that adds all terms, or 0 for none."""
    return " + ".join(f"{{{key}}}" for key in terms) or "0"

"""The arithmetic behind each figure, by topic."""

from collections.abc import Callable, Mapping, Set
from typing import Final

from graveljar.core.context import Context
from graveljar.core.workings.cable import keep_cables
from graveljar.core.workings.link import keep_links
from graveljar.core.workings.load import keep_loads
from graveljar.core.workings.needed import keep_needed
from graveljar.core.workings.run import keep_run
from graveljar.core.workings.stage import keep_stages
from graveljar.core.workings.store import keep_stores
from graveljar.core.workings.working import Figures, FigureValue, WorkedFigures

__all__ = ["OF_CABLES", "OF_NEEDED", "keep_all", "values_of"]

# How the keys of the figures of cable runs begin, and of those of what is needed.
OF_CABLES: Final = "cable."
OF_NEEDED: Final = "needed."


def keep_all(context: Context) -> WorkedFigures:
    """Every figure of a design with its working, in an order where later build on earlier."""
    figures = WorkedFigures()
    _keep(figures, context, lambda _: True)
    return figures


def values_of(context: Context, named: Set[str] | None = None) -> Mapping[str, FigureValue]:
    """The figures of a design without their workings.

    Of cables and of the need only what is `named` and what it builds on, where not all is asked
    for: no other builds on them.
    """

    def asked(begins: str) -> bool:
        return named is None or any(key.startswith(begins) for key in named)

    figures = Figures()
    _keep(figures, context, asked)
    return figures.values


def _keep(figures: Figures, context: Context, asked: Callable[[str], bool]) -> None:
    keep_stores(figures, context)
    keep_loads(figures, context)
    keep_stages(figures, context)
    keep_links(figures, context)
    if asked(OF_CABLES):
        keep_cables(figures, context, asked)
    keep_run(figures, context)
    if asked(OF_NEEDED):
        keep_needed(figures, context)

"""The arithmetic behind each figure, by topic."""

from typing import Final

from graveljar.core.context import Context
from graveljar.core.workings.cable import keep_cables
from graveljar.core.workings.link import keep_links
from graveljar.core.workings.load import keep_loads
from graveljar.core.workings.needed import keep_needed
from graveljar.core.workings.run import keep_run
from graveljar.core.workings.stage import keep_stages
from graveljar.core.workings.store import keep_stores
from graveljar.core.workings.working import Figures

__all__ = ["OF_CABLES", "keep_all"]

# How the keys of the figures of cable runs begin.
OF_CABLES: Final = "cable."


def keep_all(context: Context, *, cables: bool = True) -> Figures:
    """Every figure of a design with its working, in an order where later build on earlier.

    Without those of `cables` where nobody asks for them: no other builds on them.
    """
    figures = Figures()
    keep_stores(figures, context)
    keep_loads(figures, context)
    keep_stages(figures, context)
    keep_links(figures, context)
    if cables:
        keep_cables(figures, context)
    keep_run(figures, context)
    keep_needed(figures, context)
    return figures

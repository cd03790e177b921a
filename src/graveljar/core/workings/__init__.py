"""The arithmetic behind each figure, by topic."""

from graveljar.core.context import Context
from graveljar.core.workings.cable import keep_cables
from graveljar.core.workings.link import keep_links
from graveljar.core.workings.load import keep_loads
from graveljar.core.workings.needed import keep_needed
from graveljar.core.workings.run import keep_run
from graveljar.core.workings.stage import keep_stages
from graveljar.core.workings.store import keep_stores
from graveljar.core.workings.working import Figures

__all__ = ["keep_all"]


def keep_all(context: Context) -> Figures:
    """Every figure of a design with its working, in an order where later build on earlier."""
    figures = Figures()
    keep_stores(figures, context)
    keep_loads(figures, context)
    keep_stages(figures, context)
    keep_links(figures, context)
    keep_cables(figures, context)
    keep_run(figures, context)
    keep_needed(figures, context)
    return figures

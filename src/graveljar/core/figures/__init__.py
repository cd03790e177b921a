"""The workings of a design, one file for each topic; `keep_all` gathers them."""

from graveljar.core.facts import Facts
from graveljar.core.figures.cable import keep_cables
from graveljar.core.figures.link import keep_links
from graveljar.core.figures.load import keep_loads
from graveljar.core.figures.needed import keep_needed
from graveljar.core.figures.run import keep_run
from graveljar.core.figures.stage import keep_stages
from graveljar.core.figures.store import keep_stores
from graveljar.core.working import Figures

__all__ = ["keep_all"]


def keep_all(facts: Facts) -> Figures:
    """Every figure of a design with its working, in an order where later build on earlier."""
    figures = Figures()
    keep_stores(figures, facts)
    keep_loads(figures, facts)
    keep_stages(figures, facts)
    keep_links(figures, facts)
    keep_cables(figures, facts)
    keep_run(figures, facts)
    keep_needed(figures, facts)
    return figures

"""Size it for me: whole systems from the parts on a shelf, for loads and a goal."""

from graveljar.core.planning.search.ask import SearchAsk, SearchPart
from graveljar.core.planning.search.found import Broken, Found, Progress, Searched
from graveljar.core.planning.search.search import Step, merged, search

__all__ = [
    "Broken",
    "Found",
    "Progress",
    "SearchAsk",
    "SearchPart",
    "Searched",
    "Step",
    "merged",
    "search",
]

"""Size it for me: whole systems from the parts on a shelf, for loads and a goal."""

from graveljar.core.planning.search.ask import SearchAsk, SearchPart
from graveljar.core.planning.search.found import Found, NearMiss, Progress, Searched
from graveljar.core.planning.search.search import STEP_NAMES, Step, merged, search

__all__ = [
    "STEP_NAMES",
    "Found",
    "NearMiss",
    "Progress",
    "SearchAsk",
    "SearchPart",
    "Searched",
    "Step",
    "merged",
    "search",
]

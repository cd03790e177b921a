"""What would make a week balance: the least of each source, found by running it."""

from graveljar.core.planning.balance.balance import Balance, balance_of, changes_of
from graveljar.core.planning.balance.together import Pair, pairs_of, panel_edits

__all__ = ["Balance", "Pair", "balance_of", "changes_of", "pairs_of", "panel_edits"]

"""What would make a week balance: the least of each source, found by running it."""

from graveljar.core.planning.balance.balance import Balance, balance_of
from graveljar.core.planning.balance.together import Pair, pairs_of

__all__ = ["Balance", "Pair", "balance_of", "pairs_of"]

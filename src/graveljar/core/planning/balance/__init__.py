"""What would make a week balance: the least of each source, found by running it."""

from graveljar.core.planning.balance.balance import Balance, balance_of

__all__ = ["Balance", "balance_of"]

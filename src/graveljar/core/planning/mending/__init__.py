"""The fewest changes that clear every stop and fix of a design."""

from graveljar.core.planning.mending.mend import Mend, MendStep, Unmended, mend

__all__ = ["Mend", "MendStep", "Unmended", "mend"]

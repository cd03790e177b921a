"""Cautions: dangers of the work itself, whether or not anything in the design is wrong."""

from graveljar.core.cautions.caution import Caution, Codes, Defer
from graveljar.core.cautions.cautions import CAUTIONS
from graveljar.core.cautions.read import Warned, warn

__all__ = ["CAUTIONS", "Caution", "Codes", "Defer", "Warned", "warn"]

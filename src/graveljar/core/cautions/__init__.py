"""Cautions: dangers of the work itself, whether or not anything in the design is wrong."""

from graveljar.core.cautions.caution import Caution, Codes, Defer
from graveljar.core.cautions.cautions import CAUTIONS
from graveljar.core.cautions.read import CautionRow, warn

__all__ = ["CAUTIONS", "Caution", "CautionRow", "Codes", "Defer", "warn"]

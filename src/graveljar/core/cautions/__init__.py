"""Dangers of the work itself, tied to what is planned."""

from graveljar.core.cautions.caution import Caution, Codes, Defer
from graveljar.core.cautions.cautions import CAUTIONS
from graveljar.core.cautions.read import CautionRow, warn

__all__ = ["CAUTIONS", "Caution", "CautionRow", "Codes", "Defer", "warn"]

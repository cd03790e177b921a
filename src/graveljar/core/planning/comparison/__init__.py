"""Side by side: variants of a design, and the schools of the trade as variants ready-made."""

from graveljar.core.planning.comparison.schools import Variant, variants_of
from graveljar.core.planning.comparison.side import ComparedDesign, side_of

__all__ = ["ComparedDesign", "Variant", "side_of", "variants_of"]

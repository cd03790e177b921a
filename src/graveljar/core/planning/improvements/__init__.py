"""What buys the most hours: single changes to a design, each worked out anew."""

from graveljar.core.planning.improvements.levers import Lever, levers_of

__all__ = ["Lever", "levers_of"]

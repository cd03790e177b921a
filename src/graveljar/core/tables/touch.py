"""Direct current that must not be touched. IEC 61140 and 60364-4-41, from memory."""

from typing import Final

# Dry, and in wet places. [V]
DRY_TOUCH_V: Final = 60.0
WET_TOUCH_V: Final = 30.0
# Above it direct current is not extra-low voltage any more. [V]
EXTRA_LOW_V: Final = 120.0

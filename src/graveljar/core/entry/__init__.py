"""Quick entry: reads one line in nameplate words as a load, and says what it understood."""

from graveljar.core.entry.read import read_line
from graveljar.core.entry.reading import Mark, Reading

__all__ = ["Mark", "Reading", "read_line"]

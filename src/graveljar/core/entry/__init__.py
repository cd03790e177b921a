"""Quick entry: reads one line in nameplate words as a load, and says what it understood."""

from graveljar.core.entry.read import read_line
from graveljar.core.entry.reading import Mark, Option, Question, Reading
from graveljar.core.entry.write import write_line

__all__ = ["Mark", "Option", "Question", "Reading", "read_line", "write_line"]

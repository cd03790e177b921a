"""Reads one line in nameplate words as a load."""

from graveljar.core.quick_entry.read import read_line
from graveljar.core.quick_entry.reading import LineMark, Question, Reading, ReadingOption
from graveljar.core.quick_entry.write import write_line

__all__ = ["LineMark", "Question", "Reading", "ReadingOption", "read_line", "write_line"]

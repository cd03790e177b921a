"""Reads one line in nameplate words as a load."""

from graveljar.core.quick_entry.label import LabelReading, PartKind, read_label
from graveljar.core.quick_entry.read import read_line
from graveljar.core.quick_entry.reading import LineMark, Question, Reading, ReadingOption
from graveljar.core.quick_entry.write import write_line

__all__ = [
    "LabelReading",
    "LineMark",
    "PartKind",
    "Question",
    "Reading",
    "ReadingOption",
    "read_label",
    "read_line",
    "write_line",
]

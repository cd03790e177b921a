"""Reads lines in plain words: a load, a part's label, a goal."""

from graveljar.core.quick_entry.goal import GoalReading, read_goal
from graveljar.core.quick_entry.label import LabelReading, read_label
from graveljar.core.quick_entry.label_words import PartKind
from graveljar.core.quick_entry.read import read_line
from graveljar.core.quick_entry.reading import LineMark, Question, Reading, ReadingOption
from graveljar.core.quick_entry.write import write_line

__all__ = [
    "GoalReading",
    "LabelReading",
    "LineMark",
    "PartKind",
    "Question",
    "Reading",
    "ReadingOption",
    "read_goal",
    "read_label",
    "read_line",
    "write_line",
]

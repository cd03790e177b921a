"""What quick entry gives back."""

from dataclasses import dataclass
from typing import Literal

from graveljar.core.model import Load
from graveljar.core.model.patch import Edit


@dataclass(frozen=True)
class LineMark:
    """A stretch of the line, from `start` up to `end`, and what was made of it.

    "read" was understood, "name" became part of the name, "set aside" was understood and is
    not needed (an adapter's INPUT, a frequency), "problem" could not be read.
    """

    start: int
    end: int
    kind: Literal["read", "name", "set aside", "problem"]
    text: str


@dataclass(frozen=True)
class ReadingOption:
    """One way to read a line that can be read in more than one: the line that says it plainly."""

    label: str
    line: str
    summary: str
    load: Load


@dataclass(frozen=True)
class Question:
    """What a line leaves open, and the ways to read it."""

    text: str
    options: tuple[ReadingOption, ...]


@dataclass(frozen=True)
class JoinedStage:
    """An inverter or converter that a load needs and the design lacks: edits that add both."""

    name: str
    edits: tuple[Edit, ...]


@dataclass(frozen=True)
class Reading:
    """A line as understood.

    `load` is None while something is missing, cannot be read or is asked; `summary` is for people;
    `notes` say what was assumed; `problems` what is in the way. `joined` is what it needs and
    is not there yet.
    """

    line: str
    marks: tuple[LineMark, ...]
    summary: str
    notes: tuple[str, ...]
    problems: tuple[str, ...]
    load: Load | None
    question: Question | None = None
    joined: JoinedStage | None = None

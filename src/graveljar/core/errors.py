"""Everything that can go wrong, as one tree.

GravelJarError             code, message, fields
├── OutOfRange             a number left the range a formula holds for
├── NotSolved              a solver found no answer; says which one and where it stood
├── InvalidDocument        a document breaks its rules; carries one Problem for each place
├── UnreadableDocument     not JSON at all, cut short, nested too deep or too large
└── NewerVersion           a document of a version this program does not know
"""

from dataclasses import dataclass


@dataclass(frozen=True)
class Problem:
    """One thing wrong at one place of a document.

    `path` is a JSON Pointer (RFC 6901); `code` is stable, `message` is for people.
    """

    path: str
    code: str
    message: str


class GravelJarError(Exception):
    """Root of the tree. `code` is stable; `problems` name the places, if there are any."""

    code = "error"
    title = "Something is wrong"

    def __init__(self, message: str, problems: tuple[Problem, ...] = ()) -> None:
        super().__init__(message)
        self.message = message
        self.problems = problems


class OutOfRange(GravelJarError):
    """A number left the range a formula holds for."""

    code = "out_of_range"
    title = "A number is out of range"


class NotSolved(GravelJarError):
    """A solver found no answer within its bounds: there is none to show."""

    code = "not_solved"
    title = "No answer was found"


class InvalidDocument(GravelJarError):
    """A document breaks its rules."""

    code = "invalid_document"
    title = "The document breaks a rule"


class UnreadableDocument(GravelJarError):
    """A document that cannot be read as JSON."""

    code = "unreadable_document"
    title = "The document cannot be read"


class NewerVersion(GravelJarError):
    """A document written by a newer program."""

    code = "newer_version"
    title = "The document is of a newer version"

"""What building gives."""

from dataclasses import dataclass

from graveljar.core.errors import InvalidDocument, Problem
from graveljar.core.model.patch import Edit


@dataclass(frozen=True)
class BuildResult:
    """Edits that do what was asked.

    `says` tells where each load went and why; `subject` is the new or changed thing;
    `moved` are loads that change their rail.
    """

    label: str
    says: tuple[str, ...]
    subject: str
    moved: tuple[str, ...]
    edits: tuple[Edit, ...]


def refused(path: str, message: str) -> InvalidDocument:
    """An ask that cannot be built, and which part of it is at fault."""
    return InvalidDocument(message, (Problem(f"/ask{path}", "cannot_build", message),))

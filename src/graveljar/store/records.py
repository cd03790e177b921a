"""What is read of a kept design."""

from dataclasses import dataclass
from datetime import datetime
from typing import Literal
from uuid import UUID

from graveljar.core.model import Design

# Where a design is: at hand, put away, or deleted and not gone yet.
Place = Literal["current", "archived", "deleted"]


@dataclass(frozen=True)
class Summary:
    """A design in a list; `tags` are words a person gave it."""

    id: UUID
    name: str
    revision: int
    loads: int
    saved_at: datetime
    tags: tuple[str, ...] = ()


@dataclass(frozen=True)
class CopyOfPart:
    """A design that holds a copy of a part of the shelf, as it was at some revisions of it."""

    id: UUID
    name: str
    revisions: tuple[int, ...]


@dataclass(frozen=True)
class Stored:
    """A design as kept, at one revision."""

    id: UUID
    revision: int
    saved_at: datetime
    document: Design


@dataclass(frozen=True)
class Revision:
    """One kept state of a design; `name` is what a person called it, or None."""

    number: int
    saved_at: datetime
    name: str | None
    document: Design

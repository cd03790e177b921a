"""What is read of a kept design."""

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from graveljar.core.model import Design


@dataclass(frozen=True)
class Summary:
    """A design in a list."""

    id: UUID
    name: str
    revision: int
    loads: int
    saved_at: datetime


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

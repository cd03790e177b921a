"""What a finding is made of."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Literal

from graveljar.core.context import Context
from graveljar.core.lazy import cached_property
from graveljar.core.model.patch import Edit

# stop: will damage or hurt. fix: will not do its job. watch: thin margin or bad habit.
Severity = Literal["stop", "fix", "watch", "note"]


@dataclass(frozen=True)
class Remedy:
    """A change that may solve a finding: words, and its edits (none: it happens off the screen)."""

    label: str
    edits: tuple[Edit, ...] = ()


@dataclass(frozen=True)
class Statement:
    """What is wrong with one subject, and the figures that show it.

    `figures` are keys of workings; `subject` is the id of the thing it concerns, or "design".
    """

    code: str
    severity: Severity
    subject: str
    title: str
    reason: str
    figures: tuple[str, ...]


@dataclass(frozen=True)
class Finding(Statement):
    """A statement of a rule, with what may solve it: `ways`, or what works them out."""

    ways: tuple[Remedy, ...] | Callable[[], tuple[Remedy, ...]]
    sources: tuple[str, ...]

    @cached_property
    def remedies(self) -> tuple[Remedy, ...]:
        """What may solve it."""
        return self.ways() if callable(self.ways) else self.ways

    def __reduce__(self) -> tuple[type["Finding"], tuple[object, ...]]:
        """To another process it takes its remedies along, worked out."""
        told = {name: getattr(self, name) for name in Statement.__dataclass_fields__}
        return Finding, (*told.values(), self.remedies, self.sources)


Rule = Callable[[Context], Iterator[Finding]]


def identity(finding: Finding) -> tuple[str, str]:
    """What makes two findings the same: of the hours as a whole there is one of a kind."""
    return finding.code, "" if finding.code == "run.must_stops_early" else finding.subject

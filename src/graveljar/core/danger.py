"""What nothing may lead to: a change that brings up a stop, or lets something no longer run."""

from collections.abc import Sequence

from pydantic import ValidationError

from graveljar.core.edit import Edit, apply
from graveljar.core.errors import GravelJarError
from graveljar.core.facts import Facts, gather
from graveljar.core.findings import judge
from graveljar.core.findings.finding import Finding, identity


def stops_of(findings: Sequence[Finding]) -> set[tuple[str, str]]:
    """The stops among some findings, by what makes them the same."""
    return {identity(finding) for finding in findings if finding.severity == "stop"}


def is_worse(before: Facts, known: Sequence[Finding], after: Facts) -> bool:
    """Whether a changed design has a stop that was not there, or a load that can no longer run.

    Parameters
    ----------
    known : Findings of the design as it was.
    """
    able = {load.id for load in after.lowered.loads}
    there = {load.id for load in after.design.loads}
    if any(load.id in there and load.id not in able for load in before.lowered.loads):
        return True
    return bool(stops_of(judge(after)) - stops_of(known))


def offered(before: Facts, known: Sequence[Finding], edits: Sequence[Edit]) -> Facts | None:
    """The design with some edits, if they may be offered; None if not."""
    try:
        after = gather(apply(before.design, edits))
        return None if is_worse(before, known, after) else after
    except (ValidationError, GravelJarError):
        return None

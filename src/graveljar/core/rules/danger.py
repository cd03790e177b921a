"""What nothing may lead to: a change that adds a stop, or lets something no longer run."""

from collections.abc import Sequence
from typing import Final

from pydantic import ValidationError

from graveljar.core.context import Context
from graveljar.core.errors import GravelJarError
from graveljar.core.model.patch import Edit, apply
from graveljar.core.rules import judge
from graveljar.core.rules.finding import Finding, identity

# Findings that no change may add, though they are no stops: connectors and fuses above 80 %,
# volts that must not be touched, batteries joined beyond what their maker allows, or charged with
# more amps than they may take.
NEVER_OFFERED: Final = frozenset(
    {
        "bank.too_many",
        "bank.touchable",
        "cable.thin_parallel",
        "charger.above_rate",
        "connector.above_class",
        "connector.runs_hot",
        "fuse.below_load",
        "fuse.runs_hot",
        "fuse.weak_main",
        "station.plug_hot",
    }
)


def is_danger(finding: Finding) -> bool:
    """Whether no change that is offered may bring a finding up."""
    return finding.severity == "stop" or finding.code in NEVER_OFFERED


def dangers_of(findings: Sequence[Finding]) -> set[tuple[str, str]]:
    """The dangers among some findings, by what makes them the same."""
    return {identity(finding) for finding in findings if is_danger(finding)}


def is_worse(
    before: Context, known: Sequence[Finding], after: Context, judged: Sequence[Finding]
) -> bool:
    """Whether a changed design has a stop that was not there, or a load that can no longer run.

    Parameters
    ----------
    known, judged : Findings of the design as it was, and of the changed one.
    """
    able = {load.id for load in after.analysis.lowered.loads}
    there = {load.id for load in after.network.design.loads}
    if any(load.id in there and load.id not in able for load in before.analysis.lowered.loads):
        return True
    return bool(dangers_of(judged) - dangers_of(known))


def offered(
    before: Context, known: Sequence[Finding], edits: Sequence[Edit]
) -> tuple[Context, tuple[Finding, ...]] | None:
    """The design with some edits and its findings, if they may be offered; None if not."""
    try:
        after = Context(apply(before.network.design, edits), tried=True)
        judged = judge(after)
        return None if is_worse(before, known, after, judged) else (after, judged)
    except (ValidationError, GravelJarError):
        return None

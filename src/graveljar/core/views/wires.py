"""What carries the current to each thing, in a few figures: for the drawing and the panels."""

from dataclasses import dataclass

from graveljar.core.cables.runs import RunKind
from graveljar.core.cables.sizing import SizedCable
from graveljar.core.context import Context


@dataclass(frozen=True)
class WireSize:
    """A size by its name, and how many cables lie in parallel."""

    name: str
    leads: int


@dataclass(frozen=True)
class Wire:
    """A run: its length one way [m], its size and fuse, chosen and proposed. [A]

    What else there is to it comes with the cables.
    """

    subject: str
    kind: RunKind
    length_m: float
    chosen: WireSize | None
    proposed: WireSize | None
    fuse_a: float | None
    proposed_fuse_a: float | None


def wires_of(context: Context) -> tuple[Wire, ...]:
    """Every DC run of a design, those nearer to a store first."""
    return tuple(
        Wire(
            one.run.subject,
            one.run.kind,
            one.cable.length_m,
            _size(one.chosen),
            _size(one.proposal.proposed),
            one.fuse.amps if one.fuse else None,
            one.proposal.fuse.amps if one.proposal.fuse else None,
        )
        for one in context.cables.values()
    )


def _size(sized: SizedCable | None) -> WireSize | None:
    return WireSize(sized.size.name, sized.leads) if sized else None

"""What applying a suggestion changes in the document: only what nobody has chosen."""

from collections.abc import Iterable, Iterator
from typing import Any

from graveljar.core.cables.plan import PlannedRun, bus_bar_for, proposed_connector
from graveljar.core.cables.sizing import FuseChoice, SizedCable, fuse_for
from graveljar.core.model import Fuse
from graveljar.core.model.patch import Edit
from graveljar.core.tables.touch import EXTRA_LOW_V

# As near to the post as a fuse is fitted in practice. [m]
AT_POST_M = 0.1


def take(planned: PlannedRun) -> tuple[Edit, ...]:
    """Edits that give a run what is proposed for it."""
    wanted = dict(_wanted(planned))
    path, joined = planned.run.path, planned.run.joined
    if joined is None:
        return (Edit("add", path, wanted),) if wanted else ()
    return tuple(Edit("add", f"{path}/{key}", value) for key, value in wanted.items())


def take_all(planned: Iterable[PlannedRun]) -> tuple[Edit, ...]:
    """Edits that give every run what is proposed for it."""
    return tuple(edit for one in planned for edit in take(one))


def _wanted(planned: PlannedRun) -> Iterator[tuple[str, Any]]:
    proposal, joined = planned.proposal, planned.run.joined
    if planned.asked.full_v > EXTRA_LOW_V:
        # Not a job for what is planned here.
        return
    if any(x is not None and x.kind is None for x in (proposal.fuse, planned.end_proposal)):
        # No common fuse interrupts its short circuit: a cable without one is not proposed.
        return
    if planned.chosen is None and proposal.proposed is not None:
        size = {"size": proposal.proposed.size.name, "leads": proposal.proposed.leads}
        yield "cable", planned.cable.model_dump(mode="json") | size
    if planned.fuse is None and proposal.fuse is not None:
        yield "fuse", fuse_document(planned)
    if planned.end is not None and planned.end_fuse is None and planned.end_proposal is not None:
        yield "end_fuse", _document(planned.end_proposal, AT_POST_M)
    if joined is None or joined.connector is None:
        yield "connector", proposed_connector(planned).key
    if planned.run.kind == "post" and (joined is None or joined.bus_bar_a is None):
        bar_a = bus_bar_for(planned.run.amps.design)
        if bar_a is not None:
            yield "bus_bar_a", bar_a


def fuse_document(planned: PlannedRun) -> dict[str, Any]:
    """The proposed fuse as the document has it."""
    fuse = planned.proposal.fuse
    if fuse is None:
        return {}
    return _document(fuse, AT_POST_M if planned.run.kind == "post" else None)


def end_fused(planned: PlannedRun) -> tuple[Edit, ...]:
    """Edits that put a fitting fuse at the battery's end of a run."""
    if planned.end_proposal is None or planned.end_proposal.kind is None:
        return ()
    return (
        Edit("add", f"{planned.run.path}/end_fuse", _document(planned.end_proposal, AT_POST_M)),
    )


def _document(fuse: FuseChoice, from_post_m: float | None) -> dict[str, Any]:
    kind = fuse.kind.key if fuse.kind else None
    return {"amps": fuse.amps, "kind": kind, "from_post_m": from_post_m}


def resized(
    planned: PlannedRun, choice: SizedCable | None, fuse: FuseChoice | None
) -> tuple[Edit, ...]:
    """Edits that replace the chosen size, with a fuse that fits the new one."""
    path = planned.run.path
    if planned.run.joined is None or choice is None or fuse is None or fuse.kind is None:
        return ()
    size = {"size": choice.size.name, "leads": choice.leads}
    edits = [Edit("replace", f"{path}/cable", planned.cable.model_dump(mode="json") | size)]
    if planned.fuse is not None:
        edits.append(Edit("replace", f"{path}/fuse", _refused(planned.fuse, fuse)))
    end = None if planned.end is None else fuse_for(choice, planned.end)
    if end is not None and end.kind is not None:
        before = planned.end_fuse
        document = _document(end, AT_POST_M) if before is None else _refused(before, end)
        edits.append(Edit("add", f"{path}/end_fuse", document))
    return tuple(edits)


def _refused(fuse: Fuse, proposed: FuseChoice) -> dict[str, Any]:
    """The fuse where it is, in other amps and of another kind."""
    kind = proposed.kind.key if proposed.kind else fuse.kind
    return fuse.model_dump(mode="json") | {
        "amps": proposed.amps, "kind": kind, "volts": None, "breaks_a": None,
    }  # fmt: skip


def fused(planned: PlannedRun) -> tuple[Edit, ...]:
    """Edits that replace the fuse by one that fits."""
    fuse = planned.proposal.fuse
    if fuse is None or fuse.kind is None or planned.run.joined is None:
        return ()
    document = fuse_document(planned)
    return (Edit("add", f"{planned.run.path}/fuse", document),)

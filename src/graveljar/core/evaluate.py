"""From a design to its evaluation."""

from collections.abc import Callable, Iterator
from dataclasses import replace

from graveljar.core.analysis.band import NO_BAND, begin_band
from graveljar.core.analysis.bank_sizing import BankChoice, Needed, NeededCable
from graveljar.core.cables.plan import kind_of
from graveljar.core.cautions import warn
from graveljar.core.context import Context
from graveljar.core.evaluation import (
    Evaluation,
    Judgement,
    ShortEvaluation,
    WorkedCables,
    WorkedNeeded,
)
from graveljar.core.fixes import (
    Fix,
    Standing,
    Trials,
    fixes_of,
    shared_out,
    standing_of,
    untried_fixes,
)
from graveljar.core.model import Design
from graveljar.core.model.patch import Edit, apply, as_sent
from graveljar.core.rules import judge
from graveljar.core.rules.danger import offered
from graveljar.core.rules.finding import Finding
from graveljar.core.views.bank_wiring import wiring_of
from graveljar.core.views.cables import cables_of
from graveljar.core.views.jar import jar_of
from graveljar.core.views.joints import joints_of
from graveljar.core.views.links import link_rows
from graveljar.core.views.loads import load_rows
from graveljar.core.views.run_summary import run_summary
from graveljar.core.views.verdict import verdict_of
from graveljar.core.views.wires import wires_of
from graveljar.core.workings import OF_CABLES, OF_NEEDED, keep_all, values_of
from graveljar.core.workings.working import FigureValue


def evaluate(design: Design, *, quick: bool = False) -> Evaluation:
    """Work a design out, with its cables, what is needed and all workings."""
    context = Context(design)
    whole = vars(_worked_out(context, quick=quick)) | {
        "cables": cables_of(context),
        "needed": _needed(context, quick=quick),
        "figures": keep_all(context).by_key,
    }
    return Evaluation(format="gravel-jar/evaluation", version=11, **whole)


def evaluate_short(design: Design, *, quick: bool = False) -> ShortEvaluation:
    """Work a design out as an edit asks for it. One that cannot run evaluates too, with findings.

    A `quick` one leaves out what costs many runs: the band, and what each fix would do.
    """
    return _worked_out(Context(design), quick=quick)


def evaluate_without_half(
    design: Design, hand_over: Callable[[Standing], None]
) -> tuple[ShortEvaluation, tuple[int, ...]]:
    """Work a design out but for half of the trials, which another does at the same time.

    How it stands is handed over as soon as it is known: all that the other needs.

    Returns
    -------
    The evaluation, and the places of the findings whose fixes are left out.
    """
    context = Context(design)
    evaluation = _worked_out(context, quick=False, hand_over=hand_over)
    turns = shared_out(judge(context))
    return evaluation, tuple(place for place, turn in enumerate(turns) if turn == 1)


def other_half(before: Standing) -> tuple[Judgement, ...]:
    """The findings whose fixes `evaluate_without_half` leaves out, with them."""
    turns = shared_out(before.findings)
    left = [one for one, turn in zip(before.findings, turns, strict=True) if turn == 1]
    trials = Trials(before)
    return tuple(_judgement(finding, tuple(fixes_of(trials, finding))) for finding in left)


def cables_worked_out(design: Design) -> WorkedCables:
    """Work out the cables of a design, with the figures of their runs."""
    context = Context(design)
    return WorkedCables(cables_of(context), _figures_of(context, OF_CABLES))


def needed_worked_out(design: Design) -> WorkedNeeded:
    """Work out what the loads of a design need of its bank, with the figures of it.

    Each choice is tried: what brings danger has no edits.
    """
    context = Context(design)
    return WorkedNeeded(_needed(context, quick=False), _figures_of(context, OF_NEEDED))


def _figures_of(context: Context, begins: str) -> dict[str, FigureValue]:
    """The figures whose keys begin so."""
    return {key: one for key, one in values_of(context).items() if key.startswith(begins)}


def _worked_out(
    context: Context, *, quick: bool, hand_over: Callable[[Standing], None] | None = None
) -> ShortEvaluation:
    # On threads of their own while the rest is worked out here.
    band = None if quick else begin_band(context.analysis.lowered)
    findings = judge(context)
    if hand_over is not None:
        hand_over(standing_of(context))
    turns = (0,) * len(findings) if hand_over is None else shared_out(findings)
    return ShortEvaluation(
        verdict=verdict_of(context),
        run=run_summary(context),
        jar=jar_of(context),
        loads=tuple(load_rows(context)),
        joints=tuple(joints_of(context)),
        links=tuple(link_rows(context)),
        wires=wires_of(context),
        wirings=tuple(wiring_of(bank) for bank in context.network.banks),
        findings=tuple(_judgements(context, turns, quick=quick)),
        cautions=warn(context),
        figures=_shown(context, findings),
        band=band() if band else NO_BAND,
        quick=quick,
    )


def _shown(context: Context, findings: tuple[Finding, ...]) -> dict[str, FigureValue]:
    """The figures that are always shown; of other answers those that findings name."""
    named = {key for finding in findings for key in finding.figures}
    others = (OF_CABLES, OF_NEEDED)
    kept = values_of(context, named)
    return {k: one for k, one in kept.items() if k in named or not k.startswith(others)}


def _needed(context: Context, *, quick: bool) -> Needed | None:
    """What is needed; of its choices those that bring danger cannot be used.

    A quick evaluation has not tried them: none of them can be used yet.
    """
    needed = context.analysis.needed if quick else context.analysis.takeable
    if needed is None:
        return None
    findings = judge(context)

    def tried(edits: tuple[Edit, ...]) -> tuple[Edit, ...]:
        if quick or not edits or offered(context, findings, edits) is None:
            return ()
        return as_sent(context.network.design, edits)

    choices = tuple(
        replace(x, edits=tried(x.edits), alike_edits=tried(x.alike_edits)) for x in needed.choices
    )
    cables = () if quick else tuple(_needed_cables(context, needed.present.edits, choices))
    return replace(needed, choices=choices, cables=cables)


def _needed_cables(
    context: Context, edits: tuple[Edit, ...], choices: tuple[BankChoice, ...]
) -> Iterator[NeededCable]:
    """The main cables of the bank and its inverters, as the Cables view has them afterwards."""
    present = next(choice for choice in choices if choice.present)
    if edits and not present.edits:
        return
    after = Context(apply(context.network.design, edits)) if edits else context
    inverters = {stage.id for stage in after.network.inverters}
    for one in after.cables.values():
        if one.run.kind != "post" and one.run.subject not in inverters:
            continue
        choice, proposed = one.choice, one.proposal.fuse
        kind = kind_of(one.fuse) if one.fuse else proposed.kind if proposed else None
        fuse = one.fuse or proposed
        yield NeededCable(
            name=one.run.name,
            amps=one.asked.shared_a,
            count=one.run.strings * (choice.leads if choice else 1),
            cable=choice.size.name if choice else None,
            fuse_a=fuse.amps if fuse else None,
            fuse_kind=kind.name if kind else None,
        )


def _judgements(context: Context, turns: tuple[int, ...], *, quick: bool) -> Iterator[Judgement]:
    """Findings as they are shown, with the fixes of those whose turn is 0."""
    design, findings = context.network.design, judge(context)
    if quick:
        for finding in findings:
            yield _judgement(finding, tuple(untried_fixes(design, finding)))
        return
    trials = Trials(standing_of(context))
    for finding, turn in zip(findings, turns, strict=True):
        yield _judgement(finding, tuple(fixes_of(trials, finding)) if turn == 0 else ())


def _judgement(finding: Finding, fixes: tuple[Fix, ...]) -> Judgement:
    return Judgement(
        code=finding.code,
        severity=finding.severity,
        subject=finding.subject,
        title=finding.title,
        reason=finding.reason,
        figures=finding.figures,
        fixes=fixes,
        sources=finding.sources,
    )

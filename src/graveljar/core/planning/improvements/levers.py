"""Levers ranked by the hours they buy; those that only narrow the band after them."""

from collections.abc import Sequence
from dataclasses import dataclass

from graveljar.core.analysis.band import Band, band_of
from graveljar.core.context import Context
from graveljar.core.model import Design
from graveljar.core.model.patch import Edit, as_sent
from graveljar.core.planning.improvements.draft import Draft, Effort, Kind
from graveljar.core.planning.improvements.drafts import drafts_of
from graveljar.core.planning.shelf import Candidate
from graveljar.core.rules import judge
from graveljar.core.rules.danger import offered
from graveljar.core.rules.finding import Finding, identity
from graveljar.core.views.verdict import lasts

# Titles of findings by what makes them the same.
Titles = dict[tuple[str, str], str]
# Hours that are not worth a line. Ours. [h]
MIN_H = 0.02


@dataclass(frozen=True)
class Lever:
    """A single change and what it does. [h], [Wh]

    `hours` None: no end up to the horizon; `gained_h` is counted up to it. `narrower` is the
    share of the band's width that it takes away, None where there is no band. `brings` are
    titles of findings, notes apart, that it adds, `clears` those that it clears.
    """

    kind: Kind
    subject: str
    label: str
    edits: tuple[Edit, ...]
    effort: Effort
    price: float | None
    mass_kg: float | None
    hours: float | None
    gained_h: float
    lasts: str
    saved_wh: float
    narrower: float | None
    brings: tuple[str, ...]
    clears: tuple[str, ...]


def levers_of(design: Design, shelf: Sequence[Candidate]) -> tuple[Lever, ...]:
    """Every lever that does something, the most hours first."""
    context = Context(design)
    known = judge(context)
    before = _open(known)
    band = _width(band_of(context.analysis.lowered)) if context.analysis.lowered.loads else None
    found = []
    for draft in drafts_of(context, shelf):
        done = offered(context, known, draft.edits)
        if done is None:
            # Out of what a document may hold, or it brings danger: no lever.
            continue
        lever = _lever(context, before, band, draft, *done)
        if lever.gained_h > MIN_H or (lever.narrower or 0.0) > MIN_H:
            found.append(lever)
    return tuple(sorted(found, key=lambda x: (-x.gained_h, -(x.narrower or 0.0), x.label)))


def _lever(
    context: Context,
    before: Titles,
    band: float | None,
    draft: Draft,
    after: Context,
    judged: Sequence[Finding],
) -> Lever:
    then = _open(judged)
    horizon_h = context.analysis.run.horizon_h
    hours, was = (
        (horizon_h if x.analysis.run.hours is None else x.analysis.run.hours)
        for x in (after, context)
    )
    narrower = None
    if draft.kind == "measure" and band:
        width = _width(band_of(after.analysis.lowered))
        narrower = None if width is None else 1.0 - width / band
    return Lever(
        draft.kind,
        draft.subject,
        draft.label,
        as_sent(context.network.design, draft.edits),
        draft.effort,
        draft.price,
        draft.mass_kg,
        after.analysis.run.hours,
        hours - was,
        lasts(after.analysis.run),
        context.analysis.day.wh - after.analysis.day.wh,
        narrower,
        tuple(sorted(then[key] for key in then.keys() - before.keys())),
        tuple(sorted(before[key] for key in before.keys() - then.keys())),
    )


def _open(findings: Sequence[Finding]) -> Titles:
    """Titles of findings, notes apart, by what makes them the same."""
    return {identity(x): x.title for x in findings if x.severity != "note"}


def _width(band: Band) -> float | None:
    """Hours between a tenth and nine tenths; None where one of them has no end. [h]"""
    if band.p10 is None or band.p90 is None or band.p90 <= band.p10:
        return None
    return band.p90 - band.p10

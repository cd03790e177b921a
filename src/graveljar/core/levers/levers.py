"""Levers ranked by the hours they buy; those that only narrow the band after them."""

from collections.abc import Sequence
from dataclasses import dataclass

from graveljar.core.band import Band, band_of
from graveljar.core.danger import offered
from graveljar.core.document import Design
from graveljar.core.edit import Edit, as_sent
from graveljar.core.facts import Facts, gather
from graveljar.core.findings import judge
from graveljar.core.findings.finding import identity
from graveljar.core.levers.drafts import Draft, Effort, Kind, drafts_of
from graveljar.core.shelf import Candidate
from graveljar.core.verdict import lasts

# Titles of findings by what makes them the same.
Titles = dict[tuple[str, str], str]
# Hours that are not worth a line. Ours. [h]
LEAST_H = 0.02


@dataclass(frozen=True)
class Lever:
    """A single change and what it does. [h], [Wh]

    `hours` None: no end up to the horizon; `gained_h` is counted up to it. `narrower` is the
    share of the band's width that it takes away, None where there is no band. `brings` are
    titles of findings, notes apart, that it brings up, `clears` those that it clears.
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
    facts = gather(design)
    known = judge(facts)
    before = _open(facts)
    band = _width(band_of(facts.lowered)) if facts.lowered.loads else None
    found = []
    for draft in drafts_of(facts, shelf):
        after = offered(facts, known, draft.edits)
        if after is None:
            # Out of what a document may hold, or it brings danger: no lever.
            continue
        lever = _lever(facts, before, band, draft, after)
        if lever.gained_h > LEAST_H or (lever.narrower or 0.0) > LEAST_H:
            found.append(lever)
    return tuple(sorted(found, key=lambda x: (-x.gained_h, -(x.narrower or 0.0), x.label)))


def _lever(facts: Facts, before: Titles, band: float | None, draft: Draft, after: Facts) -> Lever:
    then = _open(after)
    horizon_h = facts.run.horizon_h
    hours, was = ((horizon_h if x.run.hours is None else x.run.hours) for x in (after, facts))
    narrower = None
    if draft.kind == "measure" and band:
        width = _width(band_of(after.lowered))
        narrower = None if width is None else 1.0 - width / band
    return Lever(
        draft.kind,
        draft.subject,
        draft.label,
        as_sent(facts.design, draft.edits),
        draft.effort,
        draft.price,
        draft.mass_kg,
        after.run.hours,
        hours - was,
        lasts(after.run),
        facts.day.wh - after.day.wh,
        narrower,
        tuple(sorted(then[key] for key in then.keys() - before.keys())),
        tuple(sorted(before[key] for key in before.keys() - then.keys())),
    )


def _open(facts: Facts) -> Titles:
    """Titles of the findings of a design, notes apart, by what makes them the same."""
    return {identity(x): x.title for x in judge(facts) if x.severity != "note"}


def _width(band: Band) -> float | None:
    """Hours between a tenth and nine tenths; None where one of them has no end. [h]"""
    if band.p10 is None or band.p90 is None or band.p90 <= band.p10:
        return None
    return band.p90 - band.p10

"""Fixes of a finding, each tried before it is offered."""

import logging
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final

from pydantic import ValidationError

from graveljar.core.context import Context
from graveljar.core.errors import GravelJarError
from graveljar.core.lazy import cached_property
from graveljar.core.model import Design
from graveljar.core.model.patch import Edit, apply, as_sent
from graveljar.core.rules import judge
from graveljar.core.rules.danger import dangers_of, is_danger
from graveljar.core.rules.finding import Finding, Remedy, identity
from graveljar.core.text import quantity
from graveljar.core.views.verdict import lasts

LOG: Final = logging.getLogger(__name__)
# Changes that one fix may consist of. Ours.
MAX_CHANGES: Final = 3
# Fixes that are tried, each counted once for every load and stage; and so many at least. Nobody
# waits longer for an answer. Ours.
MAX_TRIED: Final = 6_000
MIN_TRIALS: Final = 20
UNTRIED: Final = "(Not tried, there are so many: take the ones above first.)"
# Two can share the trials. The first also works out all the rest, which takes as long as so many
# trials. Ours.
REST_IN_TRIALS: Final = 1
# Hours that count as longer, as a multiple. Ours.
LONGER: Final = 1.01


@dataclass(frozen=True)
class Effect:
    """What taking a fix would do. Hours until the first stop, None without end. [h]

    `brings` are titles of findings, notes apart, that it would add.
    """

    hours_before: float | None
    hours_after: float | None
    clears: bool
    brings: tuple[str, ...]
    text: str


@dataclass(frozen=True)
class Fix:
    """A way out of a finding, with its effect.

    Without edits it happens off the screen, or was not tried, and has none here; a quick evaluation
    leaves it out.
    """

    label: str
    edits: tuple[Edit, ...]
    effect: Effect | None


@dataclass(frozen=True)
class Standing:
    """How a design stands before a change: all that its effect is told from. [h], [Wh a day]"""

    design: Design
    findings: tuple[Finding, ...]
    hours: float | None
    lasts: str
    idle_wh: float


def standing_of(context: Context) -> Standing:
    """How a design stands."""
    run, idle = context.analysis.run, context.analysis.day.idle
    design = context.network.design
    return Standing(design, judge(context), run.hours, lasts(run), sum(idle.values()))


class Trials:
    """How a design stands, and what becomes of it with changes; each worked out once."""

    def __init__(self, before: Standing) -> None:
        self.before = before
        self._done: dict[str, tuple[Context, tuple[Finding, ...]]] = {}
        things = len(before.design.loads) + len(before.design.stages)
        self._most = max(MAX_TRIED // max(things, 1), MIN_TRIALS)

    @cached_property
    def _tried(self) -> set[str]:
        asked = dict.fromkeys(key for finding in self.before.findings for key in _to_try(finding))
        return set(list(asked)[: self._most])

    def takes(self, remedy: Remedy) -> bool:
        """Whether a remedy is among as many as are tried, those of the first findings first."""
        return repr(remedy.edits) in self._tried

    def after(self, edits: tuple[Edit, ...]) -> tuple[Context, tuple[Finding, ...]]:
        """The design with some edits, and its findings."""
        key = repr(edits)
        if key not in self._done:
            changed = Context(apply(self.before.design, edits), tried=True)
            self._done[key] = changed, judge(changed)
        return self._done[key]


def fixes_of(trials: Trials, finding: Finding) -> Iterator[Fix]:
    """Fixes with their effects: those that solve the finding first, none that adds a danger."""
    changing = _changing(finding)
    yield from _built_in(finding, changing)
    tried, told = [], []
    for remedy in changing:
        if not remedy.edits:
            told.append(Fix(remedy.label, (), None))
        elif not trials.takes(remedy):
            # What nobody tried is told, and not offered.
            told.append(Fix(f"{remedy.label} {UNTRIED}", (), None))
        elif (taken := _tried(trials, finding, remedy)) is not None:
            safe, effect = taken
            tried.append(Fix(safe.label, as_sent(trials.before.design, safe.edits), effect))
    yield from sorted(tried, key=lambda fix: fix.effect is not None and not fix.effect.clears)
    yield from told
    if changing and not tried and not told:
        yield Fix("No single change solves it: see Needed and Options.", (), None)


def untried_fixes(design: Design, finding: Finding) -> Iterator[Fix]:
    """Fixes as a quick evaluation has them, none of them tried yet."""
    changing = _changing(finding)
    yield from _built_in(finding, changing)
    for remedy in changing:
        yield Fix(remedy.label, as_sent(design, remedy.edits), None)


def _built_in(finding: Finding, changing: list[Remedy]) -> Iterator[Fix]:
    if finding.remedies and not changing:
        label = "It is built into the station: use another outlet, or a bigger station."
        yield Fix(label, (), None)


def shared_out(findings: tuple[Finding, ...]) -> tuple[int, ...]:
    """Which of two that share the trials, 0 or 1, has those of each finding.

    A change that several findings suggest is tried by one of the two for all of them.
    """
    has: dict[str, int] = {}
    busy = [REST_IN_TRIALS, 0]
    turns = []
    for finding in findings:
        keys = _to_try(finding)
        turn = next((has[key] for key in keys if key in has), int(busy[0] > busy[1]))
        busy[turn] += sum(key not in has for key in keys)
        has = dict.fromkeys(keys, turn) | has
        turns.append(turn)
    return tuple(turns)


def _changing(finding: Finding) -> list[Remedy]:
    """Remedies that change nothing built in."""
    return [x for x in finding.remedies if not any(is_built_in(e) for e in x.edits)]


def _to_try(finding: Finding) -> list[str]:
    """What its remedies change, each as a key."""
    return [repr(x.edits) for x in _changing(finding) if x.edits]


def _tried(trials: Trials, finding: Finding, remedy: Remedy) -> tuple[Remedy, Effect] | None:
    """A remedy, with the changes that it needs to be safe, and its effect.

    None where it adds a danger that no further change solves, helps nothing or cannot be.
    """
    try:
        after, judged = trials.after(remedy.edits)
        for _ in range(MAX_CHANGES - 1):
            graver = _graver(trials.before.findings, judged)
            if not graver:
                break
            more = next((x for x in graver[0].remedies if x.edits), None)
            if more is None or any(is_built_in(e) for e in more.edits):
                return None
            remedy = Remedy(f"{remedy.label} And: {more.label}", (*remedy.edits, *more.edits))
            after, judged = trials.after(remedy.edits)
        effect = _effect(trials, finding, after, judged)
        return None if effect is None else (remedy, effect)
    except (ValidationError, GravelJarError):
        # Beyond what a document may hold (an inverter of 200 kW), or nothing that can be solved.
        return None
    except Exception:
        LOG.exception("the effect of %r on %s", remedy.label, finding.code)
        return None


def is_built_in(edit: Edit) -> bool:
    """Whether an edit would change what is built into a station, and no switch on it.

    The volts of a port are edited only where its switch offers them.
    """
    return "/outlets/" in edit.path and not edit.path.endswith(("/switched", "/volts"))


def _graver(findings: tuple[Finding, ...], judged: tuple[Finding, ...]) -> list[Finding]:
    """Dangers among what is judged that were none before."""
    known = dangers_of(findings)
    return [f for f in judged if is_danger(f) and identity(f) not in known]


def _effect(
    trials: Trials, finding: Finding, after: Context, judged: tuple[Finding, ...]
) -> Effect | None:
    """What a remedy does to the design; None where it neither solves nor helps."""
    before = trials.before
    known = {identity(f): f.severity for f in before.findings}
    new = [f for f in judged if f.severity != "note" and identity(f) not in known]
    if _graver(before.findings, judged):
        return None
    still = next((f for f in judged if identity(f) == identity(finding)), None)
    before_h, after_h = before.hours, after.analysis.run.hours
    milder = still is None or still.severity != finding.severity
    longer = before_h is not None and (after_h is None or after_h > before_h * LONGER)
    if not milder and not longer:
        return None
    now = lasts(after.analysis.run)
    text = "the hours stay as they are" if now == before.lasts else f"{before.lasts} → {now}"
    if still is not None:
        text = f"helps, but is not enough: {text}"
    more_w = (sum(after.analysis.day.idle.values()) - before.idle_wh) / 24
    if abs(more_w) >= 0.05:
        text += f"; {'adds' if more_w > 0 else 'saves'} {quantity(abs(more_w), 'W', 2)} idle"
    return Effect(before_h, after_h, still is None, tuple(f.title for f in new), text)

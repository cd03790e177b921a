"""Mends a design: remedies and what follows from them, tried through the engine, the fewest kept.

From the present design the change is taken that leaves the fewest stops, then the fewest fixes,
then the most hours, then costs least effort; and again from there. A few of the next best are
followed too. What turns out not to be needed is left out at the end. No load and no link is taken
away.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from typing import Final

from graveljar.core.context import Context
from graveljar.core.errors import GravelJarError
from graveljar.core.fixes import is_built_in
from graveljar.core.model import Design
from graveljar.core.model.patch import NOT_THERE, Edit, apply, as_sent
from graveljar.core.planning.improvements.drafts import drafts_of
from graveljar.core.rules import judge
from graveljar.core.rules.danger import dangers_of, is_danger
from graveljar.core.rules.finding import Finding, Remedy, identity
from graveljar.core.views.verdict import lasts

# Changes in a row that are looked at, ways that are followed, and designs tried in all. Ours.
MAX_STEPS: Final = 14
MAX_WAYS: Final = 2
MAX_TRIALS: Final = 240
# In a design of so many parts; of more, as many fewer, but some. Ours.
MANY_PARTS: Final = 30
MIN_TRIALS: Final = 24
# Changes that one may bring with it to be safe, and steps in a row that help nothing by
# themselves. Ours.
MAX_FOLLOWING: Final = 2
MAX_ASIDE: Final = 3
# Findings that say it does not last, and the kinds of change that let it last longer.
SHORT: Final = ("run.must_stops_early", "run.day_above_usable")
LONGER: Final = ("battery", "off", "dc rail", "regulator", "panel")
# Effort of a change: a switch or a setting, something to build in, something to buy. Ours.
SWITCH, BUILD, BUY = 1.0, 3.0, 6.0


@dataclass(frozen=True)
class MendStep:
    """One change, and the findings that it solves."""

    label: str
    solves: tuple[str, ...]


@dataclass(frozen=True)
class Unmended:
    """A stop or fix that stays, why it is one, and what a person can do about it."""

    title: str
    reason: str
    ways: tuple[str, ...]


@dataclass(frozen=True)
class Mend:
    """Changes that mend a design as far as can be, as one list of edits.

    `before` and `after` say how long it lasts; `tried` is how many designs were worked out.
    """

    steps: tuple[MendStep, ...]
    left: tuple[Unmended, ...]
    before: str
    after: str
    tried: int
    edits: tuple[Edit, ...]


@dataclass(frozen=True)
class _State:
    """A design on the way, how it came about, and what is open in it."""

    context: Context
    findings: tuple[Finding, ...]
    taken: tuple[Remedy, ...] = ()
    solved: tuple[tuple[str, ...], ...] = ()

    @property
    def open(self) -> list[Finding]:
        """Dangers and fixes, the dangers first."""
        found = [x for x in self.findings if is_danger(x) or x.severity == "fix"]
        return sorted(found, key=lambda x: not is_danger(x))

    @property
    def rank(self) -> tuple[float, ...]:
        """What is left of it, the less the better: dangers, fixes, hours (less than 0), effort."""
        grave = sum(is_danger(x) for x in self.findings)
        hours = self.context.analysis.run.hours
        wanted = self.context.network.design.goal.hours
        lasts_h = wanted if hours is None else min(hours, wanted)
        return grave, len(self.open) - grave, -round(lasts_h, 2), sum(map(effort, self.taken))

    @property
    def better_than(self) -> tuple[float, ...]:
        """The same without the effort."""
        return self.rank[:3]


@dataclass
class _Search:
    """Designs tried so far, each once."""

    known: set[tuple[str, str]]
    most: int
    tried: int = 0
    seen: set[str] = field(default_factory=set)

    def after(self, state: _State, remedy: Remedy) -> _State | None:
        """A state with one change more, and what makes it safe; None if it cannot be."""
        for _ in range(MAX_FOLLOWING + 1):
            made = self._tried(state, remedy)
            if made is None:
                return None
            grave = [x for x in made.findings if is_danger(x) and identity(x) not in self.known]
            if not grave:
                return made
            more = next((x for x in grave[0].remedies if x.edits and not _loses(x)), None)
            if more is None:
                return None
            remedy = Remedy(f"{remedy.label} {more.label}", (*remedy.edits, *more.edits))
        return None

    def _tried(self, state: _State, remedy: Remedy) -> _State | None:
        """The same as it is, whatever it brings; None if it is known, or lets a load not run."""
        if self.tried >= self.most:
            return None
        try:
            design = apply(state.context.network.design, remedy.edits)
            key = design.model_dump_json()
            if key in self.seen:
                return None
            self.seen.add(key)
            self.tried += 1
            context = Context(design)
            findings = judge(context)
        except (ValueError, GravelJarError, *NOT_THERE):
            return None
        if _lost(state.context, context):
            return None
        gone = {identity(x) for x in state.findings} - {identity(x) for x in findings}
        solves = tuple(x.title for x in state.open if identity(x) in gone)
        return _State(context, findings, (*state.taken, remedy), (*state.solved, solves))


def mend(design: Design) -> Mend:
    """Find the changes.

    Parameters
    ----------
    design : As it is.

    Returns
    -------
    The changes, and what stays open; no change where nothing is open, or none helps.
    """
    first = Context(design)
    start = _State(first, judge(first))
    parts = len(design.loads) + len(design.stages) + len(design.links)
    most = max(MAX_TRIALS * MANY_PARTS // max(parts, MANY_PARTS), MIN_TRIALS)
    search = _Search(dangers_of(start.findings), most)
    best = _pruned(start, search, _best(start, search))
    edits = tuple(edit for remedy in best.taken for edit in remedy.edits)
    return Mend(
        steps=tuple(
            MendStep(remedy.label, solves)
            for remedy, solves in zip(best.taken, best.solved, strict=True)
        ),
        left=tuple(
            Unmended(x.title, x.reason, tuple(r.label for r in x.remedies if not r.edits))
            for x in best.open
        ),
        before=lasts(first.analysis.run),
        after=lasts(best.context.analysis.run),
        tried=search.tried,
        edits=as_sent(design, edits) if edits else (),
    )


def effort(remedy: Remedy) -> float:
    """How much a change takes: from a switch to something to buy.

    Examples
    --------
    >>> effort(Remedy("Switch it off.", (Edit("replace", "/stages/0/switched", "x"),)))
    1.0
    >>> effort(Remedy("One more.", (Edit("replace", "/stores/0/parallel", 2),)))
    6.0
    """
    return max((_effort(edit) for edit in remedy.edits), default=0.0)


def _effort(edit: Edit) -> float:
    last = edit.path.rsplit("/", 1)[1]
    if last in ("switched", "signal", "profile", "hold_v", "kept_apart", "from_post_m"):
        return SWITCH
    return BUY if last in ("parallel", "series", "continuous_w") else BUILD


def _best(start: _State, search: _Search) -> _State:
    best, ways, aside = start, [start], 0
    for _ in range(MAX_STEPS):
        found = [after for state in ways for after in _changes(state, search)]
        found.sort(key=lambda state: state.rank)
        if not found:
            break
        # Nothing that helps at once: what solves one thing and brings another may, a few times.
        aside = 0 if found[0].better_than < best.better_than else aside + 1
        if aside > MAX_ASIDE:
            break
        if found[0].rank < best.rank:
            best = found[0]
        if not best.open:
            break
        ways = found[:MAX_WAYS]
    return best


def _changes(state: _State, search: _Search) -> Iterator[_State]:
    """Every change that leaves less to mend, lets it last longer, or solves one thing at least."""
    for finding in state.open:
        ways = [x for x in finding.remedies if x.edits and not _loses(x)]
        if finding.code in SHORT:
            ways += _more(state)
        for remedy in sorted(ways, key=effort):
            after = search.after(state, remedy)
            if after is None:
                continue
            if after.better_than < state.better_than or after.solved[-1]:
                yield after


def _more(state: _State) -> list[Remedy]:
    """What lets a design last longer where no rule names a way: what buys the most hours."""
    drafts = drafts_of(state.context, ())
    return [Remedy(f"{x.label}.", x.edits) for x in drafts if x.kind in LONGER]


def _loses(remedy: Remedy) -> bool:
    """Whether it takes away a load or a link, or changes what is built into a station."""
    gone = any(x.op == "remove" and x.path.startswith(("/loads/", "/links/")) for x in remedy.edits)
    return gone or any(map(is_built_in, remedy.edits))


def _pruned(start: _State, search: _Search, best: _State) -> _State:
    """The same without the changes that turn out not to be needed."""
    place = 0
    while place < len(best.taken):
        steps = _steps(start, best)
        shorter = _again(start, search.known, [*steps[:place], *steps[place + 1 :]])
        if shorter is not None and shorter.better_than <= best.better_than:
            best = shorter
        else:
            place += 1
    return best


def _steps(start: _State, best: _State) -> list[tuple[Remedy, list[str]]]:
    """Its changes in order, each with the ids of what it is about."""
    design, steps = start.context.network.design, []
    for remedy in best.taken:
        steps.append((remedy, _about(design, remedy)))
        design = apply(design, remedy.edits)
    return steps


def _about(design: Design, remedy: Remedy) -> list[str]:
    return [str(edit.value) for edit in as_sent(design, remedy.edits) if edit.op == "test"]


def _again(
    start: _State, known: set[tuple[str, str]], steps: Sequence[tuple[Remedy, list[str]]]
) -> _State | None:
    """A state by its changes, one after the other; None where one needs what is left out.

    Things are changed by their places: without one that was put in before, another may be there.
    """
    search, state = _Search(known, MAX_TRIALS), start
    for remedy, about in steps:
        try:
            alike = _about(state.context.network.design, remedy) == about
        except LookupError:
            return None
        after = search.after(state, remedy) if alike else None
        if after is None:
            return None
        state = after
    return state


def _lost(before: Context, after: Context) -> bool:
    """Whether a load that could run cannot any more."""
    able = {load.id for load in after.analysis.lowered.loads}
    there = {load.id for load in after.network.design.loads}
    return any(x.id in there and x.id not in able for x in before.analysis.lowered.loads)

"""From a design to everything that can be said of it."""

import logging
from collections.abc import Iterator
from dataclasses import replace
from typing import Final

from pydantic import ValidationError

from graveljar.core.band import NO_BAND, begin_band
from graveljar.core.cables.rows import cables_of
from graveljar.core.cautions import warn
from graveljar.core.danger import dangers_of, is_danger, offered
from graveljar.core.document import Bank, Design
from graveljar.core.edit import Edit, apply, as_sent
from graveljar.core.errors import GravelJarError
from graveljar.core.evaluation import (
    BankWiring,
    Effect,
    Evaluation,
    Fix,
    Jar,
    Judgement,
    Layer,
    LoadRow,
)
from graveljar.core.facts import Facts, gather
from graveljar.core.figures import keep_all
from graveljar.core.findings import judge
from graveljar.core.findings.finding import Finding, Remedy, identity
from graveljar.core.findings.run import load_hours
from graveljar.core.growing import link_rows
from graveljar.core.hours import hours_of
from graveljar.core.joints import joints_of
from graveljar.core.load import day_wh, one_start_w, one_w, via_adapter
from graveljar.core.needed import Needed
from graveljar.core.reach import reach_of
from graveljar.core.verdict import lasts, verdict_of
from graveljar.core.words import quantity

LOG: Final = logging.getLogger(__name__)
# Changes that one way out may consist of. Ours.
MOST_CHANGES: Final = 3
# Hours that count as longer, as a multiple. Ours.
LONGER: Final = 1.01


def evaluate(design: Design, *, quick: bool = False) -> Evaluation:
    """Work a design out. A design that cannot run evaluates too, with findings.

    A `quick` one leaves out what costs many runs: the band, and what each fix would do.
    """
    facts = gather(design)
    # On threads of their own while the rest is worked out here.
    band = None if quick else begin_band(facts.lowered)
    findings = judge(facts)
    judgements = tuple(_judgement(facts, findings, finding, quick=quick) for finding in findings)
    return Evaluation(
        format="gravel-jar/evaluation",
        version=6,
        verdict=verdict_of(facts),
        run=hours_of(facts),
        jar=_jar(facts),
        loads=tuple(_rows(facts)),
        joints=tuple(joints_of(facts)),
        links=tuple(link_rows(facts)),
        cables=cables_of(facts),
        wirings=tuple(_wiring(bank) for bank in facts.banks),
        needed=_needed(facts, findings, quick=quick),
        findings=judgements,
        cautions=warn(facts),
        figures=keep_all(facts).by_key,
        band=band() if band else NO_BAND,
        quick=quick,
    )


def _needed(facts: Facts, findings: tuple[Finding, ...], *, quick: bool) -> Needed | None:
    """What is needed; of its choices those that bring danger cannot be used.

    A quick evaluation has not tried them: none of them can be used yet.
    """
    needed = facts.needed
    if needed is None:
        return None

    def tried(edits: tuple[Edit, ...]) -> tuple[Edit, ...]:
        if quick or not edits or offered(facts, findings, edits) is None:
            return ()
        return as_sent(facts.design, edits)

    choices = tuple(
        replace(x, edits=tried(x.edits), alike_edits=tried(x.alike_edits)) for x in needed.choices
    )
    return replace(needed, choices=choices)


def _jar(facts: Facts) -> Jar:
    reach = {x.store: x.share for x in reach_of(facts)}
    banks = [(bank, reach[bank.id]) for bank in facts.stores if bank.id in reach]
    return Jar(
        label_wh=sum(facts.rests[bank.id].wh * share for bank, share in banks),
        kept_back_wh=sum(facts.rests[bank.id].wh * bank.keep_back * share for bank, share in banks),
        usable_wh=sum(facts.usable[bank.id].wh * share for bank, share in banks),
        day_wh=facts.day.wh,
        layers=tuple(layer for layer in _layers(facts) if layer.wh > 0),
    )


def _layers(facts: Facts) -> Iterator[Layer]:
    day = facts.day
    yield Layer("loss", "design", "Conversion loss", day.lost_wh)
    for stage in facts.stages:
        yield Layer("idle", stage.id, f"{stage.name}, idle", day.idle_wh(stage.id))
    for store in facts.design.stores:
        yield Layer("idle", store.id, f"{store.name}, itself", day.idle_wh(store.id))
    for load in facts.design.loads:
        part = day.loads.get(load.id)
        if part is not None:
            yield Layer("standby", load.id, f"{load.name}, standby", part.standby_wh)
            missed = missed_share(facts, load.id) or 0.0
            yield Layer("stone", load.id, load.name, part.used_wh, missed)


def missed_share(facts: Facts, load: str) -> float | None:
    """Share of the hours until the run ends in which a load should run and does not. [1]

    None for one that can never run.
    """
    names = [x.id for x in facts.lowered.loads]
    if load not in names:
        return None
    record = facts.run.loads[names.index(load)]
    wanted = float(record["wanted_h"])
    return max(1 - float(record["served_h"]) / wanted, 0.0) if wanted else 0.0


def _rows(facts: Facts) -> Iterator[LoadRow]:
    goal_h = facts.design.goal.hours
    for load in facts.design.loads:
        day = facts.day.loads.get(load.id)
        hours = load_hours(facts, load.id)
        yield LoadRow(
            id=load.id,
            one_w=one_w(load),
            start_w=one_start_w(load, facts.assumed),
            day_wh=day_wh(load),
            at_bank_wh=None if day is None else day.at_bank_wh,
            served_h=hours,
            missed_share=missed_share(facts, load.id),
            meets_goal=hours is None or hours >= goal_h,
            via_adapter=via_adapter(load, facts.rails),
            fit=facts.fit_of_load(load),
        )


def _wiring(bank: Bank) -> BankWiring:
    series, parallel = bank.series, bank.parallel
    if parallel == 1:
        text = "One string: positive off its first battery, negative off its last."
    else:
        text = (
            "Positive off one end, negative off the other, so that the strings share. "
            "Leads between them of equal length, a fuse for each string."
        )
    return BankWiring(bank.id, series, parallel, 0, parallel - 1, text)


def _judgement(
    facts: Facts, findings: tuple[Finding, ...], finding: Finding, *, quick: bool
) -> Judgement:
    return Judgement(
        code=finding.code,
        severity=finding.severity,
        subject=finding.subject,
        title=finding.title,
        reason=finding.reason,
        figures=finding.figures,
        fixes=tuple(_fixes(facts, findings, finding, quick=quick)),
        sources=finding.sources,
    )


def _fixes(
    facts: Facts, findings: tuple[Finding, ...], finding: Finding, *, quick: bool
) -> Iterator[Fix]:
    """Ways out with what they do: those that clear the finding first, none that brings danger."""
    changing = [x for x in finding.remedies if not any(_is_built_in(e) for e in x.edits)]
    if finding.remedies and not changing:
        label = "It is built into the station: use another outlet, or a bigger station."
        yield Fix(label, (), None)
    tried, told = [], []
    for remedy in changing:
        if not remedy.edits or quick:
            told.append(Fix(remedy.label, as_sent(facts.design, remedy.edits), None))
            continue
        taken = _tried(facts, findings, finding, remedy)
        if taken is not None:
            safe, effect = taken
            tried.append(Fix(safe.label, as_sent(facts.design, safe.edits), effect))
    yield from sorted(tried, key=lambda fix: fix.effect is not None and not fix.effect.clears)
    yield from told
    if changing and not tried and not told:
        yield Fix("No single change known here mends it: see Needed and Options.", (), None)


def _tried(
    facts: Facts, findings: tuple[Finding, ...], finding: Finding, remedy: Remedy
) -> tuple[Remedy, Effect] | None:
    """A remedy, with what it takes to be safe, and what it does.

    None where it brings up a danger that no further change mends, helps nothing or cannot be.
    """
    try:
        after = gather(apply(facts.design, remedy.edits))
        judged = judge(after)
        for _ in range(MOST_CHANGES - 1):
            graver = _graver(findings, judged)
            if not graver:
                break
            more = next((x for x in graver[0].remedies if x.edits), None)
            if more is None or any(_is_built_in(e) for e in more.edits):
                return None
            remedy = Remedy(f"{remedy.label} And: {more.label}", (*remedy.edits, *more.edits))
            after = gather(apply(facts.design, remedy.edits))
            judged = judge(after)
        effect = _effect(facts, findings, finding, after, judged)
        return None if effect is None else (remedy, effect)
    except (ValidationError, GravelJarError):
        # Beyond what a document may hold (an inverter of 200 kW), or nothing that can be solved.
        return None
    except Exception:
        LOG.exception("the effect of %r on %s", remedy.label, finding.code)
        return None


def _is_built_in(edit: Edit) -> bool:
    """Whether an edit would change what is built into a station; switching it is another thing."""
    return "/outlets/" in edit.path and not edit.path.endswith("/switched")


def _graver(findings: tuple[Finding, ...], judged: tuple[Finding, ...]) -> list[Finding]:
    """Dangers among what is judged that were none before."""
    known = dangers_of(findings)
    return [f for f in judged if is_danger(f) and identity(f) not in known]


def _effect(
    facts: Facts,
    findings: tuple[Finding, ...],
    finding: Finding,
    after: Facts,
    judged: tuple[Finding, ...],
) -> Effect | None:
    """What the design is like with a remedy taken; None where that is no way out."""
    known = {identity(f): f.severity for f in findings}
    new = [f for f in judged if f.severity != "note" and identity(f) not in known]
    if _graver(findings, judged):
        return None
    still = next((f for f in judged if identity(f) == identity(finding)), None)
    before_h, after_h = facts.run.hours, after.run.hours
    milder = still is None or still.severity != finding.severity
    longer = before_h is not None and (after_h is None or after_h > before_h * LONGER)
    if not milder and not longer:
        return None
    words = [lasts(facts.run), lasts(after.run)]
    same = words[0] == words[1]
    text = "the hours stay as they are" if same else f"{words[0]} → {words[1]}"
    if still is not None:
        text = f"helps, but is not enough: {text}"
    more_w = (sum(after.day.idle.values()) - sum(facts.day.idle.values())) / 24
    if abs(more_w) >= 0.05:
        text += f"; {'adds' if more_w > 0 else 'saves'} {quantity(abs(more_w), 'W', 2)} idle"
    return Effect(before_h, after_h, still is None, tuple(f.title for f in new), text)

"""From a design to everything that can be said of it."""

from collections.abc import Iterator

from graveljar.core.document import Design
from graveljar.core.edit import apply
from graveljar.core.evaluation import (
    BankWiring,
    Effect,
    Evaluation,
    Fix,
    Jar,
    Judgement,
    Layer,
    LoadRow,
    Verdict,
)
from graveljar.core.facts import Facts, gather
from graveljar.core.figures import keep_all
from graveljar.core.findings import judge
from graveljar.core.findings.finding import Finding, Remedy
from graveljar.core.findings.run import load_hours
from graveljar.core.load import day_wh, one_start_w, one_w, via_adapter
from graveljar.core.run import Run
from graveljar.core.window import fit_load, inverter_joint
from graveljar.core.words import duration, quantity

# Findings that stop everything at once, as soon as all of it runs together.
TRIPS = ("inverter.overloaded", "inverter.start_above_surge", "bank.current_above_limit")


def evaluate(design: Design) -> Evaluation:
    """Work a design out. A design that cannot run evaluates too, with findings."""
    facts = gather(design)
    findings = judge(facts)
    figures = keep_all(facts)
    inverter = facts.inverter
    return Evaluation(
        format="gravel-jar/evaluation",
        version=1,
        verdict=_verdict(facts, findings),
        jar=_jar(facts),
        loads=tuple(_rows(facts)),
        joints=(inverter_joint(facts.system.rest, inverter),) if inverter else (),
        wiring=_wiring(facts),
        needed=facts.needed,
        findings=tuple(_judgement(facts, findings, finding) for finding in findings),
        figures=figures.by_key,
    )


def _verdict(facts: Facts, findings: tuple[Finding, ...]) -> Verdict:
    run, goal_h = facts.run, facts.design.goal.hours
    return Verdict(
        hours=run.hours,
        lasts=_lasts(run),
        cause=run.cause,
        then=_then(facts),
        trips=tuple(finding.title for finding in findings if finding.code in TRIPS),
        goal_hours=goal_h,
        meets_goal=run.hours is None or run.hours >= goal_h,
    )


def _lasts(run: Run) -> str:
    if run.hours is None:
        return "without end"
    return duration(run.hours) if run.hours else "not at all"


def _then(facts: Facts) -> str:
    run, bank = facts.run, facts.bank
    if run.sags_at_once and not run.hours:
        return "The inverter cuts out under this load even when the bank is full."
    match run.cause:
        case "nothing drains it":
            return "Nothing draws from the bank yet. Add what has to run."
        case "nothing can run":
            return "None of the loads can run on its rail."
        case "inverter cut-out":
            charge = quantity(run.cut_out_charge or 0.0, "share", 2)
            return f"The inverter cuts out under load with {charge} still in the bank."
        case _:
            kept = quantity(bank.keep_back, "share", 2)
            return (
                f"The bank meets its keep-back of {kept}." if bank.keep_back else "Bank is empty."
            )


def _jar(facts: Facts) -> Jar:
    run, day, rest = facts.run, facts.run.day, facts.system.rest
    return Jar(
        label_wh=rest.wh,
        kept_back_wh=rest.wh * facts.bank.keep_back,
        usable_wh=run.usable.wh,
        day_wh=day.wh,
        layers=tuple(layer for layer in _layers(facts) if layer.wh > 0),
    )


def _layers(facts: Facts) -> Iterator[Layer]:
    day, inverter = facts.run.day, facts.inverter
    yield Layer("loss", "design", "Conversion loss", day.conversion_wh + day.adapter_wh)
    if inverter is not None:
        yield Layer("idle", inverter.id, f"{inverter.name}, idle", day.idle_wh)
    for load in facts.design.loads:
        part = day.loads.get(load.id)
        if part is not None:
            yield Layer("standby", load.id, f"{load.name}, standby", part.standby_wh)
            yield Layer("stone", load.id, load.name, part.used_wh)


def _rows(facts: Facts) -> Iterator[LoadRow]:
    ac_rail = facts.inverter.id if facts.inverter else None
    goal_h = facts.design.goal.hours
    for load in facts.design.loads:
        day = facts.run.day.loads.get(load.id)
        hours = load_hours(facts, load.id)
        yield LoadRow(
            id=load.id,
            one_w=one_w(load),
            start_w=one_start_w(load, facts.system.assumed),
            day_wh=day_wh(load),
            at_bank_wh=None if day is None else day.at_bank_wh,
            served_h=hours,
            meets_goal=hours is None or hours >= goal_h,
            via_adapter=via_adapter(load, ac_rail),
            fit=fit_load(facts.design, facts.system.rest, load),
        )


def _wiring(facts: Facts) -> BankWiring:
    bank = facts.bank
    series, parallel = bank.series, bank.parallel
    if parallel == 1:
        text = "One string: positive off its first battery, negative off its last."
    else:
        text = (
            "Positive off one end, negative off the other, so that the strings share. "
            "Leads between them of equal length, a fuse for each string."
        )
    return BankWiring(series, parallel, 0, parallel - 1, text)


def _judgement(facts: Facts, findings: tuple[Finding, ...], finding: Finding) -> Judgement:
    return Judgement(
        code=finding.code,
        severity=finding.severity,
        subject=finding.subject,
        title=finding.title,
        reason=finding.reason,
        figures=finding.figures,
        fixes=tuple(
            Fix(remedy.label, remedy.edits, _effect(facts, findings, finding, remedy))
            for remedy in finding.remedies
        ),
        sources=finding.sources,
    )


def _effect(
    facts: Facts, findings: tuple[Finding, ...], finding: Finding, remedy: Remedy
) -> Effect | None:
    """Run the design anew with the remedy taken."""
    if not remedy.edits:
        return None
    after = gather(apply(facts.design, remedy.edits))
    judged = judge(after)
    known = {(f.code, f.subject) for f in findings}
    clears = (finding.code, finding.subject) not in {(f.code, f.subject) for f in judged}
    brings = tuple(
        f.title for f in judged if f.severity != "note" and (f.code, f.subject) not in known
    )
    before_h, after_h = facts.run.hours, after.run.hours
    if before_h == after_h:
        text = "the hours stay as they are"
    else:
        words = ["without end" if h is None else duration(h) for h in (before_h, after_h)]
        text = f"{words[0]} → {words[1]}"
    return Effect(before_h, after_h, clears, brings, text)

"""Cautions that apply to what is planned. They are notes: nothing in the design is wrong."""

from collections.abc import Iterator
from typing import Final

from graveljar.core.bank import chemistry_of
from graveljar.core.facts import Facts
from graveljar.core.findings.finding import Finding, Rule


def _note(code: str, subject: str, title: str, reason: str) -> Finding:
    return Finding(f"caution.{code}", "note", subject, title, reason, (), (), ("trade",))


def short_circuit(facts: Facts) -> Iterator[Finding]:
    """`caution.short_circuit`: every bank can weld a spanner."""
    yield _note(
        "short_circuit",
        facts.bank.id,
        "A bank can weld a spanner",
        "Take off rings and watches, insulate tools, fit the fuse at the battery post before "
        "anything else, measure volts and polarity before plugging in.",
    )


def alike_batteries(facts: Facts) -> Iterator[Finding]:
    """`caution.alike_batteries`: only alike batteries together, joined at the same charge."""
    if any(bank.series * bank.parallel > 1 for bank in facts.banks):
        yield _note(
            "alike_batteries",
            facts.bank.id,
            "Only alike batteries together",
            "Same chemistry, volts, capacity and age, and at the same charge when first "
            "joined: packs at different charge push a large current through each other. "
            "Mind the maker's limit on series and parallel.",
        )


def first_charge(facts: Facts) -> Iterator[Finding]:
    """`caution.first_charge`: heavy, hot, and never alone on its first charge."""
    lithium = any(chemistry_of(bank.battery).lithium for bank in facts.held)
    kind = "lithium" if lithium else "lead-acid"
    yield _note(
        "first_charge",
        facts.bank.id,
        "Fix it, air it, watch its first charge",
        f"A {kind} bank is heavy: secure it against a crash. Do not shut converters in a hot "
        "cupboard, and stay with it during its first charge.",
    )


def mains(facts: Facts) -> Iterator[Finding]:
    """`caution.mains`: mains voltage behind an inverter, and no feeding of house circuits."""
    if facts.inverters:
        yield _note(
            "mains",
            facts.inverters[0].id,
            "Behind the inverter is mains voltage",
            "It kills like the wall socket does. Earthing, neutral bonding and residual-current "
            "protection follow local code: let a licensed electrician do fixed wiring. Never "
            "feed a house circuit through a plug; use a transfer switch. Codes that may apply: "
            "IEC 60364-7-721, EN 1648, NEC 551, AS/NZS 3001.",
        )


def warm_converters(facts: Facts) -> Iterator[Finding]:
    """`caution.warm_converters`: what changes volts gets warm, most in a closed cupboard."""
    mine = [stage for stage in facts.converters if stage in facts.design.stages]
    if mine:
        yield _note(
            "warm_converters",
            mine[0].id,
            "Converters get warm",
            "Do not shut them in a cupboard. Feel them after an hour at full load: warm is "
            "fine, hot is not. A converter without a remote switch drains a starter battery.",
        )


def station_input(facts: Facts) -> Iterator[Finding]:
    """`caution.station_input`: polarity, warranty, and never alone at first."""
    link = next((x for x in facts.design.links if facts.station(x.to) is not None), None)
    if link is None:
        return
    yield _note(
        "station_input",
        link.id,
        "Before the plug goes into the station",
        "Measure volts and polarity at the plug with a meter, with the source full and no load "
        "on. A source its maker has not approved may void the warranty: ask. Stay with it the "
        "first hours, feel plug, lead and converter after one of them.",
    )


def packs_in_series(facts: Facts) -> Iterator[Finding]:
    """`caution.packs_in_series`: packs in series that feed a station are to be alike in charge."""
    for feeding in facts.feedings.values():
        bank = next((x for x in facts.banks if x.id == feeding.source), None)
        if bank is not None and bank.series > 1:
            yield _note(
                "packs_in_series",
                bank.id,
                f"{bank.series} packs in series: charge them alike",
                "Both full before they are joined: the emptier one runs dry first and is driven "
                "below empty by the others. Check polarity with a meter at the plug; charge "
                "each pack on its own charger.",
            )
            return


CAUTIONS: Final[tuple[Rule, ...]] = (
    mains,
    short_circuit,
    alike_batteries,
    warm_converters,
    first_charge,
    station_input,
    packs_in_series,
)

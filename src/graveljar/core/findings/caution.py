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
    lithium = any(chemistry_of(bank.battery).lithium for bank in facts.banks)
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
    if facts.converters:
        yield _note(
            "warm_converters",
            facts.converters[0].id,
            "Converters get warm",
            "Do not shut them in a cupboard. Feel them after an hour at full load: warm is "
            "fine, hot is not. A converter without a remote switch drains a starter battery.",
        )


CAUTIONS: Final[tuple[Rule, ...]] = (
    mains,
    short_circuit,
    alike_batteries,
    warm_converters,
    first_charge,
)

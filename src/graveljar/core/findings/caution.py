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
    if facts.bank.series * facts.bank.parallel > 1:
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
    kind = "lithium" if chemistry_of(facts.bank.battery).lithium else "lead-acid"
    yield _note(
        "first_charge",
        facts.bank.id,
        "Fix it, air it, watch its first charge",
        f"A {kind} bank is heavy: secure it against a crash. Do not shut converters in a hot "
        "cupboard, and stay with it during its first charge.",
    )


def mains(facts: Facts) -> Iterator[Finding]:
    """`caution.mains`: mains voltage behind an inverter, and no feeding of house circuits."""
    if facts.inverter is not None:
        yield _note(
            "mains",
            facts.inverter.id,
            "Behind the inverter is mains voltage",
            "It kills like the wall socket does. Earthing, neutral bonding and residual-current "
            "protection follow local code: let a licensed electrician do fixed wiring. Never "
            "feed a house circuit through a plug; use a transfer switch. Codes that may apply: "
            "IEC 60364-7-721, EN 1648, NEC 551, AS/NZS 3001.",
        )


CAUTIONS: Final[tuple[Rule, ...]] = (mains, short_circuit, alike_batteries, first_charge)

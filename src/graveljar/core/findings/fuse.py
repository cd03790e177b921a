"""Rules about fuses: amps between load and cable, volts and amps they can break, where they sit."""

from collections.abc import Iterator
from typing import Final

from graveljar.core.cables.plan import Planned, kind_of
from graveljar.core.cables.take import AT_POST_M, fused, resized
from graveljar.core.document import Fuse
from graveljar.core.edit import Edit
from graveljar.core.facts import Facts
from graveljar.core.findings.cable import chosen_of, lead_of
from graveljar.core.findings.finding import Finding, Remedy, Rule
from graveljar.core.fuse import LEAST_FACTOR, runs_hot
from graveljar.core.limits import exceeds
from graveljar.core.words import number, quantity

# The farthest a main fuse sits from its post. ABYC E-11, from memory. [m]
MOST_FROM_POST_M: Final = 0.18


def _fused(facts: Facts) -> Iterator[tuple[Planned, Fuse]]:
    for one in facts.cables.values():
        if one.fuse is not None:
            yield one, one.fuse


def _fitting(one: Planned) -> tuple[Remedy, ...]:
    """The fuse that fits; where none does, a cable that one fits."""
    edits, fuse = fused(one), one.proposal.fuse
    if edits and fuse is not None:
        kind = fuse.kind.name if fuse.kind else "fuse"
        return (Remedy(f"Use a {kind} of {quantity(fuse.amps, 'A')}.", edits),)
    fresh = one.fresh
    edits = resized(one, fresh.proposed, fresh.fuse)
    if not edits or fresh.proposed is None or fresh.fuse is None:
        return (Remedy("No common cable and fuse do: split the load, or raise the volts."),)
    what = f"{fresh.proposed.size.name} with a fuse of {quantity(fresh.fuse.amps, 'A')}"
    leads = fresh.proposed.leads
    return (Remedy(f"Use {f'{leads} leads of ' if leads > 1 else ''}{what}.", edits),)


def above_cable(facts: Facts) -> Iterator[Finding]:
    """`fuse.above_cable`: the cable burns before the fuse that protects it breaks."""
    for one in chosen_of(facts):
        choice = one.chosen
        if choice is None or choice.ampacity_a is None:
            continue
        amps, whose = _protecting(facts, one)
        if amps is None or not exceeds(amps, choice.ampacity_a):
            continue
        key = f"cable.{one.run.subject}"
        yield Finding(
            "fuse.above_cable",
            "stop",
            one.run.subject,
            f"{lead_of(one)} bears {quantity(choice.ampacity_a, 'A')}; {whose} lets "
            f"{quantity(amps, 'A')} through",
            "In an overload the cable is the fuse: it burns first. A fuse protects the cable, and "
            "is rated no higher than it; where a thinner one begins, it needs a fuse of its own.",
            (f"{key}.ampacity_a", f"{key}.least_fuse_a"),
            _fitting(one),
            ("trade-fuse",),
        )


def _protecting(facts: Facts, one: Planned) -> tuple[float | None, str]:
    """Amps let through to one lead of a run, and by what: its own fuse, else the one before."""
    if one.fuse is not None:
        return one.fuse.amps, f"its {quantity(one.fuse.amps, 'A')} fuse"
    here: str | None = one.run.rail if one.run.kind != "post" else None
    while here is not None:
        before = facts.cables.get(here)
        if before is not None and before.fuse is not None:
            amps = before.fuse.amps * before.run.strings * before.leads
            return amps, f"the fuse of {before.run.name}"
        rail = facts.rails[here]
        # What a converter gives, or a port, is limited by it, and a vehicle's by its own fuse.
        if rail.source.kind == "converter" or facts.station(str(rail.parent)) is not None:
            return None, ""
        here = rail.parent
    return None, ""


def below_load(facts: Facts) -> Iterator[Finding]:
    """`fuse.below_load`: it blows in use."""
    for one, fuse in _fused(facts):
        if not exceeds(one.lead_a, fuse.amps):
            continue
        key = f"cable.{one.run.subject}"
        yield Finding(
            "fuse.below_load",
            "fix",
            one.run.subject,
            f"{quantity(one.lead_a, 'A')} can flow to {one.run.name}; its fuse has "
            f"{quantity(fuse.amps, 'A')}",
            f"{_blows(facts, one)} Fuse {quantity(LEAST_FACTOR, 'share')} of the largest current "
            "that flows for long, or more, on a cable that carries as much.",
            (f"{key}.lead_a", f"{key}.least_fuse_a"),
            _fitting(one),
            ("trade-fuse", "nec-240-6", "iso-8820-3"),
        )


def _blows(facts: Facts, one: Planned) -> str:
    """What the run shows of an overloaded fuse, and how well its times are known."""
    known = one.fuse is not None and one.fuse.kind == "blade"
    times = "" if known else " No opening times are known for its kind."
    opened = any(
        event.subject == one.run.subject and event.what in ("fuse opens", "main fuse opens")
        for event in facts.run.events
    )
    if opened:
        return f"It opens in use, as the run shows.{times}"
    return f"With all that is planned it holds; with all that can be plugged in it opens.{times}"


def hot(facts: Facts) -> Iterator[Finding]:
    """`fuse.runs_hot`: it and its holder carry more than 80 % for long."""
    for one, fuse in _fused(facts):
        if exceeds(one.lead_a, fuse.amps) or not runs_hot(one.lead_a, fuse.amps):
            continue
        share = quantity(one.lead_a / fuse.amps, "share", 2)
        key = f"cable.{one.run.subject}"
        yield Finding(
            "fuse.runs_hot",
            "watch",
            one.run.subject,
            f"{quantity(one.lead_a, 'A')} on a {quantity(fuse.amps, 'A')} fuse are {share} of it",
            "Fuse, holder and connector get hot and melt. Keep them at 80 % or less, or split "
            "the load over two fused leads.",
            (f"{key}.lead_a", f"{key}.least_fuse_a"),
            _fitting(one),
            ("trade-fuse",),
        )


def volts_too_low(facts: Facts) -> Iterator[Finding]:
    """`fuse.volts_too_low`: it cannot break the volts of the full store; an arc goes on."""
    for one, fuse in _fused(facts):
        kind = kind_of(fuse)
        bears_v = fuse.volts or (kind.volts if kind else None)
        if bears_v is None or bears_v > one.asked.full_v:
            continue
        yield Finding(
            "fuse.volts_too_low",
            "stop",
            one.run.subject,
            f"The fuse of {one.run.name} breaks up to {quantity(bears_v, 'V')}; "
            f"{quantity(one.asked.full_v, 'V')} are there when full",
            "Above its volts the arc in a fuse does not go out. The DC rating counts, not the AC "
            "one, and the volts at full charge, not the nominal ones.",
            (f"cable.{one.run.subject}.short_a",),
            _fitting(one),
            ("fuse-kinds",),
        )


def breaks_too_little(facts: Facts) -> Iterator[Finding]:
    """`fuse.breaks_too_little`: a short circuit is more than it can interrupt."""
    for one, fuse in _fused(facts):
        kind = kind_of(fuse)
        breaks_a = fuse.breaks_a or (kind.breaks_a if kind else None)
        if breaks_a is None or breaks_a > one.must_break_a:
            continue
        yield Finding(
            "fuse.breaks_too_little",
            "stop",
            one.run.subject,
            f"A short circuit at {one.run.name} is about {quantity(one.must_break_a, 'A', 2)}; "
            f"its fuse interrupts {number(breaks_a)} A",
            "It may burst, or weld shut and go on. The current is the full volts over the "
            "resistance of the store and the cable; lithium in parallel has very little.",
            (f"cable.{one.run.subject}.short_a",),
            _fitting(one),
            ("fuse-kinds", "ohm"),
        )


def no_main(facts: Facts) -> Iterator[Finding]:
    """`fuse.no_main`: the leads of a bank have no fuse of their own at the post."""
    for one in facts.cables.values():
        if one.run.kind != "post" or one.run.joined is None or one.fuse is not None:
            continue
        each = "each string" if one.run.strings > 1 else "the bank"
        yield Finding(
            "fuse.no_main",
            "stop",
            one.run.subject,
            f"{one.run.name} has no main fuse",
            f"Nothing stops a short circuit of the leads, about {quantity(one.must_break_a, 'A')}. "
            f"Fit one at the positive post of {each}, before anything else.",
            (f"cable.{one.run.subject}.short_a", f"cable.{one.run.subject}.least_fuse_a"),
            _fitting(one),
            ("abyc-e-11", "trade-fuse"),
        )


def too_far(facts: Facts) -> Iterator[Finding]:
    """`fuse.too_far`: the lead before the main fuse is protected by nothing."""
    for one, fuse in _fused(facts):
        far_m = fuse.from_post_m
        if one.run.kind != "post" or far_m is None or far_m <= MOST_FROM_POST_M:
            continue
        yield Finding(
            "fuse.too_far",
            "fix",
            one.run.subject,
            f"The main fuse of {one.run.name} sits {quantity(far_m, 'm')} from the post",
            f"Nothing protects the lead up to it. Within {number(MOST_FROM_POST_M * 100)} cm of "
            "the post there is little left to chafe.",
            (f"cable.{one.run.subject}.short_a",),
            (
                Remedy(
                    f"Move it to {number(AT_POST_M * 100)} cm from the post.",
                    (Edit("replace", f"{one.run.path}/fuse/from_post_m", AT_POST_M),),
                ),
            ),
            ("abyc-e-11",),
        )


FUSE_RULES: Final[tuple[Rule, ...]] = (
    no_main,
    above_cable,
    volts_too_low,
    breaks_too_little,
    below_load,
    too_far,
    hot,
)

"""Rules about fuses: amps between load and cable, volts and amps they can break, where they sit."""

from collections.abc import Iterator
from functools import partial
from typing import Final

from graveljar.core.cables.plan import PlannedRun, kind_of
from graveljar.core.cables.take import AT_POST_M
from graveljar.core.components.fuse import MIN_FACTOR, runs_hot
from graveljar.core.context import Context
from graveljar.core.limits import exceeds
from graveljar.core.model import Fuse
from graveljar.core.model.patch import Edit
from graveljar.core.rules.finding import Finding, Remedy, Rule
from graveljar.core.rules.protection import PROTECTION_RULES, fitting_fuse
from graveljar.core.text import beyond, number, quantity

# The farthest a main fuse sits from its post. ABYC E-11, from memory. [m]
MAX_FROM_POST_M: Final = 0.18
# The same for a cable in a conduit or sheath all the way. ABYC E-11, from memory. [m]
MAX_SHEATHED_M: Final = 1.0


def _fused(context: Context) -> Iterator[tuple[PlannedRun, Fuse]]:
    for one in context.cables.values():
        if one.fuse is not None:
            yield one, one.fuse


def below_load(context: Context) -> Iterator[Finding]:
    """`fuse.below_load`: it blows in use."""
    for one, fuse in _fused(context):
        if not exceeds(one.lead_a, fuse.amps):
            continue
        key = f"cable.{one.run.subject}"
        flows, rated = beyond(one.lead_a, fuse.amps, "A")
        yield Finding(
            "fuse.below_load",
            "fix",
            one.run.subject,
            f"{flows} can flow to {one.run.name}; its fuse is rated for {rated}",
            (
                f"{_blows(context, one)} Use a fuse of at least {quantity(MIN_FACTOR, 'share')} "
                "of the largest continuous current, on a cable rated for as much."
            ),
            (f"{key}.lead_a", f"{key}.least_fuse_a"),
            partial(fitting_fuse, one),
            ("trade-fuse", "nec-240-6", "iso-8820-3"),
        )


def _blows(context: Context, one: PlannedRun) -> str:
    """What the run shows of an overloaded fuse, and how well its times are known."""
    known = one.fuse is not None and one.fuse.kind == "blade"
    times = "" if known else " The opening times of its kind are not known."
    opened = any(
        event.subject == one.run.subject and event.what in ("fuse opens", "main fuse opens")
        for event in context.analysis.run.events
    )
    if opened:
        return f"The run shows that it opens in use.{times}"
    return (
        "It holds with everything that is planned; it opens with everything that can be "
        f"plugged in.{times}"
    )


def hot(context: Context) -> Iterator[Finding]:
    """`fuse.runs_hot`: it and its holder carry more than 80 % continuously."""
    for one, fuse in _fused(context):
        if exceeds(one.lead_a, fuse.amps) or not runs_hot(one.lead_a, fuse.amps):
            continue
        share = quantity(one.lead_a / fuse.amps, "share", 2)
        key = f"cable.{one.run.subject}"
        yield Finding(
            "fuse.runs_hot",
            "watch",
            one.run.subject,
            (
                f"{quantity(one.lead_a, 'A')} through a {quantity(fuse.amps, 'A')} fuse is "
                f"{share} of its rating"
            ),
            "Fuse, holder and connector get hot and melt. Keep them at 80 % or less, or split "
            "the load over two fused cables.",
            (f"{key}.lead_a", f"{key}.least_fuse_a"),
            partial(fitting_fuse, one),
            ("trade-fuse",),
        )


def volts_too_low(context: Context) -> Iterator[Finding]:
    """`fuse.volts_too_low`: it cannot break the volts of the full store; an arc goes on."""
    for one, fuse in _fused(context):
        bears_v = fuse.volts or kind_of(fuse).volts
        if bears_v > one.asked.full_v:
            continue
        yield Finding(
            "fuse.volts_too_low",
            "stop",
            one.run.subject,
            (
                f"The fuse of {one.run.name} is rated for {quantity(bears_v, 'V')}; a full "
                f"battery gives {quantity(one.asked.full_v, 'V')}"
            ),
            (
                "Above its rated voltage the arc inside the fuse does not go out. The DC rating "
                "counts, not the AC one, and the full-charge voltage, not the nominal one."
            ),
            (f"cable.{one.run.subject}.short_a",),
            partial(fitting_fuse, one),
            ("fuse-kinds",),
        )


def breaks_too_little(context: Context) -> Iterator[Finding]:
    """`fuse.breaks_too_little`: a short circuit is more than it can interrupt."""
    for one, fuse in _fused(context):
        kind = kind_of(fuse)
        breaks_a = fuse.breaks_a or kind.breaks_a(one.asked.full_v)
        if breaks_a > one.must_break_a or kind.volts <= one.asked.full_v:
            continue
        flows, breaks = beyond(one.must_break_a, breaks_a, "A", 2)
        yield Finding(
            "fuse.breaks_too_little",
            "stop",
            one.run.subject,
            (
                f"A short circuit at {one.run.name} is about {flows}; its fuse ({kind.name}) can "
                f"interrupt {breaks}"
            ),
            (
                "It may burst, or weld shut so that the current goes on. The current is the "
                "rested voltage over the resistance of the store and the cable; lithium "
                "batteries in parallel have very little."
            ),
            (f"cable.{one.run.subject}.short_a",),
            partial(fitting_fuse, one),
            ("fuse-kinds", "ohm"),
        )


def weak_main(context: Context) -> Iterator[Finding]:
    """`fuse.weak_main`: the main fuse of a lithium bank is a class T, or states 10 kA."""
    for one, fuse in _fused(context):
        kind, must_a = kind_of(fuse), one.asked.least_breaks_a
        breaks_a = fuse.breaks_a or kind.breaks_a(one.asked.full_v)
        if not must_a > breaks_a > one.must_break_a:
            continue
        yield Finding(
            "fuse.weak_main",
            "fix",
            one.run.subject,
            (
                f"The main fuse of {one.run.name} ({kind.name}) can interrupt {number(breaks_a)} "
                f"A; a lithium bank needs {number(must_a)} A"
            ),
            (
                "The resistance of lithium batteries is so low and so uncertain that the main "
                f"fuse must be able to interrupt {number(must_a)} A or more: class T, or one "
                "whose datasheet says so."
            ),
            (f"cable.{one.run.subject}.short_a",),
            partial(fitting_fuse, one),
            ("abyc-e-13", "fuse-kinds"),
        )


def no_main(context: Context) -> Iterator[Finding]:
    """`fuse.no_main`: the cables of a bank have no fuse of their own at the post."""
    for one in context.cables.values():
        if one.run.kind != "post" or one.run.joined is None or one.fuse is not None:
            continue
        each = "each parallel battery" if one.run.strings > 1 else "the bank"
        yield Finding(
            "fuse.no_main",
            "stop",
            one.run.subject,
            f"{one.run.name} has no main fuse",
            (
                "Nothing stops a short circuit of its cables, about "
                f"{quantity(one.must_break_a, 'A')}. Fit a fuse at the positive post of {each} "
                "before anything else."
            ),
            (f"cable.{one.run.subject}.short_a", f"cable.{one.run.subject}.least_fuse_a"),
            partial(fitting_fuse, one),
            ("abyc-e-11", "trade-fuse"),
        )


def too_far(context: Context) -> Iterator[Finding]:
    """`fuse.too_far`: the cable before the main fuse is protected by nothing."""
    for one, fuse in _fused(context):
        far_m = fuse.from_post_m
        if one.run.kind != "post" or far_m is None or far_m <= MAX_FROM_POST_M:
            continue
        sheathed = one.cable.installed != "bundled" and far_m <= MAX_SHEATHED_M
        yield Finding(
            "fuse.too_far",
            "watch" if sheathed and one.length_given and not one.conditions.apart else "fix",
            one.run.subject,
            f"The main fuse of {one.run.name} is {quantity(far_m, 'm')} from the post",
            (
                "Nothing protects the cable up to it. Place it within "
                f"{number(MAX_FROM_POST_M * 100)} cm of the post; a cable in a conduit or sheath "
                f"of its own may be {number(MAX_SHEATHED_M)} m."
            ),
            (f"cable.{one.run.subject}.short_a",),
            (
                Remedy(
                    f"Move it to {number(AT_POST_M * 100)} cm from the post.",
                    (Edit("replace", f"{one.run.path}/fuse/from_post_m", AT_POST_M),),
                ),
            ),
            ("abyc-e-11",),
        )


def breaker(context: Context) -> Iterator[Finding]:
    """`fuse.breaker_unsaid`, `.breaker_both_ways`: what a breaker says of direct current.

    Its volts are for so many poles in series, and many break one way only.
    """
    for one, fuse in _fused(context):
        if fuse.kind != "breaker":
            continue
        if fuse.volts is None or fuse.breaks_a is None:
            yield Finding(
                "fuse.breaker_unsaid",
                "watch",
                one.run.subject,
                f"The breaker of {one.run.name} states no interrupting rating",
                (
                    "Mains breakers do not put out a direct-current arc. Enter the DC volts and "
                    "amps that it can interrupt; volts printed for two poles count only with both "
                    "poles in series."
                ),
                (f"cable.{one.run.subject}.short_a",),
                (Remedy("Enter both from its label or datasheet."),),
                ("trade-fuse",),
            )
        charged = any(link.to == one.run.subject for link in context.network.design.links)
        if charged or one.end is not None:
            yield Finding(
                "fuse.breaker_both_ways",
                "watch",
                one.run.subject,
                f"Current flows both ways through the breaker of {one.run.name}",
                (
                    "Many DC breakers are polarised: they have a plus and a minus, and put out an "
                    "arc in one direction only. Where a battery is both charged and used through "
                    "one, a polarised breaker must not be used."
                ),
                (f"cable.{one.run.subject}.short_a",),
                (Remedy("Use a fuse, or a breaker without polarity."),),
                ("trade-fuse",),
            )


FUSE_RULES: Final[tuple[Rule, ...]] = (
    no_main,
    *PROTECTION_RULES,
    volts_too_low,
    breaks_too_little,
    weak_main,
    below_load,
    too_far,
    breaker,
    hot,
)

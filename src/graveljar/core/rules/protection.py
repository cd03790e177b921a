"""Rules about what protects a cable: a fuse where it begins, and at each battery it ends at."""

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import partial
from typing import Final

from graveljar.core.cables.plan import PlannedRun, kind_of
from graveljar.core.cables.take import end_fused, fused, resized
from graveljar.core.context import Context
from graveljar.core.limits import exceeds
from graveljar.core.model import Link
from graveljar.core.rules.cable import chosen_of, lead_of, sized
from graveljar.core.rules.finding import Finding, Remedy, Rule
from graveljar.core.text import beyond, quantity


def fitting_fuse(one: PlannedRun) -> tuple[Remedy, ...]:
    """The fuse that fits; where none does, a cable that one fits."""
    edits, fuse = fused(one), one.proposal.fuse
    if edits and fuse is not None:
        kind = fuse.kind.name if fuse.kind else "fuse"
        return (Remedy(f"Use a {kind} of {quantity(fuse.amps, 'A')}.", edits),)
    fresh = one.fresh
    edits = resized(one, fresh.proposed, fresh.fuse)
    if not edits or fresh.proposed is None or fresh.fuse is None:
        return (
            Remedy(
                "No common cable and fuse are enough: split the load, or use a higher system "
                "voltage."
            ),
        )
    return (Remedy(f"Use {sized(fresh.proposed, fresh.fuse)}.", edits),)


def none_before(context: Context) -> Iterator[Finding]:
    """`fuse.none_before`: no fuse stands between a battery and a cable."""
    for one in chosen_of(context):
        if one.run.kind == "post" or _protecting(context, one) is not None:
            continue
        source = context.network.names[context.network.rails[one.run.rail].store]
        yield Finding(
            "fuse.none_before",
            "stop",
            one.run.subject,
            f"{lead_of(one)} has no fuse between it and {source}",
            (
                f"In a short circuit about {quantity(one.must_break_a, 'A', 2)} flows through "
                "it, and nothing stops it: the cable glows and sets fire to what is around it. "
                "Fit a fuse where it begins."
            ),
            (f"cable.{one.run.subject}.short_a", f"cable.{one.run.subject}.least_fuse_a"),
            partial(fitting_fuse, one),
            ("trade-fuse", "abyc-e-11"),
        )


def above_cable(context: Context) -> Iterator[Finding]:
    """`fuse.above_cable`: the cable burns before the fuse that protects it breaks."""
    for one in chosen_of(context):
        choice, protects = one.chosen, _protecting(context, one)
        if choice is None or choice.most_fuse_a is None or protects is None:
            continue
        most_a, key = choice.most_fuse_a, f"cable.{one.run.subject}"
        if not exceeds(protects.amps, most_a):
            continue
        passes, allowed = beyond(protects.amps, most_a, "A")
        allows = "is rated for" if most_a == choice.ampacity_a else "allows a fuse of"
        yield Finding(
            "fuse.above_cable",
            "stop",
            one.run.subject,
            f"{lead_of(one)} {allows} {allowed}; {protects.name} passes {passes}",
            (
                "In an overload the cable burns before the fuse opens. A fuse protects the "
                "cable and must not be rated higher than it; where a thinner cable begins, it "
                "needs a fuse of its own."
            ),
            (f"{key}.ampacity_a", f"{key}.least_fuse_a"),
            partial(fitting_fuse, one),
            ("trade-fuse",),
        )


@dataclass(frozen=True)
class _Protection:
    """What limits the current of one cable of a run, and to how much; infinite for electronics."""

    amps: float
    name: str


def _protecting(context: Context, one: PlannedRun) -> _Protection | None:
    """What protects a run: its own fuse, else the one before; None where nothing does."""
    network = context.network
    if one.fuse is not None:
        return _Protection(one.fuse.amps, f"its {quantity(one.fuse.amps, 'A')} fuse")
    if one.run.limited:
        return _Protection(math.inf, "electronics")
    here: str | None = one.run.rail if one.run.kind != "post" else None
    while here is not None:
        before = context.cables.get(here)
        if before is not None and before.fuse is not None:
            amps = before.fuse.amps * before.run.strings * before.leads
            return _Protection(amps, f"the fuse of {before.run.name}")
        if network.limits_itself(here):
            return _Protection(math.inf, "electronics")
        here = network.rails[here].parent
    return None


def battery_end(context: Context) -> Iterator[Finding]:
    """`fuse.battery_end`: a battery at the end of a cable can push its short circuit into it.

    A cable that ends at a battery is fused at the battery; between two sources, at both ends.
    """
    network = context.network
    for one in chosen_of(context):
        bears_a = one.chosen.ampacity_a if one.chosen else None
        if one.end is None or not isinstance(one.run.joined, Link) or bears_a is None:
            continue
        bank, end, main = one.run.joined.to, one.end_fuse, context.cables.get(one.run.joined.to)
        through, what = one.end.short.amps, "nothing stops"
        if end is not None:
            through, what = end.amps, "the fuse there passes"
        elif main is not None and main.fuse is not None:
            through, what = main.fuse.amps * main.run.strings, "its main fuse passes"
        breaks_a = math.inf if end is None else (
            end.breaks_a or kind_of(end).breaks_a(one.end.full_v)
        )  # fmt: skip
        if breaks_a <= one.end.short.amps:
            flows, breaks = beyond(one.end.short.amps, breaks_a, "A", 2)
            title = (
                f"A short circuit from {network.names[bank]} is about {flows}; the fuse there "
                f"can interrupt {breaks}"
            )
        elif exceeds(through, bears_a):
            passes, allowed = beyond(through, bears_a, "A")
            title = (
                f"{lead_of(one)} is rated for {allowed}; from {network.names[bank]} {what} {passes}"
            )
        else:
            continue
        yield Finding(
            "fuse.battery_end",
            "stop",
            one.run.subject,
            title,
            (
                "A cable that ends at a battery is fed from that end too. The fuse at the other "
                "end does not carry the current that the battery drives into a short circuit, "
                "and a fuse that cannot interrupt it bursts. Fit a fuse at the battery's end; "
                "between two sources, at both ends."
            ),
            (f"cable.{one.run.subject}.ampacity_a", f"cable.{one.run.subject}.least_fuse_a"),
            (_at_battery(one),),
            ("abyc-e-11", "trade-fuse"),
        )


def _at_battery(one: PlannedRun) -> Remedy:
    """A fuse at the battery's end; where none fits the cable, a cable that one fits."""
    edits, fuse, fresh = end_fused(one), one.end_proposal, one.fresh
    if edits and fuse is not None and fuse.kind is not None:
        words = f"Use a {fuse.kind.name} of {quantity(fuse.amps, 'A')} at the battery's end."
        return Remedy(words, edits)
    edits = resized(one, fresh.proposed, fresh.fuse)
    if edits and fresh.proposed is not None and fresh.fuse is not None:
        return Remedy(f"Use {sized(fresh.proposed, fresh.fuse)} at both ends.", edits)
    return Remedy("No common cable and fuse are enough: remove the link.")


PROTECTION_RULES: Final[tuple[Rule, ...]] = (none_before, battery_end, above_cable)

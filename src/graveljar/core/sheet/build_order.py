"""The build order of a design: what to join when, what to measure then, and what it must read.

Common practice: nothing is energised before its fuse is known, and each step is measured before the
next one.
"""

import math
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Final

from graveljar.core.cables.plan import PlannedRun, kind_of
from graveljar.core.components.load import one_w
from graveljar.core.components.stage_loss import is_large, precharge_s
from graveljar.core.context import Context
from graveljar.core.model import Bank, Feed, Link, Sun, Vehicle
from graveljar.core.readings.checklist import Check, checklist
from graveljar.core.rules import judge
from graveljar.core.text import listed, number, quantity

# Parallel packs stand this near to one another before they are joined. Common practice. [V]
NEAR_V: Final = 0.1
# A branch with less between plus and minus, nothing on, is short-circuited. Common practice. [Ohm]
SHORT_OHM: Final = 10.0


@dataclass(frozen=True)
class Measure:
    """What to measure after a step, and what the meter must read; `kind` of a reading, or ""."""

    kind: str
    subject: str
    name: str
    expected: str


@dataclass(frozen=True)
class BuildStep:
    """One step: what to do, what to measure, and what to beware of.

    `energises` is the run that carries volts from this step on, `fuse` what protects it.
    """

    title: str
    do: tuple[str, ...]
    measure: tuple[Measure, ...] = ()
    beware: str = ""
    energises: str = ""
    fuse: str = ""


@dataclass
class _Order:
    """Makes the steps of one design."""

    context: Context
    checks: dict[tuple[str, str], Check] = field(default_factory=dict)
    # Dangers of the design by what they concern: that is not joined before they are cured.
    dangers: dict[str, str] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self.checks = {(x.kind, x.subject): x for x in checklist(self.context)}
        self.dangers = {x.subject: x.title for x in judge(self.context) if x.severity == "stop"}

    def danger(self, subject: str, rail: str) -> str:
        """Why something must not be joined: its own danger, or that of what is before it; ""."""
        network = self.context.network
        here: str | None = rail
        found = self.dangers.get(subject, "")
        while here is not None and not found:
            found = self.dangers.get(here, "")
            here = network.rails[here].parent if here in network.rails else None
        return found

    def left_off(self, name: str, why: str) -> BuildStep:
        """The step of something that must not be joined."""
        return BuildStep(
            f"{name}: do not connect it",
            (f"{why}.", "Cure it in the plan, and print this sheet anew."),
            beware="It would destroy something or hurt somebody.",
        )

    def measured(self, *wanted: tuple[str, str]) -> tuple[Measure, ...]:
        """The entries of the bench book for kinds and subjects, those that there are."""
        found = (self.checks.get(key) for key in wanted)
        return tuple(Measure(x.kind, x.subject, x.name, x.expected) for x in found if x)


def build_order(context: Context) -> tuple[BuildStep, ...]:
    """The steps of a design, in order.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lamp
    >>> [step.title for step in build_order(Context(lamp()))][:2]
    ['Before the first tool', 'Place and check the batteries']
    """
    order = _Order(context)
    return (
        *_before(order),
        *_main(order),
        *_branches(order),
        *_stations(order),
        *_charging(order),
        *_after(order),
    )


def _before(order: _Order) -> Iterator[BuildStep]:
    context = order.context
    network = context.network
    yield BuildStep(
        "Before the first tool",
        (
            "Rings and watches off; insulated tools; eye protection; no flame; air the place.",
            "Read the cautions of this plan. Mains wiring is for a licensed electrician.",
        ),
        beware=_beware(order),
    )
    if network.banks:
        do = ["Fix them against a crash, with air around them. Nothing is connected yet."]
        if any(bank.parallel > 1 or bank.series > 1 for bank in network.banks):
            do.append(
                "Charge each full on its own, let it rest, and measure each: they stand within "
                f"{number(NEAR_V)} V of one another before they are joined."
            )
        yield BuildStep(
            "Place and check the batteries",
            tuple(do),
            order.measured(*(("rested", bank.id) for bank in network.banks)),
            "Cover the posts: a spanner across two posts welds itself there.",
        )
    runs = list(context.cables.values())
    if not runs:
        return
    do = [
        "Lay every cable by the cut list, crimp its lugs, fix it so that it cannot chafe.",
        "Leave every fuse out of its holder, every switch and inverter off.",
        "Tighten each screw with the torque on its label.",
    ]
    yield BuildStep("Lay the cables, fuses out", tuple(do))
    yield BuildStep(
        "Measure each branch before it gets volts",
        (
            "Ohms between plus and minus of each branch, everything on it switched off: "
            f"{quantity(SHORT_OHM, 'Ω')} or more. Near 0 Ω two conductors touch: find them first.",
            "Ohms between each plus and the chassis: no connection.",
        ),
        tuple(
            Measure("", x.run.subject, f"{x.run.name}, between plus and minus",
                    f"{quantity(SHORT_OHM, 'Ω')} or more")
            for x in runs
            if x.run.kind != "post"
        ),
    )  # fmt: skip


def _beware(order: _Order) -> str:
    """How many dangers are left in the plan; "" if none is."""
    count = len(order.dangers)
    if not count:
        return ""
    there = "one danger is" if count == 1 else f"{count} dangers are"
    return f"In this plan {there} left: what it concerns is not connected below."


def _fuse_words(one: PlannedRun) -> str:
    """The fuse where a run begins, chosen or else proposed; "" without one."""
    given = one.fuse
    if given is not None:
        return f"{kind_of(given).name} {quantity(given.amps, 'A')}"
    fuse = one.proposal.fuse
    if fuse is None or fuse.kind is None:
        return ""
    return f"{fuse.kind.name} {quantity(fuse.amps, 'A')}"


def _main(order: _Order) -> Iterator[BuildStep]:
    """The main fuse of each bank: the minus last where the chassis is grounded."""
    network = order.context.network
    by_engine = any(isinstance(store, Vehicle) for store in network.design.stores)
    for one in order.context.cables.values():
        if one.run.kind != "post":
            continue
        bank, fuse = one.run.subject, _fuse_words(one)
        why = order.dangers.get(bank, "")
        if why:
            yield order.left_off(one.run.name, why)
            continue
        minus = "Connect plus first, minus last; take minus off first whenever you work on it."
        if by_engine:
            minus += " With a grounded chassis a spanner on plus then sparks no more."
        if not fuse:
            yield BuildStep(
                f"{one.run.name}: stop here",
                ("No common fuse protects its cables: change the plan before you connect it.",),
            )
            continue
        yield BuildStep(
            f"Connect {one.run.name}, its main fuse still out",
            (minus, "Posts and lugs tight: the torque on the battery's label."),
            (),
            "The cable up to the main fuse is protected by nothing: keep it short and covered.",
        )
        yield BuildStep(
            f"Main fuse of {one.run.name} in: {fuse}",
            ("All other fuses still out, inverters off. Then the main switch on.",),
            (Measure("", bank, f"{one.run.name}, at its bus bar", _volts(order, bank)),),
            energises=bank,
            fuse=fuse,
        )  # fmt: skip


def _volts(order: _Order, rail: str) -> str:
    """What a meter reads at a rail: from a full bank at rest, and in use."""
    network = order.context.network
    here = network.rails[rail]
    low, high = number(here.low_v), quantity(here.high_v, "V")
    span = high if low == number(here.high_v) else f"{low} to {high}"
    bank = network.banks_by_id.get(here.store)
    straight = bank is not None and isinstance(here.source, Bank | Feed)
    if bank is not None and straight:
        rested = quantity(network.bank_labels[bank.id].rested_v, "V")
        return f"about {rested} full and at rest ({span} in use), plus on the red lead"
    return f"{span}, plus on the red lead"


def _pre_charge(order: _Order, subject: str, *, own: bool) -> Iterator[BuildStep]:
    """The capacitors of a large inverter are charged through a resistor first."""
    network = order.context.network
    inverter = next((x for x in network.inverters if x.id == subject), None)
    if inverter is None or not is_large(inverter):
        return
    ohm = network.assumed["precharge_ohm"]
    full_v = network.rails[inverter.rail].high_v
    across = "its fuse holder, its fuse still out," if own else "the open main switch"
    yield BuildStep(
        f"Pre-charge {inverter.name}",
        (
            f"Inverter off, its cables on. Hold a resistor of {number(ohm)} Ω, 25 to 50 W, across "
            f"{across} for {math.ceil(precharge_s(network.assumed))} s: about "
            f"{quantity(full_v / ohm, 'A', 2)} at first. Then close it at once.",
            "Its label's capacitance goes before the one assumed here: seconds = 5 × Ω × F.",
        ),
        (),
        "Without it the contacts spark and pit, and the fuse may blow.",
    )


def _branches(order: _Order) -> Iterator[BuildStep]:
    """One branch after another, those nearer to the battery first."""
    context = order.context
    for one in context.cables.values():
        if one.run.kind == "post" or one.run.limited or isinstance(one.run.joined, Link):
            continue
        protects = _fuse_words(one) or _before_it(order, one)
        name, rail = one.run.name, one.run.rail
        why = order.danger(one.run.subject, rail)
        if why:
            yield order.left_off(name, why)
            continue
        if not protects:
            yield BuildStep(
                f"{name}: leave it off",
                ("No fuse protects its cable. Give it one in the plan before it is connected.",),
            )
            continue
        own = bool(_fuse_words(one))
        yield from _pre_charge(order, one.run.subject, own=own)
        do = [
            f"Fuse in: {_fuse_words(one)}." if own else f"It is protected by {protects}.",
            "Volts and polarity at its end before it is plugged in; then connect it.",
        ]
        measures = [Measure("", one.run.subject, f"{name}, at its end", _volts(order, rail))]
        measures += order.measured(("volts", one.run.subject), ("idle", one.run.subject))
        if one.run.kind == "load":
            measures.append(_amps(order, one.run.subject))
        yield BuildStep(
            f"Connect {name}", tuple(do), tuple(measures),
            energises=one.run.subject, fuse=protects,
        )  # fmt: skip
    mains = [
        x for x in context.network.inverters
        if x in context.network.design.stages and not order.danger(x.id, x.rail)
    ]  # fmt: skip
    if mains:
        yield BuildStep(
            "Let an electrician check the mains side",
            (
                f"{listed([x.name for x in mains])}: sockets, earthing, neutral bonding, "
                "residual-current protection. Nothing is plugged in before.",
            ),
            order.measured(*(("volts", x.id) for x in mains)),
            "Behind the inverter is mains voltage.",
        )
        loads = [
            x for x in context.network.design.loads
            if x.rail in {inverter.id for inverter in mains} and x.id not in order.dangers
        ]  # fmt: skip
        if loads:
            yield BuildStep(
                "Plug in what runs from the inverter, one by one",
                ("The one with the hardest start last.",),
                tuple(
                    Measure("power", x.id, x.name, quantity(one_w(x), "W")) for x in loads
                ),
            )  # fmt: skip


def _amps(order: _Order, subject: str) -> Measure:
    """Amps of a load on its rail while it runs."""
    network = order.context.network
    load = next(x for x in network.design.loads if x.id == subject)
    rail = network.rails[str(load.rail)]
    amps = one_w(load) / rail.nominal_v
    expected = f"{quantity(amps, 'A')}, {quantity(one_w(load), 'W')}"
    return Measure("power", load.id, f"{load.name}, running", expected)


def _before_it(order: _Order, one: PlannedRun) -> str:
    """What protects a run without a fuse of its own: the one before it, or electronics; ""."""
    network = order.context.network
    here: str | None = one.run.rail
    while here is not None:
        before = order.context.cables.get(here)
        if before is not None and _fuse_words(before):
            rated = one.choice.most_fuse_a if one.choice else None
            fuse = before.fuse or before.proposal.fuse
            if rated is None or fuse is None or fuse.amps * before.run.strings > rated:
                return ""
            return f"the fuse of {before.run.name}"
        if network.limits_itself(here):
            return f"the limit of {network.names[here]}"
        here = network.rails[here].parent
    return ""


def _stations(order: _Order) -> Iterator[BuildStep]:
    """Links into stations: the plug is measured before it goes in."""
    context = order.context
    for link in context.network.design.links:
        station = context.network.station(link.to)
        if station is None:
            continue
        why = order.danger(link.id, link.rail)
        if why:
            yield order.left_off(link.name, why)
            continue
        planned = context.cables.get(link.id)
        fuse = _fuse_words(planned) if planned else ""
        do = ["Volts and polarity at the plug, from full, before it goes in."]
        if fuse:
            do.insert(0, f"Fuse in: {fuse}.")
        do.append(f"Plug it into {station.name}; read the watts after half a minute.")
        yield BuildStep(
            f"{link.name} into {station.name}",
            tuple(do),
            order.measured(("volts", link.rail), ("polarity", link.id), ("input", link.id)),
            "Too many volts, or plus and minus reversed, destroy an input at once.",
            energises=link.id if planned else "",
            fuse=fuse or (_before_it(order, planned) if planned else ""),
        )


def _charging(order: _Order) -> Iterator[BuildStep]:
    """Chargers: the battery before the source, panels last."""
    context = order.context
    banks = context.network.banks_by_id
    links = [x for x in context.network.design.links if x.to in banks]
    suns = {x.id for x in context.network.design.stores if isinstance(x, Sun)}
    for link in sorted(links, key=lambda x: x.rail in suns):
        why = order.danger(link.id, link.rail) or order.dangers.get(link.to, "")
        if why:
            yield order.left_off(link.name, why)
            continue
        planned = context.cables.get(link.id)
        fuse = _fuse_words(planned) if planned else ""
        end = planned.end_fuse or planned.end_proposal if planned else None
        do = [f"Set its profile for {banks[link.to].name}; then connect it to the battery first."]
        if end is not None:
            do.append(f"Fuse at the battery's end in: {quantity(end.amps, 'A')}.")
        if link.rail in suns:
            do.append("Cover the panel; connect it last, and take it off first.")
        else:
            do.append("Then its source." + (f" Fuse in: {fuse}." if fuse else ""))
        protects = fuse or (f"{quantity(end.amps, 'A')} at the battery" if end else "")
        yield BuildStep(
            f"Connect {link.name}",
            tuple(do),
            order.measured(("volts", link.rail)),
            "Stay with it on its first charge, to the end.",
            energises=link.id if planned and protects else "",
            fuse=protects,
        )


def _after(order: _Order) -> Iterator[BuildStep]:
    context = order.context
    warm = [x for x in order.checks.values() if x.kind == "heat"]
    if warm:
        yield BuildStep(
            "After an hour at full load: the touch test",
            ("Back of the hand on insulation, or infrared; never bare metal, never mains.",),
            tuple(Measure(x.kind, x.subject, x.name, x.expected) for x in warm),
        )
    last = [
        x for x in order.checks.values()
        if x.kind in ("limit", "changeover", "energy", "capacity", "station")
    ]  # fmt: skip
    if last:
        yield BuildStep(
            "Test what you rely on",
            (
                "Near its limit: loads on one by one, until the next one trips it.",
                "A night as it will be, before you depend on it.",
            ),
            tuple(Measure(x.kind, x.subject, x.name, x.expected) for x in last),
        )
    if context.cables:
        yield BuildStep("After a week", ("Tighten every large terminal again.",))

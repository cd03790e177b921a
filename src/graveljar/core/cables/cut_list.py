"""What is bought and cut: lengths by size and colour, lugs, fuses and holders, with totals."""

from collections import defaultdict
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Final, Literal

from graveljar.core.cables.colours import Colours
from graveljar.core.cables.plan import PlannedRun, connector_of, kind_of, proposed_connector
from graveljar.core.components.cable import other_name
from graveljar.core.model import BankLeads
from graveljar.core.tables.fuses import FuseKind
from graveljar.core.text import number

CutKind = Literal["cable", "lug", "heat-shrink", "fuse", "holder", "connector", "bus bar", "shunt"]
_ORDER: Final[tuple[CutKind, ...]] = (
    "cable",
    "lug",
    "heat-shrink",
    "fuse",
    "holder",
    "connector",
    "bus bar",
    "shunt",
)
# Over the barrel of a lug and onto the insulation; common practice.
SHRINK_MM: Final = 40
# Fuses that are bolted in have a lug on each side of them.
BOLTED: Final = ("link", "open-link", "stud", "class-t")


@dataclass(frozen=True)
class CutItem:
    """One thing to buy or cut. `metres` in all, only of cable [m]; `pieces` as cut [m].

    `proposed`: some of it nobody has chosen yet.
    """

    kind: CutKind
    item: str
    count: int
    metres: float | None
    pieces: tuple[float, ...]
    runs: tuple[str, ...]
    proposed: bool


@dataclass(frozen=True)
class FuseAt:
    """A fuse in each cable of a run [A]; without a kind no common one interrupts enough."""

    kind: FuseKind | None
    amps: float
    proposed: bool


@dataclass(frozen=True)
class _Part:
    kind: CutKind
    item: str
    count: int
    pieces: tuple[float, ...]
    run: str
    proposed: bool
    order: float


def cut_list(planned: Iterable[PlannedRun], colours: Colours) -> tuple[CutItem, ...]:
    """Everything of all runs, chosen or else proposed; alike things together."""
    parts: dict[tuple[int, float, str], list[_Part]] = defaultdict(list)
    for one in planned:
        for part in _parts(one, colours):
            parts[_ORDER.index(part.kind), part.order, part.item].append(part)
    return tuple(_line(parts[key]) for key in sorted(parts))


def _line(parts: list[_Part]) -> CutItem:
    pieces = tuple(sorted((x for part in parts for x in part.pieces), reverse=True))
    return CutItem(
        parts[0].kind,
        parts[0].item,
        sum(part.count for part in parts),
        sum(pieces) if pieces else None,
        pieces,
        tuple(dict.fromkeys(part.run for part in parts)),
        any(part.proposed for part in parts),
    )


def _parts(one: PlannedRun, colours: Colours) -> Iterator[_Part]:
    run, choice = one.run, one.choice
    if choice is None:
        return
    size, proposed = choice.size, one.chosen is None
    name = f"{size.name} ({other_name(size)})"
    lengths = cut_lengths(one) * choice.leads
    for place, colour in enumerate((colours.plus, colours.minus)):
        order = size.mm2 + place / 1000
        yield _Part(
            "cable", f"{name}, {colour}", len(lengths), tuple(lengths), run.name, proposed, order
        )
    key = _fuse_kind(one)
    connector = connector_of(one) or proposed_connector(one)
    bolted = 2 if key in BOLTED else 0
    ends = 4 if connector.amps is None else 2
    lugs = (ends + bolted) * len(lengths)
    yield _Part("lug", f"for {name}", lugs, (), run.name, proposed, size.mm2)
    shrink = f"{SHRINK_MM} mm over a lug for {name}"
    yield _Part("heat-shrink", shrink, lugs, (), run.name, proposed, size.mm2)
    if connector.amps is not None:
        left = run.joined is None or run.joined.connector is None
        yield _Part("connector", connector.name, len(lengths), (), run.name, left, connector.amps)
    yield from _fuses(one, len(lengths))
    yield from _bars(one)


def cut_lengths(one: PlannedRun) -> list[float]:
    """One way of each string's cable of a run, of one of the cables side by side. [m]"""
    joined, first = one.run.joined, one.cable.length_m
    rest = first
    if isinstance(joined, BankLeads) and joined.longest_m is not None:
        rest = joined.longest_m
    return [first, *[rest] * (one.run.strings - 1)]


def _fuse_kind(one: PlannedRun) -> str | None:
    if one.fuse is not None:
        return one.fuse.kind
    fuse = one.proposal.fuse
    return fuse.kind.key if fuse and fuse.kind else None


def fuses_at(one: PlannedRun) -> Iterator[FuseAt]:
    """The fuses in each cable of a run, chosen or else proposed."""
    for given, proposal in ((one.fuse, one.proposal.fuse), (one.end_fuse, one.end_proposal)):
        if given is not None:
            yield FuseAt(kind_of(given), given.amps, proposed=False)
        elif proposal is not None:
            yield FuseAt(proposal.kind, proposal.amps, proposed=True)


def _fuses(one: PlannedRun, count: int) -> Iterator[_Part]:
    for fuse in fuses_at(one):
        name = fuse.kind.name if fuse.kind else "fuse"
        item = f"{name}, {number(fuse.amps)} A"
        yield _Part("fuse", item, count, (), one.run.name, fuse.proposed, fuse.amps)
        if name != "DC breaker":
            yield _Part("holder", f"for {name}", count, (), one.run.name, fuse.proposed, 0.0)


def _bars(one: PlannedRun) -> Iterator[_Part]:
    run = one.run
    if run.joined is None:
        return
    for kind, amps in (("bus bar", run.joined.bus_bar_a), ("shunt", run.joined.shunt_a)):
        if amps is not None:
            # A bar each for plus and minus.
            count = 2 if kind == "bus bar" else 1
            item = f"{number(amps)} A"
            yield _Part("bus bar" if kind == "bus bar" else "shunt", item, count, (), run.name,
                        proposed=False, order=amps)  # fmt: skip

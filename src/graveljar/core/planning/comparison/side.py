"""A design in one column: hours, what stops first, money and mass, losses, amps, cables."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from graveljar.core.analysis.band import band_of
from graveljar.core.context import Context
from graveljar.core.model import Bank, Converter, Design, Inverter, ShelfCopy, Station, Sun
from graveljar.core.planning.shelf import AnyPart, Candidate, PricedItem, WiringPrices, to_pay
from graveljar.core.rules import judge
from graveljar.core.rules.finding import Severity
from graveljar.core.text import quantity
from graveljar.core.views.refill import refill_in_words
from graveljar.core.views.verdict import verdict_of


@dataclass(frozen=True)
class SideCable:
    """A run: its size and fuse as chosen, or in brackets as proposed."""

    name: str
    says: str


@dataclass(frozen=True)
class SideFinding:
    """A finding, notes apart."""

    severity: Severity
    title: str


@dataclass(frozen=True)
class ComparedDesign:
    """A column. [h], [Wh a day], [A]

    `price` and `mass_kg` are of the parts that are on the shelf: batteries, stations, inverters
    and converters by name, chargers and panels by the part they are a copy of, cables and fuses
    by size and kind; what is there already costs nothing. `unpriced` names those that are not on
    the shelf, or whose price is unsaid. `refill` tells of the week in one line.
    """

    name: str
    parts: tuple[str, ...]
    hours: float | None
    lasts: str
    p10: float | None
    p90: float | None
    first: str
    meets_goal: bool
    price: float
    mass_kg: float
    unpriced: tuple[str, ...]
    day_wh: float
    lost_wh: float
    idle_wh: float
    design_a: float
    start_a: float
    cables: tuple[SideCable, ...]
    findings: tuple[SideFinding, ...]
    refill: str


def side_of(design: Design, shelf: Sequence[Candidate]) -> ComparedDesign:
    """Work a design out as a column."""
    context = Context(design, tried=True)
    findings = judge(context)
    verdict = verdict_of(context)
    band = band_of(context.analysis.lowered)
    parts = list(_parts(design))
    items = priced_parts(context, shelf)
    things = (*context.network.stages, *design.stores)
    idle_wh = sum(context.analysis.day.idle_wh(thing.id) for thing in things)
    posts = [x.run.amps for x in context.cables.values() if x.run.kind == "post"]
    return ComparedDesign(
        name=design.name,
        parts=tuple(f"{count} × {name}" if count > 1 else name for name, _, count in parts),
        hours=verdict.hours,
        lasts=verdict.lasts,
        p10=band.p10,
        p90=band.p90,
        first=verdict.first or verdict.then,
        meets_goal=verdict.meets_goal,
        price=round(sum(x.price or 0.0 for x in items), 6),
        mass_kg=round(sum(x.mass_kg or 0.0 for x in items), 6),
        unpriced=tuple(x.name for x in items if x.price is None),
        day_wh=context.analysis.day.wh,
        lost_wh=context.analysis.day.lost_wh,
        idle_wh=idle_wh,
        design_a=max((amps.design for amps in posts), default=0.0),
        start_a=max((amps.start for amps in posts), default=0.0),
        cables=tuple(_cables(context)),
        findings=tuple(SideFinding(x.severity, x.title) for x in findings if x.severity != "note"),
        refill=refill_in_words(context),
    )


def priced_parts(context: Context, shelf: Sequence[Candidate]) -> tuple[PricedItem, ...]:
    """All that a design is bought of: its parts, then the cables and fuses of its runs."""
    known = {x.part.name: x.part for x in shelf} | {x.id: x.part for x in shelf}
    parts = _parts(context.network.design)
    items = [_priced(name, known.get(key), count) for name, key, count in parts]
    return (*items, *WiringPrices(x.part for x in shelf).priced(context.cables.values()))


def _priced(name: str, part: AnyPart | None, count: int) -> PricedItem:
    if part is None:
        return PricedItem(name, None, None, owned=False, count=count)
    mass_kg = None if part.mass_kg is None else part.mass_kg * count
    return PricedItem(name, to_pay(part, count), mass_kg, owned=part.owned >= count, count=count)


def _parts(design: Design) -> Iterator[tuple[str, str, int]]:
    """Parts to buy: what each is called, its name or id on the shelf, and how many."""
    for store in design.stores:
        match store:
            case Bank():
                name = store.battery.name
                yield name, name, store.series * store.parallel
            case Station():
                yield store.name, store.name, 1
            case Sun():
                yield store.name, _id_of(store.shelf, store.name), store.series * store.parallel
            case _:
                pass
    for stage in design.stages:
        if isinstance(stage, Inverter):
            yield stage.name, stage.name, 1
        elif isinstance(stage, Converter):
            yield stage.name, stage.name, stage.parallel
    for link in design.links:
        if link.charger is not None:
            yield link.name, _id_of(link.charger.shelf, link.name), 1


def _id_of(copy: ShelfCopy | None, name: str) -> str:
    """The part that something is a copy of; by its name where it is none."""
    return name if copy is None else copy.part


def _cables(context: Context) -> Iterator[SideCable]:
    for one in context.cables.values():
        choice, fuse = one.choice, one.fuse or one.proposal.fuse
        if choice is None:
            continue
        leads = f"{choice.leads} × " if choice.leads > 1 else ""
        says = f"{leads}{choice.size.name}"
        if fuse is not None:
            says += f", {quantity(fuse.amps, 'A')}"
        yield SideCable(one.run.name, says if one.chosen else f"({says})")

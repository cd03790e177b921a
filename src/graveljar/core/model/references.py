"""What links may join: a rail that is there to a store that takes it, and never in a loop."""

from collections.abc import Iterator
from typing import Literal, Protocol, get_args

from graveljar.core.model.chargers import ChargerFigures, ChargerKind
from graveljar.core.model.links import Link
from graveljar.core.model.sources import Generator, Mains, Sun
from graveljar.core.model.stages import Stage
from graveljar.core.model.stations import Station
from graveljar.core.model.stores import Bank
from graveljar.core.model.vehicles import Vehicle

# A place in a document that breaks a rule: location, code, message.
Place = tuple[tuple[str | int, ...], str, str]
RailKind = Literal["ac", "dc", "inside", "sun"]
AnyStore = Bank | Station | Vehicle | Mains | Generator | Sun


class Connections(Protocol):
    """What of a design is joined: its stores, stages and links."""

    @property
    def stores(self) -> tuple[AnyStore, ...]:
        """Every store."""

    @property
    def stages(self) -> tuple[Stage, ...]:
        """Every stage of the document."""

    @property
    def links(self) -> tuple[Link, ...]:
        """Every link."""


def rail_kinds(design: Connections) -> dict[str, RailKind]:
    """What every rail gives by its id; a station's inner one is not to be reached."""
    kinds: dict[str, RailKind] = {}
    for store in design.stores:
        kinds[store.id] = _own_kind(store)
        if isinstance(store, Station):
            kinds |= {outlet.id: outlet.kind for outlet in store.outlets}
    return kinds | {x.id: "ac" if x.kind == "inverter" else "dc" for x in design.stages}


def names_of(design: Connections) -> dict[str, str]:
    """The name of what makes each rail by its id: messages say names."""
    things = [*design.stores, *design.stages]
    outlets = [x for store in design.stores if isinstance(store, Station) for x in store.outlets]
    return {thing.id: thing.name for thing in (*things, *outlets)}


def _own_kind(store: AnyStore) -> RailKind:
    match store:
        case Station():
            return "inside"
        case Mains() | Generator():
            return "ac"
        case Sun():
            return "sun"
        case _:
            return "dc"


def link_problems(design: Connections) -> Iterator[Place]:
    """Links that join what cannot be joined, or make a loop."""
    kinds, names = rail_kinds(design), names_of(design)
    stores = {store.id: store for store in design.stores}
    taken: set[tuple[str, str | None]] = set()
    for index, link in enumerate(design.links):
        here = ("links", index)
        if link.rail not in kinds:
            yield (*here, "rail"), "unknown_rail", f"“{link.rail}” is not a rail here"
        elif kinds[link.rail] == "inside":
            message = f"“{names[link.rail]}” is a station: connect the cable to one of its outlets"
            yield (*here, "rail"), "inside", message
        store = stores.get(link.to)
        if store is None or not isinstance(store, Bank | Station):
            yield (*here, "to"), "unknown_store", f"“{link.to}” is not a station or bank here"
            continue
        station = store if isinstance(store, Station) else None
        named = names.get(link.rail, link.rail)
        yield from _input_problems(link, station, kinds.get(link.rail), named, here)
        if link.charger is not None and station is None:
            wrong = _not_fed(design, link.charger.kind, link.rail, named)
            if wrong:
                yield (*here, "charger", "kind"), "other_kind", wrong
        if isinstance(store, Station) and (link.to, link.input) in taken:
            yield (*here, "input"), "input_taken", f"“{link.input}” is already in use"
        taken.add((link.to, link.input))
        yield from _shares_problems(design, link, here)
        way = _way_round(design, link)
        if way:
            loop = " → ".join(names[store] for store in way)
            yield (*here, "to"), "loop", f"makes a store feed itself: {loop}"


def _shares_problems(
    design: Connections, link: Link, here: tuple[str | int, ...]
) -> Iterator[Place]:
    """A charger that shares its amps with one that is not in its box."""
    with_it = None if link.charger is None else link.charger.shares_with
    if with_it is None:
        return
    other = next((x for x in design.links if x.id == with_it and x is not link), None)
    if other is None or other.charger is None or other.to != link.to:
        message = f"“{with_it}” is not another link with a charger into the same bank"
        yield (*here, "charger", "shares_with"), "unknown_link", message
    elif other.charger.shares_with is not None:
        message = f"“{with_it}” itself takes what another leaves"
        yield (*here, "charger", "shares_with"), "shares_twice", message


def _input_problems(
    link: Link,
    station: Station | None,
    kind: RailKind | None,
    named: str,
    here: tuple[str | int, ...],
) -> Iterator[Place]:
    if station is None:
        yield from _bank_problems(link, kind, named, here)
        return
    if link.charger is not None:
        yield (*here, "charger"), "two_brains", "is for a bare battery; a station has its own"
    into = station.input(link.input)
    if into is None:
        message = f"“{link.input}” is not a charge input of {station.name}"
        yield (*here, "input"), "unknown_input", message
        return
    if link.mode is not None and link.mode not in [mode.name for mode in into.modes]:
        yield (*here, "mode"), "unknown_mode", f"“{link.mode}” is not a mode of {into.name}"
    given = "dc" if kind == "sun" else kind
    if given in ("ac", "dc") and given != into.supply:
        message = f"“{named}” is {str(given).upper()}; {into.name} needs "
        yield (*here, "rail"), "other_kind", message + into.supply.upper()


def _bank_problems(
    link: Link, kind: RailKind | None, named: str, here: tuple[str | int, ...]
) -> Iterator[Place]:
    """What a bank cannot be charged from, or with."""
    if link.input is not None:
        yield (*here, "input"), "unknown_input", "is for a station; a bank has no inputs"
    charger = link.charger
    if charger is None:
        if kind == "ac":
            message = f"“{named}” is AC; a bank needs DC, or a mains charger"
            yield (*here, "rail"), "other_kind", message
        if kind == "sun":
            message = f"“{named}” is a solar panel; a bank needs a charge controller before it"
            yield (*here, "charger"), "no_controller", message


def kinds_fed(design: Connections, rail: str) -> tuple[ChargerKind, ...]:
    """The kinds of charger that a rail can feed."""
    return tuple(kind for kind in get_args(ChargerKind) if not _not_fed(design, kind, rail, ""))


def _not_fed(design: Connections, charger: ChargerKind, rail: str, named: str) -> str:
    """Why a charger of a kind cannot work from a rail; "" where it can."""
    if charger == "alternator":
        by_engine = any(isinstance(x, Vehicle) and x.id == rail for x in design.stores)
        return "" if by_engine else f"is part of an engine; “{named}” is not a vehicle"
    made, kind = ChargerFigures(kind=charger), rail_kinds(design).get(rail)
    if kind == "ac" and not made.from_mains:
        return f"works from DC; “{named}” is AC"
    if kind in ("dc", "sun") and made.from_mains:
        return f"works from AC; “{named}” is DC"
    if kind == "sun" and not made.from_sun:
        return f"is not made for the solar panel “{named}”: use a charge controller"
    if kind == "dc" and made.from_sun:
        return f"is for solar panels; “{named}” is not one"
    return ""


def store_of(design: Connections, rail: str) -> str | None:
    """The store a rail is connected to; None where it leads to none."""
    parents = {stage.id: stage.rail for stage in design.stages}
    for store in design.stores:
        parents |= {outlet.id: store.id for outlet in getattr(store, "outlets", ())}
    seen: set[str] = set()
    while rail in parents and rail not in seen:
        seen.add(rail)
        rail = parents[rail]
    return rail if rail in {store.id for store in design.stores} else None


def _way_round(design: Connections, link: Link) -> list[str]:
    """The stores from a link's own back to it, if its links lead there; else nothing."""
    begin = store_of(design, link.rail)
    if begin is None:
        return []
    ways = [[begin, link.to]]
    while ways:
        way = ways.pop()
        if way[-1] == begin:
            return way
        ways += [
            [*way, other.to]
            for other in design.links
            if store_of(design, other.rail) == way[-1] and other.to not in way[1:]
        ]
    return []

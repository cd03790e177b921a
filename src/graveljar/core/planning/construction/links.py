"""Links: what leads power into a store, and from where."""

from typing import Any

from pydantic import ValidationError

from graveljar.core.context import Context
from graveljar.core.model import (
    Bank,
    ChargeInput,
    Charger,
    Design,
    Generator,
    Link,
    Mains,
    Station,
    Vehicle,
)
from graveljar.core.model.parse import refusal
from graveljar.core.model.patch import Edit, apply, free_id
from graveljar.core.model.references import RailKind, names_of, rail_kinds, store_of
from graveljar.core.network.charge_input import fit_link
from graveljar.core.network.charger_choice import charger_for
from graveljar.core.network.network import Network
from graveljar.core.network.rails import rails_of
from graveljar.core.planning.construction.asks import AddLink, FeedLink
from graveljar.core.planning.construction.built import BuildResult, refused
from graveljar.core.views.links import link_rows


def add_link(design: Design, ask: AddLink) -> BuildResult:
    """A rail led into a store, in the mode of most amps, with a word on whether it fits."""
    store = _store(design, ask.to)
    kind = _kind(design, ask.rail, store)
    port = (
        _port(design, store, ask, "dc" if kind == "sun" else kind)
        if isinstance(store, Station)
        else None
    )
    new = Link(
        id=free_id(design, "lead"),
        name=f"Cable to {port.name if port else store.name}"[:80],
        rail=ask.rail,
        to=store.id,
        input=port.id if port else None,
        mode=max(port.modes, key=lambda mode: mode.amps).name if port else None,
        charger=_charger(design, ask.rail, store) if isinstance(store, Bank) else None,
    )
    edits = (Edit("add", "/links/-", new.model_dump(mode="json")),)
    after = Context(_checked(design, edits, store.name))
    row = next(x for x in link_rows(after) if x.id == new.id)
    return BuildResult(
        f"connect power to {store.name}", (f"{new.name}: {row.says}.",), new.id, (), edits
    )


def feed_link(design: Design, ask: FeedLink) -> BuildResult:
    """A link from another rail, or into another input, with what has to change along with it.

    A bank gets a charger that works from the rail, where its own does not; an input that needs what
    the rail does not supply is fed from one that does.
    """
    link = next((x for x in design.links if x.id == ask.link), None)
    if link is None:
        raise refused("/link", f"“{ask.link}” is not a link here.")
    store = _store(design, link.to)
    if isinstance(store, Station):
        changed = _into_station(design, ask, link, store)
    else:
        changed = _into_bank(design, ask.rail or link.rail, link, store)
    at = f"/links/{design.links.index(link)}"
    edits = tuple(Edit("replace", f"{at}/{field}", value) for field, value in changed.items())
    after = Context(_checked(design, edits, store.name))
    row = next(x for x in link_rows(after) if x.id == link.id)
    source = after.network.names[str(changed["rail"])]
    says = (f"{link.name}: {row.says}.",)
    return BuildResult(f"feed {link.name} from {source}", says, link.id, (), edits)


def _into_bank(design: Design, rail: str, link: Link, bank: Bank) -> dict[str, Any]:
    kind = _kind(design, rail, bank)
    if _suits(design, link.charger, rail, kind):
        return {"rail": rail}
    return {"rail": rail, "charger": _charger(design, rail, bank).model_dump(mode="json")}


def _suits(design: Design, charger: Charger | None, rail: str, kind: RailKind) -> bool:
    """Whether a charger, or none, works from a rail."""
    if charger is None:
        return kind == "dc"
    if charger.kind == "alternator":
        return any(isinstance(x, Vehicle) and x.id == rail for x in design.stores)
    return charger.from_mains == (kind == "ac") and charger.from_sun == (kind == "sun")


def _into_station(design: Design, ask: FeedLink, link: Link, station: Station) -> dict[str, Any]:
    port = station.input(ask.input or link.input)
    if port is None:
        raise refused("/input", f"“{ask.input}” is not an input of {station.name}.")
    supplies = {x: "dc" if k == "sun" else k for x, k in rail_kinds(design).items()}
    needs = f"{port.name} needs {port.supply.upper()}"
    if ask.rail is not None:
        _kind(design, ask.rail, station)
        if supplies[ask.rail] != port.supply:
            kind = supplies[ask.rail].upper()
            raise refused("/rail", f"“{names_of(design)[ask.rail]}” is {kind}; {needs}.")
    rail = ask.rail or link.rail
    if supplies[rail] != port.supply:
        others = (x for x in supplies if store_of(design, x) != station.id)
        found = next((x for x in others if supplies[x] == port.supply), None)
        if found is None:
            raise refused("/input", f"{needs}: nothing here supplies it.")
        rail = found
    mode = link.mode if port.id == link.input else None
    return {"rail": rail, "input": port.id, "mode": mode}


def _store(design: Design, name: str) -> Bank | Station:
    store = next((x for x in design.stores if x.id == name), None)
    if not isinstance(store, Bank | Station):
        raise refused("/to", f"“{name}” is not a station or bank here.")
    return store


def _kind(design: Design, rail: str, store: Bank | Station) -> RailKind:
    """The kind of a rail that may feed a store."""
    kind = rail_kinds(design).get(rail)
    if kind is None or kind == "inside":
        raise refused("/rail", f"“{rail}” is not a rail here.")
    if kind == "ac" and isinstance(store, Bank) and not _is_mains(design, rail):
        named = names_of(design)[rail]
        raise refused("/rail", f"“{named}” is AC; {store.name} needs DC, or a mains socket.")
    return kind


def _is_mains(design: Design, rail: str) -> bool:
    return any(isinstance(store, Mains | Generator) and store.id == rail for store in design.stores)


def _charger(design: Design, rail: str, bank: Bank) -> Charger:
    network = Network(design)
    here = network.rails[rail]
    return charger_for(here, network.store(here.store), bank, network.assumed)


def _checked(design: Design, edits: tuple[Edit, ...], name: str) -> Design:
    try:
        return apply(design, edits)
    except ValidationError as error:
        problem = refusal(error.errors(include_url=False)).problems[0]
        if problem.code == "loop":
            message = f"{name} would feed itself: links may not form a loop."
        else:
            message = f"{name}: {problem.message}."
        raise refused("/to", message) from None


def _port(design: Design, station: Station, ask: AddLink, kind: str) -> ChargeInput:
    """The input asked for; else of those for this kind of rail a free one that fits."""
    taken = {link.input for link in design.links if link.to == station.id}
    if ask.input is not None:
        port = station.input(ask.input)
        if port is None or port.supply != kind:
            raise refused("/input", f"“{ask.input}” does not accept what this rail supplies.")
        return port
    free = [x for x in station.inputs if x.supply == kind and x.id not in taken]
    if not free:
        raise refused("/to", f"{station.name} has no free input for {kind.upper()}.")
    rails = rails_of(design)

    def suits(port: ChargeInput) -> bool:
        link = Link(id="lead", rail=ask.rail, to=station.id, input=port.id)
        return fit_link(rails, station, link) == "fits"

    return max(free, key=suits)

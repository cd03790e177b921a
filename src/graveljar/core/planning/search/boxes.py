"""Stations as whole systems: alone, or grown by a battery that feeds their DC input."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Any, Final

from graveljar.core.components.battery import bank_label, chemistry_of
from graveljar.core.model import (
    Bank,
    Battery,
    ChargeInput,
    Converter,
    Design,
    Generator,
    Link,
    Load,
    Mains,
    Station,
    Store,
    Sun,
    Vehicle,
)
from graveljar.core.model.patch import free_among
from graveljar.core.network.charge_input import fit_link
from graveljar.core.network.rail_choice import places_of
from graveljar.core.network.rails import rails_of
from graveljar.core.network.windows import MAINS_TOLERANCE, fit_stage
from graveljar.core.planning.search.ask import SearchAsk, SearchPart
from graveljar.core.planning.search.systems import Rejected, Strategy
from graveljar.core.planning.shelf import BatteryPart, ConverterPart, StationPart, spread_from

# A battery of fewer volts may be stepped up before an input; others go straight. [V]
STEPPED_UP_BELOW_V: Final = 15.0
# Batteries in series before an input: more are no common practice.
MAX_PACKS_IN_SERIES: Final = 2


@dataclass(frozen=True)
class Outside:
    """A battery that feeds a station: how many in series, and the converter between, if any."""

    battery: SearchPart
    bank: Bank
    converter: SearchPart | None


@dataclass(frozen=True)
class BoxSystem:
    """A station with all loads at its outlets; `outside` feeds it.

    `design` has one battery in parallel. `left_out` are names of sources that fit no input of it.
    """

    station: SearchPart
    strategy: Strategy
    outside: Outside | None
    left_out: tuple[str, ...]
    design: Design

    @property
    def joined(self) -> str:
        """The store of which several may go in parallel."""
        return self.design.stores[0].id if self.outside is None else self.outside.bank.id

    def with_strings(self, strings: int) -> Design:
        """The design with so many batteries in parallel outside."""
        if self.outside is None:
            return self.design
        bank = self.outside.bank.model_copy(update={"parallel": strings})
        stores = tuple(bank if x.id == bank.id else x for x in self.design.stores)
        return self.design.model_copy(update={"stores": stores})


def boxes_of(design: Design, ask: SearchAsk, left: Rejected) -> Iterator[BoxSystem]:
    """Every station of the shelf that has outlets for all loads, in a fixed order."""
    for part in ask.parts if ask.stations else ():
        if not isinstance(part.part, StationPart):
            continue
        if not _for_these_mains(part.part, design):
            left.note("load.other_mains", part.part.name)
            continue
        tried: list[tuple[Load, ...]] = []
        strategies: tuple[Strategy, ...] = ("DC first", "AC for all")
        for strategy in strategies:
            made = _alone(design, part, strategy)
            if made is not None and made.design.loads not in tried:
                tried.append(made.design.loads)
                yield made
        if not tried:
            left.note("load.not_joined", part.part.name)


def _for_these_mains(part: StationPart, design: Design) -> bool:
    mains_v = design.setting.ac_volts
    sockets = [x for x in part.figures.outlets if x.kind == "ac"]
    return not sockets or any(abs(x.volts - mains_v) <= MAINS_TOLERANCE * mains_v for x in sockets)


def _alone(design: Design, part: SearchPart, strategy: Strategy) -> BoxSystem | None:
    """A station with all loads at its outlets; None where one of them finds none."""
    taken = {load.id for load in design.loads} | {store.id for store in design.stores[1:]}
    station = _station(part, design, taken)
    stores, links, left_out = _filled(design, station, taken)
    bare = design.model_copy(update={"stores": (station, *stores), "stages": (), "links": links})
    sockets = {x.id for x in station.outlets if x.kind == "ac"}
    ports = sockets if strategy == "AC for all" else {x.id for x in station.outlets}
    loads = []
    for load in bare.loads:
        places = [x for x in places_of(bare, load) if x.rail in ports]
        if not places or places[0].suits == "does not fit":
            return None
        loads.append(load.model_copy(update={"rail": places[0].rail}))
    made = bare.model_copy(update={"loads": tuple(loads)})
    return BoxSystem(part, strategy, None, left_out, made)


def _station(part: SearchPart, design: Design, taken: set[str]) -> Station:
    figures = part.part.figures.model_dump()
    own = _free(taken, "station")
    outlets = [x | {"id": _free(taken, f"{own}-{x['id']}"[:38])} for x in figures["outlets"]]
    first = design.first
    location = first.location if isinstance(first, Bank | Station) else "living space"
    about = {
        "id": own, "name": part.part.name, "provenance": spread_from(part.part),
        "location": location, "outlets": outlets,
    }  # fmt: skip
    return Station.model_validate(figures | about)


def _filled(
    design: Design, station: Station, taken: set[str]
) -> tuple[tuple[Store, ...], tuple[Link, ...], tuple[str, ...]]:
    """Sources of the design that fit an input of a station, their links, and those left out."""
    free = list(station.inputs)
    stores: list[Store] = []
    links: list[Link] = []
    left_out = []
    for source in filling(design):
        link, port = _led_in(station, source, free, taken)
        if link is None or port is None:
            left_out.append(source.name)
            continue
        free.remove(port)
        stores.append(source)
        links.append(link)
    return tuple(stores), tuple(links), tuple(left_out)


def filling(design: Design) -> list[Mains | Generator | Sun | Vehicle]:
    """Sources that fill the first store of a design."""
    first = design.first
    linked = {link.rail for link in design.links if first is not None and link.to == first.id}
    return [
        x for x in design.stores if isinstance(x, Mains | Generator | Sun | Vehicle)
        and x.id in linked
    ]  # fmt: skip


def _led_in(
    station: Station,
    source: Mains | Generator | Sun | Vehicle,
    free: Sequence[ChargeInput],
    taken: set[str],
) -> tuple[Link | None, ChargeInput | None]:
    """A link from a source into the input that takes most of it."""
    supply = "ac" if isinstance(source, Mains | Generator) else "dc"
    rails = rails_of(Design(stores=(station, source)))
    for port in sorted(free, key=lambda x: -x.most_w):
        if port.supply != supply:
            continue
        mode = max(port.modes, key=lambda x: x.amps)
        link = Link(
            id="source-lead", name=f"{source.name} to {port.name}"[:80], rail=source.id,
            to=station.id, input=port.id, mode=mode.name,
        )  # fmt: skip
        if fit_link(rails, station, link) == "fits":
            return link.model_copy(update={"id": _free(taken, "source-lead")}), port
    return None, None


def grown_of(box: BoxSystem, ask: SearchAsk) -> Iterator[BoxSystem]:
    """A station with each battery that fits one of its DC inputs, straight or stepped up."""
    station = box.design.stores[0]
    if not isinstance(station, Station):
        return
    used = {link.input for link in box.design.links}
    ports = [x for x in station.inputs if x.supply == "dc" and x.id not in used]
    for part in ask.parts if ports else ():
        for series in range(1, MAX_PACKS_IN_SERIES + 1):
            bank = _bank(part, series, ask, {x.id for x in (*box.design.stores, *box.design.loads)})
            if bank is None:
                continue
            for converter, source in _between(bank, ports, ask):
                after = _fed(box.design, station, bank, converter, ports)
                if after is not None:
                    outside = Outside(part, bank, source)
                    yield replace(box, outside=outside, design=after)


def _bank(part: SearchPart, series: int, ask: SearchAsk, taken: set[str]) -> Bank | None:
    shelved = part.part
    if not isinstance(shelved, BatteryPart):
        return None
    if (shelved.figures.most_series or MAX_PACKS_IN_SERIES) < series:
        return None
    about = {"name": shelved.name, "provenance": spread_from(shelved)}
    battery = Battery.model_validate(shelved.figures.model_dump() | about)
    reserve = chemistry_of(battery).reserve if ask.reserve is None else ask.reserve
    own = free_among(taken, "outside-battery")
    return Bank(id=own, name=shelved.name, battery=battery, series=series, reserve=reserve)


def _between(
    bank: Bank, ports: Sequence[ChargeInput], ask: SearchAsk
) -> Iterator[tuple[Converter | None, SearchPart | None]]:
    """Nothing between, and the cheapest and the strongest converter that step a 12 V battery up."""
    yield None, None
    label = bank_label(bank)
    if label.nominal_v >= STEPPED_UP_BELOW_V:
        return
    found = []
    rails = rails_of(Design(stores=(bank,)))
    for n, part in enumerate(ask.parts):
        shelved = part.part
        if not isinstance(shelved, ConverterPart) or shelved.figures.set_v <= label.full_v:
            continue
        converter = Converter.model_validate(
            shelved.figures.model_dump()
            | {
                "id": "step-up", "name": shelved.name, "rail": bank.id,
                "provenance": spread_from(shelved), "switched": "on with its loads",
            }
        )  # fmt: skip
        fits = fit_stage(rails, converter) == "fits"
        if fits and any(converter.set_v <= port.accepts.most_v for port in ports):
            trusted_a = converter.continuous_a * (1.0 if converter.documented else 0.5)
            found.append(
                (part.price_of(1) or 0.0, -trusted_a * converter.set_v, n, converter, part)
            )
    if found:
        cheapest = min(found, key=lambda x: (x[0], x[1], x[2]))
        strongest = min(found, key=lambda x: (x[1], x[0], x[2]))
        for _, _, _, converter, part in [cheapest, strongest][: 1 + (cheapest is not strongest)]:
            yield converter, part


def _fed(
    design: Design,
    station: Station,
    bank: Bank,
    converter: Converter | None,
    ports: Sequence[ChargeInput],
) -> Design | None:
    """The design with a battery led into the input that takes most from it; None if none does."""
    taken = {x.id for x in (*design.stores, *design.loads, *design.links)} | {bank.id}
    taken |= {x.id for x in station.outlets}
    stages: tuple[Converter, ...] = ()
    if converter is not None:
        stages = (converter.model_copy(update={"id": _free(taken, "step-up")}),)
    rail = stages[0].id if stages else bank.id
    nominal_v = stages[0].set_v if stages else bank_label(bank).nominal_v
    stores = (*design.stores, bank)
    rails = rails_of(design.model_copy(update={"stores": stores, "stages": stages}))
    found: list[tuple[float, Link]] = []
    for port in ports:
        mode = max(port.modes, key=lambda x: x.amps)
        link = Link(
            id=free_among(taken, "station-lead"), name=f"Cable to {port.name}"[:80], rail=rail,
            to=station.id, input=port.id, mode=mode.name,
        )  # fmt: skip
        if fit_link(rails, station, link) == "fits":
            found.append((min(mode.amps * nominal_v, port.most_w), link))
    if not found:
        return None
    link = max(found, key=lambda x: x[0])[1]
    return design.model_copy(
        update={"stores": stores, "stages": stages, "links": (*design.links, link)}
    )


def _free(taken: set[str], wanted: str) -> Any:
    """A free id, which is taken from then on."""
    found = free_among(taken, wanted)
    taken.add(found)
    return found

"""The ways a station may grow: each a changed design, or none where nothing on hand does it."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Annotated, Any, Final

from pydantic import Field

from graveljar.core.components.battery import bank_label
from graveljar.core.model import Bank, Battery, Converter, Design, Station
from graveljar.core.model.fields import Id, Part
from graveljar.core.model.patch import free_among, ids_of
from graveljar.core.model.references import store_of
from graveljar.core.model.stations import ChargeInput, WattHours
from graveljar.core.network.rails import rails_of
from graveljar.core.network.standard_sizes import common_amps, converter_for
from graveljar.core.network.station_expansion import inner_wh
from graveljar.core.planning.shelf import Candidate
from graveljar.core.planning.shelf.part import BatteryPart, ConverterPart, StationPart
from graveljar.core.planning.station_growth.route import RoutePart, Way
from graveljar.core.rules.link import COMMON_V
from graveljar.core.text import quantity

# Nominal volts below which a battery counts as a 12 V one. [V]
TWELVE: Final = 15.0
# Volts from which a pack is for another use than a 12 V rail. [V]
PACK_V: Final = 16.0


class RoutesAsk(Part):
    """Which station is to grow, and by what.

    `battery` is a bank of the design that is at hand; without it the shelf's come in question.
    `module_wh` and `module_price` are the maker's own module, as its shop says. [Wh]
    """

    station: Id
    battery: Id | None = None
    module_wh: WattHours | None = None
    module_price: Annotated[float, Field(ge=0, le=1_000_000)] | None = None


@dataclass(frozen=True)
class GrowthDraft:
    """A way as a changed design, before it is worked out. `link` is the id of its link."""

    way: Way
    title: str
    says: str
    after: Design
    link: str | None
    parts: tuple[RoutePart, ...]


@dataclass(frozen=True)
class GrowthTask:
    """A station in a design with nothing led into it, and what is at hand."""

    design: Design
    station: Station
    outside: Bank
    have: bool
    price: float | None
    ask: RoutesAsk
    shelf: Sequence[Candidate]

    @property
    def inputs(self) -> tuple[ChargeInput, ...]:
        """Its DC inputs."""
        return tuple(x for x in self.station.inputs if x.supply == "dc")

    @property
    def wanted_wh(self) -> float:
        """Energy of the outside battery, the measure of all routes. [Wh]"""
        return bank_label(self.outside).wh


def task_of(
    design: Design, station: Station, ask: RoutesAsk, shelf: Sequence[Candidate]
) -> GrowthTask:
    """Take what feeds the station away; find the battery the routes are measured by."""
    named = next((x for x in design.stores if x.id == ask.battery and isinstance(x, Bank)), None)
    alone = without_growth(design, station, None if named is None else named.id)
    if named is not None:
        return GrowthTask(alone, station, named, True, 0.0, ask, shelf)
    batteries = [c.part for c in shelf if isinstance(c.part, BatteryPart)]
    twelve = [x for x in batteries if x.figures.volts < TWELVE and x.figures.chemistry == "lfp"]
    wanted = inner_wh(station)
    chosen = min(twelve, key=lambda x: abs(x.figures.volts * x.figures.ah - wanted), default=None)
    bank = Bank(id="outside-battery", name="Outside battery")
    if chosen is not None:
        bank = _bank(chosen, "outside-battery")
    price = chosen.price if chosen is not None else None
    return GrowthTask(alone, station, bank, False, price, ask, shelf)


def without_growth(design: Design, station: Station, outside: str | None) -> Design:
    """The design with nothing led into a station, and without a battery that only did that."""
    links = tuple(link for link in design.links if link.to != station.id)
    sources = {store_of(design, link.rail) for link in design.links if link.to == station.id}
    sources |= {outside}
    used = {store_of(design, load.rail) for load in design.loads if load.rail is not None}
    used |= {store_of(design, link.rail) for link in links} | {station.id}
    gone = {source for source in sources if source is not None and source not in used}
    stores = tuple(store for store in design.stores if store.id not in gone)
    stages = tuple(x for x in design.stages if store_of(design, x.rail) not in gone)
    return _checked(design, stores, stages, links)


def drafts(task: GrowthTask) -> Iterator[GrowthDraft]:
    """Every way there is something for, in the order of the trade."""
    if task.inputs:
        yield from _straight(task)
        yield from _boost(task)
        yield from _matched(task)
        yield from _in_series(task)
    yield from _module(task)
    yield from _bigger(task)


def _straight(task: GrowthTask) -> Iterator[GrowthDraft]:
    """The battery straight into the input that takes its volts, as from a car: slow."""
    port = _best_port(task, task.outside)
    mode = min(port.modes, key=lambda mode: mode.amps)
    yield _linked(
        task, "straight", "Straight into the car input", "No converter: simple, but slow.",
        task.outside, None, port, mode.name,
        (_outside_part(task),),
    )  # fmt: skip


def _boost(task: GrowthTask) -> Iterator[GrowthDraft]:
    """The battery and a boost converter that reaches the input's watts."""
    found = []
    for port in task.inputs:
        mode = max(port.modes, key=lambda mode: mode.amps)
        for converter, price in _boosts(task, port, mode.amps):
            amps = min(mode.amps, converter.continuous_a * (1.0 if converter.documented else 0.5))
            found.append((min(amps * converter.set_v, port.most_w), port, converter, price))
    if not found:
        return
    _, port, converter, price = max(found, key=lambda x: (round(x[0]), -(x[3] or 0)))
    mode = max(port.modes, key=lambda mode: mode.amps)
    yield _linked(
        task, "boost", "Battery and boost converter",
        "A higher voltage at the same current gives more watts. The current before the "
        "converter is higher.",
        task.outside, converter, port, mode.name,
        (_outside_part(task), RoutePart(converter.name, 1, price, have=False)),
    )  # fmt: skip


def _boosts(
    task: GrowthTask, port: ChargeInput, amps: float
) -> Iterator[tuple[Converter, float | None]]:
    """Boost converters of the shelf whose volts fit an input; without one, a common one."""
    rest, none = bank_label(task.outside), True
    for candidate in task.shelf:
        part = candidate.part
        if not isinstance(part, ConverterPart) or part.figures.topology != "boost":
            continue
        figures = part.figures
        reaches = figures.accepts.least_v < rest.nominal_v and rest.full_v < figures.accepts.most_v
        if reaches and rest.full_v < figures.set_v < port.accepts.most_v:
            document = figures.model_dump(mode="json") | {"name": part.name, "rail": "outside"}
            yield Converter.model_validate(document), part.price
            none = False
    least_v = max(port.accepts.least_v, rest.full_v)
    volts = next((v for v in COMMON_V if least_v < v and v * 1.05 < port.accepts.most_v), None)
    if none and volts is not None:
        rail = rails_of(Design(stores=(task.outside,)))[task.outside.id]
        made = converter_for(rail, volts, common_amps(min(amps, port.most_w / volts)), "converter")
        yield Converter.model_validate(made), None


def _matched(task: GrowthTask) -> Iterator[GrowthDraft]:
    """A battery whose own volts lie in the window: no converter."""
    singles = [
        (_bank(c.part, "matched-battery"), c.part)
        for c in task.shelf
        if isinstance(c.part, BatteryPart) and c.part.figures.volts >= PACK_V
    ]
    own = bank_label(task.outside)
    ports = [x for x in task.inputs if x.accepts.least_v <= own.empty_v < x.accepts.most_v]
    ports = [x for x in ports if own.full_v <= x.accepts.most_v]
    if task.have and own.nominal_v >= PACK_V and ports:
        port = max(ports, key=lambda x: x.most_w)
        mode = max(port.modes, key=lambda mode: mode.amps)
        yield _linked(
            task, "matched", "The present battery, with a matching voltage",
            "No converter, so no converter loss.", task.outside, None, port, mode.name,
            (_outside_part(task),),
        )  # fmt: skip
    elif singles:
        bank, part = min(singles, key=lambda x: _rank(task, x[0]))
        yield _packs(
            task, "matched", "A battery with a matching voltage",
            "No converter, so no converter loss.", bank, part,
        )  # fmt: skip


def _in_series(task: GrowthTask) -> Iterator[GrowthDraft]:
    """Two batteries in series into the window."""
    pairs = [
        (_bank(c.part, "series-batteries").model_copy(update={"series": 2}), c.part)
        for c in task.shelf
        if isinstance(c.part, BatteryPart) and PACK_V / 2 < c.part.figures.volts < PACK_V * 2
    ]
    if pairs:
        bank, part = min(pairs, key=lambda x: _rank(task, x[0]))
        yield _packs(
            task, "series", "Two batteries in series",
            "Twice the voltage of one. Charge both full before you connect them.",
            bank, part,
        )  # fmt: skip


def _rank(task: GrowthTask, bank: Bank) -> tuple[bool, float]:
    """What fits first, then what is nearest to the wanted energy in as many as it takes."""
    rest = bank_label(bank)
    fits = any(
        rest.full_v < port.accepts.most_v
        and rest.nominal_v > port.accepts.least_v
        and (not port.steps_down_only or rest.empty_v > _inner_v(task))
        for port in task.inputs
    )
    strings = _strings(task, bank)
    return not fits, abs(rest.wh * strings - task.wanted_wh)


def _inner_v(task: GrowthTask) -> float:
    return rails_of(task.design)[task.station.id].nominal_v


def _strings(task: GrowthTask, bank: Bank) -> int:
    return min(max(round(task.wanted_wh / bank_label(bank).wh), 1), 8)


def _packs(
    task: GrowthTask, way: Way, title: str, says: str, bank: Bank, part: BatteryPart
) -> GrowthDraft:
    many = bank.model_copy(update={"parallel": _strings(task, bank)})
    port = _best_port(task, many)
    mode = max(port.modes, key=lambda mode: mode.amps)
    count = many.series * many.parallel
    price = None if part.price is None else part.price * count
    parts = (RoutePart(part.name, count, price, have=False),)
    return _linked(task, way, title, says, many, None, port, mode.name, parts)


def _module(task: GrowthTask) -> Iterator[GrowthDraft]:
    """The maker's own expansion module."""
    ask = task.ask
    if ask.module_wh is None:
        return
    station = task.station.model_copy(update={"module_wh": task.station.module_wh + ask.module_wh})
    part = RoutePart(f"Maker's module, {quantity(ask.module_wh, 'Wh')}", 1, ask.module_price, False)
    yield GrowthDraft(
        "module", "The maker's module", (
            "Made for it: no calculation needed, and the warranty stays "
            "valid."
        ),
        _with_station(task.design, station), None, (part,),
    )  # fmt: skip


def _bigger(task: GrowthTask) -> Iterator[GrowthDraft]:
    """A bigger station in its place, its loads on the like outlets."""
    wanted = inner_wh(task.station) + task.wanted_wh
    parts = [c.part for c in task.shelf if isinstance(c.part, StationPart)]
    larger = [x for x in parts if x.figures.label_wh > inner_wh(task.station)]
    if not larger:
        return
    part = min(larger, key=lambda x: (x.figures.label_wh < 0.9 * wanted, x.figures.label_wh))
    taken = part.figures.model_dump(mode="json")
    taken["outlets"] = _like_outlets(task.station, taken["outlets"])
    own = {"kind": "station", "id": task.station.id, "name": part.name, "provenance": "label"}
    station = Station.model_validate(taken | own)
    homes = {outlet["id"] for outlet in taken["outlets"]}
    lost = {x.id for x in task.station.outlets} - homes
    loads = tuple(
        load.model_copy(update={"rail": None}) if load.rail in lost else load
        for load in task.design.loads
    )
    changed = task.design.model_copy(update={"loads": loads})
    stages = tuple(x for x in changed.stages if x.rail not in lost)
    after = _checked(changed, _with_station(changed, station).stores, stages, changed.links)
    yield GrowthDraft(
        "bigger", "A bigger station", f"{part.name} instead; sell the old one.",
        after, None, (RoutePart(part.name, 1, part.price, have=False),),
    )  # fmt: skip


def _like_outlets(old: Station, new: list[dict[str, Any]]) -> list[dict[str, Any]]:
    """New outlets under the ids of the old ones they are like; the rest under free ones."""
    made, free = [], list(new)
    for outlet in old.outlets:
        like = min(
            (x for x in free if x["kind"] == outlet.kind),
            key=lambda x: abs((x["volts"] or 0.0) - (outlet.volts or 0.0)),
            default=None,
        )
        if like is not None:
            free.remove(like)
            made.append(like | {"id": outlet.id})
    taken = {x["id"] for x in made}
    return made + [x | {"id": _free(taken, f"{old.id[:30]}-{x['id']}"[:38])} for x in free]


def _best_port(task: GrowthTask, bank: Bank) -> ChargeInput:
    """The input that takes most of a battery's volts, the one nearest to it if none does."""
    rest = bank_label(bank)

    def takes(port: ChargeInput) -> tuple[bool, float]:
        amps = max(mode.amps for mode in port.modes)
        fits = rest.full_v < port.accepts.most_v and rest.full_v > port.accepts.least_v
        return fits, min(amps * rest.nominal_v, port.most_w)

    return max(task.inputs, key=takes)


def _linked(
    task: GrowthTask,
    way: Way,
    title: str,
    says: str,
    bank: Bank,
    converter: Converter | None,
    port: ChargeInput,
    mode: str,
    parts: tuple[RoutePart, ...],
) -> GrowthDraft:
    """The design with a battery led into an input."""
    taken = ids_of(task.design)
    stores = list(task.design.stores)
    if bank not in stores:
        bank = bank.model_copy(update={"id": _free(taken, bank.id)})
        stores.append(bank)
    stages, rail = list(task.design.stages), bank.id
    if converter is not None:
        rail = _free(taken, "route-converter")
        stages.append(
            converter.model_copy(
                update={"id": rail, "rail": bank.id, "switched": "on with its loads"}
            )
        )
    link = {
        "id": _free(taken, "route-lead"),
        "name": f"Cable to {port.name}"[:80],
        "rail": rail,
        "to": task.station.id,
        "input": port.id,
        "mode": mode,
    }
    document = task.design.model_dump(mode="json") | {
        "stores": [x.model_dump(mode="json") for x in stores],
        "stages": [x.model_dump(mode="json") for x in stages],
        "links": [*(x.model_dump(mode="json") for x in task.design.links), link],
    }
    return GrowthDraft(way, title, says, Design.model_validate(document), str(link["id"]), parts)


def _with_station(design: Design, station: Station) -> Design:
    stores = tuple(station if x.id == station.id else x for x in design.stores)
    return _checked(design, stores, design.stages, design.links)


def _checked(design: Design, stores: Any, stages: Any, links: Any) -> Design:
    return Design.model_validate(
        design.model_dump(mode="json")
        | {
            "stores": [x.model_dump(mode="json") for x in stores],
            "stages": [x.model_dump(mode="json") for x in stages],
            "links": [x.model_dump(mode="json") for x in links],
        }
    )


def _free(taken: set[str], wanted: str) -> str:
    """A free id, which is taken from then on."""
    found = free_among(taken, wanted)
    taken.add(found)
    return found


def _outside_part(task: GrowthTask) -> RoutePart:
    return RoutePart(task.outside.name, 1, task.price, have=task.have)


def _bank(part: BatteryPart, new_id: str) -> Bank:
    battery = Battery.model_validate(part.figures.model_dump(mode="json") | {"name": part.name})
    return Bank(id=new_id, name=part.name, battery=battery)

"""What in a design each caution is tied to, by id. Common practice."""

import re
from collections.abc import Iterator
from typing import Final

from graveljar.core.components.battery import chemistry_of
from graveljar.core.components.load import depends_on
from graveljar.core.components.touch import touch_v
from graveljar.core.context import Context
from graveljar.core.model import Bank, Generator, Station, Sun, Vehicle
from graveljar.core.tables.dependants import Depends

# Lithium is not charged below this; warned of from a little above, for nights are colder. [°C]
FROST_C: Final = 5.0
# Amps from which a terminal that works loose gets hot enough to burn something. Ours. [A]
LARGE_A: Final = 50.0
# Loads that burn fuel beside what they take. Common practice.
BURNS_FUEL: Final = re.compile(
    r"diesel|petrol|gasoline|propane|gas (?:heater|oven|cooker)|parking heater|generator",
    re.IGNORECASE,
)
# Words for panels in the name of an input or of its mode. Common practice.
PANELS: Final = re.compile(r"solar|panel|\bpv\b|\bsun\b", re.IGNORECASE)
# Direct current above which a switch that opens holds an arc. Common practice. [V]
ARC_V: Final = 30.0
# Energy of a battery of about 20 kg; common practice. [Wh]
LITHIUM_20_KG_WH: Final = 2_000.0
LEAD_20_KG_WH: Final = 700.0


def banks(context: Context) -> Iterator[str]:
    """Every bank."""
    return (bank.id for bank in context.network.banks)


def held(context: Context) -> Iterator[str]:
    """Every store that holds energy: all but sources."""
    return (bank.id for bank in context.network.held)


def inverters(context: Context) -> Iterator[str]:
    """Every inverter, a station's too."""
    return (inverter.id for inverter in context.network.inverters)


def touchable(context: Context) -> Iterator[str]:
    """Banks and converters above 60 V direct current; above 30 V where it may be wet."""
    network = context.network
    for bank in network.banks:
        if network.bank_labels[bank.id].full_v > touch_v(network.design.setting, bank):
            yield bank.id
    for converter in network.converters:
        if converter.set_v > touch_v(network.design.setting, None):
            yield converter.id


def no_bms(context: Context) -> Iterator[str]:
    """Lithium banks without protection, and bare cells."""
    for bank in context.network.banks:
        if chemistry_of(bank.battery).lithium and (
            bank.battery.bms_a is None or bank.battery.volts < 5.0
        ):
            yield bank.id


def vented(context: Context) -> Iterator[str]:
    """Banks that give off hydrogen."""
    return (bank.id for bank in context.network.banks if chemistry_of(bank.battery).vented)


def lithium_in_cold(context: Context) -> Iterator[str]:
    """Lithium stores where nights may bring frost."""
    if context.network.design.setting.coldest_c < FROST_C:
        yield from (x.id for x in context.network.held if chemistry_of(x.battery).lithium)


def several(context: Context) -> Iterator[str]:
    """Banks of more than one battery."""
    return (bank.id for bank in context.network.banks if bank.series * bank.parallel > 1)


def fed_stations(context: Context) -> Iterator[str]:
    """Links that feed a station."""
    return (
        link.id
        for link in context.network.design.links
        if context.network.station(link.to) is not None
    )


def fed(context: Context) -> Iterator[str]:
    """Every link."""
    return (link.id for link in context.network.design.links)


def converters(context: Context) -> Iterator[str]:
    """Converters that are not built into a station."""
    return (x.id for x in context.network.converters if x in context.network.design.stages)


def hot(context: Context) -> Iterator[str]:
    """Converters and inverters that are not built into a station."""
    yield from converters(context)
    yield from (x.id for x in context.network.inverters if x in context.network.design.stages)


def vehicles(context: Context) -> Iterator[str]:
    """Every vehicle."""
    return (store.id for store in context.network.design.stores if isinstance(store, Vehicle))


def heavy(context: Context) -> Iterator[str]:
    """Banks and stations in a vehicle or boat."""
    if context.network.design.setting.place in ("vehicle", "boat"):
        yield from (
            store.id for store in context.network.design.stores if isinstance(store, Bank | Station)
        )


def medical(context: Context) -> Iterator[str]:
    """Loads on which a person's health depends."""
    return depending(context, "a person")


def animals(context: Context) -> Iterator[str]:
    """Loads on which an animal's life depends."""
    return depending(context, "an animal")


def depending(context: Context, who: Depends) -> Iterator[str]:
    """Loads on which somebody depends."""
    return (load.id for load in context.network.design.loads if depends_on(load) == who)


def large(context: Context) -> Iterator[str]:
    """Runs with large currents."""
    return (x.run.subject for x in context.cables.values() if x.lead_a > LARGE_A)


def series_feeding(context: Context) -> Iterator[str]:
    """Banks in series that feed something."""
    sources = {feeding.source for feeding in context.analysis.link_operations.values()}
    return (bank.id for bank in context.network.banks if bank.series > 1 and bank.id in sources)


def burning(context: Context) -> Iterator[str]:
    """What burns fuel beside the system: engines, generators, and heaters by their name."""
    yield from vehicles(context)
    yield from (x.id for x in context.network.design.stores if isinstance(x, Generator))
    yield from (load.id for load in context.network.design.loads if BURNS_FUEL.search(load.name))


def lithium(context: Context) -> Iterator[str]:
    """Every lithium store."""
    return (x.id for x in context.network.held if chemistry_of(x.battery).lithium)


def posts(context: Context) -> Iterator[str]:
    """What can be short-circuited: banks, DC ports of stations, vehicles."""
    yield from banks(context)
    yield from vehicles(context)
    for store in context.network.design.stores:
        if isinstance(store, Station) and any(x.kind == "dc" for x in store.outlets):
            yield store.id


def fed_or_on_vehicle(context: Context) -> Iterator[str]:
    """Links, and what is connected to a vehicle's rail."""
    yield from fed(context)
    on_vehicle = set(vehicles(context))
    for thing in (*context.network.design.stages, *context.network.design.loads):
        if thing.rail in on_vehicle:
            yield thing.id


def panels(context: Context) -> Iterator[str]:
    """Solar panels, and stations with an input that says it is for them."""
    for store in context.network.design.stores:
        if isinstance(store, Sun):
            yield store.id
        if isinstance(store, Station):
            names = [x for port in store.inputs for x in (port.name, *(m.name for m in port.modes))]
            if any(PANELS.search(name) for name in names):
                yield store.id


def arcs(context: Context) -> Iterator[str]:
    """Banks whose volts hold an arc where a switch opens."""
    return (
        bank.id
        for bank in context.network.banks
        if context.network.bank_labels[bank.id].full_v > ARC_V
    )


def wet(context: Context) -> Iterator[str]:
    """Banks and stations where it may be wet."""
    boat = context.network.design.setting.place == "boat"
    for store in context.network.design.stores:
        if isinstance(store, Bank | Station) and (boat or store.location == "outside"):
            yield store.id


def sealed_in_box(context: Context) -> Iterator[str]:
    """Sealed lead-acid in a box."""
    if context.network.design.setting.place == "box":
        yield from (bank.id for bank in context.network.banks if bank.battery.chemistry == "agm")


def moving(context: Context) -> Iterator[str]:
    """Banks in a vehicle or boat."""
    if context.network.design.setting.place in ("vehicle", "boat"):
        yield from banks(context)


def lifted(context: Context) -> Iterator[str]:
    """Batteries and stations of some twenty kilograms and more, by their energy."""
    for bank in context.network.held:
        one_wh = bank.battery.volts * bank.battery.ah
        if one_wh > (LITHIUM_20_KG_WH if chemistry_of(bank.battery).lithium else LEAD_20_KG_WH):
            yield bank.id


def lived_with(context: Context) -> Iterator[str]:
    """Banks and stations in a living space."""
    for store in context.network.design.stores:
        if isinstance(store, Bank | Station) and store.location == "living space":
            yield store.id


def with_shore(context: Context) -> Iterator[str]:
    """Inverters where shore or house power may be joined."""
    network = context.network
    if network.design.setting.place != "box":
        yield from (x.id for x in network.inverters if x in network.design.stages)


def fixed(context: Context) -> Iterator[str]:
    """What is installed for good: banks and inverters."""
    yield from banks(context)
    yield from inverters(context)

"""What in a design each caution is tied to, by id. Common practice."""

import re
from collections.abc import Iterator
from typing import Final

from graveljar.core.bank import chemistry_of
from graveljar.core.document import Bank, Station, Vehicle
from graveljar.core.facts import Facts
from graveljar.core.load import depends_on
from graveljar.core.tables.dependants import Depends
from graveljar.core.touch import touch_v

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


def banks(facts: Facts) -> Iterator[str]:
    """Every bank."""
    return (bank.id for bank in facts.banks)


def held(facts: Facts) -> Iterator[str]:
    """Every store that holds energy: all but vehicles."""
    return (bank.id for bank in facts.held)


def inverters(facts: Facts) -> Iterator[str]:
    """Every inverter, a station's too."""
    return (inverter.id for inverter in facts.inverters)


def touchable(facts: Facts) -> Iterator[str]:
    """Banks and converters above 60 V direct current; above 30 V where it may be wet."""
    for bank in facts.banks:
        if facts.rests[bank.id].full_v > touch_v(facts, bank):
            yield bank.id
    for converter in facts.converters:
        if converter.set_v > touch_v(facts, None):
            yield converter.id


def no_bms(facts: Facts) -> Iterator[str]:
    """Lithium banks without protection, and bare cells."""
    for bank in facts.banks:
        if chemistry_of(bank.battery).lithium and (
            bank.battery.bms_a is None or bank.battery.volts < 5.0
        ):
            yield bank.id


def vented(facts: Facts) -> Iterator[str]:
    """Banks that give off hydrogen."""
    return (bank.id for bank in facts.banks if chemistry_of(bank.battery).vented)


def lithium_in_cold(facts: Facts) -> Iterator[str]:
    """Lithium stores where nights may bring frost."""
    if facts.design.setting.coldest_c < FROST_C:
        yield from (x.id for x in facts.held if chemistry_of(x.battery).lithium)


def several(facts: Facts) -> Iterator[str]:
    """Banks of more than one battery."""
    return (bank.id for bank in facts.banks if bank.series * bank.parallel > 1)


def fed_stations(facts: Facts) -> Iterator[str]:
    """Links that feed a station."""
    return (link.id for link in facts.design.links if facts.station(link.to) is not None)


def fed(facts: Facts) -> Iterator[str]:
    """Every link."""
    return (link.id for link in facts.design.links)


def converters(facts: Facts) -> Iterator[str]:
    """Converters that are not built into a station."""
    return (x.id for x in facts.converters if x in facts.design.stages)


def hot(facts: Facts) -> Iterator[str]:
    """Converters and inverters that are not built into a station."""
    yield from converters(facts)
    yield from (x.id for x in facts.inverters if x in facts.design.stages)


def vehicles(facts: Facts) -> Iterator[str]:
    """Every vehicle."""
    return (store.id for store in facts.design.stores if isinstance(store, Vehicle))


def heavy(facts: Facts) -> Iterator[str]:
    """Banks and stations in a vehicle or boat."""
    if facts.design.setting.place in ("vehicle", "boat"):
        yield from (store.id for store in facts.design.stores if isinstance(store, Bank | Station))


def medical(facts: Facts) -> Iterator[str]:
    """Loads on which a person's health depends."""
    return depending(facts, "a person")


def animals(facts: Facts) -> Iterator[str]:
    """Loads on which an animal's life depends."""
    return depending(facts, "an animal")


def depending(facts: Facts, who: Depends) -> Iterator[str]:
    """Loads on which somebody depends."""
    return (load.id for load in facts.design.loads if depends_on(load) == who)


def large(facts: Facts) -> Iterator[str]:
    """Runs with large currents."""
    return (x.run.subject for x in facts.cables.values() if x.lead_a > LARGE_A)


def series_feeding(facts: Facts) -> Iterator[str]:
    """Banks in series that feed something."""
    sources = {feeding.source for feeding in facts.feedings.values()}
    return (bank.id for bank in facts.banks if bank.series > 1 and bank.id in sources)


def burning(facts: Facts) -> Iterator[str]:
    """What burns fuel beside the system: engines, and heaters and generators by their name."""
    yield from vehicles(facts)
    yield from (load.id for load in facts.design.loads if BURNS_FUEL.search(load.name))


def lithium(facts: Facts) -> Iterator[str]:
    """Every lithium store."""
    return (x.id for x in facts.held if chemistry_of(x.battery).lithium)


def posts(facts: Facts) -> Iterator[str]:
    """What can be short-circuited: banks, DC ports of stations, vehicles."""
    yield from banks(facts)
    yield from vehicles(facts)
    for store in facts.design.stores:
        if isinstance(store, Station) and any(x.kind == "dc" for x in store.outlets):
            yield store.id


def fed_or_on_vehicle(facts: Facts) -> Iterator[str]:
    """Links, and what hangs on a vehicle's rail."""
    yield from fed(facts)
    on_vehicle = set(vehicles(facts))
    for thing in (*facts.design.stages, *facts.design.loads):
        if thing.rail in on_vehicle:
            yield thing.id


def panels(facts: Facts) -> Iterator[str]:
    """Stations with an input that says it is for panels."""
    for store in facts.design.stores:
        if isinstance(store, Station):
            names = [x for port in store.inputs for x in (port.name, *(m.name for m in port.modes))]
            if any(PANELS.search(name) for name in names):
                yield store.id


def arcs(facts: Facts) -> Iterator[str]:
    """Banks whose volts hold an arc where a switch opens."""
    return (bank.id for bank in facts.banks if facts.rests[bank.id].full_v > ARC_V)


def wet(facts: Facts) -> Iterator[str]:
    """Banks and stations where it may be wet."""
    boat = facts.design.setting.place == "boat"
    for store in facts.design.stores:
        if isinstance(store, Bank | Station) and (boat or store.location == "outside"):
            yield store.id


def sealed_in_box(facts: Facts) -> Iterator[str]:
    """Sealed lead-acid in a box."""
    if facts.design.setting.place == "box":
        yield from (bank.id for bank in facts.banks if bank.battery.chemistry == "agm")


def moving(facts: Facts) -> Iterator[str]:
    """Banks in a vehicle or boat."""
    if facts.design.setting.place in ("vehicle", "boat"):
        yield from banks(facts)


def lifted(facts: Facts) -> Iterator[str]:
    """Batteries and stations of some twenty kilograms and more, by their energy."""
    for bank in facts.held:
        one_wh = bank.battery.volts * bank.battery.ah
        if one_wh > (LITHIUM_20_KG_WH if chemistry_of(bank.battery).lithium else LEAD_20_KG_WH):
            yield bank.id


def lived_with(facts: Facts) -> Iterator[str]:
    """Banks and stations in a living space."""
    for store in facts.design.stores:
        if isinstance(store, Bank | Station) and store.location == "living space":
            yield store.id


def with_shore(facts: Facts) -> Iterator[str]:
    """Inverters where shore or house power may be joined."""
    if facts.design.setting.place != "box":
        yield from (x.id for x in facts.inverters if x in facts.design.stages)


def fixed(facts: Facts) -> Iterator[str]:
    """What is installed for good: banks and inverters."""
    yield from banks(facts)
    yield from inverters(facts)

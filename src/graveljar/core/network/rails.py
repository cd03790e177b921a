"""The rails of a design: what makes each, and the volts it may have."""

from dataclasses import dataclass
from typing import Final, Literal

from graveljar.core.components.battery import bank_label
from graveljar.core.components.sunlight import cold_volts, hot_volts
from graveljar.core.model import (
    Bank,
    Converter,
    Design,
    Feed,
    Generator,
    Inverter,
    Mains,
    Station,
    Store,
    Sun,
    Vehicle,
)
from graveljar.core.network.station_expansion import banks_of, stages_of

# Volts of a 12 V vehicle with a smart alternator while it runs; common practice. [V]
VEHICLE_MIN_V: Final = 12.2
VEHICLE_MAX_V: Final = 15.5


@dataclass(frozen=True)
class Rail:
    """A voltage level things are connected to, named by what makes it. [V]

    `low_v` to `high_v` is what it may have from its store's label: empty to full on charge,
    or what a stage holds it at. `parent` is None for a store's own terminals; those `inside` of
    a station cannot be reached, those of solar `panels` only by links.
    """

    id: str
    kind: Literal["ac", "dc"]
    source: Bank | Inverter | Converter | Feed
    parent: str | None
    store: str
    low_v: float
    nominal_v: float
    high_v: float
    inside: bool = False
    panels: bool = False


def rails_of(design: Design) -> dict[str, Rail]:
    """Every rail by id: stores first, then stages, each after the rail it is connected to."""
    rails: dict[str, Rail] = {}
    for bank, store in zip(banks_of(design), design.stores, strict=True):
        rails[bank.id] = _own(design, store, bank)
    waiting = list(stages_of(design))
    while waiting:
        stage = waiting.pop(0)
        parent = rails.get(stage.rail)
        if parent is None:
            waiting.append(stage)
            continue
        rails[stage.id] = made_by(stage, parent)
    return rails


def _own(design: Design, store: Store, bank: Bank) -> Rail:
    """The rail of a store's own terminals."""
    rest = bank_label(bank)
    low_v, high_v = rest.empty_v, rest.full_v
    match store:
        case Vehicle():
            # While its engine runs; what its charging system may hold at most.
            low_v = min(VEHICLE_MIN_V * store.nominal_v / 12, store.running_v)
            high_v = store.running_v
            if store.alternator != "fixed":
                high_v = max(high_v, VEHICLE_MAX_V * store.nominal_v / 12)
        case Mains() | Generator():
            low_v = high_v = rest.nominal_v
        case Sun():
            low_v = hot_volts(store, design.setting.hottest_c)
            high_v = cold_volts(store, design.setting.coldest_c)
        case _:
            pass
    return Rail(
        bank.id, "ac" if isinstance(store, Mains | Generator) else "dc", bank, None, bank.id, low_v,
        rest.nominal_v, high_v, inside=isinstance(store, Station), panels=isinstance(store, Sun),
    )  # fmt: skip


def made_by(stage: Inverter | Converter | Feed, parent: Rail) -> Rail:
    """The rail that a stage makes of the one before it."""
    match stage:
        case Inverter(output_v=v):
            return Rail(stage.id, "ac", stage, parent.id, parent.store, v, v, v)
        case Converter(set_v=v, droop_v=droop):
            return Rail(stage.id, "dc", stage, parent.id, parent.store, v - droop, v, v)
        case Feed():
            return Rail(
                stage.id, "dc", stage, parent.id, parent.store,
                parent.low_v, parent.nominal_v, parent.high_v,
            )  # fmt: skip


def way_to_store(rails: dict[str, Rail], rail_id: str) -> list[Rail]:
    """The rails from one to its store, both included."""
    way = [rails[rail_id]]
    while way[-1].parent is not None:
        way.append(rails[way[-1].parent])
    return way

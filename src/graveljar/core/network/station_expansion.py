"""Stores as the engine sees them: each a bank; what is built into a station as stages of it."""

from functools import lru_cache
from typing import Final

from graveljar.core.model import (
    AcOutlet,
    Bank,
    Battery,
    Converter,
    DcPort,
    Design,
    Efficiency,
    Feed,
    Generator,
    Inverter,
    Mains,
    Stage,
    Station,
    Store,
    Sun,
    Vehicle,
    Window,
)
from graveljar.core.tables.chemistry import CHEMISTRIES

# Times its amps that a DC port carries for the moment of a start; common practice. [1]
PORT_PEAK: Final = 1.5
# Resistance of a mains socket and what is before it: some 2 V at 10 A. Common practice. [mOhm]
SOCKET_MOHM: Final = 200.0
# What a station's inner battery gives never leaves the window of its own electronics.
_ANY: Window = Window(least_v=0.1, most_v=1_000.0)


def inner_wh(station: Station) -> float:
    """Energy of a station's cells, empty to full, its expansion modules included. [Wh]

    A measured figure is what came out: the cells hold more by what the station keeps to itself.

    Examples
    --------
    >>> inner_wh(Station(label_wh=512)), inner_wh(Station(measured_wh=475, usable_share=0.95))
    (512.0, 500.0)
    """
    own_wh = station.label_wh
    if station.measured_wh is not None:
        own_wh = station.measured_wh / station.usable_share
    return own_wh + station.module_wh


def as_bank(store: Store, ac_volts: float = 230.0) -> Bank:
    """A store as a bank of one battery, mains of so many volts; a bank is one already. [V]"""
    match store:
        case Bank():
            return store
        case Station():
            kind = CHEMISTRIES[store.chemistry]
            volts = store.cells * kind.nominal_v
            battery = Battery.model_construct(
                name=store.name,
                chemistry=store.chemistry,
                volts=volts,
                ah=inner_wh(store) / volts,
                cells=store.cells,
                bms_a=None,
                bms_peak_a=None,
                low_v=None,
                cold_charge=store.cold_charge,
                provenance="measured" if store.measured_wh is not None else store.provenance,
            )
            return Bank.model_construct(
                id=store.id,
                name=store.name,
                battery=battery,
                reserve=1.0 - store.usable_share * (1.0 - store.reserve),
                starts_at=store.starts_at,
                location=store.location,
            )
        case Vehicle():
            # Its own battery only starts it: what it gives comes from the engine.
            battery = Battery.model_construct(
                name=store.name,
                chemistry="agm",
                volts=float(store.nominal_v),
                ah=60.0,
                bms_a=store.limit_a,
                bms_peak_a=store.limit_a,
                low_v=None,
                resistance_mohm=store.cable_mohm,
                provenance=store.provenance,
            )
            return _source(store, battery)
        case Mains():
            return _source(store, _supply(store.name, ac_volts, store.socket_a, SOCKET_MOHM))
        case Generator():
            amps = store.watts / ac_volts
            return _source(store, _supply(store.name, ac_volts, amps, SOCKET_MOHM))
        case Sun():
            # Its volts are those of most power; what it gives is known by the hour.
            volts = store.panel.vmp_v * store.series
            return _source(store, _supply(store.name, volts, None, 0.0))


@lru_cache(maxsize=256)
def _supply(name: str, volts: float, amps: float | None, mohm: float) -> Battery:
    return Battery.model_construct(
        name=name,
        chemistry="agm",
        volts=volts,
        ah=60.0,
        bms_a=amps,
        bms_peak_a=amps,
        low_v=None,
        resistance_mohm=mohm,
        provenance="label",
    )


def _source(store: Vehicle | Mains | Generator | Sun, battery: Battery) -> Bank:
    return Bank.model_construct(
        id=store.id, name=store.name, battery=battery, reserve=1.0, starts_at=1.0
    )


def banks_of(design: Design) -> tuple[Bank, ...]:
    """Every store as a bank, in the document's order."""
    return tuple(as_bank(store, design.setting.ac_volts) for store in design.stores)


def stages_of(design: Design) -> tuple[Stage, ...]:
    """The stages of a design, then those built into its stations."""
    built_in = (
        _built_in(store, outlet)
        for store in design.stores
        if isinstance(store, Station)
        for outlet in store.outlets
    )
    return (*design.stages, *built_in)


def is_built_in(design: Design, stage: Stage) -> bool:
    """Whether a stage belongs to a station."""
    return any(isinstance(store, Station) and store.id == stage.rail for store in design.stores)


def _built_in(station: Station, outlet: AcOutlet | DcPort) -> Stage:
    name = f"{station.name}, {outlet.name}"
    if isinstance(outlet, AcOutlet):
        return Inverter(
            id=outlet.id,
            name=name[:80],
            rail=station.id,
            nominal_v=station.cells * CHEMISTRIES[station.chemistry].nominal_v,
            accepts=_ANY,
            restarts_v=0.1,
            continuous_w=outlet.continuous_w,
            surge_w=outlet.surge_w,
            surge_s=outlet.surge_s,
            waveform=outlet.waveform,
            part_load=outlet.part_load,
            full_load=outlet.full_load,
            idle_w=outlet.idle_w,
            output_v=outlet.volts,
            output_hz=outlet.hz,
            switched=outlet.switched,
            resets=outlet.resets,
            cable_mohm=0.0,
            provenance=station.provenance,
        )
    if outlet.volts is None:
        return Feed(
            id=outlet.id, name=name[:80], rail=station.id, cable_mohm=0.0, cut_v=outlet.cut_v
        )
    return Converter(
        id=outlet.id,
        name=name[:80],
        topology="buck-boost",
        rail=station.id,
        accepts=_ANY,
        restarts_v=0.1,
        set_v=outlet.volts,
        continuous_a=outlet.amps,
        peak_a=PORT_PEAK * outlet.amps,
        resets=outlet.resets,
        full_load=Efficiency(load_share=1.0, efficiency=outlet.efficiency),
        quiescent_w=0.0,
        switched="on with its loads",
        cable_mohm=0.0,
        provenance=station.provenance,
    )

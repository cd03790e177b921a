"""A design of the right kind from what somebody has."""

from typing import Any, Final

from graveljar.core.components.battery import chemistry_of
from graveljar.core.model import (
    AcOutlet,
    Anytime,
    Bank,
    Battery,
    BatteryFigures,
    ByWatts,
    ChargeInput,
    DcPort,
    Design,
    Goal,
    Link,
    Load,
    Mains,
    Setting,
    Station,
    Store,
    Supply,
    Vehicle,
    Window,
)
from graveljar.core.model.loads import LoadWindow
from graveljar.core.model.patch import apply, free_among
from graveljar.core.model.stations import Mode
from graveljar.core.planning.beginnings.have import (
    Have,
    HaveBattery,
    HaveGrown,
    HaveNothing,
    HavePacks,
    HaveRouter,
    HaveStation,
    HaveVehicle,
    Region,
    StationLabel,
)
from graveljar.core.planning.construction import AddLink, build
from graveljar.core.text import number

# Cells in series of packs by the volts of their class; 18 V is 5S, 36 V 10S, 48 V 13S. Common
# practice.
PACK_CELLS: Final = {18: 5, 36: 10, 48: 13}
CELL_V: Final = 3.6
# A tool pack: its own resistance with its contacts, and amps for each of its Ah before its tool
# cuts it off. Common practice: 60 to 100 mOhm for 5S2P. [mOhm], [1/h]
PACK_CELL_MOHM: Final = 16.0
PACK_C: Final = 6.0
# A vehicle's side while its engine runs. Common practice. [V]
RUNNING_V: Final = {12: 13.8, 24: 27.6}
# A backup box: three Li-ion cells, its own draw, and what its supply gives. Common practice. [W]
BOX_IDLE_W: Final = 0.5
BOX_IN_W: Final = 24.0


def begin(have: Have, region: Region) -> Design:
    """A design to go on with.

    Parameters
    ----------
    have : What somebody has, by its label.
    region : Where it is built.

    Returns
    -------
    The design, without loads but for a router's.

    Examples
    --------
    >>> begin(HaveStation(have="station", wh=1000.0), Region()).stores[0].label_wh
    1000.0
    """
    setting = Setting(
        ac_volts=region.ac_volts, ac_hz=region.ac_hz, place=region.place, sizes=region.sizes
    )
    match have:
        case HaveNothing():
            made = _nothing(have)
        case HaveBattery():
            bank = _bank(have.battery, have.series, have.parallel)
            made = Design(name=bank.battery.name, stores=(bank,))
        case HaveStation():
            station = _station(have, region, _dc_input(11.0, 28.0, 8.0, 200.0))
            made = Design(name=station.name, stores=(station,))
        case HaveGrown():
            made = _grown(have, region)
        case HavePacks():
            bank = _packs(have)
            made = Design(name=bank.battery.name, stores=(bank,))
        case HaveVehicle():
            made = _vehicle(have)
        case HaveRouter():
            made = _router(have, region)
    return made.model_copy(update={"setting": setting})


def _nothing(have: HaveNothing) -> Design:
    guess = Battery(name="Battery, to be sized", provenance="guess")
    bank = Bank(name="Bank, to be sized", battery=guess)
    return Design(name="To be sized", stores=(bank,), goal=Goal(hours=have.goal_h))


def _vehicle(have: HaveVehicle) -> Design:
    vehicle = Vehicle(
        name=f"Vehicle, {have.volts} V",
        nominal_v=have.volts,
        running_v=RUNNING_V[have.volts],
        limit_a=have.amps,
    )
    return Design(name=vehicle.name, stores=(vehicle,))


def _bank(battery: BatteryFigures, series: int, parallel: int) -> Bank:
    kind = chemistry_of(Battery.model_validate(battery.model_dump()))
    name = f"{kind.name} {number(battery.volts)} V {number(battery.ah)} Ah"
    mine = Battery.model_validate(battery.model_dump() | {"name": name})
    location: Any = "vented box" if kind.vented else "living space"
    return Bank(
        battery=mine, series=series, parallel=parallel, reserve=kind.reserve, location=location
    )


def _packs(have: HavePacks) -> Bank:
    cells = PACK_CELLS[have.volts]
    pack = Battery(
        name=f"Pack {have.volts} V {number(have.ah)} Ah",
        chemistry="nmc",
        volts=CELL_V * cells,
        ah=have.ah,
        cells=cells,
        bms_a=PACK_C * have.ah,
        # Cells of 2.5 Ah side by side, and contacts.
        resistance_mohm=round(PACK_CELL_MOHM * cells / max(have.ah / 2.5, 1.0), 1),
        provenance="rule of thumb",
    )
    return Bank(name="Packs", battery=pack, series=have.series, parallel=have.parallel)


def _dc_input(least_v: float, most_v: float, amps: float, watts: float) -> ChargeInput:
    return ChargeInput(
        id="dc-in",
        accepts=Window(least_v=least_v, most_v=most_v),
        modes=(Mode(name="One mode", amps=amps),),
        most_w=watts,
    )


def _mains_input(region: Region, watts: float) -> ChargeInput:
    window = Window(least_v=round(0.87 * region.ac_volts), most_v=round(1.09 * region.ac_volts))
    return ChargeInput(
        id="mains", name="Mains input", supply="ac", accepts=window,
        modes=(Mode(name="Mains", amps=10.0),), most_w=watts, plug="mains socket",
        polarity="marked",
    )  # fmt: skip


def _station(label: StationLabel, region: Region, dc_input: ChargeInput) -> Station:
    if label.figures is not None:
        figures = label.figures.model_dump()
        ids: list[str] = []
        for outlet in figures["outlets"]:
            ids.append(free_among({*ids}, f"station-{outlet['id']}"[:36]))
        own = [x | {"id": name} for x, name in zip(figures["outlets"], ids, strict=True)]
        name = f"Power station {number(label.figures.label_wh)} Wh"
        return Station.model_validate(figures | {"name": name, "outlets": own})
    outlets: list[AcOutlet | DcPort] = []
    if label.ac_w:
        outlets.append(
            AcOutlet(
                id="station-ac", volts=region.ac_volts, hz=region.ac_hz,
                continuous_w=label.ac_w, surge_w=max(label.surge_w, label.ac_w),
            )
        )  # fmt: skip
    if label.dc_a:
        outlets.append(DcPort(id="station-12v", amps=label.dc_a))
    lithium = label.chemistry in ("lfp", "nmc")
    return Station(
        name=f"Power station {number(label.wh)} Wh",
        label_wh=label.wh,
        chemistry=label.chemistry,
        # 24 V class inside; of lead-acid a 12 V battery. Common practice.
        cells={"lfp": 8, "nmc": 7}.get(label.chemistry, 6),
        usable_share=0.95 if lithium else 0.5,
        most_in_w=dc_input.most_w + 300.0,
        outlets=tuple(outlets),
        inputs=(dc_input, _mains_input(region, 300.0)),
    )


def _grown(have: HaveGrown, region: Region) -> Design:
    least, most = sorted((have.least_v, have.most_v))
    dc_input = _dc_input(least, most, have.input_a, have.input_w)
    bank = _bank(have.battery, 1, 1)
    stores: tuple[Store, ...] = (_station(have, region, dc_input), bank)
    bare = Design(name="Station with a battery", stores=stores)
    return apply(bare, build(bare, AddLink(ask="link", rail="bank", to="station")).edits)


def _router(have: HaveRouter, region: Region) -> Design:
    port = DcPort(id="box-out", name="Output", volts=have.volts, amps=have.amps, plug="barrel")
    box = Station(
        id="box", name=f"Backup box {number(have.wh)} Wh", label_wh=have.wh, chemistry="nmc",
        cells=3, usable_share=0.9, idle_w=BOX_IDLE_W, most_in_w=BOX_IN_W, charge_efficiency=0.9,
        outlets=(port,), inputs=(_mains_input(region, BOX_IN_W),),
    )  # fmt: skip
    router = Load(
        id="router", name="Router", rail="box-out", supply=Supply(kind="dc", volts=have.volts),
        demand=ByWatts(watts=have.router_w), when=Anytime(hours=24.0), priority="must",
        window=LoadWindow(cut_out_v=0.75 * have.volts, most_v=1.25 * have.volts),
        nature="electronics",
    )  # fmt: skip
    link = Link(id="supply", name="Its supply", rail="mains", to="box", input="mains")
    return Design(
        name="Router that stays on", goal=Goal(hours=have.outage_h),
        stores=(box, Mains()), links=(link,), loads=(router,),
    )  # fmt: skip

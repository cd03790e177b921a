"""Stores: what is asked for as edits to the document."""

from typing import Any

from graveljar.core.model import (
    AcOutlet,
    Bank,
    Battery,
    ChargeInput,
    Charger,
    DcPort,
    Design,
    Generator,
    Inverter,
    Link,
    Mains,
    Station,
    Sun,
    Vehicle,
    Window,
)
from graveljar.core.model.patch import Edit, apply, free_id
from graveljar.core.model.references import store_of
from graveljar.core.model.stations import Mode
from graveljar.core.planning.construction.asks import (
    AddLink,
    AddRefill,
    AddStore,
    RemoveStore,
)
from graveljar.core.planning.construction.built import BuildResult, refused
from graveljar.core.planning.construction.links import add_link
from graveljar.core.tables.usual_ports import INPUTS, PORTS

# What an alternator can spare for a second battery, and the cable to it; common practice, to be
# replaced by what is there. [A], [mOhm]
ENGINE_A = 40.0
ENGINE_MOHM = 5.0
# A vehicle's own battery and alternator, to be replaced by what is there: volts while the engine
# runs, and the charge from which it still starts. Common practice. [V], [A], [Ah], [mOhm], [1]
STARTER_V = 14.4
ALTERNATOR_A = 90.0
STARTER_AH = 70.0
STARTER_MOHM = 8.0
STARTS_AT = 0.5
# A station nobody described: one AC outlet, one DC port, a DC and a mains input. Ours.
BLANK_OUTLETS = (AcOutlet(id="ac"), DcPort(id="dc-12v"))
BLANK_INPUTS = (
    ChargeInput(
        id="dc-in",
        modes=(
            Mode(name="Car", amps=8.0, chosen_by="connector"),
            Mode(name="Solar", amps=12.0, chosen_by="connector"),
        ),
        most_w=200.0,
    ),
    ChargeInput(
        id="mains",
        name="Mains input",
        supply="ac",
        accepts=Window(least_v=200.0, most_v=250.0),
        modes=(Mode(name="Mains", amps=10.0),),
        most_w=300.0,
        plug="mains socket",
        polarity="marked",
    ),
)


def usual_ports() -> dict[str, DcPort]:
    """DC ports that stations usually have, by what they are called."""
    return {
        word: DcPort.model_validate(
            {"id": "port", "name": name, "volts": volts, "amps": amps, "plug": plug}
        )
        for word, name, volts, amps, plug in PORTS
    }


def usual_inputs() -> dict[str, ChargeInput]:
    """Charge inputs that stations usually have, by what they are called."""
    found = {
        name: ChargeInput(
            id="input",
            name=name.split(",", maxsplit=1)[0],
            accepts=Window(least_v=least_v, most_v=most_v),
            modes=(Mode(name="One mode", amps=amps),),
            most_w=watts,
        )
        for name, least_v, most_v, amps, watts in INPUTS
    }
    return found | {"Mains input": BLANK_INPUTS[1]}


def blank_outlets(ac_volts: float) -> tuple[AcOutlet | DcPort, ...]:
    """The outlets of a station nobody described, in a place with so many volts of mains. [V]"""
    ac, dc = BLANK_OUTLETS
    return ac.model_copy(update={"volts": ac_volts}), dc


def blank_inputs(ac_volts: float) -> tuple[ChargeInput, ...]:
    """Its inputs, the mains one for the volts of the place. [V]"""
    dc, ac = BLANK_INPUTS
    window = Window(least_v=round(0.87 * ac_volts), most_v=round(1.09 * ac_volts))
    return dc, ac.model_copy(update={"accepts": window})


def add_store(design: Design, ask: AddStore) -> BuildResult:
    """A store more, behind the others."""
    if ask.what == "starter":
        return _engine(design, ask)
    new_id = free_id(design, ask.what)
    match ask.what:
        case "bank":
            figures = ask.battery.model_dump(mode="json") if ask.battery else {}
            battery = Battery().model_dump(mode="json") | figures
            battery |= {"name": ask.name or "Battery", "shelf": _copy(ask)}
            new = Bank(id=new_id, name=ask.name or "Bank").model_dump(mode="json")
            new["battery"] = battery
        case "station":
            new = _station(design, ask, new_id)
        case "vehicle":
            new = Vehicle(id=new_id, name=ask.name or "Vehicle").model_dump(mode="json")
        case "mains":
            new = Mains(id=new_id, name=ask.name or "Mains socket").model_dump(mode="json")
        case "generator":
            new = Generator(id=new_id, name=ask.name or "Generator").model_dump(mode="json")
        case "sun":
            new = Sun(id=new_id, name=ask.name or "Solar panel").model_dump(mode="json")
    edits = (Edit("add", "/stores/-", new),)
    apply(design, edits)
    return BuildResult(f"add {new['name']}", (), new_id, (), edits)


def _engine(design: Design, ask: AddStore) -> BuildResult:
    """A vehicle with the battery that starts it, and the alternator between them."""
    engine = Vehicle(
        id=free_id(design, "engine"),
        name=ask.name or "Engine",
        running_v=STARTER_V,
        limit_a=ALTERNATOR_A,
        alternator_a=ALTERNATOR_A,
        taken_from="battery post",
        cable_mohm=0.0,
    )
    battery = Battery(
        name="Starter battery, 12 V AGM",
        chemistry="agm",
        volts=12.0,
        ah=STARTER_AH,
        bms_a=None,
        resistance_mohm=STARTER_MOHM,
    )
    bank = Bank(
        id=free_id(design, "starter"),
        name="Starter battery",
        battery=battery,
        reserve=STARTS_AT,
        use="starter",
        location="outside",
    )
    alternator = Charger(
        kind="alternator",
        profile="set by hand",
        amps=ALTERNATOR_A,
        hold_v=STARTER_V,
        accepts=Window(least_v=9.0, most_v=16.0),
        efficiency=1.0,
        idle_w=0.0,
    )
    link = Link(
        id=free_id(design, "alternator"),
        name="Alternator",
        rail=engine.id,
        to=bank.id,
        cable_mohm=0.0,
        charger=alternator,
    )
    edits = (
        Edit("add", "/stores/-", engine.model_dump(mode="json")),
        Edit("add", "/stores/-", bank.model_dump(mode="json")),
        Edit("add", "/links/-", link.model_dump(mode="json")),
    )
    apply(design, edits)
    says = (
        "An engine, the battery that starts it, and its alternator. Set their amps, or the watts "
        "of a hybrid's DC-DC converter, as labelled.",
    )
    return BuildResult(f"add {bank.name}", says, bank.id, (), edits)


def _copy(ask: AddStore) -> dict[str, Any] | None:
    return None if ask.shelf is None else ask.shelf.model_dump(mode="json")


def _station(design: Design, ask: AddStore, new_id: str) -> dict[str, Any]:
    blank = Station(
        id=new_id,
        name=ask.name or "Power station",
        outlets=blank_outlets(design.setting.ac_volts),
        inputs=blank_inputs(design.setting.ac_volts),
        provenance="label" if ask.station else "rule of thumb",
    )
    figures = ask.station.model_dump(mode="json") if ask.station else {}
    new = blank.model_dump(mode="json") | figures | {"shelf": _copy(ask)}
    # Its outlets make rails of the design: ids that nothing else has.
    for outlet in new["outlets"]:
        outlet["id"] = free_id(design, f"{new_id}-{outlet['id']}"[:36])
    return new


def remove_store(design: Design, ask: RemoveStore) -> BuildResult:
    """A store away with all that is connected to it."""
    store = next((x for x in design.stores if x.id == ask.store), None)
    if store is None:
        raise refused("/store", f"“{ask.store}” is not a store here.")
    if len(design.stores) == 1:
        raise refused("/store", f"{store.name} is the only store; a design needs one.")
    moved = tuple(
        load.id
        for load in design.loads
        if load.rail is not None and store_of(design, load.rail) == store.id
    )
    edits = [
        Edit("replace", f"/loads/{i}/rail", None)
        for i, load in enumerate(design.loads)
        if load.id in moved
    ]
    edits += _let_go(design, store.id)
    # From the last on, so that places hold.
    for part, things in (("links", design.links), ("stages", design.stages)):
        for i in reversed(range(len(things))):
            thing = things[i]
            to_it = isinstance(thing, Link) and thing.to == store.id
            if to_it or store_of(design, thing.rail) == store.id:
                edits.append(Edit("remove", f"/{part}/{i}"))
    edits.append(Edit("remove", f"/stores/{design.stores.index(store)}"))
    names = {load.id: load.name for load in design.loads}
    says = tuple(f"{names[x]} is not connected now." for x in moved)
    apply(design, edits)
    return BuildResult(f"remove {store.name}", says, "", moved, tuple(edits))


def _let_go(design: Design, store: str) -> list[Edit]:
    """What names a store that goes, or a link of it, without being connected to it."""
    gone = {x.id for x in design.links if x.to == store or store_of(design, x.rail) == store}
    return [
        Edit("replace", f"/stages/{i}/transfer", None)
        for i, stage in enumerate(design.stages)
        if isinstance(stage, Inverter) and stage.transfer == store
    ] + [
        Edit("replace", f"/links/{i}/charger/shares_with", None)
        for i, link in enumerate(design.links)
        if link.charger is not None and link.charger.shares_with in gone
    ]


def add_refill(design: Design, ask: AddRefill) -> BuildResult:
    """A source, and the link from it into a store."""
    new_id = free_id(design, ask.what)
    blank: Sun | Vehicle | Mains | Generator
    match ask.what:
        case "sun":
            blank = Sun(id=new_id)
        case "vehicle":
            # From the alternator or the battery post, not from a socket. Ours.
            blank = Vehicle(id=new_id, limit_a=ENGINE_A, cable_mohm=ENGINE_MOHM)
        case "mains":
            blank = Mains(id=new_id)
        case "generator":
            blank = Generator(id=new_id)
    source = Edit("add", "/stores/-", blank.model_dump(mode="json"))
    linked = add_link(apply(design, (source,)), AddLink(ask="link", rail=blank.id, to=ask.to))
    return BuildResult(f"add {blank.name}", linked.says, blank.id, (), (source, *linked.edits))

"""Designs in which something can burn, shock or be destroyed, and near ones that are safe."""

from typing import Any

from tests.building import bank, converter, inverter, lead, load, on_port, station
from tests.core.cases import ALL_DAY, Case, by_car, fed, lead_of, posts, small

# 16S cells of 105 °C cable: what the metric table gives (ISO 10133, memory).
MARKED_105 = {"insulation_c": 105, "installed": "in free air"}


def charging_lead(size: str = "16 mm²", amps: float = 20.0, **rest: Any) -> dict[str, Any]:
    """A cable from a converter into a bank."""
    wired = lead_of(size, **{"fuse": {"amps": 40.0}, **rest})
    return {
        "stores": [bank(), bank(id="outside", ah=200.0, bms_a=200.0)],
        "more": [converter(set_v=14.0, continuous_a=amps, topology="buck-boost", rail="outside")],
        "links": [lead("converter", to="bank", input=None, mode=None, **wired)],
    }


def pack(watts: float, **rest: Any) -> dict[str, Any]:
    """A tool pack that feeds a load which takes what comes, or cuts out."""
    return {
        "loads": [load(watts, volts=18.0, window={"cut_out_v": 9.0, "most_v": 25.0} | rest)],
        "stores": bank("nmc", 18.0, 5.0),
    }


def stepped(name: str, **rest: Any) -> dict[str, Any]:
    """Something behind a modified-sine inverter."""
    return {
        "loads": [load(60.0, name, ac=True, **rest)],
        "stages": inverter(waveform="modified sine"),
    }


def breaker(**rest: Any) -> dict[str, Any]:
    """A bank whose main fuse is a breaker."""
    return posts(fuse={"amps": 125.0, "kind": "breaker", **rest})


def port(plug: str, volts: float) -> dict[str, Any]:
    """A load on a station's port."""
    outlet = {"kind": "dc", "id": "port", "plug": plug, "volts": volts, "amps": 12.0}
    return {
        "stores": [station(outlets=[outlet])],
        "loads": [on_port(20, supply={"kind": "dc", "volts": volts})],
    }


def router(
    of_port: dict[str, Any], *more: dict[str, Any], wants_v: float = 12.0, **of_load: Any
) -> dict[str, Any]:
    """A router of 12 V on a backup box's barrel port."""
    barrel = {"kind": "dc", "id": "port", "plug": "barrel", "volts": 12.0, "amps": 5.0}
    return {
        "stores": [station(outlets=[barrel | of_port, *({"kind": "dc"} | x for x in more)])],
        "loads": [
            on_port(8, supply={"kind": "dc", "volts": wants_v}, polarity="centre positive")
            | of_load
        ],
    }


SECOND = {"id": "other", "volts": 12.0, "polarity": "centre positive"}

TWO_PUMPS = [
    load(150.0, name, ac=True, nature="motor", start={"method": "factor", "factor": 6.0})
    for name in ("pump", "blower")
]

SAFETY_CASES = [
    # Reversed polarity destroys electronics at once (common practice); another port has it right.
    Case(
        "station.port_reversed",
        "stop",
        router({"polarity": "centre negative"}, SECOND),
        router({"polarity": "centre positive"}, SECOND),
    ),
    # 16.5 V are above the 16 V that 12 V equipment bears at most (ISO 16750-2, memory); 15 are not.
    Case(
        "station.port_switch",
        "watch",
        router({"selects_v": [9.0, 12.0, 16.5, 20.0]}),
        router({"selects_v": [9.0, 12.0, 15.0]}),
    ),
    Case(
        "station.port_plug",
        "note",
        router({}, plug="USB"),
        router({}, plug="barrel"),
    ),
    # A switch that offers the 20 V of a laptop solves it; without the setting nothing there does.
    Case(
        "load.too_few_volts",
        "fix",
        router({"selects_v": [12.0, 16.5, 20.0, 24.0]}, wants_v=20.0),
        router({"selects_v": [12.0, 16.5, 20.0, 24.0], "volts": 20.0}, wants_v=20.0),
    ),
    # Lead-acid over 0.5C is watched, over 1C it is the wrong battery (common practice). At
    # 10.5 V empty 100 Ah gives 525 W at 0.5C, 1 050 W at 1C.
    Case("bank.strained", "watch", {"loads": [load(560)], "stores": bank("agm", 12.0)},
         {"loads": [load(500)], "stores": bank("agm", 12.0)}),
    Case("bank.strained", "fix", {"loads": [load(1100)], "stores": bank("agm", 12.0)},
         {"loads": [load(500)], "stores": bank("agm", 12.0)}),
    # Half full it freezes from -25 °C on, full from -50 (memory): at 64 %, where its reserve lies
    # in such cold, from -32.
    Case("bank.freezes", "fix",
         {"loads": [load(60, **ALL_DAY)], "stores": bank("agm", 12.0), "ambient_c": -34.0},
         {"loads": [load(60, **ALL_DAY)], "stores": bank("agm", 12.0), "ambient_c": -30.0}),
    # 15.5 to 16 V (common practice), more than the inverter's 15 V.
    Case("bank.equalising", "note",
         {"stores": bank("flooded", 12.0, location="outside"), "stages": inverter()},
         {"stores": bank("flooded", 12.0, location="outside"),
          "stages": inverter(accepts={"least_v": 10.0, "most_v": 16.5})}),
    # 25 W all day are 600 Wh, of 12 V 100 Ah; 4 A at 14 V bring 56 W, 0.5 A bring 7 W.
    Case("bank.never_full", "watch",
         {"loads": [load(25, **ALL_DAY)],
          **charging_lead(amps=0.5),
          "stores": [bank("agm", 12.0), bank(id="outside", ah=2000.0)]},
         {"loads": [load(5, **ALL_DAY)],
          **charging_lead(),
          "stores": [bank("agm", 12.0), bank(id="outside", ah=2000.0)]}),
    # 2.75 V a cell is 13.75 V.
    Case("bank.no_cut_off", "fix", pack(20), pack(20, cut_out_v=14.0)),
    # 5 Ah: 1C is 5 A, at 13.75 V 69 W.
    Case("bank.high_rate", "watch", pack(80, cut_out_v=14.0), pack(60, cut_out_v=14.0)),
    Case("bank.bms_cuts", "watch",
         {"loads": [load(60, **ALL_DAY)], "stores": bank(reserve=0.0)},
         {"loads": [load(60, **ALL_DAY)], "stores": bank(reserve=0.1)}),
    # From 0 to 10 °C about 0.2C: 20 A of 100 Ah.
    Case("bank.lithium_cool", "watch",
         {**charging_lead(amps=30.0), "ambient_c": 5.0},
         {**charging_lead(), "ambient_c": 11.0}),
    # 17S LFP is 62.05 V when full, 16S 58.4 V; wet 30 V (IEC 61140, memory).
    Case("bank.touchable", "watch", {"stores": bank(volts=54.4)}, {"stores": bank(volts=51.2)}),
    Case("bank.touchable", "watch", {"stores": bank(volts=28.8, location="outside")},
         {"stores": bank(volts=28.8)}),
    Case("bank.touchable", "watch",
         {"more": [converter(set_v=62.0, topology="boost")]},
         {"more": [converter(set_v=58.0, topology="boost")]}),
    Case("bank.too_many", "fix", {"stores": bank(volts=6.4, series=5)},
         {"stores": bank(volts=6.4, series=4)}),
    # Conductors side by side from 50 mm² on (NEC 310.10(G), memory).
    Case("cable.thin_parallel", "fix",
         small(cable={"length_m": 1.0, "size": "35 mm²", "leads": 2}),
         small(cable={"length_m": 1.0, "size": "50 mm²", "leads": 2})),
    # 10 mm² of 105 °C cable bears 90 A by the metric table, 80.7 A at 90 °C; 87.6 A flow.
    Case("cable.hot_terminals", "watch",
         small(cable={"length_m": 1.0, "size": "10 mm²", **MARKED_105}, fuse_a=90.0),
         small(cable={"length_m": 1.0, "size": "16 mm²", **MARKED_105})),
    # 0.5 mm² has no row in the metric table.
    Case("cable.unknown_ampacity", "watch",
         {"loads": [load(5, **lead_of("0.5 mm²", fuse={"amps": 2.0}))]},
         {"loads": [load(5, **lead_of("0.75 mm²", fuse={"amps": 2.0}))]}),
    Case("fuse.none_before", "stop", {"loads": [load(30, **lead_of("2.5 mm²"))]},
         {"loads": [load(30, **lead_of("2.5 mm²", fuse={"amps": 5.0}))]}),
    # From behind 100 Ah some 3.6 kA can flow into the cable; 40 A is less than it bears.
    Case("fuse.battery_end", "stop", charging_lead(),
         charging_lead(end_fuse={"amps": 40.0, "kind": "class-t"})),
    # A blade there interrupts 1 kA (ISO 8820-3, memory).
    Case("fuse.battery_end", "stop", charging_lead(end_fuse={"amps": 40.0, "kind": "blade"}),
         charging_lead(end_fuse={"amps": 40.0, "kind": "blade", "breaks_a": 5_000.0})),
    # Class T, or 10 kA stated (ABYC E-13, memory).
    Case("fuse.weak_main", "fix", posts(fuse={"amps": 150.0, "kind": "stud"}),
         posts(fuse={"amps": 150.0, "kind": "stud", "breaks_a": 10_000.0})),
    Case("fuse.breaker_unsaid", "watch", breaker(), breaker(volts=60.0, breaks_a=10_000.0)),
    Case("fuse.breaker_both_ways", "watch",
         {**charging_lead(), "stores": [breaker()["stores"], bank(id="outside")]},
         {**charging_lead(), "stores": [posts()["stores"], bank(id="outside")]}),
    Case("fuse.too_far", "watch",
         posts(fuse={"amps": 150.0, "from_post_m": 0.5},
               cable={"length_m": 1.0, "size": "70 mm²"}),
         posts()),
    Case("disconnect.none", "note", posts(), posts(disconnect={"amps": 200.0})),
    # 87.6 A want 110 A.
    Case("disconnect.too_small", "fix", posts(disconnect={"amps": 100.0}),
         posts(disconnect={"amps": 150.0})),
    Case("disconnect.volts_too_low", "stop",
         {"stores": bank(volts=51.2, leads={"disconnect": {"amps": 300.0}})},
         {"stores": bank(volts=51.2, leads={"disconnect": {"amps": 300.0, "volts": 60.0}})}),
    Case("inverter.stepped_may_harm", "watch", stepped("phones", nature="charger"),
         stepped("kettle", nature="heating")),
    Case("inverter.stepped_may_harm", "watch", stepped("blanket", nature="heating"),
         stepped("heater", nature="heating")),
    # 150 W x 6 = 900 W each: one after the other 1 050 W, both at once 1 800 W.
    Case("inverter.all_restart", "watch",
         {"loads": TWO_PUMPS, "stages": inverter(continuous_w=800.0)},
         {"loads": TWO_PUMPS, "stages": inverter(continuous_w=1000.0)}),
    Case("inverter.pre_charge", "note", {"stages": inverter(continuous_w=2000.0)},
         {"stages": inverter(continuous_w=1500.0)}),
    Case("link.plain_relay", "stop",
         {"stores": [bank(), {"kind": "vehicle"}],
          "links": [lead("vehicle", to="bank", input=None, mode=None)]},
         {"stores": [bank("agm", 12.0), {"kind": "vehicle"}],
          "links": [lead("vehicle", to="bank", input=None, mode=None)]}),
    # 420 W at 28 V are 15 A; a barrel of 8 mm carries 8 to 10 A (common practice).
    Case("station.plug_hot", "fix", fed(of_station={"plug": "barrel"}),
         fed(of_station={"plug": "barrel"}, of_link={"mode": "Car"})),
    Case("station.usb_negotiates", "note", port("USB", 20.0), port("USB", 5.0)),
    # A smart alternator reaches 15.5 V (common practice): more than a 15 V inverter takes.
    Case("inverter.above_maximum", "stop",
         {**by_car(), "stages": inverter(rail="vehicle")},
         {**by_car(alternator="fixed"), "stages": inverter(rail="vehicle")}),
]  # fmt: skip

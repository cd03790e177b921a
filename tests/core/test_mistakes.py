"""Designs by people who make mistakes: the program says first what a competent electrician would.

Each is a mistake the trade knows (common practice), with what is said of it first.
"""

from typing import Any

import pytest

from tests.building import bank, converter, evaluated, inverter, lead, load, on_port, station
from tests.core.cases import ALL_DAY, by_car, by_mains, fed, lead_of, posts, small

START: dict[str, Any] = {"method": "factor", "factor": 6.0}
DAY = ALL_DAY
INTO_58 = {"least_v": 12.0, "most_v": 58.0}


def fridge(watts: float = 90.0, **rest: Any) -> Any:
    return load(watts, "fridge", ac=True, nature="compressor", start={"method": "factor"}, **rest)


def charged(**rest: Any) -> dict[str, Any]:
    """A bank that a 14.4 V converter on another one fills."""
    return {
        "stores": [bank(), bank(id="outside", ah=300.0, bms_a=300.0)],
        "more": [converter(set_v=14.4, continuous_a=20.0, topology="buck-boost", rail="outside")],
        "links": [lead("converter", to="bank", input=None, mode=None)],
        **rest,
    }


# What somebody builds, and what is said first.
MISTAKES: list[tuple[str, dict[str, Any], str]] = [
    ("a scooter pack of 14 cells into a 58 V input",
     {"stores": [station(accepts=INTO_58), bank("nmc", 51.8, id="outside")],
      "links": [lead("outside")]}, "link.above_maximum"),
    ("a “48 V” pack whose cells nobody counted into a 58 V input",
     {"stores": [station(accepts=INTO_58), bank("nmc", 48.0, id="outside")],
      "links": [lead("outside")]}, "link.above_maximum"),
    ("36 V into a 28 V input", fed(of_boost={"set_v": 36.0}, of_station={"accepts": {
        "least_v": 11.0, "most_v": 28.0}}), "link.above_maximum"),
    ("a 4S Li-ion pack on a 12 V inverter", {"stores": bank("nmc", 14.8), "stages": inverter()},
     "inverter.above_maximum"),
    ("a 24 V bank on a 12 V inverter", {"stores": bank(volts=25.6), "stages": inverter()},
     "inverter.above_maximum"),
    ("a 12 V inverter of 15 V on a car with a smart alternator",
     {**by_car(), "stages": inverter(rail="vehicle")}, "inverter.above_maximum"),
    ("a 5 V device on 12 V", {"loads": [load(5, "tablet", volts=5.0)]}, "load.too_many_volts"),
    ("16.8 V on a 12 V router",
     {"stores": bank("nmc", 14.8), "loads": [load(5, "router", nature="electronics")]},
     "load.too_many_volts"),
    ("a cell pack without a BMS", {"stores": bank("nmc", 11.1, bms_a=None), "loads": [load(20)]},
     "bank.no_protection"),
    ("an electric vehicle's traction pack", {"stores": bank("nmc", 351.0), "loads": []},
     "bank.above_extra_low"),
    ("flooded batteries under the bed", {"stores": bank("flooded", 12.0), "loads": [load(20)]},
     "bank.vented_indoors"),
    ("lithium charged in frost", charged(ambient_c=-5.0), "bank.lithium_in_frost"),
    ("a 2.5 mm² cable straight on 200 Ah of lithium",
     {"stores": bank(ah=200.0, bms_a=200.0), "loads": [load(60, **lead_of("2.5 mm²"))]},
     "fuse.none_before"),
    ("a thin charging lead into a bank, fused at the converter only",
     charged(links=[lead("converter", to="bank", input=None, mode=None,
                         **lead_of("4 mm²", fuse={"amps": 25.0}))]), "fuse.battery_end"),
    ("a blade fuse at the post of 50 Ah of lithium",
     {"stores": bank(ah=50.0, bms_a=50.0, leads=lead_of("16 mm²", 0.3, fuse={
         "amps": 40.0, "kind": "blade"})), "loads": [load(100)]}, "fuse.breaks_too_little"),
    ("a strip fuse on a 48 V bank",
     {"stores": bank(volts=51.2, leads={"fuse": {"amps": 100.0, "kind": "link"}}),
      "loads": [load(100, volts=48.0)]}, "fuse.volts_too_low"),
    ("a fuse larger than its cable", small(fuse_a=300.0, of_fuse={"kind": "class-t"}),
     "fuse.above_cable"),
    ("the van's fridge on the 250 A main fuse and 2.5 mm²",
     {"stores": posts()["stores"], "loads": [load(50, **lead_of("2.5 mm²"))]}, "fuse.above_cable"),
    ("leads of a bank without a main fuse", {"stores": bank(leads=lead_of("50 mm²", 0.4))},
     "fuse.no_main"),
    ("a lead that is too thin for its inverter", small("10 mm²", 60.0, of_fuse={"kind": "class-t"}),
     "cable.under_ampacity"),
    ("a battery switch without DC volts on 48 V",
     {"stores": bank(volts=51.2, leads={"disconnect": {"amps": 200.0},
                                        "fuse": {"amps": 150.0, "kind": "class-t"}})},
     "disconnect.volts_too_low"),
    ("a lithium bank on a relay from the alternator",
     {"stores": [bank(), {"kind": "vehicle", "alternator": "fixed", "running_v": 14.4}],
      "links": [lead("vehicle", to="bank", input=None, mode=None)]}, "link.plain_relay"),
    ("a plain converter to fill a bare battery", charged(), "link.no_charger"),
    ("1 500 W from one 100 A battery",
     {"loads": [load(1300, ac=True)], "stages": inverter(continuous_w=1600.0)},
     "bank.current_above_limit"),
    ("a motor that starts above what the battery gives",
     {"loads": [load(350, "pump", start=START)]}, "bank.start_above_peak"),
    ("a kettle and a heater on one small inverter",
     {"stores": bank(ah=300.0, bms_a=300.0), "loads": [load(900, "kettle", ac=True),
      load(700, "heater", ac=True)], "stages": inverter()}, "inverter.overloaded"),
    ("a fridge's start on a 300 W inverter",
     {"loads": [fridge(150.0)], "stages": inverter(continuous_w=300.0, surge_w=900.0)},
     "inverter.start_above_surge"),
    ("a compressor on modified sine",
     {"loads": [fridge(60.0)], "stages": inverter(waveform="modified sine")},
     "inverter.stepped_wave"),
    ("a breathing machine on modified sine",
     {"loads": [load(40, "bipap", ac=True, **DAY)],
      "stages": inverter(waveform="modified sine")}, "inverter.stepped_wave"),
    ("a 24 V inverter on 12 V",
     {"stages": inverter(nominal_v=24.0, accepts={"least_v": 21.0, "most_v": 30.0})},
     "inverter.never_starts"),
    ("a router on an inverter that sleeps",
     {"loads": [load(8, "router", ac=True, **DAY)],
      "stages": inverter(sleep={"watts": 2.0, "threshold_w": 20.0})}, "inverter.sleeps_through"),
    ("a 60 Hz motor on 50 Hz", {"loads": [load(60, "fan", ac=True, nature="motor")],
     "stages": inverter(output_hz=60)}, "inverter.other_frequency"),
    ("196 A out of 100 Ah of AGM",
     {"stores": bank("agm", 12.0), "loads": [load(2000, hours_per_day=0.1)]}, "bank.strained"),
    ("lead-acid run flat by a lamp",
     {"stores": bank("agm", 12.0, reserve=0.0), "loads": [load(20, **DAY)]}, "bank.run_flat"),
    ("AGM left half empty in arctic frost",
     {"stores": bank("agm", 12.0), "loads": [load(20, **DAY)], "ambient_c": -38.0},
     "bank.freezes"),
    ("a tool pack that nothing stops",
     {"stores": bank("nmc", 18.0, 5.0, bms_a=20.0),
      "loads": [load(30, volts=18.0, window={"cut_out_v": 8.0, "most_v": 22.0})]},
     "bank.no_cut_off"),
    ("eight batteries in series", {"stores": bank(volts=6.4, series=8), "loads": []},
     "bank.too_many"),
    ("two 9 mm² leads in place of one",
     small(cable={"length_m": 0.5, "size": "25 mm²", "leads": 2}, fuse_a=60.0),
     "cable.thin_parallel"),
    ("a stud fuse as the main one of a lithium bank",
     posts(fuse={"amps": 150.0, "kind": "stud", "from_post_m": 0.1}), "fuse.weak_main"),
    ("a main fuse at the end of a long lead",
     posts(fuse={"amps": 150.0, "kind": "class-t", "from_post_m": 1.5}), "fuse.too_far"),
    ("20 A through a vehicle socket", {"loads": [load(240, connector="vehicle-socket-10")]},
     "connector.above_class"),
    ("50 A through a pack connector labelled 60 A",
     {"loads": [load(500, connector="pack-60")]}, "connector.above_class"),
    ("a station fed in its car mode", fed(of_link={"mode": "Car"}), "link.wrong_mode"),
    ("a 12 V battery straight into an input that only steps down",
     fed(of_station={"steps_down_only": True}, of_boost={"set_v": 24.0}), "link.never_charges"),
    ("15 A at 28 V out of a 20 A fuse", fed(of_boost={"fuse": {"amps": 20.0, "kind": "class-t"}}),
     "link.source_current"),
    ("a station on mains from a small inverter", by_mains(mains_w=500.0), "link.overload_trap"),
    ("a converter that drains the starter battery", by_car(signal="none"),
     "vehicle.no_engine_signal"),
    ("a heater on a car's socket", by_car(300), "vehicle.current_above_limit"),
    ("a fridge with a high cut-out on a bank that sags",
     {"loads": [load(45, "fridge", nature="compressor", window={"cut_out_v": 12.6, "most_v": 15.0},
                     **DAY)]}, "window.strands"),
    ("a night of a breathing machine on too small a bank",
     {"loads": [load(60, "cpap", nature="medical", priority="must", **DAY)], "goal": {"hours": 48}},
     "run.day_above_usable"),
    ("a USB hub on a station's 10 A socket taken for 20 A",
     {"stores": [station(outlets=[{"kind": "dc", "id": "port", "amps": 20.0}])],
      "loads": [on_port(180)]}, "station.plug_hot"),
]  # fmt: skip


@pytest.mark.parametrize(
    ("built", "first"), [(case[1], case[2]) for case in MISTAKES], ids=[x[0] for x in MISTAKES]
)
def test_the_gravest_mistake_is_said_first(built: dict[str, Any], first: str) -> None:
    loads = built.get("loads", ())
    rest = {key: value for key, value in built.items() if key != "loads"}
    found = evaluated(*loads, **rest).findings
    assert found[0].code == first, [(x.severity, x.code) for x in found[:4]]


def test_there_are_fifty() -> None:
    assert len({built for built, _, _ in MISTAKES}) >= 50

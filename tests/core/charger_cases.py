"""Designs that bring up the findings on chargers and panels, and near ones that do not."""

from typing import Any

from tests.building import bank, load, station
from tests.core.cases import Case


def charged(store: Any = None, **charger: Any) -> dict[str, Any]:
    """A bank charged from the mains."""
    into = {"kind": "mains charger", "accepts": {"least_v": 90.0, "most_v": 265.0}}
    return {
        "stores": [store or bank(), {"kind": "mains"}],
        "links": [{"id": "cord", "rail": "mains", "to": "bank", "charger": into | charger}],
    }


def sunny(store: Any = None, week: Any = None, of_charger: Any = None, **sun: Any) -> Any:
    """A bank charged by solar panels."""
    charger = {"kind": "MPPT controller", "accepts": {"least_v": 15.0, "most_v": 100.0}}
    return {
        "stores": [store or bank(), {"kind": "sun", **sun}],
        "links": [
            {"id": "cord", "rail": "sun", "to": "bank", "charger": charger | (of_charger or {})}
        ],
        "week": week or {},
    }


def by_generator(watts: float, **more: Any) -> dict[str, Any]:
    """A bank charged with some 400 W from a generator of so many watts."""
    made = charged(amps=25.0, idle_w=0.0, efficiency=0.9)
    made["stores"][1] = {"kind": "generator", "id": "mains", "watts": watts, **more}
    return made


def driven(alternator_a: float, hours: float = 2.0, **of_car: Any) -> dict[str, Any]:
    """A bank charged with 30 A of an engine: some 34 A out of it."""
    runs = {"kind": "windows", "windows": [{"from_h": 9.0, "to_h": 9.0 + hours}]}
    car = {"kind": "vehicle", "limit_a": 90.0, "alternator_a": alternator_a, "runs": runs}
    charger = {"amps": 30.0, "efficiency": 0.9, "idle_w": 0.0}
    return {
        "stores": [bank(), car | of_car],
        "links": [{"id": "cord", "rail": "vehicle", "to": "bank", "charger": charger}],
    }


def past_the_engine(watts: float) -> dict[str, Any]:
    """A starter battery whose engine gives 50 A at 14.4 V, 720 W, all day."""
    runs = {"kind": "windows", "windows": [{"from_h": 0.0, "to_h": 24.0}]}
    charger = {
        "kind": "alternator",
        "profile": "set by hand",
        "amps": 50.0,
        "hold_v": 14.4,
        "accepts": {"least_v": 9.0, "most_v": 16.0},
        "efficiency": 1.0,
        "idle_w": 0.0,
    }
    return {
        "loads": [load(watts, rail="bank", hours_per_day=24.0)],
        "stores": [bank("agm", 12.0, use="starter"),
                   {"kind": "vehicle", "limit_a": 90.0, "running_v": 14.4, "cable_mohm": 0.0,
                    "runs": runs}],
        "links": [{"id": "cord", "rail": "vehicle", "to": "bank", "cable_mohm": 0.0,
                   "charger": charger}],
    }  # fmt: skip


def passed_through(changeover: str, bears: str = "no") -> dict[str, Any]:
    """A load on the sockets of a station that the mains charges."""
    return {
        "loads": [load(50.0, "server", ac=True) | {"rail": "sockets", "bears_break": bears}],
        "stores": [station(changeover=changeover), {"kind": "mains", "id": "wall"}],
        "links": [{"id": "cord", "rail": "wall", "to": "station", "input": "mains"}],
    }


def transferred(changeover: str = "none", amps: float = 20.0, socket_a: float = 10.0) -> Any:
    """An inverter-charger: a load of 900 W, 3.9 A, on the mains while that is there."""
    made = charged(bank(parallel=2), amps=amps, efficiency=0.9, idle_w=0.0)
    made["stores"][1] |= {"socket_a": socket_a}
    return made | {
        "loads": [load(900.0, "server", ac=True, hours_per_day=24.0) | {"bears_break": "no"}],
        "stages": {"continuous_w": 2000.0, "surge_w": 4000.0, "transfer": "mains",
                   "changeover": changeover},
    }  # fmt: skip


def lithium_starter(chemistry: str) -> dict[str, Any]:
    """A starter battery of a chemistry on its alternator."""
    made = past_the_engine(100.0)
    made["stores"][0] = bank(chemistry, 12.8 if chemistry == "lfp" else 12.0, use="starter")
    return made


AGM = bank("agm", 12.0)


def by_relay(alternator: str) -> dict[str, Any]:
    """Lead-acid on an alternator, without a charger. Common practice."""
    made = driven(140.0, alternator=alternator)
    made["stores"][0] = AGM
    made["links"][0]["charger"] = None
    return made


PACK = bank("nmc", 25.9, 38.0)
BALANCES = {"kind": "balance charger", "amps": 10.0, "accepts": {"least_v": 10.0, "most_v": 30.0}}


def balanced(pack: Any, most_cells: int) -> dict[str, Any]:
    """A pack on a balance charger that an engine feeds."""
    made = driven(140.0)
    made["stores"][0] = pack
    made["links"][0]["charger"] = BALANCES | {"most_cells": most_cells}
    return made


PWM = {"kind": "PWM controller"}

CHARGER_CASES = [
    # Four cells of 3.65 V are 14.6 V; six of lead-acid at 2.4 V 14.4 V. Common practice.
    Case("charger.volts_high", "stop", charged(hold_v=14.8), charged(hold_v=14.6)),
    Case("charger.volts_low", "watch", charged(hold_v=14.0), charged(hold_v=14.4)),
    Case("charger.volts_low", "fix", charged(AGM, profile="AGM", hold_v=13.8),
         charged(AGM, profile="AGM", hold_v=14.4)),
    # Seven cells of Li-ion are 29.4 V; two blocks of lead-acid 28.8 V: within 2 %, and no more.
    Case("charger.other_profile", "watch",
         charged(bank("nmc", 25.9, 38.0), profile="AGM", amps=10.0),
         charged(bank("nmc", 25.9, 38.0), profile="lithium", amps=10.0)),
    Case("charger.other_profile", "fix", charged(profile="flooded"),
         charged(profile="set by hand")),
    # 0.5C of 100 Ah are 50 A, 0.25C of AGM 25 A. Common practice.
    Case("charger.above_rate", "fix", charged(amps=51.0), charged(amps=50.0)),
    Case("charger.above_rate", "fix", charged(AGM, profile="AGM", amps=26.0),
         charged(AGM, profile="AGM", amps=25.0)),
    # 13.5 V keep four cells of LFP; 13.8 V are a float for lead-acid. Common practice.
    Case("charger.floats", "watch", charged(float_v=13.8), charged(float_v=13.5)),
    Case("charger.floats", "watch", charged(float_v=13.8),
         charged(AGM, profile="AGM", float_v=13.8)),
    # -3 to -5 mV/K a cell from 25 °C, none for lithium. Common practice.
    Case("charger.compensates", "watch", charged(compensates="yes"), charged(compensates="no")),
    Case("charger.compensates", "watch",
         charged(AGM, profile="AGM", compensates="no") | {"setting": {"ambient_c": 5.0}},
         charged(AGM, profile="AGM", compensates="no") | {"setting": {"ambient_c": 20.0}}),
    # A maintainer of 1.5 A at 14.4 V brings 21.6 W.
    Case("charger.cannot_keep_up", "fix",
         charged(amps=1.5) | {"loads": [load(25.0, hours_per_day=24.0)]},
         charged(amps=1.5) | {"loads": [load(20.0, hours_per_day=24.0)]}),
    Case("charger.no_end", "watch", charged(kind="bench supply"), charged()),
    # Polar night at 75° north in December; 8 sun hours in 7.8 h of daylight are 1.6 kW/m² at noon.
    Case("sun.no_sun", "watch", sunny(week={"month": 12, "latitude": 75.0}),
         sunny(week={"month": 6, "latitude": 75.0})),
    Case("sun.too_many_hours", "fix",
         sunny(week={"month": 12}, sun_hours=[8.0] * 12),
         sunny(week={"month": 12}, sun_hours=[5.0] * 12)),
    # 18.6 V of one panel, less when hot, against 28.8 V of a 24 V bank; 37.2 V of two are 32 V.
    Case("sun.hot_volts", "fix", sunny(bank(volts=25.6)), sunny(bank(volts=25.6), series=2)),
    Case("sun.string_fuses", "fix", sunny(parallel=3), sunny(parallel=2)),
    # 25 A at some 13.4 V and 90 % are 372 W: four fifths of 465 W.
    Case("generator.overloaded", "fix", by_generator(440.0), by_generator(500.0)),
    Case("generator.wants_sine", "watch", by_generator(900.0, waveform="other"),
         by_generator(900.0)),
    # 1.25 times 5.8 A are 7.25 A (NEC 690.8, memory).
    # 30 A into some 14 V from 13.8 V at 90 % are 34 to 35 A: half of 68 to 70 A; 0.4 of 85 to 88 A.
    # Common practice: half its rating for long; 30 to 50 % of it at idle.
    Case("vehicle.alternator_strained", "watch", driven(60.0), driven(80.0)),
    Case("vehicle.alternator_strained", "watch", driven(60.0), driven(60.0, hours=0.25)),
    Case("vehicle.idles", "fix", driven(80.0, idles=True), driven(100.0, idles=True)),
    Case("vehicle.past_engine", "fix", past_the_engine(800.0), past_the_engine(650.0)),
    Case("vehicle.will_not_start", "fix", past_the_engine(900.0), past_the_engine(650.0)),
    Case("vehicle.by_voltage", "watch", driven(140.0, signal="voltage", alternator="smart"),
         driven(140.0, alternator="smart")),
    Case("load.changeover", "fix", passed_through("break"), passed_through("none")),
    Case("load.changeover", "watch", passed_through("unknown"), passed_through("unknown", "yes")),
    Case("load.changeover", "fix", transferred("break"), transferred("none")),
    # 20 A at some 13.4 V and 0.9 are 1.3 A of 230 V; with the load 5.2 A: four fifths of 6.5 A.
    # Common practice.
    Case("mains.near_its_breaker", "watch", transferred(socket_a=6.2), transferred(socket_a=6.8)),
    Case("mains.near_its_breaker", "fix", transferred(socket_a=5.0), transferred(socket_a=6.8)),
    Case("mains.near_its_breaker", "watch", charged(amps=30.0) | {"stores": [
        bank(), {"kind": "mains", "socket_a": 2.3}]}, charged(amps=30.0)),
    # Seven cells of Li-ion. Common practice.
    Case("charger.too_many_cells", "stop", balanced(PACK, 6), balanced(PACK, 7)),
    Case("link.split_charge", "watch", by_relay("fixed"), driven(140.0)),
    Case("link.split_charge", "fix", by_relay("smart"), driven(140.0)),
    Case("charger.load_dump", "fix", lithium_starter("lfp"), lithium_starter("agm")),
    Case("sun.controller_small", "fix", sunny(of_charger=PWM | {"amps": 7.0}),
         sunny(of_charger=PWM | {"amps": 7.5})),
]  # fmt: skip

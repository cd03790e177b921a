"""Labels of parts, of our own writing: every figure is on the label that is read."""

from typing import Any

import pytest

from graveljar.core.errors import OutOfRange
from graveljar.core.model import StationFigures
from graveljar.core.quick_entry import LabelReading, read_label
from graveljar.core.quick_entry.label import MAX_LABEL
from graveljar.core.quick_entry.label_words import WORDS

LFP: dict[str, Any] = {"chemistry": "lfp", "volts": 12.8, "ah": 100.0}
AGM: dict[str, Any] = {"chemistry": "agm", "volts": 12.0, "ah": 100.0}
SINE: dict[str, Any] = {"continuous_w": 1500.0, "waveform": "pure sine"}
AC = "AC 230V 600W surge 1200W"
PANEL: dict[str, Any] = {
    "watts": 100.0, "voc_v": 22.3, "vmp_v": 18.6, "isc_a": 5.8, "imp_a": 5.4,
}  # fmt: skip


def window(least_v: float, most_v: float) -> dict[str, Any]:
    """Volts that are accepted."""
    return {"accepts": {"least_v": least_v, "most_v": most_v}}


LABELS: list[tuple[str, str, dict[str, Any]]] = [
    # Batteries: units close and apart, commas, ranges, Wh for Ah, letters for digits.
    ("LiFePO4 12.8V 100Ah 1280Wh, charge 14.4-14.6V 20A, max. discharge 100A, -20-60 C",
     "battery", LFP | {"bms_a": 100.0, "discharge_from_c": -20.0}),
    ("LFP battery 12,8 V 100 Ah", "battery", LFP | {"bms_a": None}),
    ("Lithium iron phosphate battery; 12.8 volts; 100 AH; 1.28 kWh", "battery", LFP),
    ("LiFePO4 12.8 V 1280 Wh", "battery", LFP),
    ("LiFePO4 12.8V 100000mAh", "battery", LFP),
    ("LiFePO4 l2.8V 1OOAh", "battery", LFP),
    ("LiFePO4 25.6V 50Ah | max continuous discharge current: 50A | peak discharge 100A (3s)",
     "battery", {"volts": 25.6, "ah": 50.0, "bms_a": 50.0, "bms_peak_a": 100.0}),
    ("LiFePO4 51.2V 100Ah; charge 58.4V 50A; discharge cut-off 40V", "battery",
     {"volts": 51.2, "ah": 100.0, "low_v": 40.0}),
    ("LiFePO4 12.8V 280Ah, internal resistance 2 mΩ, discharge 200A", "battery",
     {"ah": 280.0, "resistance_mohm": 2.0, "bms_a": 200.0}),
    ("AGM 12V 100Ah deep cycle", "battery", AGM),
    ("Gel battery 12 V, 100 Ah (C20)", "battery", AGM),
    ("AGM Batterie 12 Volt 100 Ah, Ladespannung 14,4-14,7 V", "battery", AGM),
    ("Batterie AGM 12 volts 100 Ah, courant de décharge 300 A", "battery", AGM | {"bms_a": 300.0}),
    ("Batería AGM 12 voltios 100 Ah, corriente de carga 25 amperios", "battery", AGM),
    ("Flooded lead-acid 12V 110Ah", "battery", {"chemistry": "flooded", "ah": 110.0}),
    ("Li-ion 18V 5.0Ah 90Wh", "battery", {"chemistry": "nmc", "volts": 18.0, "ah": 5.0}),
    ("Lithium-ion battery 36 V 14 Ah 504 Wh, charge 42 V 2 A", "battery",
     {"chemistry": "nmc", "volts": 36.0, "ah": 14.0}),
    ("NMC pack 46.8V 28Ah peak 60A", "battery", {"volts": 46.8, "bms_peak_a": 60.0}),
    # Inverters: either order of input and output, peak before or after its watts.
    ("Pure sine inverter 12V DC input 10-15V, output 230V AC 50Hz, 1500W continuous, 3000W surge, "
     "no-load 0.9A, efficiency 92%", "inverter",
     SINE | window(10.0, 15.0) | {"nominal_v": 12.0, "surge_w": 3000.0, "output_v": 230.0,
                                  "output_hz": 50, "idle_w": 10.8}),
    ("Inverter modified sine 24V 1000W peak 2000W 120V 60Hz", "inverter",
     {"nominal_v": 24.0, "continuous_w": 1000.0, "surge_w": 2000.0, "output_v": 120.0,
      "output_hz": 60, "waveform": "modified sine"}),
    ("Sine wave inverter DC 20-30V to AC 230V, 2 kW, surge 4 kW", "inverter",
     window(20.0, 30.0) | {"nominal_v": 24.0, "continuous_w": 2000.0, "surge_w": 4000.0}),
    ("INVERTER\nINPUT: DC 12V\nOUTPUT: AC 220-240V 50Hz\n300W MAX\nPEAK 600W", "inverter",
     {"nominal_v": 12.0, "continuous_w": 300.0, "surge_w": 600.0, "output_v": 240.0}),
    ("Wechselrichter reiner Sinus sine 12 V 1500 W, Leerlauf 11 W", "inverter",
     SINE | {"nominal_v": 12.0, "idle_w": 11.0}),
    ("Onduleur pure sine 48 V 3000 W, pointe 6000 W, 230 V~", "inverter",
     {"nominal_v": 48.0, "continuous_w": 3000.0, "surge_w": 6000.0, "output_v": 230.0}),
    ("Inverter 12V 500VA sine", "inverter", {"nominal_v": 12.0, "continuous_w": 500.0}),
    # Converters: windows or one voltage, watts for amps, up, down and both.
    ("DC-DC converter Input: DC 9-36V Output: 12V 10A efficiency 93%", "converter",
     window(9.0, 36.0) | {"set_v": 12.0, "continuous_a": 10.0, "topology": "buck-boost"}),
    ("Buck converter input 20-60V, output 12V 20A", "converter",
     window(20.0, 60.0) | {"set_v": 12.0, "continuous_a": 20.0, "topology": "buck"}),
    ("Boost input 10-20V output 24V 5A", "converter",
     window(10.0, 20.0) | {"set_v": 24.0, "continuous_a": 5.0, "topology": "boost"}),
    ("Step-up 12V to 24V 3A", "converter", {"set_v": 24.0, "continuous_a": 3.0}),
    ("Step-down converter in 8-32 V, out 5 V, 25 W", "converter",
     window(8.0, 32.0) | {"set_v": 5.0, "continuous_a": 5.0}),
    ("Spannungswandler DC-DC Eingang 9-36 V, Ausgang 12,6 V 8 A", "converter",
     window(9.0, 36.0) | {"set_v": 12.6, "continuous_a": 8.0}),
    ("DC/DC converter 24V → 12V, 15A, standby 0.5W", "converter",
     {"set_v": 12.0, "continuous_a": 15.0, "quiescent_w": 0.5}),
    # Chargers: from mains, from DC, controllers by their panels' volts.
    ("Battery charger Input 100-240V~ 50/60Hz 3A; Output 14.6V 20A LiFePO4", "charger",
     window(100.0, 240.0) | {"kind": "mains charger", "hold_v": 14.6, "amps": 20.0,
                             "profile": "lithium"}),
    ("Ladegerät Eingang 230 V AC, Ausgang 14,4 V 15 A, AGM", "charger",
     {"kind": "mains charger", "hold_v": 14.4, "amps": 15.0, "profile": "AGM"}),
    ("DC-DC charger input 11-16V; output 14.4V 30A lithium", "charger",
     window(11.0, 16.0) | {"kind": "DC-DC charger", "hold_v": 14.4, "amps": 30.0}),
    ("MPPT solar controller 100V 20A, 12/24V", "charger",
     {"kind": "MPPT controller", "amps": 20.0, "accepts": {"least_v": 16.0, "most_v": 100.0}}),
    ("MPPT: PV input max 75V; charge current 15A; absorption 14.4V", "charger",
     {"kind": "MPPT controller", "amps": 15.0, "hold_v": 14.4}),
    ("PWM solar charge controller 10A, PV 25V", "charger",
     {"kind": "PWM controller", "amps": 10.0}),
    ("Cargador 230 V AC; salida 29,4 V 2 A Li-ion, efficiency 87 %", "charger",
     {"hold_v": 29.4, "amps": 2.0, "profile": "lithium", "efficiency": 0.87}),
    # Panels.
    ("Solar panel 100W Voc 22.3V Vmp 18.6V Isc 5.8A Imp 5.4A", "panel", PANEL),
    ("Pmax 100 Wp; Voc: 22,3 V; Vmpp: 18,6 V; Isc: 5,8 A; Impp: 5,4 A; TC Voc -0,29 %/K", "panel",
     PANEL | {"voc_per_c": -0.0029}),
    ("PV module 100 W, open-circuit voltage (Voc) 22.3 V, max power voltage 18.6 V, short-circuit "
     "current 5.8 A, max power current 5.4 A", "panel", PANEL),
    ("200W solar panel; Voc 24,3 V; Vmp 20,2 V; Isc 10,4 A; Imp 9,9 A", "panel",
     {"watts": 200.0, "voc_v": 24.3, "imp_a": 9.9}),
    ("LiFePO4 Akku 12,8 V 1OO Ah; Entladestrom 100 A; Spitzenstrom 200 A", "battery",
     LFP | {"bms_a": 100.0, "bms_peak_a": 200.0}),
    ("Li-ion 36V 7.5Ah 270Wh; discharge 15A; cut-off 27V", "battery",
     {"chemistry": "nmc", "volts": 36.0, "ah": 7.5, "bms_a": 15.0, "low_v": 27.0}),
    ("Inverter pure sine wave; 12V; 600W; surge 1200W; 120V AC 60Hz; idle 6W", "inverter",
     {"nominal_v": 12.0, "continuous_w": 600.0, "surge_w": 1200.0, "output_v": 120.0,
      "idle_w": 6.0}),
    ("Boost converter in: 10-32V out: 48V 3A efficiency 94%", "converter",
     window(10.0, 32.0) | {"set_v": 48.0, "continuous_a": 3.0, "topology": "boost",
                           "full_load": {"load_share": 1.0, "efficiency": 0.94}}),
    ("Chargeur entrée 220-240 V AC; sortie 14,6 V 10 A LiFePO4", "charger",
     window(220.0, 240.0) | {"hold_v": 14.6, "amps": 10.0, "profile": "lithium"}),
    # Stations, clause by clause.
    (f"Input DC 11-30V 8A (car) 11.5-50V 10A max 200W; {AC}; USB-C 100W; 512Wh LFP; idle 6 W",
     "station", {"label_wh": 512.0, "chemistry": "lfp", "idle_w": 6.0, "most_in_w": 200.0}),
    (f"Power station 1024 Wh LiFePO4\n{AC}\nDC 12V 10A\n2 x USB-C 100W\nsolar input 11-60V 15A "
     "500W\nAC input 230V 1000W", "station", {"label_wh": 1024.0, "most_in_w": 1500.0}),
    (f"Portable power station; 296Wh Li-ion; {AC}; car socket 12V 10A; charging 12-30V 8A 100W",
     "station", {"label_wh": 296.0, "chemistry": "nmc", "most_in_w": 100.0}),
    (f"Power station 2,048 kWh LFP | {AC} | PV Eingang 12-60 V 20 A 1000 W | max input 900W",
     "station", {"label_wh": 2048.0, "most_in_w": 900.0}),
    (f"power station 51.2V 40Ah LiFePO4; {AC}; recharge 12-150V 15A", "station",
     {"label_wh": 2048.0, "cells": 16, "most_in_w": 2250.0}),
    (f"Power station 5OO Wh LFP; {AC}; solar 11-28V 8A 200W", "station", {"label_wh": 500.0}),
    (f"Estación 700 Wh LFP; {AC}; entrada solar 12-50 V 10 A 400 W", "station",
     {"label_wh": 700.0}),
    (f"Power station 256Wh LFP; {AC}; DC output 12V 8A unregulated; charging DC 12-28V 5A",
     "station", {"label_wh": 256.0, "most_in_w": 140.0}),
    ("USB-C 60W; 99 Wh Li-ion; input USB-C 5-20V 3A", "station", {"label_wh": 99.0}),
    (f"power station 150Wh Li-ion; {AC}; USB-A 5V 2.4A; charging 15-25V 3A", "station",
     {"label_wh": 150.0, "most_in_w": 75.0}),
    ("Power station 1500Wh LFP; 120V AC 60Hz 1800W; solar input 12-60V 12A; AC charging 1200W",
     "station", {"label_wh": 1500.0, "most_in_w": 1920.0}),
    ("Gel Batterie 12 V 80 Ah", "battery", {"chemistry": "agm", "volts": 12.0, "ah": 80.0}),
]  # fmt: skip


def test_there_are_sixty_labels() -> None:
    assert len({text for text, _, _ in LABELS}) >= 60


def test_the_outlets_and_inputs_of_a_station_are_those_of_its_label() -> None:
    """Two windows on a label are two inputs: neither gets the other's highest volts."""
    read = read_label(
        f"Input DC 11-30V 8A (car) 11.5-50V 10A max 200W; {AC}; 2 x USB-C 100W; DC 12V 10A; "
        "USB 5V 2.4A; 512Wh LFP; charging AC 230V 300W"
    )
    assert read.figures is not None
    made = StationFigures.model_validate(read.figures)
    inputs = [(x.supply, x.accepts.most_v, x.modes[0].amps, x.most_w) for x in made.inputs]
    assert inputs[:2] == [("dc", 30.0, 8.0, 200.0), ("dc", 50.0, 10.0, 200.0)]
    assert (inputs[2][0], inputs[2][3], made.most_in_w) == ("ac", 300.0, 500.0)
    (sockets,) = [x for x in made.outlets if x.kind == "ac"]
    assert (sockets.volts, sockets.continuous_w, sockets.surge_w) == (230.0, 600.0, 1200.0)
    # USB Power Delivery: 100 W are 20 V and 5 A (from memory).
    ports = sorted((x.volts or 0.0, x.amps) for x in made.outlets if x.kind == "dc")
    assert ports == [(5.0, 2.4), (12.6, 10.0), (20.0, 5.0), (20.0, 5.0)]


@pytest.mark.parametrize(("text", "kind", "wanted"), LABELS, ids=[x[0][:40] for x in LABELS])
def test_a_label_is_read_as_a_person_reads_it(text: str, kind: str, wanted: dict[str, Any]) -> None:
    read = read_label(text)
    assert (read.kind, read.problems) == (kind, ())
    assert read.figures is not None
    assert {name: read.figures.get(name) for name in wanted} == wanted
    # What is marked stands where it is said to; no stretch is marked as two things.
    places = [(x.start, x.end) for x in read.marks]
    assert all(0 <= a < b <= len(text) for a, b in places)
    # What is not on it is named, and not given.
    assert not {WORDS.get(x, x) for x in read.figures} & set(read.missing)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("lead-acid 12 V 75 Ah", "AGM or gel, or flooded?"),
        ("Lithium battery 12V 100Ah", "LiFePO4, or Li-ion?"),
        # 12.8 V x 100 Ah are 1 280 Wh: definition.
        ("LiFePO4 12.8V 100Ah 1000Wh", "which of them is right?"),
        ("LiFePO4 12.8V", "Not found on it: Ah."),
        ("Sine inverter 1500W", "Not found on it: input volts."),
        ("Boost 12V 24V 5A", "Which of its volts go in"),
        ("Converter output 12V 10A", "Not found on it: input volts."),
        ("Solar panel 100W Voc 22.3V", "Vmp, Isc, Imp"),
        ("LiFePO4 12.8V 100Ah discharge 50000A", "10000"),
        ("220V 5A blue", "Is it a battery"),
        ("power station 500Wh LFP; AC 230V 600W; input 24V 5A", "Its highest must be known"),
        ("power station 500Wh LFP; AC 600W; input 12-30V 5A", "Which mains volts do its sockets"),
        ("power station 500Wh LFP; AC 230V 600W", "a charge input with its volts and amps"),
        ("power station 500Wh; AC 230V 600W; input 12-30V 5A", "chemistry"),
    ],
)
def test_what_is_unsure_is_asked_and_nothing_is_guessed(text: str, says: str) -> None:
    read = read_label(text)
    assert read.figures is None
    assert says in " ".join(read.problems)


def test_a_letter_that_is_read_as_a_digit_is_told() -> None:
    assert any("1OOAh" in note for note in read_label("LiFePO4 12.8V 1OOAh").notes)
    assert read_label("LiFePO4 12.8V 100Ah").notes == ()


def test_the_same_words_are_read_for_the_part_that_is_asked_for() -> None:
    """A dialog knows what it is for: its label need not say so."""
    plain: LabelReading = read_label("12V 10-15V 230V 1000W sine", "inverter")
    assert plain.figures is not None
    assert plain.figures["continuous_w"] == 1000.0
    assert read_label("100W Voc 22.3V Vmp 18.6V Isc 5.8A Imp 5.4A", "panel").figures is not None


def test_nothing_is_nothing_and_too_much_is_refused() -> None:
    assert read_label("").problems == ()
    with pytest.raises(OutOfRange, match="2000"):
        read_label("x" * (MAX_LABEL + 1))

"""Cautions: what each is tied to, reading them, and what reading them never hides."""

import re
from pathlib import Path
from typing import Any

import pytest
from pydantic import ValidationError

from graveljar.core.cautions import CAUTIONS
from graveljar.core.model import Design
from tests.building import bank, converter, design, inverter, lead, load, looked_at, station

# Of every lithium bank in a van, a living space.
ALWAYS = {"short_circuit", "crash", "first_charge", "local_code", "lithium_fire", "children",
          "chafe", "chassis"}  # fmt: skip
MAINS = {"mains", "back_feed", "earth_faults"}
FIXED = MAINS | {"shore", "warm_converters"}
GROWN = {"stores": [station(), bank(id="outside", series=2)], "links": [lead("outside")]}


def codes(made: Design) -> set[str]:
    return {x.caution.code.removeprefix("caution.") for x in looked_at(made).cautions}


@pytest.mark.parametrize(
    ("arguments", "more", "fewer"),
    # Common practice, one design for each.
    [
        ({}, set(), set()),
        ({"stores": bank(bms_a=None)}, {"cells"}, set()),
        ({"stores": bank(volts=3.2)}, {"cells"}, set()),
        ({"stores": bank("flooded", 12.0, location="vented box")}, {"hydrogen", "lifting"},
         {"lithium_fire", "children"}),
        ({"ambient_c": 4.0}, {"frost"}, set()),
        ({"ambient_c": 4.0, "stores": bank("agm", 12.0, 50.0)}, set(), {"lithium_fire"}),
        ({"stages": inverter(continuous_w=300.0, surge_w=600.0)}, FIXED, set()),
        ({"stages": inverter()}, FIXED | {"terminals"}, set()),
        ({"more": [converter()]}, {"warm_converters"}, set()),
        ({"stores": bank(parallel=2)}, {"alike_batteries"}, set()),
        ({"stores": [bank(), {"kind": "vehicle"}]}, {"starter_battery", "carbon_monoxide"}, set()),
        ({"loads": [load(name="Diesel heater") | {"id": "heater"}]}, {"carbon_monoxide"}, set()),
        ({"stores": [bank(), {"kind": "generator"}]}, {"carbon_monoxide"}, set()),
        ({"stores": [bank(), {"kind": "sun"}]}, {"panels"}, set()),
        ({"loads": [load(nature="medical")]}, {"medical"}, set()),
        # By its words, or as somebody says.
        ({"loads": [load(name="BiPAP") | {"id": "night"}]}, {"medical"}, set()),
        ({"loads": [load(name="Insulin fridge") | {"id": "cold"}]}, {"medical"}, set()),
        ({"loads": [load(name="Insulin fridge") | {"id": "cold", "depends": "nobody"}]}, set(),
         set()),
        ({"loads": [load(name="Lamp") | {"id": "lamp", "depends": "a person"}]}, {"medical"},
         set()),
        ({"loads": [load(name="Aquarium pump") | {"id": "pump"}]}, {"animals"}, set()),
        ({"loads": [load(name="Koi pond filter") | {"id": "pump"}]}, {"animals"}, set()),
        ({"loads": [load(name="Air pump for the mattress") | {"id": "pump"}]}, set(), set()),
        # 16S LFP is 58.4 V full, 17S 62.05 V; outside, where it may be wet, 30 V are too many.
        ({"stores": bank(volts=54.4, ah=20.0)}, {"touch_volts", "dc_arc"}, set()),
        ({"stores": bank(volts=51.2, ah=20.0)}, {"dc_arc"}, set()),
        ({"more": [converter(set_v=62.0, topology="boost", continuous_a=2.0)]},
         {"touch_volts", "warm_converters"}, set()),
        ({"stores": bank(volts=25.6, ah=20.0)}, set(), set()),
        # Some 20 kg: 2 kWh of lithium, 700 Wh of lead-acid.
        ({"stores": bank(volts=12.8, ah=170.0)}, {"lifting"}, set()),
        ({"stores": bank(volts=28.8, ah=20.0, location="outside")},
         {"touch_volts", "dc_arc", "water"}, {"children"}),
        ({"setting": {"place": "boat"}}, {"water"}, set()),
        ({"setting": {"place": "box"}, "stores": bank("agm", 12.0, 20.0)}, {"sealed_in_box"},
         {"lithium_fire", "crash", "chafe", "chassis"}),
        ({"setting": {"place": "box"}, "stages": inverter(continuous_w=300.0)},
         FIXED - {"shore"}, {"crash", "chafe", "chassis"}),
        ({"loads": [load(rail="vehicle")], "stores": [bank(), {"kind": "vehicle"}]},
         {"starter_battery", "carbon_monoxide", "over_voltage"}, set()),
        (GROWN, MAINS | {"panels", "over_voltage", "warranty", "packs_in_series",
                         "alike_batteries"}, set()),
        ({"stores": [bank(), bank(id="outside")], "links": [lead("outside", to="bank", input=None,
          mode=None)]}, {"over_voltage", "terminals"}, set()),
    ],
)  # fmt: skip
def test_each_applies_where_its_danger_is(arguments: Any, more: set[str], fewer: set[str]) -> None:
    loads = arguments.get("loads", [])
    rest = {key: value for key, value in arguments.items() if key != "loads"}
    assert codes(design(*loads, **rest)) == (ALWAYS | more) - fewer


@pytest.mark.parametrize(
    ("kinds", "subjects"),
    # Common practice: a station's 12 V port can be short-circuited, its sockets switch off first.
    [({"ac", "dc"}, ("outside", "station")), ({"dc"}, ("outside", "station")),
     ({"ac"}, ("outside",))],
)  # fmt: skip
def test_a_short_circuit_is_warned_of_at_batteries_and_dc_ports(
    kinds: set[str], subjects: tuple[str, ...]
) -> None:
    made = station()
    made["outlets"] = [x for x in made["outlets"] if x["kind"] in kinds]
    found = looked_at(design(stores=[made, bank(id="outside")], links=[lead("outside")])).cautions
    short = next(x.caution for x in found if x.caution.code == "caution.short_circuit")
    assert short.subjects == subjects


def test_every_caution_can_come_up_and_says_what_to_do_and_whom_to_ask() -> None:
    tried = Path(__file__).read_text()
    for caution, _ in CAUTIONS:
        assert caution.code.removeprefix("caution.") in re.findall(r'"([a-z_]+)"', tried)
        assert caution.do
        assert all(text.endswith(".") for text in (*caution.do, caution.danger))


@pytest.mark.parametrize(
    ("place", "named", "silent"),
    # Common practice: a crash matters where it drives or sails; each place has codes of its own.
    [
        ("vehicle", {"IEC 60364-7-721", "EN 1648", "NEC 551", "AS/NZS 3001"}, set()),
        ("boat", {"ISO 13297"}, set()),
        ("building", {"IEC 60364", "NEC 480, NEC 706"}, {"crash"}),
        ("box", {"IEC 60364-5-551"}, {"crash"}),
    ],
)
def test_the_place_decides_codes_and_whether_a_crash_matters(
    place: str, named: set[str], silent: set[str]
) -> None:
    made = design(stages=inverter(), setting={"place": place})
    found = looked_at(made).cautions
    assert codes(made) & {"crash"} == {"crash"} - silent
    for row in found:
        names = {x.names for x in row.caution.codes}
        # Codes are named as codes that may apply, with somebody licensed to ask.
        assert names >= named if row.caution.under_code else names == set()
        assert row.caution.ask or not row.caution.under_code


def _read(made: Design, *subjects: str, code: str = "caution.mains") -> Design:
    document = made.model_dump(mode="json")
    document["acknowledged"] = [{"code": code, "subjects": list(subjects)}]
    return Design.model_validate(document)


def _mains(made: Design) -> Any:
    return next(x for x in looked_at(made).cautions if x.caution.code == "caution.mains")


def test_a_caution_read_comes_back_when_it_is_tied_to_more() -> None:
    one = design(stages=inverter())
    assert not _mains(one).acknowledged
    read = _read(one, "inverter")
    assert _mains(read).acknowledged
    second = {"kind": "inverter", "id": "second", "name": "Second inverter"}
    two = _read(design(stages=inverter(), more=[second]), "inverter")
    assert not _mains(two).acknowledged
    assert _mains(two).since == ("Second inverter",)
    # Taking something away brings nothing new.
    assert _mains(_read(one, "inverter", "second")).acknowledged


@pytest.mark.parametrize("code", ["bank.no_protection", "caution.", "caution.x/../y"])
def test_a_finding_cannot_be_acknowledged(code: str) -> None:
    with pytest.raises(ValidationError):
        _read(design(stores=bank(bms_a=None)), "bank", code=code)


def test_reading_everything_hides_no_stop() -> None:
    # As the screen sends it: nothing left out.
    document = design(stores=bank(bms_a=None), stages=inverter()).model_dump(mode="json")
    before = looked_at(Design.model_validate(document))
    document["acknowledged"] = [
        {"code": x.caution.code, "subjects": list(x.caution.subjects)} for x in before.cautions
    ]
    after = looked_at(Design.model_validate(document))
    assert all(x.acknowledged for x in after.cautions)
    assert after.findings == before.findings
    assert "stop" in {f.severity for f in after.findings}

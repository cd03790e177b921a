"""The shelf: parts as labelled, as CSV row by row, and whether they suit a place."""

from typing import Any

import pytest
from pydantic import TypeAdapter, ValidationError

from graveljar.core.components.cable import size_of
from graveljar.core.errors import InvalidDocument, UnreadableDocument
from graveljar.core.model import BatteryFigures, Design
from graveljar.core.planning.construction import usual_inputs, usual_ports
from graveljar.core.planning.shelf import (
    Candidate,
    InverterPart,
    ShelfPart,
    StationPart,
    spread_from,
    suits_of,
)
from graveljar.core.tables.fuses import FUSE_KINDS
from graveljar.demo import demo_designs
from graveljar.formats.parts_csv import (
    MAX_CHARACTERS,
    MAX_ROWS,
    read_parts,
    starting_shelf,
    write_parts,
)
from tests.building import bank, converter, design, inverter, lead, load, on_port, station

PART: TypeAdapter[Any] = TypeAdapter(ShelfPart)
SHELF = {part.name: part for part in starting_shelf()}
BATTERY = "kind,name,chemistry,volts,ah,bms_a\n"


def _suits(made: Design, subject: str) -> dict[str, tuple[bool, str]]:
    shelf = [Candidate(name, part) for name, part in SHELF.items()]
    return {suit.id: (suit.suits, suit.why) for suit in suits_of(made, subject, shelf)}


def test_the_starting_shelf_is_believable() -> None:
    """Common practice: Wh a kg from lead to lithium; idle 0.5 to 2.5 % of the watts; full-load
    efficiency below the best; a linear one gives Vout / Vin (textbook).
    """
    kinds = [part.kind for part in SHELF.values()]
    assert len(SHELF) == len(list(starting_shelf())) >= 120
    assert min(kinds.count(kind) for kind in ("battery", "inverter", "converter")) >= 12
    assert (kinds.count("charger"), kinds.count("panel")) == (26, 7)
    # Both regions find the same parts.
    outputs_v = [x.figures.output_v for x in SHELF.values() if isinstance(x, InverterPart)]
    stations = [x.figures.outlets for x in SHELF.values() if isinstance(x, StationPart)]
    sockets_v = [x.volts for outlets in stations for x in outlets if x.kind == "ac"]
    for volts in (outputs_v, sockets_v):
        assert volts.count(120) == volts.count(230) >= 8
    for name, part in SHELF.items():
        if part.kind in ("cable", "fuse"):
            continue
        assert part.price, name
        assert part.mass_kg, name
        figures: Any = part.figures
        if part.kind == "battery":
            per_kg = figures.volts * figures.ah / part.mass_kg
            low, high = (25, 60) if figures.chemistry in ("agm", "flooded") else (90, 200)
            assert low < per_kg < high, name
            # Twice the charge an hour at the most; common practice for packs with protection.
            assert figures.bms_a is None or figures.bms_a <= 4 * figures.ah
        elif part.kind == "inverter":
            assert 0.005 * figures.continuous_w <= figures.idle_w <= 0.025 * figures.continuous_w
            assert figures.full_load.efficiency < figures.part_load.efficiency < 0.96
            assert 2 <= figures.surge_w / figures.continuous_w <= 3
            assert figures.accepts.least_v < figures.nominal_v < figures.accepts.most_v
            # A 4S, 8S or 16S LFP bank when full: 14.6, 29.2, 58.4 V.
            assert figures.accepts.most_v >= 1.2167 * figures.nominal_v
        elif part.kind == "station":
            assert figures.outlets, name
            ac = [x for x in figures.outlets if x.kind == "ac"]
            # A kilogram for 50 to 100 Wh, casing and inverter included; 200 W to 2 kW a kWh.
            assert 45 < figures.label_wh / part.mass_kg < 105, name
            assert all(0.8 < x.continuous_w / figures.label_wh < 2 for x in ac), name
            assert figures.idle_w < 0.02 * figures.label_wh
            assert 0.85 <= figures.charge_efficiency < 0.96
        elif part.kind == "charger":
            # Switched chargers lose 7 to 20 %, controllers that step down or pass on 2 to 4 %.
            assert 0.8 <= figures.efficiency < 0.99, name
            assert figures.from_sun == (figures.efficiency > 0.95), name
            # Volts a cell of LFP, lead-acid and Li-ion when full, times the cells in series.
            full = ((3.6, 4), (3.6, 8), (3.6, 16), (2.4, 6), (4.2, 7), (4.2, 10))
            by_cells = figures.kind == "balance charger"
            assert by_cells or any(figures.hold_v == pytest.approx(v * n) for v, n in full), name
        elif part.kind == "panel":
            # W = V A; Vmp is 80 to 86 % of Voc and Imp 90 to 96 % of Isc for silicon.
            assert figures.vmp_v * figures.imp_a == pytest.approx(figures.watts, rel=0.02), name
            assert 0.79 < figures.vmp_v / figures.voc_v < 0.86, name
            assert 0.9 < figures.imp_a / figures.isc_a < 0.97, name
            # 12 to 21 W a kg with a frame, three times that without.
            assert 10 < figures.watts / part.mass_kg < 50, name
        elif figures.topology == "linear":
            assert figures.full_load.efficiency == pytest.approx(figures.set_v / 24.0, abs=0.02)
        else:
            assert 0.85 <= figures.full_load.efficiency <= 0.98


def test_starting_cables_and_fuses_are_believable() -> None:
    """Copper weighs 8.96 g/cm3 (textbook), a jacket up to as much again (common practice)."""
    for name, part in SHELF.items():
        assert part.price, name
        assert part.mass_kg, name
        if part.kind == "cable":
            mm2 = size_of(part.figures.size).mm2
            assert 1.1 < part.mass_kg / (mm2 * 8.96e-3) < 2.2, name
            assert 0.25 < part.price / mm2 < 0.5, name
        elif part.kind == "fuse":
            kind = next(x for x in FUSE_KINDS if x.key == part.figures.kind)
            assert part.figures.amps <= max(kind.sizes), name


@pytest.mark.parametrize(
    ("store", "subject", "part", "suits", "why"),
    [
        # 16S LFP is 40 to 58.4 V; a 24 V inverter takes 31 V. 900 W run on it, started at 900 W.
        pytest.param(bank(volts=51.2), "inverter", "Sine inverter 2000 W 24 V", False,
                     "above its maximum", id="48 V into a 24 V inverter"),
        pytest.param(bank(volts=51.2), "inverter", "Sine inverter 3000 W 48 V", True,
                     "30 % of its rating", id="900 of 3 000 W"),
        pytest.param(bank(), "inverter", "Sine inverter 600 W 12 V", False,
                     "carries 600 W of the 900 W", id="too small"),
        pytest.param(bank(), "converter", "Buck 5 V 5 A", True, "31 %", id="8 of 25.5 W"),
        # An undocumented one gives what is printed, hot; half is advised for long; common practice.
        pytest.param(bank(), "converter", "USB converter 5 V 3 A", True,
                     "fits; 53 %", id="no ambient on its label"),
        pytest.param(bank(), "converter", "Buck 9 V 3 A", False, "gives 9 V", id="other volts"),
        pytest.param(bank(), "bank", "LFP 25.6 V 100 Ah", False, "does not fit", id="24 V bank"),
        pytest.param(bank(), "bank", "LFP 12.8 V 200 Ah, 200 A protection", True,
                     "12.8 V, 2\u202f560 Wh", id="12.8 x 200"),
    ],
)  # fmt: skip
def test_a_part_suits_by_its_volts_and_watts(
    store: Any, subject: str, part: str, suits: bool, why: str
) -> None:
    made = design(
        load(900, "kettle", ac=True),
        load(8, "phone", rail="converter", volts=5.0),
        stores=store,
        stages=inverter(),
        more=[converter(accepts={"least_v": 8.0, "most_v": 60.0})],
    )
    found = _suits(made, subject)
    assert found[part][0] is suits
    assert why in found[part][1]
    order = [fits for fits, _ in found.values()]
    assert order == sorted(order, reverse=True)


@pytest.mark.parametrize(
    ("part", "suits", "why"),
    [
        # A lamp on the 12 V vehicle socket, 500 W on the sockets, 4S LFP (14.6 V full) led into
        # a two-pole input. The figures are those in the parts' own names and labels.
        ("Station 512 Wh, 28 V input", True, "512 Wh"),
        ("Station 512 Wh, 28 V input, 120 V 60 Hz", False, "gives 120 V"),
        ("Station 300 Wh", False, "carries 300 W of the 500 W"),
        ("Station 768 Wh, steps down only", False, "takes what goes into DC input"),
        ("Station 2048 Wh, 58 V input", True,
         "with adapters: 12 V port has a two-pole connector, not a vehicle socket"),
        ("Backup unit 60 Wh 12 V, for a router", False, "nothing like AC sockets"),
        ("AC backup unit 300 W, 230 Wh", False, "AC sockets: carries 300 W"),
    ],
)  # fmt: skip
def test_a_station_suits_what_is_plugged_into_the_one_it_replaces(
    part: str, suits: bool, why: str
) -> None:
    made = design(
        on_port(20.0, "lamp"),
        load(500.0, "cooker", ac=True, rail="sockets"),
        stores=[station(), bank(id="outside")],
        links=[lead("outside")],
    )
    found = _suits(made, "station")
    assert found[part][0] is suits
    assert why in found[part][1]
    assert ("adapter" in found[part][1]) is ("adapter" in why)


@pytest.mark.parametrize(
    ("subject", "part", "suits", "why"),
    [
        # Common practice: 14.4 V fill four LFP cells; 28.8 V are for eight.
        ("engine-charger", "DC-DC charger 30 A 12 V from 12 V", True, "fits; 30 A, lithium"),
        ("engine-charger", "DC-DC charger 15 A 24 V from 12 V", False, "holds 28.8 V"),
        ("engine-charger", "DC-DC charger 30 A 12 V from 24 V", False, "never charges"),
        ("engine-charger", "DC-DC charger 20 A 12 V from 12 V, AGM", True, "with care"),
        ("engine-charger", "Mains charger 20 A 12 V, lithium", None, ""),
        # Two of 22.4 V in series and 1.08 for the cold: 48.4 V (NEC 690.7, from memory).
        ("solar-controller", "PWM controller 20 A, lithium", False, "48.4 V arrive"),
        ("solar-controller", "MPPT controller 20 A, 100 V in", True, "fits; 20 A"),
        ("solar-controller", "DC-DC charger 30 A 12 V from 12 V", None, ""),
        # Two of 37.3 V: 80.6 V in the cold, below 100; two of 100 W are 200 W.
        ("roof-panels", "Solar panel 410 W, house size", True, "820 W in all"),
        ("roof-panels", "Solar panel 100 W", True, "200 W in all"),
        # Audio wants a pure sine, and appliances the mains they are made for; common practice.
        ("inverter", "Stepped-wave inverter 1000 W 12 V", False, "Amplifier wants a pure sine"),
        ("inverter", "Sine inverter 2000 W 12 V, 120 V 60 Hz", False, "gives 120 V"),
        ("inverter", "Sine inverter 2000 W 12 V", True, "fits"),
    ],
)
def test_a_part_suits_by_what_feeds_it_and_what_it_feeds(
    subject: str, part: str, suits: bool | None, why: str
) -> None:
    found = _suits(demo_designs()["puppet-van"], subject)
    assert found.get(part, (None, ""))[0] is suits
    assert why in found.get(part, (None, ""))[1]


def test_only_places_for_parts_are_looked_for() -> None:
    made = design(load(), more=[{"kind": "feed", "id": "feed"}])
    for subject in ("feed", "lamp", "ghost"):
        with pytest.raises(InvalidDocument):
            suits_of(made, subject, [])


def test_a_part_says_where_each_figure_is_known_from() -> None:
    part = PART.validate_python(
        {"kind": "battery", "name": "Pack", "figures": {}, "provenance": "guess",
         "known_from": {"ah": "measured"}}
    )  # fmt: skip
    assert spread_from(part) == "measured"
    assert spread_from(part.model_copy(update={"known_from": {"volts": "label"}})) == "guess"
    with pytest.raises(ValidationError, match="has no figure “colour”"):
        PART.validate_python(part.model_dump() | {"known_from": {"colour": "label"}})


def test_every_part_survives_writing_and_reading() -> None:
    odd = SHELF["LFP 12.8 V 100 Ah"].model_copy(
        update={
            "name": "=1+1, “quoted”",
            "notes": "-first\u00e9, second; third 'fourth'",
            "known_from": {"ah": "measured", "bms_a": "guess"},
            "price": None,
            "figures": BatteryFigures(bms_a=None, peukert=1.05, resistance_mohm=2.5, cells=4),
        }
    )
    parts = [*SHELF.values(), odd]
    text = write_parts(parts)
    assert [row.part for row in read_parts(text)] == parts
    # No cell may start a formula in a spreadsheet.
    assert "'=1+1" in text
    assert not any(cell.startswith(("=", "+", "@")) for cell in text.split(","))
    assert [row.part for row in read_parts("\ufeff" + text)] == parts


@pytest.mark.parametrize(
    ("row", "column", "said"),
    [
        ("battery,Pack,lfp,12.8,,100", "ah", "is missing"),
        ("battery,,lfp,12.8,100,100", "name", "is missing"),
        ("battery,Pack,lfp,twelve,100,100", "volts", "'twelve' is not a number"),
        ("battery,Pack,lfp,12.8,-5,100", "ah", "must be more than 0"),
        ("battery,Pack,lfp,12.8,1e99,100", "ah", "10000 or less"),
        ("battery,Pack,lead,12.8,100,100", "chemistry", "must be one of"),
        ("battery,Pack,lfp,12.8,nan,100", "ah", "'nan' is not a number"),
        ("toaster,Pack,lfp,12.8,100,100", "kind", "must be one of battery"),
        ("inverter,Sine,lfp,12.8,100,100", "idle_w", "is missing"),
        ("inverter,Sine,lfp,12.8,100,100", "ah", "is no figure of a kind “inverter”"),
        ("battery,Pack,lfp,12.8,100,100,7", "", "has 7 cells; the first line names 6"),
    ],
)
def test_what_is_wrong_in_a_row_is_told_by_its_column(row: str, column: str, said: str) -> None:
    rows = read_parts(BATTERY + "battery,Good,lfp,12.8,100,\n" + row + "\n")
    assert rows[0].part is not None
    assert rows[0].part.figures.bms_a is None  # type: ignore[union-attr]
    assert (rows[1].line, rows[1].part) == (3, None)
    assert any(
        problem.column == column and said in problem.message for problem in rows[1].problems
    ), rows[1].problems


def test_figures_that_do_not_go_together_are_told_too() -> None:
    figures = "topology;set_v;continuous_a;accepts_least_v;accepts_most_v;full_load_efficiency"
    head = f"kind;name;{figures}\n"
    good, upside_down, linear = read_parts(
        head
        + "converter;Boost;boost;24;10;9;20;0,94\n"
        + "converter;Wrong;boost;24;10;20;9;94 %\n"
        + "converter;Line;linear;24;1;9;20;50%\n"
    )
    assert good.part is not None
    assert good.part.figures.full_load.efficiency == 0.94  # type: ignore[union-attr]
    assert "least volts below its most volts" in upside_down.problems[0].message
    assert "accept a higher voltage" in linear.problems[0].message


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "first line must name the columns"),
        ("name,volts\nPack,12\n", "first line must name the columns"),
        (BATTERY.replace("ah", "colour"), "“colour” is not a column known here"),
        (BATTERY + 'battery,"Pack,lfp,1\n', "is not CSV"),
        (BATTERY + "battery,Pack,lfp,12.8,100,\n" * (MAX_ROWS + 1), "more than 1000 parts"),
        ("x" * (MAX_CHARACTERS + 1), "more than 500000 characters"),
    ],
)
def test_a_file_that_is_no_table_is_refused_whole(text: str, said: str) -> None:
    with pytest.raises(UnreadableDocument, match=said):
        read_parts(text)


def test_an_empty_table_holds_no_parts() -> None:
    assert read_parts(BATTERY + "\n,,,,,\n") == ()
    assert len(write_parts([]).splitlines()) == 1


@pytest.mark.parametrize("name", [x for x in SHELF if x.endswith("120 V 60 Hz")])
def test_a_part_for_120_v_is_the_one_for_230_v_but_for_its_mains(name: str) -> None:
    """The same watts at half the volts are twice the amps; all else is alike (definition)."""
    mine: Any = SHELF[name].figures
    other: Any = SHELF[name.removesuffix(", 120 V 60 Hz")].figures
    fields = set(type(mine).model_fields) - {
        "output_v",
        "output_hz",
        "outlets",
        "inputs",
        "accepts",
    }
    assert {f: getattr(mine, f) for f in fields} == {f: getattr(other, f) for f in fields}
    for port, before in zip(getattr(mine, "inputs", ()), getattr(other, "inputs", ()), strict=True):
        assert port.most_w == before.most_w
        if port.supply == "ac":
            assert port.accepts.least_v < 120 < port.accepts.most_v < 200
            assert port.modes[0].amps * 120 >= port.most_w


def test_ports_that_are_added_with_a_click_are_those_of_common_stations() -> None:
    """USB Power Delivery: 60 W are 20 V 3 A, 100 W 20 V 5 A (memory); a car socket 10 A, a barrel
    3 to 5 A; a solar input of 15 A takes 500 W from 33.3 V on (common practice).
    """
    ports = {word: (x.volts or 0.0) * x.amps for word, x in usual_ports().items()}
    assert (ports["USB-C, 60 W"], ports["USB-C, 100 W"]) == (60, 100)
    assert usual_ports()["12 V socket"].amps == 10
    assert 3 <= usual_ports()["12 V barrel"].amps <= 5
    solar = usual_inputs()["Solar input, to 60 V"]
    assert solar.most_w / solar.modes[0].amps == pytest.approx(33.3, abs=0.1)
    # Nothing on a car's side, 14.4 V, nor a panel of 22 V, is above what they accept.
    assert all(x.accepts.most_v > 24 for x in usual_inputs().values())

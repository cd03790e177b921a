"""Instruments: stand-ins that speak SCPI, read through PyVISA like real ones; only listed ones."""

import json
from collections.abc import Iterator
from pathlib import Path
from threading import Thread
from typing import Any

import pytest
from fastapi.testclient import TestClient

from graveljar.api.app import create_app
from graveljar.core.model import Design
from graveljar.instruments.reader import Instruments
from graveljar.instruments.scpi import Commands, InstrumentServer
from graveljar.instruments.stand_ins import KINDS, OVERLOAD, SWITCHED, Kind, StandIn
from tests.building import bank, design, inverter, load


class Clock:
    """A clock that stands still until it is set. [s]"""

    now_s = 0.0

    def __call__(self) -> float:
        return self.now_s


def radio() -> Design:
    """5 A day and night on 100 Ah of LFP without any loss."""
    one = load(60.0, "radio", hours_per_day=24.0, draw="constant current")
    return design(one, stores=bank(reserve=0.0, resistance_mohm=0.001))


def at(kind: Kind, subject: str = "bank", **rest: Any) -> tuple[StandIn, Clock]:
    """A stand-in at a part of it, and its clock."""
    clock = Clock()
    return StandIn(kind, radio(), subject, clock, **rest), clock


def test_a_shunt_counts_what_flows() -> None:
    """5 A for 10 h are 50 Ah, half of 100: definition. Classes as in KINDS."""
    shunt, clock = at("shunt")
    clock.now_s = 36_000.0
    assert shunt.reads("ah") == pytest.approx(50.0, rel=0.01)
    assert shunt.reads("amps") == pytest.approx(5.0, rel=0.02)
    assert shunt.reads("charge") == pytest.approx(0.5, abs=0.01)
    assert shunt.reads("wh") == pytest.approx(50 * 13.2, rel=0.03)
    # A run that ended draws nothing; ten times as fast it has ended in a tenth.
    fast, fast_clock = at("shunt", speed=10.0)
    fast_clock.now_s = 3_600.0
    assert fast.reads("ah") == pytest.approx(50.0, rel=0.01)
    fast_clock.now_s = 36_000.0
    assert abs(fast.reads("amps")) < 0.05


@pytest.mark.parametrize("kind", sorted(KINDS))
def test_a_stand_in_reads_within_its_class(kind: Kind) -> None:
    """Not more off than gain, offset and four times its noise; in steps of its resolution."""
    for seed in range(20):
        one, clock = at(kind, seed=seed)
        if kind in SWITCHED:
            one.set_a, one.set_v = 5.0, 14.4 if kind == "supply" else 10.5
            one.switch(on=True)
        clock.now_s = 3_600.0
        true = {"volts": 13.3, "amps": 5.0, "watts": 66.5, "ah": 5.0, "wh": 66.5, "charge": 0.95}
        if kind == "supply":
            # An empty bank after an hour at 5 A: 10 % of LFP is 12.1 V (the reference curve).
            true |= {"volts": 12.1, "watts": 60.5}
        for quantity, accuracy in KINDS[kind].items():
            read = one.reads(quantity)
            bound = true[quantity] * (accuracy.gain + 4 * accuracy.noise + 0.01) + accuracy.offset
            assert abs(read - true[quantity]) <= bound + accuracy.step, (kind, quantity)
            assert read / accuracy.step == pytest.approx(round(read / accuracy.step))


def test_a_meter_beyond_its_range_says_overload() -> None:
    """9.9E37: SCPI-99, from memory. 5 kW on a plug meter for 16 A (3 680 W)."""
    house = design(
        load(5_000.0, "kiln", ac=True, hours_per_day=24.0),
        stores=bank(volts=51.2, ah=400.0, bms_a=400.0),
        stages=inverter(nominal_v=48.0, continuous_w=8_000.0, surge_w=16_000.0,
                        accepts={"least_v": 40.0, "most_v": 60.0}),
    )  # fmt: skip
    meter = StandIn("watt-meter", house, "kiln", Clock())
    assert meter.reads("watts") == OVERLOAD
    assert meter.reads("volts") == pytest.approx(230.0, rel=0.02)


@pytest.mark.parametrize(
    ("line", "answer"),
    [
        ("*IDN?", "Gravel Jar,simulated electronic-load,0,1"),
        ("*OPC?", "1"),
        ("meas:volt:dc?", "0.000000E+00"),
        ("MEASURE:CURRENT?", "0.000000E+00"),
        ("MEAS:SOC?", None),
        ("garbage", None),
        ("", None),
    ],
)
def test_commands_are_answered_as_ieee_488_2_has_them(line: str, answer: str | None) -> None:
    """IEEE 488.2 common commands and SCPI-99 headers, long and short; from memory."""
    commands = Commands(at("electronic-load")[0])
    assert commands.answer(line) == answer
    expects = answer is None
    assert (commands.answer("SYST:ERR?") == '-113,"Undefined header"') is expects
    assert commands.answer("SYSTEM:ERROR:NEXT?") == '0,"No error"'


def test_an_electronic_load_discharges_a_bank_to_its_cut_off() -> None:
    """100 Ah at 20 A are 5 h: definition; it ends a little before at 11 V."""
    one, clock = at("electronic-load")
    commands = Commands(one)
    for line in ("CURR 20", "VOLT:MIN 11.0", "INP ON"):
        assert commands.answer(line) is None
    clock.now_s = 3_600.0
    assert float(commands.answer("MEAS:CURR?") or 0) == pytest.approx(20.0, rel=0.01)
    clock.now_s = 6 * 3_600.0
    assert float(commands.answer("MEAS:CURR?") or 1) == pytest.approx(0.0, abs=0.01)
    assert float(commands.answer("MEAS:CHAR?") or 0) == pytest.approx(100.0, rel=0.05)
    commands.answer("*RST")
    assert not one.on
    for line, error in (("CURR -5", -222), ("VOLT:MIN 1e9", -222), ("OUTP ON", -113)):
        assert commands.answer(line) is None
        assert (commands.answer("SYST:ERR?") or "").startswith(f"{error},")


def test_a_supply_charges_a_bank_until_it_holds_its_volts() -> None:
    """95 Ah missing at 10 A are 9.5 h: definition; then next to nothing flows."""
    one, clock = at("supply")
    commands = Commands(one)
    for line in ("VOLT 14.4", "CURR 10", "OUTP ON"):
        assert commands.answer(line) is None
    assert commands.answer("SYST:ERR?") == '0,"No error"'
    clock.now_s = 5 * 3_600.0
    assert float(commands.answer("MEAS:CURR?") or 0) == pytest.approx(10.0, rel=0.02)
    clock.now_s = 12 * 3_600.0
    assert float(commands.answer("MEAS:CURR?") or 9) < 0.5


@pytest.fixture
def served() -> Iterator[InstrumentServer]:
    server = InstrumentServer(at("shunt")[0], 0)
    with server:
        thread = Thread(target=server.serve_forever, args=(0.02,), daemon=True)
        thread.start()
        yield server
        server.shutdown()


def _web(tmp_path: Path, *listed: dict[str, Any]) -> TestClient:
    file = tmp_path / "instruments.json"
    if listed:
        file.write_text(json.dumps(listed))
    app = create_app(instruments=Instruments(file))
    return TestClient(app, base_url="http://127.0.0.1:8734")


def test_only_a_listed_instrument_is_read(served: InstrumentServer, tmp_path: Path) -> None:
    listed = {"name": "Shunt", "address": served.address, "measures": ["volts", "amps"]}
    web = _web(tmp_path, listed)
    assert web.get("/api/instruments").json() == [listed | {"speaks": "scpi"}]
    ask = {"name": "Shunt", "quantities": ["volts", "amps"]}
    found = web.post("/api/instruments/read", json=ask).json()["values"]
    assert found["amps"] == pytest.approx(5.0, rel=0.02)
    assert found["volts"] == pytest.approx(13.5, abs=0.3)
    other = web.post("/api/instruments/read", json=ask | {"name": "Another"}).json()
    assert other["code"] == "instrument_unlisted"
    wrong = web.post("/api/instruments/read", json=ask | {"quantities": ["charge; *RST"]})
    assert wrong.json()["code"] == "invalid_document"
    assert _web(tmp_path / "none").get("/api/instruments").json() == []


def test_one_that_tells_lines_unasked_is_read_too(tmp_path: Path) -> None:
    """The format as docs/formats.md has it; a figure that its lines lack is said."""
    server = InstrumentServer(at("shunt")[0], 0, every_s=0.01)
    with server:
        Thread(target=server.serve_forever, args=(0.02,), daemon=True).start()
        web = _web(
            tmp_path,
            {"name": "Shunt", "address": server.address, "measures": ["amps"], "speaks": "lines"},
        )
        ask = {"name": "Shunt", "quantities": ["volts", "amps"]}
        found = web.post("/api/instruments/read", json=ask).json()["values"]
        assert found["amps"] == pytest.approx(5.0, rel=0.02)
        server.instrument.kind = "multimeter"
        wrong = web.post("/api/instruments/read", json=ask)
        assert wrong.json()["code"] == "instrument_garbled"
        assert "no amps in “volts=" in wrong.json()["detail"]
        server.shutdown()


@pytest.mark.parametrize("address", ["TCPIP::127.0.0.1::9::SOCKET", "TCPIP::127.0.0.1::1::SOCKET"])
def test_an_instrument_that_does_not_answer_is_said(address: str, tmp_path: Path) -> None:
    web = _web(tmp_path, {"name": "Gone", "address": address, "measures": ["volts"]})
    ask = {"name": "Gone", "quantities": ["volts"]}
    found = web.post("/api/instruments/read", json=ask)
    assert (found.status_code, found.json()["code"]) == (424, "instrument_away")


def test_garbage_and_a_bad_list_are_said(tmp_path: Path) -> None:
    class Rambling(StandIn):
        def reads(self, _: Any) -> Any:
            return float("nan")

    server = InstrumentServer(Rambling("shunt", radio(), "bank", Clock()), 0)
    with server:
        thread = Thread(target=server.serve_forever, args=(0.02,), daemon=True)
        thread.start()
        web = _web(tmp_path, {"name": "Odd", "address": server.address, "measures": ["volts"]})
        ask = {"name": "Odd", "quantities": ["volts"]}
        assert web.post("/api/instruments/read", json=ask).json()["code"] == "instrument_garbled"
        server.shutdown()
    bad = _web(tmp_path, {"name": "Far", "address": "http://far.example", "measures": ["volts"]})
    assert bad.get("/api/instruments").json()["code"] == "instrument_unlisted"

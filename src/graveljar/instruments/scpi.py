"""SCPI over TCP on loopback: the common commands, and those that measure and set."""

import re
import time
from socketserver import StreamRequestHandler, ThreadingTCPServer
from typing import Final

from graveljar.core.errors import GravelJarError
from graveljar.instruments.lines import line_of
from graveljar.instruments.stand_ins import KINDS, SWITCHED, Quantity, StandIn

# A command is short; what is longer is none. [bytes]
MAX_LINE: Final = 256

_MEASURE: Final[tuple[tuple[Quantity, str], ...]] = (
    ("volts", r"MEAS(?:URE)?:VOLT(?:AGE)?(?::DC)?\?"),
    ("amps", r"MEAS(?:URE)?:CURR(?:ENT)?(?::DC)?\?"),
    ("watts", r"MEAS(?:URE)?:POW(?:ER)?\?"),
    ("ah", r"MEAS(?:URE)?:CHAR(?:GE)?\?"),
    ("wh", r"MEAS(?:URE)?:ENER(?:GY)?\?"),
    ("charge", r"MEAS(?:URE)?:SOC\?"),
)
_NUMBER: Final = r"([-+]?\d{1,9}(?:\.\d{1,9})?(?:[eE][-+]?\d{1,2})?)"
# IEEE 488.2, 21.8; SCPI-99 vol. 2, 21.8. From memory.
UNDEFINED: Final = '-113,"Undefined header"'
OUT_OF_RANGE: Final = '-222,"Data out of range"'
NOT_NOW: Final = '-221,"Settings conflict"'
NO_ERROR: Final = '0,"No error"'


class Commands:
    """Answers the commands of one instrument; errors wait until they are asked for."""

    def __init__(self, instrument: StandIn) -> None:
        self.instrument = instrument
        self.errors: list[str] = []

    def answer(self, line: str) -> str | None:
        """What a line is answered with; None where it asks nothing.

        Examples
        --------
        >>> from graveljar.core.lowering.example import lamp
        >>> shunt = StandIn("shunt", lamp(), "bank", clock=lambda: 0.0)
        >>> Commands(shunt).answer("*IDN?"), Commands(shunt).answer("SYST:ERR?")
        ('Gravel Jar,simulated shunt,0,1', '0,"No error"')
        """
        told = line.strip().upper()
        common = {
            "*IDN?": f"Gravel Jar,simulated {self.instrument.kind},0,1",
            "*OPC?": "1", "*TST?": "0", "*ESR?": "32" if self.errors else "0", "*STB?": "0",
        }  # fmt: skip
        if told in common:
            return common[told]
        if re.fullmatch(r"SYST(?:EM)?:ERR(?:OR)?(?::NEXT)?\?", told):
            return self.errors.pop(0) if self.errors else NO_ERROR
        for quantity, pattern in _MEASURE:
            if re.fullmatch(pattern, told):
                return self._measure(quantity)
        self._set(told)
        return None

    def _measure(self, quantity: Quantity) -> str | None:
        if quantity not in KINDS[self.instrument.kind]:
            self.errors.append(UNDEFINED)
            return None
        return f"{self.instrument.reads(quantity):.6E}"

    def _set(self, told: str) -> None:
        if told in ("*CLS", "*RST"):
            self.errors.clear()
            if told == "*RST" and self.instrument.kind in SWITCHED:
                self.instrument.switch(on=False)
            return
        amps = re.fullmatch(rf"CURR(?:ENT)? {_NUMBER}", told)
        # A load has a least voltage, a supply one that it holds.
        minimum = "" if self.instrument.kind == "supply" else ":MIN(?:IMUM)?"
        volts = re.fullmatch(rf"VOLT(?:AGE)?{minimum} {_NUMBER}", told)
        output = SWITCHED.get(self.instrument.kind, "")
        switch = re.fullmatch(rf"{output}(?:UT)? (ON|OFF|1|0)", told)
        if self.instrument.kind not in SWITCHED or not (amps or volts or switch):
            self.errors.append(UNDEFINED)
            return
        try:
            if amps or volts:
                quantity: Quantity = "amps" if amps else "volts"
                value = float((amps or volts)[1])  # type: ignore[index]
                if not 0 < value <= KINDS[self.instrument.kind][quantity].most:
                    self.errors.append(OUT_OF_RANGE)
                elif amps:
                    self.instrument.set_a = value
                else:
                    self.instrument.set_v = value
            elif switch:
                self.instrument.switch(on=switch[1] in ("ON", "1"))
        except (GravelJarError, ValueError):
            self.errors.append(NOT_NOW)


class InstrumentServer(ThreadingTCPServer):
    """Serves one instrument to whoever connects on loopback, a line each way.

    With `every_s` it asks for nothing and tells its figures unasked, a line every so often. [s]
    """

    allow_reuse_address = True
    daemon_threads = True

    def __init__(self, instrument: StandIn, port: int, every_s: float | None = None) -> None:
        self.instrument, self.every_s = instrument, every_s
        super().__init__(("127.0.0.1", port), _Handler)

    @property
    def address(self) -> str:
        """Its address, as it is listed in the settings."""
        return f"TCPIP::127.0.0.1::{self.server_address[1]}::SOCKET"


class _Handler(StreamRequestHandler):
    def handle(self) -> None:
        server = self.server
        assert isinstance(server, InstrumentServer)  # noqa: S101
        if server.every_s is not None:
            self._tell(server.instrument, server.every_s)
            return
        commands = Commands(server.instrument)
        while line := self.rfile.readline(MAX_LINE):
            answer = commands.answer(line.decode("ascii", errors="replace"))
            if answer is not None:
                self.wfile.write(answer.encode("ascii") + b"\n")

    def _tell(self, instrument: StandIn, every_s: float) -> None:
        """A line of figures every so often, until whoever listens is gone."""
        try:
            while True:
                self.wfile.write(line_of(instrument).encode("ascii") + b"\n")
                time.sleep(every_s)
        except OSError:
            return

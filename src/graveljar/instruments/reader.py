"""Reads instruments through PyVISA's pure Python back end: only those that the settings list."""

import json
import math
from collections.abc import Sequence
from contextlib import closing
from pathlib import Path
from threading import Lock
from typing import Annotated, Any, Final, Literal

from pydantic import Field, TypeAdapter, ValidationError

from graveljar.core.errors import GravelJarError
from graveljar.core.model import Part
from graveljar.instruments.lines import figures_of, missing
from graveljar.instruments.stand_ins import OVERLOAD, Quantity

MAX_INSTRUMENTS: Final = 20
# An answer that takes longer is none. [ms]
PATIENCE_MS: Final = 2_000

COMMANDS: Final[dict[Quantity, str]] = {
    "volts": "MEAS:VOLT?",
    "amps": "MEAS:CURR?",
    "watts": "MEAS:POW?",
    "ah": "MEAS:CHAR?",
    "wh": "MEAS:ENER?",
    "charge": "MEAS:SOC?",
}


class InstrumentSetting(Part):
    """An instrument that may be opened: its name and VISA address, and what it measures.

    One that `speaks` in lines is not asked: it tells its figures by itself.
    """

    name: Annotated[str, Field(min_length=1, max_length=80)]
    address: Annotated[
        str,
        Field(
            pattern=r"^(TCPIP\d*::[\w.-]{1,80}::\d{1,5}::SOCKET|ASRL[\w/.-]{1,80}::INSTR)$",
            max_length=120,
        ),
    ]
    measures: Annotated[tuple[Quantity, ...], Field(min_length=1, max_length=6, strict=False)]
    speaks: Literal["scpi", "lines"] = "scpi"


class InstrumentAway(GravelJarError):
    """An instrument that is listed does not answer."""

    code = "instrument_away"
    title = "The instrument does not answer"


class InstrumentGarbled(GravelJarError):
    """What an instrument sent is no number."""

    code = "instrument_garbled"
    title = "The instrument sent no number"


class InstrumentUnlisted(GravelJarError):
    """The settings list no instrument of this name."""

    code = "instrument_unlisted"
    title = "There is no such instrument"


_LISTED: Final = TypeAdapter(Annotated[list[InstrumentSetting], Field(max_length=MAX_INSTRUMENTS)])


class Instruments:
    """The instruments of a settings file, read one at a time."""

    def __init__(self, file: Path) -> None:
        self._file = file
        self._busy = Lock()

    def listed(self) -> list[InstrumentSetting]:
        """Instruments that the settings list; none without a file.

        Raises
        ------
        InstrumentUnlisted : the file cannot be read.
        """
        try:
            return _LISTED.validate_python(json.loads(self._file.read_text(encoding="utf-8")))
        except FileNotFoundError:
            return []
        except (OSError, ValueError, ValidationError):
            message = f"{self._file.name} is no list of instruments: see docs/formats.md."
            raise InstrumentUnlisted(message) from None

    def read(self, name: str, quantities: Sequence[Quantity]) -> dict[Quantity, float | None]:
        """Figures of an instrument now; None where it is beyond its range.

        Raises
        ------
        InstrumentUnlisted : the settings list none of this name.
        InstrumentAway : it does not answer.
        InstrumentGarbled : it answers with no number.
        """
        one = next((x for x in self.listed() if x.name == name), None)
        if one is None:
            raise InstrumentUnlisted(f"The settings list no instrument “{name}”.")
        # Only here: no start waits for it.
        import pyvisa  # noqa: PLC0415

        with self._busy:
            try:
                return _asked(pyvisa.ResourceManager("@py"), one, quantities)
            except (pyvisa.Error, OSError, ValueError) as error:
                if isinstance(error, _NotANumber):
                    raise InstrumentGarbled(f"{name} sent “{error}”, not a number.") from None
                raise InstrumentAway(f"{name} does not answer at {one.address}.") from None


def _asked(
    manager: Any, one: InstrumentSetting, quantities: Sequence[Quantity]
) -> dict[Quantity, float | None]:
    with closing(manager):
        opened: Any = manager.open_resource(
            one.address, open_timeout=PATIENCE_MS, timeout=PATIENCE_MS,
            read_termination="\n", write_termination="\n",
        )  # fmt: skip
        with closing(opened):
            if one.speaks == "lines":
                return _told(opened.read(), quantities)
            return {x: _figure(opened.query(COMMANDS[x])) for x in quantities}


class _NotANumber(ValueError):
    """An answer that is no number."""


def _told(line: str, quantities: Sequence[Quantity]) -> dict[Quantity, float | None]:
    """Figures of a line that was told unasked."""
    figures = figures_of(line)
    found: dict[Quantity, float | None] = {}
    for quantity in quantities:
        if quantity not in figures:
            raise _NotANumber(missing(line, quantity))
        found[quantity] = _figure(figures[quantity])
    return found


def _figure(answer: str) -> float | None:
    try:
        value = float(answer.strip())
    except ValueError:
        raise _NotANumber(answer.strip()[:40]) from None
    if math.isnan(value):
        raise _NotANumber(answer.strip()[:40])
    return None if abs(value) >= OVERLOAD / 10 else value

"""Wiring: what carries the current at a joint, and what protects it."""

from typing import Annotated, Literal, Self

from pydantic import ConfigDict, Field, model_validator
from pydantic_core import PydanticCustomError

from graveljar.core.model.fields import Amps, MilliOhm, Part, Volts
from graveljar.core.tables.conductors import School, SizeName
from graveljar.core.tables.connectors import ConnectorKey
from graveljar.core.tables.fuses import FuseKindKey

Metres = Annotated[float, Field(ge=0.01, le=200)]


class Cable(Part):
    """A cable run: two copper conductors, out and back, of one size; `leads` such pairs.

    `length_m` is one way [m]. Without a `size` none is chosen yet. `installed` in what, with how
    many current-carrying conductors `together`; `ambient_c` around it (the hottest of the design,
    30 °C at least, if unsaid) and `insulation_c` it is marked for (if unsaid: 75 °C for building
    wire, else 70 °C) [°C].
    `may_lose` is the share of the rail's volts that may be lost on the whole way.
    """

    length_m: Metres
    size: SizeName | None = None
    leads: Annotated[int, Field(ge=1, le=4)] = 1
    installed: Literal["in conduit or enclosed", "bundled", "in free air"] = (
        "in conduit or enclosed"
    )
    together: Annotated[int, Field(ge=2, le=20)] = 2
    insulation_c: Literal[60, 70, 75, 80, 90, 105, 125] | None = None
    ambient_c: Annotated[float, Field(ge=-40, le=70)] | None = None
    school: School | None = None
    may_lose: Annotated[float, Field(ge=0.005, le=0.2)] | None = None


class Fuse(Part):
    """A fuse or breaker in each cable of a joint.

    `volts` it may break (DC) and `breaks_a` it may interrupt: those of its kind, if unsaid; of
    no kind, nothing is known. `from_post_m` is its way from the battery post. [A], [V], [m]
    """

    amps: Amps
    kind: FuseKindKey | None = None
    volts: Volts | None = None
    breaks_a: Annotated[float, Field(ge=1, le=1_000_000)] | None = None
    from_post_m: Annotated[float, Field(ge=0, le=200)] | None = None


class Joined(Part):
    """What is connected to something through a joint of its own.

    `cable_mohm` is measured, of both conductors together, and goes before the cable's length and
    size. `bus_bar_a` and `shunt_a` are those that all of its current passes.
    """

    cable_mohm: MilliOhm | None = None
    cable: Cable | None = None
    fuse: Fuse | None = None
    connector: ConnectorKey | None = None
    bus_bar_a: Amps | None = None
    shunt_a: Amps | None = None


class Disconnect(Part):
    """A main switch: amps it carries continuously, DC volts it opens under load. [A], [V]"""

    amps: Amps
    volts: Volts | None = None


class BankLeads(Joined):
    """From the posts of each string of a bank to where it hands over: its bus bar or terminals.

    `cable` and `fuse` are those of one string; `longest_m` is the longest where the strings'
    leads are not of one length [m]. All of the bank's current passes `disconnect`, bus bar
    and shunt.
    """

    model_config = ConfigDict(
        json_schema_extra={
            "if": {"properties": {"longest_m": {"type": "number"}}, "required": ["longest_m"]},
            "then": {"properties": {"cable": {"type": "object"}}, "required": ["cable"]},
        }
    )

    longest_m: Metres | None = None
    disconnect: Disconnect | None = None
    take_off: Literal["from both ends", "from one battery", "bus bars"] = "from both ends"

    @model_validator(mode="after")
    def _longest(self) -> Self:
        if self.longest_m is None:
            return self
        if self.cable is None or self.longest_m < self.cable.length_m:
            raise PydanticCustomError(
                "longest", "must have a cable, and a longest cable no shorter than it"
            )
        return self

"""The 12 or 24 V side of a vehicle as a source: as much as its engine gives while it runs."""

from typing import Annotated, Literal

from pydantic import Field

from graveljar.core.model.fields import Amps, Id, Name, Part, Provenance, Volts
from graveljar.core.model.loads import Between, Span


class Vehicle(Part):
    """A vehicle whose engine, or DC-DC converter in ready mode, feeds something.

    `limit_a` is what its socket, its fuse or its own DC-DC converter may give continuously; while
    the engine is off nothing is taken. A smart `alternator` lets the volts stray from 12.2 to
    15.5 V; an unknown one may. It is rated for `alternator_a`, where that is known, and gives less
    of it where the engine only `idles`. `signal` is how what it feeds knows of the engine. What is
    `taken_from` a socket has its thin cables before it, `cable_mohm` in all. [A], [mOhm]
    """

    kind: Literal["vehicle"] = "vehicle"
    id: Id = "vehicle"
    name: Name = "Vehicle"
    nominal_v: Literal[12, 24] = 12
    running_v: Volts = 13.8
    limit_a: Amps = 10.0
    runs: Between = Between(windows=(Span(from_h=9.0, to_h=11.0),))
    alternator: Literal["unknown", "smart", "fixed"] = "unknown"
    alternator_a: Amps | None = None
    idles: bool = False
    taken_from: Literal["socket", "battery post"] = "socket"
    signal: Literal["ignition wire", "voltage", "none"] = "ignition wire"
    cable_mohm: Annotated[float, Field(ge=0, le=10_000)] = 20.0
    provenance: Provenance = "label"

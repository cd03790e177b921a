"""Sources beside vehicles: mains, generators and solar panels; and the week they come in."""

from typing import Annotated, Final, Literal, Self

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from graveljar.core.model.fields import (
    Amps,
    Id,
    Name,
    Part,
    Provenance,
    ShelfCopy,
    Volts,
    Watts,
)
from graveljar.core.model.loads import Between, Span

# kWh/m2 a day on a flat panel at some 50 degrees north, January to December: the middle of what
# yield maps show there. Common practice, from memory; typed over for a place of one's own.
FLAT_AT_50_NORTH: Final = (0.8, 1.5, 2.7, 4.1, 5.1, 5.4, 5.3, 4.5, 3.2, 1.9, 1.0, 0.6)

SunHours = Annotated[
    tuple[Annotated[float, Field(ge=0, le=12)], ...],
    Field(min_length=12, max_length=12, strict=False),
]


class Mains(Part):
    """A mains socket, at the volts of the design; always there, or at its `times`.

    `socket_a` is what it may give continuously. [A]
    """

    kind: Literal["mains"] = "mains"
    id: Id = "mains"
    name: Name = "Mains socket"
    socket_a: Amps = 10.0
    times: Between | None = None
    provenance: Provenance = "label"


class Generator(Part):
    """A generator with AC sockets at the volts of the design, running at its times.

    `watts` it gives continuously; `litres_per_kwh` it burns, where that is known. [W], [l/kWh]
    """

    kind: Literal["generator"] = "generator"
    id: Id = "generator"
    name: Name = "Generator"
    watts: Watts = 1000.0
    litres_per_kwh: Annotated[float, Field(gt=0, le=5)] | None = None
    waveform: Literal["pure sine", "other"] = "pure sine"
    runs: Between = Between(windows=(Span(from_h=17.0, to_h=19.0),))
    provenance: Provenance = "label"


class Panel(Part):
    """A solar panel as labelled, at 25 °C and 1 000 W/m2. [W], [V], [A]

    `voc_per_c` is the share by which its open-circuit volts change with each degree. [1/K]
    """

    watts: Watts = 100.0
    voc_v: Volts = 22.3
    vmp_v: Volts = 18.6
    isc_a: Amps = 5.8
    imp_a: Amps = 5.4
    voc_per_c: Annotated[float, Field(ge=-0.01, le=0)] | None = None


class Sun(Part):
    """Alike solar panels, `series` in a string, `parallel` strings.

    `sun_hours` a day of each month on the plane of the panels [kWh/m2]; `yields` is the share that
    is left after dirt, heat and wires; `shaded` the share that shade takes.
    """

    kind: Literal["sun"] = "sun"
    id: Id = "sun"
    name: Name = "Solar panel"
    panel: Panel = Panel()
    series: Annotated[int, Field(ge=1, le=20)] = 1
    parallel: Annotated[int, Field(ge=1, le=20)] = 1
    sun_hours: SunHours = FLAT_AT_50_NORTH
    yields: Annotated[float, Field(gt=0, le=1)] = 0.78
    shaded: Annotated[float, Field(ge=0, lt=1)] = 0.0
    provenance: Provenance = "label"
    shelf: ShelfCopy | None = None


class WeekDay(Part):
    """One day: its sun, whether the engine runs, whether there is mains, and when that fails.

    `outages` lie within the day, one after the other.
    """

    sun: Literal["good", "usual", "poor"] = "usual"
    engine: bool = True
    mains: bool = True
    outages: Annotated[tuple[Span, ...], Field(max_length=6, strict=False)] = ()

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        hour = 0.0
        for span in self.outages:
            if span.from_h < hour or span.to_h <= span.from_h:
                raise PydanticCustomError(
                    "outages_order", "must be within the day, one after the other"
                )
            hour = span.to_h
        return self


class Week(Part):
    """The week that repeats, Monday first, in a `month` at a `latitude`. [°]"""

    month: Annotated[int, Field(ge=1, le=12)] = 6
    latitude: Annotated[float, Field(ge=-90, le=90)] = 50.0
    days: Annotated[tuple[WeekDay, ...], Field(min_length=7, max_length=7, strict=False)] = (
        WeekDay(),
    ) * 7

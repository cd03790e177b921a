"""What somebody has when a design begins: as few figures as a label has."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from graveljar.core.model import BatteryFigures, Part, StationFigures
from graveljar.core.model.fields import Amps, Volts, Watts, WattsOrNone
from graveljar.core.model.stations import WattHours
from graveljar.core.tables.chemistry import ChemistryKey

Hours = Annotated[float, Field(gt=0, le=8_760)]
Count = Annotated[int, Field(ge=1, le=16)]


class Region(Part):
    """Where and how it is built: asked once, and kept for the next design. [V], [Hz]"""

    ac_volts: Annotated[float, Field(ge=90, le=260)] = 230.0
    ac_hz: Literal[50, 60] = 50
    place: Literal["vehicle", "boat", "building", "box"] = "vehicle"
    sizes: Literal["metric", "AWG"] = "metric"


class HaveNothing(Part):
    """Nothing yet: it is to be sized for so many hours. [h]"""

    have: Literal["nothing"]
    goal_h: Hours = 24.0


class HaveBattery(Part):
    """Batteries, `series` in a string, `parallel` strings."""

    have: Literal["battery"]
    battery: BatteryFigures = BatteryFigures()
    series: Count = 1
    parallel: Count = 1


class StationLabel(Part):
    """What a station's label says: Wh, watts of its sockets (0: none), amps at 12 V, its cells.

    `figures`, where its whole label was read, go before them.
    """

    wh: WattHours = 512.0
    ac_w: WattsOrNone = 600.0
    surge_w: WattsOrNone = 1200.0
    dc_a: Annotated[float, Field(ge=0, le=100)] = 10.0
    chemistry: ChemistryKey = "lfp"
    figures: StationFigures | None = None


class HaveStation(StationLabel):
    """A power station."""

    have: Literal["station"]


class HaveGrown(StationLabel):
    """A station, its DC input, and a battery to feed it. [V], [A], [W]"""

    have: Literal["grown"]
    least_v: Volts = 11.0
    most_v: Volts = 28.0
    input_a: Amps = 8.0
    input_w: Annotated[float, Field(gt=0, le=20_000)] = 200.0
    battery: BatteryFigures = BatteryFigures()

    @model_validator(mode="after")
    def _a_span(self) -> Self:
        if self.least_v == self.most_v:
            says = "must be more than the least volts, as its label says"
            raise PydanticCustomError(
                "places", "no span", {"places": [(("most_v",), "no_span", says)]}
            )
        return self


class HavePacks(Part):
    """Packs of tools or bikes, alike: volts by their class, Ah; how many in series, in parallel."""

    have: Literal["packs"]
    volts: Literal[18, 36, 48] = 18
    ah: Annotated[float, Field(gt=0, le=200)] = 5.0
    series: Annotated[int, Field(ge=1, le=4)] = 1
    parallel: Count = 1


class HaveVehicle(Part):
    """The 12 or 24 V side of a vehicle, from a socket of so many amps. [A]"""

    have: Literal["vehicle"]
    volts: Literal[12, 24] = 12
    amps: Amps = 10.0


class HaveRouter(Part):
    """A backup box for a router: what it holds, what it gives, what the router takes.

    `outage_h` is to be run through. [Wh], [V], [A], [W], [h]. The output of such a box may be
    touched: 60 V at most.
    """

    have: Literal["router"]
    wh: WattHours = 30.0
    volts: Annotated[float, Field(gt=0, le=60)] = 12.0
    amps: Amps = 2.0
    router_w: Watts = 8.0
    outage_h: Hours = 4.0


Have = Annotated[
    HaveNothing | HaveBattery | HaveStation | HaveGrown | HavePacks | HaveVehicle | HaveRouter,
    Field(discriminator="have"),
]

"""Stages: what makes one rail from another."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from graveljar.core.model.fields import (
    Amps,
    Id,
    Name,
    Part,
    Provenance,
    Resets,
    ShelfCopy,
    Volts,
    Watts,
    WattsOrNone,
    Window,
    check_restart,
)
from graveljar.core.model.wiring import Joined

Hertz = Literal[50, 60]
Switched = Literal["always on", "on with its loads"]


class Efficiency(Part):
    """An efficiency at a share of the continuous rating, both 0 to 1."""

    load_share: Annotated[float, Field(gt=0, le=1)]
    efficiency: Annotated[float, Field(gt=0, le=1)]


class Sleep(Part):
    """Search mode: draws `watts` while the AC side asks for less than `threshold_w`."""

    watts: WattsOrNone
    threshold_w: Watts


def check_efficiencies(part: Efficiency | None, full: Efficiency) -> None:
    """Refuse a part-load efficiency at as much load as the full-load one."""
    if part is not None and part.load_share >= full.load_share:
        raise PydanticCustomError(
            "efficiency_points", "must give its part-load figure at less than its full-load one"
        )


class InverterFigures(Part):
    """An inverter as labelled. `surge_s` is given only when a datasheet states the seconds.

    After an overload it `resets` by hand, unless its maker says otherwise.
    """

    nominal_v: Volts = 12.0
    accepts: Window = Window(least_v=10.5, most_v=15.0)
    restarts_v: Volts | None = None
    continuous_w: Watts = 1000.0
    surge_w: Watts = 2000.0
    surge_s: Annotated[float, Field(gt=0, le=3_600)] | None = None
    waveform: Literal["pure sine", "modified sine"] = "pure sine"
    part_load: Efficiency = Efficiency(load_share=0.3, efficiency=0.91)
    full_load: Efficiency = Efficiency(load_share=1.0, efficiency=0.87)
    idle_w: WattsOrNone = 12.0
    sleep: Sleep | None = None
    output_v: Annotated[float, Field(ge=90, le=260)] = 230.0
    output_hz: Hertz | None = None
    resets: Resets = "by hand"

    @model_validator(mode="after")
    def _agrees(self) -> Self:
        check_efficiencies(self.part_load, self.full_load)
        check_restart(self.restarts_v, self.accepts.least_v, self.accepts.most_v)
        return self


class Inverter(InverterFigures, Joined):
    """Makes an AC rail.

    One with a transfer switch, as in an inverter-charger or a backup box, passes on what arrives
    at its `transfer`, a mains socket or generator, while that is there. `changeover`: whether its
    loads see a break as it switches over.
    """

    kind: Literal["inverter"] = "inverter"
    id: Id = "inverter"
    name: Name = "Inverter"
    rail: Id = "bank"
    switched: Switched = "always on"
    transfer: Id | None = None
    changeover: Literal["unknown", "none", "break"] = "unknown"
    provenance: Provenance = "label"
    shelf: ShelfCopy | None = None


class ConverterFigures(Part):
    """A DC-DC converter as labelled.

    `droop_v` is what the output falls by at the continuous amps. `knee_c` and `derate_per_c`
    are the ambient from which its amps fall, and the share they fall by for each degree.
    `documented` is false where the label names no ambient for its amps; `measured_a` is the
    current at which it was seen to limit itself. [A]
    """

    topology: Literal["buck", "boost", "buck-boost", "linear"] = "buck"
    accepts: Window = Window(least_v=9.0, most_v=36.0)
    restarts_v: Volts | None = None
    set_v: Volts = 5.0
    continuous_a: Amps = 10.0
    peak_a: Amps | None = None
    measured_a: Amps | None = None
    part_load: Efficiency | None = None
    full_load: Efficiency = Efficiency(load_share=1.0, efficiency=0.92)
    quiescent_w: WattsOrNone = 0.3
    droop_v: Annotated[float, Field(ge=0, le=100)] = 0.0
    knee_c: Annotated[float, Field(ge=0, le=100)] = 40.0
    derate_per_c: Annotated[float, Field(ge=0, le=0.2)] = 0.02
    documented: bool = True
    resets: Resets = "by hand"

    @model_validator(mode="after")
    def _agrees(self) -> Self:
        check_efficiencies(self.part_load, self.full_load)
        check_restart(self.restarts_v, self.accepts.least_v, self.accepts.most_v)
        if self.droop_v >= self.set_v:
            raise PydanticCustomError("droop", "must droop by less than its set volts")
        if self.topology == "linear" and self.accepts.most_v <= self.set_v:
            raise PydanticCustomError(
                "linear_up", "must accept a higher voltage than a linear one supplies"
            )
        return self


class Converter(ConverterFigures, Joined):
    """Makes a DC rail of `set_v` from another; `parallel` alike ones share the current."""

    kind: Literal["converter"] = "converter"
    id: Id = "converter"
    name: Name = "Converter"
    rail: Id = "bank"
    parallel: Annotated[int, Field(ge=1, le=8)] = 1
    switched: Switched = "always on"
    provenance: Provenance = "label"
    shelf: ShelfCopy | None = None


class Feed(Joined):
    """A plain fused feed: a rail of its own at the volts of the one before.

    `cut_v`: what is in it and disconnects below so many volts. [V]
    """

    kind: Literal["feed"] = "feed"
    id: Id = "feed"
    name: Name = "Feed"
    rail: Id = "bank"
    cut_v: Volts | None = None


Stage = Annotated[Inverter | Converter | Feed, Field(discriminator="kind")]

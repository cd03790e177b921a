"""Power stations: a battery, its inverter, its ports and its charge inputs in one box."""

from typing import Annotated, Literal, Self

from pydantic import ConfigDict, Field, model_validator
from pydantic_core import PydanticCustomError

from graveljar.core.model.fields import (
    Amps,
    ColdCharge,
    Id,
    Name,
    Part,
    Plug,
    Polarity,
    Provenance,
    Resets,
    ShelfCopy,
    Volts,
    Watts,
    WattsOrNone,
    Window,
)
from graveljar.core.model.stages import Efficiency, Hertz, check_efficiencies
from graveljar.core.tables.chemistry import ChemistryKey

WattHours = Annotated[float, Field(gt=0, le=100_000)]


class AcOutlet(Part):
    """The mains sockets of a station, all together. `surge_s` only if a datasheet states it."""

    kind: Literal["ac"] = "ac"
    id: Id
    name: Name = "AC sockets"
    volts: Annotated[float, Field(ge=90, le=260)] = 230.0
    hz: Hertz | None = None
    continuous_w: Watts = 600.0
    surge_w: Watts = 1200.0
    surge_s: Annotated[float, Field(gt=0, le=3_600)] | None = None
    waveform: Literal["pure sine", "modified sine"] = "pure sine"
    part_load: Efficiency = Efficiency(load_share=0.3, efficiency=0.9)
    full_load: Efficiency = Efficiency(load_share=1.0, efficiency=0.87)
    idle_w: WattsOrNone = 10.0
    switched: Literal["always on", "on with its loads"] = "on with its loads"
    resets: Resets = "by hand"

    @model_validator(mode="after")
    def _agrees(self) -> Self:
        check_efficiencies(self.part_load, self.full_load)
        return self


class DcPort(Part):
    """A DC or USB port. A regulated one holds `volts`; a sagging one follows the inner battery.

    `selects_v` are the volts that a switch on it offers, the set `volts` among them; `cut_v` is
    where a sagging port switches off on its own. [V]
    """

    model_config = ConfigDict(
        json_schema_extra={
            "if": {"properties": {"gives": {"const": "sagging"}}, "required": ["gives"]},
            "then": {"properties": {"volts": {"type": "null"}}, "required": ["volts"]},
            "else": {"properties": {"volts": {"type": "number"}}},
        }
    )

    kind: Literal["dc"] = "dc"
    id: Id
    name: Name = "12 V socket"
    gives: Literal["regulated", "sagging"] = "regulated"
    volts: Volts | None = 12.6
    amps: Amps = 10.0
    selects_v: Annotated[tuple[Volts, ...], Field(max_length=8, strict=False)] = ()
    cut_v: Volts | None = None
    efficiency: Annotated[float, Field(gt=0, le=1)] = 0.92
    plug: Plug = "vehicle socket"
    polarity: Polarity = "unknown"
    resets: Resets = "by hand"

    @model_validator(mode="after")
    def _agrees(self) -> Self:
        if (self.gives == "regulated") != (self.volts is not None):
            raise PydanticCustomError(
                "port_volts", "must give its volts if it is regulated, and none if it sags"
            )
        if self.selects_v and self.volts not in self.selects_v:
            raise PydanticCustomError(
                "port_setting", "must be set to one of the volts that its switch offers"
            )
        return self


Outlet = Annotated[AcOutlet | DcPort, Field(discriminator="kind")]


class Mode(Part):
    """A current limit of a charge input, and what makes the input take it. [A]"""

    name: Name
    amps: Amps
    chosen_by: Literal["nothing", "connector", "sense wire", "setting"] = "nothing"


class ChargeInput(Part):
    """Where a station is charged: volts accepted, amps by mode, most watts. [V], [A], [W]

    `steps_down_only`: it charges only from volts above those of the inner battery.
    """

    id: Id
    name: Name = "DC input"
    supply: Literal["dc", "ac"] = "dc"
    accepts: Window = Window(least_v=11.0, most_v=28.0)
    modes: Annotated[tuple[Mode, ...], Field(min_length=1, max_length=4, strict=False)] = (
        Mode(name="One mode", amps=8.0),
    )
    most_w: Watts = 120.0
    plug: Plug = "barrel"
    polarity: Literal["centre positive", "centre negative", "marked"] = "centre positive"
    steps_down_only: bool = False

    @model_validator(mode="after")
    def _named_apart(self) -> Self:
        names = [mode.name for mode in self.modes]
        if len(set(names)) < len(names):
            raise PydanticCustomError("mode_twice", "must name each of its modes differently")
        return self

    def mode(self, name: str | None) -> Mode:
        """The mode of a name; without one, that of fewest amps."""
        named = next((mode for mode in self.modes if mode.name == name), None)
        return named or min(self.modes, key=lambda mode: mode.amps)


class StationFigures(Part):
    """A station as labelled.

    `label_wh` is printed; of it `usable_share` comes out of the battery. `measured_wh`, where a
    test took it out at the battery, goes before the two. `cells` in series make the inner volts.
    It switches itself off when less than `sleeps_below_w` are asked for `sleeps_after_h`.
    `most_in_w` bounds all inputs together; from `taper_from` charge on it charges slower.
    `cold_charge` is what keeps it from being charged below 0 °C. `changeover`: whether its AC
    sockets have a break when the mains that it passes through fails.
    """

    label_wh: WattHours = 512.0
    measured_wh: WattHours | None = None
    chemistry: ChemistryKey = "lfp"
    cells: Annotated[int, Field(ge=1, le=200)] = 8
    usable_share: Annotated[float, Field(gt=0, le=1)] = 0.95
    idle_w: WattsOrNone = 3.0
    sleeps_below_w: WattsOrNone = 0.0
    sleeps_after_h: Annotated[float, Field(ge=0.1, le=48)] = 2.0
    pass_through: bool = True
    charge_efficiency: Annotated[float, Field(gt=0, le=1)] = 0.93
    taper_from: Annotated[float, Field(gt=0, lt=1)] = 0.98
    most_in_w: Watts = 500.0
    cold_charge: ColdCharge = "unknown"
    changeover: Literal["unknown", "none", "break"] = "unknown"
    outlets: Annotated[tuple[Outlet, ...], Field(max_length=12, strict=False)] = ()
    inputs: Annotated[tuple[ChargeInput, ...], Field(max_length=6, strict=False)] = ()

    @model_validator(mode="after")
    def _told_apart(self) -> Self:
        for part in (self.outlets, self.inputs):
            names = [thing.id for thing in part]
            if len(set(names)) < len(names):
                raise PydanticCustomError(
                    "id_twice", "must give each outlet and each input an id of its own"
                )
        return self


class Station(StationFigures):
    """A power station. `module_wh` is what the maker's own expansion modules add. [Wh]"""

    kind: Literal["station"] = "station"
    id: Id = "station"
    name: Name = "Power station"
    module_wh: Annotated[float, Field(ge=0, le=100_000)] = 0.0
    reserve: Annotated[float, Field(ge=0, le=0.9)] = 0.0
    starts_at: Annotated[float, Field(gt=0, le=1)] = 1.0
    location: Literal["living space", "vented box", "outside"] = "living space"
    provenance: Provenance = "label"
    shelf: ShelfCopy | None = None

    def input(self, name: str | None) -> ChargeInput | None:
        """The charge input of an id, if it has one."""
        return next((x for x in self.inputs if x.id == name), None)

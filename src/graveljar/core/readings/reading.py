"""Readings: one measurement each, of a part or joint, with its conditions."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from graveljar.core.model.fields import Amps, Celsius, Id, Part, Volts, Watts, WattsOrNone

Hours = Annotated[float, Field(gt=0, le=10_000)]
Measured = Annotated[float, Field(ge=0, le=1_000_000)]


class Taken(Part):
    """What every reading has: which part, the air around it [°C], with what, the day, a note."""

    subject: Id
    air_c: Celsius = 20.0
    taken_on: Annotated[str, Field(pattern=r"^(\d{4}-\d{2}-\d{2})?$")] = ""
    instrument: Annotated[str, Field(max_length=80)] = ""
    note: Annotated[str, Field(max_length=1_000)] = ""


class LogTaken(Taken):
    """What a log has of a reading: of which part, how warm, by what, when."""


class VoltsReading(Taken):
    """Volts at the terminals of a rail: a bank, a stage's output, a source. [V]"""

    kind: Literal["volts"] = "volts"
    volts: Volts


class PolarityReading(Taken):
    """Whether plus is where the plug's label has it, before the first plug-in."""

    kind: Literal["polarity"] = "polarity"
    found: Literal["as labelled", "reversed"]


class RestedReading(Taken):
    """Volts of a bank that rested for some hours, nothing connected. [V], [h]"""

    kind: Literal["rested"] = "rested"
    volts: Volts
    rested_h: Annotated[float, Field(ge=0, le=10_000)]


class IdleReading(Taken):
    """Amps into an inverter or converter with nothing behind it, and the volts there. [A], [V]"""

    kind: Literal["idle"] = "idle"
    amps: Measured
    volts: Volts


# Whether a heater in the appliance, of a humidifier or dew strap, was on; most have none.
Heated = Literal["none", "on", "off"]


class PowerReading(Taken):
    """Watts of a load while it runs; those of its start count if the meter holds peaks. [W]"""

    kind: Literal["power"] = "power"
    watts: Watts
    start_w: Watts | None = None
    holds_peaks: bool = False
    heated: Heated = "none"


class EnergyReading(Taken):
    """Energy of a load over some hours, as a plug meter counts it. [Wh], [h]"""

    kind: Literal["energy"] = "energy"
    wh: Annotated[float, Field(gt=0, le=1_000_000)]
    hours: Hours
    heated: Heated = "none"


class LastedReading(Taken):
    """Hours in which a store went from one charge to another while a load ran. [1], [h]

    `alone`: nothing else was on; otherwise all else ran as the design has it.
    """

    kind: Literal["lasted"] = "lasted"
    from_charge: Annotated[float, Field(gt=0, le=1)] = 1.0
    to_charge: Annotated[float, Field(ge=0, lt=1)]
    hours: Hours
    alone: bool = True

    @model_validator(mode="after")
    def _falls(self) -> Self:
        if self.to_charge >= self.from_charge:
            raise PydanticCustomError("charge_rises", "must end at less charge than it began")
        return self


class SagReading(Taken):
    """Volts of a bank before and under a load of some amps. [V], [A]"""

    kind: Literal["sag"] = "sag"
    rest_v: Volts
    loaded_v: Volts
    amps: Amps


class ConverterReading(Taken):
    """A converter: volts without load, then volts and amps out, volts and amps in. [V], [A]"""

    kind: Literal["converter"] = "converter"
    open_v: Volts
    out_v: Volts
    out_a: Amps
    in_v: Volts
    in_a: Amps


class InverterReading(Taken):
    """An inverter at work: watts at its sockets, volts and amps in, volts out. [W], [V], [A]"""

    kind: Literal["inverter"] = "inverter"
    out_w: Watts
    out_v: Volts | None = None
    in_v: Volts
    in_a: Amps


class HeatReading(Taken):
    """How warm a place is after some minutes at full load. [°C], [min]"""

    kind: Literal["heat"] = "heat"
    place: Literal["cable", "fuse holder", "connector", "converter or inverter"] = "fuse holder"
    warm_c: Annotated[float, Field(ge=-40, le=400)]
    minutes: Annotated[float, Field(ge=0, le=1_440)] = 60.0


class CapacityReading(Taken):
    """A capacity test of a bank, from full to where it ended. [Ah], [Wh], [h], [V]"""

    kind: Literal["capacity"] = "capacity"
    ah: Annotated[float, Field(gt=0, le=100_000)]
    wh: Annotated[float, Field(gt=0, le=10_000_000)] | None = None
    hours: Hours
    end_v: Volts
    ended_by: Literal["the battery", "an inverter", "a cut-off", "by hand"] = "a cut-off"


class OutReading(Taken):
    """Energy that a station gave at one of its outlets, from full to where it ended. [Wh], [h]"""

    kind: Literal["station"] = "station"
    wh: Annotated[float, Field(gt=0, le=1_000_000)]
    hours: Hours


class InputReading(Taken):
    """Volts and amps into a station through a link, some seconds after it was joined. [V], [A]"""

    kind: Literal["input"] = "input"
    volts: Volts
    amps: Amps
    after_s: Annotated[float, Field(ge=0, le=86_400)] = 30.0


class TaperReading(Taken):
    """The charge, as a station shows it, from which on it takes less. [1]"""

    kind: Literal["taper"] = "taper"
    charge: Annotated[float, Field(gt=0, lt=1)]


class ChangeoverReading(Taken):
    """Whether what a station or inverter feeds went on when the mains was pulled."""

    kind: Literal["changeover"] = "changeover"
    went_on: bool


class LimitReading(Taken):
    """Loads switched on one by one: watts that an inverter carried, and that tripped it. [W]"""

    kind: Literal["limit"] = "limit"
    carried_w: Watts
    tripped_w: WattsOrNone = 0.0


class LookReading(Taken):
    """What was said of a store from a moment on, and how long it then ran. [1], [h]

    `said_h` and the tenths are None where no end was in sight; `was_h` is noted later. `on` are
    the loads that were on; None: as the design has them.
    """

    kind: Literal["look"] = "look"
    charge: Annotated[float, Field(gt=0, le=1)]
    clock_h: Annotated[float, Field(ge=0, lt=24)]
    on: Annotated[tuple[Id, ...], Field(max_length=200, strict=False)] | None = None
    said_h: Annotated[float, Field(ge=0, le=10_000)] | None
    low_h: Annotated[float, Field(ge=0, le=10_000)] | None = None
    high_h: Annotated[float, Field(ge=0, le=10_000)] | None = None
    was_h: Hours | None = None


AnyReading = (
    VoltsReading
    | PolarityReading
    | RestedReading
    | IdleReading
    | PowerReading
    | EnergyReading
    | LastedReading
    | SagReading
    | ConverterReading
    | InverterReading
    | HeatReading
    | CapacityReading
    | OutReading
    | InputReading
    | TaperReading
    | ChangeoverReading
    | LimitReading
    | LookReading
)
Reading = Annotated[AnyReading, Field(discriminator="kind")]

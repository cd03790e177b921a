"""The design document, version 1: what a user plans, and nothing computed.

Stores and stages each make a rail named by their id; a load or a stage hangs on one rail.
Version 1 holds one bank and at most one inverter.
"""

from collections.abc import Iterator
from typing import Annotated, Any, Final, Literal, Self

from pydantic import (
    BaseModel,
    BeforeValidator,
    ConfigDict,
    Field,
    field_validator,
    model_validator,
)
from pydantic_core import PydanticCustomError

from graveljar.core.assumptions import ASSUMPTIONS
from graveljar.core.tables.chemistry import ChemistryKey

VERSION: Final = 1
MOST_LOADS: Final = 200
# Anything smaller is a slip of the pen, and would run sums out of their range.
LEAST: Final = 1e-6

Name = Annotated[
    str, Field(min_length=1, max_length=80, pattern=r"^[^\x00-\x1f\x7f]*\S[^\x00-\x1f\x7f]*$")
]
Id = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9-]{0,39}$")]
Watts = Annotated[float, Field(gt=0, le=100_000)]
WattsOrNone = Annotated[float, Field(ge=0, le=100_000)]
Volts = Annotated[float, Field(gt=0, le=1_000)]
Amps = Annotated[float, Field(gt=0, le=10_000)]
HoursADay = Annotated[float, Field(gt=0, le=24)]
Provenance = Literal["measured", "label", "rule of thumb", "guess"]
Nature = Literal[
    "heating",
    "lighting",
    "electronics",
    "charger",
    "audio",
    "motor",
    "compressor",
    "tool",
    "medical",
]


class _Part(BaseModel):
    """Strict and frozen: no unknown field, no text for a number, no NaN, nothing vanishing."""

    model_config = ConfigDict(extra="forbid", strict=True, frozen=True, allow_inf_nan=False)

    @field_validator("*")
    @classmethod
    def _sizeable(cls, value: Any) -> Any:
        if isinstance(value, float) and 0 < abs(value) < LEAST:
            raise PydanticCustomError(
                "too_small", "must be 0 or at least {least}", {"least": f"{LEAST:f}"}
            )
        return value


class Setting(_Part):
    """Where the design is used. Ambient temperature [°C]; mains as used there [V]."""

    ambient_c: Annotated[float, Field(ge=-40, le=60)] = 20.0
    ac_volts: Annotated[float, Field(ge=90, le=260)] = 230.0
    ac_hz: Literal[50, 60] = 50


class Goal(_Part):
    """Hours to bridge without refill [h], and the margins on top, as shares.

    `ageing_margin` is capacity the bank will have lost; `guess_margin` is use the loads
    may have beyond what is written.
    """

    hours: Annotated[float, Field(gt=0, le=8_760)] = 24.0
    ageing_margin: Annotated[float, Field(ge=0, le=0.5)] = 0.2
    guess_margin: Annotated[float, Field(ge=0, le=1)] = 0.1


class Battery(_Part):
    """One battery as labelled. `bms_a` is what its protection lets through for long [A]."""

    name: Name = "Battery"
    chemistry: ChemistryKey = "lfp"
    volts: Annotated[float, Field(ge=1, le=600)] = 12.8
    ah: Annotated[float, Field(gt=0, le=10_000)] = 100.0
    bms_a: Amps | None = 100.0
    peukert: Annotated[float, Field(ge=1, le=1.5)] | None = None
    provenance: Provenance = "label"


class Bank(_Part):
    """Alike batteries, `series` in a string, `parallel` strings."""

    kind: Literal["bank"] = "bank"
    id: Id = "bank"
    name: Name = "Bank"
    battery: Battery = Battery()
    series: Annotated[int, Field(ge=1, le=16)] = 1
    parallel: Annotated[int, Field(ge=1, le=32)] = 1
    keep_back: Annotated[float, Field(ge=0, le=0.9)] = 0.1
    location: Literal["living space", "vented box", "outside"] = "living space"


class Window(_Part):
    """Volts a device accepts: below `least_v` it cuts out, above `most_v` it is damaged."""

    least_v: Volts
    most_v: Volts

    @model_validator(mode="after")
    def _upright(self) -> Self:
        if self.least_v >= self.most_v:
            raise PydanticCustomError(
                "window_upside_down", "must have its least volts below its most volts"
            )
        return self


class Efficiency(_Part):
    """An efficiency at a share of the continuous watts, both 0 to 1."""

    load_share: Annotated[float, Field(gt=0, le=1)]
    efficiency: Annotated[float, Field(gt=0, le=1)]


class Sleep(_Part):
    """Search mode: draws `watts` while the AC side asks for less than `threshold_w`."""

    watts: WattsOrNone
    threshold_w: Watts


class Inverter(_Part):
    """Makes an AC rail. `surge_s` is given only when a datasheet states the seconds."""

    kind: Literal["inverter"] = "inverter"
    id: Id = "inverter"
    name: Name = "Inverter"
    rail: Id = "bank"
    nominal_v: Volts = 12.0
    accepts: Window = Window(least_v=10.5, most_v=15.0)
    continuous_w: Watts = 1000.0
    surge_w: Watts = 2000.0
    surge_s: Annotated[float, Field(gt=0, le=3_600)] | None = None
    waveform: Literal["pure sine", "modified sine"] = "pure sine"
    part_load: Efficiency = Efficiency(load_share=0.3, efficiency=0.91)
    full_load: Efficiency = Efficiency(load_share=1.0, efficiency=0.87)
    idle_w: WattsOrNone = 12.0
    sleep: Sleep | None = None
    switched: Literal["always on", "on with its loads"] = "always on"
    output_v: Annotated[float, Field(ge=90, le=260)] = 230.0
    provenance: Provenance = "label"

    @model_validator(mode="after")
    def _two_points(self) -> Self:
        if self.part_load.load_share >= self.full_load.load_share:
            raise PydanticCustomError(
                "efficiency_points", "must give its part-load figure at less than its full-load one"
            )
        return self


class Supply(_Part):
    """What an appliance is fed with."""

    kind: Literal["ac", "dc"]
    volts: Volts


class ByWatts(_Part):
    """Power as printed or measured while it runs. [W]"""

    kind: Literal["watts"] = "watts"
    watts: Watts


class ByAmps(_Part):
    """Volts times amps; on AC times the power factor. [A]"""

    kind: Literal["amps"] = "amps"
    amps: Amps


class ByEnergy(_Part):
    """Energy of one day, as for a device that charges its own battery. [Wh]"""

    kind: Literal["energy"] = "energy"
    wh: Annotated[float, Field(gt=0, le=1_000_000)]


class StartNone(_Part):
    """Starts at its running watts."""

    method: Literal["none"] = "none"


class StartFactor(_Part):
    """Starts at a multiple of its running watts; without a factor, the rule for its nature."""

    method: Literal["factor"] = "factor"
    factor: Annotated[float, Field(ge=1, le=20)] | None = None


class StartMeasured(_Part):
    """Starts at measured watts. [W]"""

    method: Literal["measured"] = "measured"
    watts: Watts


class Load(_Part):
    """An appliance, or `count` alike ones.

    `duty` is the share of `hours_per_day` in which it takes its watts. `kept_apart` loads
    are never run at the same time as one another.
    """

    id: Id
    name: Name
    rail: Id
    count: Annotated[int, Field(ge=1, le=1_000)] = 1
    supply: Supply
    demand: Annotated[ByWatts | ByAmps | ByEnergy, Field(discriminator="kind")]
    power_factor: Annotated[float, Field(gt=0, le=1)] = 1.0
    standby_w: WattsOrNone = 0.0
    plugged_in_h: HoursADay = 24.0
    hours_per_day: HoursADay = 1.0
    duty: Annotated[float, Field(gt=0, le=1)] = 1.0
    start: Annotated[StartNone | StartFactor | StartMeasured, Field(discriminator="method")] = (
        StartNone()
    )
    nature: Nature = "electronics"
    kept_apart: bool = False
    priority: Literal["must", "nice"] = "nice"
    provenance: Provenance = "label"


def _not_too_many(value: Any) -> Any:
    # Counted before anything in it is read: thousands of wrong loads are one problem.
    if isinstance(value, list | tuple) and len(value) > MOST_LOADS:
        raise PydanticCustomError(
            "too_long", "may hold at most {max_length}", {"max_length": MOST_LOADS}
        )
    return value


class Design(_Part):
    """One planned system."""

    format: Literal["gravel-jar/design"] = "gravel-jar/design"
    version: Literal[1] = VERSION
    name: Name = "New design"
    notes: Annotated[str, Field(max_length=4_000)] = ""
    setting: Setting = Setting()
    goal: Goal = Goal()
    stores: Annotated[tuple[Bank, ...], Field(min_length=1, max_length=1, strict=False)] = (Bank(),)
    stages: Annotated[tuple[Inverter, ...], Field(max_length=1, strict=False)] = ()
    loads: Annotated[
        tuple[Load, ...],
        BeforeValidator(_not_too_many),
        Field(max_length=MOST_LOADS, strict=False),
    ] = ()
    assumptions: Annotated[dict[str, float], Field(max_length=100)] = {}

    @property
    def bank(self) -> Bank:
        """The one store of version 1."""
        return self.stores[0]

    @property
    def inverter(self) -> Inverter | None:
        """The one stage of version 1, if there is one."""
        return self.stages[0] if self.stages else None

    @model_validator(mode="before")
    @classmethod
    def _known_version(cls, value: Any) -> Any:
        version = value.get("version") if isinstance(value, dict) else None
        if isinstance(version, int) and version > VERSION:
            raise PydanticCustomError(
                "newer_version",
                "is version {version}; this program reads up to version {newest}",
                {"version": version, "newest": VERSION},
            )
        return value

    @model_validator(mode="after")
    def _references(self) -> Self:
        wrong = [*_reference_problems(self), *_assumption_problems(self.assumptions)]
        if wrong:
            raise PydanticCustomError("places", "breaks a rule", {"places": wrong})
        return self


# A place in a document that breaks a rule: location, code, message.
Place = tuple[tuple[str | int, ...], str, str]


def _reference_problems(design: Design) -> Iterator[Place]:
    stores = {store.id for store in design.stores}
    rails = stores | {stage.id for stage in design.stages}
    seen: set[str] = set()
    for part in ("stores", "stages", "loads"):
        for index, thing in enumerate(getattr(design, part)):
            if thing.id in seen:
                yield (part, index, "id"), "id_taken", f"“{thing.id}” is used twice"
            seen.add(thing.id)
    for index, stage in enumerate(design.stages):
        if stage.rail not in stores:
            yield ("stages", index, "rail"), "unknown_rail", f"“{stage.rail}” is not a store"
    for index, load in enumerate(design.loads):
        if load.rail not in rails:
            yield ("loads", index, "rail"), "unknown_rail", f"“{load.rail}” is not a rail here"


def _assumption_problems(given: dict[str, float]) -> Iterator[Place]:
    for key, value in given.items():
        known = ASSUMPTIONS.get(key)
        if known is None:
            yield ("assumptions", key), "unknown_assumption", "is not an assumption known here"
        elif not known.least <= value <= known.most:
            message = f"must be {known.least:g} to {known.most:g}; {value:g} was given"
            yield ("assumptions", key), "out_of_range", message

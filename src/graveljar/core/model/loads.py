"""Loads: appliances, what they take and when."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from graveljar.core.model.fields import (
    Amps,
    Id,
    Name,
    Part,
    Plug,
    Polarity,
    Provenance,
    Volts,
    Watts,
    WattsOrNone,
    check_restart,
)
from graveljar.core.model.wiring import Joined
from graveljar.core.tables.appliances import Nature
from graveljar.core.tables.dependants import Depends

HoursADay = Annotated[float, Field(gt=0, le=24)]
TimeOfDay = Annotated[float, Field(ge=0, le=24)]


class Supply(Part):
    """What an appliance is fed with."""

    kind: Literal["ac", "dc"]
    volts: Volts


class ByWatts(Part):
    """Power as printed or measured while it runs; `top_w` at most, where it varies. [W]"""

    kind: Literal["watts"] = "watts"
    watts: Watts
    top_w: Watts | None = None

    @model_validator(mode="after")
    def _top(self) -> Self:
        if self.top_w is not None and self.top_w < self.watts:
            raise PydanticCustomError("top_watts", "must have its most watts above its mean")
        return self


class ByAmps(Part):
    """Volts times amps; on AC times the power factor. [A]"""

    kind: Literal["amps"] = "amps"
    amps: Amps


class ByEnergy(Part):
    """Energy of one day, as for a device that charges its own battery. [Wh]"""

    kind: Literal["energy"] = "energy"
    wh: Annotated[float, Field(gt=0, le=1_000_000)]


class StartNone(Part):
    """Starts at its running watts."""

    method: Literal["none"] = "none"


class StartFactor(Part):
    """Starts at a multiple of its running watts; without a factor, the rule for its nature."""

    method: Literal["factor"] = "factor"
    factor: Annotated[float, Field(ge=1, le=20)] | None = None


class StartMeasured(Part):
    """Starts at measured watts. [W]"""

    method: Literal["measured"] = "measured"
    watts: Watts


class Anytime(Part):
    """So many hours a day, nobody knows when. [h]"""

    kind: Literal["hours"] = "hours"
    hours: HoursADay = 1.0


class AtTime(Part):
    """Once a day at a time of day, for so long. [h]"""

    kind: Literal["at"] = "at"
    at_h: Annotated[float, Field(ge=0, lt=24)]
    hours: HoursADay


class Span(Part):
    """From one time of day to another; past midnight where it ends earlier than it begins. [h]"""

    from_h: TimeOfDay
    to_h: TimeOfDay

    @property
    def hours(self) -> float:
        """How long it is. [h]"""
        return (self.to_h - self.from_h) % 24 or 24.0


class Between(Part):
    """Between times of day, every day."""

    kind: Literal["windows"] = "windows"
    windows: Annotated[tuple[Span, ...], Field(min_length=1, max_length=12, strict=False)]

    @model_validator(mode="after")
    def _apart(self) -> Self:
        ordered = sorted(self.windows, key=lambda span: span.from_h)
        following = [*ordered[1:], ordered[0]]
        for span, after in zip(ordered, following, strict=True):
            gap = (after.from_h - span.from_h) % 24 or 24.0
            if span.hours > gap + 1e-9:
                raise PydanticCustomError("windows_overlap", "must not overlap one another")
        return self

    @property
    def hours(self) -> float:
        """Hours a day, all windows together. [h]"""
        return sum(span.hours for span in self.windows)


class LoadWindow(Part):
    """Volts a DC appliance accepts: out below `cut_out_v`, back from `restarts_v` on. [V]"""

    cut_out_v: Volts
    restarts_v: Volts | None = None
    most_v: Volts

    @model_validator(mode="after")
    def _upright(self) -> Self:
        if self.cut_out_v >= self.most_v:
            raise PydanticCustomError(
                "window_upside_down", "must have its cut-out below its most volts"
            )
        check_restart(self.restarts_v, self.cut_out_v, self.most_v)
        return self


class Load(Joined):
    """An appliance, or `count` alike ones. Without a `rail` it is not joined to anything yet.

    `duty` is the share of its hours in which it takes its watts: averaged, or on and off in
    cycles of `cycle_min` [min]. `draw` says how its current answers to the volts. `kept_apart`
    loads are never run at the same time as one another. `depends`: whose health or life does; told
    from its name if unsaid. `bears_break`: whether it goes on after a moment without power.
    `once`: it runs on the first day of each week only, not every day. `plug` and `polarity` are
    those of its cable.
    """

    id: Id
    name: Name
    rail: Id | None
    count: Annotated[int, Field(ge=1, le=1_000)] = 1
    supply: Supply
    plug: Plug | None = None
    polarity: Polarity = "unknown"
    demand: Annotated[ByWatts | ByAmps | ByEnergy, Field(discriminator="kind")]
    draw: Literal["constant power", "constant current", "resistive"] = "constant power"
    window: LoadWindow | None = None
    power_factor: Annotated[float, Field(gt=0, le=1)] = 1.0
    standby_w: WattsOrNone = 0.0
    plugged_in_h: HoursADay = 24.0
    when: Annotated[Anytime | AtTime | Between, Field(discriminator="kind")] = Anytime()
    once: bool = False
    duty: Annotated[float, Field(gt=0, le=1)] = 1.0
    cycle_min: Annotated[float, Field(ge=5, le=1_440)] | None = None
    start: Annotated[StartNone | StartFactor | StartMeasured, Field(discriminator="method")] = (
        StartNone()
    )
    nature: Nature = "electronics"
    depends: Depends | None = None
    kept_apart: bool = False
    bears_break: Literal["unknown", "yes", "no"] = "unknown"
    priority: Literal["must", "nice"] = "nice"
    provenance: Provenance = "label"

    @property
    def hours_per_day(self) -> float:
        """Hours a day within which it runs. [h]"""
        return self.when.hours

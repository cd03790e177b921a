"""A whole design, and the rules that hold between its parts."""

from collections.abc import Iterator
from typing import Annotated, Any, Final, Literal, Self

from pydantic import BeforeValidator, Field, model_validator
from pydantic_core import PydanticCustomError

from graveljar.core.assumptions import ASSUMPTIONS
from graveljar.core.document.base import Celsius, Name, Part
from graveljar.core.document.loads import Load
from graveljar.core.document.stages import Inverter, Stage
from graveljar.core.document.stores import Bank
from graveljar.core.document.upgrade import upgraded

VERSION: Final = 3
MOST_LOADS: Final = 200
MOST_STORES: Final = 8
MOST_STAGES: Final = 40
# Rails from a store to the last one: 48 -> 24 -> 12 -> 5 V are four.
MOST_DEPTH: Final = 8


class Setting(Part):
    """Where the design is used. Temperature [°C]; mains [V]; the run's start and length [h].

    `ambient_by_hour` goes before `ambient_c` where it is given: one figure for each hour from
    midnight on.
    """

    ambient_c: Celsius = 20.0
    ambient_by_hour: (
        Annotated[tuple[Celsius, ...], Field(min_length=24, max_length=24, strict=False)] | None
    ) = None
    ac_volts: Annotated[float, Field(ge=90, le=260)] = 230.0
    ac_hz: Literal[50, 60] = 50
    starts_at_h: Annotated[float, Field(ge=0, lt=24)] = 0.0
    horizon_h: Annotated[float, Field(ge=1, le=8_760)] = 720.0

    @property
    def mean_c(self) -> float:
        """The mean over the day. [°C]"""
        hourly = self.ambient_by_hour
        return sum(hourly) / len(hourly) if hourly else self.ambient_c

    @property
    def coldest_c(self) -> float:
        """The coldest it gets. [°C]"""
        return min(self.ambient_by_hour) if self.ambient_by_hour else self.ambient_c

    @property
    def hottest_c(self) -> float:
        """The hottest it gets. [°C]"""
        return max(self.ambient_by_hour) if self.ambient_by_hour else self.ambient_c


class Goal(Part):
    """Hours to bridge without refill [h], and the margins on top, as shares.

    `ageing_margin` is capacity the bank will have lost; `guess_margin` is use the loads
    may have beyond what is written.
    """

    hours: Annotated[float, Field(gt=0, le=8_760)] = 24.0
    ageing_margin: Annotated[float, Field(ge=0, le=0.5)] = 0.2
    guess_margin: Annotated[float, Field(ge=0, le=1)] = 0.1


def _not_too_many(value: Any) -> Any:
    # Counted before anything in it is read: thousands of wrong loads are one problem.
    if isinstance(value, list | tuple) and len(value) > MOST_LOADS:
        raise PydanticCustomError(
            "too_long", "may hold at most {max_length}", {"max_length": MOST_LOADS}
        )
    return value


class Design(Part):
    """One planned system."""

    format: Literal["gravel-jar/design"] = "gravel-jar/design"
    version: Literal[3] = VERSION
    name: Name = "New design"
    notes: Annotated[str, Field(max_length=4_000)] = ""
    setting: Setting = Setting()
    goal: Goal = Goal()
    stores: Annotated[
        tuple[Bank, ...], Field(min_length=1, max_length=MOST_STORES, strict=False)
    ] = (Bank(),)
    stages: Annotated[tuple[Stage, ...], Field(max_length=MOST_STAGES, strict=False)] = ()
    loads: Annotated[
        tuple[Load, ...],
        BeforeValidator(_not_too_many),
        Field(max_length=MOST_LOADS, strict=False),
    ] = ()
    assumptions: Annotated[dict[str, float], Field(max_length=100)] = {}  # noqa: RUF012

    @property
    def bank(self) -> Bank:
        """The first store."""
        return self.stores[0]

    @property
    def inverter(self) -> Inverter | None:
        """The first inverter, if there is one."""
        return next((stage for stage in self.stages if isinstance(stage, Inverter)), None)

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
        return upgraded(value, version) if version in (1, 2) else value

    @model_validator(mode="after")
    def _hangs_together(self) -> Self:
        wrong = [*_reference_problems(self), *_assumption_problems(self.assumptions)]
        if wrong:
            raise PydanticCustomError("places", "breaks a rule", {"places": wrong})
        return self


# A place in a document that breaks a rule: location, code, message.
Place = tuple[tuple[str | int, ...], str, str]


def _reference_problems(design: Design) -> Iterator[Place]:
    seen: set[str] = set()
    for part in ("stores", "stages", "loads"):
        for index, thing in enumerate(getattr(design, part)):
            if thing.id in seen:
                yield (part, index, "id"), "id_taken", f"“{thing.id}” is used twice"
            seen.add(thing.id)
    yield from _stage_problems(design)
    kinds = {store.id: "dc" for store in design.stores}
    kinds |= {stage.id: "ac" if stage.kind == "inverter" else "dc" for stage in design.stages}
    for index, load in enumerate(design.loads):
        if load.rail is None:
            continue
        if load.rail not in kinds:
            yield ("loads", index, "rail"), "unknown_rail", f"“{load.rail}” is not a rail here"
        elif load.supply.kind == "ac" and kinds[load.rail] == "dc":
            message = f"“{load.rail}” gives DC; {load.name} takes AC"
            yield ("loads", index, "rail"), "other_kind", message


def _stage_problems(design: Design) -> Iterator[Place]:
    stores = {store.id for store in design.stores}
    stages = {stage.id: stage for stage in design.stages}
    for index, stage in enumerate(design.stages):
        at = ("stages", index, "rail")
        if stage.rail not in stores and stage.rail not in stages:
            yield at, "unknown_rail", f"“{stage.rail}” is not a rail here"
            continue
        parent = stages.get(stage.rail)
        if parent is not None and parent is not stage and parent.kind == "inverter":
            yield at, "other_kind", f"“{stage.rail}” gives AC; {stage.name} takes DC"
        way = [stage.id]
        here: str = stage.rail
        while here in stages and here not in way:
            way.append(here)
            here = stages[here].rail
        if here in way:
            loop = " → ".join([*way[way.index(here) :], here])
            yield at, "loop", f"leads back to itself and to no store: {loop}"
        elif len(way) > MOST_DEPTH:
            yield at, "too_deep", f"is more than {MOST_DEPTH} rails away from its store"


def _assumption_problems(given: dict[str, float]) -> Iterator[Place]:
    for key, value in given.items():
        known = ASSUMPTIONS.get(key)
        if known is None:
            yield ("assumptions", key), "unknown_assumption", "is not an assumption known here"
        elif not known.least <= value <= known.most:
            message = f"must be {known.least:g} to {known.most:g}; {value:g} was given"
            yield ("assumptions", key), "out_of_range", message

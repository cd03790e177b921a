"""A whole design, and the rules that hold between its parts."""

from collections.abc import Iterator
from typing import Annotated, Any, Final, Literal, Self

from pydantic import BeforeValidator, Field, JsonValue, model_validator
from pydantic_core import PydanticCustomError

from graveljar.core.model.fields import Celsius, Id, Name, Part
from graveljar.core.model.links import Link
from graveljar.core.model.loads import Load
from graveljar.core.model.migrate import upgraded
from graveljar.core.model.references import Place, link_problems, names_of, rail_kinds
from graveljar.core.model.sources import Generator, Mains, Sun, Week
from graveljar.core.model.stages import Inverter, Stage
from graveljar.core.model.stations import Station
from graveljar.core.model.stores import Bank
from graveljar.core.model.vehicles import Vehicle
from graveljar.core.tables.assumptions import ASSUMPTIONS
from graveljar.core.tables.conductors import School

VERSION: Final = 15
MAX_LOADS: Final = 200
MAX_STORES: Final = 8
MAX_STAGES: Final = 40
MAX_LINKS: Final = 16
MAX_MEASURED: Final = 200
MAX_ACKNOWLEDGED: Final = 40
# Rails from a store to the last one: 48 -> 24 -> 12 -> 5 V are four.
MAX_DEPTH: Final = 8


def _told(value: Any) -> Any:
    # Before there were others a store needed not say that it is a bank.
    return {"kind": "bank"} | value if isinstance(value, dict) else value


Store = Annotated[
    Annotated[Bank | Station | Vehicle | Mains | Generator | Sun, Field(discriminator="kind")],
    BeforeValidator(_told),
]


class Setting(Part):
    """Where the design is used. Temperature [°C]; mains [V]; the run's start and length [h].

    `ambient_by_hour` goes before `ambient_c` where it is given: one figure for each hour from
    midnight on. `place` is where it is built: a box is one that people carry. `school` is the
    ampacity table for cables that state none; unsaid, the place decides.
    """

    place: Literal["vehicle", "boat", "building", "box"] = "vehicle"
    ambient_c: Celsius = 20.0
    ambient_by_hour: (
        Annotated[tuple[Celsius, ...], Field(min_length=24, max_length=24, strict=False)] | None
    ) = None
    ac_volts: Annotated[float, Field(ge=90, le=260)] = 230.0
    ac_hz: Literal[50, 60] = 50
    starts_at_h: Annotated[float, Field(ge=0, lt=24)] = 0.0
    school: School | None = None
    sizes: Literal["metric", "AWG"] = "metric"
    horizon_h: Annotated[float, Field(ge=1, le=8_760)] = 720.0

    @property
    def usual_table(self) -> School:
        """The ampacity table that is usual where it is built."""
        if self.place == "building":
            return "building wire"
        return "metric boat and vehicle" if self.sizes == "metric" else "boat and vehicle"

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


class Acknowledged(Part):
    """A caution somebody has read, and what it was tied to then, by id.

    It stands until it is tied to something else. Only cautions can be: never a finding.
    """

    code: Annotated[str, Field(pattern=r"^caution\.[a-z_]{1,40}$")]
    subjects: Annotated[tuple[Id, ...], Field(max_length=MAX_LOADS, strict=False)]


class MeasuredFigure(Part):
    """Figures of a part that were measured, beside those of its label; `counts` says which count.

    `label` and `measured` are by their way within the part, such as "battery/ah". The part itself
    holds those that count; where it holds neither, somebody has typed others since.
    """

    subject: Id
    name: Annotated[str, Field(max_length=80)]
    label: Annotated[dict[str, JsonValue], Field(max_length=8)]
    measured: Annotated[dict[str, JsonValue], Field(max_length=8)]
    label_says: Annotated[str, Field(max_length=120)] = ""
    measured_says: Annotated[str, Field(max_length=120)] = ""
    counts: Literal["label", "measured"] = "measured"
    conditions: Annotated[str, Field(max_length=120)] = ""


class Goal(Part):
    """Hours to last without recharging [h], and the margins on top, as shares.

    `ageing_margin` is capacity the bank will have lost; `guess_margin` is use the loads
    may have beyond the list of loads.
    """

    hours: Annotated[float, Field(gt=0, le=8_760)] = 24.0
    ageing_margin: Annotated[float, Field(ge=0, le=0.5)] = 0.2
    guess_margin: Annotated[float, Field(ge=0, le=1)] = 0.1


def _not_too_many(value: Any) -> Any:
    # Counted before anything in it is read: thousands of wrong loads are one problem.
    if isinstance(value, list | tuple) and len(value) > MAX_LOADS:
        raise PydanticCustomError(
            "too_long", "may hold at most {max_length}", {"max_length": MAX_LOADS}
        )
    return value


class Design(Part):
    """One planned system."""

    format: Literal["gravel-jar/design"] = "gravel-jar/design"
    version: Literal[15] = VERSION
    name: Name = "New design"
    notes: Annotated[str, Field(max_length=4_000)] = ""
    setting: Setting = Setting()
    goal: Goal = Goal()
    week: Week = Week()
    stores: Annotated[
        tuple[Store, ...], Field(min_length=1, max_length=MAX_STORES, strict=False)
    ] = (Bank(),)
    stages: Annotated[tuple[Stage, ...], Field(max_length=MAX_STAGES, strict=False)] = ()
    links: Annotated[tuple[Link, ...], Field(max_length=MAX_LINKS, strict=False)] = ()
    loads: Annotated[
        tuple[Load, ...],
        BeforeValidator(_not_too_many),
        Field(max_length=MAX_LOADS, strict=False),
    ] = ()
    acknowledged: Annotated[
        tuple[Acknowledged, ...], Field(max_length=MAX_ACKNOWLEDGED, strict=False)
    ] = ()
    measured: Annotated[
        tuple[MeasuredFigure, ...], Field(max_length=MAX_MEASURED, strict=False)
    ] = ()
    assumptions: Annotated[dict[str, float], Field(max_length=100)] = {}  # noqa: RUF012

    @property
    def first(self) -> Bank | Station | Vehicle | Mains | Generator | Sun:
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
        if not isinstance(version, int):
            return value
        if version > VERSION:
            raise PydanticCustomError(
                "newer_version",
                "is version {version}; this program reads up to version {newest}",
                {"version": version, "newest": VERSION},
            )
        return upgraded(value, version) if 1 <= version < VERSION else value

    @model_validator(mode="after")
    def _hangs_together(self) -> Self:
        wrong = [*_reference_problems(self), *_assumption_problems(self.assumptions)]
        if wrong:
            raise PydanticCustomError("places", "breaks a rule", {"places": wrong})
        return self


def _reference_problems(design: Design) -> Iterator[Place]:
    seen: set[str] = set()
    for place, name in _named(design):
        if name in seen:
            yield place, "id_taken", f"“{name}” is used twice"
        seen.add(name)
    yield from _stage_problems(design)
    yield from _transfer_problems(design)
    yield from link_problems(design)
    kinds, names = rail_kinds(design), names_of(design)
    for index, load in enumerate(design.loads):
        at = ("loads", index, "rail")
        if load.rail is None:
            continue
        if load.rail not in kinds:
            yield at, "unknown_rail", f"“{load.rail}” is not a rail here"
        elif kinds[load.rail] == "inside":
            here = names[load.rail]
            message = f"“{here}” is a station: connect {load.name} to one of its outlets"
            yield at, "inside", message
        elif kinds[load.rail] == "sun":
            here = names[load.rail]
            yield at, "sun", f"“{here}” is a solar panel: connect {load.name} to what it fills"
        elif load.supply.kind == "ac" and kinds[load.rail] == "dc":
            yield at, "other_kind", f"“{names[load.rail]}” is DC; {load.name} needs AC"


def _named(design: Design) -> Iterator[tuple[tuple[str | int, ...], str]]:
    """Every id and where it stands; a station's outlets make rails and have theirs too."""
    for part in ("stores", "stages", "links", "loads"):
        for index, thing in enumerate(getattr(design, part)):
            yield (part, index, "id"), thing.id
            for place, outlet in enumerate(getattr(thing, "outlets", ())):
                yield (part, index, "outlets", place, "id"), outlet.id


def _transfer_problems(design: Design) -> Iterator[Place]:
    stores = {store.id: store for store in design.stores}
    for index, stage in enumerate(design.stages):
        name = stage.transfer if isinstance(stage, Inverter) else None
        if name is not None and not isinstance(stores.get(name), Mains | Generator):
            message = f"“{name}” is not a mains socket or generator here"
            yield ("stages", index, "transfer"), "unknown_store", message


def _stage_problems(design: Design) -> Iterator[Place]:
    kinds, names = rail_kinds(design), names_of(design)
    stages = {stage.id: stage for stage in design.stages}
    for index, stage in enumerate(design.stages):
        at = ("stages", index, "rail")
        if stage.rail not in kinds:
            yield at, "unknown_rail", f"“{stage.rail}” is not a rail here"
            continue
        if kinds[stage.rail] == "inside":
            message = (
                f"“{names[stage.rail]}” is a station: connect {stage.name} to one of its outlets"
            )
            yield at, "inside", message
        elif kinds[stage.rail] == "sun":
            panel = names[stage.rail]
            message = f"“{panel}” is a solar panel: connect {stage.name} to what it fills"
            yield at, "sun", message
        elif stages.get(stage.rail) is not stage and kinds[stage.rail] == "ac":
            yield at, "other_kind", f"“{names[stage.rail]}” is AC; {stage.name} needs DC"
        way = [stage.id]
        here: str = stage.rail
        while here in stages and here not in way:
            way.append(here)
            here = stages[here].rail
        if here in way:
            loop = " → ".join(names[x] for x in (*way[way.index(here) :], here))
            yield at, "loop", f"leads back to itself and to no store: {loop}"
        elif len(way) > MAX_DEPTH:
            yield at, "too_deep", f"is more than {MAX_DEPTH} rails away from its store"


def _assumption_problems(given: dict[str, float]) -> Iterator[Place]:
    for key, value in given.items():
        known = ASSUMPTIONS.get(key)
        if known is None:
            yield ("assumptions", key), "unknown_assumption", "is not a known assumption"
        elif not known.least <= value <= known.most:
            message = f"must be {known.least:g} to {known.most:g}; {value:g} was given"
            yield ("assumptions", key), "out_of_range", message

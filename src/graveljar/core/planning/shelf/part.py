"""A part on the shelf: its figures as labelled or measured, and what is noted of it."""

from collections.abc import Mapping
from typing import Annotated, Final, Literal, Self, TypeVar

from pydantic import Field, JsonValue, model_validator
from pydantic_core import PydanticCustomError

from graveljar.core.errors import InvalidDocument, Problem
from graveljar.core.model import (
    BatteryFigures,
    ChargerFigures,
    ConverterFigures,
    InverterFigures,
    Panel,
    Part,
    Provenance,
    StationFigures,
)
from graveljar.core.model.fields import Amps, Name
from graveljar.core.tables.conductors import SizeName
from graveljar.core.tables.fuses import FuseKindKey

# The figure whose provenance sets the spread of a part in the runtime band.
DECIDES: Final = {
    "battery": "ah",
    "inverter": "full_load",
    "converter": "full_load",
    "station": "label_wh",
    "charger": "amps",
    "panel": "watts",
    "cable": "size",
    "fuse": "amps",
}


class _Shelved(Part):
    """What every part has. Price in the user's own money, mass in kg.

    `owned` is how many of it are there already. `known_from` tells it of single figures;
    `provenance` of all others.
    """

    name: Name
    price: Annotated[float, Field(ge=0, le=1_000_000)] | None = None
    mass_kg: Annotated[float, Field(ge=0, le=10_000)] | None = None
    owned: Annotated[int, Field(ge=0, le=1_000)] = 0
    notes: Annotated[str, Field(max_length=1_000)] = ""
    provenance: Provenance = "label"
    known_from: Annotated[dict[str, Provenance], Field(max_length=40)] = {}  # noqa: RUF012


S = TypeVar("S", bound=_Shelved)


class BatteryPart(_Shelved):
    """A battery."""

    kind: Literal["battery"]
    figures: BatteryFigures

    @model_validator(mode="after")
    def _known(self) -> Self:
        return _check_known(self, BatteryFigures)


class InverterPart(_Shelved):
    """An inverter."""

    kind: Literal["inverter"]
    figures: InverterFigures

    @model_validator(mode="after")
    def _known(self) -> Self:
        return _check_known(self, InverterFigures)


class ConverterPart(_Shelved):
    """A DC-DC converter."""

    kind: Literal["converter"]
    figures: ConverterFigures

    @model_validator(mode="after")
    def _known(self) -> Self:
        return _check_known(self, ConverterFigures)


class StationPart(_Shelved):
    """A power station."""

    kind: Literal["station"]
    figures: StationFigures

    @model_validator(mode="after")
    def _known(self) -> Self:
        return _check_known(self, StationFigures)


class ChargerPart(_Shelved):
    """A charger of bare batteries, or a controller for solar panels."""

    kind: Literal["charger"]
    figures: ChargerFigures

    @model_validator(mode="after")
    def _known(self) -> Self:
        return _check_known(self, ChargerFigures)


class PanelPart(_Shelved):
    """A solar panel."""

    kind: Literal["panel"]
    figures: Panel

    @model_validator(mode="after")
    def _known(self) -> Self:
        return _check_known(self, Panel)


class CableFigures(Part):
    """A cable that is sold by the metre, one conductor."""

    size: SizeName = "10 mm²"


class CablePart(_Shelved):
    """A cable. Its price and mass are those of a metre; `owned` are whole metres."""

    kind: Literal["cable"]
    figures: CableFigures

    @model_validator(mode="after")
    def _known(self) -> Self:
        return _check_known(self, CableFigures)


class FuseFigures(Part):
    """Fuses of a kind, with their holder, in its sizes up to so many amps. [A]"""

    kind: FuseKindKey = "blade"
    amps: Amps = 40.0


class FusePart(_Shelved):
    """A fuse with its holder. Its price is that of any size up to the amps it states."""

    kind: Literal["fuse"]
    figures: FuseFigures

    @model_validator(mode="after")
    def _known(self) -> Self:
        return _check_known(self, FuseFigures)


AnyPart = (
    BatteryPart
    | InverterPart
    | ConverterPart
    | StationPart
    | ChargerPart
    | PanelPart
    | CablePart
    | FusePart
)
ShelfPart = Annotated[AnyPart, Field(discriminator="kind")]


def _check_known(part: S, figures: type[Part]) -> S:
    for name in part.known_from:
        if name not in figures.model_fields:
            raise PydanticCustomError(
                "unknown_figure",
                "has no figure “{name}” that could have a source",
                {"name": name[:40]},
            )
    return part


def spread_from(part: AnyPart) -> Provenance:
    """Where the figure that decides the runtime comes from.

    Examples
    --------
    >>> spread_from(BatteryPart(kind="battery", name="Pack", figures=BatteryFigures(),
    ...                         known_from={"ah": "measured"}))
    'measured'
    """
    return part.known_from.get(DECIDES[part.kind], part.provenance)


def to_pay(part: AnyPart, count: int) -> float | None:
    """What so many cost, but for those that are there; None where the price is unsaid.

    Examples
    --------
    >>> to_pay(FusePart(kind="fuse", name="Fuse", figures=FuseFigures(), price=6, owned=1), 3)
    12.0
    """
    to_buy = max(count - part.owned, 0)
    if not to_buy:
        return 0.0
    return None if part.price is None else part.price * to_buy


def with_measured(part: AnyPart, figures: Mapping[str, JsonValue]) -> AnyPart:
    """A part with figures that were measured on a copy of it, each noted as measured.

    Parameters
    ----------
    figures : By their way in a design's copy, such as "battery/ah".

    Raises
    ------
    InvalidDocument : it has no such figures.

    Examples
    --------
    >>> pack = BatteryPart(kind="battery", name="Pack", figures=BatteryFigures())
    >>> found = with_measured(pack, {"battery/ah": 96.0, "battery/provenance": "measured"})
    >>> found.figures.ah, found.known_from
    (96.0, {'ah': 'measured'})
    """
    own = {way.removeprefix("battery/"): value for way, value in figures.items()}
    own.pop("provenance", None)
    document = part.model_dump(mode="json")
    unknown = [name for name in own if name not in document["figures"]]
    if unknown:
        message = f"{part.name} has no figure “{unknown[0][:40]}”."
        raise InvalidDocument(message, (Problem("/figures", "unknown_figure", message),))
    document["figures"] |= own
    document["known_from"] |= dict.fromkeys(own, "measured")
    return type(part).model_validate(document)

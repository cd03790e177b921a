"""Stores: a bank of alike batteries."""

from itertools import pairwise
from typing import Annotated, Final, Literal, Self

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from graveljar.core.model.fields import (
    Amps,
    Celsius,
    ColdCharge,
    Id,
    Name,
    Part,
    Provenance,
    Resets,
    ShelfCopy,
    Volts,
)
from graveljar.core.model.wiring import BankLeads
from graveljar.core.tables.chemistry import ChemistryKey

# A rested battery never strays further from its nominal volts: more is another battery. Ours. [1]
MIN_CURVE_SHARE: Final = 0.6
MAX_CURVE_SHARE: Final = 1.4


class CurvePoint(Part):
    """Rested volts of a battery at a share of its charge. [1], [V]"""

    charge: Annotated[float, Field(ge=0, le=1)]
    volts: Volts


class BatteryFigures(Part):
    """One battery as labelled.

    `bms_a` is what its protection passes continuously, `bms_peak_a` for a start [A];
    `low_v` where it disconnects [V]. `cells` in series, `resistance_mohm` and `peukert` are
    told from the chemistry where they are not given. `most_series` and `most_parallel` are what
    its maker allows. `cold_charge` is what keeps it from being
    charged below 0 °C; below `discharge_from_c` it gives nothing [°C]. After an overload its
    protection `resets` by hand, unless its maker says otherwise. `curve` is its own rested volts
    from empty to full, where they were measured; that of its chemistry counts without one.
    """

    chemistry: ChemistryKey = "lfp"
    volts: Annotated[float, Field(ge=1, le=600)] = 12.8
    ah: Annotated[float, Field(gt=0, le=10_000)] = 100.0
    cells: Annotated[int, Field(ge=1, le=200)] | None = None
    bms_a: Amps | None = 100.0
    bms_peak_a: Amps | None = None
    low_v: Volts | None = None
    resistance_mohm: Annotated[float, Field(gt=0, le=10_000)] | None = None
    peukert: Annotated[float, Field(ge=1, le=1.5)] | None = None
    most_series: Annotated[int, Field(ge=1, le=16)] | None = None
    most_parallel: Annotated[int, Field(ge=1, le=32)] | None = None
    cold_charge: ColdCharge = "unknown"
    discharge_from_c: Celsius | None = None
    resets: Resets = "by hand"
    curve: Annotated[tuple[CurvePoint, ...], Field(min_length=3, max_length=41, strict=False)] | (
        None
    ) = None

    @model_validator(mode="after")
    def _rises(self) -> Self:
        if self.curve is None:
            return self
        if self.curve[0].charge != 0 or self.curve[-1].charge != 1:
            raise PydanticCustomError("curve_ends", "must have its curve from charge 0 to 1")
        for one, then in pairwise(self.curve):
            if then.charge <= one.charge or then.volts <= one.volts:
                raise PydanticCustomError(
                    "curve_falls", "must have a curve that rises from point to point"
                )
        low_v, high_v = MIN_CURVE_SHARE * self.volts, MAX_CURVE_SHARE * self.volts
        if self.curve[0].volts < low_v or self.curve[-1].volts > high_v:
            raise PydanticCustomError(
                "curve_volts",
                "must have a curve between {low} and {high} V",
                {"low": f"{low_v:.4g}", "high": f"{high_v:.4g}"},
            )
        return self


class Battery(BatteryFigures):
    """One battery of a bank."""

    name: Name = "Battery"
    provenance: Provenance = "label"
    shelf: ShelfCopy | None = None


class Bank(Part):
    """Alike batteries, `series` in a string, `parallel` strings; its terminals are a rail.

    A `starter` battery keeps as its `reserve` what its engine needs to start.
    """

    kind: Literal["bank"] = "bank"
    id: Id = "bank"
    name: Name = "Bank"
    battery: Battery = Battery()
    series: Annotated[int, Field(ge=1, le=16)] = 1
    parallel: Annotated[int, Field(ge=1, le=32)] = 1
    reserve: Annotated[float, Field(ge=0, le=0.9)] = 0.1
    starts_at: Annotated[float, Field(gt=0, le=1)] = 1.0
    use: Literal["house", "starter"] = "house"
    location: Literal["living space", "vented box", "outside"] = "living space"
    leads: BankLeads | None = None

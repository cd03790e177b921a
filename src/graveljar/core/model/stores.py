"""Stores: a bank of alike batteries."""

from typing import Annotated, Literal

from pydantic import Field

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


class BatteryFigures(Part):
    """One battery as labelled.

    `bms_a` is what its protection passes continuously, `bms_peak_a` for a start [A];
    `low_v` where it disconnects [V]. `cells` in series, `resistance_mohm` and `peukert` are
    told from the chemistry where they are not given. `most_series` and `most_parallel` are what
    its maker allows. `cold_charge` is what keeps it from being
    charged below 0 °C; below `discharge_from_c` it gives nothing [°C]. After an overload its
    protection `resets` by hand, unless its maker says otherwise.
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

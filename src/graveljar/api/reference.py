"""What the screen needs to know beside a design: chemistries, assumptions, sources, defaults."""

from dataclasses import dataclass

from graveljar.core.assumptions import ASSUMPTIONS, Assumption
from graveljar.core.build import BLANK_INPUTS, BLANK_OUTLETS
from graveljar.core.document import (
    BatteryFigures,
    ByWatts,
    ConverterFigures,
    InverterFigures,
    Load,
    StationFigures,
    Supply,
)
from graveljar.core.shelf import BatteryPart, ConverterPart, InverterPart, ShelfPart, StationPart
from graveljar.core.sources import SOURCES, Source
from graveljar.core.tables.chemistry import CHEMISTRIES, ChemistryKey


@dataclass(frozen=True)
class ChemistryFacts:
    """A chemistry for a choice on screen. Per cell [V]; `keep_back` is its default."""

    key: ChemistryKey
    name: str
    lithium: bool
    vented: bool
    nominal_v: float
    keep_back: float
    peukert: float


@dataclass(frozen=True)
class Reference:
    """Everything that does not change with a design. New parts start as the blanks."""

    chemistries: list[ChemistryFacts]
    assumptions: list[Assumption]
    sources: dict[str, Source]
    blank_load: Load
    blank_parts: dict[str, ShelfPart]


def reference() -> Reference:
    """Gather it from the core."""
    return Reference(
        chemistries=[
            ChemistryFacts(c.key, c.name, c.lithium, c.vented, c.nominal_v, c.keep_back, c.peukert)
            for c in CHEMISTRIES.values()
        ],
        assumptions=list(ASSUMPTIONS.values()),
        sources=dict(SOURCES),
        blank_load=Load(
            id="load",
            name="New load",
            rail="bank",
            supply=Supply(kind="dc", volts=12.0),
            demand=ByWatts(watts=10.0),
            provenance="guess",
        ),
        blank_parts={
            "battery": BatteryPart(kind="battery", name="Battery", figures=BatteryFigures()),
            "inverter": InverterPart(kind="inverter", name="Inverter", figures=InverterFigures()),
            "converter": ConverterPart(
                kind="converter", name="Converter", figures=ConverterFigures()
            ),
            "station": StationPart(
                kind="station",
                name="Power station",
                figures=StationFigures(outlets=BLANK_OUTLETS, inputs=BLANK_INPUTS),
            ),
        },
    )

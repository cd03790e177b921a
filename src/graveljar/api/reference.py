"""What the screen needs to know beside a design: chemistries, assumptions, sources, defaults."""

from dataclasses import dataclass
from typing import Literal, get_args

from graveljar.core.components.cable import other_name, size_of
from graveljar.core.model import (
    BatteryFigures,
    ByWatts,
    ChargeInput,
    ChargerFigures,
    ConverterFigures,
    InverterFigures,
    Load,
    Mode,
    Outlet,
    Panel,
    StationFigures,
    Supply,
)
from graveljar.core.planning.construction import (
    BLANK_INPUTS,
    BLANK_OUTLETS,
    usual_inputs,
    usual_ports,
)
from graveljar.core.planning.shelf import (
    BatteryPart,
    CableFigures,
    CablePart,
    ChargerPart,
    ConverterPart,
    FuseFigures,
    FusePart,
    InverterPart,
    PanelPart,
    ShelfPart,
    StationPart,
)
from graveljar.core.tables.assumptions import ASSUMPTIONS, Assumption
from graveljar.core.tables.chemistry import CHEMISTRIES, ChemistryKey
from graveljar.core.tables.conductors import SizeName
from graveljar.core.tables.connectors import CONNECTORS, Connector
from graveljar.core.tables.fuses import FUSE_KINDS, FuseKind
from graveljar.core.tables.sources import SOURCES, Source


@dataclass(frozen=True)
class ChemistryFacts:
    """A chemistry for a choice on screen. Per cell [V]; `reserve` is its default."""

    key: ChemistryKey
    name: str
    lithium: bool
    vented: bool
    nominal_v: float
    reserve: float
    peukert: float


@dataclass(frozen=True)
class SizeFacts:
    """A conductor size for a choice on screen, by its name in both systems. [mm2]"""

    name: SizeName
    other: str
    mm2: float
    system: Literal["metric", "AWG"]


@dataclass(frozen=True)
class Reference:
    """Everything that does not change with a design. New parts start as the blanks."""

    chemistries: list[ChemistryFacts]
    assumptions: list[Assumption]
    sources: dict[str, Source]
    sizes: list[SizeFacts]
    connectors: list[Connector]
    fuse_kinds: list[FuseKind]
    blank_load: Load
    blank_outlets: dict[str, Outlet]
    usual_ports: dict[str, Outlet]
    usual_inputs: dict[str, ChargeInput]
    blank_mode: Mode
    blank_parts: dict[str, ShelfPart]


def _system(name: str) -> Literal["metric", "AWG"]:
    return "metric" if size_of(name).awg is None else "AWG"


def reference() -> Reference:
    """Gather it from the core."""
    return Reference(
        chemistries=[
            ChemistryFacts(c.key, c.name, c.lithium, c.vented, c.nominal_v, c.reserve, c.peukert)
            for c in CHEMISTRIES.values()
        ],
        assumptions=list(ASSUMPTIONS.values()),
        sources=dict(SOURCES),
        sizes=[
            SizeFacts(name, other_name(size_of(name)), size_of(name).mm2, _system(name))
            for name in get_args(SizeName)
        ],
        connectors=list(CONNECTORS),
        fuse_kinds=list(FUSE_KINDS),
        blank_load=Load(
            id="load",
            name="New load",
            rail="bank",
            supply=Supply(kind="dc", volts=12.0),
            demand=ByWatts(watts=10.0),
            provenance="guess",
        ),
        blank_outlets={outlet.kind: outlet for outlet in BLANK_OUTLETS},
        usual_ports=dict(usual_ports()),
        usual_inputs=usual_inputs(),
        blank_mode=BLANK_INPUTS[0].modes[0],
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
            "charger": ChargerPart(kind="charger", name="Charger", figures=ChargerFigures()),
            "panel": PanelPart(kind="panel", name="Solar panel", figures=Panel()),
            "cable": CablePart(kind="cable", name="Cable", figures=CableFigures()),
            "fuse": FusePart(kind="fuse", name="Fuse and holder", figures=FuseFigures()),
        },
    )

"""Charging by chemistry: volts while it charges, what of the Ah stays, what lead-acid accepts."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Final

from graveljar.core.tables import ocv
from graveljar.core.tables.chemistry import CHEMISTRIES, ChemistryKey

# From 96 % on the volts of LFP rise steeply: 14.4 V at four cells are met near 97 % at 0.2 to
# 0.5C. Common practice.
_LFP: Final[ocv.Curve] = (
    *(point for point in ocv.LFP if point[0] <= 0.95),
    (0.96, 3.36),
    (0.97, 3.50),
    (0.98, 3.56),
    (0.99, 3.60),
    (1.0, 3.65),
)


# A charger's profile for lead-acid knows blocks of 12 V; lithium in the place of one: four cells
# of LFP. Charge volts of a block; common practice: AGM 2.40 V a cell, gel 2.35 to 2.40. [V]
BLOCK_V: Final = 12.6
PROFILE_V: Final[Mapping[str, float]] = MappingProxyType(
    {"lithium": 14.4, "AGM": 14.4, "gel": 14.2, "flooded": 14.4}
)


@dataclass(frozen=True)
class ChargingKind:
    """How all cells of a chemistry are charged.

    curve : Volts of a cell that takes no current, while it is being charged. [V] by charge
    hold_v : What a charger holds at its end, for each cell. [V]
    tail_c : Current at which a charger ends, times the capacity. [1/h]
    ah_efficiency : Share of the Ah put in that stays. [1]
    accepts_per_h : Amps accepted at `hold_v` for each Ah missing; None: all it is given. [1/h]
    """

    curve: ocv.Curve
    hold_v: float
    tail_c: float
    ah_efficiency: float
    accepts_per_h: float | None = None


def _lead(key: ChemistryKey) -> ChargingKind:
    # The ampere-hour law: no more amps than Ah are missing. So the last fifth takes 2 to 6 h.
    return ChargingKind(CHEMISTRIES[key].ocv, 2.4, 0.01, 0.87, accepts_per_h=1.0)


CHARGING: Final[Mapping[ChemistryKey, ChargingKind]] = MappingProxyType(
    {
        "lfp": ChargingKind(_LFP, 3.6, 0.05, 0.995),
        "nmc": ChargingKind(CHEMISTRIES["nmc"].ocv, 4.2, 0.05, 0.995),
        "agm": _lead("agm"),
        "flooded": _lead("flooded"),
    }
)

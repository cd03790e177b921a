"""Cells by chemistry: volts, what may be taken out, and what cold takes away.

Volts per cell, usable shares and Peukert exponents: common practice in the
trade. Temperature factors: LFP common practice; lead-acid the reciprocals of the sizing
factors of IEEE 485, quoted from memory. Open-circuit volts: see `ocv.py`.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Final, Literal

from graveljar.core.tables import ocv

ChemistryKey = Literal["lfp", "nmc", "agm", "flooded"]

# (ambient [°C], share of the 25 °C capacity), rising temperature.
Curve = tuple[tuple[float, float], ...]

# Common practice. Used for Li-ion of other kinds too: nothing better is at hand.
LFP_CAPACITY: Final[Curve] = ((-10.0, 0.75), (0.0, 0.88), (10.0, 0.95), (25.0, 1.0))
# IEEE 485 sizing factors 1.39 (the middle of 1.35 to 1.43), 1.19, 1.11, 1.00; from memory.
LEAD_CAPACITY: Final[Curve] = ((0.0, 1 / 1.39), (10.0, 1 / 1.19), (15.6, 1 / 1.11), (25.0, 1.0))

# Times the resistance at 25 °C of a whole battery. Common practice; cells alone stand a little
# higher for lithium (two published parameter sets: 2.5 at 0 °C).
LITHIUM_COLD_OHM: Final[Curve] = ((-20.0, 4.5), (-10.0, 3.0), (0.0, 2.0), (25.0, 1.0))
LEAD_COLD_OHM: Final[Curve] = ((-18.0, 1.6), (0.0, 1.3), (25.0, 1.0))
# Lithium is not charged below; common practice. [°C]
NO_CHARGE_BELOW_C: Final = 0.0


@dataclass(frozen=True)
class Chemistry:
    """What all cells of a kind have in common.

    empty_v, nominal_v, full_v : Per cell; `full_v` is the charge voltage. [V]
    reserve : Share left inside by default. [1]
    peukert : Default exponent; 1 means the rate does not matter. [1]
    rated_h : Hours the label's Ah were taken over. [h]
    charge_c : The assumption on its highest charging current.
    strained_c, most_c : Times its capacity, the amps above which it suffers, and beyond which it
        is not used. [1/h]
    resistance_ohm_ah : Cell resistance times its capacity, for sag: the default. [Ohm Ah]
    short_ohm_ah : The same in a short circuit: cells alone, at the low end. [Ohm Ah]
    """

    key: ChemistryKey
    name: str
    lithium: bool
    vented: bool
    empty_v: float
    nominal_v: float
    full_v: float
    reserve: float
    peukert: float
    rated_h: float
    resistance_ohm_ah: float
    short_ohm_ah: float
    capacity_by_temperature: Curve
    capacity_source: str
    ohm_by_temperature: Curve
    ocv: ocv.Curve
    ocv_source: str
    charge_c: str = "bank_charge_c"
    strained_c: float = math.inf
    most_c: float = math.inf


def _lead(
    key: ChemistryKey, name: str, *, vented: bool, k: float, charge_c: str, curve: ocv.Curve
) -> Chemistry:
    return Chemistry(
        key=key,
        name=name,
        lithium=False,
        vented=vented,
        empty_v=1.75,
        nominal_v=2.0,
        full_v=2.45,
        reserve=0.5,
        peukert=k,
        rated_h=20.0,
        # A 12 V 100 Ah block of about 6 mOhm: 1 mOhm a cell. Common practice.
        resistance_ohm_ah=0.1,
        # A 12 V 100 Ah block then gives 3.5 kA; datasheets say 2.5 to 3.5, from memory.
        short_ohm_ah=0.07,
        capacity_by_temperature=LEAD_CAPACITY,
        capacity_source="ieee-485",
        ohm_by_temperature=LEAD_COLD_OHM,
        ocv=curve,
        ocv_source="ocv-lead",
        charge_c=charge_c,
        most_c=1.0,
        strained_c=0.5,
    )


# Li-ion of other classes of cells, common practice: tool packs of power cells, 12 to 20 mOhm each
# with contacts of 20 to 40 mOhm a pack (a 5S2P pack of 5 Ah: 60 to 100 mOhm); large cells.
POWER_CELLS_OHM_AH: Final = 0.08
LARGE_CELLS_OHM_AH: Final = 0.05
# Nominal volts that tool packs come in, and the most Ah of one; from so many Ah on cells are large.
TOOL_PACK_V: Final = (18.0, 20.0, 36.0, 40.0, 54.0, 60.0, 80.0)
TOOL_PACK_AH: Final = 12.0
LARGE_AH: Final = 50.0

# Cells in series that a pack of so many label volts may have, least and most, where the label does
# not say: common practice.
USUAL_CELLS: Final[Mapping[tuple[str, float], tuple[int, int]]] = MappingProxyType(
    {
        ("lfp", 48.0): (15, 16),
        ("nmc", 40.0): (10, 10),
        ("nmc", 48.0): (13, 14),
        ("nmc", 60.0): (16, 17),
        ("nmc", 80.0): (20, 20),
    }
)
# What protection, posts and links of a lithium battery add in a short circuit: 1 to 2 mOhm, less
# the larger it is. Common practice. [Ohm Ah], [Ohm]
POSTS_OHM_AH: Final = 0.2
POSTS_OHM: Final = (0.001, 0.002)
# Share above the charge volts of a cell that a charger may hold. Common practice.
OVER_FULL_LITHIUM: Final = 0.005
OVER_FULL_LEAD: Final = 0.04

CHEMISTRIES: Final[Mapping[ChemistryKey, Chemistry]] = MappingProxyType(
    {
        "lfp": Chemistry(
            key="lfp",
            name="LFP (lithium iron phosphate)",
            lithium=True,
            vented=False,
            empty_v=2.5,
            nominal_v=3.2,
            full_v=3.65,
            reserve=0.1,
            peukert=1.0,
            rated_h=5.0,
            # Four cells of 100 Ah with their leads: 8 mOhm. Common practice.
            resistance_ohm_ah=0.2,
            # Large cells of 100 to 300 Ah: 0.15 to 0.5 mOhm. Common practice.
            short_ohm_ah=0.05,
            capacity_by_temperature=LFP_CAPACITY,
            capacity_source="trade-lfp-cold",
            ohm_by_temperature=LITHIUM_COLD_OHM,
            ocv=ocv.LFP,
            ocv_source="ocv-lfp",
        ),
        "nmc": Chemistry(
            key="nmc",
            name="Li-ion (NMC or NCA)",
            lithium=True,
            vented=False,
            empty_v=2.75,
            nominal_v=3.65,
            full_v=4.2,
            reserve=0.1,
            peukert=1.0,
            rated_h=5.0,
            # Energy cells of 2.5 to 5 Ah, 25 to 45 mOhm each, with their contacts. Common practice.
            resistance_ohm_ah=0.11,
            # Power cells of 2.5 Ah: 12 mOhm without contacts. Common practice.
            short_ohm_ah=0.03,
            capacity_by_temperature=LFP_CAPACITY,
            capacity_source="trade-lfp-cold",
            ohm_by_temperature=LITHIUM_COLD_OHM,
            ocv=ocv.NMC,
            ocv_source="ocv-nmc",
        ),
        "agm": _lead(
            "agm",
            "AGM or gel (sealed lead-acid)",
            vented=False,
            k=1.1,
            charge_c="sealed_charge_c",
            curve=ocv.AGM,
        ),
        "flooded": _lead(
            "flooded",
            "Flooded lead-acid",
            vented=True,
            k=1.25,
            charge_c="flooded_charge_c",
            curve=ocv.FLOODED,
        ),
    }
)

"""Copper conductors: metric resistances, and the ampacities of two schools.

Both ampacity tables are for 30 °C around the conductor. Each gives the amps that keep the
insulation at its temperature.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Final, Literal

School = Literal["building wire", "boat and vehicle"]
# Every size by its name, as `conductor.SIZES` has them.
SizeName = Literal[
    "0.5 mm²", "0.75 mm²", "1 mm²", "1.5 mm²", "2.5 mm²", "4 mm²", "6 mm²", "10 mm²", "16 mm²",
    "25 mm²", "35 mm²", "50 mm²", "70 mm²", "95 mm²", "120 mm²", "18 AWG", "16 AWG", "14 AWG",
    "12 AWG", "10 AWG", "8 AWG", "6 AWG", "4 AWG", "3 AWG", "2 AWG", "1 AWG", "1/0 AWG",
    "2/0 AWG", "3/0 AWG", "4/0 AWG",
]  # fmt: skip

# International annealed copper standard: resistivity at 20 °C. [Ohm m]
COPPER_OHM_M: Final = 1.7241e-8
# What each degree adds to the resistance at 20 °C. IACS. [1/K]
COPPER_PER_K: Final = 0.00393

# IEC 60228 table 3, class 5 plain copper, maximum at 20 °C. Quoted from memory. [Ohm/km]
CLASS_5_OHM_PER_KM: Final[Mapping[float, float]] = MappingProxyType(
    {
        0.5: 39.0, 0.75: 26.0, 1.0: 19.5, 1.5: 13.3, 2.5: 7.98, 4.0: 4.95, 6.0: 3.30,
        10.0: 1.91, 16.0: 1.21, 25.0: 0.780, 35.0: 0.554, 50.0: 0.386, 70.0: 0.272,
        95.0: 0.206, 120.0: 0.161,
    }
)  # fmt: skip

# AWG sizes by their number: 1/0 is 0, 4/0 is -3.
AWG_NUMBERS: Final = (18, 16, 14, 12, 10, 8, 6, 4, 3, 2, 1, 0, -1, -2, -3)


@dataclass(frozen=True)
class Ampacity:
    """An ampacity table. `by_awg` [A], at `ambient_c` around it and `insulation_c` inside. [°C]

    `bundled` are factors by the most current-carrying conductors that lie together.
    """

    school: School
    source: str
    insulation_c: float
    ambient_c: float
    by_awg: Mapping[int, float]
    bundled: tuple[tuple[int, float], ...]


AMPACITIES: Final[Mapping[School, Ampacity]] = MappingProxyType(
    {
        # NEC table 310.16, copper, 75 °C, in conduit; factors of 310.15(C)(1). From memory.
        "building wire": Ampacity(
            "building wire",
            "nec-310-16",
            75.0,
            30.0,
            MappingProxyType(
                {
                    14: 20.0, 12: 25.0, 10: 35.0, 8: 50.0, 6: 65.0, 4: 85.0, 3: 100.0, 2: 115.0,
                    1: 130.0, 0: 150.0, -1: 175.0, -2: 200.0, -3: 230.0,
                }
            ),
            ((3, 1.0), (6, 0.8), (9, 0.7), (20, 0.5)),
        ),
        # 33 CFR 183.425 table 5, 105 °C insulation, outside of engine spaces; its notes for
        # conductors in a bundle. From memory.
        "boat and vehicle": Ampacity(
            "boat and vehicle",
            "cfr-183-425",
            105.0,
            30.0,
            MappingProxyType(
                {
                    18: 20.0, 16: 25.0, 14: 35.0, 12: 45.0, 10: 60.0, 8: 80.0, 6: 120.0,
                    4: 160.0, 3: 180.0, 2: 210.0, 1: 245.0, 0: 285.0, -1: 330.0, -2: 385.0,
                    -3: 445.0,
                }
            ),
            ((2, 1.0), (3, 0.7), (6, 0.6), (24, 0.5)),
        ),
    }
)  # fmt: skip

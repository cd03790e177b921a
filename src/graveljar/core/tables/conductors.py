"""Copper conductors: metric resistances, and the ampacities of three tables.

All ampacity tables are for 30 °C around the conductor. Each gives the amps that keep the
insulation at its temperature.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Any, Final, Literal

School = Literal["building wire", "boat and vehicle", "metric boat and vehicle"]
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


Sizes = Mapping[float, float]


@dataclass(frozen=True)
class Ampacity:
    """An ampacity table: amps of one conductor with `ambient_c` around it. [A], [°C]

    `columns` go by the temperature the insulation is marked for [°C], then by AWG number, or by
    area where `metric` [mm2]. `usual_c` counts where nothing is marked. `bundled` are factors by
    the most current-carrying conductors that lie together. `small`: the largest fuse up to a gauge,
    whatever the table says. [A]
    """

    school: School
    source: str
    usual_c: float
    ambient_c: float
    metric: bool
    columns: Mapping[float, Sizes]
    bundled: tuple[tuple[int, float], ...]
    small: tuple[tuple[int, float], ...] = ()

    @property
    def best_c(self) -> float:
        """The best insulation it has a column for. [°C]"""
        return max(self.columns)


def _columns(marked_c: tuple[float, ...], rows: Mapping[float, tuple[float, ...]]) -> Any:
    """Columns by what is marked on the insulation, out of rows by size. [°C], [A]"""
    return MappingProxyType(
        {
            marked: MappingProxyType({size: row[k] for size, row in rows.items()})
            for k, marked in enumerate(marked_c)
        }
    )


AMPACITIES: Final[Mapping[School, Ampacity]] = MappingProxyType(
    {
        # NEC table 310.16, copper, 60 and 75 °C, in conduit; factors of 310.15(C)(1). From memory.
        # Most terminals are rated for 75 °C: better insulation gains nothing.
        "building wire": Ampacity(
            "building wire", "nec-310-16", 75.0, 30.0, False,
            _columns(
                (60.0, 75.0),
                {
                    14: (15, 20), 12: (20, 25), 10: (30, 35), 8: (40, 50), 6: (55, 65),
                    4: (70, 85), 3: (85, 100), 2: (95, 115), 1: (110, 130), 0: (125, 150),
                    -1: (145, 175), -2: (165, 200), -3: (195, 230),
                },
            ),
            ((3, 1.0), (6, 0.8), (9, 0.7), (20, 0.5)),
            # NEC 240.4(D), from memory.
            ((14, 15.0), (12, 20.0), (10, 30.0)),
        ),
        # 33 CFR 183.425 table 5, outside of engine spaces; its notes for conductors in a bundle.
        # From memory.
        "boat and vehicle": Ampacity(
            "boat and vehicle", "cfr-183-425", 70.0, 30.0, False,
            _columns(
                (60.0, 75.0, 80.0, 90.0, 105.0),
                {
                    18: (10, 10, 15, 20, 20), 16: (15, 15, 20, 25, 25), 14: (20, 20, 25, 30, 35),
                    12: (25, 25, 35, 40, 45), 10: (40, 40, 50, 55, 60), 8: (55, 65, 70, 70, 80),
                    6: (80, 95, 100, 100, 120), 4: (105, 125, 130, 135, 160),
                    3: (120, 145, 150, 155, 180), 2: (140, 170, 175, 180, 210),
                    1: (165, 195, 210, 210, 245), 0: (195, 230, 245, 245, 285),
                    -1: (225, 265, 285, 285, 330), -2: (260, 310, 330, 330, 385),
                    -3: (300, 360, 385, 385, 445),
                },
            ),
            ((2, 1.0), (3, 0.7), (6, 0.6), (24, 0.5)),
        ),
        # ISO 10133 and ISO 13297, one conductor; their factors for a bundle. From memory.
        "metric boat and vehicle": Ampacity(
            "metric boat and vehicle", "iso-10133", 70.0, 30.0, True,
            _columns(
                (70.0, 105.0),
                {
                    0.75: (10, 16), 1.0: (14, 20), 1.5: (18, 25), 2.5: (25, 35), 4.0: (35, 45),
                    6.0: (45, 60), 10.0: (65, 90), 16.0: (90, 130), 25.0: (120, 170),
                    35.0: (160, 210), 50.0: (210, 270), 70.0: (265, 330), 95.0: (310, 390),
                    120.0: (360, 450),
                },
            ),
            ((3, 1.0), (6, 0.7), (24, 0.6)),
        ),
    }
)  # fmt: skip

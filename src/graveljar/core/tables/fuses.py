"""Fuses: the sizes they are made in, and what each kind bears and breaks."""

from dataclasses import dataclass
from typing import Final, Literal

# NEC 240.6(A), standard ampere ratings. Quoted from memory. [A]
STANDARD_A: Final = (
    15, 20, 25, 30, 35, 40, 45, 50, 60, 70, 80, 90, 100, 110, 125, 150, 175, 200, 225, 250, 300,
    350, 400, 450, 500, 600,
)  # fmt: skip
# ISO 8820-3, blade fuses. Quoted from memory. [A]
BLADE_A: Final = (1, 2, 3, 4, 5, 7.5, 10, 15, 20, 25, 30, 35, 40)


FuseKindKey = Literal["blade", "link", "stud", "class-t", "breaker"]


@dataclass(frozen=True)
class FuseKind:
    """A kind of fuse: most DC volts, amps it can break, sizes. Typical figures. [V], [A]"""

    key: FuseKindKey
    name: str
    volts: float
    breaks_a: float
    sizes: tuple[float, ...]


# Typical ratings, quoted from memory; a datasheet goes before them. The plainest first.
FUSE_KINDS: Final = (
    FuseKind("blade", "blade fuse", 32.0, 1_000.0, BLADE_A),
    FuseKind("link", "bolt-in link", 32.0, 6_000.0, tuple(x for x in STANDARD_A if x >= 30)),
    FuseKind("stud", "terminal-stud fuse", 58.0, 2_000.0, tuple(x for x in STANDARD_A if x <= 300)),
    FuseKind("class-t", "class T fuse", 125.0, 20_000.0, STANDARD_A),
)
# Breakers differ more than fuses do: never proposed, and judged by this unless one says more.
BREAKER: Final = FuseKind("breaker", "DC breaker", 48.0, 3_000.0, STANDARD_A)

"""Fuses: the sizes they are made in, and what each kind is rated for and interrupts."""

from dataclasses import dataclass
from typing import Final, Literal

# NEC 240.6(A), standard ampere ratings. Quoted from memory. [A]
STANDARD_A: Final = (
    15, 20, 25, 30, 35, 40, 45, 50, 60, 70, 80, 90, 100, 110, 125, 150, 175, 200, 225, 250, 300,
    350, 400, 450, 500, 600,
)  # fmt: skip
# ISO 8820-3, blade fuses, and large ones. Quoted from memory. [A]
BLADE_A: Final = (1, 2, 3, 4, 5, 7.5, 10, 15, 20, 25, 30, 35, 40)
LARGE_BLADE_A: Final = (20, 30, 40, 50, 60, 70, 80)
# ISO 8820-5, strips bolted in, of both widths. Quoted from memory. [A]
STRIP_A: Final = (30, 40, 50, 60, 70, 80, 100, 125, 150, 175, 200, 225, 250, 300, 350, 400, 500)
# Fuses on a threaded terminal, and large open links: sizes they are sold in. From memory. [A]
STUD_A: Final = (30, 40, 50, 60, 75, 80, 90, 100, 125, 150, 175, 200, 225, 250, 300)
OPEN_LINK_A: Final = (35, 40, 50, 60, 80, 100, 125, 150, 175, 200, 225, 250, 300, 350, 400, 500)
# IEC 60269-6, cylindrical fuses for panel strings. From memory. [A]
PANEL_A: Final = (1, 2, 3, 4, 5, 6, 8, 10, 12, 15, 16, 20, 25, 30)
GLASS_A: Final = (1, 2, 3, 5, 7.5, 10, 15, 20, 25, 30)


FuseKindKey = Literal[
    "blade",
    "large-blade",
    "glass",
    "link",
    "stud",
    "open-link",
    "panel-string",
    "class-t",
    "breaker",
]


@dataclass(frozen=True)
class Rating:
    """Amps interrupted up to so many DC volts. [V], [A]"""

    volts: float
    breaks_a: float


@dataclass(frozen=True)
class FuseKind:
    """A kind of fuse and the sizes it is made in. Typical figures. [A]

    `ratings` rise in volts.
    """

    key: FuseKindKey
    name: str
    ratings: tuple[Rating, ...]
    sizes: tuple[float, ...]

    @property
    def volts(self) -> float:
        """The most DC volts it interrupts. [V]"""
        return self.ratings[-1].volts

    def breaks_a(self, full_v: float) -> float:
        """Amps it interrupts at the volts of a full store; 0 above its own. [A]

        Examples
        --------
        >>> [STUD.breaks_a(volts) for volts in (13.0, 14.6, 29.2, 58.4)]
        [10000.0, 5000.0, 5000.0, 0.0]
        """
        return next((x.breaks_a for x in self.ratings if full_v < x.volts), 0.0)

    def is_made(self, amps: float) -> bool:
        """Whether it is made in a size."""
        return any(abs(size - amps) < 1e-9 for size in self.sizes)


STUD: Final = FuseKind(
    "stud",
    "terminal-stud fuse",
    (Rating(14.0, 10_000.0), Rating(32.0, 5_000.0), Rating(58.0, 2_000.0)),
    STUD_A,
)
CLASS_T: Final = FuseKind("class-t", "class T fuse", (Rating(125.0, 20_000.0),), STANDARD_A)
# Typical ratings, quoted from memory; a datasheet goes before them. The plainest first. Strips
# interrupt 1 to 2 kA: where nobody says which, 1 kA. Panel-string fuses at 1 000 V.
PROPOSED_KINDS: Final = (
    FuseKind("blade", "blade fuse", (Rating(32.0, 1_000.0),), BLADE_A),
    FuseKind("large-blade", "large blade fuse", (Rating(32.0, 1_000.0),), LARGE_BLADE_A),
    FuseKind("link", "bolt-in strip fuse", (Rating(32.0, 1_000.0),), STRIP_A),
    STUD,
    FuseKind("panel-string", "panel-string fuse", (Rating(1_000.0, 20_000.0),), PANEL_A),
    FuseKind("open-link", "large open-link fuse", (Rating(32.0, 6_000.0),), OPEN_LINK_A),
    CLASS_T,
)
# Never proposed, and judged by these unless more is stated: glass of low breaking capacity
# (IEC 60127-2, from memory: ten times its amps, those of 10 A here), and breakers, which differ
# more than fuses do.
FUSE_KINDS: Final = (
    *PROPOSED_KINDS,
    FuseKind("glass", "glass fuse", (Rating(32.0, 100.0),), GLASS_A),
    FuseKind("breaker", "DC breaker", (Rating(48.0, 3_000.0),), STANDARD_A),
)
# Of a fuse whose kind nobody states: the weakest of the common kinds.
UNSAID: Final = FuseKind("link", "fuse of unstated kind", (Rating(32.0, 1_000.0),), ())

# Least that the main fuse of a lithium bank interrupts: a class T, or one that states so much
# (ABYC E-13, from memory). Smaller packs, whose short circuit a blade interrupts twice over,
# do without. [A]
LITHIUM_MAIN_A: Final = 10_000.0
SMALL_SHORT_A: Final = 500.0

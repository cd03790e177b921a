"""The smallest conductor and fuse that do for a run, and one size up."""

from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Final

from graveljar.core.cables.short_circuit import ShortCircuit
from graveljar.core.components.cable import (
    AMERICAN,
    METRIC,
    Size,
    ampacity_a,
    most_fuse_a,
    one_up,
    resistance_ohm,
)
from graveljar.core.components.fuse import MIN_FACTOR, able_kinds
from graveljar.core.tables.conductors import School
from graveljar.core.tables.fuses import LITHIUM_MAIN_A, PROPOSED_KINDS, SMALL_SHORT_A, FuseKind
from graveljar.core.tables.touch import EXTRA_LOW_V

# Every size fuses are made in. [A]
FUSES_A: Final = tuple(sorted({float(a) for kind in PROPOSED_KINDS for a in kind.sizes}))
MAX_LEADS: Final = 4
# Conductors are laid in parallel from this size on (NEC 310.10(G): 1/0 AWG; from memory). [mm2]
PARALLEL_MM2: Final = 50.0
# A least size that is used by no more than this needs no larger one. Ours.
HALF: Final = 0.5


@dataclass(frozen=True)
class CableDuty:
    """What a run asks of its conductors. [A], [m], [V]

    `amps` it has to carry, `shared_a` it carries while all strings share, `start_a` at the worst
    start; `drop_v` and `start_drop_v` may then be lost in it, out and back. Its fuse has to carry
    `full_v` and break the `short` circuit: that at its own place if it is a `main` one, else that
    at the end of its run, for before that stands the main fuse; that of a `lithium` bank
    has to be a strong one. `copper_c` [°C].
    """

    amps: float
    shared_a: float
    start_a: float
    length_m: float
    drop_v: float
    start_drop_v: float
    full_v: float
    short: ShortCircuit
    main: bool
    lithium: bool
    copper_c: float

    @property
    def least_breaks_a(self) -> float:
        """What its fuse interrupts at least, as the main one of a lithium bank. [A]"""
        strong = self.main and self.lithium and self.short.amps > SMALL_SHORT_A
        return LITHIUM_MAIN_A if strong else 0.0

    def must_break_a(self, ohm: float) -> float:
        """What the fuse of a run of so much resistance has to break. [A]"""
        return self.short.amps if self.main else self.short.through_a(ohm)


@dataclass(frozen=True)
class Conditions:
    """How a run lies: table, around it [°C], conductors together, its insulation.

    `apart`: in free air, its conductors do not heat one another.
    """

    school: School
    ambient_c: float
    together: int
    insulation_c: float | None
    apart: bool = False

    def ampacity_a(self, size: Size, leads: int = 1) -> float | None:
        """Amps one of so many leads carries; None where its table has nothing so thin. [A]

        All conductors that lie together count, those of parallel cables too.
        """
        together = self.counted(leads)
        return ampacity_a(size, self.school, self.ambient_c, together, self.insulation_c)

    def counted(self, leads: int) -> int:
        """Conductors that heat one another, with so many parallel cables."""
        return 2 if self.apart else max(self.together, 2 * leads)


@dataclass(frozen=True)
class SizedCable:
    """A size and a number of parallel cables. Of one cable [A]; of all of them [V], [W].

    `ampacity_a` and the largest fuse are None where the school's table has nothing so thin.
    """

    size: Size
    leads: int
    ampacity_a: float | None
    most_fuse_a: float | None
    ohm: float
    drop_v: float
    heat_w: float


@dataclass(frozen=True)
class FuseChoice:
    """A fuse for one cable; without a kind no common one breaks the short circuit. [A]"""

    amps: float
    kind: FuseKind | None


@dataclass(frozen=True)
class Proposal:
    """The smallest that does, and one size up; None where nothing does."""

    minimum: SizedCable | None
    proposed: SizedCable | None
    fuse: FuseChoice | None


def choose(size: Size, leads: int, asked: CableDuty, conditions: Conditions) -> SizedCable:
    """A size as it fares in a run."""
    ohm = 2 * resistance_ohm(size, asked.length_m, asked.copper_c) / leads
    drop_v = asked.shared_a * ohm
    bears_a = conditions.ampacity_a(size, leads)
    most_a = None if bears_a is None else most_fuse_a(size, conditions.school, bears_a)
    return SizedCable(size, leads, bears_a, most_a, ohm, drop_v, drop_v * asked.shared_a)


@lru_cache(maxsize=4_096)
def propose(asked: CableDuty, conditions: Conditions, sizes: tuple[Size, ...]) -> Proposal:
    """The fewest parallel cables, then the thinnest size, that a fuse can protect, and one size up.

    A fuse is at least 125 % of the current of its cable, and at most the rating of the cable; so no
    fuse, holder or cable runs above 80 %. Kept: most runs of a changed design are as before.
    """
    for leads in range(1, MAX_LEADS + 1):
        for size in sizes if leads == 1 else [x for x in sizes if x.mm2 >= PARALLEL_MM2]:
            one = choose(size, leads, asked, conditions)
            fuse = fuse_for(one, asked) if loses_little(one, asked) else None
            if fuse is not None:
                return _proposal(one, fuse, asked, conditions, sizes)
    return Proposal(None, None, None)


def loses_little(choice: SizedCable, asked: CableDuty) -> bool:
    """Whether a size loses no more than it may, running and at the highest start."""
    started_v = asked.start_a * choice.ohm
    running = choice.drop_v <= asked.drop_v * (1 + 1e-9)
    return running and started_v <= asked.start_drop_v * (1 + 1e-9)


def _proposal(
    least: SizedCable,
    fuse: FuseChoice,
    asked: CableDuty,
    conditions: Conditions,
    sizes: tuple[Size, ...],
) -> Proposal:
    """One size up, with a fuse that protects the least size too, whichever of them is laid.

    Where more flows in a short circuit, another kind.
    """
    larger = _one_up(least, asked, conditions, sizes)
    most_a = min(larger.most_fuse_a or 0.0, least.most_fuse_a or 0.0)
    fits = fuse_for(replace(larger, most_fuse_a=most_a), asked)
    return Proposal(least, larger, fits) if fits else Proposal(least, least, fuse)


def _one_up(
    least: SizedCable, asked: CableDuty, conditions: Conditions, sizes: tuple[Size, ...]
) -> SizedCable:
    """The next size, unless half of the least would do as well: then it is the table's thinnest."""
    cool = asked.amps / least.leads <= HALF * (least.ampacity_a or 0.0)
    if cool and least.drop_v <= HALF * asked.drop_v:
        return least
    return choose(one_up(least.size, sizes), least.leads, asked, conditions)


def fuse_for(choice: SizedCable, asked: CableDuty) -> FuseChoice | None:
    """A fuse of 125 % or more, within the rating of its cable, of the plainest able kind.

    Of that kind the smallest size. None where no size fits, and above 120 V, where nothing is
    proposed. Without a kind if none breaks that short circuit in any size.
    """
    least_a = MIN_FACTOR * asked.amps / choice.leads * (1 - 1e-9)
    most_a = (choice.most_fuse_a or 0.0) * (1 + 1e-9)
    if most_a < least_a or asked.full_v > EXTRA_LOW_V:
        return None
    must_break_a = asked.must_break_a(choice.ohm * choice.leads)
    able = able_kinds(asked.full_v, must_break_a, asked.least_breaks_a)
    if asked.main:
        # At a battery's post fuses are bolted on.
        able = tuple(kind for kind in able if kind.key != "panel-string")
    for kind in able:
        for amps in kind.sizes:
            if least_a <= amps <= most_a:
                return FuseChoice(float(amps), kind)
    if able:
        return None
    fits = next((amps for amps in FUSES_A if least_a <= amps <= most_a), None)
    return None if fits is None else FuseChoice(fits, None)


def sizes_of(system: str) -> tuple[Size, ...]:
    """Sizes to propose from."""
    return AMERICAN if system == "AWG" else METRIC

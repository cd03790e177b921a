"""Fuses: between 125 % of the load and what the cable carries, and of a kind that can break it."""

from dataclasses import dataclass
from typing import Final

from graveljar.core.errors import OutOfRange
from graveljar.core.tables.fuses import FUSE_KINDS, STANDARD_A, FuseKind

# Common practice: at least so many times the largest continuous amps.
LEAST_FACTOR: Final = 1.25
# Common practice: a fuse, holder or connector run at more than this gets hot and melts.
MOST_SHARE: Final = 0.8


@dataclass(frozen=True)
class FuseWindow:
    """Amps a fuse may be rated at: from 125 % of the load to what the cable carries. [A]

    `rated_a` is the first standard size in it; None: none is, and the cable has to grow.
    """

    load_a: float
    least_a: float
    most_a: float
    rated_a: float | None


def fuse_window(
    continuous_a: float, ampacity_a: float, sizes: tuple[float, ...] = STANDARD_A
) -> FuseWindow:
    """The window of a fuse and the standard size in it.

    Parameters
    ----------
    continuous_a, ampacity_a : Largest continuous amps; those the cable carries; > 0. [A]

    Raises
    ------
    OutOfRange : not more than 0.

    Examples
    --------
    >>> fuse_window(100, 130).rated_a, fuse_window(100, 115).rated_a
    (125.0, None)
    """
    if min(continuous_a, ampacity_a) <= 0:
        raise OutOfRange("The load's and the cable's amps must be more than 0.")
    least_a = LEAST_FACTOR * continuous_a
    rated = next((float(a) for a in sizes if a >= least_a * (1 - 1e-9)), None)
    fits = rated is not None and rated <= ampacity_a * (1 + 1e-9)
    return FuseWindow(continuous_a, least_a, ampacity_a, rated if fits else None)


def runs_hot(continuous_a: float, rated_a: float) -> bool:
    """Whether a fuse, its holder or a connector carries more than 80 % for long.

    Examples
    --------
    >>> runs_hot(38, 40), runs_hot(32, 40)
    (True, False)
    """
    return continuous_a > MOST_SHARE * rated_a * (1 + 1e-9)


def short_circuit_a(open_v: float, ohm: float) -> float:
    """Prospective short-circuit current of a bank and its leads: E / R. [A]

    Raises
    ------
    OutOfRange : without any resistance there is no figure.
    """
    if ohm <= 0 or open_v <= 0:
        raise OutOfRange("Volts and resistance must be more than 0.")
    return open_v / ohm


def fuse_kind(rated_a: float, full_v: float, short_a: float) -> FuseKind | None:
    """The plainest kind made in this size that bears the full volts and breaks the short circuit.

    Parameters
    ----------
    full_v : The bank's volts when full; a kind must be rated above them. [V]
    short_a : Prospective short-circuit current. [A]

    Returns
    -------
    None where no common kind does.

    Examples
    --------
    >>> fuse_kind(200, 14.6, 1_800).name, fuse_kind(200, 58.4, 7_300).name
    ('bolt-in link', 'class T fuse')
    """
    for kind in FUSE_KINDS:
        made = any(abs(size - rated_a) < 1e-9 for size in kind.sizes)
        if made and full_v < kind.volts and short_a < kind.breaks_a:
            return kind
    return None

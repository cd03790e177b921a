"""Fuses: between 125 % of the load and what the cable carries, and of a kind that can break it."""

from typing import Final

from graveljar.core.limits import exceeds
from graveljar.core.tables.fuses import PROPOSED_KINDS, FuseKind

# Common practice: at least so many times the largest continuous amps.
LEAST_FACTOR: Final = 1.25
# Common practice: a fuse, holder or connector run at more than this gets hot and melts.
MOST_SHARE: Final = 0.8


def runs_hot(continuous_a: float, rated_a: float) -> bool:
    """Whether a fuse, its holder or a connector carries more than 80 % for long.

    Examples
    --------
    >>> runs_hot(38, 40), runs_hot(32, 40)
    (True, False)
    """
    return exceeds(continuous_a, MOST_SHARE * rated_a)


def able_kind(
    rated_a: float, full_v: float, short_a: float, least_breaks_a: float = 0.0
) -> FuseKind | None:
    """The plainest kind made in this size that bears the full volts and breaks the short circuit.

    Parameters
    ----------
    full_v : The bank's volts when full; a kind must be rated above them. [V]
    short_a : Prospective short-circuit current. [A]
    least_breaks_a : What it must interrupt whatever flows. [A]

    Returns
    -------
    None where no common kind does.

    Examples
    --------
    >>> able_kind(200, 14.6, 1_800).name, able_kind(200, 58.4, 7_300).name
    ('terminal-stud fuse', 'class T fuse')
    """
    for kind in PROPOSED_KINDS:
        breaks_a = kind.breaks_a(full_v)
        if kind.is_made(rated_a) and short_a < breaks_a and least_breaks_a <= breaks_a:
            return kind
    return None

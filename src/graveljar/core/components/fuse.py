"""Fuses: between 125 % of the load and what the cable carries, and of a kind that can break it."""

from typing import Final

from graveljar.core.limits import exceeds
from graveljar.core.tables.fuses import PROPOSED_KINDS, FuseKind

# Common practice: at least so many times the largest continuous amps.
MIN_FACTOR: Final = 1.25
# Common practice: a fuse, holder or connector run at more than this gets hot and melts.
MAX_SHARE: Final = 0.8


def runs_hot(continuous_a: float, rated_a: float) -> bool:
    """Whether a fuse, its holder or a connector carries more than 80 % of its rating continuously.

    Parameters
    ----------
    continuous_a : Continuous current, >= 0. [A]
    rated_a : Printed rating, > 0. [A]

    Returns
    -------
    True above 80 %, rounding apart.

    Notes
    -----
    Common practice.

    Examples
    --------
    >>> runs_hot(38, 40), runs_hot(32, 40)
    (True, False)
    """
    return exceeds(continuous_a, MAX_SHARE * rated_a)


def able_kinds(full_v: float, short_a: float, least_breaks_a: float = 0.0) -> tuple[FuseKind, ...]:
    """The common kinds of fuse that suit the full volts and can interrupt the short circuit.

    Parameters
    ----------
    full_v : Full-charge volts of the bank; a kind must be rated above them, > 0. [V]
    short_a : Prospective short-circuit current, > 0. [A]
    least_breaks_a : What it must be able to interrupt in any case, >= 0. [A]

    Returns
    -------
    Kinds, the plainest first; none where no common kind is able.

    Notes
    -----
    Typical ratings, from memory: see `tables.fuses`.

    Examples
    --------
    >>> able_kinds(14.6, 1_800)[0].name, able_kinds(58.4, 27_300)
    ('terminal-stud fuse', ())
    """
    return tuple(
        kind
        for kind in PROPOSED_KINDS
        if kind.breaks_a(full_v) > short_a and kind.breaks_a(full_v) >= least_breaks_a
    )

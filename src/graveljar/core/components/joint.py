"""What is described at a joint: its resistance, and the amps its fuses pass."""

import math
from collections.abc import Mapping

from graveljar.core.components.cable import resistance_ohm, size_of
from graveljar.core.kernel.fuses import BLADE, UNKNOWN
from graveljar.core.model import Bank, BankLeads, Cable, Joined, Link


def cable_ohm(cable: Cable, assumed: Mapping[str, float]) -> float | None:
    """Resistance of a cable run, out and back, with its parallel cables.

    Parameters
    ----------
    cable : Length, size and number of parallel cables.
    assumed : Assumptions by key; `copper_c` is used. [°C]

    Returns
    -------
    Resistance; None where no size is stated. [Ohm]

    Examples
    --------
    >>> round(cable_ohm(Cable(length_m=5.0, size="6 mm²"), {"copper_c": 20.0}), 3)
    0.033
    """
    if cable.size is None:
        return None
    one = resistance_ohm(size_of(cable.size), cable.length_m, assumed["copper_c"])
    return 2 * one / cable.leads


def described_ohm(joined: Joined, assumed: Mapping[str, float]) -> float | None:
    """Resistance of a joint, both conductors: as measured, else by its cable.

    Parameters
    ----------
    joined : What is connected through a joint of its own.
    assumed : Assumptions by key.

    Returns
    -------
    Resistance; None where neither is stated. [Ohm]

    Examples
    --------
    >>> described_ohm(Joined(cable_mohm=4.0), {})
    0.004
    """
    if joined.cable_mohm is not None:
        return joined.cable_mohm / 1000
    return None if joined.cable is None else cable_ohm(joined.cable, assumed)


def string_ohms(leads: BankLeads, strings: int, assumed: Mapping[str, float]) -> list[float]:
    """Resistance of each battery's cables: one as described, the others the longest.

    Parameters
    ----------
    leads : The cables of a bank.
    strings : Batteries in parallel, >= 1.
    assumed : Assumptions by key.

    Returns
    -------
    Resistances, one for each battery in parallel. [Ohm]

    Examples
    --------
    >>> string_ohms(BankLeads(cable_mohm=1.0), 2, {})
    [0.001, 0.001]
    """
    one = described_ohm(leads, assumed) or 0.0
    rest = one
    if leads.longest_m is not None and leads.cable is not None:
        rest = one * leads.longest_m / leads.cable.length_m
    return [one, *[rest] * (strings - 1)]


def bank_leads_ohm(bank: Bank, assumed: Mapping[str, float]) -> float:
    """Resistance between the posts of a bank and its bus bar, of all batteries in parallel.

    Parameters
    ----------
    bank : With its cables; none have no resistance.
    assumed : Assumptions by key.

    Returns
    -------
    Resistance, >= 0. [Ohm]

    Examples
    --------
    >>> bank_leads_ohm(Bank(parallel=2, leads=BankLeads(cable_mohm=1.0)), {})
    0.0005
    """
    if bank.leads is None:
        return 0.0
    ohms = string_ohms(bank.leads, bank.parallel, assumed)
    return 0.0 if min(ohms) == 0 else 1 / sum(1 / ohm for ohm in ohms)


def fuse_code(joined: Joined | None) -> int:
    """The kernel's code for the opening times of a joint's fuse.

    Parameters
    ----------
    joined : What is connected through a joint of its own; None: nothing.

    Returns
    -------
    The code of blade fuses, or that of a kind without known times.

    Examples
    --------
    >>> fuse_code(None) == fuse_code(Joined())
    True
    """
    known = joined is not None and joined.fuse is not None and joined.fuse.kind == "blade"
    return BLADE if known else UNKNOWN


def end_fuse_a(link: Link) -> float:
    """Rating of the fuse at the battery's end of a link.

    Parameters
    ----------
    link : The link.

    Returns
    -------
    Rating of the fuses of all its cables together; infinite without one. [A]

    Examples
    --------
    >>> end_fuse_a(Link(id="a", rail="bank", to="b"))
    inf
    """
    if link.end_fuse is None:
        return math.inf
    return link.end_fuse.amps * (link.cable.leads if link.cable else 1)


def fuse_a(joined: Joined) -> float:
    """Rating of the fuse of a joint.

    Parameters
    ----------
    joined : What is connected through a joint of its own; None: nothing.

    Returns
    -------
    Rating of the fuses of all its cables together; infinite without one. [A]

    Examples
    --------
    >>> fuse_a(Joined(fuse={"amps": 30.0}))
    30.0
    """
    if joined.fuse is None:
        return math.inf
    return joined.fuse.amps * (joined.cable.leads if joined.cable else 1)

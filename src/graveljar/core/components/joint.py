"""What is described at a joint: its resistance, and the amps its fuses let through."""

import math
from collections.abc import Mapping

from graveljar.core.components.cable import resistance_ohm, size_of
from graveljar.core.kernel.fuses import BLADE, UNKNOWN
from graveljar.core.model import Bank, BankLeads, Cable, Joined, Link


def cable_ohm(cable: Cable, assumed: Mapping[str, float]) -> float | None:
    """Resistance of a run out and back, its leads side by side; None without a size. [Ohm]"""
    if cable.size is None:
        return None
    one = resistance_ohm(size_of(cable.size), cable.length_m, assumed["copper_c"])
    return 2 * one / cable.leads


def described_ohm(joined: Joined, assumed: Mapping[str, float]) -> float | None:
    """Resistance of a joint, both conductors: measured, else by its cable; None: unsaid. [Ohm]"""
    if joined.cable_mohm is not None:
        return joined.cable_mohm / 1000
    return None if joined.cable is None else cable_ohm(joined.cable, assumed)


def string_ohms(leads: BankLeads, strings: int, assumed: Mapping[str, float]) -> list[float]:
    """Resistance of each string's leads, one of them short and the others the longest. [Ohm]"""
    one = described_ohm(leads, assumed) or 0.0
    rest = one
    if leads.longest_m is not None and leads.cable is not None:
        rest = one * leads.longest_m / leads.cable.length_m
    return [one, *[rest] * (strings - 1)]


def bank_leads_ohm(bank: Bank, assumed: Mapping[str, float]) -> float:
    """Resistance between the posts of a bank and where it hands over, all strings. [Ohm]"""
    if bank.leads is None:
        return 0.0
    ohms = string_ohms(bank.leads, bank.parallel, assumed)
    return 0.0 if min(ohms) == 0 else 1 / sum(1 / ohm for ohm in ohms)


def fuse_code(joined: Joined | None) -> int:
    """How the engine knows the times of a joint's fuse: those of blade fuses, or none."""
    known = joined is not None and joined.fuse is not None and joined.fuse.kind == "blade"
    return BLADE if known else UNKNOWN


def end_fuse_a(link: Link) -> float:
    """Amps that the fuses at the battery's end of a link let through for long. [A]"""
    if link.end_fuse is None:
        return math.inf
    return link.end_fuse.amps * (link.cable.leads if link.cable else 1)


def fuse_a(joined: Joined) -> float:
    """Amps the fuses of a joint let through for long, all its leads together. [A]"""
    if joined.fuse is None:
        return math.inf
    return joined.fuse.amps * (joined.cable.leads if joined.cable else 1)

"""How long a link takes to fill its store: a run with no load on."""

from dataclasses import dataclass
from typing import Final, Literal

import numpy as np

from graveljar.core.analysis.link_operation import LinkOperation
from graveljar.core.analysis.simulation import answered
from graveljar.core.errors import NotSolved
from graveljar.core.kernel.records import DayProfile, Floats, Records
from graveljar.core.kernel.timestep import run as march
from graveljar.core.kernel.trace import CONVERGED, GOES_ON, POINTS, STATUS, Trace, new_trace
from graveljar.core.lowering.lower import LoweredDesign
from graveljar.core.network.schedule import DAY_H

Others = Literal["as planned", "off", "on"]
Ends = Literal["full", "source ends", "too slow", "no charge", "frost", "not solved"]
# Hours after which charging counts as too slow. Ours.
MAX_H: Final = 500.0
# So little short of full a store counts as full. [1]
FULL: Final = 0.0005
# Charge smaller than this is rounding. [1]
HAIR: Final = 1e-6


@dataclass(frozen=True)
class Charging:
    """Hours of charging that take a store from one charge to another, and what ends them.

    `bulk_h` : Until its charge controller takes less and less. [h]
    `taper_h` : From there on. [h]
    `begin`, `end`, `taper` : Shares of charge. [1]
    """

    begin: float
    end: float
    taper: float
    bulk_h: float
    taper_h: float
    ends: Ends

    @property
    def hours(self) -> float:
        """All of it. [h]"""
        return self.bulk_h + self.taper_h


@dataclass(frozen=True)
class Filling:
    """How a store fills over time. [h], [1], [A], shapes (N,)

    `amps` flow into it at its own volts.
    """

    charging: Charging
    hours: Floats
    charge: Floats
    amps: Floats


def charging_of(
    lowered: LoweredDesign, feeding: LinkOperation, begin: float | None = None
) -> Charging | None:
    """Time in which a link fills its store.

    The link is plugged in and its vehicle runs all the time; the sun rises and sets as on usual
    days; so are the other links that are plugged in at the same times.

    Parameters
    ----------
    lowered : The design as arrays.
    feeding : The link by its labels and at work.
    begin : Charge at the start, 0 to 1; None: as in the design. [1]

    Returns
    -------
    Hours and how it ends; None for a link that does not fit. Where no operating point is found,
    `ends` says "not solved" and there are no hours. [h]

    Examples
    --------
    >>> from graveljar.core.analysis.link_operation import link_operations_of
    >>> from graveljar.core.lowering.example import lowered
    >>> from graveljar.demo import demo_designs
    >>> booth = lowered(demo_designs()["ticket-booth"])
    >>> charging_of(booth, link_operations_of(booth)["lead"]) is None  # its volts do not fit
    True
    """
    found = filling_of(lowered, feeding, begin)
    return None if found is None else found.charging


def filling_of(
    lowered: LoweredDesign,
    feeding: LinkOperation,
    begin: float | None = None,
    *,
    others: Others = "as planned",
) -> Filling | None:
    """The course of a link that fills its store, as `charging_of`.

    Parameters
    ----------
    lowered : The design as arrays.
    feeding : The link by its labels and at work.
    begin : Charge at the start, 0 to 1; None: as in the design. [1]
    others : The other links: plugged in where they are planned to be then, all off, or all on.

    Returns
    -------
    Hours, charge and amps until it ends; None for a link that does not fit.

    Examples
    --------
    >>> from graveljar.core.analysis.link_operation import link_operations_of
    >>> from graveljar.core.lowering.example import lowered
    >>> from graveljar.demo import demo_designs
    >>> booth = lowered(demo_designs()["ticket-booth"])
    >>> filling_of(booth, link_operations_of(booth)["lead"]) is None
    True
    """
    if feeding.fit != "fits":
        return None
    k, to = lowered.place[feeding.link.id], lowered.place[feeding.link.to]
    rails, loads, stores = lowered.fresh_records()
    if begin is not None:
        stores[to]["begin"] = begin
    trace = new_trace(len(rails), len(loads), len(stores))
    first, taper = float(stores[to]["begin"]), min(float(stores[to]["taper"]), 1.0)
    day = _without_loads(lowered, feeding, k, others)
    _fill((rails, loads, stores), day, trace, to)
    points = int(trace.counts[POINTS])
    hours, charge = trace.hours[:points], trace.charge[:points, to]
    last = int(np.argmax(charge >= charge.max() - HAIR)) if points else 0
    try:
        answered(trace)
    except NotSolved:
        charging = Charging(first, first, taper, 0.0, 0.0, "not solved")
    else:
        brings = bool(points) and trace.amps[min(last + 1, points - 1), k] > 0
        full = min(float(stores[to]["full_at"]), 1.0) - FULL
        frozen = bool(lowered.day.frozen[:, to].all())
        charging = _charging(hours, charge, last, (first, taper, full), brings, frozen)
    upto = slice(0, last + 1)
    return Filling(charging, hours[upto], charge[upto], -trace.amps[upto, to])


def _fill(
    records: tuple[Records, Records, Records], day: DayProfile, trace: Trace, to: int
) -> None:
    """Run day by day until a store is full, or nothing happens any more."""
    until_h = 0.0
    while until_h < MAX_H:
        until_h = min(until_h + DAY_H, MAX_H)
        hours = march(*records, day, until_h, trace)
        charge = trace.charge[: int(trace.counts[POINTS]), to]
        full = len(charge) and charge.max() >= min(float(records[2][to]["full_at"]), 1.0) - HAIR
        if full or hours < until_h - HAIR or trace.counts[STATUS] != CONVERGED:
            return
        trace.counts[GOES_ON] = 1


def _charging(
    hours: Floats,
    charge: Floats,
    last: int,
    shares: tuple[float, float, float],
    brings: bool,
    frozen: bool,
) -> Charging:
    """What a course comes to; `brings`: the link still does once the charge rises no more."""
    first, taper, full = shares
    end = float(charge[last]) if len(charge) else first
    ends: Ends = "no charge" if brings else "source ends"
    if frozen:
        ends = "frost"
    if end <= first + HAIR:
        return Charging(first, first, taper, 0.0, 0.0, "full" if first >= full else ends)
    bulk_h = float(np.interp(min(taper, end), charge[: last + 1], hours[: last + 1]))
    if end >= full:
        ends = "full"
    elif hours[last] >= MAX_H - 1:
        ends = "too slow"
    return Charging(first, end, taper, bulk_h, float(hours[last]) - bulk_h, ends)


def _without_loads(
    lowered: LoweredDesign, feeding: LinkOperation, k: int, others: Others = "as planned"
) -> DayProfile:
    """The day of a design with no load on and a link plugged in all the time.

    Stretches that differ by their loads alone become one.
    """
    day = lowered.day
    plugged = day.plugged.copy()
    for r in range(len(lowered.rails), len(lowered.names)):
        planned = bool((day.plugged[:, r] & day.plugged[:, k]).any())
        plugged[:, r] = others == "on" or (others == "as planned" and planned)
    plugged[:, k] = True
    sources = {feeding.source}
    if others == "on":
        sources = {lowered.rails[link.rail].store for link in lowered.links}
    for source in (lowered.place[name] for name in sources):
        if np.isinf(day.most_a[:, source]).all():
            # The sun goes on rising and setting.
            plugged[:, source] = True
    courses = (plugged, day.warmth, day.cold_ohm, day.frozen, day.too_cold, day.most_a)
    changes = np.zeros(len(plugged), dtype=np.bool_)
    changes[0] = True
    for course in courses:
        changes[1:] |= (course[1:] != course[:-1]).any(axis=1)
    begins = np.flatnonzero(changes)
    return day._replace(
        edges=np.append(day.edges[begins], day.edges[-1]),
        warmth=day.warmth[begins],
        cold_ohm=day.cold_ohm[begins],
        frozen=day.frozen[begins],
        too_cold=day.too_cold[begins],
        full_at=day.full_at[begins],
        most_a=day.most_a[begins],
        demand=np.zeros_like(day.demand[begins]),
        plugged=plugged[begins],
    )

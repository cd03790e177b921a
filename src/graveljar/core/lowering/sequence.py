"""Loads that would only trip each other, laid one after the other where their hours allow."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

import numpy as np

from graveljar.core.components.battery import bank_label
from graveljar.core.components.joint import fuse_a
from graveljar.core.components.load import top_w
from graveljar.core.components.stage_loss import converter_amps, loss_of
from graveljar.core.kernel.fuses import HOLDS
from graveljar.core.limits import exceeds
from graveljar.core.model import (
    Anytime,
    Bank,
    Converter,
    DcPort,
    Design,
    Inverter,
    Load,
    Station,
)
from graveljar.core.network.load_at_rail import at_rail
from graveljar.core.network.rails import Rail
from graveljar.core.network.schedule import (
    DAY_H,
    Span,
    Timetable,
    middles,
    timetable_at,
    timetables,
    within,
)
from graveljar.core.network.windows import least_input_v


@dataclass(frozen=True)
class Sequence:
    """When each load runs, and which that say no time were moved for which."""

    tables: dict[str, Timetable]
    apart: tuple[tuple[str, str], ...] = ()


def sequence_of(
    design: Design, rails: dict[str, Rail], able: list[Load], assumed: dict[str, float]
) -> Sequence:
    """Move the loads that say no time until no limit is exceeded by what runs together.

    By labels, at the lowest volts. Where all of it together exceeds nothing, nothing is moved;
    a load that exceeds a limit on its own, or finds no hours, is not either: it trips.
    """
    movable = [x for x in able if isinstance(x.when, Anytime) and not x.kept_apart]
    tables = timetables(design)
    if len(movable) < 2:
        return Sequence(tables)
    limits = _Limits(design, rails, assumed)
    spans = {load.id: tables[load.id].runs for load in able}
    if not any(limits.exceeded(x) for x in _sets(able, spans)):
        return Sequence(tables)
    start_h = design.setting.starts_at_h
    moving = {x.id for x in movable}
    placed = {x.id: spans[x.id] for x in able if x.id not in moving}
    laid: dict[str, Timetable] = {}
    apart: list[tuple[str, str]] = []
    # What runs longest has least room.
    for load in sorted(movable, key=lambda x: -x.hours_per_day):
        others = [x for x in able if x.id in placed]
        begin = None if limits.exceeded((load,)) else _place(limits, load, others, placed, start_h)
        if begin:
            laid[load.id] = timetable_at(load, start_h + begin)
            first = tables[load.id].runs
            near = [x for x in others if _overlap(first, placed[x.id])]
            # With one of them alone it may run; it is all of them together that trip.
            pairs = [x for x in near if limits.exceeded((load, x))] or near
            apart += [(load.id, x.id) for x in pairs]
        placed[load.id] = laid.get(load.id, tables[load.id]).runs
    return Sequence(tables | laid, tuple(apart))


def _place(
    limits: "_Limits",
    load: Load,
    others: list[Load],
    placed: Mapping[str, tuple[Span, ...]],
    start_h: float,
) -> float | None:
    """The first hour after the begin at which a load runs its time through with the others."""
    ends = {(end - start_h) % DAY_H for x in others for _, end in placed[x.id]}
    for begin in sorted({0.0, *ends}):
        if begin + load.hours_per_day > DAY_H + 1e-9:
            continue
        runs = _wrapped(start_h + begin, load.hours_per_day)
        spans = {**placed, load.id: runs}
        if not any(limits.exceeded(x) for x in _sets([*others, load], spans, load)):
            return begin
    return None


def _wrapped(begin: float, hours: float) -> tuple[Span, ...]:
    first = begin % DAY_H
    if first + hours <= DAY_H:
        return ((first, first + hours),)
    return ((0.0, first + hours - DAY_H), (first, DAY_H))


def _overlap(one: tuple[Span, ...], other: tuple[Span, ...]) -> bool:
    return any(a < d - 1e-9 and c < b - 1e-9 for a, b in one for c, d in other)


def _sets(
    loads: list[Load], spans: Mapping[str, tuple[Span, ...]], beside: Load | None = None
) -> Iterator[tuple[Load, ...]]:
    """What runs together, in each stretch of a day; only in those of one load, if it is given."""
    edges = sorted({0.0, DAY_H} | {edge for x in loads for span in spans[x.id] for edge in span})
    hours = middles(np.array(edges))
    if beside is not None:
        hours = hours[within(spans[beside.id], hours)]
    begins, ends, owners = [], [], []
    for n, load in enumerate(loads):
        for begin, end in spans[load.id]:
            begins.append(begin)
            ends.append(end)
            owners.append(n)
    on = (np.array(begins)[:, None] < hours) & (hours < np.array(ends)[:, None])
    seen = set()
    for column in on.T:
        running = tuple(dict.fromkeys(owners[k] for k in np.flatnonzero(column)))
        if running not in seen:
            seen.add(running)
            yield tuple(loads[n] for n in running)


class _Limits:
    """What every stage, store and fuse may carry continuously, by labels."""

    def __init__(self, design: Design, rails: dict[str, Rail], assumed: dict[str, float]) -> None:
        self.rails, self.assumed = rails, assumed
        self.losses = {
            rail.id: loss_of(rail.source)
            for rail in rails.values()
            if isinstance(rail.source, Inverter | Converter)
        }
        # Watts out of each rail, and watts in before each stage.
        self.out_w: dict[str, float] = {}
        self.in_w: dict[str, float] = {}
        for rail in rails.values():
            self._keep(design, rail)
        # Watts and volt-amperes of each load at its rail.
        self.drawn: dict[str, tuple[float, float]] = {}

    def _keep(self, design: Design, rail: Rail) -> None:
        source = rail.source
        if isinstance(source, Bank):
            rest = bank_label(source)
            cut_outs = [
                least_input_v(x.source)
                for x in self.rails.values()
                if x.parent == rail.id and isinstance(x.source, Inverter | Converter)
            ]
            least_v = max(min(cut_outs, default=0.0), rest.empty_v)
            amps = [rest.give_a] if rest.give_a is not None else []
            if source.leads is not None:
                amps.append(HOLDS * fuse_a(source.leads) * source.parallel)
            if amps:
                self.out_w[rail.id] = min(amps) * least_v
            return
        before = self.rails[str(rail.parent)]
        least_v = before.low_v
        if isinstance(source, Inverter):
            self.out_w[rail.id] = source.continuous_w
        elif isinstance(source, Converter):
            amps_out = converter_amps(source, design, self.assumed).limit_a
            self.out_w[rail.id] = amps_out * source.set_v
        else:
            station = next((x for x in design.stores if x.id == source.rail), None)
            outlets = station.outlets if isinstance(station, Station) else ()
            port = next((x for x in outlets if x.id == source.id), None)
            if isinstance(port, DcPort):
                self.out_w[rail.id] = port.amps * rail.low_v
        if not isinstance(source, Bank) and source.fuse is not None and before.kind == "dc":
            if not hasattr(source, "cut_v"):
                least_v = max(least_v, least_input_v(source))
            self.in_w[rail.id] = HOLDS * fuse_a(source) * least_v

    def _drawn_by(self, load: Load) -> tuple[float, float]:
        if load.id not in self.drawn:
            watts = at_rail(top_w(load), load, self.rails, self.assumed)
            self.drawn[load.id] = watts, watts / load.power_factor
        return self.drawn[load.id]

    def exceeded(self, running: tuple[Load, ...]) -> bool:
        """Whether what runs together exceeds a limit."""
        watts = dict.fromkeys(self.rails, 0.0)
        apparent = dict.fromkeys(self.rails, 0.0)
        for load in running:
            active, reactive_too = self._drawn_by(load)
            watts[str(load.rail)] += active
            apparent[str(load.rail)] += reactive_too
        for rail in reversed(tuple(self.rails.values())):
            most = watts[rail.id]
            if isinstance(rail.source, Inverter):
                most = max(most, apparent[rail.id])
            if exceeds(most, self.out_w.get(rail.id, most or 1.0)):
                return True
            if rail.parent is None or not watts[rail.id]:
                continue
            loss = self.losses.get(rail.id)
            drawn = loss.dc_w(watts[rail.id]) if loss else watts[rail.id]
            if exceeds(drawn, self.in_w.get(rail.id, drawn or 1.0)):
                return True
            watts[rail.parent] += drawn
        return False

"""Joints: what arrives and what is accepted where two parts meet, and what that strands."""

import math
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from graveljar.core.analysis.simulation import Event, energy_between
from graveljar.core.context import Context
from graveljar.core.model import Converter, Feed, Inverter, Link, Load, LoadWindow
from graveljar.core.network.charge_input import LinkFit, accepts_of
from graveljar.core.network.windows import Fit, LoadFit, least_input_v

# A share stranded that is smaller than this is not worth a word. Ours.
MIN_STRANDED = 0.005
# Something that restarts sooner was only out while something else ran. Ours. [h]
LONG_OUT_H = 3.0


@dataclass(frozen=True)
class Stranded:
    """What a device leaves in the store as it cuts out: for good, or until that is charged again.

    [1], [Wh], [h], [V]
    """

    share: float
    wh: float
    after_h: float
    at_v: float


@dataclass(frozen=True)
class Joint:
    """A place where volts meet. [V], [A]

    `arrives_low_v` to `arrives_high_v` by the labels, from empty to full on charge;
    `seen_low_v` is the least that arrives in the run, None if it never ran. `running_a` and
    `start_a` are drawn by a stage at its lowest volts; None for a load.
    """

    subject: str
    name: str
    kind: Literal["stage", "load", "link"]
    arrives_low_v: float
    arrives_high_v: float
    least_v: float
    restarts_v: float
    most_v: float
    fit: Fit | LoadFit | LinkFit
    seen_low_v: float | None
    running_a: float | None
    start_a: float | None
    stranded: Stranded | None


def stranded_by(context: Context, subject: str, store: str) -> Stranded | None:
    """What a device strands in the run: it cut out and never restarted, or not for hours.

    In a store that is charged it restarts once that is; what was left did not run it until then.
    The first time counts there, whatever it does as the simulated hours end.
    """
    analysis = context.analysis
    run = analysis.run
    last = run.last_out(subject)
    if any(link.to == store for link in context.network.design.links):
        if last is not None and run.ends_h - last.hours < LONG_OUT_H:
            last = None
        last = _out_for_long(context, subject) or last
    if last is None:
        return None
    place = analysis.lowered.place[store]
    floor = float(analysis.run.stores[place]["least"])
    share = last.charge - floor
    if share < MIN_STRANDED:
        return None
    wh = energy_between(analysis.lowered, place, floor, last.charge)
    return Stranded(share, wh, last.hours, last.volts)


def _out_for_long(context: Context, subject: str) -> Event | None:
    """The first time that something cuts out and restarts no sooner than some hours later."""
    mine = [
        event
        for event in context.analysis.run.events
        if event.subject == subject and event.what in ("cuts out", "restarts")
    ]
    for event, then in pairwise(mine):
        long = then.hours - event.hours >= LONG_OUT_H
        if event.what == "cuts out" and event.by is None and then.what == "restarts" and long:
            return event
    return None


@dataclass(frozen=True)
class _Accepts:
    """What a part accepts at its joint, and what a stage or link draws there. [V], [A]"""

    least_v: float
    restarts_v: float
    most_v: float
    fit: Fit | LoadFit | LinkFit
    running_a: float | None = None
    start_a: float | None = None


def joints_of(context: Context) -> Iterator[Joint]:
    """Every stage with a window, every link, and every load that states a window."""
    design = context.network.design
    for stage in design.stages:
        if not isinstance(stage, Feed):
            yield _joint(context, stage, "stage", _of_stage(context, stage))
    for link in design.links:
        yield _joint(context, link, "link", _of_link(context, link))
    for load in design.loads:
        if load.window is not None and load.rail is not None:
            yield _joint(context, load, "load", _of_load(context, load, load.window))


def _joint(
    context: Context,
    part: Inverter | Converter | Link | Load,
    kind: Literal["stage", "load", "link"],
    accepts: _Accepts,
) -> Joint:
    rail = context.network.rails[str(part.rail)]
    if isinstance(part, Load):
        seen_low_v = _seen_at_load(context, part)
    else:
        seen_low_v = _seen_at_stage(context, context.analysis.lowered.place[part.id])
    return Joint(
        subject=part.id,
        name=part.name,
        kind=kind,
        arrives_low_v=rail.low_v,
        arrives_high_v=rail.high_v,
        least_v=accepts.least_v,
        restarts_v=accepts.restarts_v,
        most_v=accepts.most_v,
        fit=accepts.fit,
        seen_low_v=seen_low_v,
        running_a=accepts.running_a,
        start_a=accepts.start_a,
        stranded=stranded_by(context, part.id, rail.store),
    )


def _of_stage(context: Context, stage: Inverter | Converter) -> _Accepts:
    network, analysis = context.network, context.analysis
    least_v = least_input_v(stage)
    lowest_v = max(least_v, network.rails[stage.rail].low_v)
    place = analysis.lowered.place[stage.id]
    return _Accepts(
        least_v=least_v,
        restarts_v=float(analysis.lowered.rail_records[place]["restart_v"]),
        most_v=stage.accepts.most_v,
        fit=network.fit_of_stage(stage),
        running_a=analysis.demand.drawn_w(stage.id) / lowest_v,
        start_a=analysis.demand.start_w(stage.id) / lowest_v,
    )


def _of_link(context: Context, link: Link) -> _Accepts:
    feeding = context.analysis.link_operations[link.id]
    store = next(x for x in context.network.design.stores if x.id == link.to)
    window = accepts_of(store, link)
    return _Accepts(
        least_v=window.least_v,
        restarts_v=window.least_v,
        most_v=window.most_v,
        fit=feeding.fit,
        running_a=feeding.full.amps or None,
    )


def _of_load(context: Context, load: Load, window: LoadWindow) -> _Accepts:
    network = context.network
    rise = 1 + network.assumed["restart_rise"]
    return _Accepts(
        least_v=window.cut_out_v,
        restarts_v=window.restarts_v or window.cut_out_v * rise,
        most_v=window.most_v,
        fit=network.fit_of_load(load),
    )


def _seen_at_stage(context: Context, place: int) -> float | None:
    analysis = context.analysis
    _, _, volts, amps, _ = analysis.run.points()
    record = analysis.lowered.rail_records[place]
    arrives = volts[:, record["parent"]] - amps[:, place] * record["ohm"]
    on = amps[:, place] > 0
    if not on.any():
        return None
    return min(float(arrives[on].min()), _reached(context, analysis.lowered.names[place]))


def _seen_at_load(context: Context, load: Load) -> float | None:
    analysis = context.analysis
    where = [x.id for x in analysis.lowered.loads]
    if load.id not in where:
        return None
    i = where.index(load.id)
    _, _, volts, _, drawn = analysis.run.points()
    record = analysis.lowered.load_records[i]
    on = drawn[:, i] > 0
    if not on.any():
        return None
    arrives = volts[on, record["rail"]] - drawn[on, i] * record["ohm"]
    return min(float(arrives.min()), _reached(context, load.id))


def _reached(context: Context, subject: str) -> float:
    """The least volts at which something cut out in the run; infinite if it did not. [V]"""
    out = ("cuts out", "collapses")
    return min(
        (
            e.volts
            for e in context.analysis.run.events
            if e.subject == subject and e.what in out and not e.by
        ),
        default=math.inf,
    )

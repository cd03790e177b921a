"""Joints: what arrives and what is accepted where two parts meet, and what that strands."""

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from graveljar.core.analysis.simulation import energy_between
from graveljar.core.context import Context
from graveljar.core.model import Feed, Link, Load, LoadWindow
from graveljar.core.network.charge_input import LinkFit, accepts_of
from graveljar.core.network.windows import Fit, LoadFit, least_input_v

# A share stranded that is smaller than this is not worth a word. Ours.
MIN_STRANDED = 0.005


@dataclass(frozen=True)
class Stranded:
    """What a device leaves in the store as it cuts out for good. [1], [Wh], [h], [V]"""

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
    """What a device strands in the run: it cut out and never restarted."""
    analysis = context.analysis
    last = analysis.run.last_out(subject)
    if last is None:
        return None
    place = analysis.lowered.place[store]
    floor = float(analysis.run.stores[place]["least"])
    share = last.charge - floor
    if share < MIN_STRANDED:
        return None
    wh = energy_between(analysis.lowered, place, floor, last.charge)
    return Stranded(share, wh, last.hours, last.volts)


def joints_of(context: Context) -> Iterator[Joint]:
    """Every stage with a window, and every load that states one."""
    network, analysis = context.network, context.analysis
    for stage in network.design.stages:
        if isinstance(stage, Feed):
            continue
        rail, parent = network.rails[stage.id], network.rails[stage.rail]
        place = analysis.lowered.place[stage.id]
        least_v = least_input_v(stage)
        lowest_v = max(least_v, parent.low_v)
        yield Joint(
            subject=stage.id,
            name=stage.name,
            kind="stage",
            arrives_low_v=parent.low_v,
            arrives_high_v=parent.high_v,
            least_v=least_v,
            restarts_v=float(analysis.lowered.rail_records[place]["restart_v"]),
            most_v=stage.accepts.most_v,
            fit=network.fit_of_stage(stage),
            seen_low_v=_seen_at_stage(context, place),
            running_a=analysis.demand.drawn_w(stage.id) / lowest_v,
            start_a=analysis.demand.start_w(stage.id) / lowest_v,
            stranded=stranded_by(context, stage.id, rail.store),
        )
    for link in network.design.links:
        yield _of_link(context, link)
    for load in network.design.loads:
        if load.window is not None and load.rail is not None:
            yield _of_load(context, load, load.window)


def _of_link(context: Context, link: Link) -> Joint:
    rail, feeding = context.network.rails[link.rail], context.analysis.link_operations[link.id]
    store = next(x for x in context.network.design.stores if x.id == link.to)
    window = accepts_of(store, link)
    return Joint(
        subject=link.id,
        name=link.name,
        kind="link",
        arrives_low_v=rail.low_v,
        arrives_high_v=rail.high_v,
        least_v=window.least_v,
        restarts_v=window.least_v,
        most_v=window.most_v,
        fit=feeding.fit,
        seen_low_v=_seen_at_stage(context, context.analysis.lowered.place[link.id]),
        running_a=feeding.full.amps or None,
        start_a=None,
        stranded=stranded_by(context, link.id, rail.store),
    )


def _of_load(context: Context, load: Load, window: LoadWindow) -> Joint:
    network = context.network
    rail = network.rails[str(load.rail)]
    rise = 1 + network.assumed["restart_rise"]
    return Joint(
        subject=load.id,
        name=load.name,
        kind="load",
        arrives_low_v=rail.low_v,
        arrives_high_v=rail.high_v,
        least_v=window.cut_out_v,
        restarts_v=window.restarts_v or window.cut_out_v * rise,
        most_v=window.most_v,
        fit=network.fit_of_load(load),
        seen_low_v=_seen_at_load(context, load),
        running_a=None,
        start_a=None,
        stranded=stranded_by(context, load.id, rail.store),
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

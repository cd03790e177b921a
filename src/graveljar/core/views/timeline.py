"""All of a run for the eye: series, band, cut-off lines, flags, what was served, the flow."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Final, Literal

import numpy as np

from graveljar.core.analysis.band import begin_charge_band
from graveljar.core.context import Context
from graveljar.core.model import Feed
from graveljar.core.network.rail_choice import rail_names
from graveljar.core.text import listed, quantity
from graveljar.core.views.energy_flow import Flow, flow_of
from graveljar.core.views.joints import joints_of
from graveljar.core.views.run_summary import MAX_TOLD, happening
from graveljar.core.views.series import Column, Series, series_of

# Shown at first of a run that does not end before. Ours. [h]
FIRST_SHOWN_H: Final = 168.0
# Night by the clock, for shading; ours. [h]
DUSK_H: Final = 20.0
DAWN_H: Final = 7.0
BAND_POINTS: Final = 240


@dataclass(frozen=True)
class ChargeBand:
    """Charge that a tenth (`low`) and nine tenths (`high`) of the draws fall short of. [h], [1]"""

    draws: int
    hours: Column
    low: Mapping[str, Column]
    high: Mapping[str, Column]


@dataclass(frozen=True)
class CutLine:
    """Volts at which something on a rail cuts out or restarts. [V]"""

    rail: str
    subject: str
    kind: Literal["cuts out", "restarts"]
    volts: float
    text: str


@dataclass(frozen=True)
class Flag:
    """Something that happens, for a flag on the time line. [h]"""

    hours: float
    subject: str
    kind: Literal["highest", "cuts out", "restarts"]
    short: str
    text: str


@dataclass(frozen=True)
class ServedLoad:
    """How a load fared until the run ended. `missed_from_h` is None if nothing was. [h], [Wh]"""

    id: str
    name: str
    scheduled_h: float
    served_h: float
    missed_from_h: float | None
    used_wh: float


@dataclass(frozen=True)
class Course:
    """A run. `rails` are names by id; `until_h` how far series and band go. [h]

    `floors` is the charge of each store below which nothing is taken [1]. From `dusk_h` to
    `dawn_h` it is taken to be night, by the clock [h].
    """

    starts_at_h: float
    ends_h: float
    horizon_h: float
    until_h: float
    rails: Mapping[str, str]
    series: Series
    band: ChargeBand
    lines: tuple[CutLine, ...]
    flags: tuple[Flag, ...]
    flags_beyond: int
    served: tuple[ServedLoad, ...]
    flow: Flow
    floors: Mapping[str, float]
    dusk_h: float
    dawn_h: float


def course_of(context: Context, until_h: float | None = None) -> Course:
    """The course of a run up to a time; of its own accord to its end, or a week. [h]"""
    network = context.network
    run = context.analysis.run
    if until_h is None:
        until_h = run.ends_h if run.ends_h < run.horizon_h else min(run.horizon_h, FIRST_SHOWN_H)
    until_h = min(until_h, run.horizon_h)
    told = run.events[:MAX_TOLD]
    return Course(
        starts_at_h=network.design.setting.starts_at_h,
        ends_h=run.ends_h,
        horizon_h=run.horizon_h,
        until_h=until_h,
        rails=rail_names(network.rails),
        series=series_of(context, until_h),
        band=_band(context, until_h),
        lines=tuple(_lines(context)),
        flags=tuple(sorted([*_most(context), *_flags(context)], key=lambda flag: flag.hours)),
        flags_beyond=len(run.events) - len(told) + run.events_beyond,
        served=tuple(_served(context)),
        flow=flow_of(context),
        floors={x.id: x.reserve for x in network.stores if not network.is_source(x.id)},
        dusk_h=DUSK_H,
        dawn_h=DAWN_H,
    )


def _band(context: Context, until_h: float) -> ChargeBand:
    at_h = np.linspace(0.0, until_h, BAND_POINTS)
    draws, charge = begin_charge_band(context.analysis.lowered, at_h)()

    def columns(which: int) -> dict[str, Column]:
        return {
            bank.id: tuple(float(f"{x:.4g}") for x in charge[which, s])
            for s, bank in enumerate(context.network.stores)
        }

    return ChargeBand(draws, tuple(float(f"{x:.6g}") for x in at_h), columns(0), columns(2))


def _lines(context: Context) -> Iterator[CutLine]:
    """Every cut-off of what is connected to a rail, or on a feed of it."""
    network, analysis = context.network, context.analysis
    names = analysis.lowered.names
    zones = analysis.lowered.rail_records["zone"]
    behind = {stage.id: stage.rail for stage in network.stages}
    behind |= {link.id: link.rail for link in network.design.links}
    behind |= {load.id: str(load.rail) for load in network.design.loads if load.rail}
    for joint in joints_of(context):
        rail = behind[joint.subject]
        there = names[int(zones[analysis.lowered.place[rail]])]
        through = " on its feed" if isinstance(network.rails[rail].source, Feed) else ""
        out, back = quantity(joint.least_v, "V"), quantity(joint.restarts_v, "V")
        text = f"{joint.name} cuts out{through} {out}"
        yield CutLine(there, joint.subject, "cuts out", joint.least_v, text)
        text = f"{joint.name} restarts{through} {back}"
        yield CutLine(there, joint.subject, "restarts", joint.restarts_v, text)
    for s, bank in enumerate(network.stores):
        low_v = float(analysis.lowered.store_records[s]["low_v"])
        if low_v > 0:
            text = f"protection of {bank.name} opens {quantity(low_v, 'V')}"
            yield CutLine(bank.id, bank.id, "cuts out", low_v, text)


def _most(context: Context) -> Iterator[Flag]:
    """The moment at which each store gives most, with what runs then."""
    hours, _, volts, amps, drawn = context.analysis.run.points()
    for s, bank in enumerate(context.network.stores):
        given = volts[:, s] * amps[:, s]
        if not len(given) or not given.max() > 0:
            continue
        at = int(np.argmax(given > given.max() * (1 - 1e-9)))
        running = [x.name for i, x in enumerate(context.analysis.lowered.loads) if drawn[at, i] > 0]
        what = quantity(float(given[at]), "W")
        text = (
            f"Highest output of {bank.name}: {what}, {quantity(float(amps[at, s]), 'A')} at "
            f"{quantity(float(volts[at, s]), 'V')}"
        )
        text += f", with {listed(running)}." if running else "."
        yield Flag(float(hours[at]), bank.id, "highest", f"highest: {what}", text)


def _flags(context: Context) -> Iterator[Flag]:
    names = context.network.names
    for event in context.analysis.run.events[:MAX_TOLD]:
        told = happening(context, event)
        back = event.what in ("restarts", "switches its outlets on", "is full")
        word = "full" if event.what == "is full" else "back" if back else "out"
        short = f"{names[event.subject]} {word}"
        kind: Literal["cuts out", "restarts"] = "restarts" if back else "cuts out"
        yield Flag(event.hours, event.subject, kind, short, told.text)


def _served(context: Context) -> Iterator[ServedLoad]:
    analysis = context.analysis
    for i, load in enumerate(analysis.lowered.loads):
        record = analysis.run.loads[i]
        stop = analysis.run.stops.get(load.id)
        yield ServedLoad(
            load.id,
            load.name,
            float(record["scheduled_h"]),
            float(record["served_h"]),
            None if stop is None else stop.hours,
            float(record["used"] + record["waited"]),
        )
    joined = {load.id for load in analysis.lowered.loads}
    for load in context.network.design.loads:
        if load.id not in joined:
            yield ServedLoad(load.id, load.name, 0.0, 0.0, 0.0, 0.0)

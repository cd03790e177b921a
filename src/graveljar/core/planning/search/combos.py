"""All parts of a wiring together: who carries what, and the currents that bound the strings."""

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import reduce
from itertools import product
from typing import Any

import numpy as np

from graveljar.core.analysis.peak_demand import Demand, RailDemand, asked_by_set
from graveljar.core.analysis.stage_capacity import converter_load, inverter_load
from graveljar.core.components.battery import bank_label
from graveljar.core.components.load import one_start_w, one_w
from graveljar.core.components.stage_loss import converter_amps
from graveljar.core.context import Context
from graveljar.core.kernel.records import Flags, Floats, Ints, Records
from graveljar.core.lowering.lower import LoweredDesign, record_of
from graveljar.core.model import Converter, Design, Inverter
from graveljar.core.network.windows import least_input_v
from graveljar.core.planning.search.systems import Rejected, StageOption, System
from graveljar.core.rules.waveform import hurt_by_steps


@dataclass(frozen=True)
class Combo:
    """One choice of parts, by their places in a system's options; strings that carry it at least.

    `why` names the rule that sets the strings.
    """

    options: tuple[StageOption, ...]
    strings: int
    why: str


def combos_of(system: System, context: Context, left: Rejected, most: int) -> list[Combo]:
    """Choices of parts that carry and start what is connected to them, by labels."""
    demand = _demand(context)
    able = [
        [option for option in options if _carries(context, demand, option, left)]
        for options in system.places
    ]
    needed, by_current = _strings_of(system, able, list(_asked_sets(context, demand)))
    found = []
    for options, strings, of_current in zip(
        product(*able), needed.ravel().tolist(), by_current.ravel().tolist(), strict=True
    ):
        why = ""
        if strings > 1:
            why = "bank.current_above_limit" if of_current else "bank.start_above_peak"
        if strings > most:
            left.note(why, f"{strings} × {system.battery.part.name}")
            continue
        found.append(Combo(options, strings, why))
    return found


def _strings_of(
    system: System, able: list[list[StageOption]], sets: list["_Set"]
) -> tuple[Ints, Flags]:
    """Strings that carry each choice of parts at least, and whether the current of all asks more.

    Arrays of as many axes as there are places, each as long as a place has options.
    """
    rest = bank_label(system.bank)
    asked = [_asked_of(able, one) for one in sets]
    drawn_w = reduce(np.maximum, [drawn for drawn, _ in asked], np.float64(0.0))
    start_w = reduce(np.maximum, [start for _, start in asked], np.float64(0.0))
    cut_outs = [
        _along(place, able, [least_input_v(x.stage) for x in options])
        for place, options in enumerate(able)
    ]
    lowest_v = np.maximum(reduce(np.minimum, cut_outs) if cut_outs else 0.0, rest.empty_v)
    by_current = drawn_w / lowest_v / rest.give_a if rest.give_a else 0.0 * lowest_v
    by_start = start_w / lowest_v / rest.peak_a if rest.peak_a else 0.0 * lowest_v
    whole = np.ceil(np.maximum(by_current, by_start) - 1e-12)
    shape = tuple(len(options) for options in able)
    return (
        np.broadcast_to(np.maximum(whole, 1.0).astype(np.int64), shape),
        np.broadcast_to(by_current >= by_start, shape),
    )


def _asked_of(able: list[list[StageOption]], asked: "_Set") -> tuple[Any, Any]:
    """What a set asks of the bank with each choice of parts, running and at its highest start. [W]

    Arrays that broadcast to one axis for each place.
    """
    drawn: Any = 0.0
    more: list[Any] = [asked.jump_w]
    for place, options in enumerate(able):
        found = asked.stages.get(options[0].stage.id) if options else None
        if found is None:
            continue
        watts = _along(place, able, [option.loss.dc_w(found.watts) for option in options])
        drawn = drawn + watts
        if found.start is not None:
            at_start = [option.loss.dc_w(found.start.watts) for option in options]
            more.append(_along(place, able, at_start) - watts)
    total = asked.straight_w + drawn
    return total, total + reduce(np.maximum, more, np.float64(0.0))


def _along(place: int, able: list[list[StageOption]], values: list[float]) -> Floats:
    """Values of the options of a place, along its axis."""
    shape = [1] * len(able)
    shape[place] = len(values)
    return np.array(values).reshape(shape)


def _demand(context: Context) -> Demand:
    """The highest demand, without links where none of them draws from a stage that is chosen."""
    network = context.network
    stages = {stage.id for stage in network.stages}
    if any(link.rail in stages for link in network.design.links):
        return context.analysis.demand
    return context.analysis.demand_of_loads


def _carries(context: Context, demand: Demand, option: StageOption, left: Rejected) -> bool:
    """Whether a part carries and starts what is connected to it."""
    stage = option.stage
    broken = (
        _broken_inverter(context, demand.asked[stage.id], stage)
        if isinstance(stage, Inverter)
        else _broken_converter(context, demand.asked[stage.id], stage)
    )
    if broken:
        left.note(broken, option.source.part.name)
    return not broken


def _broken_inverter(context: Context, asked: RailDemand, stage: Inverter) -> str:
    load = inverter_load(asked, stage, context.network.assumed["trusted_surge_factor"])
    if load.overloaded:
        return "inverter.overloaded"
    if load.start_too_high:
        return "inverter.start_above_surge"
    stepped = stage.waveform != "pure sine" and hurt_by_steps(context, stage.id)
    return "inverter.stepped_wave" if stepped else ""


def _broken_converter(context: Context, asked: RailDemand, stage: Converter) -> str:
    amps = converter_amps(stage, context.network.design, context.network.assumed)
    load = converter_load(asked, stage, amps)
    if load.overloaded:
        return "converter.overloaded"
    return "converter.start_above_peak" if load.start_too_high else ""


@dataclass(frozen=True)
class _Set:
    """What a set of loads that run together asks: of each stage, and straight of the bank. [W]"""

    stages: dict[str, RailDemand]
    straight_w: float
    jump_w: float


def _asked_sets(context: Context, demand: Demand) -> Iterator[_Set]:
    for asked in asked_by_set(demand):
        here = asked["bank"]
        stages = {name: asked[name] for name, _ in here.stages}
        jumps = [one_start_w(load, context.network.assumed) - one_w(load) for load in here.loads]
        yield _Set(stages, here.straight_w, max(jumps, default=0.0))


def least_strings(lowered: LoweredDesign, counted: Flags, until_h: float, design: Design) -> int:
    """Fewer strings than this hold less than what the counted loads alone take.

    By the highest volts, the warmest hour, without any loss and with all that chargers may bring:
    no system is passed over for it.
    """
    day, store = lowered.day, lowered.store_records[0]
    # What runs once takes something too, but not each day.
    daily = counted & np.array([not load.once for load in lowered.loads])
    daily_wh = float((day.demand[:, daily, 0].sum(axis=1) * np.diff(day.edges)).sum())
    whole_days = math.floor(until_h / 24.0)
    goal = design.goal
    wh = whole_days * daily_wh * (1 + goal.guess_margin) - _brought_wh(lowered, until_h)
    ah = float(store["ah"] * (store["begin"] - 1.0 + day.warmth.max() * (1.0 - store["floor"])))
    held_wh = ah * float(day.curve[0, :, 1].max()) * (1 - goal.ageing_margin)
    return max(math.ceil(wh / held_wh - 1e-9), 1)


def _brought_wh(lowered: LoweredDesign, until_h: float) -> float:
    """No more than this is brought by all chargers: their watts while they are plugged in. [Wh]"""
    week, first = lowered.week, len(lowered.rails)
    times = math.ceil(until_h / float(week.edges[-1])) + 1
    total = 0.0
    for k in range(first, len(lowered.names)):
        rail = lowered.rail_records[k]
        source = int(rail["store"])
        sun_w = week.most_a[:, source] * week.curve[source, 0, 1]
        on = week.plugged[:, k] & week.plugged[:, source]
        watts = np.minimum(sun_w, float(rail["most_w"])) * on
        total += float((watts * np.diff(week.edges)).sum())
    return times * total


def rows_of(system: System, lowered: LoweredDesign, combos: list[Combo]) -> Records:
    """Records of the rails of each choice of parts, shape (N, R)."""
    base, first = lowered.rail_records, len(lowered.banks)
    rows = np.repeat(base[None, :], len(combos), axis=0)
    for place, options in enumerate(system.places):
        made = {id(option): record_of(option.stage, lowered) for option in options}
        rows[:, first + place] = [made[id(combo.options[place])] for combo in combos]
    return rows

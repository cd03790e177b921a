"""Rules about inverters: volts, watts, surge, waveform, idle draw, sleep."""

from collections.abc import Iterator
from typing import Final

from graveljar.core.analysis.bank_sizing import common_size
from graveljar.core.analysis.peak_demand import rail_watts
from graveljar.core.analysis.stage_capacity import StageLoad, inverter_load
from graveljar.core.context import Context
from graveljar.core.limits import exceeds
from graveljar.core.model import Inverter, Load
from graveljar.core.model.patch import Edit
from graveljar.core.rules.finding import Finding, Remedy, Rule
from graveljar.core.rules.remedies import keep_largest_apart, soft_start
from graveljar.core.rules.waveform import WAVEFORM_RULES
from graveljar.core.text import beyond, listed, number, quantity

# Idle draw below this share of the day is not worth a word. Ours.
IDLE_MATTERS: Final = 0.1
# Share of the surge above which a start has little room. Ours.
START_SHARE: Final = 0.9


def _set_watts(context: Context, inverter: Inverter, continuous_w: float) -> tuple[Edit, ...]:
    at = context.network.stage_path(inverter)
    return (
        Edit("replace", f"{at}/continuous_w", float(continuous_w)),
        Edit("replace", f"{at}/surge_w", float(2 * continuous_w)),
    )


def _size(context: Context, inverter: Inverter) -> float:
    """The common size that carries what runs and starts behind an inverter. [W]"""
    asked = context.analysis.demand.asked[inverter.id]
    start_w = asked.start.watts if asked.start else 0.0
    running_w = max(asked.watts, asked.volt_amps) / context.network.assumed["inverter_most_share"]
    return common_size(max(running_w, start_w / context.network.assumed["trusted_surge_factor"]))


def _working(context: Context) -> Iterator[Inverter]:
    return (inverter for inverter in context.network.inverters if context.analysis.works(inverter))


def _load(context: Context, inverter: Inverter) -> StageLoad:
    asked = context.analysis.demand.asked[inverter.id]
    return inverter_load(asked, inverter, context.network.assumed["trusted_surge_factor"])


def overloaded(context: Context) -> Iterator[Finding]:
    """`inverter.overloaded`: more runs together than it can carry continuously."""
    for inverter in _working(context):
        if not _load(context, inverter).overloaded:
            continue
        asked, size = context.analysis.demand.asked[inverter.id], _size(context, inverter)
        unit = "VA" if asked.volt_amps > asked.watts else "W"
        runs = quantity(max(asked.volt_amps, asked.watts), unit)
        rated = quantity(inverter.continuous_w, "W")
        if unit == "W":
            runs, rated = beyond(asked.watts, inverter.continuous_w, "W")
        key = f"stage.{inverter.id}"
        yield Finding(
            "inverter.overloaded",
            "fix",
            inverter.id,
            f"Loads of {runs} run together; the inverter is rated for {rated}",
            (
                f"{_told_apart(context, inverter)}Everything that may run at the same time "
                "counts, in volt-amperes where the power factor is below 1."
            ),
            (f"{key}.running_w", f"{key}.running_va", f"{key}.share"),
            (
                *keep_largest_apart(context, inverter.id),
                Remedy(
                    f"Use an inverter of {quantity(size, 'W')}.",
                    _set_watts(context, inverter, size),
                ),
            ),
            ("trade-80",),
        )


def _told_apart(context: Context, inverter: Inverter) -> str:
    """What comes of an overload: it trips, unless the loads are run one after the other."""
    behind = {load.id for load in context.analysis.lowered.loads if load.rail == inverter.id}
    if any(load in behind for load, _ in context.analysis.lowered.apart):
        return (
            "Together they trip it. The hours shown assume that you run them one after the other. "
        )
    return "It shuts off, or its output sags far below its label. "


def little_margin(context: Context) -> Iterator[Finding]:
    """`inverter.little_margin`: it runs above 80 % of its continuous watts."""
    most = context.network.assumed["inverter_most_share"]
    for inverter in _working(context):
        load = _load(context, inverter)
        share = load.share
        if not exceeds(share, most) or load.overloaded:
            continue
        size, key = _size(context, inverter), f"stage.{inverter.id}"
        yield Finding(
            "inverter.little_margin",
            "watch",
            inverter.id,
            f"The inverter runs at {quantity(share, 'share', 2)} of its continuous rating",
            (
                f"Aim for {quantity(most, 'share')} or less: labels promise too much, and heat "
                "lowers what it can give."
            ),
            (f"{key}.share", f"{key}.running_w"),
            (
                *keep_largest_apart(context, inverter.id),
                Remedy(
                    f"Use an inverter of {quantity(size, 'W')}.",
                    _set_watts(context, inverter, size),
                ),
            ),
            ("trade-80",),
        )


def start_above_surge(context: Context) -> Iterator[Finding]:
    """`inverter.start_above_surge`: the highest start is more than the surge to count on."""
    for inverter in _working(context):
        start, load = context.analysis.demand.asked[inverter.id].start, _load(context, inverter)
        if start is None or not load.start_too_high:
            continue
        surge_w = load.peak
        size, key = _size(context, inverter), f"stage.{inverter.id}"
        takes, trusted = beyond(start.watts, surge_w, "W")
        name = start.load.name
        yield Finding(
            "inverter.start_above_surge",
            "fix",
            inverter.id,
            f"{name} draws {takes} when it starts; the inverter is trusted with {trusted}",
            (
                f"It starts with {quantity(start.one_start_w, 'W')} while "
                f"{quantity(start.others_w, 'W')} is running. A printed surge counts as at most "
                "twice the continuous watts, unless the datasheet states the seconds."
            ),
            (f"{key}.worst_start_w", f"load.{start.load.id}.start", f"{key}.trusted_surge_w"),
            (
                Remedy(
                    f"Use an inverter of {quantity(size, 'W')}.",
                    _set_watts(context, inverter, size),
                ),
                *soft_start(context, start.load),
            ),
            ("trade-start", "trade-surge"),
        )


def start_near_surge(context: Context) -> Iterator[Finding]:
    """`inverter.start_near_surge`: less than a tenth of its surge is left at the highest start."""
    for inverter in _working(context):
        start, surge_w = (
            context.analysis.demand.asked[inverter.id].start,
            context.network.surge_w(inverter),
        )
        if start is None or start.watts <= start.others_w + _running_w(context, start.load):
            continue
        if exceeds(start.watts, surge_w) or not exceeds(start.watts, START_SHARE * surge_w):
            continue
        size, key = _size(context, inverter), f"stage.{inverter.id}"
        yield Finding(
            "inverter.start_near_surge",
            "watch",
            inverter.id,
            (
                f"{start.load.name} draws {quantity(start.watts, 'W')} when it starts, of the "
                f"{quantity(surge_w, 'W')} that the inverter is trusted with"
            ),
            "Less than 10 % is left: a cold motor or a low battery may trip it.",
            (f"{key}.worst_start_w", f"load.{start.load.id}.start", f"{key}.trusted_surge_w"),
            (
                *soft_start(context, start.load),
                Remedy(
                    f"Use an inverter of {quantity(_next_size(size, inverter), 'W')}.",
                    _set_watts(context, inverter, _next_size(size, inverter)),
                ),
            ),
            ("trade-start", "trade-surge"),
        )


def _running_w(context: Context, load: Load) -> float:
    return rail_watts(context.analysis.lowered, load) / load.count


def _next_size(size: float, inverter: Inverter) -> float:
    """A common size that is larger than the inverter that is there. [W]"""
    return max(size, common_size(inverter.continuous_w * 1.01))


def idle_above_loads(context: Context) -> Iterator[Finding]:
    """`inverter.idle_above_loads`: it draws more to be on than its loads use."""
    day = context.analysis.day
    for inverter in _working(context):
        mine = [load.id for load in context.analysis.lowered.loads if load.rail == inverter.id]
        used_wh = sum(day.loads[i].used_wh + day.loads[i].standby_wh for i in mine)
        idle_wh = day.idle[inverter.id]
        if idle_wh <= max(used_wh, IDLE_MATTERS * day.wh):
            continue
        remedies = []
        if inverter.switched == "always on":
            label = "Switch it off when none of its loads is running."
            edit = Edit(
                "replace", f"{context.network.stage_path(inverter)}/switched", "on with its loads"
            )
            remedies.append(Remedy(label, (edit,)))
        remedies.append(Remedy("Run small loads from DC, without the inverter."))
        yield Finding(
            "inverter.idle_above_loads",
            "watch",
            inverter.id,
            (
                f"The inverter's idle draw uses {quantity(idle_wh, 'Wh')} a day; its loads use "
                f"{quantity(used_wh, 'Wh')}"
            ),
            (
                f"The inverter is on for {number(day.on_h[inverter.id])} h a day and draws "
                f"{quantity(inverter.idle_w, 'W')} before anything is plugged in."
            ),
            (f"stage.{inverter.id}.idle_wh", f"stage.{inverter.id}.idle_a"),
            tuple(remedies),
            ("trade",),
        )


def sleeps_through(context: Context) -> Iterator[Finding]:
    """`inverter.sleeps_through`: it sleeps while a load too small to wake it should run."""
    for inverter in _working(context):
        asleep = [
            load
            for load in context.analysis.lowered.loads
            if load.rail == inverter.id
            and (stop := context.analysis.run.stops.get(load.id)) is not None
            and stop.cause == "asleep"
        ]
        if inverter.sleep is None or not asleep:
            continue
        yield Finding(
            "inverter.sleeps_through",
            "fix",
            inverter.id,
            f"The inverter sleeps while {listed([load.name for load in asleep])} should run",
            (
                f"It wakes at {quantity(inverter.sleep.threshold_w, 'W')}; a smaller load does "
                "not run."
            ),
            tuple(f"load.{load.id}.watts" for load in asleep),
            (
                Remedy(
                    "Switch its sleep mode off.",
                    (Edit("replace", f"{context.network.stage_path(inverter)}/sleep", None),),
                ),
                Remedy("Run small loads from DC, without the inverter."),
            ),
            ("trade",),
        )


def figures_disagree(context: Context) -> Iterator[Finding]:
    """`inverter.figures_disagree`: idle and efficiencies that cannot all be true."""
    network = context.network
    for inverter in network.inverters:
        if network.losses[inverter.id].agreed:
            continue
        at = network.stage_path(inverter)
        yield Finding(
            "inverter.figures_disagree",
            "watch",
            inverter.id,
            "The inverter's idle watts and efficiencies contradict each other",
            (
                "Together they would give more power out than in at some load. The worse "
                "efficiency is used for all loads, with the idle watts on top. Measure two of "
                "the three."
            ),
            (),
            (
                Remedy(
                    "Use common figures: 91 % at 30 % load, 87 % at full load.",
                    (
                        Edit("replace", f"{at}/part_load", {"load_share": 0.3, "efficiency": 0.91}),
                        Edit("replace", f"{at}/full_load", {"load_share": 1.0, "efficiency": 0.87}),
                        Edit("replace", f"{at}/idle_w", inverter.continuous_w / 100),
                    ),
                ),
            ),
            ("inverter-loss",),
        )


INVERTER_RULES: Final[tuple[Rule, ...]] = (
    overloaded,
    start_above_surge,
    start_near_surge,
    sleeps_through,
    little_margin,
    idle_above_loads,
    *WAVEFORM_RULES,
    figures_disagree,
)

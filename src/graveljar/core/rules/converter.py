"""Rules about converters: amps, heat, labels, what they draw for nothing."""

import math
from collections.abc import Iterator
from typing import Final

from graveljar.core.analysis.stage_capacity import StageLoad, converter_load
from graveljar.core.components.stage_loss import ConverterAmps, converter_amps
from graveljar.core.context import Context
from graveljar.core.limits import exceeds
from graveljar.core.model import Converter
from graveljar.core.model.patch import Edit
from graveljar.core.rules.finding import Finding, Remedy, Rule
from graveljar.core.rules.remedies import keep_largest_apart, soft_start
from graveljar.core.text import beyond, number, quantity

# Quiescent draw below this share of the day is not worth a word. Ours.
QUIESCENT_MATTERS: Final = 0.02
# Heat from a linear converter that wants a heat sink of its own. Ours. [W]
HEAT_MATTERS_W: Final = 2.0


def _working(context: Context) -> Iterator[tuple[Converter, ConverterAmps, StageLoad]]:
    """Each converter that works, what it is rated for, and the amps that it supplies."""
    network = context.network
    for converter in network.converters:
        if context.analysis.works(converter):
            amps = converter_amps(converter, network.design, network.assumed)
            asked = context.analysis.demand.asked[converter.id]
            yield converter, amps, converter_load(asked, converter, amps)


def _larger(context: Context, converter: Converter, asked_a: float, amps: ConverterAmps) -> Remedy:
    """A converter large enough, with its margin, in the same heat and with the same trust."""
    each = asked_a / (converter.parallel * amps.trust * (amps.derated or 1.0))
    wanted = float(math.ceil(each / context.network.assumed["converter_most_share"]))
    edit = Edit("replace", f"{context.network.stage_path(converter)}/continuous_a", wanted)
    return Remedy(f"Use one of {quantity(wanted, 'A')}.", (edit,))


def overloaded(context: Context) -> Iterator[Finding]:
    """`converter.overloaded`: it supplies more amps than it is rated for at its temperature."""
    for converter, amps, load in _working(context):
        if not load.overloaded:
            continue
        asked_a = load.running
        asked, gives = beyond(asked_a, amps.limit_a, "A")
        key = f"stage.{converter.id}"
        yield Finding(
            "converter.overloaded",
            "fix",
            converter.id,
            f"{converter.name} must supply {asked}; it is rated for {gives}",
            "It limits its current, its output voltage falls, or it overheats and shuts off.",
            (f"{key}.output_a", f"{key}.limit_a"),
            (
                _larger(context, converter, asked_a, amps),
                *keep_largest_apart(context, converter.id),
            ),
            ("trade",),
        )


def start_above_peak(context: Context) -> Iterator[Finding]:
    """`converter.start_above_peak`: the highest start draws more amps than it has."""
    for converter, amps, load in _working(context):
        start = context.analysis.demand.asked[converter.id].start
        if start is None or load.overloaded or not load.start_too_high:
            continue
        start_a = load.start
        asked, has = beyond(start_a, amps.peak_a, "A")
        key = f"stage.{converter.id}"
        yield Finding(
            "converter.start_above_peak",
            "fix",
            converter.id,
            (
                f"{start.load.name} draws {asked} from {converter.name} when it starts; its peak "
                f"is {has}"
            ),
            (
                "A converter has almost no surge reserve: its output voltage falls and the "
                "motor does not start. Without a stated peak, none is assumed."
            ),
            (f"{key}.start_a", f"{key}.limit_a", f"load.{start.load.id}.start"),
            (_larger(context, converter, start_a, amps), *soft_start(context, start.load)),
            ("trade-start",),
        )


def little_margin(context: Context) -> Iterator[Finding]:
    """`converter.little_margin`: less than a quarter of its amps is left."""
    most = context.network.assumed["converter_most_share"]
    for converter, amps, load in _working(context):
        asked_a = load.running
        if load.overloaded or amps.trust < 1 or not exceeds(asked_a, most * amps.good_a):
            continue
        yield Finding(
            "converter.little_margin",
            "watch",
            converter.id,
            (
                f"{converter.name} runs at {quantity(asked_a / amps.good_a, 'share', 2)} of its "
                "rated current"
            ),
            f"Keep a quarter in hand: {quantity(most, 'share')} or less, with air around it.",
            (f"stage.{converter.id}.share", f"stage.{converter.id}.good_a"),
            (_larger(context, converter, asked_a, amps),),
            ("trade",),
        )


def undocumented(context: Context) -> Iterator[Finding]:
    """`converter.undocumented`, `.hot_for_long`: its label names no ambient for its amps.

    It gives them for a while; continuously half of them are advised.
    """
    for converter, amps, load in _working(context):
        if converter.documented:
            continue
        asked_a = load.running
        if exceeds(asked_a, amps.good_a) and not load.overloaded:
            asked, advised = beyond(asked_a, amps.good_a, "A")
            yield Finding(
                "converter.hot_for_long",
                "watch",
                converter.id,
                f"{converter.name} supplies {asked} continuously; the advised limit is {advised}",
                (
                    "Its label states no ambient temperature, so it may overheat at full current. "
                    "Check its heat after an hour at full load, add a fan, or use a larger one."
                ),
                (f"stage.{converter.id}.output_a", f"stage.{converter.id}.good_a"),
                (_larger(context, converter, asked_a, amps),),
                ("trade",),
            )
        yield Finding(
            "converter.undocumented",
            "watch",
            converter.id,
            (
                f"{converter.name} states no temperature for its "
                f"{quantity(converter.continuous_a, 'A')}"
            ),
            (
                f"Without a stated ambient temperature, {quantity(amps.trust, 'share')} of the "
                "printed current is advised continuously. A case temperature or a “max” current "
                "does not count."
            ),
            (f"stage.{converter.id}.good_a",),
            (
                Remedy(
                    "The datasheet states the ambient temperature: use the full rating.",
                    (
                        Edit(
                            "replace",
                            f"{context.network.stage_path(converter)}/documented",
                            value=True,
                        ),
                    ),
                ),
            ),
            ("trade",),
        )


def hot(context: Context) -> Iterator[Finding]:
    """`converter.hot`: above its knee temperature its amps fall."""
    for converter, amps, _ in _working(context):
        if amps.derated >= 1:
            continue
        hottest_c = context.network.design.setting.hottest_c
        yield Finding(
            "converter.hot",
            "watch",
            converter.id,
            (
                f"At {number(hottest_c)} °C {converter.name} is rated for "
                f"{quantity(amps.derated, 'share', 2)} of its current"
            ),
            (
                f"Above {number(converter.knee_c)} °C its rating falls by "
                f"{quantity(converter.derate_per_c, 'share')} for each degree. Add a fan, and do "
                "not shut it in a cupboard."
            ),
            (f"stage.{converter.id}.good_a",),
            (Remedy("Give it air, or move it to a cooler place."),),
            ("trade",),
        )


def left_on(context: Context) -> Iterator[Finding]:
    """`converter.left_on`: it draws for nothing while none of its loads runs."""
    network, analysis = context.network, context.analysis
    for converter, _, _ in _working(context):
        idle_wh = analysis.day.idle[converter.id]
        if converter.switched != "always on" or idle_wh <= QUIESCENT_MATTERS * analysis.day.wh:
            continue
        mine = [
            analysis.day.loads[load.id].used_wh
            for load in analysis.lowered.loads
            if load.rail == converter.id
        ]
        on_it = (*network.stages, *network.design.links)
        feeds = any(thing.rail == converter.id for thing in on_it)
        if feeds or sum(mine) > idle_wh:
            continue
        edit = Edit("replace", f"{network.stage_path(converter)}/switched", "on with its loads")
        yield Finding(
            "converter.left_on",
            "watch",
            converter.id,
            (
                f"{converter.name} uses {quantity(idle_wh, 'Wh')} a day just by being on; its "
                f"loads use {quantity(sum(mine), 'Wh')}"
            ),
            "Use its remote switch, so that it draws nothing while unused.",
            (f"stage.{converter.id}.idle_wh",),
            (Remedy("Switch it off when none of its loads is running.", (edit,)),),
            ("trade",),
        )


def linear_heat(context: Context) -> Iterator[Finding]:
    """`converter.linear_heat`: a linear one turns the volts between into heat."""
    for converter, _, load in _working(context):
        before_v = context.network.rails[converter.rail].nominal_v
        heat_w = load.running * (before_v - converter.set_v)
        if converter.topology != "linear" or heat_w <= HEAT_MATTERS_W:
            continue
        at = context.network.stage_path(converter)
        yield Finding(
            "converter.linear_heat",
            "watch",
            converter.id,
            f"{converter.name} turns {quantity(heat_w, 'W')} into heat",
            (
                f"A linear converter turns the difference between {quantity(before_v, 'V')} and "
                f"{quantity(converter.set_v, 'V')} into heat: at best "
                f"{quantity(converter.set_v / before_v, 'share', 2)} of the energy comes out."
            ),
            (f"stage.{converter.id}.draws_w",),
            (
                Remedy(
                    "Use a switching (buck) converter.",
                    (Edit("replace", f"{at}/topology", "buck"),),
                ),
            ),
            ("definition",),
        )


CONVERTER_RULES: Final[tuple[Rule, ...]] = (
    overloaded,
    start_above_peak,
    little_margin,
    undocumented,
    hot,
    linear_heat,
    left_on,
)

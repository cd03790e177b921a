"""Rules about what an inverter's wave and its input do: steps, hertz, restarts, pre-charge."""

import math
from collections.abc import Iterator
from typing import Final

from graveljar.core.components.load import WANTS_SINE, depends_on, one_start_w, one_w
from graveljar.core.components.stage_loss import is_large, precharge_s
from graveljar.core.context import Context
from graveljar.core.limits import exceeds
from graveljar.core.model import Load
from graveljar.core.model.patch import Edit
from graveljar.core.rules.finding import Finding, Remedy, Rule
from graveljar.core.rules.remedies import soft_start
from graveljar.core.tables.appliances import STEPS_MAY_HARM
from graveljar.core.text import listed, number, quantity


def hurt_by_steps(context: Context, rail: str) -> list[Load]:
    """Loads on a rail that a stepped wave harms."""
    return [
        load
        for load in context.analysis.lowered.loads
        if load.rail == rail and (load.nature in WANTS_SINE or depends_on(load) == "a person")
    ]


def _may_be_hurt(context: Context, rail: str) -> list[Load]:
    """Loads on a rail that some stepped waves make fail or run hot."""
    return [
        load
        for load in context.analysis.lowered.loads
        if load.rail == rail and (load.nature == "charger" or STEPS_MAY_HARM.search(load.name))
    ]


def stepped_wave(context: Context) -> Iterator[Finding]:
    """`inverter.stepped_wave`, `.stepped_may_harm`: what a stepped wave harms, or may.

    Motors heat, sound hums, medical devices may fail; small chargers, electric blankets, dimmers,
    induction and microwaves may run hot, or do not run.
    """
    for inverter in context.network.inverters:
        if inverter.waveform == "pure sine" or not context.analysis.works(inverter):
            continue
        edit = Edit("replace", f"{context.network.stage_path(inverter)}/waveform", "pure sine")
        remedies = (Remedy("Use a pure sine inverter.", (edit,)),)
        hurt = hurt_by_steps(context, inverter.id)
        if hurt:
            yield Finding(
                "inverter.stepped_wave",
                "fix",
                inverter.id,
                f"A modified sine wave feeds {listed([load.name for load in hurt])}",
                "A stepped wave heats motors and shortens their life, hums in audio, and must not "
                "feed medical devices. It wastes energy too.",
                tuple(f"load.{load.id}.watts" for load in hurt),
                remedies,
                ("trade",),
            )
        maybe = [load for load in _may_be_hurt(context, inverter.id) if load not in hurt]
        if maybe:
            yield Finding(
                "inverter.stepped_may_harm",
                "watch",
                inverter.id,
                f"{listed([load.name for load in maybe])} may not tolerate a modified sine wave",
                (
                    "On a stepped wave some small chargers overheat or fail; electric blankets, "
                    "dimmers, induction hobs and microwaves lose control or power. Ask their "
                    "makers."
                ),
                tuple(f"load.{load.id}.watts" for load in maybe),
                remedies,
                ("trade",),
            )


def other_frequency(context: Context) -> Iterator[Finding]:
    """`inverter.other_frequency`: its hertz are not those of the mains its loads are made for.

    A motor turns at the frequency it is given, and a transformer made for 60 Hz saturates at 50:
    textbook.
    """
    network = context.network
    mains_hz = network.design.setting.ac_hz
    for inverter in network.inverters:
        mine = [load for load in context.analysis.lowered.loads if load.rail == inverter.id]
        if not mine or inverter.output_hz in (None, mains_hz):
            continue
        motors = [load.name for load in mine if load.nature in WANTS_SINE]
        field = "output_hz" if inverter in network.design.stages else "hz"
        yield Finding(
            "inverter.other_frequency",
            "fix" if motors else "watch",
            inverter.id,
            (
                f"{inverter.name} gives {inverter.output_hz} Hz; the mains frequency here is "
                f"{mains_hz} Hz"
            ),
            (
                f"{listed(motors)} may run at the wrong speed and overheat."
                if motors
                else (
                    "Clocks run wrong, and transformers may overheat. Devices marked 50/60 Hz are "
                    "fine: check their labels."
                )
            ),
            (),
            (
                Remedy(
                    f"Use an inverter for {mains_hz} Hz, or set this one to it.",
                    (Edit("replace", f"{network.stage_path(inverter)}/{field}", mains_hz),),
                ),
            ),
            ("trade",),
        )


def all_restart(context: Context) -> Iterator[Finding]:
    """`inverter.all_restart`: after a trip all that is switched on starts at the same moment."""
    network = context.network
    for inverter in network.inverters:
        surge_w = network.surge_w(inverter)
        starters = [
            load
            for load in context.analysis.lowered.loads
            if load.rail == inverter.id
            and not load.kept_apart
            and one_start_w(load, network.assumed) > one_w(load) * 1.01
        ]
        together_w = sum(one_start_w(x, network.assumed) * x.count for x in starters)
        worst = context.analysis.demand.asked[inverter.id].start
        one_by_one = worst is not None and not exceeds(worst.watts, surge_w)
        if len(starters) < 2 or not one_by_one or not exceeds(together_w, surge_w):
            continue
        yield Finding(
            "inverter.all_restart",
            "watch",
            inverter.id,
            (
                f"Started together, {listed([x.name for x in starters])} draw "
                f"{quantity(together_w, 'W')}; {inverter.name} is trusted with "
                f"{quantity(surge_w, 'W')}"
            ),
            (
                "They start one after the other. But after a trip, or when the inverter is "
                "switched on, all start at once and trip it again: then switch them on one by "
                "one."
            ),
            (f"stage.{inverter.id}.trusted_surge_w", f"load.{starters[0].id}.start"),
            (
                *soft_start(context, max(starters, key=lambda x: one_start_w(x, network.assumed))),
                Remedy("After a trip unplug them, and plug them in one by one."),
            ),
            ("trade-start",),
        )


def pre_charge(context: Context) -> Iterator[Finding]:
    """`inverter.pre_charge`: its capacitors spark when it is connected: charge them first.

    Through a resistor, for five times R C.
    """
    network = context.network
    for inverter in network.inverters:
        if inverter not in network.design.stages or not is_large(inverter):
            continue
        ohm = network.assumed["precharge_ohm"]
        seconds = precharge_s(network.assumed)
        full_v = network.rails[inverter.rail].high_v
        yield Finding(
            "inverter.pre_charge",
            "note",
            inverter.id,
            f"Pre-charge {inverter.name} through {number(ohm)} Ω for "
            f"{math.ceil(seconds)} s before it is connected",
            (
                "Its capacitors are empty at first: a direct connection sparks, pits the "
                "contacts and may blow the fuse. Through the resistor "
                f"{quantity(full_v / ohm, 'A', 2)} flows at first, "
                f"{quantity(full_v**2 / ohm, 'W', 2)} for a moment; one rated for 25 to 50 W "
                "withstands it."
            ),
            (f"stage.{inverter.id}.precharge_s",),
            (Remedy("Keep such a resistor, with clips, beside the main disconnect."),),
            ("trade", "definition"),
        )


WAVEFORM_RULES: Final[tuple[Rule, ...]] = (
    stepped_wave,
    other_frequency,
    all_restart,
    pre_charge,
)

"""Rules about what an inverter's wave and its input do: steps, hertz, restarts, pre-charge."""

import math
from collections.abc import Iterator
from typing import Final

from graveljar.core.document import Load
from graveljar.core.edit import Edit
from graveljar.core.facts import Facts
from graveljar.core.findings.finding import Finding, Remedy, Rule
from graveljar.core.findings.remedies import soft_start
from graveljar.core.inverter import is_large, precharge_s
from graveljar.core.limits import exceeds
from graveljar.core.load import WANTS_SINE, depends_on, one_start_w, one_w
from graveljar.core.tables.appliances import STEPS_MAY_HARM
from graveljar.core.words import listed, number, quantity


def hurt_by_steps(facts: Facts, rail: str) -> list[Load]:
    """Loads on a rail that a stepped wave harms."""
    return [
        load
        for load in facts.lowered.loads
        if load.rail == rail and (load.nature in WANTS_SINE or depends_on(load) == "a person")
    ]


def _may_be_hurt(facts: Facts, rail: str) -> list[Load]:
    """Loads on a rail that some stepped waves make fail or run hot."""
    return [
        load
        for load in facts.lowered.loads
        if load.rail == rail and (load.nature == "charger" or STEPS_MAY_HARM.search(load.name))
    ]


def stepped_wave(facts: Facts) -> Iterator[Finding]:
    """`inverter.stepped_wave`, `.stepped_may_harm`: what a stepped wave harms, or may.

    Motors heat, sound hums, medical devices may fail; small chargers, electric blankets, dimmers,
    induction and microwaves may run hot or not at all.
    """
    for inverter in facts.inverters:
        if inverter.waveform == "pure sine" or not facts.works(inverter):
            continue
        edit = Edit("replace", f"{facts.stage_path(inverter)}/waveform", "pure sine")
        remedies = (Remedy("Use a pure sine inverter.", (edit,)),)
        hurt = hurt_by_steps(facts, inverter.id)
        if hurt:
            yield Finding(
                "inverter.stepped_wave",
                "fix",
                inverter.id,
                f"Modified sine feeds {listed([load.name for load in hurt])}",
                "A stepped wave heats motors and shortens their life, hums in audio, and must not "
                "feed medical devices. It wastes energy too.",
                tuple(f"load.{load.id}.watts" for load in hurt),
                remedies,
                ("trade",),
            )
        maybe = [load for load in _may_be_hurt(facts, inverter.id) if load not in hurt]
        if maybe:
            yield Finding(
                "inverter.stepped_may_harm",
                "watch",
                inverter.id,
                f"{listed([load.name for load in maybe])} may not bear modified sine",
                "On a stepped wave some small chargers get hot or fail; electric blankets, "
                "dimmers, induction hobs and microwaves lose their control or their power. Ask "
                "their makers.",
                tuple(f"load.{load.id}.watts" for load in maybe),
                remedies,
                ("trade",),
            )


def other_frequency(facts: Facts) -> Iterator[Finding]:
    """`inverter.other_frequency`: its hertz are not those of the mains its loads are made for.

    A motor turns at the frequency it is given, and a transformer made for 60 Hz saturates at 50:
    textbook.
    """
    mains_hz = facts.design.setting.ac_hz
    for inverter in facts.inverters:
        mine = [load for load in facts.lowered.loads if load.rail == inverter.id]
        if not mine or inverter.output_hz in (None, mains_hz):
            continue
        motors = [load.name for load in mine if load.nature in WANTS_SINE]
        field = "output_hz" if inverter in facts.design.stages else "hz"
        yield Finding(
            "inverter.other_frequency",
            "fix" if motors else "watch",
            inverter.id,
            f"{inverter.name} gives {inverter.output_hz} Hz; the mains here is {mains_hz} Hz",
            (
                f"{listed(motors)} may run at the wrong speed and overheat."
                if motors
                else "Clocks run wrong, and transformers may overheat. Supplies marked 50/60 Hz "
                "do not mind: look at their labels."
            ),
            (),
            (
                Remedy(
                    f"Use an inverter for {mains_hz} Hz, or set this one to it.",
                    (Edit("replace", f"{facts.stage_path(inverter)}/{field}", mains_hz),),
                ),
            ),
            ("trade",),
        )


def all_restart(facts: Facts) -> Iterator[Finding]:
    """`inverter.all_restart`: after a trip all that is switched on starts at the same moment."""
    for inverter in facts.inverters:
        surge_w = facts.surge_w(inverter)
        starters = [
            load
            for load in facts.lowered.loads
            if load.rail == inverter.id
            and not load.kept_apart
            and one_start_w(load, facts.assumed) > one_w(load) * 1.01
        ]
        together_w = sum(one_start_w(x, facts.assumed) * x.count for x in starters)
        worst = facts.demand.asked[inverter.id].start
        one_by_one = worst is not None and not exceeds(worst.watts, surge_w)
        if len(starters) < 2 or not one_by_one or not exceeds(together_w, surge_w):
            continue
        yield Finding(
            "inverter.all_restart",
            "watch",
            inverter.id,
            f"Started together, {listed([x.name for x in starters])} take "
            f"{quantity(together_w, 'W')}; {inverter.name} is trusted with "
            f"{quantity(surge_w, 'W')}",
            "One after the other they start. After a trip, or when the inverter is switched on, "
            "all of them start at once and trip it again: switch them on one by one then.",
            (f"stage.{inverter.id}.trusted_surge_w", f"load.{starters[0].id}.start"),
            (
                *soft_start(facts, max(starters, key=lambda x: one_start_w(x, facts.assumed))),
                Remedy("After a trip unplug them, and plug them in one by one."),
            ),
            ("trade-start",),
        )


def pre_charge(facts: Facts) -> Iterator[Finding]:
    """`inverter.pre_charge`: its capacitors spark when it is connected: charge them first.

    Through a resistor, for five times R C.
    """
    for inverter in facts.inverters:
        if inverter not in facts.design.stages or not is_large(inverter):
            continue
        ohm = facts.assumed["precharge_ohm"]
        seconds = precharge_s(facts.assumed)
        full_v = facts.rails[inverter.rail].high_v
        yield Finding(
            "inverter.pre_charge",
            "note",
            inverter.id,
            f"Pre-charge {inverter.name} through {number(ohm)} Ω for "
            f"{math.ceil(seconds)} s before it is connected",
            "Its capacitors are empty at first: a direct connection sparks, pits the contacts and "
            f"may blow the fuse. Through the resistor {quantity(full_v / ohm, 'A', 2)} flow at "
            f"first, {quantity(full_v**2 / ohm, 'W', 2)} for a moment; one of 25 to 50 W bears it.",
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

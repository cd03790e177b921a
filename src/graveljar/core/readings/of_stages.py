"""Readings of inverters and converters: idle draw, efficiency and droop, what they carry."""

import math
from typing import Any, Final

from graveljar.core.components.stage_loss import loss_of
from graveljar.core.context import Context
from graveljar.core.model import Converter, Inverter
from graveljar.core.network.windows import LABEL_TOLERANCE, MAINS_TOLERANCE
from graveljar.core.readings.judged import Judged, result
from graveljar.core.readings.places import adoption, part_of
from graveljar.core.readings.reading import (
    ConverterReading,
    IdleReading,
    InverterReading,
    LimitReading,
)
from graveljar.core.text import number, quantity

# Idle draw above the label by less is as labelled. Ours. [1]
IDLE_SPREAD: Final = 1.1
# An efficiency below the label by more is low. Ours. [1]
EFFICIENCY_SPREAD: Final = 0.03
# Below this share of its watts an inverter's idle draw decides. Ours. [1]
MIN_LOAD: Final = 0.1


def idle(context: Context, reading: IdleReading) -> Judged:
    """Watts of a stage with nothing behind it, against its label."""
    stage: Inverter | Converter = part_of(context, reading.subject, Inverter, Converter)
    planned = stage.idle_w if isinstance(stage, Inverter) else stage.quiescent_w * stage.parallel
    watts = reading.amps * reading.volts
    found = result(
        "Idle draw", watts, "W", f"{quantity(reading.amps, 'A')} × {quantity(reading.volts, 'V')}"
    )
    field = "idle_w" if isinstance(stage, Inverter) else "quiescent_w"
    value = watts if isinstance(stage, Inverter) else watts / stage.parallel
    changed: dict[str, Any] = {field: round(value, 2)}
    adopt = adoption(
        context, reading,
        "Idle draw", quantity(planned, "W"), quantity(watts, "W"),
        **changed,
    )  # fmt: skip
    expected = quantity(planned, "W")
    says = f"{quantity(watts, 'W')}, {quantity(watts * 24, 'Wh')} a day while it is on."
    if watts > IDLE_SPREAD * planned:
        do = "Switch it off when nothing runs, or feed small loads from a DC rail."
        return Judged("watch", says, expected, do, (found,), (adopt,))
    return Judged("good", says, expected, "", (found,), (adopt,))


def converter(context: Context, reading: ConverterReading) -> Judged:
    """Efficiency and droop of a converter at a load."""
    stage: Converter = part_of(context, reading.subject, Converter)
    out_w, in_w = reading.out_v * reading.out_a, reading.in_v * reading.in_a
    share = out_w / in_w
    droop_v = reading.open_v - reading.out_v
    expected = (
        f"{quantity(stage.set_v, 'V')} and {quantity(stage.full_load.efficiency, 'share')} at "
        "full load"
    )
    sides = (
        (reading.out_v, reading.out_a, out_w, "Given"),
        (reading.in_v, reading.in_a, in_w, "Taken"),
    )
    found = (
        *(
            result(name, watts, "W", f"{quantity(at_v, 'V')} × {quantity(amps, 'A')}")
            for at_v, amps, watts, name in sides
        ),
        result("Efficiency", share, "share", f"{quantity(out_w, 'W')} ÷ {quantity(in_w, 'W')}"),
        result(
            "Droop", droop_v, "V",
            f"{quantity(reading.open_v, 'V', 4)} − {quantity(reading.out_v, 'V', 4)}",
        ),
    )  # fmt: skip
    if share > 1:
        return Judged(
            "bad",
            f"{quantity(out_w, 'W')} out of {quantity(in_w, 'W')} cannot be: one of them is wrong.",
            expected, "Measure volts and amps of each side at the same moment.", found,
            sources=("definition",),
        )  # fmt: skip
    if droop_v < 0:
        return Judged(
            "bad", "Its volts do not rise under load: one of the two is wrong.", expected,
            "Measure both at its output.", found, sources=("ohm",),
        )  # fmt: skip
    rated_w = stage.set_v * stage.continuous_a * stage.parallel
    at = min(max(out_w / rated_w, 0.01), 1.0)
    changed: dict[str, Any] = {
        "set_v": round(reading.open_v, 3),
        "droop_v": round(droop_v, 3),
        "full_load": {"load_share": 1.0, "efficiency": round(share, 4)},
        "part_load": None,
    }
    adopt = (
        adoption(
            context,
            reading,
            "Volts, droop, efficiency",
            f"{quantity(stage.set_v, 'V')}, {quantity(stage.droop_v, 'V')}, "
            f"{quantity(stage.full_load.efficiency, 'share')}",
            f"{quantity(reading.open_v, 'V', 4)}, {quantity(droop_v, 'V', 2)}, "
            f"{quantity(share, 'share')}",
            decides=True,
            **changed,
        ),
    )
    says = (
        f"{quantity(share, 'share')} at {quantity(out_w, 'W')}, {quantity(at, 'share', 2)} of its "
        f"label; its volts fall by {quantity(droop_v, 'V', 2)}."
    )
    off = abs(reading.open_v / stage.set_v - 1) > LABEL_TOLERANCE
    if off:
        do = f"It gives {number(reading.open_v, 4)} V without load: set it before you plug in."
        return Judged("bad", says, expected, do, found, adopt)
    if share < stage.full_load.efficiency - EFFICIENCY_SPREAD:
        return Judged("watch", says, expected, "The rest becomes heat: give it air.", found, adopt)
    return Judged("good", says, expected, "", found, adopt)


def inverter(context: Context, reading: InverterReading) -> Judged:
    """Efficiency of an inverter at a load, and the volts it holds there."""
    stage: Inverter = part_of(context, reading.subject, Inverter)
    loss = loss_of(stage)
    in_w = reading.in_v * reading.in_a
    share = reading.out_w / in_w
    planned = reading.out_w / loss.dc_w(reading.out_w)
    expected = f"{quantity(planned, 'share')} at {quantity(reading.out_w, 'W')}"
    found = (
        result(
            "Taken", in_w, "W",
            f"{quantity(reading.in_v, 'V')} × {quantity(reading.in_a, 'A')}",
        ),
        result(
            "Efficiency", share, "share",
            f"{quantity(reading.out_w, 'W')} ÷ {quantity(in_w, 'W')}",
        ),
    )  # fmt: skip
    says = f"{quantity(share, 'share')} at {quantity(reading.out_w, 'W')}"
    if share > 1:
        return Judged(
            "bad",
            f"{quantity(reading.out_w, 'W')} out of {quantity(in_w, 'W')} cannot be: one of them "
            "is wrong.",
            expected, "Measure watts out, volts and amps in at the same moment.", found,
            sources=("definition",),
        )  # fmt: skip
    if reading.out_w < MIN_LOAD * stage.continuous_w:
        do = f"Load it with {quantity(MIN_LOAD * stage.continuous_w, 'W')} or more: here its idle "
        return Judged("says nothing", f"{says}.", expected, f"{do}draw decides.", found)
    measured = _through(stage, reading.out_w, in_w)
    if measured is None:
        do = "It loses less than its idle draw: measure the idle draw, and this again."
        return Judged("bad", f"{says}.", expected, do, found)
    adopt = adoption(
        context,
        reading,
        "Efficiency",
        f"{quantity(planned, 'share')} at {quantity(reading.out_w, 'W')}",
        f"{quantity(share, 'share')} at {quantity(reading.out_w, 'W')}",
        decides=True,
        **measured,
    )
    mains_v = context.network.design.setting.ac_volts
    if reading.out_v is not None and abs(reading.out_v / mains_v - 1) > MAINS_TOLERANCE:
        do = (
            f"It gives {quantity(reading.out_v, 'V')} under load, more than 10 % off "
            f"{quantity(mains_v, 'V')}: load it less, or check the volts at its input."
        )
        return Judged("bad", f"{says}.", expected, do, found, (adopt,))
    if share < planned - EFFICIENCY_SPREAD:
        return Judged(
            "watch", f"{says}.", expected, "The rest becomes heat: give it air.", found, (adopt,)
        )
    return Judged("good", f"{says}.", expected, "", found, (adopt,))


def _through(stage: Inverter, out_w: float, in_w: float) -> dict[str, Any] | None:
    """Efficiencies at the loads of the label such that so much goes in for so much out.

    The idle draw and what grows by the square of the load stay. None where the idle draw cannot be.
    """
    loss = loss_of(stage)
    k1 = (in_w - loss.p0 - loss.k2 * out_w**2) / out_w
    made: dict[str, Any] = {}
    for name, point in (("part_load", stage.part_load), ("full_load", stage.full_load)):
        given_w = point.load_share * stage.continuous_w
        drawn_w = loss.p0 + k1 * given_w + loss.k2 * given_w**2
        if drawn_w < given_w:
            return None
        made[name] = {"load_share": point.load_share, "efficiency": round(given_w / drawn_w, 5)}
    after = Inverter.model_validate(stage.model_dump() | made)
    agrees = math.isclose(loss_of(after).dc_w(out_w), in_w, rel_tol=1e-3)
    return made if agrees else None


def limit(context: Context, reading: LimitReading) -> Judged:
    """What an inverter really carries, by switching loads on one by one."""
    stage: Inverter = part_of(context, reading.subject, Inverter)
    label_w = stage.continuous_w
    expected = quantity(label_w, "W", 4)
    if reading.tripped_w and reading.tripped_w <= reading.carried_w:
        return Judged(
            "bad", "It tripped at less than it carried: one of the two is wrong.", expected,
            "Note the watts of all that runs, then of all with the one that trips it.",
        )  # fmt: skip
    says = f"It carries {quantity(reading.carried_w, 'W', 4)}"
    if reading.tripped_w:
        says += f" and trips at {quantity(reading.tripped_w, 'W', 4)}"
    short = bool(reading.tripped_w) and reading.tripped_w <= label_w
    if not short:
        # More than its label is not adopted: it may get too hot for long.
        return Judged("good", f"{says}.", expected)
    adopt = adoption(
        context, reading,
        "Continuous watts", expected, quantity(reading.carried_w, "W", 4),
        continuous_w=reading.carried_w,
              surge_w=max(min(stage.surge_w, 2 * reading.carried_w), reading.carried_w),
    )  # fmt: skip
    do = "Count on what it carries, not on its label; check its cable and the battery's volts."
    return Judged("watch", f"{says}, less than its label.", expected, do, adopt=(adopt,))

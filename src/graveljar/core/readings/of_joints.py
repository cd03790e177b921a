"""Readings at joints: volts and polarity before plugging in, heat after an hour, a changeover."""

from collections.abc import Iterator
from typing import Any, Final

from graveljar.core.context import Context
from graveljar.core.limits import exceeds
from graveljar.core.model import Converter, Inverter, Station
from graveljar.core.network.charge_input import accepts_of
from graveljar.core.network.rails import Rail
from graveljar.core.network.windows import LABEL_TOLERANCE, accepted_window
from graveljar.core.readings.judged import Adoption, Judged, result
from graveljar.core.readings.places import adoption, part_of, refused
from graveljar.core.readings.reading import (
    ChangeoverReading,
    HeatReading,
    PolarityReading,
    VoltsReading,
)
from graveljar.core.text import number, quantity

# Rise of a fuse holder, lug or connector: to watch, and too much. Common practice. [K]
WARM_K: Final = 30.0
HOT_K: Final = 50.0
# The usual insulation of cables bears so much. Common practice: PVC. [°C]
PVC_C: Final = 70.0
HOUR_MIN: Final = 60.0


def expected_volts(rail: Rail) -> tuple[float, float]:
    """Lowest and highest volts that the plan expects at a rail, as labels go. [V]"""
    if isinstance(rail.source, Converter | Inverter):
        return rail.low_v * (1 - LABEL_TOLERANCE), rail.high_v * (1 + LABEL_TOLERANCE)
    return rail.low_v, rail.high_v


def volts(context: Context, reading: VoltsReading) -> Judged:
    """Volts of a rail against the plan, and against all that would be plugged in."""
    rail = context.network.rails.get(reading.subject)
    if rail is None:
        raise refused(context, reading.subject, "has no volts of its own")
    low_v, high_v = expected_volts(rail)
    expected = f"{number(low_v)} to {quantity(high_v, 'V')}"
    too_many = list(_above(context, reading))
    if too_many:
        return Judged(
            "bad", f"{quantity(reading.volts, 'V')} arrive; {too_many[0]}.", expected,
            "Do not plug it in. Find out why first.", sources=("trade", "trade-bench"),
        )  # fmt: skip
    if reading.volts < low_v or exceeds(reading.volts, high_v):
        return Judged(
            "watch", f"{quantity(reading.volts, 'V')} is not what the plan expects.", expected,
            "Measure again at the terminals; check fuse, switch, setting and charge.",
        )  # fmt: skip
    return Judged(
        "good", f"{quantity(reading.volts, 'V')} is as planned.", expected,
        adopt=tuple(_port_volts(context, reading)),
    )  # fmt: skip


def _port_volts(context: Context, reading: VoltsReading) -> Iterator[Adoption]:
    """What puts the volts of a station's regulated port into it; not where a switch sets them."""
    for store in context.network.design.stores:
        for n, port in enumerate(getattr(store, "outlets", ())):
            if port.id != reading.subject or port.kind != "dc" or port.selects_v:
                continue
            if port.volts is not None and round(port.volts, 2) != round(reading.volts, 2):
                changed: dict[str, Any] = {f"outlets__{n}__volts": round(reading.volts, 3)}
                yield adoption(
                    context, reading.model_copy(update={"subject": store.id}),
                    f"Volts of {port.name}", quantity(port.volts, "V"),
                    quantity(reading.volts, "V", 4), **changed,
                )  # fmt: skip


def _above(context: Context, reading: VoltsReading) -> Iterator[str]:
    """What on a rail would get more volts than it accepts."""
    network = context.network
    for link in network.design.links:
        if link.rail == reading.subject:
            most_v = accepts_of(network.store(link.to), link).most_v
            if exceeds(reading.volts, most_v):
                name = network.names[link.to]
                yield f"the input of {name} accepts {quantity(most_v, 'V')}"
    for stage in network.stages:
        window = getattr(stage, "accepts", None)
        if stage.rail == reading.subject and window and exceeds(reading.volts, window.most_v):
            yield f"{stage.name} accepts {quantity(window.most_v, 'V')}"
    for load in network.design.loads:
        if load.rail == reading.subject and load.supply.kind == "dc":
            most_v = load.window.most_v if load.window else accepted_window(load).most_v
            if exceeds(reading.volts, most_v):
                yield f"{load.name} accepts {quantity(most_v, 'V')}"


def polarity(context: Context, reading: PolarityReading) -> Judged:
    """Plus where the label has it: before the first plug-in."""
    name = context.network.names[reading.subject]
    if reading.found == "reversed":
        return Judged(
            "bad", f"Plus and minus are reversed at {name}.", "as its label shows",
            "Do not plug it in: reversed polarity destroys most inputs at once. Swap the two "
            "conductors of its cable, and measure again.",
        )  # fmt: skip
    return Judged("good", f"Plus is where the label of {name} has it.", "as its label shows")


def heat(context: Context, reading: HeatReading) -> Judged:
    """The rise after an hour at full load, and what it becomes in the hottest air of the place."""
    rise_k = reading.warm_c - reading.air_c
    hottest_c = max(context.network.design.setting.hottest_c, reading.air_c)
    then_c = hottest_c + rise_k
    what = f"{context.network.names[reading.subject]}, {reading.place}"
    found = (
        result("Rise", rise_k, "K", f"{number(reading.warm_c)} °C − {number(reading.air_c)} °C"),
        result("In the hottest air", then_c, "°C", f"{number(hottest_c)} °C + {number(rise_k)} K"),
    )
    expected = f"a rise below {quantity(WARM_K, 'K')}"
    if reading.minutes < HOUR_MIN:
        return Judged(
            "says nothing", f"{quantity(reading.minutes, 'min')} are too short: it still gets "
            "warmer.", expected, "Measure after an hour at full load.", found,
        )  # fmt: skip
    says = f"{what} is {quantity(rise_k, 'K')} above the air: {quantity(then_c, '°C')} when it is "
    says += f"{quantity(hottest_c, '°C')} there."
    melts = reading.place == "cable" and exceeds(then_c, PVC_C)
    if rise_k >= HOT_K or melts:
        do = "Switch it off. Thicker cable, a larger holder, or two cables; clean and tighten it."
        return Judged("bad", says, expected, do, found)
    if rise_k >= WARM_K:
        do = "Tighten it, and look at the next size. Give it air."
        return Judged("watch", says, expected, do, found)
    return Judged("good", says, expected, results=found)


def changeover(context: Context, reading: ChangeoverReading) -> Judged:
    """Whether its sockets have a break when the mains fails."""
    part: Inverter | Station = part_of(context, reading.subject, Inverter, Station)
    value = "none" if reading.went_on else "break"
    words = {"none": "no break", "break": "a short break", "unknown": "not known"}
    says = f"{part.name}: {words[value]} when the mains was pulled."
    adopt: tuple[Adoption, ...] = ()
    if part.changeover != value:
        before, after = words[part.changeover], words[value]
        adopt = (adoption(context, reading, "Changeover", before, after, changeover=value),)
    do = "" if reading.went_on else "What must not stop for a moment needs another feed."
    return Judged("good" if reading.went_on else "watch", says, "no break", do, adopt=adopt)

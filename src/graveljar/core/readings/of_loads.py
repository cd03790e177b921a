"""Readings of loads: watts while they run, at their start, and over hours."""

from typing import Final

from graveljar.core.components.load import day_wh, one_start_w, one_w
from graveljar.core.context import Context
from graveljar.core.model import ByWatts, Load
from graveljar.core.network.schedule import DAY_H
from graveljar.core.readings.judged import Judged, Verdict, result
from graveljar.core.readings.places import adoption, part_of
from graveljar.core.readings.reading import EnergyReading, Heated, PowerReading
from graveljar.core.text import a_day, quantity

# Over fewer hours a mean says little of what goes on and off. Common practice. [h]
ENOUGH_H: Final = 8.0
# Watts above the plan by less are as planned. Ours. [1]
SPREAD: Final = 1.1


_HEATED: Final[dict[Heated, str]] = {
    "none": "", "on": ", heated part on", "off": ", heated part off"
}  # fmt: skip


def power(context: Context, reading: PowerReading) -> Judged:
    """Watts of a load against the plan; those of its start only from a meter that holds peaks."""
    load: Load = part_of(context, reading.subject, Load)
    planned, starts = one_w(load), one_start_w(load, context.network.assumed)
    expected = f"{quantity(planned, 'W')} running"
    changed: dict[str, object] = {"demand": {"kind": "watts", "watts": reading.watts}}
    before, after = quantity(planned, "W"), quantity(reading.watts, "W")
    says = f"It runs at {quantity(reading.watts, 'W')}{_HEATED[reading.heated]}"
    do = ""
    if reading.start_w is not None and reading.holds_peaks:
        expected += f", {quantity(starts, 'W')} starting"
        changed["start"] = {"method": "measured", "watts": max(reading.start_w, reading.watts)}
        before += f", start {quantity(starts, 'W')}"
        after += f", start {quantity(reading.start_w, 'W')}"
        says += f" and starts at {quantity(reading.start_w, 'W')}"
    elif reading.start_w is not None:
        do = (
            "A start counts only from a meter with an inrush or peak function: others miss its "
            "first 50 to 200 ms."
        )
    adopt = adoption(
        context, reading, f"Watts{_HEATED[reading.heated]}", before, after, decides=True, **changed
    )
    verdict: Verdict = "watch" if reading.watts > SPREAD * planned else "good"
    return Judged(verdict, f"{says}.", expected, do, (), (adopt,))


def energy(context: Context, reading: EnergyReading) -> Judged:
    """Mean watts, and the share of the time it runs where its watts are known."""
    load: Load = part_of(context, reading.subject, Load)
    mean_w = reading.wh / reading.hours
    running_w = one_w(load)
    found = [
        result("Mean power", mean_w, "W",
               f"{quantity(reading.wh, 'Wh', 4)} ÷ {quantity(reading.hours, 'h', 4)}")
    ]  # fmt: skip
    expected = f"{quantity(day_wh(load) / load.count, 'Wh', 4)} a day"
    says = f"{quantity(mean_w, 'W')} on average, {quantity(mean_w * DAY_H, 'Wh', 4)} a day."
    if reading.hours < ENOUGH_H:
        do = f"{a_day(reading.hours)} is short for what goes on and off: a night tells more."
        return Judged("says nothing", says, expected, do, tuple(found))
    whole_day = {"when": {"kind": "hours", "hours": DAY_H}}
    if isinstance(load.demand, ByWatts) and mean_w <= running_w:
        duty = mean_w / running_w
        worked = f"{quantity(mean_w, 'W')} ÷ {quantity(running_w, 'W')}"
        found.append(result("Share of the time", duty, "share", worked))
        adopt = adoption(
            context,
            reading,
            f"Time a day and duty{_HEATED[reading.heated]}",
            f"{a_day(load.hours_per_day)}, {quantity(load.duty, 'share')}",
            f"24 h, {quantity(duty, 'share')}",
            decides=True,
            duty=round(duty, 4),
            **whole_day,
        )
        return Judged("good", says, expected, "", tuple(found), (adopt,))
    adopt = adoption(
        context, reading,
        f"Energy a day{_HEATED[reading.heated]}", expected,
        f"{quantity(mean_w * DAY_H, 'Wh', 4)} a day",
        decides=True, duty=1.0,
            demand={"kind": "energy", "wh": round(mean_w * DAY_H, 2)}, **whole_day,
    )  # fmt: skip
    do = f"More than its {quantity(running_w, 'W')} running: measure these too."
    return Judged("watch", says, expected, do, tuple(found), (adopt,))

"""From the tokens of a line to a load."""

import re
from dataclasses import replace
from typing import Any

from pydantic import ValidationError

from graveljar.core.components.load import START_RULES, day_wh, one_start_w, one_w, running_w
from graveljar.core.errors import OutOfRange
from graveljar.core.model import ByWatts, Design, Load, Supply
from graveljar.core.model.parse import refusal
from graveljar.core.model.patch import free_id
from graveljar.core.network.load_at_rail import via_adapter
from graveljar.core.network.rail_choice import places_of, rail_names
from graveljar.core.network.rails import rails_of
from graveljar.core.network.schedule import DAY_H
from graveljar.core.quick_entry.gather import MOTOR_EFFICIENCY, LineContents, gather
from graveljar.core.quick_entry.join import joined
from graveljar.core.quick_entry.questions import ask
from graveljar.core.quick_entry.reading import Question, Reading, ReadingOption
from graveljar.core.quick_entry.tokens import MAINS_FROM_V, Token, tokens
from graveljar.core.quick_entry.unsaid import (
    by_battery,
    duty_of,
    of_same_kind,
    put_usual,
)
from graveljar.core.tables.appliances import Nature
from graveljar.core.tables.assumptions import resolve
from graveljar.core.tables.dc_windows import usual_window
from graveljar.core.tables.dependants import suggested
from graveljar.core.tables.usual_use import UsualUse, usual_use
from graveljar.core.text import a_day, number, quantity

MAX_CHARACTERS = 300
# A range this narrow is one mains voltage (220-240); a wider one is a universal adapter.
NARROW_RANGE = 0.9
USB_V = 5.0
# Any of these says what an appliance takes.
POWER = frozenset({"W", "VA", "A", "Wh", "Ah"})
# Share of the time that what a thermostat switches runs; common practice: 25 to 50 %.
THERMOSTAT_DUTY = 0.35


def read_line(line: str, design: Design) -> Reading:
    """Read one line as a load of a design.

    Parameters
    ----------
    line : As printed on a nameplate, with a name and a time; at most 300 characters.
    design : Gives mains volts, rails, assumptions and the ids already taken.

    Raises
    ------
    OutOfRange : the line is too long.
    """
    if len(line) > MAX_CHARACTERS:
        raise OutOfRange(f"A line may have at most {MAX_CHARACTERS} characters.")
    reading, said = _read(line, design)
    question = ask(line, said, reading.load, design.setting.ac_volts)
    if question is None:
        return _with_stage(reading, design)
    options = []
    for label, plain in question.ways:
        other, _ = _read(plain, design)
        if other.load is not None:
            options.append(ReadingOption(label, plain, other.summary, other.load))
    if not options:
        return reading
    asked = Question(question.text, tuple(options))
    return Reading(line, reading.marks, "", (), (), None, asked)


def _with_stage(reading: Reading, design: Design) -> Reading:
    """A reading with the stage that its load needs, if the design has none."""
    if reading.load is None or reading.load.rail is not None:
        return reading
    return replace(reading, joined=joined(design, reading.load))


def _read(line: str, design: Design) -> tuple[Reading, LineContents]:
    said = gather(list(tokens(line)))
    if not said.marks:
        return Reading(line, (), "", (), (), None), said
    fields = _fields(said, design) if not said.problems else None
    load = _load(fields, said) if fields else None
    summary = _summary(load, design) if load else ""
    marks, notes, problems = tuple(said.marks), tuple(said.notes), tuple(said.problems)
    return Reading(line, marks, summary, notes, problems, load), said


def _fields(said: LineContents, design: Design) -> dict[str, Any] | None:
    """The fields of the load, or None with the problem said."""
    assumed = resolve(design.assumptions)
    usual = usual_use(said.words, said.litres, design.setting.mean_c)
    unsaid = not POWER & set(said.quantities) and said.a_day_wh is None and said.ran is None
    if usual is not None and unsaid and of_same_kind(said, usual):
        put_usual(said, usual)
    volts = said.quantities.get("V")
    energy = _energy(said, volts)
    supply = _supply(said, volts, design, own_battery=energy is not None)
    nature = said.habit.nature if said.habit else "electronics"
    duty = said.quantities["%"].value / 100 if "%" in said.quantities else None
    hours, duty = _hours(said, assumed, duty, usual, charges=energy is not None)
    demand: dict[str, Any] | None
    if said.ran is not None:
        demand = by_battery(said, said.ran, Supply(**supply), design)
        duty = 1.0
    elif said.a_day_wh is not None and "W" in said.quantities:
        demand = _power(said, supply, assumed)
        duty = duty_of(said, demand)
    elif said.a_day_wh is not None:
        demand = {"kind": "energy", "wh": said.a_day_wh}
        said.notes.append("Energy a day: its mean power counts, day and night.")
    elif energy is not None:
        demand = {"kind": "energy", "wh": energy}
        said.notes.append("From its battery: the energy of one charge a day, not power.")
    else:
        demand = _power(said, supply, assumed)
    if said.problems or demand is None:
        return None
    start = said.start or _start(said, nature)
    by_mean = said.ran is not None or said.a_day_wh is not None
    if by_mean and "W" not in said.quantities and said.start is None:
        # Its running watts are not known, so neither is what it starts at.
        start = {"method": "none"}
    name = " ".join(said.names) or f"{number(supply['volts'])} V {supply['kind'].upper()} load"
    vital = nature == "medical" or suggested(name) == "a person"
    return {
        "id": free_id(design, _slug(name)),
        "name": name[:1].upper() + name[1:],
        "rail": _rail(said, supply, design),
        "count": said.count,
        "supply": supply,
        "demand": demand,
        "power_factor": said.power_factor or _power_factor(said, nature, supply, assumed),
        "standby_w": said.standby_w,
        "when": _when(said, hours),
        "window": _window(said),
        "once": said.once,
        "duty": duty,
        "start": start,
        "nature": nature,
        "priority": "must" if vital and not said.priority_said else said.priority,
        "provenance": said.provenance,
    }


def _hours(
    said: LineContents,
    assumed: dict[str, float],
    duty: float | None,
    usual: UsualUse | None,
    *,
    charges: bool,
) -> tuple[float, float]:
    """Hours a day and duty: as said, else as its kind usually has them."""
    thermostat = said.habit is not None and said.habit.thermostat
    if said.a_day_wh is not None or (said.ran is not None and thermostat):
        if said.ran is not None:
            said.notes.append("Its mean power counts, day and night.")
        return DAY_H, 1.0
    if said.times:
        return 0.0, duty or 1.0
    if said.hours is not None:
        return said.hours, duty or 1.0
    if thermostat and not charges:
        share = duty or (usual.duty if usual and usual.thermostat else THERMOSTAT_DUTY)
        said.notes.append(
            f"No time given: day and night assumed, running {quantity(share, 'share')} of the time."
        )
        return DAY_H, share
    if usual is not None and not charges:
        share = duty or usual.duty
        running = "" if share == 1 else f", running {quantity(share, 'share')} of the time"
        said.notes.append(f"No time given: {a_day(usual.hours)} a day is usual{running}.")
        return usual.hours, share
    hours = assumed["charge_hours" if charges else "unsaid_hours"]
    said.notes.append(f"No time given: {a_day(hours)} a day assumed.")
    return hours, duty or 1.0


def _when(said: LineContents, hours: float) -> dict[str, Any]:
    if not said.times:
        return {"kind": "hours", "hours": hours}
    windows = [{"from_h": begin, "to_h": end} for begin, end in said.times]
    return {"kind": "windows", "windows": windows}


def _window(said: LineContents) -> dict[str, float] | None:
    """Volts at which it cuts out and restarts, as far as they are said."""
    volts = said.quantities.get("V")
    if not said.limits or volts is None:
        return None
    nominal_v = volts.value
    usual = usual_window(nominal_v, said.habit.nature if said.habit else "electronics")
    return {"cut_out_v": usual.least_v, "most_v": usual.most_v} | said.limits


def _energy(said: LineContents, volts: Token | None) -> float | None:
    """Energy of one charge, if the line gives a battery or Wh. [Wh]"""
    if "Wh" in said.quantities:
        return said.quantities["Wh"].value
    charge = said.quantities.get("Ah")
    if charge is None:
        return None
    if volts is None:
        said.mark(charge, "problem", "Ah is charge, not energy: add the voltage of that battery")
        return None
    return charge.value * volts.value


def _supply(
    said: LineContents, volts: Token | None, design: Design, *, own_battery: bool
) -> dict[str, Any]:
    mains = design.setting.ac_volts
    if said.a_day_wh is not None and volts is None:
        said.notes.append(f"No voltage given: {number(mains)} V AC assumed.")
        return {"kind": "ac", "volts": mains}
    if own_battery and (volts is None or (volts.wave == "" and volts.value < MAINS_FROM_V)):
        said.notes.append("Charged from 5 V DC by its own cable.")
        return {"kind": "dc", "volts": USB_V}
    if volts is None:
        said.notes.append(f"No voltage given: {number(mains)} V AC assumed.")
        return {"kind": "ac", "volts": mains}
    is_ac = volts.wave == "ac" or (volts.wave == "" and volts.value >= MAINS_FROM_V)
    if not is_ac:
        return {"kind": "dc", "volts": volts.value}
    if volts.low < NARROW_RANGE * volts.value and volts.low <= mains <= volts.value:
        return {"kind": "ac", "volts": mains}
    return {"kind": "ac", "volts": volts.value}


def _power(
    said: LineContents, supply: dict[str, Any], assumed: dict[str, float]
) -> dict[str, Any] | None:
    """Demand by watts, by VA, or by volts and amps; None with the problem said."""
    watts, amps, apparent = (said.quantities.get(unit) for unit in ("W", "A", "VA"))
    if watts is not None:
        mean_w = (watts.low + watts.value) / 2
        demand: dict[str, Any] = {"kind": "watts", "watts": _input_w(said, mean_w, assumed)}
        if watts.low < watts.value:
            demand["top_w"] = demand["watts"] * watts.value / mean_w
            said.notes.append("A range: its mean is used for energy, its top for cables and fuses.")
        return demand
    if apparent is not None:
        if said.power_factor is None:
            said.notes.append("No power factor given: VA counted as watts.")
        return {"kind": "watts", "watts": apparent.value * (said.power_factor or 1.0)}
    volts = said.quantities.get("V")
    if amps is None or volts is None:
        if amps is not None:
            said.mark(amps, "problem", "amps need volts: add them, as in 12V 1A")
        elif "Ah" not in said.quantities:
            said.problems.append("How many watts, or volts and amps?")
        return None
    if amps.low < amps.value:
        said.notes.append("A range: its mean is used for energy, its top for cables and fuses.")
        factor = said.power_factor or 1.0
        mean_w = volts.value * (amps.low + amps.value) / 2 * factor
        return {"kind": "watts", "watts": mean_w, "top_w": volts.value * amps.value * factor}
    if volts.value != supply["volts"]:
        # A universal adapter: the mains it meets is fixed, the label's ceiling is its top.
        return {"kind": "watts", "watts": volts.value * amps.value * (said.power_factor or 1.0)}
    return {"kind": "amps", "amps": amps.value}


def _input_w(said: LineContents, watts: float, assumed: dict[str, float]) -> float:
    """Watts that go in, where the label prints those that come out as heat. [W]"""
    if said.shaft and not said.goes_in:
        said.notes.append("Output at the shaft: the input is about 1.3 times that.")
        return watts / MOTOR_EFFICIENCY
    if said.goes_in or not (said.habit and said.habit.cooking_watts):
        return watts
    factor = assumed["microwave_input_factor"]
    said.notes.append(
        f"{quantity(watts, 'W')} is the cooking power: the input is {number(factor)} times that."
    )
    return watts * factor


def _start(said: LineContents, nature: Nature) -> dict[str, Any]:
    """How it starts, where the line does not say."""
    if said.habit is not None and said.habit.glow_w is not None:
        glow_w = said.habit.glow_w
        said.notes.append(
            f"Its glow plug is on for some minutes at the start: {quantity(glow_w, 'W')}."
        )
        return {"method": "measured", "watts": glow_w}
    return {"method": "factor" if nature in START_RULES else "none"}


def _power_factor(
    said: LineContents, nature: Nature, supply: dict[str, Any], assumed: dict[str, float]
) -> float:
    watts, apparent = said.quantities.get("W"), said.quantities.get("VA")
    if watts is not None and apparent is not None and 0 < watts.value <= apparent.value:
        return watts.value / apparent.value
    if watts is None or supply["kind"] == "dc" or nature not in ("motor", "compressor"):
        return 1.0
    factor = assumed["motor_power_factor"]
    said.notes.append(f"A motor: a power factor of {number(factor)} assumed.")
    return factor


def _rail(said: LineContents, supply: dict[str, Any], design: Design) -> str | None:
    """The rail that suits a load best, told with the reason; None if no rail does."""
    probe = Load(
        id="probe",
        name="it",
        rail=None,
        supply=Supply(**supply),
        demand=ByWatts(watts=1.0),
        nature=said.habit.nature if said.habit else "electronics",
    )
    best = next(iter(places_of(design, probe)), None)
    if best is None or (best.suits == "does not fit" and supply["kind"] == "ac"):
        said.notes.append("There is no inverter that suits it yet.")
        return None
    volts = quantity(supply["volts"], "V")
    if best.suits == "does not fit":
        said.notes.append(f"There is no {volts} rail for it yet.")
        return None
    if best.suits == "check its label":
        said.notes.append(f"Connected to the {best.name}: {best.why}; check its label.")
    elif best.suits == "by its adapter":
        said.notes.append(f"No rail has {volts} DC: it runs through its mains adapter.")
    else:
        said.notes.append(f"Connected to the {best.name}: {best.why}.")
    return best.rail


def _slug(name: str) -> str:
    return re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:32].strip("-") or "load"


def _load(fields: dict[str, Any], said: LineContents) -> Load | None:
    try:
        return Load.model_validate(fields)
    except ValidationError as error:
        for problem in refusal(error.errors(include_url=False)).problems:
            said.problems.append(f"{problem.path.strip('/').replace('_', ' ')} {problem.message}")
        return None


def _summary(load: Load, design: Design) -> str:
    assumed = resolve(design.assumptions)
    rails = rails_of(design)
    parts = [
        f"{load.supply.kind.upper()} {number(load.supply.volts)} V",
        f"{number(load.count)} × {quantity(one_w(load), 'W')} = {quantity(running_w(load), 'W')}"
        if load.count > 1
        else quantity(one_w(load), "W"),
    ]
    start_w = one_start_w(load, assumed)
    if load.start.method != "none":
        times = number(start_w / one_w(load), 2)
        parts.append(f"starts at {quantity(start_w, 'W')} (×{times})")
    if load.duty < 1:
        parts.append(f"{quantity(load.duty, 'share')} of {a_day(load.hours_per_day)}")
    else:
        parts.append(f"{a_day(load.hours_per_day)} {'once' if load.once else 'a day'}")
    parts.append(f"{quantity(day_wh(load), 'Wh')} {'once' if load.once else 'a day'}")
    if load.rail is None:
        parts.append("not connected yet")
    else:
        through = " by its adapter" if via_adapter(load, rails) else ""
        parts.append(f"on the {rail_names(rails)[load.rail]}{through}")
    return " · ".join(parts)

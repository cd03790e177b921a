"""From the tokens of a line to a load."""

import re
from typing import Any

from pydantic import ValidationError

from graveljar.core.assumptions import resolve
from graveljar.core.document import ByWatts, Design, Load, Supply
from graveljar.core.edit import free_id
from graveljar.core.entry.gather import Said, gather
from graveljar.core.entry.reading import Reading
from graveljar.core.entry.tokens import Token, tokens
from graveljar.core.errors import OutOfRange
from graveljar.core.load import START_RULES, day_wh, one_start_w, one_w, running_w, via_adapter
from graveljar.core.placing import places_of, rail_names
from graveljar.core.reading import refusal
from graveljar.core.tree import rails_of
from graveljar.core.words import a_day, number, quantity

MOST_CHARACTERS = 300
# A range this narrow is one mains voltage (220-240); a wider one is a universal adapter.
NARROW_RANGE = 0.9
# Volts from here on are mains unless the label says DC.
MAINS_FROM_V = 90.0
USB_V = 5.0


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
    if len(line) > MOST_CHARACTERS:
        raise OutOfRange(f"A line may have at most {MOST_CHARACTERS} characters.")
    said = gather(list(tokens(line)))
    if not said.marks:
        return Reading(line, (), "", (), (), None)
    fields = _fields(said, design) if not said.problems else None
    load = _load(fields, said) if fields else None
    summary = _summary(load, design) if load else ""
    return Reading(line, tuple(said.marks), summary, tuple(said.notes), tuple(said.problems), load)


def _fields(said: Said, design: Design) -> dict[str, Any] | None:
    """The fields of the load, or None with the problem said."""
    assumed = resolve(design.assumptions)
    volts = said.quantities.get("V")
    energy = _energy(said, volts)
    supply = _supply(said, volts, design, own_battery=energy is not None)
    nature = said.habit.nature if said.habit else "electronics"
    hours = said.hours
    if hours is None:
        hours = assumed["charge_hours" if energy is not None else "unsaid_hours"]
        said.notes.append(f"No time given: {a_day(hours)} a day taken.")
    demand: dict[str, Any] | None
    if energy is not None:
        demand = {"kind": "energy", "wh": energy}
        said.notes.append("Given by its battery: energy of one charge a day, not power.")
    else:
        demand = _power(said, supply, assumed)
    if said.problems or demand is None:
        return None
    start = said.start or {"method": "factor" if nature in START_RULES else "none"}
    name = " ".join(said.names) or f"{number(supply['volts'])} V {supply['kind'].upper()} load"
    duty = said.quantities["%"].value / 100 if "%" in said.quantities else 1.0
    return {
        "id": free_id(design, _slug(name)),
        "name": name[:1].upper() + name[1:],
        "rail": _rail(said, supply, design),
        "count": said.count,
        "supply": supply,
        "demand": demand,
        "power_factor": said.power_factor or _power_factor(said),
        "standby_w": said.standby_w,
        "when": {"kind": "hours", "hours": hours},
        "duty": duty,
        "start": start,
        "nature": nature,
        "priority": said.priority,
        "provenance": said.provenance,
    }


def _energy(said: Said, volts: Token | None) -> float | None:
    """Energy of one charge, if the line gives a battery or Wh. [Wh]"""
    if "Wh" in said.quantities:
        return said.quantities["Wh"].value
    charge = said.quantities.get("Ah")
    if charge is None:
        return None
    if volts is None:
        said.mark(charge, "problem", "Ah is charge, not energy: add the volts of that battery")
        return None
    return charge.value * volts.value


def _supply(
    said: Said, volts: Token | None, design: Design, *, own_battery: bool
) -> dict[str, Any]:
    mains = design.setting.ac_volts
    if own_battery and (volts is None or (volts.wave == "" and volts.value < MAINS_FROM_V)):
        said.notes.append("Charged from 5 V DC by its own lead.")
        return {"kind": "dc", "volts": USB_V}
    if volts is None:
        said.notes.append(f"No volts given: {number(mains)} V AC taken.")
        return {"kind": "ac", "volts": mains}
    is_ac = volts.wave == "ac" or (volts.wave == "" and volts.value >= MAINS_FROM_V)
    if not is_ac:
        return {"kind": "dc", "volts": volts.value}
    if volts.low < NARROW_RANGE * volts.value and volts.low <= mains <= volts.value:
        return {"kind": "ac", "volts": mains}
    return {"kind": "ac", "volts": volts.value}


def _power(said: Said, supply: dict[str, Any], assumed: dict[str, float]) -> dict[str, Any] | None:
    """Demand by watts, by VA, or by volts and amps; None with the problem said."""
    watts, amps, apparent = (said.quantities.get(unit) for unit in ("W", "A", "VA"))
    if watts is not None:
        return {"kind": "watts", "watts": _input_w(said, watts.value, assumed)}
    if apparent is not None:
        if said.power_factor is None:
            said.notes.append("VA taken as watts: no power factor given.")
        return {"kind": "watts", "watts": apparent.value * (said.power_factor or 1.0)}
    volts = said.quantities.get("V")
    if amps is None or volts is None:
        if amps is not None:
            said.mark(amps, "problem", "amps need volts: add them, as in 12V 1A")
        elif "Ah" not in said.quantities:
            said.problems.append("How many watts, or volts and amps?")
        return None
    if volts.value != supply["volts"]:
        # A universal adapter: the mains it meets is fixed, the label's ceiling is its top.
        return {"kind": "watts", "watts": volts.value * amps.value * (said.power_factor or 1.0)}
    return {"kind": "amps", "amps": amps.value}


def _input_w(said: Said, watts: float, assumed: dict[str, float]) -> float:
    """Watts that go in, where the label prints those that come out as heat. [W]"""
    if not (said.habit and said.habit.cooking_watts):
        return watts
    factor = assumed["microwave_input_factor"]
    said.notes.append(
        f"{quantity(watts, 'W')} are cooking watts: {number(factor)} times that goes in."
    )
    return watts * factor


def _power_factor(said: Said) -> float:
    watts, apparent = said.quantities.get("W"), said.quantities.get("VA")
    if watts is None or apparent is None or not 0 < watts.value <= apparent.value:
        return 1.0
    return watts.value / apparent.value


def _rail(said: Said, supply: dict[str, Any], design: Design) -> str | None:
    """The rail that suits a load best, told with the reason; None if no rail does."""
    probe = Load(
        id="probe", name="it", rail=None, supply=Supply(**supply), demand=ByWatts(watts=1.0)
    )
    best = next(iter(places_of(design, probe)), None)
    if best is None or (best.suits == "does not fit" and supply["kind"] == "ac"):
        said.notes.append("There is no inverter that suits it yet.")
        return None
    volts = quantity(supply["volts"], "V")
    if best.suits == "does not fit":
        said.notes.append(f"There is no {volts} rail for it yet.")
        return None
    if best.suits == "by its adapter":
        said.notes.append(f"No rail gives {volts} DC: it runs through its mains adapter.")
    else:
        said.notes.append(f"Goes on the {best.name}: {best.why}.")
    return best.rail


def _slug(name: str) -> str:
    return re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:32].strip("-") or "load"


def _load(fields: dict[str, Any], said: Said) -> Load | None:
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
        parts.append(f"{a_day(load.hours_per_day)} a day")
    parts.append(f"{quantity(day_wh(load), 'Wh')} a day")
    if load.rail is None:
        parts.append("on no rail yet")
    else:
        through = " by its adapter" if via_adapter(load, rails) else ""
        parts.append(f"on the {rail_names(rails)[load.rail]}{through}")
    return " · ".join(parts)

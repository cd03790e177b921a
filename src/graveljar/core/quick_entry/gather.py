"""Gathers what the tokens of a line say, and marks what was made of each."""

import re
from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from typing import Any

from graveljar.core.quick_entry.ran import Ran
from graveljar.core.quick_entry.reading import LineMark
from graveljar.core.quick_entry.tokens import Token
from graveljar.core.tables.appliances import APPLIANCES, ApplianceDefaults, appliance_defaults
from graveljar.core.text import a_day, number, quantity

WATTS_OF_HP = 746.0
# A small motor gives about three quarters of what goes in; common practice.
MOTOR_EFFICIENCY = 0.75


@dataclass
class LineContents:
    """What the tokens say, gathered from left to right."""

    count: int = 1
    quantities: dict[str, Token] = field(default_factory=dict)
    hours: float | None = None
    start: dict[str, Any] | None = None
    standby_w: float = 0.0
    power_factor: float | None = None
    habit: ApplianceDefaults | None = None
    provenance: str = "label"
    priority: str = "nice"
    priority_said: bool = False
    words: list[str] = field(default_factory=list)
    goes_in: bool = False
    shaft: bool = False
    names: list[str] = field(default_factory=list)
    times: list[tuple[float, float]] = field(default_factory=list)
    limits: dict[str, float] = field(default_factory=dict)
    a_day_wh: float | None = None
    litres: float | None = None
    ran: Ran | None = None
    once: bool = False
    sure: bool = False
    unsure: list[Token] = field(default_factory=list)
    marks: list[LineMark] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)
    problems: list[str] = field(default_factory=list)

    def mark(self, token: Token, kind: Any, text: str) -> None:
        """Say what was made of a token."""
        self.marks.append(LineMark(token.start, token.end, kind, text))
        if kind == "problem":
            self.problems.append(text)


def gather(found: list[Token]) -> LineContents:
    """Go through the tokens from left to right."""
    said = LineContents()
    sides = [token.text.lower().rstrip(":") for token in found if token.kind == "side"]
    has_output = any(side.startswith("out") for side in sides)
    aside = False
    expecting = ""
    for index, token in enumerate(found):
        match token.kind:
            case "side":
                goes_in = token.text.lower().startswith("in")
                aside = has_output and goes_in
                said.mark(token, "read", "what goes in" if goes_in else "what comes out")
            case "start":
                expecting = "start"
                said.mark(token, "read", "its start")
            case "limit":
                expecting = _limit_of(token)
                said.mark(token, "read", expecting.replace("_", " "))
            case "noise":
                expecting = "standby" if token.text.lower() == "standby" else expecting
                said.mark(token, "set aside", "")
            case "quantity" if aside or token.unit in ("Hz", "l"):
                _set_aside(said, token)
            case "quantity" | "factor":
                after = found[index + 1] if index + 1 < len(found) else None
                _take(said, token, "standby" if _is_standby(token, after) else expecting)
                expecting = ""
            case "word":
                _take_word(said, token, named=bool(said.names), later=_measures(found[:index]))
            case _:
                _take_other(said, token)
    said.habit = appliance_defaults(said.words)
    said.goes_in = not has_output and any(side.startswith("in") for side in sides)
    if has_output and "input" in sides:
        said.notes.append(
            "OUTPUT is what the appliance needs; INPUT is the mains side of its adapter."
        )
    return said


def _set_aside(said: LineContents, token: Token) -> None:
    if token.unit == "l":
        said.litres = token.value
        said.mark(token, "read", "its size")
    else:
        said.mark(token, "set aside", "not needed")


def _limit_of(token: Token) -> str:
    word = token.text.lower()
    if word.startswith("max"):
        return "most_v"
    return "restarts_v" if word.startswith("re") else "cut_out_v"


def _is_standby(token: Token, after: Token | None) -> bool:
    """Whether "standby" follows the watts it speaks of, as in "2 W standby"."""
    return (
        token.unit == "W"
        and after is not None
        and after.kind == "noise"
        and after.text.lower() == "standby"
    )


def _measures(before: Iterable[Token]) -> bool:
    return any(token.kind == "quantity" for token in before)


def _take_other(said: LineContents, token: Token) -> None:
    match token.kind:
        case "count":
            said.count = int(token.value)
            said.mark(token, "read", f"{said.count} of them")
        case "power factor":
            said.power_factor = token.value
            said.mark(token, "read", f"power factor {number(token.value)}")
        case "provenance":
            said.provenance = "guess" if token.text.lower().startswith("guess") else token.text
            said.provenance = said.provenance.lower()
            said.mark(token, "read", f"source: {said.provenance}")
        case "priority":
            said.priority, said.priority_said = token.text.lower(), True
            said.mark(token, "read", f"priority: {said.priority}")
        case "times":
            said.times.append((token.value, token.low))
            said.mark(token, "read", "times of day")
        case "rate":
            said.a_day_wh = token.value
            said.mark(token, "read", f"{quantity(token.value, 'Wh')} a day")
        case "ran":
            said.ran = Ran(token.value, token.low)
            said.mark(token, "read", "its mean power, by what the battery gave")
        case "sure" | "once":
            _take_flag(said, token)
        case "unsure":
            said.unsure.append(token)
            said.mark(token, "problem", "which one do you mean?")
        case _:
            said.mark(token, "problem", token.problem)


def _take_flag(said: LineContents, token: Token) -> None:
    if token.kind == "once":
        said.once = True
        said.mark(token, "read", "on the first day only")
    else:
        said.sure = True
        said.mark(token, "set aside", "as it is written")


def _take(said: LineContents, token: Token, expecting: str) -> None:
    if token.kind == "factor" and expecting != "start":
        said.unsure.append(token)
        said.mark(token, "problem", "a count, or a starting factor?")
    elif expecting in ("cut_out_v", "restarts_v", "most_v") and token.unit == "V":
        said.limits[expecting] = token.value
        said.mark(token, "read", expecting.replace("_", " "))
    elif expecting == "start":
        if token.kind == "factor":
            said.start = {"method": "factor", "factor": token.value}
            said.mark(token, "read", f"starts at {number(token.value)} times its watts")
        elif token.unit == "W":
            said.start = {"method": "measured", "watts": token.value}
            said.mark(token, "read", f"starts at {quantity(token.value, 'W')}")
        else:
            said.mark(token, "problem", "a start is in watts or a factor, as in “start x6”")
    elif expecting == "standby" and token.unit == "W":
        said.standby_w = token.value
        said.mark(token, "read", f"standby {quantity(token.value, 'W')}")
    elif token.unit == "h":
        said.hours = (said.hours or 0.0) + token.value
        said.mark(token, "read", a_day(token.value))
    elif token.unit == "hp":
        _take_horsepower(said, token)
    elif token.unit in said.quantities:
        said.mark(token, "problem", f"a second figure in {token.unit}: which one is right?")
    else:
        said.quantities[token.unit] = token
        words = {"V": "volts", "A": "amps", "W": "watts", "VA": "apparent power", "%": "duty"}
        said.mark(token, "read", words.get(token.unit, "energy"))


def _take_horsepower(said: LineContents, token: Token) -> None:
    """A motor's printed power is at its shaft; more goes in."""
    watts = token.value * WATTS_OF_HP / MOTOR_EFFICIENCY
    said.quantities["W"] = replace(token, unit="W", value=watts, low=watts)
    said.mark(token, "read", f"shaft power; the input is about {quantity(watts, 'W', 2)}")
    said.notes.append("Horsepower is the output at the shaft: the input is about 1.3 times that.")


def _take_word(said: LineContents, token: Token, *, named: bool, later: bool) -> None:
    habit = APPLIANCES.get(token.text.lower().strip(".:"))
    said.words.append(token.text)
    if token.text.lower() == "shaft":
        said.shaft = True
        said.mark(token, "read", "output at the shaft")
        return
    if habit and named and later:
        said.mark(token, "read", f"kind: {habit.nature}")
    elif re.search(r"\w", token.text):
        said.names.append(token.text)
        said.mark(token, "name", "name")
    else:
        said.mark(token, "set aside", "")

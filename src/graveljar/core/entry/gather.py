"""Gathers what the tokens of a line say, and marks what was made of each."""

import re
from collections.abc import Iterable
from dataclasses import dataclass, field
from typing import Any

from graveljar.core.entry.reading import Mark
from graveljar.core.entry.tokens import Token
from graveljar.core.tables.appliances import APPLIANCES, Habit
from graveljar.core.words import a_day, number, quantity


@dataclass
class Said:
    """What the tokens say, gathered from left to right."""

    count: int = 1
    quantities: dict[str, Token] = field(default_factory=dict)
    hours: float | None = None
    start: dict[str, Any] | None = None
    standby_w: float = 0.0
    power_factor: float | None = None
    habit: Habit | None = None
    provenance: str = "label"
    priority: str = "nice"
    names: list[str] = field(default_factory=list)
    marks: list[Mark] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)
    problems: list[str] = field(default_factory=list)

    def mark(self, token: Token, kind: Any, text: str) -> None:
        """Say what was made of a token."""
        self.marks.append(Mark(token.start, token.end, kind, text))
        if kind == "problem":
            self.problems.append(text)


def gather(found: list[Token]) -> Said:
    """Go through the tokens from left to right."""
    said = Said()
    sides = [token.text.lower().rstrip(":") for token in found if token.kind == "side"]
    has_output = any(side.startswith("out") for side in sides)
    aside = False
    expecting = ""
    for index, token in enumerate(found):
        match token.kind:
            case "side":
                aside = has_output and token.text.lower().startswith("in")
                said.mark(token, "read", "what goes in" if aside else "what comes out")
            case "start":
                expecting = "start"
                said.mark(token, "read", "its start")
            case "noise":
                expecting = "standby" if token.text.lower() == "standby" else expecting
                said.mark(token, "set aside", "")
            case "quantity" if aside or token.unit == "Hz":
                said.mark(token, "set aside", "not needed")
            case "quantity" | "factor":
                _take(said, token, expecting)
                expecting = ""
            case "word":
                _take_word(said, token, named=bool(said.names), later=_measures(found[:index]))
            case _:
                _take_other(said, token)
    if has_output and "input" in sides:
        said.notes.append("OUTPUT is what the appliance needs; INPUT is the adapter's mains side.")
    return said


def _measures(before: Iterable[Token]) -> bool:
    return any(token.kind == "quantity" for token in before)


def _take_other(said: Said, token: Token) -> None:
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
            said.mark(token, "read", f"known from: {said.provenance}")
        case "priority":
            said.priority = token.text.lower()
            said.mark(token, "read", f"priority: {said.priority}")
        case _:
            said.mark(token, "problem", token.problem)


def _take(said: Said, token: Token, expecting: str) -> None:
    if token.kind == "factor" or expecting == "start":
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
    elif token.unit in said.quantities:
        said.mark(token, "problem", f"a second figure in {token.unit}: which one counts?")
    else:
        said.quantities[token.unit] = token
        words = {"V": "volts", "A": "amps", "W": "watts", "VA": "apparent power", "%": "duty"}
        said.mark(token, "read", words.get(token.unit, "energy"))


def _take_word(said: Said, token: Token, *, named: bool, later: bool) -> None:
    habit = APPLIANCES.get(token.text.lower().strip(".:"))
    if habit and (said.habit is None or later):
        said.habit = habit
    if habit and named and later:
        said.mark(token, "read", f"kind: {habit.nature}")
    elif re.search(r"\w", token.text):
        said.names.append(token.text)
        said.mark(token, "name", "name")
    else:
        said.mark(token, "set aside", "")

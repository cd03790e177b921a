"""Reads a goal in plain words: how long, and by how much sun in which month."""

import re
from dataclasses import dataclass
from typing import Final

from graveljar.core.errors import OutOfRange
from graveljar.core.model import Bank, Design, Panel, Station, Sun
from graveljar.core.model.patch import Edit, apply, as_sent
from graveljar.core.network.schedule import DAY_H
from graveljar.core.planning.construction import AddRefill, build
from graveljar.core.text import duration, quantity

MAX_GOAL: Final = 200
MAX_PANEL_W: Final = 1_000.0
# A year, as the document has it. [h]
MAX_HOURS: Final = 8_760.0
# Volts of the panels that a goal adds, and how far Isc is above Imp: those of common 100 W panels.
PANEL_VMP: Final = 18.6
ISC_TIMES: Final = 1.07
# Hours of what people call by a name. Common practice: a winter's night, from dusk to dawn.
_SPANS: Final = {
    "hour": 1.0, "night": 12.0, "day": 24.0, "weekend": 48.0, "week": 168.0, "fortnight": 336.0,
    "h": 1.0, "hr": 1.0, "d": 24.0,
}  # fmt: skip
_COUNTS: Final = {
    "a": 1.0, "an": 1.0, "one": 1.0, "two": 2.0, "three": 3.0, "four": 4.0, "five": 5.0,
    "six": 6.0, "seven": 7.0, "eight": 8.0, "nine": 9.0, "ten": 10.0, "eleven": 11.0,
    "twelve": 12.0, "half a": 0.5, "the": 1.0,
}  # fmt: skip
_MONTHS: Final = (
    "january", "february", "march", "april", "may", "june", "july", "august", "september",
    "october", "november", "december",
)  # fmt: skip
_NUMBER: Final = r"\d+(?:[.,]\d+)?"
_COUNT: Final = "|".join([_NUMBER, *sorted(_COUNTS, key=len, reverse=True)])
_SPAN: Final = re.compile(
    rf"(?:(?P<count>{_COUNT})\s*)?\b(?P<span>{'|'.join(sorted(_SPANS, key=len, reverse=True))})s?\b"
)
_SUN: Final = re.compile(
    rf"\bwith\s+(?P<watts>{_NUMBER})\s*w(?:atts?)?\s+(?:of\s+)?(?:sun|solar|panels?)\b"
)
_MONTH: Final = re.compile(rf"\bin\s+(?P<month>{'|'.join(_MONTHS)})\b")
_ALONE: Final = re.compile(r"\bwithout\s+(?:re)?(?:charging|charge|filling|fill|sun)\b")
_NOISE: Final = re.compile(
    r"\b(?:an?|the|outage|power cut|blackout|of|for|lasts?|last|long|through|and)\b"
)


@dataclass(frozen=True)
class GoalReading:
    """A goal as understood: what it says, what was assumed, what is in the way, and its edits.

    `refill`: whether what fills the store counts; None where nothing is said of it.
    """

    line: str
    summary: str
    notes: tuple[str, ...]
    problems: tuple[str, ...]
    edits: tuple[Edit, ...]
    refill: bool | None = None


def read_goal(line: str, design: Design) -> GoalReading:
    """Read a goal in plain words, such as “two days without recharging”.

    Parameters
    ----------
    line : At most 200 characters: how long, then perhaps “with 200 W of sun in October”.
    design : Whose goal it is; a panel that is not there yet is added to its first store.

    Raises
    ------
    OutOfRange : the line is too long.

    Examples
    --------
    >>> read_goal("an outage of nine hours", Design()).summary
    'Last 9 h'
    """
    if len(line) > MAX_GOAL:
        raise OutOfRange(f"A goal may have at most {MAX_GOAL} characters.")
    rest = " ".join(line.lower().replace("twenty-four", "24").split())
    taken: dict[str, re.Match[str]] = {}
    for name, pattern in (("sun", _SUN), ("month", _MONTH), ("alone", _ALONE)):
        found = pattern.search(rest)
        if found:
            taken[name] = found
            rest = rest[: found.start()] + " " + rest[found.end() :]
    spans = list(_SPAN.finditer(rest))
    rest = _SPAN.sub(" ", rest)
    left = re.sub(r"[\s,.;]+", " ", _NOISE.sub(" ", rest)).strip()
    if not taken and not spans and not left:
        return GoalReading(line, "", (), (), ())
    if left:
        return _wrong(line, f"“{left}” is not understood. {EXAMPLES}")
    if not spans:
        return _wrong(line, f"For how long? {EXAMPLES}")
    return _told(line, sum(_hours(span) for span in spans), taken, design)


EXAMPLES: Final = (
    "Write for instance “two days without recharging”, “a night”, “an outage of nine hours” or “a "
    "week with 200 W of sun in October”."
)


def _wrong(line: str, problem: str) -> GoalReading:
    return GoalReading(line, "", (), (problem,), ())


def _told(line: str, hours: float, taken: dict[str, re.Match[str]], design: Design) -> GoalReading:
    sun, month = taken.get("sun"), taken.get("month")
    if not 0 < hours <= MAX_HOURS:
        return _wrong(line, "A goal is more than 0 h and at most a year.")
    if sun is not None and "alone" in taken:
        return _wrong(line, "With sun or without recharging: which of the two?")
    said, notes = [f"Last {duration(hours)}"], []
    edits = [Edit("replace", "/goal/hours", hours)]
    if "night" in line.lower():
        notes.append("A night counts 12 h; several, from the first evening to the last morning.")
    if "alone" in taken:
        said.append("without recharging")
    if month is not None:
        number = _MONTHS.index(month["month"]) + 1
        said.append(f"in {month['month'].capitalize()}")
        edits.append(Edit("replace", "/week/month", number))
    if sun is not None:
        watts = float(sun["watts"].replace(",", "."))
        if not 0 < watts <= MAX_PANEL_W:
            most = quantity(MAX_PANEL_W, "W", 4)
            return _wrong(line, f"Panels of more than 0 and at most {most}: add more on the Plan.")
        said.append(f"with {quantity(watts, 'W')} of sun")
        changed, note = _sun(design, watts)
        if not changed:
            return _wrong(line, note)
        edits += changed
        notes.append(note)
    refill = False if "alone" in taken else True if sun is not None else None
    return GoalReading(line, " ".join(said), tuple(notes), (), _whole(design, edits), refill)


def _whole(design: Design, edits: list[Edit]) -> tuple[Edit, ...]:
    """The same edits as one for each part of the document that they change."""
    after = apply(design, edits).model_dump(mode="json")
    before = design.model_dump(mode="json")
    parts = [part for part in after if after[part] != before[part]]
    return as_sent(design, [Edit("replace", f"/{part}", after[part]) for part in parts])


def _hours(span: re.Match[str]) -> float:
    """What one stretch of time says. [h]"""
    said = span["count"] or "a"
    count = _COUNTS[said] if said in _COUNTS else float(said.replace(",", "."))
    if span["span"] == "night" and count > 1:
        return DAY_H * (count - 1) + _SPANS["night"]
    return count * _SPANS[span["span"]]


def _sun(design: Design, watts: float) -> tuple[list[Edit], str]:
    """Edits that give a design panels of so many watts, and what to know of them."""
    panel = panel_of(watts).model_dump(mode="json")
    for place, store in enumerate(design.stores):
        if isinstance(store, Sun):
            whole = {"panel": panel, "series": 1, "parallel": 1, "shelf": None}
            edits = [Edit("replace", f"/stores/{place}/{key}", x) for key, x in whole.items()]
            return edits, f"{store.name} becomes one panel of {quantity(watts, 'W')}."
    first = design.first
    if not isinstance(first, Bank | Station):
        return [], "Sun fills a bank or a station: the first store is neither."
    built = build(design, AddRefill(ask="refill", what="sun", to=first.id))
    place = len(design.stores)
    edits = [*built.edits, Edit("replace", f"/stores/{place}/panel", panel)]
    note = f"A panel of {quantity(watts, 'W')} is added, with what it needs to fill {first.name}."
    return edits, note


def panel_of(watts: float) -> Panel:
    """A panel of so many watts with the volts of common ones. [W]

    Examples
    --------
    >>> panel_of(186.0).imp_a
    10.0
    """
    imp_a = watts / PANEL_VMP
    return Panel(watts=watts, imp_a=round(imp_a, 3), isc_a=round(imp_a * ISC_TIMES, 3))

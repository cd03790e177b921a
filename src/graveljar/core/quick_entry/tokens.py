"""Cuts a line into quantities, known words and the rest, each with its place.

Numbers take a dot or a comma, a range (220-240) and spaced thousands (1 500).
"""

import re
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Final, Literal

from graveljar.core.quick_entry.ran import RAN, read_ran

Kind = Literal["quantity", "count", "factor", "word", "start", "provenance", "priority", "side",
               "power factor", "noise", "problem", "times", "limit", "sure", "rate", "ran",
               "once", "unsure"]  # fmt: skip

# Unit as written, to (canonical unit, multiplier). Case matters only for m and M.
UNITS: Final = {
    "w": ("W", 1.0), "watt": ("W", 1.0), "watts": ("W", 1.0), "kw": ("W", 1e3), "mw": ("W", 1e-3),
    "va": ("VA", 1.0), "kva": ("VA", 1e3),
    "v": ("V", 1.0), "volt": ("V", 1.0), "volts": ("V", 1.0), "mv": ("V", 1e-3),
    "a": ("A", 1.0), "amp": ("A", 1.0), "amps": ("A", 1.0), "ma": ("A", 1e-3),
    "wh": ("Wh", 1.0), "kwh": ("Wh", 1e3), "ah": ("Ah", 1.0), "mah": ("Ah", 1e-3),
    "h": ("h", 1.0), "hr": ("h", 1.0), "hrs": ("h", 1.0), "hour": ("h", 1.0), "hours": ("h", 1.0),
    "min": ("h", 1 / 60), "mins": ("h", 1 / 60), "minute": ("h", 1 / 60),
    "minutes": ("h", 1 / 60), "s": ("h", 1 / 3600), "sec": ("h", 1 / 3600),
    "%": ("%", 1.0), "hz": ("Hz", 1.0), "hp": ("hp", 1.0), "l": ("l", 1.0), "litre": ("l", 1.0),
    "litres": ("l", 1.0), "liter": ("l", 1.0), "liters": ("l", 1.0),
}  # fmt: skip

_NUMBER: Final = r"\d{1,3}(?:[ \u00a0\u202f]\d{3})+(?![\d.,])|\d+(?:[.,]\d+)?|[.,]\d+"
_QUANTITY: Final = re.compile(
    rf"(?P<sign>[-−+])?(?P<low>{_NUMBER})"
    rf"(?:\s*(?:-|–|/|to)\s*(?P<high>{_NUMBER}))?"
    r"[ \u00a0]?(?P<unit>%|[A-Za-zµΩ°]+)?(?P<wave>\s*[~∼=⎓]|\s?(?i:ac|dc)\b)?"
)
# "4 x lamp", "2 x 250 W", "5x100W": how many of what follows.
_COUNT: Final = re.compile(
    r"(?P<n>\d{1,4})\s*[x×*](?:\s+(?=[^\W\d_])|\s*(?=\d+(?:[.,]\d+)?\s*[A-Za-z]))", re.IGNORECASE
)
# "DC12V", "AC 230 V": the kind of volts before them.
_WAVE_FIRST: Final = re.compile(r"(?P<wave>ac|dc)[ \u00a0]?(?=\d)", re.IGNORECASE)
_TIMES: Final = re.compile(
    r"(?P<h1>\d{1,2}):(?P<m1>[0-5]\d)\s*(?:-|–|to)\s*(?P<h2>\d{1,2}):(?P<m2>[0-5]\d)(?![\d:])"
)
_NIGHT: Final = re.compile(r"(?:at night|overnight|all night)\b", re.IGNORECASE)
_HOW_OFTEN: Final = re.compile(r"once\s+(?:a|per|each|every)\s+(?P<of>day|week)\b", re.IGNORECASE)
# Energy over a time: "1.1 kWh/day", "300 kWh per year".
_RATE: Final = re.compile(
    r"\s*(?:/|per\s|a\s|in\s)\s*(?P<of>day|d|24\s?h|year|yr|y|annum|a)\b", re.IGNORECASE
)
_LIMITS: Final = re.compile(
    r"(?P<which>cut[- ]?out|cut[- ]?off|cuts out|drops out|restarts?|returns?|max(?:imum)?)"
    r"(?:\s+(?:at|below|from))?\s*:?(?=\s*\d)",
    re.IGNORECASE,
)
_FACTOR: Final = re.compile(r"[x×](?P<n>\d+(?:[.,]\d+)?)(?![\w.])", re.IGNORECASE)
_POWER_FACTOR: Final = re.compile(r"(?:pf|cos\s*φ|cosphi)\s*[:=]?\s*(?P<n>[01](?:[.,]\d+)?)", re.I)
_HOURS_MINUTES: Final = re.compile(r"(?P<h>\d{1,2})h(?P<m>\d{2})(?![\w.,%])")
_WORD: Final = re.compile(r"[^\s,;]+")
_SPACE: Final = re.compile(r"[\s,;·]+")

_WORDS: Final[dict[str, Kind]] = {
    "start": "start", "starts": "start", "surge": "start", "starting": "start", "peak": "start",
    "measured": "provenance", "label": "provenance", "guess": "provenance",
    "guessed": "provenance", "must": "priority", "nice": "priority",
    "input": "side", "output": "side", "in:": "side", "out:": "side",
    "a": "noise", "day": "noise", "per": "noise", "each": "noise", "daily": "noise",
    "for": "noise", "at": "noise", "standby": "noise", "sure": "sure",
    "once": "once",
}  # fmt: skip


# Volts from here on are mains unless the label says DC. Ours. [V]
MAINS_FROM_V: Final = 90.0
# From and to, where a line says "at night". Ours. [h]
NIGHT: Final = (22.0, 6.0)
DAY_H: Final = 24
DAYS_OF_YEAR: Final = 365.0


@dataclass(frozen=True)
class Token:
    """A stretch of the line. Quantities: `value` in `unit`, the top of a range; `low` its foot.

    Times: from `value` to `low`. Ran: `value` hours on the share `low` of a battery. What is
    "unsure" can be read in two ways.
    """

    kind: Kind
    start: int
    end: int
    text: str
    value: float = 0.0
    unit: str = ""
    low: float = 0.0
    wave: Literal["ac", "dc", ""] = ""
    problem: str = ""


def tokens(line: str) -> Iterator[Token]:
    """The tokens of a line, from left to right, without gaps but for spaces and commas."""
    at = 0
    while at < len(line):
        if space := _SPACE.match(line, at):
            at = space.end()
            continue
        token = _next(line, at)
        yield token
        at = token.end


def _next(line: str, at: int) -> Token:
    token = _simple(line, at) or _often(line, at) or _timed(line, at) or _volts_after_wave(line, at)
    if token is not None:
        return token
    if match := _QUANTITY.match(line, at):
        token = _quantity(match)
        if token.unit == "Wh" and (rate := _RATE.match(line, match.end())):
            return _rate(token, rate, line)
        return token
    word = _WORD.match(line, at)
    text = word[0] if word else line[at]
    kind = _WORDS.get(text.lower().rstrip(":"), _WORDS.get(text.lower(), "word"))
    return Token(kind, at, at + len(text), text)


# Patterns that give one number, and what it is.
_SIMPLE: Final[tuple[tuple[re.Pattern[str], Kind], ...]] = (
    (_POWER_FACTOR, "power factor"),
    (_FACTOR, "factor"),
    (_COUNT, "count"),
)


def _simple(line: str, at: int) -> Token | None:
    for pattern, kind in _SIMPLE:
        if match := pattern.match(line, at):
            return Token(kind, at, match.end(), match[0], _decimal(match["n"]))
    return None


def _timed(line: str, at: int) -> Token | None:
    """Times of day, "at night", cut-out and restart, hours and minutes."""
    if match := _TIMES.match(line, at):
        return _times(match)
    if match := _NIGHT.match(line, at):
        return Token("times", at, match.end(), match[0], NIGHT[0], "h", NIGHT[1])
    if match := RAN.match(line, at):
        return _ran(match)
    if match := _LIMITS.match(line, at):
        return Token("limit", at, match.end(), match[0])
    if match := _HOURS_MINUTES.match(line, at):
        hours = int(match["h"]) + int(match["m"]) / 60
        return Token("quantity", at, match.end(), match[0], hours, "h", hours)
    return None


def _often(line: str, at: int) -> Token | None:
    """Once a day is each day; once a week is once."""
    match = _HOW_OFTEN.match(line, at)
    if match is None:
        return None
    kind: Kind = "once" if match["of"].lower() == "week" else "noise"
    return Token(kind, at, match.end(), match[0])


def _volts_after_wave(line: str, at: int) -> Token | None:
    """Volts with their kind before them, as in DC12V."""
    match = _WAVE_FIRST.match(line, at)
    volts = _QUANTITY.match(line, match.end()) if match else None
    if match is None or volts is None:
        return None
    token = _quantity(volts)
    if token.kind != "quantity" or token.unit != "V":
        return None
    return replace(token, start=at, text=line[at : token.end], wave=_wave(match["wave"]))


def _times(match: re.Match[str]) -> Token:
    begin = int(match["h1"]) + int(match["m1"]) / 60
    end = int(match["h2"]) + int(match["m2"]) / 60
    if max(begin, end) > DAY_H or begin == end:
        return Token(
            "problem", *match.span(), match[0], problem=f"“{match[0]}” is not a time of day"
        )
    return Token("times", *match.span(), match[0], begin, "h", end)


def _ran(match: re.Match[str]) -> Token:
    ran = read_ran(match)
    if ran is None:
        problem = "so long on so much of a battery cannot be: 0 to 100 %, more than 0 h"
        return Token("problem", *match.span(), match[0], problem=problem)
    return Token("ran", *match.span(), match[0], ran.hours, "h", ran.share)


def _rate(energy: Token, rate: re.Match[str], line: str) -> Token:
    """Energy of a day, from that of a day or a year."""
    days = 1.0 if rate["of"].lower()[0] in "d2" else DAYS_OF_YEAR
    text = line[energy.start : rate.end()]
    value = energy.value / days
    return replace(energy, kind="rate", end=rate.end(), text=text, value=value, low=value)


def _quantity(match: re.Match[str]) -> Token:
    unit = match["unit"] or ""
    known = UNITS.get(unit.lower())
    wave = match["wave"] or ""
    start, end = match.span()
    text = match[0].rstrip()
    # "230VAC", "24VDC": the wave is glued to the unit.
    if known is None and unit.lower() in ("vac", "vdc"):
        known, wave = UNITS["v"], unit[1:]
    # "MW" is a million watts, not a thousandth.
    if unit in ("MW", "MA", "MV"):
        known = None

    def bad(problem: str) -> Token:
        return Token("problem", start, start + len(text), text, problem=problem)

    numbers = [match["low"], match["high"] or match["low"]]
    if any(re.fullmatch(r"\d{1,3},\d{3}", number) for number in numbers):
        return Token("unsure", start, end, text)
    low, high = (_decimal(number) for number in numbers)
    if match["sign"] in ("-", "−"):
        return bad("nothing here can be negative")
    if not unit:
        return bad(f"{text} needs a unit: W, V, A, h, min, % or Wh")
    if known is None:
        return bad(f"“{unit}” is not a known unit; W, VA, V, A, Wh, Ah, h, min, % are")
    canonical, times = known
    return Token(
        "quantity",
        start,
        end,
        text,
        max(low, high) * times,
        canonical,
        min(low, high) * times,
        _wave(wave),
    )


def _wave(mark: str) -> Literal["ac", "dc", ""]:
    mark = mark.strip().lower()
    if mark in ("~", "∼", "ac"):
        return "ac"
    return "dc" if mark in ("=", "⎓", "dc") else ""


def _decimal(text: str) -> float:
    return float(re.sub(r"[ \u00a0\u202f]", "", text).replace(",", "."))

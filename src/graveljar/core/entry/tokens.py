"""Cuts a line into quantities, known words and the rest, each with its place.

Numbers take a dot or a comma, a range (220-240) and spaced thousands (1 500).
"""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final, Literal

Kind = Literal["quantity", "count", "factor", "word", "start", "provenance", "priority", "side",
               "power factor", "noise", "problem"]  # fmt: skip

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
    "%": ("%", 1.0), "hz": ("Hz", 1.0),
}  # fmt: skip

_NUMBER: Final = r"\d{1,3}(?:[ \u00a0\u202f]\d{3})+(?![\d.,])|\d+(?:[.,]\d+)?|[.,]\d+"
_QUANTITY: Final = re.compile(
    rf"(?P<sign>[-−+])?(?P<low>{_NUMBER})"
    rf"(?:\s*(?:-|–|/|to)\s*(?P<high>{_NUMBER}))?"
    r"[ \u00a0]?(?P<unit>%|[A-Za-zµΩ°]+)?(?P<wave>\s*[~∼=⎓]|\s?(?i:ac|dc)\b)?"
)
_COUNT: Final = re.compile(r"\s*(?P<n>\d{1,4})\s*[x×*]\s+(?=\S)", re.IGNORECASE)
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
    "for": "noise", "at": "noise", "standby": "noise",
}  # fmt: skip


@dataclass(frozen=True)
class Token:
    """A stretch of the line. Quantities: `value` in `unit`, the top of a range; `low` its foot."""

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
    if count := _COUNT.match(line):
        yield Token("count", 0, count.end(), count[0], float(count["n"]))
        at = count.end()
    while at < len(line):
        if space := _SPACE.match(line, at):
            at = space.end()
            continue
        token = _next(line, at)
        yield token
        at = token.end


def _next(line: str, at: int) -> Token:
    if match := _POWER_FACTOR.match(line, at):
        return Token("power factor", at, match.end(), match[0], _decimal(match["n"]))
    if match := _FACTOR.match(line, at):
        return Token("factor", at, match.end(), match[0], _decimal(match["n"]))
    if match := _HOURS_MINUTES.match(line, at):
        hours = int(match["h"]) + int(match["m"]) / 60
        return Token("quantity", at, match.end(), match[0], hours, "h", hours)
    if match := _QUANTITY.match(line, at):
        return _quantity(match)
    word = _WORD.match(line, at)
    text = word[0] if word else line[at]
    kind = _WORDS.get(text.lower().rstrip(":"), _WORDS.get(text.lower(), "word"))
    return Token(kind, at, at + len(text), text)


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
        plain = match["low"].replace(",", "")
        return bad(f"“{match['low']}” could be {plain} or a decimal: write {plain} without a comma")
    low, high = (_decimal(number) for number in numbers)
    if match["sign"] in ("-", "−"):
        return bad("nothing here can be negative")
    if not unit:
        return bad(f"{text} of what? Add W, V, A, h, min, % or Wh")
    if known is None:
        return bad(f"“{unit}” is not a unit known here; W, VA, V, A, Wh, Ah, h, min, % are")
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

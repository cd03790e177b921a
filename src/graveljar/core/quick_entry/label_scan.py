"""Cuts the text of a part's label into quantities, each with the words that say what it is."""

import re
from dataclasses import dataclass
from typing import Final

# Unit as written, to (canonical unit, multiplier).
UNITS: Final = {
    "v": ("V", 1.0), "volt": ("V", 1.0), "volts": ("V", 1.0), "voltios": ("V", 1.0),
    "a": ("A", 1.0), "amp": ("A", 1.0), "amps": ("A", 1.0), "ampere": ("A", 1.0),
    "amperes": ("A", 1.0), "ampères": ("A", 1.0), "amperios": ("A", 1.0), "ma": ("A", 1e-3),
    "ah": ("Ah", 1.0), "mah": ("Ah", 1e-3), "wh": ("Wh", 1.0), "kwh": ("Wh", 1e3),
    "w": ("W", 1.0), "wp": ("W", 1.0), "watt": ("W", 1.0), "watts": ("W", 1.0),
    "vatios": ("W", 1.0), "kw": ("W", 1e3), "va": ("VA", 1.0), "hz": ("Hz", 1.0),
    "°c": ("°C", 1.0), "c": ("°C", 1.0), "%": ("%", 1.0), "mω": ("mΩ", 1.0), "mohm": ("mΩ", 1.0),
}  # fmt: skip
# What the words around a quantity make of it, in four languages.
ROLES: Final = {
    "peak": r"\bpeak|\bsurge|\bpulse|\bspitzen\w*|\bpointe|\bpico\b|\bburst",
    "discharge": r"discharg\w*|entlade?\w*|décharge|descarga",
    "open": r"\bu?voc\b|\bvoc\b|open[- ]circuit|leerlaufspannung",
    "short": r"\bisc\b|short[- ]circuit|kurzschluss\w*",
    "at most power": r"\bvmpp?\b|\bump?p\b|\bimpp?\b|at max\w* power|max\w* power (?:volt|curr)",
    "charge": r"\b(?:re)?charg(?:e|ing)\b|\blade\w*|carga\b|absorption|bulk",
    "idle": r"\bidle|no[- ]?load|stand-?by|quiescent|leerlauf\w*|self[- ]consumption|own draw",
    "cut-out": r"cut[- ]?o(?:ff|ut)|low[- ](?:volt\w*|battery)|\blvd\b|end of discharge",
    "efficiency": r"efficien\w*|wirkungsgrad|rendement|\bη",
    "input": r"\binput|\bin\b|\beingang|\bentrée|\bentrada|\bpv\b|\bsolar\b|\bfrom\b",
    "output": r"\boutput|\bout\b|\bausgang|\bsortie|\bsalida",
}
# Of several roles these come first: “peak discharge”, “discharge cut-off”.
FIRST: Final = ("peak", "cut-out", "idle")
# What a further quantity of the same clause is of too.
INHERITED: Final = (
    "charge", "discharge", "input", "output", "open", "short", "at most power"
)  # fmt: skip
_N: Final = r"[0-9OolI]{1,3}(?:[ \u00a0\u202f][0-9]{3})+(?![\d.,])|[0-9OolI]+(?:[.,][0-9OolI]+)?"
_QUANTITY: Final = re.compile(
    rf"(?<![\w.,])(?P<sign>[-−+])?(?P<low>{_N})"
    rf"(?:\s*(?:°\s?C)?\s*(?:-|–|\.\.\.|…|~|/|to|bis|à)\s*(?P<high>[-+]?(?:{_N})))?"
    r"[ \u00a0]?(?P<unit>°\s?C|%|m?Ω|[A-Za-zèµ]+)(?:\s?(?P<wave>[~∼⎓=]|ac\b|dc\b))?",
    re.IGNORECASE,
)
_WAVE_FIRST: Final = re.compile(r"\b(ac|dc)\s*:?\s*$", re.IGNORECASE)
_CLAUSE: Final = re.compile(r"[;\n|•·]|,(?!\d)")
_OCR: Final = str.maketrans("OolI", "0011")


@dataclass(frozen=True)
class LabelQuantity:
    """A quantity of a label: its place, lowest and highest figure, unit, wave, and what it is."""

    start: int
    end: int
    low: float
    value: float
    unit: str
    wave: str
    role: str
    guessed: bool

    @property
    def ranged(self) -> bool:
        """Whether it is a range."""
        return self.low < self.value


def scan(text: str) -> list[LabelQuantity]:
    """Every quantity with a known unit, in the order of the text."""
    found: list[LabelQuantity] = []
    matches = [m for m in _QUANTITY.finditer(text) if _unit(m) and _has_digit(m)]
    for n, match in enumerate(matches):
        unit, times = UNITS[_unit(match)]
        low, guessed = _number(match["low"])
        high, other = (low, False) if match["high"] is None else _number(match["high"])
        if match["sign"] in ("-", "−"):
            low = -low
            high = low if match["high"] is None else high
        before = text[matches[n - 1].end() if n else 0 : match.start()]
        wave = (match["wave"] or "").lower()
        first = _WAVE_FIRST.search(before)
        if not wave and first is not None:
            wave = first[1].lower()
        wave = {"~": "ac", "∼": "ac", "⎓": "dc", "=": "dc"}.get(wave, wave)
        after = text[match.end() : matches[n + 1].start() if n + 1 < len(matches) else len(text)]
        role = _role(before, after, found, last=n + 1 == len(matches))
        low, high = sorted((low * times, high * times))
        found.append(
            LabelQuantity(match.start(), match.end(), low, high, unit, wave, role, guessed or other)
        )
    return found


def _unit(match: re.Match[str]) -> str:
    unit = match["unit"].lower().replace(" ", "")
    return unit if unit in UNITS else ""


def _has_digit(match: re.Match[str]) -> bool:
    return any(x.isdigit() for x in match["low"])


def _number(text: str) -> tuple[float, bool]:
    """A figure, and whether a letter in it was read as a digit."""
    bare = re.sub(r"[ \u00a0\u202f]", "", text)
    plain = bare.translate(_OCR).replace(",", ".")
    return float(plain), plain != bare.replace(",", ".")


def _role(before: str, after: str, found: list[LabelQuantity], *, last: bool) -> str:
    """By the words before it in its clause, else those after it, else what the one before is."""
    clauses = _CLAUSE.split(before)
    named = _named(clauses[-1].lower())
    if named:
        return named
    ends = _CLAUSE.split(after)
    # Words between two quantities of a clause are of the second.
    follows = _named(ends[0].lower()) if len(ends) > 1 or last else ""
    same = len(clauses) == 1 and bool(found)
    if follows:
        return follows
    return found[-1].role if same and found[-1].role in INHERITED else ""


def _named(words: str) -> str:
    """The role that some words give: a peak or a cut-out if they say so, else the nearest."""
    found = {
        role: max(match.start() for match in matches)
        for role, pattern in ROLES.items()
        if (matches := list(re.finditer(pattern, words)))
    }
    first = next((role for role in FIRST if role in found), None)
    return first or max(found, key=lambda role: found[role], default="")

"""Reads a part's label or the lines of its data sheet: what is understood, missing and unsure."""

import re
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Any, Final

from pydantic import ValidationError

from graveljar.core.errors import OutOfRange
from graveljar.core.model import (
    BatteryFigures,
    ChargerFigures,
    ConverterFigures,
    InverterFigures,
    Panel,
    Part,
    StationFigures,
)
from graveljar.core.model.parse import refusal
from graveljar.core.quick_entry.label_scan import LabelQuantity, scan
from graveljar.core.quick_entry.label_station import StationLabel
from graveljar.core.quick_entry.label_words import CHEMISTRIES, KIND_WORDS, TO, WORDS, PartKind
from graveljar.core.quick_entry.reading import LineMark
from graveljar.core.quick_entry.tokens import MAINS_FROM_V
from graveljar.core.text import number, quantity

MAX_LABEL: Final = 2_000
# Share by which Wh may differ from V x Ah: rounding of labels. Ours. [1]
SAME_WH: Final = 0.05
# Volts up to which a controller is not called by its panels; it works from there on. Ours. [V]
CONTROLLER_V: Final = 16.0
_FIGURES: Final[dict[PartKind, type[Part]]] = {
    "battery": BatteryFigures,
    "inverter": InverterFigures,
    "converter": ConverterFigures,
    "charger": ChargerFigures,
    "panel": Panel,
    "station": StationFigures,
}
# What a part must give: a default in its place would look like its label.
_NEEDED: Final[dict[PartKind, dict[str, str]]] = {
    "battery": {"chemistry": "chemistry", "volts": "volts", "ah": "Ah"},
    "inverter": {"nominal_v": "input volts", "continuous_w": "watts"},
    "converter": {"accepts": "input volts", "set_v": "output volts", "continuous_a": "amps"},
    "charger": {"accepts": "input volts", "amps": "amps into the battery"},
    "panel": {"watts": "watts", "voc_v": "Voc", "vmp_v": "Vmp", "isc_a": "Isc", "imp_a": "Imp"},
    "station": {
        "label_wh": "Wh", "chemistry": "chemistry", "outlets": "an outlet with its watts or amps",
        "inputs": "a charge input with its volts and amps",
    },
}  # fmt: skip


@dataclass(frozen=True)
class LabelReading:
    """A label as understood. `figures` are those it says, None while something is unsure.

    `marks` are stretches of the text; `missing` figures have their usual value; `problems` are in
    the way.
    """

    text: str
    kind: PartKind | None
    marks: tuple[LineMark, ...]
    figures: dict[str, Any] | None
    missing: tuple[str, ...]
    notes: tuple[str, ...]
    problems: tuple[str, ...]


class _Reader:
    """What has been taken of a label so far."""

    def __init__(self, text: str, kind: PartKind) -> None:
        self.text, self.kind, self.low = text, kind, text.lower()
        self.quantities = scan(text)
        self.figures: dict[str, Any] = {}
        self.marks: list[LineMark] = []
        self.notes: list[str] = []
        self.problems: list[str] = []
        self.used: set[int] = set()

    def find(
        self, unit: str, roles: Iterable[str] = ("",), wave: str = "", test: Any = None
    ) -> LabelQuantity | None:
        """The first quantity not yet used, of a unit, in one of these roles."""
        for role in roles:
            for one in self.quantities:
                fits = one.unit == unit and one.role == role and one.start not in self.used
                if fits and (not wave or one.wave in ("", wave)) and (test is None or test(one)):
                    return one
        return None

    def take(self, name: str, one: LabelQuantity | None, value: Any = None) -> bool:
        """Keep a figure and mark where it stands."""
        if one is None:
            return False
        self.used.add(one.start)
        self.figures[name] = one.value if value is None else value
        self.marks.append(LineMark(one.start, one.end, "read", name.replace("_", " ")))
        if one.guessed:
            said = self.text[one.start : one.end]
            self.notes.append(f"“{said}” is read as {quantity(one.value, one.unit, 4)}.")
        return True

    def word(self, patterns: dict[str, str]) -> str | None:
        """The first of some words in the text, marked."""
        for value, pattern in patterns.items():
            found = re.search(pattern, self.low)
            if found:
                self.marks.append(LineMark(*found.span(), "read", value))
                return value
        return None

    def set_aside(self) -> None:
        """Mark what was not needed."""
        for one in self.quantities:
            if one.start not in self.used:
                self.marks.append(LineMark(one.start, one.end, "set aside", "not needed here"))


def read_label(text: str, kind: PartKind | None = None) -> LabelReading:
    """Read the text of a label as a part.

    Parameters
    ----------
    text : As printed, in lines or one; at most 2 000 characters.
    kind : What the part is; unsaid, told from its words.

    Returns
    -------
    What was understood.

    Raises
    ------
    OutOfRange : the text is too long.

    Examples
    --------
    >>> read_label("LiFePO4 12.8V 100Ah 1280Wh").figures["ah"]
    100.0
    """
    if len(text) > MAX_LABEL:
        raise OutOfRange(f"A label may have at most {MAX_LABEL} characters.")
    kind = kind or _kind_of(text)
    if kind is None:
        says = "Is it a battery, an inverter, a converter, a charger, a solar panel or a station?"
        return LabelReading(text, None, (), None, (), (), (says,) if text.strip() else ())
    reader = _Reader(text, kind)
    _READS[kind](reader)
    reader.set_aside()
    needed = _NEEDED[kind]
    lacking = [name for name in needed if name not in reader.figures]
    if lacking and not reader.problems:
        said = ", ".join(needed[name] for name in lacking)
        reader.problems.append(f"Not found on it: {said}.")
    figures = _checked(reader) if not reader.problems else None
    missing = tuple(
        WORDS.get(name, name.replace("_", " "))
        for name in _FIGURES[kind].model_fields
        if name not in reader.figures
    )
    marks = tuple(sorted(reader.marks, key=lambda x: (x.start, x.end)))
    return LabelReading(
        text, kind, marks, figures, missing, tuple(reader.notes), tuple(reader.problems)
    )


def _kind_of(text: str) -> PartKind | None:
    found = [kind for kind, words in KIND_WORDS.items() if re.search(words, text.lower())]
    return found[0] if found else None


def _checked(reader: _Reader) -> dict[str, Any] | None:
    try:
        made = _FIGURES[reader.kind].model_validate(reader.figures)
    except ValidationError as error:
        for problem in refusal(error.errors(include_url=False)).problems:
            place = problem.path.strip("/").replace("_", " ").replace("/", ", ")
            reader.problems.append(f"{place} {problem.message}.".strip())
        return None
    # What it does not say is left to whoever asks: its defaults are not of the label.
    return made.model_dump(mode="json", include=set(reader.figures))


def _battery(reader: _Reader) -> None:
    chemistry = reader.word(CHEMISTRIES)
    if chemistry is not None:
        reader.figures["chemistry"] = chemistry
    elif re.search(r"lead[- ]acid|blei|plomb|plomo", reader.low):
        reader.problems.append("Lead-acid: is it AGM or gel, or flooded?")
    elif re.search(r"lithium|litio", reader.low):
        reader.problems.append("Lithium: is it LiFePO4, or Li-ion?")
    volts = reader.find("V", ("",), test=lambda x: not x.ranged)
    charge, energy = reader.find("Ah"), reader.find("Wh")
    reader.take("volts", volts)
    if charge is not None:
        reader.take("ah", charge)
        if volts is not None and energy is not None:
            reader.used.add(energy.start)
            reader.marks.append(LineMark(energy.start, energy.end, "read", "Wh"))
            wh = volts.value * charge.value
            if abs(wh / energy.value - 1) > SAME_WH:
                ah = f"{number(volts.value)} V x {number(charge.value)} Ah"
                reader.problems.append(
                    f"{ah} are {quantity(wh, 'Wh')}, not {quantity(energy.value, 'Wh')}: which of "
                    "them is right?"
                )
    elif volts is not None and energy is not None:
        reader.take("ah", energy, round(energy.value / volts.value, 2))
        reader.notes.append("Ah from its Wh and volts.")
    reader.figures["bms_a"] = None
    reader.take("bms_a", reader.find("A", ("discharge", "output", "")))
    reader.take("bms_peak_a", reader.find("A", ("peak",)))
    reader.take("low_v", reader.find("V", ("cut-out",)))
    reader.take("resistance_mohm", reader.find("mΩ", ("", "discharge", "charge")))
    cold = reader.find("°C", ("discharge", ""), test=lambda x: x.ranged)
    if cold is not None and cold.low < 0:
        reader.take("discharge_from_c", cold, cold.low)


def _window(reader: _Reader, roles: tuple[str, ...], **rest: Any) -> dict[str, float] | None:
    """A range of volts, as a window, marked."""
    one = reader.find("V", roles, test=lambda x: x.ranged, **rest)
    if one is None:
        return None
    reader.take("accepts", one, {"least_v": one.low, "most_v": one.value})
    return {"least_v": one.low, "most_v": one.value}


def _inverter(reader: _Reader) -> None:
    def low(one: LabelQuantity) -> bool:
        return one.value < MAINS_FROM_V and one.wave != "ac"

    mains = reader.find("V", ("output", "", "input"), test=lambda x: x.value >= MAINS_FROM_V)
    if mains is not None:
        # 110-120 V: the lower is what a range of one mains begins at.
        reader.take("output_v", mains, mains.value)
    window = reader.find("V", ("input", ""), test=lambda x: low(x) and x.ranged)
    nominal = reader.find("V", ("input", ""), test=lambda x: low(x) and not x.ranged)
    if window is not None:
        reader.take("accepts", window, {"least_v": window.low, "most_v": window.value})
    reader.take("nominal_v", nominal)
    if nominal is None and window is not None:
        reader.figures["nominal_v"] = _class_of(window)
    elif nominal is not None and window is None:
        reader.figures["accepts"] = {
            "least_v": round(nominal.value * 0.875, 1), "most_v": round(nominal.value * 1.25, 1),
        }  # fmt: skip
    peak = reader.find("W", ("peak",)) or reader.find("VA", ("peak",))
    rated = reader.find("W", ("", "output", "input")) or reader.find("VA", ("", "output"))
    reader.take("surge_w", peak)
    if reader.take("continuous_w", rated) and peak is None and rated is not None:
        reader.figures["surge_w"] = 2 * rated.value
    reader.take("output_hz", reader.find("Hz", ("output", "", "input")))
    if "output_hz" in reader.figures:
        hertz = int(reader.figures["output_hz"])
        reader.figures["output_hz"] = hertz if hertz in (50, 60) else None
    wave = reader.word(
        {"modified sine": r"modified|stepped|square|quasi", "pure sine": r"(?:pure|true)?\s*sine"}
    )
    if wave is not None:
        reader.figures["waveform"] = wave
    _inverter_losses(reader)


def _inverter_losses(reader: _Reader) -> None:
    """Idle draw in watts, or in amps at its volts; the best efficiency."""
    idle = reader.find("W", ("idle",))
    amps = reader.find("A", ("idle",))
    if not reader.take("idle_w", idle) and amps is not None and "nominal_v" in reader.figures:
        reader.take("idle_w", amps, round(amps.value * reader.figures["nominal_v"], 2))
    best = reader.find("%", ("efficiency", ""))
    if best is not None and 50 < best.value <= 100:
        reader.take("part_load", best, {"load_share": 0.3, "efficiency": best.value / 100})
        full = round(best.value / 100 - 0.04, 4)
        reader.figures["full_load"] = {"load_share": 1.0, "efficiency": full}


def _class_of(window: LabelQuantity) -> float:
    return min((12.0, 24.0, 36.0, 48.0), key=lambda x: abs(x - (window.low + window.value) / 2))


def _converter(reader: _Reader) -> None:
    window = _window(reader, ("input", ""))
    if window is None:
        single = reader.find("V", ("input",), test=lambda x: not x.ranged)
        if single is not None:
            least, most = round(single.value * 0.8, 1), round(single.value * 1.3, 1)
            window = {"least_v": least, "most_v": most}
            reader.take("accepts", single, window)
    plain = [x for x in reader.quantities if x.unit == "V" and not x.role and not x.ranged]
    if window is None and len(plain) > 1:
        between = reader.text[plain[0].end : plain[1].start].strip().lower()
        if between not in TO:
            reader.problems.append("Which of its volts go in, and which come out?")
            return
        first = plain[0]
        window = {"least_v": round(first.value * 0.8, 1), "most_v": round(first.value * 1.3, 1)}
        reader.take("accepts", first, window)
    out = reader.find("V", ("output", ""), test=lambda x: not x.ranged)
    reader.take("set_v", out)
    amps, watts = reader.find("A", ("output", "")), reader.find("W", ("output", ""))
    if not reader.take("continuous_a", amps) and watts is not None and out is not None:
        reader.take("continuous_a", watts, round(watts.value / out.value, 3))
        reader.notes.append("Amps from its watts and output volts.")
    reader.take("peak_a", reader.find("A", ("peak",)))
    share = reader.find("%", ("efficiency", ""))
    if share is not None and 50 < share.value <= 100:
        reader.take("full_load", share, {"load_share": 1.0, "efficiency": share.value / 100})
    reader.take("quiescent_w", reader.find("W", ("idle",)))
    if window is not None and out is not None:
        kind = "buck-boost"
        if out.value > window["most_v"]:
            kind = "boost"
        elif out.value < window["least_v"]:
            kind = "buck"
        reader.figures["topology"] = kind


def _charger(reader: _Reader) -> None:
    word = reader.word({"MPPT controller": r"\bmppt\b", "PWM controller": r"\bpwm\b"})
    mains = reader.find("V", ("input", ""), test=lambda x: x.value >= MAINS_FROM_V
                        and not (word and x.wave != "ac"))  # fmt: skip
    if word is not None:
        reader.figures["kind"] = word
    elif mains is not None:
        reader.figures["kind"] = "mains charger"
    else:
        reader.figures["kind"] = "DC-DC charger"
    if mains is not None and word is None:
        least = mains.low if mains.ranged else 0.87 * mains.value
        most = mains.value if mains.ranged else 1.09 * mains.value
        reader.take("accepts", mains, {"least_v": round(least, 1), "most_v": round(most, 1)})
    elif word is not None:
        # A controller is called by the most volts of its panels.
        most_in = reader.find("V", ("input", "open", ""), test=lambda x: x.value > CONTROLLER_V)
        if most_in is not None:
            reader.take("accepts", most_in, {"least_v": CONTROLLER_V, "most_v": most_in.value})
    else:
        _window(reader, ("input", ""))
    holds = ("charge", "output") if word else ("charge", "output", "")
    reader.take("hold_v", reader.find("V", holds))
    # "Solar controller 20 A": what a controller is called by goes into its battery.
    amps = ("charge", "output", "", "input") if word else ("charge", "output", "")
    reader.take("amps", reader.find("A", amps))
    chemistry = reader.word(CHEMISTRIES | {"lithium": r"lithium"})
    if chemistry is not None:
        lithium = chemistry in ("lfp", "nmc", "lithium")
        lead = "flooded" if chemistry == "flooded" else "AGM"
        reader.figures["profile"] = "lithium" if lithium else lead
    share = reader.find("%", ("efficiency", ""))
    if share is not None and 50 < share.value <= 100:
        reader.take("efficiency", share, share.value / 100)
    reader.take("idle_w", reader.find("W", ("idle",)))


def _panel(reader: _Reader) -> None:
    reader.take("watts", reader.find("W", ("", "at most power", "peak", "output", "input")))
    reader.take("voc_v", reader.find("V", ("open",)))
    reader.take("vmp_v", reader.find("V", ("at most power",)))
    reader.take("isc_a", reader.find("A", ("short",)))
    reader.take("imp_a", reader.find("A", ("at most power",)))
    found = re.search(r"voc[^;\n]{0,24}?(-0[.,]\d+)\s*%\s*/\s*(?:°\s?c|k)\b", reader.low)
    if found:
        reader.figures["voc_per_c"] = round(float(found[1].replace(",", ".")) / 100, 6)
        reader.marks.append(LineMark(*found.span(1), "read", "voc per c"))


def _station(reader: _Reader) -> None:
    label = StationLabel(reader.text, reader.quantities, reader.word(CHEMISTRIES))
    label.read()
    reader.figures |= label.figures
    reader.used |= label.used
    for own, found in (
        (reader.marks, label.marks), (reader.notes, label.notes), (reader.problems, label.problems)
    ):  # fmt: skip
        own.extend(found)  # type: ignore[arg-type]


_READS: Final[dict[PartKind, Callable[[_Reader], None]]] = {
    "battery": _battery,
    "inverter": _inverter,
    "converter": _converter,
    "charger": _charger,
    "panel": _panel,
    "station": _station,
}

"""Reads the label of a power station: its Wh, outlets and charge inputs, clause by clause."""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any, Final

from graveljar.core.quick_entry.label_scan import LabelQuantity
from graveljar.core.quick_entry.reading import LineMark
from graveljar.core.quick_entry.tokens import MAINS_FROM_V
from graveljar.core.text import number, quantity

# A port of USB-C gives its most watts at these volts, up to so many watts. USB Power Delivery,
# quoted from memory. [V], [W]
USB_C: Final = ((5.0, 15.0), (9.0, 27.0), (15.0, 45.0), (20.0, 100.0), (28.0, 140.0))
USB_V: Final = 5.0
# What a regulated 12 V outlet of a station usually holds. Common practice. [V]
SOCKET_V: Final = 12.6
# How many outlets of one clause are taken one by one.
MAX_OUTLETS: Final = 4
# Cells in series where nothing is said of them: 24 V inside; 12 V of lead. Common practice.
CELLS: Final = {"lfp": 8, "nmc": 7, "agm": 6, "flooded": 6}
CELL_V: Final = {"lfp": 3.2, "nmc": 3.6, "agm": 2.0, "flooded": 2.0}
_CLAUSE: Final = re.compile(r"[;\n|•·]")
_INPUT: Final = re.compile(
    r"\binput|\bcharg(?:e|ing)\b|\brecharge|\bpv\b|\bsolar\b|\beingang|\bentrée|\bentrada|\blade\w*"
)
_USB_C: Final = re.compile(r"usb[- ]?c|type[- ]?c|\bpd\b")
_USB: Final = re.compile(r"usb")
_SOCKET: Final = re.compile(r"\bcar\b|cigarette|vehicle|dc ?out|\bdc\b|barrel|5\.5 ?mm|12 ?v")
_MAINS: Final = re.compile(r"\bac\b|sine|inverter|outlet|socket|steckdose|prise|enchufe")
_COUNT: Final = re.compile(r"(?<![\w.,])(?P<n>\d)\s*[x×]|[x×]\s*(?P<m>\d)(?![\d.])")
_IDLE: Final = re.compile(r"\bidle|no[- ]?load|stand-?by|own draw|leerlauf")
_MOST: Final = re.compile(r"max\w*\.?\s+(?:total\s+)?(?:input|charg)|total input")


@dataclass(frozen=True)
class _Clause:
    """A clause of the label and the quantities in it."""

    low: str
    quantities: tuple[LabelQuantity, ...]

    def all(self, unit: str, *roles: str) -> list[LabelQuantity]:
        """Its quantities of a unit; of some roles, if any are named."""
        return [x for x in self.quantities if x.unit == unit and (not roles or x.role in roles)]

    def first(self, unit: str, *roles: str) -> LabelQuantity | None:
        """The first of them."""
        return next(iter(self.all(unit, *roles)), None)

    @property
    def count(self) -> int:
        """How many of an outlet it speaks of."""
        found = _COUNT.search(self.low)
        said = int(found["n"] or found["m"]) if found else 1
        return min(max(said, 1), MAX_OUTLETS)


class StationLabel:
    """What has been read of a station's label so far."""

    def __init__(self, text: str, quantities: list[LabelQuantity], chemistry: str | None) -> None:
        self.text, self.chemistry = text, chemistry
        self.clauses = list(_clauses(text, quantities))
        self.figures: dict[str, Any] = {}
        self.marks: list[LineMark] = []
        self.used: set[int] = set()
        self.notes: list[str] = []
        self.problems: list[str] = []
        self.outlets: list[dict[str, Any]] = []
        self.inputs: list[dict[str, Any]] = []
        # Watts that several inputs of one clause have together, counted once too often.
        self.shared_w = 0.0

    def read(self) -> None:
        """Go through its clauses."""
        if self.chemistry is not None:
            self.figures["chemistry"] = self.chemistry
        for clause in self.clauses:
            self._clause(clause)
        self._energy()
        if self.outlets:
            self.figures["outlets"] = self.outlets
        if self.inputs:
            self.figures["inputs"] = self.inputs
            if "most_in_w" not in self.figures:
                total_w = sum(x["most_w"] for x in self.inputs) - self.shared_w
                self.figures["most_in_w"] = total_w
                self.notes.append(
                    f"All inputs together: {quantity(total_w, 'W')}, the sum of theirs. Set it "
                    "lower if its manual says so."
                )

    def _clause(self, clause: _Clause) -> None:
        energy = clause.first("Wh")
        if energy is not None and "label_wh" not in self.figures:
            self._keep("label_wh", energy, energy.value)
        if _IDLE.search(clause.low) and clause.all("W", "idle"):
            self._keep("idle_w", clause.all("W", "idle")[0], clause.all("W", "idle")[0].value)
        elif _MOST.search(clause.low) and not clause.all("V") and clause.all("W"):
            self._keep("most_in_w", clause.all("W")[0], clause.all("W")[0].value)
        elif _INPUT.search(clause.low) and not re.match(r"\s*(?:ac |dc )?out", clause.low):
            self._input(clause)
        elif _USB.search(clause.low) or _USB_C.search(clause.low):
            self._usb(clause)
        elif any(x.value >= MAINS_FROM_V for x in clause.all("V")) or (
            _MAINS.search(clause.low) and clause.all("W") and not clause.all("V")
        ):
            self._sockets(clause)
        elif _SOCKET.search(clause.low) and clause.all("V") and energy is None:
            self._port(clause)

    def _keep(self, name: str, one: LabelQuantity, value: Any) -> None:
        self.figures[name] = value
        self._mark(one, name.replace("_", " "))

    def _mark(self, one: LabelQuantity, words: str) -> None:
        self.used.add(one.start)
        self.marks.append(LineMark(one.start, one.end, "read", words))
        if one.guessed:
            said = self.text[one.start : one.end]
            self.notes.append(f"“{said}” is read as {quantity(one.value, one.unit, 4)}.")

    def _energy(self) -> None:
        """Wh from V x Ah where they are not printed; cells in series from its inner volts."""
        inner = next((c for c in self.clauses if c.all("Ah") and c.all("V")), None)
        cells = CELLS.get(self.chemistry or "lfp", 8)
        if inner is not None:
            charge, volts = inner.first("Ah"), inner.first("V")
            if charge is not None and volts is not None:
                self._mark(charge, "charge of its cells")
                self._mark(volts, "volts of its cells")
                self.figures.setdefault("label_wh", round(charge.value * volts.value, 1))
                cells = max(round(volts.value / CELL_V.get(self.chemistry or "lfp", 3.2)), 1)
        else:
            self.notes.append(f"{cells} cells in series inside are usual; its label does not say.")
        self.figures["cells"] = cells

    def _sockets(self, clause: _Clause) -> None:
        volts = next((x for x in clause.all("V") if x.value >= MAINS_FROM_V), None)
        watts = clause.first("W", "", "output", "charge") or clause.first("VA")
        if watts is None:
            return
        peak, hertz = clause.first("W", "peak"), clause.first("Hz")
        outlet: dict[str, Any] = {
            "kind": "ac", "id": "ac", "name": "AC sockets", "continuous_w": watts.value,
            "surge_w": max(peak.value if peak else 2 * watts.value, watts.value),
        }  # fmt: skip
        self._mark(watts, "watts of its sockets")
        if volts is not None:
            outlet["volts"] = volts.value
            self._mark(volts, "volts of its sockets")
        else:
            self.problems.append("Which mains volts do its sockets give?")
        if peak is not None:
            self._mark(peak, "surge of its sockets")
        if hertz is not None and hertz.value in (50, 60):
            outlet["hz"] = int(hertz.value)
            self._mark(hertz, "frequency")
        if re.search(r"modified|stepped|square|quasi", clause.low):
            outlet["waveform"] = "modified sine"
        self.outlets.append(outlet)

    def _usb(self, clause: _Clause) -> None:
        watts, amps = clause.first("W"), clause.first("A")
        fast = _USB_C.search(clause.low) is not None
        if watts is None and amps is None:
            return
        if fast and watts is not None:
            volts = next((v for v, most_w in USB_C if watts.value <= most_w), USB_C[-1][0])
            each_a = watts.value / volts
        else:
            volts = USB_V
            each_a = amps.value if amps is not None else (watts.value if watts else 0.0) / USB_V
        self._mark(watts if fast and watts is not None else amps or watts or clause.quantities[0],
                   "USB port")  # fmt: skip
        name = "USB-C port" if fast else "USB port"
        for _ in range(clause.count):
            self._add_port(name, volts, each_a, "USB")

    def _port(self, clause: _Clause) -> None:
        volts, amps, watts = clause.first("V"), clause.first("A"), clause.first("W")
        if volts is None or (amps is None and watts is None):
            return
        self._mark(volts, "volts of a port")
        each_a = amps.value if amps is not None else (watts.value / volts.value if watts else 0.0)
        for one in (amps, watts):
            if one is not None:
                self._mark(one, "a port")
        sags = re.search(r"unregulated|sag", clause.low) is not None
        # "12 V" is a class: a regulated socket of it holds somewhat more.
        held_v = SOCKET_V if volts.value == 12.0 else volts.value
        plug = "barrel" if re.search(r"barrel|mm", clause.low) else "vehicle socket"
        for _ in range(clause.count):
            self._add_port("12 V socket" if plug == "vehicle socket" else "DC port",
                           None if sags else held_v, each_a, plug)  # fmt: skip

    def _add_port(self, name: str, volts: float | None, amps: float, plug: str) -> None:
        own = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")
        alike = sum(x["name"].startswith(name) for x in self.outlets)
        self.outlets.append(
            {
                "kind": "dc", "id": f"{own}-{alike + 1}" if alike else own,
                "name": f"{name} {alike + 1}" if alike else name,
                "gives": "sagging" if volts is None else "regulated", "volts": volts,
                "amps": round(amps, 3), "plug": plug,
            }
        )  # fmt: skip

    def _input(self, clause: _Clause) -> None:
        """Every window of a charging clause with the amps and watts behind it."""
        volts, before = clause.all("V"), len(self.inputs)
        most = clause.first("W")
        for n, one in enumerate(volts):
            until = volts[n + 1].start if n + 1 < len(volts) else len(self.text)
            mine = [x for x in clause.quantities if one.start < x.start < until]
            amps = next((x for x in mine if x.unit == "A"), None)
            watts = next((x for x in mine if x.unit == "W"), most)
            self._one_input(clause, one, amps, watts)
        alike = len(self.inputs) - before - 1
        if most is not None and len(clause.all("W")) == 1 and alike > 0:
            self.shared_w += alike * most.value
        if not volts and most is not None and re.search(r"\bac\b|mains|netz", clause.low):
            self._mark(most, "mains charging")
            self._mains_input(None, None, most.value)

    def _one_input(
        self,
        clause: _Clause,
        volts: LabelQuantity,
        amps: LabelQuantity | None,
        watts: LabelQuantity | None,
    ) -> None:
        of_mains = volts.wave == "ac" or (volts.wave != "dc" and volts.low >= MAINS_FROM_V)
        if of_mains and not _is_solar(clause.low):
            most_w = watts.value if watts is not None else amps.value * volts.low if amps else None
            if most_w is None:
                self.problems.append("How many watts does its mains input take?")
                return
            self._mark(volts, "volts of its mains input")
            for one in (amps, watts):
                if one is not None:
                    self._mark(one, "mains charging")
            self._mains_input(volts, amps, most_w)
            return
        if amps is None and watts is None:
            self.problems.append(f"How many amps does it take at {number(volts.value)} V?")
            return
        if not volts.ranged:
            self.problems.append(
                f"Which range of volts does the input of {number(volts.value)} V accept? Its "
                "highest must be known."
            )
            return
        near = self.text[volts.start : (amps or watts or volts).end + 12].lower()
        solar = _is_solar(clause.low) and "car" not in near
        self._mark(volts, "volts of a DC input")
        for one in (amps, watts):
            if one is not None:
                self._mark(one, "a DC input")
        take_a = amps.value if amps is not None else (watts.value if watts else 0.0) / volts.low
        most_w = watts.value if watts is not None else round(take_a * volts.value)
        name = "Solar" if solar else "Car" if "car" in near else "DC"
        self.inputs.append(
            {
                "id": f"dc-{len(self.inputs) + 1}", "name": f"{name} input", "supply": "dc",
                "accepts": {"least_v": volts.low, "most_v": volts.value},
                "modes": [{"name": "One mode", "amps": round(take_a, 3)}], "most_w": most_w,
            }
        )  # fmt: skip

    def _mains_input(
        self, volts: LabelQuantity | None, amps: LabelQuantity | None, most_w: float
    ) -> None:
        ac = next((x for x in self.outlets if x["kind"] == "ac" and "volts" in x), None)
        middle_v = volts.value if volts is not None else ac["volts"] if ac else None
        if middle_v is None:
            self.problems.append("Which mains volts does it charge from?")
            return
        window = {"least_v": round(0.87 * middle_v, 1), "most_v": round(1.09 * middle_v, 1)}
        if volts is not None and volts.ranged:
            window = {"least_v": volts.low, "most_v": volts.value}
        take_a = amps.value if amps is not None else round(most_w / window["least_v"], 2)
        self.inputs.append(
            {
                "id": f"mains-{len(self.inputs) + 1}", "name": "Mains input", "supply": "ac",
                "accepts": window, "modes": [{"name": "Mains", "amps": take_a}], "most_w": most_w,
                "plug": "mains socket", "polarity": "marked",
            }
        )  # fmt: skip


def _is_solar(low: str) -> bool:
    return re.search(r"solar|\bpv\b|\bxt|mppt", low) is not None


def _clauses(text: str, quantities: list[LabelQuantity]) -> Iterator[_Clause]:
    begin = 0
    for match in [*_CLAUSE.finditer(text), None]:
        end = match.start() if match else len(text)
        inside = tuple(x for x in quantities if begin <= x.start < end)
        yield _Clause(text[begin:end].lower(), inside)
        begin = match.end() if match else end

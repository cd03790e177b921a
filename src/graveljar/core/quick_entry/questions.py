"""What a line leaves open, as a question with the lines that would say it plainly."""

from dataclasses import dataclass
from typing import Final

from graveljar.core.components.load import running_w
from graveljar.core.model import Load
from graveljar.core.quick_entry.gather import LineContents
from graveljar.core.quick_entry.tokens import Token
from graveljar.core.text import number, quantity

# Beyond these a reading is asked about first. Ours. [W], [V]
MAX_W: Final = 20_000.0
MIN_V: Final = 3.0
MAX_V: Final = 400.0
# Batteries of more volts than this are not charged from USB. Ours. [V]
USB_BATTERY_V: Final = 5.0


@dataclass(frozen=True)
class QuestionText:
    """A question, and what each answer is called and says in a line."""

    text: str
    ways: tuple[tuple[str, str], ...]


def ask(line: str, said: LineContents, load: Load | None, mains_v: float) -> QuestionText | None:
    """What has to be asked before a line may count; None if nothing. [V]"""
    if said.unsure:
        return _unsure(line, said.unsure[0])
    if said.problems:
        return None
    return _of_battery(line, said, mains_v) or _of_size(line, said, load)


def _of_battery(line: str, said: LineContents, mains_v: float) -> QuestionText | None:
    """Volts and Ah beside watts, or of a battery that USB does not charge."""
    charge, volts = said.quantities.get("Ah"), said.quantities.get("V")
    watts = said.quantities.get("W")
    if charge is None or volts is None or volts.wave:
        return None
    wh = charge.value * volts.value
    if watts is not None:
        return QuestionText(
            (
                f"{watts.text} is power, {charge.text} is the charge of a battery. Which do you "
                "mean?"
            ),
            (
                (f"It draws {watts.text}", _without(line, charge)),
                (f"It charges {quantity(wh, 'Wh')} a day", _charging(line, said, wh)),
            ),
        )
    if volts.value <= USB_BATTERY_V:
        return None
    mains = f"{_cut(line, (charge, ''), (volts, ''))} {wh:g} Wh"
    return QuestionText(
        f"It has a battery of {quantity(wh, 'Wh')}: what charges it?",
        (
            ("Its mains charger", f"{mains} {mains_v:g}V~".strip()),
            (f"{number(volts.value)} V DC", _charging(line, said, wh)),
        ),
    )


def _charging(line: str, said: LineContents, wh: float) -> str:
    """The line of a battery charged once a day from the volts it names."""
    volts = said.quantities["V"]
    gone = [(x, "") for unit, x in said.quantities.items() if unit in ("Ah", "W")]
    return f"{_cut(line, *gone, (volts, f'{volts.value:g}V='))} {wh:g} Wh"


def _of_size(line: str, said: LineContents, load: Load | None) -> QuestionText | None:
    """Power or volts beyond what appliances have."""
    if load is None or said.sure:
        return None
    yes = (("Yes, as written", f"{line} sure"),)
    if running_w(load) > MAX_W:
        what = quantity(running_w(load), "W")
        return QuestionText(f"{what} is more than most systems supply. Is it correct?", yes)
    if not MIN_V <= load.supply.volts <= MAX_V:
        what = quantity(load.supply.volts, "V")
        return QuestionText(f"{what} is unusual for an appliance. Is it correct?", yes)
    return None


def _unsure(line: str, token: Token) -> QuestionText:
    if token.kind == "factor":
        times = number(token.value)
        rest = _without(line, token)
        ways = [(f"It starts at {times} times its watts", f"{rest} start {token.text}")]
        if token.value == int(token.value):
            ways.append((f"{times} of them", f"{int(token.value)} x {rest}"))
        return QuestionText(f"“{token.text}”: a count, or a starting factor?", tuple(ways))
    figure, *unit = token.text.replace("\u00a0", " ").split(" ", 1)
    tail = f" {unit[0]}" if unit else ""
    thousand, decimal = figure.replace(",", ""), f"{float(figure.replace(',', '.')):g}"
    return QuestionText(
        f"“{figure}” can be read in two ways.",
        tuple(
            (f"{plain}{tail}".strip(), f"{line[: token.start]}{plain}{tail}{line[token.end :]}")
            for plain in (thousand, decimal)
        ),
    )


def _without(line: str, gone: Token) -> str:
    return _cut(line, (gone, ""))


def _cut(line: str, *cuts: tuple[Token, str]) -> str:
    """A line with some tokens said differently, or left out."""
    for token, new in sorted(cuts, key=lambda cut: -cut[0].start):
        line = line[: token.start] + new + line[token.end :]
    return " ".join(line.split())

"""What a caution is made of."""

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Final, Literal

from graveljar.core.context import Context

Defer = Literal[
    "the maker's manual",
    "the device maker and a clinician",
    "a licensed electrician",
    "the vehicle's maker or workshop",
    "a veterinarian or breeder",
]


@dataclass(frozen=True)
class Codes:
    """Codes that may apply in a region. Naming them claims nothing about a design."""

    region: str
    names: str


# Named as codes that may apply, by where it is built. From memory.
CODES: Final[Mapping[str, tuple[Codes, ...]]] = MappingProxyType(
    {
        "vehicle": (
            Codes("international", "IEC 60364-7-721"),
            Codes("Europe", "EN 1648"),
            Codes("North America", "NEC 551"),
            Codes("Australia and New Zealand", "AS/NZS 3001"),
        ),
        "boat": (
            Codes("international", "ISO 13297"),
            Codes("North America", "33 CFR 183, ABYC E-11"),
            Codes("Australia and New Zealand", "AS/NZS 3004.2"),
        ),
        "building": (
            Codes("international", "IEC 60364"),
            Codes("Europe", "EN IEC 62485-2"),
            Codes("North America", "NEC 480, NEC 706"),
            Codes("Australia and New Zealand", "AS/NZS 3000, AS/NZS 5139"),
        ),
        "box": (Codes("international", "IEC 60364-5-551"),),
    }
)


@dataclass(frozen=True)
class Caution:
    """A danger of something in the design: what can happen, what to do, whom to ask.

    `subjects` are the ids of what it is tied to; `codes` those that may apply `under_code`.
    """

    code: str
    subjects: tuple[str, ...]
    title: str
    danger: str
    do: tuple[str, ...]
    ask: tuple[Defer, ...] = ()
    under_code: bool = False
    codes: tuple[Codes, ...] = ()


# The ids of what a caution is tied to; it applies if there are any.
Subjects = Callable[[Context], Iterable[str]]

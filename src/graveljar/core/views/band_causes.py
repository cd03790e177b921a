"""What the band of hours depends on, by name, and what to measure next."""

from dataclasses import dataclass
from typing import Final, Literal

from graveljar.core.analysis.draws import UncertainInput, What
from graveljar.core.analysis.uncertainty import uncertainty_of
from graveljar.core.context import Context
from graveljar.core.model import Bank, Converter, Inverter, Provenance
from graveljar.core.text import duration

_WORDS: Final[dict[What, str]] = {
    "demand": "what it draws",
    "losses": "its losses",
    "capacity": "its capacity",
}
# A narrower band by less is not worth a word. Ours. [h]
MIN_NARROWER_H: Final = 1 / 12


@dataclass(frozen=True)
class BandCause:
    """An uncertain figure and its share of the variance of the hours. [1], [h]

    `width_h` is the width of the band once it is measured. `reading` is the kind of reading that
    measures it; "" where none does.
    """

    subject: str
    name: str
    what: str
    provenance: Provenance
    share: float
    width_h: float | None
    reading: Literal["power", "energy", "capacity", "converter", "inverter", ""]


@dataclass(frozen=True)
class BandCauses:
    """What the band depends on, the largest first, and what to measure next in a sentence.

    `width_h` is None where the band has no end. `next_subject` is "" where nothing is worth it.
    """

    width_h: float | None
    causes: tuple[BandCause, ...]
    says: str
    next_subject: str


def band_causes(context: Context) -> BandCauses:
    """Name what the band of a design depends on.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lamp
    >>> [(x.name, x.what) for x in band_causes(Context(lamp())).causes][1]
    ('Lamp', 'what it draws')
    """
    found = uncertainty_of(context.analysis.lowered)
    names = context.network.names
    causes = tuple(
        BandCause(
            x.input.subject,
            names[x.input.subject],
            _WORDS[x.input.what],
            x.input.provenance,
            x.share,
            x.width_h,
            _reading(context, x.input),
        )
        for x in found.shares
    )
    says, subject = _next(found.width_h, causes)
    if found.too_few_draws:
        says = "This design takes too long to run often enough to tell the uncertain figures apart."
    return BandCauses(found.width_h, causes, says, subject)


def _reading(
    context: Context, one: UncertainInput
) -> Literal["power", "energy", "capacity", "converter", "inverter", ""]:
    network = context.network
    if one.what == "demand":
        load = next(x for x in network.design.loads if x.id == one.subject)
        return "power" if load.duty == 1 else "energy"
    if one.what == "capacity":
        return "capacity" if isinstance(network.store(one.subject), Bank) else ""
    stage = next((x for x in network.design.stages if x.id == one.subject), None)
    if isinstance(stage, Converter):
        return "converter"
    return "inverter" if isinstance(stage, Inverter) else ""


def _next(width_h: float | None, causes: tuple[BandCause, ...]) -> tuple[str, str]:
    """The measurement that narrows the band most, in a sentence; "" where none does."""
    if width_h is None:
        return "", ""
    best = min(
        (x for x in causes if x.width_h is not None and x.reading),
        key=lambda x: x.width_h or 0.0,
        default=None,
    )
    if best is None or best.width_h is None or width_h - best.width_h < MIN_NARROWER_H:
        return "", ""
    return (
        f"Measure {best.name} next: the likely range is {duration(width_h)} wide, and "
        f"{duration(best.width_h)} once {best.what} {'are' if best.what == 'its losses' else 'is'} "
        "known.",
        best.subject,
    )

"""Label and measured side by side: which counts, and what the difference does."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from pydantic import JsonValue

from graveljar.core.context import Context
from graveljar.core.errors import InvalidDocument
from graveljar.core.model import Design, MeasuredFigure
from graveljar.core.model.patch import Edit, apply, as_sent
from graveljar.core.readings.places import place_of, values_at

Counts = Literal["label", "measured", "neither"]


@dataclass(frozen=True)
class BothFigures:
    """Figures of a part by its label and as measured, and the hours with each. [h]

    `counts` is "neither" where others were typed since. `with_label`, `with_measured` are the
    hours, None where they have no end. `use_label`, `use_measured` are the edits that make each
    count.
    """

    subject: str
    name: str
    figure: str
    label: str
    measured: str
    conditions: str
    counts: Counts
    with_label: float | None
    with_measured: float | None
    use_label: tuple[Edit, ...]
    use_measured: tuple[Edit, ...]


def both_figures(context: Context) -> tuple[BothFigures, ...]:
    """All figures of a design that were measured, of parts that are there.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lamp
    >>> both_figures(Context(lamp()))
    ()
    """
    return tuple(_all(context))


def _all(context: Context) -> Iterator[BothFigures]:
    design = context.network.design
    for n, one in enumerate(design.measured):
        try:
            at = place_of(context, one.subject)
            now = values_at(design, at, one.measured)
        except (InvalidDocument, LookupError, TypeError):
            # Its part was removed, or is of another kind now.
            continue
        use_label, use_measured = (
            as_sent(design, _edits(n, at, one, which, figures))
            for which, figures in (("label", one.label), ("measured", one.measured))
        )
        by_label, as_measured = (apply(design, edits) for edits in (use_label, use_measured))
        # As a document has them: with all that the figures left out.
        is_measured = values_at(as_measured, at, one.measured) == now
        is_label = values_at(by_label, at, one.measured) == now
        counts: Counts = "measured" if is_measured else "label" if is_label else "neither"
        yield BothFigures(
            one.subject, context.network.names[one.subject], one.name, one.label_says,
            one.measured_says, one.conditions, counts, _hours(by_label), _hours(as_measured),
            use_label, use_measured,
        )  # fmt: skip


def _edits(
    n: int, at: str, one: MeasuredFigure, which: str, figures: dict[str, JsonValue]
) -> tuple[Edit, ...]:
    found = [Edit("replace", f"{at}/{way}", value) for way, value in figures.items()]
    kept = one.model_dump(mode="json") | {"counts": which}
    return (*found, Edit("replace", f"/measured/{n}", kept))


def _hours(design: Design) -> float | None:
    return Context(design).analysis.run.hours

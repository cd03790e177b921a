"""The uncertain inputs of a design, and random draws of them."""

from dataclasses import dataclass
from typing import Final, Literal
from zlib import crc32

import numpy as np

from graveljar.core.kernel.records import Floats
from graveljar.core.lowering.lower import LoweredDesign
from graveljar.core.model import Bank, Feed, Provenance

SPREADS: Final[dict[Provenance, str]] = {
    "measured": "spread_measured",
    "label": "spread_label",
    "rule of thumb": "spread_rule",
    "guess": "spread_guess",
}

What = Literal["losses", "demand", "capacity"]


@dataclass(frozen=True)
class UncertainInput:
    """A figure that is drawn: the losses of a stage, the demand of a load, a store's capacity."""

    subject: str
    what: What
    provenance: Provenance


@dataclass(frozen=True)
class Factors:
    """Factors on losses, demand and capacity, a row for each draw.

    [1], shapes (N, R), (N, L), (N, S)
    """

    on_loss: Floats
    on_demand: Floats
    on_capacity: Floats

    @property
    def draws(self) -> int:
        """How many draws."""
        return len(self.on_loss)

    def rows(self, start: int, end: int) -> "Factors":
        """Some of the draws."""
        return Factors(
            self.on_loss[start:end], self.on_demand[start:end], self.on_capacity[start:end]
        )


def inputs_of(lowered: LoweredDesign) -> tuple[UncertainInput, ...]:
    """Every figure that is drawn: stages, then loads, then stores.

    Parameters
    ----------
    lowered : The design as arrays.

    Returns
    -------
    The inputs, in the order of the columns of their draws.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> [x.what for x in inputs_of(lowered())]
    ['demand', 'capacity']
    """
    sources = ((x.id, x.source) for x in lowered.rails.values())
    return (
        *(
            UncertainInput(name, "losses", source.provenance)
            for name, source in sources
            if not isinstance(source, Bank | Feed)
        ),
        *(UncertainInput(x.id, "demand", x.provenance) for x in lowered.loads),
        *(UncertainInput(x.id, "capacity", x.battery.provenance) for x in lowered.banks),
    )


def draw_all(lowered: LoweredDesign, draws: int) -> Floats:
    """Draws of every uncertain input, even between -1 and 1.

    Each input has its own: an edit elsewhere changes nothing by chance.

    Parameters
    ----------
    lowered : The design as arrays.
    draws : How many, > 0.

    Returns
    -------
    [1], shape (draws, inputs)

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> draw_all(lowered(), 4).shape
    (4, 2)
    """
    columns = [
        np.random.default_rng(crc32(x.subject.encode())).uniform(-1.0, 1.0, draws)
        for x in inputs_of(lowered)
    ]
    return np.array(columns).reshape(-1, draws).T


def factors_of(
    lowered: LoweredDesign, drawn: Floats, measured: UncertainInput | None = None
) -> Factors:
    """Factors on the figures of a design from draws of its inputs.

    Demand and capacity lie between 1 - spread and 1 + spread. The losses of a stage are less sure
    than its watts: they lie between 1 / (1 + k spread) and 1 + k spread, evenly in their logarithm.

    Parameters
    ----------
    lowered : The design as arrays.
    drawn : Of every input, -1 to 1. [1], shape (N, inputs)
    measured : An input that is drawn as if it had been measured.

    Returns
    -------
    A row for each draw.

    Notes
    -----
    Label efficiencies are those of the best load; common practice. k is an assumption.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> float(factors_of(lowered(), np.ones((1, 2))).on_demand[0, 0])  # a tenth above its label
    1.1
    """
    inputs = inputs_of(lowered)
    by_input: dict[tuple[What, str], Floats] = {}
    for column, one in enumerate(inputs):
        spread = lowered.assumed[SPREADS["measured" if one == measured else one.provenance]]
        if one.what == "losses":
            wide = 1.0 + lowered.assumed["spread_of_losses"] * spread
            by_input[one.what, one.subject] = wide ** drawn[:, column]
        else:
            by_input[one.what, one.subject] = 1.0 + spread * drawn[:, column]
    sure = np.ones(len(drawn))
    on_loss = [by_input.get(("losses", name), sure) for name in lowered.rails]
    on_loss += [sure for _ in lowered.links]
    return Factors(
        *(
            np.ascontiguousarray(np.array(columns).reshape(-1, len(drawn)).T)
            for columns in (
                on_loss,
                [by_input["demand", x.id] for x in lowered.loads],
                [by_input["capacity", x.id] for x in lowered.banks],
            )
        )
    )

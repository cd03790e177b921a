"""What a stand-in measures: the run of a design, read at any time."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from graveljar.core.analysis.simulation import every_point
from graveljar.core.context import Context
from graveljar.core.errors import InvalidDocument, Problem
from graveljar.core.model import (
    Anytime,
    Bank,
    ByAmps,
    Charger,
    Design,
    Link,
    Load,
    LoadWindow,
    Mains,
    Supply,
    Window,
)
from graveljar.core.model.fields import MIN_POSITIVE

# So long a run is looked at. [h]
MAX_H = 168.0
# Charge of a bank that a supply begins to charge. [1]
EMPTY = 0.05

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Truth:
    """Volts, amps and charge of one thing over time, and what has flowed. N points.

    [h], [V], [A], [1], [Ah], [Wh], shape (N,)
    """

    hours: Floats
    volts: Floats
    amps: Floats
    charge: Floats
    ah: Floats
    wh: Floats

    def at(self, hour: float) -> dict[str, float]:
        """All of it at an hour; once the run has ended nothing flows."""
        names = ("volts", "amps", "charge", "ah", "wh")
        found = {x: float(np.interp(hour, self.hours, getattr(self, x))) for x in names}
        if hour > self.hours[-1]:
            found["amps"] = 0.0
        return found | {"watts": found["volts"] * found["amps"]}


def truth_of(design: Design, subject: str) -> Truth:
    """The run of a design at one of its stores, stages or loads.

    Raises
    ------
    InvalidDocument : there is no such thing, or it never runs.
    """
    lowered = Context(design).analysis.lowered
    loads = [load.id for load in lowered.loads]
    names = list(lowered.names)
    if subject not in names and subject not in loads:
        message = f"“{subject}” is no store, stage, link or load that runs in this design."
        raise InvalidDocument(message, (Problem("/subject", "unknown_id", message),))
    parts = [tuple(column.copy() for column in points) for points in every_point(lowered, MAX_H)]
    hours, charge, volts, amps, drawn = (np.concatenate(x) for x in zip(*parts, strict=True))
    if subject in loads:
        place = loads.index(subject)
        at_v = volts[:, int(lowered.load_records[place]["rail"])]
        at_a = drawn[:, place]
    else:
        place = names.index(subject)
        at_v, at_a = volts[:, place], amps[:, place]
    store = min(names.index(subject), charge.shape[1] - 1) if subject in names else 0
    steps = np.diff(hours)
    ah = np.concatenate([[0.0], np.cumsum((at_a[1:] + at_a[:-1]) / 2 * steps)])
    watts = at_v * at_a
    wh = np.concatenate([[0.0], np.cumsum((watts[1:] + watts[:-1]) / 2 * steps)])
    return Truth(hours, at_v, at_a, charge[:, store], ah, wh)


def discharged_by(design: Design, subject: str, amps: float, cut_off_v: float) -> Truth:
    """A bank of a design under an electronic load: so many amps from full until its cut-off.

    Raises
    ------
    InvalidDocument : it is no bank.
    """
    bank = _bank(design, subject)
    alone = bank.model_copy(update={"reserve": 0.0, "starts_at": 1.0})
    label_v = bank.battery.volts * bank.series
    load = Load(
        id="electronic-load", name="Electronic load", rail=bank.id,
        supply=Supply(kind="dc", volts=label_v), demand=ByAmps(amps=max(amps, MIN_POSITIVE)),
        draw="constant current", when=Anytime(hours=24.0), priority="must",
        window=LoadWindow(cut_out_v=cut_off_v, most_v=2 * label_v),
    )  # fmt: skip
    made = Design(
        setting=design.setting.model_copy(update={"horizon_h": MAX_H}),
        stores=(alone,), loads=(load,), assumptions=design.assumptions,
    )  # fmt: skip
    return truth_of(made, bank.id)


def charged_by(design: Design, subject: str, volts: float, amps: float) -> Truth:
    """An empty bank of a design at an adjustable supply: amps at first, then volts.

    Raises
    ------
    InvalidDocument : it is no bank.
    """
    bank = _bank(design, subject)
    supply = Charger(
        kind="bench supply", profile="set by hand", amps=max(amps, MIN_POSITIVE), hold_v=volts,
        accepts=Window(least_v=90.0, most_v=265.0),
    )  # fmt: skip
    # The run goes on as long as something runs: next to nothing.
    lamp = Load(
        id="next-to-nothing", name="Next to nothing", rail=bank.id,
        supply=Supply(kind="dc", volts=bank.battery.volts * bank.series),
        demand=ByAmps(amps=MIN_POSITIVE), when=Anytime(hours=24.0),
    )  # fmt: skip
    made = Design(
        setting=design.setting.model_copy(update={"horizon_h": MAX_H}),
        stores=(bank.model_copy(update={"reserve": 0.0, "starts_at": EMPTY}), Mains(id="socket")),
        links=(Link(id="supply", rail="socket", to=bank.id, charger=supply),),
        loads=(lamp,), assumptions=design.assumptions,
    )  # fmt: skip
    found = truth_of(made, bank.id)
    into = np.maximum(-found.amps, 0.0)
    return Truth(found.hours, found.volts, into, found.charge, -found.ah, -found.wh)


def _bank(design: Design, subject: str) -> Bank:
    bank = next((x for x in design.stores if x.id == subject and isinstance(x, Bank)), None)
    if bank is None:
        message = f"“{subject}” is no battery bank."
        raise InvalidDocument(message, (Problem("/subject", "no_bank", message),))
    return bank

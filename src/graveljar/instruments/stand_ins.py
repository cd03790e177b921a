"""Simulated instruments: what each kind reads, with the errors of its class."""

import math
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Final, Literal

import numpy as np

from graveljar.core.model import Design
from graveljar.instruments.truth import Truth, charged_by, discharged_by, truth_of

Kind = Literal["shunt", "clamp", "multimeter", "watt-meter", "display", "supply", "electronic-load"]
Quantity = Literal["volts", "amps", "watts", "ah", "wh", "charge"]

# SCPI-99 vol. 1, 7.2: what is told where a figure is beyond the range. From memory.
OVERLOAD: Final = 9.9e37


@dataclass(frozen=True)
class Accuracy:
    """A figure as a meter shows it: steps, an error of its own, chance, and where it ends."""

    step: float
    gain: float
    offset: float
    noise: float
    most: float


# Classes of meters that people own; common practice.
KINDS: Final[dict[Kind, dict[Quantity, Accuracy]]] = {
    "shunt": {
        "volts": Accuracy(0.01, 0.003, 0.0, 0.0005, 120.0),
        "amps": Accuracy(0.01, 0.004, 0.01, 0.001, 500.0),
        "watts": Accuracy(1.0, 0.007, 0.0, 0.001, 50_000.0),
        "ah": Accuracy(0.1, 0.004, 0.0, 0.0, 10_000.0),
        "wh": Accuracy(1.0, 0.007, 0.0, 0.0, 500_000.0),
        "charge": Accuracy(0.001, 0.0, 0.0, 0.0, 1.0),
    },
    "clamp": {"amps": Accuracy(0.01, 0.02, 0.05, 0.003, 400.0)},
    "multimeter": {"volts": Accuracy(0.01, 0.005, 0.01, 0.0005, 600.0)},
    "watt-meter": {
        "volts": Accuracy(0.1, 0.01, 0.0, 0.001, 260.0),
        "watts": Accuracy(0.1, 0.02, 0.3, 0.002, 3_680.0),
        "wh": Accuracy(1.0, 0.02, 0.0, 0.0, 1_000_000.0),
    },
    "display": {"charge": Accuracy(0.01, 0.0, 0.0, 0.0, 1.0),
                "watts": Accuracy(1.0, 0.03, 0.0, 0.01, 10_000.0)},
    "supply": {
        "volts": Accuracy(0.01, 0.001, 0.0, 0.0002, 60.0),
        "amps": Accuracy(0.01, 0.003, 0.0, 0.0005, 30.0),
        "watts": Accuracy(0.1, 0.004, 0.0, 0.0005, 1_800.0),
    },
    "electronic-load": {
        "volts": Accuracy(0.001, 0.0005, 0.0, 0.0002, 150.0),
        "amps": Accuracy(0.001, 0.001, 0.0, 0.0005, 60.0),
        "watts": Accuracy(0.01, 0.0015, 0.0, 0.0005, 600.0),
        "ah": Accuracy(0.001, 0.001, 0.0, 0.0, 10_000.0),
        "wh": Accuracy(0.01, 0.0015, 0.0, 0.0, 500_000.0),
    },
}  # fmt: skip


# What is switched on, and how that is told in SCPI.
SWITCHED: Final[dict[Kind, str]] = {"supply": "OUTP", "electronic-load": "INP"}


@dataclass
class StandIn:
    """One simulated instrument at a part of a design.

    clock : Seconds, rising. `speed` : So many times as fast as life.
    """

    kind: Kind
    design: Design
    subject: str
    clock: Callable[[], float]
    speed: float = 1.0
    seed: int = 0
    set_a: float = 0.0
    set_v: float = 0.0
    _truth: Truth | None = None
    _began_s: float = 0.0
    _draw: np.random.Generator = field(default_factory=np.random.default_rng)

    def __post_init__(self) -> None:
        self._draw = np.random.default_rng(self.seed)
        self._gains = {q: self._draw.uniform(-1.0, 1.0) for q in KINDS[self.kind]}
        if self.kind not in SWITCHED:
            self._truth = truth_of(self.design, self.subject)
            self._began_s = self.clock()

    @property
    def on(self) -> bool:
        """Whether it runs: meters always, a supply or an electronic load once it is switched on."""
        return self._truth is not None

    @property
    def ended(self) -> bool:
        """Whether its run is over: nothing flows any more."""
        return self._truth is not None and self._hour() > self._truth.hours[-1]

    def _hour(self) -> float:
        return (self.clock() - self._began_s) * self.speed / 3600

    def switch(self, *, on: bool) -> None:
        """Switch it on or off: a load discharges the bank from full, a supply charges it.

        `set_v` is the cut-off of a load, and what a supply holds.
        """
        if not on:
            self._truth = None
        elif self._truth is None and self.kind == "supply":
            self._truth = charged_by(self.design, self.subject, self.set_v, self.set_a)
        elif self._truth is None:
            self._truth = discharged_by(self.design, self.subject, self.set_a, self.set_v)
        self._began_s = self.clock()

    def reads(self, quantity: Quantity) -> float:
        """A figure as it is shown now.

        Raises
        ------
        KeyError : it does not measure that.
        """
        accuracy = KINDS[self.kind][quantity]
        if self._truth is None:
            return 0.0
        true = self._truth.at(self._hour())[quantity]
        own = 1.0 + self._gains[quantity] * accuracy.gain
        value = true * own + accuracy.offset * self._gains[quantity]
        value *= 1.0 + accuracy.noise * float(self._draw.standard_normal())
        if abs(value) > accuracy.most:
            return math.copysign(OVERLOAD, value)
        return round(value / accuracy.step) * accuracy.step

"""The same equations by somebody who knows nothing of sweeps: roots found by bisection.

Reads the document, not the arrays. Every volt and ampere comes from a root of one scalar
equation, rail inside rail; slow, and plain to check by eye.
"""

from collections.abc import Callable
from typing import Any

import numpy as np
from scipy.optimize import brentq

from graveljar.core.components.battery import bank_label, chemistry_of
from graveljar.core.components.stage_loss import loss_of
from graveljar.core.model import Converter, Design, Feed, Inverter, Load
from tests.building import the_bank

ADAPTER = 0.87
JOINT_DROP = 0.01


class Hand:
    """A design with one store, at one time of day."""

    def __init__(self, design: Design) -> None:
        self.design = design
        self.bank = the_bank(design)
        self.rest = bank_label(self.bank)
        self.ah = self.rest.ah

    def open_v(self, charge: float) -> float:
        """Open-circuit volts of the bank."""
        charges, volts = zip(*chemistry_of(self.bank.battery).ocv, strict=True)
        return float(np.interp(charge, charges, volts)) * self.rest.cells

    def costs(self, amps: float) -> float:
        """What a mean current costs over its charge: Peukert 1897, over the 20-hour rate."""
        exponent = chemistry_of(self.bank.battery).peukert
        return float(max(amps / (self.ah / 20), 1.0) ** (exponent - 1))

    def watts(self, load: Load, hour: float) -> float:
        """What a load takes of its rail at a time of day."""
        one: Any = load.demand
        when: Any = load.when
        if when.kind == "windows":
            spans = [(x.from_h, x.from_h + x.hours) for x in when.windows]
        else:
            begin = when.at_h if when.kind == "at" else 0.0
            spans = [(begin, begin + when.hours)]
        inside = any(a <= h < b for a, b in spans for h in (hour, hour + 24))
        running = one.watts * load.duty + load.standby_w * (1 - load.duty)
        return float(running if inside else load.standby_w) * load.count

    def bank_amps(self, charge: float, hour: float) -> float:
        """Current out of the bank."""
        open_v, ohm = self.open_v(charge), self.rest.resistance_ohm

        def excess(volts: float) -> float:
            return (open_v - volts) / ohm - self.drawn_amps(self.bank.id, volts, hour)

        volts = brentq(excess, 0.7 * open_v, open_v, xtol=1e-12)
        return float((open_v - volts) / ohm)

    def drawn_amps(self, rail: str, volts: float, hour: float) -> float:
        """Current drawn from a DC rail at some volts."""
        total = 0.0
        for load in self.design.loads:
            watts = self.watts(load, hour)
            if load.rail == rail and watts:
                total += self._load_amps(load, watts, volts)
        for stage in self.design.stages:
            if stage.rail == rail:
                total += self._stage_amps(stage, volts, hour)
        return total

    def _load_amps(self, load: Load, watts: float, volts: float) -> float:
        ohm = (load.cable_mohm or 0.0) / 1000
        nominal = load.supply.volts
        if load.draw == "constant current":
            return watts / nominal
        if load.draw == "resistive":
            return volts / (nominal**2 / watts + ohm)
        return _power_amps(watts, ohm, volts)

    def _stage_amps(self, stage: Inverter | Converter | Feed, volts: float, hour: float) -> float:
        ohm = (stage.cable_mohm or 0.0) / 1000
        if isinstance(stage, Feed):

            def excess(inner: float) -> float:
                return (volts - inner) / ohm - self.drawn_amps(stage.id, inner, hour)

            inner = brentq(excess, 0.7 * volts, volts, xtol=1e-12)
            return float((volts - inner) / ohm)
        loss = loss_of(stage)
        if isinstance(stage, Inverter):
            given = sum(
                self.watts(x, hour) / (ADAPTER if x.supply.kind == "dc" else 1)
                for x in self.design.loads
                if x.rail == stage.id
            )
            return _power_amps(loss.dc_w(given), ohm, volts)
        if stage.topology == "linear":
            return self.drawn_amps(stage.id, stage.set_v, hour) + loss.p0 / volts
        droop = stage.droop_v / (stage.continuous_a * stage.parallel)
        out_v = stage.set_v
        if droop:
            out_v = brentq(
                lambda v: (stage.set_v - v) / droop - self.drawn_amps(stage.id, v, hour),
                0.5 * stage.set_v, stage.set_v, xtol=1e-12,
            )  # fmt: skip
        given = out_v * self.drawn_amps(stage.id, out_v, hour)
        return _power_amps(loss.dc_w(given), ohm, volts)


def _power_amps(watts: float, ohm: float, volts: float) -> float:
    if not watts:
        return 0.0
    if not ohm:
        return watts / volts
    excess: Callable[[float], float] = lambda v: (volts - v) / ohm - watts / v  # noqa: E731
    inner = brentq(excess, volts / 2, volts, xtol=1e-12)
    return float(watts / inner)

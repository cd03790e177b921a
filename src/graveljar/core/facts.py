"""All that is worked out about a design, once, for figures and findings to draw on."""

from dataclasses import dataclass

from graveljar.core.assumptions import resolve
from graveljar.core.demand import (
    BankDemand,
    Start,
    System,
    Together,
    bank_demand,
    system_of,
    together,
    worst_start,
)
from graveljar.core.document import Bank, Design, Inverter
from graveljar.core.inverter import trusted_surge_w
from graveljar.core.needed import Needed, work_out
from graveljar.core.run import Run, simulate


@dataclass(frozen=True)
class Facts:
    """A design, its system, its run and what follows from them."""

    design: Design
    system: System
    run: Run
    ac: Together
    start: Start | None
    demand: BankDemand
    surge_w: float
    needed: Needed

    @property
    def bank(self) -> Bank:
        """The one store."""
        return self.design.bank

    @property
    def inverter(self) -> Inverter | None:
        """The one stage, if there is one."""
        return self.design.inverter


def gather(design: Design) -> Facts:
    """Work everything out."""
    system = system_of(design, resolve(design.assumptions))
    run = simulate(system)
    ac = together(system, system.ac_loads)
    start = worst_start(system)
    demand = bank_demand(system)
    factor = system.assumed["trusted_surge_factor"]
    needed = work_out(system, run, ac, demand, start.watts if start else 0.0, factor)
    surge_w = trusted_surge_w(design.inverter, factor) if design.inverter else 0.0
    return Facts(design, system, run, ac, start, demand, surge_w, needed)

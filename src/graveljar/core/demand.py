"""What runs at the same time, what starts on top of it, and the amps that makes at the bank.

Everything may run together, except loads that are kept apart from one another: of those
the one that matters most.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property

from graveljar.core.bank import Rest, at_rest
from graveljar.core.document import Design, Load
from graveljar.core.inverter import Loss, calibrate
from graveljar.core.load import at_rail, one_start_w, one_w, running_w
from graveljar.core.window import fit_inverter, fit_load


@dataclass(frozen=True)
class System:
    """A design with what follows from its labels at once; loads that cannot run are left out.

    `ac_loads` hang on a working inverter, `dc_loads` straight on the bank.
    """

    design: Design
    assumed: dict[str, float]
    rest: Rest
    loss: Loss | None
    ac_loads: tuple[Load, ...]
    dc_loads: tuple[Load, ...]

    def ac_w(self, load: Load) -> float:
        """Power all of a load take from their rail while running. [W]"""
        return self._rail_w[load.id]

    @cached_property
    def _rail_w(self) -> dict[str, float]:
        # Asked for over and over, in every segment and start: worked out once.
        inverter = self.design.inverter
        ac_rail = inverter.id if inverter else None
        return {
            load.id: at_rail(running_w(load), load, ac_rail, self.assumed)
            for load in self.design.loads
        }


def system_of(design: Design, assumed: dict[str, float]) -> System:
    """Sort the loads of a design by the path that feeds them."""
    rest = at_rest(design.bank)
    inverter = design.inverter
    works = inverter is not None and fit_inverter(rest, inverter) in ("fits", "other nominal volts")
    able = [load for load in design.loads if fit_load(design, rest, load) == "fits"]
    behind = [load for load in able if inverter is not None and load.rail == inverter.id]
    return System(
        design=design,
        assumed=assumed,
        rest=rest,
        loss=calibrate(inverter) if inverter is not None and works else None,
        ac_loads=tuple(behind) if works else (),
        dc_loads=tuple(load for load in able if load.rail == design.bank.id),
    )


@dataclass(frozen=True)
class Together:
    """All that runs at one time. [W], [VA]; `loads` are on the AC rail."""

    loads: tuple[Load, ...]
    watts: float
    volt_amps: float


def together(system: System, loads: Iterable[Load]) -> Together:
    """The most that runs at one time among some loads: all, but one of those kept apart."""
    loads = tuple(loads)
    apart = sorted((load for load in loads if load.kept_apart), key=system.ac_w)
    running = tuple(load for load in loads if not load.kept_apart) + tuple(apart[-1:])
    return Together(
        running,
        sum(system.ac_w(load) for load in running),
        sum(system.ac_w(load) / load.power_factor for load in running),
    )


@dataclass(frozen=True)
class Start:
    """The worst start: `load` starts while `others` run. [W]"""

    load: Load
    watts: float
    others_w: float
    one_start_w: float


def worst_start(system: System) -> Start | None:
    """Largest single (start - run) on top of everything that runs with it on the AC rail."""
    starts = []
    for load in system.ac_loads:
        rivals = [x for x in system.ac_loads if x is load or not (x.kept_apart and load.kept_apart)]
        running = together(system, [x for x in rivals if x is not load]).watts
        run_w, start_w = _one_at_rail(system, load)
        others_w = running + system.ac_w(load) - run_w
        starts.append(Start(load, others_w + start_w, others_w, start_w))
    return max(starts, key=lambda start: start.watts, default=None)


def _one_at_rail(system: System, load: Load) -> tuple[float, float]:
    scale = system.ac_w(load) / running_w(load)
    return one_w(load) * scale, one_start_w(load, system.assumed) * scale


@dataclass(frozen=True)
class BankDemand:
    """Power drawn from the bank with everything together. [W], [A], [V]

    `quick_a` divides the appliances' watts by the nominal volts; `design_a` the watts drawn,
    losses and all, by the lowest volts, where a constant-power load draws most.
    """

    ac_w: float
    dc_w: float
    drawn_w: float
    lowest_v: float
    quick_a: float
    design_a: float


def bank_demand(system: System) -> BankDemand:
    """Amps the bank has to give when everything runs together."""
    apart = [load for load in (*system.ac_loads, *system.dc_loads) if load.kept_apart]
    # One load of those kept apart runs at a time, wherever it hangs: try each.
    cases = [_drawn(system, only) for only in apart] or [_drawn(system, None)]
    ac_w, dc_w, drawn_w = max(cases, key=lambda case: case[2])
    lowest_v = lowest_volts(system)
    return BankDemand(
        ac_w,
        dc_w,
        drawn_w,
        lowest_v,
        (ac_w + dc_w) / system.rest.nominal_v,
        drawn_w / lowest_v,
    )


def _drawn(system: System, only: Load | None) -> tuple[float, float, float]:
    def runs(load: Load) -> bool:
        return not load.kept_apart or load is only

    ac_w = sum(system.ac_w(load) for load in system.ac_loads if runs(load))
    dc_w = sum(running_w(load) for load in system.dc_loads if runs(load))
    return ac_w, dc_w, dc_w + (system.loss.dc_w(ac_w) if system.loss else 0.0)


def lowest_volts(system: System) -> float:
    """Lowest volts at which the system still runs: the inverter's cut-out or the bank empty. [V]"""
    inverter = system.design.inverter
    if inverter is None or system.loss is None:
        return system.rest.empty_v
    return max(inverter.accepts.least_v, system.rest.empty_v)

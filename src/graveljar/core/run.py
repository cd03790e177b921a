"""How long the bank lasts, what stops it, and where the energy went.

A plain discharge: usable energy against the day's use, to the keep-back or to the
inverter's cut-out under load, whichever comes first.
"""

from dataclasses import dataclass, replace
from typing import Literal

from graveljar.core.bank import (
    at_rest,
    charge_at_open_circuit,
    chemistry_of,
    peukert_capacity,
    peukert_exponent,
    temperature_factor,
)
from graveljar.core.day import DAY_H, Day, lay_out
from graveljar.core.demand import System, bank_demand

Cause = Literal["keep-back", "inverter cut-out", "nothing drains it", "nothing can run"]


@dataclass(frozen=True)
class Usable:
    """What may be taken out, as factors on the label and as energy. [1], [Wh]"""

    share: float
    temperature: float
    peukert: float
    wh: float


@dataclass(frozen=True)
class Run:
    """The discharge of a design from full.

    hours : Until the first stop; None if nothing drains the bank. [h]
    ac_hours, dc_hours : How long each side is served; None without end. [h]
    cut_out_charge : Charge share at which the inverter cuts out under load; None if it does
        even when full, or if there is none to cut out. [1]
    left_wh : Left above the keep-back when the last load has stopped. [Wh]
    """

    usable: Usable
    day: Day
    hours: float | None
    cause: Cause
    ac_hours: float | None
    dc_hours: float | None
    cut_out_charge: float | None
    sags_at_once: bool
    left_wh: float


def peukert_factor(system: System, day: Day) -> float:
    """Share of the label's Ah a lead-acid bank gives at the day's currents. [1]

    Each stretch of the day counts by what it would take of the bank alone. Below the rated
    current no gain is counted. Source: Peukert 1897.
    """
    kind = chemistry_of(system.design.bank.battery)
    exponent = peukert_exponent(system.design.bank.battery)
    drawn_ah = counted_ah = 0.0
    for segment in day.segments:
        amps = segment.drawn_w / system.rest.nominal_v
        drawn_ah += amps * segment.hours
        costs = 1.0
        if amps * kind.rated_h > system.rest.ah:
            costs = system.rest.ah / peukert_capacity(system.rest.ah, kind.rated_h, amps, exponent)
        counted_ah += amps * segment.hours * costs
    return drawn_ah / counted_ah if counted_ah else 1.0


def usable_of(system: System, day: Day) -> Usable:
    """Nominal Wh x usable share x temperature factor x Peukert factor."""
    bank = system.design.bank
    share = 1.0 - bank.keep_back
    temperature = temperature_factor(bank.battery, system.design.setting.ambient_c)
    peukert = peukert_factor(system, day)
    return Usable(share, temperature, peukert, system.rest.wh * share * temperature * peukert)


def usable_with(system: System, day: Day, series: int, parallel: int) -> Usable:
    """What could be taken out of the same batteries joined otherwise, at the same day's watts."""
    bank = system.design.bank.model_copy(update={"series": series, "parallel": parallel})
    design = system.design.model_copy(update={"stores": (bank,)})
    return usable_of(replace(system, design=design, rest=at_rest(bank)), day)


def _cut_out(system: System) -> tuple[float | None, bool]:
    """Charge at which the inverter cuts out under load, and whether it does so even when full."""
    inverter = system.design.inverter
    if inverter is None or system.loss is None:
        return None, False
    # Open-circuit volts that leave just the cut-out at the terminals: E = V + I R.
    open_v = inverter.accepts.least_v + bank_demand(system).design_a * system.rest.resistance_ohm
    charge = charge_at_open_circuit(system.design.bank, open_v)
    return charge, charge is None


def simulate(system: System) -> Run:
    """Discharge from full until everything has stopped."""
    charge, sags_at_once = _cut_out(system)
    has_ac = system.loss is not None
    day = lay_out(system, with_ac=has_ac and not sags_at_once)
    usable = usable_of(system, day)
    keep_back = system.design.bank.keep_back
    stops_early = charge is not None and charge > keep_back and bool(system.ac_loads)
    if not day.wh:
        cause: Cause = "nothing can run" if system.design.loads else "nothing drains it"
        hours = 0.0 if system.design.loads else None
        return Run(usable, day, hours, cause, hours, hours, charge, sags_at_once, usable.wh)
    if not stops_early or charge is None:
        dc_hours = usable.wh / day.wh * DAY_H
        if sags_at_once and system.ac_loads:
            return Run(usable, day, 0.0, "inverter cut-out", 0.0, dc_hours, charge, True, 0.0)
        return Run(
            usable, day, dc_hours, "keep-back", dc_hours, dc_hours, charge, sags_at_once, 0.0
        )
    ac_wh = usable.wh * (1.0 - charge) / usable.share
    ac_hours = ac_wh / day.wh * DAY_H
    rest_wh = usable.wh - ac_wh
    rest_day = lay_out(system, with_ac=False)
    if not rest_day.wh:
        return Run(
            usable, day, ac_hours, "inverter cut-out", ac_hours, ac_hours, charge, False, rest_wh
        )
    dc_hours = ac_hours + rest_wh / rest_day.wh * DAY_H
    return Run(usable, day, ac_hours, "inverter cut-out", ac_hours, dc_hours, charge, False, 0.0)

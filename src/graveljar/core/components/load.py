"""Loads: watts from a nameplate, energy a day, starting power.

Everything here is for all `count` appliances of a load together, unless it says "one".
"""

from typing import Final

from graveljar.core.model import (
    ByAmps,
    ByEnergy,
    ByWatts,
    Load,
    StartMeasured,
    StartNone,
)
from graveljar.core.tables.dependants import Depends, suggested

# Which assumption rules the start of a nature; the others start at their running watts.
START_RULES: Final = {
    "compressor": "start_factor_compressor",
    "motor": "start_factor_motor",
    "tool": "start_factor_tool",
}
# The same where they are made for a battery: electronic soft starts, and small brushed motors.
DC_START_RULES: Final = {
    "compressor": "start_factor_dc_compressor",
    "motor": "start_factor_dc_motor",
}
SMALL_DC_V: Final = 60.0
# Natures whose motor draws more on a stepped wave.
HEATED_BY_STEPS: Final = ("motor", "compressor")
# Natures whose motor, sound or patient suffers from a stepped waveform.
WANTS_SINE: Final = ("motor", "compressor", "audio", "medical")


def depends_on(load: Load) -> Depends:
    """Whose health or life depends on a load: as stated, else by its kind and name.

    Parameters
    ----------
    load : Of a design.

    Returns
    -------
    "nobody", "a person" or "an animal".

    Examples
    --------
    >>> lamp = Load(id="lamp", name="Lamp", rail="bank", supply={"kind": "dc", "volts": 12.0},
    ...             demand={"kind": "watts", "watts": 8.0})
    >>> depends_on(lamp)
    'nobody'
    """
    if load.depends is not None:
        return load.depends
    return "a person" if load.nature == "medical" else suggested(load.name)


def one_w(load: Load) -> float:
    """Power of one appliance while it runs.

    Watts if printed; else V x A (times the power factor on AC); else the energy of a day over
    the hours in which it is used.

    Parameters
    ----------
    load : Of a design.

    Returns
    -------
    Power, > 0. [W]

    Notes
    -----
    Definition.

    Examples
    --------
    >>> from graveljar.core.model import Supply
    >>> heater = Load(id="a", name="a", rail="bank", supply=Supply(kind="ac", volts=240),
    ...               demand=ByAmps(amps=1))
    >>> one_w(heater)
    240.0
    """
    match load.demand:
        case ByWatts(watts=watts):
            return watts
        case ByAmps(amps=amps):
            factor = load.power_factor if load.supply.kind == "ac" else 1.0
            return load.supply.volts * amps * factor
        case ByEnergy(wh=wh):
            return wh / (load.hours_per_day * load.duty)


def top_w(load: Load) -> float:
    """Highest power of all appliances of a load while they run: the top of a printed range.

    Parameters
    ----------
    load : Of a design.

    Returns
    -------
    Power, >= `running_w(load)`. [W]

    Examples
    --------
    >>> lamp = Load(id="lamp", name="Lamp", rail="bank", supply={"kind": "dc", "volts": 12.0},
    ...             demand={"kind": "watts", "watts": 8.0, "top_w": 10.0}, count=2)
    >>> top_w(lamp)
    20.0
    """
    if isinstance(load.demand, ByWatts) and load.demand.top_w is not None:
        return load.demand.top_w * load.count
    return running_w(load)


def running_w(load: Load) -> float:
    """Power of all appliances of a load while they run.

    Parameters
    ----------
    load : Of a design.

    Returns
    -------
    Power, > 0. [W]

    Examples
    --------
    >>> lamp = Load(id="lamp", name="Lamp", rail="bank", supply={"kind": "dc", "volts": 12.0},
    ...             demand={"kind": "watts", "watts": 8.0}, count=2)
    >>> running_w(lamp)
    16.0
    """
    return one_w(load) * load.count


def running_h(load: Load) -> float:
    """Hours a day at full watts: hours x duty.

    Parameters
    ----------
    load : Of a design.

    Returns
    -------
    Hours a day, 0 to 24. [h]

    Examples
    --------
    >>> lamp = Load(id="lamp", name="Lamp", rail="bank", supply={"kind": "dc", "volts": 12.0},
    ...             demand={"kind": "watts", "watts": 8.0},
    ...             duty=0.5, when={"kind": "hours", "hours": 4.0})
    >>> running_h(lamp)
    2.0
    """
    return load.hours_per_day * load.duty


def day_wh(load: Load) -> float:
    """Energy of a day at the appliances: W x hours x duty + standby W x hours waiting.

    Parameters
    ----------
    load : Of a design.

    Returns
    -------
    Energy of all of them, >= 0. [Wh]

    Notes
    -----
    Definition.

    Examples
    --------
    >>> lamp = Load(id="lamp", name="Lamp", rail="bank", supply={"kind": "dc", "volts": 12.0},
    ...             demand={"kind": "watts", "watts": 8.0},
    ...             when={"kind": "hours", "hours": 4.0})
    >>> day_wh(lamp)
    32.0
    """
    return running_w(load) * running_h(load) + load.standby_w * load.count * standby_h(load)


def standby_h(load: Load) -> float:
    """Hours a day plugged in but not running.

    Parameters
    ----------
    load : Of a design.

    Returns
    -------
    Hours a day, >= 0; 0 without standby watts. [h]

    Examples
    --------
    >>> lamp = Load(id="lamp", name="Lamp", rail="bank", supply={"kind": "dc", "volts": 12.0},
    ...             demand={"kind": "watts", "watts": 8.0})
    >>> standby_h(lamp)
    0.0
    """
    return max(load.plugged_in_h - running_h(load), 0.0) if load.standby_w else 0.0


def start_factor(load: Load, assumed: dict[str, float]) -> float:
    """Starting power as a multiple of the running watts: as stated, else by the rule of its kind.

    Parameters
    ----------
    load : Of a design.
    assumed : Assumptions by key; the rules `start_factor_*` are used.

    Returns
    -------
    Factor on the running watts of one. [1]

    Notes
    -----
    Common practice.

    Examples
    --------
    >>> lamp = Load(id="lamp", name="Lamp", rail="bank", supply={"kind": "dc", "volts": 12.0},
    ...             demand={"kind": "watts", "watts": 8.0},
    ...             start={"method": "none"})
    >>> start_factor(lamp, {})
    1.0
    """
    if isinstance(load.start, StartMeasured):
        return load.start.watts / one_w(load)
    if isinstance(load.start, StartNone):
        return 1.0
    if load.start.factor is not None:
        return load.start.factor
    rule = start_rule(load.nature, load.supply.kind, load.supply.volts)
    return assumed[rule] if rule else 1.0


def start_rule(nature: str, kind: str, volts: float) -> str | None:
    """The assumption that rules the start of a kind of load on its supply.

    Parameters
    ----------
    nature : Kind of load, as in `tables.appliances.Nature`.
    kind : "ac" or "dc".
    volts : Nominal volts of the supply, > 0. [V]

    Returns
    -------
    Its key; None where the kind starts at its running watts.

    Examples
    --------
    >>> start_rule("compressor", "ac", 230), start_rule("compressor", "dc", 12)
    ('start_factor_compressor', 'start_factor_dc_compressor')
    """
    if kind == "dc" and volts <= SMALL_DC_V and nature in DC_START_RULES:
        return DC_START_RULES[nature]
    return START_RULES.get(nature)


def one_start_w(load: Load, assumed: dict[str, float]) -> float:
    """Power of one appliance at its start.

    Parameters
    ----------
    load : Of a design.
    assumed : Assumptions by key; the rules `start_factor_*` are used.

    Returns
    -------
    Power, > 0. [W]

    Examples
    --------
    >>> lamp = Load(id="lamp", name="Lamp", rail="bank", supply={"kind": "dc", "volts": 12.0},
    ...             demand={"kind": "watts", "watts": 8.0},
    ...             start={"method": "none"})
    >>> one_start_w(lamp, {})
    8.0
    """
    return one_w(load) * start_factor(load, assumed)

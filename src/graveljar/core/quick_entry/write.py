"""A load as a line that quick entry reads as that load."""

from graveljar.core.model import (
    Anytime,
    AtTime,
    ByAmps,
    ByEnergy,
    ByWatts,
    Load,
    StartFactor,
    StartMeasured,
)

DAY_H = 24.0


def write_line(load: Load) -> str:
    """The line of a load: its name, volts, power or energy, time, start and standby.

    Examples
    --------
    >>> from graveljar.core.model import Supply
    >>> write_line(Load(id="a", name="Kettle", rail=None, supply=Supply(kind="ac", volts=230),
    ...                 demand=ByWatts(watts=900), when=Anytime(hours=0.3)))
    'Kettle 230V~ 900W 0.3h nice'
    """
    parts = [f"{load.count} x {load.name}"] if load.count > 1 else [load.name]
    parts.append(f"{load.supply.volts:g}V{'~' if load.supply.kind == 'ac' else '='}")
    parts += [_demand(load), *_when(load)]
    if load.once:
        parts.append("once")
    if load.duty < 1:
        parts.append(f"{_plain(load.duty * 100)}%")
    if load.power_factor < 1:
        parts.append(f"pf {_plain(load.power_factor)}")
    if load.standby_w:
        parts.append(f"standby {_plain(load.standby_w)}W")
    if isinstance(load.start, StartMeasured):
        parts.append(f"start {_plain(load.start.watts)}W")
    elif isinstance(load.start, StartFactor) and load.start.factor is not None:
        parts.append(f"start x{_plain(load.start.factor)}")
    if load.window is not None:
        parts += [f"cut-out {_plain(load.window.cut_out_v)}V", f"max {_plain(load.window.most_v)}V"]
        if load.window.restarts_v is not None:
            parts.append(f"restart {_plain(load.window.restarts_v)}V")
    parts.append(load.priority)
    if load.provenance in ("measured", "guess"):
        parts.append(load.provenance)
    return " ".join(parts)


def _demand(load: Load) -> str:
    match load.demand:
        case ByWatts(watts=watts, top_w=None):
            return f"{_plain(watts)}W"
        case ByWatts(watts=watts, top_w=top_w):
            return f"{_plain(2 * watts - (top_w or watts))}-{_plain(top_w or watts)}W"
        case ByAmps(amps=amps):
            return f"{_plain(amps)}A"
        case ByEnergy(wh=wh):
            whole_day = isinstance(load.when, Anytime) and load.when.hours == DAY_H
            return f"{_plain(wh)}Wh/day" if whole_day else f"{_plain(wh)}Wh"


def _when(load: Load) -> list[str]:
    match load.when:
        case Anytime(hours=hours):
            return [f"{_plain(hours)}h"]
        case AtTime(at_h=at_h, hours=hours):
            return [f"{_clock(at_h)}-{_clock((at_h + hours) % DAY_H)}"]
        case between:
            return [f"{_clock(x.from_h)}-{_clock(x.to_h)}" for x in between.windows]


def _plain(value: float) -> str:
    """A number with all its digits and no exponent."""
    return f"{value:.6f}".rstrip("0").rstrip(".")


def _clock(hours: float) -> str:
    minutes = round(hours * 60)
    return f"{minutes // 60:02d}:{minutes % 60:02d}"

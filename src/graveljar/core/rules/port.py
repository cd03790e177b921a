"""Rules about what is plugged into a station's DC ports: polarity, plug, the switch for volts."""

from collections.abc import Iterator
from typing import Final

from graveljar.core.context import Context
from graveljar.core.limits import exceeds
from graveljar.core.model import DcPort, Load, Polarity, Station
from graveljar.core.model.patch import Edit
from graveljar.core.network.windows import accepted_window
from graveljar.core.rules.finding import Finding, Remedy, Rule
from graveljar.core.text import listed, quantity

_CENTRE: Final[tuple[Polarity, ...]] = ("centre positive", "centre negative")


def _plugged(context: Context) -> Iterator[tuple[Station, DcPort, Load]]:
    """Every DC appliance that is plugged straight into a DC port."""
    for station in context.network.design.stores:
        if not isinstance(station, Station):
            continue
        for outlet in station.outlets:
            for load in context.network.design.loads:
                if load.rail == outlet.id and outlet.kind == "dc" and load.supply.kind == "dc":
                    yield station, outlet, load


def reversed_polarity(context: Context) -> Iterator[Finding]:
    """`station.port_reversed`: plus is at the centre of one plug and outside on the other.

    Common practice: reversed polarity destroys most electronics at once.
    """
    for station, port, load in _plugged(context):
        known = port.polarity in _CENTRE and load.polarity in _CENTRE
        if not known or port.polarity == load.polarity:
            continue
        fitting = [
            x for x in station.outlets
            if x.kind == "dc" and x.volts == port.volts and x.polarity == load.polarity
        ]  # fmt: skip
        edits = tuple(
            (x, Edit("replace", f"{context.network.load_path(load)}/rail", x.id)) for x in fitting
        )
        yield Finding(
            "station.port_reversed",
            "stop",
            load.id,
            f"{load.name} needs {load.polarity}; {port.name} of {station.name} is {port.polarity}",
            "Plus and minus would be reversed, which destroys most electronics at once.",
            (),
            (
                *(Remedy(f"Plug it into {x.name}.", (edit,)) for x, edit in edits),
                Remedy(
                    "Use an adapter cable that swaps plus and minus, mark it, and measure the "
                    "polarity at its end before you plug it in."
                ),
            ),
            ("trade",),
        )


def switchable(context: Context) -> Iterator[Finding]:
    """`station.port_switch`: one turn of a port's switch gives an appliance too many volts."""
    for _, port, load in _plugged(context):
        window = load.window
        most_v = accepted_window(load).most_v if window is None else window.most_v
        above = [volts for volts in port.selects_v if exceeds(volts, most_v)]
        if not above or (port.volts or 0.0) in above:
            continue
        settings = listed([quantity(volts, "V") for volts in sorted(above)])
        yield Finding(
            "station.port_switch",
            "watch",
            load.id,
            f"{load.name} accepts {quantity(most_v, 'V')}; {port.name} can be switched to "
            f"{settings}",
            "One turn of its switch damages what is plugged in.",
            (),
            (
                Remedy(
                    f"Fix the switch at {quantity(port.volts or 0.0, 'V')} with tape, and measure "
                    "before each plug-in."
                ),
            ),
            ("trade",),
        )


def other_plug(context: Context) -> Iterator[Finding]:
    """`station.port_plug`: the plug of an appliance does not go into its port."""
    for station, port, load in _plugged(context):
        if load.plug is None or load.plug == port.plug:
            continue
        yield Finding(
            "station.port_plug",
            "note",
            load.id,
            f"{load.name} has a plug of kind {load.plug}; {port.name} of {station.name} is of "
            f"kind {port.plug}",
            "An adapter goes between: rated for the current, with plus on the side that the "
            "label shows.",
            (),
            (Remedy("Measure volts and polarity at the end of the adapter."),),
            ("trade",),
        )


def setting_that_fits(context: Context, load: Load) -> Remedy | None:
    """Turn the switch of its port to volts that fit all that is plugged in there, if it has them.

    The setting nearest to the label of the load is taken.
    """
    network = context.network
    for s, store in enumerate(network.design.stores):
        for o, port in enumerate(getattr(store, "outlets", ())):
            if port.id != load.rail or port.kind != "dc":
                continue
            mine = [x for x in network.design.loads if x.rail == port.id]
            others = any(x.rail == port.id for x in (*network.design.stages, *network.design.links))
            fitting = [v for v in port.selects_v if v != port.volts and _suits(mine, v)]
            if others or not fitting:
                return None
            volts = min(fitting, key=lambda v: abs(v - load.supply.volts))
            edit = Edit("replace", f"/stores/{s}/outlets/{o}/volts", volts)
            return Remedy(f"Set {port.name} to {quantity(volts, 'V')}.", (edit,))
    return None


def _suits(loads: list[Load], volts: float) -> bool:
    """Whether so many volts lie within what every appliance is made for. [V]"""
    for load in loads:
        if load.supply.kind != "dc":
            return False
        if load.window is not None:
            if not load.window.cut_out_v <= volts <= load.window.most_v:
                return False
            continue
        usual = accepted_window(load)
        if volts < usual.least_v or exceeds(volts, usual.fits_to_v):
            return False
    return True


PORT_RULES: Final[tuple[Rule, ...]] = (reversed_polarity, switchable, other_plug)

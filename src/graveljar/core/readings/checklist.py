"""What to measure on a design, in the order of the bench: before the first plug-in, at work."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from graveljar.core.components.battery import bank_label, chemistry_of
from graveljar.core.components.load import one_w
from graveljar.core.context import Context
from graveljar.core.model import Converter, DcPort, Inverter, Link, Load, Station
from graveljar.core.readings.of_joints import WARM_K, expected_volts
from graveljar.core.text import number, quantity

# Places that are looked at for heat: those of most amps. Ours.
MAX_WARM_PLACES = 3
Stage = Literal["before", "at work", "now and then"]


@dataclass(frozen=True)
class Check:
    """A thing to measure: the kind of reading, on which part, what the plan expects, and why.

    `when`: before the first plug-in, at work, or now and then.
    """

    kind: str
    subject: str
    name: str
    when: Stage
    expected: str
    why: str


def checklist(context: Context) -> tuple[Check, ...]:
    """Everything worth measuring on a design, in order.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lamp
    >>> [check.kind for check in checklist(Context(lamp()))][:2]
    ['rested', 'sag']
    """
    return (*_before(context), *_at_work(context), *_now_and_then(context))


def _before(context: Context) -> Iterator[Check]:
    network = context.network
    for bank in network.banks:
        kind, label = chemistry_of(bank.battery), bank_label(bank)
        low_v, high_v = kind.ocv[0][1] * label.cells, kind.ocv[-1][1] * label.most_cells
        yield Check(
            "rested", bank.id, f"{bank.name}, rested", "before",
            f"{number(low_v)} to {quantity(high_v, 'V')}", "Its cells and its charge.",
        )  # fmt: skip
    fed = {x.rail for x in (*network.stages, *network.design.links, *network.design.loads)}
    for rail in network.rails.values():
        if rail.id not in fed or rail.inside or rail.panels or rail.id in network.banks_by_id:
            continue
        low_v, high_v = expected_volts(rail)
        mains = " At a socket, with a meter made for it." if rail.kind == "ac" else ""
        yield Check(
            "volts", rail.id, f"{network.names[rail.id]}, nothing plugged in", "before",
            f"{number(low_v)} to {quantity(high_v, 'V')}",
            f"Before anything is plugged into it.{mains}",
        )  # fmt: skip
    for link in network.design.links:
        shown = _polarity_of(context, link)
        if shown:
            yield Check(
                "polarity", link.id, f"{link.name}, the plug", "before", shown,
                "Reversed polarity destroys an input at once.",
            )  # fmt: skip

    for load in network.design.loads:
        port = _port_of(context, load)
        if port is not None and (port.plug == "barrel" or load.polarity != "unknown"):
            shown = load.polarity if load.polarity.startswith("centre") else "as its label shows"
            yield Check(
                "polarity", load.id, f"{load.name}, the plug at {port.name}", "before", shown,
                "Reversed polarity destroys electronics at once.",
            )  # fmt: skip


def _port_of(context: Context, load: Load) -> DcPort | None:
    """The DC port of a station that an appliance is plugged into."""
    ports = (x for store in context.network.design.stores for x in getattr(store, "outlets", ()))
    return next((x for x in ports if x.id == load.rail and x.kind == "dc"), None)


def _polarity_of(context: Context, link: Link) -> str:
    """How the label of a station's DC input has it; nothing for others."""
    store = context.network.store(link.to)
    port = store.input(link.input) if isinstance(store, Station) else None
    if port is None or port.supply != "dc":
        return ""
    return "as marked on it" if port.polarity == "marked" else port.polarity


def _at_work(context: Context) -> Iterator[Check]:
    network = context.network
    yield from _stages_at_work(context)
    for bank in network.banks:
        ohm = bank_label(bank).resistance_ohm
        yield Check(
            "sag", bank.id, f"{bank.name}, volts before and under load", "at work",
            f"about {quantity(ohm * 1000, 'mΩ', 2)}", "Its resistance, contacts and all.",
        )  # fmt: skip
    for load in network.design.loads:
        yield Check(
            "power", load.id, f"{load.name}, running", "at work", quantity(one_w(load), "W"),
            "A measured figure beats a label.",
        )  # fmt: skip
    for link in network.design.links:
        if network.station(link.to) is not None:
            yield Check(
                "input", link.id, f"{link.name}, what goes in", "at work",
                quantity(context.analysis.link_operations[link.id].full.watts, "W"),
                "Half a minute after it was joined: the wrong plug keeps it in its slow mode.",
            )  # fmt: skip
    for one in sorted(context.cables.values(), key=lambda x: -x.run.amps.design)[:MAX_WARM_PLACES]:
        yield Check(
            "heat", one.run.subject, f"{one.run.name}, after an hour", "at work",
            f"less than {quantity(WARM_K, 'K')} above the air",
            f"It carries {quantity(one.run.amps.design, 'A')}. Back of the hand, on insulation.",
        )  # fmt: skip


def _stages_at_work(context: Context) -> Iterator[Check]:
    """Idle draw and efficiency of what is not built into a station."""
    network = context.network
    built_in = {x.id for store in network.design.stores for x in getattr(store, "outlets", ())}
    for stage in network.stages:
        if stage.id in built_in or not isinstance(stage, Inverter | Converter):
            continue
        watts = stage.idle_w if isinstance(stage, Inverter) else stage.quiescent_w * stage.parallel
        yield Check(
            "idle", stage.id, f"{stage.name}, nothing on", "at work", quantity(watts, "W"),
            "It draws this all day.",
        )  # fmt: skip
    for stage in network.inverters:
        if stage.id not in built_in:
            share = quantity(stage.full_load.efficiency, "share")
            yield Check(
                "inverter", stage.id, f"{stage.name}, under load", "at work",
                f"{share} at full load", "What it loses, and whether its volts hold.",
            )  # fmt: skip
    for stage in network.converters:
        if stage.id not in built_in:
            share = quantity(stage.full_load.efficiency, "share")
            yield Check(
                "converter", stage.id, f"{stage.name}, under load", "at work",
                f"{quantity(stage.set_v, 'V')}, {share}", "Its efficiency and how far it droops.",
            )  # fmt: skip


def _now_and_then(context: Context) -> Iterator[Check]:
    network = context.network
    for bank in network.banks:
        label = quantity(bank_label(bank).ah, "Ah")
        yield Check(
            "capacity", bank.id, f"{bank.name}, a capacity test", "now and then", label,
            "With an automatic cut-off; recharged at once.",
        )  # fmt: skip
    for store in network.design.stores:
        if isinstance(store, Station):
            yield from _of_station(store)
    yield from _loads_over_hours(context)
    for store in network.design.stores:
        if isinstance(store, Station) and _on_mains(context, store):
            yield Check(
                "changeover", store.id, f"{store.name}, the mains pulled", "now and then",
                "no break", "Whether what must not stop goes on.",
            )  # fmt: skip
    for stage in network.inverters:
        if stage in network.design.stages:
            yield Check(
                "limit", stage.id, f"{stage.name}, loads one by one", "now and then",
                quantity(stage.continuous_w, "W", 4), "Cheap ones carry less than their label.",
            )  # fmt: skip


def _loads_over_hours(context: Context) -> Iterator[Check]:
    """What hours and energy tell of loads."""
    network = context.network
    held = {bank.id for bank in network.held}
    for load in network.design.loads:
        rail = network.rails.get(load.rail or "")
        if load.priority == "must" and rail is not None and rail.store in held:
            yield Check(
                "lasted", load.id, f"{load.name}, by the hours it ran", "now and then",
                f"{quantity(one_w(load) * load.duty, 'W')} on average",
                "Charge before and after and the hours between tell its watts, without a meter.",
            )  # fmt: skip
    for load in network.design.loads:
        if load.duty < 1:
            yield Check(
                "energy", load.id, f"{load.name}, over a night", "now and then",
                f"{quantity(one_w(load) * load.duty, 'W')} on average",
                "What goes on and off is known by its energy.",
            )  # fmt: skip


def _of_station(station: Station) -> Iterator[Check]:
    """From full to empty at its first outlet, and where it begins to charge slower."""
    for outlet in station.outlets[:1]:
        held = station.measured_wh or station.label_wh * station.usable_share
        yield Check(
            "station", outlet.id, f"{station.name}, from full to empty at {outlet.name}",
            "now and then", f"{quantity(held, 'Wh', 4)} at its battery, less its losses",
            "A small steady load and a meter that counts Wh.",
        )  # fmt: skip
    yield Check(
        "taper", station.id, f"{station.name}, where it begins to charge slower", "now and then",
        quantity(station.taper_from, "share"), "Its display rounds: the last per cent take long.",
    )  # fmt: skip


def _on_mains(context: Context, station: Station) -> bool:
    """Whether a station is fed by its mains input, past which its sockets are."""
    ports = [station.input(x.input) for x in context.network.design.links if x.to == station.id]
    return any(port is not None and port.supply == "ac" for port in ports)

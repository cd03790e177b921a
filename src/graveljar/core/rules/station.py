"""Rules about stations and vehicles: pass-through, sleep, ports, the engine."""

from collections.abc import Iterator
from itertools import pairwise
from typing import Final

from graveljar.core.components.fuse import runs_hot
from graveljar.core.context import Context
from graveljar.core.limits import exceeds
from graveljar.core.model import AcOutlet, Bank, DcPort, Feed, Plug, Station
from graveljar.core.model.patch import Edit
from graveljar.core.network.schedule import middles, within
from graveljar.core.rules.finding import Finding, Remedy, Rule
from graveljar.core.text import beyond, duration, listed, quantity
from graveljar.core.views.links import combined_wh, feeds_station

# Volts a USB port gives until it is asked for more, with their tolerance. Common practice. [V]
USB_V: Final = 5.5
# Amps of plugs by their kind, of barrels those of 8 mm; common practice. [A]
PLUG_A: Final = {"vehicle socket": 10.0, "barrel": 10.0, "USB": 5.0}


def no_pass_through(context: Context) -> Iterator[Finding]:
    """`station.no_pass_through`: its loads want power while it is plugged in to charge."""
    analysis = context.analysis
    for place, link in enumerate(context.network.design.links):
        station = feeds_station(context, link.id)
        if (
            station is None
            or station.pass_through
            or analysis.link_operations[link.id].fit != "fits"
        ):
            continue
        on = analysis.lowered.day.plugged[:, analysis.lowered.place[link.id]]
        charging_h = middles(analysis.lowered.day.edges)[on]
        missed = [
            load.name
            for load in analysis.lowered.loads
            if context.network.rails[str(load.rail)].store == station.id
            and within(analysis.lowered.tables[load.id].runs, charging_h).any()
        ]
        if not missed:
            continue
        free = _free_spans(context, station.id)
        edits: tuple[Edit, ...] = ()
        if free:
            times = {"kind": "windows", "windows": free}
            edits = (Edit("replace", f"/links/{place}/times", times),)
        yield Finding(
            "station.no_pass_through",
            "fix",
            station.id,
            f"{station.name} cannot charge and run {missed[0]} together",
            "Its outlets are off while it is plugged in: charging and running take turns.",
            (),
            (Remedy("Charge it only while nothing on it runs.", edits),),
            ("trade-growing",),
        )


def _free_spans(context: Context, station: str) -> list[dict[str, float]]:
    """Times of day at which nothing on a station runs, at most twelve. [h]"""
    analysis = context.analysis
    edges = analysis.lowered.day.edges
    spans: list[dict[str, float]] = []
    runs = [
        span
        for load in analysis.lowered.loads
        if context.network.rails[str(load.rail)].store == station
        for span in analysis.lowered.tables[load.id].runs
    ]
    for (begin, end), busy in zip(pairwise(edges), within(runs, middles(edges)), strict=True):
        if busy:
            continue
        if spans and spans[-1]["to_h"] == float(begin):
            spans[-1]["to_h"] = float(end)
        else:
            spans.append({"from_h": float(begin), "to_h": float(end)})
    return spans if len(spans) <= 12 else []


def falls_asleep(context: Context) -> Iterator[Finding]:
    """`station.falls_asleep`: so little is drawn from it that it switches itself off."""
    for event in context.analysis.run.events:
        if event.what != "switches itself off":
            continue
        station = context.network.station(event.subject)
        if station is None:
            continue
        s = context.network.design.stores.index(station)
        yield Finding(
            "station.falls_asleep",
            "fix",
            station.id,
            f"{station.name} switches itself off after {duration(event.hours)}, with "
            f"{quantity(event.charge, 'share', 2)} left",
            (
                f"For {duration(station.sleeps_after_h)} its loads draw less than "
                f"{quantity(station.sleeps_below_w, 'W')}, so it assumes that nobody uses it. It "
                "stays off until somebody presses its button."
            ),
            (f"store.{station.id}.usable",),
            (
                Remedy(
                    "Disable its automatic switch-off, if it has a setting.",
                    (Edit("replace", f"/stores/{s}/sleeps_below_w", 0.0),),
                ),
                Remedy("Run the small loads from a battery and a converter of their own."),
            ),
            ("trade",),
        )


def port_overloaded(context: Context) -> Iterator[Finding]:
    """`station.port_overloaded`: more amps are drawn from a sagging port than it gives."""
    network = context.network
    for s, station in enumerate(network.design.stores):
        if not isinstance(station, Station):
            continue
        for outlet in station.outlets:
            stage = network.rails[outlet.id].source
            if not isinstance(stage, Feed) or outlet.kind != "dc":
                continue
            asked_a = (
                context.analysis.demand.asked[outlet.id].watts / network.rails[outlet.id].nominal_v
            )
            if not exceeds(asked_a, outlet.amps):
                continue
            asked, gives = beyond(asked_a, outlet.amps, "A")
            yield Finding(
                "station.port_overloaded",
                "fix",
                outlet.id,
                f"{stage.name} must supply {asked}; it is rated for {gives}",
                "It switches off, or its connector gets hot.",
                (),
                (Remedy(f"Move some loads to another outlet of store {s + 1}."),),
                ("trade",),
            )


def sum_of_labels(context: Context) -> Iterator[Finding]:
    """`station.sum_of_labels`: printed Wh are not to be added up as if nothing were lost."""
    network = context.network
    for link in network.design.links:
        feeding = context.analysis.link_operations[link.id]
        key = f"link.{link.id}.combined"
        outside = network.document_of(
            network.stores[context.analysis.lowered.place[feeding.source]]
        )
        if not feeding.full.watts or not isinstance(outside, Bank | Station):
            continue
        printed = network.bank_labels[link.to].wh + network.bank_labels[feeding.source].wh
        yield Finding(
            "station.sum_of_labels",
            "note",
            link.id,
            (
                f"Together they supply {quantity(combined_wh(context, link.id), 'Wh')}, not the "
                f"{quantity(printed, 'Wh')} printed on them"
            ),
            "The reserve, the converter and the charging each take their share.",
            (key, f"store.{link.to}.usable", f"store.{feeding.source}.usable"),
            (Remedy("Count on the lesser figure."),),
            ("trade-growing",),
        )


def plug_hot(context: Context) -> Iterator[Finding]:
    """`station.plug_hot`: more goes through a plug than 80 % of what plugs of its kind carry."""
    for station in context.network.design.stores:
        if not isinstance(station, Station):
            continue
        ports = [(x.id, x.name, _plug(x), _port_a(context, x)) for x in station.outlets]
        for port in station.inputs:
            mine = [x for x in context.analysis.link_operations.values() if x.link.to == station.id]
            fed_a = sum(max(x.full.amps, x.least.amps) for x in mine if x.link.input == port.id)
            ports.append((station.id, port.name, port.plug, fed_a))
        for subject, name, plug, amps in ports:
            most_a = PLUG_A.get(plug)
            if most_a is None or not runs_hot(amps, most_a):
                continue
            yield Finding(
                "station.plug_hot",
                "fix" if exceeds(amps, most_a) else "watch",
                subject,
                (
                    f"The {plug} at {name} carries {quantity(amps, 'A')}; it is rated for "
                    f"{quantity(most_a, 'A')}"
                ),
                (
                    "Keep plugs at 80 % of their rating or less: above it they get hot and then "
                    "soft. Lower the input setting, share the load over two ports, or use a port "
                    "with another plug."
                ),
                (),
                (Remedy("Draw less through it."),),
                ("trade-fuse",),
            )


def _plug(outlet: AcOutlet | DcPort) -> Plug:
    return outlet.plug if outlet.kind == "dc" else "mains socket"


def _port_a(context: Context, outlet: AcOutlet | DcPort) -> float:
    """The most amps that are drawn from a DC port. [A]"""
    if outlet.kind == "ac":
        return 0.0
    return (
        context.analysis.demand.asked[outlet.id].watts / context.network.rails[outlet.id].nominal_v
    )


def usb_negotiates(context: Context) -> Iterator[Finding]:
    """`station.usb_negotiates`: a USB port gives more than 5 V only to what asks for it."""
    for station in context.network.design.stores:
        if not isinstance(station, Station):
            continue
        for outlet in station.outlets:
            if outlet.kind != "dc" or outlet.plug != "USB" or (outlet.volts or 0.0) <= USB_V:
                continue
            mine = [load.name for load in context.analysis.lowered.loads if load.rail == outlet.id]
            if not mine:
                continue
            yield Finding(
                "station.usb_negotiates",
                "note",
                outlet.id,
                (
                    f"{outlet.name} gives {quantity(outlet.volts or 0.0, 'V')} only to a device "
                    "that requests it"
                ),
                (
                    f"A USB port starts at 5 V. {listed(mine)} must request more by USB power "
                    "delivery, or through a trigger in the cable; the cable must be rated for the "
                    "current, above 3 A marked for 5 A."
                ),
                (),
                (Remedy("Measure the volts at the end of the cable before it is plugged in."),),
                ("trade",),
            )


STATION_RULES: Final[tuple[Rule, ...]] = (
    no_pass_through,
    falls_asleep,
    port_overloaded,
    plug_hot,
    usb_negotiates,
    sum_of_labels,
)

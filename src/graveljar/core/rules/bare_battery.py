"""Rules about bare batteries that no charger fills: a supply, a relay, an isolator."""

from collections.abc import Iterator

from graveljar.core.components.battery import chemistry_of
from graveljar.core.context import Context
from graveljar.core.model import Converter, Link, Vehicle
from graveljar.core.model.patch import Edit
from graveljar.core.network.charger_choice import charger_for
from graveljar.core.network.rails import way_to_store
from graveljar.core.rules.finding import Finding, Remedy
from graveljar.core.text import quantity


def _by_relay(context: Context, link: Link) -> bool:
    """Whether an alternator fills lead-acid straight, through a relay or an isolator."""
    network = context.network
    bank = network.banks_by_id.get(link.to)
    way = way_to_store(network.rails, link.rail)
    straight = all(x.source.kind in ("bank", "feed") for x in way)
    by_engine = isinstance(network.store(network.rails[link.rail].store), Vehicle)
    lead = bank is not None and not chemistry_of(bank.battery).lithium
    return straight and by_engine and lead


def _split_charge(context: Context, link: Link) -> Finding:
    """`link.split_charge`: lead-acid beside the starter battery: usual once, seldom full."""
    network = context.network
    vehicle = network.store(network.rails[link.rail].store)
    smart = isinstance(vehicle, Vehicle) and vehicle.alternator == "smart"
    return Finding(
        "link.split_charge",
        "fix" if smart else "watch",
        link.id,
        f"A relay or isolator between {vehicle.name} and {network.names[link.to]} seldom fills it",
        (
            "The alternator's regulator serves the starter battery: cables, and 0.7 V in an "
            "isolator with diodes, leave less for the other one, and the hours of a drive are too "
            "few for its last fifth. A modern alternator falls below 13 V on the way. The figures "
            "count the usual charge volts."
        ),
        (),
        (_put_charger(context, link),),
        ("trade",),
    )


def no_charger(context: Context) -> Iterator[Finding]:
    """`link.no_charger`, `link.split_charge`: nothing that ends charging fills a bare battery.

    Schools differ: it saves money; others never do it.
    """
    network = context.network
    for link in network.design.links:
        if network.station(link.to) is not None or link.charger is not None:
            continue
        if _by_relay(context, link):
            yield _split_charge(context, link)
            continue
        through = network.names[link.rail]
        yield Finding(
            "link.no_charger",
            "fix",
            link.id,
            (
                f"{through} does not control the charging; {network.names[link.to]} needs a "
                "charger that does"
            ),
            (
                "A bare battery needs a limited current, its own charge voltage, and an end of "
                "charging. A plain converter supplies all it can until it overheats, and holds "
                "the battery at full. A station has its own charge controller: only a station "
                "may get a plain supply."
            ),
            (),
            (
                _put_charger(context, link),
                Remedy(
                    "Remove the link.",
                    (Edit("remove", f"/links/{network.design.links.index(link)}"),),
                ),
            ),
            ("trade",),
        )


def _put_charger(context: Context, link: Link) -> Remedy:
    """A charger that suits the bank, instead of a converter that feeds nothing else."""
    network = context.network
    bank, at = network.banks_by_id[link.to], f"/links/{network.design.links.index(link)}"
    stage = network.rails[link.rail].source
    alone = isinstance(stage, Converter) and not any(
        x.rail == stage.id
        for x in (*network.design.stages, *network.design.loads, *network.design.links)
        if x is not link
    )
    rail = network.rails[stage.rail] if isinstance(stage, Converter) and alone else None
    before = rail or network.rails[link.rail]
    charger = charger_for(before, network.store(before.store), bank, network.assumed)
    edits = [Edit("replace", f"{at}/charger", charger.model_dump(mode="json"))]
    label = f"Use a DC-DC charger of {quantity(charger.amps, 'A')} set for this battery."
    if rail is not None and isinstance(stage, Converter):
        label = f"{label[:-1]} instead of {stage.name}."
        edits.append(Edit("replace", f"{at}/rail", rail.id))
        edits.append(Edit("remove", network.stage_path(stage)))
    return Remedy(label, tuple(edits))


def plain_relay(context: Context) -> Iterator[Finding]:
    """`link.plain_relay`: a lithium bank straight on a vehicle takes all its alternator has."""
    network = context.network
    for link in network.design.links:
        bank = network.banks_by_id.get(link.to)
        way = way_to_store(network.rails, link.rail)
        straight = all(x.source.kind in ("bank", "feed") for x in way)
        source = network.rails[link.rail].store
        lithium = bank is not None and chemistry_of(bank.battery).lithium
        by_engine = isinstance(network.store(source), Vehicle)
        if not lithium or not straight or not by_engine or link.charger is not None:
            continue
        yield Finding(
            "link.plain_relay",
            "stop",
            link.id,
            (
                f"{network.names[link.to]}, connected straight to {network.names[source]}, draws "
                "all that its alternator can give"
            ),
            (
                "A lithium battery has so little resistance that nothing limits its current: "
                "the alternator runs at full output until it burns out. If the battery's "
                "protection opens then, a load dump of 35 V or more hits everything on board. "
                "Use a DC-DC charger, which limits its current."
            ),
            (),
            (
                _put_charger(context, link),
                Remedy(
                    "Remove the link.",
                    (Edit("remove", f"/links/{network.design.links.index(link)}"),),
                ),
            ),
            ("trade", "iso-16750-2"),
        )

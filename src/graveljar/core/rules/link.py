"""Rules about links: volts into an input, its mode, what the source side carries."""

from collections.abc import Iterator
from typing import Final

from graveljar.core.analysis.link_operation import LinkOperation
from graveljar.core.context import Context
from graveljar.core.model import Converter, Inverter, Store, Sun
from graveljar.core.model.patch import Edit, apply, free_id
from graveljar.core.network.charge_input import accept_amps, accepts_of
from graveljar.core.network.standard_sizes import common_amps, converter_for
from graveljar.core.rules.bare_battery import no_charger, plain_relay
from graveljar.core.rules.finding import Finding, Remedy, Rule
from graveljar.core.text import beyond, number, quantity
from graveljar.core.views.links import feeds_station

# Volts converters are commonly sold with. Common practice. [V]
COMMON_V: Final = (60.0, 48.0, 36.0, 30.0, 24.0, 19.0, 15.0, 13.6)
# A mode that takes no more than this share beyond the present one is not worth a word. Ours.
MODE_MATTERS: Final = 0.05


def volts_differ(context: Context) -> Iterator[Finding]:
    """`link.above_maximum`, `link.never_charges`: the volts do not fit the input.

    Those at full charge and without load decide, never the nominal ones.
    """
    network = context.network
    for feeding in context.analysis.link_operations.values():
        if feeding.fit == "fits":
            continue
        link, rail = feeding.link, network.rails[feeding.link.rail]
        store = next(x for x in network.design.stores if x.id == link.to)
        window = accepts_of(store, link)
        over = feeding.fit == "above its maximum"
        arrives = f"{quantity(rail.high_v, 'V')} arrive without a load"
        highest, accepted = beyond(rail.high_v, window.most_v if over else window.least_v, "V")
        if over:
            title = f"{highest} arrive at {store.name}; it accepts {accepted}"
            reason = (
                f"{arrives}, from a full source: that destroys the input. The nominal voltage "
                "does not tell; measure before you plug it in."
            )
        else:
            title = f"{link.name} never charges {store.name}"
            reason = f"At most {highest} arrive; charging starts at {accepted}."
        if feeding.fit == "not above the inner battery":
            reason = (
                f"This input only steps down: {quantity(rail.high_v, 'V')} arrive, but its inner "
                f"battery has {quantity(network.rails[store.id].nominal_v, 'V')}."
            )
        yield Finding(
            "link.above_maximum" if over else "link.never_charges",
            "stop" if over else "fix",
            link.id,
            title,
            reason,
            (f"store.{feeding.source}.full_v",) if rail.parent is None else (),
            _refit(context, feeding, store),
            ("trade-growing",),
        )


def _refit(context: Context, feeding: LinkOperation, store: Store) -> tuple[Remedy, ...]:
    """Other volts before the input: a converter set otherwise, or one put in."""
    network = context.network
    link = feeding.link
    window = accepts_of(store, link)
    least_v = window.least_v
    if feeding.fit == "not above the inner battery":
        least_v = network.rails[link.to].high_v
    # A twentieth below the most: labels and settings stray as much.
    volts = next((v for v in COMMON_V if least_v < v * 0.95 and v * 1.05 < window.most_v), None)
    here = network.rails[link.rail]
    if volts is None or here.kind == "ac":
        return (Remedy("Use a source whose full-charge voltage is within what it accepts."),)
    stage = here.source
    if isinstance(stage, Converter) and stage in network.design.stages:
        at = network.stage_path(stage)
        before = network.rails[stage.rail]
        amps = stage.continuous_a
        new = converter_for(before, volts, amps, stage.id)
        names = {"fuse", "switched", "parallel", "documented", "provenance"}
        keep = stage.model_dump(mode="json", include=names)
        label = f"Use a converter of {number(volts)} V in its place."
        return (Remedy(label, (Edit("replace", at, new | keep),)),)
    place = network.design.links.index(link)
    amps = common_amps(accept_amps(store, link.input, link.mode))
    new = converter_for(here, volts, amps, free_id(network.design, "link-converter"))
    return (
        Remedy(
            f"Put a converter of {number(volts)} V before it.",
            (
                Edit("add", "/stages/-", new),
                Edit("replace", f"/links/{place}/rail", new["id"]),
            ),
        ),
    )


def wrong_mode(context: Context) -> Iterator[Finding]:
    """`link.wrong_mode`: the cable keeps the input in a mode of fewer amps.

    30 V at 8 A of a car mode are 240 W, 15 A of a solar mode 450 W.
    """
    for feeding in context.analysis.link_operations.values():
        station, link = feeds_station(context, feeding.link.id), feeding.link
        port = station.input(link.input) if station else None
        if port is None or feeding.full.binds != "its mode":
            continue
        mode = port.mode(link.mode)
        better = max(port.modes, key=lambda x: x.amps)
        if better.amps <= mode.amps:
            continue
        place = context.network.design.links.index(link)
        edit = Edit("replace", f"/links/{place}/mode", better.name)
        after = (
            Context(apply(context.network.design, (edit,))).analysis.link_operations[link.id].full
        )
        lost_w = after.watts - feeding.full.watts
        if lost_w <= MODE_MATTERS * feeding.full.watts:
            continue
        by = {
            "connector": "Another connector on the cable",
            "sense wire": "Its sense wire, connected as the manual says,",
            "setting": "A setting of the station",
            "nothing": "A setting in its menu or another cable",
        }[better.chosen_by]
        yield Finding(
            "link.wrong_mode",
            "fix",
            link.id,
            f"{mode.name} mode loses {quantity(lost_w, 'W')} at {port.name}",
            (
                f"{mode.name} mode draws {quantity(mode.amps, 'A')}: "
                f"{quantity(feeding.full.watts, 'W')}. {better.name} mode would draw "
                f"{quantity(after.watts, 'W')}. {by} selects it."
            ),
            (f"link.{link.id}.watts",),
            (Remedy(f"Switch it to {better.name} mode.", (edit,)),),
            ("trade-growing",),
        )


def source_side(context: Context) -> Iterator[Finding]:
    """`link.source_current`: it draws more than a fuse, cable or battery before it is rated for.

    Stepping up, the amps before the converter are more than those after it.
    """
    for feeding in context.analysis.link_operations.values():
        held = feeding.least.binds in ("a fuse", "the source")
        if isinstance(context.network.store(feeding.source), Sun):
            # The sun gives what it gives: a controller takes no harm from wanting more.
            held = feeding.least.binds == "a fuse"
        if not held or not feeding.wanted.watts:
            continue
        link = feeding.link
        limit = feeding.limit(feeding.least.binds)
        if limit is None:
            continue
        wanted_a = feeding.wanted.source_a
        if limit.name == f"fuse of {link.name}":
            wanted_a = feeding.wanted.amps
        wanted, bears = beyond(wanted_a, limit.limit, "A")
        yield Finding(
            "link.source_current",
            "fix",
            link.id,
            f"{link.name} would draw {wanted}; {limit.name} is rated for {bears}",
            (
                f"The figures count {quantity(feeding.full.watts, 'W')}, as if its input were "
                "limited to that. Without that limit the fuse blows, the cable gets hot or the "
                "battery shuts off."
            ),
            (f"link.{link.id}.wanted_a", f"link.{link.id}.source_least_a"),
            tuple(_hold(context, feeding)),
            ("trade-growing", "ohm"),
        )


def _hold(context: Context, feeding: LinkOperation) -> Iterator[Remedy]:
    """Set the input lower, or let the source side carry more."""
    network = context.network
    link = feeding.link
    station = feeds_station(context, link.id)
    least_w = float(int(feeding.least.watts * 0.97))
    if station is not None and least_w > 0:
        s = [x.id for x in network.design.stores].index(station.id)
        i = [x.id for x in station.inputs].index(str(link.input))
        yield Remedy(
            f"Set its input to {quantity(least_w, 'W')}, if it has a setting.",
            (Edit("replace", f"/stores/{s}/inputs/{i}/most_w", least_w),),
        )
    stage = network.rails[link.rail].source
    if feeding.least.binds == "a fuse" and isinstance(stage, Converter) and stage.fuse:
        amps = common_amps(feeding.wanted.amps_by[stage.id] * 1.25)
        yield Remedy(
            f"Use a fuse of {quantity(amps, 'A')} before {stage.name}, on a cable rated for it.",
            (Edit("replace", f"{network.stage_path(stage)}/fuse/amps", amps),),
        )


def net_negative(context: Context) -> Iterator[Finding]:
    """`link.net_negative`: a station gives more in a day than it is fed: it does not refill.

    A bank with its chargers is told by the week: see `views/refill`.
    """
    analysis = context.analysis
    for store in {x.link.to: x for x in analysis.link_operations.values()}:
        if context.network.station(store) is None:
            continue
        mine = [x for x in analysis.link_operations.values() if x.link.to == store]
        fed_wh = sum(_fed_wh(context, x) for x in mine)
        place = analysis.lowered.place[store]
        day_wh = analysis.day.store_wh(place)
        if not fed_wh or day_wh <= fed_wh:
            continue
        name = context.network.names[store]
        yield Finding(
            "link.net_negative",
            "watch",
            store,
            (
                f"{name} supplies {quantity(day_wh, 'Wh')} a day and receives "
                f"{quantity(fed_wh, 'Wh')}"
            ),
            (
                "It lasts longer, but it does not refill while its loads are on: net charge is "
                "what remains after loads, conversion and idle draw."
            ),
            tuple(f"link.{x.link.id}.watts" for x in mine if x.full.watts),
            (Remedy("Feed it more, or use less; see Routes."),),
            ("trade-growing",),
        )


def _fed_wh(context: Context, feeding: LinkOperation) -> float:
    """What a link brings into its store in a day at its most. [Wh]"""
    analysis = context.analysis
    plugged = analysis.lowered.day.plugged
    names = analysis.lowered.names
    on = plugged[:, names.index(feeding.link.id)] & plugged[:, names.index(feeding.source)]
    hours = float(analysis.day.hours[on].sum())
    return feeding.full.watts * feeding.efficiency * hours


def overload_trap(context: Context) -> Iterator[Finding]:
    """`link.overload_trap`, `link.wants_sine`: charged by mains from an inverter.

    While it charges, a station passes its loads through: charge and loads come together.
    """
    network, analysis = context.network, context.analysis
    for link in network.design.links:
        inverter = network.rails[link.rail].source
        if not isinstance(inverter, Inverter):
            continue
        asked_w = analysis.link_w[link.id]
        most_w = network.assumed["inverter_most_share"] * inverter.continuous_w
        point = analysis.link_operations[link.id].full
        if asked_w > most_w:
            place = analysis.lowered.place[link.id]
            alone_w = float(analysis.lowered.rail_records[place]["most_w"])
            room_w = float(int(most_w - (asked_w - alone_w)))
            yield Finding(
                "link.overload_trap",
                "fix",
                link.id,
                f"Charging and its loads draw {quantity(asked_w, 'W')} from {inverter.name}",
                (
                    f"It draws {quantity(point.watts, 'W')} to charge, and the loads on its "
                    f"sockets pass straight through on top; {inverter.name} should carry "
                    f"{quantity(most_w, 'W')} at most."
                ),
                (f"stage.{inverter.id}.running_w",),
                tuple(_lower_ac(context, link.to, link.input, room_w)),
                ("trade-growing", "trade-80"),
            )
        if inverter.waveform != "pure sine":
            edit = Edit("replace", f"{network.stage_path(inverter)}/waveform", "pure sine")
            yield Finding(
                "link.wants_sine",
                "fix",
                link.id,
                f"{link.name} needs a pure sine wave; {inverter.name} gives a stepped one",
                (
                    "Chargers of power stations need low distortion, about 10 % or less: otherwise "
                    "they refuse, hum or break."
                ),
                (),
                (Remedy("Use a sine inverter.", (edit,)),),
                ("trade",),
            )


def _lower_ac(context: Context, store: str, name: str | None, room_w: float) -> Iterator[Remedy]:
    station = context.network.station(store)
    if station is None or room_w <= 0:
        yield Remedy("Charge it from a DC rail instead, or while its loads are off.")
        return
    s = [x.id for x in context.network.design.stores].index(store)
    i = [x.id for x in station.inputs].index(str(name))
    yield Remedy(
        f"Set its mains charging to {quantity(room_w, 'W')}, if it has a setting.",
        (Edit("replace", f"/stores/{s}/inputs/{i}/most_w", room_w),),
    )


LINK_RULES: Final[tuple[Rule, ...]] = (
    volts_differ,
    plain_relay,
    source_side,
    overload_trap,
    no_charger,
    wrong_mode,
    net_negative,
)

"""Lowers a design to the engine's flat arrays."""

from dataclasses import dataclass
from typing import Any, Final

import numpy as np

from graveljar.core.components.joint import described_ohm, fuse_a, fuse_code
from graveljar.core.components.load import one_start_w, one_w, running_w
from graveljar.core.components.stage_loss import converter_amps, loss_of, trusted_surge_w
from graveljar.core.errors import OutOfRange, Problem
from graveljar.core.kernel import records as n
from graveljar.core.kernel.records import DayProfile, Floats, Records
from graveljar.core.lowering.lower_links import in_order, lower_links, plugged, times_of
from graveljar.core.lowering.lower_stores import (
    curves,
    daylight,
    lower_stores,
    sun_amps,
    weather_of,
)
from graveljar.core.lowering.sequence import sequence_of
from graveljar.core.lowering.week import on_day, week_of
from graveljar.core.model import (
    Bank,
    Converter,
    DcPort,
    Design,
    Feed,
    Inverter,
    Joined,
    Link,
    Load,
    Station,
    Sun,
    WeekDay,
)
from graveljar.core.network.load_at_rail import at_rail, via_adapter
from graveljar.core.network.network import Network
from graveljar.core.network.rails import Rail, made_by
from graveljar.core.network.schedule import DAY_H, Timetable, all_within, middles
from graveljar.core.network.station_expansion import PORT_PEAK
from graveljar.core.network.windows import RUNS, fit_load, fit_stage, least_input_v

# Stretches of a day, and of all days up to the horizon, that are stepped through.
MAX_STRETCHES = 1_000
MAX_AHEAD = 100_000

# Of a rail: without end, where nothing sets them; and what only some stages have.
_LIMITS: Final = ("limit_a", "fuse_a", "limit_w", "peak_w", "peak_a")
_OF_SOME: Final = ("sleep_w", "sleep_at_w", "droop_ohm")
_DRAWS = {"constant power": n.POWER, "constant current": n.CURRENT, "resistive": n.RESISTIVE}


@dataclass(frozen=True)
class LoweredDesign:
    """A design as arrays. `loads` are in the arrays' order; those that cannot run are left out.

    `day` is a usual day with all loads, those that run once too; `week` what a run repeats.

    `rails` in order: rail r of the arrays is `tuple(rails)[r]`; the links follow. `names` are
    the ids of all these rows, `place` tells where each is. `banks` are the stores as banks;
    `apart` pairs of loads of which the first was moved, for they would trip each other.
    """

    design: Design
    banks: tuple[Bank, ...]
    assumed: dict[str, float]
    rails: dict[str, Rail]
    links: tuple[Link, ...]
    names: tuple[str, ...]
    place: dict[str, int]
    loads: tuple[Load, ...]
    tables: dict[str, Timetable]
    apart: tuple[tuple[str, str], ...]
    rail_records: Records
    load_records: Records
    store_records: Records
    day: DayProfile
    week: DayProfile

    def fresh_records(self) -> tuple[Records, Records, Records]:
        """Copies of the records of rails, loads and stores, for a run to change."""
        return _copied(self.rail_records), _copied(self.load_records), _copied(self.store_records)


def lower(network: Network) -> LoweredDesign:
    """Arrays of a network. See `net` for their shapes.

    Raises
    ------
    OutOfRange : the loads switch too often for the time it looks ahead.
    """
    design, assumed = network.design, network.assumed
    rails, banks = network.rails, network.stores
    fed = _fed(rails)
    able = [x for x in design.loads if x.rail in fed and fit_load(rails, x) in RUNS]
    links = in_order(design)
    names = (*rails, *(link.id for link in links))
    place = {name: r for r, name in enumerate(names)}
    loads = tuple(sorted(able, key=lambda load: place[str(load.rail)]))
    sequence = sequence_of(design, rails, able, assumed)
    tables = sequence.tables
    edges = _edges(design, [tables[load.id] for load in loads])
    _bounded(design, len(edges) - 1)
    day = DayProfile(
        curve=curves(design, banks),
        charging=curves(design, banks, charging=True),
        edges=edges,
        **weather_of(design, banks, edges, assumed),
        most_a=sun_amps(design, edges),
        demand=_demand(loads, tables, edges, rails, assumed),
        plugged=plugged(design, names, edges),
        start_h=design.setting.starts_at_h,
    )
    records = _rails(design, rails, place, loads, assumed)
    rail_records = lower_links(design, rails, links, place, records, assumed)
    load_records = _loads(loads, place, rails, assumed)
    store_records = lower_stores(design, banks, assumed)
    store_records["only_links"] = _only_links(rail_records, load_records, store_records)
    return LoweredDesign(
        design=design,
        banks=banks,
        assumed=assumed,
        rails=rails,
        links=links,
        names=names,
        place=place,
        loads=loads,
        tables=tables,
        apart=sequence.apart,
        rail_records=rail_records,
        load_records=load_records,
        store_records=store_records,
        day=on_day(design, day, WeekDay(), assumed),
        week=week_of(design, day, loads, assumed),
    )


def _copied(records: Records) -> Records:
    # As bytes: NumPy copies records field by field.
    return np.frombuffer(bytearray(records.tobytes()), records.dtype)


def _only_links(rails: Records, loads: Records, stores: Records) -> list[bool]:
    """Whether each source that does not run down feeds links alone; else False."""
    stages = rails[rails["kind"] != n.LINK]
    others = {*stages["parent"].tolist(), *stages["other"].tolist(), *loads["rail"].tolist()}
    return [bool(x) and s not in others for s, x in enumerate(stores["endless"].tolist())]


def _fed(rails: dict[str, Rail]) -> set[str]:
    """The rails that get volts: those of stores, and of stages that they fit all the way."""
    fed: set[str] = set()
    for rail in rails.values():
        if (rail.parent is None or rail.parent in fed) and not _blocked(rails, rail.source):
            fed.add(rail.id)
    return fed


def _blocked(rails: dict[str, Rail], source: Bank | Inverter | Converter | Feed) -> bool:
    if isinstance(source, Bank):
        return False
    return fit_stage(rails, source) not in ("fits", "other nominal volts")


def _bounded(design: Design, stretches: int) -> None:
    """Refuse what takes too long to step through.

    Raises
    ------
    OutOfRange : too many stretches in a day, or until the horizon.
    """
    if stretches > MAX_STRETCHES:
        problem = Problem("/loads", "too_many_stretches", "switch on and off too often")
        raise OutOfRange(
            (
                f"The loads switch {stretches} times a day; at most {MAX_STRETCHES} can be "
                "simulated. Make cycles longer, or average the duty."
            ),
            (problem,),
        )
    days = max(design.setting.horizon_h, design.goal.hours) / DAY_H
    if stretches * days > MAX_AHEAD:
        problem = Problem("/setting/horizon_h", "too_far", "is too far with so many switchings")
        raise OutOfRange(
            (
                f"{stretches} switchings a day for {days:.0f} days are too many to simulate. "
                "Simulate fewer days, or make cycles longer."
            ),
            (problem,),
        )


def _edges(design: Design, tables: list[Timetable]) -> Floats:
    # 9 places, some microseconds: times that should meet do meet.
    found = {0.0, DAY_H} | {round(edge, 9) for table in tables for edge in table.edges()}
    if any(load.once for load in design.loads):
        # The first day ends where it began.
        found.add(round(design.setting.starts_at_h, 9))
    for spans in times_of(design).values():
        found |= {round(edge, 9) for span in spans for edge in span}
    if design.setting.ambient_by_hour is not None:
        found |= {float(hour) for hour in range(24)}
    if any(isinstance(store, Sun) for store in design.stores):
        half_h = daylight(design) / 2
        rise, sets = round(12.0 - half_h, 9), round(12.0 + half_h, 9)
        found |= {rise, sets} | {float(h) for h in range(24) if rise < h < sets}
    return np.array(sorted(found))


def _demand(
    loads: tuple[Load, ...],
    tables: dict[str, Timetable],
    edges: Floats,
    rails: dict[str, Rail],
    assumed: dict[str, float],
) -> Floats:
    """Watts taken from the rails in each stretch, running and standing by."""
    hours, mine = middles(edges), [tables[load.id] for load in loads]
    full_w = np.array([at_rail(running_w(x), x, rails, assumed) for x in loads])
    idle_w = np.array([at_rail(x.standby_w * x.count, x, rails, assumed) for x in loads])
    runs = all_within([x.runs for x in mine], hours)
    on = np.where(runs, np.array([x.duty for x in loads]), 0.0)
    cycling = [i for i, x in enumerate(mine) if x.cycles is not None]
    if cycling:
        on[:, cycling] = runs[:, cycling] & all_within(
            [mine[i].cycles or () for i in cycling], hours
        )
    waits = runs | all_within([x.waits for x in mine], hours)
    return np.stack([on * full_w, np.where(waits, (1 - on) * idle_w, 0.0)], axis=2)


def _rails(
    design: Design,
    rails: dict[str, Rail],
    place: dict[str, int],
    loads: tuple[Load, ...],
    assumed: dict[str, float],
) -> Records:
    made = np.zeros(len(rails), n.RAIL)
    bounds = np.searchsorted([place[str(load.rail)] for load in loads], np.arange(len(rails) + 1))
    for r, rail in enumerate(rails.values()):
        into = made[r]
        into["parent"] = -1 if rail.parent is None else place[rail.parent]
        into["other"], into["shares"], into["own_parent"] = -1, -1, into["parent"]
        into["store"] = place[rail.store]
        into["zone"] = r
        into["first"], into["last"] = bounds[r], bounds[r + 1]
        into["set_v"] = rail.nominal_v
        into["ohm"] = joint_ohm(rail, rails, loads, assumed)
        for limit in _LIMITS:
            into[limit] = np.inf
        match rail.source:
            case Bank():
                into["kind"] = n.STORE
            case Feed(cut_v=cut_v):
                into["kind"], into["zone"] = n.FEED, made[into["parent"]]["zone"]
                _fuse(into, rail.source)
                _port(into, design, rail.source)
                if cut_v is not None:
                    into["cut_v"] = cut_v
                    into["restart_v"] = cut_v * (1 + assumed["restart_rise"])
            case stage:
                _figures(into, stage, design, rails, assumed)
                if isinstance(stage, Inverter) and stage.transfer is not None:
                    into["other"] = place[stage.transfer]
    return made


def _figures(
    into: Any,
    stage: Inverter | Converter,
    design: Design,
    rails: dict[str, Rail],
    assumed: dict[str, float],
) -> None:
    """What a record holds of an inverter's or a converter's own figures."""
    _stage(into, stage, rails, assumed)
    _fuse(into, stage)
    into["returns"] = stage.resets == "by itself"
    if isinstance(stage, Converter):
        amps = converter_amps(stage, design, assumed)
        into["limit_a"], into["peak_a"] = amps.limit_a, amps.peak_a
    else:
        into["limit_w"] = stage.continuous_w
        into["peak_w"] = trusted_surge_w(stage, assumed["trusted_surge_factor"])


def _fuse(into: Any, joined: Joined) -> None:
    into["fuse_a"], into["fuse_kind"] = fuse_a(joined), fuse_code(joined)


def _port(into: Any, design: Design, feed: Feed) -> None:
    """A station's port that follows its battery gives so many amps, half as much more at a start.

    Common practice.
    """
    station = next((x for x in design.stores if x.id == feed.rail), None)
    outlets = station.outlets if isinstance(station, Station) else ()
    port = next((x for x in outlets if x.id == feed.id and isinstance(x, DcPort)), None)
    if port is not None:
        into["limit_a"], into["peak_a"] = port.amps, PORT_PEAK * port.amps
        into["returns"] = port.resets == "by itself"


def record_of(stage: Inverter | Converter, lowered: LoweredDesign) -> Any:
    """The record of a stage in place of one of the same kind, on the same rail, of a design.

    It makes the same volts; its other figures may be others.

    Parameters
    ----------
    stage : With the id of the one that it stands for.
    lowered : The design as arrays.

    Returns
    -------
    Its record, as the design that has this stage would have it.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> from graveljar.demo import demo_designs
    >>> made = lowered(demo_designs()["set-building-trailer"])
    >>> stage = made.rails["inverter"].source
    >>> float(record_of(stage.model_copy(update={"continuous_w": 99.0}), made)["limit_w"])
    99.0
    """
    here = lowered.rails[str(stage.rail)]
    rails = lowered.rails | {stage.id: made_by(stage, here)}
    r = lowered.place[stage.id]
    row = _copied(lowered.rail_records[r : r + 1])[0]
    row["ohm"] = joint_ohm(rails[stage.id], rails, lowered.loads, lowered.assumed)
    for figure in (*_LIMITS, *_OF_SOME):
        row[figure] = np.inf if figure in _LIMITS else 0.0
    _figures(row, stage, lowered.design, rails, lowered.assumed)
    return row


def _stage(
    into: Any, stage: Inverter | Converter, rails: dict[str, Rail], assumed: dict[str, float]
) -> None:
    loss, least_v = loss_of(stage), least_input_v(stage)
    into["p0"], into["k1"], into["k2"] = loss.p0, loss.k1, loss.k2
    into["cut_v"] = least_v
    into["restart_v"] = stage.restarts_v or least_v * (1 + assumed["restart_rise"])
    into["with_loads"] = stage.switched == "on with its loads"
    into["blocked"] = _blocked(rails, stage)
    if isinstance(stage, Inverter):
        into["kind"] = n.INVERTER
        if stage.sleep is not None:
            into["sleep_w"], into["sleep_at_w"] = stage.sleep.watts, stage.sleep.threshold_w
    elif stage.topology == "linear":
        into["kind"] = n.LINEAR
    else:
        into["kind"] = n.CONVERTER
        into["droop_ohm"] = stage.droop_v / (stage.continuous_a * stage.parallel)


def joint_ohm(
    rail: Rail, rails: dict[str, Rail], loads: tuple[Load, ...], assumed: dict[str, float]
) -> float:
    """Resistance of a stage's joint, both conductors; where unsaid, by the assumed drop. [Ohm]"""
    source = rail.source
    if isinstance(source, Bank) or rail.parent is None:
        return 0.0
    known = described_ohm(source, assumed)
    if known is not None:
        return known
    volts = rails[rail.parent].nominal_v
    if isinstance(source, Inverter):
        watts = source.continuous_w / source.full_load.efficiency
    elif isinstance(source, Converter):
        rated = source.set_v * source.continuous_a * source.parallel
        watts = rated / source.full_load.efficiency
    else:
        watts = sum(running_w(load) for load in loads if load.rail == rail.id)
    return assumed["joint_drop"] * volts**2 / watts if watts else 0.0


def load_ohm(load: Load, rails: dict[str, Rail], assumed: dict[str, float]) -> float:
    """Resistance of a load's joint, both conductors; none is counted on an AC rail. [Ohm]"""
    rail = rails[str(load.rail)]
    if rail.kind == "ac":
        return 0.0
    known = described_ohm(load, assumed)
    if known is not None:
        return known
    return assumed["joint_drop"] * rail.nominal_v**2 / running_w(load)


def _loads(
    loads: tuple[Load, ...],
    place: dict[str, int],
    rails: dict[str, Rail],
    assumed: dict[str, float],
) -> Records:
    made = np.zeros(len(loads), n.LOAD)
    musts = any(load.priority == "must" for load in loads)
    for i, load in enumerate(loads):
        into = made[i]
        into["rail"] = place[str(load.rail)]
        into["draw"] = _DRAWS[load.draw]
        into["nominal_v"] = load.supply.volts
        into["ohm"] = load_ohm(load, rails, assumed)
        into["factor"] = 1.0
        into["counted"] = load.priority == "must" or not musts
        into["va"] = 1.0 / load.power_factor
        into["jump"], into["thermostat"] = _jump(load, rails, assumed)
        into["fuse_a"], into["fuse_kind"] = fuse_a(load), fuse_code(load)
        into["useful"] = assumed["adapter_efficiency"] if via_adapter(load, rails) else 1.0
        if load.window is not None and rails[str(load.rail)].kind == "dc":
            cut_v = load.window.cut_out_v
            into["cut_v"] = cut_v
            into["restart_v"] = load.window.restarts_v or cut_v * (1 + assumed["restart_rise"])
    return made


def _jump(load: Load, rails: dict[str, Rail], assumed: dict[str, float]) -> tuple[float, bool]:
    """More watts at the start of one of a load, and whether it may start at any moment.

    It may where its duty is averaged. [W]
    """
    more_w = one_start_w(load, assumed) - one_w(load)
    if more_w <= 0:
        return 0.0, False
    averaged = load.duty < 1 and load.cycle_min is None
    if averaged:
        more_w += (1 - load.duty) * (running_w(load) - load.standby_w * load.count)
    return at_rail(max(more_w, 0.0), load, rails, assumed), averaged

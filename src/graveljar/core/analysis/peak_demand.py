"""The highest demand on each rail at a time, running and starting, by labels alone.

Loads with times of day run at them; one that only says how long may run at any time. Of the
loads kept apart one runs at a time, whichever matters most.
"""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from typing import NamedTuple

import numpy as np

from graveljar.core.components.battery import BankLabel
from graveljar.core.components.load import one_start_w, one_w, running_w, top_w
from graveljar.core.components.stage_loss import Loss
from graveljar.core.lowering.lower import LoweredDesign
from graveljar.core.model import Anytime, Converter, Inverter, Load
from graveljar.core.network.load_at_rail import at_rail
from graveljar.core.network.schedule import all_within, kept_apart_begins, middles
from graveljar.core.network.windows import least_input_v


class Start(NamedTuple):
    """The highest start on a rail: `load` starts while `others_w` runs. [W]"""

    load: Load
    watts: float
    others_w: float
    one_start_w: float


class RailDemand(NamedTuple):
    """The highest demand on a rail at one time. [W], [VA]

    `loads` are those on the rail itself; `stages` what each stage on it draws; `straight_w` is
    the most its own loads ask, which may be at another time; `links_w` what links on it take.
    """

    loads: tuple[Load, ...]
    stages: tuple[tuple[str, float], ...]
    watts: float
    volt_amps: float
    straight_w: float
    start: Start | None
    links_w: float = 0.0


NOTHING = RailDemand((), (), 0.0, 0.0, 0.0, None)


@dataclass(frozen=True)
class Demand:
    """The highest demand on every rail, and the currents it makes where they are taken.

    `sets` are those of loads that may run together.
    """

    lowered: LoweredDesign
    losses: dict[str, Loss]
    sets: tuple[tuple[Load, ...], ...]
    asked: dict[str, RailDemand]

    def drawn_w(self, stage: str) -> float:
        """Power a stage draws with everything running that may run together. [W]"""
        return self.losses[stage].dc_w(self.asked[stage].watts)

    def start_w(self, stage: str) -> float:
        """Power a stage draws at the highest start behind it. [W]"""
        start = self.asked[stage].start
        return self.losses[stage].dc_w(start.watts) if start else self.drawn_w(stage)


def rail_watts(lowered: LoweredDesign, load: Load) -> float:
    """Highest power that all appliances of a load draw from their rail while running.

    Parameters
    ----------
    lowered : The design as arrays.
    load : Of the design.

    Returns
    -------
    Power, >= 0. [W]

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> made = lowered()
    >>> rail_watts(made, made.loads[0])
    60.0
    """
    return at_rail(top_w(load), load, lowered.rails, lowered.assumed)


def demand_of(lowered: LoweredDesign, losses: dict[str, Loss], link_w: dict[str, float]) -> Demand:
    """The highest demand on every rail over all sets of loads that may run together.

    Parameters
    ----------
    lowered : The design as arrays.
    losses : Loss of each stage by its id.
    link_w : Highest power that each link draws from its rail, with its joint. [W]

    Returns
    -------
    The demand with its sets.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> demand = demand_of(lowered(), {}, {})
    >>> demand.asked["bank"].watts
    60.0
    """
    sets, network = tuple(running_sets(lowered)), _network(lowered, losses, link_w)
    for running in sets:
        _ask(network, running)
    asked = {rail: _highest(network.known.get(rail, {}).values()) for rail in lowered.rails}
    return Demand(lowered, losses, sets, asked)


def _highest(asked: Iterable[RailDemand]) -> RailDemand:
    """Of what is asked of a rail the most; what its own loads ask, and a start, by themselves."""
    most, straight_w = NOTHING, 0.0
    highest: Start | None = None
    for found in asked:
        if (found.watts, found.volt_amps) > (most.watts, most.volt_amps):
            most = found
        straight_w = max(straight_w, found.straight_w)
        if found.start and (highest is None or found.start.watts > highest.watts):
            highest = found.start
    return most._replace(straight_w=straight_w, start=highest)


def asked_by_set(demand: Demand) -> Iterator[dict[str, RailDemand]]:
    """The demand of each set of loads that may run together on every rail, without links.

    Parameters
    ----------
    demand : The highest demand.

    Returns
    -------
    For each set, the demand by rail. [W], [VA]

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> demand = demand_of(lowered(), {}, {})
    >>> [asked["bank"].watts for asked in asked_by_set(demand)]
    [60.0]
    """
    network = _network(demand.lowered, demand.losses, {})
    for running in demand.sets:
        yield _ask(network, running)


def running_sets(lowered: LoweredDesign) -> Iterator[tuple[Load, ...]]:
    """Sets of loads that may run at one time: by the hours of the day, each kept apart in turn.

    Parameters
    ----------
    lowered : The design as arrays.

    Returns
    -------
    The sets; the same set may come twice.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> [[load.id for load in running] for running in running_sets(lowered())]
    [['lamp']]
    """
    hours = middles(lowered.day.edges)
    turns = kept_apart_begins(lowered.design)
    runs = all_within([lowered.tables[load.id].runs for load in lowered.loads], hours)
    runs |= np.array([isinstance(load.when, Anytime) for load in lowered.loads], dtype=np.bool_)
    # Each set once, in the order of the day.
    for now in dict.fromkeys(map(tuple, runs.tolist())):
        able = tuple(load for load, on in zip(lowered.loads, now, strict=True) if on)
        apart = [load for load in able if load.id in turns]
        free = tuple(load for load in able if load.id not in turns)
        # While one with times of day runs, those that only say how long keep clear of it.
        fixed = any(load.kept_apart and not isinstance(load.when, Anytime) for load in free)
        for only in () if fixed else apart:
            yield (*free, only)
        if fixed or not apart:
            yield free


class _Asking(NamedTuple):
    """What a load asks of its rail: `others_less_w` is its part of what runs as it starts."""

    load: Load
    watts: float
    volt_amps: float
    others_less_w: float
    one_start_w: float


@dataclass(frozen=True)
class _Network:
    """What is the same for every set of loads.

    `rails` from the outermost inward: each with what links on it take, and the stages on it.
    `known` is what was worked out of each rail, by what runs on it and behind its stages.
    """

    rails: tuple[tuple[str, float, tuple[str, ...]], ...]
    losses: dict[str, Loss]
    asking: dict[str, _Asking]
    known: dict[str, dict[tuple[int, ...], RailDemand]] = field(default_factory=dict)


def _network(lowered: LoweredDesign, losses: dict[str, Loss], link_w: dict[str, float]) -> _Network:
    blocked = lowered.rail_records["blocked"].tolist()
    fed = dict.fromkeys(lowered.rails, 0.0)
    for link in lowered.links:
        fed[link.rail] += link_w.get(link.id, 0.0)
    stages: dict[str, list[str]] = {rail: [] for rail in lowered.rails}
    for rail in lowered.rails.values():
        # What does not fit never runs: nothing is drawn through it.
        if rail.parent is not None and not blocked[lowered.place[rail.id]]:
            stages[rail.parent].append(rail.id)
    inward = tuple((rail, fed[rail], tuple(stages[rail])) for rail in reversed(lowered.rails))
    return _Network(inward, losses, {x.id: _asking(lowered, x) for x in lowered.loads})


def _asking(lowered: LoweredDesign, load: Load) -> _Asking:
    """One of a load starts, the others of its kind running."""
    watts = rail_watts(lowered, load)
    scale = watts / running_w(load)
    start_w = one_start_w(load, lowered.assumed) * scale
    return _Asking(load, watts, watts / load.power_factor, one_w(load) * scale, start_w)


def _ask(network: _Network, running: tuple[Load, ...]) -> dict[str, RailDemand]:
    """What a set of running loads asks of every rail, from the outermost inward."""
    on: dict[str, list[_Asking]] = {}
    for load in running:
        on.setdefault(str(load.rail), []).append(network.asking[load.id])
    asked: dict[str, RailDemand] = {}
    for rail, fed, behind in network.rails:
        here = on.get(rail, [])
        # Many sets differ on other rails only; what is known is kept, so its place is its name.
        key = (*map(id, here), *[id(asked[x]) for x in behind])
        known = network.known.setdefault(rail, {})
        found = known.get(key)
        if found is None:
            found = known[key] = _ask_rail(network, asked, here, fed, behind)
        asked[rail] = found
    return asked


def _ask_rail(
    network: _Network,
    asked: dict[str, RailDemand],
    here: list[_Asking],
    fed: float,
    behind: tuple[str, ...],
) -> RailDemand:
    """What is asked of a rail by its own loads and by the stages on it."""
    stages = tuple([(x, network.losses[x].dc_w(asked[x].watts)) for x in behind])
    own = sum([x.watts for x in here])
    total = own + fed + sum([drawn for _, drawn in stages])
    return RailDemand(
        tuple([x.load for x in here]),
        stages,
        total,
        fed + sum([x.volt_amps for x in here]),
        own,
        _highest_start(network, asked, here, stages, total),
        fed,
    )


def _highest_start(
    network: _Network,
    asked: dict[str, RailDemand],
    here: list[_Asking],
    stages: tuple[tuple[str, float], ...],
    total: float,
) -> Start | None:
    """The highest start on a rail, of its own loads or behind its stages."""
    most: Start | None = None
    for one in here:
        others = total - one.others_less_w
        if most is None or others + one.one_start_w > most.watts:
            most = Start(one.load, others + one.one_start_w, others, one.one_start_w)
    for stage, drawn in stages:
        inner = asked[stage].start
        if inner is not None:
            at_start = network.losses[stage].dc_w(inner.watts)
            others = total - drawn
            if most is None or others + at_start > most.watts:
                most = Start(inner.load, others + at_start, others, at_start)
    return most


@dataclass(frozen=True)
class BankDemand:
    """Power drawn from a store with everything together. [W], [A], [V]

    `quick_a` divides the appliances' watts by the nominal volts; `design_a` the watts drawn,
    losses and all, by the lowest volts, where a constant-power load draws most.
    """

    useful_w: float
    drawn_w: float
    start_w: float
    lowest_v: float
    quick_a: float
    design_a: float
    start_a: float


def bank_demand(demand: Demand, store: str, rest: BankLabel) -> BankDemand:
    """Current that a store has to supply with everything running, and at the highest start.

    Parameters
    ----------
    demand : The highest demand.
    store : Id of the store.
    rest : The store by its labels.

    Returns
    -------
    Currents and the volts behind them. [A], [V]

    Examples
    --------
    >>> from graveljar.core.components.battery import bank_label
    >>> from graveljar.core.lowering.example import lamp, lowered
    >>> demand = demand_of(lowered(), {}, {})
    >>> found = bank_demand(demand, "bank", bank_label(lamp().stores[0]))
    >>> found.quick_a, found.design_a  # 60 W at 12.8 V, and at 10 V
    (4.6875, 6.0)
    """
    asked = demand.asked[store]
    lowest_v = lowest_volts(demand.lowered, store, rest)
    useful_w = _useful_w(demand, store)
    start_w = asked.start.watts if asked.start else asked.watts
    return BankDemand(
        useful_w,
        asked.watts,
        start_w,
        lowest_v,
        useful_w / rest.nominal_v,
        asked.watts / lowest_v,
        start_w / lowest_v,
    )


def _useful_w(demand: Demand, rail: str) -> float:
    """Watts of all loads that a rail feeds, itself and through stages."""
    asked = demand.asked[rail]
    own = asked.links_w + sum(rail_watts(demand.lowered, load) for load in asked.loads)
    return own + sum(_useful_w(demand, stage) for stage, _ in asked.stages)


def lowest_volts(lowered: LoweredDesign, store: str, rest: BankLabel) -> float:
    """Lowest volts at which a store still supplies something: empty, or the last cut-out.

    Parameters
    ----------
    lowered : The design as arrays.
    store : Id of the store.
    rest : The store by its labels.

    Returns
    -------
    Volts, > 0. [V]

    Examples
    --------
    >>> from graveljar.core.components.battery import bank_label
    >>> from graveljar.core.lowering.example import lamp, lowered
    >>> lowest_volts(lowered(), "bank", bank_label(lamp().stores[0]))
    10.0
    """
    cut_outs = [
        least_input_v(rail.source)
        for rail in lowered.rails.values()
        if rail.parent == store
        and isinstance(rail.source, Inverter | Converter)
        and not lowered.rail_records["blocked"][lowered.place[rail.id]]
    ]
    return max(min(cut_outs, default=0.0), lowered.rails[store].low_v)

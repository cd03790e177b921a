"""What a design needs: the least usable Wh, batteries in S x P, inverter, system volts."""

import math
from bisect import bisect_left
from dataclasses import dataclass, replace
from typing import Final, Literal

from graveljar.core.analysis.daily_energy import DailyEnergy
from graveljar.core.analysis.peak_demand import BankDemand, Demand
from graveljar.core.analysis.system_volts import edits_for_system_volts
from graveljar.core.components.battery import bank_label, chemistry_of
from graveljar.core.components.usable import Usable, usable_of
from graveljar.core.model import Bank, Battery, Design, Inverter
from graveljar.core.model.patch import Edit
from graveljar.core.network.standard_sizes import COMMON_SIZES_W, MAX_INVERTER_W, SYSTEM_VOLTS

Reason = Literal["energy", "current", "long_life"]

MAX_SERIES: Final = 16
# Batteries in series where their maker says nothing; common practice.
MAX_IN_SERIES: Final = 4
MAX_PARALLEL: Final = 32
# Below these volts of a battery it is a bare cell. Ours. [V]
CELL_V: Final = 5.0
# How long a power must last in a day to count as lasting. Ours. [h]
LONG_H: Final = 1.0


@dataclass(frozen=True)
class BankChoice:
    """One way to build the bank: S x P of the chosen battery at a system voltage.

    The three counts are batteries in parallel needed by energy, by current and for a long life;
    `decides` is the largest: for lithium, long life is advice and decides nothing. `each_wh` is
    usable of one battery in as many as energy asks for.
    `edits` take the choice; `alike_edits` join the batteries that are there at these volts,
    `alike` in parallel. Both adapt what is connected to the bank; empty if that cannot be, and
    before `with_edits`.
    """

    system_v: float
    bank_v: float
    series: int
    parallel: int
    by_energy: int
    each_wh: float
    by_current: int | None
    by_long_life: int
    decides: Reason
    quick_a: float
    design_a: float
    present: bool
    recommended: bool
    alike: int
    edits: tuple[Edit, ...] = ()
    alike_edits: tuple[Edit, ...] = ()


@dataclass(frozen=True)
class NeededCable:
    """A main cable of the bank as needed: how many, which, and its fuse. [A]

    `amps` of one of them. `cable` and `fuse_a` are None where no size does.
    """

    name: str
    amps: float
    count: int
    cable: str | None
    fuse_a: float | None
    fuse_kind: str | None


@dataclass(frozen=True)
class Needed:
    """What the loads and the goal ask for; `goal_wh` without the margins. [Wh], [W], [A]

    `cables` are the main ones of the bank and its inverters with the present choice taken; none
    where it cannot be taken, or in a quick evaluation.
    """

    goal_wh: float
    usable_wh: float
    long_w: float
    inverter_w: float
    surge_w: float
    size_w: float
    choices: tuple[BankChoice, ...]
    cables: tuple[NeededCable, ...] = ()

    @property
    def present(self) -> BankChoice:
        """The choice at the volts the bank has now."""
        return next(choice for choice in self.choices if choice.present)


def long_power(day: DailyEnergy, store: int = 0) -> float:
    """Highest power that is drawn from a store for at least an hour of the day.

    Parameters
    ----------
    day : A day of use.
    store : Index of the store, 0 to S - 1.

    Returns
    -------
    Power, >= 0. [W]

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> from graveljar.core.analysis.daily_energy import simulate_day
    >>> round(float(long_power(simulate_day(lowered()), 0)), 2)  # 5 A at 13.0886 V
    65.44
    """
    lasted_h = 0.0
    stretches = zip(day.given_w[:, store], day.hours, strict=True)
    for watts, hours in sorted(stretches, key=lambda x: -x[0]):
        lasted_h += float(hours)
        if lasted_h >= LONG_H:
            return float(watts)
    return 0.0


def common_size(watts: float) -> float:
    """Smallest common inverter size of at least `watts`; whole kilowatts beyond the table.

    Parameters
    ----------
    watts : Needed, >= 0. [W]

    Returns
    -------
    Size. [W]

    Notes
    -----
    Common practice.

    Examples
    --------
    >>> common_size(1394), common_size(10_400)
    (1500, 11000)
    """
    fitting = (size for size in COMMON_SIZES_W if size >= watts)
    return next(fitting, math.ceil(watts / 1000) * 1000)


def recommended_volts(drawn_w: float) -> float:
    """System voltage that is usual for a power drawn.

    Parameters
    ----------
    drawn_w : Power drawn from the bank, >= 0. [W]

    Returns
    -------
    12, 24 or 48. [V]

    Notes
    -----
    Common practice: the reason is current.

    Examples
    --------
    >>> recommended_volts(1500), recommended_volts(3000), recommended_volts(13_000)
    (12.0, 24.0, 48.0)
    """
    return next(volts for volts, most_w in SYSTEM_VOLTS if drawn_w <= most_w)


def work_out(
    design: Design, bank: Bank, day: DailyEnergy, demand: Demand, at_bank: BankDemand
) -> Needed:
    """Needed energy, batteries, system voltage and inverter for the loads and the goal.

    Parameters
    ----------
    design : Goal, margins and assumptions.
    bank : The first store.
    day : A day with every load connected.
    demand : The highest demand with every load connected.
    at_bank : The currents that the bank has to supply.

    Returns
    -------
    What is needed, and each system voltage as a choice.

    Examples
    --------
    >>> from graveljar.core.analysis.analysis import Analysis
    >>> from graveljar.core.lowering.example import lamp
    >>> from graveljar.core.network.network import Network
    >>> needed = Analysis(Network(lamp())).needed
    >>> needed.choices[0].parallel  # 1571 Wh a day from 1280 Wh each, a reserve of a tenth apart
    2
    """
    goal, assumed = design.goal, demand.lowered.assumed
    goal_wh = day.until(goal.hours)
    usable_wh = goal_wh * (1 + goal.guess_margin) / (1 - goal.ageing_margin)
    inverter_w, start_w = _of_inverters(demand)
    size_w = 0.0
    if inverter_w:
        size_w = common_size(max(inverter_w, start_w / assumed["trusted_surge_factor"]))
    task = _Task(design, bank, day, at_bank, assumed, usable_wh, long_power(day))
    choices = tuple(_choice(task, volts, series) for volts, series in _ways(bank))
    return Needed(goal_wh, usable_wh, task.long_w, inverter_w, start_w, size_w, choices)


def with_edits(needed: Needed, design: Design, bank: Bank, assumed: dict[str, float]) -> Needed:
    """The same with the edits that take each choice.

    Parameters
    ----------
    needed : What is needed of that bank.
    design : Whose bank it is.
    bank : The first store.
    assumed : Assumptions by their key.

    Returns
    -------
    The same figures.

    Examples
    --------
    >>> from graveljar.core.analysis.analysis import Analysis
    >>> from graveljar.core.lowering.example import lamp
    >>> from graveljar.core.network.network import Network
    >>> Analysis(Network(lamp())).takeable.present.edits[1]
    Edit(op='replace', path='/stores/0/parallel', value=2)
    """

    def edits(choice: BankChoice, parallel: int) -> tuple[Edit, ...]:
        if parallel > MAX_PARALLEL:
            return ()
        made = [
            Edit("replace", "/stores/0/series", choice.series),
            Edit("replace", "/stores/0/parallel", parallel),
        ]
        if choice.series != bank.series:
            made += edits_for_system_volts(design, bank, choice.series, choice.system_v, assumed)
        for place, stage in enumerate(design.stages):
            if stage is design.inverter and stage.rail == bank.id:
                made += _inverter_edits(place, stage, needed.size_w)
        return tuple(made)

    choices = tuple(
        replace(
            x,
            edits=edits(x, x.parallel),
            alike_edits=() if x.series == bank.series else edits(x, x.alike),
        )
        for x in needed.choices
    )
    return replace(needed, choices=choices)


def _of_inverters(demand: Demand) -> tuple[float, float]:
    """Least continuous watts of one inverter that carries all mains loads, and its surge. [W]"""
    most_share = demand.lowered.assumed["inverter_most_share"]
    running = {
        rail.id: demand.asked[rail.id]
        for rail in demand.lowered.rails.values()
        if isinstance(rail.source, Inverter)
    }
    total_w = sum(max(x.watts, x.volt_amps) for x in running.values())
    starts = [total_w - x.watts + x.start.watts for x in running.values() if x.start]
    return total_w / most_share, max(starts, default=0.0)


@dataclass(frozen=True)
class _Task:
    """What every choice has to do."""

    design: Design
    bank: Bank
    day: DailyEnergy
    at_bank: BankDemand
    assumed: dict[str, float]
    usable_wh: float
    long_w: float


def _ways(bank: Bank) -> list[tuple[float, int]]:
    """System volts and series counts the chosen battery can make, the present one among them."""
    battery_v = bank.battery.volts
    ways = []
    for volts, _ in SYSTEM_VOLTS:
        series = round(volts / battery_v)
        # LFP stands a little above its class (12.8 for 12), Li-ion up to a quarter off.
        near = 0.9 <= series * battery_v / volts <= 1.25
        if near and 1 <= series <= most_in_series(bank.battery):
            ways.append((volts, series))
    if bank.series not in [series for _, series in ways]:
        ways.append((bank_label(bank).nominal_v, bank.series))
    return sorted(ways)


def _choice(task: _Task, system_v: float, series: int) -> BankChoice:
    bank, battery = task.bank, task.bank.battery
    bank_v = series * battery.volts
    lowest_v = task.at_bank.lowest_v * series / bank.series
    design_a = task.at_bank.drawn_w / lowest_v
    by_energy, each_wh = _by_energy(task, series)
    gentle_a = task.assumed["kind_rate_c"] * battery.ah
    most_a = _most_a(battery)
    counts: dict[Reason, int | None] = {
        "energy": by_energy,
        "current": None if most_a is None else _up(design_a / most_a),
        "long_life": _up(task.long_w / bank_v / gentle_a),
    }
    advice = ("long_life",) if chemistry_of(battery).lithium else ()
    decides = max((x for x in counts if x not in advice), key=lambda x: counts[x] or 0)
    parallel = counts[decides] or 1
    return BankChoice(
        system_v=system_v,
        bank_v=bank_v,
        series=series,
        parallel=parallel,
        by_energy=by_energy,
        each_wh=each_wh,
        by_current=counts["current"],
        by_long_life=counts["long_life"] or 1,
        decides=decides,
        quick_a=task.at_bank.useful_w / bank_v,
        design_a=design_a,
        present=series == bank.series,
        recommended=system_v == recommended_volts(task.at_bank.drawn_w),
        alike=max(round(bank.series * bank.parallel / series), 1),
    )


def _most_a(battery: Battery) -> float | None:
    """Amps one battery is used for: what its protection passes, and what it is rated for. [A]"""
    limits = (battery.bms_a or math.inf, chemistry_of(battery).strained_c * battery.ah)
    return None if min(limits) == math.inf else min(limits)


def most_in_series(battery: Battery) -> int:
    """Batteries that may be in series: as many as the maker allows, else four; bare cells more.

    Parameters
    ----------
    battery : As on its label.

    Returns
    -------
    Count, >= 1.

    Notes
    -----
    Common practice.

    Examples
    --------
    >>> most_in_series(Battery(volts=12.8))
    4
    """
    if battery.most_series is not None:
        return battery.most_series
    return MAX_SERIES if battery.volts < CELL_V else MAX_IN_SERIES


def usable_with(design: Design, bank: Bank, day: DailyEnergy, series: int, parallel: int) -> Usable:
    """Usable energy of the same batteries connected otherwise, at the same day's watts.

    Parameters
    ----------
    design : Its temperature counts.
    bank : Of the batteries in question.
    day : A day of use.
    series, parallel : How they are connected, >= 1.

    Returns
    -------
    The energy and its factors. [Wh], [1]

    Examples
    --------
    >>> from graveljar.core.analysis.daily_energy import simulate_day
    >>> from graveljar.core.lowering.example import lamp, lowered
    >>> bank = lamp().stores[0]
    >>> usable_with(lamp(), bank, simulate_day(lowered()), 1, 2).wh  # 2 x 12.8 V x 100 Ah
    2560.0
    """
    joined = bank.model_copy(update={"series": series, "parallel": parallel})
    return usable_of(joined, design.setting.mean_c, day.given_w[:, 0], day.hours)


def _by_energy(task: _Task, series: int) -> tuple[int, float]:
    """Fewest strings that cover the need at their own currents, and what one battery gives then.

    More strings share the current: lead-acid gives more the more there are (Peukert).
    """

    def usable_wh(parallel: int) -> float:
        return usable_with(task.design, task.bank, task.day, series, parallel).wh

    tried = range(1, MAX_PARALLEL + 1)
    place = bisect_left(tried, task.usable_wh * (1 - 1e-9), key=usable_wh)
    strings = tried[min(place, MAX_PARALLEL - 1)]
    each_wh = usable_wh(strings) / (series * strings)
    if place == MAX_PARALLEL:
        strings = _up(task.usable_wh / (series * each_wh))
    return strings, each_wh


def _up(count: float) -> int:
    # A count a hair above a whole number is that number: 2.0000000001 batteries are two.
    return max(math.ceil(count - 1e-9), 1)


def _inverter_edits(place: int, inverter: Inverter, size_w: float) -> list[Edit]:
    at = f"/stages/{place}"
    if inverter.continuous_w < size_w <= MAX_INVERTER_W:
        return [
            Edit("replace", f"{at}/continuous_w", float(size_w)),
            Edit("replace", f"{at}/surge_w", float(2 * size_w)),
        ]
    if inverter.surge_w < 2 * size_w <= 2 * inverter.continuous_w:
        return [Edit("replace", f"{at}/surge_w", 2 * inverter.continuous_w)]
    return []

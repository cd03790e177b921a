"""What a design needs: the least usable Wh, batteries in S x P, inverter, system volts."""

import math
from bisect import bisect_left
from dataclasses import dataclass
from typing import Final, Literal

from graveljar.core.day import DAY_H, Day
from graveljar.core.demand import BankDemand, System, Together
from graveljar.core.edit import Edit
from graveljar.core.run import Run, usable_with

Reason = Literal["energy", "current", "kindness"]

# Where the trade changes to the next system voltage, by power drawn. Common practice.
SYSTEM_VOLTS: Final = ((12.0, 2_000.0), (24.0, 4_000.0), (48.0, math.inf))
# Continuous watts inverters are commonly sold with. Common practice.
COMMON_SIZES_W: Final = (
    150, 300, 500, 600, 800, 1000, 1200, 1500, 2000, 2500, 3000, 4000, 5000, 6000, 8000, 10000,
)  # fmt: skip
MOST_SERIES: Final = 16
MOST_PARALLEL: Final = 32
# How long a power must last in a day to count as "for long". Ours. [h]
LONG_H: Final = 1.0


@dataclass(frozen=True)
class Choice:
    """One way to build the bank: S x P of the chosen battery at a system voltage.

    The three counts are parallel strings asked for by energy, by current and by kindness;
    `decides` is the largest. `each_wh` is usable of one battery in as many as energy asks for.
    `edits` take the choice; empty if it is out of reach.
    """

    system_v: float
    bank_v: float
    series: int
    parallel: int
    by_energy: int
    each_wh: float
    by_current: int | None
    by_kindness: int
    decides: Reason
    quick_a: float
    design_a: float
    present: bool
    recommended: bool
    edits: tuple[Edit, ...]


@dataclass(frozen=True)
class Needed:
    """What the loads and the goal ask for. [Wh], [W], [A]"""

    usable_wh: float
    long_w: float
    inverter_w: float
    surge_w: float
    size_w: float
    choices: tuple[Choice, ...]

    @property
    def present(self) -> Choice:
        """The choice at the volts the bank has now."""
        return next(choice for choice in self.choices if choice.present)


def long_power(day: Day) -> float:
    """The greatest power that is drawn for at least an hour of the day. [W]"""
    lasted_h = 0.0
    for segment in sorted(day.segments, key=lambda s: -s.drawn_w):
        lasted_h += segment.hours
        if lasted_h >= LONG_H:
            return segment.drawn_w
    return 0.0


def common_size(watts: float) -> float:
    """Smallest common inverter size of at least `watts`; whole kilowatts beyond the table.

    Examples
    --------
    >>> common_size(1394), common_size(10_400)
    (1500, 11000)
    """
    fitting = (size for size in COMMON_SIZES_W if size >= watts)
    return next(fitting, math.ceil(watts / 1000) * 1000)


def recommended_volts(drawn_w: float) -> float:
    """System voltage the trade would choose for a power drawn. [V]

    Examples
    --------
    >>> recommended_volts(1500), recommended_volts(3000), recommended_volts(13_000)
    (12.0, 24.0, 48.0)
    """
    return next(volts for volts, most_w in SYSTEM_VOLTS if drawn_w <= most_w)


def work_out(
    system: System, run: Run, ac: Together, demand: BankDemand, start_w: float, factor: float
) -> Needed:
    """All that is needed; `factor` is the trusted surge as a multiple of continuous watts."""
    goal = system.design.goal
    usable_wh = run.day.wh / DAY_H * goal.hours * (1 + goal.guess_margin) / (1 - goal.ageing_margin)
    inverter_w = max(ac.watts, ac.volt_amps) / system.assumed["inverter_most_share"]
    size_w = common_size(max(inverter_w, start_w / factor)) if inverter_w else 0.0
    long_w = long_power(run.day)
    wanted_v = recommended_volts(demand.drawn_w)
    choices = tuple(
        _choice(system, run.day, demand, volts, series, usable_wh, long_w, wanted_v, size_w)
        for volts, series in _ways(system)
    )
    return Needed(usable_wh, long_w, inverter_w, start_w, size_w, choices)


def _ways(system: System) -> list[tuple[float, int]]:
    """System volts and series counts the chosen battery can make, the present one among them."""
    battery_v = system.design.bank.battery.volts
    ways = []
    for volts, _ in SYSTEM_VOLTS:
        series = round(volts / battery_v)
        # LFP stands a little above its class (12.8 for 12), Li-ion up to a quarter off.
        if 1 <= series <= MOST_SERIES and 0.9 <= series * battery_v / volts <= 1.25:
            ways.append((volts, series))
    if system.design.bank.series not in [series for _, series in ways]:
        ways.append((system.rest.nominal_v, system.design.bank.series))
    return sorted(ways)


def _choice(
    system: System,
    day: Day,
    demand: BankDemand,
    system_v: float,
    series: int,
    usable_wh: float,
    long_w: float,
    wanted_v: float,
    size_w: float,
) -> Choice:
    battery = system.design.bank.battery
    bank_v = series * battery.volts
    design_a = demand.drawn_w / (demand.lowest_v * bank_v / system.rest.nominal_v)
    by_energy, each_wh = _by_energy(system, day, series, usable_wh)
    counts: dict[Reason, int | None] = {
        "energy": by_energy,
        "current": None if battery.bms_a is None else _up(design_a / battery.bms_a),
        "kindness": _up(long_w / bank_v / (system.assumed["kind_rate_c"] * battery.ah)),
    }
    decides = max(counts, key=lambda reason: counts[reason] or 0)
    parallel = counts[decides] or 1
    present = series == system.design.bank.series
    edits = _edits(system, series, parallel, system_v, size_w) if parallel <= MOST_PARALLEL else ()
    return Choice(
        system_v=system_v,
        bank_v=bank_v,
        series=series,
        parallel=parallel,
        by_energy=by_energy,
        each_wh=each_wh,
        by_current=counts["current"],
        by_kindness=counts["kindness"] or 1,
        decides=decides,
        quick_a=(demand.ac_w + demand.dc_w) / bank_v,
        design_a=design_a,
        present=present,
        recommended=system_v == wanted_v,
        edits=edits,
    )


def _by_energy(system: System, day: Day, series: int, need_wh: float) -> tuple[int, float]:
    """Fewest strings that cover the need at their own currents, and what one battery gives then.

    More strings share the current: lead-acid gives more the more there are (Peukert).
    """

    def usable_wh(parallel: int) -> float:
        return usable_with(system, day, series, parallel).wh

    tried = range(1, MOST_PARALLEL + 1)
    place = bisect_left(tried, need_wh * (1 - 1e-9), key=usable_wh)
    strings = tried[min(place, MOST_PARALLEL - 1)]
    each_wh = usable_wh(strings) / (series * strings)
    return (strings if place < MOST_PARALLEL else _up(need_wh / (series * each_wh))), each_wh


def _up(count: float) -> int:
    # A count a hair above a whole number is that number: 2.0000000001 batteries are two.
    return max(math.ceil(count - 1e-9), 1)


def _edits(
    system: System, series: int, parallel: int, system_v: float, size_w: float
) -> tuple[Edit, ...]:
    bank, inverter = system.design.bank, system.design.inverter
    edits = [
        Edit("replace", "/stores/0/series", series),
        Edit("replace", "/stores/0/parallel", parallel),
    ]
    if inverter is None:
        return tuple(edits)
    if series != bank.series:
        times = system_v / inverter.nominal_v
        edits += [
            Edit("replace", "/stages/0/nominal_v", system_v),
            Edit("replace", "/stages/0/accepts/least_v", inverter.accepts.least_v * times),
            Edit("replace", "/stages/0/accepts/most_v", inverter.accepts.most_v * times),
        ]
    if size_w > inverter.continuous_w:
        edits += [
            Edit("replace", "/stages/0/continuous_w", float(size_w)),
            Edit("replace", "/stages/0/surge_w", float(2 * size_w)),
        ]
    elif inverter.surge_w < 2 * size_w:
        edits.append(Edit("replace", "/stages/0/surge_w", 2 * inverter.continuous_w))
    return tuple(edits)

"""The week: what comes in by source, what goes out, how full the stores are, in words."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final, Literal

import numpy as np

from graveljar.core.analysis.band import begin_charge_band
from graveljar.core.analysis.week import (
    DAYS,
    HOURS,
    MUCH_LEFT,
    Week,
    first_hours,
    from_monday,
    keeps_up,
    simulate_week,
)
from graveljar.core.context import Context
from graveljar.core.lowering.lower_stores import daylight
from graveljar.core.model import Generator, Span, Store
from graveljar.core.text import quantity
from graveljar.core.views.filling import (
    FILL_FROM,
    FillCurve,
    SourceKind,
    column,
    fills_of,
    shown_place,
    source_kind,
)
from graveljar.core.views.series import Column

DAY_NAMES: Final = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
# A change of charge a day that is worth no word. Ours. [1]
EVEN: Final = 0.002
# A store within so little of the charge at which its charger ends is full. Ours. [1]
FULL_WITHIN: Final = 0.01

Trend = Literal["keeps up", "gains", "runs down", "no source"]


@dataclass(frozen=True)
class Inflow:
    """A source: what it brings into the stores, by the hour and in a mean day. [Wh]

    Its kind is "store" where that is another store of the design. `litres` of fuel a day, where
    that is known. [l]
    """

    id: str
    name: str
    kind: SourceKind
    wh: Column
    day_wh: float
    litres: float | None


@dataclass(frozen=True)
class Outflow:
    """A load, or losses and idle draw: what it takes, by the hour and in a mean day. [Wh]"""

    id: str
    name: str
    wh: Column
    day_wh: float


@dataclass(frozen=True)
class DayRow:
    """A day of the week: what is there, what comes and goes [Wh], its lowest charge [1].

    `outages` are the hours at which its mains fails. [h]
    """

    name: str
    sun: Literal["good", "usual", "poor"]
    engine: bool
    mains: bool
    outages: tuple[Span, ...]
    in_wh: float
    out_wh: float
    lowest: float
    full: bool


@dataclass(frozen=True)
class Refill:
    """A week from Monday at midnight.

    `store` is the one whose charge is shown, at the end of each hour; `low` and `high` are its
    band. `short_wh` is what is missing in a mean day: what the stores lose, and what loads that
    stop for it do not get. [1], [Wh]
    """

    store: str
    store_name: str
    reserve: float
    month: int
    daylight_h: float
    inflows: tuple[Inflow, ...]
    outflows: tuple[Outflow, ...]
    days: tuple[DayRow, ...]
    charge: Column
    low: Column
    high: Column
    draws: int
    trend: Trend
    headline: str
    details: tuple[str, ...]
    day_in_wh: float
    day_out_wh: float
    short_wh: float
    fills: tuple[FillCurve, ...]


def refill_of(context: Context, fill_from: float = FILL_FROM) -> Refill:
    """The week of a design; and how its stores fill from a charge, 0 to 1. [1]"""
    lowered, design = context.analysis.lowered, context.network.design
    at_h = np.arange(HOURS + 1, dtype=np.float64)
    # On threads of their own while the rest is worked out here.
    band = begin_charge_band(from_monday(lowered), at_h)
    both, place = simulate_week(lowered, 2 * HOURS), shown_place(context)
    balanced, week = keeps_up(both, held_places(context)), first_hours(both, HOURS)
    store = context.network.stores[place]
    inflows, outflows = tuple(_inflows(context, week)), tuple(_outflows(context, week))
    short_wh = _short_a_day(context, week)
    trend, headline = _trend(context, week, place, balanced=balanced)
    days = tuple(_days(context, week, place, inflows, outflows))
    fills = tuple(fills_of(context, fill_from))
    draws, tenths = band()
    return Refill(
        store=store.id,
        store_name=store.name,
        reserve=store.reserve,
        month=design.week.month,
        daylight_h=daylight(design),
        inflows=inflows,
        outflows=outflows,
        days=days,
        charge=column(week.charge[:, place]),
        low=column(tenths[0, place]),
        high=column(tenths[2, place]),
        draws=draws,
        trend=trend,
        headline=headline,
        details=tuple(_details(context, week, place)),
        day_in_wh=sum(x.day_wh for x in inflows if x.kind != "store"),
        day_out_wh=sum(x.day_wh for x in outflows),
        short_wh=0.0 if balanced else short_wh,
        fills=fills,
    )


def _inflows(context: Context, week: Week) -> Iterator[Inflow]:
    """Every store that feeds another, in the document's order."""
    lowered = context.analysis.lowered
    for store in context.network.design.stores:
        mine = [k for k, x in enumerate(lowered.links) if lowered.rails[x.rail].store == store.id]
        passed = [lowered.place[x.id] for x in context.network.inverters if x.transfer == store.id]
        if not mine and not passed:
            continue
        wh = week.brought_wh[:, mine].sum(axis=1) + week.passed_wh[:, passed].sum(axis=1)
        yield Inflow(
            store.id,
            store.name,
            source_kind(store),
            column(wh),
            float(wh.sum()) / DAYS,
            _litres(context, week, store),
        )


def _litres(context: Context, week: Week, store: Store) -> float | None:
    """Fuel a generator burns in a mean day. [l]"""
    if not isinstance(store, Generator) or store.litres_per_kwh is None:
        return None
    given_wh = float(week.released_wh[:, context.analysis.lowered.place[store.id]].sum())
    return given_wh / DAYS / 1000 * store.litres_per_kwh


def _outflows(context: Context, week: Week) -> Iterator[Outflow]:
    """What the stores give: loads straight on a source take nothing out of them."""
    network = context.network
    for i, load in enumerate(context.analysis.lowered.loads):
        if network.is_source(network.rails[str(load.rail)].store):
            continue
        wh = week.used_wh[:, i]
        yield Outflow(load.id, load.name, column(wh), float(wh.sum()) / DAYS)
    lost = week.lost_wh
    yield Outflow("losses", "Losses and idle draw", column(lost), float(lost.sum()) / DAYS)


def _days(
    context: Context,
    week: Week,
    place: int,
    inflows: tuple[Inflow, ...],
    outflows: tuple[Outflow, ...],
) -> Iterator[DayRow]:
    full_at = min(float(context.analysis.lowered.store_records[place]["full_at"]), 1.0)
    for d, (name, day) in enumerate(zip(DAY_NAMES, context.network.design.week.days, strict=True)):
        hours = slice(24 * d, 24 * d + 24)
        charge = week.charge[24 * d : 24 * d + 25, place]
        yield DayRow(
            name,
            day.sun,
            day.engine,
            day.mains,
            day.outages,
            sum(sum(x.wh[hours]) for x in inflows if x.kind != "store"),
            sum(sum(x.wh[hours]) for x in outflows),
            float(charge.min()),
            bool((charge[1:] >= full_at - FULL_WITHIN).any()),
        )


def refill_in_words(context: Context) -> str:
    """In one line: whether the week balances, and what a mean day brings. [Wh]"""
    both = simulate_week(context.analysis.lowered, 2 * HOURS)
    week = first_hours(both, HOURS)
    balanced = keeps_up(both, held_places(context))
    trend, headline = _trend(context, week, shown_place(context), balanced=balanced)
    if trend == "no source":
        return headline
    brought = sum(x.day_wh for x in _inflows(context, week) if x.kind != "store")
    return f"{headline}; {quantity(brought, 'Wh')} a day come in"


def held_places(context: Context) -> list[int]:
    """Places of the stores that hold energy."""
    held = {bank.id for bank in context.network.held}
    return [s for s, bank in enumerate(context.network.stores) if bank.id in held]


def _short_a_day(context: Context, week: Week) -> float:
    """What is missing in a mean day from Monday's end on, when a full start is used up. [Wh]"""
    rest, days = slice(24, HOURS), DAYS - 1
    lost = float(week.released_wh[rest][:, held_places(context)].sum())
    missed = 0.0
    for i, load in enumerate(context.analysis.lowered.loads):
        if not np.isfinite(week.missed_h[i]) or week.missed_left[i] > MUCH_LEFT:
            continue
        day = context.analysis.day.loads[load.id]
        wanted = (day.used_wh + day.standby_wh) * days
        missed += max(wanted - float(week.used_wh[rest, i].sum()), 0.0)
    return max(lost, 0.0) / days + missed / days


def _trend(context: Context, week: Week, place: int, *, balanced: bool) -> tuple[Trend, str]:
    """How the week goes: by the charge at the end of its first day and of its last."""
    if not week.brought_wh.sum() > 0:
        return "no source", "Nothing refills it"
    charge = week.charge[:, place]
    dropped = float(charge[24] - charge[-1]) / (DAYS - 1)
    if not balanced:
        if dropped > EVEN:
            return "runs down", f"Runs down {quantity(dropped, 'share', 2)} a day"
        return "runs down", "Does not keep up"
    if -dropped > EVEN:
        return "gains", f"Gains {quantity(-dropped, 'share', 2)} a day"
    return "keeps up", "Keeps up"


def _details(context: Context, week: Week, place: int) -> Iterator[str]:
    charge = week.charge[:, place]
    store = context.network.stores[place]
    full_at = min(float(context.analysis.lowered.store_records[place]["full_at"]), 1.0)
    full_days = sum(
        bool((charge[24 * d + 1 : 24 * d + 25] >= full_at - FULL_WITHIN).any()) for d in range(DAYS)
    )
    lowest = int(np.argmin(charge))
    if week.brought_wh.sum() > 0:
        days = "1 day" if full_days == 1 else f"{full_days} days"
        yield f"Full on {days} of 7." if full_days else "Never full in the week."
    yield f"Lowest: {quantity(float(charge[lowest]), 'share', 2)} on {_moment(lowest)}."
    missed = week.missed_h
    if np.isfinite(missed).any():
        first = int(np.argmin(missed))
        name = context.analysis.lowered.loads[first].name
        yield f"First to stop: {name}, on {_moment(float(missed[first]))}."
    elif store.reserve and float(charge.min()) <= store.reserve + FULL_WITHIN:
        yield f"It reaches its reserve of {quantity(store.reserve, 'share', 2)}."
    else:
        yield "Nothing stops in the week."


def _moment(hours: float) -> str:
    """A time of the week in words: Sunday 03:10; from the second week on with its days."""
    day, minutes = divmod(round(hours * 60), 24 * 60)
    if day >= DAYS:
        return f"day {day + 1}"
    return f"{DAY_NAMES[day]} {minutes // 60:02d}:{minutes % 60:02d}"

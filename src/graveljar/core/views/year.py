"""The year: in which months the week keeps up."""

from collections.abc import Iterator
from dataclasses import dataclass

from graveljar.core.analysis.week import DAYS, HOURS, keeps_up, simulate_week
from graveljar.core.context import Context
from graveljar.core.model import Sun
from graveljar.core.views.filling import source_kind
from graveljar.core.views.refill import held_places


@dataclass(frozen=True)
class MonthRow:
    """The second week in a month, when a full start is used up.

    What the sun and all sources bring in a mean day; and what a day asks for, if nothing stops.
    [Wh]
    """

    month: int
    sun_wh: float
    in_wh: float
    asked_wh: float
    keeps_up: bool


def year_of(context: Context) -> Iterator[MonthRow]:
    """The week of a design in every month; nothing if no sun shines on it.

    Only the sun changes with the month: the temperature stays what it is.
    """
    design = context.network.design
    if not any(isinstance(store, Sun) for store in design.stores):
        return
    for month in range(1, 13):
        week = design.week.model_copy(update={"month": month})
        yield _month(Context(design.model_copy(update={"week": week})))


def _month(context: Context) -> MonthRow:
    lowered, network = context.analysis.lowered, context.network
    both = simulate_week(lowered, 2 * HOURS)
    from_sun = from_all = 0.0
    for k, link in enumerate(lowered.links):
        kind = source_kind(network.store(lowered.rails[link.rail].store))
        wh = float(both.brought_wh[HOURS:, k].sum()) / DAYS
        from_sun += wh if kind == "sun" else 0.0
        from_all += wh if kind != "store" else 0.0
    return MonthRow(
        month=network.design.week.month,
        sun_wh=from_sun,
        in_wh=from_all,
        asked_wh=context.analysis.day.wh,
        keeps_up=keeps_up(both, held_places(context)),
    )

"""Seven days in a row, where they differ in sun, engine, mains or loads; else one that repeats."""

import numpy as np

from graveljar.core.kernel.records import DayProfile, Floats
from graveljar.core.lowering.outage import switched_off
from graveljar.core.model import Design, Load, Mains, Sun, Vehicle, WeekDay
from graveljar.core.network.schedule import DAY_H


def week_of(
    design: Design, day: DayProfile, loads: tuple[Load, ...], assumed: dict[str, float]
) -> DayProfile:
    """What the run of a design repeats.

    Parameters
    ----------
    design : As it is planned.
    day : A usual day.
    loads : Those of the arrays, in their order. Shape (L,)
    assumed : Every assumption's value.

    Returns
    -------
    The day with its hours without sun, if all days are alike; else the week.
    """
    days = design.week.days
    kinds = {type(store) for store in design.stores}
    once = [i for i, load in enumerate(loads) if load.once]
    alike = (
        not once
        and (Sun not in kinds or len({x.sun for x in days}) == 1)
        and (Vehicle not in kinds or all(x.engine for x in days))
        and (Mains not in kinds or all(x.mains and not x.outages for x in days))
    )
    if alike:
        return on_day(design, day, days[0], assumed)
    seven = [on_day(design, day, x, assumed) for x in days]
    if once:
        seven = [x._replace(demand=_first_day(x, once, d)) for d, x in enumerate(seven)]
    begins = np.concatenate([day.edges[:-1] + DAY_H * d for d in range(len(days))])
    week = DayProfile(
        curve=day.curve,
        charging=day.charging,
        edges=np.append(begins, DAY_H * len(days)),
        warmth=np.concatenate([x.warmth for x in seven]),
        cold_ohm=np.concatenate([x.cold_ohm for x in seven]),
        frozen=np.concatenate([x.frozen for x in seven]),
        too_cold=np.concatenate([x.too_cold for x in seven]),
        full_at=np.concatenate([x.full_at for x in seven]),
        most_a=np.concatenate([x.most_a for x in seven]),
        demand=np.concatenate([x.demand for x in seven]),
        plugged=np.concatenate([x.plugged for x in seven]),
        start_h=day.start_h,
    )
    # A store's own rail has its place.
    mains = [s for s, store in enumerate(design.stores) if isinstance(store, Mains)]
    spans = [
        (DAY_H * d + span.from_h, DAY_H * d + span.to_h)
        for d, x in enumerate(days)
        for span in x.outages
    ]
    return switched_off(week, mains, spans) if mains and spans else week


def _first_day(day: DayProfile, once: list[int], which: int) -> Floats:
    """Demand of a day of the week: what runs once does so within 24 h of the start."""
    demand = day.demand.copy()
    begins = day.edges[:-1]
    first = begins >= day.start_h if which == 0 else (begins < day.start_h) & (which == 1)
    for i in once:
        demand[~first, i] = 0.0
    return demand


def on_day(design: Design, day: DayProfile, what: WeekDay, assumed: dict[str, float]) -> DayProfile:
    """A day of the week: its sun, and what is there of engine and mains.

    Parameters
    ----------
    design : As it is planned.
    day : A day by the times of its parts alone.
    what : What is there on this day.
    assumed : Every assumption's value.

    Returns
    -------
    The day. Where no sun shines a panel is off.
    """
    factor = {"good": assumed["good_sun"], "usual": 1.0, "poor": assumed["poor_sun"]}[what.sun]
    most_a, plugged = day.most_a, day.plugged.copy()
    if factor != 1.0:
        # No limit stays none.
        most_a = np.where(np.isinf(most_a), most_a, factor * most_a)
    for s, store in enumerate(design.stores):
        match store:
            case Sun():
                plugged[:, s] &= most_a[:, s] > 0.0
            case Vehicle() if not what.engine:
                plugged[:, s] = False
            case Mains() if not what.mains:
                plugged[:, s] = False
            case _:
                pass
    return day._replace(most_a=most_a, plugged=plugged)

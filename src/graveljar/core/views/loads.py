"""Each load: its watts and energy, how long it is served, whether its volts fit."""

from collections.abc import Iterator
from dataclasses import dataclass

from graveljar.core.components.load import day_wh, one_start_w, one_w
from graveljar.core.context import Context
from graveljar.core.network.load_at_rail import via_adapter
from graveljar.core.network.windows import LoadFit, accepted_window


@dataclass(frozen=True)
class LoadRow:
    """A load as it fares. Watts of one; energy of all of them. [W], [Wh], [h]

    `at_bank_wh` is None for a load that cannot run; `served_h`, until it first is not, None
    without end; `missed_share` of the hours it should have run until the run ends. Without a
    window of its own it is taken to accept `usual_cut_out_v` to `usual_most_v` [V].
    """

    id: str
    one_w: float
    start_w: float
    day_wh: float
    at_bank_wh: float | None
    served_h: float | None
    missed_share: float | None
    meets_goal: bool
    via_adapter: bool
    fit: LoadFit
    usual_cut_out_v: float
    usual_most_v: float


def load_rows(context: Context) -> Iterator[LoadRow]:
    """A row for each load of the design."""
    network = context.network
    goal_h = network.design.goal.hours
    for load in network.design.loads:
        usual = accepted_window(load)
        day = context.analysis.day.loads.get(load.id)
        hours = load_hours(context, load.id)
        yield LoadRow(
            id=load.id,
            one_w=one_w(load),
            start_w=one_start_w(load, network.assumed),
            day_wh=day_wh(load),
            at_bank_wh=None if day is None else day.at_bank_wh,
            served_h=hours,
            missed_share=missed_share(context, load.id),
            meets_goal=hours is None or hours >= goal_h,
            via_adapter=via_adapter(load, network.rails),
            fit=network.fit_of_load(load),
            usual_cut_out_v=usual.least_v,
            usual_most_v=usual.fits_to_v,
        )


def load_hours(context: Context, load_id: str) -> float | None:
    """Hours a load is served; None without end, 0 if it cannot run. [h]"""
    if load_id not in context.analysis.load_places:
        return 0.0
    stop = context.analysis.run.stops.get(load_id)
    return None if stop is None else stop.hours


def missed_share(context: Context, load: str) -> float | None:
    """Share of the hours until the run ends in which a load should run and does not. [1]

    None for one that can never run.
    """
    place = context.analysis.load_places.get(load)
    if place is None:
        return None
    record = context.analysis.run.loads[place]
    wanted = float(record["scheduled_h"])
    return max(1 - float(record["served_h"]) / wanted, 0.0) if wanted else 0.0

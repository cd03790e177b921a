"""Mains that fails: what runs on for how long, when all is full again, and two a day."""

import re
from itertools import pairwise
from typing import Any

import numpy as np
import pytest
from pydantic import ValidationError

from graveljar.core.analysis.outage import bears_two_a_day, outages_of
from graveljar.core.analysis.week import from_monday, simulate_week
from graveljar.core.context import Context
from graveljar.core.lowering.outage import with_outages
from graveljar.core.model import Design
from graveljar.core.views.outage import Outage, outage_of
from tests.building import bank, design, load


def backup_box(router_w: float = 8.0, in_w: float = 24.0, **of_load: Any) -> Design:
    """A backup box of 60 Wh, nine tenths of it usable, before a router."""
    port = {"kind": "dc", "id": "out", "volts": 12.0, "amps": 3.0, "efficiency": 0.9}
    plug = {"id": "in", "name": "Mains", "supply": "ac", "most_w": in_w,
            "accepts": {"least_v": 200.0, "most_v": 250.0},
            "modes": [{"name": "Mains", "amps": 1.0}]}  # fmt: skip
    box = {"kind": "station", "id": "box", "name": "Backup box", "label_wh": 60.0, "cells": 3,
           "chemistry": "nmc", "usable_share": 0.9, "idle_w": 0.5, "most_in_w": in_w,
           "charge_efficiency": 0.9, "outlets": [port], "inputs": [plug]}  # fmt: skip
    router = load(router_w, "router", rail="out", hours_per_day=24.0, priority="must",
                  window={"cut_out_v": 9.0, "most_v": 15.0})  # fmt: skip
    return design(
        router | of_load,
        stores=[box, {"kind": "mains"}],
        links=[{"id": "cord", "rail": "mains", "to": "box", "input": "in"}],
    )


def outage(made: Design, hours: float) -> Outage:
    """An outage of a design that the mains feeds."""
    found = outage_of(Context(made), hours)
    assert found is not None
    return found


def test_a_router_runs_on_for_as_long_as_its_box_lasts() -> None:
    """54 Wh at 8 W / 0.9 + 0.5 W are 5.75 h; back come 24 W x 0.9 less those 9.4 W.

    Within 5 %: the upper nine tenths of the cells have some more than their mean volts.
    """
    short, long = outage(backup_box(), 5.0), outage(backup_box(), 9.0)
    lasts_h = 54.0 / (8.0 / 0.9 + 0.5)
    row = short.loads[0]
    assert row.lasts_h == pytest.approx(lasts_h, rel=0.05)
    assert (row.runs_through, row.changeover, short.twice) == (True, "none", True)
    assert short.headline == "5 h without mains are run through"
    assert not long.loads[0].runs_through
    assert re.fullmatch(r"Runs for [56] h( \d+ min)? without mains", long.headline)
    # 47 Wh that went out of its cells at 12.2 W, the last fiftieth of its charge more slowly.
    back = short.stores[0].recharged_h
    gone_wh, comes_w = 5.0 * (8.0 / 0.9 + 0.5), 24.0 * 0.9 - (8.0 / 0.9 + 0.5)
    assert back == pytest.approx(gone_wh / comes_w, rel=0.08)


def test_a_box_that_shares_its_supply_does_not_bear_two_a_day() -> None:
    """12 W x 0.9 less 9.4 W leave 1.4 W: in seven hours 10 of 47 Wh. Common practice: 5-10 W."""
    found = outage(backup_box(in_w=12.0), 5.0)
    assert found.loads[0].runs_through
    assert found.twice is False
    assert "Two a day are too many." in found.details
    back = found.stores[0].recharged_h
    assert back is None or back > 24.0
    assert outage(backup_box(in_w=12.0), 13.0).twice is None


def test_it_is_worst_when_what_runs_at_night_has_all_of_it_before_it() -> None:
    """A pump from 20 to 4 h: 54 Wh at 11.6 W are 4.6 h of running; failing at 20 h it stops
    at half past twelve, failing at noon only the hours until 20 come on top.
    """
    made = backup_box(10.0, when={"kind": "windows", "windows": [{"from_h": 20.0, "to_h": 4.0}]})
    found = outages_of(Context(made).analysis.lowered)
    running_h = (54.0 - 0.0) / (10.0 / 0.9 + 0.5)
    assert found.lasts_h[20, 0] == pytest.approx(running_h, rel=0.05)
    # Eight idle hours at half a watt before it begins.
    assert found.lasts_h[12, 0] == pytest.approx(8.0 + (54.0 - 4.0) / (10.0 / 0.9 + 0.5), rel=0.05)
    assert found.worst_begin in (20, 21, 22, 23)


def test_only_the_mains_fails_and_what_never_ran_is_said() -> None:
    lamp = load(5.0, "lamp", hours_per_day=24.0)
    hungry = load(60.0, "heater", hours_per_day=24.0, priority="must")
    sources: list[Any] = [bank(ah=100.0), {"kind": "mains"}]
    cord: Any = {"id": "cord", "rail": "mains", "to": "bank",
            "charger": {"kind": "mains charger", "amps": 2.0,
                        "accepts": {"least_v": 90.0, "most_v": 265.0}}}  # fmt: skip
    # 65 W go out; 2 A at some 13.3 V bring 27 W: 1 150 Wh are gone in 30 h, mains or not.
    starved = outage(design(lamp, hungry, stores=sources, links=[cord]), 9.0)
    assert starved.loads[1].says == "stops even while the mains is there"
    cord["charger"]["amps"] = 6.0
    fed = outage(design(lamp, hungry, stores=sources, links=[cord]), 9.0)
    assert fed.loads[1].says == "runs through"
    assert outage_of(Context(design(lamp, stores=sources)), 9.0) is None


@pytest.mark.parametrize("spans", [[], [(20.0, 30.0)], [(6.5, 7.0), (18.0, 19.25)], [(24.0, 48.0)]])
def test_days_with_outages_are_the_usual_ones_but_for_the_mains(
    spans: list[tuple[float, float]],
) -> None:
    lowered = Context(backup_box()).analysis.lowered
    rows = [lowered.place["mains"]]
    made = with_outages(lowered.day, 3, rows, spans)
    assert made.edges[-1] == 72.0
    assert all(a < b for a, b in pairwise(made.edges))
    off_h = sum(float(made.edges[m + 1] - made.edges[m]) for m in range(len(made.plugged))
                if not made.plugged[m, rows[0]])  # fmt: skip
    assert off_h == pytest.approx(sum(end - begin for begin, end in spans))
    others = np.delete(made.plugged, rows[0], axis=1)
    assert others.all()
    assert np.isinf(bears_two_a_day(lowered, 0, 1.0)).all()


def _cut(*outages: tuple[int, float, float]) -> Design:
    """The backup box in a week whose mains fails on some days, from and to. [day], [h], [h]"""
    days: list[Any] = [{"outages": []} for _ in range(7)]
    for day, from_h, to_h in outages:
        days[day]["outages"].append({"from_h": from_h, "to_h": to_h})
    return Design.model_validate(backup_box().model_dump(mode="json") | {"week": {"days": days}})


def test_an_outage_put_on_the_week_takes_what_the_load_draws_from_the_box() -> None:
    """From 10 to 14 on Tuesday 4 x (8 / 0.9 + 0.5) = 37.6 Wh of 60 are gone: 63 % (hand).

    Within 8 %: the upper part of the cells has more than their mean volts.
    """
    week = simulate_week(from_monday(Context(_cut((1, 10.0, 14.0))).analysis.lowered))
    at = 24 + 10
    gone = week.charge[at, 0] - week.charge[at + 4, 0]
    assert gone == pytest.approx(4 * (8 / 0.9 + 0.5) / 60, rel=0.08)
    # Full before, and again on Wednesday; on Monday nothing happens.
    assert week.charge[at, 0] == pytest.approx(week.charge[48 + 10, 0], abs=0.01)
    assert np.ptp(week.charge[12:30, 0]) < 0.01
    # From midnight to midnight and on for eight hours it does not last: the router stops.
    long = simulate_week(
        from_monday(Context(_cut((2, 16.0, 24.0), (3, 0.0, 8.0))).analysis.lowered)
    )
    assert 48 + 16 + 5 < long.missed_h[0] < 48 + 16 + 7


@pytest.mark.parametrize("spans", [[(1, 14.0, 10.0)], [(1, 8.0, 10.0), (1, 9.0, 11.0)]])
def test_outages_lie_within_their_day_one_after_the_other(
    spans: list[tuple[int, float, float]],
) -> None:
    with pytest.raises(ValidationError, match="one after the other"):
        _cut(*spans)

"""Transfer switches and chargers that share a box: what passes, what is given, what is shared."""

import json
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from graveljar.core.analysis.outage import outages_of
from graveljar.core.analysis.week import simulate_week
from graveljar.core.context import Context
from graveljar.core.errors import InvalidDocument
from graveljar.core.model import Design
from graveljar.core.model.parse import read_design
from graveljar.core.views.outage import outage_of
from graveljar.core.views.refill import refill_of
from tests.building import bank, design, load

HALF_DAY = {"kind": "windows", "windows": [{"from_h": 0.0, "to_h": 12.0}]}
# A label: 10 W of idle draw, nine tenths at 500 W; 0.92 at 150 W. No square term: 10 + k P.
STAGE = {"kind": "inverter", "continuous_w": 500.0, "idle_w": 10.0, "transfer": "mains"}
GIVEN_W = 100.0 / 0.89


def box(
    watts: float = 100.0, *, charger_a: float = 20.0, socket_a: float = 10.0, times: Any = HALF_DAY,
    **stage: Any,
) -> Design:  # fmt: skip
    """An inverter-charger before a load that always runs; the mains is there until noon."""
    charger = {"kind": "mains charger", "amps": charger_a, "efficiency": 0.9, "idle_w": 0.0,
               "accepts": {"least_v": 200.0, "most_v": 250.0}}  # fmt: skip
    return design(
        load(watts, "server", ac=True, hours_per_day=24.0, priority="must"),
        stores=[bank(ah=200.0), {"kind": "mains", "socket_a": socket_a, "times": times}],
        stages=STAGE | stage,
        links=[{"id": "charger", "rail": "mains", "to": "bank", "charger": charger}],
        setting={"horizon_h": 100.0},
    )


def test_the_mains_feeds_the_load_itself_and_the_battery_takes_over() -> None:
    """What passes has no loss: definition. From noon on the battery gives it through the inverter:
    some 0.89 at a fifth of its load by its label.
    """
    lowered = Context(box()).analysis.lowered
    week = simulate_week(lowered, 24)
    inverter, mains = lowered.place["inverter"], lowered.place["mains"]
    assert week.passed_wh[:12, inverter] == pytest.approx(np.full(12, 100.0))
    assert week.passed_wh[12:, inverter] == pytest.approx(np.zeros(12))
    # Full at the start: only the load takes from the mains; none is lost on its way.
    assert week.released_wh[:12, mains].sum() == pytest.approx(1200.0, rel=1e-3)
    assert week.charge[:13, 0] == pytest.approx(np.ones(13), abs=1e-6)
    assert week.used_wh[:, 0] == pytest.approx(np.full(24, 100.0))
    assert week.released_wh[12:, 0].sum() == pytest.approx(12 * GIVEN_W, rel=0.03)
    assert Context(box()).analysis.run.hours is None


def test_nothing_flows_out_of_the_battery_while_the_mains_is_there() -> None:
    """Kirchhoff at the bank: what its stages take is what it gives, passed watts apart."""
    run = Context(box()).analysis.run
    hours, _, _, amps, _ = run.points()
    place = run.lowered.place
    passing = hours < 11.9
    assert np.abs(amps[passing, place["inverter"]]).max() == 0.0
    assert np.abs(amps[passing, place["bank"]]).max() == pytest.approx(0.0, abs=1e-6)
    after = (hours > 12.1) & (hours < 23.9)
    drawn_a = amps[after, place["inverter"]]
    assert drawn_a == pytest.approx(amps[after, place["bank"]], rel=1e-6)
    assert drawn_a.min() > 8.0


def test_without_the_switch_the_load_runs_through_charger_and_inverter() -> None:
    """The same from the battery all day: both conversions are lost."""
    lowered = Context(box(transfer=None)).analysis.lowered
    week = simulate_week(lowered, 24)
    mains = lowered.place["mains"]
    assert week.released_wh[1:12, mains].sum() == pytest.approx(11 * GIVEN_W / 0.9, rel=0.03)


def test_charging_leaves_the_socket_what_the_load_takes() -> None:
    """A socket of 2 A gives 460 W: 300 W pass, 160 W at 0.9 charge with some 10.8 A."""
    made = box(300.0, socket_a=2.0, charger_a=40.0, continuous_w=1000.0)
    store = made.stores[0].model_copy(update={"starts_at": 0.5})
    lowered = Context(made.model_copy(update={"stores": (store, made.stores[1])})).analysis.lowered
    week, mains = simulate_week(lowered, 4), lowered.place["mains"]
    assert week.brought_wh[1:, 0] == pytest.approx(np.full(3, 0.9 * 160.0), rel=0.01)
    assert week.released_wh[1:, mains] == pytest.approx(np.full(3, 460.0), rel=1e-3)


def test_an_outage_is_run_through_with_the_break_that_is_known() -> None:
    """0.9 of 200 Ah at some 13.1 V last 21 h, whenever it begins."""
    made = box(times=None, changeover="break")
    lasts = outages_of(Context(made).analysis.lowered).survives_h
    assert lasts == pytest.approx(np.full(24, 0.9 * 200 * 13.1 / GIVEN_W), rel=0.04)
    found = outage_of(Context(made), 9.0)
    assert found is not None
    assert (found.loads[0].runs_through, found.loads[0].changeover) == (True, "break")


def test_what_passes_is_seen_in_the_week() -> None:
    refill = refill_of(Context(box(times=None)))
    mains = next(x for x in refill.inflows if x.id == "mains")
    assert mains.day_wh == pytest.approx(2400.0, rel=0.01)
    assert refill.short_wh == 0.0


@settings(max_examples=30, deadline=None)
@given(
    st.floats(5, 450), st.floats(2, 60), st.floats(0.5, 16), st.floats(0.15, 1.0),
    st.lists(st.integers(0, 23), min_size=2, max_size=2, unique=True), st.booleans(),
)  # fmt: skip
def test_energy_in_is_energy_out_through_the_switch(
    watts: float, amps: float, socket_a: float, starts_at: float, hours: list[int], sleeps: bool
) -> None:
    """Conservation; and the socket never gives more than its amps for charging."""
    spans = {"kind": "windows", "windows": [{"from_h": hours[0], "to_h": hours[1]}]}
    sleep = {"watts": 1.0, "threshold_w": 20.0} if sleeps else None
    made = box(watts, charger_a=amps, socket_a=socket_a, times=spans, sleep=sleep)
    store = made.stores[0].model_copy(update={"starts_at": starts_at})
    made = made.model_copy(update={"stores": (store, made.stores[1])})
    lowered = Context(made).analysis.lowered
    week = simulate_week(lowered, 60)
    heat = week.lost_wh.sum() + week.before_wh.sum()
    assert week.released_wh.sum() == pytest.approx(week.used_wh.sum() + heat, rel=1e-4, abs=1e-2)
    most = max(socket_a * 230.0, watts)
    assert week.released_wh[:, lowered.place["mains"]].max() <= most * (1 + 1e-6)


def shared(sun_w: float, *, together: bool = True) -> Design:
    """One box of 30 A for sun and engine, into a bank that is half full."""
    panel = {"watts": sun_w, "voc_v": 22.0, "vmp_v": 18.0, "imp_a": sun_w / 18, "isc_a": sun_w / 17}
    sun = {"kind": "sun", "panel": panel, "series": 2, "sun_hours": [6.0] * 12}
    spans = {"kind": "windows", "windows": [{"from_h": 9.0, "to_h": 13.0}]}
    engine = {"kind": "vehicle", "limit_a": 90.0, "runs": spans}
    by_sun = {"kind": "MPPT controller", "amps": 30.0, "efficiency": 0.96, "idle_w": 0.0,
              "accepts": {"least_v": 15.0, "most_v": 100.0}}  # fmt: skip
    by_engine = {"kind": "DC-DC charger", "amps": 30.0, "efficiency": 0.9, "idle_w": 0.0,
                 "accepts": {"least_v": 11.0, "most_v": 16.0},
                 "shares_with": "by-sun" if together else None}  # fmt: skip
    return design(
        stores=[bank(ah=400.0, starts_at=0.2), sun, engine],
        links=[{"id": "by-sun", "rail": "sun", "to": "bank", "charger": by_sun},
               {"id": "by-engine", "rail": "vehicle", "to": "bank", "charger": by_engine}],
    )  # fmt: skip


@pytest.mark.parametrize("sun_w", [100.0, 300.0])
def test_two_chargers_in_one_box_share_its_amps(sun_w: float) -> None:
    """Kirchhoff: with the engine on, sun and engine together give 30 A, the sun first."""
    alone, one = (
        simulate_week(Context(shared(sun_w, together=x)).analysis.lowered, 13)
        for x in (False, True)
    )
    # The sun gives as much beside the engine as in a box of its own.
    assert one.brought_wh[10:12, 0] == pytest.approx(alone.brought_wh[10:12, 0], rel=1e-3)
    # Of LFP all but a few thousandths of the Ah stay.
    into_ah = np.diff(one.charge[:, 0])[10:12] * 400.0
    assert into_ah == pytest.approx(np.full(2, 30.0), rel=0.01)
    assert (np.diff(alone.charge[:, 0])[10:12] * 400.0 > 33.0).all()


@pytest.mark.parametrize(
    ("path", "value", "where"),
    [
        ("stages", {"transfer": "bank"}, "/stages/0/transfer"),
        ("links", {"shares_with": "nobody"}, "/links/0/charger/shares_with"),
        ("links", {"shares_with": "charger"}, "/links/0/charger/shares_with"),
    ],
)
def test_what_cannot_be_joined_is_refused(path: str, value: Any, where: str) -> None:
    document = box().model_dump(mode="json")
    thing = document[path][0]
    (thing if path == "stages" else thing["charger"]).update(value)
    with pytest.raises(InvalidDocument) as caught:
        read_design(json.dumps(document).encode())
    assert [x.path for x in caught.value.problems] == [where]

"""Beginnings: from what somebody has to a design of the right kind, with the figures of a label."""

from typing import Any

import pytest
from pydantic import TypeAdapter, ValidationError

from graveljar.core.components.battery import bank_label
from graveljar.core.context import Context
from graveljar.core.model import Bank, Design, Load, Station
from graveljar.core.planning.beginnings import Have, Region, begin
from graveljar.core.views.outage import outage_of
from tests.building import figure, load, looked_at

HAVE: TypeAdapter[Any] = TypeAdapter(Have)
AMERICA = Region(ac_volts=120.0, ac_hz=60, sizes="AWG")


def begun(region: Region = AMERICA, **have: Any) -> Design:
    """A design made of what somebody has."""
    return begin(HAVE.validate_python(have), region)


def with_loads(made: Design, *loads: Any) -> Design:
    """The same with loads."""
    return made.model_copy(update={"loads": tuple(Load.model_validate(x) for x in loads)})


BEGINNINGS: list[dict[str, Any]] = [
    {"have": "nothing"}, {"have": "battery"}, {"have": "station"}, {"have": "grown"},
    {"have": "packs"}, {"have": "vehicle"}, {"have": "router"},
]  # fmt: skip


@pytest.mark.parametrize("have", BEGINNINGS, ids=lambda x: x["have"])
@pytest.mark.parametrize("region", [AMERICA, Region()], ids=["120 V", "230 V"])
def test_every_beginning_is_sound_where_it_is_built(have: Any, region: Region) -> None:
    """Nothing of it is dangerous or does not work before anything is changed."""
    made = begun(region, **have)
    assert (made.setting.ac_volts, made.setting.ac_hz) == (region.ac_volts, region.ac_hz)
    found = looked_at(made).findings
    assert [f.title for f in found if f.severity in ("stop", "fix")] == []


@pytest.mark.parametrize(
    ("have", "volts", "wh", "full_v"),
    [
        # 5S of Li-ion: 18 V, 21 V full; two in series 42 V. 13S: 54.6 V. Common practice.
        ({"have": "packs", "volts": 18, "ah": 5.0}, 18.0, 90.0, 21.0),
        ({"have": "packs", "volts": 18, "ah": 5.0, "series": 2}, 36.0, 180.0, 42.0),
        ({"have": "packs", "volts": 48, "ah": 14.0, "parallel": 2}, 46.8, 1310.4, 54.6),
        # Two 12.8 V 100 Ah: 2 560 Wh either way. Definition. Lead-acid full: 2.40 to 2.45 V a cell.
        ({"have": "battery", "parallel": 2}, 12.8, 2560.0, 14.6),
        ({"have": "battery", "series": 2}, 25.6, 2560.0, 29.2),
        ({"have": "battery", "battery": {"chemistry": "agm", "volts": 12.0, "ah": 100.0}},
         12.0, 1200.0, 14.7),
    ],
)  # fmt: skip
def test_a_bank_has_the_volts_and_watt_hours_of_its_label(
    have: Any, volts: float, wh: float, full_v: float
) -> None:
    bank = begun(**have).first
    assert isinstance(bank, Bank)
    label = bank_label(bank)
    assert label.nominal_v == pytest.approx(volts)
    assert label.wh == pytest.approx(wh)
    assert figure(looked_at(begun(**have)), "store.bank.full_v") == pytest.approx(full_v, rel=0.01)


def test_a_tool_pack_has_the_resistance_of_one() -> None:
    """60 to 100 mOhm for 5S2P of 2.5 Ah: common practice; twice that of half the cells."""
    for ah, low, high in ((5.0, 30.0, 100.0), (2.5, 60.0, 200.0)):
        bank = begun(have="packs", volts=18, ah=ah).first
        assert isinstance(bank, Bank)
        assert low <= 1000 * bank_label(bank).resistance_ohm <= high


def test_a_station_serves_four_loads_for_the_hours_of_a_hand_sum() -> None:
    """1 000 Wh x 0.95 over 50 W AC at some 0.87 with 10 W of idle draw and 12 W DC at 0.92."""
    made = with_loads(
        begun(have="station", wh=1000.0, ac_w=600.0),
        load(30.0, "lamp", volts=120.0, hours_per_day=24.0) | {
            "rail": "station-ac", "supply": {"kind": "ac", "volts": 120.0}},
        load(20.0, "fan", volts=120.0, hours_per_day=24.0) | {
            "rail": "station-ac", "supply": {"kind": "ac", "volts": 120.0}},
        load(6.0, "radio", hours_per_day=24.0) | {"rail": "station-12v"},
        load(6.0, "light", hours_per_day=24.0) | {"rail": "station-12v"},
    )  # fmt: skip
    hours = looked_at(made).verdict.hours
    assert hours == pytest.approx(950.0 / (10.0 + 50.0 * 1.09 + 12.0 / 0.92 + 3.0), rel=0.06)


def test_a_station_grown_by_a_battery_takes_what_its_input_does() -> None:
    """Common practice: 13.3 V x 8 A = 106 W, under 200 W; a 25.6 V battery 26.6 V x 8 A = 213 W,
    held to 200 W.
    """
    small = begun(have="grown")
    large = begun(have="grown", most_v=60.0, battery={"volts": 25.6, "ah": 50.0})
    assert [isinstance(x, Station) for x in small.stores] == [True, False]
    for made, watts in ((small, 106.0), (large, 200.0)):
        link = made.links[0]
        assert Context(made).analysis.link_operations[link.id].full.watts == pytest.approx(
            watts, rel=0.03
        )
    # 14.6 V into an input of 12 V at most is told as what it is.
    wrong = begun(have="grown", most_v=12.0)
    assert "link.above_maximum" in {f.code for f in looked_at(wrong).findings}


def test_a_router_runs_on_in_an_outage_for_its_hand_sum() -> None:
    """30 Wh x 0.9 over 8 W / 0.92 + 0.5 W: 2.9 h."""
    made = begun(have="router", wh=30.0, router_w=8.0)
    outage = outage_of(Context(made), 2.0)
    assert outage is not None
    assert outage.loads[0].runs_through
    assert outage.loads[0].lasts_h == pytest.approx(27.0 / (8.0 / 0.92 + 0.5), rel=0.06)


def test_what_is_to_be_sized_is_a_guess_until_it_is() -> None:
    bank = begun(have="nothing", goal_h=36.0)
    assert isinstance(bank.first, Bank)
    assert (bank.first.battery.provenance, bank.goal.hours) == ("guess", 36.0)


@pytest.mark.parametrize(
    ("have", "says"),
    [
        # Above 60 V DC what may be touched is protected: IEC 61140 and 60364-4-41, from memory.
        ({"have": "router", "volts": 61.0}, "less than or equal to 60"),
        ({"have": "grown", "least_v": 24.0, "most_v": 24.0}, "no span"),
        ({"have": "grown", "input_w": 100_000.0}, "less than or equal to 20000"),
    ],
)
def test_figures_that_no_label_has_are_refused(have: Any, says: str) -> None:
    with pytest.raises(ValidationError, match=says):
        begun(**have)


@pytest.mark.parametrize("have", BEGINNINGS, ids=lambda x: x["have"])
def test_each_figure_at_its_most_begins_a_design(have: Any) -> None:
    plain = HAVE.validate_python(have)
    for name, field in type(plain).model_fields.items():
        for most in (x.le for x in field.metadata if hasattr(x, "le")):
            assert begun(**have, **{name: most}).stores, name


def test_outlets_whose_ids_begin_alike_stay_apart() -> None:
    """An id has 40 characters at most: format of a design."""
    ids = [f"{'long-' * 7}{n}" for n in range(3)]
    outlets = [{"kind": "dc", "id": x} for x in ids]
    made = begun(have="station", figures={"outlets": outlets}).stores[0]
    assert isinstance(made, Station)
    assert len({x.id for x in made.outlets}) == len(ids)

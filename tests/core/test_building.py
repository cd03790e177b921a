"""Building: which rail suits a load, what a new stage must be, and what a removal leaves."""

from contextlib import nullcontext
from typing import Any, get_args

import pytest
from pydantic import TypeAdapter, ValidationError

from graveljar.core.context import Context
from graveljar.core.errors import InvalidDocument
from graveljar.core.model import Converter, Design, Inverter, Load
from graveljar.core.model.chargers import ChargerKind
from graveljar.core.model.patch import Edit, apply
from graveljar.core.network.rail_choice import places_of, places_of_all
from graveljar.core.network.rails import rails_of
from graveljar.core.network.windows import fit_stage
from graveljar.core.planning.construction import Ask, BuildResult, build
from graveljar.core.views.links import link_rows
from graveljar.demo import demo_designs
from graveljar.formats.parts_csv import starting_shelf
from tests.building import (
    bank,
    codes,
    converter,
    design,
    figure,
    inverter,
    load,
    looked_at,
    station,
)
from tests.reference.random_designs import random_design

ASK: TypeAdapter[Any] = TypeAdapter(Ask)


def _build(made: Design, **ask: Any) -> tuple[BuildResult, Design]:
    built = build(made, ASK.validate_python(ask))
    return built, apply(made, built.edits)


def _rails(made: Design) -> dict[str, str | None]:
    return {load.id: load.rail for load in made.loads}


# A 4S LFP bank, 10.0 to 14.6 V; 230 V; a steady 12.6 V; 24 V; 5 V.
RAILS = design(
    stages=inverter(),
    more=[
        converter(id="steady", topology="buck-boost", set_v=12.6),
        converter(id="up", topology="boost", set_v=24.0, accepts={"least_v": 9.0, "most_v": 20.0}),
        converter(id="usb", set_v=5.0),
    ],
)
WIDE = {"cut_out_v": 9.0, "most_v": 16.0}
HIGH = {"cut_out_v": 11.8, "restarts_v": 12.4, "most_v": 15.0}


@pytest.mark.parametrize(
    ("supply", "window", "best", "on_the_bank"),
    [
        # Windows as in the trade: vehicle gear takes 9 to 16 V (ISO 16750-2, from memory).
        # Electronics whose label says no more take a tenth above it: 13.2 of 14.6 V.
        pytest.param(("dc", 12.0), None, "steady", "check its label", id="12 V, by its label"),
        pytest.param(("dc", 12.0), WIDE, "bank", "fits", id="vehicle gear, 9 to 16 V"),
        pytest.param(("dc", 12.0), HIGH, "steady", "cuts out early", id="a high cut-out"),
        pytest.param(("dc", 24.0), None, "up", "does not fit", id="24 V"),
        pytest.param(("dc", 5.0), None, "usb", "does not fit", id="USB"),
        pytest.param(("dc", 19.0), None, "inverter", "does not fit", id="laptop, by its adapter"),
        pytest.param(("ac", 230.0), None, "inverter", None, id="mains"),
    ],
)
def test_a_load_belongs_on_the_rail_whose_volts_it_takes(
    supply: tuple[str, float], window: Any, best: str, on_the_bank: str | None
) -> None:
    kind, volts = supply
    one = Load.model_validate(load(5, volts=volts, window=window) | {"rail": None})
    one = one.model_copy(update={"supply": one.supply.model_copy(update={"kind": kind})})
    places = places_of(RAILS, one)
    assert places[0].rail == best
    assert {place.rail: place.suits for place in places}.get("bank") == on_the_bank
    together = places_of_all(RAILS, [one, one.model_copy(update={"id": "b"})])
    assert [place.rail for place in together] == [place.rail for place in places]


@pytest.mark.parametrize(
    ("store", "volts", "kind"),
    [
        # 4S LFP is 10.0 to 14.6 V, 16S 40 to 58.4 V; common practice.
        pytest.param(bank(), 5.0, "buck", id="always below"),
        pytest.param(bank(), 12.0, "buck-boost", id="below when full, above when empty"),
        pytest.param(bank(), 24.0, "boost", id="always above"),
        pytest.param(bank(volts=51.2), 24.0, "buck", id="48 V class to 24 V"),
    ],
)
def test_a_new_rail_gets_the_converter_it_needs_with_room_to_spare(
    store: Any, volts: float, kind: str
) -> None:
    """A quarter of the amps stays free (common practice): 96 W at 24 V are 4 A, so 5.3 or more."""
    bars = load(24, "bars", count=4, volts=volts, rail=None, hours_per_day=4.0)
    built, after = _build(design(bars, stores=store), ask="rail", on="bank", volts=volts)
    stage = after.stages[0]
    assert isinstance(stage, Converter)
    assert (stage.topology, stage.set_v) == (kind, volts)
    assert stage.continuous_a >= 96 / volts / 0.75
    assert stage.continuous_a <= 2 * 96 / volts / 0.75
    assert built.moved == ("bars",)
    assert "fits" in built.says[0]
    assert _rails(after) == {"bars": stage.id}
    assert not {code for code in codes(looked_at(after)) if code.startswith(("converter", "load"))}


def test_a_new_inverter_carries_and_starts_what_waits_for_it() -> None:
    """900 W and a fridge of 240 W that starts at six times that (common practice)."""
    kettle = load(900, "kettle", ac=True)
    fridge = load(240, "fridge", ac=True, nature="compressor", start={"method": "factor"})
    waiting = [one | {"rail": None} for one in (kettle, fridge)]
    made = design(*waiting, stores=bank(parallel=3))
    _, after = _build(made, ask="inverter", on="bank")
    stage = after.stages[0]
    assert isinstance(stage, Inverter)
    # Running at 80 % or less; surge trusted with twice the continuous watts.
    assert stage.continuous_w >= max((900 + 240) / 0.8, (900 + 240 * 6) / 2)
    assert stage.nominal_v == 12.0
    evaluation = looked_at(after)
    assert figure(evaluation, f"stage.{stage.id}.running_w") == pytest.approx(1140)
    assert not {code for code in codes(evaluation) if code.startswith(("inverter", "load"))}


def test_a_regulator_before_a_load_gets_the_stranded_share_out() -> None:
    """A fridge out at 10.5 V on a pack down to 9 V strands a third; common practice."""
    fridge = load(
        60, "fridge", hours_per_day=24.0, cable_mohm=100.0,
        window={"cut_out_v": 10.5, "restarts_v": 11.0, "most_v": 15.0},
    )  # fmt: skip
    made = design(fridge, stores=bank("nmc", 11.1, 40.0, reserve=0.0))
    built, after = _build(made, ask="regulator", before="fridge")
    before_h, after_h = looked_at(made).verdict.hours, looked_at(after).verdict.hours
    assert before_h is not None
    assert after_h is not None
    assert after_h > 1.3 * before_h
    assert built.subject == _rails(after)["fridge"]


@pytest.mark.parametrize("seed", range(500, 520))
def test_whatever_is_built_fits_and_nothing_is_lost(seed: int) -> None:
    made = random_design(seed)
    names = set(_rails(made))
    dc = [rail.id for rail in rails_of(made).values() if rail.kind == "dc"]
    asks: list[dict[str, Any]] = [
        {"ask": "rail", "on": rail, "volts": volts} for rail in dc for volts in (5.0, 12.0, 48.0)
    ]
    asks += [{"ask": "inverter", "on": rail} for rail in dc]
    asks += [{"ask": "feed", "on": dc[-1], "loads": []}]
    asks += [
        {"ask": "remove", "stage": stage.id, "loads_to": rail}
        for stage in made.stages
        for rail in (None, made.stages[0].rail)
    ]
    for ask in asks:
        built, after = _build(made, **ask)
        assert set(_rails(after)) == names
        # An inverter for 12, 24 or 48 V only: a 60 V bank has no class of its own.
        if ask["ask"] == "rail":
            stage = next(x for x in after.stages if x.id == built.subject)
            assert fit_stage(rails_of(after), stage) == "fits", ask
        moved = [i for i, rail in _rails(after).items() if rail != _rails(made)[i]]
        assert set(moved) <= set(built.moved)
        assert len(built.says) == len(built.moved)


@pytest.mark.parametrize(
    ("stages", "rail", "was", "kind", "then"),
    [
        pytest.param(inverter(), "bank", "dc", "ac", "inverter", id="to mains, from the bank"),
        pytest.param(inverter(), "inverter", "dc", "ac", "inverter", id="without its adapter"),
        pytest.param(inverter(), "inverter", "ac", "dc", "inverter", id="by its adapter"),
        pytest.param(None, "bank", "dc", "ac", None, id="no mains anywhere"),
        pytest.param(inverter(), None, "dc", "ac", None, id="not connected"),
    ],
)
def test_a_load_with_another_supply_is_where_it_can_be(
    stages: Any, rail: str | None, was: str, kind: str, then: str | None
) -> None:
    one = Load.model_validate(load(5, volts=230.0) | {"rail": None})
    supply = one.supply.model_copy(update={"kind": was})
    one = one.model_copy(update={"supply": supply, "rail": rail})
    made = design(stages=stages).model_copy(update={"loads": (one,)})
    built, after = _build(made, ask="supply", load=one.id, kind=kind)
    assert (after.loads[0].supply.kind, after.loads[0].rail) == (kind, then)
    # A document that holds together, told in words, and one step back.
    assert Design.model_validate(after.model_dump()) == after
    assert built.says[0].startswith(one.name)


def test_a_removed_stage_hands_its_loads_over_and_its_stages_back() -> None:
    made = design(
        load(5, "phone", rail="usb", volts=5.0),
        load(40, "bar", rail="up", volts=24.0),
        load(60, "amp", ac=True),
        stages=inverter(),
        more=[
            converter(id="up", topology="boost", set_v=24.0),
            converter(id="usb", rail="up", set_v=5.0),
        ],
    )
    _, after = _build(made, ask="remove", stage="up", loads_to="inverter")
    assert _rails(after) == {"phone": "usb", "bar": "inverter", "amp": "inverter"}
    assert {stage.id: stage.rail for stage in after.stages} == {"inverter": "bank", "usb": "bank"}
    # Mains appliances cannot go to a DC rail: they hang on none, and it says so.
    built, after = _build(made, ask="remove", stage="inverter", loads_to="bank")
    assert _rails(after)["amp"] is None
    assert built.says == ("amp is not connected now.",)


@pytest.mark.parametrize(
    ("ask", "said"),
    [
        ({"ask": "rail", "on": "nowhere", "volts": 5.0}, "not a rail here"),
        ({"ask": "rail", "on": "inverter", "volts": 5.0}, "supplies AC"),
        ({"ask": "move", "loads": ["amp"], "to": "bank"}, "needs AC"),
        ({"ask": "move", "loads": ["ghost"], "to": None}, "not a load here"),
        ({"ask": "regulator", "before": "amp"}, "needs AC"),
        ({"ask": "remove", "stage": "bank", "loads_to": None}, "not a stage here"),
        ({"ask": "remove", "stage": "inverter", "loads_to": "inverter"}, "to be removed"),
    ],
)
def test_what_cannot_be_built_is_refused_in_words(ask: dict[str, Any], said: str) -> None:
    made = design(load(60, "amp", ac=True), stages=inverter())
    with pytest.raises(InvalidDocument, match=said) as refused:
        _build(made, **ask)
    assert refused.value.problems[0].path.startswith("/ask/")


def _link(made: Design, **ask: Any) -> tuple[BuildResult, Any]:
    built, after = _build(made, ask="link", **ask)
    return built, after.links[-1]


def test_a_station_comes_with_outlets_of_its_own() -> None:
    """Two alike: no rail of one is taken for a rail of the other."""
    made = RAILS
    for _ in range(2):
        _, made = _build(made, ask="store", what="station")
    outlets = [x.id for store in made.stores for x in getattr(store, "outlets", ())]
    assert len(set(outlets)) == len(outlets) == 4
    assert {store.kind for store in made.stores} == {"bank", "station"}
    assert [x for x in places_of(made, made_load(made)) if x.rail in ("station", "station-2")] == []


def made_load(made: Design) -> Load:
    """A 12 V lamp that looks for a rail."""
    return Load.model_validate(load(5.0, "lamp") | {"rail": None})


def test_a_shelf_station_is_taken_as_it_is() -> None:
    figures = next(
        x.figures
        for x in starting_shelf()
        if x.kind == "station" and x.name.startswith("Station 512")
    )
    ask = {"what": "station", "station": figures.model_dump(mode="json"), "name": "Booth"}
    _, made = _build(RAILS, ask="store", **ask)
    taken: Any = made.stores[-1]
    assert (taken.name, taken.label_wh, taken.kind) == ("Booth", 512, "station")
    assert {x.name for x in taken.outlets} == {x.name for x in figures.outlets}


@pytest.mark.parametrize(
    ("rail", "input_id", "says"),
    [
        # 4S LFP is 14.6 V full: inside 11 to 65 V; straight in 15 A at 13.4 V are 200 W.
        pytest.param("bank", "dc-in", "limited by Solar mode, 15 A", id="a battery"),
        pytest.param("inverter", "mains", "W at 230 V", id="mains goes to the mains input"),
    ],
)
def test_a_lead_goes_into_the_input_that_suits(rail: str, input_id: str, says: str) -> None:
    made = design(stores=[bank(), station()], stages=inverter())
    built, link = _link(made, rail=rail, to="station")
    assert link.input == input_id
    assert says in built.says[0]


@pytest.mark.parametrize(
    ("ask", "path"),
    [
        ({"rail": "bank", "to": "inverter"}, "/ask/to"),
        ({"rail": "station", "to": "station"}, "/ask/rail"),
        ({"rail": "port", "to": "station"}, "/ask/to"),
        ({"rail": "bank", "to": "station", "input": "mains"}, "/ask/input"),
    ],
)
def test_leads_that_cannot_be_are_refused(ask: dict[str, str], path: str) -> None:
    made = design(stores=[bank(), station()], stages=inverter())
    with pytest.raises(InvalidDocument) as refused:
        _link(made, **ask)
    assert refused.value.problems[0].path == path


VAN = demo_designs()["puppet-van"]


@pytest.mark.parametrize(
    ("rail", "charger"),
    [
        # Panels need a charge controller, an engine a DC-DC charger (common practice).
        pytest.param("roof-panels", "MPPT controller", id="panels"),
        pytest.param("van-engine", "DC-DC charger", id="its own goes on"),
    ],
)
def test_a_link_is_fed_from_elsewhere_with_a_charger_that_works_there(
    rail: str, charger: str
) -> None:
    _, after = _build(VAN, ask="feed link", link="engine-charger", rail=rail)
    was, now = (next(x for x in d.links if x.id == "engine-charger") for d in (VAN, after))
    assert now.rail == rail
    assert now.charger is not None
    assert now.charger.kind == charger
    assert (now.charger == was.charger) == (rail == was.rail)


@pytest.mark.parametrize(
    ("source", "kinds"),
    [
        # What each is made for, common practice.
        ("vehicle", ["DC-DC charger", "alternator", "balance charger"]),
        ("bank", ["DC-DC charger", "balance charger"]),
        ("sun", ["MPPT controller", "PWM controller"]),
        ("mains", ["mains charger", "bench supply"]),
        ("generator", ["mains charger", "bench supply"]),
    ],
)
def test_a_charger_may_be_of_the_kinds_that_its_rail_feeds(source: str, kinds: list[str]) -> None:
    lead = {"id": "lead", "rail": "source", "to": "bank", "charger": {"kind": kinds[0]}}
    made = design(stores=[bank(), {"kind": source, "id": "source"}], links=[lead])
    (row,) = link_rows(Context(made))
    assert sorted(row.chargers) == sorted(kinds)
    for kind in get_args(ChargerKind):
        with nullcontext() if kind in kinds else pytest.raises(ValidationError):
            apply(made, (Edit("replace", "/links/0/charger/kind", kind),))


def test_an_input_of_the_other_kind_is_fed_from_a_rail_that_has_it() -> None:
    made = design(stores=[bank(), station()], stages=inverter())
    _, made = _build(made, ask="link", rail="bank", to="station")
    _, after = _build(made, ask="feed link", link="lead", input="mains")
    assert (after.links[0].rail, after.links[0].input) == ("inverter", "mains")
    assert after.links[0].mode is None
    _, back = _build(after, ask="feed link", link="lead", input="dc-in")
    assert back.links[0].rail == "bank"


@pytest.mark.parametrize(
    ("ask", "said"),
    [
        ({"link": "lead", "rail": "stage-rail"}, "“lead” is not a link"),
        ({"link": "engine-charger", "rail": "stage-rail"}, "Van bank would feed itself"),
        ({"link": "engine-charger", "rail": "inverter"}, "is AC; Van bank needs DC"),
        ({"link": "engine-charger", "rail": "nowhere"}, "“nowhere” is not a rail"),
    ],
)
def test_a_link_is_not_fed_from_what_cannot_feed_it(ask: dict[str, str], said: str) -> None:
    with pytest.raises(InvalidDocument, match=said):
        _build(VAN, ask="feed link", **ask)


def test_of_inputs_it_is_said_what_is_wrong() -> None:
    made = design(stores=[bank(), station()])
    _, made = _build(made, ask="link", rail="bank", to="station")
    for ask, said in (
        ({"link": "lead", "rail": "port"}, "would feed itself"),
        ({"link": "lead", "input": "mains"}, "needs AC: nothing here supplies it"),
        ({"link": "lead", "input": "none"}, "“none” is not an input"),
    ):
        with pytest.raises(InvalidDocument, match=said):
            _build(made, ask="feed link", **ask)
    with pytest.raises(InvalidDocument, match="is already in use"):
        _link(made, rail="bank", to="station", input="dc-in")


def test_a_lead_goes_to_the_free_input_that_takes_its_volts() -> None:
    """13 V into a station whose first input takes 30 V and more: the second one it is."""
    made_station = station()
    low = made_station["inputs"][0]
    high = low | {"id": "roof", "name": "Roof", "accepts": {"least_v": 30.0, "most_v": 60.0}}
    made_station["inputs"] = [high, low]
    _, link = _link(design(stores=[bank(), made_station]), rail="bank", to="station")
    assert link.input == "dc-in"


def test_a_second_lead_goes_to_the_input_that_is_free() -> None:
    made_station = station()
    first = made_station["inputs"][0]
    made_station["inputs"] = [first, first | {"id": "second", "name": "Second"}]
    made = design(stores=[bank(), made_station])
    for wanted in ("dc-in", "second"):
        _, made = _build(made, ask="link", rail="bank", to="station")
        assert made.links[-1].input == wanted


def test_a_store_goes_with_all_on_it_and_its_loads_wait() -> None:
    made = design(
        load(5, "lamp", rail="port"),
        stores=[bank(), station()],
        links=[{"id": "lead", "rail": "bank", "to": "station", "input": "dc-in"}],
    )
    built, after = _build(made, ask="remove store", store="station")
    assert [store.id for store in after.stores] == ["bank"]
    assert after.links == ()
    assert after.loads[0].rail is None
    assert built.says == ("lamp is not connected now.",)
    with pytest.raises(InvalidDocument):
        _build(after, ask="remove store", store="bank")


def test_removing_what_a_lead_hangs_on_takes_the_lead_along() -> None:
    made = design(
        stores=[bank(), station()],
        more=[converter(set_v=24.0, topology="boost", accepts={"least_v": 9.0, "most_v": 20.0})],
        links=[{"id": "lead", "rail": "converter", "to": "station", "input": "dc-in"}],
    )
    _, after = _build(made, ask="remove", stage="converter", loads_to=None)
    assert after.links == ()

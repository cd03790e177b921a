"""Sources and chargers: what may be joined, what suits, what they give, and what holds them."""

import json
import math
from typing import Any

import pytest

from graveljar.core.components.charging import full_charge, hold_volts, taper_charge
from graveljar.core.components.usable import usable_of
from graveljar.core.context import Context
from graveljar.core.errors import InvalidDocument
from graveljar.core.model import VERSION, Bank, Charger, Design
from graveljar.core.model.parse import read_design
from graveljar.core.network.charger_choice import charger_for
from graveljar.core.network.network import Network
from tests.building import bank, design, evaluated, figure, load, looked_at, station
from tests.core.cases import ALL_DAY
from tests.core.charger_cases import by_generator, charged, sunny

INTO = {"kind": "mains charger", "accepts": {"least_v": 90.0, "most_v": 265.0}}
CONTROLLER = {"kind": "MPPT controller", "accepts": {"least_v": 15.0, "most_v": 100.0}}


def refused(**document: Any) -> dict[str, str]:
    """Where a document is refused, and why."""
    with pytest.raises(InvalidDocument) as caught:
        read_design(
            json.dumps({"format": "gravel-jar/design", "version": VERSION, **document}).encode()
        )
    return {x.path: x.message for x in caught.value.problems}


def joined(rail: str, *, charger: Any = None, to: str = "bank", **link: Any) -> dict[str, Any]:
    """A bank, a station and every kind of source; one link."""
    return {
        "stores": [
            {"kind": "bank"}, station(), {"kind": "mains"}, {"kind": "sun"},
            {"kind": "vehicle"}, {"kind": "generator"},
        ],
        "links": [{"id": "cord", "rail": rail, "to": to, "charger": charger, **link}],
    }  # fmt: skip


@pytest.mark.parametrize(
    ("document", "path", "says"),
    [
        (joined("mains"), "/links/0/rail", "or a mains charger"),
        (joined("generator"), "/links/0/rail", "or a mains charger"),
        (joined("sun"), "/links/0/charger", "needs a charge controller"),
        (joined("mains", charger=CONTROLLER), "/links/0/charger/kind", "works from DC"),
        (joined("sun", charger=INTO), "/links/0/charger/kind", "works from AC"),
        (joined("sun", charger={}), "/links/0/charger/kind", "use a charge controller"),
        (joined("vehicle", charger=INTO), "/links/0/charger/kind", "works from AC"),
        (joined("mains", charger={"kind": "alternator"}), "/links/0/charger/kind",
         "is part of an engine"),
        (joined("bank", to="bank", charger={"kind": "alternator"}), "/links/0/charger/kind",
         "is part of an engine"),
        (joined("vehicle", charger=CONTROLLER), "/links/0/charger/kind", "is for solar panels"),
        # One brain only: a station has its own.
        (joined("vehicle", to="station", input="dc-in", charger={}), "/links/0/charger",
         "a station has its own"),
        (joined("mains", to="station", input="dc-in"), "/links/0/rail", "needs DC"),
        (joined("sun", to="station", input="mains"), "/links/0/rail", "needs AC"),
        (joined("vehicle", to="sun", charger={}), "/links/0/to", "not a station or bank"),
        ({"stores": [{"kind": "bank"}, {"kind": "sun"}], "loads": [load(rail="sun")]},
         "/loads/0/rail", "is a solar panel"),
        ({"stores": [{"kind": "bank"}, {"kind": "sun"}],
          "stages": [{"kind": "converter", "rail": "sun"}]}, "/stages/0/rail", "is a solar panel"),
        ({"stores": [{"kind": "bank"}, {"kind": "mains"}],
          "stages": [{"kind": "converter", "rail": "mains"}]}, "/stages/0/rail", "needs DC"),
        ({"week": {"month": 13}}, "/week/month", "12"),
        ({"week": {"latitude": 91.0}}, "/week/latitude", "90"),
        ({"week": {"days": [{}] * 6}}, "/week/days", "7"),
        ({"stores": [{"kind": "sun", "sun_hours": [1.0] * 11}]}, "/stores/0/sun_hours", "12"),
        ({"stores": [{"kind": "generator", "watts": 0.0}]}, "/stores/0/watts", "more than 0"),
    ],
)  # fmt: skip
def test_what_cannot_be_joined_is_refused_with_its_place(
    document: Any, path: str, says: str
) -> None:
    assert says in refused(**document)[path]


@pytest.mark.parametrize(
    ("rail", "link"),
    [
        ("mains", {"charger": INTO}), ("generator", {"charger": INTO}),
        ("sun", {"charger": CONTROLLER}), ("vehicle", {"charger": {}}),
        ("sun", {"to": "station", "input": "dc-in"}),
        ("mains", {"to": "station", "input": "mains"}),
        ("mains", {"charger": INTO | {"kind": "bench supply"}}),
    ],
)  # fmt: skip
def test_what_can_be_joined_survives_the_way_there_and_back(rail: str, link: Any) -> None:
    made = Design.model_validate(joined(rail, **link))
    assert Design.model_validate_json(made.model_dump_json()) == made


@pytest.mark.parametrize(
    ("chemistry", "volts", "profile", "holds"),
    # Volts of the trade, common practice: 14.4 V for four cells of LFP, 57.6 V for sixteen; 29.4 V
    # for seven of Li-ion, which a 24 V lead-acid profile undercharges; gel 14.1 to 14.4 V.
    [
        ("lfp", 12.8, "lithium", 14.4), ("lfp", 51.2, "lithium", 57.6),
        ("nmc", 25.9, "lithium", 29.4), ("nmc", 25.9, "AGM", 28.8),
        ("agm", 12.0, "AGM", 14.4), ("agm", 12.0, "gel", 14.2), ("agm", 24.0, "AGM", 28.8),
        ("flooded", 12.0, "flooded", 14.4), ("lfp", 12.8, "set by hand", 14.4),
    ],
)  # fmt: skip
def test_volts_that_a_profile_holds(
    chemistry: str, volts: float, profile: Any, holds: float
) -> None:
    of = Bank.model_validate(bank(chemistry, volts))
    assert hold_volts(of, Charger(profile=profile)) == pytest.approx(holds, abs=0.01)
    assert hold_volts(of, Charger(profile=profile, hold_v=13.9)) == 13.9


@pytest.mark.parametrize("chemistry", ["lfp", "nmc", "agm", "flooded"])
def test_a_charger_tapers_before_it_ends_and_earlier_the_more_amps(chemistry: str) -> None:
    of = Bank.model_validate(bank(chemistry, 12.0, 100.0))
    tapers = [taper_charge(of, 0.01, amps) for amps in (60.0, 30.0, 10.0)]
    assert tapers == sorted(tapers)
    assert tapers[-1] <= full_charge(of, 0.01) <= 1.0
    # A longer cable: the volts are met earlier.
    assert full_charge(of, 0.05) <= full_charge(of, 0.01)


@pytest.mark.parametrize(
    ("store", "source", "kind", "profile", "amps"),
    [
        # 0.2C of lithium, gently; 0.25C of AGM, 0.13C of flooded cells; the size at or below.
        (bank(ah=100.0), {"kind": "mains"}, "mains charger", "lithium", 20.0),
        (bank(ah=280.0), {"kind": "mains"}, "mains charger", "lithium", 50.0),
        (bank("agm", 12.0, 100.0), {"kind": "mains"}, "mains charger", "AGM", 25.0),
        (bank("flooded", 12.0, 100.0), {"kind": "mains"}, "mains charger", "flooded", 10.0),
        # 10 A of a socket at 12 V are 108 W after losses: 7.5 A at 14.4 V.
        (bank(ah=100.0), {"kind": "vehicle", "limit_a": 10.0}, "DC-DC charger", "lithium", 5.0),
        (bank(ah=200.0), {"kind": "vehicle", "limit_a": 90.0}, "DC-DC charger", "lithium", 40.0),
        # 200 W over 14.4 V are 13.9 A: the next size, for it limits itself.
        (bank(ah=100.0), {"kind": "sun", "panel": {"watts": 200.0}}, "MPPT controller", "lithium",
         15.0),
        (bank(ah=100.0), {"kind": "generator"}, "mains charger", "lithium", 20.0),
    ],
)  # fmt: skip
def test_a_charger_that_suits(
    store: Any, source: Any, kind: str, profile: str, amps: float
) -> None:
    network = Network(design(stores=[store, source]))
    of = network.design.stores[1]
    found = charger_for(network.rails[of.id], of, network.banks[0], network.assumed)
    assert (found.kind, found.profile, found.amps) == (kind, profile, amps)


@pytest.mark.parametrize(
    ("change", "holds"),
    [
        ({}, "mains charger for Bank"),
        # 0.5 A at 230 V are 115 W.
        ({"socket_a": 0.5}, "Mains socket"),
    ],
)
def test_which_limit_holds_is_named(change: dict[str, float], holds: str) -> None:
    made = charged(bank(starts_at=0.3), amps=20.0)
    made["stores"][1] |= change
    row = looked_at(design(**made)).links[0]
    assert row.deciding == holds
    assert holds in row.says


def test_a_fuse_before_the_charger_holds_it() -> None:
    """20 A at some 13.4 V and 90 % are 23 A from 13 V: more than 15 A."""
    made = design(
        stores=[bank(starts_at=0.3), {"kind": "vehicle", "limit_a": 60.0, "cable_mohm": 0.0}],
        links=[{"id": "cord", "rail": "vehicle", "to": "bank", "fuse": {"amps": 15.0},
                "charger": {"amps": 20.0, "accepts": {"least_v": 11.0, "most_v": 17.0}}}],
    )  # fmt: skip
    row = looked_at(made).links[0]
    assert (row.binds, row.deciding) == ("a fuse", "fuse of Charging cable")
    assert row.amps == pytest.approx(15.0, rel=1e-6)


def test_power_and_current_of_a_charger_agree_with_its_label() -> None:
    """20 A into a bank: watts = amps x its volts / 0.9 + 2 W; and every figure opens."""
    evaluation = evaluated(**charged(bank(starts_at=0.5), amps=20.0, efficiency=0.9, idle_w=2.0))
    row = evaluation.links[0]
    assert row.given_a == pytest.approx(20.0, rel=1e-9)
    # 13.1 V and 20 A x 8 mOhm.
    assert row.watts == pytest.approx(20.0 * (13.09 + 0.16) / 0.9 + 2.0, rel=2e-3)
    assert figure(evaluation, "link.cord.given_a") == pytest.approx(20.0)
    assert figure(evaluation, "link.cord.watts") == pytest.approx(row.watts)


def test_parallel_batteries_are_charged_with_more() -> None:
    """0.5C of three, six and twelve 100 Ah: 150, 300, 600 A; 60, 120, 240 A are 0.2C of them."""
    for parallel, gentle in ((3, 60.0), (6, 120.0), (12, 240.0)):
        right = charged(bank(parallel=parallel), amps=gentle)
        above = charged(bank(parallel=parallel), amps=2.5 * gentle + 1.0)
        for made, found in ((right, False), (above, True)):
            made["stores"][1]["socket_a"] = 100.0
            is_above = "charger.above_rate" in {x.code for x in looked_at(design(**made)).findings}
            assert is_above is found


def test_a_generator_gives_its_watts_at_its_times_and_burns_for_them() -> None:
    """2 h a day of 25 A at some 13.1 V and 90 %: 0.73 kWh, 0.36 l at half a litre a kWh."""
    from graveljar.core.views.refill import refill_of  # noqa: PLC0415

    made = by_generator(900.0, litres_per_kwh=0.5)
    made["stores"][0] |= {"starts_at": 0.5, "battery": {"volts": 12.8, "ah": 400.0}}
    week = refill_of(Context(design(load(30, **ALL_DAY), **made)))
    (inflow,) = week.inflows
    assert inflow.kind == "generator"
    by_hour = [round(wh) for wh in inflow.wh[:24]]
    assert [hour for hour, wh in enumerate(by_hour) if wh] == [17, 18]
    assert inflow.litres == pytest.approx(2 * 25 * 13.1 / 0.9 / 1000 * 0.5, rel=0.03)


def test_sources_hold_no_energy_and_are_no_stores_of_the_jar() -> None:
    made = design(load(20), **sunny(), assumptions={})
    evaluation = looked_at(made)
    assert evaluation.jar.label_wh == pytest.approx(1280.0)
    assert [row.id for row in evaluation.run.stores] == ["bank"]
    network = Network(made)
    assert [x.id for x in network.held] == ["bank"]
    assert usable_of(network.bank, 25.0, Context(made).analysis.day.given_w[:, 0],
                     Context(made).analysis.day.hours).wh > 0  # fmt: skip


@pytest.mark.parametrize("starts_at", [1.0, 0.99, 0.9, 0.6])
@pytest.mark.parametrize(
    ("watts", "amps"), [(1000.0, 113.0), (1400.0, 113.0), (800.0, 30.0), (300.0, 30.0)]
)
def test_a_charger_gives_its_amps_and_no_more_beside_a_heavy_load(
    watts: float, amps: float, starts_at: float
) -> None:
    """By Kirchhoff: through 10 mOhm flow I = (V - sqrt(V² - 4 R P)) / 2R; the bank gives what the
    charger does not. Lead-acid that is nearly full lets little in: it has no other way.
    """
    heater = load(watts, "heater", rail="cord", hours_per_day=24.0,
                  window={"cut_out_v": 9.0, "most_v": 16.0})  # fmt: skip
    made = design(
        heater,
        stores=[bank("agm", 12.0, 45.0, starts_at=starts_at, reserve=0.0),
                {"kind": "mains", "socket_a": 100.0}],
        links=[{"id": "charger", "rail": "mains", "to": "bank",
                "charger": INTO | {"amps": amps, "profile": "AGM"}}],
        more=[{"kind": "feed", "id": "cord", "cable_mohm": 10.0}],
        setting={"horizon_h": 24.0},
    )  # fmt: skip
    run = Context(made).analysis.run
    _, _, volts, given, _ = run.points()
    at_v, bank_a = float(volts[0, 0]), float(given[0, 0])
    load_a = (at_v - math.sqrt(at_v**2 - 4 * 0.01 * watts)) / (2 * 0.01)
    charger_a = load_a - bank_a
    assert charger_a <= amps * (1 + 1e-6)
    # Short of its amps only where it holds its volts, or those at rest of a full bank.
    if charger_a < amps * (1 - 1e-6):
        assert at_v == pytest.approx(14.4 if starts_at < 0.99 else 12.9, abs=0.06)
        assert run.hours is None
    else:
        assert bank_a > 0.0 or at_v < 14.4

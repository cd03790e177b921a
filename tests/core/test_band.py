"""What the band of hours depends on: shares against integrals, and what measuring does to it."""

from itertools import pairwise

import numpy as np
import pytest

from graveljar.core.analysis import band
from graveljar.core.analysis.band import band_of
from graveljar.core.analysis.draws import factors_of, inputs_of
from graveljar.core.analysis.uncertainty import uncertainty_of
from graveljar.core.context import Context
from graveljar.core.model import Design
from graveljar.core.model.patch import Edit, apply
from graveljar.core.views.band_causes import band_causes
from graveljar.demo import demo_designs
from tests.building import bank, design, inverter, load

pytestmark = pytest.mark.all_draws


def _lamp(provenance: str, of_bank: str = "label") -> Design:
    """One load on one bank, day and night: its hours are what is held over what is drawn."""
    return design(
        load(40.0, "lamp", hours_per_day=24.0, provenance=provenance),
        stores=bank(provenance=of_bank, resistance_mohm=0.01),
    )


@pytest.mark.parametrize(
    ("load_spread", "provenance"), [(0.1, "label"), (0.25, "rule of thumb"), (0.4, "guess")]
)
def test_shares_are_those_of_the_integrals(load_spread: float, provenance: str) -> None:
    """Hours = (1 + 0.1 u) / (1 + s v), u and v even between -1 and 1; Sobol's first-order indices
    (definition) by the midpoint rule. The volts of LFP hardly move.
    """
    even = (np.arange(4_000) + 0.5) / 2_000 - 1
    over = 1 / (1 + load_spread * even)
    both = np.outer(1 + 0.1 * even[::20], over[::20])
    of_load, of_bank = np.var(over) / np.var(both), np.var(1 + 0.1 * even) * np.mean(over) ** 2
    found = uncertainty_of(Context(_lamp(provenance)).analysis.lowered)
    shares = {x.input.what: x.share for x in found.shares}
    assert shares["demand"] == pytest.approx(of_load, abs=0.06)
    assert shares["capacity"] == pytest.approx(of_bank / np.var(both), abs=0.06)
    assert found.explained > 0.97


def test_a_measurement_narrows_the_band_to_what_it_is_then() -> None:
    """The same as the band of the design that has it measured."""
    made = _lamp("guess")
    causes = band_causes(Context(made))
    first = causes.causes[0]
    after = apply(made, (Edit("replace", "/loads/0/provenance", "measured"),))
    widths = []
    for one in (made, after):
        band = band_of(Context(one).analysis.lowered)
        widths.append((band.p90 or 0.0) - (band.p10 or 0.0))
    assert causes.width_h == pytest.approx(widths[0])
    assert first.width_h == pytest.approx(widths[1])
    assert (first.subject, first.reading, causes.next_subject) == ("lamp", "power", "lamp")
    assert causes.says.startswith("Measure lamp next")
    # Once both are measured, nothing more is worth it.
    done = band_causes(Context(_lamp("measured", of_bank="measured")))
    assert (done.says, done.next_subject) == ("", "")


def test_losses_vary_by_more_than_a_label_and_stay_losses() -> None:
    """A label of 93 % in place of 90 % loses a third less (hand): x 3 of its 10 % spread."""
    made = design(load(100.0, "kettle", ac=True), stages=inverter(provenance="guess"))
    lowered = Context(made).analysis.lowered
    place = [x.what for x in inputs_of(lowered)].index("losses")
    row = np.zeros((3, len(inputs_of(lowered))))
    row[:, place] = (-1.0, 0.0, 1.0)
    column = list(lowered.rails).index("inverter")
    least, middle, most = factors_of(lowered, row).on_loss[:, column]
    assert (middle, least * most) == (1.0, pytest.approx(1.0))
    assert most == pytest.approx(1 + 3 * 0.4)
    labelled = design(load(100.0, "kettle", ac=True), stages=inverter(provenance="label"))
    on_label = factors_of(Context(labelled).analysis.lowered, row).on_loss[:, column]
    assert on_label[2] == pytest.approx(1.3)
    assert 1 / on_label[0] == pytest.approx((1 / 0.9 - 1) / (1 / 0.93 - 1), rel=0.15)


@pytest.mark.parametrize("name", sorted(demo_designs()))
def test_every_cause_is_named_and_in_order(name: str) -> None:
    causes = band_causes(Context(demo_designs()[name]))
    assert causes.causes
    assert all(a.share >= b.share > 0 for a, b in pairwise(causes.causes))
    assert all(x.width_h is None or x.width_h >= 0 for x in causes.causes)
    assert sum(x.share for x in causes.causes) < 1.1


def test_hours_that_never_differ_depend_on_nothing() -> None:
    """Everything lasts longer than the horizon: no variance, no share (definition)."""
    never = design(load(0.001, "clock", hours_per_day=1.0), setting={"horizon_h": 24.0})
    found = uncertainty_of(Context(never).analysis.lowered)
    assert (found.width_h, found.shares) == (None, ())
    assert band_causes(Context(never)).says == ""
    assert uncertainty_of(Context(design()).analysis.lowered).shares == ()


def test_too_few_draws_tell_nothing_and_that_is_said(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(band, "DRAWS", 32)
    causes = band_causes(Context(_lamp("guess")))
    assert causes.causes == ()
    assert causes.says.startswith("This design takes too long")

"""The sheet: its numbers are those of the evaluation, and its build order is safe."""

import io
import re
from datetime import date
from typing import Any

import pytest
from pypdf import PdfReader

from graveljar.core.context import Context
from graveljar.core.evaluate import evaluate
from graveljar.core.model import Design, Link
from graveljar.core.planning.comparison.side import side_of
from graveljar.core.planning.shelf import Candidate
from graveljar.core.sheet import Sheet, sheet_of
from graveljar.core.sheet.build_order import build_order
from graveljar.core.text import duration, number
from graveljar.demo import demo_designs
from graveljar.formats.drawing import as_pdf
from graveljar.formats.parts_csv import starting_id, starting_shelf
from graveljar.formats.sheet_html import PARTS, sheet_html
from tests.building import bank, design, inverter, load
from tests.reference.random_designs import wired_design

SHELF = [Candidate(str(starting_id(part)), part) for part in starting_shelf()]
DEMOS = sorted(demo_designs())


def sheet(made: Design) -> Sheet:
    """The sheet of a design by the starting shelf."""
    return sheet_of(Context(made), SHELF)


@pytest.mark.parametrize("name", DEMOS)
def test_each_number_is_that_of_the_evaluation(name: str) -> None:
    made = demo_designs()[name]
    found, evaluation, side = sheet(made), evaluate(made), side_of(made, SHELF)
    assert (found.verdict, found.band) == (evaluation.verdict, evaluation.band)
    assert found.card.together == evaluation.verdict.lasts
    assert found.shopping.price == side.price
    assert found.shopping.mass_kg == side.mass_kg
    assert found.shopping.unpriced == side.unpriced
    assert found.cuts == evaluation.cables.cuts
    assert {x.title for x in found.findings} == {
        x.title for x in evaluation.findings if x.severity != "note"
    }
    for row, shown in zip(evaluation.cables.rows, found.wiring, strict=True):
        assert shown.name == row.name
        assert shown.amps == f"{number(row.design_a)} A"
        fuse = row.fuse or row.proposed_fuse
        assert fuse is None or f"{number(fuse.amps)} A" in shown.fuse


def _parents(context: Context, subject: str) -> list[str]:
    """The DC runs that a run is behind, the nearest first."""
    run = context.cables[subject].run
    here: str | None = run.rail if run.kind != "post" else None
    found = []
    while here is not None:
        if here in context.cables:
            found.append(here)
        here = context.network.rails[here].parent
    return found


DESIGNS: dict[str, Any] = demo_designs() | {f"seed {n}": wired_design(n) for n in range(500, 560)}


@pytest.mark.parametrize("name", DESIGNS)
def test_no_step_energises_a_run_without_a_fuse(name: str) -> None:
    """Common practice: fuse first. What feeds a run is on before it, and is fused or limited."""
    context = Context(DESIGNS[name])
    on: list[str] = []
    steps = build_order(context)
    dangers = {f.subject for f in evaluate(DESIGNS[name], quick=True).findings
               if f.severity == "stop"}  # fmt: skip
    for step in steps:
        if not step.energises:
            continue
        one = context.cables[step.energises]
        assert step.fuse, step.title
        assert step.energises not in dangers
        # Its own fuse is the one the Cables view has, chosen or else suggested.
        own = one.fuse or one.proposal.fuse
        if own is not None:
            assert f"{number(own.amps)} A" in step.fuse
        assert all(parent in on for parent in _parents(context, step.energises)), step.title
        on.append(step.energises)
    assert len(on) == len(set(on))
    posts = [x for x in on if context.cables[x].run.kind == "post"]
    assert on[: len(posts)] == posts
    # What carries volts at last is all that is safe, and what was left out says so.
    for subject, one in context.cables.items():
        if subject not in on:
            assert any(one.run.name in step.title for step in steps) or isinstance(
                one.run.joined, Link
            )


def test_what_is_dangerous_is_not_connected() -> None:
    """36 V into an input for 28 V (the booth): neither the plug nor the converter before it."""
    steps = build_order(Context(demo_designs()["ticket-booth"]))
    titles = [step.title for step in steps]
    assert "Cable to the DC input: do not connect it" in titles
    assert "lead" not in [step.energises for step in steps]
    (words,) = [x.do[0] for x in steps if x.title == "Cable to the DC input: do not connect it"]
    assert words == "36 V arrive at Booth station; it accepts 28 V."
    assert "dangers are left" in steps[0].beware


def test_a_large_inverter_is_pre_charged_between_the_main_fuse_and_its_own() -> None:
    """22 Ohm and 20 mF: 5 x 22 x 0.02 = 2.2 s; 58.4 V / 22 Ohm = 2.7 A (common practice)."""
    titles = [step.title for step in build_order(Context(demo_designs()["set-building-trailer"]))]
    order = [
        next(n for n, title in enumerate(titles) if title.startswith(begins))
        for begins in ("Main fuse of", "Pre-charge", "Connect Transformer", "Let an electrician")
    ]
    assert order == sorted(order)
    small = build_order(Context(design(load(50.0, ac=True), stages=inverter(continuous_w=300.0))))
    assert not [x for x in small if x.title.startswith("Pre-charge")]


def test_the_battery_is_joined_to_a_solar_controller_before_the_panel() -> None:
    made = demo_designs()["puppet-van"]
    (step,) = [x for x in build_order(Context(made)) if "Cover the panel" in " ".join(x.do)]
    assert "battery first" in step.do[0]
    assert "connect it last" in step.do[-1]


def test_a_load_alone_runs_for_the_hand_sum() -> None:
    """64 W are 5 A at 12.8 V: 100 Ah less a tenth are 18 h; within 5 %, for LFP has 13.1 V."""
    made = design(load(64.0, "radio"), load(300.0, "kettle"), stores=bank(resistance_mohm=0.001))
    found = {one.name: one.alone for one in sheet(made).card.loads}
    radio_h = 90.0 / (64.0 / 13.15)
    hours, minutes = re.fullmatch(r"(\d+) h(?: (\d+) min)?", found["radio"]).groups("0")  # type: ignore[union-attr]
    assert int(hours) + int(minutes) / 60 == pytest.approx(radio_h, rel=0.02)
    assert found["kettle"].startswith("3 h") or found["kettle"].startswith("4 h")


@pytest.mark.parametrize(
    ("chemistry", "volts", "told", "untold"),
    [
        # LFP's plateau tells nothing between 20 and 95 % (common practice).
        ("lfp", 12.8, ["100 %", "10 %"], ["75 %", "50 %", "25 %"]),
        ("agm", 12.0, ["100 %", "75 %", "50 %", "25 %"], []),
    ],
)
def test_rested_volts_are_told_where_they_tell(
    chemistry: str, volts: float, told: list[str], untold: list[str]
) -> None:
    (card,) = sheet(design(load(20.0), stores=bank(chemistry, volts))).card.banks
    rows = {row.charge: row.volts for row in card.volts}
    assert set(told) <= set(rows)
    assert not set(untold) & set(rows)
    if chemistry == "agm":
        # Common charts, from memory: full 12.9, half 12.35.
        assert (rows["100 %"], rows["50 %"]) == ("12.9 V", "12.35 V")


def test_what_to_do_at_once_is_of_what_is_there() -> None:
    lead = sheet(design(load(20.0), stores=bank("agm", 12.0))).card.emergencies
    van = sheet(demo_designs()["puppet-van"]).card.emergencies
    words = [" ".join(one.what for one in found).lower() for found in (lead, van)]
    assert ["acid" in x for x in words] == [True, False]
    assert ["lithium" in x for x in words] == [False, True]
    assert ["shock" in x for x in words] == [False, True]
    assert ["carbon monoxide" in x for x in words] == [False, True]


def test_the_page_runs_nothing_fetches_nothing_and_shows_names_as_they_are() -> None:
    made = demo_designs()["puppet-van"].model_copy(
        update={"name": 'Van "<b>&\\2', "notes": "<script>alert(1)</script>"}
    )
    page = sheet_html(sheet(made), revision=7, day=date(2026, 11, 28), currency="€")
    assert "<script" not in page
    assert "&lt;script&gt;" in page
    assert not re.search(r"(src|href|url)\s*[=(]", page)
    style = page.split("<style>")[1].split("</style>")[0]
    assert "revision 7, 2026-11-28" in style
    assert '"<b>' not in style
    for part in PARTS:
        assert (f'data-part="{part}"' in page) is True
        assert f'data-part="{part}"' not in sheet_html(
            sheet(made), parts=[x for x in PARTS if x != part]
        )
    assert "size: Letter" in sheet_html(sheet(made), paper="Letter")
    bare = sheet_html(sheet(made), prices=False, currency="€")
    assert "€" in page
    assert "€" not in bare


def _plain(text: str) -> str:
    return re.sub(r"\s+", " ", text.replace("\u202f", " ").replace("\u00a0", " "))


def test_the_printed_pages_say_every_figure() -> None:
    """Text taken out of the PDF again."""
    made = demo_designs()["set-building-trailer"]
    found = sheet(made)
    pdf = PdfReader(io.BytesIO(as_pdf(sheet_html(found, revision=3, currency="€"))))
    text = _plain(" ".join(page.extract_text() for page in pdf.pages))
    assert found.band.p10 is not None
    wanted = [found.verdict.lasts, duration(found.band.p10), f"{number(found.shopping.price, 4)} €"]
    wanted += [cell for row in found.wiring for cell in (row.name, row.amps, row.volts)]
    wanted += [cell for one in found.card.loads for cell in (one.name, one.watts, one.alone)]
    wanted += [line for step in found.steps for line in (step.title, *step.do)]
    wanted += found.labels
    assert [x for x in wanted if _plain(x) not in text] == []
    width, height = (float(x) for x in pdf.pages[0].mediabox[2:])
    # A4 is 210 x 297 mm (ISO 216), 72 points to 25.4 mm.
    assert (width, height) == pytest.approx((210 / 25.4 * 72, 297 / 25.4 * 72), abs=1.0)

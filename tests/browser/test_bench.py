"""The bench book at the screen: what to measure, what it says, and into the design with it."""

import json
import re
import time
from pathlib import Path
from threading import Thread

import pytest
from PIL import Image
from selenium.webdriver.common.keys import Keys

from graveljar.core.model import Design
from graveljar.instruments.scpi import InstrumentServer
from graveljar.instruments.stand_ins import StandIn
from tests import web
from tests.browser.page import Page, Server


def choose(page: Page, check: str) -> None:
    """Open an entry of the list: its kind and part."""

    def chosen() -> bool:
        page.find(f'[data-check="{check}"]').click()
        return bool(page.count(f'[data-check="{check}"][aria-current=true]'))

    page.until(chosen, check)


def test_too_many_volts_are_found_and_a_measured_converter_counts(
    page: Page, server: Server, tmp_path: Path
) -> None:
    """36.1 V at the plug of an input for 28 V; a converter that gives 98 W of 113 W: 86.5 %.

    By hand: 35.4 V x 2.77 A = 98.1 W out of 12.6 V x 9 A = 113.4 W.
    """
    document = server.demo("ticket-booth")
    page.open(document)
    boost = document["links"][0]["rail"]
    page.click("Bench book")
    page.says("[data-part=checklist]", "Before the first plug-in 0 of")
    choose(page, f"volts {boost}")
    page.fill("Reading: Volts", "36.1")
    page.says("[data-part=reading-form]", "Do not plug it in")
    page.click("Keep the reading")
    page.says("[data-part=readings]", "36.1 V arrive; the input of Booth station accepts 28 V")
    page.says("[data-part=checklist]", "Before the first plug-in 1 of")

    choose(page, f"converter {boost}")
    for label, value in (
        ("Out, no load", "36"), ("Out, loaded", "35.4"), ("Amps out", "2.77"), ("Volts in", "12,6"),
        ("Amps in", "9"),
    ):  # fmt: skip
        page.fill(f"Reading: {label}", value)
    page.says("[data-part=reading-form]", "98.1 W ÷ 113 W = 86.5 %")
    page.click("Keep the reading")
    # Before it is used: what it does to hours, likely range and findings.
    page.find("[aria-label^='What using Volts, droop, efficiency']").click()
    page.says("[data-part=effect]", "Likely range:")
    page.says("[data-part=effect]", "The findings stay as they are.")
    page.click("Use measured")
    page.until(lambda: page.saved()["stages"][0]["full_load"]["efficiency"] == 0.8647, "adopted")
    assert page.saved()["stages"][0]["provenance"] == "measured"
    # The label's figures are still there, and count with one press.
    page.says("[data-part=both-figures]", "Boost converter 36 V 10 A, volts, droop, efficiency")
    page.find("[data-part=both-figures] [type=radio]").click()
    page.until(lambda: page.saved()["stages"][0]["full_load"]["efficiency"] == 0.9, "the label's")
    page.sees("[data-both][data-counts=label]")
    page.undo()
    page.until(lambda: page.saved()["stages"][0]["full_load"]["efficiency"] == 0.8647, "measured")
    page.undo()
    page.until(lambda: page.saved()["stages"][0]["provenance"] != "measured", "undone")

    # A picture of the plug beside it.
    photo = tmp_path / "plug.png"
    Image.new("RGB", (60, 40), (90, 60, 30)).save(photo)
    page.find("[aria-label^='Add a picture to the reading of Boost']").send_keys(str(photo))
    picture = page.find("[data-reading-of] img")
    page.until(lambda: picture.get_property("naturalWidth") == 60, "the picture is drawn")
    page.click("Remove the picture")
    page.until(lambda: not page.count("[data-reading-of] img"), "removed")

    # Taken away, and back with one press; another window sees it.
    page.find("[aria-label^='Remove the reading of Boost converter']").click()
    page.until(lambda: page.count("[data-reading-of]") == 1, "one less")
    page.find("li[data-state=open] button").send_keys(Keys.ENTER)
    page.until(lambda: page.count("[data-reading-of]") == 2, "back")
    page.driver.refresh()
    page.until(lambda: page.count("[data-reading-of]") == 2, "kept")


def test_on_a_phone_a_reading_that_says_nothing_says_why(page: Page, server: Server) -> None:
    """LFP's volts tell no charge between 20 and 95 %: common practice."""
    document = server.demo("puppet-van", alone=True)
    page.open(document)
    page.resize(360, 800)
    page.go("bench")
    choose(page, f"rested {document['stores'][0]['id']}")
    page.fill("Reading: Volts", "13.15")
    page.fill("Reading: Rested for", "6 h")
    page.says("[data-part=reading-form]", "LFP may hold 20 to 95 %")
    assert page.driver.execute_script(
        "return document.documentElement.scrollWidth <= window.innerWidth"
    )


def test_from_here_on_is_kept_and_laid_beside_what_happened(page: Page, server: Server) -> None:
    """Half a station lasts about half as long (definition); 4 h of 5 h are 20 % less (hand)."""
    page.open(server.demo("ticket-booth"))
    page.click("Bench book")
    page.find("[data-part=from-here] summary").click()
    page.fill("Look: figure", "100")
    page.says("[data-part=outlook]", "from 100 % on its meter")
    page.fill("Look: figure", "50")
    page.says("[data-part=outlook]", "from 50 % on its meter")
    page.says("[data-part=outlook]", "left, until")
    page.click("Keep this look")
    page.says("[data-part=readings]", "50 % at")
    page.says("[data-part=readings]", "Note how long it ran")
    page.fill("It ran for", "30 min")
    page.says("[data-part=readings]", "it was 30 min")
    page.says("[data-part=readings]", "Measure what the likely range depends on most")
    page.driver.refresh()
    page.says("[data-part=readings]", "it was 30 min")
    # What to measure next leads to its form.
    page.click("Measure Hand warmer")
    page.says("[data-part=reading-form]", "Hand warmer, running")


def test_a_log_is_confirmed_read_in_and_teaches_the_plan(
    page: Page, server: Server, tmp_path: Path
) -> None:
    """A lamp of 12 W for half of each hour, over a night: 12 W and 50 % (hand)."""
    document = server.demo("tide-gauge-hut")
    page.open(document)
    page.click("Bench book")
    lamp = next(x for x in document["loads"] if x["id"] == "visitors-lamp")
    rows = [f"{n};{12.0 if n % 60 < 30 else 0.0:.1f}".replace(".", ",") for n in range(601)]
    log = tmp_path / "night.csv"
    log.write_text("\n".join(["minutes;Leistung (W)", *rows[:310], "310;twelve", *rows[311:]]))
    page.find("[aria-label='Log file']").send_keys(str(log))
    page.says("[data-part=log-layout]", "Leistung (W)")
    page.choose("Log of", lamp["name"])
    page.click("Read it in")
    page.says("[data-part=log-refused]", "Line 312, Leistung (W): “twelve” is no number")
    page.click("Leave these rows out")
    page.says("[data-log]", "10 h, 600 rows")
    page.find("[data-log] button[aria-expanded=false]").click()
    page.says("[data-part=fit]", "11.7 W to 12.3 W, in 95 of 100")
    page.says("[data-part=fit]", "50 %")
    page.sees("[data-part=log-picture] svg")
    page.find("[data-part=fit] [data-part=adopt]").click()
    page.until(lambda: page.saved()["loads"][-1]["demand"]["watts"] == 12.0, "adopted")
    # The figure opens both: that of its label, and what was measured.
    page.go("plan")
    # By its key: the notice of what was adopted lies over it.
    page.find("[data-figure='load.visitors-lamp.start']").send_keys(Keys.ENTER)
    page.says("[data-part=measured]", "measured 12 W; the measured figure counts")
    page.press(Keys.ESCAPE)
    page.click("Bench book")
    page.sees("[data-both=visitors-lamp][data-counts=measured]")
    page.find("[aria-label='Remove the log night']").click()
    page.until(lambda: not page.count("[data-log]"), "removed")
    page.find("li[data-state=open] button").send_keys(Keys.ENTER)
    page.sees("[data-log]")


def test_a_log_is_laid_over_the_run(page: Page, server: Server, tmp_path: Path) -> None:
    """Twice the amps of the plan, so half as long: the loads explain it (hand)."""
    document = server.demo("tide-gauge-hut")
    page.open(document)
    page.go("bench")
    log = tmp_path / "hut.csv"
    rows = [f"{n * 600},{12.7 - n * 0.02:.2f},2" for n in range(130)]
    log.write_text("\n".join(["seconds,volts,amps", *rows]))
    page.find("[aria-label='Log file']").send_keys(str(log))
    page.sees("[data-part=log-layout]")
    page.click("Read it in")
    page.says("[data-log]", "130 rows")
    page.click("Run")
    page.choose("Lay over", "hut")
    page.says("[data-part=against]", "Most likely the loads: the loads draw 2 A on average")
    page.sees("[data-overlay]")


def reads_nothing(page: Page) -> bool:
    """Whether the instrument shows no amps: 0 A, which 10 A is not."""
    return bool(re.search(r"(?<![\d.])0 A\b", page.text("[data-part=live-values]")))


def test_a_capacity_test_is_run_to_its_end_against_a_stand_in(page: Page, server: Server) -> None:
    """110 Ah of AGM at 10 A, an hour in a second, down to 10.8 V: 83 Ah.

    10 A is 0.09C: 110 Ah x (5.5 / 10)^0.2 = 98 Ah (Peukert 1897, k = 1.2), and in the hut's 6 °C
    0.8 % a kelvin less, 83 Ah (common practice).
    """
    document = server.demo("tide-gauge-hut")
    bank = document["stores"][0]["id"]
    design = Design.model_validate(document)
    load = StandIn("electronic-load", design, bank, time.monotonic, speed=3_600.0)
    load.set_a, load.set_v = 10.0, 10.8
    listed = server.folder / "instruments.json"
    with InstrumentServer(load, 0) as stand_in:
        Thread(target=stand_in.serve_forever, args=(0.05,), daemon=True).start()
        setting = {
            "name": "Bench load", "address": stand_in.address,
            "measures": ["volts", "amps", "ah", "wh"],
        }  # fmt: skip
        listed.write_text(json.dumps([setting]))
        try:
            page.open(document)
            page.click("Bench book")
            page.find("[data-part=live] summary").click()
            page.fill("Read every", "0.5")
            page.until(lambda: reads_nothing(page), "0 A before it begins")
            page.click("Record")
            load.switch(on=True)
            page.long_until(lambda: load.ended, "the load has ended")
            # The row with the whole count is there.
            page.until(lambda: reads_nothing(page), "0 A at the end")
            page.click("Stop recording")
        finally:
            stand_in.shutdown()
    # The instrument is gone now: said, and what was recorded is kept.
    page.says("[data-part=live]", "does not answer")
    listed.unlink()
    page.click("Keep as a capacity test")
    page.says("[data-part=readings]", "Capacity test: ")
    kept = web.get(f"{server.address}api/designs/{page.id}/readings").json()[0]["reading"]
    assert kept["ah"] == pytest.approx(83.0, rel=0.05)
    assert kept["hours"] == pytest.approx(kept["ah"] / 10.0, rel=0.02)

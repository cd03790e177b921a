"""A person sees to it that the bank gets full again: sources, chargers, the week."""

from pathlib import Path

import pytest
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

from tests.browser.page import Page, Server

HEADLINE = "[data-part=headline]"


def _refill(page: Page) -> None:
    page.go("refill")
    page.sees("[data-part=week]")


def _spouts(page: Page) -> str:
    """What pours into the jar, in words."""
    return str(page.find("[data-part=spouts] svg").get_dom_attribute("aria-label"))


def test_a_van_with_sun_and_engine_over_a_rainy_week(page: Page, server: Server) -> None:
    """Days are clicked poor and without engine: it runs down faster; undo brings them back."""
    page.open(server.demo("puppet-van"))
    _refill(page)
    page.says(HEADLINE, "Runs down")
    page.says("[data-fill=vehicle]", "Van engine: 4 h")
    page.choose("Fill from", "50 %")
    page.says("[data-fill=vehicle]", "Van engine: 3 h")
    page.until(lambda: page.count("[data-balance]"), "what would balance it", 60.0)
    poured = _spouts(page)
    assert "Roof panels" in poured
    page.find("[aria-label='Wednesday, sun: good']").click()
    page.find("[aria-label='Wednesday, sun: usual']").click()
    page.sees("[aria-label='Wednesday, sun: poor']")
    page.find("[aria-label='Wednesday: engine']").click()
    page.sees("[aria-label='Wednesday: engine off']")
    page.until(lambda: _spouts(page) != poured, "less pours in")
    days = page.saved()["week"]["days"]
    assert (days[2]["sun"], days[2]["engine"]) == ("poor", False)
    for _ in range(3):
        page.undo()
    page.sees("[aria-label='Wednesday, sun: good']")
    page.choose("Sun of all days", "rain for 5 days")
    page.sees("[aria-label='Friday, sun: poor']")
    page.sees("[aria-label='Saturday, sun: usual']")
    page.undo()
    page.sees("[aria-label='Wednesday, sun: good']")
    page.until(lambda: _spouts(page) == poured, "as before")
    assert page.violations({}) == []


def test_the_year_shows_which_months_keep_up_and_leads_there(page: Page, server: Server) -> None:
    page.open(server.demo("tide-gauge-hut"))
    _refill(page)
    page.says("[data-part=year-says]", "keeps up")
    assert page.count("[data-month]") == 12
    page.find('[data-month="6"]').click()
    page.sees('[data-month="6"][aria-pressed=true]')
    assert page.saved()["week"]["month"] == 6
    page.undo()
    page.sees('[data-month="6"][aria-pressed=false]')
    assert page.violations({}, "[data-part=year]") == []


def test_what_balances_the_week_is_used_and_then_it_keeps_up(page: Page, server: Server) -> None:
    page.open(server.demo("puppet-van"))
    _refill(page)
    page.until(lambda: page.count("[data-balance=engine]"), "what would balance it", 60.0)
    page.find("[data-balance=engine] button").click()
    page.says(HEADLINE, "Keeps up")
    page.says("[aria-label='What would balance it']", "no emptier than it began")
    page.undo()
    page.says(HEADLINE, "Runs down")


def test_batteries_and_panels_that_balance_are_used_together(page: Page, server: Server) -> None:
    page.open(server.demo("puppet-van"))
    _refill(page)
    row = page.long_until(lambda: page.all("[data-pair]")[0], "batteries with panels")
    # Two batteries of 340 and eight panels of 100: as they stand on the starting shelf.
    assert "1480" in page.read(row).replace("\u202f", "")
    row.find_element("css selector", "button").click()
    page.says(HEADLINE, "Keeps up")
    page.long_until(lambda: "what is here" in page.text("[data-pair]"), "what is here")
    assert page.saved()["stores"][1]["parallel"] == 4
    page.undo()
    page.says(HEADLINE, "Runs down")


def test_a_hut_by_sun_alone_in_december(page: Page, server: Server) -> None:
    """From nothing: one button adds panel and controller; in June it keeps up, in December not."""
    document = server.demo("tide-gauge-hut")
    document |= {"stores": document["stores"][:1], "links": [], "week": {}}
    page.open(document)
    _refill(page)
    page.says(HEADLINE, "Nothing refills it")
    page.click("+ Sun")
    page.sees("[data-trend='keeps up'], [data-trend='gains']")
    link = page.saved()["links"][0]
    assert (link["charger"]["kind"], link["charger"]["profile"]) == ("MPPT controller", "AGM")
    page.choose("Month", "December")
    page.sees("[data-trend='runs down']")
    page.fill("Latitude", "75")
    page.leave()
    # Polar night: nothing comes in, and it is said.
    page.finds("sun.no_sun")
    page.says(HEADLINE, "Nothing refills it")


def test_a_charger_put_before_a_bare_battery_clears_the_finding(page: Page, server: Server) -> None:
    document = server.demo("puppet-van")
    document["links"] = [{"id": "lead", "name": "Lead", "rail": "van-engine", "to": "bank"}]
    page.open(document)
    page.finds("link.no_charger")
    page.finds("link.plain_relay")
    page.find("[data-finding='link.no_charger'] [data-fix^='Use a DC-DC charger']:enabled").click()
    page.clears("link.no_charger")
    page.clears("link.plain_relay")
    page.find('.drawing [data-thing="lead"]').click()
    page.says('.drawing [data-thing="lead"]', "DC-DC charger")
    page.choose("Charger: profile", "flooded")
    page.finds("charger.other_profile")
    page.find("[data-fix='Set its profile to lithium.']:enabled").click()
    page.clears("charger.other_profile")
    page.fill("Charger: charge volts", "15")
    page.finds("charger.volts_high")
    page.undo()
    page.clears("charger.volts_high")
    page.fill("Charger: amps", "-3")
    page.press(Keys.TAB)
    page.says("[role=alert]", "more than 0")


def test_a_panel_is_entered_from_its_label(page: Page, server: Server, tmp_path: Path) -> None:
    """Three 40 V panels in series are 120 V open, more in the cold, into a controller of 100 V."""
    page.open(server.demo("puppet-van"))
    page.find('.drawing [data-thing="roof-panels"]').click()
    page.fill("Panel: open volts", "40")
    page.fill("Panels in series", "3")
    page.finds("link.above_maximum")
    page.fill("Panels in series", "2")
    page.clears("link.above_maximum")
    page.fill("Sun hours: Feb", "2,5")
    page.leave()
    assert page.saved()["stores"][1]["sun_hours"][1] == 2.5
    page.find("[data-part=sun-place-opener]").click()
    page.fill("Place: latitude", "52")
    page.fill("Place: tilt", "60")
    page.fill("Clearness: Feb", "50")
    page.until(lambda: "50" in page.values('[aria-label="Clearness: Feb"]')[0], "50")
    page.until(lambda: page.button("Use these sun hours").is_enabled(), "worked out")
    page.click("Use these sun hours")
    # A tilted panel has more than the half of 2.3 to 2.7 that a clear sky gives on the flat.
    page.until(lambda: 1.6 < page.saved()["stores"][1]["sun_hours"][1] < 3.2, "worked out")
    assert page.saved()["week"]["latitude"] == 52
    page.undo()
    page.holds("Sun hours: Feb", "2.5")
    page.fill("Sun hours: Feb", "14")
    page.says("[role=alert]", "12")
    page.fill("Sun hours: Feb", "3")
    # A year of light from a file: an hour of 700 W/m2 a day.
    light = tmp_path / "light.csv"
    chosen = page.labelled("File of hourly light")
    light.write_text("month,day,hour,plane\n1,1,12,dark")
    chosen.send_keys(str(light))
    page.says("[data-part=sun-file]", "which is not a number")
    rows = [f"{m},{d},12,700" for m in range(1, 13) for d in range(1, 29)]
    better = tmp_path / "better.csv"
    better.write_text("\n".join(["month,day,hour,plane", *rows]))
    chosen.send_keys(str(better))
    page.click("Use the file’s sun hours")
    page.until(lambda: page.saved()["stores"][1]["sun_hours"] == [0.7] * 12, "of the file")


def test_a_bank_is_charged_from_mains_and_generator(page: Page, server: Server) -> None:
    """Sources are added by a button each, changed in their panels, and removed with undo."""
    page.open(server.demo("puppet-van", alone=True))
    _refill(page)
    page.click("+ Mains")
    page.says("[data-part=spouts] svg", "Mains socket")
    page.click("+ Generator")
    page.says("[data-part=spouts] svg", "Generator")
    page.says("[data-trend]", "Keeps up")
    page.finds("generator.overloaded")
    page.go("plan")
    page.find('.drawing [data-thing="generator"]').click()
    page.fill("Generator: watts", "2000")
    page.leave()
    page.clears("generator.overloaded")
    page.fill("Generator: fuel", "0,5")
    page.fill("Generator: runs", "17-18:30")
    page.press(Keys.TAB)
    page.choose("Generator: wave", "other, or not known")
    page.finds("generator.wants_sine")
    page.sees("[data-caution='caution.carbon_monoxide']")
    page.find('.drawing [data-thing="mains"]').click()
    page.fill("Mains: most amps", "16")
    page.fill("Mains: times", "22-6")
    page.press(Keys.TAB)
    stores = {store["kind"]: store for store in page.saved()["stores"]}
    assert stores["generator"]["litres_per_kwh"] == 0.5
    assert stores["generator"]["runs"]["windows"] == [{"from_h": 17.0, "to_h": 18.5}]
    assert stores["mains"]["socket_a"] == 16
    assert stores["mains"]["times"]["windows"] == [{"from_h": 22.0, "to_h": 6.0}]
    _refill(page)
    page.says("[data-part=spouts] svg", " l")
    page.find("[aria-label='Monday: mains']").click()
    page.sees("[aria-label='Monday: mains off']")
    page.go("run")
    # What sources give stands below the line, each with its name.
    page.sees("[data-pane=power] [data-inflow=generator]")
    page.says("[data-pane=power]", "what sources give")
    page.go("plan")
    page.find('.drawing [data-thing="generator"]').click()
    page.click("Remove Generator")
    page.until(lambda: len(page.saved()["links"]) == 1, "its link goes with it")
    page.undo()
    page.until(lambda: len(page.saved()["links"]) == 2, "and comes back")


def _cut(page: Page) -> list[tuple[int, list[dict[str, float]]]]:
    """The days of the design kept that have outages, and these."""
    days = page.saved()["week"]["days"]
    return [(d, day["outages"]) for d, day in enumerate(days) if day["outages"]]


def test_an_outage_of_nine_hours_for_a_router(page: Page, server: Server) -> None:
    """A box of 60 Wh holds out for some six hours at 9 W; twice the energy for all nine."""
    port = {"kind": "dc", "id": "out", "name": "12 V barrel", "volts": 12.0, "amps": 3.0}
    plug = {"id": "in", "name": "Mains input", "supply": "ac", "most_w": 24.0,
            "accepts": {"least_v": 200.0, "most_v": 250.0},
            "modes": [{"name": "Mains", "amps": 1.0}]}  # fmt: skip
    box = {"kind": "station", "id": "box", "name": "Backup box", "label_wh": 60.0, "cells": 3,
           "chemistry": "nmc", "usable_share": 0.9, "idle_w": 0.5, "most_in_w": 24.0,
           "outlets": [port], "inputs": [plug]}  # fmt: skip
    router = {"id": "router", "name": "Router", "rail": "out", "priority": "must",
              "supply": {"kind": "dc", "volts": 12.0}, "demand": {"kind": "watts", "watts": 8.0},
              "when": {"kind": "hours", "hours": 24.0}}  # fmt: skip
    document = server.demo("ticket-booth") | {
        "stores": [box, {"kind": "mains"}], "stages": [], "loads": [router],
        "links": [{"id": "cord", "rail": "mains", "to": "box", "input": "in"}],
    }  # fmt: skip
    page.open(document)
    _refill(page)
    page.says("[data-part=outage-headline]", "without mains")
    page.says("[data-outage=router]", "stops after")
    # Drawn on the week from Tuesday evening to Wednesday morning; typed over, and taken back.
    lane = page.find("[data-part=draw-outage]")
    hour_px = lane.size["width"] / 168
    ActionChains(page.driver).move_to_element_with_offset(
        lane, round((42 - 84) * hour_px), 0
    ).click_and_hold().move_by_offset(round(12 * hour_px), 0).release().perform()
    days = page.until(lambda: _cut(page), "an outage")
    assert [d for d, spans in days] == [1, 2]
    assert (days[0][1][0]["to_h"], days[1][1][0]["from_h"]) == (24.0, 0.0)
    assert days[0][1][0]["from_h"] == pytest.approx(18.0, abs=1.0)
    page.sees("[data-gap^='42'], [data-gap^='41'], [data-gap^='43']")
    page.choose("Day of the outage", "Wednesday")
    page.fill("No mains on Wednesday", "12-14:30")
    page.until(
        lambda: _cut(page)[1] == (2, [{"from_h": 12.0, "to_h": 14.5}]), "typed over what was drawn"
    )
    page.undo()
    page.undo()
    page.until(lambda: not _cut(page), "taken back")
    page.fill("Length of the outage", "4")
    page.says("[data-part=outage-headline]", "4 h without mains are run through")
    page.says("[data-outage=router]", "runs through")
    page.says("[data-part=outage]", "Two a day are run through.")
    # More than is looked at: said, and the last answer is not shown for it.
    page.fill("Length of the outage", "500")
    page.says("[data-part=outage]", "168")
    page.fill("Length of the outage", "9")
    page.says("[data-outage=router]", "stops after")
    assert page.violations({}, "[data-part=outage]") == []


def test_an_inverter_charger_passes_the_mains_on(page: Page, server: Server) -> None:
    """While the mains is there its loads run from it: the socket carries them too."""
    document = server.demo("puppet-van", alone=True)
    page.open(document)
    _refill(page)
    page.click("+ Mains")
    page.says("[data-part=spouts] svg", "Mains socket")
    page.go("plan")
    page.find('.drawing [data-thing="inverter"]').click()
    page.choose("Inverter: passes on", "Mains socket")
    page.choose("Inverter: changeover", "with a break")
    page.until(lambda: page.saved()["stages"][0]["transfer"] == "mains", "kept")
    page.finds("mains.near_its_breaker")
    page.go("refill")
    page.says("[data-part=outage]", "break")

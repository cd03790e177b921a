"""The shelf at the screen: parts found, added, changed, taken into a design, read in as CSV."""

import csv
import io
from pathlib import Path

from selenium.webdriver.common.keys import Keys

from tests import web
from tests.browser.page import Page, Server


def _names(page: Page) -> list[str]:
    script = "return [...document.querySelectorAll('[data-shelf]')].map((one) => one.dataset.shelf)"
    return [str(name) for name in page.driver.execute_script(script)]


def test_a_part_goes_from_its_label_to_the_shelf_and_into_a_design(
    page: Page, server: Server
) -> None:
    page.visit("shelf")
    page.until(lambda: len(_names(page)) >= 40, "the starting shelf")
    page.click("+ battery")
    for field, text in {
        "Part name": "Measured pack",
        "Part volts": "12,8",
        "Part Ah": "196",
        "BMS continuous current": "200",
        "Price": "410",
        "Mass": "21.5",
    }.items():
        page.fill(field, text)
    # Closed by a slip.
    page.press(Keys.ESCAPE)
    page.until(lambda: not page.count("[data-dialog=part]"), "closed")
    page.click("+ battery")
    page.says("[data-part=restored]", "What you typed before is back.")
    page.sees("[data-dialog=part] details:last-of-type summary")
    page.all("[data-dialog=part] summary")[-1].click()
    page.choose("ah source", "measured")
    page.click("Put on the shelf")
    page.fill("Filter the shelf", "measured pack")
    page.until(lambda: _names(page) == ["Measured pack"], "filtered")
    page.says('[data-shelf="Measured pack"]', "12.8 V · 196 Ah · LFP · gives 200 A")
    page.says('[data-shelf="Measured pack"]', "21.5 kg")

    page.open(server.demo("puppet-van", alone=True))
    page.panel("2")
    page.click("From the shelf")
    page.fill("Filter parts", "measured")
    page.find('[data-part-name="Measured pack"]').send_keys(Keys.ENTER)
    # 2 x 12.8 V x 196 Ah.
    page.says('[data-panel=bank] [data-figure="store.bank.wh"]', "5020 Wh")
    battery = page.saved()["stores"][0]["battery"]
    assert (battery["name"], battery["provenance"]) == ("Measured pack", "measured")
    assert battery["shelf"]["revision"] == 1
    page.says("[data-part=shelf-copy]", "a copy of Measured pack")
    page.fill("Battery Ah", "190")
    page.says("[data-part=shelf-copy]", "changed here: ah")

    # Changed on the shelf: the design keeps its copy until it is asked to take the part anew.
    part = next(
        x
        for x in web.get(f"{server.address}api/shelf").json()
        if x["id"] == battery["shelf"]["part"]
    )
    changed = part["part"] | {"figures": part["part"]["figures"] | {"ah": 200.0}}
    web.put(
        f"{server.address}api/shelf/parts/{part['id']}", json={"base": 1, "part": changed}
    ).raise_for_status()
    page.driver.refresh()
    page.sees(".drawing [data-thing]")
    page.panel("2")
    page.says("[data-part=shelf-changed]", "Changed on the shelf since it was taken (ah)")
    page.holds("Battery Ah", "190")
    page.click("Update from the shelf")
    page.holds("Battery Ah", "200")
    page.until(lambda: page.saved()["stores"][0]["battery"]["shelf"]["revision"] == 2, "anew")


def test_a_charger_comes_from_the_shelf_and_goes_onto_it(page: Page, server: Server) -> None:
    document = server.demo("puppet-van")
    page.open(document)
    page.find('.drawing [data-thing="engine-charger"]').send_keys(Keys.ENTER)
    page.click("From the shelf")
    page.says('[data-part-name="DC-DC charger 30 A 12 V from 12 V"]', "fits; 30 A, lithium")
    assert not page.count('[data-part-name^="Mains charger"]')
    page.find('[data-part-name="DC-DC charger 30 A 12 V from 12 V"]').click()
    page.holds("Charger: amps", "30")
    page.says("[data-part=shelf-copy]", "a copy of DC-DC charger 30 A 12 V from 12 V")
    page.fill("Charger: amps", "25")
    page.says("[data-part=shelf-copy]", "changed here: amps")
    page.click("Put on the shelf")
    page.says("[data-part=shelf-copy]", "a copy of Engine charger")
    page.visit("shelf")
    page.says('[data-shelf="Engine charger"]', "DC-DC charger · lithium · 25 A up to 14.4 V")
    page.click("+ solar panel")
    page.fill("Part name", "Attic panel")
    page.fill("Part: watts", "120")
    page.click("Put on the shelf")
    page.says('[data-shelf="Attic panel"]', "120 W · open 22.3 V")


def test_what_suits_comes_first_and_a_stage_goes_onto_the_shelf(page: Page, server: Server) -> None:
    page.open(server.demo("puppet-van", alone=True))
    page.find('.drawing [data-thing="inverter"]').send_keys(Keys.ENTER)
    page.click("From the shelf")
    page.until(lambda: page.count("[data-part-name]") >= 13, "all inverters")
    rows = [page.read(x) for x in page.all("[data-part-name]")]
    assert "✓ fits" in rows[0]
    # 48 V ones on a 12.8 V bank; 600 W of the 1 005 W that run together.
    assert "never reaches its minimum" in next(x for x in rows if "3000 W 48 V" in x)
    assert "carries 600 W of the 1\u202f005 W" in next(x for x in rows if "600 W 12 V" in x)
    page.find('[data-part-name="Sine inverter 2000 W 12 V"]').click()
    page.until(lambda: page.saved()["stages"][0]["continuous_w"] == 2000, "taken")
    assert page.saved()["stages"][0]["id"] == "inverter"
    page.undo()
    page.until(lambda: page.saved()["stages"][0]["continuous_w"] == 1500, "undone")
    page.fill("Inverter name", "Roadside inverter")
    page.click("Put on the shelf")
    page.says("[data-part=shelf-copy]", "a copy of Roadside inverter")
    page.visit("shelf")
    page.until(lambda: "Roadside inverter" in _names(page), "on the shelf")


def test_parts_are_changed_doubled_taken_off_and_brought_back(page: Page) -> None:
    page.visit("shelf")
    page.until(lambda: len(_names(page)) >= 40, "the shelf")
    page.fill("Filter the shelf", "boost 19")
    page.labelled("Edit Boost 19 V 5 A").click()
    page.fill("Part: continuous amps", "0")
    page.click("Save")
    page.says("[data-dialog=part]", "must be more than 0; 0 was given")
    page.fill("Part: continuous amps", "4")
    page.fill("Part name", "Boost 19 V 4 A")
    page.click("Save")
    page.says('[data-shelf="Boost 19 V 4 A"]', "19.5 V 4 A")
    page.click("Undo")
    page.says('[data-shelf="Boost 19 V 5 A"]', "19.5 V 5 A")
    page.labelled("Duplicate Boost 19 V 5 A").click()
    page.click("Put on the shelf")
    page.until(lambda: len(_names(page)) == 2, "two of them")
    page.labelled("Delete Boost 19 V 5 A (copy)").click()
    page.until(lambda: len(_names(page)) == 1, "one")
    page.click("Undo")
    page.until(lambda: len(_names(page)) == 2, "two again")
    page.labelled("Delete Boost 19 V 5 A (copy)").click()
    page.fill("Filter the shelf", "no such thing")
    page.says("main", "No part matches the filter")


def test_a_part_changed_elsewhere_meanwhile_is_not_overwritten(page: Page, server: Server) -> None:
    page.visit("shelf")
    page.fill("Filter the shelf", "linear 12")
    page.labelled("Edit Linear 12 V 3 A from 24 V").click()
    part = next(
        x
        for x in web.get(f"{server.address}api/shelf").json()
        if x["part"]["name"] == "Linear 12 V 3 A from 24 V"
    )
    body = {"base": part["revision"], "part": part["part"] | {"price": 16.0}}
    web.put(f"{server.address}api/shelf/parts/{part['id']}", json=body).raise_for_status()
    page.fill("Price", "17")
    page.click("Save")
    page.says("[data-dialog=part] [role=alert]", "was changed in another tab or window")
    page.press(Keys.ESCAPE)
    page.driver.refresh()
    page.fill("Filter the shelf", "linear 12")
    page.says('[data-shelf="Linear 12 V 3 A from 24 V"]', "16")


def test_a_csv_file_is_looked_at_row_by_row_before_it_is_taken(
    page: Page, server: Server, tmp_path: Path
) -> None:
    text = web.get(f"{server.address}api/shelf/parts.csv").text
    head, first = text.splitlines()[:2]
    name = next(csv.reader(io.StringIO(first)))[1]
    file = tmp_path / "parts.csv"
    good = "battery,Import pack,lfp,25.6,50\n"
    columns = "kind,name,chemistry,volts,ah\n"
    page.visit("shelf")
    page.until(lambda: len(_names(page)) >= 40, "the shelf")
    before = len(_names(page))

    def look(content: str) -> None:
        file.write_text(content)
        page.find('[aria-label="CSV file"]').send_keys(str(file))

    page.click("Import CSV")
    look("volts,amps\n1,2\n")
    page.says("[data-dialog=import] [role=alert]", "first line must name the columns")
    page.press(Keys.ESCAPE)
    page.click("Import CSV")
    look(f"{columns}{good}battery,Bad pack,lfp,25.6,-3\nbattery,No amps,lfp,,4\n")
    page.says("[data-part=preview-count]", "1 good, 2 with something wrong")
    page.says('[data-row="3"]', "ah must be more than 0; -3.0 was given")
    page.says('[data-row="4"]', "volts is missing")
    assert len(web.get(f"{server.address}api/shelf").json()) == before
    page.click("Import the 1 good row")
    page.until(lambda: "Import pack" in _names(page), "taken")
    assert len(_names(page)) == before + 1
    page.click("Undo")
    page.until(lambda: "Import pack" not in _names(page), "undone")
    # What was exported comes back in, and says that it is there already.
    page.click("Import CSV")
    look(f"{head}\n{first}\n")
    page.says("[data-part=preview-count]", "1 good, 0 with something wrong")
    page.says('[data-row="2"]', "one of that name is on the shelf already")
    assert name in page.text('[data-row="2"]')


def test_a_part_is_entered_by_its_label(page: Page) -> None:
    """What is understood is underlined; what is unsure is asked; Enter takes it."""
    page.visit("shelf")
    page.click("+ battery")
    label = page.labelled("Label of the part")
    label.send_keys("lead-acid 25.6V 60Ah")
    page.says("[data-part=label-entry]", "AGM or gel, or flooded?")
    assert not page.count("[data-part=use-label]")
    label.send_keys(Keys.CONTROL, "a")
    label.send_keys("LiFePO4 25,6V 6OAh, max. discharge 80A")
    page.says("[data-part=label-entry]", "is read as 60 Ah")
    marked = [page.read(x) for x in page.all('[data-part=label-read] [data-mark="read"]')]
    assert {"25,6V", "6OAh", "80A"} <= set(marked)
    label.send_keys(Keys.ENTER)
    page.until(lambda: "80" in _values(page), "taken")
    assert {"25.6", "60", "80"} <= _values(page)


def _values(page: Page) -> set[str]:
    return set(page.values("[data-dialog=part] input"))

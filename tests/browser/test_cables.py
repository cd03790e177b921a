"""A person wires a design: sizes, fuses, proposals, both schools, cut list, cautions."""

import csv
import io

from selenium.webdriver.common.keys import Keys

from tests.browser.page import Page, Server


def cables(page: Page) -> None:
    """Go to the Cables of the open design."""
    page.go("cables")
    page.sees("[data-part=cables]")


def line(page: Page, subject: str) -> str:
    """What the line of a run says."""
    return page.text(f'tr[data-cable="{subject}"]')


def test_a_cable_is_chosen_in_place_and_what_is_wrong_with_it_is_mended(page: Page) -> None:
    page.open()
    page.build("an inverter")
    page.says(".drawing [data-wire=inverter]", "mm²")
    page.find('[data-thing="inverter"]').send_keys(Keys.ENTER)
    page.find('[data-wire-link="inverter"]').click()
    # The link leads to its run, opened.
    page.sees('[data-details="inverter"]')
    name = str(page.saved()["stages"][0]["name"])
    assert "posts to bus bar" in line(page, "bank")
    page.fill(f"{name}: length one way", "1,5")
    page.choose(f"{name}: size", "10 mm²")
    page.finds("cable.under_ampacity")
    page.sees("nav [data-of=cables]")
    cable = page.saved()["stages"][0]["cable"]
    assert (cable["length_m"], cable["size"]) == (1.5, "10 mm²")
    page.find('[data-finding="cable.under_ampacity"] [data-fix]:enabled').click()
    page.clears("cable.under_ampacity")
    page.until(lambda: page.saved()["stages"][0]["cable"]["size"] != "10 mm²", "a thicker one")
    page.fill(f"{name}: fuse", "1000")
    page.finds("fuse.above_cable")
    page.sees('tr[data-cable="inverter"] [data-fuse-fits=false]')
    page.undo()
    page.clears("fuse.above_cable")
    # A length no cable has is refused at its field, and nothing is lost.
    page.fill(f"{name}: length one way", "300")
    said = "must be 200 m or less; 300 m was given"
    page.says('tr[data-cable="inverter"] [role=alert]', said)
    page.says("[data-answer=stale] > [role=alert]", f"length one way {said}.")
    page.fill(f"{name}: length one way", "2")
    page.until(lambda: page.saved()["stages"][0]["cable"]["length_m"] == 2, "the length")


def test_every_field_of_a_joint_reaches_the_document(page: Page, server: Server) -> None:
    page.open(server.demo("puppet-van", alone=True))
    cables(page)
    page.find('[data-more="stage-rail"]').click()
    name = "Boost 24 V 10 A"
    page.choose(f"{name}: size", "16 mm²")
    for field, text in {
        "parallel cables": "2", "conductors together": "4", "ambient": "45", "may lose": "2",
        "milliohms": "3,5", "fuse": "35", "fuse volts": "48", "fuse interrupts": "5000",
        "bus bar": "100", "shunt": "50",
    }.items():  # fmt: skip
        page.fill(f"{name}: {field}", text)
    page.choose(f"{name}: installed", "bundled")
    page.choose(f"{name}: insulation", "90 °C")
    page.choose(f"{name}: ampacity by", "boat and vehicle (AWG)")
    page.choose(f"{name}: fuse kind", "class T")
    page.choose(f"{name}: connector", "two-pole, 60 A")
    page.until(lambda: page.saved()["stages"][1]["connector"] == "two-pole-60", "the last field")
    joined = page.saved()["stages"][1]
    assert joined["cable"] == {
        "length_m": 2, "size": "16 mm²", "leads": 2, "installed": "bundled", "together": 4,
        "insulation_c": 90, "ambient_c": 45, "school": "boat and vehicle", "may_lose": 0.02,
    }  # fmt: skip
    assert joined["fuse"] == {
        "amps": 35, "kind": "class-t", "volts": 48, "breaks_a": 5000, "from_post_m": None,
    }  # fmt: skip
    assert (joined["cable_mohm"], joined["bus_bar_a"], joined["shunt_a"]) == (3.5, 100, 50)
    page.find('[data-more="bank"]').click()
    page.fill("Van bank: fuse from the post", "0.12")
    page.fill("Van bank: longest cable", "0.9")
    page.choose("Van bank: connected at", "from one battery")
    page.fill("Van bank: disconnect", "250")
    page.fill("Van bank: disconnect volts", "24")
    page.until(lambda: page.saved()["stores"][0]["leads"]["longest_m"] == 0.9, "the longest")
    leads = page.saved()["stores"][0]["leads"]
    assert (leads["fuse"]["from_post_m"], leads["take_off"]) == (0.12, "from one battery")
    assert leads["disconnect"] == {"amps": 250, "volts": 24}
    page.finds("bank.one_sided")


def test_a_cable_that_ends_at_a_battery_is_fused_at_both_ends(page: Page, server: Server) -> None:
    document = server.demo("puppet-van", alone=True)
    outside = {"kind": "bank", "id": "old", "name": "Old battery", "battery": {"volts": 12.8}}
    document["stores"].append(outside)
    document["links"].append(
        {"id": "top-up", "name": "Top-up lead", "rail": "old", "to": "bank",
         "cable": {"length_m": 2.0, "size": "6 mm²"}, "fuse": {"amps": 40.0, "kind": "class-t"}}
    )  # fmt: skip
    page.open(document)
    cables(page)
    page.finds("fuse.battery_end")
    page.find('[data-finding="fuse.battery_end"] [data-fix]:enabled').click()
    page.clears("fuse.battery_end")
    assert page.saved()["links"][0]["end_fuse"]["kind"] == "class-t"
    page.find('[data-more="top-up"]').click()
    page.fill("Top-up lead: fuse at the battery", "300")
    page.finds("fuse.battery_end")
    page.undo()
    page.clears("fuse.battery_end")


def test_all_proposals_are_taken_at_once_and_the_drawing_carries_them(
    page: Page, server: Server
) -> None:
    page.open(server.demo("set-building-trailer"))
    assert "(" in page.text(".drawing [data-wire=inverter]")
    cables(page)
    assert not page.count("tr[data-chosen=true]")
    page.click("Apply all suggestions")
    page.until(lambda: not page.count("tr[data-chosen=false]"), "all chosen")
    page.says("main", "Nothing left to suggest")
    saved = page.saved()
    assert all(stage["cable"]["size"] and stage["fuse"] for stage in saved["stages"])
    assert saved["stores"][0]["leads"]["bus_bar_a"] >= 100
    assert page.findings() & {"cable.under_ampacity", "fuse.above_cable", "fuse.no_main"} == set()
    # The working of a figure opens here too.
    page.find('tr[data-cable="inverter"] [data-figure="cable.inverter.drop_v"]').click()
    page.says("[role=dialog]", "resistance, out and back")
    page.press(Keys.ESCAPE)
    page.click("Plan")
    page.until(lambda: "(" not in page.text(".drawing [data-wire=inverter]"), "chosen, drawn")
    page.find("[data-part=words] summary").click()
    page.says("[data-part=words]", "fuse ")
    page.undo()
    page.until(lambda: "(" in page.text(".drawing [data-wire=inverter]"), "undone")


def test_schools_stand_side_by_side_and_sizes_in_either_system(page: Page, server: Server) -> None:
    page.open(server.demo("tide-gauge-hut"))
    cables(page)
    page.labelled("Sizes in")
    page.choose("Sizes in", "AWG")
    page.says('tr[data-cable="inverter"] [data-part=proposed]', "AWG")
    page.find("main label input[type=checkbox]").click()
    page.says('[data-school-row="radio-modem"]', "14 AWG · 2.08 mm²")
    page.says('[data-school-row="radio-modem"]', "18 AWG · 0.823 mm²")
    page.find("main label input[type=checkbox]").click()
    page.choose("Ampacity by", "boat and vehicle (AWG)")
    page.says('tr[data-cable="radio-modem"] [data-part=proposed]', "18 AWG")
    assert page.saved()["setting"]["school"] == "boat and vehicle"
    page.says("[data-part=from-memory]", "quoted from memory")
    page.find("[data-part=from-memory] summary").click()
    page.says("[data-part=from-memory]", "33 CFR 183.425")
    page.find('[data-part=from-memory] a[href^="/method"]').click()
    page.driver.switch_to.window(page.driver.window_handles[-1])
    page.says("main.method h2#cables", "Cables")


def test_tables_are_copied_as_csv(page: Page, server: Server) -> None:
    page.open(server.demo("puppet-van", alone=True))
    cables(page)
    tables = (("Runs as CSV", "run", "tr[data-cable]"), ("Cut list", "item", "[data-cut]"))
    for button, column, row in tables:
        said = f"Copied {page.count(row)} "
        rows = list(csv.DictReader(io.StringIO(page.copied(button, said))))
        assert len(rows) == page.count(row)
        assert all(x[column] for x in rows)


def test_a_caution_is_read_comes_back_and_hides_nothing(page: Page, server: Server) -> None:
    page.open(server.demo("puppet-van", alone=True))
    caution = '[data-caution="caution.mains"]'
    page.find(f"{caution} summary").click()
    page.says(caution, "Ask a licensed electrician")
    page.says(caution, "Codes that may apply: IEC 60364-7-721")
    page.says(caution, "claims no compliance")
    findings = page.findings()
    page.find(f"{caution} input").click()
    page.sees(f"{caution}[data-acknowledged=true]")
    read = page.until(lambda: page.saved()["acknowledged"], "kept")
    assert read == [{"code": "caution.mains", "subjects": ["inverter"]}]
    page.go("plan")
    page.sees(f"{caution}[data-acknowledged=true]")
    # Tied to one inverter; another one is something new.
    page.build("an inverter")
    page.until(lambda: page.count(f"{caution}[data-acknowledged=false]"), "it is back")
    page.says(caution, "new since you read it")
    page.undo()
    page.sees(f"{caution}[data-acknowledged=true]")
    page.click("Read all")
    page.says("[data-part=unread]", "all read")
    assert page.findings() == findings
    assert "fuse.below_load" in findings
    page.undo()
    page.until(lambda: "to read" in page.text("[data-part=unread]"), "undone")


def test_a_station_alone_has_no_runs_and_says_so(page: Page, server: Server) -> None:
    document = server.demo("ticket-booth")
    station = next(x for x in document["stores"] if x["kind"] == "station")
    document |= {"stores": [station], "stages": [], "links": []}
    page.open(document)
    page.go("cables")
    page.says("main", "There is no DC run in this design")
    page.says("[data-mains]", "licensed electrician")

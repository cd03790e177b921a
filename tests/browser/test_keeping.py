"""Nothing is lost: reloads, restarts, two tabs, bad values, a server that is away."""

import json
from pathlib import Path
from uuid import uuid4

import pytest
from selenium.webdriver import Chrome
from selenium.webdriver.common.keys import Keys

from graveljar.core.model import VERSION
from tests.browser.page import Page, Server

VAN = "Puppet van, winter tour"


def test_reload_and_restart_lose_nothing(page: Page, server: Server) -> None:
    page.open()
    page.add("lamp 12V 10W 2h")
    page.fill("Name of the design", "Kept for good")
    page.saved()
    page.driver.refresh()
    page.sees('tr[data-load="lamp"]')

    # While the server is away edits go on here, and are saved when it is back.
    server.stop()
    page.fill("Lamp: watts", "17")
    page.says("[data-saving]", "not saved, trying again")
    server.start()
    page.until(lambda: page.saved()["loads"][0]["demand"]["watts"] == 17, "saved after all")
    page.driver.refresh()
    page.holds("Lamp: watts", "17")
    assert server.kept(page.id)["document"]["name"] == "Kept for good"


@pytest.mark.parametrize(
    ("choice", "here", "elsewhere"),
    [
        ("Use the other version", ["There"], []),
        ("Keep my version", ["Here"], []),
        ("Keep both", ["There"], ["Here (my copy)"]),
    ],
)
def test_two_tabs_on_one_design_get_a_choice(
    page: Page, server: Server, choice: str, here: list[str], elsewhere: list[str]
) -> None:
    page.open()
    first = page.driver.current_window_handle
    page.driver.switch_to.new_window("tab")
    page.visit(f"d/{page.id}/plan")
    page.fill("Name of the design", "There")
    page.saved()
    page.driver.switch_to.window(first)
    page.fill("Name of the design", "Here")
    dialog = page.find("[data-dialog=conflict]")
    assert "Nothing is overwritten until you choose" in page.read(dialog)
    page.says("[data-dialog=conflict] table", "name There Here")
    assert server.kept(page.id)["document"]["name"] == "There", "nothing overwritten in silence"
    page.button(choice).click()
    page.until(lambda: not page.count("[data-dialog=conflict]"), "the dialog gone")
    assert [page.saved()["name"]] == here
    page.visit("").find("[data-part=designs]")
    names = set(page.attributes("[data-design]", "data-design"))
    assert set(elsewhere) <= names
    assert server.kept(page.id)["revision"] >= 2


@pytest.mark.parametrize(
    ("field", "text", "said"),
    [
        ("Lamp: duty", "150", "must be 100 % or less; 150 % was given"),
        ("Lamp: time a day", "30 h", "must be 24 h or less; 1 d 6 h was given"),
        ("Lamp: count", "2.5", "must be a whole number"),
    ],
)
def test_a_refused_value_says_why_and_holds_back_saving(
    page: Page, field: str, text: str, said: str
) -> None:
    page.open()
    page.add("lamp 12V 10W 2h")
    before = page.saved()
    hours = page.text("[data-part=hours]")
    page.fill(field, text)
    page.says('td [role="alert"]', said)
    assert page.uncovered('td [role="alert"]')
    page.says("[data-standing=stale]", f"A value is refused. {field} {said}")
    page.says("[data-saving]", "not saved: a value is refused")
    assert page.labelled(field).get_dom_attribute("aria-invalid") == "true"
    assert page.find("[data-verdict]").get_dom_attribute("data-stale") == "true"
    assert page.text("[data-part=hours]") == hours
    assert server_document(page) == before
    page.find("[data-standing=stale] button").click()
    page.until(lambda: page.saved() == before, "undone")


def test_a_load_may_be_on_mains_after_all(page: Page) -> None:
    # A new row is DC, on the bank: on AC it goes where mains is, or waits for some.
    page.open()
    page.click("+ Add an empty row")
    page.choose("New load: AC or DC", "V AC")
    page.says("ol li", "New load is not connected now.")
    row = page.saved()["loads"][0]
    assert (row["supply"]["kind"], row["rail"]) == ("ac", None)
    page.undo()
    page.until(lambda: page.saved()["loads"][0]["rail"] == "bank", "as before")


def server_document(page: Page) -> object:
    """What the server keeps of the page's design."""
    return page.server.kept(page.id)["document"]


@pytest.mark.parametrize(("text", "said"), [("ten", "not a number"), ("", "a number is needed")])
def test_what_is_no_number_stays_where_it_was_typed(page: Page, text: str, said: str) -> None:
    page.open()
    page.add("lamp 12V 10W 2h")
    page.fill("Lamp: watts", text or "\ue003")
    page.says('td [role="alert"]', said)
    assert page.saved()["loads"][0]["demand"]["watts"] == 10
    page.fill("Lamp: watts", "12")
    page.until(lambda: page.saved()["loads"][0]["demand"]["watts"] == 12, "12 W")


def test_designs_are_made_renamed_duplicated_deleted_and_brought_back(
    page: Page, server: Server
) -> None:
    page.visit("")

    def names() -> list[str]:
        return page.attributes("[data-design]", "data-design")

    page.until(lambda: VAN in names(), "the demo")
    page.find("[data-part=skip]").click()
    page.fill("Name of the design", "A booth of my own")
    page.id = page.driver.current_url.split("/d/")[1].split("/")[0]
    page.saved()
    page.visit("")
    page.labelled("Duplicate A booth of my own").click()
    page.until(lambda: "A booth of my own (copy)" in names(), "the copy")
    page.labelled("Delete A booth of my own").click()
    page.until(lambda: "A booth of my own" not in names(), "gone")
    page.click("Undo")
    page.until(lambda: "A booth of my own" in names(), "back")
    page.find('[data-design="A booth of my own"] a').click()
    page.labelled("This design: duplicate, history, export, delete").click()
    page.click("Delete")
    page.until(lambda: names() and "A booth of my own" not in names(), "gone again")


def test_a_design_goes_out_and_comes_in_as_json(
    page: Page, server: Server, driver: Chrome, tmp_path: Path
) -> None:
    driver.execute_cdp_cmd(
        "Browser.setDownloadBehavior", {"behavior": "allow", "downloadPath": str(tmp_path)}
    )
    document = server.demo("tide-gauge-hut")
    page.open(document)
    page.labelled("This design: duplicate, history, export, delete").click()
    page.click("Export as JSON")
    file = tmp_path / "tide-gauge-hut.json"
    page.until(lambda: file.exists() and file.stat().st_size, "the file")
    assert json.loads(file.read_text()) == document

    changed = tmp_path / "changed.json"
    changed.write_text(json.dumps(document | {"name": "Brought in"}))
    page.visit("")
    page.find("input[type=file]").send_keys(str(changed))
    page.until(lambda: "/plan" in page.driver.current_url, "opened")
    assert page.labelled("Name of the design").get_property("value") == "Brought in"


def test_a_design_is_put_away_found_by_its_tag_and_brought_back(page: Page) -> None:
    page.open()
    page.fill("Name of the design", "Plan for the attic")
    page.saved()
    page.visit("").find("[aria-label='+ tag for Plan for the attic']").send_keys(Keys.ENTER)
    page.driver.switch_to.active_element.send_keys("loft", Keys.ENTER)
    page.says('[data-design="Plan for the attic"] [data-part=tags]', "loft")
    page.find("[aria-label='Search designs']").send_keys("loft")
    page.until(lambda: page.count("[data-design]") == 1, "the one with that word")
    page.find("[aria-label='Archive Plan for the attic']").send_keys(Keys.ENTER)
    page.until(lambda: not page.count("[data-design]"), "put away")
    page.choose("Which designs", "archived")
    page.find("[aria-label='Delete Plan for the attic']").send_keys(Keys.ENTER)
    page.until(lambda: not page.count("[data-design]"), "deleted")
    page.choose("Which designs", "deleted")
    page.find("[aria-label='Restore Plan for the attic']").send_keys(Keys.ENTER)
    page.choose("Which designs", "archived")
    page.find("[aria-label='Bring back Plan for the attic']").send_keys(Keys.ENTER)
    page.choose("Which designs", "at hand")
    page.find('[data-design="Plan for the attic"] a').send_keys(Keys.ENTER)
    page.sees("#quick-entry")


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ('{"format": "gravel-jar/design", "loads": [', "not complete JSON"),
        (
            f'{{"format": "gravel-jar/design", "version": {VERSION + 1}}}',
            f"version {VERSION + 1}; this program reads up to version {VERSION}",
        ),
        ('{"format": "gravel-jar/design", "goal": {"hours": -1}}', "/goal/hours must be more"),
        ('{"format": "gravel-jar/design", "colour": 1}', "/colour is not a known field"),
    ],
)
def test_a_bad_file_is_refused_with_the_place(
    page: Page, tmp_path: Path, text: str, said: str
) -> None:
    file = tmp_path / "bad.json"
    file.write_text(text)
    page.visit("").find("[data-part=designs], [data-part=no-designs]")
    before = page.count("[data-design]")
    page.find("input[type=file]").send_keys(str(file))
    page.says("[role=alert]", "bad.json was not imported")
    page.until(lambda: said in page.text("[role=alert]").replace("\n", " "), said)
    assert page.count("[data-design]") == before


DROP = """
const data = new DataTransfer();
data.items.add(new File([arguments[1]], arguments[0], { type: "application/json" }));
const drop = new DragEvent("drop", { dataTransfer: data, bubbles: true, cancelable: true });
document.querySelector("main").dispatchEvent(drop);
"""


def test_a_design_is_handed_on_with_its_parts_and_dropped_anywhere(
    page: Page, server: Server, tmp_path: Path
) -> None:
    page.open(server.demo("puppet-van"))
    page.sees("#quick-entry")
    first = page.id
    page.driver.execute_cdp_cmd(
        "Browser.setDownloadBehavior", {"behavior": "allow", "downloadPath": str(tmp_path)}
    )
    page.menu("Export with parts, no prices")
    made = page.until(lambda: list(tmp_path.glob("*.json")), "the file")[0]
    assert made.name == "puppet-van-winter-tour-with-parts.json"
    file = page.until(lambda: json.loads(made.read_text() or "null"), "all of it")
    assert all(one["part"]["price"] is None for one in file["shelf"])
    file["design"]["name"] = "From a friend"
    strange = uuid4()
    file["shelf"].append({"id": str(strange), "part": file["shelf"][0]["part"]})
    page.driver.execute_script(DROP, "bad.json", '{"format": "gravel-jar/design", "colour": 1}')
    page.says("body", "bad.json was not imported")
    page.driver.execute_script(DROP, "friend.json", json.dumps(file))
    page.says("body", "1 part is new on the shelf.")
    page.holds("Name of the design", "From a friend")
    assert f"/d/{first}/" not in page.driver.current_url
    # The other one is as it was.
    assert server.kept(first)["document"]["name"] == server.demo("puppet-van")["name"]


@pytest.mark.parametrize(
    ("path", "said"),
    [
        ("d/00000000-0000-0000-0000-000000000000/plan", "does not exist"),
        ("d/nonsense/plan", "cannot be opened"),
    ],
)
def test_a_design_that_is_not_there_says_so(page: Page, path: str, said: str) -> None:
    page.visit(path)
    page.says("[role=alert]", said)
    page.click("All designs")
    page.sees("[data-design]")

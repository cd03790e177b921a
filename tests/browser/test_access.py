"""For everybody: axe-core, dark, narrow, keys, and no request to anywhere else."""

import json
from typing import Any

import pytest
from selenium.webdriver.common.keys import Keys

from tests.browser.page import Page, Server

OTHERS = (
    ("d/{}/run", "[data-pane=charge]"),
    ("d/{}/cables", "[data-part=cables]"),
    ("d/{}/options", "[data-option=size]"),
    ("method", "main.method"),
    ("shelf", "[data-shelf]"),
)


TABS = {
    "sides": "[data-part=sides]",
    "levers": "[data-part=levers]",
    "sweeps": "[data-option=sweeps] svg",
}

PANEL = "[data-panel][data-state=active]"
DIALOG = "[role=dialog]"


def dialog(page: Page, rules: tuple[str, ...], there: str = DIALOG) -> None:
    """Look at a dialog, and close it."""
    page.find(there)
    assert page.violations(*rules, within=DIALOG) == [], there
    page.press(Keys.ESCAPE)
    page.until(lambda: not page.all(DIALOG), "closed")


@pytest.mark.parametrize("width", [1280, 360])
@pytest.mark.parametrize(
    ("scheme", "rules"),
    # Light and dark differ in their colours alone.
    [("light", ()), ("dark", ("color-contrast",))],
    ids=["light", "dark"],
)
def test_axe_finds_nothing(
    page: Page, server: Server, scheme: str, rules: tuple[str, ...], width: int
) -> None:
    page.prefer(scheme)
    page.resize(width, 800)
    page.visit("")
    page.find("[data-design]")
    assert page.violations(*rules) == []
    page.open(server.demo("puppet-van"))
    page.find('tr[data-load="amplifier"] button[aria-label$="more"]').send_keys(Keys.ENTER)
    assert page.driver.execute_script("return document.documentElement.dataset.theme") == scheme
    for key in "12345":
        page.panel(key)
        page.find(f"{PANEL} input, {PANEL} figure, {PANEL} table")
        assert page.violations(*rules, within="body" if key == "1" else PANEL) == [], key
    page.panel("a")
    page.says("[data-dialog=add]", "Loads that move there")
    dialog(page, rules)
    page.find('.drawing [data-thing="inverter"]').send_keys(Keys.DELETE)
    page.says("[data-dialog=remove]", "not connected yet")
    dialog(page, rules)
    page.find('.drawing [data-thing="inverter"]').send_keys(Keys.ENTER)
    page.button("From the shelf").send_keys(Keys.ENTER)
    dialog(page, rules, "[data-part-name]")
    page.panel("?")
    dialog(page, rules)
    page.labelled("This design: duplicate, history, export, delete").send_keys(Keys.ENTER)
    page.button("History").send_keys(Keys.ENTER)
    page.find("[data-revision]").click()
    dialog(page, rules, "[data-part=version]")
    for path, there in OTHERS:
        page.visit(path.format(page.id))
        page.find(there)
        if there == "[data-part=cables]":
            page.find('[data-more="bank"]').send_keys(Keys.ENTER)
            page.find('[data-details="bank"]')
        assert page.violations(*rules) == [], path
    for kind in ("inverter", "station"):
        page.button(f"+ {kind}").send_keys(Keys.ENTER)
        dialog(page, rules, "[data-dialog=part]")
    for tab, there in TABS.items():
        page.visit(f"d/{page.id}/options?tab={tab}")
        page.find(there)
        assert page.violations(*rules, within="main") == [], tab
    page.open(server.demo("ticket-booth"))
    page.find('.drawing [data-thing="lead"]')
    for key in "267":
        page.panel(key)
        page.find(f"{PANEL} input, {PANEL} select")
        assert page.violations(*rules, within=PANEL) == [], f"booth, panel {key}"
    page.find("[data-route=bigger]")
    assert page.violations(*rules) == []
    page.panel("2")
    for button, name in (("+ Battery bank", "store"), ("Connect power", "lead")):
        page.button(button).send_keys(Keys.ENTER)
        dialog(page, rules, f"[data-dialog={name}]")


@pytest.mark.parametrize("width", [360, 768, 1600])
def test_the_page_never_scrolls_sideways(page: Page, server: Server, width: int) -> None:
    page.resize(width, 780)
    page.open(server.demo("puppet-van"))
    for key in "12345":
        page.panel(key)
        page.find("[data-panel][data-state=active]")
        wide = page.driver.execute_script("return document.documentElement.scrollWidth")
        assert wide <= width, f"panel {key}"
    for path, there in OTHERS:
        page.visit(path.format(page.id))
        page.find(there)
        assert page.driver.execute_script("return document.documentElement.scrollWidth") <= width
    page.visit(f"d/{page.id}/plan")
    shown = page.find("[href='#verdict']" if width < 1024 else "[data-part=hours]")
    assert shown.is_displayed(), "the verdict is in sight"
    assert "8 h 30 min" in shown.text
    page.open(server.demo("ticket-booth"))
    for key in "267":
        page.panel(key)
        page.find("[data-panel][data-state=active]")
        wide = page.driver.execute_script("return document.documentElement.scrollWidth")
        assert wide <= width, f"booth, panel {key}"


def test_keys_are_listed_and_focus_comes_back(page: Page) -> None:
    page.open()
    page.panel("?")
    page.says("[role=dialog]", "to quick entry")
    page.press(Keys.ESCAPE)
    page.until(lambda: not page.all("[role=dialog]"), "closed")
    page.labelled("Keys").send_keys(Keys.ENTER)
    page.find("[role=dialog]")
    page.press(Keys.ESCAPE)
    page.until(lambda: page.driver.switch_to.active_element == page.labelled("Keys"), "focus")


def test_settings_are_kept_in_the_browser_and_change_no_design(page: Page, server: Server) -> None:
    page.open(server.demo("puppet-van"))
    before = page.saved()
    page.button("Settings").click()
    page.choose("Temperature unit", "°F")
    page.choose("Theme", "dark")
    page.press(Keys.ESCAPE)
    page.says("header", "46 °F")
    page.panel("2")
    assert page.labelled("Ambient temperature").get_attribute("value") == "46"
    page.driver.refresh()
    page.says("header", "46 °F")
    assert page.driver.execute_script("return document.documentElement.dataset.theme") == "dark"
    assert page.saved() == before
    page.driver.execute_script("localStorage.clear()")


@pytest.mark.parametrize("path", ["", "api/docs"])
def test_nothing_is_asked_of_anywhere_else(page: Page, path: str) -> None:
    page.driver.get(page.server.address + path)
    page.until(lambda: "Gravel Jar" in page.find("body").text, "the page")
    names: list[Any] = json.loads(
        page.driver.execute_script(
            "return JSON.stringify(performance.getEntriesByType('resource').map((x) => x.name))"
        )
    )
    assert len(names) > 2
    assert [name for name in names if not name.startswith(page.server.address)] == []

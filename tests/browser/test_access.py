"""For everybody: axe-core, dark, narrow, keys, and no request to anywhere else."""

import json
from collections.abc import Callable, Iterator
from typing import Any

import pytest
from selenium.webdriver.common.keys import Keys

from tests.browser.page import Page, Server

OTHERS = (
    ("d/{}/run", "[data-pane=charge]"),
    ("d/{}/cables", "[data-part=cables]"),
    ("d/{}/options", "[data-option=size]"),
    ("d/{}/bench", "[data-part=reading-form]"),
    ("d/{}/sheet", "[data-part=sheet-card]"),
    ("method", "main.method"),
    ("shelf", "[data-shelf]"),
)


TABS = {
    "Side by side": "[data-part=sides]",
    "What buys the most hours": "[data-part=levers]",
    "Hours against one thing": "[data-option=sweeps] svg",
}

PANEL = "[data-panel][data-state=active]"
DIALOG = "[role=dialog]"


def _plan(page: Page, server: Server) -> Iterator[tuple[str, str]]:
    page.visit("")
    page.sees("[data-design]")
    yield "home", "body"
    page.open(server.demo("puppet-van"))
    page.find('tr[data-load="amplifier"] button[aria-label$="more"]').send_keys(Keys.ENTER)
    for key in "12345":
        page.panel(key)
        page.sees(f"{PANEL} input, {PANEL} table")
        yield f"panel {key}", "body" if key == "1" else PANEL


def _dialogs(page: Page, server: Server) -> Iterator[tuple[str, str]]:
    page.open(server.demo("puppet-van"))
    opened: list[tuple[str, Callable[[], None], str]] = [
        ("add", lambda: page.panel("a"), "[data-dialog=add] fieldset"),
        ("remove", lambda: thing.send_keys(Keys.DELETE), "[data-dialog=remove]"),
        ("keys", lambda: page.panel("?"), "[data-dialog=keys]"),
        ("history", lambda: page.menu("History"), "[data-revision]"),
        ("part", lambda: page.button("From the shelf").send_keys(Keys.ENTER), "[data-part-name]"),
    ]
    for name, open_it, there in opened:
        thing = page.find('.drawing [data-thing="inverter"]')
        if name == "part":
            thing.send_keys(Keys.ENTER)
        open_it()
        page.sees(there)
        if name == "history":
            page.find("[data-revision]").click()
            page.sees("[data-part=version]")
        yield name, DIALOG
        page.press(Keys.ESCAPE)
        page.until(lambda: not page.count(DIALOG), "closed")


def _views(page: Page, server: Server) -> Iterator[tuple[str, str]]:
    page.open(server.demo("puppet-van"))
    for path, there in OTHERS:
        if path.startswith("d/"):
            page.go(path.removeprefix("d/{}/"))
        else:
            page.visit(path)
        page.sees(there)
        if there == "[data-part=cables]":
            page.find('[data-more="bank"]').send_keys(Keys.ENTER)
            page.sees('[data-details="bank"]')
        yield path, "body"
    for kind in ("inverter", "station"):
        page.button(f"+ {kind}").send_keys(Keys.ENTER)
        page.sees("[data-dialog=part]")
        yield kind, DIALOG
        page.press(Keys.ESCAPE)
    page.visit(f"d/{page.id}/options")
    for tab, there in TABS.items():
        page.click(tab)
        page.sees(there)
        yield tab, "main"


def _station(page: Page, server: Server) -> Iterator[tuple[str, str]]:
    page.open(server.demo("ticket-booth"))
    page.sees('.drawing [data-thing="lead"]')
    for key in "267":
        page.panel(key)
        page.sees(f"{PANEL} input, {PANEL} select")
        yield f"panel {key}", "body" if key == "7" else PANEL
    page.panel("2")
    for button, name in (("+ Battery bank", "store"), ("Connect power", "lead")):
        page.button(button).send_keys(Keys.ENTER)
        page.sees(f"[data-dialog={name}]")
        yield name, DIALOG
        page.press(Keys.ESCAPE)


@pytest.mark.parametrize("states", [_plan, _dialogs, _views, _station])
def test_axe_finds_nothing_and_nothing_scrolls_sideways_wide_or_narrow_light_or_dark(
    page: Page, server: Server, states: Callable[[Page, Server], Iterator[tuple[str, str]]]
) -> None:
    """Every view, tab and dialog, moderate findings included."""
    # Style sheets, which one rule reads that asks for no turning of a phone, are read once a state.
    again: dict[str, Any] = {"preload": False}
    looks: tuple[tuple[int, str, dict[str, Any]], ...] = (
        # Colours are the same at any width, and themes differ in nothing else.
        (360, "light", again | {"rules": {"color-contrast": {"enabled": False}}}),
        (1280, "dark", again | {"runOnly": ["color-contrast"]}),
        (1280, "light", {}),
    )
    for name, within in states(page, server):
        for width, scheme, options in looks:
            # A view has all colours that its panels and dialogs have.
            if scheme == "dark" and within != "body":
                continue
            page.resize(width, 800)
            page.prefer(scheme)
            page.sees(f"html[data-theme={scheme}]")
            assert _wide(page) <= width, f"{name}, {width} px"
            # What is narrow by itself is the same on a narrow screen.
            if width == 360 and within != "body":
                continue
            assert page.violations(options, within) == [], f"{name}, {width} px, {scheme}"


def _wide(page: Page) -> int:
    return int(page.driver.execute_script("return document.documentElement.scrollWidth"))


@pytest.mark.parametrize("width", [360, 1600])
def test_the_verdict_is_in_sight(page: Page, server: Server, width: int) -> None:
    page.resize(width, 780)
    page.open(server.demo("puppet-van", alone=True))
    shown = page.find("[href='#verdict']" if width < 1024 else "[data-part=hours]")
    assert shown.is_displayed()
    page.until(lambda: "8 h 30 min" in page.read(shown), "how long it lasts")
    assert _wide(page) <= width


def test_keys_are_listed_and_focus_comes_back(page: Page) -> None:
    page.open()
    page.panel("?")
    page.says("[role=dialog]", "to quick entry")
    page.press(Keys.ESCAPE)
    page.until(lambda: not page.count("[role=dialog]"), "closed")
    page.labelled("Keys").send_keys(Keys.ENTER)
    page.sees("[role=dialog]")
    page.press(Keys.ESCAPE)
    page.until(lambda: page.driver.switch_to.active_element == page.labelled("Keys"), "focus")


def test_settings_are_kept_in_the_browser_and_change_no_design(page: Page, server: Server) -> None:
    page.open(server.demo("puppet-van", alone=True))
    before = page.saved()
    page.click("Settings")
    page.choose("Temperature unit", "°F")
    page.choose("Theme", "dark")
    page.press(Keys.ESCAPE)
    page.says("header", "46 °F")
    page.panel("2")
    assert page.labelled("Ambient temperature").get_property("value") == "46"
    page.driver.refresh()
    page.says("header", "46 °F")
    assert page.driver.execute_script("return document.documentElement.dataset.theme") == "dark"
    assert page.saved() == before
    page.driver.execute_script("localStorage.clear()")


@pytest.mark.parametrize("path", ["", "api/docs"])
def test_nothing_is_asked_of_anywhere_else(page: Page, path: str) -> None:
    page.driver.get(page.server.address + path)
    page.until(lambda: "Gravel Jar" in page.text("body"), "the page")
    names: list[Any] = json.loads(
        page.driver.execute_script(
            "return JSON.stringify(performance.getEntriesByType('resource').map((x) => x.name))"
        )
    )
    assert len(names) > 2
    assert [name for name in names if not name.startswith(page.server.address)] == []


# What moved without a person's doing, as the browser scores it: share of the screen x how far.
SHIFTS = """
window.shifts = [];
new PerformanceObserver((list) => {
  for (const x of list.getEntries()) {
    const moved = x.sources.map((s) => s.node?.nodeName + " " + s.node?.className);
    if (!x.hadRecentInput) window.shifts.push([x.value, moved]);
  }
}).observe({ type: "layout-shift", buffered: true });
"""


def test_nothing_moves_from_under_the_pointer_while_answers_come_in(
    page: Page, server: Server
) -> None:
    """Layout shift on a slow line: a click must hit what was there when one aimed."""
    commands = page.driver.execute_cdp_cmd
    page.open(server.demo("puppet-van"))
    script = commands("Page.addScriptToEvaluateOnNewDocument", {"source": SHIFTS})
    slow = {"offline": False, "downloadThroughput": -1, "uploadThroughput": -1}
    commands("Network.emulateNetworkConditions", slow | {"latency": 900})
    try:
        for path, there in (("", "[data-part=lasts]"), ("d/{}/plan", "#verdict"), *OTHERS):
            page.visit(path.format(page.id))
            page.sees(there)
            if path.startswith("d/"):
                page.sees("html[data-evaluation=fresh]")
            shifts = page.driver.execute_script("return window.shifts")
            # A line of text that pushes a page down scores 0.006.
            assert sum(score for score, _ in shifts) < 0.005, f"{path}: {shifts}"
        # Nor does a button move while a change is saved.
        page.visit(f"d/{page.id}/plan")
        page.sees("[data-saving=saved]")
        undo = "document.querySelector('header [title^=Undo]').getBoundingClientRect().x"
        stood = page.ask(undo)
        page.fill("Interval kettle: watts", "950")
        page.sees("[data-saving=waiting], [data-saving=running]")
        assert page.ask(undo) == stood
    finally:
        commands("Network.emulateNetworkConditions", slow | {"latency": 0})
        commands("Page.removeScriptToEvaluateOnNewDocument", script)

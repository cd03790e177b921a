"""The drawing as a thing to work with: keys, several stores, print; and the seldom fields."""

from typing import Any

from selenium.webdriver.common.keys import Keys

from tests.browser.page import Page, Server


def _selected(page: Page) -> str:
    return str(
        page.driver.execute_script("return document.activeElement.getAttribute('data-thing')")
    )


def test_arrow_keys_follow_the_current_and_keys_act_on_what_is_selected(
    page: Page, server: Server
) -> None:
    """Right to what a thing feeds, left to what feeds it, up and down in the order of the eye."""
    document = server.demo("puppet-van", alone=True)
    page.open(document)
    page.tab_to('.drawing [data-thing][tabindex="0"]')
    assert _selected(page) == "bank"
    for key, leads_to in (
        (Keys.ARROW_RIGHT, "inverter"),
        (Keys.ARROW_RIGHT, "interval-kettle"),
        (Keys.ARROW_DOWN, "haze-machine"),
        (Keys.ARROW_LEFT, "inverter"),
        (Keys.ARROW_LEFT, "bank"),
        (Keys.ARROW_LEFT, "bank"),
        (Keys.END, "microphone-receivers"),
        (Keys.ARROW_RIGHT, "microphone-receivers"),
        (Keys.ARROW_LEFT, "roof-feed"),
        (Keys.ARROW_UP, "stage-bars"),
        (Keys.HOME, "bank"),
        (Keys.ARROW_UP, "bank"),
    ):
        page.press(key)
        page.until(lambda to=leads_to: _selected(page) == to, leads_to)  # type: ignore[misc]
    # One thing at a time can be reached with Tab.
    assert page.count('.drawing [data-thing][tabindex="0"]') == 1
    page.press(Keys.END, Keys.ARROW_UP)
    page.until(lambda: _selected(page) == "roof-fan", "the fan")
    page.press("r")
    page.until(lambda: page.saved()["loads"][5]["rail"] == "regulator", "a regulator before it")
    page.says("body", "Put a regulator before Roof fan. Roof fan on the 13.5 V rail: fits")
    page.click("Undo")
    page.until(lambda: page.saved() == document, "as before")
    page.find('.drawing [data-thing="amplifier"]').send_keys(Keys.DELETE)
    page.until(lambda: len(page.saved()["loads"]) == 6, "one load less")
    page.undo()
    page.until(lambda: page.saved() == document, "as before")


def test_a_click_opens_the_thing_and_the_panel_follows(page: Page, server: Server) -> None:
    page.open(server.demo("puppet-van", alone=True))
    for thing, field in (
        ("bank", "Battery volts"),
        ("stage-rail", "Boost 24 V 10 A: volts out"),
        ("inverter", "Inverter nominal volts"),
        ("roof-feed", "Feed: cable"),
        ("lighting-laptop", "Lighting laptop: power factor"),
    ):
        page.driver.execute_script(
            "arguments[0].dispatchEvent(new MouseEvent('click', {bubbles: true}))",
            page.find(f'.drawing [data-thing="{thing}"]'),
        )
        page.labelled(field)
        assert page.drawn(f'[data-thing="{thing}"]', "aria-pressed") == "true"
    page.panel("3")
    page.find('[data-pick="roof-feed"]').click()
    page.fill("Feed: cable", "40")
    page.until(lambda: page.saved()["stages"][2]["cable_mohm"] == 40, "the feed's cable")
    page.find('[data-pick="inverter"]').click()
    page.fill("Inverter cut-out volts", "12.5")
    page.until(
        lambda: "12.5 V to 15 V" in page.drawn('[data-thing="inverter"]', "aria-description"),
        "the strip's words",
    )


def test_each_bank_of_several_is_drawn_and_edited_by_itself(page: Page, server: Server) -> None:
    document = server.demo("puppet-van", alone=True)
    bank = document["stores"][0]
    document["stores"].append(bank | {"id": "spare", "name": "Spare bank", "parallel": 1})
    document["loads"][6]["rail"] = "spare"
    page.open(document)
    assert page.drawn('[data-rail="spare"]', "data-volts").startswith("13")
    page.find('.drawing [data-thing="spare"]').send_keys(Keys.ENTER)
    page.holds("Strings in parallel", "1")
    page.fill("Strings in parallel", "4")
    page.says('[data-panel=bank] [data-figure="store.spare.wh"]', "7680 Wh")
    page.until(lambda: [x["parallel"] for x in page.saved()["stores"]] == [2, 4], "its own")
    page.find('.drawing [data-thing="bank"]').send_keys(Keys.ENTER)
    page.holds("Strings in parallel", "2")
    page.go("run")
    page.choose("Volts of", "Spare bank")
    page.says("[data-pane=volts]", "Spare bank")
    page.until(lambda: not page.count("[data-cut*='Roof fan']"), "its own lines")


def test_what_is_seldom_on_a_label_can_be_said(page: Page, server: Server) -> None:
    page.open(server.demo("puppet-van", alone=True))
    page.panel("2")
    page.find("[data-panel=bank] details summary").click()
    seldom = {
        "BMS peak current": ("bms_peak_a", "280", 280),
        "Protection opens at": ("low_v", "10,4", 10.4),
        "Cells in series": ("cells", "4", 4),
        "Inner resistance": ("resistance_mohm", "3.2", 3.2),
        "Peukert exponent": ("peukert", "1.02", 1.02),
    }
    for name, (_, text, _) in seldom.items():
        page.fill(name, text)
    page.find("[data-panel=bank] label input[type=checkbox]").click()
    page.fill("Temperature at 3 h", "-4")
    page.until(
        lambda: (page.saved()["setting"]["ambient_by_hour"] or [0] * 4)[3] == -4, "the night's cold"
    )
    kept = page.saved()
    battery = kept["stores"][0]["battery"]
    assert {key: battery[key] for key, _, _ in seldom.values()} == {
        key: value for key, _, value in seldom.values()
    }
    assert kept["setting"]["ambient_by_hour"][4] == 8
    page.finds("bank.lithium_in_frost")
    page.panel("1")
    page.labelled("Amplifier: more").click()
    page.choose("Amplifier: draws", "as a resistor")
    page.fill("Amplifier: cable", "15")
    page.until(lambda: page.saved()["loads"][3]["cable_mohm"] == 15, "the cable")
    assert page.saved()["loads"][3]["draw"] == "resistive"
    # Mains appliances have mains rails to choose from, and none.
    assert "24 V" not in page.read(page.labelled("Amplifier: rail"))
    page.choose("Amplifier: rail", "not connected yet")
    page.until(lambda: page.saved()["loads"][3]["rail"] is None, "off its rail")
    page.says(".drawing", "not connected yet")


def test_the_plan_prints_as_the_drawing_the_loads_and_the_verdict(
    page: Page, server: Server
) -> None:
    page.open(server.demo("puppet-van", alone=True))
    page.driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"media": "print"})
    page.resize(760, 1000)
    seen: Any = page.driver.execute_script(
        "const shown = (css) => document.querySelector(css)?.getClientRects().length > 0;"
        "const svg = document.querySelector('.drawing > svg').getBoundingClientRect();"
        "return [shown('header'), shown('#quick-entry'), shown('[role=tablist]'),"
        " shown('tr[data-load]'), shown('[data-part=hours]'), shown('main h1'), svg.width]"
    )
    assert seen[:6] == [False, False, False, True, True, True]
    assert seen[6] <= 760
    page.driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"media": ""})


def test_views_say_when_the_server_is_away_and_go_on_after(page: Page, server: Server) -> None:
    delete = "Delete AGM 12 V 100 Ah"
    page.open(server.demo("puppet-van", alone=True))
    page.go("run")
    page.sees("[data-pane=charge]")
    run = page.driver.current_window_handle
    page.driver.switch_to.new_window("tab")
    page.visit("shelf")
    page.sees("[data-shelf]")
    shelf = page.driver.current_window_handle
    server.stop()
    try:
        page.labelled(delete).click()
        page.says("body", "Not done: The server does not answer")
        page.driver.switch_to.window(run)
        page.choose("Show", "3 d")
        page.says("[data-answer=stale] [role=alert]", "The server does not answer")
    finally:
        server.start()
    page.sees("[data-answer=fresh] [data-pane=charge]")
    page.driver.switch_to.window(shelf)
    page.labelled(delete).click()
    page.says("body", "AGM 12 V 100 Ah is off the shelf. Designs keep their copies.")
    page.click("Undo")
    page.sees('[data-shelf="AGM 12 V 100 Ah"]')

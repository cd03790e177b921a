"""A person grows a station: finds what is wrong with it, compares the ways, takes one."""

from selenium.webdriver.common.keys import Keys

from tests.browser.page import Page, Server


def _thing(page: Page, name: str) -> str:
    return page.drawn(f'[data-thing="{name}"]', "aria-description")


def test_the_booths_two_mistakes_are_found_and_mended(page: Page, server: Server) -> None:
    """36 V into an input of 28 V; then a lead that keeps it in its car mode."""
    page.open(server.demo("ticket-booth"))
    page.finds("link.above_maximum")
    assert page.drawn('[data-thing="lead"]', "data-severity") == "stop"
    assert "36 V" in _thing(page, "lead")
    page.says("[data-part=hours]", "8 h 4")
    page.find('[data-fix="Use a converter of 24 V in its place."]:enabled').click()
    page.clears("link.above_maximum")
    page.finds("link.wrong_mode")
    # Common practice: 24 V x 8 A = 192 W; the lead loses a little of it.
    page.says('.drawing [data-thing="lead"]', "Car: 19")
    page.find('[data-fix="Switch it to Solar mode."]:enabled').click()
    page.clears("link.wrong_mode")
    page.says('.drawing [data-thing="lead"]', "Solar: 23")
    page.says("[data-part=hours]", "1 day")
    page.undo()
    page.finds("link.wrong_mode")


def test_a_lead_says_what_holds_it_and_every_figure_opens(page: Page, server: Server) -> None:
    document = server.demo("ticket-booth")
    document["stages"][0]["set_v"] = 24.0
    page.open(document)
    page.find('.drawing [data-thing="lead"]').click()
    page.says("[data-part=binds]", "limited by its mode")
    page.says("[data-binds=true]", "Car mode")
    page.choose("Link: mode", "Solar")
    page.says("[data-part=binds]", "limited by the converter")
    page.find('[data-figure="link.lead.combined"]').click()
    page.says("[data-working]", "×")
    page.press(Keys.ESCAPE)
    page.fill("Link: fuse", "5")
    page.says("[data-part=binds]", "limited by a fuse")
    page.finds("link.source_current")
    page.fill("Link: plugged in", "20-6")
    page.press(Keys.TAB)
    assert page.saved()["links"][0]["times"]["windows"] == [{"from_h": 20.0, "to_h": 6.0}]


def test_a_link_is_fed_from_panels_with_the_charger_that_they_need(
    page: Page, server: Server
) -> None:
    page.open(server.demo("puppet-van"))
    page.find('.drawing [data-thing="engine-charger"]').click()
    page.choose("Link: fed from", "Roof panels")
    page.holds("Charger: kind", "MPPT controller")
    page.says("body", "Feed Engine charger from Roof panels.")
    # Of chargers those that panels can feed.
    page.sees("[aria-label='Charger: kind']:not(:has([value=alternator]))")
    kinds = page.attributes("[aria-label='Charger: kind'] option", "value")
    assert kinds == ["MPPT controller", "PWM controller"]
    # What it charges and what hangs on that are not offered.
    assert not {"bank", "stage-rail"} & set(
        page.attributes("[aria-label='Link: fed from'] option", "value")
    )
    page.undo()
    page.holds("Charger: kind", "DC-DC charger")
    page.holds("Link: fed from", "van-engine")


def test_ways_are_compared_sorted_and_one_becomes_the_design(page: Page, server: Server) -> None:
    page.open(server.demo("ticket-booth"))
    page.panel("7")
    page.sees("[data-route=bigger]")
    page.fill("Maker's module energy", "512")
    page.fill("Maker's module price", "400")
    page.sees("[data-route=module]")
    ways = [row.get_dom_attribute("data-route") for row in page.all("[data-route]")]
    assert ways == ["present", "straight", "boost", "matched", "series", "module", "bigger"]
    assert page.find("[data-route=series]").get_dom_attribute("data-fits") == "false"
    page.find('[data-route=module] [data-figure="route.price_a_wh"]').click()
    # 400 for 512 Wh of which 95 % come out, colder than 25 °C.
    page.says("[data-working]", "400")
    page.press(Keys.ESCAPE)
    page.choose("Sort routes", "cheapest for a Wh")
    # What is at hand costs nothing a Wh: the boost's 75 come first of what is to be bought.
    page.until(
        lambda: page.all("[data-route]")[0].get_dom_attribute("data-route") == "boost", "sorted"
    )
    page.click("Use")
    page.clears("link.above_maximum")
    page.says(".drawing", "Boost 24 V 15 A")
    after = page.saved()
    assert [link["mode"] for link in after["links"]] == ["Solar"]
    assert len(after["stages"]) == 1
    page.undo()
    page.finds("link.above_maximum")


def test_a_station_from_the_shelf_is_grown_by_keyboard(page: Page) -> None:
    """From an empty design: a station, a load on its port, a lead from the bank."""
    page.open()
    page.sees("#quick-entry")
    page.panel("2")
    page.button("+ Battery bank").send_keys(Keys.ENTER)
    page.sees("[data-dialog=store]")
    page.choose("Part of the shelf", "Station 1024 Wh")
    page.until(lambda: page.find("[data-dialog=store] [type=submit]").is_enabled(), "built")
    page.find("[data-dialog=store] [type=submit]").send_keys(Keys.ENTER)
    page.says('.drawing [data-thing="station"]', "1020 Wh")
    page.panel("/")
    page.add("card reader 12V 8W 10h must")
    page.find('.drawing [data-thing="station"]').send_keys(Keys.ENTER)
    page.button("Connect power").send_keys(Keys.ENTER)
    page.says("[data-dialog=lead] [data-part=says]", "limited by")
    page.find("[data-dialog=lead] [type=submit]").send_keys(Keys.ENTER)
    page.says("[data-panel=leads]", "Power at the input")
    kept = page.saved()
    assert kept["links"][0]["rail"] == "bank"
    page.undo()
    page.until(lambda: page.saved()["links"] == [], "undone")


def test_a_stations_parts_are_typed_from_its_label(page: Page, server: Server) -> None:
    document = server.demo("ticket-booth")
    document["setting"]["ac_volts"] = 120.0
    page.open(document)
    page.find('.drawing [data-thing="booth-station"]').send_keys(Keys.ENTER)
    page.fill("Station: measured energy", "450")
    # 450 Wh came out of 95 %: the cells hold 474 Wh.
    page.says('[data-figure="store.booth-station.wh"]', "474 Wh")
    page.fill("Station: DC input: most volts", "40")
    page.clears("link.above_maximum")
    page.fill("Station: DC input: most volts", "5")
    page.says("[data-standing=stale]", "must have its least volts below its most volts")
    page.fill("Station: DC input: most volts", "40")
    page.until(lambda: not page.count("[data-standing=stale]"), "taken")
    page.click("+ USB-C, 60 W")
    page.until(lambda: page.count("[data-outlet]") == 4, "an outlet more")
    port = page.saved()["stores"][0]["outlets"][3]
    assert (port["volts"], port["amps"], port["plug"]) == (20, 3, "USB")
    # New sockets give the volts of the mains there.
    page.click("+ Mains sockets")
    page.until(lambda: page.count("[data-outlet]") == 5, "sockets more")
    assert page.saved()["stores"][0]["outlets"][4]["volts"] == 120


def test_a_vehicle_and_its_times(page: Page) -> None:
    page.open()
    page.panel("2")
    page.click("+ Battery bank")
    page.choose("Kind of store", "a vehicle")
    page.until(lambda: page.find("[data-dialog=store] [type=submit]").is_enabled(), "built")
    page.find("[data-dialog=store] [type=submit]").click()
    page.sees('.drawing [data-thing="vehicle"]')
    page.fill("Vehicle: engine runs", "7:30-9, 17-18:30")
    page.press(Keys.TAB)
    page.choose("Vehicle: alternator", "constant voltage")
    page.choose("Vehicle: engine signal", "nothing")
    kept = page.saved()["stores"][1]
    assert (kept["signal"], kept["alternator"]) == ("none", "fixed")
    assert [span["from_h"] for span in kept["runs"]["windows"]] == [7.5, 17.0]
    page.click("Remove Vehicle")
    page.until(lambda: len(page.saved()["stores"]) == 1, "removed")


def test_the_station_is_on_the_run_with_what_happens(page: Page, server: Server) -> None:
    document = server.demo("ticket-booth")
    document["stages"][0]["set_v"] = 24.0
    document["stores"][0]["starts_at"] = 0.4
    page.id = server.keep(document)
    page.go("run")
    page.sees("[data-pane=charge]")
    page.says("main", "Booth station is full.")
    page.says("main", "The van's old battery reaches its reserve")
    page.says("main", "Cable to the DC input, c")


def test_the_drawing_leads_through_a_station_by_keys_and_in_words(
    page: Page, server: Server
) -> None:
    page.open(server.demo("ticket-booth"))
    page.find('.drawing [data-thing="boost"]').click()
    page.until(lambda: page.focused("[data-panel=stages] *"), "the panel's first field")
    page.driver.execute_script("document.querySelector('.drawing [data-thing=\"boost\"]').focus()")
    # To what it feeds: the lead, the station, its first outlet, what hangs there; and back.
    for key, at in (
        (Keys.ARROW_RIGHT, "lead"), (Keys.ARROW_RIGHT, "booth-station"),
        (Keys.ARROW_RIGHT, "booth-ac"), (Keys.ARROW_RIGHT, "hand-warmer"),
        (Keys.ARROW_LEFT, "booth-ac"), (Keys.ARROW_LEFT, "booth-station"),
        (Keys.ARROW_LEFT, "lead"), (Keys.ARROW_LEFT, "boost"),
    ):  # fmt: skip
        page.press(key)
        page.until(lambda at=at: page.focused(f'[data-thing="{at}"]'), at)  # type: ignore[misc]
    page.find("[data-part=words] summary").click()
    page.says("[data-part=words]", "Cable to the DC input, to Booth station: too many volts.")
    page.says("[data-part=words]", "AC sockets")
    page.find('.drawing [data-thing="booth-usb"]').send_keys(Keys.ENTER)
    page.sees('[data-panel=bank] [data-outlet="booth-usb"]')


def test_keys_lead_power_in_and_take_a_lead_away(page: Page, server: Server) -> None:
    page.open(server.demo("ticket-booth"))
    page.find('.drawing [data-thing="lead"]').click()
    page.panel(Keys.DELETE)
    page.until(lambda: page.saved()["links"] == [], "gone")
    page.clears("link.above_maximum")
    page.panel("l")
    page.says("[data-dialog=lead] [data-part=says]", "above its maximum")
    page.choose("Fed from", "The van's old battery")
    page.says("[data-dialog=lead] [data-part=says]", "limited by Solar mode, 15 A")
    page.find("[data-dialog=lead] [type=submit]").click()
    page.until(lambda: page.saved()["links"], "led in")
    assert page.saved()["links"][0]["rail"] == "old-battery"


def test_a_station_is_taken_from_the_shelf_and_its_loads_stay(page: Page, server: Server) -> None:
    page.open(server.demo("ticket-booth"))
    page.find('.drawing [data-thing="booth-station"]').send_keys(Keys.ENTER)
    page.click("From the shelf")
    page.find('[data-part-name="Station 1024 Wh, 60 V input"]').click()
    page.says('.drawing [data-thing="booth-station"]', "1020 Wh")
    kept = page.saved()
    outlets = {outlet["id"] for outlet in kept["stores"][0]["outlets"]}
    assert {load["rail"] for load in kept["loads"]} <= outlets
    page.says("[data-part=shelf-copy]", "a copy of Station 1024 Wh")

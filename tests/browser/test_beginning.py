"""From nothing to a first answer: what somebody has, what must run, in a few entries."""

import re
from collections.abc import Callable

import pytest
from selenium.webdriver.common.keys import Keys

from tests.browser.page import Page


class Entries:
    """What a person enters, counted: a click, a choice, a field or a line each."""

    def __init__(self, page: Page) -> None:
        self.page, self.count = page, 0

    def begin(self, kind: str) -> None:
        """Choose what one has."""
        self.count += 1
        self.page.visit("").find(f"[data-begin={kind}]").click()
        self.page.find("[data-dialog=begin]")

    def fill(self, label: str, text: str) -> None:
        """Fill a field."""
        self.count += 1
        self.page.fill(label, text)

    def choose(self, label: str, text: str) -> None:
        """Choose from a list."""
        self.count += 1
        self.page.choose(label, text)

    def start(self) -> None:
        """Begin the design."""
        self.count += 1
        self.page.click("Start")
        self.page.find("#quick-entry")
        self.page.id = self.page.driver.current_url.split("/d/")[1].split("/")[0]

    def load(self, line: str, *keys: str) -> None:
        """A load by a line, added with a key."""
        self.count += 1
        before = len(self.page.saved()["loads"])
        field = self.page.find("#quick-entry")
        field.send_keys(line)
        self.page.says("#quick-reading", "reads as")
        if Keys.SHIFT in keys:
            self.page.find("[data-part=joined]")
        field.send_keys(*(keys or (Keys.ENTER,)))
        self.page.until(lambda: len(self.page.saved()["loads"]) == before + 1, line)


def hours(page: Page) -> float:
    """The verdict, in hours."""
    page.saved()
    page.until(lambda: page.find("[data-verdict]").get_attribute("data-stale") == "false", "fresh")

    def said() -> str:
        return page.find("[data-part=hours]").text

    page.until(lambda: re.search(r"\d", said()), "hours")
    found = {unit: float(n) for n, unit in re.findall(r"(\d+) (day|h|min)", said())}
    return 24 * found.get("day", 0.0) + found.get("h", 0.0) + found.get("min", 0.0) / 60


def settles(page: Page, wanted: float, within: float) -> None:
    """Wait until the verdict is what a hand sum says."""
    page.until(lambda: abs(hours(page) / wanted - 1) < within, f"{wanted:.1f} h")


def _fridge_on_a_battery(enter: Entries) -> None:
    """1 280 Wh x 0.9 over 60 W x 0.4 / 0.9 and some idle draw: 24 W and 3 to 5 W: some 41 h."""
    enter.begin("battery")
    enter.start()
    enter.load("fridge 230V 60W 24h 40%", Keys.SHIFT, Keys.ENTER)
    settles(enter.page, 1152 / (24.0 / 0.9 + 2.0), 0.12)
    assert enter.page.saved()["loads"][0]["rail"] == enter.page.saved()["stages"][0]["id"]


def _station_with_four_loads(enter: Entries) -> None:
    """1 000 Wh x 0.95 over 30 W and 20 W AC, 6 W and 6 W DC, 13 W idle: some 11 h."""
    enter.begin("station")
    enter.fill("Wh of the station", "1000")
    enter.start()
    for line in ("lamp 230V 30W 24h", "fan 230V 20W 24h", "radio 12V 6W 24h", "light 12V 6W 24h"):
        enter.load(line)
    settles(enter.page, 950 / (10.0 + 50 * 1.09 + 12 / 0.92 + 3.0), 0.1)


def _router_on_a_backup_box(enter: Entries) -> None:
    """40 Wh x 0.9 over 8 W / 0.92 + 0.5 W: 3.9 h: an outage of three is run through, nine not."""
    enter.begin("router")
    enter.fill("Wh of the box", "40")
    enter.start()
    page = enter.page
    page.visit(f"d/{page.id}/refill")
    page.says("[data-part=outage]", "Runs for 3 h")


def _fridge_in_a_120_volt_house(enter: Entries) -> None:
    """2 x 12.8 V 100 Ah, 2 304 Wh usable, over 150 W x 0.35 / 0.88 and 3 to 6 W: some 36 h."""
    enter.begin("battery")
    enter.page.find("[data-part=region]").click()
    enter.choose("Mains there", "120 V 60 Hz")
    enter.fill("In parallel", "2")
    enter.start()
    enter.load("fridge 120V 150W 24h 35%", Keys.SHIFT, Keys.ENTER)
    assert enter.page.saved()["setting"]["ac_hz"] == 60
    assert enter.page.saved()["stages"][0]["output_v"] == 120
    settles(enter.page, 2304 / (52.5 / 0.88 + 4.5), 0.12)
    enter.page.until(
        lambda: not [x for x in enter.page.findings() if x.startswith("load.")], "it fits"
    )
    # Asked once: the next design begins there too.
    enter.begin("station")
    enter.page.says("[data-part=region]", "120 V 60 Hz")
    enter.count -= 1
    enter.page.find("[data-part=region]").click()
    enter.page.choose("Mains there", "230 V 50 Hz")


@pytest.mark.parametrize(
    ("does", "most"),
    [
        (_fridge_on_a_battery, 8),
        (_station_with_four_loads, 10),
        (_router_on_a_backup_box, 6),
        (_fridge_in_a_120_volt_house, 8),
    ],
)
def test_a_beginning_takes_few_entries_and_ends_at_the_hand_sum(
    page: Page, does: Callable[[Entries], None], most: int
) -> None:
    enter = Entries(page)
    does(enter)
    assert enter.count <= most


@pytest.mark.parametrize("kind", ["nothing", "grown", "packs", "vehicle"])
def test_every_beginning_opens_a_design(page: Page, kind: str) -> None:
    enter = Entries(page)
    enter.begin(kind)
    enter.start()
    assert page.saved()["stores"]
    page.find("[data-verdict]")
    assert page.findings() & {"link.above_maximum", "bank.no_protection"} == set()


def test_designs_are_found_by_name_and_seen_at_a_glance(page: Page) -> None:
    page.visit("").find("[data-begin=example]").click()
    page.find("[data-example=ticket-booth]").click()
    page.find("#quick-entry")
    page.visit("")
    page.fill("Search designs", "booth market")
    cards = page.until(lambda: page.all("[data-design]"), "found")
    assert {x.get_attribute("data-design") for x in cards} == {"Ticket booth, market days"}
    page.says("[data-design]", "36 V arrive at Booth station")
    page.says("[data-design] [data-part=lasts]", "h")
    page.fill("Search designs", "no such thing")
    page.says("[data-part=no-designs]", "No design is called")
    page.button("Show all").click()
    page.until(lambda: len(page.all("[data-design]")) > 1, "all of them")
    page.choose("Order of the designs", "by name")
    names = [x.get_attribute("data-design") or "" for x in page.all("[data-design]")]
    assert names == sorted(names, key=str.lower)


def test_a_wrong_figure_is_refused_and_nothing_is_made(page: Page) -> None:
    page.visit("").find("[data-begin=packs]").click()
    page.fill("Ah of a pack", "2000")
    page.click("Start")
    page.says("[data-dialog=begin] [role=alert]", "Not made")
    assert page.driver.current_url.endswith("/")

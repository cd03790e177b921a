"""Takes one picture of each main view, from the demo data, at 1280 x 800 and as a phone."""

import sys
import tempfile
import time
from collections.abc import Callable
from functools import partial
from pathlib import Path

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT))

from selenium.webdriver.common.keys import Keys  # noqa: E402
from tests.browser.conftest import chrome  # noqa: E402
from tests.browser.page import Page, Server  # noqa: E402

FOLDER = ROOT / "docs/screenshots"


def take(page: Page, name: str) -> None:
    """Let it settle, then keep the picture."""
    time.sleep(0.8)
    page.driver.save_screenshot(str(FOLDER / f"{name}.png"))


def working(page: Page) -> None:
    """Open the working of the usable energy."""
    page.find('aside [data-figure="store.bank.usable"]').click()


def refill(page: Page) -> None:
    """The week, with what would balance it."""
    page.visit(f"d/{page.id}/refill")
    page.long_until(lambda: page.count("[data-balance]"), "what would balance it")


def run(page: Page) -> None:
    """Read the run where the first thing happens."""
    page.visit(f"d/{page.id}/run")
    page.find("[role=slider]").send_keys(Keys.SHIFT, Keys.ARROW_RIGHT)
    page.driver.execute_script("document.activeElement.blur()")


def cables(page: Page) -> None:
    """Every run, as it is."""
    page.visit(f"d/{page.id}/cables")
    page.find("[data-part=cables]")


def sheet(page: Page) -> None:
    """The build order of the sheet."""
    page.visit(f"d/{page.id}/sheet")
    page.find("[data-part=sheet-card]")
    step = "document.querySelectorAll('[data-part=sheet-build] li[data-step]')[4]"
    page.driver.execute_script(f"{step}.scrollIntoView({{block: 'center'}})")


def options(page: Page) -> None:
    """Whole systems from the shelf, the first of them opened."""
    page.visit(f"d/{page.id}/options")
    page.find("[data-option=size] button[class*=bg-river]").click()
    page.long_until(lambda: page.count("[data-part=done]"), "the end of the search")
    page.find("[data-found] button").click()


def sides(page: Page) -> None:
    """Two schools beside the design as it is."""
    page.visit(f"d/{page.id}/options")
    page.button("Side by side").click()
    for key in ("ac-for-all", "regulator"):
        page.find(f'[data-variant="{key}"]').click()
        page.find(f'[data-side="{key}"]')


def _more_than(page: Page, before: int) -> bool:
    return page.count("[data-reading-of]") > before


def bench(page: Page) -> None:
    """The booth's converter at the meter: volts before the plug goes in, then under load."""
    page.visit(f"d/{page.id}/bench")
    for check, figures in (
        ("volts", {"Volts": "36.1"}),
        ("converter", {"Out, no load": "36", "Out, loaded": "35.4", "Amps out": "2.77",
                       "Volts in": "12.6", "Amps in": "9"}),
    ):  # fmt: skip
        page.find(f'[data-check^="{check} "]').click()
        for label, value in figures.items():
            page.fill(f"Reading: {label}", value)
        before = page.count("[data-reading-of]")
        page.click("Keep the reading")
        page.until(partial(_more_than, page, before), "kept")
    page.find("[data-part=adopt]")
    page.driver.execute_script("window.scrollTo(0, 0)")


VAN: dict[str, Callable[[Page], None]] = {
    "plan": lambda page: page.find("#quick-entry").send_keys(
        "sewing machine 220-240V~ 0.45A motor 20 min"
    ),
    "bank": lambda page: page.panel("2"),
    "needed": lambda page: page.panel("4"),
    "working": working,
    "refill": refill,
    "run": run,
    "cables": cables,
    "sheet": sheet,
    "options": options,
    "sides": sides,
}


def main() -> None:
    """All of them."""
    with tempfile.TemporaryDirectory() as folder, chrome() as driver:
        Path(folder).chmod(0o755)
        server = Server(Path(folder) / "data")
        server.start()
        try:
            page = Page(driver, server)
            for path in ("designs", "shelf"):
                page.visit("" if path == "designs" else path)
                page.find("[data-design], [data-shelf]")
                if path == "designs":
                    page.until(lambda: page.count("[data-part=lasts]") > 3, "the cards")
                take(page, path)
            for name, prepare in VAN.items():
                page.open(server.demo("puppet-van"))
                prepare(page)
                take(page, name)
            page.open(server.demo("ticket-booth"))
            bench(page)
            take(page, "bench")
            page.open(server.demo("ticket-booth"))
            page.find('.drawing [data-thing="lead"]').click()
            take(page, "station")
            page.panel("7")
            page.fill("Maker's module energy", "512")
            page.fill("Maker's module price", "400")
            page.find("[data-route=module]")
            page.resize(1280, 1400)
            take(page, "routes")
            page.resize(1280, 800)
            page.prefer("dark")
            page.open(server.demo("tide-gauge-hut"))
            take(page, "plan-dark")
            page.open(server.demo("set-building-trailer"))
            run(page)
            take(page, "run-dark")
            page.prefer("light")
            page.resize(360, 780)
            page.open(server.demo("tide-gauge-hut"))
            take(page, "phone")
            page.open(server.demo("puppet-van"))
            run(page)
            take(page, "run-phone")
        finally:
            server.stop()


if __name__ == "__main__":
    main()

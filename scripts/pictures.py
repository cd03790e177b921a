"""Takes one picture of each main view, from the demo data, at 1280 x 800 and as a phone."""

import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT))

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


def happens(page: Page) -> None:
    """Open what happens until the end."""
    page.find("[data-part=happens] summary").click()


VIEWS: dict[str, Callable[[Page], None]] = {
    "plan": lambda page: page.find("#quick-entry").send_keys(
        "sewing machine 220-240V~ 0.45A motor 20 min"
    ),
    "bank": lambda page: page.panel("2"),
    "inverter": lambda page: page.panel("3"),
    "needed": lambda page: page.panel("4"),
    "working": working,
    "happens": happens,
}


def main() -> None:
    """All of them."""
    with tempfile.TemporaryDirectory() as folder, chrome() as driver:
        Path(folder).chmod(0o755)
        server = Server(Path(folder) / "data")
        server.start()
        try:
            page = Page(driver, server)
            page.visit("")
            take(page, "designs")
            for name, prepare in VIEWS.items():
                page.open(server.demo("puppet-van"))
                prepare(page)
                take(page, name)
            page.open(server.demo("tide-gauge-hut"))
            take(page, "rails")
            page.prefer("dark")
            page.open(server.demo("tide-gauge-hut"))
            take(page, "plan-dark")
            page.prefer("light")
            page.resize(360, 780)
            page.open(server.demo("tide-gauge-hut"))
            take(page, "phone")
        finally:
            server.stop()


if __name__ == "__main__":
    main()

"""A real server and a real browser: Chromium without a screen, one for the run."""

import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import pytest
from selenium import webdriver
from selenium.webdriver.chrome.service import Service

from tests.browser.page import Page, Server

FLAGS = (
    "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run",
    "--disable-background-networking", "--disable-component-update", "--disable-sync",
    "--window-size=1280,800", "--lang=en-GB", "--hide-scrollbars",
    # A page lives for seconds here: to optimise its code takes more time than it saves, but for
    # what goes on for seconds, as axe-core does.
    "--js-flags=--no-turbofan --interrupt-budget-for-maglev=400000",
)  # fmt: skip


@contextmanager
def chrome() -> Iterator[webdriver.Chrome]:
    """Chromium from Debian's packages, with a profile of its own."""
    options = webdriver.ChromeOptions()
    options.binary_location = str(Path(__file__).with_name("headless"))
    with tempfile.TemporaryDirectory() as profile:
        for flag in (*FLAGS, f"--user-data-dir={profile}"):
            options.add_argument(flag)
        # Leaving with unsaved work asks a person; here it is meant.
        options.unhandled_prompt_behavior = "accept"
        options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
        browser = webdriver.Chrome(options=options, service=Service("/usr/bin/chromedriver"))
        yield browser
        browser.quit()


@pytest.fixture(scope="session")
def driver() -> Iterator[webdriver.Chrome]:
    """One browser for the run."""
    with chrome() as browser:
        yield browser


@pytest.fixture(scope="session")
def server(open_folder: Path) -> Iterator[Server]:
    """The program as a person starts it, with the demo."""
    running = Server(open_folder / "browser")
    running.start()
    yield running
    running.stop()


@pytest.fixture
def page(driver: webdriver.Chrome, server: Server) -> Iterator[Page]:
    """A fresh design of the test's own; at the end no error may stand in the console."""
    made = Page(driver, server)
    yield made
    said: list[dict[str, Any]] = driver.get_log("browser")  # type: ignore[no-untyped-call]
    errors = [x["message"] for x in said if x["level"] == "SEVERE"]
    # Refusals are answers the tests ask for; everything else is a fault.
    assert [m for m in errors if "status of 4" not in m and "ERR_CONNECTION" not in m] == []
    for extra in driver.window_handles[1:]:
        driver.switch_to.window(extra)
        driver.close()
    driver.switch_to.window(driver.window_handles[0])

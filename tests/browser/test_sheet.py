"""The sheet at the screen: what is printed, and from a step to its reading."""

import io
import re
from pathlib import Path
from xml.etree import ElementTree

from PIL import Image
from pypdf import PdfReader

from tests.browser.page import Page, Server


def _file(page: Page, folder: Path, pattern: str) -> Path:
    """A file that the browser has written to its end."""
    page.long_until(lambda: list(folder.glob(pattern)), pattern)
    return next(folder.glob(pattern))


def _pictures(page: Page, folder: Path) -> None:
    """The drawing as files: it needs nothing of the page it comes from, and is not empty."""
    page.click("SVG")
    svg = _file(page, folder, "*.svg").read_text()
    # Made by this program itself.
    ElementTree.fromstring(svg)  # noqa: S314
    for words in ("Van bank", "150 Ah", "Roof fan", "red is plus", "font/woff2;base64"):
        assert words in svg
    assert "var(--" not in svg
    assert "<script" not in svg
    assert not re.search(r"""(href|src)\s*=\s*["']http""", svg)
    page.click("PNG")
    file = _file(page, folder, "*.png")
    with Image.open(file) as picture:
        colours = picture.convert("RGB").getcolors(1_000_000) or []
        assert picture.width > 1_000
    assert len(colours) > 20


def test_parts_are_chosen_printed_and_a_reading_is_noted(
    page: Page, server: Server, tmp_path: Path
) -> None:
    page.open(server.demo("puppet-van"))
    hours = page.text("[data-part=hours]")
    page.click("Sheet")
    page.says("[data-figure-of=lasts]", hours)
    page.says("[data-figure-of=together]", hours)
    page.sees("[data-part=sheet-cover] .drawing")
    for part in ("cover", "shopping", "wiring", "labels", "build"):
        page.sees(f"[data-part=sheet-{part}]")
    page.driver.execute_cdp_cmd(
        "Browser.setDownloadBehavior", {"behavior": "allow", "downloadPath": str(tmp_path)}
    )
    _pictures(page, tmp_path)
    for name in ("Cover", "To buy", "Wiring and cut list", "Label strips", "Build order"):
        page.labelled(name).click()
    page.until(lambda: page.count("[data-part^=sheet-]") == 1, "only the card")
    page.choose("Paper", "Letter")
    page.click("PDF")
    file = _file(page, tmp_path, "*.pdf")
    printed = PdfReader(io.BytesIO(file.read_bytes())).pages
    assert hours in printed[0].extract_text().replace("\u202f", " ")
    # Letter is 8.5 x 11 inches of 72 points.
    assert [round(float(x)) for x in printed[0].mediabox[2:]] == [612, 792]
    page.labelled("Card for the door").click()
    page.says("main", "Tick what is to be printed.")
    # From a step of the build order to the form of its reading.
    page.labelled("Build order").click()
    page.find("[aria-label^='note it: Van bank, rested']").click()
    page.says("[data-part=reading-form]", "Van bank, rested")
    # Another design, another sheet: with a danger in it that is not connected.
    page.open(server.demo("ticket-booth"))
    page.click("Sheet")
    page.says("[data-part=sheet-build]", "Cable to the DC input: do not connect it")
    page.says("[data-part=sheet-build]", "36 V arrive at Booth station; it accepts 28 V.")

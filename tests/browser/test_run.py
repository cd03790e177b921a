"""A person reads the run: cursor, zoom, flags, what was served, where the energy went, CSV."""

import csv
import io
import json
from typing import Any

import pytest
from selenium.webdriver import ActionChains
from selenium.webdriver.common.keys import Keys

from tests.browser.page import Page, Server


def _run(page: Page, document: Any) -> Any:
    page.open(document)
    page.go("run")
    page.sees("[data-pane=charge]")
    return page.find("[role=slider]")


def _at(page: Page) -> float:
    return float(page.find("[role=slider]").get_dom_attribute("aria-valuenow") or 0)


def _span(page: Page) -> float:
    chart = page.find("[role=slider]")
    return float(chart.get_dom_attribute("data-to") or 0) - float(
        chart.get_dom_attribute("data-from") or 0
    )


def test_the_cursor_reads_every_value_by_keyboard(page: Page, server: Server) -> None:
    chart = _run(page, server.demo("puppet-van", alone=True))
    page.says("[data-part=at-cursor]", "day 1, 12:00")
    # From full: the fan alone, 30 W; the inverter idles at its label's 16 W.
    page.says("[data-part=at-cursor]", "100 %")
    page.until(lambda: "30" in page.text("[data-part=at-cursor]"), "the fan")
    assert "16 W" in page.text("[data-part=at-cursor]")
    chart.send_keys(Keys.SHIFT, Keys.ARROW_RIGHT)
    # The first flag: the kettle at 20:30 pulls the volts below the fan's cut-out.
    page.until(lambda: _at(page) == pytest.approx(8.5, abs=0.01), "the first flag")
    page.says("[data-part=at-cursor]", "day 1, 20:30")
    page.says("[aria-label='What happens']", "while Interval kettle runs (")
    page.says("[data-part=at-cursor]", "Interval kettle")
    assert "20:30: " in (chart.get_dom_attribute("aria-valuetext") or "")
    page.all("[data-happens]")[-1].click()
    page.says("[data-part=at-cursor]", "day 2")
    chart.send_keys(Keys.HOME)
    page.until(lambda: _at(page) == 0, "home")
    chart.send_keys(Keys.ARROW_RIGHT * 3)
    page.until(lambda: _at(page) == pytest.approx(0.03 * _span(page), rel=1e-6), "three steps")


def test_the_time_line_zooms_by_keys_wheel_and_drag(page: Page, server: Server) -> None:
    chart = _run(page, server.demo("puppet-van", alone=True))
    whole = _span(page)
    chart.send_keys("+")
    page.until(lambda: _span(page) == pytest.approx(whole / 2), "closer")
    chart.send_keys("-")
    page.until(lambda: _span(page) == pytest.approx(whole), "wider")
    drag = ActionChains(page.driver).move_to_element_with_offset(chart, -100, 0).click_and_hold()
    drag.move_by_offset(150, 0).release().perform()
    page.until(lambda: _span(page) < 0.35 * whole, "the stretch dragged over")
    page.driver.execute_script(
        "arguments[0].dispatchEvent(new WheelEvent('wheel', {deltaY: 100, ctrlKey: true,"
        " clientX: 500, bubbles: true, cancelable: true}))", chart,
    )  # fmt: skip
    page.until(lambda: 0.2 * whole < _span(page) < 0.5 * whole, "wider by the wheel")
    chart.send_keys("0")
    page.until(lambda: _span(page) == pytest.approx(whole), "all of it")


def test_every_cut_off_line_flag_and_layer_is_named(page: Page, server: Server) -> None:
    _run(page, server.demo("puppet-van", alone=True))
    lines = set(page.attributes("[data-cut]", "data-cut"))
    # The labels of the demo: inverter 10.8 V, boost 9 V, fan 12.6 and back at 13.2 V.
    assert {"Sine inverter 1500 W 12 V cuts out 10.8 V", "Boost 24 V 10 A cuts out 9 V",
            "Roof fan cuts out on its feed 12.6 V", "Roof fan restarts on its feed 13.2 V",
            } <= lines  # fmt: skip
    layers = page.attributes("path[data-layer]", "data-layer")
    # The lowest layer last: it lies over those above it.
    assert layers[-2:] == ["idle", "lost"]
    assert len(layers) == 2 + 7
    page.sees("[data-pane=charge] [data-part=band]")
    kinds = page.attributes("[data-flag]", "data-flag")
    assert "cuts out" in kinds
    assert "highest" in kinds
    page.says('[data-served="roof-fan"]', "after 8 h 30 min, 20:30")
    page.says('[data-served="interval-kettle"]', "–")
    page.choose("Volts of", "24 V rail")
    page.says("[data-pane=volts]", "Volts of the 24 V rail")
    page.until(lambda: not page.count("[data-cut*='Roof fan']"), "other lines")


def test_the_flow_holds_all_the_energy_and_says_why_some_is_left(
    page: Page, server: Server
) -> None:
    """A fridge out at 10.5 V on a pack that runs down to 9 V leaves a third (common practice)."""
    document = server.demo("puppet-van", alone=True)
    bank, fan = document["stores"][0], document["loads"][5]
    bank["battery"] |= {"chemistry": "nmc", "volts": 11.1, "ah": 40.0}
    bank |= {"parallel": 1, "reserve": 0.05}
    window = {"cut_out_v": 10.5, "restarts_v": 11.0, "most_v": 15.0}
    document["setting"]["ambient_c"] = 25.0
    fan |= {"demand": {"kind": "watts", "watts": 60.0}, "cable_mohm": 100.0}
    document["loads"] = [fan | {"name": "Fridge", "rail": "bank", "window": window}]
    document["stages"] = []
    _run(page, document)
    page.says("aside", "Fridge cut out before it was empty")
    words = page.find("[data-part=flow]").get_dom_attribute("aria-label") or ""
    parts = [float(x.rsplit(" ", 2)[1].replace(",", "")) for x in words.split("; ")]
    total = float(page.text("aside section:last-of-type h2").split()[1].replace(",", ""))
    assert sum(parts) == pytest.approx(total, rel=0.01)
    # 3S 40 Ah at 3.7 V nominal.
    assert total == pytest.approx(444, rel=0.03)
    left = next(part for part, x in zip(parts, words.split("; "), strict=True) if "left" in x)
    assert 0.25 < left / total < 0.5


def test_the_data_is_copied_as_csv(page: Page, server: Server) -> None:
    _run(page, server.demo("set-building-trailer"))
    text = page.copied("Copy as CSV", "points as CSV")
    rows = list(csv.reader(io.StringIO(text)))
    assert rows[0][0] == "hours [h]"
    assert "Bench saw watts [W]" in rows[0]
    assert float(rows[-1][0]) > 5
    assert {len(row) for row in rows} == {len(rows[0])}


def test_a_week_at_full_detail_zooms_without_stutter(page: Page, server: Server) -> None:
    """Ten fridges in cycles over seven days; every key's picture within a few frames' time."""
    document = server.demo("puppet-van")
    fan = document["loads"][5]
    document["stores"][0]["parallel"] = 20
    document["loads"] = [
        fan | {"id": f"f{n}", "name": f"Fridge {n}", "window": None, "duty": 0.4,
               "cycle_min": 30.0 + 7 * n, "rail": "bank", "start": {"method": "none"}}
        for n in range(10)
    ]  # fmt: skip
    chart = _run(page, document)
    page.choose("Show", "7 d")
    page.until(lambda: _span(page) == pytest.approx(168.0), "a week")
    points = page.driver.execute_script(
        "return document.querySelector('[data-layer=f3]').getAttribute('d').length"
    )
    assert points > 20_000
    chart.send_keys("+" * 6)
    page.until(lambda: _span(page) == pytest.approx(168.0 / 64), "zoomed")
    taken = json.loads(
        page.driver.execute_async_script(
            "const done = arguments[0];"
            "const chart = document.querySelector('[role=slider]');"
            "const keys = ['0', '+', '+', 'PageDown', '+', '-', 'PageUp', '-', '0', '+'];"
            "const taken = [];"
            "const next = () => {"
            "  const key = keys.shift();"
            "  if (!key) return done(JSON.stringify(taken));"
            "  const start = performance.now();"
            "  chart.dispatchEvent(new KeyboardEvent('keydown', {key, bubbles: true}));"
            "  requestAnimationFrame(() => setTimeout(() => {"
            "    taken.push(performance.now() - start); next(); }));"
            "};"
            "next();"
        )
    )
    assert len(taken) == 10
    # Far from a timed test: a picture that takes half a second would be a fault of another kind.
    assert sorted(taken)[5] < 500


def test_nothing_to_run_says_so(page: Page) -> None:
    page.open()
    page.go("run")
    page.says("main", "Nothing runs, so there is nothing to draw")
    assert page.violations({}) == []

"""Measures, in the browser, from a key to the picture it makes: an edit, and a zoom of the run.

The clock stops once the changed drawing, with its new figures, has been painted; or, for what is
named painted, once the edit itself is. Times depend on the machine and on what else it does:
compare within one run.
"""

import json
import sys
import tempfile
import time
from pathlib import Path
from typing import Any

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT))

from tests.browser.conftest import chrome  # noqa: E402
from tests.browser.page import Page, Server  # noqa: E402

TIMES = 40
# Types a number and waits for the drawing to change and to be painted; then for the rest.
EDIT = """
const [label, times, done] = arguments;
const field = document.querySelector(`[aria-label="${label}"]`);
const write = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set;
const drawing = document.querySelector(".drawing > svg");
const taken = [];
const once = (watts) => {
  if (taken.length === times) return done(taken);
  const start = performance.now();
  const painted = () => {
    const channel = new MessageChannel();
    channel.port1.onmessage = () => {
      taken.push(performance.now() - start);
      setTimeout(() => once(watts + 7), 700);
    };
    channel.port2.postMessage(0);
  };
  const seen = new MutationObserver(() => {
    seen.disconnect();
    requestAnimationFrame(painted);
  });
  seen.observe(drawing, { subtree: true, childList: true, characterData: true, attributes: true });
  field.focus();
  write.call(field, String(watts));
  field.dispatchEvent(new Event("input", { bubbles: true }));
  // What is typed counts after a pause, or with Enter at once.
  field.dispatchEvent(new KeyboardEvent("keydown", { key: "Enter", bubbles: true }));
};
once(67);
"""
# Types a number and waits for it to be painted, before any figure of it is there.
PAINT = """
const [label, times, done] = arguments;
const field = document.querySelector(`[aria-label="${label}"]`);
const write = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set;
const taken = [];
const press = (watts) => {
  const start = performance.now();
  field.dispatchEvent(new KeyboardEvent("keydown", { key: "Enter", bubbles: true }));
  requestAnimationFrame(() => {
    const channel = new MessageChannel();
    channel.port1.onmessage = () => {
      taken.push(performance.now() - start);
      setTimeout(() => once(watts + 7), 3000);
    };
    channel.port2.postMessage(0);
  });
};
const once = (watts) => {
  if (taken.length === times) return done(taken);
  field.focus();
  write.call(field, String(watts));
  field.dispatchEvent(new Event("input", { bubbles: true }));
  setTimeout(() => press(watts), 50);
};
once(67);
"""
ZOOM = """
const [times, done] = arguments;
const chart = document.querySelector("[role=slider]");
const keys = ["0", "+", "+", "PageDown", "+", "-", "PageUp", "-"];
const taken = [];
const once = () => {
  if (taken.length === times) return done(taken);
  const start = performance.now();
  chart.dispatchEvent(new KeyboardEvent("keydown", {
    key: keys[taken.length % keys.length], bubbles: true,
  }));
  requestAnimationFrame(() => {
    const channel = new MessageChannel();
    channel.port1.onmessage = () => {
      taken.push(performance.now() - start);
      setTimeout(once, 30);
    };
    channel.port2.postMessage(0);
  });
};
once();
"""


def week(document: Any) -> Any:
    """Twelve loads in cycles that last a week."""
    fan = document["loads"][5]
    document["stores"][0]["parallel"] = 20
    document["loads"] = [
        fan | {"id": f"f{n}", "name": f"Fridge {n}", "rail": "bank", "window": None, "duty": 0.4,
               "cycle_min": 30.0 + 7 * n}
        for n in range(12)
    ]  # fmt: skip
    return document


def largest(document: Any) -> Any:
    """As many loads and stages as a design may have."""
    feed = next(x for x in document["stages"] if x["kind"] == "feed")
    bar, fan = document["loads"][4], document["loads"][5]
    feeds = [feed | {"id": f"feed-{n}", "name": f"Feed {n}"} for n in range(36)]
    document["stages"] += feeds
    document["stores"][0]["parallel"] = 20
    document["loads"] += [
        fan | {"id": f"l{n}", "name": f"Lamp {n}", "rail": f"feed-{n % 36}", "window": None,
               "demand": {"kind": "watts", "watts": 3.0}}
        for n in range(193)
    ]  # fmt: skip
    return document | {"loads": [*document["loads"][:4], bar, fan, *document["loads"][6:]]}


def tenths(taken: list[float]) -> dict[str, int]:
    """Median and nineteen twentieths. [ms]"""
    ordered = sorted(taken)
    return {"p50_ms": round(ordered[len(ordered) // 2]), "p95_ms": round(ordered[-2])}


def main() -> None:
    """An edit on the puppet van; a week of cycles zoomed."""
    with tempfile.TemporaryDirectory() as folder, chrome() as driver:
        Path(folder).chmod(0o755)
        server = Server(Path(folder) / "data")
        server.start()
        try:
            driver.set_script_timeout(120)
            page = Page(driver, server)
            page.open(server.demo("puppet-van"))
            page.find('tr[data-load="amplifier"]')
            time.sleep(1)
            edit = driver.execute_async_script(EDIT, "Amplifier: watts", TIMES)
            page.open(largest(server.demo("puppet-van")))
            page.find('tr[data-load="amplifier"]')
            time.sleep(5)
            large = driver.execute_async_script(EDIT, "Amplifier: watts", 12)
            painted = driver.execute_async_script(PAINT, "Amplifier: watts", 20)
            page.open(week(server.demo("puppet-van")))
            page.visit(f"d/{page.id}/run")
            page.find("[data-pane=charge]")
            page.choose("Show", "7 d")
            # Until the server rests: its runs take both cores.
            time.sleep(8)
            zoom = driver.execute_async_script(ZOOM, TIMES)
        finally:
            server.stop()
    print(
        json.dumps(
            {
                "edit_to_picture": tenths(edit),
                "edit_of_200_loads": tenths(large),
                "edit_of_200_loads_painted": tenths(painted),
                "zoom_of_a_week": tenths(zoom),
            },
            indent=1,
        )
    )


if __name__ == "__main__":
    main()

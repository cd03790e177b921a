"""What a person does at the screen, in a few verbs."""

import json
import os
import socket
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any, TypeVar

from selenium import webdriver
from selenium.common.exceptions import StaleElementReferenceException, WebDriverException
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from graveljar.demo import demo_designs
from tests import web
from tests.web import printed

# Keys that are no text, as they may end what is typed.
KEYS = (Keys.ENTER, Keys.TAB, Keys.BACKSPACE, Keys.DELETE, Keys.ESCAPE)
PATIENCE_S = 60.0
T = TypeVar("T")
# Lines as they are seen; no-break spaces and tabs between cells count as spaces.
READ = (
    r"(({0}).innerText ?? ({0}).textContent).replace(/[ \t\u00a0]+/g, ' ')"
    r".replace(/ ?\n+ ?/g, '\n').trim()"
)
# A page looks by itself, so long at a time; looking from outside costs more than what is looked at.
LOOKS_MS = 5_000
LOOK = """new Promise((done) => {{
  const end = Date.now() + {looks};
  const look = () => {{
    let found = null;
    try {{ found = {what}; }} catch (error) {{ if (!(error instanceof TypeError)) throw error; }}
    if (found || Date.now() > end) done(found); else setTimeout(look, 25);
  }};
  look();
}})"""


class Server:
    """The program as a child process, on one data folder; it can be stopped and started again."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.address = ""
        self.port: int | None = None
        self.process: subprocess.Popen[str] | None = None

    def start(self) -> None:
        """Start it, on the same port as before, which no other server of the run is after."""
        if self.port is None:
            with socket.socket() as free:
                free.bind(("127.0.0.1", 0))
                self.port = free.getsockname()[1]
        environment = {k: v for k, v in os.environ.items() if k != "DATABASE_URL"}
        self.process = subprocess.Popen(
            [sys.executable, "-m", "graveljar", "--demo", "--port", str(self.port)],
            stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True,
            env=environment | {"GRAVEL_JAR_DATA": str(self.folder)},
        )  # fmt: skip
        line, self.address = printed(self.process.stdout)
        assert self.address, line

    def stop(self) -> None:
        """Stop it as Ctrl-C would."""
        if self.process is not None:
            self.process.send_signal(2)
            self.process.communicate(timeout=30)

    def demo(self, name: str, *, alone: bool = False) -> Any:
        """A fresh copy of a demo document, to change before it is kept.

        `alone`: by its first store, without the sources that fill it.
        """
        document = demo_designs()[name].model_dump(mode="json")
        if alone:
            document |= {"stores": document["stores"][:1], "links": []}
        return document

    def keep(self, document: Any) -> str:
        """Keep a design; gives its id."""
        body = {"document": document} if document else {}
        answer = web.post(f"{self.address}api/designs", json=body)
        answer.raise_for_status()
        return str(answer.json()["id"])

    def kept(self, design_id: str) -> Any:
        """What is kept of a design: revision and document."""
        return web.get(f"{self.address}api/designs/{design_id}").json()


def _labelled(label: str) -> str:
    return f'[aria-label="{label}"]'


class Page:
    """The interface in the browser."""

    def __init__(self, driver: webdriver.Chrome, server: Server) -> None:
        self.driver = driver
        self.server = server
        self.id = ""
        self.resize(1280, 800)
        self.prefer("light")

    def resize(self, width: int, height: int) -> None:
        """Make the screen this large."""
        size = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": False}
        self.driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", size)

    def prefer(self, scheme: str) -> None:
        """Let the system ask for light or dark; and for no motion, which here only takes time."""
        features = [
            {"name": "prefers-color-scheme", "value": scheme},
            {"name": "prefers-reduced-motion", "value": "reduce"},
        ]
        self.driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"features": features})

    def open(self, document: Any = None) -> "Page":
        """Open a new design of this document, or an empty one.

        From the program as it is, as a link does, where it is open: to load it anew takes longer
        than most that is tested.
        """
        self.id = self.server.keep(document)
        open_already = self.driver.current_url.startswith(self.server.address) and self.ask(
            "document.querySelector('#root main') && !document.querySelector('[role=dialog]')"
        )
        if open_already:
            self.go("plan")
            return self
        return self.visit(f"d/{self.id}/plan")

    def visit(self, path: str) -> "Page":
        """Go to an address."""
        self.driver.get(self.server.address + path)
        self.sees("main, [role=alert]")
        return self

    def go(self, view: str) -> None:
        """Go to a view of the open design, as its links do: without loading the page anew."""
        path = json.dumps(f"/d/{self.id}/{view}")
        # An entry of its own, where the page begins at its top.
        entry = "{key: String(performance.now())}"
        changed = "dispatchEvent(new PopStateEvent('popstate'))"
        self.ask(f"history.pushState({entry}, '', {path}); {changed}")
        # The view before stays until the new one is there; its link tells which it is.
        self.sees(f"nav [aria-current=page][href*='{self.id}/{view.partition('?')[0]}']")

    def ask(self, expression: str) -> Any:
        """What an expression gives in the page."""
        asked = {"expression": expression, "returnByValue": True, "awaitPromise": True}
        answer = self.driver.execute_cdp_cmd("Runtime.evaluate", asked)
        assert "exceptionDetails" not in answer, answer["exceptionDetails"]
        return answer["result"].get("value")

    def when(self, expression: str, what: str) -> Any:
        """Wait until an expression gives something in the page that is true."""
        looking = LOOK.format(looks=LOOKS_MS, what=expression)
        return self.until(lambda: self.ask(looking), what)

    def sees(self, css: str) -> None:
        """Wait until an element is there."""
        self.when(f"document.querySelector({json.dumps(css)}) !== null", css)

    def find(self, css: str) -> WebElement:
        """The first element, as soon as it is there."""

        def found() -> WebElement:
            self.sees(css)
            return self.driver.find_element(By.CSS_SELECTOR, css)

        return self.until(found, css)

    def all(self, css: str) -> list[WebElement]:
        """All elements that are there now."""
        return self.driver.find_elements(By.CSS_SELECTOR, css)

    def count(self, css: str) -> int:
        """How many elements are there now: asked in one go, where a list of them is slow."""
        return int(self.ask(f"document.querySelectorAll({json.dumps(css)}).length"))

    def attributes(self, css: str, name: str) -> list[str]:
        """An attribute of all elements that are there now; "" where one has none."""
        return self._of_all(css, f"one.getAttribute({json.dumps(name)}) ?? ''")

    def values(self, css: str) -> list[str]:
        """What stands in all fields that are there now."""
        return self._of_all(css, "one.value")

    def _of_all(self, css: str, what: str) -> list[str]:
        there = f"[...document.querySelectorAll({json.dumps(css)})]"
        return list(self.ask(f"{there}.map((one) => {what})"))

    def read(self, element: WebElement) -> str:
        """What an element shows. The driver's own way to find out takes forty times as long."""
        return str(self.driver.execute_script(f"return {READ.format('arguments[0]')}", element))

    def long_until(self, get: Callable[[], T], what: str) -> T:
        """Wait for long work."""
        return self.until(get, what, patience_s=180.0)

    def until(self, get: Callable[[], T], what: str, patience_s: float = PATIENCE_S) -> T:
        """Wait until something is there and true."""
        deadline, pause_s = time.monotonic() + patience_s, 0.02
        while True:
            try:
                if found := get():
                    return found
            except (IndexError, StaleElementReferenceException, WebDriverException):
                pass
            assert time.monotonic() < deadline, f"waited in vain for {what}; {self.seen()}"
            # Looking costs the browser as much as working: less and less often.
            time.sleep(pause_s)
            pause_s = min(1.5 * pause_s, 0.2)

    def seen(self) -> str:
        """Where one is and how the page begins, for what a failure says."""
        try:
            text = self.read(self.driver.find_element(By.TAG_NAME, "body"))[:2000]
        except WebDriverException as error:
            text = str(error)
        return f"at {self.driver.current_url} one reads:\n{text}"

    def labelled(self, label: str) -> WebElement:
        """A field by the name screen readers say."""
        return self.find(_labelled(label))

    def button(self, text: str) -> WebElement:
        """A button or link by its words."""
        path = f'//*[self::button or self::a or @role="menuitem"][contains(., "{text}")]'
        return self.until(lambda: self.driver.find_element(By.XPATH, path), text)

    def menu(self, text: str) -> None:
        """Choose from the menu of the design, by keyboard."""
        self.find("[aria-label^='This design:']").send_keys(Keys.ENTER)
        self.button(text).send_keys(Keys.ENTER)

    def click(self, text: str) -> None:
        """Click a button that may be drawn anew just now, as in a notice that comes in."""

        def clicked() -> bool:
            self.button(text).click()
            return True

        self.until(clicked, f"a click on {text}")

    def fill(self, label: str, text: str) -> None:
        """Type over a field, and leave it: what is typed counts then."""

        field = f"document.querySelector({json.dumps(_labelled(label))})"
        take = f"(() => {{ {field}.focus(); {field}.select(); return true; }})()"
        able = f"{field}.checkVisibility() && !{field}.disabled"
        plain = text.rstrip("".join(KEYS))

        def typed() -> bool:
            # A panel that just opened may be drawn anew: then it is typed over again.
            self.when(f"{able} && {take}", f"{label}, to type into")
            # All of it at once: on a busy machine a pause between two keys would be a change.
            if plain:
                self.driver.execute_cdp_cmd("Input.insertText", {"text": plain})
                if self.ask(f"{field}?.value") != plain:
                    return False
            if rest := text[len(plain) :] or ("" if plain else Keys.DELETE):
                self.labelled(label).send_keys(rest)
            return True

        self.until(typed, f"typing into {label}")
        self.leave()

    def leave(self) -> None:
        """Put the focus on nothing."""
        self.ask("document.activeElement?.blur()")

    def undo(self) -> None:
        """Undo the last change of the design: in a text field the keys would undo the typing."""
        self.leave()
        self.chord("z")

    def holds(self, label: str, value: str) -> None:
        """Wait until a field holds a value."""
        field = f"document.querySelector({json.dumps(_labelled(label))})"
        self.when(f"{field}.value === {json.dumps(value)}", f"{label} {value}")

    def choose(self, label: str, text: str) -> None:
        """Choose from a list by what it shows."""
        field = self.labelled(label)
        path = f'./option[contains(., "{text}")]'
        field.find_element(By.XPATH, path).click()

    def press(self, *keys: str) -> None:
        """Press keys wherever the focus is."""
        webdriver.ActionChains(self.driver).send_keys(*keys).perform()

    def focused(self, css: str) -> bool:
        """Whether the focus is on an element."""
        return bool(self.ask(f"document.activeElement.matches({json.dumps(css)})"))

    def tab_to(self, css: str) -> WebElement:
        """Press Tab until the focus is on an element: it can be reached without a mouse."""
        for _ in range(300):
            if self.focused(css):
                return self.driver.switch_to.active_element
            self.press(Keys.TAB)
        raise AssertionError(f"Tab never leads to {css}")

    def drawn(self, css: str, attribute: str) -> str:
        """What the drawing says of a thing, a line or a rail."""
        return str(self.find(f".drawing {css}").get_dom_attribute(attribute))

    def chord(self, *keys: str) -> None:
        """Hold Control, and Shift if given, and press the last key."""
        chain = webdriver.ActionChains(self.driver).key_down(Keys.CONTROL)
        for key in keys[:-1]:
            chain = chain.key_down(key)
        chain = chain.send_keys(keys[-1])
        for key in keys[:-1]:
            chain = chain.key_up(key)
        chain.key_up(Keys.CONTROL).perform()

    def panel(self, key: str) -> None:
        """Open a panel by its key, from wherever the focus is."""
        self.leave()
        self.press(key)

    def text(self, css: str) -> str:
        """What an element says."""
        element = f"document.querySelector({json.dumps(css)})"
        return str(self.when(READ.format(element), css))

    def says(self, css: str, words: str) -> None:
        """Wait until an element says some words."""
        element = f"document.querySelector({json.dumps(css)})"
        there = f"{READ.format(element)}.includes({json.dumps(words)})"
        self.when(there, f"“{words}” in {css}")

    def copied(self, button: str, says: str) -> str:
        """Copy a table as CSV, and read it back from the clipboard."""
        self.driver.execute_cdp_cmd(
            "Browser.grantPermissions",
            {
                "origin": self.server.address.rstrip("/"),
                "permissions": ["clipboardReadWrite", "clipboardSanitizedWrite"],
            },
        )
        self.button(button).click()
        self.says("body", says)
        return str(
            self.driver.execute_async_script(
                "navigator.clipboard.readText().then(arguments[0], (e) => arguments[0](String(e)))"
            )
        )

    def add(self, line: str) -> None:
        """Add a load by quick entry."""
        before = self.count("tr[data-load]")
        entry = self.find("#quick-entry")
        entry.send_keys(line)
        self.until(lambda: self.count("[data-reading=complete]"), f"“{line}” read")
        entry.send_keys(Keys.ENTER)
        self.until(lambda: self.count("tr[data-load]") == before + 1, f"“{line}” added")

    def build(self, what: str, volts: str = "") -> None:
        """Add a rail, an inverter or a feed by keyboard."""
        self.leave()
        self.press("a")
        self.choose("What to add", what)
        if volts:
            self.fill("Volts of the rail", volts)
        self.until(lambda: self.find("[data-dialog=add] [type=submit]").is_enabled(), "built")
        self.find("[data-dialog=add] [type=submit]").send_keys(Keys.ENTER)
        self.until(lambda: not self.count("[data-dialog=add]"), "added")

    def findings(self) -> set[str]:
        """Codes of the findings shown, cautions apart."""
        return set(self.attributes("[data-finding]:not([data-severity=note])", "data-finding"))

    def finds(self, code: str) -> None:
        """Wait for a finding."""
        self.sees(f"[data-finding='{code}']:not([data-severity=note])")

    def clears(self, code: str) -> None:
        """Wait until a finding is gone."""
        gone = (
            f"document.querySelector(`[data-finding='{code}']:not([data-severity=note])`) === null"
        )
        self.when(gone, f"no {code}")

    def saved(self) -> Any:
        """Wait until everything is saved; gives the document kept."""
        self.sees("[data-saving=saved]")
        return self.server.kept(self.id)["document"]

    def uncovered(self, css: str) -> bool:
        """Whether something is seen whole: neither cut off nor covered at any corner."""
        return bool(
            self.driver.execute_script(
                "const it = document.querySelector(arguments[0]);"
                "const {left, right, top, bottom} = it.getBoundingClientRect();"
                "return [left + 4, right - 4].every((x) => [top + 4, bottom - 4].every((y) =>"
                " it.contains(document.elementFromPoint(x, y))));",
                css,
            )
        )

    def violations(self, options: dict[str, Any], within: str = "body") -> list[str]:
        """Findings of axe-core within what is shown; minor ones left out."""
        if not self.driver.execute_script("return Boolean(window.axe)"):
            axe = Path(__file__).parents[2] / "ui/node_modules/axe-core/axe.min.js"
            self.driver.execute_cdp_cmd("Runtime.evaluate", {"expression": axe.read_text()})
        script = (
            "const [options, within, done] = arguments;"
            "axe.run(within, {resultTypes: ['violations'], ...options})"
            ".then((found) => done(JSON.stringify(found.violations)))"
        )
        found = json.loads(self.driver.execute_async_script(script, options, within))
        return [
            f"{x['id']}: {node['html'][:120]}"
            for x in found
            if x["impact"] != "minor"
            for node in x["nodes"]
        ]

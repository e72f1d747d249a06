"""What browser tests do with a screen, in a photographer's words."""

from __future__ import annotations

import contextlib
import json
import time
import urllib.error
import urllib.request
from collections.abc import Callable
from typing import Any

from selenium import webdriver
from selenium.common.exceptions import StaleElementReferenceException
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import WebDriverWait
from wire import on_the_wire

from lucid_ridge.core.facts.choices import GROUPS

# Patience for a machine that is busy with something else; it costs nothing where all is well.
WAIT_S = 30
STEPS = ("place", "light", "frame", "depth", "exposure", "sequence", "field")


_NUMBERS: dict[str, int] = {}
# Takes away what a test may have left in a browser; the application's files stay, compiled as they are.
_NOTHING_LEFT = """
const done = arguments[0], gone = [];
localStorage.clear();
sessionStorage.clear();
(async () => {
  for (const base of await indexedDB.databases())
    gone.push(new Promise((go) => Object.assign(indexedDB.deleteDatabase(base.name), { onsuccess: go, onerror: go, onblocked: go })));
  for (const worker of await navigator.serviceWorker.getRegistrations()) gone.push(worker.unregister());
  for (const name of await caches.keys()) gone.push(caches.delete(name));
  await Promise.all(gone);
})().then(done, (error) => done(String(error)));
"""
_VISIT = """
if (!document.querySelector('#root > *')) return false;
history.pushState({}, '', arguments[0]);
window.dispatchEvent(new PopStateEvent('popstate', { state: {} }));
return true;
"""


class Screen:
    """One browser window on one server."""

    def __init__(self, browser: webdriver.Chrome, address: str) -> None:
        self.browser = browser
        self.address = address
        self._expected: list[str] = []

    def size(self, width: int, height: int) -> None:
        mobile = width < 600
        self.browser.execute_cdp_cmd(
            "Emulation.setDeviceMetricsOverride",
            {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": mobile},
        )

    def expect_in_console(self, status: str) -> None:
        """Chromium writes every refused request into the console; say which one a test provokes."""
        self._expected.append(status)

    def check_console(self) -> None:
        """Fail if the console showed an error that nobody expects; what was expected until now is expected no more."""
        errors = [entry["message"] for entry in self.browser.get_log("browser") if entry["level"] == "SEVERE"]
        assert [error for error in errors if not any(status in error for status in self._expected)] == []
        self._expected.clear()

    def open(self, path: str) -> None:
        self.browser.get(self.address + path)

    def visit(self, path: str) -> None:
        """Go to a page of the application as its own links do, where it is open; else load it."""
        if not self.browser.execute_script(_VISIT, path):
            self.open(path)

    def take_back(self) -> None:
        """Undo every edit of the notebook, so that the demo is as it was."""
        scopes = ["shots", "locations", "kit", "outings", "log"]
        scopes += [f"{kind}:{number}" for kind in ("shot", "location", "outing", "log") for number in range(1, 60)]
        # Refused when there is nothing left.
        with contextlib.suppress(urllib.error.HTTPError):
            while True:
                self.ask("POST", "/undo", {"scopes": scopes})

    def open_shot(self, name: str, step: str | None = None) -> None:
        """Go to a shot of the demo, and to one of its steps."""
        # Every copy of the demo has the same numbers.
        if name not in _NUMBERS:
            _NUMBERS.update({shot["name"]: shot["id"] for shot in self.ask("GET", "/notebook")["shots"]})
        self.visit(f"/shots/{_NUMBERS[name]}/{step or 'place'}")
        self.find(f"//*[@data-step='{step or 'place'}' and @aria-current]")

    def step(self, name: str) -> None:
        self.find(f"//*[@data-step='{name}']").click()
        self.wait(lambda: f"/{name}" in self.browser.current_url)

    def mark(self, step: str) -> str:
        return self.find(f"//*[@data-step='{step}']").get_attribute("data-mark") or ""

    def verdict(self, step: str) -> str:
        return self.find(f"//*[@data-step='{step}']").get_attribute("textContent") or ""

    def find(self, xpath: str) -> WebElement:
        """Wait for an element and return it."""
        return WebDriverWait(self.browser, WAIT_S, poll_frequency=0.1).until(
            lambda b: b.find_element(By.XPATH, xpath), f"no {xpath}"
        )

    def all(self, css: str) -> list[WebElement]:
        return self.browser.find_elements(By.CSS_SELECTOR, css)

    def count(self, css: str, wanted: int) -> None:
        """Wait until so many elements stand there."""
        self.wait(lambda: len(self.all(css)) == wanted, f"{css}: {len(self.all(css))}, not {wanted}")

    def wait(self, condition: Any, words: str = "") -> None:
        # What an answer has just exchanged is looked at again.
        patient = WebDriverWait(
            self.browser, WAIT_S, poll_frequency=0.1, ignored_exceptions=[StaleElementReferenceException]
        )
        patient.until(lambda _: condition(), words)

    def reads(self, text: str) -> None:
        """Wait until a text can be read somewhere on the page."""
        self.wait(lambda: text in self.text(), f"“{text}” is not on the page: {self.text()[:1500]}")

    def text(self) -> str:
        return str(
            self.browser.execute_script(
                "return document.body.innerText + ' ' + [...document.querySelectorAll('svg text')].map(t => "
                "t.textContent).join(' ')"
            )
        )

    def field(self, label: str, inside: str = "") -> WebElement:
        return self.find(f"{inside}//input[@id = //label[normalize-space()='{label}']/@for]")

    def type(self, label: str, text: str, enter: bool = True) -> WebElement:
        """Type into a field as a person does: everything in it replaced, then Enter."""
        box = self.field(label)
        self.browser.execute_script("arguments[0].scrollIntoView({block: 'center'})", box)
        box.send_keys(Keys.CONTROL, "a")
        box.send_keys(text)
        if enter:
            box.send_keys(Keys.ENTER)
        return box

    def paste(self, text: str) -> None:
        """Have a text where the cursor stands, without a key for each letter."""
        self.browser.execute_cdp_cmd("Input.insertText", {"text": text})

    def steady(self, element: WebElement) -> WebElement:
        """Bring an element into view and wait until an answer that has just come has stopped moving it."""
        self.browser.set_script_timeout(30)
        self.browser.execute_async_script(
            """
            const [element, done] = arguments;
            element.scrollIntoView({block: 'center'});
            let last = '', calm = 0;
            const look = () => {
              const box = element.getBoundingClientRect(), now = `${box.x} ${box.y} ${box.width} ${box.height}`;
              calm = now === last ? calm + 1 : 0;
              last = now;
              calm >= 3 || !element.isConnected ? done() : setTimeout(look, 25);
            };
            look();
            """,
            element,
        )
        return element

    def tick(self, name: str) -> None:
        """Tick, or untick, a box by its words."""
        self.steady(self.find(f"//label[span[normalize-space()='{name}']]")).click()

    def press(self, button: str) -> None:
        """Press a button by its words or its label; a step that is just being exchanged for another is waited out."""

        def pressed() -> bool:
            try:
                self.steady(self.find(f"//button[normalize-space()='{button}' or @aria-label='{button}']")).click()
            except StaleElementReferenceException:
                return False
            return True

        self.wait(pressed, button)

    def menu(self, item: str) -> None:
        """Choose an item of the bar's menu."""
        self.press("Menu ▾")
        self.find(f"//*[@role='menuitem' and contains(normalize-space(), '{item}')]").click()

    def figures(self, item: str) -> None:
        """Choose an item of the menu of the first drawing."""

        def opened() -> bool:
            try:
                self.steady(self.find("//button[starts-with(@aria-label, 'figures, files')]")).click()
            except StaleElementReferenceException:
                return False
            return True

        self.wait(opened, "the drawing's menu")
        self.find(f"//*[@role='menuitem' and normalize-space()='{item}']").click()

    def undo(self, word: str = "undo") -> None:
        """Press undo or redo, whatever edit it names."""
        self.find(f"//button[starts-with(normalize-space(), '{word}') and not(@disabled)]").click()

    def choose(self, option: str) -> None:
        """Press one of a few alternatives by its words."""
        self.find(f"//label[normalize-space()='{option}' and .//input[@type='radio']]").click()

    def chosen(self, group: str) -> str:
        """Return the words of the alternative that is chosen in a group."""
        box = self.find(f"//*[@role='radiogroup' and @aria-label='{group}']")
        return str(
            self.browser.execute_script(
                "return arguments[0].querySelector('input:checked')?.closest('label').innerText ?? ''", box
            )
        )

    def network(self, *, offline: bool = False, latency_ms: int = 0) -> None:
        """Make the way to the server slow, or cut it."""
        self.browser.execute_cdp_cmd("Network.enable", {})
        self.browser.execute_cdp_cmd(
            "Network.emulateNetworkConditions",
            {"offline": offline, "latency": latency_ms, "downloadThroughput": -1, "uploadThroughput": -1},
        )

    def value(self, label: str) -> str:
        """What stands in a field."""
        return self.field(label).get_attribute("value") or ""

    def shows(self, label: str, value: str) -> None:
        """Wait until a field shows a value."""
        self.wait(lambda: self.value(label) == value, f"{label}: not {value}")

    def dial(self, label: str) -> WebElement:
        """A dial's own field; a plain field may bear the same name above it, and a page that is being left the dial
        itself.
        """
        path = f"(//input[@id = //label[normalize-space()='{label}']/@for])[last()]"
        found = self.find(path)
        for _ in range(100):
            time.sleep(0.05)
            again = self.find(path)
            if again == found:
                return found
            found = again
        raise AssertionError(f"the dial {label} does not come to rest")

    def dial_reads(self, label: str, text: str) -> None:
        self.wait(lambda: self.dial(label).get_attribute("value") == text, f"{label}: not {text}")

    def type_over(self, box: WebElement, text: str, *keys: str) -> None:
        """Replace what stands in a box, and press keys then; the box need not be in view."""
        self.browser.execute_script("arguments[0].focus()", box)
        self.chord(Keys.CONTROL, "a")
        self.keys(text, *keys)

    def focus_nothing(self) -> None:
        self.browser.execute_script("document.activeElement.blur()")

    def ask(self, method: str, path: str, body: object = None) -> Any:
        """Another hand: the same server, without this page."""
        data = None if body is None else json.dumps(on_the_wire(path, body)).encode()
        request = urllib.request.Request(
            f"{self.address}/api{path}", data, {"Content-Type": "application/json"}, method=method
        )
        with urllib.request.urlopen(request, timeout=30) as answer:
            return json.loads(answer.read() or b"null")

    def shot_id(self) -> int:
        return int(self.browser.current_url.split("/shots/")[1].split("/")[0])

    def facts(self, shot_id: int | None = None) -> dict[str, Any]:
        """What the server holds of a shot, that at hand without its id: values by the names of their facts."""
        said = self.ask("GET", f"/shots/{shot_id or self.shot_id()}")["facts"]
        return {
            name: value
            for part in (said, *(said[group] for group in GROUPS))
            for name, value in part.items()
            if name not in GROUPS
        }

    def keys(self, *keys: str) -> None:
        ActionChains(self.browser).send_keys(*keys).perform()

    def chord(self, *keys: str) -> None:
        chain = ActionChains(self.browser)
        for key in keys[:-1]:
            chain.key_down(key)
        chain.send_keys(keys[-1])
        for key in keys[:-1]:
            chain.key_up(key)
        chain.perform()

    def handle(self, label: str) -> WebElement:
        return self.find(f"//*[@role='slider' and starts-with(@aria-label, '{label}')]")

    def drag(self, element: WebElement, x: int, y: int) -> None:
        chain = ActionChains(self.browser, duration=20).move_to_element(element).click_and_hold()
        for part in range(1, 5):
            chain.move_by_offset(x // 4, y // 4) if part < 4 else chain.move_by_offset(
                x - 3 * (x // 4), y - 3 * (y // 4)
            )
        chain.release().perform()


def in_turn(screen: Screen, *parts: Callable[[Screen], None]) -> None:
    """Do the parts of a journey one after another, each on the demo as it is."""
    for at, part in enumerate(parts):
        if at:
            screen.check_console()
            screen.network()
            screen.size(1280, 800)
            # The page stops asking, and the next part begins in a new one.
            screen.open("/api/health")
            assert screen.browser.execute_async_script(_NOTHING_LEFT) is None
            screen.take_back()
        part(screen)


def fresh_screen(browser: webdriver.Chrome, address: str) -> Screen:
    """Return a window of 1280 x 800 in which nobody has been at this address."""
    made = Screen(browser, address)
    made.size(1280, 800)
    if browser.current_url != f"{address}/api/health":
        browser.get(f"{address}/api/health")
    browser.delete_all_cookies()
    assert browser.execute_async_script(_NOTHING_LEFT) is None
    browser.get_log("browser")
    return made

"""The field runner as tests use it: its buttons, what it reads, and what the server has of it."""

import time

from selenium.webdriver.common.by import By

SHOT = "Posts at the ebb"
# The device's clocks under control. wait: time passes on both; pass: on the wall clock alone, which is set, or the
# device sleeps out of sight.
CLOCK = """
window.__now = Date.now.bind(Date); window.__ahead = 0; Date.now = () => window.__now() + window.__ahead;
window.__steady = performance.now.bind(performance); window.__later = 0; performance.now = () => window.__steady() + window.__later;
window.__wait = (ms) => { window.__ahead += ms; window.__later += ms; };
window.__pass = (ms, hidden) => {
  const see = (state) => {
    Object.defineProperty(document, 'visibilityState', {configurable: true, get: () => state});
    document.dispatchEvent(new Event('visibilitychange'));
  };
  if (hidden) see('hidden');
  window.__ahead += ms;
  if (hidden) see('visible');
};
"""


def card_of(screen):
    shot = next(item for item in screen.ask("GET", "/notebook")["shots"] if item["name"] == SHOT)
    return screen.ask("GET", f"/shots/{shot['id']}")["card_id"]


def press(browser, words):
    """Press a button of the runner by what is written on it."""

    def found():
        return [
            item
            for item in browser.find_elements(By.CSS_SELECTOR, "button")
            if item.text.strip().startswith(words) and item.is_enabled()
        ]

    until(browser, found, f"no button {words}")
    browser.execute_script("arguments[0].click()", found()[0])


def until(browser, true, why):
    end = time.monotonic() + 30
    while time.monotonic() < end:
        if true():
            return
        time.sleep(0.05)
    raise AssertionError(f"{why}: {browser.find_element(By.TAG_NAME, 'body').text[:600]}")


def reads(browser, words):
    until(browser, lambda: words in browser.find_element(By.TAG_NAME, "body").text, f"does not read {words}")


def events_of(screen, card, kind="taken"):
    """The events of a kind that the server holds of a card's sessions."""
    runs = screen.ask("GET", f"/cards/{card}/run")["run_ids"]
    return [item for run in runs for item in screen.ask("GET", f"/field/runs/{run}")["events"] if item["kind"] == kind]


def open_runner(screen, **network):
    """Open the runner of the estuary's card on a phone's screen. Returns the card's id."""
    card = card_of(screen)
    screen.size(390, 844)
    if network:
        screen.network(**network)
    screen.open(f"/cards/{card}/run")
    reads(screen.browser, "Frame 1 of 3")
    return card

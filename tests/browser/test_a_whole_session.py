"""A whole session on a phone: in Ember, with the network away, a reload in each countdown and a tab that the phone
discards; then the files of the camera are judged.
"""

import json
import time
import urllib.request
from datetime import datetime, timedelta

import numpy as np
import pytest
from chromium import start_chromium
from runner import CLOCK, card_of, events_of, press, reads, until
from selenium.webdriver.common.by import By

from lucid_ridge.core.field.cameras import FrameOrder
from lucid_ridge.standins.camera import write_jpeg

# What the device keeps, by kind.
_KEPT = """
const done = arguments[0];
indexedDB.open('lucid-ridge-field').onsuccess = (event) => {
  const all = event.target.result.transaction('events').objectStore('events').getAll();
  all.onsuccess = () => done(all.result.map((item) => (item.event ?? item).kind));
};
"""


def _kept(browser, kind):
    return browser.execute_async_script(_KEPT).count(kind)


def _away(browser, away=True):
    browser.execute_cdp_cmd("Network.enable", {})
    browser.execute_cdp_cmd("Network.setBlockedURLs", {"urls": ["*/api/*"] if away else []})


def _worker_is_there(browser):
    return browser.execute_async_script(
        "const done = arguments[0]; navigator.serviceWorker.ready.then(async () => done((await "
        "caches.keys()).length > 0 && !!navigator.serviceWorker.controller))"
    )


def test_a_session_in_ember_without_a_network_and_with_a_reload_in_each_countdown(whole_screen):
    screen = whole_screen
    card, browser = card_of(screen), screen.browser
    screen.size(390, 844)
    screen.open(f"/cards/{card}/run")
    reads(browser, "Frame 1 of 3")
    until(browser, lambda: _worker_is_there(browser), "no service worker")
    while browser.execute_script("return document.documentElement.dataset.theme") != "ember":
        press(browser, "Theme")
        time.sleep(0.2)
    for words in ("ERR_", "Failed to fetch", "Failed to load resource"):
        screen.expect_in_console(words)
    _away(browser)
    for number in (1, 2, 3):
        reads(browser, f"Frame {number} of 3")
        press(browser, "Start")
        reads(browser, "let it settle")
        browser.refresh()
        reads(browser, "reloaded")
        assert browser.execute_script("return document.documentElement.dataset.theme") == "ember"
        assert _kept(browser, "countdown_started") == number
        browser.execute_script(CLOCK)
        browser.execute_script("window.__wait(200000)")
        reads(browser, "ago")
        press(browser, "Taken")
        until(browser, lambda number=number: _kept(browser, "taken") == number, "the tick is not kept")
    reads(browser, "All frames are done")
    browser.refresh()
    reads(browser, "All frames are done")
    assert events_of(screen, card) == []
    _away(browser, away=False)
    browser.execute_script("window.dispatchEvent(new Event('online'))")
    until(browser, lambda: len(events_of(screen, card)) == 3, "what was ticked has not arrived")
    ticks = sorted(events_of(screen, card), key=lambda item: item["at_utc"])
    assert len({item["frame"] for item in ticks}) == 3
    assert len(events_of(screen, card, "countdown_started")) == 3
    # By the wall clock alone no exposure is certain.
    assert [item["shutter_s"] for item in ticks] == [None, None, None]

    frames = screen.ask("GET", f"/cards/{card}/run")["sheet"]["frames"]
    rng = np.random.default_rng(3)
    for at, (tick, frame) in enumerate(zip(ticks, frames, strict=True)):
        opened = datetime.fromisoformat(tick["at_utc"]) - timedelta(seconds=frame["shutter_s"] + 3)
        picture = np.clip(rng.normal(0.3, 0.1, (240, 160, 3)), 0, 1)
        order = FrameOrder(
            float(frame["aperture"].removeprefix("f/")), frame["shutter_s"], 800.0 if at == 1 else 100.0, 24.0, 5.0
        )
        content = write_jpeg(picture, order, opened.replace(tzinfo=None) + timedelta(minutes=67), "body")
        request = urllib.request.Request(
            f"{screen.address}/api/log/files?file_name=R{at}.JPG", content, {"Content-Type": "application/octet-stream"}
        )
        urllib.request.urlopen(request).close()
    entry = screen.ask("GET", "/log")["entries"][0]
    screen.open("/logbook")
    screen.press("Sort 3 files")
    screen.reads("3 sorted to planned frames.")
    screen.open(f"/logbook/{entry['id']}")
    screen.reads("Frame 2: ISO 800 instead of ISO 100")
    screen.count("[data-frames] > li", 3)
    screen.ask("PATCH", "/photographer", {"theme": "graphite"})


def test_a_tab_that_the_phone_discards_goes_on_counting_when_it_is_opened_again(screen):
    card, browser = card_of(screen), screen.browser
    screen.size(390, 844)
    screen.open(f"/cards/{card}/run")
    reads(browser, "Frame 1 of 3")
    press(browser, "Start")
    reads(browser, "let it settle")
    # Frozen as a phone freezes it, and then gone: another tab opens the same address.
    browser.execute_cdp_cmd("Page.setWebLifecycleState", {"state": "frozen"})
    time.sleep(0.5)
    first = browser.current_window_handle
    browser.switch_to.new_window("tab")
    second = browser.current_window_handle
    browser.execute_cdp_cmd("Target.closeTarget", {"targetId": first})
    browser.switch_to.window(second)
    screen.size(390, 844)
    screen.open(f"/cards/{card}/run")
    reads(browser, "reloaded")
    until(browser, lambda: len(events_of(screen, card, "countdown_started")) == 1, "the start was lost")
    press(browser, "Stop")
    until(browser, lambda: len(events_of(screen, card, "countdown_stopped")) == 1, "the stop was lost")


@pytest.fixture
def taken_along(screen, tmp_path):
    """Return a browser with no network in which the file for the phone is open."""
    with urllib.request.urlopen(f"{screen.address}/api/cards/{card_of(screen)}/take-along") as answer:
        (tmp_path / "posts.html").write_bytes(answer.read())
    browser = start_chromium()
    browser.execute_cdp_cmd("Network.enable", {})
    nothing = {"offline": True, "latency": 0, "downloadThroughput": 0, "uploadThroughput": 0}
    browser.execute_cdp_cmd("Network.emulateNetworkConditions", nothing)
    browser.execute_cdp_cmd(
        "Emulation.setDeviceMetricsOverride", {"width": 390, "height": 844, "deviceScaleFactor": 1, "mobile": True}
    )
    browser.get((tmp_path / "posts.html").as_uri())
    reads(browser, "Frame 1 of 3")
    yield browser
    browser.quit()


def test_the_file_keeps_a_countdown_over_a_reload_and_counts_two_taps_once(taken_along):
    browser = taken_along
    press(browser, "Start")
    reads(browser, "let it settle")
    browser.refresh()
    reads(browser, "reloaded")
    assert _kept(browser, "countdown_started") == 1
    (taken,) = [item for item in browser.find_elements(By.CSS_SELECTOR, "button") if item.text == "Taken"]
    browser.execute_script("arguments[0].click(); setTimeout(() => arguments[0].click(), 200)", taken)
    reads(browser, "Undo frame")
    time.sleep(0.6)
    assert _kept(browser, "taken") == 1
    press(browser, "Undo")
    reads(browser, "Frame 1 of 3")


def test_the_export_of_the_file_holds_what_was_done_before_beginning_anew(taken_along):
    browser = taken_along
    press(browser, "Taken")
    reads(browser, "Frame 2 of 3")
    reads(browser, "1 entry is on this device only")
    press(browser, "Export")
    press(browser, "Start again")
    press(browser, "Yes, start again")
    press(browser, "Back")
    reads(browser, "Frame 1 of 3")
    time.sleep(0.8)
    press(browser, "Taken")
    reads(browser, "Frame 2 of 3")
    press(browser, "Export")
    reads(browser, f"{len(browser.execute_async_script(_KEPT))} events on this device, of all cards and sessions")
    text = browser.execute_async_script(
        "const done = arguments[0]; navigator.clipboard.writeText = async (text) => done(text);"
        "[...document.querySelectorAll('button')].find((item) => item.textContent === 'Copy as text').click();"
    )
    events = json.loads(text)["events"]
    assert [item["kind"] for item in events].count("taken") == 2
    assert len({item["run_id"] for item in events}) == 2
    press(browser, "Back")
    until(
        browser,
        lambda: "on this device only" not in browser.find_element(By.TAG_NAME, "body").text,
        "what was exported still counts as waiting",
    )

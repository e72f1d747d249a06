"""The field: the file that is taken along, a crash, the page without its server, and the logbook."""

import json
import urllib.request
from datetime import datetime
from functools import partial

import numpy as np
import pytest
from chromium import kill, start_chromium
from runner import SHOT, card_of, events_of, press, reads, until
from screen import in_turn
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By

from lucid_ridge.core.field.cameras import FrameOrder
from lucid_ridge.standins.camera import write_jpeg


def _kinds(browser):
    """The kinds of events that the device keeps."""
    return browser.execute_async_script(
        "const done = arguments[0];"
        "indexedDB.open('lucid-ridge-field').onsuccess = (event) => {"
        "  event.target.result.transaction('events').objectStore('events').getAll().onsuccess = (all) =>"
        "    done(all.target.result.map((item) => item.event.kind));"
        "};"
    )


def test_the_file_taken_along_works_alone_and_comes_back(screen, tmp_path):
    card = card_of(screen)
    with urllib.request.urlopen(f"{screen.address}/api/cards/{card}/take-along") as answer:
        page = answer.read()
    path = tmp_path / "posts.html"
    path.write_bytes(page)
    browser = start_chromium()
    try:
        browser.execute_cdp_cmd("Network.enable", {})
        browser.execute_cdp_cmd(
            "Network.emulateNetworkConditions",
            {"offline": True, "latency": 0, "downloadThroughput": 0, "uploadThroughput": 0},
        )
        browser.execute_cdp_cmd(
            "Emulation.setDeviceMetricsOverride", {"width": 390, "height": 844, "deviceScaleFactor": 1, "mobile": True}
        )
        browser.get(path.as_uri())
        reads(browser, "Frame 1 of 3")
        press(browser, "Start")
        reads(browser, "let it settle")
        press(browser, "Stop")
        # A reading: planned EV 11; f/16 at 1/60 s is EV 13.9, so the time is less than a quarter.
        press(browser, "It differs")
        press(browser, "EV ")
        reads(browser, "Read EV")
        reads(browser, "16 s" if "16 s" in browser.find_element(By.TAG_NAME, "body").text else "15 s")
        press(browser, "Taken")
        reads(browser, "Frame 2 of 3")
        press(browser, "It differs")
        press(browser, "10 min")
        press(browser, "It differs")
        press(browser, "10-stop ND")
        # A delay and a missing filter together stand in no table: the file says where it ends.
        reads(browser, "beyond that the server is needed")
        press(browser, "Undo")
        until(browser, lambda: "undone" in _kinds(browser), "that it was undone is not kept")
        browser.refresh()
        reads(browser, "Frame 2 of 3")
        severe = [item for item in browser.get_log("browser") if item["level"] == "SEVERE"]
        assert severe == []
        press(browser, "Checks")
        for words in ("Set out", "There", "Set up"):
            press(browser, words)
        battery = browser.find_element(By.CSS_SELECTOR, "input[aria-label='Battery in per cent']")
        battery.send_keys("930")
        reads(browser, "A battery shows 0 to 100\u202f%.")
        battery.send_keys("\b")
        press(browser, "Note it")
        reads(browser, "93\u202f%")
        press(browser, "Back")
        press(browser, "Export")
        text = browser.execute_async_script(
            "const done = arguments[0];"
            "indexedDB.open('lucid-ridge-field').onsuccess = (event) => {"
            "  event.target.result.transaction('events').objectStore('events').getAll().onsuccess = (all) =>"
            "    done(JSON.stringify({lucid_ridge_events: 1, card_id: 0, events: all.target.result.map((item) "
            "=> item.event)}));"
            "};"
        )
    finally:
        browser.quit()
    events = json.loads(text)["events"]
    assert {item["kind"] for item in events} == {
        "countdown_started",
        "countdown_stopped",
        "reading",
        "taken",
        "late",
        "filter_missing",
        "undone",
        "set_out",
        "arrived",
        "ready",
        "battery",
    }
    screen.open("/logbook")
    screen.press("from the field")
    box = screen.find("//textarea[@aria-label='Text that was taken out']")
    screen.browser.execute_script(
        "const set = Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, 'value').set; "
        "set.call(arguments[0], arguments[1]);"
        "arguments[0].dispatchEvent(new Event('input', {bubbles: true}));",
        box,
        text,
    )
    screen.press("Read the text in")
    screen.reads(f"{len(events)} events read in")
    assert len(events_of(screen, card)) == 1
    screen.press("Read the text in")
    screen.reads("sent twice they count once")
    assert len(events_of(screen, card)) == 1


def test_what_is_packed_is_ticked_in_the_file_of_an_outing(screen, tmp_path):
    outing = next(item for item in screen.ask("GET", "/outings")["outings"] if "Bog" in item["name"])
    screen.ask("POST", f"/outings/{outing['id']}/cards")
    packing = screen.ask("GET", f"/outings/{outing['id']}")["packing"]
    left = [item for item in packing if not item["packed"]]
    with urllib.request.urlopen(f"{screen.address}/api/outings/{outing['id']}/take-along") as answer:
        (tmp_path / "bog.html").write_bytes(answer.read())
    browser = start_chromium()
    try:
        browser.get((tmp_path / "bog.html").as_uri())
        reads(browser, f"To pack: {len(left)} of {len(packing)} left")
        browser.find_element(By.CSS_SELECTOR, "[data-packing] summary").click()
        boxes = browser.find_elements(By.CSS_SELECTOR, "[data-packing] input:enabled")
        boxes[0].click()
        reads(browser, f"To pack: {len(left) - 1} of {len(packing)} left")
        boxes[1].click()
        reads(browser, f"To pack: {len(left) - 2} of {len(packing)} left")
        boxes[1].click()
        reads(browser, f"To pack: {len(left) - 1} of {len(packing)} left")
        browser.refresh()
        reads(browser, f"To pack: {len(left) - 1} of {len(packing)} left")
        # Two parts of the page asked for the first card's field session at once: there is one.
        runs = browser.execute_async_script(
            "const done = arguments[0];"
            "indexedDB.open('lucid-ridge-field').onsuccess = (event) => {"
            "  event.target.result.transaction('runs').objectStore('runs').getAll().onsuccess = (all) => "
            "done(all.target.result.map((run) => run.card_id));"
            "};"
        )
        assert len(runs) == len(set(runs)) > 0
    finally:
        browser.quit()


def test_a_browser_that_crashes_has_kept_what_was_ticked(screen, tmp_path):
    card = card_of(screen)
    kept = tmp_path / "profile"
    first = start_chromium(f"--user-data-dir={kept}", whole=True)
    try:
        first.get(f"{screen.address}/cards/{card}/run")
        reads(first, "Frame 1 of 3")
        first.execute_cdp_cmd("Network.enable", {})
        first.execute_cdp_cmd(
            "Network.emulateNetworkConditions",
            {"offline": True, "latency": 0, "downloadThroughput": 0, "uploadThroughput": 0},
        )
        press(first, "Taken")
        reads(first, "Frame 2 of 3")
    finally:
        # Not asked to leave, but ended at once.
        kill(first)
    again = start_chromium(f"--user-data-dir={kept}", whole=True)
    try:
        again.get(f"{screen.address}/cards/{card}/run")
        reads(again, "Frame 2 of 3")
        until(again, lambda: len(events_of(screen, card)) == 1, "what was ticked before the crash has not arrived")
    finally:
        again.quit()


def test_the_runner_opens_without_a_server_once_it_was_seen(whole_screen):
    screen = whole_screen
    card = card_of(screen)
    screen.size(390, 844)
    screen.open(f"/cards/{card}/run")
    browser = screen.browser
    reads(browser, "Frame 1 of 3")
    until(
        browser,
        lambda: browser.execute_async_script(
            "const done = arguments[0]; navigator.serviceWorker.ready.then(async () => done((await "
            "caches.keys()).length > 0 && !!navigator.serviceWorker.controller))"
        ),
        "no service worker",
    )
    # The steps' files come from the worker too, whole pages after one another.
    screen.open_shot(SHOT, "frame")
    screen.find("//*[@role='img' and @aria-label='The picture in tones']")
    screen.step("exposure")
    screen.dial("Shutter wanted")
    screen.open(f"/cards/{card}/run")
    reads(browser, "Frame 1 of 3")
    screen.expect_in_console("ERR_")
    screen.expect_in_console("Failed to fetch")
    browser.execute_cdp_cmd("Network.enable", {})
    # The worker's own requests fail as well: what it answers comes from what it has kept.
    browser.execute_cdp_cmd("Network.setBlockedURLs", {"urls": ["*/api/*"]})
    browser.execute_async_script(
        "const done = arguments[0]; fetch('/cards/1/run').then((a) => a.text()).then(() => done())"
    )
    browser.refresh()
    reads(browser, "Frame 1 of 3")
    browser.execute_cdp_cmd("Network.setBlockedURLs", {"urls": []})


def _the_logbook_shows_what_was_taken_and_what_it_teaches(screen):
    screen.open("/logbook")
    screen.count("[data-log] > li", 16)
    screen.find("//a[normalize-space()='Brown water over the sill']").click()
    screen.count("[data-frames] > li", len(screen.all("[data-frames] > li")) or 5)
    screen.reads("Sill stones")
    screen.open("/logbook?view=figures")
    screen.reads("Light against the plan")
    screen.open("/logbook?view=lessons")
    screen.reads("It takes 10.3 stops")
    screen.find("//*[@data-calibrations]/li[contains(., '10-stop ND')]//button[normalize-space()='Use it']").click()
    screen.reads("in use")
    screen.open_shot(SHOT, "exposure")
    screen.reads("10.3 by 12 frames, not 10")
    screen.open("/logbook?view=lessons")
    screen.press("No longer use it")
    screen.reads("Plans do not use it.")


def _a_streak_is_drawn_on_a_picture(screen):
    entry = next(item for item in screen.ask("GET", "/log")["entries"] if item["name"] == "Brown water over the sill")
    frame = next(item for item in screen.ask("GET", f"/log/{entry['id']}")["frames"] if item["measurable"])
    screen.ask("PATCH", f"/log/frames/{frame['id']}", {"streak_line": None})
    screen.network(latency_ms=300)
    screen.open(f"/logbook/{entry['id']}")
    screen.press("measure a streak")
    picture = screen.find("//*[@data-streak]")
    wide = picture.rect["width"]
    ActionChains(screen.browser).move_to_element_with_offset(
        picture, int(-wide / 4), 0
    ).click_and_hold().move_by_offset(int(wide / 2), 0).release().perform()
    screen.press("Keep it")
    # Half of the width of a 3:2 picture is three quarters of its short side.
    screen.reads("streak 75\u202f% of the short side")
    kept = next(item for item in screen.ask("GET", f"/log/{entry['id']}")["frames"] if item["id"] == frame["id"])
    assert kept["streak_line"] == pytest.approx([0.25, 0.5, 0.75, 0.5], abs=0.01)
    screen.press("measure the streak again")
    screen.press("Take it back")
    screen.press("measure a streak")
    # What is refused is said where it was typed, and stays there.
    screen.expect_in_console("422")
    typed = screen.find("//input[@aria-label='Length of the streak in per cent of the short side']")
    typed.send_keys("0.01")
    screen.press("Keep it")
    screen.reads("A streak shorter than 0.4\u202f% of the short side cannot be measured")
    assert typed.get_attribute("value") == "0.01"
    typed.send_keys("\b" * 4, "12")
    screen.press("Keep it")
    screen.reads("streak 12\u202f% of the short side")


def _files_are_read_in_by_hand(screen, tmp_path):
    good = tmp_path / "A.JPG"
    picture = np.clip(np.random.default_rng(1).normal(0.3, 0.1, (120, 180, 3)), 0, 1)
    good.write_bytes(write_jpeg(picture, FrameOrder(8.0, 1 / 60, 100.0, 35.0, 5.0), datetime(2026, 1, 2, 3, 4), "body"))
    bad = tmp_path / "B.JPG"
    bad.write_bytes(b"\xff\xd8\xffnothing")
    screen.expect_in_console("422")
    screen.expect_in_console("400")
    screen.open("/logbook")
    screen.find("//input[@aria-label='Files of the camera']").send_keys(f"{good}\n{bad}")
    screen.reads("2 of 2 read, 1 refused.")
    screen.reads("B.JPG")
    screen.reads("1 of no plan")
    screen.find("//input[@aria-label='Files of the camera']").send_keys(str(good))
    screen.reads("1 known before")
    assert sum(item["name"].startswith("Unplanned") for item in screen.ask("GET", "/log")["entries"]) == 1


def test_the_logbook(screen, tmp_path):
    """What was taken and what it teaches, a streak measured, files read in by hand."""
    in_turn(
        screen,
        _the_logbook_shows_what_was_taken_and_what_it_teaches,
        _a_streak_is_drawn_on_a_picture,
        partial(_files_are_read_in_by_hand, tmp_path=tmp_path),
    )

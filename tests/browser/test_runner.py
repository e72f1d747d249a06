"""The runner on a phone: frames ticked with no network, countdowns that are not lost, what differs, and what a thumb
does.
"""

import pytest
from runner import CLOCK, SHOT, events_of, open_runner, press, reads, until
from screen import in_turn
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By


def _frames_are_ticked_with_no_network_and_none_is_lost(screen):
    card, browser = open_runner(screen), screen.browser
    reads(browser, "Put on 10-stop ND")
    screen.expect_in_console("ERR_INTERNET_DISCONNECTED")
    screen.network(offline=True)
    press(browser, "Taken")
    reads(browser, "Frame 2 of 3")
    press(browser, "Skip")
    reads(browser, "Frame 3 of 3")
    reads(browser, "2 entries wait on this device")
    assert events_of(screen, card) == []
    # The page is gone and comes back while the network is away: the device knows what was done.
    screen.network()
    browser.refresh()
    reads(browser, "Frame 3 of 3")
    until(browser, lambda: len(events_of(screen, card)) == 1, "what was ticked has not arrived")
    press(browser, "Undo")
    reads(browser, "Frame 2 of 3")
    press(browser, "Taken")
    until(browser, lambda: len(events_of(screen, card)) == 2, "the second has not arrived")
    entry = next(item for item in screen.ask("GET", "/log")["entries"] if item["name"] == SHOT)
    assert entry["frames"] == 2


def _what_differs_is_planned_anew(screen):
    open_runner(screen, latency_ms=300)
    browser = screen.browser
    reads(browser, "2'08\"")
    press(browser, "It differs")
    press(browser, "10-stop ND")
    # Ten stops less: an eighth.
    reads(browser, "1/8")
    reads(browser, "no filter on")
    press(browser, "Undo")
    reads(browser, "2'08\"")


def _shown_s(browser):
    minutes, seconds = browser.find_element(By.CSS_SELECTOR, "[data-countdown]").text.split(":")
    return int(minutes) * 60 + int(seconds)


def test_a_countdown_runs_while_the_phone_sleeps_and_says_that_its_time_may_be_wrong(screen):
    card, browser = open_runner(screen), screen.browser
    reads(browser, "let it settle 0:05")
    browser.execute_script(CLOCK)
    press(browser, "Start")
    reads(browser, "let it settle")
    browser.execute_script("window.__pass(20000, true)")
    reads(browser, "exposing")
    browser.execute_script("window.__pass(300000, true)")
    reads(browser, "ago")
    reads(browser, "The device slept")
    press(browser, "Taken")
    until(browser, lambda: len(events_of(screen, card)) == 1, "the tick has not arrived")
    # In doubt it is noted as not known, not as exposed fully.
    assert events_of(screen, card)[0]["shutter_s"] is None


def test_a_countdown_that_ends_tells_how_long_was_exposed(screen):
    card, browser = open_runner(screen), screen.browser
    reads(browser, "let it settle 0:05")
    browser.execute_script(CLOCK)
    press(browser, "Start")
    reads(browser, "let it settle")
    browser.execute_script("window.__wait(20000)")
    reads(browser, "exposing")
    browser.execute_script("window.__wait(300000)")
    reads(browser, "ago")
    press(browser, "Taken")
    until(browser, lambda: len(events_of(screen, card)) == 1, "the tick has not arrived")
    # The card asks for two minutes and eight seconds.
    assert events_of(screen, card)[0]["shutter_s"] == pytest.approx(128, rel=0.05)
    # What was ticked is done with.
    assert not browser.find_elements(By.CSS_SELECTOR, "[data-counting]")


def test_a_clock_that_is_set_does_not_end_a_countdown(screen):
    open_runner(screen)
    browser = screen.browser
    reads(browser, "let it settle 0:05")
    browser.execute_script(CLOCK)
    press(browser, "Start")
    browser.execute_script("window.__pass(3600000, false)")
    reads(browser, "jumped by 1:00:00")
    reads(browser, "exposing")
    assert _shown_s(browser) > 60


def test_a_countdown_is_not_lost_by_looking_elsewhere_or_by_a_reload(screen):
    card, browser = open_runner(screen), screen.browser
    reads(browser, "let it settle 0:05")
    press(browser, "Start")
    reads(browser, "exposing")
    started = _shown_s(browser)
    press(browser, "Note")
    until(browser, lambda: browser.find_elements(By.CSS_SELECTOR, "[data-counting]"), "no countdown above the note")
    reads(browser, "exposing, frame 1 of")
    press(browser, "Back")
    browser.find_element(By.CSS_SELECTOR, "[aria-label='the frame after']").click()
    reads(browser, "Frame 2 of 3")
    # One camera exposes one frame at a time.
    (start,) = [item for item in browser.find_elements(By.CSS_SELECTOR, "button") if item.text == "Start"]
    assert not start.is_enabled()
    browser.refresh()
    reads(browser, "reloaded")
    assert 0 < _shown_s(browser) <= started
    assert len(events_of(screen, card, "countdown_started")) == 1
    press(browser, "Stop")
    reads(browser, "let it settle 0:05")
    until(
        browser, lambda: len(events_of(screen, card, "countdown_stopped")) == 1, "that it was stopped has not arrived"
    )
    browser.refresh()
    reads(browser, "let it settle 0:05")


def _the_theme_chosen_in_the_runner_is_kept(screen):
    open_runner(screen)
    browser = screen.browser

    def shown():
        return browser.execute_script("return document.documentElement.dataset.theme")

    while shown() != "ember":
        before = shown()
        press(browser, "Theme")
        until(browser, lambda before=before: shown() != before, "the theme does not change")
    # Also where the next page is loaded from nothing.
    screen.open("/logbook")
    screen.find("//button[starts-with(normalize-space(), 'Menu')]")
    until(browser, lambda: screen.ask("GET", "/photographer")["theme"] == "ember", "the server does not know the theme")
    assert shown() == "ember"
    screen.ask("PATCH", "/photographer", {"theme": "graphite"})


def test_two_taps_tick_one_frame_and_undo_stands_where_the_thumb_is(screen):
    card, browser = open_runner(screen), screen.browser
    button = next(item for item in browser.find_elements(By.CSS_SELECTOR, "button") if item.text == "Taken")
    ActionChains(browser).double_click(button).perform()
    reads(browser, "Frame 2 of 3")
    until(browser, lambda: len(events_of(screen, card)) == 1, "the tick has not arrived")
    press(browser, "Undo frame 1")
    reads(browser, "Frame 1 of 3")
    press(browser, "Skip")
    reads(browser, "Frame 2 of 3")


def test_frames_are_planned_anew_ticked_and_skipped(screen):
    """With a filter left at home and with no network; the theme chosen is kept."""
    in_turn(
        screen,
        _what_differs_is_planned_anew,
        _the_theme_chosen_in_the_runner_is_kept,
        _frames_are_ticked_with_no_network_and_none_is_lost,
    )

"""The phone in cold, rain and darkness: gloves, the device's voice, targets for a thumb, and Ember without green or
blue light.
"""

import base64
import io
import time

import numpy as np
import pytest
from PIL import Image
from runner import SHOT, events_of, open_runner, press, reads, until
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys


def _held(browser, words, seconds):
    """Hold a finger on a button for so long."""
    button = next(
        item
        for item in browser.find_elements(By.CSS_SELECTOR, "[data-gloves] button")
        if item.text.strip().startswith(words)
    )
    ActionChains(browser).click_and_hold(button).pause(seconds).release().perform()


def _slide(browser, share):
    """Draw the knob so far along its way."""
    slide = browser.find_element(By.CSS_SELECTOR, "[data-gloves] [role=slider]")
    way = slide.size["width"] - 72
    left = -slide.size["width"] / 2 + 36
    ActionChains(browser).move_to_element_with_offset(slide, round(left), 0).click_and_hold().move_by_offset(
        round(way * share), 0
    ).release().perform()


def test_with_gloves_only_what_is_held_counts_until_a_slide_unlocks(screen):
    card, browser = open_runner(screen), screen.browser
    press(browser, "Gloves and rain")
    until(browser, lambda: browser.find_elements(By.CSS_SELECTOR, "[data-gloves]"), "not locked")
    assert {item.text.strip() for item in browser.find_elements(By.TAG_NAME, "button") if item.text.strip()} == {
        "Hold to start",
        "Hold: taken",
    }
    # A drop of rain, and a sleeve.
    _held(browser, "Hold: taken", 0.1)
    _held(browser, "Hold to start", 0.2)
    reads(browser, "Hold to start")
    _held(browser, "Hold: taken", 0.8)
    reads(browser, "Frame 2 of 3")
    until(browser, lambda: len(events_of(screen, card)) == 1, "what was held has not arrived")
    _held(browser, "Undo 1", 0.8)
    reads(browser, "Frame 1 of 3")
    _slide(browser, 0.5)
    assert browser.find_elements(By.CSS_SELECTOR, "[data-gloves]")
    browser.refresh()
    reads(browser, "Hold: taken")
    _slide(browser, 1.0)
    reads(browser, "It differs")


def test_a_remote_starts_the_countdown_and_ticks_after_it(screen):
    card, browser = open_runner(screen), screen.browser
    press(browser, "Gloves and rain")
    reads(browser, "Hold to start")
    browser.execute_script("document.activeElement.blur()")
    ActionChains(browser).send_keys(Keys.ENTER).perform()
    reads(browser, "let it settle")
    # While it counts a key does nothing.
    ActionChains(browser).send_keys(Keys.SPACE).send_keys(Keys.ENTER).perform()
    time.sleep(0.3)
    assert events_of(screen, card) == []
    reads(browser, "Frame 1 of 3")
    _slide(browser, 1.0)
    press(browser, "Stop")
    press(browser, "Gloves and rain")
    reads(browser, "Hold to start")
    _held(browser, "Hold: taken", 0.8)
    reads(browser, "Frame 2 of 3")


def test_countdowns_and_what_comes_next_are_spoken_once_chosen(screen):
    open_runner(screen)
    browser = screen.browser
    browser.execute_script("window.__said = []; speechSynthesis.speak = (item) => window.__said.push(item.text)")
    press(browser, "Start")
    reads(browser, "let it settle")
    assert browser.execute_script("return window.__said") == []
    press(browser, "Stop")
    press(browser, "Checks")
    browser.find_element(By.XPATH, "//label[contains(., 'spoken')]/input").click()
    press(browser, "Back")
    press(browser, "Start")
    until(browser, lambda: "3" in browser.execute_script("return window.__said"), "the seconds are not counted aloud")
    press(browser, "Stop")
    press(browser, "Taken")
    until(
        browser,
        lambda: browser.execute_script("return window.__said.at(-1)").startswith("Next: "),
        "what comes next is not said",
    )
    said = browser.execute_script("return window.__said")
    assert said[0] == "let it settle"


# Buttons, fields and links that are not in a sentence, with how far up and down a touch reaches them.
_REACHED = """
const small = [];
const labelled = (e) => e.matches('input[type=checkbox],input[type=radio]') && (e.closest('label') ?? document.querySelector(`label[for="${CSS.escape(e.id)}"]`)) || e;
for (const e of document.querySelectorAll('a[href],button,input,select,textarea,summary,[role=slider],[role=tab]')) {
  const target = labelled(e), style = getComputedStyle(target);
  let box = target.getBoundingClientRect();
  if (box.width <= 1 || !box.height || style.visibility === 'hidden' || style.opacity === '0' || e.closest('svg') || e.hash === '#main') continue;
  if (box.height >= arguments[0] - 0.5) continue;
  target.scrollIntoView({block: 'center', inline: 'center'});
  box = target.getBoundingClientRect();
  const x = box.left + box.width / 2, y = box.top + box.height / 2;
  const hit = (at) => { const found = document.elementFromPoint(x, at); return found && (target.contains(found) || found.closest('label') === target); };
  let up = 0, down = 0;
  while (up < 40 && hit(y - up - 1)) up++;
  while (down < 40 && hit(y + down + 1)) down++;
  if (up + down < arguments[0] - 1) small.push(`${e.tagName} ${(e.getAttribute('aria-label') || e.textContent || e.type).slice(0, 50)}: ${up + down}`);
}
return small;
"""


@pytest.fixture
def pages(screen):
    """Return the pages that are used on a phone, each with what it reads when it is there."""
    shot = next(item for item in screen.ask("GET", "/notebook")["shots"] if item["name"] == SHOT)
    card = screen.ask("GET", f"/shots/{shot['id']}")["card_id"]
    entry = screen.ask("GET", "/log")["entries"][0]
    outing = screen.ask("GET", "/outings")["outings"][0]
    steps = ("place", "light", "frame", "depth", "exposure", "sequence", "field")
    return {
        "/": SHOT,
        f"/cards/{card}/run": "Frame 1 of 3",
        f"/cards/{card}": SHOT,
        "/which-place": "Which place",
        "/outings": outing["name"],
        f"/outings/{outing['id']}": outing["name"],
        "/logbook": entry["name"],
        f"/logbook/{entry['id']}": "On one clock",
        "/logbook?view=practice": "Practice",
        "/locations": "Sallow Estuary",
        "/kit": "10-stop ND",
    } | {f"/shots/{shot['id']}/{step}": SHOT for step in steps}


# Whatever a style can colour; a gradient or shadow may hold several.
_COLOURS = """
const found = new Set();
const names = ['color','backgroundColor','borderTopColor','borderRightColor','borderBottomColor','borderLeftColor','outlineColor','textDecorationColor','caretColor','fill','stroke','backgroundImage','boxShadow','columnRuleColor','accentColor'];
const look = (element, pseudo) => {
  const style = getComputedStyle(element, pseudo);
  if (pseudo && pseudo !== '::placeholder' && style.content === 'none') return;
  for (const name of names) {
    const side = /^border(\\w+)Color$/.exec(name);
    if (side && style[`border${side[1]}Width`] === '0px' || name === 'outlineColor' && style.outlineStyle === 'none') continue;
    for (const [, r, g, b, a] of (style[name] ?? '').matchAll(/rgba?\\((\\d+), (\\d+), (\\d+)(?:, ([\\d.]+))?\\)/g))
    if (a !== '0' && (+g > 0 || +b > 0)) found.add(`${element.tagName}${pseudo ?? ''}.${name} ${r},${g},${b} ${element.textContent.slice(0, 20)}`);
  }
};
for (const element of document.querySelectorAll('body, body *')) {
  if (element.closest('[data-backdrop]') || !element.getClientRects().length) continue;
  look(element); look(element, '::before'); look(element, '::after');
  if (element.matches('input, textarea')) look(element, '::placeholder');
}
return [...found].slice(0, 12);
"""


def test_in_ember_a_thumb_finds_everything_and_nothing_is_green_or_blue(screen, pages):
    screen.size(390, 844)
    screen.ask("PATCH", "/photographer", {"theme": "ember"})
    small, wrong = {}, {}
    for path, words in pages.items():
        screen.open(path)
        reads(screen.browser, words)
        until(
            screen.browser,
            lambda: screen.browser.execute_script("return document.documentElement.dataset.theme") == "ember",
            "not in Ember",
        )
        time.sleep(0.6)
        reached = screen.browser.execute_script(_REACHED, 56 if path.endswith("/run") else 44)
        if reached:
            small[path] = reached
        colours = screen.browser.execute_script(_COLOURS)
        shown = np.asarray(
            Image.open(io.BytesIO(base64.b64decode(screen.browser.get_screenshot_as_base64()))).convert("RGB")
        )
        lit = int((shown[..., 1:].max(axis=2) > 0).sum())
        assert shown[..., 0].max() > 60
        if colours or lit:
            wrong[path] = (lit, colours)
    assert (small, wrong) == ({}, {})

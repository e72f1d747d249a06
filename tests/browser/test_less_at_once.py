"""What a newcomer sees of each step: few controls, few words, and nothing that scrolls within the page."""

from __future__ import annotations

from typing import Any

import pytest
from screen import Screen
from selenium.webdriver.common.keys import Keys

MOST_TAB_STOPS, MOST_WORDS = 30, 160
# A step that is measured the same four times in a row is there.
_SAME = 4
# Tab stops in sight of the step and its reasons; words without figures and without labels in drawings; and parts that
# scroll within the page.
_IN_SIGHT = """
const parts = [document.getElementById('main'), document.querySelector('[data-because]')];
const seen = (e) => {
  const r = e.getBoundingClientRect();
  return r.width > 2 && r.height > 2 && r.bottom > 0 && r.top < innerHeight &&
    (!e.closest('details:not([open])') || e.closest('summary'));
};
const stops = parts.flatMap((p) => [...p.querySelectorAll(
  'button, a[href], input, select, textarea, summary, [tabindex="0"]')])
  .filter((e) => seen(e) && e.tabIndex >= 0 && !e.disabled && (e.type !== 'radio' || e.checked));
let words = 0;
for (const part of parts) {
  const texts = document.createTreeWalker(part, NodeFilter.SHOW_TEXT);
  for (let node = texts.nextNode(); node; node = texts.nextNode()) {
    const within = node.parentElement;
    if (!seen(within) || within.closest('option, style, svg, table')) continue;
    const range = document.createRange();
    range.selectNodeContents(node);
    const box = range.getBoundingClientRect();
    if (box.width > 4 && box.top < innerHeight)
      words += node.textContent.trim().split(/\\s+/).filter((word) => /[a-z]{2}/i.test(word)).length;
  }
}
const scrolls = [...document.querySelectorAll('main *')].filter((e) =>
  ['auto', 'scroll'].includes(getComputedStyle(e).overflowY) && !e.closest('[role=region]') &&
  e.clientHeight > 0 && e.scrollHeight > e.clientHeight + 2).map((e) => e.scrollHeight - e.clientHeight);
return {stops: stops.length, words, scrolls};
"""


def _newcomer(screen: Screen, shot: str, step: str) -> dict[str, Any]:
    screen.open("/")
    screen.browser.execute_script("localStorage.setItem('opened', '{}')")
    screen.open_shot(shot, step)
    screen.find("//*[@data-because='closed']")
    screen.find("//main//h3")
    screen.wait(lambda: "Fetching" not in screen.text())
    found: list[dict[str, Any]] = []

    def rests() -> bool:
        found.append(screen.browser.execute_script(_IN_SIGHT))
        return len(found) > _SAME and all(item == found[-1] for item in found[-_SAME:])

    screen.wait(rests, f"{step} does not come to rest")
    return found[-1]


@pytest.mark.parametrize("step", ["place", "light", "frame", "depth", "exposure", "sequence", "field"])
def test_a_step_is_taken_in_at_a_glance(screen, step):
    for shot in ("Posts at the ebb", "Sundew after rain"):
        found = _newcomer(screen, shot, step)
        print(shot, step, found)
        assert found["stops"] <= MOST_TAB_STOPS, f"{shot}: {found}"
        assert found["words"] <= MOST_WORDS, f"{shot}: {found}"
        assert not found["scrolls"], f"{shot}: {found}"


def test_what_is_folded_opens_by_a_reason_by_key_and_stays(screen):
    _newcomer(screen, "Posts at the ebb", "exposure")
    assert not screen.find("//details[.//h3[contains(., 'Range and bracket')]]").get_attribute("open")
    screen.find("//summary[.//h3[contains(., 'Range and bracket')]]").click()
    screen.find("//details[@open and .//h3[contains(., 'Range and bracket')]]")
    screen.open_shot("Posts at the ebb", "exposure")
    screen.find("//details[@open and .//h3[contains(., 'Range and bracket')]]")
    screen.focus_nothing()
    screen.keys("b")
    screen.find("//*[@data-because='open']")
    screen.find("//section[@aria-label='Take care']")
    screen.keys("b")
    screen.find("//*[@data-because='closed']")


def test_a_figure_shows_its_working_and_a_reason_its_cure(screen):
    screen.open_shot("Posts at the ebb", "depth")
    screen.find("//button[@data-working='hyperfocal']").click()
    shown = screen.find("//*[starts-with(@aria-label, 'Working')]")
    screen.wait(lambda: "f² ÷ (N c) + f" in shown.text and "set by you" in shown.text)
    screen.keys(Keys.ESCAPE)
    screen.ask("PATCH", f"/shots/{screen.shot_id()}", {"roll_deg": 4})
    screen.open_shot("Posts at the ebb", "frame")
    screen.find("//button[@data-cure='composition.not_level']").click()
    screen.wait(lambda: screen.facts()["roll_deg"] == 0)
    screen.count("[data-cure='composition.not_level']", 0)
    screen.undo()
    screen.wait(lambda: screen.facts()["roll_deg"] == 4)

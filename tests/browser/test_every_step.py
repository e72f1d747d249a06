"""Every step of five shots, walked through once: what is drawn and told there, and whether everyone can read and reach
it.
"""

import re

import pytest
from axe import serious
from screen import STEPS

POSTS, BOULDER, MIDNIGHT, SUNDEW = (
    "Posts at the ebb",
    "Split boulder under the fell",
    "Midnight sun over the sound",
    "Sundew after rain",
)
# Drawings with labels in them.
LABELLED = ("place", "light", "frame")
PANELS = ("Scene", "Reading", "Fine-tuner", "Framings", "Crop, panorama")

OVERLAPS = """
const boxes = [...document.querySelectorAll('svg [data-label]')].map(e => [e.closest('svg'), e.getBoundingClientRect(), e.textContent]);
const found = [];
boxes.forEach(([svg, a, text], at) => {
  const frame = svg.getBoundingClientRect();
  if (a.left < frame.left - 1 || a.right > frame.right + 1 || a.top < frame.top - 1 || a.bottom > frame.bottom + 1) found.push(text + ' leaves the drawing');
  boxes.slice(at + 1).forEach(([other, b, words]) => {
    const across = Math.min(a.right, b.right) - Math.max(a.left, b.left), down = Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top);
    if (svg === other && across > 1 && down > 3) found.push(text + ' and ' + words);
  });
});
return [boxes.length, found];
"""
VALUES = (
    "return [...document.querySelectorAll('input, [aria-valuetext]')].map(e => `${e.value ?? ''} "
    "${e.getAttribute('aria-valuetext') ?? ''}`)"
)
BEYOND_THEIR_LIMITS = """
return [...document.querySelectorAll('[role=slider]')].filter(e => {
  const [least, now, most] = ['min', 'now', 'max'].map(n => parseFloat(e.getAttribute('aria-value' + n)));
  return !(least <= now && now <= most);
}).map(e => e.outerHTML.slice(0, 200));
"""
REASONS = "footer button, [aria-label='Because, list'] button"
CLICK_REASON = (
    "const button = document.querySelectorAll(arguments[0])[arguments[1]]; button?.click(); return button?.textContent;"
)


@pytest.mark.parametrize(
    "shots", ((POSTS,), (BOULDER, "Layered riggs"), (MIDNIGHT,), (SUNDEW,)), ids=lambda shots: shots[0]
)
def test_every_step(screen, shots):
    for shot in shots:
        _walked(screen, shot)


def _walked(screen, shot):
    screen.open_shot(shot)
    labels, found = 0, []
    for step in STEPS:
        screen.step(step)
        _there(screen, step)
        if shot == BOULDER and step not in ("sequence", "field"):
            screen.wait(lambda: screen.all("[role=slider]"), step)
        found += [f"{step}: {item}" for item in _untidy(screen)]
        assert len(screen.all("h1")) == 1, step
        if shot in (POSTS, SUNDEW):
            found += [f"{step}: {item}" for item in serious(screen)]
            if step == "frame":
                found += _in_its_panels(screen, (*PANELS, "Close up") if shot == SUNDEW else PANELS)
        if shot == POSTS and step != "field":
            _as_figures_and_back(screen)
        if step in LABELLED:
            for size in ((1920, 1080), (1280, 800)):
                screen.size(*size)
                _there(screen, step)
                count, overlaps = screen.browser.execute_script(OVERLAPS)
                labels += count
                found += [f"{step} at {size[0]}: {item}" for item in overlaps]
        if shot == MIDNIGHT:
            _every_reason_leads_somewhere(screen, step)
    assert not found, "\n".join(sorted(set(found)))
    assert labels > 5


def _there(screen, step):
    """Wait until all of a step is drawn at the window's size."""
    screen.wait(lambda: screen.all("main *") and "Fetching" not in screen.text(), step)
    if step in LABELLED:
        screen.wait(lambda: screen.all("figure svg"), step)
    # What a new size asks for is measured in one picture of the screen, and drawn by the next but one.
    screen.browser.execute_async_script(
        "const done = arguments[0]; let left = 3; const next = () => (left-- ? requestAnimationFrame(next) : "
        "done()); next();"
    )


def _untidy(screen):
    """Return digits that nobody needs, words stuck to themselves (such as a name and the kind of thing it is), and
    sliders beyond their ends.
    """
    shown = f"{screen.text()} {' '.join(screen.browser.execute_script(VALUES))}"
    found = re.findall(r"\d\.\d{5,}|\d[eE]-?\d\d|NaN|undefined|\[object", shown) + re.findall(
        r"([a-z]{5,})\1", shown.lower()
    )
    return [*found, *screen.browser.execute_script(BEYOND_THEIR_LIMITS)]


def _in_its_panels(screen, panels):
    found = []
    for panel in panels:
        screen.find(f"//button[@role='tab' and normalize-space()='{panel}']").click()
        # The rest of the page is as it was.
        found += [f"{panel}: {finding}" for finding in serious(screen, "[role=tabpanel]:not([hidden]), [role=tablist]")]
    return found


def _as_figures_and_back(screen):
    screen.figures("as figures")
    screen.find("//figure//table//td")
    screen.figures("as drawing")


def _every_reason_leads_somewhere(screen, step):
    for at in range(len(screen.all(REASONS))):
        # In one go: an answer may draw the list again at any moment.
        name = screen.browser.execute_script(CLICK_REASON, REASONS, at)
        if name is None:
            break
        screen.wait(lambda: screen.browser.execute_script("return document.activeElement !== document.body"), name)
        screen.step(step)

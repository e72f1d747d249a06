"""How long a dial moved in the browser takes to show its consequences on loopback, and how often a dragged finder is redrawn. Run it with tools/bench."""

from __future__ import annotations

import math
import os
import statistics

from chromium import start_chromium
from screen import Screen

# From the key press to the first frame in which the depth verdict has changed, measured inside the page.
MEASURE = """
const done = arguments[arguments.length - 1];
const strip = document.querySelector('svg[aria-label="Aperture scale"]');
const verdict = () => document.querySelector('[data-step=depth]').getAttribute('aria-label');
const before = verdict(), began = performance.now();
strip.dispatchEvent(new KeyboardEvent('keydown', {key: arguments[0], bubbles: true}));
const look = () => verdict() !== before ? done(performance.now() - began) : requestAnimationFrame(look);
requestAnimationFrame(look);
"""


# Counts the pictures in which the finder has changed, for as long as it is asked to.
COUNT = """
const finder = document.querySelector('[data-bench] svg');
window.__drawn = 0; window.__began = performance.now(); let last = '';
const look = () => {
  const now = [...finder.querySelectorAll('path')].map(p => p.getAttribute('d')).join();
  if (now !== last) { last = now; window.__drawn += 1; }
  requestAnimationFrame(look);
};
requestAnimationFrame(look);
"""


def redraws_a_second(screen: Screen) -> float:
    """Return how often the finder is redrawn while the camera is dragged over the ground for some two seconds."""
    handle = screen.handle("Position of the camera")
    box = handle.rect
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2

    def mouse(kind: str, step: float) -> None:
        where = {"x": x + step, "y": y + step / 2, "button": "left", "buttons": 1, "clickCount": 1}
        screen.browser.execute_cdp_cmd("Input.dispatchMouseEvent", {"type": kind, **where})

    mouse("mousePressed", 0)
    screen.browser.execute_script(COUNT)
    for step in range(150):
        mouse("mouseMoved", 30 * math.sin(step / 12))
    drawn, took = screen.browser.execute_script("return [window.__drawn, performance.now() - window.__began]")
    mouse("mouseReleased", 0)
    return float(drawn / took * 1000)


def main() -> None:
    browser = start_chromium()
    try:
        screen = Screen(browser, os.environ["LUCID_RIDGE_ADDRESS"])
        screen.size(1280, 800)
        screen.open_shot("Split boulder under the fell", "depth")
        screen.count("[data-slice]", 2)
        browser.set_script_timeout(10)
        times = [browser.execute_async_script(MEASURE, "ArrowLeft" if turn % 2 else "ArrowRight") for turn in range(20)]
        screen.open_shot("Split boulder under the fell", "frame")
        screen.handle("Position of the camera")
        redraws = redraws_a_second(screen)
        scripts = browser.execute_script(
            "return performance.getEntriesByType('resource').filter(r => r.name.endsWith('.js')).map(r => r.encodedBodySize)"
        )
        print(f"\n{'interface, in Chromium':44}{'here':>10}{'':12}{'goal':>8}")
        print(
            f"{'a dial moved until its consequences show':44}{statistics.median(times):10.0f}{'':12}{100:8}   [ms, median; worst {max(times):.0f}]"
        )
        print(f"{'finder redrawn while the camera is dragged':44}{redraws:10.0f}{'':12}{30:8}   [a second]")
        print(f"{'JavaScript of notebook and one step':44}{sum(scripts) / 1000:10.0f}{'':12}{300:8}   [kB, compressed]")
    finally:
        browser.quit()


if __name__ == "__main__":
    main()

"""How long a dial moved in the browser takes to show its consequences on loopback, and how often a dragged finder is
redrawn.

Run it with tools/bench.
"""

from __future__ import annotations

import os
import statistics

from chromium import start_chromium
from screen import Screen

# From the key press to the first frame in which the depth verdict has changed, measured inside the page.
MEASURE = """
const done = arguments[arguments.length - 1];
const strip = document.querySelector('svg[aria-label="Aperture scale"]');
const verdict = () => document.querySelector('[data-step=depth]').textContent;
const before = verdict(), began = performance.now();
strip.dispatchEvent(new KeyboardEvent('keydown', {key: arguments[0], bubbles: true}));
const look = () => verdict() !== before ? done(performance.now() - began) : requestAnimationFrame(look);
requestAnimationFrame(look);
"""


# A hand that moves with every picture of the screen: counts the pictures in which the finder has changed, for two
# seconds.
DRAG = """
const done = arguments[arguments.length - 1], handle = arguments[0], x = arguments[1], y = arguments[2];
const finder = document.querySelector('[data-bench] canvas');
const began = performance.now(); let last = '', drawn = 0, step = 0;
const look = () => {
  const now = finder.dataset.drawn;
  if (now !== last) { last = now; drawn += 1; }
  if (performance.now() - began > 2000) return done(drawn / 2);
  step += 1;
  const where = {pointerId: 1, pointerType: 'mouse', buttons: 1, bubbles: true};
  handle.dispatchEvent(new PointerEvent('pointermove', {...where, clientX: x + 30 * Math.sin(step / 12), clientY: y + 20 * Math.cos(step / 9)}));
  requestAnimationFrame(look);
};
requestAnimationFrame(look);
"""


def redraws_a_second(screen: Screen) -> float:
    """Return how often the finder is redrawn while the camera is dragged over the ground."""
    handle = screen.handle("Position of the camera")
    box = handle.rect
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    press = {"x": x, "y": y, "button": "left", "buttons": 1, "clickCount": 1}
    screen.browser.execute_cdp_cmd("Input.dispatchMouseEvent", {"type": "mousePressed", **press})
    found = screen.browser.execute_async_script(DRAG, handle, x, y)
    screen.browser.execute_cdp_cmd("Input.dispatchMouseEvent", {"type": "mouseReleased", **press})
    return float(found)


def main() -> None:
    browser = start_chromium()
    try:
        screen = Screen(browser, os.environ["LUCID_RIDGE_ADDRESS"])
        screen.size(1280, 800)
        # Responses of the service worker are reported with their unpacked size.
        browser.execute_cdp_cmd("Network.enable", {})
        browser.execute_cdp_cmd("Network.setBypassServiceWorker", {"bypass": True})
        screen.open_shot("Split boulder under the fell", "depth")
        screen.count("[data-slice]", 2)
        browser.set_script_timeout(10)
        scripts = browser.execute_script(
            "return performance.getEntriesByType('resource').filter(r => r.name.endsWith('.js')).map(r => "
            "r.encodedBodySize)"
        )
        times = [browser.execute_async_script(MEASURE, "ArrowLeft" if turn % 2 else "ArrowRight") for turn in range(20)]
        screen.open_shot("Split boulder under the fell", "frame")
        screen.handle("Position of the camera")
        screen.find("//*[@data-bench]//canvas[@data-drawn]")
        redraws = redraws_a_second(screen)
        print(f"\n{'interface, in Chromium':44}{'here':>10}{'':12}{'goal':>8}")
        print(
            f"{'a dial moved until its consequences show':44}{statistics.median(times):10.0f}{'':12}{80:8}   "
            f"[ms, median; worst {max(times):.0f}]"
        )
        print(f"{'finder redrawn while the camera is dragged':44}{redraws:10.0f}{'':12}{30:8}   [a second]")
        print(f"{'JavaScript of notebook and one step':44}{sum(scripts) / 1000:10.0f}{'':12}{300:8}   [kB, compressed]")
    finally:
        browser.quit()


if __name__ == "__main__":
    main()

"""How long a dial moved in the browser takes to show its consequences on loopback. Run it with tools/bench."""

from __future__ import annotations

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


def main() -> None:
    browser = start_chromium()
    try:
        screen = Screen(browser, os.environ["LUCID_RIDGE_ADDRESS"])
        screen.size(1280, 800)
        screen.open_shot("Split boulder under the fell", "depth")
        screen.count("[data-slice]", 2)
        browser.set_script_timeout(10)
        times = [browser.execute_async_script(MEASURE, "ArrowLeft" if turn % 2 else "ArrowRight") for turn in range(20)]
        scripts = browser.execute_script(
            "return performance.getEntriesByType('resource').filter(r => r.name.endsWith('.js')).map(r => r.encodedBodySize)"
        )
        print(f"\n{'interface, in Chromium':44}{'here':>10}{'':12}{'goal':>8}")
        print(
            f"{'a dial moved until its consequences show':44}{statistics.median(times):10.0f}{'':12}{100:8}   [ms, median; worst {max(times):.0f}]"
        )
        print(f"{'JavaScript of notebook and one step':44}{sum(scripts) / 1000:10.0f}{'':12}{300:8}   [kB, compressed]")
    finally:
        browser.quit()


if __name__ == "__main__":
    main()

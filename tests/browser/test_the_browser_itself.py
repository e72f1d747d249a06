"""The browser of the tests ends on request."""

import time
from pathlib import Path

from chromium import processes_of, start_chromium


def test_a_browser_that_is_closed_leaves_no_process():
    browser = start_chromium()
    browser.get("about:blank")
    running = processes_of(browser)
    assert len(running) > 3
    browser.quit()
    for _ in range(100):
        left = [pid for pid in running if Path(f"/proc/{pid}").exists()]
        if not left:
            break
        time.sleep(0.1)
    assert left == []

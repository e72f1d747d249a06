"""A phone's browser killed at random moments with a countdown under way: nothing that was kept on the device may be
lost, and each countdown goes on.

.venv/bin/python tools/on_demo.py bench/phone.py        (PHONE_ROUNDS=100)
"""

from __future__ import annotations

import os
import random
import sys
import tempfile
import time
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "tests"))

from chromium import kill, start_chromium
from runner import press, reads

ROUNDS = int(os.environ.get("PHONE_ROUNDS", "100"))
SEED = 34
_KEPT = """
const done = arguments[0];
indexedDB.open('lucid-ridge-field').onsuccess = (event) => {
  const all = event.target.result.transaction('events').objectStore('events').getAll();
  all.onsuccess = () => done(all.result.map((item) => (item.event ?? item).id));
};
"""


def main() -> None:
    chance = random.Random(SEED)
    address = os.environ["LUCID_RIDGE_ADDRESS"]
    lost = resumed = counting = 0
    known: set[str] = set()
    with tempfile.TemporaryDirectory(ignore_cleanup_errors=True) as profile:
        for number in range(ROUNDS):
            browser = start_chromium(f"--user-data-dir={profile}", whole=True)
            try:
                browser.get(f"{address}/cards/1/run")
                reads(browser, "Put on" if not known else "Theme")
                time.sleep(0.3)
                kept = set(browser.execute_async_script(_KEPT))
                lost += len(known - kept)
                if counting:
                    resumed += "reloaded" in browser.find_element("tag name", "body").text
                    press(browser, "Stop")
                press(browser, "Start")
                reads(browser, "let it settle")
                if chance.random() < 0.5:
                    press(browser, "Note")
                # What the page shows as under way is on the disk, or on its way there: it is read as kept before the
                # kill.
                known = set(browser.execute_async_script(_KEPT))
                counting += 1
                time.sleep(chance.uniform(0.0, 1.5))
            finally:
                kill(browser)
            print(f"\r{number + 1} of {ROUNDS}, lost {lost}, went on {resumed}", end="", flush=True)
    print(
        f"\nkept on the device before the kills: {len(known)} events; lost: {lost}; countdowns that went on: "
        f"{resumed} of {counting - 1}"
    )
    assert lost == 0
    assert resumed == counting - 1


main()

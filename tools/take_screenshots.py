"""One picture of each main view from the demo data, into docs/screenshots/."""

from __future__ import annotations

import os
import time
from pathlib import Path

from chromium import start_chromium
from screen import Screen

TARGET = Path(__file__).resolve().parent.parent / "docs" / "screenshots"
# name, shot, step, theme, phone
STEPS = (
    ("place", "Posts at the ebb", "place", "Graphite", False),
    ("light", "Posts at the ebb", "light", "Graphite", False),
    ("skyline", "Split boulder under the fell", "light", "Graphite", False),
    ("year", "Posts at the ebb", "light", "Graphite", False),
    ("frame", "Split boulder under the fell", "frame", "Graphite", False),
    ("depth", "Posts at the ebb", "depth", "Graphite", False),
    ("depth-close-up", "Sundew after rain", "depth", "Graphite", False),
    ("exposure", "Posts at the ebb", "exposure", "Graphite", False),
    ("field", "Posts at the ebb", "field", "Graphite", False),
    ("picture", "Split boulder under the fell", "exposure", "Graphite", False),
    ("solver", "Posts at the ebb", "exposure", "Graphite", False),
)
# What is pressed before the picture is taken.
VIEWS = {
    "skyline": ("The skyline",),
    "year": ("The year", "Search the year", "Go through the year"),
    "frame": ("Reading",),
    "picture": ("Picture in tones",),
    "solver": ("solve",),
}
PAGES = (
    ("notebook", "/", "//h2", False),
    ("locations", "/locations", "//*[@data-track]", False),
    ("which-place", "/which-place?from={day}&days=2", "//*[@data-prospect]", False),
    ("outing", "/outings/1", "//*[@data-ways]", False),
    ("logbook", "/logbook", "//img[contains(@alt, 'as it was taken')]", False),
    ("now", "/now", "//*[@data-now='stars']//*[@data-figure]", False),
    ("new-shot", "/new", "//*[normalize-space()='Seascape at sunset']", False),
    ("runner", "/cards/1/run", "//*[@data-countdown]", True),
)


def _graduated(screen: Screen, name: str, filter_id: int) -> None:
    """Put a graduated filter on the lens of a shot."""
    shot = next(item["id"] for item in screen.ask("GET", "/notebook")["shots"] if item["name"] == name)
    use = {"filter_id": filter_id, "on_lens": True, "on_when_metered": False}
    screen.ask("PATCH", f"/shots/{shot}", {"exposure": {"filters": [use]}})


def _at_a_place(screen: Screen, name: str) -> None:
    """Say where one stands, and begin a shot there."""
    place = next(item for item in screen.ask("GET", "/now")["places"] if item["name"].startswith("Sallow"))["name"]
    if name == "new-shot":
        screen.find("//*[normalize-space()='Seascape at sunset']").click()
    label = "One of your places" if name == "now" else "Where"
    screen.find(f"//input[@id = //label[starts-with(normalize-space(), '{label}')]/@for]").send_keys(place)
    answer = "contains(normalize-space(), 'to sunset') or contains(normalize-space(), 'to sunrise')"
    screen.find(f"//*[{answer}]" if name == "now" else "//*[@aria-label='Time']")


def main() -> None:
    TARGET.mkdir(parents=True, exist_ok=True)
    browser = start_chromium()
    try:
        screen = Screen(browser, os.environ["LUCID_RIDGE_ADDRESS"])

        def take(name: str) -> None:
            # Fonts and the last answers settle.
            browser.execute_async_script("document.fonts.ready.then(() => arguments[0]())")
            screen.wait(lambda: not screen.all("canvas[data-tones]:not([data-drawn])"), f"the picture in {name}")
            time.sleep(0.7)
            browser.save_screenshot(str(TARGET / f"{name}.png"))
            print(f"docs/screenshots/{name}.png")

        def size(phone: bool) -> None:
            screen.size(*((390, 844) if phone else (1280, 800)))

        # Forecasts are asked for once, so that there is something to rank by.
        for location in screen.ask("GET", "/locations")["locations"]:
            screen.ask("GET", f"/locations/{location['id']}/forecast")
        day = min(shot["date_local"] for shot in screen.ask("GET", "/notebook")["shots"] if shot["date_local"])
        for name, path, ready, phone in PAGES:
            size(phone)
            screen.open(path.format(day=day))
            screen.find(ready)
            if name in ("now", "new-shot"):
                _at_a_place(screen, name)
            if name == "runner":
                # Out before dawn.
                browser.execute_script("document.documentElement.dataset.theme = 'ember'")
            take(name)
        grad = next(item["id"] for item in screen.ask("GET", "/kit")["filters"] if item["kind"] == "graduated")
        for name, shot, step, theme, phone in STEPS:
            size(phone)
            if name == "picture":
                _graduated(screen, shot, grad)
            screen.open_shot(shot, step)
            screen.menu(theme)
            screen.find("//figure//*[name()='svg'] | //article")
            for button in VIEWS.get(name, ()):
                screen.press(button)
                if button == "Search the year":
                    screen.wait(lambda: screen.all("[data-hit]"))
            if step == "frame" or name == "picture":
                screen.find("//canvas[@data-drawn]")
            if step == "light" and name != "year":
                screen.find("//*[@data-window]")
            if name == "solver":
                screen.reads("plans were judged")
            if name == "year":
                screen.wait(lambda: len(screen.all("[data-season]")) > 20)
            take(name)
    finally:
        browser.quit()


if __name__ == "__main__":
    main()

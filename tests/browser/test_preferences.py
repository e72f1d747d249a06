"""Figures as the photographer reads them: in every sentence, drawing and field, and read back as they are written."""

from __future__ import annotations

import re

from screen import in_turn
from selenium.webdriver.common.keys import Keys

POSTS = "Posts at the ebb"


def _prefer(screen, *labels):
    screen.menu("Preferences")
    for label in labels:
        screen.find(f"//*[@role='dialog']//label[starts-with(normalize-space(), '{label}')]").click()
        screen.find(f"//*[@role='dialog']//label[starts-with(normalize-space(), '{label}') and @data-state='checked']")
    screen.press("Close")
    screen.wait(lambda: not screen.all("[role=dialog]"))


def _feet_twelve_hours_and_the_month_first(screen):
    screen.open_shot(POSTS, "light")
    metric = screen.facts()
    _prefer(screen, "feet and inches", "12 hours", "month first", "halves")
    screen.wait(lambda: re.fullmatch(r"[A-Z]\w\w \d{1,2}, \d{4}", screen.field("Date").get_attribute("value")))
    screen.wait(lambda: re.fullmatch(r"\d{1,2}:\d\d [ap]m", screen.field("Time of the shot").get_attribute("value")))
    assert re.search(r"gives [\d.]+ ft of water", screen.text())
    screen.step("depth")
    # Without a limit of one's own the field shows what is in force: 0.351 m to the ground.
    assert screen.field("Near limit").get_attribute("placeholder") == "14″"
    screen.type("Near limit", "2")
    screen.wait(lambda: screen.facts()["near_m"] == 0.6096)
    screen.wait(lambda: screen.field("Near limit").get_attribute("value") == "24″")
    assert "9.5" in [item.text for item in screen.all("[aria-label=Aperture] text, [role=slider] text")]
    assert not re.search(r"\d m\b", screen.find("//figure").text)
    # A bare figure is one of feet; the value that is kept is in metres.
    screen.step("frame")
    height = screen.field("Camera height")
    assert float(height.get_attribute("value")) == round(metric["camera_height_m"] / 0.3048, 3)
    screen.type("Camera height", "2")
    screen.wait(lambda: screen.facts()["camera_height_m"] == 0.6096)
    screen.type("Camera height", "50 cm")
    screen.wait(lambda: screen.facts()["camera_height_m"] == 0.5)
    # The same after a reload, and back.
    screen.browser.refresh()
    screen.wait(lambda: screen.field("Camera height").get_attribute("value") == "1.64")
    _prefer(screen, "metres")
    screen.wait(lambda: screen.field("Camera height").get_attribute("value") == "0.5")


def _a_date_is_typed_stepped_and_chosen(screen):
    screen.open_shot(POSTS, "light")
    screen.type("Date", "30.12.2026")
    screen.wait(lambda: screen.facts()["date_local"] == "2026-12-30")
    assert screen.field("Date").get_attribute("value") == "30 Dec 2026"
    screen.field("Date").send_keys(Keys.ARROW_UP, Keys.ARROW_UP)
    screen.wait(lambda: screen.facts()["date_local"] == "2027-01-01")
    # What can be read in two ways is asked about, and stays.
    screen.expect_in_console("422")
    screen.type("Date", "3/4/2027")
    screen.reads("3 Apr 2027 or 4 Mar 2027")
    assert screen.field("Date").get_attribute("value") == "3/4/2027"
    screen.field("Date").send_keys(Keys.ESCAPE)
    screen.wait(lambda: screen.field("Date").get_attribute("value") == "1 Jan 2027")
    # The calendar by mouse and by keys.
    screen.press("calendar: Date")
    screen.find("//*[@role='gridcell']//*[normalize-space()='15' and not(@data-outside-range)]").click()
    screen.wait(lambda: screen.facts()["date_local"] == "2027-01-15")
    screen.press("calendar: Date")
    day = screen.find("//*[@role='gridcell']//*[@data-selected]")
    screen.browser.execute_script("arguments[0].focus()", day)
    screen.keys(Keys.ARROW_RIGHT, Keys.ENTER)
    screen.wait(lambda: screen.facts()["date_local"] == "2027-01-16")
    screen.wait(lambda: not screen.all("[data-scope=popover][data-part=content]"))


def _a_term_is_explained_where_it_is_tapped(screen):
    screen.open_shot(POSTS, "depth")
    screen.find("//button[@data-working='hyperfocal']").click()
    screen.reads("the nearest focus at which infinity is still sharp")
    screen.keys(Keys.ESCAPE)
    screen.wait(lambda: "infinity is still sharp" not in screen.text())


def _polarisers_are_kept_off_wide_lenses_and_put_back(screen):
    # 35 mm with its polariser on.
    screen.open_shot("Brown water over the sill", "exposure")
    screen.menu("Preferences")
    screen.type("No polariser on lenses under", "50")
    screen.press("Close")
    screen.reads("You keep polarisers off lenses under 50 mm")
    screen.menu("Preferences")
    screen.type("No polariser on lenses under", Keys.BACKSPACE)
    screen.press("Close")
    screen.reads("is within textured")
    screen.wait(lambda: "You keep polarisers" not in screen.text())


def test_figures_and_dates_as_preferred(screen):
    """Feet and inches, dates, terms, and polarisers kept off wide lenses."""
    in_turn(
        screen,
        _a_date_is_typed_stepped_and_chosen,
        _a_term_is_explained_where_it_is_tapped,
        _polarisers_are_kept_off_wide_lenses_and_put_back,
        _feet_twelve_hours_and_the_month_first,
    )

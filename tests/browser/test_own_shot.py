"""A place, a kit and a shot of one's own, from nothing."""

import base64
import re

import pytest
from PIL import Image
from screen import STEPS, in_turn
from selenium.webdriver.common.keys import Keys


def _fill(screen, **texts):
    for name, text in texts.items():
        box = screen.find(f"//form//input[@name='{name}']")
        box.send_keys(Keys.CONTROL, "a")
        box.send_keys(text)


def test_a_place_of_ones_own_and_a_shot_there(screen):
    screen.open("/locations")
    screen.press("New location")
    _fill(screen, name="Kelda Head", coordinates="58°6'N 6°18'W", elevation_m="40")
    screen.reads("left empty: Europe/London")
    screen.press("Add the location")
    screen.reads("First viewpoint")
    for name, distance in (("Tide rock", "30 cm"), ("Skerry", "900 m")):
        screen.press("Add an element")
        _fill(screen, name=name, bearing_deg="270", distance_m=distance, width_m="2 cm", height_m="30 cm")
        screen.press("Add the element")
        screen.reads(name)

    screen.open("/")
    screen.press("New shot")
    screen.type("Name", "Skerry at dusk", enter=False)
    screen.press("Begin the shot")
    screen.find("//*[@data-step='place' and @data-mark='unsaid']")
    screen.find(
        "//select[@id = //label[normalize-space()='Where the tripod stands']/@for]/option[contains(., 'Kelda Head')]"
    ).click()
    screen.wait(lambda: screen.mark("place") == "holds")

    screen.step("light")
    screen.type("Date", "14 Mar 2027")
    screen.find("//*[@role='button' and @aria-label='Choose a time']").send_keys(Keys.ENTER)
    screen.wait(lambda: screen.mark("light") == "holds")
    screen.type("Time of the shot", "18:10")
    screen.wait(lambda: "golden hour" in screen.verdict("light"))

    screen.step("frame")
    screen.find("//select[@id = //label[normalize-space()='Lens']/@for]/option[contains(., '24–70')]").click()
    screen.type("Focal length", "24")
    screen.wait(lambda: screen.verdict("frame").count("24 mm"))

    screen.step("depth")
    for name in ("Tide rock", "Skerry"):
        screen.tick(name)
    screen.type("Aperture", "f/16")
    screen.count("[data-slice]", 4)

    screen.step("exposure")
    screen.reads("estimated")
    screen.type("Shutter", "1/8")
    screen.find("(//input[@id = //label[normalize-space()='ISO']/@for])[1]").send_keys("100", Keys.ENTER)
    screen.find("(//input[@id = //label[normalize-space()='Aperture']/@for])[1]").send_keys("f/16", Keys.ENTER)
    screen.wait(lambda: "estimated" not in screen.verdict("exposure"), "the reading is not in force")
    screen.tick("10-stop ND")
    screen.reads("2'08\"")

    screen.step("sequence")
    screen.count("[data-frame]", 4)
    screen.step("field")
    screen.press("Make a field card")
    screen.wait(lambda: screen.mark("field") == "holds")
    screen.find("//article//h2[normalize-space()='Skerry at dusk']")


def _bad_input_is_said_at_the_field_and_what_was_typed_stays(screen):
    screen.expect_in_console("422")
    screen.open_shot("Posts at the ebb", "depth")
    screen.type("Aperture", "f/1")
    screen.find("//*[@data-field='f_number']//*[@role='alert' and contains(., 'f/2.8')]")
    assert screen.field("Aperture").get_attribute("value") == "f/1"
    screen.type("Near limit", "soon")
    screen.find("//*[@data-field='near_m']//*[@role='alert' and contains(., 'not a distance')]")
    screen.browser.refresh()
    # After a reload the fields show what is in force, and offer what was not saved.
    screen.wait(lambda: screen.field("Near limit").get_attribute("placeholder") == "0.35 m")
    assert screen.field("Near limit").get_attribute("value") == ""
    screen.reads("Not saved: “soon”")
    screen.reads("Not saved: “f/1”")
    screen.field("Near limit").send_keys(Keys.ESCAPE)
    screen.wait(lambda: "soon" not in screen.text())


def _a_refused_form_keeps_everything(screen):
    screen.expect_in_console("422")
    screen.open("/locations")
    screen.press("New location")
    _fill(screen, name="Nowhere", coordinates="95, 2")
    screen.press("Add the location")
    screen.find("//form//*[@role='alert' and contains(., 'outside -90 to 90')]")
    screen.browser.refresh()
    screen.press("New location")
    assert screen.find("//form//input[@name='coordinates']").get_attribute("value") == "95, 2"
    assert screen.find("//form//input[@name='name']").get_attribute("value") == "Nowhere"


def _a_deleted_shot_can_be_brought_back(screen):
    screen.open_shot("Lichen map")
    screen.press("Lichen map")
    screen.press("Delete this shot …")
    screen.press("Delete")
    screen.wait(lambda: screen.browser.current_url.endswith("/"))
    screen.wait(lambda: not screen.browser.find_elements("xpath", "//h2/a[normalize-space()='Lichen map']"))
    screen.press("undo: delete Lichen map")
    screen.find("//h2/a[normalize-space()='Lichen map']")


def _time_is_chosen_on_the_fall_of_light(screen):
    screen.open_shot("Posts at the ebb", "light")
    handle = screen.handle("Time of the shot")
    assert handle.get_attribute("aria-valuetext") == "15:15"
    handle.send_keys(Keys.ARROW_RIGHT)
    screen.wait(lambda: screen.field("Time of the shot").get_attribute("value") == "15:16")
    screen.drag(screen.handle("Time of the shot"), -120, 0)
    screen.wait(lambda: screen.field("Time of the shot").get_attribute("value") < "12:30")
    screen.wait(lambda: "daylight" in screen.verdict("light"))


def _limits_are_dragged_on_the_ruler(screen):
    screen.open_shot("Posts at the ebb", "depth")
    screen.count("[data-slice]", 3)
    screen.drag(screen.handle("Near limit"), 200, 0)
    # The scale stands still under the hand: 200 of 673 px are 1.18 per metre of 3.96, so 1/0.351 becomes 1/0.60.
    screen.count("[data-slice]", 2)
    screen.wait(lambda: "to ∞ in 2" in screen.verdict("depth"))
    screen.wait(lambda: 0.56 < float(screen.value("Near limit").removesuffix(" m")) < 0.65)


def _the_camera_is_aimed_in_the_finder(screen):
    screen.open_shot("Split boulder under the fell", "frame")
    aim = screen.handle("Aim of the camera")
    aim.send_keys(Keys.ARROW_RIGHT, Keys.ARROW_RIGHT)
    screen.wait(lambda: screen.field("Bearing").get_attribute("value") == "136")
    # To the right turns right, by hand as by key.
    screen.drag(screen.handle("Aim of the camera"), 100, 0)
    screen.wait(lambda: 145 < float(screen.field("Bearing").get_attribute("value")) < 165)


def _days_without_sunset_or_sunrise(screen):
    screen.open("/locations")
    screen.find("//a[normalize-space()='Isfold']").click()
    screen.reads("Boathouse jetty")
    screen.press("A day of light")
    for date, words in (("21 Jun 2027", "no sunset"), ("21 Dec 2027", "no sunrise")):
        screen.type("Date", date)
        screen.reads(words)


def test_three_themes_and_no_green_or_blue_at_night(screen, tmp_path):
    screen.open_shot("Split boulder under the fell", "exposure")
    backgrounds = set()
    for theme in ("Graphite", "Paper", "Ember"):
        screen.menu(theme)
        screen.wait(
            lambda theme=theme: (
                screen.browser.execute_script("return document.documentElement.dataset.theme") == theme.lower()
            )
        )
        backgrounds.add(screen.browser.execute_script("return getComputedStyle(document.body).backgroundColor"))
    assert len(backgrounds) == 3

    def is_red(name):
        picture = tmp_path / f"{name}.png"
        screen.browser.save_screenshot(str(picture))
        red, green, blue = Image.open(picture).convert("RGB").split()
        assert (green.getextrema()[1], blue.getextrema()[1]) == (0, 0), name
        assert red.getextrema()[1] > 200

    for step in STEPS:
        screen.step(step)
        screen.find("//figure | //article")
        is_red(step)
    # What is held in the hand at night.
    screen.open("/cards/1/run")
    screen.find("//button[normalize-space()='Taken']")
    is_red("the runner")


def test_the_card_prints_on_one_small_page(whole_screen):
    whole_screen.open("/cards/1")
    whole_screen.find("//article//h1")
    printed = whole_screen.browser.execute_cdp_cmd(
        "Page.printToPDF", {"preferCSSPageSize": True, "printBackground": False}
    )
    pdf = base64.b64decode(printed["data"])
    assert pdf.startswith(b"%PDF")
    assert pdf.count(b"/Type /Page\n") + pdf.count(b"/Type /Page ") + pdf.count(b"/Type/Page/") == 1
    # A6 is 105 x 148 mm: 298 x 420 points (ISO 216).
    width, height = (float(side) for side in re.search(rb"/MediaBox \[0 0 ([\d.]+) ([\d.]+)\]", pdf).groups())
    assert (width, height) == (pytest.approx(297.6, abs=1), pytest.approx(419.5, abs=1))


def test_what_is_refused_stays_and_what_is_deleted_comes_back(screen):
    """Bad input in a step and in a form; a deleted shot."""
    in_turn(
        screen,
        _bad_input_is_said_at_the_field_and_what_was_typed_stays,
        _a_refused_form_keeps_everything,
        _a_deleted_shot_can_be_brought_back,
    )


def test_values_are_chosen_on_the_drawings(screen):
    """Time, limits and aim by hand; days without a sunset or sunrise."""
    in_turn(
        screen,
        _time_is_chosen_on_the_fall_of_light,
        _limits_are_dragged_on_the_ruler,
        _the_camera_is_aimed_in_the_finder,
    )

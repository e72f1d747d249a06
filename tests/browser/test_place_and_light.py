"""Scouting and timing: windows, alignments, files, tides and a forecast that fails."""

import re
from functools import partial

from screen import in_turn
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

GPX = """<?xml version="1.0"?><gpx version="1.1" creator="x" xmlns="http://www.topografix.com/GPX/1/1">
<wpt lat="54.5302" lon="-3.2101"><ele>6</ele><name>Slipway</name></wpt>
<trk><name>Along the bank</name><trkseg>
<trkpt lat="54.5302" lon="-3.2101"><ele>6</ele></trkpt><trkpt lat="54.5392" lon="-3.2101"><ele>36</ele></trkpt>
</trkseg></trk></gpx>"""


def _choose_file(screen, label, path):
    screen.find(f"//input[@type='file' and @aria-label='{label}']").send_keys(str(path))


def _drag_on_slope(screen, from_share, to_share):
    """Drag over the fall of light, from one share of the day's width to another."""
    picker = screen.find("//*[name()='rect' and @data-picker]")
    box = picker.rect
    start, end = (round(box["width"] * (share - 0.5)) for share in (from_share, to_share))
    chain = ActionChains(screen.browser, duration=20).move_to_element_with_offset(
        picker, start, -round(box["height"] * 0.3)
    )
    chain.click_and_hold().move_by_offset((end - start) // 2, 0).move_by_offset(
        end - start - (end - start) // 2, 0
    ).release().perform()


def _minutes(clock):
    return int(clock[:2]) * 60 + int(clock[3:])


def _choosing_a_window_by_dragging_and_taking_one_by_its_button(screen):
    screen.open_shot("Layered riggs", "light")
    screen.find("//*[@data-window]")
    # From 9 to 15 o'clock: 37.5 to 62.5 % of the day.
    _drag_on_slope(screen, 0.375, 0.625)
    found = []

    def chosen():
        found[:] = re.findall(r"(\d\d:\d\d) to (\d\d:\d\d)", screen.verdict("light"))
        return found and abs(_minutes(found[0][0]) - 540) < 12 and abs(_minutes(found[0][1]) - 900) < 12

    screen.wait(chosen, f"{found}")
    end = screen.handle("End of the window")
    end.send_keys(Keys.ARROW_LEFT)
    screen.wait(lambda: screen.verdict("light").count(f"to {found[0][1]}") == 0)
    # The wanted window is first; its button takes it whole.
    screen.find("//*[@data-window='glow']//button[@aria-expanded]").click()
    label = screen.find("//*[@data-window='glow']//button[@aria-expanded]").text
    start, stop = re.findall(r"\d\d:\d\d", label)[:2]
    screen.press("Take this window")
    screen.wait(lambda: f"{start} to {stop}" in screen.verdict("light"), f"{start} {stop}: {screen.verdict('light')}")


def _an_alignment_is_found_and_put_into_the_shot(screen):
    screen.open_shot("Layered riggs", "light")
    screen.press("The year")
    screen.find("//*[name()='image']")
    bearing = screen.find("//input[@aria-label='Bearing °']")
    bearing.send_keys(Keys.CONTROL, "a")
    bearing.send_keys("281")
    screen.press("Search the year")
    screen.wait(lambda: len(screen.all("[data-hit]")) > 5)
    first = screen.find("//ul[@aria-label='Alignments found']/li[1]")
    day = re.search(r"(\d+) (\w{3}) (\d{4})", first.text)
    clock = re.search(r"\d\d:\d\d", first.text)[0]
    first.find_element(By.TAG_NAME, "button").click()
    screen.wait(lambda: screen.field("Date").get_attribute("value") == day[0])
    screen.wait(lambda: screen.field("Time of the shot").get_attribute("value") == clock)
    screen.press("The day")
    screen.reads("sun bearing")
    assert re.search(r"28[0-3]°", screen.text())
    # A search that cannot be made says why at its field and keeps what was typed.
    screen.press("The year")
    box = screen.find("//input[@aria-label='± °']")
    box.send_keys(Keys.CONTROL, "a")
    box.send_keys("-3")
    screen.expect_in_console("422")
    screen.press("Search the year")
    screen.find("//*[@role='alert' and contains(., 'greater than 0')]")
    assert screen.find("//input[@aria-label='± °']").get_attribute("value") == "-3"
    screen.press("Go through the year")
    screen.reads("It works on")
    screen.wait(lambda: len(screen.all("[data-season]")) > 20)


def _importing_a_gpx_file_and_refusing_a_broken_one(screen, tmp_path):
    screen.open("/locations")
    screen.find("//a[normalize-space()='Hollin Bog']").click()
    screen.find("//h2[contains(., 'Hollin Bog from above')]")
    broken = tmp_path / "broken.gpx"
    broken.write_text("<!DOCTYPE gpx [<!ENTITY x 'y'>]><gpx/>")
    screen.expect_in_console("422")
    _choose_file(screen, "Import points and tracks …", broken)
    screen.find("//*[@role='alert' and contains(., 'document type')]")
    good = tmp_path / "bank.gpx"
    good.write_text(GPX)
    _choose_file(screen, "Import points and tracks …", good)
    screen.reads("1 viewpoint and 1 track came into Hollin Bog.")
    screen.reads("Along the bank")
    screen.reads("15 min by Naismith")
    screen.count("[data-track]", 1)


def _the_tide_cut_off_is_a_caution_and_then_a_failure(screen):
    screen.open_shot("Posts at the ebb", "light")
    screen.reads("The place is cut off from")
    screen.find("//*[name()='g' and @data-band='tide']")
    cut_off = re.search(r"cut off from (\d\d:\d\d) to (\d\d:\d\d)", screen.text())
    middle = (_minutes(cut_off[1]) + _minutes(cut_off[2])) // 2
    screen.type("Time of the shot", f"{middle // 60:02d}:{middle % 60:02d}")
    screen.wait(lambda: screen.mark("place") == "fails", screen.verdict("place"))
    screen.reads("It closes the way")


def _a_skyline_is_computed_and_measured(screen):
    screen.open("/locations")
    screen.find("//a[normalize-space()='Tern Weir']").click()
    screen.press("change the skyline")
    screen.press("Compute the skyline")
    screen.reads("The skyline stands up to")
    screen.choose("with a clinometer")
    box = screen.find("//input[@aria-label='Altitude at 0°']")
    box.send_keys("12,5", Keys.ENTER)
    screen.find("//input[@aria-label='Altitude at 15°']").send_keys("9", Keys.ENTER)
    screen.press("Keep this skyline")
    screen.reads("Skyline up to 12.5° at 0°, measured with a clinometer")
    screen.undo()
    screen.reads("computed from corran-country.asc")


def _with_the_forecast_down_the_screen_works_and_says_so(screen, forecasts):
    forecasts.mode = "down"
    screen.open_shot("Posts at the ebb", "light")
    screen.reads("The forecast service is out of order")
    screen.reads("No forecast yet")
    screen.find("//*[@data-window='low_back_light']")
    screen.type("Time of the shot", "15:20")
    screen.wait(lambda: "15:20" in screen.text())


def _slow_forecast_does_not_hold_the_page_up(screen, forecasts):
    forecasts.mode = "slow"
    screen.open_shot("Split boulder under the fell", "light")
    screen.find("//*[@data-window='glow']")
    screen.reads("too slow to answer")


def _everything_by_keyboard_and_on_a_phone(screen):
    screen.size(390, 844)
    screen.open_shot("Posts at the ebb", "light")
    for view, landmark in (
        ("The skyline", "//*[name()='rect' and @data-frame]"),
        ("Shadows from above", "//*[name()='g' and @data-shadow]"),
    ):
        tab = screen.find(f"//button[@role='tab' and normalize-space()='{view}']")
        screen.browser.execute_script("arguments[0].focus()", tab)
        tab.send_keys(Keys.ENTER)
        screen.find(landmark)
    assert screen.browser.execute_script("return document.documentElement.scrollWidth") <= 391
    screen.open("/locations")
    screen.find("//h2[contains(., 'from above')]")
    assert screen.browser.execute_script("return document.documentElement.scrollWidth") <= 391


def test_a_window_is_chosen_and_an_alignment_found(screen):
    """Windows by hand and by button; the year."""
    in_turn(
        screen,
        _choosing_a_window_by_dragging_and_taking_one_by_its_button,
        _an_alignment_is_found_and_put_into_the_shot,
    )


def test_a_place_gets_its_tracks_tide_and_skyline(screen, tmp_path):
    """A GPX file, the cut-off, a skyline; on a phone too."""
    in_turn(
        screen,
        partial(_importing_a_gpx_file_and_refusing_a_broken_one, tmp_path=tmp_path),
        _the_tide_cut_off_is_a_caution_and_then_a_failure,
        _a_skyline_is_computed_and_measured,
        _everything_by_keyboard_and_on_a_phone,
    )


def test_a_forecast_that_fails(screen, forecasts):
    """Down, and too slow."""
    in_turn(
        screen,
        partial(_with_the_forecast_down_the_screen_works_and_says_so, forecasts=forecasts),
        partial(_slow_forecast_does_not_hold_the_page_up, forecasts=forecasts),
    )

"""Spellings are read or refused, shared things say so, and what the application does it says."""

from functools import partial

import pytest
from screen import STEPS, in_turn
from selenium.webdriver.common.keys import Keys

POSTS, BOULDER = "Posts at the ebb", "Split boulder under the fell"


def _a_bare_shutter_of_sixty_is_asked_about(screen):
    screen.expect_in_console("422")
    screen.open_shot(POSTS, "exposure")
    before = screen.facts()["metered_shutter_s"]
    screen.type("Shutter", "60")
    screen.reads("1/60")
    screen.find("//*[@role='alert' and contains(., '1/60') and contains(., '60 s')]")
    assert screen.facts()["metered_shutter_s"] == before
    screen.type("Shutter", "60 s")
    screen.wait(lambda: screen.facts()["metered_shutter_s"] == 60)
    screen.shows("Shutter", "60 s")
    screen.type("Shutter", "1/60")
    screen.wait(lambda: abs(screen.facts()["metered_shutter_s"] - 1 / 60) < 2e-3)
    screen.shows("Shutter", "1/60")


def _the_long_dial_is_labelled_by_minutes_and_seconds(screen):
    screen.open_shot(POSTS, "exposure")
    marks = {
        round(mark["value"]): mark["label"]
        for mark in screen.ask("GET", f"/shots/{screen.shot_id()}")["dials"]["shutters"]["marks"]
    }
    assert (marks[512], marks[1024]) == ("8'32\"", "17'04\"")
    screen.type_over(screen.dial("Shutter wanted"), "8'32\"")
    screen.keys(Keys.ENTER)
    screen.dial_reads("Shutter wanted", "8'32\"")
    screen.wait(lambda: screen.facts()["wanted_shutter_s"] == pytest.approx(512))


# Shot, step, label, what is typed, field of the facts, value.
SPELLINGS = (
    ("Lichen map", "depth", "Magnification", "1.5:1", "magnification", 1.5),
    ("Lichen map", "depth", "Depth of the subject", "8 mm", "subject_depth_mm", 8),
    (BOULDER, "frame", "Bearing", "NE", "bearing_deg", 45),
    (BOULDER, "frame", "Camera height", "45 cm", "camera_height_m", 0.45),
    (BOULDER, "frame", "Pitch", "−12,5°", "pitch_deg", -12.5),
    (POSTS, "depth", "Near limit", "60 cm", "near_m", 0.6),
    (POSTS, "exposure", "Aperture", "ƒ/8", "metered_f_number", 8),
    (POSTS, "exposure", "Shutter", "2:30", "metered_shutter_s", 150),
)


def test_what_people_write_is_read(screen):
    """Each spelling is read, and what is shown for it is read again."""
    in_turn(screen, *(partial(_read, *place) for place in dict.fromkeys(item[:2] for item in SPELLINGS)))


def _read(shot, step, screen):
    screen.open_shot(shot, step)
    for label, typed, name, value in (item[2:] for item in SPELLINGS if item[:2] == (shot, step)):
        screen.type(label, typed)
        screen.wait(
            lambda name=name, value=value: screen.facts()[name] == pytest.approx(value, rel=1e-6), f"{label} {typed}"
        )
        # And what is shown for it is read again.
        shown = screen.value(label)
        screen.type(label, shown)
        assert screen.facts()[name] == pytest.approx(value, rel=0.02)


def _a_zoom_of_two_apertures_and_a_prime_of_one_focal_length(screen):
    screen.open("/kit")
    screen.press("add a lens")
    for name, focal, widest in (("Kit zoom", ("18", "55"), "f/3.5-5.6"), ("Plain fifty", ("50", ""), "1.8")):
        if not screen.all("form input[name=name]"):
            screen.press("add a lens")
        for field, text in (
            ("name", name),
            ("focal_min_mm", focal[0]),
            ("focal_max_mm", focal[1]),
            ("f_number_min", widest),
            ("closest_focus_mm", "28 cm"),
        ):
            screen.find(f"//form//input[@name='{field}']").send_keys(text)
        screen.press("Add the lens")
        screen.find(f"//button[@aria-expanded='false' and contains(., '{name}')]")
    made = {lens["name"]: lens for lens in screen.ask("GET", "/kit")["lenses"]}
    assert (
        made["Kit zoom"]["f_number_min_label"] == "f/3.5–5.6" or made["Kit zoom"]["f_number_min_label"] == "f/3.5-5.6"
    )
    assert (made["Plain fifty"]["focal_min_mm"], made["Plain fifty"]["focal_max_mm"]) == (50, 50)
    assert made["Plain fifty"]["closest_focus_mm"] == 280


def _a_filter_by_its_factor(screen):
    screen.open("/kit")
    screen.find("//button[@aria-expanded and contains(., '10-stop ND')]").click()
    screen.type("Costs", "ND1000")
    screen.wait(lambda: any(abs(item["stops"] - 9.966) < 0.01 for item in screen.ask("GET", "/kit")["filters"]))


def _metering_leaves_the_aperture_that_one_works_at(screen):
    screen.expect_in_console("422")
    screen.open_shot(POSTS, "exposure")
    before = screen.facts()
    screen.type("Aperture", "f/4")
    screen.wait(lambda: screen.facts()["metered_f_number"] == 4)
    assert [screen.facts()[name] for name in ("f_number", "iso")] == [before["f_number"], before["iso"]]
    screen.step("depth")
    screen.type_over(screen.dial("Aperture"), "f/0.95")
    screen.keys(Keys.ENTER)
    screen.find("//*[@role='alert' and contains(., 'f/0.95')]")
    assert screen.facts()["f_number"] == before["f_number"]


def _a_key_that_can_do_nothing_says_why(screen):
    screen.open_shot(BOULDER, "exposure")
    for _ in range(30):
        lowest = screen.facts()["iso"]
        screen.keys("-")
        screen.browser.execute_script("return new Promise(r => setTimeout(r, 50))")
        if "ISO" in " ".join(item.text for item in screen.all("[data-scope=toast]")):
            break
    said = " ".join(item.text for item in screen.all("[data-scope=toast]"))
    assert "ISO" in said and "lowest" in said
    assert screen.facts()["iso"] == lowest


def _what_others_use_says_so_and_a_copy_leaves_them_alone(screen):
    uses = {}
    for row in screen.ask("GET", "/locations")["locations"]:
        for point in row["viewpoints"]:
            uses[point["id"]] = [use["name"] for use in point["used_by"]]
    shared = next(point for point, names in uses.items() if len(names) > 1)
    one, other = uses[shared][:2]
    screen.open_shot(one, "place")
    screen.find(f"//*[@data-shared='viewpoint' and contains(., '{other}')]")
    before = screen.ask("GET", f"/shots/{screen.shot_id()}")["place"]["viewpoint"]
    screen.press("for this shot only")
    screen.wait(lambda: not screen.all("[data-shared=viewpoint]"))
    after = screen.ask("GET", f"/shots/{screen.shot_id()}")["place"]["viewpoint"]
    assert after["id"] != before["id"]
    assert [item["name"] for item in after["elements"]] == [item["name"] for item in before["elements"]]
    # Before a thing is deleted it says who would miss it.
    screen.open("/kit")
    lens = next(row for row in screen.ask("GET", "/kit")["lenses"] if row["used_by"])
    screen.find(f"//button[@aria-expanded='false' and contains(., '{lens['name']}')]").click()
    screen.press(f"delete {lens['name']} …")
    screen.reads("It is used by")
    screen.reads(lens["used_by"][0]["name"])
    screen.open_shot(other, "place")
    assert screen.ask("GET", f"/shots/{screen.shot_id()}")["place"]["viewpoint"]["id"] == before["id"]


def _a_window_keeps_its_name(screen):
    screen.open_shot("Sundew after rain", "light")
    screen.find("//*[@data-window='low_front_light']//button[@aria-expanded]").click()
    screen.press("Take this window")
    screen.wait(lambda: "low front light" in screen.verdict("light"), screen.verdict("light"))
    assert "golden hour" not in screen.verdict("light").split("low front light")[0]


def _undo_in_the_kit_by_label_and_by_keys(screen):
    screen.open("/kit")
    screen.find("//button[@aria-expanded and contains(., '10-stop ND')]").click()
    screen.type("Costs", "9")
    screen.find("//button[normalize-space()='undo: edit 10-stop ND']")
    screen.focus_nothing()
    screen.chord(Keys.CONTROL, "z")
    screen.reads("“edit 10-stop ND” is undone.")
    screen.shows("Costs", "10")
    screen.find("//button[normalize-space()='redo: edit 10-stop ND']").click()
    screen.shows("Costs", "9")


def _days_are_not_turned_without_a_date(screen):
    screen.open("/")
    screen.press("New shot")
    screen.field("Name").send_keys(POSTS, Keys.ENTER)
    screen.find("//*[@data-step='place' and @data-mark='unsaid']")
    screen.step("light")
    assert screen.find("//button[normalize-space()='+1 day']").get_attribute("disabled")
    assert screen.find("//button[normalize-space()='−1 day']").get_attribute("disabled")
    # A date in the past and a name that is taken are allowed, and said.
    screen.type_over(screen.field("Date"), "14 Mar 2020", Keys.ENTER)
    screen.reads("past")
    assert screen.facts()["date_local"] == "2020-03-14"
    screen.press(POSTS)
    screen.find("//*[@role='dialog']")
    screen.reads(f"Another shot is called “{POSTS}” as well.")


def _the_page_says_where_one_is(screen):
    screen.open_shot(POSTS, "depth")
    screen.wait(lambda: screen.browser.title.startswith(f"{POSTS} · Depth"))
    screen.keys("5")
    screen.wait(lambda: screen.browser.title.startswith(f"{POSTS} · Exposure"))
    # The focus goes along with a step that was chosen by key.
    assert screen.browser.switch_to.active_element.get_attribute("id") == "main"
    screen.keys("]")
    screen.wait(
        lambda: any("Exposure:" in item.get_attribute("textContent") for item in screen.all("[aria-live=polite]"))
    )


# WCAG 2.2, 2.5.8: 24 by 24 CSS pixels; links within a sentence are excepted. 16 px keep a phone from zooming into a
# field.
TOO_SMALL = """
const seen = e => { const b = e.getBoundingClientRect(); return b.width > 1 && b.height > 1 && getComputedStyle(e).visibility !== 'hidden'; };
const inline = e => e.tagName === 'A' && getComputedStyle(e).display === 'inline';
const tap = [...document.querySelectorAll('button, a[href], select, input:not([type=hidden]):not([type=checkbox]):not([type=radio]):not([type=file])')]
  .filter(e => seen(e) && !inline(e)).filter(e => { const b = e.getBoundingClientRect(); return b.width < 23.5 || b.height < 23.5; });
const ticks = [...document.querySelectorAll('label:has(input[type=checkbox]), label:has(input[type=radio])')]
  .filter(e => seen(e) && e.getBoundingClientRect().height < 23.5);
const text = [...document.querySelectorAll('input:not([type=checkbox]):not([type=radio]):not([type=file]), select, textarea')]
  .filter(e => seen(e) && parseFloat(getComputedStyle(e).fontSize) < 16);
return [...tap, ...ticks, ...text].map(e => e.outerHTML.replace(/class="[^"]*"/, '').slice(0, 120));
"""
ON_A_PHONE = ("/", "/cards/1", "/locations", "/which-place", "/kit", *(f"/shots/1/{step}" for step in STEPS))


def test_on_a_phone_nothing_runs_out_and_a_thumb_hits(screen):
    screen.size(390, 844)
    for path in ON_A_PHONE:
        screen.open(path)
        screen.wait(
            lambda: screen.all("main *") and screen.all("h1, h2, figure, article") and "Fetching" not in screen.text(),
            path,
        )
        assert screen.browser.execute_script("return document.documentElement.scrollWidth") <= 390, path
        assert screen.browser.execute_script(TOO_SMALL) == [], path


def test_settings_are_read_as_written_or_asked_about(screen):
    """A bare figure, the long dial, the aperture metered at, and keys at their end."""
    in_turn(
        screen,
        _a_bare_shutter_of_sixty_is_asked_about,
        _the_long_dial_is_labelled_by_minutes_and_seconds,
        _metering_leaves_the_aperture_that_one_works_at,
        _a_key_that_can_do_nothing_says_why,
    )


def test_the_kit_reads_what_is_engraved(screen):
    """Lenses and filters as their makers write them; undo in the kit."""
    in_turn(
        screen,
        _a_zoom_of_two_apertures_and_a_prime_of_one_focal_length,
        _a_filter_by_its_factor,
        _undo_in_the_kit_by_label_and_by_keys,
    )


def test_the_application_says_what_it_does(screen):
    """Shared things, window names, days without a date, and where one is."""
    in_turn(
        screen,
        _what_others_use_says_so_and_a_copy_leaves_them_alone,
        _a_window_keeps_its_name,
        _days_are_not_turned_without_a_date,
        _the_page_says_where_one_is,
    )

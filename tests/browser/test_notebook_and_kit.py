"""Finding shots, keeping kit, saving drawings, and what happens when the server is away."""

import xml.etree.ElementTree as ET

from screen import in_turn
from selenium.webdriver.common.keys import Keys


def _fill(screen, **texts):
    for name, text in texts.items():
        box = screen.find(f"//form//input[@name='{name}']")
        box.send_keys(Keys.CONTROL, "a")
        box.send_keys(text)


def _finding_a_shot(screen):
    screen.open("/")
    screen.count("main li h2", 11)
    box = screen.find("//input[@aria-label='Find']")
    box.send_keys("isfold")
    screen.count("main li h2", 2)
    box.send_keys("xyz")
    screen.reads("Nothing that is written about a shot has")
    # From everywhere, by a setting, with the keyboard alone.
    screen.focus_nothing()
    screen.keys("/")
    words = screen.find("//input[contains(@aria-label, 'f/16')]")
    screen.wait(lambda: screen.browser.switch_to.active_element == words)
    words.send_keys("f/16")
    screen.find("//ul[@aria-label='Found']//a[contains(., 'Posts at the ebb')]")
    words.send_keys(Keys.CONTROL, "a")
    words.send_keys("hyperfocal")
    screen.find("//ul[@aria-label='Found']//a[contains(., 'hyperfocal distance') and contains(., 'term')]")
    words.send_keys(Keys.CONTROL, "a")
    words.send_keys("Posts at")
    screen.find("//ul[@aria-label='Found']/li[1]/a[contains(., 'Posts at the ebb')]")
    words.send_keys(Keys.ENTER)
    screen.find("//*[@data-step='place']")


def _the_notebook_says_what_is_wrong_first(screen):
    screen.open("/")
    screen.reads("Place: no viewpoint yet")
    marks = screen.all("main li:first-of-type [role='img']")
    assert [
        mark.get_attribute("aria-label")
        for mark in marks
        if mark.get_attribute("aria-label") in ("holds", "tight", "fails", "not yet said")
    ]


def _a_lens_of_ones_own(screen):
    screen.expect_in_console("422")
    screen.open("/kit")
    screen.press("add a lens")
    _fill(
        screen,
        name="Old fifty",
        focal_min_mm="50",
        focal_max_mm="35",
        f_number_min="f/1.8",
        f_number_max="f/16",
        closest_focus_mm="450",
    )
    screen.press("Add the lens")
    screen.find("//form//*[@role='alert' and contains(., 'at least the shortest')]")
    _fill(screen, focal_max_mm="50")
    screen.press("Add the lens")
    screen.find("//button[@aria-expanded='false' and contains(., 'Old fifty')]").click()
    screen.type("Sharpest aperture", "f/5.6")
    screen.reads("sharpest at f/5.6")
    screen.press("undo: edit Old fifty")
    screen.reads("sharpest at f/8")
    screen.reads("“edit Old fifty” is undone.")
    screen.chord(Keys.CONTROL, Keys.SHIFT, "z")
    screen.reads("sharpest at f/5.6")


def _a_filter_measured_anew_changes_the_shutter(screen):
    screen.open("/kit")
    screen.find("//button[@aria-expanded and contains(., '10-stop ND')]").click()
    screen.type("Costs", "9")
    screen.reads("neutral density, 9 stops")
    screen.open_shot("Posts at the ebb", "exposure")
    screen.reads("1'04\"")
    assert screen.mark("field") == "tight"


def _drawings_are_saved_as_they_look(screen):
    screen.open_shot("Posts at the ebb")
    screen.browser.execute_script(
        "window.saved = []; URL.createObjectURL = (blob) => { blob.text().then((text) => "
        "window.saved.push(text)); return '#'; };"
        "HTMLAnchorElement.prototype.click = function () { window.names = [...(window.names ?? []), this.download]; };"
    )
    steps = ("place", "light", "frame", "depth", "exposure", "sequence")
    for number, step in enumerate(steps, start=1):
        screen.step(step)
        if step == "frame":
            screen.find("//*[@data-bench]//canvas[@data-drawn]")
        screen.figures("save as SVG")
        screen.wait(lambda number=number: screen.browser.execute_script("return window.saved.length") == number)
    for text in screen.browser.execute_script("return window.saved"):
        drawing = ET.fromstring(text)
        assert drawing.tag == "{http://www.w3.org/2000/svg}svg"
        shapes = list(drawing.iter("{http://www.w3.org/2000/svg}path")) + list(
            drawing.iter("{http://www.w3.org/2000/svg}rect")
        )
        assert len(shapes) > 2
        # Colours stand in the file itself, and what can only be dragged here is left out.
        assert all(
            "rgb" in (shape.get("style") or "") or shape.get("fill", "").startswith(("rgb", "url", "none"))
            for shape in shapes[1:]
        )
        assert "data-handle" not in text
    finder = ET.fromstring(screen.browser.execute_script("return window.saved")[2])
    # The finder is a picture in tones: the outlines of what it shows go along, under their names.
    lines = finder.find("{*}g[@id='outlines']")
    assert {line.findtext("{*}title") for line in lines} >= {"Mooring posts", "Far shore"}
    assert all(line.get("d") == "" or line.get("d").startswith("M") for line in lines)
    assert any(len(line.get("d")) > 40 for line in lines)
    assert all(name.endswith(".svg") for name in screen.browser.execute_script("return window.names"))


def _drawings_are_saved_as_pictures(screen):
    screen.open_shot("Posts at the ebb", "frame")
    screen.find("//*[@data-bench]//figure//*[name()='svg']")
    screen.browser.execute_script(
        "window.saved = []; const make = URL.createObjectURL;"
        "URL.createObjectURL = (blob) => { if (blob.type === 'image/png') createImageBitmap(blob).then("
        "(map) => window.saved.push([map.width, map.height])); return make(blob); };"
        # Saved it would lie where the tests were begun.
        "HTMLAnchorElement.prototype.click = () => undefined;"
    )
    drawing = screen.find("//*[@data-bench]//figure//*[name()='svg' and @role='group']").size
    screen.figures("save as PNG")
    screen.wait(lambda: screen.browser.execute_script("return window.saved.length") == 1)
    width, height = screen.browser.execute_script("return window.saved[0]")
    assert abs(width - 2 * drawing["width"]) <= 2
    assert abs(height - 2 * drawing["height"]) <= 2


def _a_shot_deleted_elsewhere_says_so(screen):
    screen.expect_in_console("404")
    screen.open_shot("Lichen map", "depth")
    screen.browser.execute_script("return fetch('/api/shots/' + location.pathname.split('/')[2], {method: 'DELETE'})")
    screen.type("Magnification", "1.8")
    screen.reads("does not exist any more")
    assert screen.field("Magnification").get_attribute("value") == "1.8"


def _a_wrong_address_helps_on(screen):
    screen.expect_in_console("404")
    screen.open("/nowhere/at/all")
    screen.reads("no page at this address")
    screen.open("/shots/99999/depth")
    screen.reads("does not exist")


def test_only_the_keyboard(screen):
    """A shot can be planned without a pointer: every control is reached by Tab and says what it is."""
    screen.open_shot("Posts at the ebb", "depth")
    screen.count("[data-slice]", 3)
    screen.find("//*[@role='slider' and @aria-label='Aperture scale']")
    names = set()
    for _ in range(60):
        screen.keys(Keys.TAB)
        focused = screen.browser.switch_to.active_element
        name = screen.browser.execute_script(
            "const e = arguments[0]; return e.getAttribute('aria-label') || (e.labels && e.labels[0] && "
            "e.labels[0].innerText) || e.innerText",
            focused,
        )
        if focused.tag_name == "body":
            break
        if focused.get_attribute("tabindex") != "-1" and focused.tag_name != "div":
            assert name, focused.get_attribute("outerHTML")[:200]
            names.add(name)
    assert {"Aperture", "Aperture scale", "Near limit that must be sharp", "Far limit that must be sharp"} <= names


def _deleting_asks_and_can_be_undone(screen):
    screen.open("/locations")
    screen.find("//a[normalize-space()='Isfold']").click()
    screen.press("delete Isfold …")
    screen.press("Keep")
    screen.press("delete Isfold …")
    screen.press("Delete")
    screen.wait(lambda: not screen.browser.find_elements("xpath", "//a[normalize-space()='Isfold']"))
    screen.undo()
    screen.find("//a[normalize-space()='Isfold']")
    screen.open_shot("Posts at the ebb")
    screen.find("//button[@aria-expanded='false' and contains(., 'Ebb channel')]").click()
    screen.press("delete Ebb channel …")
    screen.press("Delete")
    screen.wait(lambda: "4 elements" in screen.verdict("place"))
    screen.chord(Keys.CONTROL, "z")
    screen.wait(lambda: "5 elements" in screen.verdict("place"))


def test_the_notebook_is_searched_and_says_what_is_wrong(screen):
    """Search, what is wrong, addresses that lead nowhere, and deleting."""
    in_turn(
        screen,
        _finding_a_shot,
        _the_notebook_says_what_is_wrong_first,
        _a_wrong_address_helps_on,
        _deleting_asks_and_can_be_undone,
        _a_shot_deleted_elsewhere_says_so,
    )


def test_a_kit_of_ones_own(screen):
    """A lens is added, a filter measured again; the shot's shutter follows."""
    in_turn(screen, _a_lens_of_ones_own, _a_filter_measured_anew_changes_the_shutter)


def test_drawings_are_saved(screen):
    """As SVG and as PNG."""
    in_turn(screen, _drawings_are_saved_as_they_look, _drawings_are_saved_as_pictures)

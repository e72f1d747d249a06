"""The composition bench: camera, scene, tuner, framings, crop and photograph, by hand or by keys."""

import io
from functools import partial

from PIL import ExifTags, Image
from screen import in_turn
from selenium.webdriver.common.keys import Keys

BOULDER = "Split boulder under the fell"


def _reading(screen, words):
    return screen.find(f"//*[@data-reading]/span[contains(., '{words}')]").text


def _finder(screen):
    """The finder as it is drawn: all its paths."""
    screen.find("//*[@data-bench]//*[name()='svg']//*[name()='path']")
    return screen.browser.execute_script(
        "return [...document.querySelectorAll('[data-bench] svg')[0].querySelectorAll('path')].map(p => "
        "p.getAttribute('d')).join()"
    )


def _picture(screen):
    """The finder's picture in tones, as its canvas has it."""
    # Before its first picture it is empty, and any picture differs from that.
    screen.find("//*[@data-bench]//canvas[@data-drawn]")
    return screen.browser.execute_script("return document.querySelector('[data-bench] canvas').toDataURL()")


def _dragging_the_camera_changes_finder_and_verdicts(screen):
    screen.open_shot(BOULDER, "frame")
    screen.press("Reading")
    before, drawn = _reading(screen, "Split boulder is"), _finder(screen)
    screen.drag(screen.handle("Position of the camera"), -14, 10)
    screen.wait(lambda: _finder(screen) != drawn)
    screen.wait(lambda: _reading(screen, "Split boulder is") != before)
    screen.press("Camera")
    assert screen.field("Moved east").get_attribute("value") != "0"
    # The same by keys, a tenth of a metre at a time.
    here = float(screen.field("Moved north").get_attribute("value"))
    screen.handle("Position of the camera").send_keys(Keys.ARROW_UP)
    screen.wait(lambda: abs(float(screen.field("Moved north").get_attribute("value")) - here - 0.1) < 0.011)


def _the_three_views_move_together(screen):
    screen.open_shot(BOULDER, "frame")
    drawn = _finder(screen)
    screen.drag(screen.handle("Height of the camera"), 0, 18)
    screen.wait(lambda: float(screen.field("Camera height").get_attribute("value")) < 0.72)
    screen.wait(lambda: _finder(screen) != drawn)
    screen.handle("Pitch of the camera").send_keys(Keys.ARROW_UP)
    screen.wait(lambda: screen.field("Pitch").get_attribute("value") == "-14")
    screen.handle("Bearing of the camera").send_keys(Keys.ARROW_RIGHT)
    screen.wait(lambda: screen.field("Bearing").get_attribute("value") == "135")
    screen.reads("at 135°")


def _what_is_drawn_while_dragging_is_what_the_server_then_says(screen):
    # The drawing moves what it was sent; the answer that comes must not make it jump.
    screen.open_shot(BOULDER, "frame")
    aim = screen.handle("Aim of the camera")
    steady = (
        "const done = arguments[arguments.length - 1];"
        + """
    const paths = () => [...document.querySelectorAll('[data-bench] svg')[0].querySelectorAll('path')].map(p => p.getAttribute('d') || '');
    const numbers = d => (d.match(/-?[0-9.]+/g) || []).map(Number);
    const seen = []; const until = performance.now() + 1500;
    const look = () => { seen.push(paths().map(numbers)); performance.now() < until || seen.length < 12 ? requestAnimationFrame(look) : done(seen.length); };
    window.__seen = seen; arguments[0].dispatchEvent(new KeyboardEvent('keydown', {key: 'ArrowRight', bubbles: true})); requestAnimationFrame(look);
    """
    )
    screen.browser.set_script_timeout(30)
    assert screen.browser.execute_async_script(steady, aim) >= 12
    jumps = screen.browser.execute_script("""
    const s = window.__seen; const last = s.at(-1); let worst = 0;
    // Three pictures after the key the hand's value is drawn; from there on nothing may move by more than a tenth of a pixel.
    for (const picture of s.slice(3)) picture.forEach((d, at) => { const to = last[at];
      if (to && to.length === d.length) d.forEach((value, k) => { if (Math.abs(value) < 3000) worst = Math.max(worst, Math.abs(value - to[k])); }); });
    return worst;
    """)
    assert jumps <= 0.2


def _the_tuner_runs_and_is_taken_back(screen):
    screen.open_shot(BOULDER, "frame")
    before = screen.field("Bearing").get_attribute("value")
    screen.press("Fine-tuner")
    kind = screen.find("//select[@aria-label='Element of wish 1']/option[normalize-space()='Lone larch']")
    kind.click()
    screen.press("Find the camera")
    screen.find("//*[@data-solution]")
    screen.press("Stand there")
    screen.press("Reading")
    screen.find("//*[@data-reading]/span[normalize-space()='Lone larch is on the left third.']")
    screen.press("Camera")
    assert screen.field("Bearing").get_attribute("value") != before
    screen.undo()
    screen.wait(lambda: screen.field("Bearing").get_attribute("value") == before)


def _a_contradiction_is_said(screen):
    screen.open_shot(BOULDER, "frame")
    screen.press("Fine-tuner")
    screen.press("Add a wish")
    for number in (1, 2):
        screen.find(f"//select[@aria-label='Element of wish {number}']/option[normalize-space()='Lone larch']").click()
    screen.press("Find the camera")
    screen.reads("These wishes contradict each other")


def _an_element_is_placed_by_a_click_and_moved_by_hand(screen):
    screen.open_shot(BOULDER, "frame")
    screen.press("Scene")
    screen.press("place by a click")
    ground = screen.all("[data-bench] svg")[1]
    # 60 pixels right of the middle and as many below: to the south-east.
    screen.browser.execute_script(
        "const b = arguments[0].getBoundingClientRect(); arguments[0].querySelector('g').dispatchEvent("
        "new MouseEvent('click', {bubbles: true, clientX: b.left + b.width / 2 + 60, clientY: b.top + "
        "b.height / 2 + 60}))",
        ground,
    )
    assert screen.field("Bearing").get_attribute("value") == "135"
    for label, text in (("Name", "Stake"), ("Width", "10 cm"), ("Height (water, path: reach)", "1 m")):
        screen.type(label, text, enter=False)
    screen.find("//select[@id = //label[normalize-space()='Shape']/@for]/option[normalize-space()='post']").click()
    screen.press("Add the element")
    handle = screen.handle("Stake on the ground")
    drawn = _picture(screen)
    handle.send_keys(Keys.ARROW_RIGHT)
    screen.wait(lambda: _picture(screen) != drawn)


def _the_standing_area_is_drawn_and_marked(screen):
    screen.open_shot("Midnight sun over the sound", "frame")
    screen.press("Scene")
    screen.press("Draw a standing area")
    screen.count("[data-standing]", 1)
    screen.find("//label[normalize-space()='1 to 2']/input").click()
    screen.find("//*[@data-standing]//*[name()='title'][contains(., 'an edge')]")
    corner = screen.handle("Corner 3 of the standing area")
    before = corner.get_attribute("aria-valuetext")
    corner.send_keys(Keys.ARROW_UP)
    screen.wait(lambda: screen.handle("Corner 3 of the standing area").get_attribute("aria-valuetext") != before)


def _framings_are_kept_and_chosen_by_keys(screen):
    screen.open_shot(BOULDER, "frame")
    screen.press("Framings")
    name = screen.find("//input[@aria-label='Name of the framing']")
    name.send_keys("low and wide", Keys.ENTER)
    screen.find("//*[@data-framing='low and wide']")
    screen.browser.find_element("tag name", "body").send_keys("o")
    screen.find("//*[@data-framing='orientation']")
    screen.find("//*[@data-framing='low and wide']//button[normalize-space()='choose']").send_keys(Keys.ENTER)
    screen.find("//*[@data-framing='low and wide'][contains(., 'as it stands')]")


def _a_crop_is_moved_in_the_finder_and_a_panorama_drawn(screen):
    screen.open_shot(BOULDER, "frame")
    screen.press("Crop, panorama")
    screen.type("Cropped as", "40")
    screen.count("[data-crop]", 1)
    handle = screen.handle("Place of the crop")
    screen.browser.execute_script("arguments[0].focus()", handle)
    before = handle.get_attribute("aria-valuetext")
    handle.send_keys(Keys.ARROW_LEFT)
    screen.wait(lambda: screen.handle("Place of the crop").get_attribute("aria-valuetext") != before)
    screen.type("Across", "150")
    screen.find("//*[@data-panorama]")
    screen.find("//ol[@aria-label='Frames of the panorama']/li[2]")


def _a_photograph_stands_behind_the_finder(screen, tmp_path):
    tags = Image.Exif()
    tags.get_ifd(ExifTags.IFD.Exif)[ExifTags.Base.FocalLengthIn35mmFilm] = 24
    out = io.BytesIO()
    Image.new("RGB", (600, 400), (150, 150, 150)).save(out, "JPEG", exif=tags)
    (tmp_path / "scout.jpg").write_bytes(out.getvalue())
    screen.open_shot(BOULDER, "frame")
    picker = screen.find("//input[@type='file' and contains(@aria-label, 'test frame')]")
    picker.send_keys(str(tmp_path / "scout.jpg"))
    screen.find("//*[@data-backdrop]")
    screen.reads("as 24 mm on 36 × 24 mm")
    # At night even a photograph gives red light only.
    screen.menu("Ember")
    picture = tmp_path / "night.png"

    def only_red():
        screen.browser.save_screenshot(str(picture))
        _, green, blue = Image.open(picture).convert("RGB").split()
        return (green.getextrema()[1], blue.getextrema()[1]) == (0, 0)

    screen.wait(only_red)


def _the_bench_by_keys_only(screen):
    screen.open_shot(BOULDER, "frame")
    screen.find("//*[@data-bench]//*[@role='slider']")
    names = set()
    for _ in range(90):
        screen.keys(Keys.TAB)
        focused = screen.browser.switch_to.active_element
        if focused.get_attribute("role") == "slider":
            names.add(focused.get_attribute("aria-label"))
    assert {
        "Aim of the camera: bearing and pitch",
        "Position of the camera",
        "Bearing of the camera",
        "Height of the camera",
        "Pitch of the camera",
        "Split boulder on the ground",
        "Corner 1 of the standing area",
        "Shore path begins here",
    } <= names
    # From reading to tuner to undo without a mouse.
    for tab, landmark in (
        ("Reading", "//*[@data-reading]"),
        ("Fine-tuner", "//button[normalize-space()='Find the camera']"),
    ):
        screen.find(f"//button[@role='tab' and normalize-space()='{tab}']").send_keys(Keys.ENTER)
        screen.find(landmark)
    screen.find("//button[normalize-space()='Find the camera']").send_keys(Keys.ENTER)
    before = _finder(screen)
    screen.find("//*[@data-solution]//button").send_keys(Keys.ENTER)
    screen.wait(lambda: _finder(screen) != before)
    screen.chord(Keys.CONTROL, "z")
    screen.wait(lambda: _finder(screen) == before)


def _the_bench_on_a_phone(screen):
    screen.size(390, 844)
    screen.open_shot(BOULDER, "frame")
    for view, handle in (
        ("Ground", "Position of the camera"),
        ("Flank", "Height of the camera"),
        ("Finder", "Aim of the camera"),
    ):
        screen.find(f"//button[@role='tab' and normalize-space()='{view}']").click()
        screen.handle(handle)
        assert screen.browser.execute_script("return document.documentElement.scrollWidth") <= 391
    # The panels follow the picture and its caption at once.
    picture, panels = (
        screen.find("//*[@data-bench]//canvas").rect,
        screen.find("//button[@role='tab' and normalize-space()='Scene']").rect,
    )
    assert 0 < panels["y"] - picture["y"] - picture["height"] < 60
    for panel in ("Scene", "Reading", "Fine-tuner", "Framings", "Crop, panorama"):
        screen.find(f"//button[@role='tab' and normalize-space()='{panel}']").click()
        screen.wait(lambda: screen.browser.execute_script("return document.documentElement.scrollWidth") <= 391)


def _a_path_is_bent_by_hand_and_by_text(screen):
    screen.open_shot(BOULDER, "frame")
    screen.press("Scene")
    drawn = _picture(screen)
    screen.handle("Shore path begins here").send_keys(Keys.ARROW_LEFT)
    screen.wait(lambda: _picture(screen) != drawn)
    screen.find("//button[@aria-expanded='false' and contains(., 'Shore path')]").click()
    screen.type("Then on to", "110° 5 m; 120° 12 m")
    screen.wait(lambda: screen.field("Then on to").get_attribute("value") == "110° 5.00 m, 120° 12.0 m")
    screen.expect_in_console("422")
    screen.type("Then on to", "over there")
    screen.reads("“over” is not a bearing")
    assert screen.field("Then on to").get_attribute("value") == "over there"


def _close_up_the_bench_is_in_millimetres(screen):
    screen.open_shot("Sundew after rain", "frame")
    screen.press("Close up")
    screen.reads("24.0 × 16.0")
    screen.find("//table[@aria-label='Ways to this magnification']//tr[@data-setup='reached']")
    screen.handle("Height of the camera").send_keys(Keys.ARROW_UP)
    screen.press("Camera")
    screen.wait(lambda: screen.field("Camera height").get_attribute("value") == "0.116")


def _what_one_sees_is_measured_with_a_thumb(screen):
    screen.open_shot(BOULDER, "frame")
    screen.press("Scene")
    screen.find("//input[@aria-label='Its distance']").send_keys("40 m")
    screen.press("Measure")
    # 22 mm at 630 mm: a thirtieth, nearly: 1.40 m at 40 m.
    screen.reads("at 40.0 m that is 1.40 m")


def test_the_camera_is_moved_by_hand(screen):
    """The camera is dragged in all three views; the finder follows and does not jump."""
    in_turn(
        screen,
        _dragging_the_camera_changes_finder_and_verdicts,
        _the_three_views_move_together,
        _what_is_drawn_while_dragging_is_what_the_server_then_says,
    )


def test_the_scene_is_built_by_hand(screen):
    """Elements, paths and a standing area are placed and measured."""
    in_turn(
        screen,
        _an_element_is_placed_by_a_click_and_moved_by_hand,
        _a_path_is_bent_by_hand_and_by_text,
        _the_standing_area_is_drawn_and_marked,
        _what_one_sees_is_measured_with_a_thumb,
    )


def test_a_framing_is_tuned_kept_and_cropped(screen, tmp_path):
    """The tuner, framings, a crop, a panorama and a photograph behind the finder."""
    in_turn(
        screen,
        _the_tuner_runs_and_is_taken_back,
        _a_contradiction_is_said,
        _framings_are_kept_and_chosen_by_keys,
        _a_crop_is_moved_in_the_finder_and_a_panorama_drawn,
        _close_up_the_bench_is_in_millimetres,
        partial(_a_photograph_stands_behind_the_finder, tmp_path=tmp_path),
    )


def test_the_bench_by_keys_and_on_a_phone(screen):
    """All handles are reached by Tab; on a phone nothing runs out."""
    in_turn(screen, _the_bench_by_keys_only, _the_bench_on_a_phone)

"""The picture in tones in the real interface: spot readings, a graduated filter on the skyline, a polariser, two
frames, and without WebGL.
"""

from screen import in_turn
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

SPLIT, MIDNIGHT, RIGGS = "Split boulder under the fell", "Midnight sun over the sound", "Layered riggs"


def _picture(screen, name):
    screen.open_shot(name, "exposure")
    screen.press("Picture in tones")
    screen.find("//canvas[@data-tones='light']")


def _pixels(screen):
    """How light the picture is on the whole, and in its upper quarter, 0 to 255."""
    return screen.browser.execute_async_script(
        """const done = arguments[0];
        requestAnimationFrame(() => requestAnimationFrame(() => {
          const from = document.querySelector('canvas[data-tones]');
          const copy = document.createElement('canvas');
          [copy.width, copy.height] = [60, 40];
          const drawing = copy.getContext('2d');
          drawing.drawImage(from, 0, 0, 60, 40);
          const mean = (rows) => {
            const data = drawing.getImageData(0, 0, 60, rows).data;
            let sum = 0;
            for (let at = 0; at < data.length; at += 4) sum += data[at];
            return sum / (data.length / 4);
          };
          done([mean(40), mean(10)]);
        }));"""
    )


def _the_finder_is_a_picture(screen):
    screen.open_shot(SPLIT, "frame")
    canvas = screen.find("//canvas[@data-tones='light']")
    assert canvas.get_attribute("data-mirrors") == "1"
    screen.wait(lambda: 5 < _pixels(screen)[0] < 250)
    # The sky is lighter than the shore.
    whole, sky = _pixels(screen)
    assert sky > whole
    before = whole
    screen.step("exposure")
    screen.type("Compensate", "2")
    screen.step("frame")
    screen.find("//canvas[@data-tones='light']")
    screen.wait(lambda: _pixels(screen)[0] > before + 15)


def _spot_readings_make_a_bracket(screen):
    _picture(screen, RIGGS)
    for part, said in (("the sky", "1/500 at f/16"), ("the land", "1/4 at f/4")):
        screen.find(f"//select[@id = //label[normalize-space()='Of']/@for]/option[normalize-space()='{part}']").click()
        before = len(screen.all("[data-spots] li"))
        screen.type("Meter reading", said)
        screen.count("[data-spots] li", before + 1)
    screen.find(
        "//select[@id = //label[normalize-space()='Exposures']/@for]/option[normalize-space()='bracket over the range']"
    ).click()
    # EV 17 and EV 6: 11 stops fit into one frame of 11; a brighter sky does not.
    screen.reads("One frame holds")
    screen.find("//select[@id = //label[normalize-space()='Of']/@for]/option[normalize-space()='the sky']").click()
    screen.type("Meter reading", "1/4000 at f/16")
    screen.wait(lambda: "bracket of" in screen.verdict("exposure"))
    # What cannot be read is kept and told.
    screen.expect_in_console("422")
    screen.type("Meter reading", "bright")
    screen.reads("is not a reading")
    assert screen.field("Meter reading").get_attribute("value") == "bright"


def _a_graduated_filter_on_the_skyline_removes_the_bracket(screen):
    _picture(screen, MIDNIGHT)
    screen.type("Highlight", "15")
    screen.type("Shadow", "2.5")
    screen.find(
        "//select[@id = //label[normalize-space()='Exposures']/@for]/option[normalize-space()='bracket over the range']"
    ).click()
    screen.wait(lambda: "bracket of" in screen.verdict("exposure"))
    screen.tick("3-stop soft graduated")
    screen.wait(lambda: "bracket of" not in screen.verdict("exposure"))
    handle = screen.find("//*[@data-graduated-edge]//*[@role='slider'][1]")
    before, sky = int(handle.get_attribute("aria-valuenow")), _pixels(screen)[1]
    # Dragged down below the picture's middle the whole sky is darker, at once and after the answer.
    ActionChains(screen.browser).drag_and_drop_by_offset(handle, 0, 90).perform()
    screen.wait(
        lambda: (
            int(screen.find("//*[@data-graduated-edge]//*[@role='slider'][1]").get_attribute("aria-valuenow"))
            > before + 20
        )
    )
    screen.wait(lambda: screen.field("Edge of the filter").get_attribute("value") != "")
    screen.wait(lambda: _pixels(screen)[1] <= sky)
    handle = screen.find("//*[@data-graduated-edge]//*[@role='slider'][1]")
    moved = int(handle.get_attribute("aria-valuenow"))
    handle.send_keys(Keys.ARROW_UP, Keys.ARROW_UP, Keys.ARROW_UP, Keys.ARROW_UP)
    screen.wait(
        lambda: (
            int(screen.find("//*[@data-graduated-edge]//*[@role='slider'][1]").get_attribute("aria-valuenow")) < moved
        )
    )
    screen.press("edge onto the skyline")
    screen.wait(lambda: screen.field("Edge of the filter").get_attribute("value") == "")


def _a_polariser_on_a_wide_lens_is_warned_of_and_drawn(screen):
    screen.open_shot(SPLIT, "frame")
    screen.type("Focal length", "16")
    screen.type("Pitch", "12")
    screen.type("Bearing", "90")
    _picture(screen, SPLIT)
    screen.tick("Polariser")
    screen.reads("The polariser darkens the sky by")
    screen.reads("a dark patch shows")


def _black_and_white_through_red_darkens_a_blue_sky(screen):
    _picture(screen, RIGGS)
    screen.wait(lambda: _pixels(screen)[1] > 60)
    sky = _pixels(screen)[1]
    screen.find(
        "//select[@id = //label[normalize-space()='In black and white, through']/@for]/option[normalize-space()='red']"
    ).click()
    screen.wait(lambda: _pixels(screen)[1] < sky - 15)


def _frozen_leaves_and_silky_water_give_two_frames(screen):
    name = "Brown water over the sill"
    screen.open_shot(name, "depth")
    screen.open_shot(name, "place")
    screen.find("//li/button[contains(., 'Leaning alder')]").click()
    screen.type("Moves at", "0.05")
    screen.step("depth")
    screen.tick("Leaning alder")
    screen.step("exposure")
    screen.find(
        "//select[@id = //label[normalize-space()='Falling "
        "water']/@for]/option[starts-with(normalize-space(), 'silky')]"
    ).click()
    screen.reads("Leaning alder must be sharp")
    screen.find(
        "//select[@id = //label[normalize-space()='Exposures']/@for]/option[contains(., 'one frozen, one long')]"
    ).click()
    screen.reads("in a frame of its own")
    screen.count("[data-exposure]", 2)


def test_without_webgl_the_picture_is_drawn_plainly(screen):
    script = (
        "const real = HTMLCanvasElement.prototype.getContext; HTMLCanvasElement.prototype.getContext = "
        "function (kind, ...rest) "
        "{ return kind.startsWith('webgl') ? null : real.call(this, kind, ...rest); };"
    )
    kept = screen.browser.execute_cdp_cmd("Page.addScriptToEvaluateOnNewDocument", {"source": script})["identifier"]
    try:
        screen.open_shot(SPLIT, "frame")
        screen.find("//canvas[@data-tones='plain']")
        screen.wait(lambda: 5 < _pixels(screen)[0] < 250)
        whole, sky = _pixels(screen)
        assert sky > whole
    finally:
        screen.browser.execute_cdp_cmd("Page.removeScriptToEvaluateOnNewDocument", {"identifier": kept})
        screen.open("/")


def _a_filter_is_turned_and_says_at_its_field_what_it_cannot(screen):
    screen.expect_in_console("422")
    screen.ask("POST", "/filters", {"name": "Variable ND", "kind": "neutral density", "stops": 2, "stops_max": 8})
    screen.open_shot("Brown water over the sill", "exposure")
    screen.reads("Variable ND")
    screen.find("//canvas | //*[@data-movers]")
    screen.tick("Variable ND")
    screen.type("Turned to", "5")
    screen.reads("8 s, veiled")
    screen.type("Turned to", "9")
    screen.reads("Variable ND takes 2 to 8 stops, not 9.")
    assert screen.field("Turned to").get_attribute("value") == "9"
    screen.type("Turned to", "3")
    screen.reads("2 s, silky")


def _people_are_wished_away(screen):
    name = "Brown water over the sill"
    shot = next(item["id"] for item in screen.ask("GET", "/notebook")["shots"] if item["name"] == name)
    point = screen.ask("GET", f"/shots/{shot}")["place"]["viewpoint"]["id"]
    said = {
        "name": "Walkers",
        "shape": "block",
        "bearing_deg": 19,
        "distance_m": 12,
        "width_m": 3,
        "height_m": 1.8,
        "moving": "people",
    }
    screen.ask("POST", f"/viewpoints/{point}/elements", said)
    screen.open_shot(name, "exposure")
    screen.find(
        "//select[@id = //label[normalize-space()='Walkers']/@for]/option[starts-with(normalize-space(), 'gone')]"
    ).click()
    screen.reads("Enter how many of Walkers pass a minute")
    screen.step("place")
    screen.find("//li/button[contains(., 'Walkers')]").click()
    screen.type("Pass through the frame", "3")
    screen.step("exposure")
    screen.reads("leaves ghosts; they vanish from")


def test_the_picture_in_tones(screen):
    """The finder's picture, compensation, black and white, and a polariser on a wide lens."""
    in_turn(
        screen,
        _the_finder_is_a_picture,
        _black_and_white_through_red_darkens_a_blue_sky,
        _a_polariser_on_a_wide_lens_is_warned_of_and_drawn,
    )


def test_a_range_is_held_by_readings_bracket_and_graduated_filter(screen):
    """Spot readings make a bracket, a graduated filter removes it."""
    in_turn(screen, _spot_readings_make_a_bracket, _a_graduated_filter_on_the_skyline_removes_the_bracket)


def test_what_moves_is_frozen_blurred_or_gone(screen):
    """Two frames for leaves and water, a filter that is turned, people wished away."""
    in_turn(
        screen,
        _frozen_leaves_and_silky_water_give_two_frames,
        _a_filter_is_turned_and_says_at_its_field_what_it_cannot,
        _people_are_wished_away,
    )

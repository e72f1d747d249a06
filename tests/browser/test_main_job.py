"""The main job in the real interface: from the notebook to the frames to take."""

import itertools

from screen import STEPS, in_turn
from selenium.webdriver.common.keys import Keys

POSTS = "Posts at the ebb"


def _a_shot_from_the_notebook_to_its_frames(screen):
    screen.open("/")
    screen.find(f"//main//h2/a[normalize-space()='{POSTS}']").click()
    screen.step("depth")
    screen.count("[data-slice]", 3)
    screen.reads("0.35 m to ∞ in 3")
    screen.step("exposure")
    screen.count("[data-ledger]", 3)
    screen.reads("2'08\"")
    screen.step("sequence")
    screen.count("[data-frame]", 3)
    assert screen.mark("sequence") == "holds"
    screen.step("field")
    screen.reads("card is current")
    screen.find("//article//h2[normalize-space()='Posts at the ebb']")


def _the_three_slices_meet_on_the_ruler(screen):
    screen.open_shot(POSTS, "depth")
    screen.count("[data-slice]", 3)
    boxes = [slice_.find_element("tag name", "rect").rect for slice_ in screen.all("[data-slice]")]
    for nearer, farther in itertools.pairwise(boxes):
        assert farther["x"] <= nearer["x"] + nearer["width"] + 1
    limits = [screen.handle("Near limit").location["x"], screen.handle("Far limit").location["x"]]
    assert boxes[0]["x"] <= limits[0] + 20
    assert boxes[-1]["x"] + boxes[-1]["width"] >= limits[1] - 20


def _each_filter_is_a_line_in_the_ledger(screen):
    screen.open_shot(POSTS, "exposure")
    screen.count("[data-ledger='filter']", 1)
    screen.tick("Polariser")
    screen.count("[data-ledger='filter']", 2)
    screen.reads("6'02\"")
    screen.chord(Keys.CONTROL, "z")
    screen.count("[data-ledger='filter']", 1)
    screen.reads("2'08\"")


def _two_minutes_from_the_bag(screen):
    screen.open_shot(POSTS, "exposure")
    screen.tick("10-stop ND")
    screen.count("[data-ledger='filter']", 0)
    screen.wait(lambda: screen.mark("exposure") == "fails")
    screen.type("Shutter wanted", "2'")
    screen.find("//ul[@aria-label='Settings from the bag']/li[contains(., '10-stop ND')]//button").click()
    screen.count("[data-ledger='filter']", 1)
    screen.reads("2'08\"")
    screen.wait(lambda: screen.mark("exposure") == "holds")


def _a_bracket_is_nested_in_each_focus_position(screen):
    screen.open_shot("Split boulder under the fell", "exposure")
    screen.count("[data-exposure]", 3)
    screen.step("sequence")
    screen.count("[data-frame]", 6)
    texts = [card.text.split("\n") for card in screen.all("[data-frame]")]
    assert [card[2] for card in texts] == ["1/60", "1/15", "1/4"] * 2
    assert texts[0][3] == texts[2][3] != texts[3][3]


def _keys_go_to_the_steps_but_not_while_typing(screen):
    screen.open_shot(POSTS)
    for number, step in enumerate(STEPS, start=1):
        screen.keys(str(number))
        screen.wait(lambda step=step: screen.browser.current_url.endswith(f"/{step}"))
    screen.keys("3")
    box = screen.field("Pitch")
    box.click()
    box.send_keys("7")
    assert screen.browser.current_url.endswith("/frame")


def _keys_turn_aperture_iso_and_camera(screen):
    screen.open_shot(POSTS, "depth")
    # The dial stands once the markings are known; the keys need them too.
    screen.find("//*[@role='slider' and @aria-label='Aperture scale']")
    screen.keys("]")
    screen.reads("f/18")
    screen.keys("[", "[")
    screen.reads("f/14")
    screen.keys("o")
    screen.wait(lambda: "landscape" in screen.verdict("frame") or "24 mm" in screen.verdict("frame"))
    screen.step("frame")
    assert screen.chosen("Orientation") == "landscape"
    screen.keys("?")
    screen.reads("aperture by a mark of the dial")


def _a_dial_moves_with_the_arrow_keys_and_undo_takes_it_back(screen):
    screen.open_shot(POSTS, "depth")
    strip = screen.find("//*[@role='slider' and @aria-label='Aperture scale']")
    strip.send_keys(Keys.ARROW_LEFT)
    screen.wait(lambda: screen.field("Aperture").get_attribute("value") == "f/14")
    screen.undo()
    screen.wait(lambda: screen.field("Aperture").get_attribute("value") == "f/16")
    screen.undo("redo")
    screen.wait(lambda: screen.field("Aperture").get_attribute("value") == "f/14")


def _a_pinned_value_can_be_let_go(screen):
    screen.open_shot("Layered riggs", "depth")
    screen.find("//button[@aria-label='automatic: Aperture']").click()
    # The lens is sharpest at f/8: the application's own choice while nothing is metered.
    screen.wait(lambda: screen.field("Aperture").get_attribute("value") == "f/8")
    screen.wait(lambda: not screen.browser.find_elements("xpath", "//button[@aria-label='automatic: Aperture']"))


def _a_reason_leads_to_its_dial(screen):
    screen.open_shot("Layered riggs", "exposure")
    screen.find("//li[contains(., 'take a reading before you trust it')]//button").click()
    screen.wait(lambda: screen.browser.switch_to.active_element == screen.field("Shutter"))


def _changes_survive_a_reload_and_make_the_card_stale(screen):
    screen.open_shot(POSTS, "depth")
    screen.type("Aperture", "f/8")
    screen.wait(lambda: screen.mark("field") == "tight")
    screen.browser.refresh()
    screen.wait(lambda: screen.field("Aperture").get_attribute("value") == "f/8")
    screen.step("field")
    screen.press("Make the card again")
    screen.wait(lambda: screen.mark("field") == "holds")
    screen.reads("card is current")


def test_a_shot_is_followed_from_the_notebook_to_its_frames(screen):
    """Every step of the estuary's shot, then a bracket in each focus position."""
    in_turn(
        screen,
        _a_shot_from_the_notebook_to_its_frames,
        _the_three_slices_meet_on_the_ruler,
        _each_filter_is_a_line_in_the_ledger,
        _two_minutes_from_the_bag,
        _a_bracket_is_nested_in_each_focus_position,
    )


def test_a_shot_is_changed_by_keys_dials_and_reasons(screen):
    """Keys to the steps and dials, undo, a pinned value, a reason's dial, and a reload."""
    in_turn(
        screen,
        _a_dial_moves_with_the_arrow_keys_and_undo_takes_it_back,
        _keys_go_to_the_steps_but_not_while_typing,
        _keys_turn_aperture_iso_and_camera,
        _a_pinned_value_can_be_let_go,
        _a_reason_leads_to_its_dial,
        _changes_survive_a_reload_and_make_the_card_stale,
    )

"""The contact strip: groups of frames edited by hand and with the keyboard, and what they come to."""

from screen import in_turn
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import Select

POSTS = "Posts at the ebb"


def _row(screen, at):
    return screen.find(f"//li[@data-group-row='{at}']")


def _roles(screen):
    return [item["name"] or item["role"] for item in screen.facts()["frame_groups"]]


def _begin_with(screen, name):
    screen.press("begin with ▾")
    screen.find(f"//*[@role='menuitem' and normalize-space()='{name}']").click()


def _groups_are_made_moved_and_removed_with_the_keyboard(screen):
    screen.open_shot(POSTS, "sequence")
    screen.count("[data-frame]", 3)
    _begin_with(screen, "Near, far and the sky")
    screen.count("[data-group-row]", 4)
    screen.count("[data-group]", 4)
    assert _roles(screen) == ["near", "middle", "far", "sky"]
    # The sky, a stop darker, goes first: Alt with the arrow moves it, and the order is then as listed.
    screen.browser.execute_script("arguments[0].focus()", _row(screen, 3))
    for at in (2, 1, 0):
        screen.chord(Keys.ALT, Keys.ARROW_UP)
        screen.wait(
            lambda at=at: screen.browser.switch_to.active_element.get_attribute("data-group-row") == str(at),
            f"the row {at} has no focus",
        )
    screen.wait(lambda: _roles(screen) == ["sky", "near", "middle", "far"])
    screen.wait(lambda: screen.facts()["frame_order"] == "pinned")
    screen.keys(Keys.DELETE)
    screen.wait(lambda: _roles(screen) == ["near", "middle", "far"])
    screen.undo()
    screen.wait(lambda: _roles(screen) == ["sky", "near", "middle", "far"])
    screen.count("[data-group-row]", 4)


def _a_group_of_a_time_of_its_own_with_a_slow_server(screen):
    screen.open_shot(POSTS, "sequence")
    screen.network(latency_ms=300)
    screen.press("add a group")
    screen.count("[data-group-row]", 2)
    screen.reads("Brighter by")
    screen.type("Name", "wave")
    screen.wait(lambda: _roles(screen) == ["stack", "wave"])
    _select(screen, "Exposure", "a time of its own")
    screen.type("Shutter", "1/500")
    screen.type("How often", "20")
    screen.wait(
        lambda: (
            (screen.facts()["frame_groups"][1]["shutter_label"], screen.facts()["frame_groups"][1]["count"])
            == ("1/500", 20)
        )
    )
    # Twenty frames at each of the focus positions are folded into one card, and unfolded again.
    screen.count("[data-folded='1']", 1)
    screen.find("//li[@data-group='1']//button[starts-with(normalize-space(), 'show all')]").click()
    screen.count("[data-folded='1']", 0)
    assert len(screen.all("li[data-group='1'] [data-frame]")) == 60
    # What the group cannot be is said at its field, and what was typed stays.
    screen.expect_in_console("422")
    screen.type("Shutter", "fast")
    screen.reads("fast")
    screen.wait(
        lambda: screen.field("Shutter").get_attribute("aria-invalid") == "true", "the refused time is not marked"
    )
    assert screen.value("Shutter") == "fast"
    assert screen.facts()["frame_groups"][1]["shutter_label"] == "1/500"


def _a_muted_group_is_not_taken_and_missed(screen):
    screen.open_shot(POSTS, "sequence")
    _begin_with(screen, "Near, far and the sky")
    screen.count("[data-group-row]", 4)
    screen.find("//li[@data-group-row='0']//button[normalize-space()='near']").click()
    screen.tick("muted")
    screen.reads("too soft")
    assert screen.mark("sequence") == "fails"
    screen.reads("muted")
    _begin_with(screen, "As planned")
    screen.wait(lambda: screen.facts()["frame_groups"] == [])
    screen.wait(lambda: screen.mark("sequence") == "holds")


def _select(screen, label, option):
    box = screen.find(f"//select[@id = //label[normalize-space()='{label}']/@for]")
    screen.steady(box)
    box.send_keys(option)
    screen.wait(lambda: Select(box).first_selected_option.text == option, f"{label}: not {option}")


def test_groups_of_frames(screen):
    """Made, moved, muted and removed."""
    in_turn(
        screen,
        _groups_are_made_moved_and_removed_with_the_keyboard,
        _a_muted_group_is_not_taken_and_missed,
        _a_group_of_a_time_of_its_own_with_a_slow_server,
    )

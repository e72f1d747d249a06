"""Close up in the real interface: rig, hold, ways to focus, lenses side by side, flash."""

from screen import in_turn
from selenium.webdriver.common.keys import Keys

LACEWING = "Lacewing asleep on a rush"


def _by_hand_with_flash_and_then_on_the_rail(screen):
    screen.open_shot(LACEWING, "depth")
    screen.reads("leaning in")
    screen.reads("lean in at 4.3 mm/s")
    screen.find(
        "//select[@id = //label[normalize-space()='Camera held by']/@for]/option[normalize-space()='a tripod']"
    ).click()
    screen.reads("on the rail")
    screen.tick("Geared rail")
    screen.reads("Geared rail can do that: 100 mm in steps from 0.05 mm")
    screen.step("exposure")
    screen.reads("with flash at 1/64")
    screen.type("Light to subject", "3 m")
    screen.wait(lambda: screen.mark("exposure") == "fails")
    screen.type("Light to subject", "12 cm")
    screen.wait(lambda: screen.mark("exposure") == "holds")
    screen.count("[data-ledger='flash']", 1)


def _a_way_to_focus_is_taken_by_a_press(screen):
    screen.open_shot("Posts at the ebb", "depth")
    screen.count("[data-choice='chosen']", 1)
    screen.find("//table[@aria-label='Ways to focus, side by side']//button[contains(., 'hyperfocal')]").click()
    screen.wait(lambda: screen.mark("depth") == "fails")
    screen.count("[data-slice]", 1)
    screen.find("//table[@aria-label='Ways to focus, side by side']//button[contains(., 'refocusing')]").click()
    screen.wait(lambda: screen.mark("depth") == "holds")
    screen.find("//*[@data-throw]")


def _the_ground_at_the_frame_s_edge(screen):
    screen.open_shot("Split boulder under the fell", "depth")
    screen.field("Near limit").send_keys(Keys.CONTROL, "a")
    screen.field("Near limit").send_keys(Keys.DELETE, Keys.ENTER)
    screen.wait(lambda: "1.01 m" in screen.verdict("depth"))
    screen.tick("the ground at the lower edge")
    screen.wait(lambda: "0.95 m" in screen.verdict("depth"))


def _lenses_side_by_side_and_a_ruler(screen):
    screen.open_shot("Sundew after rain", "depth")
    screen.press("compare the bag")
    screen.count("[data-lens='reached']", 1)
    screen.type("or ruler across it", "48")
    screen.wait(lambda: screen.field("Magnification").get_attribute("value") == "0.75")
    screen.step("frame")
    screen.press("Close up")
    screen.find("//*[@data-sketch]")


def _an_accessory_by_its_kind(screen):
    screen.open("/kit")
    screen.press("add an accessory")
    screen.find("//select[@id = //label[normalize-space()='Kind']/@for]/option[normalize-space()='rail']").click()
    for name, text in (("name", "Focus rack"), ("travel_mm", "60")):
        screen.find(f"//form//input[@name='{name}']").send_keys(text)
    screen.expect_in_console("422")
    screen.press("Add the accessory")
    screen.reads("Of a rail the finest step must be known.")
    screen.find("//form//input[@name='finest_mm']").send_keys("0.2")
    screen.press("Add the accessory")
    screen.reads("rail, 60 mm of travel, steps from 0.2 mm")


def test_close_up_work(screen):
    """Rig, hold, ways to focus, lenses side by side, flash, and an accessory."""
    in_turn(
        screen,
        _by_hand_with_flash_and_then_on_the_rail,
        _a_way_to_focus_is_taken_by_a_press,
        _the_ground_at_the_frame_s_edge,
        _lenses_side_by_side_and_a_ruler,
        _an_accessory_by_its_kind,
    )

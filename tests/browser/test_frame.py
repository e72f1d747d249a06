"""The composition bench: the camera dragged over the ground, the tuner run and taken back, all by hand or by keys."""

from selenium.webdriver.common.keys import Keys


def _reading(screen, words):
    return screen.find(f"//*[@data-reading]/span[contains(., '{words}')]").text


def test_dragging_the_camera_changes_finder_and_verdicts(screen):
    screen.open_shot("Split boulder under the fell", "frame")
    screen.press("Ground and reading")
    before = _reading(screen, "Split boulder stands")
    handle = screen.handle("Position of the camera")
    screen.browser.execute_script("arguments[0].scrollIntoView({block: 'center'})", handle)
    screen.drag(handle, -14, 10)
    screen.wait(lambda: screen.field("East of the mark").get_attribute("value") != "0")
    screen.wait(lambda: _reading(screen, "Split boulder stands") != before)
    # The same by keys, a tenth of a metre at a time.
    here = float(screen.field("North of the mark").get_attribute("value"))
    screen.handle("Position of the camera").send_keys(Keys.ARROW_UP)
    screen.wait(lambda: abs(float(screen.field("North of the mark").get_attribute("value")) - here - 0.1) < 0.011)


def test_the_tuner_runs_and_is_taken_back(screen):
    screen.open_shot("Split boulder under the fell", "frame")
    before = screen.field("Bearing").get_attribute("value")
    screen.press("Fine-tuner")
    kind = screen.find("//select[@aria-label='Element of wish 1']/option[normalize-space()='Lone larch']")
    kind.click()
    screen.press("Find the camera")
    screen.find("//*[@data-solution]")
    screen.press("Stand there")
    screen.press("Ground and reading")
    screen.find("//*[@data-reading]/span[normalize-space()='Lone larch stands on the left third.']")
    screen.press("Camera and aim")
    assert screen.field("Bearing").get_attribute("value") != before
    screen.press("undo")
    screen.wait(lambda: screen.field("Bearing").get_attribute("value") == before)


def test_a_contradiction_is_said(screen):
    screen.open_shot("Split boulder under the fell", "frame")
    screen.press("Fine-tuner")
    screen.press("Add a wish")
    for number in (1, 2):
        screen.find(f"//select[@aria-label='Element of wish {number}']/option[normalize-space()='Lone larch']").click()
    screen.press("Find the camera")
    screen.reads("These wishes contradict each other")

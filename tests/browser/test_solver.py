"""The solver: wishes stated, a plan taken and undone, and what has to give way."""

from screen import in_turn

POSTS = "Posts at the ebb"


def _a_plan_is_taken_and_undone(screen):
    screen.open_shot(POSTS, "exposure")
    before = screen.facts()
    screen.keys("s")
    screen.find("//*[@data-plan='best']")
    screen.reads("plans were judged")
    # What one wants is said; the plans follow. A stop of ISO weighs more for who wants clean files: nothing to
    # change here.
    screen.choose("clean")
    screen.wait(lambda: screen.facts()["leaning"] == "clean")
    screen.find("//*[@data-plan='best']//button[normalize-space()='as it stands' and @disabled]")
    screen.find("//*[@data-plan='quickest']//button[normalize-space()='take']").click()
    screen.wait(
        lambda: screen.facts()["f_number"] != before["f_number"] or screen.facts()["filters"] != before["filters"]
    )
    screen.count("[role=dialog]", 0)
    screen.undo()
    screen.wait(
        lambda: (screen.facts()["f_number"], screen.facts()["filters"]) == (before["f_number"], before["filters"])
    )


def _what_has_to_give_way_is_named_by_how_much_and_taken(screen):
    screen.open_shot(POSTS, "sequence")
    screen.press("solve")
    screen.find("//*[@data-plan='best']")
    screen.network(latency_ms=300)
    screen.type("Frames at most", "1")
    screen.reads("Nothing keeps all that must be")
    screen.reads("instead of 1")
    screen.find("//*[@data-concessions]//li[contains(., 'be soft by')]//button").click()
    screen.count("[role=dialog]", 0)
    screen.wait(lambda: len(screen.ask("GET", f"/shots/{screen.shot_id()}")["plan"]["sequence"]["frames"]) == 1)
    # A limit that cannot be is said at its field, and stays there.
    screen.press("solve")
    screen.expect_in_console("422")
    screen.type("Frames at most", "none")
    screen.wait(
        lambda: screen.field("Frames at most").get_attribute("aria-invalid") == "true",
        "the refused limit is not marked",
    )
    assert screen.value("Frames at most") == "none"
    assert screen.facts()["most_frames"] == 1


def test_a_plan_is_found_taken_and_limited(screen):
    """Plans are compared and taken; what has to give way is named."""
    in_turn(screen, _a_plan_is_taken_and_undone, _what_has_to_give_way_is_named_by_how_much_and_taken)

"""What a person typed or pressed is there afterwards: after undo, reload, back, with two tabs, a slow server, or
none.
"""

from functools import partial

import pytest
from screen import in_turn
from selenium.webdriver.common.keys import Keys

POSTS, BOULDER = "Posts at the ebb", "Split boulder under the fell"
# Step, label of the field, what is typed, what it is shown as, the key that turns it on, what that makes of it.
DIALS = (
    ("depth", "Aperture", "5,6", "f/5.6", "]", "f/6.3"),
    ("exposure", "ISO", "200", "200", "=", "250"),
    ("frame", "Focal length", "28", "28", ".", "35"),
    ("exposure", "Shutter wanted", "8s", "8 s", "'", "10 s"),
)


def test_a_dial_shows_what_is_in_force(screen):
    """Typed, turned by a key, passed through and undone."""
    in_turn(screen, *(partial(_turned, *dial) for dial in DIALS))


def _turned(step, label, typed, shown, key, then, screen):
    screen.open_shot(BOULDER if step == "frame" else POSTS, step)
    at_first = screen.dial(label).get_attribute("value")
    screen.type_over(screen.dial(label), typed)
    screen.keys(Keys.ENTER)
    screen.dial_reads(label, shown)
    screen.focus_nothing()
    screen.keys(key)
    screen.dial_reads(label, then)
    # Passing through changes nothing.
    before = screen.facts()
    screen.browser.execute_script("arguments[0].focus()", screen.dial(label))
    screen.keys(Keys.TAB)
    screen.focus_nothing()
    screen.dial_reads(label, then)
    assert screen.facts() == before
    # Quick edits of the same values are one edit, on a slow machine they are two: undo leads back to where they stood.
    screen.chord(Keys.CONTROL, "z")
    screen.wait(lambda: screen.dial(label).get_attribute("value") in (shown, at_first), label)
    if at_first != shown and screen.dial(label).get_attribute("value") == shown:
        screen.chord(Keys.CONTROL, "z")
    screen.dial_reads(label, at_first)


def _a_time_of_day_is_read_as_people_write_it(screen):
    screen.open_shot(POSTS, "light")
    for typed, other in (("8.30", "9.00"), ("0830", "0900"), ("8h30", "9h00"), ("8:30am", "9:00am"), ("8,30", "9,00")):
        screen.type("Time of the shot", typed)
        screen.shows("Time of the shot", "08:30")
        screen.type("Time of the shot", other)
        screen.shows("Time of the shot", "09:00")


def _a_time_that_is_none_is_refused_and_kept(screen):
    screen.expect_in_console("422")
    screen.open_shot(POSTS, "light")
    before = screen.facts()["clock_local"]
    screen.type("Time of the shot", "8.3")
    screen.reads("8:30")
    assert screen.value("Time of the shot") == "8.3"
    assert screen.facts()["clock_local"] == before


def _typing_goes_on_while_a_zone_is_looked_up(screen):
    screen.open("/locations")
    screen.press("New location")
    screen.network(latency_ms=300)
    for label, text in (("Coordinates", "58.1, -6.3"), ("Name", "Kelda Head"), ("Elevation", "120")):
        screen.field(label).send_keys(text)
    screen.reads("left empty: Europe/London")
    screen.press("Add the location")
    screen.reads("First viewpoint")
    made = next(row for row in screen.ask("GET", "/locations")["locations"] if row["name"] == "Kelda Head")
    assert made["elevation_m"] == 120


def _a_draft_is_marked_and_goes_only_when_told(screen):
    screen.open_shot(POSTS, "depth")
    before = screen.value("Near limit")
    box = screen.field("Near limit")
    screen.type_over(box, "6")
    screen.browser.refresh()
    screen.reads("Not saved: “6”")
    screen.shows("Near limit", before)
    # The same in a second tab, where it is no more saved than here.
    first = screen.browser.current_window_handle
    address = screen.browser.current_url
    screen.browser.switch_to.new_window("tab")
    screen.browser.get(address)
    screen.reads("Not saved: “6”")
    screen.shows("Near limit", before)
    screen.press("throw it away")
    screen.wait(lambda: "Not saved" not in screen.text())
    screen.browser.close()
    screen.browser.switch_to.window(first)
    screen.browser.refresh()
    screen.shows("Near limit", before)
    assert "Not saved" not in screen.text()
    screen.step("exposure")
    screen.step("depth")
    screen.type_over(screen.field("Near limit"), "60 cm")
    # Back and forward within the application, and out of it and in again.
    screen.browser.back()
    screen.find("//*[@data-step='exposure' and @aria-current]")
    screen.browser.forward()
    screen.reads("Not saved: “60 cm”")
    screen.browser.get(screen.address + "/api/health")
    screen.browser.back()
    screen.reads("Not saved: “60 cm”")
    screen.press("save it")
    screen.count("[data-slice]", 2)
    assert screen.facts()["near_m"] == 0.6


def _ticks_and_keys_wait_for_a_server_that_is_away(screen):
    screen.expect_in_console("ERR_INTERNET_DISCONNECTED")
    screen.open_shot(POSTS, "exposure")
    screen.dial_reads("Aperture", "f/16")
    screen.network(offline=True)
    screen.find("//label[span[normalize-space()='6-stop soft graduated' or contains(., 'olariser')]]/input").click()
    screen.focus_nothing()
    screen.keys("]")
    screen.reads("Waiting to be sent, nothing is lost")
    ticked = screen.facts()["filters"]
    screen.network()
    screen.dial_reads("Aperture", "f/18")
    screen.wait(lambda: len(screen.facts()["filters"]) != len(ticked))
    screen.wait(lambda: "does not answer" not in screen.text())
    assert screen.facts()["f_number"] == pytest.approx(2 ** (25 / 6), rel=1e-3)


def _what_is_typed_stays_while_the_server_is_away(screen):
    screen.expect_in_console("ERR_INTERNET_DISCONNECTED")
    screen.open_shot(POSTS, "depth")
    screen.count("[data-slice]", 3)
    screen.network(offline=True)
    screen.type("Near limit", "60 cm")
    screen.reads("The server does not answer")
    assert screen.value("Near limit") == "60 cm"
    screen.network()
    screen.field("Near limit").send_keys(Keys.ENTER)
    screen.count("[data-slice]", 2)
    screen.wait(lambda: "does not answer" not in screen.text())


def _ticks_in_quick_succession_all_count(screen):
    names = ("Coirón tuft", "Quelén towers")
    screen.open_shot("Towers from the steppe", "depth")
    boxes = [screen.find(f"//label[span[normalize-space()='{name}']]/input") for name in names]
    screen.browser.execute_script("for (const box of arguments[0]) box.click()", boxes)
    for name in names:
        screen.wait(
            lambda name=name: not screen.find(f"//label[span[normalize-space()='{name}']]/input").is_selected(), name
        )


def _edits_that_wait_survive_a_reload(screen):
    screen.expect_in_console("ERR_INTERNET_DISCONNECTED")
    screen.open_shot(POSTS, "depth")
    screen.network(offline=True)
    screen.focus_nothing()
    screen.keys("]")
    screen.reads("Waiting to be sent")
    screen.network()
    # The page asks before it goes with edits that wait; this person goes all the same.
    screen.browser.execute_script("window.addEventListener('beforeunload', e => e.stopImmediatePropagation(), true)")
    screen.browser.get(screen.address + "/kit")
    screen.open_shot(POSTS, "depth")
    screen.wait(lambda: screen.facts()["f_number"] != 16 or "From an earlier visit, never sent" in screen.text())
    if "From an earlier visit" in screen.text():
        screen.press("send now")
    screen.dial_reads("Aperture", "f/18")


def _the_other_tabs_edits_are_seen(screen):
    screen.open_shot(POSTS, "depth")
    screen.dial_reads("Aperture", "f/16")
    screen.ask("PATCH", f"/shots/{screen.shot_id()}", {"f_number": "f/11"})
    screen.dial_reads("Aperture", "f/11")


def _one_value_in_two_hands_is_asked_about(screen):
    screen.expect_in_console("409")
    screen.open_shot(POSTS, "exposure")
    shot = screen.shot_id()
    screen.dial_reads("ISO", "100")
    screen.ask("PATCH", f"/shots/{shot}", {"iso": 400})
    # Before the page has asked again: this hand still saw 100.
    screen.type_over(screen.dial("ISO"), "200")
    screen.keys(Keys.ENTER)
    screen.wait(
        lambda: (
            "Changed elsewhere" in screen.text() or "Changed meanwhile" in screen.text() or screen.facts()["iso"] == 200
        )
    )
    if "Changed elsewhere since you read it" in screen.text():
        assert screen.facts()["iso"] == 400
        screen.press("take mine")
    screen.wait(lambda: screen.facts()["iso"] == 200)
    # Undo brings the other's value back, not the one before it.
    screen.focus_nothing()
    screen.chord(Keys.CONTROL, "z")
    screen.dial_reads("ISO", "400")


def _undo_names_what_it_takes_back(screen):
    screen.open_shot(POSTS, "depth")
    shot = screen.shot_id()
    screen.ask("PATCH", f"/shots/{shot}", {"pitch_deg": -4})
    label = "//button[starts-with(normalize-space(), 'undo')]"
    screen.wait(lambda: "pitch" in (screen.find(label).get_attribute("textContent") or ""))
    screen.ask("PATCH", f"/shots/{shot}", {"iso": 400})
    screen.wait(lambda: "ISO" in (screen.find(label).get_attribute("textContent") or ""))
    screen.find(label).click()
    screen.wait(lambda: screen.facts()["iso"] == 100)
    assert screen.facts()["pitch_deg"] == -4


def _redo_of_a_new_shot_brings_back_what_it_had_become(screen):
    screen.open("/")
    screen.press("New shot")
    screen.field("Name").send_keys("Weir in spate", Keys.ENTER)
    screen.find(
        "//select[@id = //label[normalize-space()='Where the tripod stands']/@for]/option[contains(., 'Isfold')]"
    ).click()
    screen.wait(lambda: screen.mark("place") == "holds")
    screen.step("depth")
    screen.type_over(screen.dial("Aperture"), "11")
    screen.keys(Keys.ENTER)
    screen.dial_reads("Aperture", "f/11")
    shot, became = screen.shot_id(), screen.facts()
    screen.open("/")
    screen.find("//button[starts-with(normalize-space(), 'undo: new shot')]").click()
    screen.find("//main[not(.//h2/a[normalize-space()='Weir in spate'])]")
    screen.find("//button[starts-with(normalize-space(), 'redo: new shot')]").click()
    screen.find("//main//h2/a[normalize-space()='Weir in spate']")
    assert screen.facts(shot) == became


def _an_answer_under_way_stays_with_its_shot(screen):
    screen.open_shot(POSTS, "depth")
    first = screen.shot_id()
    screen.network(latency_ms=300)
    screen.type_over(screen.dial("Aperture"), "8")
    screen.keys(Keys.ENTER)
    screen.browser.execute_script(
        "history.pushState({}, '', '/'); window.dispatchEvent(new PopStateEvent('popstate', {state: {}}))"
    )
    screen.find(f"//main//h2/a[normalize-space()='{BOULDER}']").click()
    screen.step("depth")
    second, aperture = screen.shot_id(), screen.dial("Aperture").get_attribute("value")
    screen.wait(lambda: screen.facts(first)["f_number"] == 8)
    assert second != first
    screen.dial_reads("Aperture", aperture)


def _one_refusal_does_not_take_others_along(screen):
    screen.expect_in_console("422")
    screen.open_shot(POSTS, "depth")
    screen.network(latency_ms=300)
    screen.type_over(screen.field("Near limit"), "far away")
    screen.keys(Keys.ENTER)
    screen.focus_nothing()
    screen.keys("]")
    screen.keys("]")
    screen.reads("“far away”")
    screen.dial_reads("Aperture", "f/20")
    assert screen.value("Near limit") == "far away"


def _quick_keys_with_a_slow_server_all_count(screen):
    screen.open_shot(POSTS, "depth")
    screen.dial_reads("Aperture", "f/16")
    screen.network(latency_ms=300)
    screen.focus_nothing()
    for _ in range(6):
        screen.keys("[")
    screen.dial_reads("Aperture", "f/8")
    screen.wait(lambda: screen.facts()["f_number"] == 8)


def _a_page_of_another_notebook_changes_nothing(screen):
    screen.expect_in_console("409")
    screen.open_shot(POSTS, "depth")
    # As after a fresh start: the page is old, the notebook is another.
    screen.browser.execute_script("""
    const real = window.fetch;
    window.fetch = (request) => { if (request.method === 'PATCH') request.headers.set('Lucid-Ridge-Notebook', 'an older one'); return real(request); };
    """)
    before = screen.facts()
    screen.focus_nothing()
    screen.keys("]")
    screen.find("//button[normalize-space()='Open the notebook that is served now']")
    assert screen.facts() == before


def test_what_is_typed_is_read_shown_and_kept(screen):
    """Times, refusals, drafts over reload, back and a second tab."""
    in_turn(
        screen,
        _a_time_of_day_is_read_as_people_write_it,
        _a_time_that_is_none_is_refused_and_kept,
        _typing_goes_on_while_a_zone_is_looked_up,
        _a_draft_is_marked_and_goes_only_when_told,
        _what_is_typed_stays_while_the_server_is_away,
        _ticks_in_quick_succession_all_count,
    )


def test_edits_wait_for_a_server_that_is_away_or_slow(screen):
    """Ticks and keys are sent when the server is back, in order, each to its own shot."""
    in_turn(
        screen,
        _ticks_and_keys_wait_for_a_server_that_is_away,
        _edits_that_wait_survive_a_reload,
        _an_answer_under_way_stays_with_its_shot,
        _one_refusal_does_not_take_others_along,
        _quick_keys_with_a_slow_server_all_count,
    )


def test_two_hands_on_one_notebook(screen):
    """Edits of another tab are seen, asked about and undone by name."""
    in_turn(
        screen,
        _the_other_tabs_edits_are_seen,
        _one_value_in_two_hands_is_asked_about,
        _undo_names_what_it_takes_back,
        _redo_of_a_new_shot_brings_back_what_it_had_become,
        _a_page_of_another_notebook_changes_nothing,
    )

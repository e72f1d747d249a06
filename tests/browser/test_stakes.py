"""A window that the way does not allow, a typed tide that moves it, and the same times in the calendar and on the
card; which place.
"""

import json
import re
import urllib.request
from datetime import date, timedelta

from screen import in_turn

POSTS = "Posts at the ebb"


def _line(screen, kind):
    return screen.find(f"//*[@data-window='{kind}']")


def test_a_window_inside_the_cut_off_is_ruled_down_and_a_typed_tide_moves_it(screen):
    screen.open_shot(POSTS, "light")
    shot = int(re.search(r"/shots/(\d+)/", screen.browser.current_url)[1])
    # Side light comes while the bank is an island: it is offered as nothing good, and says why.
    side = _line(screen, "low_side_light")
    assert "no way there and back" in side.text
    side.find_element("tag name", "button").click()
    screen.wait(lambda: "cut off from" in side.text and "No start in this window" in side.text)
    # The wanted light is taken only where the water stands and the way is open.
    wanted = _line(screen, "low_back_light")
    wanted.find_element("tag name", "button").click()
    button = screen.find("//*[@data-window='low_back_light']//button[starts-with(., 'Take ')]")
    start, end = re.findall(r"\d\d:\d\d", button.text)
    button.click()
    screen.wait(lambda: f"{start} to {end}" in screen.verdict("light"), screen.verdict("light"))
    assert screen.mark("place") == "holds"
    # A table typed for the place: high water at eleven, so that the way is open again from two on.
    facts = screen.ask("GET", f"/shots/{shot}")
    day = date.fromisoformat(facts["facts"]["light"]["date_local"])
    lines = [
        f"{day + timedelta(days=hours // 24)} {hours % 24:02d}:00 {'1.0' if ((hours + 1) // 6) % 2 else '4.4'} m"
        for hours in range(-43, 60, 6)
    ]
    screen.open(f"/locations/{facts['place']['location_id']}")
    screen.press("write a table")
    area = screen.find("//textarea[@name='table']")
    area.click()
    screen.paste("\n".join([*lines[:6], "nonsense 25:99"]))
    screen.expect_in_console("422")
    screen.press("Take this tide")
    screen.find("//*[@role='alert'][contains(., 'Line 7')]")
    # What was typed is still there, after a reload too.
    screen.browser.refresh()
    screen.press("write a table")
    area = screen.find("//textarea[@name='table']")
    assert "nonsense 25:99" in area.get_attribute("value")
    screen.browser.execute_script("arguments[0].focus(); arguments[0].select()", area)
    screen.paste("\n".join(lines))
    screen.press("Take this tide")
    screen.find("//*[@data-own-tide]")
    screen.open_shot(POSTS, "light")
    after = next(item for item in screen.ask("GET", f"/shots/{shot}/day")["windows"] if item["wanted"])
    assert after["take_words"] != f"Take {start} to {end}"
    assert not after["broken"]
    _line(screen, "low_back_light").find_element("tag name", "button").click()
    screen.find(f"//*[@data-window='low_back_light']//button[.='{after['take_words']}']")
    # The calendar's entry, the card and the window say the same times.
    screen.ask(
        "PATCH",
        f"/shots/{shot}",
        {"light": {"time_utc": after["take_start_utc"], "window_end_utc": after["take_end_utc"]}},
    )
    # The shot's own frames now begin there, in the light of that hour.
    after = next(item for item in screen.ask("GET", f"/shots/{shot}/day")["windows"] if item["wanted"])
    card = screen.ask("POST", f"/shots/{shot}/cards")["content"]
    entry = _calendar(screen, shot, after)
    leave = re.search(r"Leave home by (\d\d:\d\d)", after["way_words"])[1]
    assert card["way"][0]["start"] == leave
    # The alarm is set for leaving home, and the entry says the whole way.
    assert after["way_words"] in entry
    back = re.search(r"Back at the car about (\d\d:\d\d)", after["way_words"])[1]
    assert card["way"][-1]["end"] == back
    screen.open_shot(POSTS, "light")
    way = screen.find("//*[name()='g'][@data-band='way']")
    screen.wait(lambda: f"leave home {leave}" in way.text and f"back {back}" in way.text, way.text)


def _calendar(screen, shot, window):
    """The text of a window's calendar entry, unfolded."""
    span = {"start_utc": window["take_start_utc"], "end_utc": window["take_end_utc"], "kind": window["kind"]}
    body = json.dumps({"windows": [span]}).encode()
    request = urllib.request.Request(
        f"{screen.address}/api/shots/{shot}/calendar", body, {"Content-Type": "application/json"}
    )
    with urllib.request.urlopen(request, timeout=30) as answer:
        return answer.read().decode().replace("\r\n ", "").replace("\\,", ",").replace("\\;", ";")


def _which_place_ranks_and_plans(screen):
    screen.open("/which-place?from=2026-12-09&days=2")
    screen.find("//*[@data-prospect]")
    rows = screen.all("[data-prospect]")
    assert len(rows) > 4
    first = rows[0]
    name = first.get_attribute("data-prospect")
    clock = re.search(r"(\d\d:\d\d)–", first.text)[1]
    assert first.find_element("css selector", "[data-lane] rect").size["height"] > 0
    screen.press("Plan it for then")
    screen.find("//*[@data-step='light']")
    screen.wait(lambda: screen.field("Time of the shot").get_attribute("value") == clock)
    assert name in screen.text()
    screen.browser.back()
    # The days looked at stand in the address, and so a reload keeps them.
    screen.browser.refresh()
    screen.find("//*[@data-prospect]")
    assert "days=2" in screen.browser.current_url


def _forecast_known(screen, location):
    """Whether there is a forecast; a service that was too slow for its first answer is asked again."""
    known = screen.ask("GET", f"/locations/{location}/forecast")["known"]
    if not known:
        screen.ask("DELETE", f"/locations/{location}/forecast")
    return known


def _an_hour_of_the_forecast_is_changed_by_hand(screen):
    location = next(
        item["id"] for item in screen.ask("GET", "/locations")["locations"] if item["name"] == "Sallow Estuary"
    )
    screen.wait(lambda: _forecast_known(screen, location))
    screen.open_shot(POSTS, "light")
    screen.press("Change hours by hand …")
    row = screen.find("//*[@data-hour='15:00']")
    field = row.find_element("xpath", ".//label[contains(., 'Gusts')]/following::input[1]")
    screen.browser.execute_script("arguments[0].focus(); arguments[0].select()", field)
    field.send_keys("21", "\n")
    screen.wait(lambda: "by hand" in screen.find("//*[@data-hour='15:00']").text)
    screen.press("Close")
    # Gusts of 21 m/s are a gale on the way: the place is tight.
    screen.wait(lambda: screen.mark("place") == "tight", "the plan knows the gale")
    screen.wait(lambda: "One hour is changed by hand" in screen.text())


def _which_place_asks_for_forecasts_when_told(screen):
    screen.open("/which-place")
    screen.find("//*[@data-prospect]")
    assert "no forecast yet" in screen.text()
    screen.press("Ask for their forecasts")
    screen.find("//*[@data-prospect]//*[name()='svg'][contains(@aria-label, 'of 100')]")


def test_places_are_ranked_and_a_forecast_changed_by_hand(screen):
    """Which place, its forecasts, and an hour by hand."""
    in_turn(
        screen,
        _which_place_asks_for_forecasts_when_told,
        _which_place_ranks_and_plans,
        _an_hour_of_the_forecast_is_changed_by_hand,
    )

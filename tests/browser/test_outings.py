"""Outings: five stops planned, planned again forty minutes late, packed, and printed as a card."""

import base64
import re

from screen import in_turn

DAWN = "Bog at first light, then the sill"


def _open(screen):
    screen.open("/outings")
    screen.find(f"//a[normalize-space()='{DAWN}']").click()
    screen.count("[data-stop-row]", 5)


def _five_stops_are_planned_and_planned_anew_after_forty_minutes(screen):
    _open(screen)
    screen.reads("all 5 stops")
    screen.count("[data-stop]", 5)
    outing = screen.ask("GET", f"/outings/{_id(screen)}")
    begun = outing["parts"][0]["from_h"]
    screen.network(latency_ms=300)
    screen.press("40 min more")
    screen.shows("Late by", "40")
    later = screen.ask("GET", f"/outings/{_id(screen)}")
    assert later["parts"][0]["from_h"] >= begun + 40 / 60 - 1e-6
    for stop in later["stops"]:
        if stop["taken"] is None:
            screen.reads(f"{stop['name']} is left out")
    screen.undo()
    screen.shows("Late by", "0")
    assert screen.ask("GET", f"/outings/{_id(screen)}")["parts"][0]["from_h"] == begun


def _a_stop_is_added_changed_moved_and_taken_out(screen):
    _open(screen)
    screen.press("add a stop")
    box = screen.find("//select[@id = //label[normalize-space()='Add']/@for]")
    screen.wait(lambda: "A rest" in box.text)
    box.send_keys("A rest")
    screen.count("[data-stop-row]", 6)
    screen.find("//li[@data-stop-row='5']//button[@aria-expanded]").click()
    screen.type("Takes", "25")
    screen.wait(lambda: screen.ask("GET", f"/outings/{_id(screen)}")["stops"][5]["minutes"] == 25)
    # What cannot be is said at its field, and stays there.
    screen.expect_in_console("422")
    screen.type("Takes", "soon")
    screen.wait(lambda: screen.field("Takes").get_attribute("aria-invalid") == "true", "the refused time is not marked")
    assert screen.value("Takes") == "soon"
    screen.find("//li[@data-stop-row='5']//button[starts-with(@aria-label, 'earlier')]").click()
    screen.wait(lambda: screen.ask("GET", f"/outings/{_id(screen)}")["facts"]["stop_order"] == "pinned")
    screen.wait(lambda: screen.ask("GET", f"/outings/{_id(screen)}")["stops"][4]["minutes"] == 25)


def _what_is_packed_is_ticked_and_the_card_has_everything(screen):
    _open(screen)
    screen.tick("flask of tea")
    screen.wait(lambda: any(item["packed"] for item in screen.ask("GET", f"/outings/{_id(screen)}")["packing"]))
    screen.type("Something of my own", "kneeling mat")
    screen.reads("kneeling mat")
    number = _id(screen)
    screen.open(f"/outings/{number}/card")
    screen.reads("☑ flask of tea")
    outing = screen.ask("GET", f"/outings/{number}")
    for at in outing["order"]:
        screen.reads(outing["stops"][at]["name"])
    screen.reads(outing["leave_clock"])
    # Printed it is a PDF of A6 pages.
    printed = screen.browser.execute_cdp_cmd("Page.printToPDF", {"preferCSSPageSize": True})
    content = base64.b64decode(printed["data"])
    assert content.startswith(b"%PDF")
    boxes = re.findall(rb"/MediaBox \[0 0 ([\d.]+) ([\d.]+)\]", content)
    # 105 × 148 mm in points of 1/72 inch.
    assert boxes and all(abs(float(wide) - 297.6) < 1.5 and abs(float(high) - 419.5) < 1.5 for wide, high in boxes)


def _an_outing_is_made_and_what_is_lacking_is_said_at_its_field(screen):
    screen.open("/outings")
    screen.press("New outing")
    screen.expect_in_console("422")
    screen.type("Name", "A test of the tarn")
    screen.wait(lambda: screen.field("Date").get_attribute("aria-invalid") == "true", "the missing date is not marked")
    screen.type("Date", "2026-12-01")
    screen.reads("no stops yet")


def _id(screen):
    return int(screen.browser.current_url.rstrip("/").split("/outings/")[1].split("/")[0])


def test_an_outing_is_planned_changed_and_packed(screen):
    """Five stops, forty minutes late, a rest, packing and a card; then a new outing."""
    in_turn(
        screen,
        _five_stops_are_planned_and_planned_anew_after_forty_minutes,
        _a_stop_is_added_changed_moved_and_taken_out,
        _what_is_packed_is_ticked_and_the_card_has_everything,
        _an_outing_is_made_and_what_is_lacking_is_said_at_its_field,
    )

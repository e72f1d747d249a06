"""Whole journeys of a person who has never seen it, counted in clicks and filled fields against a budget."""

from __future__ import annotations

import io
from collections.abc import Iterator

import pytest
from PIL import Image
from screen import Screen, fresh_screen
from selenium.webdriver.common.keys import Keys


class Person:
    """Clicks and fills fields; going into a field counts as a click."""

    def __init__(self, screen: Screen) -> None:
        self.screen = screen
        self.clicks = self.fields = self.keys = 0

    def click(self, words: str) -> None:
        self.clicks += 1
        found = self.screen.find(
            f"//*[self::a or self::button or self::label][normalize-space()='{words}' or @aria-label='{words}' "
            f"or .//*[normalize-space()='{words}']]"
        )
        self.screen.steady(found).click()

    def fill(self, label: str, text: str) -> None:
        self.clicks += 1
        self.fields += 1
        self.keys += len(text)
        box = self.screen.field(label)
        box.click()
        box.send_keys(Keys.CONTROL, "a")
        box.send_keys(text)

    def spent(self, journey: str, clicks: int, fields: int = 6) -> None:
        """Print what a journey took; it must stay within its budget."""
        print(f"{journey}: {self.clicks} clicks of {clicks}, {self.fields} fields, {self.keys} keys")
        assert self.clicks <= clicks, journey
        assert self.fields <= fields, journey


@pytest.fixture
def newcomer(browser, door, migrated_database: str) -> Iterator[Person]:
    """Somebody before an empty notebook."""
    with door.onto(migrated_database) as address:
        made = fresh_screen(browser, address)
        made.open("/")
        yield Person(made)
        browser.get(f"{address}/api/health")


def _to_a_card(person: Person, kind: str) -> None:
    screen = person.screen
    person.click("New shot")
    person.click(kind)
    person.fill("Where: one of your places, coordinates, or a link with them", "54.46, -3.61")
    person.click("Plan it")
    screen.find("//*[@data-step='place' and @data-mark='holds']")
    for step in ("light", "frame", "depth", "exposure", "sequence"):
        assert screen.mark(step) in ("holds", "tight"), f"{step}: {screen.verdict(step)}"
    person.clicks += 1
    screen.step("field")
    person.click("Make a field card")
    screen.find("//*[@role='region' and @aria-label='The card']")


def test_first_card(newcomer):
    _to_a_card(newcomer, "Seascape at sunset")
    newcomer.spent("first card", 12)


def test_a_flower_on_a_rail(newcomer):
    _to_a_card(newcomer, "Flower on a rail")
    newcomer.spent("flower on a rail", 12)


def test_a_waterfall(newcomer):
    screen = newcomer.screen
    newcomer.click("New shot")
    newcomer.click("River or fall in a wood")
    newcomer.fill(
        "Where: one of your places, coordinates, or a link with them", "https://example.org/map?q=54.460,-3.210"
    )
    newcomer.click("Plan it")
    screen.find("//*[@data-step='exposure' and @data-mark='tight']")
    assert "silky" in screen.verdict("exposure")
    # A reading at the fall takes the place of the estimate.
    newcomer.clicks += 1
    screen.step("exposure")
    for label, text in (("Aperture", "f/8"), ("Shutter", "1/8"), ("ISO", "100")):
        newcomer.fill(label, text + Keys.ENTER)
    screen.wait(lambda: "estimated" not in screen.verdict("exposure"))
    newcomer.spent("waterfall", 10)


def test_a_quick_answer_at_the_tripod(newcomer):
    screen = newcomer.screen
    screen.size(390, 844)
    newcomer.click("Now")
    newcomer.fill("Reading without", "1/8")
    # 1/8 s behind ten stops: 128 s.
    screen.find("//*[@data-now='density']//*[@data-figure and normalize-space()='2 min 08 s']")
    # What was typed is there after a reload.
    screen.open("/now")
    screen.find("//*[@data-now='density']//*[@data-figure and normalize-space()='2 min 08 s']")
    newcomer.spent("quick answer at the tripod", 3)


def test_a_quick_answer_in_feet_without_a_network(newcomer):
    screen = newcomer.screen
    screen.expect_in_console("ERR_INTERNET_DISCONNECTED")
    screen.ask("PATCH", "/photographer", {"lengths": "feet"})
    screen.open("/now")
    newcomer.fill("Near", "3 ft")
    screen.wait(lambda: "″" in screen.find("//*[@data-now='depth']//*[@role='status']").text, "no figure in feet")
    screen.network(offline=True)
    try:
        newcomer.fill("Reading without", "1/30")
        screen.find("//*[@data-now='density']//*[@data-figure and normalize-space()='30 s']")
        screen.reads("From the tables on this device")
        newcomer.fill("Filters", "5.2")
        screen.reads("The server does not answer. Without it, the tables know")
    finally:
        screen.network()


def test_tomorrow_s_outing_on_the_phone(screen):
    person = Person(screen)
    screen.size(390, 844)
    screen.open("/")
    person.click("Outings")
    person.click("Bog at first light, then the sill")
    screen.count("[data-stop-row]", 5)
    person.click("card")
    screen.find("//h1")
    person.spent("tomorrow's outing on the phone", 8)


def test_files_in(screen, tmp_path):
    out = io.BytesIO()
    tags = Image.Exif()
    tags[306] = "2026:11:24 16:10:00"
    Image.new("RGB", (60, 40), (90, 90, 90)).save(out, "JPEG", exif=tags)
    (tmp_path / "a.jpg").write_bytes(out.getvalue())
    person = Person(screen)
    screen.open("/")
    person.click("Logbook")
    person.clicks += 1
    screen.find("//input[@type='file']").send_keys(str(tmp_path / "a.jpg"))
    screen.reads("1 of 1 read.")
    person.spent("files in", 2)


def test_the_last_plan_is_there_without_a_network(screen):
    screen.expect_in_console("ERR_INTERNET_DISCONNECTED")
    screen.open_shot("Posts at the ebb", "depth")
    screen.find("//*[@data-step='depth' and @data-mark='holds']")
    shot = screen.shot_id()
    screen.visit("/kit")
    screen.reads("10-stop ND")
    screen.network(offline=True)
    try:
        # Pages that were read go on; what needs the server says so instead of waiting.
        screen.visit(f"/shots/{shot}/exposure")
        screen.find("//*[@data-step='exposure' and @data-mark='holds']")
        screen.visit("/logbook")
        screen.reads("The server does not answer")
        assert "Fetching" not in screen.text()
    finally:
        screen.network()


def test_a_card_goes_to_the_phone(screen):
    screen.open_shot("Posts at the ebb", "field")
    screen.press("Open on your phone")
    dialog = screen.find("//*[@role='dialog']")
    # Served on loopback no phone can reach it: the file is the way.
    screen.wait(lambda: "this computer only" in dialog.text)
    assert screen.find("//*[@role='dialog']//a[@download]").get_attribute("href").endswith("/take-along")


def test_an_answer_goes_into_the_shot_that_was_open(screen):
    screen.open_shot("Posts at the ebb", "exposure")
    shot = screen.shot_id()
    before = screen.facts(shot)
    screen.visit("/now")
    person = Person(screen)
    person.fill("Reading without", "1/15")
    screen.find("//*[@data-now='density']//*[@data-figure and normalize-space()='1 min 04 s']")
    screen.find("//*[@data-now='density']//button[starts-with(normalize-space(), 'use in Posts')]").click()
    screen.find("//*[@data-step='exposure']")
    screen.wait(lambda: screen.facts(shot)["metered_shutter_s"] != before["metered_shutter_s"])
    after = screen.facts(shot)
    # The reading was taken as the shot is set, and the shot stays as it is set.
    assert (after["f_number"], after["metered_f_number"]) == (before["f_number"], before["f_number"])
    assert (after["body_id"], after["lens_id"]) == (before["body_id"], before["lens_id"])

"""Every page in every theme against the rules of axe-core (Deque, MPL-2.0): nothing serious or worse."""

from pathlib import Path

import pytest

AXE = Path(__file__).parents[2] / "web" / "node_modules" / "axe-core" / "axe.min.js"
RUN = """
const done = arguments[arguments.length - 1];
axe.run(document, {resultTypes: ['violations']}).then(found => done(found.violations.map(v =>
  ({rule: v.id, impact: v.impact, at: v.nodes.map(n => n.html.slice(0, 160) + ' | ' + (n.any[0] || n.all[0] || n.none[0] || {message: ''}).message)}))));
"""
LANDSCAPE, CLOSE_UP = "Posts at the ebb", "Sundew after rain"
STEPS = ("place", "light", "frame", "depth", "exposure", "sequence", "field")
PAGES = {
    "notebook": ("/", "//main//h2"),
    "locations": ("/locations", "//main//figure"),
    "kit": ("/kit", "//main//h2"),
    "which place": ("/which-place?from=2026-12-09", "//*[@data-prospect]"),
    "card": ("/cards/1", "//article"),
    "nowhere": ("/nowhere", "//h1"),
}
PANELS = ("Scene", "Reading", "Fine-tuner", "Framings", "Crop, panorama")


def serious(screen) -> list[str]:
    screen.browser.set_script_timeout(60)
    # Set into the page by the test's own hand: the page itself may load no foreign script.
    screen.browser.execute_script(AXE.read_text())
    found = screen.browser.execute_async_script(RUN)
    return [f"{item['rule']}: {at}" for item in found if item["impact"] in ("serious", "critical") for at in item["at"]]


def in_theme(screen, theme: str) -> None:
    screen.find(f"//label[normalize-space()='{theme}']").click()
    screen.wait(lambda: screen.browser.execute_script("return document.documentElement.dataset.theme") == theme.lower())


@pytest.fixture(params=("Graphite", "Paper", "Ember"))
def theme(request) -> str:
    return str(request.param)


def test_the_checker_finds_what_is_wrong(screen):
    # A check that could not fail would prove nothing.
    screen.open("/kit")
    screen.find("//main//h2")
    screen.browser.execute_script("document.querySelector('main').insertAdjacentHTML('beforeend', '<input><img src=\"/x.png\">')")
    screen.expect_in_console("404")
    assert {finding.split(":")[0] for finding in serious(screen)} >= {"label", "image-alt"}


@pytest.mark.parametrize("page", PAGES)
def test_pages(screen, theme, page):
    path, ready = PAGES[page]
    screen.open("/")
    in_theme(screen, theme)
    screen.open(path)
    screen.find(ready)
    assert serious(screen) == []
    assert len(screen.all("h1")) == 1


@pytest.mark.parametrize("shot", (LANDSCAPE, CLOSE_UP))
def test_steps(screen, theme, shot):
    screen.open_shot(shot)
    in_theme(screen, theme)
    found = []
    for step in STEPS:
        screen.step(step)
        screen.wait(lambda: screen.all("main *") and "Fetching" not in screen.text())
        found += [f"{step}: {finding}" for finding in serious(screen)]
        assert len(screen.all("h1")) == 1, step
        if step == "frame":
            for panel in (*PANELS, "Close up") if shot == CLOSE_UP else PANELS:
                screen.find(f"//button[@role='tab' and normalize-space()='{panel}']").click()
                found += [f"{panel}: {finding}" for finding in serious(screen)]
    assert not found, "\n".join(sorted(set(found)))


def test_forms_and_dialogs(screen, theme):
    found = []
    screen.open("/")
    in_theme(screen, theme)
    screen.press("New shot")
    found += serious(screen)
    screen.press("? keys")
    screen.find("//*[@role='dialog']")
    found += serious(screen)
    screen.open("/locations")
    screen.press("New location")
    found += serious(screen)
    screen.open("/kit")
    screen.wait(lambda: "16–35 mm wide zoom" in screen.text())
    for button in ("add a lens", "add a body", "add a filter", "add a tripod"):
        screen.press(button)
    for piece in ("16–35 mm wide zoom", "Full-frame body, 45 MP", "3-stop ND", "Ground pod"):
        screen.steady(screen.find(f"//button[@aria-expanded='false'][contains(., '{piece}')]")).click()
    found += serious(screen)
    screen.open_shot(LANDSCAPE, "place")
    screen.press("Name, intent, deleting") if screen.all("[aria-label='Name, intent, deleting']") else screen.press(LANDSCAPE)
    screen.find("//*[@role='dialog']")
    found += serious(screen)
    assert not found, "\n".join(sorted(set(found)))

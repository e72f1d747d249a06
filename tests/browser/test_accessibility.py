"""Every page in every theme against the rules of axe-core (Deque, MPL-2.0): nothing serious or worse."""

from pathlib import Path

import pytest

AXE = Path(__file__).parents[2] / "web" / "node_modules" / "axe-core" / "axe.min.js"
RUN = """
const [only, within, done] = arguments, run = only && {runOnly: {type: 'rule', values: only}};
axe.run(within || document, {resultTypes: ['violations'], ...run}).then(found => done(found.violations.map(v =>
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


# What of the rules another theme can break: it exchanges colours and nothing else.
OF_COLOURS = ["color-contrast", "link-in-text-block"]
THEMES = ("Graphite", "Paper", "Ember")


def serious(screen, within: str | None = None) -> list[str]:
    """Return what is wrong with the page: by all rules in the theme it is in, by those of colours in the two others. within: a part of it, by CSS."""
    screen.browser.set_script_timeout(60)
    # Set into the page by the test's own hand: the page itself may load no foreign script.
    screen.browser.execute_script(AXE.read_text())
    shown = screen.browser.execute_script("return document.documentElement.dataset.theme")
    found = _checked(screen, None, within)
    for theme in THEMES:
        if theme.lower() != shown:
            in_theme(screen, theme)
            found += [f"{theme}: {finding}" for finding in _checked(screen, OF_COLOURS, within)]
    in_theme(screen, shown.capitalize())
    return found


def _checked(screen, only: list[str] | None, within: str | None) -> list[str]:
    found = screen.browser.execute_async_script(RUN, only, within)
    return [f"{item['rule']}: {at}" for item in found if item["impact"] in ("serious", "critical") for at in item["at"]]


def in_theme(screen, theme: str) -> None:
    # All that a theme is hangs on this name; that a choice sets it is tested with the preferences.
    screen.browser.execute_script("document.documentElement.dataset.theme = arguments[0]", theme.lower())


def test_the_checker_finds_what_is_wrong(screen):
    # A check that could not fail would prove nothing.
    screen.open("/kit")
    screen.find("//main//h2")
    screen.browser.execute_script("document.querySelector('main').insertAdjacentHTML('beforeend', '<input><img src=\"/x.png\">')")
    screen.expect_in_console("404")
    assert {finding.split(":")[0] for finding in serious(screen)} >= {"label", "image-alt"}


def test_the_checker_sees_all_themes(screen):
    screen.open("/kit")
    heading = screen.find("//main//h2")
    # The colour of Paper's ground: unreadable on it alone.
    screen.browser.execute_script("arguments[0].style.color = arguments[1]", heading, "#f6f3ec")
    assert any(finding.startswith("Paper: color-contrast") for finding in serious(screen))


@pytest.mark.parametrize("page", PAGES)
def test_pages(screen, page):
    path, ready = PAGES[page]
    screen.open(path)
    screen.find(ready)
    assert serious(screen) == []
    assert len(screen.all("h1")) == 1


@pytest.mark.parametrize("shot", (LANDSCAPE, CLOSE_UP))
def test_steps(screen, shot):
    screen.open_shot(shot)
    found = []
    for step in STEPS:
        screen.step(step)
        screen.wait(lambda: screen.all("main *") and "Fetching" not in screen.text())
        found += [f"{step}: {finding}" for finding in serious(screen)]
        assert len(screen.all("h1")) == 1, step
        if step == "frame":
            for panel in (*PANELS, "Close up") if shot == CLOSE_UP else PANELS:
                screen.find(f"//button[@role='tab' and normalize-space()='{panel}']").click()
                # The rest of the page is as it was.
                found += [f"{panel}: {finding}" for finding in serious(screen, "[role=tabpanel]:not([hidden]), [role=tablist]")]
    assert not found, "\n".join(sorted(set(found)))


def test_forms_and_dialogs(screen):
    found = []
    screen.open("/")
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

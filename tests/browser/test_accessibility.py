"""Every page but those of a shot in every theme against the rules of axe-core: nothing serious or worse."""

from axe import serious

PAGES = {
    "notebook": ("/", "//main//h2"),
    "locations": ("/locations", "//main//figure"),
    "kit": ("/kit", "//main//h2"),
    "which place": ("/which-place?from=2026-12-09", "//*[@data-prospect]"),
    "card": ("/cards/1", "//article"),
    "terms": ("/terms", "//dl"),
    "nowhere": ("/nowhere", "//h1"),
}


def test_the_checker_finds_what_is_wrong_in_all_themes(screen):
    # A check that could not fail would prove nothing.
    screen.open("/kit")
    screen.find("//main//h2")
    screen.browser.execute_script(
        "document.querySelector('main').insertAdjacentHTML('beforeend', '<input><img src=\"/x.png\">')"
    )
    screen.expect_in_console("404")
    assert {finding.split(":")[0] for finding in serious(screen)} >= {"label", "image-alt"}
    heading = screen.find("//main//h2")
    # The colour of Paper's ground: unreadable on it alone.
    screen.browser.execute_script("arguments[0].style.color = arguments[1]", heading, "#f6f3ec")
    assert any(finding.startswith("Paper: color-contrast") for finding in serious(screen))


def test_pages_forms_and_dialogs(screen):
    found = []
    for path, ready in PAGES.values():
        screen.open(path)
        screen.find(ready)
        found += serious(screen)
        assert len(screen.all("h1")) == 1, path
    screen.open("/")
    screen.press("New shot")
    found += serious(screen)
    screen.menu("Keys")
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
    screen.open_shot("Posts at the ebb", "place")
    screen.press("Name, intent, deleting") if screen.all("[aria-label='Name, intent, deleting']") else screen.press(
        "Posts at the ebb"
    )
    screen.find("//*[@role='dialog']")
    found += serious(screen)
    assert not found, "\n".join(sorted(set(found)))

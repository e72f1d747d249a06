"""Holding a page to the rules of axe-core (Deque, MPL-2.0) in every theme: nothing serious or worse."""

from __future__ import annotations

from pathlib import Path

from screen import Screen

_AXE = Path(__file__).parents[1] / "web" / "node_modules" / "axe-core" / "axe.min.js"
_RUN = """
const [only, within, done] = arguments, run = only && {runOnly: {type: 'rule', values: only}};
axe.run(within || document, {resultTypes: ['violations'], ...run}).then(found => done(found.violations.map(v =>
  ({rule: v.id, impact: v.impact, at: v.nodes.map(n => n.html.slice(0, 160) + ' | ' + (n.any[0] || n.all[0] || n.none[0] || {message: ''}).message)}))));
"""
# What of the rules another theme can break: it exchanges colours and nothing else.
_OF_COLOURS = ["color-contrast", "link-in-text-block"]
_THEMES = ("Graphite", "Paper", "Ember")


def serious(screen: Screen, within: str | None = None) -> list[str]:
    """Return the violations on the page: by all rules in the theme it is in, by those of colours in the two others.

    within: a part of it, by CSS.
    """
    screen.browser.set_script_timeout(60)
    # Set into the page by the test's own hand: the page itself may load no foreign script.
    if not screen.browser.execute_script("return Boolean(window.axe)"):
        screen.browser.execute_script(_AXE.read_text())
    shown = screen.browser.execute_script("return document.documentElement.dataset.theme")
    found = _checked(screen, None, within)
    for theme in _THEMES:
        if theme.lower() != shown:
            _in_theme(screen, theme)
            found += [f"{theme}: {finding}" for finding in _checked(screen, _OF_COLOURS, within)]
    _in_theme(screen, shown.capitalize())
    return found


def _checked(screen: Screen, only: list[str] | None, within: str | None) -> list[str]:
    found = screen.browser.execute_async_script(_RUN, only, within)
    return [f"{item['rule']}: {at}" for item in found if item["impact"] in ("serious", "critical") for at in item["at"]]


def _in_theme(screen: Screen, theme: str) -> None:
    # All that a theme is hangs on this name; that a choice sets it is tested with the preferences.
    screen.browser.execute_script("document.documentElement.dataset.theme = arguments[0]", theme.lower())

"""The windows of light of a shot's date: ranked, held against the way in and out and the forecast."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import datetime

from ..facts.shot import ShotFacts
from ..light.day import LightDay
from ..light.windows import DateHours, LightWindow, RuledOut, find_windows
from ..spans.intervals import Interval
from ..weather.forecast import Forecast
from ..weather.promise import Promise, rate_window
from .closures import LOOKED_FOR, Closure, Leg, Usable, closures, legs_of, usable_part
from .light_to_use import shot_scene
from .marks import Reason
from .way import Way, plan_way
from .weather import look_of, way_cautions


@dataclass(frozen=True)
class ShotWindow:
    """A window of light for a shot. usable: when in it the shot may begin. way: of a shot that begins as early as it may.

    reasons: what darkness and weather say to that way and stay. promise: None without a forecast for it.
    """

    window: LightWindow
    usable: Usable
    way: Way | None
    promise: Promise | None
    reasons: tuple[Reason, ...]

    @property
    def take(self) -> Interval:
        """The span to take: usable and with the water as wanted; the whole window where nothing of it can be used."""
        return self.usable.span or self.window.span


@dataclass(frozen=True)
class WindowsOfDate:
    """windows: best first, those without a way in and out last. closed: what closes the place around the date.

    legs: of the way to the time chosen; none while there is no time, or nothing is known of the way.
    """

    windows: tuple[ShotWindow, ...]
    ruled_out: tuple[RuledOut, ...]
    closed: tuple[Closure, ...]
    legs: tuple[Leg, ...]


def windows_of_date(
    facts: ShotFacts, day: LightDay, sequence_s: float, forecast: Forecast | None, now_utc: datetime, weights: Mapping[str, float]
) -> WindowsOfDate:
    """Return what a date holds for a shot of so many seconds. forecast, weights: for the promise."""
    hours = DateHours(day.noon_utc, facts.light.time_utc)
    scene = shot_scene(facts, *hours.around())
    assert scene is not None
    found, ruled_out = find_windows(scene, facts.light.wanted_light, hours)
    closed = closures(facts, scene.start_utc - LOOKED_FOR, scene.end_utc + LOOKED_FOR)
    look = look_of(facts)
    then = replace(facts, forecast=forecast)
    windows = []
    for window in found:
        usable = usable_part(facts, window.wet_span or window.span, sequence_s, closed)
        start = (usable.span or window.span).start_utc
        way = plan_way(facts, sequence_s, start)
        promise = (
            rate_window(window.kind, window.span.start_utc, window.span.end_utc, forecast, now_utc, look, weights) if forecast else None
        )
        windows.append(ShotWindow(window, usable, way, promise, way_cautions(then, way) if way else ()))
    windows.sort(key=lambda item: item.usable.span is None)
    chosen = plan_way(facts, sequence_s) if facts.approach else None
    return WindowsOfDate(tuple(windows), tuple(ruled_out), tuple(closed), legs_of(facts, chosen, closed) if chosen else ())

"""The windows of light of a shot's date: ranked, held against the way in and out and the forecast.

Day page, season, which place, outing and calendar all take their windows from here.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta

from ...facts.shot import ShotFacts
from ...light.day import LightDay
from ...light.sought import Scene
from ...light.windows import DateHours, LightWindow, RuledOut, find_windows
from ...spans.intervals import Interval
from ...weather.forecast import Forecast
from ...weather.promise import Promise, rate_window
from ..light.light_to_use import shot_scene
from ..reasons import Reason
from ..verdicts import FAILS, UNSAID, Severity, rank, worst_of
from ..way.closures import LOOKED_FOR, Closure, Leg, Usable, closures, closures_near, legs_of, usable_part
from ..way.plan import Way, plan_way
from ..weather.reasons import look_of, way_cautions


@dataclass(frozen=True)
class ShotWindow:
    """A window of light for a shot. usable: when in it the shot may begin. lasts_s: of its frames.

    wants_water: the shot wants the tide at some height. promise: None without a forecast for it.
    """

    window: LightWindow
    usable: Usable
    lasts_s: float
    wants_water: bool = False
    promise: Promise | None = None

    @property
    def mark(self) -> Severity:
        """How the window stands by its water, its way and the length of the frames; whether its kind is wanted is
        another matter.
        """
        water: Severity | None = None
        if self.wants_water and not self.window.wet_spans:
            water = FAILS if self.window.water_known else UNSAID
        return worst_of([self.usable.mark, *((water,) if water else ())])

    @property
    def take(self) -> Interval:
        """The span to take: from the first start that can be used to the end of the last's frames; the whole window
        where nothing can be used.
        """
        span, window = self.usable.span, self.window.span
        if span is None:
            return window
        end = (
            window.end_utc if self.usable.short else min(window.end_utc, span.end_utc + timedelta(seconds=self.lasts_s))
        )
        return Interval(
            span.start_utc, end, span.starts_before, span.ends_after or (window.ends_after and end == window.end_utc)
        )

    @property
    def begins_utc(self) -> datetime:
        """When the shot begins at the earliest; the window's start where nothing can be used."""
        return (self.usable.span or self.window.span).start_utc


@dataclass(frozen=True)
class RankedWindow(ShotWindow):
    """A window as the day page shows it.

    way: of a shot that begins as early as it may. reasons: what darkness and weather say to that way and stay.
    """

    way: Way | None = None
    reasons: tuple[Reason, ...] = ()


@dataclass(frozen=True)
class WindowsOfDate:
    """windows: best first, those without a way in and out last. closed: closures of the place around the date.

    legs: of the way to the chosen time; empty without a time or a known way.
    """

    windows: tuple[RankedWindow, ...]
    ruled_out: tuple[RuledOut, ...]
    closed: tuple[Closure, ...]
    legs: tuple[Leg, ...]


def shot_windows(
    facts: ShotFacts,
    scene: Scene,
    hours: DateHours | None,
    sequence_s: float,
    closed: Sequence[Closure],
    only: Collection[str] | None = None,
) -> tuple[list[ShotWindow], list[RuledOut]]:
    """Return the windows of a date for a shot that lasts sequence_s, best light first, and the kinds of light that are
    ruled out.

    Every part in which the water level is as wanted is tried. closed: closures of the place around the scene, in order
    of time. only: the kinds to look for. hours None: windows of all dates of the scene, each under its own date,
    without the figures of sun and water.
    """
    found, ruled_out = find_windows(scene, facts.light.wanted_light, hours, only, figures=hours is not None)
    in_time = sorted(found, key=lambda window: window.span.start_utc)
    near = dict(
        zip((id(window) for window in in_time), closures_near([window.span for window in in_time], closed), strict=True)
    )
    return [
        ShotWindow(
            window,
            _best_part(facts if hours else _on_its_date(facts, window), window, sequence_s, near[id(window)]),
            sequence_s,
            scene.wants_water or facts.wants_water,
        )
        for window in found
    ], ruled_out


def _on_its_date(facts: ShotFacts, window: LightWindow) -> ShotFacts:
    return facts.choosing(date_local=window.span.start_utc.astimezone(facts.zone).date())


def _best_part(facts: ShotFacts, window: LightWindow, sequence_s: float, closed: Sequence[Closure]) -> Usable:
    """Return the best of the parts in which the water stands as wanted, or of the whole window where there are none."""
    parts = [usable_part(facts, part, sequence_s, closed) for part in window.wet_spans or (window.span,)]
    return max(parts, key=lambda part: (rank(part.mark), part.span is not None, part.length))


def windows_of_date(
    facts: ShotFacts,
    day: LightDay,
    sequence_s: float,
    forecast: Forecast | None,
    now_utc: datetime,
    weights: Mapping[str, float],
) -> WindowsOfDate:
    """Return the windows of a date for a shot that lasts sequence_s. forecast, weights: for the promise."""
    hours = DateHours(day.noon_utc, facts.light.time_utc)
    scene = shot_scene(facts, *hours.around())
    assert scene is not None
    closed = closures(facts, scene.start_utc - LOOKED_FOR, scene.end_utc + LOOKED_FOR)
    found, ruled_out = shot_windows(facts, scene, hours, sequence_s, closed)
    then = replace(facts, forecast=forecast)
    windows = []
    for item in found:
        way = plan_way(facts, sequence_s, item.begins_utc)
        promise = promise_of(facts, item.window.kind, item.window.span, forecast, now_utc, weights)
        reasons = way_cautions(then, way) if way else ()
        windows.append(RankedWindow(item.window, item.usable, item.lasts_s, item.wants_water, promise, way, reasons))
    windows.sort(key=lambda item: (item.usable.span is None, item.usable.mark == FAILS))
    chosen = plan_way(facts, sequence_s) if facts.approach else None
    return WindowsOfDate(
        tuple(windows), tuple(ruled_out), tuple(closed), legs_of(facts, chosen, closed) if chosen else ()
    )


def promise_of(
    facts: ShotFacts,
    kind: str,
    span: Interval,
    forecast: Forecast | None,
    now_utc: datetime,
    weights: Mapping[str, float],
) -> Promise | None:
    """Return how promising a span of light is for a shot; None where no forecast reaches it."""
    if forecast is None:
        return None
    return rate_window(kind, span.start_utc, span.end_utc, forecast, now_utc, look_of(facts), weights)

"""The windows of light in a span of time: found, ranked against what the shot wants, and reasons where there are
none.
"""

from __future__ import annotations

import math
from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from functools import lru_cache
from typing import Any

import numpy as np

from ..spans.instants import from_unix, unix_seconds
from ..spans.intervals import Interval
from ..spans.searching import RESOLUTION_S, positive_spans, samples
from ..units.lengths import format_height
from .kinds import KINDS, NIGHT_BAND, NIGHT_KINDS, Condition, Kind, Listed, kind_named, water_condition
from .season import intersect
from .seen_bodies import SeenBody, seen_body
from .sought import Scene, Sky

DAY_SAMPLE_S, YEAR_SAMPLE_S = 120.0, 240.0
_GRAZE = 1.0
_FOUND_TO_DEG = 0.05
# An hour of the wanted light is as much as a shot can use.
_ENOUGH_S = 3600.0
_HALF_DAY = timedelta(hours=12)
_BEFORE_NOON, _AFTER_NOON = timedelta(hours=36), timedelta(hours=48)


@dataclass(frozen=True)
class LightWindow:
    """A span of one kind of light.

    wanted: it is what the shot asks for, water included. score orders windows, best first.

    wet_spans: the parts in which the water stands as wanted; water_known: whether the tide is known all through.
    """

    kind: str
    span: Interval
    wanted: bool
    score: float
    sun_altitude_deg: tuple[float, float]
    angle_from_view_deg: tuple[float, float] | None
    water_m: tuple[float, float] | None
    wet_spans: tuple[Interval, ...] = ()
    water_known: bool = True
    # What a night's light is about: the moon, the galactic centre; None without figures.
    body: SeenBody | None = None

    @property
    def wet_span(self) -> Interval | None:
        """The longest part in which the water stands as wanted."""
        return max(self.wet_spans, key=lambda item: item.end_utc - item.start_utc, default=None)


@dataclass(frozen=True)
class RuledOut:
    """A kind of light that the span does not hold, and why."""

    kind: str
    reason: str


@dataclass(frozen=True)
class DateHours:
    """Which windows belong to a date: those that begin in the day around its noon (the sun's highest), kinds of the
    night in the night that follows.

    A window that holds the middle of these hours belongs to them as well, and so does one that holds the moment.
    """

    noon_utc: datetime
    moment_utc: datetime | None = None

    def hours(self, kind: str) -> tuple[datetime, datetime]:
        """Return the day's hours of a kind: from the sun's lowest to its lowest, for kinds of the night from noon to
        noon.
        """
        start = self.noon_utc if kind in NIGHT_KINDS or kind == NIGHT_BAND else self.noon_utc - _HALF_DAY
        return start, start + 2 * _HALF_DAY

    def holds(self, kind: str, span: Interval) -> bool:
        """Whether a span of a kind belongs to the date."""
        start, end = self.hours(kind)
        inside = (
            span.start_utc <= moment <= span.end_utc
            for moment in (start + _HALF_DAY, self.moment_utc)
            if moment is not None
        )
        return (not span.starts_before and start <= span.start_utc < end) or any(inside)

    def around(self) -> tuple[datetime, datetime]:
        """Return the span to search, so long that no window of the date is cut off but where it lasts for days."""
        return self.noon_utc - _BEFORE_NOON, self.noon_utc + _AFTER_NOON


def find_windows(
    scene: Scene,
    wanted: str | None = None,
    date_hours: DateHours | None = None,
    only: Collection[str] | None = None,
    figures: bool = True,
) -> tuple[list[LightWindow], list[RuledOut]]:
    """Return the windows of every kind, best first, and the kinds that are ruled out with the reason.

    Kinds that depend on the view are left out while the scene has no bearing, rare ones where they do not come (see
    Listed). wanted: the kind the shot asks for.
    date_hours: only the windows that belong to that date, whole; without it all, cut off at the scene's ends. only: the
    kinds to look for, bands of the day among them; None: all kinds. figures: whether sun and water are included.
    """
    found: list[LightWindow] = []
    out: list[RuledOut] = []
    for kind in KINDS if only is None else [kind_named(name) for name in only]:
        if kind.needs_bearing and scene.bearing_deg is None:
            continue
        asked = kind.name == wanted or only is not None
        if kind.listed is Listed.WHEN_WANTED and not asked:
            continue
        all_spans = kind_spans(scene, kind.name)
        spans = [span for span in all_spans if date_hours is None or date_hours.holds(kind.name, span)]
        found += [_window(scene, kind, span, wanted, figures) for span in spans]
        if not spans and not asked and kind.listed is Listed.WHEN_IT_COMES:
            continue
        if not spans:
            out.append(RuledOut(kind.name, why_never(scene, kind, date_hours)))
        elif (
            kind.name == wanted
            and scene.wants_water
            and not any(window.wanted for window in found if window.kind == kind.name)
        ):
            out.append(RuledOut(kind.name, why_dry(scene, spans)))
    return sorted(found, key=lambda window: (-window.score, window.span.start_utc)), out


def kind_spans(scene: Scene, kind: str) -> tuple[Interval, ...]:
    """Return when a kind of light comes in a scene's span, whatever the water does."""
    needs_bearing = kind_named(kind).needs_bearing
    return _kind_spans(
        replace(
            scene,
            bearing_deg=scene.bearing_deg if needs_bearing else None,
            tide=None,
            water_low_m=None,
            water_high_m=None,
        ),
        kind,
    )


# Most edits of a shot leave its light as it is, and so does all of an outing with it; shots of a place share what
# does not depend on their view.
@lru_cache(maxsize=4096)
def _kind_spans(scene: Scene, kind: str) -> tuple[Interval, ...]:
    return tuple(spans_of(scene, kind_named(kind).conditions, DAY_SAMPLE_S, _sky(scene)))


@lru_cache(maxsize=64)
def _sky(scene: Scene) -> Sky:
    """Return a scene at its samples, so that sun and moon are followed once for all kinds of light."""
    if scene.bearing_deg is not None or scene.subject_skyline != scene.skyline:
        bare = _sky(replace(scene, bearing_deg=None, subject_skyline=scene.skyline))
        return bare.seen_along(scene)
    return Sky(scene, _grid(scene, DAY_SAMPLE_S))


def spans_of(
    scene: Scene,
    conditions: Sequence[Condition],
    step_s: float,
    grid: Sky | None = None,
    ends_to_s: float = RESOLUTION_S,
) -> list[Interval]:
    """Return the spans in which all conditions hold, in order of time, their ends found to ends_to_s.

    grid: the scene at its samples, where several kinds share it.
    """
    grid = grid or Sky(scene, _grid(scene, step_s))

    def margin(seconds: Any) -> Any:
        sky = grid if seconds is grid.seconds else Sky(scene, seconds)
        return np.minimum.reduce([condition.margin(sky) for condition in conditions])

    start, end = float(unix_seconds(scene.start_utc)), float(unix_seconds(scene.end_utc))
    spans = positive_spans(margin, grid.seconds, _GRAZE, ends_to_s)
    return [Interval(from_unix(begin), from_unix(stop), begin == start, stop == end) for begin, stop in spans]


def wanted_spans(scene: Scene, wanted: str, step_s: float = YEAR_SAMPLE_S) -> list[Interval]:
    """Return the spans of one kind of light with the water as wanted, over as long a time as the scene has."""
    conditions = kind_named(wanted).conditions
    return spans_of(scene, (*conditions, water_condition()) if scene.wants_water else conditions, step_s)


def kinds_through(scene: Scene, start_utc: datetime, end_utc: datetime) -> tuple[str, ...]:
    """Return the names of the kinds of light that hold from start to end; the ends are found to a fraction of a degree
    only.
    """
    sky = Sky(scene, _through(Interval(start_utc, end_utc, False, False)))
    return tuple(
        kind.name
        for kind in KINDS
        if (not kind.needs_bearing or scene.bearing_deg is not None)
        and all(bool((np.asarray(condition.margin(sky)) >= -_FOUND_TO_DEG).all()) for condition in kind.conditions)
    )


def why_never(scene: Scene, kind: Kind, date_hours: DateHours | None = None) -> str:
    """Return a sentence on what keeps a kind of light out of the scene's span, or out of a date."""
    start, end = date_hours.hours(kind.name) if date_hours else (scene.start_utc, scene.end_utc)
    when_words = "night" if date_hours and kind.name in NIGHT_KINDS else "day"
    sky = Sky(scene, samples(float(unix_seconds(start)), float(unix_seconds(end)), DAY_SAMPLE_S))
    held = [(condition, condition.margin(sky) >= 0) for condition in kind.conditions]
    never = [condition for condition, when in held if not when.any()]
    if never:
        return f"At no time that {when_words} {never[0].words}."
    for index, (first, when) in enumerate(held):
        for second, also in held[index + 1 :]:
            if not (when & also).any():
                return f"While {first.words}, it never comes that {second.words}."
    return f"What it needs never comes together that {when_words}."


def _window(scene: Scene, kind: Kind, span: Interval, wanted: str | None, figures: bool) -> LightWindow:
    wet_spans = wet_parts(scene, span) if scene.wants_water else ()
    asked = kind.name == wanted and (bool(wet_spans) or not scene.wants_water)
    usable = max(wet_spans, key=lambda item: item.end_utc - item.start_utc, default=span)
    length = min(_ENOUGH_S, (usable.end_utc - usable.start_utc).total_seconds()) / _ENOUGH_S
    score = (4.0 if asked else 1.0 if kind.name == wanted else 0.0) + (1.0 if wet_spans else 0.0) + length
    known = scene.tide is not None and scene.tide.covers(span.start_utc, span.end_utc)
    if not figures:
        return LightWindow(
            kind=kind.name,
            span=span,
            wanted=asked,
            score=score,
            sun_altitude_deg=(math.nan, math.nan),
            angle_from_view_deg=None,
            water_m=None,
            wet_spans=wet_spans,
            water_known=known,
        )
    sky = Sky(scene, _through(span))
    return LightWindow(
        kind=kind.name,
        span=span,
        wanted=asked,
        score=score,
        sun_altitude_deg=_range(sky.sun_altitude_deg),
        angle_from_view_deg=_range(sky.angle_from_view_deg) if scene.bearing_deg is not None else None,
        water_m=_range(sky.water_m) if known else None,
        wet_spans=wet_spans,
        water_known=known,
        body=seen_body(scene, kind.name, span),
    )


def wet_parts(scene: Scene, span: Interval) -> tuple[Interval, ...]:
    """Return the parts of a span in which the water stands as wanted."""
    return tuple(intersect([span], _wet_spans(replace(scene, bearing_deg=None, subject_skyline=scene.skyline))))


@lru_cache(maxsize=256)
def _wet_spans(scene: Scene) -> tuple[Interval, ...]:
    """Return when the water stands as wanted, all through a scene's span; kept, as every window of a place asks for
    it.
    """
    return tuple(spans_of(scene, (water_condition(),), DAY_SAMPLE_S))


def _grid(scene: Scene, step_s: float) -> Any:
    return samples(float(unix_seconds(scene.start_utc)), float(unix_seconds(scene.end_utc)), step_s)


def why_dry(scene: Scene, spans: Sequence[Interval]) -> str:
    """Return a sentence on how the water stands in spans of the light, in none of which it stands as wanted."""
    assert scene.tide is not None
    if not all(scene.tide.covers(span.start_utc, span.end_utc) for span in spans):
        return "The light comes, but the tide table does not reach it."
    heights = np.concatenate([np.atleast_1d(Sky(scene, _through(span)).water_m) for span in spans])
    low = "" if scene.water_low_m is None else f"from {format_height(scene.water_low_m)} "
    high = "" if scene.water_high_m is None else f"to {format_height(scene.water_high_m)} "
    stands = f"{format_height(float(heights.min()))} to {format_height(float(heights.max()))}"
    return f"The light comes, but the tide then stands at {stands}; {low}{high}is wanted."


def _through(span: Interval) -> Any:
    """Return instants [unix seconds] spread evenly through a span."""
    return np.linspace(float(unix_seconds(span.start_utc)), float(unix_seconds(span.end_utc)), 25)


def _range(values: Any) -> tuple[float, float]:
    return float(np.min(values)), float(np.max(values))

"""What a day would hold for a shot: its best window, with the way, the forecast and the season, or why there is none."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from functools import lru_cache

from ..facts.shot import ShotFacts
from ..light.day import LightDay
from ..light.kinds import KINDS, NIGHT_KINDS, Kind, LightKind, kind_named, water_condition
from ..light.moon import moon_phase, phase_words
from ..light.sought import Scene
from ..light.windows import DateHours, spans_of, why_dry, why_never
from ..spans.intervals import Interval
from ..weather.forecast import Forecast
from ..weather.promise import Promise, rate_window
from .closures import Closure, Leg, Usable, closures_near, legs_of, usable_part
from .light_to_use import shot_scene
from .marks import Reason, Severity
from .season_notes import notes_in_season
from .way import Way, plan_way
from .weather import look_of, way_cautions, weather_reasons

# Ends of windows need not be found to the second here.
_STEP_S, _ENDS_S = 240.0, 20.0
_LEAST = timedelta(minutes=3)
# Points that count against a chance: for what is tight, and for a drive that is not known.
_TIGHT, UNKNOWN_WAY = 10.0, 15.0
# What a chance counts as that no forecast reaches: just less than one that is even.
_UNTOLD = 40.0
# Kinds to look for where a shot says none.
ANY_LIGHT = (LightKind.LOW_SIDE_LIGHT, LightKind.LOW_BACK_LIGHT, LightKind.GLOW, LightKind.BLUE_HOUR)


@dataclass(frozen=True)
class Chance:
    """A window that a shot could be taken in. span: when it may begin. promise None: no forecast reaches it. legs: of the way, with the best chance only."""

    kind: LightKind
    span: Interval
    cut: str
    way: Way
    promise: Promise | None
    cautions: tuple[Reason, ...]
    season: tuple[str, ...]
    moon: str
    legs: tuple[Leg, ...] = ()

    @property
    def rank(self) -> tuple[float, float, datetime]:
        """What orders chances, best first: promise less a tenth of its spread, then the shorter way, then the earlier.

        What is tight and a drive that is not known count against a chance.
        """
        told = self.promise.rating - 0.1 * (self.promise.high - self.promise.low) if self.promise else _UNTOLD
        against = sum(_TIGHT for item in self.cautions if item.severity == Severity.TIGHT)
        against += 0.0 if self.way.arrival.leave_home_utc else UNKNOWN_WAY
        away = (self.way.walk_out.end_utc - (self.way.arrival.leave_home_utc or self.way.walk_in.start_utc)) / timedelta(hours=1)
        return (-(told - against), away, self.span.start_utc)


def outlook(
    facts: ShotFacts, day: LightDay, sequence_s: float, closed: Sequence[Closure], forecast: Forecast | None, now_utc: datetime,
    weights: Mapping[str, float],
) -> Chance | str:  # fmt: skip
    """Return a shot's best chance on a date, or a sentence on why there is none.

    closed: what closes the place around the date, in order of time. Only what has not passed at now_utc counts.
    """
    hours = DateHours(day.noon_utc)
    scene = shot_scene(facts, *hours.around())
    assert scene is not None
    wanted = facts.light.wanted_light
    kinds = [kind_named(wanted)] if wanted else [kind for kind in KINDS if kind.name in ANY_LIGHT]
    kinds = [kind for kind in kinds if not kind.needs_bearing or scene.bearing_deg is not None]
    if not kinds:
        return f"{str(wanted).capitalize()} has a side: say where the camera looks."
    chances, broken = [], []
    then = replace(facts, forecast=forecast)
    windows = _windows(scene, kinds, hours)
    for (kind, span), near in zip(windows, closures_near([span for _, span in windows], closed), strict=True):
        usable = usable_part(facts, span, sequence_s, near)
        if usable.span is None:
            broken.append(usable.broken)
        elif usable.span.end_utc - usable.span.start_utc >= _LEAST and usable.span.end_utc > now_utc:
            chances.append(_chance(then, kind, usable, sequence_s, now_utc, weights))
    if chances:
        best = min(chances, key=lambda chance: chance.rank)
        # Where it is dark changes no rank, and takes longest: only the best is asked.
        return replace(best, cautions=way_cautions(then, best.way), legs=legs_of(facts, best.way))
    return broken[0] if broken else _why_none(facts, scene, kinds, hours)


def _windows(scene: Scene, kinds: list[Kind], hours: DateHours) -> list[tuple[LightKind, Interval]]:
    """Return the windows of a date in order of time."""
    found = [
        (kind.name, span)
        for kind in kinds
        for span in _spans(scene if kind.needs_bearing else replace(scene, bearing_deg=None), kind.name)
        if hours.holds(kind.name, span)
    ]
    return sorted(found, key=lambda window: window[1].start_utc)


@lru_cache(maxsize=1024)
def _spans(scene: Scene, kind: LightKind) -> tuple[Interval, ...]:
    """Return when a kind of light comes, with the water as wanted. Many shots of a place ask for the same; the answer does not grow old."""
    water = (water_condition(),) if scene.wants_water else ()
    return tuple(spans_of(scene, (*kind_named(kind).conditions, *water), _STEP_S, None, _ENDS_S))


def _chance(
    facts: ShotFacts, kind: LightKind, usable: Usable, sequence_s: float, now_utc: datetime, weights: Mapping[str, float]
) -> Chance:
    span, forecast = usable.span, facts.forecast
    assert span is not None
    way = plan_way(facts, sequence_s, span.start_utc)
    assert way is not None
    look = look_of(facts)
    promise = rate_window(kind, span.start_utc, span.end_utc, forecast, now_utc, look, weights) if forecast else None
    said = weather_reasons(facts, way)
    season = notes_in_season(facts, span.start_utc)
    moon = ""
    if kind in NIGHT_KINDS:
        phase = moon_phase(span.start_utc)
        moon = f"{phase_words(float(phase.elongation_deg))}, {float(phase.fraction):.0%} lit"
    return Chance(kind, span, usable.cut, way, promise, tuple(item for item in said if item.severity != Severity.HOLDS), season, moon)


def _why_none(facts: ShotFacts, scene: Scene, kinds: list[Kind], hours: DateHours) -> str:
    if len(kinds) > 1:
        return "No low light, glow or blue hour comes that day, or it is past."
    lit = [span for span in spans_of(scene, kinds[0].conditions, _STEP_S, None, _ENDS_S) if hours.holds(kinds[0].name, span)]
    if not lit:
        return why_never(scene, kinds[0], hours)
    if scene.wants_water:
        return why_dry(scene, lit)
    return "Its light is past, or lasts less than three minutes."

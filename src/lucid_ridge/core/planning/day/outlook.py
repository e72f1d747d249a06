"""What a day would hold for a shot: its best window, with the way, the forecast and the season, or why there is
none.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta

from ...facts.place import Approach
from ...facts.shot import ShotFacts
from ...labels import NamedEnum
from ...light.day import LightDay
from ...light.kinds import NIGHT_KINDS, kind_named
from ...light.moon import moon_phase, phase_words
from ...light.sought import Scene
from ...light.windows import DateHours, kind_spans, why_dry, why_never
from ...spans.intervals import Interval
from ...units.lengths import format_duration
from ...units.spelling import percent
from ...weather.forecast import Forecast
from ...weather.promise import Promise
from ..light.light_to_use import shot_scene
from ..light.sought import SoughtLight, sought_light
from ..place.season_notes import notes_in_season
from ..reasons import Reason
from ..verdicts import FAILS, HOLDS, TIGHT, UNSAID, Severity
from ..way.closures import Closure, Leg, legs_of
from ..way.plan import Way, plan_way
from ..weather.reasons import way_cautions, weather_reasons
from .windows import ShotWindow, promise_of, shot_windows

_LEAST = timedelta(minutes=3)
# Points that count against a chance for what is tight.
_TIGHT = 10.0
# What a chance counts as that no forecast reaches: just less than one that is even.
_UNTOLD = 40.0


class Travel(NamedEnum):
    """How far a place is from home by the drive that was said of it."""

    HOUR = "hour"
    HOURS = "three_hours"
    FAR = "far"
    UNKNOWN = "unknown"


def travel_of(approach: Approach | None) -> Travel:
    """Return how far a place is from home."""
    drive_min = approach.drive_min if approach is not None else None
    if drive_min is None:
        return Travel.UNKNOWN
    return Travel.HOUR if drive_min <= 60 else Travel.HOURS if drive_min <= 180 else Travel.FAR


@dataclass(frozen=True, kw_only=True)
class Chance:
    """A window that a shot could be taken in.

    span: when it may begin; take: until when its frames last at the latest.

    mark: holds, or unsaid where the tide then is not known; said: why it is not the whole window. promise None: no
    forecast reaches it. legs: of the way, with the best chance only.
    """

    kind: str
    span: Interval
    take: Interval
    mark: Severity
    said: tuple[str, ...]
    way: Way
    promise: Promise | None
    cautions: tuple[Reason, ...]
    season: tuple[str, ...]
    moon: str
    legs: tuple[Leg, ...] = ()

    @property
    def rank(self) -> tuple[bool, float, float, datetime]:
        """What orders chances, best first: those not known to be open last, then promise less a tenth of its spread,
        then the shorter way, then the earlier.

        What is tight counts against a chance.
        """
        told = self.promise.rating - 0.1 * (self.promise.high - self.promise.low) if self.promise else _UNTOLD
        against = sum(_TIGHT for item in self.cautions if item.severity == TIGHT)
        away = (
            self.way.walk_out.end_utc - (self.way.arrival.leave_home_utc or self.way.walk_in.start_utc)
        ) / timedelta(hours=1)
        return (self.mark == UNSAID, -(told - against), away, self.span.start_utc)


def best_outlook(
    facts: ShotFacts,
    days: Sequence[LightDay],
    sequence_s: float,
    closed: Sequence[Closure],
    forecast: Forecast | None,
    now_utc: datetime,
    weights: Mapping[str, float],
    sought: SoughtLight | None = None,
) -> Chance | str:
    """Return a shot's best chance on any of several consecutive dates, or a sentence on why there is none on the
    first.

    The windows of all dates are computed at once, and shared by all shots of a place. closed: closures of the place
    around the dates, in order of time. sought: the light to look for; None: as the facts say. Only windows that can
    still be reached when leaving home at now_utc count.
    """
    dates = [DateHours(day.noon_utc) for day in days]
    scene = shot_scene(facts, dates[0].around()[0], dates[-1].around()[1])
    assert scene is not None
    return _found(
        facts=facts,
        dates=dates,
        scene=scene,
        sequence_s=sequence_s,
        closed=closed,
        forecast=forecast,
        now_utc=now_utc,
        weights=weights,
        sought=sought,
    )


def _found(
    facts: ShotFacts,
    dates: Sequence[DateHours],
    scene: Scene,
    sequence_s: float,
    closed: Sequence[Closure],
    forecast: Forecast | None,
    now_utc: datetime,
    weights: Mapping[str, float],
    sought: SoughtLight | None,
) -> Chance | str:
    sought = sought or sought_light(facts)
    kinds = [name for name in sought.kinds if not kind_named(name).needs_bearing or scene.bearing_deg is not None]
    if not kinds:
        return f"{sought.kinds[0].capitalize()} is directional: say where the camera looks."
    every, _ = shot_windows(facts, scene, None, sequence_s, closed, kinds)
    windows = sorted(every, key=lambda item: item.window.span.start_utc)
    then = replace(facts, forecast=forecast)
    chances: list[Chance] = []
    missed: list[str] = []
    for hours in dates:
        for item in windows:
            if not hours.holds(item.window.kind, item.window.span):
                continue
            found = _chance(then, item, now_utc, weights) if item.mark != FAILS else _why_not(scene, item)
            if isinstance(found, str):
                missed.append(found)
            else:
                chances.append(found)
    if not chances:
        return missed[0] if missed else _why_none(scene, kinds, dates[0])
    best = min(chances, key=lambda chance: chance.rank)
    day = best.span.start_utc.astimezone(facts.zone).date()
    then = then.choosing(date_local=day)
    # Where it is dark changes no rank, and takes longest: only the best is asked.
    return replace(best, cautions=way_cautions(then, best.way), legs=legs_of(then, best.way, closed))


def _chance(facts: ShotFacts, item: ShotWindow, now_utc: datetime, weights: Mapping[str, float]) -> Chance | str:
    span = item.usable.span
    assert span is not None
    way = plan_way(facts, item.lasts_s, span.start_utc)
    assert way is not None
    lead = way.moment_utc - (way.arrival.leave_home_utc or way.arrival.leave_car_utc)
    if now_utc + lead > span.start_utc:
        if now_utc + lead >= span.end_utc:
            if span.end_utc <= now_utc:
                return "Its light is past."
            return (
                "It cannot be reached in time: the way there takes "
                f"{format_duration(60 * round(lead.total_seconds() / 60))}."
            )
        span = Interval(now_utc + lead, span.end_utc, False, span.ends_after)
        way = plan_way(facts, item.lasts_s, span.start_utc)
        assert way is not None
    if item.take.end_utc - span.start_utc < _LEAST:
        return "Its light lasts less than three minutes."
    kind = item.window.kind
    moon = ""
    if kind in NIGHT_KINDS:
        phase = moon_phase(span.start_utc)
        moon = f"{phase_words(float(phase.elongation_deg))}, {percent(float(phase.fraction))} lit"
    cautions = tuple(reason for reason in weather_reasons(facts, way) if reason.severity != HOLDS)
    return Chance(
        kind=kind,
        span=span,
        take=replace(item.take, start_utc=span.start_utc),
        mark=item.mark,
        said=item.usable.words,
        way=way,
        promise=promise_of(facts, kind, span, facts.forecast, now_utc, weights),
        cautions=cautions,
        season=notes_in_season(facts, span.start_utc),
        moon=moon,
    )


def _why_not(scene: Scene, item: ShotWindow) -> str:
    """Return why a window cannot be used."""
    if item.usable.mark == FAILS:
        return " ".join(item.usable.words)
    return why_dry(scene, [item.window.span])


def _why_none(scene: Scene, kinds: Sequence[str], hours: DateHours) -> str:
    if len(kinds) > 1:
        return "No low light, glow or blue hour comes that day."
    lit = [span for span in kind_spans(scene, kinds[0]) if hours.holds(kinds[0], span)]
    if lit and scene.wants_water:
        return why_dry(scene, lit)
    return why_never(scene, kind_named(kinds[0]), hours)

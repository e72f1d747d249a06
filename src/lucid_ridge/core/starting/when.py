"""The next time at which a place has the light of a kind of picture, and where the camera then looks."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta

import numpy as np

from ..facts.place import Location
from ..light.bands import Band
from ..light.kinds import LightKind
from ..light.sought import Scene
from ..light.windows import kind_spans
from ..planning.light.plan import day_of_light
from ..spans.instants import local_day, unix_seconds, zone_info
from ..spans.intervals import Interval
from .picture_kind import Facing, Part, PictureKind

# Light comes again within so many days, or is said not to.
_DAYS, _STEP_DAYS = 60, 6
# How far beside the sun the camera looks, so that it stands in the frame's corner or just out of it.
_BESIDE_DEG, _ACROSS_DEG, _SOUTH_DEG = 25.0, 90.0, 180.0
_NEEDS_BEARING = (LightKind.LOW_SIDE_LIGHT, LightKind.LOW_BACK_LIGHT, LightKind.LOW_FRONT_LIGHT)
# A span that is all but over is no time to begin.
_LEAST = timedelta(minutes=3)


@dataclass(frozen=True, kw_only=True)
class StartTime:
    """date_local: the local date that the light belongs to. end_utc: of the light; None for a time without one.

    bearing_deg: where the camera looks.
    """

    date_local: date
    start_utc: datetime
    end_utc: datetime | None
    bearing_deg: float


def next_times(
    kind: PictureKind, location: Location, now_utc: datetime, from_day: date | None = None, most: int = 3
) -> tuple[StartTime, ...]:
    """Return the next times, the soonest first; fewer than most where the light does not come within 60 days.

    from_day: the first local date; None: from now on. Raises InputError for a date outside the ephemeris.
    """
    start = now_utc if from_day is None else max(now_utc, local_day(from_day, location.zone)[0])
    if kind.light is None:
        return _at_noon(kind, location, start, most)
    # From midnight on, so that the same question has the same answer all day; noon cuts no night in two.
    midnight = local_day(_local_date(location, start), location.zone)[0]
    found: list[StartTime] = []
    for ahead in range(0, _DAYS, _STEP_DAYS):
        begin = midnight + timedelta(days=ahead, hours=-12)
        scene = _scene(location, begin, begin + timedelta(days=_STEP_DAYS))
        times = (_time_of(kind, location, scene, span) for span in _spans(kind, scene))
        found += [item for item in times if item is not None and _ends(item) - _LEAST > start]
        if len(found) >= most:
            break
    return tuple(found[:most])


def _ends(item: StartTime) -> datetime:
    return item.end_utc or item.start_utc


def _at_noon(kind: PictureKind, location: Location, start: datetime, most: int) -> tuple[StartTime, ...]:
    """Return the times of the sun's highest point on the next days."""
    first, found = _local_date(location, start), list[StartTime]()
    for later in range(most + 1):
        day = day_of_light(location, first + timedelta(days=later))
        noon = day.noon_utc
        if noon >= start:
            azimuth = float(day.track.azimuth_deg(float(unix_seconds(noon))))
            found.append(
                StartTime(
                    date_local=first + timedelta(days=later),
                    start_utc=noon,
                    end_utc=None,
                    bearing_deg=_bearing(kind, azimuth),
                )
            )
    return tuple(found[:most])


def _scene(location: Location, start: datetime, end: datetime) -> Scene:
    return Scene(
        latitude_deg=location.latitude_deg,
        longitude_deg=location.longitude_deg,
        elevation_m=location.elevation_m,
        start_utc=start,
        end_utc=end,
        skyline=location.skyline,
        subject_skyline=location.skyline,
    )


def _spans(kind: PictureKind, scene: Scene) -> list[Interval]:
    """Return the spans of the kind's light; of one that depends on the view, those of a low sun."""
    sought = Band.GOLDEN_HOUR if kind.light in _NEEDS_BEARING else kind.light
    spans = [span for span in kind_spans(scene, str(sought)) if span.end_utc - span.start_utc >= _LEAST]
    return [span for span in spans if kind.part is Part.ANY or _part_of(scene, span) is kind.part]


def _part_of(scene: Scene, span: Interval) -> Part:
    return Part.MORNING if _azimuth(scene, _middle(span)) < 180 else Part.EVENING


def _time_of(kind: PictureKind, location: Location, scene: Scene, span: Interval) -> StartTime | None:
    """Return the time of a span, with the bearing that the sun then gives; None where that view has no such light."""
    bearing = _bearing(kind, _azimuth(scene, _middle(span)))
    if kind.light in _NEEDS_BEARING:
        around = (span.start_utc - timedelta(hours=2), span.end_utc + timedelta(hours=2))
        seen = replace(scene, bearing_deg=bearing, start_utc=max(scene.start_utc, around[0]), end_utc=around[1])
        lit = [item for item in kind_spans(seen, str(kind.light)) if item.end_utc - item.start_utc >= _LEAST]
        if not lit:
            return None
        span = max(lit, key=lambda item: item.end_utc - item.start_utc)
    return StartTime(
        date_local=_local_date(location, span.start_utc),
        start_utc=span.start_utc,
        end_utc=span.end_utc,
        bearing_deg=bearing,
    )


def _bearing(kind: PictureKind, azimuth_deg: float) -> float:
    """Return where the camera looks when the sun stands at an azimuth."""
    if kind.facing is Facing.SOUTH:
        return _SOUTH_DEG
    # The camera looks to the side of the sun that the day's middle lies on, where the sky is brighter for longer.
    inward = 1.0 if azimuth_deg < 180 else -1.0
    aside = {Facing.SUN: 0.0, Facing.BESIDE_SUN: _BESIDE_DEG, Facing.ACROSS: _ACROSS_DEG}[kind.facing]
    return round((azimuth_deg + inward * aside) % 360, 1)


def _azimuth(scene: Scene, moment: datetime) -> float:
    return float(np.asarray(scene.sun.azimuth_deg(float(unix_seconds(moment)))))


def _middle(span: Interval) -> datetime:
    return span.start_utc + (span.end_utc - span.start_utc) / 2


def _local_date(location: Location, moment: datetime) -> date:
    return moment.astimezone(zone_info(location.zone)).date()

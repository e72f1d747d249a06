"""A recipe from a picture: what made its water look so, where the sun stood, when that light comes again, and which
shutter does the same elsewhere.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta

import numpy as np

from ..errors import InputError
from ..exposure.motion import LOOKS, look_of_streak, streak_mm
from ..facts.place import Location
from ..light.alignment import SkyBody, Wanted, find_alignments
from ..light.ephemeris import sun_position
from ..optics.circle_of_confusion import coc_handbook_mm
from ..spans.instants import local_day, zone_info

# The sun counts as standing where it stood within so much [degrees].
_ALTITUDE_DEG, _AZIMUTH_DEG = 1.0, 3.0
_SHORT_SIDE_MM = 24.0


# A shorter streak cannot be measured by hand [share of the short side].
SHORTEST_STREAK = 0.004


@dataclass(frozen=True)
class SunThen:
    """Where the sun stood [degrees], altitude as it is seen."""

    altitude_deg: float
    azimuth_deg: float


@dataclass(frozen=True)
class LightAgain:
    """Dates, first and last, on which the sun reaches a wanted position, and the time on the middle one."""

    first: date
    last: date
    time_utc: datetime


def streak_share_of(
    focal_mm: float, distance_m: float, speed_mps: float, shutter_s: float, short_side_mm: float = _SHORT_SIDE_MM
) -> float:
    """Return the streak of moving water as a share of the frame's short side.

    Raises InputError for values that are not positive.
    """
    for name, value in (("distance_m", distance_m), ("short_side_mm", short_side_mm)):
        if not (math.isfinite(value) and value > 0):
            raise InputError(name, f"{name} must be a positive number.")
    return float(streak_mm(focal_mm, distance_m * 1000, speed_mps, shutter_s)) / short_side_mm


def share_of_line(line: Sequence[float], wide_px: float, high_px: float) -> float:
    """Return the length of a line on a picture as a share of its short side.

    line: from x and y to x and y, as shares of width and height, 0 to 1. Raises InputError outside, and for a picture
    without sides.
    """
    if not (wide_px > 0 and high_px > 0 and math.isfinite(wide_px) and math.isfinite(high_px)):
        raise InputError("wide_px", "The picture has no sides.")
    if not all(0 <= share <= 1 for share in line):
        raise InputError("streak_line", "A line lies on the picture: from 0 to 1 of its width and height.")
    length = math.hypot((line[2] - line[0]) * wide_px, (line[3] - line[1]) * high_px)
    return length / min(wide_px, high_px)


def look_of_share(share: float, short_side_mm: float = _SHORT_SIDE_MM) -> str:
    """Return the look of a streak that covers so large a share of the short side, on a sensor of 36 × 24 mm."""
    return look_of_streak(share * short_side_mm, short_side_mm, coc_handbook_mm(36.0, 24.0))


def speeds_of_look(
    look: str, focal_mm: float, distance_m: float, shutter_s: float, short_side_mm: float = _SHORT_SIDE_MM
) -> tuple[float, float]:
    """Return the range of water speeds [m/s] that gives a look in a picture, to estimate the speed from a published
    picture.

    Raises InputError for a look without a band.
    """
    band = next((item for item in LOOKS if item.name == look), None)
    if band is None:
        raise InputError("look", f"“{look}” has no band of streaks: use {', '.join(item.name for item in LOOKS)}.")
    a_metre = streak_share_of(focal_mm, distance_m, 1.0, shutter_s, short_side_mm)
    return band.low_share / a_metre, band.high_share / a_metre


def same_streak_s(share: float, share_per_s: float) -> float:
    """Return the shutter time [s] that draws the same streak where water draws so large a share in a second.

    Raises InputError for water that stands still.
    """
    if not (share > 0 and share_per_s > 0 and math.isfinite(share) and math.isfinite(share_per_s)):
        raise InputError("streak_share", "Water that does not move draws no streak.")
    return share / share_per_s


def sun_then(place: Location, moment: datetime) -> SunThen:
    """Return where the sun stood at a place."""
    position = sun_position(place.latitude_deg, place.longitude_deg, place.elevation_m, [moment])
    return SunThen(float(np.asarray(position.apparent_altitude_deg)[0]), float(np.asarray(position.azimuth_deg)[0]))


def light_again(place: Location, wanted: SunThen, from_date: date, days: int = 366) -> tuple[LightAgain, ...]:
    """Return the dates and times at which the sun reaches a wanted position at a place, from a date on; empty if it
    never does, as in the other hemisphere.
    """
    low, high = wanted.altitude_deg - _ALTITUDE_DEG, wanted.altitude_deg + _ALTITUDE_DEG
    sun = Wanted(SkyBody.SUN, wanted.azimuth_deg, _AZIMUTH_DEG, low, high, above_skyline=False)
    start, _ = local_day(from_date, place.zone)
    end, _ = local_day(from_date + timedelta(days=days), place.zone)
    zone = zone_info(place.zone)
    runs: list[list[tuple[date, datetime]]] = []
    for hit in find_alignments(place.latitude_deg, place.longitude_deg, place.elevation_m, start, end, sun):
        day = hit.best_utc.astimezone(zone).date()
        if runs and (day - runs[-1][-1][0]).days <= 1:
            runs[-1].append((day, hit.best_utc))
        else:
            runs.append([(day, hit.best_utc)])
    return tuple(LightAgain(run[0][0], run[-1][0], run[len(run) // 2][1]) for run in runs)

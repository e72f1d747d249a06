"""The skyline of a place: how high the land stands around it, and when it hides sun or moon.

A body shows while its upper limb stands above the skyline. Where the skyline is level that is the almanac's rise and
set (airless centre at -50'); above it refraction is less. Sources: [1] G. G. Bennett, The calculation of astronomical
refraction in marine navigation, Journal of Navigation 35 (1982) 255, scaled to the almanac's 34' at the horizon.
"""

from __future__ import annotations

import hashlib
import re
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..errors import InputError
from ..spans.instants import from_unix
from ..spans.intervals import Interval
from ..spans.searching import positive_spans, samples
from ..units.quantities import finite, in_callers_shape
from .events import HORIZON_REFRACTION_DEG
from .track import Track

LOWEST_DEG, HIGHEST_DEG = -5.0, 89.0
MOST_POINTS = 1440
_SUN_RADIUS_DEG = 16.0 / 60.0
_SAMPLE_S = 60.0
_GRAZE_DEG = 1.0


@dataclass(frozen=True)
class Skyline:
    """Apparent altitudes of the land [degrees] at bearings [degrees from north]; straight lines between them, around
    the circle.
    """

    bearings_deg: tuple[float, ...]
    altitudes_deg: tuple[float, ...]

    def altitude_deg(self, bearing_deg: Any) -> Any:
        """Return the skyline's altitude [degrees] at bearings, in their shape. A skyline without points is level."""
        bearing = finite("bearing_deg", bearing_deg) % 360
        if not self.bearings_deg:
            return in_callers_shape(np.zeros_like(bearing))
        return in_callers_shape(np.interp(bearing, *self._unrolled))

    @property
    def dip_deg(self) -> float:
        """How much lower than eye level the horizon lies all around; 0 where it does not, or where land stands on
        it.
        """
        return max(0.0, -self.altitudes_deg[0]) if len(self.altitudes_deg) == 1 else 0.0

    @cached_property
    def digest(self) -> str:
        """A short text that stands for all points: equal skylines have equal digests."""
        return hashlib.sha256(np.array([self.bearings_deg, self.altitudes_deg]).tobytes()).hexdigest()

    @cached_property
    def _unrolled(self) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
        bearings, altitudes = np.array(self.bearings_deg), np.array(self.altitudes_deg)
        return (
            np.concatenate((bearings[-1:] - 360, bearings, bearings[:1] + 360)),
            np.concatenate((altitudes[-1:], altitudes, altitudes[:1])),
        )


LEVEL = Skyline((), ())
# Of the horizon seen from a metre above it, by navigators' tables, refraction included; it grows with the root of the
# height.
_DIP_MINUTES = 1.76


def horizon_dip_deg(height_m: Any) -> Any:
    """Return how far the horizon of the sea, or of flat land, lies below eye level [degrees] from a height above it
    [m, not negative].

    Broadcasts.

    Source: the table of dip in nautical almanacs, 1.76′ √h: 0.88° from 900 m. Raises InputError for a negative height.
    """
    height = finite("height_m", height_m)
    if (height < 0).any():
        raise InputError("height_m", "The height above the horizon must not be negative.")
    return in_callers_shape(_DIP_MINUTES / 60 * np.sqrt(height))


def lowered_horizon(height_m: float) -> Skyline:
    """Return the skyline of a place so high above the sea or flat land [m] all around."""
    return Skyline((0.0,), (-float(horizon_dip_deg(max(0.0, height_m))),)) if height_m > 0 else LEVEL


def skyline_of(points: Sequence[Sequence[float]]) -> Skyline:
    """Return the skyline through (bearing, altitude) pairs [degrees], in any order.

    Bearings wrap at 360; altitudes -5 to 89. Raises InputError for none or too many points, a bearing twice, or values
    outside.
    """
    if not points:
        raise InputError("skyline", "A skyline needs at least one bearing with its altitude.")
    if len(points) > MOST_POINTS:
        raise InputError("skyline", f"A skyline has at most {MOST_POINTS} points, not {len(points)}.")
    clean = sorted(
        (float(finite("skyline", bearing)) % 360, float(finite("skyline", altitude))) for bearing, altitude in points
    )
    for bearing, altitude in clean:
        if not LOWEST_DEG <= altitude <= HIGHEST_DEG:
            raise InputError(
                "skyline", f"At {bearing:g}° the altitude {altitude:g}° is outside {LOWEST_DEG:g} to {HIGHEST_DEG:g}°."
            )
    for (one, _), (other, _) in pairwise(clean):
        if one == other:
            raise InputError("skyline", f"The bearing {one:g}° stands there twice.")
    return Skyline(tuple(bearing for bearing, _ in clean), tuple(altitude for _, altitude in clean))


def parse_skyline(text: str) -> Skyline:
    """Return the skyline written as one "bearing altitude" pair a line; commas, semicolons, tabs and degree signs may
    part them.

    Lines that begin with # are remarks; a first line of words is a heading. Raises InputError naming the line.
    """
    points: list[tuple[float, float]] = []
    for number, line in enumerate(text.splitlines(), start=1):
        cleaned = line.split("#")[0].replace("°", " ").replace("−", "-").strip()
        if not cleaned:
            continue
        parts = [part for part in re.split(r"[;\t ]+|,(?=\s)|,", cleaned) if part]
        if not points and not any(character.isdigit() for character in cleaned):
            continue
        try:
            bearing, altitude = (float(part) for part in parts)
        except ValueError:
            raise InputError(
                "skyline",
                f"Line {number}, “{line.strip()[:40]}”, is not a bearing and an altitude, such as “135 12.5”.",
            ) from None
        if not -360 <= bearing <= 720:
            raise InputError("skyline", f"Line {number}: the bearing {bearing:g}° is outside 0 to 360°.")
        points.append((bearing, altitude))
    return skyline_of(points)


def needed_altitude_deg(skyline_deg: Any, semidiameter_deg: Any = _SUN_RADIUS_DEG) -> Any:
    """Return the airless altitude of the centre [degrees] at which the upper limb stands on a skyline.

    Broadcasts. Source: [1].

    -50' for the sun on a level horizon.
    """
    height = np.asarray(skyline_deg, dtype=np.float64)
    bounded = np.maximum(height, 0.0)
    minutes = 1 / np.tan(np.radians(bounded + 7.31 / (bounded + 4.4)))
    level = 1 / np.tan(np.radians(7.31 / 4.4))
    lift = np.maximum(0.0, HORIZON_REFRACTION_DEG * minutes / level)
    return in_callers_shape(height - lift - np.asarray(semidiameter_deg, dtype=np.float64))


def clearance_deg(track: Track, skyline: Skyline, seconds: Any) -> Any:
    """Return how far the upper limb stands above the skyline [degrees] at unix seconds; negative while it is hidden."""
    return in_callers_shape(clearance_at_deg(track, skyline, track.horizontal(seconds)))


def clearance_at_deg(track: Track, skyline: Skyline, horizontal: tuple[Any, Any, Any]) -> NDArray[np.float64]:
    """Return the clearance [degrees] of a track's body where it stands as Track.horizontal says."""
    altitude, azimuth, distance = horizontal
    semidiameter = _SUN_RADIUS_DEG if track.body == "sun" else track.semidiameter_at_deg(distance)
    return np.asarray(altitude - np.asarray(needed_altitude_deg(skyline.altitude_deg(azimuth), semidiameter)))


def shows(track: Track, skyline: Skyline) -> list[Interval]:
    """Return the spans of a track in which the body shows above the skyline."""
    spans = positive_spans(
        lambda seconds: np.asarray(clearance_deg(track, skyline, seconds)),
        samples(track.start_s, track.end_s, _SAMPLE_S),
        _GRAZE_DEG,
    )
    return [
        Interval(from_unix(start), from_unix(end), start == track.start_s, end == track.end_s) for start, end in spans
    ]

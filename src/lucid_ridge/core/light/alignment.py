"""When in a year does sun or moon stand where the picture wants it?"""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..errors import InputError
from ..ground.geodesy import curvature_drop_m
from ..spans.instants import from_unix
from ..spans.searching import highest_within, positive_spans, samples
from .ephemeris import apparent_altitude_deg
from .moon import moon_phase
from .skyline import LEVEL, Skyline, clearance_deg
from .track import Track, body_track


class SkyBody(StrEnum):
    SUN = "sun"
    MOON = "moon"


class Touch(StrEnum):
    BEHIND = "behind"
    UPON = "upon"
    BESIDE = "beside"


@dataclass(frozen=True)
class SeenElement:
    """An element's outline as apparent angles from the lens [degrees]."""

    bearing_deg: float
    half_width_deg: float
    bottom_deg: float
    top_deg: float


Floats = NDArray[np.float64]
LONGEST_DAYS = 3 * 366
_HALF_DISC_DEG = 0.265
# No horizon lies lower than this; whether a body shows above it is asked beside.
LOWEST_DEG = -4.0
# How far a limb may be from where it is to touch: a quarter of the disc, which the sky crosses in half a minute.
_TOUCH_DEG = 0.13
_SAMPLE_S = 120.0
# Between two samples sun and moon cross no more bearing than this [degrees], near the zenith apart: there they are
# asked for more often.
_GRAZE_DEG, _ZENITH_FROM_DEG, _ZENITH_PARTS = 4.0, 75.0, 30
# A peak between two samples may reach this much higher than they do.
_PEAK_DEG = 30.0


@dataclass(frozen=True)
class Wanted:
    """Wanted position of the body: bearing_deg ± tolerance_deg, apparent altitude of the centre from low to high
    [degrees].

    sun_low_deg, sun_high_deg: the light wanted, as the sun's airless altitude. fraction_low, fraction_high:
    illuminated fraction of the moon; they do not matter for the sun. above_skyline: only while it shows. beside_deg:
    the bearing is an edge, and the centre stands this far beside it, positive clockwise, as an angle in the sky; the
    tolerance is then of that angle.
    """

    body: str
    bearing_deg: float
    tolerance_deg: float
    low_deg: float = LOWEST_DEG
    high_deg: float = 90.0
    sun_low_deg: float = -90.0
    sun_high_deg: float = 90.0
    fraction_low: float = 0.0
    fraction_high: float = 1.0
    above_skyline: bool = True
    beside_deg: float | None = None

    def __post_init__(self) -> None:
        if self.body not in tuple(SkyBody):
            raise InputError("body", "Search for the sun or the moon.")
        if not 0 < self.tolerance_deg <= 180:
            raise InputError("tolerance_deg", "The tolerance must lie above 0 and up to 180°.")
        for low, high, name in (
            (self.low_deg, self.high_deg, "low_deg"),
            (self.sun_low_deg, self.sun_high_deg, "sun_low_deg"),
            (self.fraction_low, self.fraction_high, "fraction_low"),
        ):
            if not (math.isfinite(low) and math.isfinite(high) and low <= high):
                raise InputError(name, f"The lower limit {low:g} must not lie above the upper limit {high:g}.")


@dataclass(frozen=True)
class Hit:
    """A span in which everything holds, and the instant in it at which the body stands nearest to the bearing."""

    start_utc: datetime
    end_utc: datetime
    best_utc: datetime
    azimuth_deg: float
    apparent_altitude_deg: float
    off_bearing_deg: float
    sun_altitude_deg: float
    fraction: float | None
    disc_deg: float


def touching_element(
    body: str, seen: SeenElement, touch: Touch = Touch.BEHIND, gap_deg: float = 0.0, **more: Any
) -> tuple[Wanted, ...]:
    """Return where a body stands behind, upon or beside an element, its upper limb clear of horizon and skyline.

    Behind: its disc touches the outline. Upon: its lower limb rests on the top. Beside: its limb stands gap_deg (0 to
    30) off the outline to the left or right as an angle in the sky, at the height of the element; two places then.
    Further keywords as for Wanted. Raises InputError.
    """
    if not 0 <= gap_deg <= 30:
        raise InputError("gap_deg", "The gap beside an element must lie from 0 to 30°.")
    half = seen.half_width_deg
    low, high = seen.bottom_deg - _HALF_DISC_DEG, seen.top_deg + _HALF_DISC_DEG
    if touch is Touch.UPON:
        return (
            Wanted(
                body,
                seen.bearing_deg,
                half + _HALF_DISC_DEG,
                max(LOWEST_DEG, high - _TOUCH_DEG),
                high + _TOUCH_DEG,
                **more,
            ),
        )
    if touch is Touch.BESIDE:
        off = _HALF_DISC_DEG + gap_deg
        return tuple(
            Wanted(body, (seen.bearing_deg + side * half) % 360, _TOUCH_DEG, low, high, beside_deg=side * off, **more)
            for side in (-1, 1)
        )
    return (Wanted(body, seen.bearing_deg, half + _HALF_DISC_DEG, low, high, **more),)


def seen_element(
    bearing_deg: float, distance_m: float, width_m: float, height_m: float, base_m: float, eye_m: float
) -> SeenElement:
    """Return an element as angles from a lens.

    base_m, eye_m: its foot and the lens, above one level [m].

    Bearing and distance from the camera; the Earth's drop over the distance, refraction with it, is taken off the
    element.
    """
    drop = float(curvature_drop_m(distance_m))
    half_width = math.degrees(math.atan2(width_m / 2, distance_m))
    ends = sorted(math.degrees(math.atan2(height - drop - eye_m, distance_m)) for height in (base_m, base_m + height_m))
    return SeenElement(bearing_deg % 360, half_width, *ends)


def find_alignments(
    latitude_deg: float,
    longitude_deg: float,
    elevation_m: float,
    start_utc: datetime,
    end_utc: datetime,
    wanted: Wanted,
    skyline: Skyline = LEVEL,
) -> list[Hit]:
    """Return every span from start_utc to end_utc in which the body stands as wanted, in order of time.

    No hit is an ordinary answer. Raises InputError for a span of more than three years or an impossible place.
    """
    if (end_utc - start_utc).total_seconds() > LONGEST_DAYS * 86400:
        raise InputError("end", "Search at most three years at a time.")
    place = (latitude_deg, longitude_deg, elevation_m, start_utc, end_utc)
    track, sun = body_track(wanted.body, *place), body_track("sun", *place)
    times = samples(track.start_s, track.end_s, _SAMPLE_S)
    # Cheap first: only where the body is near the bearing at all is anything else computed.
    altitude, azimuth, _ = track.horizontal(times)
    wide = (wanted.tolerance_deg + abs(wanted.beside_deg or 0.0)) / np.maximum(0.02, np.cos(np.radians(altitude)))
    reach = wanted.tolerance_deg if wanted.beside_deg is None else wide
    near = (
        (_off(azimuth, wanted.bearing_deg) <= reach + _GRAZE_DEG)
        & (altitude > wanted.low_deg - 2)
        & (altitude < wanted.high_deg + 2)
    )
    times, near = _finer_near_zenith(times, near, altitude, wanted)

    def holds(seconds: Any) -> Any:
        height, bearing, _ = track.horizontal(seconds)
        apparent = np.asarray(apparent_altitude_deg(height))
        parts = [
            wanted.tolerance_deg - _missed(wanted, bearing, apparent),
            apparent - wanted.low_deg,
            wanted.high_deg - apparent,
        ]
        if wanted.above_skyline:
            parts.append(np.asarray(clearance_deg(track, skyline, seconds)))
        if wanted.sun_low_deg > -90 or wanted.sun_high_deg < 90:
            of_sun = height if wanted.body == "sun" else np.asarray(sun.altitude_deg(seconds))
            parts += [of_sun - wanted.sun_low_deg, wanted.sun_high_deg - of_sun]
        if wanted.body == "moon" and (wanted.fraction_low > 0 or wanted.fraction_high < 1):
            fraction = np.asarray(moon_phase(np.asarray(seconds)).fraction)
            parts += [100 * (fraction - wanted.fraction_low), 100 * (wanted.fraction_high - fraction)]
        return np.minimum.reduce(parts)

    # A sample more on either side, so that every stretch kept begins and ends where nothing holds.
    kept = near.copy()
    kept[:-1] |= near[1:]
    kept[1:] |= near[:-1]
    if not kept.any():
        return []
    return _hits(track, sun, wanted, positive_spans(holds, times[kept], _PEAK_DEG))


def _finer_near_zenith(
    times: Floats, near: NDArray[np.bool_], altitude: Floats, wanted: Wanted
) -> tuple[Floats, NDArray[np.bool_]]:
    """Return samples and which of them count, with many more where the body passes so high that its bearing runs."""
    if wanted.high_deg < _ZENITH_FROM_DEG:
        return times, near
    high = altitude > _ZENITH_FROM_DEG
    if not high.any():
        return times, near
    first = np.nonzero(high[:-1] | high[1:])[0]
    parts = np.arange(1, _ZENITH_PARTS) / _ZENITH_PARTS
    between = (times[first][:, None] + (times[first + 1] - times[first])[:, None] * parts).ravel()
    everything = np.concatenate((times, between))
    order = np.argsort(everything, kind="stable")
    return everything[order], np.concatenate((near | high, np.ones(len(between), dtype=bool)))[order]


def _hits(track: Track, sun: Track, wanted: Wanted, spans: list[tuple[float, float]]) -> list[Hit]:
    if not spans:
        return []
    starts, ends = (np.array(column) for column in zip(*spans, strict=True))

    def nearness(seconds: Any) -> Any:
        height, bearing, _ = track.horizontal(seconds)
        return -np.asarray(_missed(wanted, bearing, np.asarray(apparent_altitude_deg(height))))

    best = highest_within(nearness, starts, ends)
    height, azimuth, _ = track.horizontal(best)
    apparent = np.asarray(apparent_altitude_deg(height))
    fractions = np.asarray(moon_phase(best).fraction) if wanted.body == "moon" else None
    disc = 2 * np.asarray(track.semidiameter_deg(best))
    of_sun = np.asarray(sun.altitude_deg(best))
    return [
        Hit(
            start_utc=from_unix(starts[index]),
            end_utc=from_unix(ends[index]),
            best_utc=from_unix(best[index]),
            azimuth_deg=float(azimuth[index]),
            apparent_altitude_deg=float(apparent[index]),
            off_bearing_deg=float(_missed(wanted, azimuth[index], apparent[index])),
            sun_altitude_deg=float(of_sun[index]),
            fraction=float(fractions[index]) if fractions is not None else None,
            disc_deg=float(disc[index]),
        )
        for index in range(len(spans))
    ]


def _missed(wanted: Wanted, azimuth_deg: Any, apparent_deg: Any) -> Any:
    """Return by how much a body misses its bearing [degrees of azimuth], or its place beside an edge [degrees in the
    sky].

    Of a point at altitude h, the angle δ of azimuth from an upright edge is asin(cos h · sin δ) in the sky.
    """
    if wanted.beside_deg is None:
        return _off(azimuth_deg, wanted.bearing_deg)
    turned = (np.asarray(azimuth_deg) - wanted.bearing_deg + 180) % 360 - 180
    apart = np.degrees(np.arcsin(np.cos(np.radians(apparent_deg)) * np.sin(np.radians(turned))))
    # Beyond a right angle the edge itself lies behind: there nothing is beside it.
    return np.where(np.abs(turned) <= 90, np.abs(apart - wanted.beside_deg), 180.0)


def _off(azimuth_deg: Any, bearing_deg: float) -> Any:
    return np.abs((np.asarray(azimuth_deg) - bearing_deg + 180) % 360 - 180)

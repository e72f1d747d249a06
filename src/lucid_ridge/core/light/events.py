"""Rise, set, twilight and transit, and the spans in which the sun stands between two altitudes.

Altitudes are of the airless centre, horizon level. Sources: [1] US Naval Observatory, definitions of rise, set and
twilight: -0.8333 degrees (34' refraction and 16' semidiameter), civil -6, nautical -12, astronomical -18. The moon
rises and sets with its upper limb: 34' and its own semidiameter of the day, parallax being in its position already.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..spans.instants import from_unix
from ..spans.intervals import Interval
from ..spans.searching import positive_spans, samples, zero_passages
from .bands import ASTRONOMICAL_DEG, CIVIL_DEG, NAUTICAL_DEG, SUNRISE_ALTITUDE_DEG
from .track import Track, moon_track, sun_track

LEVELS_DEG = {
    "sun": SUNRISE_ALTITUDE_DEG,
    "civil": CIVIL_DEG,
    "nautical": NAUTICAL_DEG,
    "astronomical": ASTRONOMICAL_DEG,
}
_NAMES = {
    "sun": ("sunrise", "sunset"),
    "civil": ("civil_dawn", "civil_dusk"),
    "nautical": ("nautical_dawn", "nautical_dusk"),
    "astronomical": ("astronomical_dawn", "astronomical_dusk"),
}
ALWAYS_ABOVE, ALWAYS_BELOW, NOT_IN_WINDOW = "always_above", "always_below", "not_in_window"
HORIZON_REFRACTION_DEG = 34.0 / 60.0
_SAMPLE_S = 120.0
# A sample this near to a level [degrees] may hide a grazing passage beside it.
_GRAZE_DEG = 0.5


@dataclass(frozen=True)
class SunEvent:
    """Something sun or moon does: kind (sunrise, sunset, transit, civil_dawn …, moonrise …), when, and where it then
    stands.
    """

    kind: str
    time_utc: datetime
    altitude_deg: float
    azimuth_deg: float


def sun_events(
    latitude_deg: float,
    longitude_deg: float,
    elevation_m: float,
    start_utc: datetime,
    end_utc: datetime,
    dip_deg: float = 0.0,
) -> list[SunEvent]:
    """Return every sunrise, sunset, twilight and transit from start_utc up to end_utc, in order of time.

    A day can hold none, one or two of a kind; an empty list is an ordinary answer. Transit is the passage of the sun
    through the meridian on its upper side. dip_deg: by which the horizon lies lower for sunrise and sunset. Source:
    [1].
    """
    track = sun_track(latitude_deg, longitude_deg, elevation_m, start_utc, end_utc)
    found: list[tuple[float, str]] = []
    for level, altitude in LEVELS_DEG.items():
        rise, fall = _NAMES[level]
        found += [
            (moment, rise if rising else fall)
            for moment, rising in _crossings(track, altitude - (dip_deg if level == "sun" else 0.0))
        ]
    found += [(moment, "transit") for moment in _transits(track)]
    return [
        SunEvent(kind, from_unix(moment), float(track.altitude_deg(moment)), float(track.azimuth_deg(moment)))
        for moment, kind in sorted(found)
    ]


def event_absence(
    latitude_deg: float,
    longitude_deg: float,
    elevation_m: float,
    start_utc: datetime,
    end_utc: datetime,
    level: str,
    dip_deg: float = 0.0,
) -> str | None:
    """Return why a window holds neither crossing of a level ("sun", "civil", …): always_above, always_below, or None.

    None means that at least one crossing is there; a single missing one of the pair is then "not_in_window".
    Polar day for one level is not polar day for all.
    """
    track = sun_track(latitude_deg, longitude_deg, elevation_m, start_utc, end_utc)
    altitude = LEVELS_DEG[level] - (dip_deg if level == "sun" else 0.0)
    if _crossings(track, altitude):
        return None
    middle = (track.start_s + track.end_s) / 2
    return ALWAYS_ABOVE if track.altitude_deg(middle) >= altitude else ALWAYS_BELOW


def sun_intervals(
    latitude_deg: float,
    longitude_deg: float,
    elevation_m: float,
    start_utc: datetime,
    end_utc: datetime,
    low_deg: float,
    high_deg: float,
) -> list[Interval]:
    """Return the spans in which the sun's airless altitude lies from low_deg to high_deg, in order of time."""
    track = sun_track(latitude_deg, longitude_deg, elevation_m, start_utc, end_utc)

    def inside(seconds: object) -> object:
        altitude = np.asarray(track.altitude_deg(seconds))
        return np.minimum(altitude - low_deg, high_deg - altitude)

    spans = positive_spans(inside, _samples(track), _GRAZE_DEG)
    return [
        Interval(from_unix(begin), from_unix(end), begin == track.start_s, end == track.end_s) for begin, end in spans
    ]


def moon_events(
    latitude_deg: float,
    longitude_deg: float,
    elevation_m: float,
    start_utc: datetime,
    end_utc: datetime,
    dip_deg: float = 0.0,
) -> list[SunEvent]:
    """Return every moonrise, moonset and moon_transit from start_utc up to end_utc, in order of time.

    Rise and set are of the upper limb on a horizon that lies dip_deg lower than eye level. One lunar day a month has
    no moonrise or no moonset. Source: [1].
    """
    track = moon_track(latitude_deg, longitude_deg, elevation_m, start_utc, end_utc)
    found = [(moment, "moonrise" if rising else "moonset") for moment, rising in _limb_crossings(track, dip_deg)]
    found += [(moment, "moon_transit") for moment in _transits(track)]
    return [
        SunEvent(kind, from_unix(moment), float(track.altitude_deg(moment)), float(track.azimuth_deg(moment)))
        for moment, kind in sorted(found)
    ]


def moon_absence(
    latitude_deg: float,
    longitude_deg: float,
    elevation_m: float,
    start_utc: datetime,
    end_utc: datetime,
    dip_deg: float = 0.0,
) -> str | None:
    """Return why a window holds neither moonrise nor moonset: always_above, always_below, or None where there is
    one.
    """
    track = moon_track(latitude_deg, longitude_deg, elevation_m, start_utc, end_utc)
    if _limb_crossings(track, dip_deg):
        return None
    return ALWAYS_ABOVE if _limb_height(track, dip_deg)((track.start_s + track.end_s) / 2) >= 0 else ALWAYS_BELOW


def _limb_height(track: Track, dip_deg: float) -> Callable[[Any], Any]:
    def height(seconds: Any) -> Any:
        return (
            np.asarray(track.altitude_deg(seconds))
            + np.asarray(track.semidiameter_deg(seconds))
            + HORIZON_REFRACTION_DEG
            + dip_deg
        )

    return height


def _limb_crossings(track: Track, dip_deg: float) -> list[tuple[float, bool]]:
    moments, rising, _, _ = zero_passages(_limb_height(track, dip_deg), _samples(track), _GRAZE_DEG)
    return [(float(moment), bool(up)) for moment, up in zip(moments, rising, strict=True)]


def _crossings(track: Track, altitude_deg: float) -> list[tuple[float, bool]]:
    """Return (unix seconds, rising) of every passage through an altitude, grazing ones between samples included."""
    moments, rising, _, _ = zero_passages(
        lambda seconds: np.asarray(track.altitude_deg(seconds)) - altitude_deg, _samples(track), _GRAZE_DEG
    )
    return [(float(moment), bool(up)) for moment, up in zip(moments, rising, strict=True)]


def _transits(track: Track) -> list[float]:
    """Return the unix seconds of upper transits: the passages through the meridian plane at hour angle zero."""
    moments, rising, _, _ = zero_passages(track.beyond_meridian, _samples(track), 0.0)
    return [float(moment) for moment, up in zip(moments, rising, strict=True) if up]


def _samples(track: Track) -> NDArray[np.float64]:
    return samples(track.start_s, track.end_s, _SAMPLE_S)

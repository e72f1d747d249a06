"""Rise, set, twilight and transit, and the spans in which the sun stands between two altitudes.

Altitudes are of the airless centre, horizon level. Sources: [1] US Naval Observatory, definitions of rise, set and twilight:
-0.8333 degrees (34' refraction and 16' semidiameter), civil -6, nautical -12, astronomical -18.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from .instants import from_unix
from .track import SunTrack, sun_track

SUNRISE_ALTITUDE_DEG = -50.0 / 60.0
LEVELS_DEG = {
    "sun": SUNRISE_ALTITUDE_DEG,
    "civil": -6.0,
    "nautical": -12.0,
    "astronomical": -18.0,
}
_NAMES = {
    "sun": ("sunrise", "sunset"),
    "civil": ("civil_dawn", "civil_dusk"),
    "nautical": ("nautical_dawn", "nautical_dusk"),
    "astronomical": ("astronomical_dawn", "astronomical_dusk"),
}
ALWAYS_ABOVE, ALWAYS_BELOW, NOT_IN_WINDOW = "always_above", "always_below", "not_in_window"
_SAMPLE_S = 120.0


@dataclass(frozen=True)
class SunEvent:
    """Something the sun does: kind (sunrise, sunset, transit, civil_dawn …), when, and where it then stands."""

    kind: str
    time_utc: datetime
    altitude_deg: float
    azimuth_deg: float


@dataclass(frozen=True)
class Interval:
    """A span of time. starts_before, ends_after: the window cut it off there, it really goes on."""

    start_utc: datetime
    end_utc: datetime
    starts_before: bool
    ends_after: bool


def sun_events(latitude_deg: float, longitude_deg: float, elevation_m: float, start_utc: datetime, end_utc: datetime) -> list[SunEvent]:
    """Return every sunrise, sunset, twilight and transit from start_utc up to end_utc, in order of time.

    A day can hold none, one or two of a kind; an empty list is an ordinary answer. Transit is the passage of the sun through
    the meridian on its upper side. Source: [1].
    """
    track = sun_track(latitude_deg, longitude_deg, elevation_m, start_utc, end_utc)
    found: list[tuple[float, str]] = []
    for level, altitude in LEVELS_DEG.items():
        rise, fall = _NAMES[level]
        found += [(moment, rise if rising else fall) for moment, rising in _crossings(track, altitude)]
    found += [(moment, "transit") for moment in _transits(track, longitude_deg)]
    return [
        SunEvent(kind, from_unix(moment), float(track.altitude_deg(moment)), float(track.azimuth_deg(moment)))
        for moment, kind in sorted(found)
    ]


def event_absence(
    latitude_deg: float, longitude_deg: float, elevation_m: float, start_utc: datetime, end_utc: datetime, level: str
) -> str | None:
    """Return why a window holds neither crossing of a level ("sun", "civil", …): always_above, always_below, or None.

    None means that at least one crossing is there; a single missing one of the pair is then "not_in_window".
    Polar day for one level is not polar day for all.
    """
    track = sun_track(latitude_deg, longitude_deg, elevation_m, start_utc, end_utc)
    if _crossings(track, LEVELS_DEG[level]):
        return None
    middle = (track.start_s + track.end_s) / 2
    return ALWAYS_ABOVE if track.altitude_deg(middle) >= LEVELS_DEG[level] else ALWAYS_BELOW


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
    moments = sorted({moment for level in (low_deg, high_deg) for moment, _ in _crossings(track, level)})
    edges = [track.start_s, *moments, track.end_s]
    spans: list[list[float]] = []
    for begin, end in pairwise(edges):
        if low_deg <= track.altitude_deg((begin + end) / 2) <= high_deg and end > begin:
            if spans and spans[-1][1] == begin:
                spans[-1][1] = end
            else:
                spans.append([begin, end])
    return [Interval(from_unix(begin), from_unix(end), begin == track.start_s, end == track.end_s) for begin, end in spans]


def _crossings(track: SunTrack, altitude_deg: float) -> list[tuple[float, bool]]:
    """Return (unix seconds, rising) of every passage through an altitude, grazing ones between samples included."""
    # Loaded when first needed: it takes a good part of the application's start.
    from scipy.optimize import brentq, minimize_scalar

    times = _samples(track)

    def height(moment: float) -> float:
        return float(track.altitude_deg(moment)) - altitude_deg

    heights = np.asarray(track.altitude_deg(times)) - altitude_deg
    # A turning point between two samples may reach over the level and back: add it as a sample of its own.
    turning: list[tuple[int, float]] = []
    for index in range(1, len(times) - 1):
        before, here, after = heights[index - 1], heights[index], heights[index + 1]
        if (here - before) * (after - here) <= 0 and abs(here) < 0.5:
            sign = -1.0 if here >= before else 1.0
            best = minimize_scalar(
                lambda moment, sign=sign: sign * height(moment),
                bounds=(times[index - 1], times[index + 1]),
                method="bounded",
                options={"xatol": 0.01},
            )
            turning.append((index, float(best.x)))
    if turning:
        times = np.sort(np.append(times, [moment for _, moment in turning]))
        heights = np.asarray(track.altitude_deg(times)) - altitude_deg
    above = heights >= 0
    changes = np.nonzero(above[1:] != above[:-1])[0]
    return [(float(brentq(height, times[index], times[index + 1], xtol=0.01)), bool(above[index + 1])) for index in changes]


def _transits(track: SunTrack, longitude_deg: float) -> list[float]:
    """Return the unix seconds of upper transits.

    Azimuth alone cannot tell upper from lower passage within the tropics and near the poles, so the search is confined to
    half a day around mean local noon, where only the upper one lies.
    """
    from scipy.optimize import brentq

    times = _samples(track)
    azimuth = np.radians(np.asarray(track.azimuth_deg(times)))
    side = np.sin(azimuth)
    solar_hour = (times / 3600 + longitude_deg / 15) % 24
    found = []
    for index in np.nonzero((side[1:] >= 0) != (side[:-1] >= 0))[0]:
        if 6 < solar_hour[index] < 18:
            found.append(
                float(
                    brentq(
                        lambda moment: float(np.sin(np.radians(track.azimuth_deg(moment)))),
                        times[index],
                        times[index + 1],
                        xtol=0.01,
                    )
                )
            )
    return found


def _samples(track: SunTrack) -> NDArray[np.float64]:
    count = max(2, int(np.ceil((track.end_s - track.start_s) / _SAMPLE_S)) + 1)
    return np.linspace(track.start_s, track.end_s, count)

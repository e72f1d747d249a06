"""One local day of light at a place: events, golden and blue hours, and the fall of light in EV."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime, timedelta
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..exposure.ev import ev100_from_illuminance
from ..spans.instants import local_day
from ..spans.intervals import Interval
from .bands import BANDS_DEG
from .events import LEVELS_DEG, SunEvent, event_absence, moon_absence, moon_events, sun_events, sun_intervals
from .illuminance import sun_illuminance_lux
from .light_at_place import LightAtPlace
from .skyline import LEVEL, Skyline, shows
from .track import Track, moon_track, sun_track

CURVE_STEP_S = 60.0
_MEETS = timedelta(milliseconds=10)


@dataclass(frozen=True)
class LightBand:
    """A span of one kind of light: a key of BANDS_DEG and when it lasts."""

    kind: str
    span: Interval


@dataclass(frozen=True)
class LightCurve:
    """The day minute by minute: time_s since the local day's start, airless altitude, azimuth, clear-sky EV at ISO
    100.
    """

    time_s: NDArray[np.float64]
    altitude_deg: NDArray[np.float64]
    azimuth_deg: NDArray[np.float64]
    ev100: NDArray[np.float64]


@dataclass(frozen=True)
class LightDay:
    """A local day.

    absences: for each level (sun, civil, …) and the moon always_above, always_below or None where it is crossed.

    sun_shows, moon_shows: when they stand above the skyline.
    """

    start_utc: datetime
    end_utc: datetime
    zone: str
    events: tuple[SunEvent, ...]
    absences: dict[str, str | None]
    bands: tuple[LightBand, ...]
    track: Track
    moon_events: tuple[SunEvent, ...]
    moon_track: Track
    skyline: Skyline
    sun_shows: tuple[Interval, ...]
    moon_shows: tuple[Interval, ...]

    @cached_property
    def light(self) -> LightAtPlace:
        """How much light there is by time, in this day and two days around it."""
        return LightAtPlace(self.track, self.moon_track, self.skyline)

    @property
    def noon_utc(self) -> datetime:
        """Time of the sun's culmination, which identifies the day; the middle of the day if it holds none."""
        middle = self.start_utc + (self.end_utc - self.start_utc) / 2
        return min(
            (event.time_utc for event in self.events if event.kind == "transit"),
            key=lambda noon: abs(noon - middle),
            default=middle,
        )

    def band_at(self, moment: datetime) -> LightBand | None:
        """Return the band that holds an instant, None outside the day.

        Where two bands meet it is the one that begins.
        """
        if not self.start_utc <= moment <= self.end_utc:
            return None
        # Ends are found to milliseconds: between two bands there may be a gap, or none.
        begun = [band for band in self.bands if band.span.start_utc <= moment + _MEETS]
        return begun[-1] if begun else next(iter(self.bands), None)


def light_day(
    latitude_deg: float, longitude_deg: float, elevation_m: float, day: date, zone: str, skyline: Skyline = LEVEL
) -> LightDay:
    """Return a local day's events and bands, from local midnight to local midnight (23 to 25 hours).

    Where the horizon lies lower all around, sun and moon rise and set on it. Days without a rise or set are ordinary.
    Raises InputError for an impossible place, zone or year.
    """
    start, end = local_day(day, zone)
    place, dip = (latitude_deg, longitude_deg, elevation_m, start, end), skyline.dip_deg
    bands = [
        LightBand(kind, span) for kind, (low, high) in BANDS_DEG.items() for span in sun_intervals(*place, low, high)
    ]
    return LightDay(
        start_utc=start,
        end_utc=end,
        zone=zone,
        events=tuple(sun_events(*place, dip)),
        absences={
            **{level: event_absence(*place, level, dip) for level in LEVELS_DEG},
            "moon": moon_absence(*place, dip),
        },
        bands=tuple(sorted(bands, key=lambda band: band.span.start_utc)),
        track=sun_track(*place),
        moon_events=tuple(moon_events(*place, dip)),
        moon_track=moon_track(*place),
        skyline=skyline,
        sun_shows=tuple(shows(sun_track(*place), skyline)),
        moon_shows=tuple(shows(moon_track(*place), skyline)),
    )


def light_curve(
    latitude_deg: float, longitude_deg: float, elevation_m: float, start_utc: datetime, end_utc: datetime
) -> LightCurve:
    """Return the clear-sky light minute by minute from start_utc to end_utc, both included."""
    track = sun_track(latitude_deg, longitude_deg, elevation_m, start_utc, end_utc)
    count = round((track.end_s - track.start_s) / CURVE_STEP_S) + 1
    seconds = np.linspace(track.start_s, track.end_s, count)
    altitude = np.asarray(track.altitude_deg(seconds))
    return LightCurve(
        seconds - track.start_s, altitude, np.asarray(track.azimuth_deg(seconds)), clear_sky_ev100(altitude)
    )


def clear_sky_ev100(altitude_deg: Any) -> Any:
    """Return the EV at ISO 100 of an open, clear sky for the sun's airless altitude [degrees]. Broadcasts."""
    return ev100_from_illuminance(sun_illuminance_lux(altitude_deg))

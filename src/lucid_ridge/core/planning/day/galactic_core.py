"""The galactic centre over a local day, and its band at one moment, above the land of a place."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

import numpy as np
from numpy.typing import NDArray

from ...facts.place import Location
from ...light.day import LightDay
from ...light.ephemeris import apparent_altitude_deg
from ...light.stars import STARS_BELOW_DEG, galactic_centre_track, galactic_line
from ...spans.instants import unix_seconds

Floats = NDArray[np.float64]
_STEP_S, _STEP_DEG = 900.0, 2.0


@dataclass(frozen=True)
class GalacticDay:
    """The galactic centre while stars show: time_s since the day's start, altitude as seen, azimuth [degrees]. band:
    the middle line of the band at the shot's time, in pieces (n, 2) of azimuth and altitude; empty while it is light.
    """

    time_s: Floats
    altitude_deg: Floats
    azimuth_deg: Floats
    band: tuple[Floats, ...]


def galactic_day(here: Location, day: LightDay, moment: datetime | None) -> GalacticDay | None:
    """Return where centre and band stand on a local day; None on a day without either. moment: the shot's time."""
    time_s, altitude, azimuth = _centre_course(here, day)
    band: tuple[Floats, ...] = ()
    if moment is not None and float(day.track.altitude_deg(float(unix_seconds(moment)))) < STARS_BELOW_DEG:
        high, where, clear = band_over_land(here, moment)
        band = pieces_over_land(np.stack((where, high), axis=1), clear)
    return GalacticDay(time_s, altitude, azimuth, band) if len(time_s) or band else None


def _centre_course(here: Location, day: LightDay) -> tuple[Floats, Floats, Floats]:
    """Return seconds since the day's start, altitude as seen and azimuth [degrees] every quarter of an hour, where
    stars show and the centre is over the level horizon.
    """
    place = (here.latitude_deg, here.longitude_deg, here.elevation_m)
    track = galactic_centre_track(*place, day.start_utc, day.end_utc)
    seconds = np.arange(track.start_s, track.end_s, _STEP_S)
    altitude, azimuth, _ = track.horizontal(seconds)
    shows = (np.asarray(day.track.altitude_deg(seconds)) < STARS_BELOW_DEG) & (altitude > 0)
    return (seconds - track.start_s)[shows], np.asarray(apparent_altitude_deg(altitude[shows])), azimuth[shows]


def band_over_land(here: Location, moment: datetime) -> tuple[Floats, Floats, NDArray[np.bool_]]:
    """Return altitude as seen and azimuth [degrees] of the band's middle line, and where it clears the land.

    The middle of the arrays is the galactic centre.
    """
    _, altitude, azimuth = galactic_line(here.latitude_deg, here.longitude_deg, moment, step_deg=_STEP_DEG)
    seen = np.asarray(apparent_altitude_deg(altitude))
    return seen, azimuth, seen > np.asarray(here.skyline.altitude_deg(azimuth))


def pieces_over_land(points: Floats, clear: NDArray[np.bool_]) -> tuple[Floats, ...]:
    """Return the pieces of a line of points (n, k) that clear the land, of two points and more."""
    ends = np.flatnonzero(np.diff(clear.astype(int))) + 1
    split = zip(np.split(points, ends), np.split(clear, ends), strict=True)
    return tuple(piece for piece, up in split if up[0] and len(piece) > 1)

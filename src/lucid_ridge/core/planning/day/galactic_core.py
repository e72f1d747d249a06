"""The galactic centre over a local day: where it stands while stars show."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from ...facts.place import Location
from ...light.bands import NAUTICAL_DEG
from ...light.day import LightDay
from ...light.ephemeris import apparent_altitude_deg
from ...light.stars import galactic_centre_track

Floats = NDArray[np.float64]
_STEP_S = 900.0


def galactic_centre_course(here: Location, day: LightDay) -> tuple[Floats, Floats, Floats]:
    """Return seconds since the day's start, altitude as seen and azimuth [degrees] every quarter of an hour, where the
    sun is under -12 degrees and the galactic centre over the level horizon; empty arrays where it never is.
    """
    place = (here.latitude_deg, here.longitude_deg, here.elevation_m)
    track = galactic_centre_track(*place, day.start_utc, day.end_utc)
    seconds = np.arange(track.start_s, track.end_s, _STEP_S)
    altitude, azimuth, _ = track.horizontal(seconds)
    shows = (np.asarray(day.track.altitude_deg(seconds)) < NAUTICAL_DEG) & (altitude > 0)
    return (seconds - track.start_s)[shows], np.asarray(apparent_altitude_deg(altitude[shows])), azimuth[shows]

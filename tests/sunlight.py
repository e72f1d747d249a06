"""The light of the sun alone, for tests of what it falls on."""

from __future__ import annotations

from lucid_ridge.core.light.daylight import Daylight, daylight
from lucid_ridge.core.light.light_at_place import illumination


def sunlight(altitude_deg, azimuth_deg, hidden=False, oktas=0.0) -> Daylight:
    light = illumination(altitude_deg, cloud_oktas=oktas, sun_free=0.0 if hidden else 1.0)
    return daylight(light, (altitude_deg, azimuth_deg), (-90.0, 0.0), oktas)

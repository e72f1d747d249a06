"""How the camera looks beside the sun: what a polariser takes differs across and along its direction."""

from __future__ import annotations

from ...exposure.polariser import from_sun_deg
from ...facts.calibrations import Side
from ...facts.settings import settings_of
from ...facts.shot import ShotFacts
from ...light.ephemeris import sun_position

# Within so much of a right angle to the sun the sky is polarised by more than 0.6 of the most it can be: sin²/(1 +
# cos²) of 60° is 0.6.
_ACROSS_DEG = 30.0


def axis_from_sun_deg(facts: ShotFacts) -> float | None:
    """Return the angle between the optical axis and the sun at the time chosen [deg]; None while that is not known,
    and while the sun is down.
    """
    settings, here, moment = settings_of(facts), facts.location, facts.light.time_utc
    if settings is None or here is None or moment is None:
        return None
    sun = sun_position(here.latitude_deg, here.longitude_deg, here.elevation_m, moment)
    if float(sun.altitude_deg) < 0:
        return None
    return float(from_sun_deg(sun.altitude_deg, sun.azimuth_deg, facts.frame.pitch_deg, settings.bearing_deg))


def side_of(from_sun: float | None) -> Side:
    """Return whether one looks across the sun's direction or along it; WHOLE where that is not known."""
    if from_sun is None:
        return Side.WHOLE
    return Side.ACROSS if abs(from_sun - 90.0) <= _ACROSS_DEG else Side.ALONG

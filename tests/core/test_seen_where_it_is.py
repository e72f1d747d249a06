"""What is seen stands where it is seen: refraction lifts sun and moon, and the land; the light's formulas take the
airless sun.
"""

import numpy as np
import pytest

from lucid_ridge.core.framing.projection import Camera
from lucid_ridge.core.ground.geodesy import curvature_drop_m
from lucid_ridge.core.light.ephemeris import apparent_altitude_deg
from lucid_ridge.core.planning.frame.finder import moon_in_frame, sun_in_frame
from lucid_ridge.core.planning.light.plan import LightStep
from lucid_ridge.core.planning.verdicts import HOLDS, Verdict

LEVEL = Camera(270.0, 50.0, 36.0, 24.0, pitch_deg=0.0, height_m=1.5)


def _light(**values):
    return LightStep(verdict=Verdict("light", HOLDS, ""), reasons=(), **values)


def test_the_drop_of_land_holds_refraction():
    # 20 km: 31.4 m by geometry, 27.3 m as it is seen with k = 0.13 (surveying texts); nothing at the foot of the
    # tripod.
    assert curvature_drop_m(20_000.0) == pytest.approx(27.3, abs=0.05)
    assert curvature_drop_m(np.array([0.0, 1000.0])) == pytest.approx([0.0, 0.0683], abs=0.0005)


@pytest.mark.parametrize(("airless", "apparent"), [(0.0, 0.48), (-0.5, 0.08), (10.0, 10.09), (45.0, 45.016)])
def test_apparent_altitudes(airless, apparent):
    # Saemundsson's formula at 1010 mbar and 10 °C (Meeus, ch. 16): 29′ at 0°, 5.3′ at 10°, 1′ at 45°.
    assert apparent_altitude_deg(airless) == pytest.approx(apparent, abs=0.02)


def test_the_setting_sun_stands_on_the_horizon_when_it_is_seen_there():
    """Almanacs call it sunset when the airless centre is 50′ down: the upper limb then touches the level horizon, y =
    0.5.
    """
    disc = sun_in_frame(LEVEL, _light(sun_altitude_deg=-50 / 60, sun_azimuth_deg=270.0))
    upper_limb = disc.y - disc.diameter_share / 2 * 36 / 24
    # Within 0.06°, of 27° over the frame's height.
    assert upper_limb == pytest.approx(0.5, abs=0.06 / 27)
    high = sun_in_frame(LEVEL, _light(sun_altitude_deg=10.0, sun_azimuth_deg=270.0))
    assert high.y == pytest.approx(0.5 - np.tan(np.radians(10.09)) * 50 / 24, abs=0.0005)
    assert sun_in_frame(LEVEL, _light(sun_altitude_deg=-1.2, sun_azimuth_deg=270.0)) is None


def test_the_moon_as_well():
    disc = moon_in_frame(LEVEL, _light(moon_altitude_deg=0.0, moon_azimuth_deg=270.0))
    assert disc.y == pytest.approx(0.5 - np.tan(np.radians(0.48)) * 50 / 24, abs=0.001)

"""The sky's brightness, water's mirror, polarisation, film and graduated edges, against published values."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.exposure.film import corrected_time_s, reciprocity_stops
from lucid_ridge.core.exposure.graduated import (
    Gradation,
    edge_smear_deg,
    needed_stops,
    plate_seen_mm,
    plate_stops,
    seen_stops,
)
from lucid_ridge.core.exposure.polariser import beyond_cost_stops, darkening_stops, polarisation_degree
from lucid_ridge.core.light.sky_luminance import CLEAR, OVERCAST, UNIFORM, relative_luminance_cie2003
from lucid_ridge.core.light.surfaces import (
    ev100_of_surface,
    slope_variance_cox1954,
    water_reflectance,
    water_reflectances,
)


def _horizontal_over_zenith(sky_type, sun_altitude_deg):
    """The integral of L sin(a) over the sky, by midpoints of half a degree."""
    altitude = np.arange(0.25, 90, 0.5)
    turn = np.arange(0.5, 360, 1.0)
    relative = relative_luminance_cie2003(sky_type, sun_altitude_deg, altitude[:, None], turn[None, :])
    up = np.radians(altitude)[:, None]
    return float((relative * np.sin(up) * np.cos(up)).sum() * math.radians(0.5) * math.radians(1.0))


def test_the_overcast_sky_is_three_times_brighter_overhead():
    # Moon and Spencer 1942: horizon to zenith 1:3; CIE type 1 gives 1/(1 + 4 e^-0.7) = 0.3349, by hand.
    assert relative_luminance_cie2003(OVERCAST, 40, 0, 120) == pytest.approx(1 / (1 + 4 * math.exp(-0.7)))
    assert relative_luminance_cie2003(OVERCAST, 40, 0, 120) == pytest.approx(1 / 3, abs=0.002)


@pytest.mark.parametrize(("sky", "ratio"), [(OVERCAST, 2.450), (UNIFORM, math.pi), (CLEAR, 6.39)])
def test_the_integral_of_luminance_is_the_illuminance(sky, ratio):
    # CIE S 011: E over L_zenith (7π/9 = 2.443 for Moon and Spencer's own formula); the clear sky with the sun at 30°.
    assert _horizontal_over_zenith(sky, 30.0) == pytest.approx(ratio, rel=0.002)


def test_a_clear_sky_is_brightest_at_the_sun_and_darkest_across():
    at = relative_luminance_cie2003(CLEAR, 20, np.array([20.0, 70.0, 0.0]), np.array([0.0, 180.0, 180.0]))
    assert at.shape == (3,)
    assert at[0] > 5 * at[1]
    assert relative_luminance_cie2003(CLEAR, 33, 90, 0) == pytest.approx(1)


@pytest.mark.parametrize(
    "wrong", [(0, 30, 30, 0), (16, 30, 30, 0), (12, -1, 30, 0), (12, 30, 91, 0), (12, 30, math.nan, 0)]
)
def test_no_such_sky(wrong):
    with pytest.raises(InputError):
        relative_luminance_cie2003(*wrong)


def test_light_from_a_matt_surface():
    # L = 0.18 · 100,000/π = 5730 cd/m², log2(8 · 5730) = 15.48 (ISO 2720, K = 12.5).
    assert ev100_of_surface(100_000, 0.18) == pytest.approx(15.484, abs=1e-3)
    # Fresh snow (0.88) over grass (0.21) is log2(4.19) = 2.07 stops.
    snow, grass = ev100_of_surface(5_000, np.array([0.88, 0.21]))
    assert snow - grass == pytest.approx(math.log2(0.88 / 0.21))
    for wrong in ((0, 0.2), (100, 0), (100, 1.01)):
        with pytest.raises(InputError):
            ev100_of_surface(*wrong)


def test_what_water_mirrors():
    # Fresnel, n = 1.333: ((n - 1)/(n + 1))² straight down; Brewster's angle atan(1.333) = 53.12°; all along the
    # surface.
    assert water_reflectance(0) == pytest.approx((0.333 / 2.333) ** 2)
    got = water_reflectance(np.array([0, 45, 53.1, 75, 85, 90]))
    assert got == pytest.approx([0.0204, 0.0280, 0.0390, 0.212, 0.584, 1.0], abs=0.002)
    level, upright = water_reflectances(math.degrees(math.atan(1.333)))
    assert upright == pytest.approx(0, abs=1e-12)
    # There ((n² - 1)/(n² + 1))² of the light that swings level.
    assert level == pytest.approx((0.776889 / 2.776889) ** 2)
    with pytest.raises(InputError):
        water_reflectance(91)


def test_roughness_by_the_wind():
    # Cox and Munk 1954: 0.003 + 0.00512 · 10 = 0.0542 at 10 m/s.
    assert slope_variance_cox1954(10) == pytest.approx(0.0542)
    assert slope_variance_cox1954(0) == 0


def test_polarisation_of_the_clear_sky():
    # Rayleigh: none towards and away from the sun, all at 90°, (1 - 1/2)/(1 + 1/2) = 1/3 at 45°.
    assert polarisation_degree(0, 90, np.array([0, 0, 0, 90]), np.array([90, 270, 180, 0])) == pytest.approx(
        [0, 0, 1, 1], abs=1e-12
    )
    assert polarisation_degree(0, 0, 45, 0) == pytest.approx(1 / 3)
    assert polarisation_degree(0, 0, 90, 0, maximum=0.75) == 0.75
    # log2(1.75/0.25) = 2.807.
    assert darkening_stops(0.75) == pytest.approx(2.807, abs=1e-3)
    assert darkening_stops(0) == 0
    assert darkening_stops(1) == math.inf
    with pytest.raises(InputError):
        darkening_stops(1.2)


@given(st.floats(0, 0.99), st.floats(0, 90))
def test_the_two_ways_to_turn_a_polariser_make_its_darkening(degree, turned):
    assert beyond_cost_stops(degree, 0) - beyond_cost_stops(degree, 90) == pytest.approx(
        darkening_stops(degree), abs=1e-9
    )
    assert (
        beyond_cost_stops(degree, 90) - 1e-9 <= beyond_cost_stops(degree, turned) <= beyond_cost_stops(degree, 0) + 1e-9
    )


def test_film_by_its_exponent():
    # 30^1.31 = 86 s; one second and less stay (Schwarzschild 1900).
    assert corrected_time_s(30, 1.31) == pytest.approx(86.1, abs=0.1)
    assert corrected_time_s(np.array([0.25, 1.0, 10.0]), 1.3) == pytest.approx([0.25, 1, 19.95], abs=0.01)
    assert reciprocity_stops(30, 1.31) == pytest.approx(math.log2(86.1 / 30), abs=0.01)
    assert reciprocity_stops(120, 1.0) == 0
    for wrong in ((0, 1.3), (30, 0.9), (30, 2.5), (math.inf, 1.3)):
        with pytest.raises(InputError):
            corrected_time_s(*wrong)


def test_the_edge_of_a_graduated_filter():
    # By hand: 24 mm f/16 at 40 mm: 1.5/40 = 2.15°; f/2.8: 8.57/40 = 12.2°; 200 mm f/8 at 120 mm: 25/120 = 11.9°.
    assert edge_smear_deg(24, np.array([16, 2.8]), 40) == pytest.approx([2.148, 12.23], abs=0.01)
    assert edge_smear_deg(200, 8, 120) == pytest.approx(11.89, abs=0.01)
    # What of the plate the frame sees: 24 mm upright (73.74°) at 40 mm is 60 mm; practice says 61 with the
    # pupil's own width, 1.5 mm.
    assert plate_seen_mm(73.74, 40) + 1.5 == pytest.approx(61.5, abs=0.1)
    assert needed_stops(14, 10) == 3
    assert needed_stops(10, 12) == 0


@pytest.mark.parametrize("gradation", [Gradation.SOFT, Gradation.MEDIUM, Gradation.HARD])
def test_a_plate_is_clear_below_and_whole_above(gradation):
    assert plate_stops(gradation, 3, np.array([-200, 0, 200])) == pytest.approx([0, 1.5, 3])
    assert np.all(np.diff(plate_stops(gradation, 3, np.linspace(-60, 60, 99))) >= 0)


def test_a_reverse_plate_is_darkest_at_its_edge():
    taken = plate_stops(Gradation.REVERSE, 3, np.linspace(-80, 80, 161))
    assert abs(int(np.argmax(taken)) - 83) <= 1
    assert taken[-1] == pytest.approx(1)


def test_a_wide_pupil_makes_a_hard_edge_soft():
    hard = np.asarray(seen_stops(Gradation.HARD, 3, np.linspace(-40, 40, 161), 0.5))
    smeared = np.asarray(seen_stops(Gradation.HARD, 3, np.linspace(-40, 40, 161), 25.0))
    assert np.abs(np.diff(smeared)).max() < np.abs(np.diff(hard)).max() / 3
    # Far from the edge nothing is smeared; at the edge half the pupil lets all through and half an eighth:
    # -log2((1 + 1/8)/2) = 0.83.
    assert (smeared[0], smeared[-1]) == pytest.approx((0, 3), abs=1e-9)
    assert seen_stops(Gradation.HARD, 3, 0.0, 300.0) == pytest.approx(-math.log2((1 + 1 / 8) / 2), abs=0.03)


# ISO 15469:2004, table 1: a and b of the gradation, c, d and e of the indicatrix, of each standard sky.
GRADATIONS = ((4.0, -0.70), (1.1, -0.8), (0.0, -1.0), (-1.0, -0.55), (-1.0, -0.32), (-1.0, -0.15))
INDICATRICES = ((0, -1.0, 0), (2, -1.5, 0.15), (5, -2.5, 0.30), (10, -3.0, 0.45), (16, -3.0, 0.30), (24, -2.8, 0.15))
STANDARD_SKIES = {
    1: (0, 0), 2: (0, 1), 3: (1, 0), 4: (1, 1), 5: (2, 0), 6: (2, 1), 7: (2, 2), 8: (2, 3), 9: (3, 1), 10: (3, 2),
    11: (3, 3), 12: (4, 3), 13: (4, 4), 14: (5, 4), 15: (5, 5),
}  # fmt: skip


@pytest.mark.parametrize("sky_type", STANDARD_SKIES)
def test_each_standard_sky_is_the_standards(sky_type):
    gradation, indicatrix = STANDARD_SKIES[sky_type]
    (a, b), (c, d, e) = GRADATIONS[gradation], INDICATRICES[indicatrix]

    def graded(zenith_deg):
        return 1 + a * math.exp(b / math.cos(math.radians(zenith_deg)))

    def scattered(angle_deg):
        angle = math.radians(angle_deg)
        return 1 + c * (math.exp(d * angle) - math.exp(d * math.pi / 2)) + e * math.cos(angle) ** 2

    # The sun at 30°, seen towards it at 50° and away from it at 20°: 20° and 130° from it.
    for view, turn, apart in ((50, 0, 20), (20, 180, 130)):
        wanted = graded(90 - view) * scattered(apart) / graded(0) / scattered(60)
        assert relative_luminance_cie2003(sky_type, 30, view, turn) == pytest.approx(wanted, rel=1e-9)

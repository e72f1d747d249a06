"""Depth of field, hyperfocal distance, blur and diffraction."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.optics import depth as d
from lucid_ridge.core.optics.conjugates import image_distance_mm, magnification
from lucid_ridge.core.planning.focus.optics import Focused, Optics


def test_handbook_example():
    # Thin-lens geometry; Ray, Applied Photographic Optics, ch. 22 (from memory): 50 mm, f/8, c = 0.030 mm at 3 m.
    assert d.near_limit_mm(50, 8, 0.030, 3000) == pytest.approx(2338, abs=1)
    assert d.far_limit_mm(50, 8, 0.030, 3000) == pytest.approx(4185, abs=1)
    assert d.hyperfocal_distance_mm(50, 8, 0.030) == pytest.approx(10467, abs=1)


def test_hyperfocal_of_a_wide_lens():
    # Thin-lens geometry: 24 mm at f/16, H = 24^2 / (16 · 0.030) + 24 = 1224 mm.
    assert d.hyperfocal_distance_mm(24, 16, 0.030) == pytest.approx(1224, abs=0.5)


def test_handbook_formulas_with_the_hyperfocal_distance_agree():
    # A second formula: near = u (H - f) / (H + u - 2f), far = u (H - f) / (H - u). Any handbook; exact for a thin lens.
    u = np.array([400.0, 900.0, 3000.0, 9000.0])
    h = d.hyperfocal_distance_mm(35, 11, 0.02)
    near, far = u * (h - 35) / (h + u - 70), u * (h - 35) / (h - u)
    assert d.near_limit_mm(35, 11, 0.02, u) == pytest.approx(near, rel=1e-9)
    # Beyond the hyperfocal distance the second formula turns negative where the first says infinity.
    assert d.far_limit_mm(35, 11, 0.02, u) == pytest.approx(np.where(u < h, far, np.inf), rel=1e-9)


def test_at_the_hyperfocal_distance_all_from_half_of_it_is_sharp():
    h = d.hyperfocal_distance_mm(24, 16, 0.030)
    assert d.far_limit_mm(24, 16, 0.030, h) == math.inf
    assert d.near_limit_mm(24, 16, 0.030, h) == pytest.approx(h / 2, rel=1e-9)


def test_focused_at_infinity_the_near_limit_lacks_the_focal_length():
    # f^2 / (N c), without + f: thin-lens geometry.
    assert d.near_limit_mm(24, 16, 0.030, math.inf) == pytest.approx(1200, rel=1e-12)
    assert d.far_limit_mm(24, 16, 0.030, math.inf) == math.inf


@given(st.floats(10, 400), st.floats(1.4, 32), st.floats(1.2, 500))
def test_blur_at_the_limits_is_the_circle_of_confusion(focal, f_number, ratio):
    coc, focus = 0.02, focal * ratio
    near, far = d.near_limit_mm(focal, f_number, coc, focus), d.far_limit_mm(focal, f_number, coc, focus)
    assert near <= focus <= far
    assert d.blur_diameter_mm(focal, f_number, focus, near) == pytest.approx(coc, rel=1e-5)
    if math.isfinite(far) and far < 1e9:
        assert d.blur_diameter_mm(focal, f_number, focus, far) == pytest.approx(coc, rel=1e-3)


def test_blur_of_the_background_by_similar_triangles():
    # A m |d - u| / d: thin-lens geometry. 100 mm f/4 at 1 m against infinity: 25 · (100/900) = 2.78 mm.
    assert d.blur_diameter_mm(100, 4, 1000, math.inf) == pytest.approx(25 * 100 / 900, rel=1e-12)
    distance, scale = 3000.0, 100 / 900
    assert d.blur_diameter_mm(100, 4, 1000, distance) == pytest.approx(25 * scale * 2000 / distance, rel=1e-12)
    assert d.blur_diameter_mm(100, 4, 1000, 1000) == 0
    # Focused at infinity: A f / d.
    assert d.blur_diameter_mm(100, 4, math.inf, 5000) == pytest.approx(25 * 100 / 5000, rel=1e-12)


def test_blur_broadcasts():
    result = d.blur_diameter_mm(50, 8, np.array([[1000.0], [2000.0]]), np.array([500.0, 1000.0, math.inf]))
    assert result.shape == (2, 3)
    assert result[0, 1] == 0


def test_a_pinhole_is_sharp_everywhere():
    # The pupil is no wider than the circle of confusion: nothing can be blurred more.
    assert d.near_limit_mm(10, 400, 0.03, 500) == pytest.approx(10)
    assert d.far_limit_mm(10, 400, 0.03, 500) == math.inf


def test_airy_disc():
    # Airy 1835; 10.7 µm at f/8 and 21.5 µm at f/16 in green light, any optics text.
    assert d.airy_diameter_mm(8) == pytest.approx(0.0107, abs=0.00005)
    assert d.airy_diameter_mm(np.array([8.0, 16.0]))[1] == pytest.approx(0.0215, abs=0.00005)


def test_balanced_focus():
    # 2ab/(a+b), and 2a for a far limit at infinity: thin-lens geometry.
    focus = d.blur_balanced_focus_mm(1000, 3000)
    assert focus == pytest.approx(1500)
    near, far = d.blur_diameter_mm(35, 8, focus, 1000), d.blur_diameter_mm(35, 8, focus, 3000)
    assert near == pytest.approx(far, rel=1e-9)
    assert d.blur_balanced_focus_mm(1000, math.inf) == pytest.approx(2000)


def test_best_single_aperture_agrees_with_hansma():
    # Hansma 1996 (from memory): N = sqrt(375 Δv). The minimum found numerically over our own sum of blurs lies at that
    # f-number within a sixth of a stop; what remains is the rounding of 375.
    focal, near, far = 90.0, 2000.0, 9000.0
    apertures = np.geomspace(4, 64, 401)
    focus = d.blur_balanced_focus_mm(near, far)
    scale = magnification(focal, focus)
    optics = [
        Optics(focal, float(number), float(number), float(number * (1 + scale)), 1.0, 0.03) for number in apertures
    ]
    blurs = [one.total_mm(Focused.at(one, [focus / 1000]).worst_defocus_mm(near / 1000, far / 1000)) for one in optics]
    spread = image_distance_mm(focal, near) - image_distance_mm(focal, far)
    assert abs(2 * math.log2(apertures[np.argmin(blurs)] / math.sqrt(375 * spread))) < 1 / 6


@pytest.mark.parametrize("bad", [0.0, -1.0, math.nan, math.inf])
def test_bad_lenses_are_refused(bad):
    for arguments in ((bad, 8, 0.03), (50, bad, 0.03), (50, 8, bad)):
        with pytest.raises(InputError):
            d.hyperfocal_distance_mm(*arguments)
        with pytest.raises(InputError):
            d.near_limit_mm(*arguments, 3000)

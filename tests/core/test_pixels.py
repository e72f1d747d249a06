"""Blur, shake and clipping told from rendered frames with known defects, and from pictures that another library
made.
"""

import numpy as np
import pytest
from PIL import Image, ImageDraw, ImageFilter
from scipy import ndimage

from lucid_ridge.core.taken.pixels import (
    BlurKind,
    blurs_of,
    clipping,
    frame_blur,
    patch_at,
)
from lucid_ridge.core.tones.exposed import Exposing, SceneRaster, disc_kernel, expose, motion_kernel, textured
from lucid_ridge.core.tones.response import linear_from_srgb

SIDE = 160
PLACES = np.array([[0.3, 0.3], [0.7, 0.3], [0.5, 0.6], [0.3, 0.75], [0.72, 0.72]])


def rendered(seed, focus_m=4.0, shake_px=0.0, shake_deg=0.0, ev=10.0, tint=(1.0, 1.0, 1.0)):
    """Return a frame of a wall 4 m away at 1/60 s, f/8, ISO 100: EV 12 is the mid-grey."""
    scene = SceneRaster(
        textured(np.full((SIDE, SIDE), ev), seed),
        np.full((SIDE, SIDE), 4.0),
        np.zeros((SIDE, SIDE)),
        np.broadcast_to(np.array(tint), (SIDE, SIDE, 3)),
    )
    return expose(scene, Exposing(8.0, 1 / 60, 100.0, 0.0, focus_m, 20.0, shake_px=shake_px, shake_deg=shake_deg), seed)


def test_the_screens_curve():
    # IEC 61966-2-1: 0.5 is 0.2140.
    assert linear_from_srgb(0.5) == pytest.approx(0.2140, abs=5e-5)
    assert linear_from_srgb(np.array([0.0, 0.04045, 1.0])) == pytest.approx([0.0, 0.0031308, 1.0], abs=1e-6)


def test_kernels_keep_the_light():
    assert motion_kernel(7.3, 30.0).sum() == pytest.approx(1)
    assert disc_kernel(4.6).sum() == pytest.approx(1)
    # Along its direction a streak is as long as specified.
    assert np.count_nonzero(motion_kernel(9.0, 0.0).sum(axis=0) > 0.01) in (9, 10, 11)


def test_known_defects_are_told_in_ninety_five_of_a_hundred():
    rng = np.random.default_rng(5)
    right = 0
    for number in range(100):
        kind = ("sharp", "defocus", "motion")[number % 3]
        angle = float(rng.uniform(0, 180))
        # 20 px per dioptre: half a dioptre off is a disc of ten points across.
        focus = 1 / (1 / 4.0 + float(rng.uniform(0.2, 0.5))) if kind == "defocus" else 4.0
        shake = float(rng.uniform(5, 14)) if kind == "motion" else 0.0
        found = frame_blur(rendered(number, focus, shake, angle, ev=float(rng.uniform(9.5, 12))).mean(axis=-1), PLACES)
        good = found.kind == kind
        if kind == "motion" and good:
            off = abs((found.direction_deg - angle + 90) % 180 - 90)
            good = off <= 20
        right += good
    assert right >= 95


@pytest.mark.parametrize("defect", ["none", "defocus", "motion"])
def test_pictures_of_another_library(defect):
    """Drawn and blurred by Pillow: strokes in all directions."""
    rng = np.random.default_rng(8)
    right = 0
    for _ in range(20):
        image = Image.new("L", (200, 200), 120)
        draw = ImageDraw.Draw(image)
        for _ in range(700):
            x, y, angle = rng.uniform(0, 200), rng.uniform(0, 200), rng.uniform(0, np.pi)
            draw.line((x, y, x + 9 * np.cos(angle), y + 9 * np.sin(angle)), fill=int(rng.integers(40, 230)), width=1)
        if defect == "defocus":
            image = image.filter(ImageFilter.GaussianBlur(2.5))
        grey = linear_from_srgb(np.asarray(image) / 255)
        if defect == "motion":
            grey = ndimage.uniform_filter1d(grey, 9, axis=1)
        found = frame_blur(grey, PLACES)
        right += found.kind == {"none": BlurKind.SHARP, "defocus": BlurKind.DEFOCUS, "motion": BlurKind.MOTION}[defect]
    assert right >= 19


def test_blur_is_measured_in_points():
    noise = np.random.default_rng(1).normal(0.0, 0.2, (128, 128))
    for sigma in (1.0, 2.0, 3.0):
        (found,) = blurs_of((0.4 + ndimage.gaussian_filter(noise, sigma))[None])
        assert found.sigma_px == pytest.approx(sigma, rel=0.25)


def test_where_nothing_is_to_be_seen_nothing_is_said():
    assert blurs_of(np.full((1, 64, 64), 0.5))[0].kind == BlurKind.UNKNOWN
    assert blurs_of(np.zeros((1, 64, 64)))[0].sigma_px is None
    assert frame_blur(np.full((200, 200), 0.2), PLACES).kind == BlurKind.UNKNOWN


def test_clipped_shares():
    bright = rendered(1, ev=17.0, tint=(1.2, 1.0, 0.8))
    found = clipping(bright)
    assert found.first == "red"
    assert found.red > found.green > found.blue
    assert clipping(np.zeros((4, 4, 3))).blocked == 1.0
    assert clipping(np.full((4, 4, 3), 0.5)) == clipping(np.full((9, 9, 3), 0.3))


def test_patches_stay_inside():
    picture = np.arange(100 * 80, dtype=float).reshape(100, 80)
    assert patch_at(picture, 0.0, 0.0).shape == (64, 64)
    assert patch_at(picture, 1.0, 1.0)[-1, -1] == picture[-1, -1]
    assert patch_at(picture[:20], 0.5, 0.5).shape == (20, 20)

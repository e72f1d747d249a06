"""Crops: pixels, reach and prints by hand."""

import pytest

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.framing.crop import ASPECTS, crop_frame

FULL = ((36.0, 24.0), (8256, 5504))


def test_two_hundred_as_three_hundred_keeps_two_thirds_of_the_width():
    # Common practice: 200 mm cropped to the view of 300 mm keeps 2/3 of the width, 4/9 of the pixels.
    crop = crop_frame(*FULL, 200, as_focal_mm=300)
    assert crop.width_share == pytest.approx(2 / 3)
    assert crop.pixel_share == pytest.approx(4 / 9)
    assert (crop.pixels_wide, crop.pixels_high) == (5504, 3669)
    assert crop.as_focal_mm == pytest.approx(300)


@pytest.mark.parametrize(
    ("aspect", "wide", "high"),
    [
        ("3:2", 8256, 5504),
        ("4:3", 7339, 5504),
        ("5:4", 6880, 5504),
        ("1:1", 5504, 5504),
        ("16:9", 8256, 4644),
        ("65:24", 8256, 3048),
    ],
)
def test_aspects_keep_the_largest_part(aspect, wide, high):
    # 5504 · 4/3 = 7338.7; 8256 · 9/16 = 4644; 8256 · 24/65 = 3048.4.
    crop = crop_frame(*FULL, 50, aspect=aspect)
    assert (crop.pixels_wide, crop.pixels_high) == (wide, high)
    assert crop.as_focal_mm == 50
    upright = crop_frame((24.0, 36.0), (5504, 8256), 50, aspect=aspect)
    assert (upright.pixels_wide, upright.pixels_high) == (high, wide)


def test_reach_and_aspect_together_and_no_crop_at_all():
    both = crop_frame(*FULL, 200, 300, "1:1")
    assert both.pixels_wide == both.pixels_high == 3669
    none = crop_frame(*FULL, 50)
    assert (none.width_share, none.height_share, none.pixels_wide) == (1, 1, 8256)


def test_prints():
    # 8256 pixels at 300 an inch: 27.52 inches of 2.54 cm.
    assert crop_frame(*FULL, 50).print_cm(300) == pytest.approx((69.9, 46.6), abs=0.05)
    assert crop_frame(*FULL, 50).print_cm(180)[0] == pytest.approx(69.9 * 300 / 180, abs=0.1)


def test_what_cannot_be_cropped_is_refused():
    with pytest.raises(InputError, match="shorter"):
        crop_frame(*FULL, 200, 150)
    with pytest.raises(InputError, match="aspect"):
        crop_frame(*FULL, 200, aspect="7:3")
    assert set(ASPECTS) == {"3:2", "4:3", "5:4", "1:1", "16:9", "65:24"}


def test_a_free_aspect_has_the_ratio_asked_for():
    # 2:1 out of 8256 x 5504: 8256 x 4128.
    crop = crop_frame(*FULL, 50, aspect="free", ratio=2.0)
    assert (crop.pixels_wide, crop.pixels_high) == (8256, 4128)
    with pytest.raises(InputError, match="width over its height"):
        crop_frame(*FULL, 50, aspect="free")


def test_a_crop_lies_where_it_is_put_and_never_outside():
    crop = crop_frame(*FULL, 50, as_focal_mm=100, middle=(0.4, 0.6))
    assert crop.window == pytest.approx((0.15, 0.35, 0.5, 0.5))
    corner = crop_frame(*FULL, 50, as_focal_mm=100, middle=(0.0, 1.0))
    assert corner.window == pytest.approx((0.0, 0.5, 0.5, 0.5))
    assert crop_frame(*FULL, 50).window == (0, 0, 1, 1)

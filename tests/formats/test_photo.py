"""Photographs as backdrops: their field of view from EXIF, and files that are none."""

import io
import math

import pytest
from PIL import ExifTags, Image
from PIL.TiffImagePlugin import IFDRational

from lucid_ridge.formats.errors import FormatError
from lucid_ridge.formats.photo import read_photo


def photo(size=(600, 400), exif=None, kind="JPEG", orientation=None):
    image = Image.new("RGB", size, (90, 90, 90))
    tags = Image.Exif()
    if orientation:
        tags[ExifTags.Base.Orientation] = orientation
    for name, value in (exif or {}).items():
        tags.get_ifd(ExifTags.IFD.Exif)[getattr(ExifTags.Base, name)] = value
    out = io.BytesIO()
    image.save(out, kind, exif=tags)
    return out.getvalue()


def test_the_field_follows_from_the_equivalent_focal_length():
    # 12 mm as 24 mm on 36 × 24 mm: half the diagonal, 21.63 mm; of a 3:2 picture 18 × 12 mm.
    found = read_photo(photo(exif={"FocalLength": 12.0, "FocalLengthIn35mmFilm": 24}))
    assert found.focal_mm == 12
    assert (found.sensor_width_mm, found.sensor_height_mm) == (pytest.approx(18, abs=0.01), pytest.approx(12, abs=0.01))
    assert "as 24 mm" in found.source
    field = 2 * math.degrees(math.atan(found.sensor_width_mm / 2 / found.focal_mm))
    # 24 mm on 36 mm: 73.7° (handbook tables).
    assert field == pytest.approx(73.7, abs=0.05)


def test_the_sensor_follows_from_its_resolution():
    # 600 pixels at 500 to the inch are 30.48 mm.
    found = read_photo(photo(exif={"FocalLength": 50.0, "FocalPlaneXResolution": 500.0, "FocalPlaneResolutionUnit": 2}))
    assert found.sensor_width_mm == pytest.approx(600 / 500 * 25.4)


def test_a_turned_picture_stands_and_so_does_its_sensor():
    found = read_photo(photo(exif={"FocalLength": 24.0, "FocalLengthIn35mmFilm": 24}, orientation=6))
    assert (found.pixels_wide, found.pixels_high) == (400, 600)
    assert found.sensor_width_mm == pytest.approx(24, abs=0.01)


def test_odd_exif_says_nothing():
    # 1/0 reads as NaN or infinity: neither is a focal length.
    assert read_photo(photo()).focal_mm is None
    assert read_photo(photo(exif={"FocalLength": IFDRational(0, 1)})).focal_mm is None
    only = read_photo(photo(exif={"FocalLength": 35.0}))
    assert (only.focal_mm, only.sensor_width_mm) == (35, None)


def test_what_is_shown_is_small_and_tells_nothing():
    found = read_photo(photo((4000, 3000), {"FocalLength": 24.0, "LensModel": "secret"}))
    shown = Image.open(io.BytesIO(found.content))
    assert max(shown.size) == 1600
    assert len(shown.getexif()) == 0
    assert (found.pixels_wide, found.pixels_high) == (4000, 3000)
    assert read_photo(photo(kind="PNG")).pixels_wide == 600


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"", "empty"),
        (b"GIF89a not here", "not a picture"),
        (b"<svg xmlns='http://www.w3.org/2000/svg'/>", "not a picture"),
        (photo()[:900], "damaged"),
    ],
)
def test_files_that_are_no_photographs_are_refused(content, words):
    with pytest.raises(FormatError, match=words):
        read_photo(content)

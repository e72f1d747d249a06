"""Files from a camera: what is read from JPEG and DNG, those of other writers, and those that are broken or hostile."""

import io
from datetime import datetime

import numpy as np
import pytest
import rawpy
import tifffile
from PIL import ExifTags, Image, ImageOps
from PIL.TiffImagePlugin import IFDRational

from lucid_ridge.core.field.cameras import FrameOrder
from lucid_ridge.core.taken.pixels import clipping
from lucid_ridge.formats.camera_files import read_camera_file
from lucid_ridge.formats.errors import FormatError
from lucid_ridge.formats.photo import read_photo
from lucid_ridge.standins.camera import write_dng, write_jpeg

ORDER = FrameOrder(11.0, 1 / 60, 100.0, 24.0, 2.0)
CLOCK = datetime(2026, 6, 1, 4, 12, 33, 250_000)


def ramp(high=240, wide=320):
    """Return linear light from dark to saturation, red brighter than the others."""
    level = np.linspace(0.01, 1.2, wide)[None, :, None] * np.array([1.0, 0.8, 0.6])
    return np.clip(np.broadcast_to(level, (high, wide, 3)), 0, 1)


def test_a_jpeg_tells_its_settings_and_its_light():
    found = read_camera_file("A.JPG", write_jpeg(ramp(), ORDER, CLOCK, "Full-frame body"))
    assert (found.f_number, found.shutter_s, found.iso, found.focal_mm) == (11.0, pytest.approx(1 / 60), 100.0, 24.0)
    assert found.clock == CLOCK
    assert found.model == "Full-frame body"
    assert not found.is_linear
    assert found.picture[120, 160] == pytest.approx(ramp()[120, 160], rel=0.03, abs=0.01)
    assert Image.open(io.BytesIO(found.preview)).format == "JPEG"


def test_a_dng_that_libraw_reads_is_linear():
    content = write_dng(ramp(), ORDER, CLOCK, "Full-frame body")
    with rawpy.imread(io.BytesIO(content)) as raw:
        assert raw.raw_type == rawpy.RawType.Flat
        assert raw.white_level == 15_871
    found = read_camera_file("a.dng", content)
    assert found.is_linear
    assert (found.f_number, found.shutter_s, found.iso, found.focal_mm) == (11.0, pytest.approx(1 / 60), 100.0, 24.0)
    assert found.clock == CLOCK.replace(microsecond=0)
    middle = found.picture[60, 80]
    assert middle == pytest.approx(ramp()[120, 160], rel=0.02)


def test_red_clips_first_and_by_how_much():
    found = clipping(read_camera_file("a.dng", write_dng(ramp(), ORDER, CLOCK, "b")).picture)
    # Of a ramp up to 1.2 all over 0.985 is clipped: (1.2 − 0.985) / 1.19 of its width in red, nothing in blue.
    assert found.red == pytest.approx(0.215 / 1.19, abs=0.01)
    assert found.blue == 0.0
    assert found.first == "red"


def test_files_of_other_writers():
    grey = np.full((60, 80, 3), 188, dtype=np.uint8)
    plain = io.BytesIO()
    Image.fromarray(grey).save(plain, "JPEG")
    found = read_camera_file("x.jpeg", plain.getvalue())
    assert found.clock is None
    assert found.shutter_s is None
    # IEC 61966-2-1: 188 of 255 is half the light.
    assert found.picture.mean() == pytest.approx(0.5, abs=0.01)
    tiff = io.BytesIO()
    tifffile.imwrite(tiff, grey, photometric="rgb", metadata=None)
    assert read_camera_file("x.tif", tiff.getvalue()).picture.mean() == pytest.approx(0.5, abs=0.01)
    # Grey of 16 bits: the same tone is 188 × 257 of 65 535.
    deep = io.BytesIO()
    tifffile.imwrite(deep, np.full((60, 80), 188 * 257, dtype=np.uint16), photometric="minisblack", metadata=None)
    assert read_camera_file("x.tif", deep.getvalue()).picture.mean() == pytest.approx(0.5, abs=0.01)
    with Image.open(io.BytesIO(read_photo(deep.getvalue()).content)) as shown:
        assert np.asarray(shown.convert("L")).mean() == pytest.approx(188, abs=1)


def test_a_picture_that_lies_on_its_side_is_turned():
    exif = Image.Exif()
    exif[ExifTags.Base.Orientation] = 6
    out = io.BytesIO()
    Image.new("RGB", (80, 40)).save(out, "JPEG", exif=exif)
    found = read_camera_file("x.jpg", out.getvalue())
    assert (found.pixels_wide, found.pixels_high) == (40, 80)


@pytest.mark.parametrize("orientation", range(1, 9))
def test_fine_patches_lie_where_the_upright_picture_has_them(orientation):
    grey = np.zeros((300, 400), dtype=np.uint8)
    grey[40:100, 300:360] = 255
    exif = Image.Exif()
    exif[ExifTags.Base.Orientation] = orientation
    out = io.BytesIO()
    Image.fromarray(grey).save(out, "JPEG", exif=exif, quality=95)
    found = read_camera_file("x.jpg", out.getvalue())
    upright = np.asarray(ImageOps.exif_transpose(Image.open(io.BytesIO(out.getvalue()))))
    rows, columns = np.nonzero(upright > 128)
    x, y = (columns.mean() + 0.5) / upright.shape[1], (rows.mean() + 0.5) / upright.shape[0]
    assert (found.fine.wide, found.fine.high) == (upright.shape[1], upright.shape[0])
    assert found.fine.patch(x, y, 40).mean() == pytest.approx(1.0, abs=0.02)
    assert found.picture[int(y * upright.shape[0]), int(x * upright.shape[1])] == pytest.approx(1.0, abs=0.02)


def test_a_heif_is_read_like_a_jpeg():
    exif = Image.Exif()
    details = exif.get_ifd(ExifTags.IFD.Exif)
    details[ExifTags.Base.DateTimeOriginal], details[ExifTags.Base.ExposureTime] = (
        "2026:06:01 04:12:33",
        IFDRational(1, 2),
    )
    out = io.BytesIO()
    Image.new("RGB", (80, 60), (188, 188, 188)).save(out, "HEIF", exif=exif.tobytes())
    found = read_camera_file("x.heic", out.getvalue())
    assert (found.clock, found.shutter_s) == (datetime(2026, 6, 1, 4, 12, 33), 0.5)
    # IEC 61966-2-1: 188 of 255 is half the light.
    assert found.picture.mean() == pytest.approx(0.5, abs=0.02)
    with pytest.raises(FormatError):
        read_camera_file("x.heic", out.getvalue()[:200])


@pytest.mark.parametrize(
    ("said", "minutes"), [("+05:45", 345), ("-03:30", -210), ("Z", None), ("+25:00", None), ("", None)]
)
def test_how_far_a_clock_is_ahead_is_read(said, minutes):
    exif = Image.Exif()
    exif.get_ifd(ExifTags.IFD.Exif)[ExifTags.Base.OffsetTimeOriginal] = said
    out = io.BytesIO()
    Image.new("RGB", (40, 40)).save(out, "JPEG", exif=exif)
    assert read_camera_file("x.jpg", out.getvalue()).utc_offset_min == minutes


def test_giants_are_halved_as_they_are_decoded_or_refused():
    out = io.BytesIO()
    Image.new("L", (9000, 6000), 188).save(out, "JPEG")
    found = read_camera_file("x.jpg", out.getvalue())
    assert (found.pixels_wide, found.fine.wide) == (9000, 4500)
    assert found.picture.mean() == pytest.approx(0.5, abs=0.01)
    tiff = io.BytesIO()
    Image.new("1", (9000, 8000)).save(tiff, "TIFF", compression="group4")
    with pytest.raises(FormatError, match="send its JPEG"):
        read_camera_file("x.tif", tiff.getvalue())


def test_large_files_are_judged_small():
    out = io.BytesIO()
    Image.new("RGB", (5000, 2500), (10, 200, 30)).save(out, "JPEG")
    assert max(read_camera_file("x.jpg", out.getvalue()).picture.shape) <= 2400


JPEG = write_jpeg(ramp(), ORDER, CLOCK, "b")
DNG = write_dng(ramp(), ORDER, CLOCK, "b")


@pytest.mark.parametrize(
    ("name", "content", "words"),
    [
        ("a.jpg", b"", "empty"),
        ("a.jpg", b"\xff\xd8\xff" + b"\0" * 100, "picture"),
        ("a.jpg", JPEG[: len(JPEG) // 3], "damaged"),
        ("a.dng", DNG[:300], "raw file"),
        ("a.cr2", b"II*\0" + b"\xff" * 4000, "raw file"),
        ("a.dng", JPEG, "raw file"),
        ("a.exe", JPEG, "no kind of file"),
        ("noending", JPEG, "no kind of file"),
        ("a.jpg", b"<svg xmlns='x'/>", "no picture"),
    ],
)
def test_broken_and_hostile_files_are_refused_singly(name, content, words):
    with pytest.raises(FormatError, match=words):
        read_camera_file(name, content)


def test_odd_settings_are_left_out_not_believed():
    exif = Image.Exif()
    details = exif.get_ifd(ExifTags.IFD.Exif)
    details[ExifTags.Base.DateTimeOriginal] = "2026:13:45 99:00:00"
    details[ExifTags.Base.FNumber] = IFDRational(0, 0)
    details[ExifTags.Base.ExposureTime] = IFDRational(1, 0)
    out = io.BytesIO()
    Image.new("RGB", (40, 40)).save(out, "JPEG", exif=exif)
    found = read_camera_file("x.jpg", out.getvalue())
    assert (found.clock, found.f_number, found.shutter_s) == (None, None, None)

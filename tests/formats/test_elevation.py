"""Elevation grids in three formats, made by hand or by rasterio, and files that must be refused."""

import numpy as np
import pytest
import rasterio
from rasterio.io import MemoryFile
from rasterio.transform import from_origin

from lucid_ridge.formats.elevation import read_elevation
from lucid_ridge.formats.errors import FormatError


def _hgt(points=1201):
    # SRTM: big-endian 16-bit metres, rows from the north, points on whole degrees at both edges, -32768 where unknown.
    rows, columns = np.mgrid[0:points, 0:points]
    heights = (1000 - rows * 0.5 + columns * 0.1).astype(">i2")
    heights[3, 4] = -32768
    return heights


def test_an_srtm_tile():
    heights = _hgt()
    grid = read_elevation("N54W004.hgt", heights.tobytes())
    assert (grid.north_deg, grid.west_deg) == (pytest.approx(55), pytest.approx(-4))
    assert (grid.south_deg, grid.east_deg) == (pytest.approx(54), pytest.approx(-3))
    assert grid.height_m(55, -4) == 1000
    assert np.isnan(grid.heights_m[3, 4])
    assert grid.height_m(54.5, -3.5) == pytest.approx(1000 - 600 * 0.5 + 600 * 0.1, abs=1.01)
    assert np.isnan(grid.height_m(53.9, -3.5))


def test_an_ascii_grid():
    text = b"ncols 3\nnrows 3\nxllcorner -3.2\nyllcorner 54.49\ncellsize 0.01\nNODATA_value -9999\n1 2 3\n4 5 6\n7 8 -9999\n"
    grid = read_elevation("fell.asc", text)
    # The corner is the cell's, heights stand in its middle.
    assert grid.height_m(54.515, -3.195) == pytest.approx(1)
    assert grid.height_m(54.505, -3.195) == pytest.approx(4)
    assert grid.height_m(54.51, -3.19) == pytest.approx(3)
    assert np.isnan(grid.heights_m[2, 2])
    assert np.isnan(grid.height_m(54.4951, -3.1751))


def _geotiff(crs, transform, heights):
    with MemoryFile() as memory:
        with memory.open(
            driver="GTiff",
            height=heights.shape[0],
            width=heights.shape[1],
            count=1,
            dtype="float32",
            crs=crs,
            transform=transform,
        ) as target:
            target.write(heights, 1)
        return memory.read()


def test_a_geotiff_in_degrees_and_one_in_metres():
    heights = np.fromfunction(lambda row, column: 100.0 + column, (40, 50), dtype=np.float32).astype(np.float32)
    degrees = read_elevation("a.tif", _geotiff("EPSG:4326", from_origin(-3.3, 54.6, 0.001, 0.001), heights))
    assert degrees.height_m(54.5995, -3.2995) == pytest.approx(100)
    metres = read_elevation("a.tiff", _geotiff("EPSG:32630", from_origin(486000, 6043000, 30, 30), heights))
    # UTM 30N: rasterio's own transformation says where the middle of a cell lies.
    longitude, latitude = rasterio.warp.transform(
        "EPSG:32630", "EPSG:4326", [486000 + 30 * 25.5], [6043000 - 30 * 20.5]
    )
    assert metres.height_m(latitude[0], longitude[0]) == pytest.approx(125, abs=0.5)


@pytest.mark.parametrize(
    ("name", "content", "words"),
    [
        ("N54W004.hgt", b"", "empty"),
        ("N54W004.hgt", b"x" * 1000, "cannot be read"),
        ("tile.hgt", b"x" * 1000, "placed by its name"),
        ("a.asc", b"hello", "cannot be read"),
        ("a.asc", b"ncols 2\nnrows 2\nxllcorner 486000\nyllcorner 6042000\ncellsize 30\n1 2\n3 4\n", "not degrees"),
        ("a.asc", b"ncols 1\nnrows 2\nxllcorner 1\nyllcorner 2\ncellsize 0.1\n1\n3\n", "two rows"),
        (
            "a.asc",
            b"ncols 2\nnrows 2\nxllcorner 1\nyllcorner 2\ncellsize 0.1\n-9999 -9999\n-9999 -9999\n",
            "no heights",
        ),
        ("a.asc", b"ncols 99999\nnrows 99999\nxllcorner 1\nyllcorner 2\ncellsize 0.0001\n1 2\n", "at most 40 million"),
        ("a.tif", b"II*\0garbage", "cannot be read"),
        ("a.vrt", b"<VRTDataset/>", "does not end"),
        ("../../etc/N54W004.hgt", b"short", "cannot be read"),
    ],
    ids=lambda value: value if isinstance(value, str) else "",
)
def test_grids_that_cannot_be_taken_are_refused(name, content, words):
    with pytest.raises(FormatError) as caught:
        read_elevation(name, content)
    assert words in caught.value.message

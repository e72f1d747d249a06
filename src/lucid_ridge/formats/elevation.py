"""Elevation grids: SRTM .hgt, ESRI ASCII grid and GeoTIFF, all read by rasterio (GDAL)."""

from __future__ import annotations

import re
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

import numpy as np

from ..core.light.terrain import ElevationGrid
from .errors import FormatError

LARGEST_BYTES = 120_000_000
MOST_POINTS = 40_000_000
# About a centimetre on the ground.
SMALLEST_STEP_DEG = 1e-7
_DRIVERS = {"hgt": "SRTMHGT", "asc": "AAIGrid", "tif": "GTiff", "tiff": "GTiff"}
_HGT_NAME = re.compile(r"^[NS]\d{2}[EW]\d{3}\.hgt$", re.IGNORECASE)


def read_elevation(file_name: str, content: bytes) -> ElevationGrid:
    """Return a grid of heights [m] on WGS 84 latitude and longitude; other projections of a GeoTIFF are transformed.

    Raises FormatError for an unknown extension, unreadable content, a grid without heights or with an unknown
    projection, or more than 40 million points.
    """
    name = file_name.replace("\\", "/").rpartition("/")[2]
    ending = name.rpartition(".")[2].lower()
    if ending not in _DRIVERS:
        raise FormatError(f"“{name[:80]}” does not end in .hgt, .asc, .tif or .tiff.")
    if not content:
        raise FormatError("The file is empty.")
    if len(content) > LARGEST_BYTES:
        raise FormatError(f"The file has {len(content) / 1e6:.0f} MB; at most {LARGEST_BYTES / 1e6:.0f} MB are read.")
    if ending == "hgt" and not _names_a_place(name):
        raise FormatError(
            "An .hgt file is placed by its name, such as N54W004.hgt: give it back the name it came with."
        )
    with _opened(
        name.upper().replace(".HGT", ".hgt") if ending == "hgt" else f"grid.{ending}", content, _DRIVERS[ending]
    ) as source:
        return _grid(source, ending)


@contextmanager
def _opened(name: str, content: bytes, driver: str) -> Iterator[Any]:
    # Imported when first needed: GDAL is large.
    import rasterio
    from rasterio.errors import RasterioError
    from rasterio.io import MemoryFile

    try:
        # One file in memory, one driver: it can reach nothing else on disk or network.
        with (
            rasterio.Env(GDAL_DISABLE_READDIR_ON_OPEN="EMPTY_DIR"),
            MemoryFile(content, filename=name) as memory,
            memory.open(driver=driver) as source,
        ):
            yield source
    except FormatError:
        raise
    except (RasterioError, ValueError, MemoryError, OSError, IndexError) as error:
        raise FormatError(f"The grid cannot be read as {driver}: {str(error)[:120]}") from None


def _grid(source: Any, ending: str) -> ElevationGrid:
    if source.width * source.height > MOST_POINTS:
        raise FormatError(
            f"The grid has {source.width} × {source.height} points; at most {MOST_POINTS / 1e6:.0f} million "
            "are read. Cut it down."
        )
    if source.width < 2 or source.height < 2:
        raise FormatError("A grid needs at least two rows and two columns.")
    transform = source.transform
    if source.crs is not None and not source.crs.is_geographic:
        return _reprojected(source)
    west, north = transform.c, transform.f
    if ending == "asc" and not (-181 <= west <= 181 and -91 <= north <= 91 and abs(transform.a) < 1):
        raise FormatError(
            "The grid's coordinates are not degrees. An ASCII grid does not say its projection: give it in "
            "degrees, or as a GeoTIFF."
        )
    if transform.b or transform.d or transform.a <= 0 or transform.e >= 0:
        raise FormatError("The grid is turned or upside down; a grid with north at the top is needed.")
    heights = _heights(source)
    # Rasters give the corner of a cell; heights are at its middle.
    return _checked(ElevationGrid(heights, north + transform.e / 2, west + transform.a / 2, -transform.e, transform.a))


def _heights(source: Any) -> Any:
    values = source.read(1, masked=True).astype(np.float32)
    filled = np.where(np.ma.getmaskarray(values), np.nan, values.data)
    # Voids are also written as large negative numbers without being declared.
    return np.where((filled < -600) | (filled > 9000), np.nan, filled).astype(np.float32)


def _reprojected(source: Any) -> ElevationGrid:
    from rasterio.warp import Resampling, calculate_default_transform, reproject

    transform, width, height = calculate_default_transform(
        source.crs, "EPSG:4326", source.width, source.height, *source.bounds
    )
    if width * height > MOST_POINTS:
        raise FormatError(
            f"Turned into degrees the grid has {width} × {height} points; at most {MOST_POINTS / 1e6:.0f} "
            "million are read."
        )
    target = np.full((height, width), np.nan, dtype=np.float32)
    reproject(
        _heights(source),
        target,
        src_transform=source.transform,
        src_crs=source.crs,
        dst_transform=transform,
        dst_crs="EPSG:4326",
        src_nodata=np.nan,
        dst_nodata=np.nan,
        resampling=Resampling.bilinear,
    )
    return _checked(
        ElevationGrid(target, transform.f + transform.e / 2, transform.c + transform.a / 2, -transform.e, transform.a)
    )


def _names_a_place(name: str) -> bool:
    """Return whether an .hgt name, N54W004, is a square on Earth."""
    return bool(_HGT_NAME.match(name)) and int(name[1:3]) <= 90 and int(name[4:7]) <= 180


def _checked(grid: ElevationGrid) -> ElevationGrid:
    for step in (grid.step_lat_deg, grid.step_lon_deg):
        if not SMALLEST_STEP_DEG <= step <= 10:
            raise FormatError(f"The grid's points lie {step:g}° apart; from {SMALLEST_STEP_DEG:g} to 10° can be used.")
    rows, columns = grid.heights_m.shape
    south, east = grid.north_deg - (rows - 1) * grid.step_lat_deg, grid.west_deg + (columns - 1) * grid.step_lon_deg
    if not (south >= -90.5 and grid.north_deg <= 90.5 and grid.west_deg >= -180.5 and east <= 360.5):
        raise FormatError(
            f"The grid reaches from {south:g} to {grid.north_deg:g}° north and {grid.west_deg:g} to {east:g}° "
            "east: that is no place on Earth."
        )
    if not np.isfinite(grid.heights_m).any():
        raise FormatError("The grid holds no heights between -600 and 9000 m.")
    return grid

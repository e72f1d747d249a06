"""Chooses the reader and writer of a file."""

from __future__ import annotations

from collections.abc import Callable

from .csv_points import read_csv, write_csv
from .errors import FormatError
from .geodata import GeoData, printable
from .geojson import read_geojson, write_geojson
from .gpx import read_gpx, write_gpx
from .kml import read_kml, write_kml

_READERS: dict[str, Callable[[bytes], GeoData]] = {
    "gpx": read_gpx,
    "kml": read_kml,
    "geojson": read_geojson,
    "csv": read_csv,
}
_WRITERS: dict[str, Callable[[GeoData], bytes]] = {
    "gpx": write_gpx,
    "kml": write_kml,
    "geojson": write_geojson,
    "csv": write_csv,
}
MEDIA_TYPES = {
    "gpx": "application/gpx+xml",
    "kml": "application/xml",
    "geojson": "application/geo+json",
    "csv": "text/csv; charset=utf-8",
}


def read_places(file_name: str, content: bytes) -> GeoData:
    """Return the content of a file, by its extension. Raises FormatError for an unknown one or unreadable content."""
    ending = file_name.rpartition(".")[2].lower()
    ending = "geojson" if ending == "json" else ending
    if ending not in _READERS:
        raise FormatError(f"“{file_name[:80]}” does not end in .gpx, .kml, .geojson, .json or .csv.")
    return _READERS[ending](content)


def write_places(ending: str, data: GeoData) -> bytes:
    """Return the file of a format: gpx, kml, geojson or csv."""
    return _WRITERS[ending](printable(data))

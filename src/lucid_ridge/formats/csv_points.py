"""Points as a table: name, latitude, longitude, elevation, notes."""

from __future__ import annotations

import csv
import io
import re

from .errors import FormatError
from .geodata import GeoData, GeoPoint, checked, number
from .text import as_text

# Existing apostrophes are counted, so that a text with one keeps it.
_LIKE_A_FORMULA = re.compile(r"'*[=+\-@\t\r]")
_DECIMAL_COMMA = re.compile(r"[+-]?\d+,\d+")
_NAMES = {
    "name": ("name", "title"),
    "latitude": ("latitude", "lat", "latitude_deg", "y"),
    "longitude": ("longitude", "lon", "lng", "long", "longitude_deg", "x"),
    "elevation": ("elevation", "ele", "elevation_m", "altitude", "height"),
    "location": ("location", "place"),
    "notes": ("notes", "note", "description", "comment"),
}


def read_csv(content: bytes) -> GeoData:
    """Return the points of a table with a header; separated by commas, semicolons or tabs. Raises FormatError."""
    rows = read_table(content)
    columns = {key: next((name for name in names if name in rows[0]), None) for key, names in _NAMES.items()}
    if columns["latitude"] is None or columns["longitude"] is None:
        raise FormatError(f"The table needs columns latitude and longitude; it has {', '.join(list(rows[0])[:8])}.")
    points = []
    for row, line in zip(rows, range(2, len(rows) + 2), strict=True):
        values = {key: (row.get(column) or "").strip() if column else "" for key, column in columns.items()}
        if not any(values.values()):
            continue
        try:
            points.append(
                GeoPoint(
                    _unguarded(values["name"]),
                    number(_decimal(values["latitude"]), "latitude"),
                    number(_decimal(values["longitude"]), "longitude"),
                    number(_decimal(values["elevation"]), "number of metres") if values["elevation"] else None,
                    _unguarded(values["notes"]),
                    _unguarded(values["location"]),
                )
            )
        except FormatError as error:
            raise FormatError(f"Line {line}: {error.message}") from None
    return checked(GeoData(tuple(points)))


def _decimal(text: str) -> str:
    """Return a number's text with a decimal point in place of a comma."""
    return text.replace(",", ".") if _DECIMAL_COMMA.fullmatch(text) else text


def write_csv(data: GeoData) -> bytes:
    """Return the points as a table, without tracks."""
    text = io.StringIO()
    table = csv.writer(text, lineterminator="\n")
    table.writerow(["name", "latitude", "longitude", "elevation", "notes", "location"])
    for point in data.points:
        height = "" if point.elevation_m is None else f"{point.elevation_m:.2f}"
        place = [f"{point.latitude_deg:.7f}", f"{point.longitude_deg:.7f}", height]
        table.writerow([guarded(point.name), *place, guarded(point.notes), guarded(point.group)])
    return text.getvalue().encode()


def guarded(text: str) -> str:
    """Return a text that a spreadsheet does not take for a formula: with an apostrophe before it (common practice)."""
    return f"'{text}" if _LIKE_A_FORMULA.match(text) else text


def _unguarded(text: str) -> str:
    return text[1:] if text.startswith("'") and _LIKE_A_FORMULA.match(text) else text


def read_table(content: bytes) -> list[dict[str, str]]:
    """Return a table's rows by its lower-case header. Raises FormatError without rows or for ragged ones."""
    text = as_text(content)
    heading = text.lstrip().splitlines()[0]
    delimiter = max(",;\t", key=heading.count)
    try:
        lines = list(csv.reader(io.StringIO(text.lstrip()), delimiter=delimiter, strict=True))
    except csv.Error as error:
        raise FormatError(f"The table cannot be read: {error}.") from None
    names = [name.strip().lower() for name in lines[0]]
    rows = [line for line in lines[1:] if any(cell.strip() for cell in line)]
    if not rows:
        raise FormatError("The table has no rows below its heading.")
    if len(names) < 2:
        raise FormatError("The table needs a heading with columns parted by commas, semicolons or tabs.")
    for index, row in enumerate(rows, start=2):
        if len(row) > len(names):
            raise FormatError(f"Line {index} has {len(row)} columns, the heading {len(names)}.")
    return [dict(zip(names, row + [""] * (len(names) - len(row)), strict=True)) for row in rows]

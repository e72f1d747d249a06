"""Reads coordinates: decimal degrees, degrees-minutes-seconds, UTM, MGRS."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass

import mgrs

from ..core.errors import InputError

_EXAMPLES = "54.531, -3.214 or 54°31′52″N 3°12′50″W or 30U 486150 6042300 or 30U VF 86150 42300"
_NUMBER = r"\d+(?:[.,]\d+)?"
_PART = re.compile(
    rf"\s*(?P<sign>[-+−])?\s*(?P<lead>[NSEW])?\s*(?P<deg>{_NUMBER})\s*(?:°|º|d|\s)?\s*"
    rf"(?:(?P<min>{_NUMBER})\s*(?:['′’m]|\s)?\s*)?(?:(?P<sec>{_NUMBER})\s*(?:[\"″”s]|'')?\s*)?(?P<trail>[NSEW])?\s*",
    re.IGNORECASE,
)
_UTM = re.compile(
    r"^\s*(?P<zone>\d{1,2})\s*(?P<band>[C-HJ-NP-X])\s+(?P<east>\d{5,7}(?:\.\d+)?)\s*m?\s*E?[\s,]+(?P<north>\d{1,8}(?:\.\d+)?)\s*m?\s*N?\s*$",
    re.IGNORECASE,
)
# Half a million metres stand on the middle of a zone; north of the equator northings begin with 0, south of it they end
# with ten million.
_EASTINGS_M, _NORTHINGS_M = (100_000, 999_999), (0, 10_000_000)
# In a link or a message: two decimal figures with at least three places, one behind the other.
_IN_TEXT = re.compile(r"([-−]?\d{1,2}\.\d{3,})\s*(?:,|%2C|/|\s)\s*([-−]?\d{1,3}\.\d{3,})", re.IGNORECASE)
_MGRS = re.compile(r"^\s*\d{1,2}\s*[C-HJ-NP-X]\s*[A-HJ-NP-Z]{2}\s*(\d[\d\s]*)?$", re.IGNORECASE)


@dataclass(frozen=True)
class Coordinates:
    """latitude_deg -90..90, longitude_deg -180..180, WGS 84; notation: in which they were written."""

    latitude_deg: float
    longitude_deg: float
    notation: str


def parse_coordinates(text: str) -> Coordinates:
    """Return the position of a text, or the first one in a link or a message. Raises InputError with examples.

    Latitude comes first unless letters say otherwise. An MGRS square means its middle.
    """
    cleaned = text.strip()
    if not cleaned:
        raise InputError("coordinates", f"Write coordinates, such as {_EXAMPLES}.")
    if _UTM.match(cleaned):
        return _from_utm(cleaned)
    if _MGRS.match(cleaned):
        return _from_mgrs(cleaned)
    try:
        return _from_degrees(cleaned)
    except InputError:
        if (within := _IN_TEXT.search(cleaned)) is None:
            raise
        latitude, longitude = (float(figure.replace("−", "-")) for figure in within.groups())
        return _checked(latitude, longitude, "decimal degrees")


def _from_utm(text: str) -> Coordinates:
    from rasterio.warp import transform

    found = _UTM.match(text)
    assert found is not None
    east, north, zone = float(found["east"]), float(found["north"]), int(found["zone"])
    _within("zone", zone, (1, 60), text)
    _within("easting", east, _EASTINGS_M, text)
    _within("northing", north, _NORTHINGS_M, text)
    # EPSG 32601 to 32660 are the zones north of the equator on WGS 84, 32701 to 32760 those south of it.
    grid = (32600 if found["band"].upper() >= "N" else 32700) + zone
    (longitude,), (latitude,) = transform(f"EPSG:{grid}", "EPSG:4326", [east], [north])
    return _checked(latitude, longitude, "UTM")


def _within(name: str, value: float, limits: tuple[int, int], text: str) -> None:
    least, most = limits
    if not least <= value <= most:
        raise InputError("coordinates", f"“{text}” is not a place in UTM: its {name} is outside {least} to {most}.")


def _from_mgrs(text: str) -> Coordinates:
    squeezed = re.sub(r"\s+", "", text).upper()
    digits = re.sub(r"^\d{1,2}[A-Z]{3}", "", squeezed)
    if len(digits) % 2 or len(digits) > 10:
        raise InputError("coordinates", f"“{text}” needs as many digits east as north, at most five each.")
    try:
        # The library returns a square's south-western corner; its middle is given to the metre instead.
        latitude, longitude = mgrs.MGRS().toLatLon(squeezed if len(digits) == 10 else _middle(squeezed, digits))
    except mgrs.core.MGRSError:
        raise InputError("coordinates", f"“{text}” is not a square of the MGRS grid.") from None
    return _checked(float(latitude), float(longitude), "MGRS")


def _middle(squeezed: str, digits: str) -> str:
    half = len(digits) // 2
    pad = "5" + "0" * (4 - half)
    return squeezed[: len(squeezed) - len(digits)] + digits[:half] + pad + digits[half:] + pad


def _from_degrees(text: str) -> Coordinates:
    wrong = InputError("coordinates", f"“{text[:60]}” cannot be read as coordinates. Write them like {_EXAMPLES}.")
    for split in _splits(text):
        parts = [_PART.fullmatch(part) for part in split]
        if all(parts):
            break
    else:
        raise wrong
    values, letters, notation = [], [], "decimal degrees"
    for part in parts:
        assert part is not None
        degrees, minutes, seconds = (float((part[name] or "0").replace(",", ".")) for name in ("deg", "min", "sec"))
        if minutes >= 60 or seconds >= 60:
            raise InputError("coordinates", "Minutes and seconds run from 0 to below 60.")
        if part["min"] and degrees != math.floor(degrees):
            raise wrong
        letter = (part["lead"] or part["trail"] or "").upper()
        if part["min"]:
            notation = "degrees, minutes, seconds" if part["sec"] else "degrees and minutes"
        negative = (part["sign"] in ("-", "−")) != (letter in ("S", "W"))
        if letter and part["sign"] in ("-", "−"):
            raise InputError("coordinates", f"“{text[:60]}” has a minus sign and a letter: leave one out.")
        values.append(
            -(degrees + minutes / 60 + seconds / 3600) if negative else degrees + minutes / 60 + seconds / 3600
        )
        letters.append(letter)
    kinds = ["lat" if letter in ("N", "S") else "lon" if letter else "" for letter in letters]
    if kinds in (["lon", "lat"], ["lon", ""], ["", "lat"]):
        values.reverse()
    elif kinds in (["lat", "lat"], ["lon", "lon"]):
        raise InputError("coordinates", f"“{text[:60]}” gives the same direction twice.")
    return _checked(values[0], values[1], notation)


def _splits(text: str) -> list[tuple[str, str]]:
    """Return the ways to split a text into two numbers, most likely first."""
    ways: list[tuple[str, str]] = []
    for mark in (";", ", ", ","):
        if text.count(mark) == 1:
            one, other = text.split(mark)
            ways.append((one, other))
    after_letter = re.match(r"^(.*?[NSEW])\s*[,;]?\s+(.*)$", text, re.IGNORECASE)
    if after_letter and re.search(r"\d", after_letter[1]):
        ways.append((after_letter[1], after_letter[2]))
    before_letter = re.match(r"^(.*\d\S*)\s*[,;]?\s+([NSEW].*)$", text, re.IGNORECASE)
    if before_letter:
        ways.append((before_letter[1], before_letter[2]))
    words = text.split()
    if len(words) % 2 == 0:
        ways.append((" ".join(words[: len(words) // 2]), " ".join(words[len(words) // 2 :])))
    return ways


def _checked(latitude: float, longitude: float, notation: str) -> Coordinates:
    if not -90 <= latitude <= 90:
        raise InputError("coordinates", f"The latitude {latitude:g}° is outside -90 to 90°.")
    if not -180 <= longitude <= 180:
        raise InputError("coordinates", f"The longitude {longitude:g}° is outside -180 to 180°.")
    return Coordinates(latitude, longitude, notation)

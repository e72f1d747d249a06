"""Angles measured on a visit as text: name, bearing and altitude, one per line."""

from __future__ import annotations

from collections.abc import Sequence

from .errors import FormatError

MOST_ANGLES = 200
Angle = tuple[str, float, float]


def read_angles(text: str) -> list[Angle]:
    """Return the angles as (name, bearing, altitude) [degrees]. Raises FormatError naming the line."""
    found: list[Angle] = []
    for number, line in enumerate(text.splitlines(), start=1):
        parts = line.replace("°", " ").replace(",", ".").split()
        if not parts:
            continue
        try:
            bearing, altitude = float(parts[-2]), float(parts[-1])
        except (IndexError, ValueError):
            raise FormatError(f"Line {number}: write a name, a bearing and an altitude: cairn 212 4.5.") from None
        if not (0 <= bearing <= 360 and -90 <= altitude <= 90):
            raise FormatError(f"Line {number}: bearings lie from 0 to 360°, altitudes from −90 to 90°.")
        found.append((" ".join(parts[:-2])[:100], bearing % 360, altitude))
    if len(found) > MOST_ANGLES:
        raise FormatError(f"At most {MOST_ANGLES} angles are kept of a visit.")
    return found


def write_angles(angles: Sequence[Sequence[object]]) -> str:
    """Return angles as text that read_angles reads."""
    return "\n".join(f"{name} {bearing:g} {altitude:g}".strip() for name, bearing, altitude in angles)

"""Sensor formats by their usual names, as bodies with a lens that is no limit."""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType

from ..errors import InputError
from ..facts.kit import Body, Lens

# Sides [mm] and pixels across of common bodies (common practice).
FORMATS: Mapping[str, tuple[float, float, int]] = MappingProxyType(
    {
        "full": (36.0, 24.0, 6000),
        "aps-c": (23.5, 15.7, 6000),
        "four-thirds": (17.3, 13.0, 5184),
        "44x33": (43.8, 32.9, 8256),
        "4x5": (120.0, 95.0, 12000),
    }
)


def body_of(name: str) -> Body:
    """Return a body of a format. Raises InputError for a name that is none."""
    if name not in FORMATS:
        raise InputError("format", f"“{name}” is no format known here: {', '.join(FORMATS)}.")
    width, height, across = FORMATS[name]
    return Body(
        id=1,
        name=name,
        sensor_width_mm=width,
        sensor_height_mm=height,
        pixels_wide=across,
        pixels_high=round(across * height / width),
    )


def lens_of(focal_mm: float, magnification: float = 0.5) -> Lens:
    """Return a prime that opens and closes as far as is asked, and is extended up to a magnification."""
    return Lens(
        id=1,
        name=f"{focal_mm:g} mm",
        focal_min_mm=focal_mm,
        focal_max_mm=focal_mm,
        f_number_min=0.5,
        f_number_max=128.0,
        # From object to image, f (2 + m + 1/m), so that the thin lens keeps its focal length.
        closest_focus_mm=focal_mm * (2 + magnification + 1 / magnification),
        max_magnification=magnification,
    )

"""Stars while the shutter is open: how far they move on the sensor, and how long they stay points.

Stars turn about the celestial pole once in a sidereal day, 15.041 seconds of arc in a second of time; those of the
equator move fastest. The rules of 500 and of aperture and pixel are common practice.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Protocol

import numpy as np

from ..optics.circle_of_confusion import crop_factor
from ..units.quantities import Quantity, as_floats, in_callers_shape, positive

TURN_RAD_PER_S = 7.292115e-5


class Sensor(Protocol):
    """The figures of a body that the rules need."""

    @property
    def sensor_width_mm(self) -> float: ...
    @property
    def sensor_height_mm(self) -> float: ...
    @property
    def pixels_wide(self) -> int: ...


def star_trail_mm(focal_mm: Quantity, shutter_s: Quantity, declination_deg: Quantity = 0.0) -> Any:
    """Return how far a star moves on the sensor [mm], near the middle of the frame. Broadcasts.

    24 mm, 204 s at declination 0: 0.357 mm.
    """
    focal, shutter = positive("focal_mm", focal_mm), positive("shutter_s", shutter_s)
    return in_callers_shape(focal * shutter * TURN_RAD_PER_S * _level(declination_deg))


def untrailed_by_trail_s(focal_mm: Quantity, allowed_mm: Quantity, declination_deg: Quantity = 0.0) -> Any:
    """Return the longest time [s] in which a star moves no farther than an allowed trail [mm]. Broadcasts.

    Infinite at the pole.
    """
    a_second = np.asarray(star_trail_mm(focal_mm, 1.0, declination_deg))
    with np.errstate(divide="ignore"):
        return in_callers_shape(np.where(a_second > 1e-15, positive("allowed_mm", allowed_mm) / a_second, np.inf))


def untrailed_by_500_s(focal_mm: Quantity, crop: Quantity) -> Any:
    """Return the longest time [s] by the rule of 500: 500 over the focal length as on 36 × 24 mm. Broadcasts."""
    return in_callers_shape(500 / (positive("focal_mm", focal_mm) * positive("crop", crop)))


def untrailed_by_pixel_s(focal_mm: Quantity, f_number: Quantity, pixel_um: Quantity) -> Any:
    """Return the longest time [s] by aperture and pixel: (35 N + 30 p) / f, p the pixel pitch [µm]. Broadcasts."""
    focal = positive("focal_mm", focal_mm)
    return in_callers_shape((35 * positive("f_number", f_number) + 30 * positive("pixel_um", pixel_um)) / focal)


@dataclass(frozen=True)
class UntrailedTimes:
    """Longest exposure times with stars as points [s]: by an allowed trail, the rule of 500, aperture and pixel."""

    by_trail_s: float
    by_500_s: float
    by_pixel_s: float


def untrailed_times(
    focal_mm: float, f_number: float, body: Sensor, coc_mm: float, declination_deg: float = 0.0
) -> UntrailedTimes:
    """Return the longest times by the three rules. coc_mm: the trail that is allowed; declination_deg: of the fastest
    star, which only the first rule counts.
    """
    crop = crop_factor(body.sensor_width_mm, body.sensor_height_mm)
    pixel_um = 1000 * body.sensor_width_mm / body.pixels_wide
    return UntrailedTimes(
        by_trail_s=float(untrailed_by_trail_s(focal_mm, coc_mm, declination_deg)),
        by_500_s=float(untrailed_by_500_s(focal_mm, crop)),
        by_pixel_s=float(untrailed_by_pixel_s(focal_mm, f_number, pixel_um)),
    )


def trail_arc_deg(shutter_s: Quantity) -> Any:
    """Return the arc about the pole that a star draws [degrees]: 15.04 an hour. Broadcasts."""
    return in_callers_shape(np.degrees(positive("shutter_s", shutter_s) * TURN_RAD_PER_S))


def declination_deg(altitude_deg: Quantity, azimuth_deg: Quantity, latitude_deg: Quantity) -> Any:
    """Return the declination [degrees] of a direction of the sky, from a latitude. Broadcasts.

    sin δ = sin φ sin a + cos φ cos a cos A, without refraction.
    """
    altitude, azimuth, latitude = (
        np.radians(as_floats(name, value))
        for name, value in (
            ("altitude_deg", altitude_deg),
            ("azimuth_deg", azimuth_deg),
            ("latitude_deg", latitude_deg),
        )
    )
    sine = np.sin(latitude) * np.sin(altitude) + np.cos(latitude) * np.cos(altitude) * np.cos(azimuth)
    return in_callers_shape(np.degrees(np.arcsin(np.clip(sine, -1.0, 1.0))))


def _level(declination: Quantity) -> Any:
    return np.cos(np.radians(as_floats("declination_deg", declination)))

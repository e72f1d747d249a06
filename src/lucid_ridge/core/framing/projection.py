"""A rectilinear pinhole camera.

Source: [1] central projection, any computer-vision text. x runs 0..1 from the left edge, y 0..1 from the top.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..errors import InputError
from ..units.quantities import finite, positive


class Orientation(StrEnum):
    LANDSCAPE = "landscape"
    PORTRAIT = "portrait"


@dataclass(frozen=True)
class Camera:
    """Where a camera stands and looks.

    east_m, north_m, height_m: position. bearing_deg: from north, clockwise, any value. pitch_deg: up positive, -90..90.
    focal_mm: as it images now (lengthened by 1 + m up close). orientation: landscape or portrait; portrait swaps the
    sides. roll_deg: how far the camera leans to the right, seen from behind, -180..180.
    """

    bearing_deg: float
    focal_mm: float
    sensor_width_mm: float
    sensor_height_mm: float
    pitch_deg: float = 0.0
    orientation: str = Orientation.LANDSCAPE
    east_m: float = 0.0
    north_m: float = 0.0
    height_m: float = 0.0
    roll_deg: float = 0.0

    def __post_init__(self) -> None:
        for name in ("focal_mm", "sensor_width_mm", "sensor_height_mm"):
            positive(name, getattr(self, name))
        for name in ("bearing_deg", "east_m", "north_m", "height_m", "roll_deg"):
            finite(name, getattr(self, name))
        if not -90 <= float(finite("pitch_deg", self.pitch_deg)) <= 90:
            raise InputError("pitch_deg", f"The pitch must lie from -90 to 90 degrees, not {self.pitch_deg:g}.")
        if self.orientation not in tuple(Orientation):
            raise InputError(
                "orientation",
                f"A camera is held in {Orientation.LANDSCAPE} or {Orientation.PORTRAIT} orientation, not "
                f"“{self.orientation}”.",
            )

    @property
    def frame_mm(self) -> tuple[float, float]:
        """Width and height [mm] of the frame as it stands."""
        sides = (self.sensor_width_mm, self.sensor_height_mm)
        return sides if self.orientation == Orientation.LANDSCAPE else (sides[1], sides[0])


@dataclass(frozen=True)
class Projected:
    """Points in the frame: x, y in 0..1 inside it, NaN behind the camera, where in_front is False."""

    x: NDArray[np.float64]
    y: NDArray[np.float64]
    in_front: NDArray[np.bool_]


def camera_axes(bearing_deg: float, pitch_deg: float, roll_deg: float = 0.0) -> NDArray[np.float64]:
    """Return the unit vectors right, up and forward (rows) in east, north, up coordinates; works at pitch ±90.

    A camera that leans to the right has its up axis tipped to the right.
    """
    bearing, pitch = math.radians(bearing_deg), math.radians(pitch_deg)
    sin_b, cos_b, sin_p, cos_p = math.sin(bearing), math.cos(bearing), math.sin(pitch), math.cos(pitch)
    right = np.array([cos_b, -sin_b, 0.0])
    up = np.array([-sin_p * sin_b, -sin_p * cos_b, cos_p])
    roll = math.radians(roll_deg)
    return np.array(
        [
            right * math.cos(roll) - up * math.sin(roll),
            up * math.cos(roll) + right * math.sin(roll),
            [cos_p * sin_b, cos_p * cos_b, sin_p],
        ]
    )


@lru_cache(maxsize=64)
def view_matrix(camera: Camera) -> NDArray[np.float64]:
    """Return the matrix (3, 4) that takes (east, north, up, 1) to (x·w, y·w, w): x and y in the frame, w the depth [m]
    along the view.

    It is shared, and cannot be written into. Source: [1].
    """
    right, up, forward = camera_axes(camera.bearing_deg, camera.pitch_deg, camera.roll_deg)
    width, height = camera.frame_mm
    rows = np.array(
        [camera.focal_mm / width * right + 0.5 * forward, -camera.focal_mm / height * up + 0.5 * forward, forward]
    )
    matrix = np.column_stack((rows, -rows @ np.array([camera.east_m, camera.north_m, camera.height_m])))
    matrix.setflags(write=False)
    return matrix


def corner_points(camera: Camera, distance_m: float = 1e4) -> NDArray[np.float64]:
    """Return points (4, 3) far away on the rays through the frame's corners: top left, top right, bottom right, bottom
    left.
    """
    right, up, forward = camera_axes(camera.bearing_deg, camera.pitch_deg, camera.roll_deg)
    width, height = camera.frame_mm
    signs = np.array([[-1, 1], [1, 1], [1, -1], [-1, -1]]) / 2
    rays = (
        forward
        + np.outer(signs[:, 0] * width / camera.focal_mm, right)
        + np.outer(signs[:, 1] * height / camera.focal_mm, up)
    )
    return np.asarray(np.array([camera.east_m, camera.north_m, camera.height_m]) + distance_m * rays)


def project(camera: Camera, points_enu_m: Any) -> Projected:
    """Return where points [m; last axis east, north, up] fall in the frame; shapes follow the leading axes.

    A point whose forward component is not positive is behind the camera: x and y are NaN there. Source: [1].
    """
    points = np.asarray(points_enu_m, dtype=np.float64)
    if points.shape[-1:] != (3,):
        raise InputError("points_enu_m", "Points need three coordinates: east, north and up.")
    relative = points - np.array([camera.east_m, camera.north_m, camera.height_m])
    right, up, forward = np.moveaxis(
        relative @ camera_axes(camera.bearing_deg, camera.pitch_deg, camera.roll_deg).T, -1, 0
    )
    # Points at right angles to the view differ from zero only by rounding; they are not in front.
    in_front = forward > 1e-12 * np.maximum(1.0, np.linalg.norm(relative, axis=-1))
    depth = np.where(in_front, forward, np.nan)
    width, height = camera.frame_mm
    return Projected(
        x=0.5 + camera.focal_mm * right / depth / width,
        y=0.5 - camera.focal_mm * up / depth / height,
        in_front=in_front,
    )


def axial_depth_m(camera: Camera, points_enu_m: Any) -> Any:
    """Return how far points [m; last axis east, north, up] lie from the camera along its optical axis [m], negative
    behind it.

    Horizontal distance · cos(turn) · cos(pitch) + height difference · sin(pitch); focus is on a plane across the axis.
    Source: [1].
    """
    points = np.asarray(points_enu_m, dtype=np.float64)
    if points.shape[-1:] != (3,):
        raise InputError("points_enu_m", "Points need three coordinates: east, north and up.")
    forward = camera_axes(camera.bearing_deg, camera.pitch_deg, camera.roll_deg)[2]
    depth = (points - np.array([camera.east_m, camera.north_m, camera.height_m])) @ forward
    return float(depth) if np.ndim(depth) == 0 else depth


def field_of_view_deg(side_mm: Any, focal_mm: Any, magnification: Any = 0.0) -> Any:
    """Return the angle of view 2 atan(side / 2f) [degrees] with f lengthened to f (1 + m) up close. Broadcasts."""
    side, focal = positive("side_mm", side_mm), positive("focal_mm", focal_mm)
    angle = np.degrees(2 * np.arctan(side / (2 * focal * (1 + np.asarray(magnification, dtype=np.float64)))))
    return float(angle) if np.ndim(angle) == 0 else angle

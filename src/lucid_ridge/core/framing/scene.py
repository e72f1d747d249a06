"""Many cameras on one scene at once: where every element's box and the horizon fall for each of them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..errors import InputError
from .outlines import Solid, solid_points

Floats = NDArray[np.float64]
# Where a box is put that lies behind the camera: far out, so that every target is badly missed.
_BEHIND = 5.0


@dataclass(frozen=True)
class Cameras:
    """Cameras as columns, each of shape (n,): position [m] east and north of the viewpoint and above its ground, focal length [mm],
    bearing and pitch [degrees]. frame_mm: width and height of the frame as it stands."""

    east_m: Floats
    north_m: Floats
    height_m: Floats
    focal_mm: Floats
    bearing_deg: Floats
    pitch_deg: Floats
    frame_mm: tuple[float, float]


@dataclass(frozen=True)
class Boxes:
    """left, right, top, bottom of each element in each camera's frame, shape (n, elements), 0..1 inside; horizon_y, shape (n,)."""

    left: Floats
    right: Floats
    top: Floats
    bottom: Floats
    horizon_y: Floats


class SceneModel:
    """The solids of a scene as points, ready to be seen by many cameras. Raises InputError for an empty scene."""

    def __init__(self, solids: Sequence[Solid]) -> None:
        if not solids:
            raise InputError("elements", "A scene needs at least one element.")
        groups = [solid_points(solid) for solid in solids]
        self.points = np.concatenate(groups)
        self.starts = np.cumsum([0, *(len(group) for group in groups[:-1])])

    def boxes(self, cameras: Cameras) -> Boxes:
        """Return where everything falls, by the same central projection as framing.projection."""
        bearing, pitch = np.radians(cameras.bearing_deg), np.radians(cameras.pitch_deg)
        sin_b, cos_b, sin_p, cos_p = np.sin(bearing), np.cos(bearing), np.sin(pitch), np.cos(pitch)
        east = self.points[:, 0] - cameras.east_m[:, None]
        north = self.points[:, 1] - cameras.north_m[:, None]
        up = self.points[:, 2] - cameras.height_m[:, None]
        along = sin_b[:, None] * east + cos_b[:, None] * north
        right = cos_b[:, None] * east - sin_b[:, None] * north
        forward = cos_p[:, None] * along + sin_p[:, None] * up
        lift = cos_p[:, None] * up - sin_p[:, None] * along
        width, height = cameras.frame_mm
        seen = forward > 0.02
        depth = np.where(seen, forward, 1.0)
        x = np.where(seen, 0.5 + cameras.focal_mm[:, None] * right / depth / width, np.where(right >= 0, _BEHIND, -_BEHIND))
        y = np.where(seen, 0.5 - cameras.focal_mm[:, None] * lift / depth / height, _BEHIND)
        return Boxes(
            np.minimum.reduceat(x, self.starts, axis=1),
            np.maximum.reduceat(x, self.starts, axis=1),
            np.minimum.reduceat(y, self.starts, axis=1),
            np.maximum.reduceat(y, self.starts, axis=1),
            0.5 + cameras.focal_mm * np.tan(pitch) / height,
        )


def separation(boxes: Boxes, one: int, other: int, aspect: float) -> Floats:
    """Return the air between two elements as a share of the frame's width, negative where their boxes overlap; shape (n,).

    The larger of the gaps across and upwards counts: two boxes that are apart either way are apart. aspect: width over height.
    """
    across = np.maximum(boxes.left[:, other] - boxes.right[:, one], boxes.left[:, one] - boxes.right[:, other])
    upwards = np.maximum(boxes.top[:, other] - boxes.bottom[:, one], boxes.top[:, one] - boxes.bottom[:, other]) / aspect
    return np.asarray(np.maximum(across, upwards))

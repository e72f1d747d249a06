"""Many cameras on one scene at once: where every element and the horizon fall for each of them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..errors import InputError
from .ground import LEVEL_GROUND, Ground
from .projection import Camera
from .solids import Solid, meshes_of

Floats = NDArray[np.float64]
# Where a point is put that lies behind the camera: far out, so that every target is badly missed.
_BEHIND = 5.0
_NEAREST_M = 0.005
# Two outlines are held apart along so many directions: never more than 2 % less than the true gap.
_AXES = 8
WHOLE = (0.0, 0.0, 1.0, 1.0)


@dataclass(frozen=True)
class Cameras:
    """Cameras as columns, each of shape (n,): position [m] east and north of the viewpoint's mark and above the ground where they
    stand, focal length [mm], bearing and pitch [degrees]. frame_mm: width and height of the frame as it stands; all lean by roll_deg."""

    east_m: Floats
    north_m: Floats
    height_m: Floats
    focal_mm: Floats
    bearing_deg: Floats
    pitch_deg: Floats
    frame_mm: tuple[float, float]
    roll_deg: float = 0.0


@dataclass(frozen=True)
class Boxes:
    """left, right, top, bottom of each element in each camera's frame, shape (n, elements), 0..1 inside; horizon_y, shape (n,): where
    the horizon crosses the frame's middle. x, y: all points; parts: for each element the slices of them that are one convex body."""

    left: Floats
    right: Floats
    top: Floats
    bottom: Floats
    horizon_y: Floats
    x: Floats
    y: Floats
    parts: tuple[tuple[slice, ...], ...]


def as_cameras(cameras: Sequence[Camera]) -> Cameras:
    """Return cameras of one body as columns; their heights are above the ground where they stand."""
    columns = {
        name: np.array([float(getattr(camera, name)) for camera in cameras])
        for name in ("east_m", "north_m", "height_m", "focal_mm", "bearing_deg", "pitch_deg")
    }
    return Cameras(**columns, frame_mm=cameras[0].frame_mm, roll_deg=cameras[0].roll_deg)


class SceneModel:
    """The solids of a scene as points, ready to be seen by many cameras. Raises InputError for an empty scene."""

    def __init__(self, solids: Sequence[Solid], ground: Ground = LEVEL_GROUND) -> None:
        if not solids:
            raise InputError("elements", "A scene needs at least one element.")
        bodies = [[mesh.points for mesh in meshes_of(solid, ground)] for solid in solids]
        self.ground = ground
        self.points = np.concatenate([points for parts in bodies for points in parts])
        self.starts = np.cumsum([0, *(sum(len(points) for points in parts) for parts in bodies[:-1])])
        self.parts: tuple[tuple[slice, ...], ...] = tuple(
            tuple(
                slice(int(end - len(points)), int(end))
                for end, points in zip(start + np.cumsum([len(points) for points in parts]), parts, strict=True)
            )
            for start, parts in zip(self.starts, bodies, strict=True)
        )

    def boxes(self, cameras: Cameras, window: tuple[float, float, float, float] = WHOLE) -> Boxes:
        """Return where everything falls, by the same central projection as framing.projection.

        window: the crop (left, top, width, height, shares of the frame) that shares are counted in.
        """
        bearing, pitch = np.radians(cameras.bearing_deg), np.radians(cameras.pitch_deg)
        sin_b, cos_b, sin_p, cos_p = np.sin(bearing), np.cos(bearing), np.sin(pitch), np.cos(pitch)
        stands = cameras.height_m + np.asarray(self.ground.height_m(cameras.east_m, cameras.north_m))
        east = self.points[:, 0] - cameras.east_m[:, None]
        north = self.points[:, 1] - cameras.north_m[:, None]
        up = self.points[:, 2] - stands[:, None]
        along = sin_b[:, None] * east + cos_b[:, None] * north
        right = cos_b[:, None] * east - sin_b[:, None] * north
        forward = cos_p[:, None] * along + sin_p[:, None] * up
        lift = cos_p[:, None] * up - sin_p[:, None] * along
        horizon_lift = -np.tan(pitch)
        if cameras.roll_deg:
            cos_r, sin_r = np.cos(np.radians(cameras.roll_deg)), np.sin(np.radians(cameras.roll_deg))
            right, lift = cos_r * right - sin_r * lift, cos_r * lift + sin_r * right
            # The horizon line is crossed where x is the middle of the frame.
            horizon_lift = horizon_lift / cos_r if abs(cos_r) > 1e-9 else np.full_like(horizon_lift, np.nan)
        width, height = cameras.frame_mm
        seen = forward > _NEAREST_M
        depth = np.where(seen, forward, 1.0)
        x = np.where(seen, 0.5 + cameras.focal_mm[:, None] * right / depth / width, np.where(right >= 0, _BEHIND, -_BEHIND))
        y = np.where(seen, 0.5 - cameras.focal_mm[:, None] * lift / depth / height, _BEHIND)
        horizon_y = 0.5 - cameras.focal_mm * horizon_lift / height
        if window != WHOLE:
            x, y, horizon_y = (x - window[0]) / window[2], (y - window[1]) / window[3], (horizon_y - window[1]) / window[3]
        return Boxes(
            np.minimum.reduceat(x, self.starts, axis=1),
            np.maximum.reduceat(x, self.starts, axis=1),
            np.minimum.reduceat(y, self.starts, axis=1),
            np.maximum.reduceat(y, self.starts, axis=1),
            horizon_y,
            x,
            y,
            self.parts,
        )


def separation(boxes: Boxes, one: int, other: int, aspect: float) -> Floats:
    """Return the air between two elements' outlines as a share of the frame's width, negative where they overlap; shape (n,).

    The widest gap between two convex outlines lies along one direction: eight are tried. Of an element of several bodies (a row of posts)
    the one that comes nearest counts. aspect: width over height.
    """
    turns = np.arange(_AXES) * np.pi / _AXES
    along = [(np.cos(turn), np.sin(turn) / aspect) for turn in turns]
    spans = [[_spans(boxes, part, along) for part in boxes.parts[index]] for index in (one, other)]
    nearest: Floats | None = None
    for low, high in spans[0]:
        for other_low, other_high in spans[1]:
            gap = np.maximum(other_low - high, low - other_high).max(axis=0)
            nearest = gap if nearest is None else np.minimum(nearest, gap)
    assert nearest is not None
    return nearest


def _spans(boxes: Boxes, part: slice, along: Sequence[tuple[float, float]]) -> tuple[Floats, Floats]:
    """Return where a body begins and ends along each direction, shapes (directions, n)."""
    places = [across * boxes.x[:, part] + upwards * boxes.y[:, part] for across, upwards in along]
    return np.stack([place.min(axis=1) for place in places]), np.stack([place.max(axis=1) for place in places])

"""Many cameras on one scene at once: where every element and the horizon fall for each of them."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..errors import InputError
from .footing import LEVEL_GROUND, Ground
from .projection import Camera
from .solids import Solid, meshes_of

Floats = NDArray[np.float64]
# Where a point is put that lies behind the camera: far out, so that every target is badly missed.
_BEHIND = 5.0
_NEAREST_M = 0.005
# Directions of a half circle in which the clearance between two outlines is first looked for, and how often the best
# is refined.
_AXES = 8
EXACT_STEPS, QUICK_STEPS = 16, 0
_GOLDEN = (5**0.5 - 1) / 2
WHOLE = (0.0, 0.0, 1.0, 1.0)


@dataclass(frozen=True)
class Cameras:
    """Cameras as columns, each of shape (n,): position [m] east and north of the viewpoint's mark and above the ground
    where they stand, focal length [mm], bearing and pitch [degrees].

    frame_mm: width and height of the frame as it stands; all lean by roll_deg.
    """

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
    """left, right, top, bottom of each element in each camera's frame, shape (n, elements), 0..1 inside; horizon_y,
    shape (n,): where the horizon crosses the frame's middle.

    x, y: all points; parts: for each element the slices of them that are one convex body.
    """

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


@dataclass(frozen=True)
class InFocus:
    """What decides how near a camera comes: it goes along its axis until the element's nearest point lies object_m
    from the lens.
    """

    element: int
    object_m: float


class SceneModel:
    """The solids of a scene as points, ready to be seen by many cameras. Raises InputError for an empty scene."""

    def __init__(self, solids: Sequence[Solid], ground: Ground = LEVEL_GROUND, in_focus: InFocus | None = None) -> None:
        if not solids:
            raise InputError("elements", "A scene needs at least one element.")
        bodies = [[mesh.points for mesh in meshes_of(solid, ground)] for solid in solids]
        self.ground, self.in_focus = ground, in_focus
        self.points = np.concatenate([points for parts in bodies for points in parts])
        self.starts = np.cumsum([0, *(sum(len(points) for points in parts) for parts in bodies[:-1])])
        self.parts: tuple[tuple[slice, ...], ...] = tuple(
            tuple(
                slice(int(end - len(points)), int(end))
                for end, points in zip(start + np.cumsum([len(points) for points in parts]), parts, strict=True)
            )
            for start, parts in zip(self.starts, bodies, strict=True)
        )

    def of_element(self, index: int) -> slice:
        """Return which points belong to an element."""
        ends = [*self.starts[1:].tolist(), len(self.points)]
        return slice(int(self.starts[index]), int(ends[index]))

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
        if self.in_focus is not None:
            # Moved along its axis a camera sees everything farther or nearer by the same.
            own = forward[:, self.of_element(self.in_focus.element)].min(axis=1)
            forward = forward - (own - self.in_focus.object_m)[:, None]
        horizon_lift = -np.tan(pitch)
        if cameras.roll_deg:
            cos_r, sin_r = np.cos(np.radians(cameras.roll_deg)), np.sin(np.radians(cameras.roll_deg))
            right, lift = cos_r * right - sin_r * lift, cos_r * lift + sin_r * right
            # The horizon line is crossed where x is the middle of the frame.
            horizon_lift = horizon_lift / cos_r if abs(cos_r) > 1e-9 else np.full_like(horizon_lift, np.nan)
        width, height = cameras.frame_mm
        seen = forward > _NEAREST_M
        depth = np.where(seen, forward, 1.0)
        x = np.where(
            seen, 0.5 + cameras.focal_mm[:, None] * right / depth / width, np.where(right >= 0, _BEHIND, -_BEHIND)
        )
        y = np.where(seen, 0.5 - cameras.focal_mm[:, None] * lift / depth / height, _BEHIND)
        horizon_y = 0.5 - cameras.focal_mm * horizon_lift / height
        if window != WHOLE:
            x, y, horizon_y = (
                (x - window[0]) / window[2],
                (y - window[1]) / window[3],
                (horizon_y - window[1]) / window[3],
            )
        return Boxes(
            left=np.minimum.reduceat(x, self.starts, axis=1),
            right=np.maximum.reduceat(x, self.starts, axis=1),
            top=np.minimum.reduceat(y, self.starts, axis=1),
            bottom=np.maximum.reduceat(y, self.starts, axis=1),
            horizon_y=horizon_y,
            x=x,
            y=y,
            parts=self.parts,
        )


def separation(
    boxes: Boxes, one: int, other: int, aspect: float, steps: int = EXACT_STEPS, enough: float = math.inf
) -> Floats:
    """Return the clearance between two elements' outlines as a share of the frame's width, negative where they
    overlap; shape (n,).

    Between two convex outlines it is the widest gap that any direction shows: eight are tried both ways, and the best
    is refined by golden section between its neighbours; with fewer steps the gap is underestimated, never
    overestimated. Of an element of several bodies (a row of posts) the one that comes nearest counts. enough: where the
    boxes alone are so far apart, their gap is taken. aspect: width over height.
    """
    across = np.maximum(boxes.left[:, other] - boxes.right[:, one], boxes.left[:, one] - boxes.right[:, other])
    upwards = (
        np.maximum(boxes.top[:, other] - boxes.bottom[:, one], boxes.top[:, one] - boxes.bottom[:, other]) / aspect
    )
    gaps = np.asarray(np.maximum(across, upwards))
    close = np.flatnonzero(gaps < enough)
    if close.size:
        bodies = [
            [(boxes.x[close, part], boxes.y[close, part] / aspect) for part in boxes.parts[element]]
            for element in (one, other)
        ]
        gaps[close] = np.minimum.reduce([_widest_gap(near, far, steps) for near in bodies[0] for far in bodies[1]])
    return gaps


def _widest_gap(one: tuple[Floats, Floats], other: tuple[Floats, Floats], steps: int) -> Floats:
    def along(cosine: Floats, sine: Floats) -> tuple[Floats, Floats]:
        """Return how far other lies beyond one along directions, and one beyond other; shape (n,)."""
        near, far = (cosine[:, None] * body[0] + sine[:, None] * body[1] for body in (one, other))
        return far.min(axis=1) - near.max(axis=1), near.min(axis=1) - far.max(axis=1)

    turns = np.arange(_AXES) * np.pi / _AXES
    count = len(one[0])
    pairs = [along(np.full(count, np.cos(turn)), np.full(count, np.sin(turn))) for turn in turns]
    found = np.stack([forth for forth, _ in pairs] + [back for _, back in pairs])
    widest: Floats = found.max(axis=0)
    if not steps:
        return widest
    coarse = widest
    # The gap over the direction has one summit where the two are apart: it lies between the neighbours of the best.
    best = np.concatenate((turns, turns + np.pi))[found.argmax(axis=0)]
    low, high = best - np.pi / _AXES, best + np.pi / _AXES
    left, right = high - _GOLDEN * (high - low), low + _GOLDEN * (high - low)
    at_left, at_right = (along(np.cos(angle), np.sin(angle))[0] for angle in (left, right))
    for _ in range(steps):
        widest = np.maximum(widest, np.maximum(at_left, at_right))
        rises = at_left < at_right
        low, high = np.where(rises, left, low), np.where(rises, high, right)
        new = np.where(rises, low + _GOLDEN * (high - low), high - _GOLDEN * (high - low))
        at_new = along(np.cos(new), np.sin(new))[0]
        left, right = np.where(rises, right, new), np.where(rises, new, left)
        at_left, at_right = np.where(rises, at_right, at_new), np.where(rises, at_new, at_left)
    widest = np.maximum(widest, np.maximum(at_left, at_right))
    # How deep they overlap has more than one summit: there the eight directions stand.
    return np.asarray(np.where(widest > 0, widest, coarse))

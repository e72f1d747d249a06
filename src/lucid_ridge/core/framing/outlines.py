"""Outlines of solids in the frame."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from .footing import LEVEL_GROUND, Ground
from .meshes import Floats, Mesh, hull_2d
from .projection import Camera, view_matrix
from .solids import Solid, meshes_of

# Nothing nearer to the camera than this, along the view, is drawn [m].
NEAREST_M = 0.005


@dataclass(frozen=True)
class Outline:
    """Closed polygons in the frame (x, y in 0..1 inside it), and the box around them.

    polygons are empty where nothing of the solid is in front of the camera. share: part of the solid's box inside the
    frame.
    """

    polygons: tuple[Floats, ...]
    left: float
    right: float
    top: float
    bottom: float
    share: float

    @property
    def in_view(self) -> bool:
        return self.share > 0


def in_window(shape: Outline, window: tuple[float, float, float, float]) -> Outline:
    """Return an outline as a crop (left, top, width, height, shares of the frame) has it."""
    if not shape.polygons or window == (0.0, 0.0, 1.0, 1.0):
        return shape
    left, top, width, height = window
    corner, size = np.array([left, top]), np.array([width, height])
    box = (
        (shape.left - left) / width,
        (shape.right - left) / width,
        (shape.top - top) / height,
        (shape.bottom - top) / height,
    )
    return Outline(tuple((polygon - corner) / size for polygon in shape.polygons), *box, _share(*box))


# A scene's elements from one camera are asked for again with every turn of a dial that leaves the frame as it is.
@lru_cache(maxsize=256)
def outline(camera: Camera, solid: Solid, ground: Ground = LEVEL_GROUND) -> Outline:
    """Return the outline of a solid as the camera sees it, true to size and perspective; what lies behind the camera
    is cut away.
    """
    return outline_of(camera, meshes_of(solid, ground))


def outline_of(camera: Camera, meshes: Sequence[Mesh]) -> Outline:
    """Return the outline of meshes as the camera sees them."""
    matrix = view_matrix(camera)
    polygons = [polygon for mesh in meshes for polygon in _seen(matrix, mesh)]
    if not polygons:
        return Outline((), math.nan, math.nan, math.nan, math.nan, 0.0)
    every = np.concatenate(polygons)
    (left, top), (right, bottom) = every.min(axis=0), every.max(axis=0)
    return Outline(
        tuple(polygons), float(left), float(right), float(top), float(bottom), _share(left, right, top, bottom)
    )


def _seen(matrix: Floats, mesh: Mesh) -> list[Floats]:
    placed = np.column_stack((mesh.points, np.ones(len(mesh.points)))) @ matrix.T
    whole = bool((placed[:, 2] >= NEAREST_M).all())
    if mesh.closed:
        corners = placed if whole else np.concatenate([clip_near(placed[list(face)]) for face in mesh.faces])
        flat = corners[:, :2] / corners[:, 2:]
        return [hull_2d(flat)] if len(flat) > 2 else []
    found = []
    for face in mesh.faces:
        corners = placed[list(face)] if whole else clip_near(placed[list(face)])
        if len(corners) > 2:
            found.append(corners[:, :2] / corners[:, 2:])
    return found


def clip_near(placed: Floats) -> Floats:
    """Return the part of a polygon (n, 3: x·w, y·w, w) that lies in front of the camera.

    Source: Sutherland and Hodgman 1974.
    """
    result = []
    for here, there in zip(placed, np.roll(placed, -1, axis=0), strict=True):
        if here[2] >= NEAREST_M:
            result.append(here)
        if (here[2] >= NEAREST_M) != (there[2] >= NEAREST_M):
            result.append(here + (there - here) * (NEAREST_M - here[2]) / (there[2] - here[2]))
    return np.array(result).reshape(-1, 3)


def _share(left: float, right: float, top: float, bottom: float) -> float:
    inside_x = max(0.0, min(right, 1.0) - max(left, 0.0)) / max(right - left, 1e-12)
    inside_y = max(0.0, min(bottom, 1.0) - max(top, 0.0)) / max(bottom - top, 1e-12)
    return float(min(1.0, inside_x) * min(1.0, inside_y))

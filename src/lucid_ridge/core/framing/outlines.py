"""Plain solid shapes standing in a scene, and their outlines in the frame.

Source: [1] drop of the ground by curvature less refraction, d²/(2R) (1 - k) with k = 0.13, any surveying text.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from .projection import Camera, project

EARTH_RADIUS_M = 6_371_000.0
REFRACTION_K = 0.13
SHAPES = ("block", "boulder", "post", "posts", "tree", "ridge", "water", "flower")


@dataclass(frozen=True)
class Solid:
    """Something in the scene, facing the camera. Distances from the viewpoint, base_m above its ground."""

    shape: str
    bearing_deg: float
    distance_m: float
    width_m: float
    height_m: float
    base_m: float = 0.0


@dataclass(frozen=True)
class Outline:
    """Closed polygons in the frame (x, y in 0..1 inside it), and the box around them.

    polygons are empty where nothing of the solid is in front of the camera. share: part of the solid's box inside the frame.
    """

    polygons: tuple[NDArray[np.float64], ...]
    left: float
    right: float
    top: float
    bottom: float
    share: float

    @property
    def in_view(self) -> bool:
        return self.share > 0


def curvature_drop_m(distance_m: float) -> float:
    """Return how far level ground drops below the horizontal at a distance [m]. Source: [1]."""
    return distance_m**2 / (2 * EARTH_RADIUS_M) * (1 - REFRACTION_K)


def outline(camera: Camera, solid: Solid) -> Outline:
    """Return the outline of a solid as the camera sees it, true to size and perspective."""
    polygons = []
    for points in _placed_faces(solid):
        seen = project(camera, points)
        if seen.in_front.all():
            polygons.append(np.stack((seen.x, seen.y), axis=-1))
    if not polygons:
        return Outline((), math.nan, math.nan, math.nan, math.nan, 0.0)
    every = np.concatenate(polygons)
    (left, top), (right, bottom) = every.min(axis=0), every.max(axis=0)
    return Outline(tuple(polygons), float(left), float(right), float(top), float(bottom), _share(left, right, top, bottom))


def solid_points(solid: Solid) -> NDArray[np.float64]:
    """Return all corners of a solid [m; east, north, up from the viewpoint's ground], shape (n, 3)."""
    return np.concatenate(_placed_faces(solid))


def _placed_faces(solid: Solid) -> list[NDArray[np.float64]]:
    bearing = math.radians(solid.bearing_deg)
    forward, across = np.array([math.sin(bearing), math.cos(bearing)]), np.array([math.cos(bearing), -math.sin(bearing)])
    base = solid.base_m - curvature_drop_m(solid.distance_m)
    faces = []
    for shape in _faces(solid.shape):
        points = np.empty((len(shape), 3))
        depth = solid.distance_m + (shape[:, 1] * solid.height_m if solid.shape == "water" else 0.0)
        points[:, :2] = np.multiply.outer(np.broadcast_to(depth, len(shape)), forward)
        points[:, :2] += np.multiply.outer(shape[:, 0] * solid.width_m, across)
        points[:, 2] = base if solid.shape == "water" else base + shape[:, 1] * solid.height_m
        faces.append(points)
    return faces


def _share(left: float, right: float, top: float, bottom: float) -> float:
    inside_x = max(0.0, min(right, 1.0) - max(left, 0.0)) / max(right - left, 1e-12)
    inside_y = max(0.0, min(bottom, 1.0) - max(top, 0.0)) / max(bottom - top, 1e-12)
    return float(min(1.0, inside_x) * min(1.0, inside_y))


def _ellipse(x: float, y: float, half_width: float, half_height: float, count: int = 28) -> NDArray[np.float64]:
    angle = np.linspace(0, 2 * math.pi, count, endpoint=False)
    return np.stack((x + half_width * np.cos(angle), y + half_height * np.sin(angle)), axis=-1)


def _box(left: float, right: float, bottom: float, top: float) -> NDArray[np.float64]:
    return np.array([[left, bottom], [right, bottom], [right, top], [left, top]])


def _faces(shape: str) -> tuple[NDArray[np.float64], ...]:
    """Return unit faces: x from -0.5 to 0.5 across, y from 0 at the base to 1 at the top (into the distance for water)."""
    if shape == "boulder":
        xs = np.array([-0.5, -0.47, -0.34, -0.12, 0.1, 0.3, 0.45, 0.5])
        ys = np.array([0.0, 0.45, 0.82, 1.0, 0.94, 0.8, 0.4, 0.0])
        return (np.stack((xs, ys), axis=-1),)
    if shape == "posts":
        return tuple(
            _box(x - 0.025, x + 0.025, 0.0, top)
            for x, top in zip(np.linspace(-0.475, 0.475, 6), (1, 0.93, 0.97, 0.86, 0.95, 0.9), strict=True)
        )
    if shape == "tree":
        return (_box(-0.05, 0.05, 0.0, 0.22), np.array([[-0.5, 0.22], [0.5, 0.22], [0.26, 0.62], [0.0, 1.0], [-0.26, 0.62]]))
    if shape == "ridge":
        xs = np.linspace(-0.5, 0.5, 41)
        profile = np.cos(np.pi * xs) ** 1.5 * (0.82 + 0.12 * np.cos(11 * xs + 0.7) + 0.06 * np.cos(29 * xs))
        top = np.clip(profile / profile.max(), 0.0, 1.0)
        return (np.concatenate((np.stack((xs, top), axis=-1), [[0.5, 0.0], [-0.5, 0.0]])),)
    if shape == "flower":
        return (_box(-0.04, 0.04, 0.0, 0.44), _ellipse(0.0, 0.72, 0.5, 0.28))
    return (_box(-0.5, 0.5, 0.0, 1.0),)

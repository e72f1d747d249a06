"""The elements of a scene as simple solids with real sizes, standing on the ground.

Distances are from the viewpoint's mark: to the near side of what has one (boulder, block, tower, wall, water), to the
middle of what is slender (post, tree, flower, insect). Source: [1] drop of the ground by curvature less refraction,
d²/(2R) (1 - k) with k = 0.13, any surveying text.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache

import numpy as np

from ..ground.geodesy import curvature_drop_m
from ..light.skyline import Skyline
from .footing import LEVEL_GROUND, Ground
from .meshes import Floats, Mesh, box, flat, lathe, moved


class Shape(StrEnum):
    BLOCK = "block"
    BOULDER = "boulder"
    POST = "post"
    POSTS = "posts"
    TREE = "tree"
    TOWER = "tower"
    RIDGE = "ridge"
    SKYLINE = "skyline"
    WATER = "water"
    SHORELINE = "shoreline"
    WALL = "wall"
    PATH = "path"
    STREAM = "stream"
    FLOWER = "flower"
    INSECT = "insect"
    MUSHROOM = "mushroom"


# Lines have a course over the ground, and may lead; broad things are expected to run out of the frame.
LINES = (Shape.SHORELINE, Shape.WALL, Shape.PATH, Shape.STREAM)
WET = (Shape.WATER, Shape.STREAM)
# Flat on the ground: whatever stands there stands before it, near or far.
FLAT = (Shape.WATER, Shape.PATH, Shape.STREAM, Shape.SHORELINE)
BROAD = (Shape.RIDGE, Shape.SKYLINE, Shape.WATER, *LINES)
_EYE_M = 1.6


@dataclass(frozen=True)
class Solid:
    """Something in the scene. Distances from the viewpoint's mark, base_m above the ground where it stands.

    course: further (bearing, distance) points of a line. profile: the skyline that a solid of shape "skyline" follows.
    For water, and for lines without a course, height_m is how far they reach away.
    """

    shape: str
    bearing_deg: float
    distance_m: float
    width_m: float
    height_m: float
    base_m: float = 0.0
    course: tuple[tuple[float, float], ...] = ()
    profile: Skyline | None = None


@lru_cache(maxsize=512)
def meshes_of(solid: Solid, ground: Ground = LEVEL_GROUND) -> tuple[Mesh, ...]:
    """Return a solid's parts [m; east, north, up from the mark's ground]. They are shared: nobody writes into them."""
    meshes = _meshes(solid, ground)
    for mesh in meshes:
        mesh.points.setflags(write=False)
    return meshes


def _meshes(solid: Solid, ground: Ground) -> tuple[Mesh, ...]:
    if solid.shape == Shape.SKYLINE:
        return (_along_the_skyline(solid),)
    if solid.shape == Shape.WATER:
        return (_water(solid),)
    if solid.shape in LINES:
        return _line(solid, ground)
    return tuple(_placed(part, solid, ground) for part in _parts(solid))


def course_points(solid: Solid, ground: Ground = LEVEL_GROUND) -> Floats:
    """Return the middle line of a line-like solid from its near end, shape (n, 3)."""
    east, north = _course(solid).T
    up = np.asarray(ground.height_m(east, north)) + solid.base_m - curvature_drop_m(np.hypot(east, north))
    return np.stack((east, north, up), axis=1)


def _placed(part: Mesh, solid: Solid, ground: Ground) -> Mesh:
    bearing = math.radians(solid.bearing_deg)
    across, away = np.array([math.cos(bearing), -math.sin(bearing)]), np.array([math.sin(bearing), math.cos(bearing)])
    foot = solid.distance_m * away
    base = ground.height_m(*foot) + solid.base_m - curvature_drop_m(solid.distance_m)
    flat_points = foot + part.points[:, :1] * across + part.points[:, 1:2] * away
    return Mesh(np.column_stack((flat_points, part.points[:, 2] + base)), part.faces, part.closed)


def _parts(solid: Solid) -> tuple[Mesh, ...]:
    """Return the parts of an upright solid around its foot: x across, y away from the mark, z up."""
    width, height = solid.width_m, solid.height_m
    if solid.shape == Shape.BOULDER:
        depth = 0.8 * width
        rings = ((0.0, 1.0), (0.4 * height, 0.97), (0.68 * height, 0.84), (0.88 * height, 0.58), (height, 0.22))
        return (moved(lathe(rings, width, depth, 14, 0.04), (0, depth / 2, 0)),)
    if solid.shape == Shape.POST:
        return (_post(0.0, width, height),)
    if solid.shape == Shape.POSTS:
        tops = (1, 0.93, 0.97, 0.86, 0.95, 0.9)
        return tuple(
            _post(x * width, 0.05 * width, top * height)
            for x, top in zip(np.linspace(-0.475, 0.475, 6), tops, strict=True)
        )
    if solid.shape == Shape.TREE:
        crown = ((0.2 * height, 0.55), (0.34 * height, 1.0), (0.62 * height, 0.62), (height, 0.0))
        return (lathe(((0.0, 1.0), (0.3 * height, 0.8)), 0.09 * width, 0.09 * width, 6), lathe(crown, width, width, 10))
    if solid.shape == Shape.TOWER:
        roof = box(-0.5 * width, 0.5 * width, 0.0, width, 0.9 * height, height, 0.08)
        return (box(-0.46 * width, 0.46 * width, 0.04 * width, 0.96 * width, 0.0, 0.9 * height), roof)
    if solid.shape == Shape.RIDGE:
        xs = np.linspace(-0.5, 0.5, 41)
        profile = np.cos(np.pi * xs) ** 1.5 * (0.82 + 0.12 * np.cos(11 * xs + 0.7) + 0.06 * np.cos(29 * xs))
        top = np.clip(profile / profile.max(), 0.0, 1.0) * height
        corners = np.concatenate((np.stack((xs * width, top), axis=1), [[0.5 * width, 0.0], [-0.5 * width, 0.0]]))
        return (flat(np.insert(corners, 1, 0.0, axis=1)),)
    if solid.shape == Shape.FLOWER:
        head = (
            (0.42 * height, 0.25),
            (0.5 * height, 0.66),
            (0.62 * height, 0.93),
            (0.74 * height, 1.0),
            (0.87 * height, 0.85),
            (0.96 * height, 0.5),
            (height, 0.15),
        )
        return (_post(0.0, 0.08 * width, 0.5 * height), lathe(head, width, width, 16))
    if solid.shape == Shape.INSECT:
        body = lathe(
            ((0.0, 0.3), (0.3 * height, 0.9), (0.45 * height, 1.0), (0.62 * height, 0.5)), width, 0.3 * width, 10
        )
        wings = [
            flat(np.array([[side * 0.05 * width, 0, 0.5 * height], [side * 0.3 * width, 0.2 * width, height],
                           [side * 0.12 * width, 0.35 * width, 0.95 * height]]))
            for side in (-1, 1)
        ]  # fmt: skip
        return (body, *wings)
    if solid.shape == Shape.MUSHROOM:
        stem = lathe(((0.0, 1.0), (0.62 * height, 0.7)), 0.34 * width, 0.34 * width, 10)
        rim = ((0.55 * height, 0.8), (0.6 * height, 1.0), (0.74 * height, 0.93), (0.9 * height, 0.6), (height, 0.12))
        return (stem, lathe(rim, width, width, 16))
    return (box(-0.5 * width, 0.5 * width, 0.0, min(width, height), 0.0, height),)


def _post(x: float, width: float, height: float) -> Mesh:
    return moved(lathe(((0.0, 1.0), (height, 0.94)), width, width, 6), (x, 0, 0))


def _water(solid: Solid) -> Mesh:
    """Water is level whatever the ground: a sheet from its near edge away."""
    bearing = math.radians(solid.bearing_deg)
    across, away = np.array([math.cos(bearing), -math.sin(bearing)]), np.array([math.sin(bearing), math.cos(bearing)])
    half, near, far = 0.5 * solid.width_m, solid.distance_m, solid.distance_m + solid.height_m
    corners = np.array(
        [
            near * away - half * across,
            near * away + half * across,
            far * away + half * across,
            far * away - half * across,
        ]
    )
    return flat(np.column_stack((corners, solid.base_m - curvature_drop_m(np.hypot(*corners.T)))))


def _along_the_skyline(solid: Solid) -> Mesh:
    """Return land at a distance that rises as high as the skyline stands; its own height where there is no skyline."""
    half = math.degrees(math.atan2(0.5 * solid.width_m, solid.distance_m))
    bearings = np.linspace(solid.bearing_deg - half, solid.bearing_deg + half, 97)
    bottom = -curvature_drop_m(solid.distance_m) + solid.base_m
    if solid.profile is None or not solid.profile.bearings_deg:
        top = np.full(len(bearings), bottom + solid.height_m)
    else:
        # The skyline is what the eye sees: curvature and refraction are in it already.
        top = np.maximum(bottom, _EYE_M + solid.distance_m * np.tan(np.radians(solid.profile.altitude_deg(bearings))))
    turns = np.radians(bearings)
    line = np.stack((solid.distance_m * np.sin(turns), solid.distance_m * np.cos(turns), top), axis=1)
    foot = line[[-1, 0]] * np.array([1, 1, 0]) + np.array([0, 0, bottom])
    return flat(np.concatenate((line, foot)))


def _course(solid: Solid) -> Floats:
    first = (solid.bearing_deg, solid.distance_m)
    if solid.course:
        legs = (first, *solid.course)
    elif solid.shape == Shape.WALL:
        half = math.degrees(math.atan2(0.5 * solid.width_m, solid.distance_m))
        slant = math.hypot(0.5 * solid.width_m, solid.distance_m)
        legs = ((solid.bearing_deg - half, slant), (solid.bearing_deg + half, slant))
    else:
        legs = (first, (solid.bearing_deg, solid.distance_m + solid.height_m))
    bearings, distances = np.radians([leg[0] for leg in legs]), np.array([leg[1] for leg in legs])
    return np.stack((distances * np.sin(bearings), distances * np.cos(bearings)), axis=1)


def _line(solid: Solid, ground: Ground) -> tuple[Mesh, ...]:
    course = _course(solid)
    wall = solid.shape == Shape.WALL
    thick = min(solid.width_m, 1.2) if solid.course or not wall else 0.5 * solid.height_m
    runs = np.diff(course, axis=0)
    lengths = np.maximum(np.hypot(*runs.T), 1e-9)
    sides = np.stack((-runs[:, 1], runs[:, 0]), axis=1) / lengths[:, None]
    # At a bend the two sides meet halfway.
    at_corner = np.concatenate((sides[:1], sides[:-1] + sides[1:], sides[-1:]))
    at_corner /= np.maximum(np.hypot(*at_corner.T), 1e-9)[:, None]
    left, right = course + at_corner * thick / 2, course - at_corner * thick / 2

    def lifted(corners: Floats, more_m: float) -> Floats:
        up = np.asarray(ground.height_m(*corners.T)) + solid.base_m + more_m - curvature_drop_m(np.hypot(*corners.T))
        return np.column_stack((corners, up))

    parts = []
    for index in range(len(course) - 1):
        ring = np.array([right[index], right[index + 1], left[index + 1], left[index]])
        if wall:
            quads = tuple((i, (i + 1) % 4, 4 + (i + 1) % 4, 4 + i) for i in range(4))
            parts.append(
                Mesh(np.concatenate((lifted(ring, 0.0), lifted(ring, solid.height_m))), (*quads, (4, 5, 6, 7)))
            )
        else:
            parts.append(flat(lifted(ring, 0.0)))
    return tuple(parts)

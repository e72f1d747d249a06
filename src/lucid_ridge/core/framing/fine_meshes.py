"""Finely divided solids with outline and skin, for drawing in tones.

They keep the extent of the plain solids (solids.py), on which everything is measured. Skin and raggedness are
invented, always the same for the same size.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from functools import lru_cache

import numpy as np
from scipy.interpolate import PchipInterpolator

from ..ground.geodesy import curvature_drop_m
from .fine_mesh import FineMesh, all_thinned, joined_meshes, sheet, thinned
from .footing import LEVEL_GROUND, Ground
from .meshes import Floats, Mesh
from .skin import ragged, rough
from .solids import LINES, WET, Shape, Solid, meshes_of

_SLOPE_OF_LAND = math.radians(38.0)


@lru_cache(maxsize=128)
def fine_meshes_of(solid: Solid, ground: Ground = LEVEL_GROUND, step: int = 1) -> tuple[FineMesh, ...]:
    """Return a solid's parts [m; east, north, up from the mark's ground]. They are shared and read-only.

    step: of natural shapes only every step-th row and column is drawn.
    """
    if solid.shape == Shape.WATER:
        return (_water(solid),)
    if solid.shape == Shape.SKYLINE:
        return (thinned(_land(solid, meshes_of(solid, ground)[0]), step),)
    if solid.shape in LINES:
        return tuple(joined_meshes([_divided(mesh, solid) for mesh in meshes_of(solid, ground)]))
    parts = _NATURAL.get(Shape(solid.shape))
    if parts is None:
        return tuple(joined_meshes([_divided(mesh, solid) for mesh in meshes_of(solid, ground)]))
    return tuple(_placed(part, solid, ground) for part in joined_meshes(all_thinned(parts(solid), step)))


def turned(rings: tuple[tuple[float, float], ...], levels: int, sectors: int) -> Floats:
    """Return a body of revolution as a grid (levels, sectors, 3): smooth through rings of (height, radius), closed by
    an apex where the last is wide.
    """
    heights, radii = np.array(rings).T
    if radii[-1] > 0:
        heights, radii = np.append(heights, heights[-1] + 1e-6 * max(1e-9, heights[-1])), np.append(radii, 0.0)
    way = np.concatenate(([0.0], np.cumsum(np.hypot(np.diff(heights) / max(heights[-1], 1e-12), np.diff(radii)))))
    at = np.linspace(0, way[-1], levels)
    height, radius = PchipInterpolator(way, heights)(at), np.maximum(0.0, PchipInterpolator(way, radii)(at))
    angle = np.arange(sectors) * 2 * math.pi / sectors
    flat = radius[:, None, None] * np.stack((np.cos(angle), np.sin(angle)), axis=-1)
    return np.concatenate((flat, np.broadcast_to(height[:, None, None], (levels, sectors, 1))), axis=2)


def _fitted(points: Floats, across_m: float, away_m: float, height_m: float, bottom_m: float = 0.0) -> Floats:
    """Return points stretched to an extent: centred in x, from the front in y, from the bottom in z."""
    low, high = points.reshape(-1, 3).min(axis=0), points.reshape(-1, 3).max(axis=0)
    share = (points - low) / np.maximum(high - low, 1e-12)
    return np.asarray(
        (share - np.array([0.5, 0.0, 0.0])) * np.array([across_m, away_m, height_m]) + np.array([0.0, 0.0, bottom_m])
    )


def _boulder(solid: Solid) -> list[FineMesh]:
    width, height = solid.width_m, solid.height_m
    body = turned(((0.0, 1.0), (0.4, 0.97), (0.68, 0.84), (0.88, 0.58), (1.0, 0.22)), 56, 96)
    bumps, grain, pits = rough(body, 2.2, 1), rough(body, 9.0, 2), rough(body, 26.0, 5)
    # A cleft runs over it from the front.
    side = np.abs(body[..., 0] - 0.28 - 0.06 * rough(body, 3.0, 3)) / 0.09
    cleft = np.exp(-(side**2)) * (body[..., 1] < 0.9)
    inward = 1 - 0.09 * (0.5 - 0.5 * bumps) - 0.022 * (0.5 - 0.5 * grain) - 0.005 * (0.5 - 0.5 * pits) - 0.16 * cleft
    body = body * np.stack((inward, inward, np.ones_like(inward)), axis=-1)
    body[..., 2] = np.where(body[..., 2] > 0.3, body[..., 2] - 0.10 * cleft * body[..., 2], body[..., 2])
    mesh = sheet(_fitted(body, width, 0.8 * width, height), around=True)
    albedo = 1 + 0.24 * grain + 0.20 * pits + 0.36 * rough(body, 4.5, 4)
    return [
        replace(mesh, albedo=np.clip(albedo, 0.3, 1.8).ravel(), open_sky=np.clip(1 - 0.9 * cleft, 0.08, 1.0).ravel())
    ]


def _post_at(x: float, width: float, height: float, seed: int) -> FineMesh:
    body = turned(((0.0, 1.0), (0.985, 0.94), (1.0, 0.8)), 18, 18)
    grain = rough(body * np.array([6.0, 6.0, 0.8]), 1.0, seed)
    points = _fitted(body, width, width, height) + np.array([x, -0.5 * width, 0.0])
    wet = 1 - 0.45 * np.clip((0.35 - body[..., 2]) / 0.1, 0.0, 1.0)
    return replace(sheet(points, around=True), albedo=np.clip((1 + 0.35 * grain) * wet, 0.2, 1.6).ravel())


def _post(solid: Solid) -> list[FineMesh]:
    return [_post_at(0.0, solid.width_m, solid.height_m, 1)]


def _posts(solid: Solid) -> list[FineMesh]:
    tops = (1, 0.93, 0.97, 0.86, 0.95, 0.9)
    places = np.linspace(-0.475, 0.475, 6)
    return [
        _post_at(x * solid.width_m, 0.05 * solid.width_m, top * solid.height_m, seed)
        for seed, (x, top) in enumerate(zip(places, tops, strict=True))
    ]


def _tree(solid: Solid) -> list[FineMesh]:
    width, height = solid.width_m, solid.height_m
    trunk = turned(((0.0, 0.09), (0.9, 0.012), (1.0, 0.004)), 12, 10) * np.array([0.5 * width, 0.5 * width, height])
    whorls = 26
    # Low branches hang, high ones stand; each whorl is a ragged rosette with gaps between its twigs.
    levels = np.linspace(0.2, 0.97, whorls)
    reach = np.interp(levels, (0.2, 0.34, 0.62, 1.0), (0.55, 1.0, 0.62, 0.02))
    parts = [replace(sheet(trunk, around=True), albedo=np.full(trunk.shape[0] * trunk.shape[1], 0.9))]
    sectors = 54
    angle = np.arange(sectors) * 2 * math.pi / sectors
    for at, (level, far) in enumerate(zip(levels, reach, strict=True)):
        length = ragged(sectors, at)
        rings = []
        for share, drop in ((0.04, 0.024), (0.5, 0.004), (0.8, -0.016), (1.0, -0.034)):
            radius = 0.5 * width * far * share * (length if share > 0.4 else 1.0)
            rise = (
                level
                + drop * (1.2 - level) * 1.4
                + 0.010 * rough(np.stack((np.cos(angle), np.sin(angle), np.full(sectors, share * 3)), axis=-1), 7.0, at)
            )
            rings.append(
                np.stack((radius * np.cos(angle), radius * np.sin(angle), np.clip(rise, 0.0, 1.0) * height), axis=-1)
            )
        # From the rim inwards, so that the upper side is outside.
        rosette = sheet(np.array(rings[::-1]), around=True, thin=True)
        inner = np.linspace(1.15, 0.5, len(rings))[:, None] * (0.75 + 0.35 * length)
        parts.append(
            replace(rosette, albedo=inner.ravel(), open_sky=np.repeat(np.linspace(1.0, 0.5, len(rings)), sectors))
        )
    top = turned(((0.93, 0.03), (1.0, 0.0)), 4, 6) * np.array([0.5 * width, 0.5 * width, height])
    top[..., 2] = np.linspace(0.93, 1.0, 4)[:, None] * height
    return [*parts, sheet(top, around=True)]


# Columns of a sheet of land between two of its spurs.
_TO_A_SPUR = 44


def land_between(
    top: Floats, bottom: Floats, towards: Floats, seed: int, along: Floats | None = None, rows: int = 26
) -> FineMesh:
    """Return land as a sheet from its foot to its skyline, sloping towards the eye with spurs and gullies.

    All shape (n, 3); towards: level, of length 1.

    along: how far along the land each column lies, in widths of a spur; None: evenly. rows: from foot to skyline.
    """
    columns = len(top)
    along = np.linspace(0, columns / _TO_A_SPUR, columns) if along is None else along
    share = np.linspace(0.0, 1.0, rows)[:, None, None]
    mesh = sheet(bottom[None] + (top - bottom)[None] * share)
    places = np.concatenate(
        (
            np.broadcast_to(along[None, :, None], (rows, columns, 1)),
            np.broadcast_to(share * 1.6, (rows, columns, 1)),
            np.zeros((rows, columns, 1)),
        ),
        axis=2,
    )
    spurs, detail = rough(places, 2.6, seed), rough(places, 9.0, seed + 1)
    relief = spurs + 0.35 * detail
    lean = np.gradient(relief, along, axis=1) * (2.2 / _TO_A_SPUR)
    slope = _SLOPE_OF_LAND * (1 + 0.25 * np.gradient(relief, axis=0) * (rows - 1) / 25)
    across = np.stack((towards[:, 1], -towards[:, 0], np.zeros(columns)), axis=-1)
    up = np.array([0.0, 0.0, 1.0])
    normals = np.cos(slope)[..., None] * up + np.sin(slope)[..., None] * towards[None] + lean[..., None] * across[None]
    normals /= np.linalg.norm(normals, axis=2, keepdims=True)
    albedo = np.clip(1 + 0.30 * detail + 0.15 * spurs, 0.4, 1.7)
    return replace(mesh, normals=normals.reshape(-1, 3), albedo=albedo.ravel())


def _land(solid: Solid, plain: Mesh) -> FineMesh:
    """Return the land of a skyline: its top as it was measured."""
    top = plain.points[:-2]
    bottom = top.copy()
    bottom[:, 2] = plain.points[-1, 2]
    bearing = math.radians(solid.bearing_deg)
    return land_between(top, bottom, np.tile([-math.sin(bearing), -math.cos(bearing), 0.0], (len(top), 1)), 5)


def _ridge(solid: Solid) -> list[FineMesh]:
    xs = np.linspace(-0.5, 0.5, 161)
    profile = np.cos(np.pi * xs) ** 1.5 * (0.82 + 0.12 * np.cos(11 * xs + 0.7) + 0.06 * np.cos(29 * xs))
    top = np.clip(profile / profile.max(), 0.0, 1.0)
    fray = rough(np.stack((xs * 40, np.zeros_like(xs), np.zeros_like(xs)), axis=-1), 1.0, 7)
    top = np.maximum(0.0, top * (1 - 0.015 * (1 - fray)))
    line = np.stack((xs * solid.width_m, np.zeros_like(xs), top * solid.height_m), axis=-1)
    foot = line * np.array([1.0, 1.0, 0.0])
    return [land_between(line, foot, np.tile([0.0, -1.0, 0.0], (len(line), 1)), 6)]


def _flower(solid: Solid) -> list[FineMesh]:
    width, height = solid.width_m, solid.height_m
    stem = turned(((0.0, 1.0), (0.5, 0.8)), 10, 10) * np.array([0.04 * width, 0.04 * width, height])
    parts = [replace(sheet(stem, around=True), albedo=np.full(stem.shape[0] * stem.shape[1], 0.4))]
    petals = 7
    along, across = np.linspace(0.0, 1.0, 9)[:, None], np.linspace(-1.0, 1.0, 7)[None, :]
    for layer, (reach, lift) in enumerate(((1.0, 0.30), (0.74, 0.46))):
        for at in range(petals):
            turn = 2 * math.pi * (at + 0.5 * layer) / petals
            radius = reach * (0.08 + 0.92 * along) + 0 * across
            half = 0.42 * np.sin(np.pi * np.clip(0.12 + 0.84 * along, 0, 1)) * across
            rise = 0.5 + 0.04 * layer + lift * along**1.6 - 0.10 * across**2 * along
            x, y = radius * math.cos(turn) - half * math.sin(turn), radius * math.sin(turn) + half * math.cos(turn)
            leaf = np.stack((0.5 * width * x, 0.5 * width * y, np.clip(rise, 0.42, 1.0) * height), axis=-1)
            veins = 1 - 0.12 * np.cos(9 * across) * (1 - 0.3 * along) + 0.10 * (along - 0.5)
            parts.append(replace(sheet(leaf, thin=True), albedo=veins.ravel()))
    eye = turned(((0.0, 1.0), (0.6, 0.85), (1.0, 0.3)), 8, 16) * np.array([0.1 * width, 0.1 * width, 0.14 * height])
    dome = replace(
        sheet(eye + np.array([0, 0, 0.52 * height]), around=True),
        albedo=0.6 + 0.3 * rough(eye / max(width, 1e-9), 60.0, 3).ravel(),
    )
    return [*parts, dome]


def _insect(solid: Solid) -> list[FineMesh]:
    width, height = solid.width_m, solid.height_m
    parts = []
    # Abdomen, thorax and head along x.
    for middle, reach, thick, tone in ((-0.24, 0.26, 0.27, 0.8), (0.14, 0.16, 0.31, 1.1), (0.38, 0.12, 0.20, 0.9)):
        ball = turned(((0.0, 0.02), (0.12, 0.62), (0.5, 1.0), (0.88, 0.62), (1.0, 0.02)), 14, 22)
        points = np.stack(
            (
                (ball[..., 2] - 0.5) * 2 * reach * width + middle * width,
                ball[..., 0] * 0.15 * width,
                ball[..., 1] * thick * height + 0.31 * height,
            ),
            axis=-1,
        )
        bands = tone * (1 + 0.3 * np.cos(ball[..., 2] * 18))
        parts.append(replace(sheet(points, around=True), albedo=bands.ravel()))
    for side in (-1, 1):
        root = np.array([side * 0.05 * width, 0.0, 0.5 * height])
        one, two = (
            np.array([side * 0.3 * width, 0.2 * width, height]),
            np.array([side * 0.12 * width, 0.35 * width, 0.95 * height]),
        )
        u, v = np.linspace(0, 1, 8)[:, None, None], np.linspace(0, 1, 6)[None, :, None]
        wing = root + u * ((one - root) * (1 - v) + (two - root) * v)
        parts.append(
            replace(sheet(wing, thin=True), albedo=(2.2 + 0.5 * np.cos(20 * v[..., 0] + 6 * u[..., 0])).ravel())
        )
    return parts


def _mushroom(solid: Solid) -> list[FineMesh]:
    width, height = solid.width_m, solid.height_m
    stem = turned(((0.0, 0.34), (0.3, 0.26), (0.66, 0.22)), 16, 24)
    cap = turned(((0.56, 0.25), (0.55, 0.8), (0.6, 1.0), (0.74, 0.93), (0.9, 0.6), (1.0, 0.12)), 26, 48)
    gills = np.where(np.arange(26)[:, None] < 6, 0.7 + 0.35 * np.cos(np.arange(48) * math.pi), 1.0)
    size = np.array([0.5 * width, 0.5 * width, height])
    return [
        replace(
            sheet(stem * size, around=True),
            albedo=np.clip(1.1 + 0.2 * rough(stem * np.array([5, 5, 1.0]), 2.0, 8), 0.5, 1.6).ravel(),
        ),
        replace(
            sheet(cap * size, around=True), albedo=np.clip(gills * (0.8 + 0.25 * rough(cap, 4.0, 9)), 0.3, 1.6).ravel()
        ),
    ]


_NATURAL: dict[Shape, Callable[[Solid], list[FineMesh]]] = {
    Shape.BOULDER: _boulder,
    Shape.POST: _post,
    Shape.POSTS: _posts,
    Shape.TREE: _tree,
    Shape.RIDGE: _ridge,
    Shape.FLOWER: _flower,
    Shape.INSECT: _insect,
    Shape.MUSHROOM: _mushroom,
}


def _placed(part: FineMesh, solid: Solid, ground: Ground) -> FineMesh:
    bearing = math.radians(solid.bearing_deg)
    axes = np.array([[math.cos(bearing), -math.sin(bearing), 0], [math.sin(bearing), math.cos(bearing), 0], [0, 0, 1]])
    foot = solid.distance_m * axes[1]
    foot[2] = float(ground.height_m(foot[0], foot[1])) + solid.base_m - float(curvature_drop_m(solid.distance_m))
    return replace(part, points=foot + part.points @ axes, normals=part.normals @ axes)


def _water(solid: Solid) -> FineMesh:
    """Return level water as a sheet that is finer towards the eye."""
    bearing = math.radians(solid.bearing_deg)
    across, away = np.array([math.cos(bearing), -math.sin(bearing)]), np.array([math.sin(bearing), math.cos(bearing)])
    near, far = solid.distance_m, solid.distance_m + solid.height_m
    rows = (
        np.geomspace(max(near, 0.3), max(far, near * 1.0001, 0.31), 44)
        if far > 2 * near
        else np.linspace(near, far, 44)
    )
    rows[0], rows[-1] = near, far
    columns = np.linspace(-0.5, 0.5, 29) * solid.width_m
    flat = rows[:, None, None] * away + columns[None, :, None] * across
    up = solid.base_m - np.asarray(curvature_drop_m(np.hypot(flat[..., 0], flat[..., 1])))
    mesh = sheet(np.concatenate((flat, up[..., None]), axis=2))
    return replace(mesh, normals=np.tile([0.0, 0.0, 1.0], (len(mesh.points), 1)))


def _divided(mesh: Mesh, solid: Solid) -> FineMesh:
    """Return the faces of a plain solid divided into small ones, with a skin."""
    parts, base = [], 0
    fine = 5 if solid.shape in LINES and len(mesh.faces) == 1 else 12
    for face, normal in zip(mesh.faces, mesh.normals, strict=True):
        corners = mesh.points[list(face)]
        quads = (
            [corners]
            if len(corners) == 4
            else [
                np.array([corners[0], corners[i], corners[i + 1], corners[i + 1]]) for i in range(1, len(corners) - 1)
            ]
        )
        for one, two, three, four in quads:
            u, v = np.linspace(0, 1, fine)[None, :, None], np.linspace(0, 1, fine)[:, None, None]
            grid = sheet((one * (1 - u) + two * u) * (1 - v) + (four * (1 - u) + three * u) * v)
            upright = normal if mesh.closed or normal[2] >= 0 else -normal
            parts.append(
                replace(grid, normals=np.tile(upright, (len(grid.points), 1)), triangles=grid.triangles + base)
            )
            base += len(grid.points)
    points = np.concatenate([part.points for part in parts])
    scale = max(solid.height_m, 1e-6) if solid.shape not in LINES or solid.shape == Shape.WALL else 1.0
    skin = rough(points / scale, 4.0, 11) + 0.7 * rough(points / scale, 15.0, 12)
    albedo = np.ones(len(points)) if solid.shape in WET else np.clip(1 + 0.22 * skin, 0.4, 1.7)
    normals = np.concatenate([part.normals for part in parts])
    if mesh.closed:
        normals = normals + 0.18 * np.stack(
            (rough(points / scale, 9.0, 13), rough(points / scale, 9.0, 14), 0 * skin), axis=1
        )
        normals /= np.linalg.norm(normals, axis=1, keepdims=True)
    return FineMesh(
        points,
        normals,
        np.concatenate([part.triangles for part in parts]),
        albedo,
        np.ones(len(points)),
        closed=mesh.closed,
    )

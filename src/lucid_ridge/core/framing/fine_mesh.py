"""A mesh for drawing in tones: made from a grid of points, thinned by rows and columns, joined with others."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

from .meshes import Floats

Triangles = NDArray[np.int32]


# Rows and columns, and whether the last column meets the first.
Grid: TypeAlias = tuple[int, int, bool]


@dataclass(frozen=True, eq=False)
class FineMesh:
    """A mesh. It is shared and read-only, and hashed by identity, so that it can be a key of caches.

    points, normals: shape (n, 3) [m], normals (1, 3) where all are the same; triangles: (m, 3) corners,
    counter-clockwise from outside. albedo: of each point, times its material's. open_sky: the share of the sky that
    clefts leave it. thin: lit through and from both sides, as leaves are. closed: anyone who stands outside sees none
    of it from within. grid: the rows and columns of its points, and whether the last column meets the first; None for
    joined meshes.
    """

    points: Floats
    normals: Floats
    triangles: Triangles
    albedo: Floats
    open_sky: Floats
    thin: bool = False
    closed: bool = False
    grid: Grid | None = None


# By how much of the frame's height or width something takes at least, which of its rows and columns are drawn.
_STEPS = ((0.5, 1), (0.15, 2), (0.05, 3), (0.0, 4))


def step_for(frame_share: float) -> int:
    """Return which of a solid's rows and columns are enough to draw it: every one where it is large in the frame,
    every fourth where it is small.

    frame_share: how much of the frame it takes along its larger side, 0 or more.
    """
    return next(step for least, step in _STEPS if frame_share >= least)


def all_thinned(parts: list[FineMesh], step: int) -> list[FineMesh]:
    """Return parts with fewer points that reach as far as before: the longest twig may be among those left out."""
    if step <= 1:
        return parts
    few = [thinned(part, step) for part in parts]
    (low, high), (lower, higher) = extent_of(parts), extent_of(few)
    stretch = (high - low) / np.maximum(higher - lower, 1e-12)
    return [replace(part, points=low + (part.points - lower) * stretch) for part in few]


def extent_of(parts: list[FineMesh]) -> tuple[Floats, Floats]:
    """Return the lowest and the highest corner of the parts [m], each of shape (3,)."""
    points = np.concatenate([part.points for part in parts])
    return points.min(axis=0), points.max(axis=0)


def sheet(points: Floats, around: bool = False, thin: bool = False) -> FineMesh:
    """Return a mesh from a grid of points (rows, columns, 3). around: the last column meets the first."""
    rows, columns = points.shape[:2]
    if around:
        wide = np.concatenate((points[:, -1:], points, points[:, :1]), axis=1)
        across = (wide[:, 2:] - wide[:, :-2]) / 2
    else:
        across = np.gradient(points, axis=1)
    upwards = np.gradient(points, axis=0)
    # At a pole the ring has no width: the ring below gives the direction.
    flat = np.linalg.norm(across, axis=2) < 1e-12
    normals = np.cross(across, upwards)
    normals[flat] = (0.0, 0.0, 1.0)
    length = np.linalg.norm(normals, axis=2, keepdims=True)
    normals = np.where(length > 1e-18, normals / np.maximum(length, 1e-18), (0.0, 0.0, 1.0))
    count = rows * columns
    grid = (rows, columns, around)
    return FineMesh(
        points=points.reshape(-1, 3),
        normals=normals.reshape(-1, 3),
        triangles=grid_triangles(*grid),
        albedo=np.ones(count),
        open_sky=np.ones(count),
        thin=thin,
        closed=around and not thin,
        grid=grid,
    )


def grid_triangles(rows: int, columns: int, around: bool) -> Triangles:
    """Return two triangles for every square of a grid of points."""
    index = np.arange(rows * columns, dtype=np.int32).reshape(rows, columns)
    if around:
        index = np.column_stack((index, index[:, :1]))
    a, b, c, d = index[:-1, :-1], index[:-1, 1:], index[1:, 1:], index[1:, :-1]
    return np.concatenate((np.stack((a, b, c), axis=-1).reshape(-1, 3), np.stack((a, c, d), axis=-1).reshape(-1, 3)))


def thinned(mesh: FineMesh, step: int) -> FineMesh:
    """Return a mesh with every step-th row and column of its grid, always with the outermost.

    Normals and tones are those of the remaining points.
    """
    if step <= 1 or mesh.grid is None:
        return mesh
    index = _every(mesh.grid, step, step)
    kept, grid = index.ravel(), (index.shape[0], index.shape[1], mesh.grid[2])
    return replace(
        mesh,
        points=mesh.points[kept],
        normals=mesh.normals[kept],
        triangles=grid_triangles(*grid),
        albedo=mesh.albedo[kept],
        open_sky=mesh.open_sky[kept],
        grid=grid,
    )


@lru_cache(maxsize=64)
def fewer_triangles(grid: Grid, down: int, over: int) -> Triangles:
    """Return triangles (m, 3) between every down-th row and over-th column of a grid, as indices into all its points.

    They are shared.
    """
    index = _every(grid, down, over)
    return np.asarray(index.ravel()[grid_triangles(index.shape[0], index.shape[1], grid[2])], dtype=np.int32)


def _every(grid: Grid, down: int, over: int) -> Triangles:
    """Return the indices of every down-th row and over-th column of a grid's points, always with the outermost."""
    rows, columns, around = grid
    kept = np.unique(np.append(np.arange(0, rows, down), rows - 1))
    # Around there is no outermost, but fewer than five columns are no round thing.
    beside = (
        np.arange(0, columns, min(over, max(1, columns // 5)))
        if around
        else np.unique(np.append(np.arange(0, columns, over), columns - 1))
    )
    return np.asarray(kept[:, None] * columns + beside, dtype=np.int32)


def joined_meshes(parts: list[FineMesh]) -> list[FineMesh]:
    """Return parts as few meshes: all that is thin in one, all that is not in another."""
    made = []
    for thin in (False, True):
        kind = [part for part in parts if part.thin == thin]
        if len(kind) < 2:
            made += kind
            continue
        starts = np.cumsum([0] + [len(part.points) for part in kind[:-1]])
        made.append(
            FineMesh(
                np.concatenate([part.points for part in kind]),
                np.concatenate([part.normals for part in kind]),
                np.concatenate([part.triangles + start for part, start in zip(kind, starts, strict=True)]).astype(
                    np.int32
                ),
                np.concatenate([part.albedo for part in kind]),
                np.concatenate([part.open_sky for part in kind]),
                thin,
                all(part.closed for part in kind),
            )
        )
    return made

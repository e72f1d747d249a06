"""Simple solids as points and faces, in a frame of their own: x across, y away, z up.

Faces run counter-clockwise as seen from outside.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Mesh:
    """points: shape (n, 3) [m]; faces: indices of corners.

    closed: a convex body, of which only the faces turned to the eye show.
    """

    points: Floats
    faces: tuple[tuple[int, ...], ...]
    closed: bool = True

    @cached_property
    def normals(self) -> Floats:
        """The unit normal of every face, shape (faces, 3); zero for a face without area."""
        first, second, third = (self.points[[face[corner] for face in self.faces]] for corner in (0, 1, 2))
        cross = np.cross(second - first, third - first)
        return np.asarray(cross / np.maximum(np.linalg.norm(cross, axis=1, keepdims=True), 1e-18))


def flat(points: Floats) -> Mesh:
    """Return one face that shows from both sides."""
    return Mesh(points, (tuple(range(len(points))),), closed=False)


def lathe(
    rings: Sequence[tuple[float, float]], across_m: float, away_m: float, sectors: int, ripple: float = 0.0
) -> Mesh:
    """Return a body of horizontal rings (height [m], radius as share of the half size), across_m wide and away_m deep
    around the origin.

    ripple makes it uneven, as a stone is. A last radius of 0 is an apex.
    """
    angle = np.arange(sectors) * 2 * math.pi / sectors + math.pi / sectors
    uneven = 1 + ripple * np.cos(3 * angle + 1.0) + 0.6 * ripple * np.cos(2 * angle)
    circle = np.stack((np.cos(angle) * uneven, np.sin(angle) * uneven), axis=1)
    low, high = circle.min(axis=0), circle.max(axis=0)
    # True to its size whatever its corners.
    circle = ((circle - low) / (high - low) - 0.5) * np.array([across_m, away_m])
    points: list[Floats] = []
    faces: list[tuple[int, ...]] = []
    for level, (height, radius) in enumerate(rings):
        if radius <= 0:
            points.append(np.array([[0.0, 0.0, height]]))
            base, apex = (level - 1) * sectors, level * sectors
            faces += [(base + index, base + (index + 1) % sectors, apex) for index in range(sectors)]
            break
        points.append(np.column_stack((circle * radius, np.full(sectors, height))))
        if level:
            base, top = (level - 1) * sectors, level * sectors
            faces += [(base + i, base + (i + 1) % sectors, top + (i + 1) % sectors, top + i) for i in range(sectors)]
    else:
        faces.append(tuple(range((len(rings) - 1) * sectors, len(rings) * sectors)))
    return Mesh(np.concatenate(points), tuple(faces))


def box(
    left_m: float, right_m: float, near_m: float, far_m: float, bottom_m: float, top_m: float, taper: float = 1.0
) -> Mesh:
    """Return a box; taper shrinks its top towards its middle."""
    corners = np.array([[left_m, near_m], [right_m, near_m], [right_m, far_m], [left_m, far_m]])
    middle = corners.mean(axis=0)
    top = middle + (corners - middle) * taper
    points = np.concatenate(
        (np.column_stack((corners, np.full(4, bottom_m))), np.column_stack((top, np.full(4, top_m))))
    )
    sides = tuple((i, (i + 1) % 4, 4 + (i + 1) % 4, 4 + i) for i in range(4))
    return Mesh(points, (*sides, (4, 5, 6, 7)))


def moved(mesh: Mesh, shift: Sequence[float]) -> Mesh:
    """Return a mesh shifted by (x, y, z)."""
    return Mesh(mesh.points + np.asarray(shift, dtype=np.float64), mesh.faces, mesh.closed)


def hull_2d(points: Floats) -> Floats:
    """Return the convex hull of points (n, 2), counter-clockwise with y up.

    Source: monotone chain, A. M. Andrew 1979.
    """
    ordered = sorted(set(map(tuple, points.tolist())))
    if len(ordered) < 3:
        return np.array(ordered, dtype=np.float64).reshape(-1, 2)

    def chain(sequence: list[tuple[float, ...]]) -> list[tuple[float, ...]]:
        line: list[tuple[float, ...]] = []
        for x, y in sequence:
            while len(line) > 1 and (line[-1][0] - line[-2][0]) * (y - line[-2][1]) <= (line[-1][1] - line[-2][1]) * (
                x - line[-2][0]
            ):
                line.pop()
            line.append((x, y))
        return line[:-1]

    return np.array(chain(ordered) + chain(ordered[::-1]))

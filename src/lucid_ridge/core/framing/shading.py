"""Light and shadow on plain solids: a few tones by the sun's direction, and the shadow on the ground.

Sources: [1] J. H. Lambert's cosine law, any optics text; the sky's share is a drawing's choice.
"""

from __future__ import annotations

import numpy as np

from .meshes import Floats, Mesh, hull_2d

TONES = 5
_SKY = 0.42
# A shadow longer than this share of its distance to what casts it says no more [m].
_LONGEST_M = 400.0


def tones_of(mesh: Mesh, sun: Floats | None) -> tuple[int, ...]:
    """Return a tone for every face, 0 (darkest) to TONES - 1.

    sun None: only the sky lights it, from above. Source: [1].
    """
    normals = mesh.normals
    if sun is None:
        level = 0.5 + 0.25 * normals[:, 2] if mesh.closed else np.full(len(normals), 0.5)
        return _steps(level)
    sky = _SKY * (0.75 + 0.25 * normals[:, 2])
    if not mesh.closed:
        sky = np.full(len(normals), _SKY)
    direct = np.clip(normals @ sun, 0.0, 1.0) if mesh.closed else np.abs(normals @ sun)
    return _steps(sky + (1 - _SKY) * direct)


def _steps(level: Floats) -> tuple[int, ...]:
    return tuple(int(tone) for tone in np.clip(np.floor(level * TONES), 0, TONES - 1))


def shadow_of(meshes: tuple[Mesh, ...], sun: Floats, ground_m: float) -> Floats | None:
    """Return the outline (n, 3) of the shadow that meshes cast on level ground at a height [m]; None with the sun at
    or below the horizon.
    """
    if sun[2] <= 0.005:
        return None
    points = np.concatenate([mesh.points for mesh in meshes])
    above = np.maximum(0.0, points[:, 2] - ground_m)
    reach = np.minimum(above / sun[2], _LONGEST_M)
    fallen = points[:, :2] - reach[:, None] * sun[:2]
    ring = hull_2d(fallen)
    return np.column_stack((ring, np.full(len(ring), ground_m))) if len(ring) > 2 else None


def mirror_matrix(level_m: float) -> Floats:
    """Return the matrix (4, 4) that mirrors points in still water at a height [m]: the law of reflection."""
    matrix = np.eye(4)
    matrix[2, 2], matrix[2, 3] = -1.0, 2 * level_m
    return matrix

"""The scene as a small picture in EV: what the counts, the histogram and the miniatures are made from.

Sky and ground are followed along the ray of every point; of things the points of their fine meshes are set into the picture, far before near, and
holes between them closed.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

from ..framing.outlines import NEAREST_M
from ..framing.projection import Camera, camera_axes, view_matrix

Floats = NDArray[np.float64]
Marks = NDArray[np.int32]
SKY, LAND, GROUND = -1, -2, -3
_CLOSED = np.ones((3, 3), dtype=bool)
# More triangles than this to a point of the picture tell no more.
_TO_A_POINT = 3


@dataclass(frozen=True)
class Layer:
    """Something to be set into the picture. mark: whose it is, an element's index or one of the constants. triangles: (m, 3).

    values: of every point, shape (n, k), for as many pictures.
    """

    points: Floats
    triangles: NDArray[np.int32]
    values: Floats
    mark: int


def rays(camera: Camera, wide: int, high: int) -> Floats:
    """Return unit vectors (high, wide, 3) through the middles of a picture's points."""
    right, up, forward = camera_axes(camera.bearing_deg, camera.pitch_deg, camera.roll_deg)
    width, height = camera.frame_mm
    x = ((np.arange(wide) + 0.5) / wide - 0.5) * width / camera.focal_mm
    y = (0.5 - (np.arange(high) + 0.5) / high) * height / camera.focal_mm
    towards = forward + x[None, :, None] * right + y[:, None, None] * up
    return np.asarray(towards / np.linalg.norm(towards, axis=-1, keepdims=True))


def set_into(camera: Camera, layers: Sequence[Layer], pictures: Floats, marks: Marks) -> tuple[Floats, Marks]:
    """Return pictures (high, wide, k) and marks (high, wide) with layers set into them, the first farthest."""
    pictures, marks = pictures.copy(), marks.copy()
    high, wide = marks.shape
    matrix = view_matrix(camera)
    for layer in layers:
        found = _one(matrix, layer, wide, high)
        if found is None:
            continue
        rows, columns, values = found
        pictures[rows, columns], marks[rows, columns] = values, layer.mark
    return pictures, marks


def _one(matrix: Floats, layer: Layer, wide: int, high: int) -> tuple[NDArray[np.intp], NDArray[np.intp], Floats] | None:
    """Return where a layer stands in the picture and its values there; None outside."""
    u, v, depth = matrix[:, :3] @ layer.points.T + matrix[:, 3:]
    near = depth > NEAREST_M
    scale = np.where(near, depth, 1.0)
    x, y = u / scale * wide, v / scale * high
    corners = _in_the_picture(layer.triangles, near, x, y, wide, high)
    if not len(corners):
        return None
    corners = corners[:: max(1, len(corners) // max(1, _TO_A_POINT * _room(corners, x, y, wide, high)))]
    a, b, c = corners.T
    order = np.argsort(-(depth[a] + depth[b] + depth[c]))
    corners = corners[order]
    a, b, c = corners.T
    xs, ys = np.stack((x[a], x[b], x[c]), axis=1), np.stack((y[a], y[b], y[c]), axis=1)
    # As many points to a triangle as its size in the picture asks for.
    reach = np.maximum(_spread(xs), _spread(ys))
    places, values, ranks = [], [], []
    for fine, low, most in ((1, -1.0, 1.6), (3, 1.6, 4.0), (7, 4.0, 10.0), (16, 10.0, np.inf)):
        these = np.flatnonzero((reach > low) & (reach <= most))
        if not len(these):
            continue
        shares = _shares(fine)
        places.append(np.stack(((xs[these] @ shares.T).ravel(), (ys[these] @ shares.T).ravel())))
        values.append(np.stack([(of[corners[these]] @ shares.T).ravel() for of in layer.values.T], axis=1))
        ranks.append(np.repeat(these, len(shares)))
    where, what, rank = np.concatenate(places, axis=1), np.concatenate(values), np.concatenate(ranks)
    columns, rows = np.floor(where).astype(np.intp)
    inside = np.flatnonzero((columns >= 0) & (columns < wide) & (rows >= 0) & (rows < high))
    inside = inside[np.argsort(rank[inside], kind="stable")]
    return _closed(rows[inside], columns[inside], what[inside], wide, high) if len(inside) else None


def _in_the_picture(triangles: NDArray[np.int32], near: NDArray[np.bool_], x: Floats, y: Floats, wide: int, high: int) -> NDArray[np.int32]:
    """Return the triangles that lie before the camera and not wholly beside one edge of the picture."""
    a, b, c = triangles.T
    # One bit for each edge that a point lies beyond, and one for what lies behind the camera.
    beyond = (x < 0) * 1 + (x >= wide) * 2 + (y < 0) * 4 + (y >= high) * 8 + ~near * 48
    one, two, three = beyond[a], beyond[b], beyond[c]
    return np.asarray(triangles[((one & two & three & 15) == 0) & ((one | two | three) < 16)])


def _room(corners: NDArray[np.int32], x: Floats, y: Floats, wide: int, high: int) -> int:
    """Return how many points of the picture the box around triangles has, at least 64."""
    across = min(wide, float(x[corners].max())) - max(0.0, float(x[corners].min()))
    down = min(high, float(y[corners].max())) - max(0.0, float(y[corners].min()))
    return max(64, int(across * down))


def _spread(sides: Floats) -> Floats:
    one, two, three = sides.T
    return np.asarray(np.maximum(np.maximum(one, two), three) - np.minimum(np.minimum(one, two), three))


def _closed(
    rows: NDArray[np.intp], columns: NDArray[np.intp], values: Floats, wide: int, high: int
) -> tuple[NDArray[np.intp], NDArray[np.intp], Floats]:
    """Return places and values with the holes between them closed."""
    top, left = max(0, int(rows.min()) - 2), max(0, int(columns.min()) - 2)
    box = (min(high, int(rows.max()) + 3) - top, min(wide, int(columns.max()) + 3) - left)
    filled, tone = np.zeros(box, dtype=bool), np.zeros((*box, values.shape[1]))
    filled[rows - top, columns - left] = True
    tone[rows - top, columns - left] = values
    closed = ndimage.binary_closing(np.pad(filled, 2, mode="edge"), _CLOSED)[2:-2, 2:-2] | filled
    holes = closed & ~filled
    if holes.any():
        nearest = ndimage.distance_transform_edt(~filled, return_distances=False, return_indices=True)
        tone[holes] = tone[tuple(nearest[:, holes])]
    found = np.nonzero(closed)
    return found[0] + top, found[1] + left, tone[found]


def _shares(fine: int) -> Floats:
    """Return barycentric shares of points spread over a triangle, (n, 3)."""
    if fine == 1:
        return np.full((1, 3), 1 / 3)
    steps = (np.arange(fine) + 1 / 3) / fine
    a, b = (item.ravel() for item in np.meshgrid(steps, steps, indexing="ij"))
    keep = a + b < 1
    return np.stack((a[keep], b[keep], 1 - a[keep] - b[keep]), axis=1)

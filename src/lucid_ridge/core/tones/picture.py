"""The scene as a small picture in EV: what the counts, the histogram and the miniatures are made from.

Sky and ground are followed along the ray of every point; of things the points of their fine meshes are set into the picture, far before near, and
holes between them closed.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from ..framing.outlines import NEAREST_M
from ..framing.projection import Camera, camera_axes, view_matrix

Floats = NDArray[np.float64]
Marks = NDArray[np.int32]
SKY, LAND, GROUND = -1, -2, -3
# The points around one, the nearest first.
_AROUND = ((0, 1), (0, -1), (1, 0), (-1, 0), (1, 1), (1, -1), (-1, 1), (-1, -1))
# More triangles than this to a point of the picture tell no more.
_TO_A_POINT = 3


@dataclass(frozen=True)
class Layer:
    """Something to be set into the picture. mark: whose it is, an element's index or one of the constants. triangles: (m, 3).

    values: of every point, shape (n, k), for as many pictures. mirrored_at_m: the level of the water that shows it upside down.
    """

    points: Floats
    triangles: NDArray[np.int32]
    values: Floats
    mark: int
    mirrored_at_m: float | None = None


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
    for layer in layers:
        seen = _seen(camera, _Form(layer.points, layer.triangles, layer.mirrored_at_m), wide, high)
        if seen is None:
            continue
        pictures[seen.rows, seen.columns] = np.einsum("nc,nck->nk", seen.shares, layer.values[seen.corners])
        marks[seen.rows, seen.columns] = layer.mark
    return pictures, marks


@dataclass(frozen=True, eq=False)
class _Form:
    """What of a layer does not change with its light; the same arrays are the same form."""

    points: Floats
    triangles: NDArray[np.int32]
    mirrored_at_m: float | None

    def __eq__(self, other: object) -> bool:
        if not isinstance(other, _Form):
            return NotImplemented
        return self.points is other.points and self.triangles is other.triangles and self.mirrored_at_m == other.mirrored_at_m

    def __hash__(self) -> int:
        return hash((id(self.points), id(self.triangles), self.mirrored_at_m))


@dataclass(frozen=True)
class _Seen:
    """Which points of the picture a form takes, and of which corners (n, 3) each has how large a share (n, 3)."""

    rows: NDArray[np.intp]
    columns: NDArray[np.intp]
    corners: NDArray[np.int32]
    shares: Floats


# Another light falls on the same points of the picture.
@lru_cache(maxsize=96)
def _seen(camera: Camera, form: _Form, wide: int, high: int) -> _Seen | None:
    """Return where a form stands in the picture; None outside."""
    points, matrix = form.points, view_matrix(camera)
    if form.mirrored_at_m is not None:
        points = points * np.array([1.0, 1.0, -1.0]) + np.array([0.0, 0.0, 2 * form.mirrored_at_m])
    u, v, depth = matrix[:, :3] @ points.T + matrix[:, 3:]
    near = depth > NEAREST_M
    scale = np.where(near, depth, 1.0)
    x, y = u / scale * wide, v / scale * high
    corners = _in_the_picture(form.triangles, near, x, y, wide, high)
    if not len(corners):
        return None
    corners = corners[:: max(1, len(corners) // max(1, _TO_A_POINT * _room(corners, x, y, wide, high)))]
    a, b, c = corners.T
    corners = corners[np.argsort(-(depth[a] + depth[b] + depth[c]))]
    xs, ys = x[corners], y[corners]
    # As many points to a triangle as its size in the picture asks for.
    reach = np.maximum(_spread(xs), _spread(ys))
    # The nearest triangle that has a point there, and which of its points that is: what is hidden is not worked out.
    nearest = np.full(wide * high, -1, dtype=np.int64)
    for kind, (_, low, most) in enumerate(_FINENESS):
        these = np.flatnonzero((reach > low) & (reach <= most))
        if not len(these):
            continue
        first, shares = _OFFSETS[kind], _SHARES[kind]
        columns, rows = np.floor(xs[these] @ shares.T).astype(np.int64), np.floor(ys[these] @ shares.T).astype(np.int64)
        code = these[:, None] * len(_ALL_SHARES) + np.arange(first, first + len(shares))
        inside = (columns >= 0) & (columns < wide) & (rows >= 0) & (rows < high)
        np.maximum.at(nearest, (rows * wide + columns)[inside], code[inside])
    triangles, shares = nearest // len(_ALL_SHARES), _ALL_SHARES[nearest % len(_ALL_SHARES)]
    large = np.flatnonzero(reach > _FINENESS[-1][2])
    for one, across, down in zip(large.tolist(), xs[large].tolist(), ys[large].tolist(), strict=True):
        _fill(one, across, down, wide, triangles, shares)
    where = np.flatnonzero(triangles >= 0)
    if not len(where):
        return None
    rows, columns, of = _closed(*np.divmod(where, wide), wide, high)
    return _Seen(rows, columns, corners[triangles[where[of]]], shares[where[of]])


def _fill(one: int, xs: list[float], ys: list[float], wide: int, triangles: NDArray[np.int64], shares: Floats) -> None:
    """Set a large triangle into the picture, wherever none that is nearer stands: all points whose middles lie within it."""
    high = len(triangles) // wide
    left, right = int(min(max(min(xs), 0.0), wide)), int(min(max(max(xs) + 1, 0.0), wide))
    top, foot = int(min(max(min(ys), 0.0), high)), int(min(max(max(ys) + 1, 0.0), high))
    across, down = (xs[1] - xs[0], xs[2] - xs[0]), (ys[1] - ys[0], ys[2] - ys[0])
    area = across[0] * down[1] - across[1] * down[0]
    if right <= left or foot <= top or abs(area) < 1e-9:
        return
    x, y = np.arange(left, right) + (0.5 - xs[0]), np.arange(top, foot)[:, None] + (0.5 - ys[0])
    second, third = (x * down[1] - y * across[1]) / area, (y * across[0] - x * down[0]) / area
    rows, columns = np.nonzero((second >= -1e-9) & (third >= -1e-9) & (second + third <= 1 + 1e-9))
    places = (rows + top) * wide + columns + left
    nearer = triangles[places] < one
    places = places[nearer]
    triangles[places] = one
    second, third = second[rows, columns][nearer], third[rows, columns][nearer]
    shares[places, 0], shares[places, 1], shares[places, 2] = 1 - second - third, second, third


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
    rows: NDArray[np.intp], columns: NDArray[np.intp], wide: int, high: int
) -> tuple[NDArray[np.intp], NDArray[np.intp], NDArray[np.intp]]:
    """Return places with the holes between them closed, and which of the places given each shows."""
    top, left = max(0, int(rows.min()) - 2), max(0, int(columns.min()) - 2)
    box = (min(high, int(rows.max()) + 3) - top, min(wide, int(columns.max()) + 3) - left)
    filled, shown = np.zeros(box, dtype=bool), np.zeros(box, dtype=np.intp)
    filled[rows - top, columns - left] = True
    shown[rows - top, columns - left] = np.arange(len(rows))
    closed = _closing(filled)
    for down, over in _AROUND:
        holes = closed & ~filled
        if not holes.any():
            break
        beside = np.zeros_like(filled)
        to, of = _shifted(filled.shape, down, over)
        beside[to] = filled[of]
        beside &= holes
        if beside.any():
            moved = np.zeros_like(shown)
            moved[to] = shown[of]
            shown[beside] = moved[beside]
            filled = filled | beside
    found = np.nonzero(closed)
    return found[0] + top, found[1] + left, shown[found]


def _closing(filled: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Return what is filled with holes of one point closed; beyond the edge goes on what stands at it."""
    wide = np.pad(filled, 2, mode="edge")
    grown = _any_beside(wide)
    return np.asarray(~_any_beside(~grown)[2:-2, 2:-2] | filled)


def _any_beside(here: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Return where something is filled at a point or at one of the eight around it."""
    across = here.copy()
    across[:, 1:] |= here[:, :-1]
    across[:, :-1] |= here[:, 1:]
    found = across.copy()
    found[1:] |= across[:-1]
    found[:-1] |= across[1:]
    return found


def _shifted(shape: tuple[int, ...], down: int, over: int) -> tuple[tuple[slice, slice], tuple[slice, slice]]:
    """Return where points go, and where they come from, when a picture is moved by so many rows and columns."""
    rows, columns = shape
    to = (slice(max(0, down), rows + min(0, down)), slice(max(0, over), columns + min(0, over)))
    of = (slice(max(0, -down), rows + min(0, -down)), slice(max(0, -over), columns + min(0, -over)))
    return to, of


def _shares(fine: int) -> Floats:
    """Return barycentric shares of points spread over a triangle, (n, 3)."""
    if fine == 1:
        return np.full((1, 3), 1 / 3)
    steps = (np.arange(fine) + 1 / 3) / fine
    a, b = (item.ravel() for item in np.meshgrid(steps, steps, indexing="ij"))
    keep = a + b < 1
    return np.stack((a[keep], b[keep], 1 - a[keep] - b[keep]), axis=1)


# Points to a side of a triangle, by how far it reaches over the picture: from, to. Larger ones are filled.
_FINENESS = ((1, -1.0, 1.2), (3, 1.2, 2.8), (7, 2.8, 6.5), (18, 6.5, 17.0))
_SHARES = tuple(_shares(fine) for fine, _, _ in _FINENESS)
_OFFSETS = tuple(int(at) for at in np.cumsum([0, *(len(item) for item in _SHARES)])[:-1])
_ALL_SHARES = np.concatenate(_SHARES)

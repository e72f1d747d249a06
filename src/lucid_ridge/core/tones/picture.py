"""The scene as a small picture in EV: what the counts, the histogram and the miniatures are made from.

Sky and ground are followed along the ray of every point; of things the points of their fine meshes are set into the picture, far before near, and
holes between them closed.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise

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


@lru_cache(maxsize=4)
def rays(camera: Camera, wide: int, high: int) -> Floats:
    """Return unit vectors (high, wide, 3) through the middles of a picture's points. They are shared: nobody writes into them."""
    right, up, forward = camera_axes(camera.bearing_deg, camera.pitch_deg, camera.roll_deg)
    width, height = camera.frame_mm
    x = ((np.arange(wide) + 0.5) / wide - 0.5) * width / camera.focal_mm
    y = (0.5 - (np.arange(high) + 0.5) / high) * height / camera.focal_mm
    towards = forward + x[None, :, None] * right + y[:, None, None] * up
    return np.asarray(towards / np.linalg.norm(towards, axis=-1, keepdims=True))


@dataclass(frozen=True)
class Seen:
    """Which points of the picture a layer takes, and of which of its corners (n, 3) each has how large a share (n, 3)."""

    rows: NDArray[np.intp]
    columns: NDArray[np.intp]
    corners: NDArray[np.int32]
    shares: Floats


def paint(pictures: Floats, marks: Marks, layer: Layer, seen: Seen) -> None:
    """Set a layer into pictures and marks, where it is seen."""
    pictures[seen.rows, seen.columns] = np.einsum("nc,nck->nk", seen.shares, layer.values[seen.corners])
    marks[seen.rows, seen.columns] = layer.mark


def paint_each(pictures: Floats, marks: Marks, layers: Sequence[Layer], seen: Sequence[Seen | None]) -> None:
    """Set layers into pictures and marks, the first farthest, each where it is seen."""
    for layer, where in zip(layers, seen, strict=True):
        if where is not None:
            paint(pictures, marks, layer, where)


def seen_of(camera: Camera, layers: Sequence[Layer], wide: int, high: int) -> tuple[Seen | None, ...]:
    """Return where each layer stands in the picture, whatever stands before it; None outside."""
    return _seen(camera, tuple(_Form(layer.points, layer.triangles, layer.mirrored_at_m) for layer in layers), wide, high)


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

    def placed(self) -> Floats:
        if self.mirrored_at_m is None:
            return self.points
        return np.asarray(self.points * np.array([1.0, 1.0, -1.0]) + np.array([0.0, 0.0, 2 * self.mirrored_at_m]))


# Another light falls on the same points of the picture.
@lru_cache(maxsize=16)
def _seen(camera: Camera, forms: tuple[_Form, ...], wide: int, high: int) -> tuple[Seen | None, ...]:
    """Return where forms stand in the picture, each alone: all are worked out at once, in as many pictures, one under another."""
    if not forms:
        return ()
    starts = np.cumsum([0] + [len(form.points) for form in forms])
    matrix = view_matrix(camera)
    u, v, depth = matrix[:, :3] @ np.concatenate([form.placed() for form in forms]).T + matrix[:, 3:]
    near = depth > NEAREST_M
    scale = np.where(near, depth, 1.0)
    x, y = u / scale * wide, v / scale * high
    corners = np.concatenate([form.triangles + start for form, start in zip(forms, starts[:-1], strict=True)])
    of = np.repeat(np.arange(len(forms)), [len(form.triangles) for form in forms])
    inside = _in_the_picture(corners, near, x, y, wide, high)
    corners, of = corners[inside], of[inside]
    order = _far_to_near(corners, of, len(forms), x, y, depth, wide, high)
    corners, of = corners[order], of[order]
    xs, ys = x[corners], y[corners]
    # As many points to a triangle as its size in the picture asks for.
    reach = np.maximum(_spread(xs), _spread(ys))
    # The nearest triangle of its form that has a point there, and which of its points that is: what is hidden is not worked out.
    room = wide * high
    nearest = np.full(len(forms) * room, -1, dtype=np.int64)
    for kind, (_, low, most) in enumerate(_FINENESS):
        these = np.flatnonzero((reach > low) & (reach <= most))
        if not len(these):
            continue
        first, shares = _OFFSETS[kind], _SHARES[kind]
        columns, rows = np.floor(xs[these] @ shares.T).astype(np.int64), np.floor(ys[these] @ shares.T).astype(np.int64)
        within = (columns >= 0) & (columns < wide) & (rows >= 0) & (rows < high)
        code = these[:, None] * len(_ALL_SHARES) + np.arange(first, first + len(shares))
        np.maximum.at(nearest, (of[these, None] * room + rows * wide + columns)[within], code[within])
    these, rows, columns = _filled(np.flatnonzero(reach > _FINENESS[-1][2]), xs, ys, wide, high)
    np.maximum.at(nearest, of[these] * room + rows * wide + columns, these * len(_ALL_SHARES) + len(_ALL_SHARES) - 1)
    found = np.flatnonzero(nearest >= 0)
    triangles, shares = np.divmod(nearest[found], len(_ALL_SHARES))
    shown = _ALL_SHARES[shares]
    whole = np.flatnonzero(shares == len(_ALL_SHARES) - 1)
    rows, columns = np.divmod(found[whole] % room, wide)
    shown[whole] = _barycentric(xs[triangles[whole]], ys[triangles[whole]], columns + 0.5, rows + 0.5)
    places, source = _closed(found, (len(forms), high, wide))
    layer, rows, columns = np.unravel_index(places, (len(forms), high, wide))
    # Of each form its own points again.
    their = (corners[triangles] - starts[of[triangles], None]).astype(np.int32)[source]
    bounds = np.searchsorted(layer, np.arange(len(forms) + 1))
    return tuple(
        Seen(rows[low:most], columns[low:most], their[low:most], shown[source[low:most]]) if most > low else None
        for low, most in pairwise(bounds.tolist())
    )


def _far_to_near(
    corners: NDArray[np.int32], of: NDArray[np.intp], forms: int, x: Floats, y: Floats, depth: Floats, wide: int, high: int
) -> NDArray[np.intp]:
    """Return the triangles that count in order, form by form, each from far to near: of a form with more than the picture shows not all do."""
    away = depth[corners].sum(axis=1)
    order = []
    for low, most in pairwise(np.searchsorted(of, np.arange(forms + 1)).tolist()):
        if most > low:
            kept = np.arange(low, most)[:: max(1, (most - low) // max(1, _TO_A_POINT * _room(corners[low:most], x, y, wide, high)))]
            order.append(kept[np.argsort(-away[kept])])
    return np.concatenate(order) if order else np.zeros(0, dtype=np.intp)


def _filled(
    large: NDArray[np.intp], xs: Floats, ys: Floats, wide: int, high: int
) -> tuple[NDArray[np.intp], NDArray[np.intp], NDArray[np.intp]]:
    """Return which of large triangles has its middle of a point where: triangles, rows and columns."""
    left, right = np.clip(xs[large].min(axis=1), 0, wide).astype(int), np.clip(xs[large].max(axis=1) + 1, 0, wide).astype(int)
    top, foot = np.clip(ys[large].min(axis=1), 0, high).astype(int), np.clip(ys[large].max(axis=1) + 1, 0, high).astype(int)
    of, rows = _ranges(top, foot)
    if not len(of):
        return of, rows, rows
    # Along a row each share of a corner grows or falls evenly: it is not negative on one side of a column.
    x, y = xs[large[of]], ys[large[of]]
    middles = np.asarray(rows + 0.5, dtype=np.float64)
    ends = [_barycentric(x, y, np.full(len(of), at), middles) for at in (0.0, 1.0)]
    begin, grows = ends[0] + 1e-9, ends[1] - ends[0]
    with np.errstate(divide="ignore", invalid="ignore"):
        zero = -begin / grows
    low = np.where(grows > 0, zero, np.where((grows == 0) & (begin < 0), np.inf, -np.inf)).max(axis=1)
    most = np.where(grows < 0, zero, np.inf).min(axis=1)
    # A triangle seen from its edge has no middle of a point.
    thin = ~np.isfinite(ends[0]).all(axis=1)
    first = np.maximum(left[of], np.ceil(np.clip(np.where(thin, np.inf, low) - 0.5, -1, wide)).astype(int))
    last = np.minimum(right[of], np.floor(np.clip(np.where(thin, -np.inf, most) - 0.5, -1, wide)).astype(int) + 1)
    row, columns = _ranges(first, last)
    return large[of[row]], rows[row], columns


def _ranges(first: NDArray[np.intp], last: NDArray[np.intp]) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
    """Return all whole numbers of ranges (the last excluded), one after another: which range each is of, and the number."""
    lengths = np.maximum(0, last - first)
    of = np.repeat(np.arange(len(first)), lengths)
    return of, np.arange(len(of)) - np.repeat(np.cumsum(lengths) - lengths, lengths) + first[of]


def _barycentric(xs: Floats, ys: Floats, x: Floats, y: Floats) -> Floats:
    """Return the shares of triangles' corners (n, 3) at points (n); not finite where a triangle has no area."""
    across, down = xs[:, 1:] - xs[:, :1], ys[:, 1:] - ys[:, :1]
    area = across[:, 0] * down[:, 1] - across[:, 1] * down[:, 0]
    area = np.where(np.abs(area) < 1e-9, np.nan, area)
    x, y = x - xs[:, 0], y - ys[:, 0]
    second, third = (x * down[:, 1] - y * across[:, 1]) / area, (y * across[:, 0] - x * down[:, 0]) / area
    return np.stack((1 - second - third, second, third), axis=1)


def _in_the_picture(triangles: NDArray[np.int32], near: NDArray[np.bool_], x: Floats, y: Floats, wide: int, high: int) -> NDArray[np.bool_]:
    """Return which triangles lie before the camera and not wholly beside one edge of the picture."""
    # One bit for each edge that a point lies beyond, and one for what lies behind the camera.
    beyond = ((x < 0) * 1 + (x >= wide) * 2 + (y < 0) * 4 + (y >= high) * 8 + ~near * 48).astype(np.uint8)
    one, two, three = beyond[triangles].T
    return np.asarray(((one & two & three & 15) == 0) & ((one | two | three) < 16))


def _room(corners: NDArray[np.int32], x: Floats, y: Floats, wide: int, high: int) -> int:
    """Return how many points of the picture the box around triangles has, at least 64."""
    across = min(wide, float(x[corners].max())) - max(0.0, float(x[corners].min()))
    down = min(high, float(y[corners].max())) - max(0.0, float(y[corners].min()))
    return max(64, int(across * down))


def _spread(sides: Floats) -> Floats:
    one, two, three = sides.T
    return np.asarray(np.maximum(np.maximum(one, two), three) - np.minimum(np.minimum(one, two), three))


def _closed(places: NDArray[np.intp], shape: tuple[int, int, int]) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
    """Return places in pictures (n, high, wide) with the holes between them closed, and which of the places given each shows."""
    filled, shown = np.zeros(shape, dtype=bool), np.zeros(shape, dtype=np.intp)
    filled.ravel()[places] = True
    shown.ravel()[places] = np.arange(len(places))
    closed = _closing(filled)
    layer, rows, columns = np.nonzero(closed & ~filled)
    for down, over in _AROUND:
        if not len(layer):
            break
        beside = filled[layer, np.clip(rows - down, 0, shape[1] - 1), np.clip(columns - over, 0, shape[2] - 1)]
        beside &= (rows >= down) & (rows - down < shape[1]) & (columns >= over) & (columns - over < shape[2])
        here = layer[beside], rows[beside], columns[beside]
        shown[here] = shown[here[0], here[1] - down, here[2] - over]
        filled[here] = True
        layer, rows, columns = layer[~beside], rows[~beside], columns[~beside]
    found = np.flatnonzero(closed)
    return found, shown.ravel()[found]


def _closing(filled: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Return what is filled with holes of one point closed; beyond the edge goes on what stands at it."""
    wide = np.pad(filled, ((0, 0), (2, 2), (2, 2)), mode="edge")
    grown = _any_beside(wide)
    return np.asarray(~_any_beside(~grown)[:, 2:-2, 2:-2] | filled)


def _any_beside(here: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Return where something is filled at a point or at one of the eight around it."""
    across = here.copy()
    across[:, :, 1:] |= here[:, :, :-1]
    across[:, :, :-1] |= here[:, :, 1:]
    found = across.copy()
    found[:, 1:] |= across[:, :-1]
    found[:, :-1] |= across[:, 1:]
    return found


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
# The last stands for the middle of a point of the picture, wherever it lies in the triangle.
_ALL_SHARES = np.concatenate((*_SHARES, np.full((1, 3), 1 / 3)))

"""The scene as a small picture in EV: what the counts, the histogram and the miniatures are made from.

Sky and ground are followed along the ray of every point; of things the points of their fine meshes are set into the picture, far before near, and
holes between them closed.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from ..framing.fine_meshes import Grid, fewer_triangles
from ..framing.outlines import NEAREST_M
from ..framing.projection import Camera, camera_axes, view_matrix
from ..light.direction import lengths

Floats = NDArray[np.float64]
Marks = NDArray[np.int32]
SKY, LAND, GROUND = -1, -2, -3
# The points around one, the nearest first.
_AROUND = ((0, 1), (0, -1), (1, 0), (-1, 0), (1, 1), (1, -1), (-1, 1), (-1, -1))
# More triangles than this to a point of the picture tell no more; on fewer points than these they are not counted.
_TO_A_POINT, _SMALLEST_ROOM = 3, 64
# What stands so little over the water stands in it [m].
_IN_WATER_M = 0.01
_GOLDEN = (3 - math.sqrt(5)) / 2
# Rows and columns of a mesh stand at most so far apart [points of the picture] where some are left out, and so many are left at least.
_POINTS_APART, _FEWEST = 1.0, 6


@dataclass(frozen=True)
class Layer:
    """Something to be set into the picture. mark: whose it is, an element's index or one of the constants. triangles: (m, 3).

    values: of every point, shape (n, k), for as many pictures. mirrored_at_m: the level of the water that shows it upside down.
    closed: but for its foot who stands outside sees none of its triangles from within; they run counter-clockwise from outside.
    """

    points: Floats
    triangles: NDArray[np.int32]
    values: Floats
    mark: int
    mirrored_at_m: float | None = None
    closed: bool = False


@lru_cache(maxsize=4)
def rays(camera: Camera, wide: int, high: int) -> Floats:
    """Return unit vectors (high, wide, 3) through the middles of a picture's points. They are shared: nobody writes into them."""
    axes = np.array(camera_axes(camera.bearing_deg, camera.pitch_deg, camera.roll_deg))
    width, height = (side / camera.focal_mm for side in camera.frame_mm)
    return np.asarray(_rays_ahead(width, height, wide, high) @ axes)


# A camera that turns looks through the same frame.
@lru_cache(maxsize=8)
def _rays_ahead(width: float, height: float, wide: int, high: int) -> Floats:
    """Return the same to the right, upwards and ahead; width, height: of the frame over the focal length."""
    x, y = np.meshgrid(((np.arange(wide) + 0.5) / wide - 0.5) * width, (0.5 - (np.arange(high) + 0.5) / high) * height)
    towards = np.stack((x, y, np.ones_like(x)), axis=-1)
    return np.asarray(towards / lengths(towards)[..., None])


@dataclass(frozen=True)
class Seen:
    """Where layers stand in a picture, each alone: all points of the first layer, then of the next.

    places: which of the picture's points each takes (row times width, and column); bounds: where a layer's points begin, and where the last's end.
    """

    places: NDArray[np.intp]
    bounds: NDArray[np.intp]
    _hits: _Hits
    # A hole takes what stands beside it.
    _source: NDArray[np.intp]

    def lay(self, top: NDArray[np.intp], layer: int) -> None:
        """Set a layer upon what is on top: for every point of the picture which point of all layers' stands there."""
        low, most = self.bounds[layer], self.bounds[layer + 1]
        top[self.places[low:most]] = np.arange(low, most)

    def layer_of(self, points: NDArray[np.intp]) -> NDArray[np.intp]:
        """Return which layer points belong to."""
        return np.searchsorted(self.bounds, points, "right") - 1

    def shown(self, points: NDArray[np.intp], values: Floats) -> Floats:
        """Return what points (n,) show, (n, k). values: of all layers' own points one after another, (m, k)."""
        corners, shares = self._hits.at(self._source.take(points))
        return np.asarray(np.einsum("nc,nck->nk", shares, values.take(corners, axis=0)))


def enough_triangles(
    camera: Camera, points: Floats, triangles: NDArray[np.int32], grid: Grid | None, wide: int, high: int
) -> NDArray[np.int32]:
    """Return as many of a mesh's triangles as a picture shows: of rows and columns of a grid that stand closer than its points not every one."""
    if grid is None:
        return triangles
    rows, columns, _ = grid
    index = np.arange(rows * columns).reshape(rows, columns)
    lines = index[:, columns // 2], index[rows // 2]
    x, y, depth = _projected(view_matrix(camera), points.take(np.concatenate(lines), axis=0), wide, high)
    if (depth <= NEAREST_M).any():
        return triangles
    apart = np.hypot(np.diff(x), np.diff(y))
    steps = [int(_POINTS_APART // max(1e-6, part.max())) for part in (apart[: rows - 1], apart[rows:])]
    down, over = (min(max(1, step), max(1, count // _FEWEST)) for step, count in zip(steps, (rows, columns), strict=True))
    return triangles if (down, over) == (1, 1) else fewer_triangles(grid, down, over)


def seen_of(camera: Camera, layers: Sequence[Layer], wide: int, high: int) -> Seen:
    """Return where each layer stands in the picture, whatever stands before it."""
    return _seen(camera, tuple(_Form(layer.points, layer.triangles, layer.mirrored_at_m, layer.closed) for layer in layers), wide, high)


@dataclass(frozen=True, eq=False)
class _Form:
    """What of a layer does not change with its light; the same arrays are the same form."""

    points: Floats
    triangles: NDArray[np.int32]
    mirrored_at_m: float | None
    closed: bool

    def __eq__(self, other: object) -> bool:
        if not isinstance(other, _Form):
            return NotImplemented
        alike = self.mirrored_at_m == other.mirrored_at_m and self.closed == other.closed
        return self.points is other.points and self.triangles is other.triangles and alike

    def __hash__(self) -> int:
        return hash((id(self.points), id(self.triangles), self.mirrored_at_m))

    def turn(self) -> int:
        """Return which way round triangles that face the eye run in the picture; 0: those that do not are seen as well."""
        if not self.closed:
            return 0
        if self.mirrored_at_m is None:
            return 1
        # What stands higher than the water shows its open foot in it.
        return -1 if self.points[:, 2].min() <= self.mirrored_at_m + _IN_WATER_M else 0

    def placed(self) -> Floats:
        if self.mirrored_at_m is None:
            return self.points
        return np.asarray(self.points * np.array([1.0, 1.0, -1.0]) + np.array([0.0, 0.0, 2 * self.mirrored_at_m]))


@dataclass(frozen=True)
class _Joined:
    """Forms one after another. points: (n, 3); corners: of their triangles, (3, m), by their place in points; of: whose form each triangle is.

    turns: of each form, which way round its triangles run in the picture where they face the eye: 1, -1 in a mirror; 0: either way.
    low, high: around each form, (n, 3).
    """

    points: Floats
    corners: NDArray[np.intp]
    of: NDArray[np.intp]
    turns: NDArray[np.intp]
    low: Floats
    high: Floats

    def turns_before(self, camera: Camera) -> NDArray[np.intp]:
        """Return turns as a camera sees them: who stands in a thing sees it from within, and so does who stands lower, since things have no floor."""
        eye = np.array([camera.east_m, camera.north_m, camera.height_m])
        within = ((self.low <= eye) & (eye <= self.high)).all(axis=1)
        return np.where(within | ((self.turns > 0) & (eye[2] < self.low[:, 2])), 0, self.turns)


# A camera that turns sees the same forms.
@lru_cache(maxsize=4)
def _joined(forms: tuple[_Form, ...]) -> _Joined:
    if not forms:
        none = np.zeros(0, dtype=np.intp)
        return _Joined(np.zeros((0, 3)), np.zeros((3, 0), dtype=np.intp), none, none, np.zeros((0, 3)), np.zeros((0, 3)))
    starts = np.cumsum([0] + [len(form.points) for form in forms])
    corners = np.concatenate([form.triangles.T + start for form, start in zip(forms, starts[:-1], strict=True)], axis=1)
    of = np.repeat(np.arange(len(forms)), [len(form.triangles) for form in forms])
    turns = np.array([form.turn() for form in forms])
    placed = [form.placed() for form in forms]
    low, high = (np.array([bound(points, axis=0) for points in placed]) for bound in (np.min, np.max))
    return _Joined(np.concatenate(placed), corners.astype(np.intp), of, turns, low, high)


@dataclass(frozen=True)
class _Hits:
    """Which triangle stands where in pictures one under another, and which of its points. corners: of all triangles, by their place in all forms' points;
    xs, ys: where those are in the picture. All (3, m).
    """

    corners: NDArray[np.intp]
    xs: Floats
    ys: Floats
    found: NDArray[np.intp]
    codes: Marks
    wide: int
    high: int

    def at(self, which: NDArray[np.intp]) -> tuple[NDArray[np.intp], Floats]:
        """Return the corners of the triangles that stand there, and how large a share each has, (n, 3) each."""
        triangles, sample = np.divmod(self.codes.take(which), len(_ALL_SHARES))
        shares = _ALL_SHARES.take(sample, axis=0)
        whole = np.flatnonzero(sample == len(_ALL_SHARES) - 1)
        _, rows, columns = _places_of(self.found.take(which.take(whole)), self.high, self.wide)
        filled, x, y = triangles.take(whole), np.asarray(columns + 0.5), np.asarray(rows + 0.5)
        shares[whole] = _barycentric(self.xs.take(filled, axis=1).T, self.ys.take(filled, axis=1).T, x, y)
        return self.corners.take(triangles, axis=1).T, shares


# Another light falls on the same points of the picture.
@lru_cache(maxsize=16)
def _seen(camera: Camera, forms: tuple[_Form, ...], wide: int, high: int) -> Seen:
    """Return where forms stand in the picture, each alone: all are worked out at once, in as many pictures, one under another."""
    joined = _joined(forms)
    matrix = view_matrix(camera)
    x, y, depth = _projected(matrix, joined.points, wide, high)
    # Rows are taken with `take`, several times as quick as an index in brackets.
    inside = np.flatnonzero(_in_the_picture(joined.corners, depth > NEAREST_M, x, y, wide, high))
    corners, of = joined.corners.take(inside, axis=1), joined.of.take(inside)
    xs, ys = x.take(corners), y.take(corners)
    boxes = left, right, top, foot = xs.min(axis=0), xs.max(axis=0), ys.min(axis=0), ys.max(axis=0)
    facing = joined.turns_before(camera).take(of) * _doubled_area(xs, ys) >= 0
    order = _far_to_near(boxes, facing, of, len(forms), depth.take(corners).sum(axis=0), wide, high)
    corners, of, xs, ys = corners.take(order, axis=1), of.take(order), xs.take(order, axis=1), ys.take(order, axis=1)
    reach = np.maximum(right - left, foot - top).take(order)
    length, breadth = _longest_side_first(np.flatnonzero(reach > _SLIM_FROM), corners, xs, ys, reach)
    nearest = _nearest(of, xs, ys, length, breadth, (len(forms), high, wide)).ravel()
    found = np.flatnonzero(nearest >= 0)
    places, source = _closed(found, (len(forms), high, wide))
    room = wide * high
    bounds = np.searchsorted(places, np.arange(len(forms) + 1) * room)
    return Seen(places % room, bounds, _Hits(corners, xs, ys, found, nearest.take(found), wide, high), source)


def _longest_side_first(these: NDArray[np.intp], corners: NDArray[np.intp], xs: Floats, ys: Floats, reach: Floats) -> tuple[Floats, Floats]:
    """Turn some of the triangles (3, m) so that their first two corners are farthest apart in the picture; return how long that side is of each and how
    broad it is across it. The others are as long as they reach, and broad enough for anything."""
    x, y = xs.take(these, axis=1), ys.take(these, axis=1)
    sides = np.array([np.square(x[one] - x[other]) + np.square(y[one] - y[other]) for one, other in ((0, 1), (1, 2), (2, 0))])
    first = sides.argmax(axis=0)
    for turn in (1, 2):
        turned = these.take(np.flatnonzero(first == turn))
        for item in (corners, xs, ys):
            item[:, turned] = item.take(turned, axis=1)[[turn, (turn + 1) % 3, (turn + 2) % 3]]
    length, breadth = reach.copy(), np.full(xs.shape[1], np.inf)
    length[these] = np.sqrt(np.maximum(sides.max(axis=0), 1e-18))
    breadth[these] = np.abs(_doubled_area(x, y)) / length[these]
    return length, breadth


def _doubled_area(x: Floats, y: Floats) -> Floats:
    """Return twice the area of triangles (3, m) in the picture, positive where they run counter-clockwise in it (its rows run downwards)."""
    return np.asarray((x[2] - x[0]) * (y[1] - y[0]) - (x[1] - x[0]) * (y[2] - y[0]))


def _nearest(of: NDArray[np.intp], xs: Floats, ys: Floats, length: Floats, breadth: Floats, shape: tuple[int, int, int]) -> Marks:
    """Return the nearest triangle for each point of the pictures (n, high, wide), and which of its points is there; -1: none.

    Triangles come from far to near, so that of those set to one place the last one stays; what is hidden is not worked out.
    """
    forms, high, wide = shape
    # A triangle that is not wholly beyond one edge goes no farther beyond it than it reaches.
    edge = math.ceil(_SAMPLED_REACH) + 1
    across = wide + 2 * edge
    canvas = np.full((forms, high + 2 * edge, across), -1, dtype=np.int32)
    area, flat = canvas[0].size, canvas.ravel()
    kind = _kinds(length, breadth)
    # The first stay the farthest.
    by_kind = np.argsort(kind, kind="stable")
    bounds = np.searchsorted(kind.take(by_kind), np.arange(len(_SAMPLINGS) + 1)).tolist()
    for sampling, (low, most) in zip(_SAMPLINGS, pairwise(bounds), strict=True):
        these = by_kind[low:most]
        if len(these):
            columns, rows = ((sides.take(these, axis=1).T @ sampling.shares.T + edge).astype(np.intp) for sides in (xs, ys))
            places = (of[these, None] * area + rows * across + columns).ravel()
            codes = (these * len(_ALL_SHARES) + sampling.first).astype(np.int32)[:, None] + np.arange(len(sampling.shares), dtype=np.int32)
            flat[places] = np.maximum(flat[places], codes.ravel())
    these, rows, columns = _filled(by_kind[bounds[-1] :], xs.T, ys.T, wide, high)
    places = of[these] * area + (rows + edge) * across + columns + edge
    flat[places] = np.maximum(flat[places], (these * len(_ALL_SHARES) + len(_ALL_SHARES) - 1).astype(np.int32))
    return canvas[:, edge:-edge, edge:-edge]


def _far_to_near(
    boxes: tuple[Floats, ...], facing: NDArray[np.bool_], of: NDArray[np.intp], forms: int, away: Floats, wide: int, high: int
) -> NDArray[np.intp]:
    """Return the triangles that count in order, form by form, each from far to near: of those facing the eye, but where they are more than the picture
    shows not all.

    boxes: around them, left, right, top and foot.
    """
    order = []
    for low, most in pairwise(np.searchsorted(of, np.arange(forms + 1)).tolist()):
        kept = np.flatnonzero(facing[low:most]) + low
        if len(kept):
            every = 0
            if len(kept) >= 2 * _TO_A_POINT * _SMALLEST_ROOM:
                left, right, top, foot = (sides[low:most] for sides in boxes)
                every = len(kept) // (_TO_A_POINT * _room(left, right, top, foot, wide, high))
            # No whole number: every seventieth of a mesh with seventy columns would be one column of it.
            kept = kept if every < 2 else kept[np.arange(0, len(kept), every - _GOLDEN).astype(np.intp)]
            order.append(kept[_far_first(away[kept])])
    return np.concatenate(order) if order else np.zeros(0, dtype=np.intp)


def _far_first(away: Floats) -> NDArray[np.intp]:
    """Return the order from far to near, in 65,536 steps: whole numbers of 16 bits are sorted in a fifth of the time."""
    near, far = away.min(), away.max()
    steps = (far - away) * (65535 / max(far - near, 1e-300))
    return np.argsort(steps.astype(np.uint16), kind="stable")


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


def _barycentric(xs: Floats, ys: Floats, x: NDArray[np.floating], y: NDArray[np.floating]) -> Floats:
    """Return the shares of triangles' corners (n, 3) at points (n); not finite where a triangle has no area."""
    across, down = xs[:, 1:] - xs[:, :1], ys[:, 1:] - ys[:, :1]
    area = across[:, 0] * down[:, 1] - across[:, 1] * down[:, 0]
    area = np.where(np.abs(area) < 1e-9, np.nan, area)
    x, y = x - xs[:, 0], y - ys[:, 0]
    second, third = (x * down[:, 1] - y * across[:, 1]) / area, (y * across[:, 0] - x * down[:, 0]) / area
    return np.stack((1 - second - third, second, third), axis=1)


def _projected(matrix: Floats, points: Floats, wide: int, high: int) -> tuple[Floats, Floats, Floats]:
    """Return where points (n, 3) stand in the picture [its points], and how far along the axis [m]; what is not before the camera stands anywhere."""
    u, v, depth = matrix[:, :3] @ points.T + matrix[:, 3:]
    scale = np.where(depth > NEAREST_M, depth, 1.0)
    return u / scale * wide, v / scale * high, depth


def _in_the_picture(triangles: NDArray[np.intp], near: NDArray[np.bool_], x: Floats, y: Floats, wide: int, high: int) -> NDArray[np.bool_]:
    """Return which triangles lie before the camera and not wholly beside one edge of the picture."""
    # One bit for each edge that a point lies beyond, and one for what lies behind the camera.
    beyond = ((x < 0) * 1 + (x >= wide) * 2 + (y < 0) * 4 + (y >= high) * 8 + ~near * 48).astype(np.uint8)
    one, two, three = (beyond[corner] for corner in triangles)
    return np.asarray(((one & two & three & 15) == 0) & ((one | two | three) < 16))


def _room(left: Floats, right: Floats, top: Floats, foot: Floats, wide: int, high: int) -> int:
    """Return how many points of the picture the box around triangles has, or the fewest that are counted."""
    across = min(wide, float(right.max())) - max(0.0, float(left.min()))
    down = min(high, float(foot.max())) - max(0.0, float(top.min()))
    return max(_SMALLEST_ROOM, int(across * down))


def _closed(places: NDArray[np.intp], shape: tuple[int, int, int]) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
    """Return places in pictures (n, high, wide) with the holes between them closed, and which of the places given each shows."""
    filled, shown = np.zeros(shape, dtype=bool), np.zeros(shape, dtype=np.intp)
    filled.ravel()[places] = True
    shown.ravel()[places] = np.arange(len(places))
    closed = _closing(filled)
    layer, rows, columns = _places_of(np.flatnonzero(closed & ~filled), shape[1], shape[2])
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


def _places_of(places: NDArray[np.intp], high: int, wide: int) -> tuple[NDArray[np.intp], NDArray[np.intp], NDArray[np.intp]]:
    """Return which picture, row and column places in pictures one under another are: numpy's `unravel_index`, in half of its time."""
    lines, columns = np.divmod(places, wide)
    layer, rows = np.divmod(lines, high)
    return layer, rows, columns


def _closing(filled: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Return what is filled with holes of one point closed; beyond the edge goes on what stands at it."""
    count, high, across = filled.shape
    # What numpy's `pad` does with its mode "edge", in a sixth of the time.
    wide = np.empty((count, high + 4, across + 4), dtype=bool)
    wide[:, 2:-2, 2:-2] = filled
    wide[:, 2:-2, :2], wide[:, 2:-2, -2:] = filled[:, :, :1], filled[:, :, -1:]
    wide[:, :2], wide[:, -2:] = wide[:, 2:3], wide[:, -3:-2]
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


@dataclass(frozen=True)
class _Sampling:
    """Points spread over triangles: shares of their corners, (n, 3); first: its place in all shares."""

    shares: Floats
    first: int


def _shares(along: int, across: int) -> Floats:
    """Return barycentric shares of points spread over a triangle, so many steps along its longest side and across it, (n, 3)."""
    a, b = (item.ravel() for item in np.meshgrid(*((np.arange(steps) + 1 / 3) / steps for steps in (along, across)), indexing="ij"))
    keep = a + b < 1
    return np.stack((1 - a[keep] - b[keep], a[keep], b[keep]), axis=1)


# How many steps a length in the picture is divided into, up to which length; a breadth likewise, and broader ones as finely as they are long. However a
# triangle is turned, steps of 0.7 to either side leave hardly a point of the picture out: along and across they come to less than its diagonal.
_LENGTHS, _ALONG = np.array([1.0, 1.4, 2.1, 2.8, 6.5, 17.0]), (1, 2, 3, 4, 9, 28)
_BREADTHS, _ACROSS = np.array([0.7, 2.1, 4.9]), (1, 4, 8)
# The first of them are sampled alike along and across.
_PLAIN = 4
_SLIM_FROM, _SAMPLED_REACH = float(_LENGTHS[_PLAIN - 1]), float(_LENGTHS[-1])


def _kinds(length: Floats, breadth: Floats) -> NDArray[np.uint8]:
    """Return how each triangle is sampled: a place in _SAMPLINGS, or beyond the last for those that are filled."""
    long, broad = np.searchsorted(_LENGTHS, length), np.searchsorted(_BREADTHS, breadth)
    return np.where(
        long < _PLAIN, long, np.where(long < len(_LENGTHS), _PLAIN + (len(_BREADTHS) + 1) * (long - _PLAIN) + broad, len(_SAMPLINGS))
    ).astype(np.uint8)


def _samplings() -> tuple[_Sampling, ...]:
    steps = [(along, along) for along in _ALONG[:_PLAIN]] + [(along, across) for along in _ALONG[_PLAIN:] for across in (*_ACROSS, along)]
    made: list[_Sampling] = []
    # What is long and broad is filled.
    for along, across in steps[:-1]:
        made.append(_Sampling(_shares(along, across), sum(len(item.shares) for item in made)))
    return tuple(made)


_SAMPLINGS = _samplings()
# The last stands for the middle of a point of the picture, wherever it lies in the triangle.
_ALL_SHARES = np.concatenate((*(item.shares for item in _SAMPLINGS), np.full((1, 3), 1 / 3)))

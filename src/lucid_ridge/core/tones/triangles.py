"""Triangles set into small pictures: sampled as finely as they are long and broad there, large ones filled row by row,
far before near.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from ..framing.outlines import NEAREST_M

Floats = NDArray[np.float64]
Codes = NDArray[np.int32]
# More triangles than this per point of the picture add nothing; on fewer points than the second they are not counted.
_TO_A_POINT, _SMALLEST_ROOM = 3, 64
_GOLDEN = (3 - math.sqrt(5)) / 2


@dataclass(frozen=True)
class Hits:
    """Which triangle stands where in pictures one under another, and which of its points.

    corners: of all triangles, by their place in all forms' points; xs, ys: where those are in the picture. All (3, m).
    found: the places taken in all pictures, one after another; codes: of each, a triangle and one of its points.
    """

    corners: NDArray[np.intp]
    xs: Floats
    ys: Floats
    found: NDArray[np.intp]
    codes: Codes
    wide: int
    high: int

    def at(self, which: NDArray[np.intp]) -> tuple[NDArray[np.intp], Floats]:
        """Return the corners of the triangles that stand there, and how large a share each has, (n, 3) each."""
        triangles, sample = np.divmod(self.codes.take(which), len(_ALL_SHARES))
        shares = _ALL_SHARES.take(sample, axis=0)
        whole = np.flatnonzero(sample == len(_ALL_SHARES) - 1)
        rows, columns = np.divmod(self.found.take(which.take(whole)) % (self.wide * self.high), self.wide)
        filled, x, y = triangles.take(whole), np.asarray(columns + 0.5), np.asarray(rows + 0.5)
        shares[whole] = _barycentric(self.xs.take(filled, axis=1).T, self.ys.take(filled, axis=1).T, x, y)
        return self.corners.take(triangles, axis=1).T, shares


def hits_of(
    corners: NDArray[np.intp],
    of: NDArray[np.intp],
    turns: NDArray[np.intp],
    at: tuple[Floats, Floats, Floats],
    shape: tuple[int, int, int],
) -> Hits:
    """Return which triangle stands where in pictures (n, high, wide), each form in one of its own.

    corners: (3, m), by their place among all points; of: whose form each triangle is; turns: of each form, which way
    round triangles that face the eye run (1, -1; 0: either way is seen); at: where all points are in the picture, and
    how far along the axis [m].
    """
    x, y, depth = at
    forms, high, wide = shape
    # Rows are taken with `take`, several times as quick as an index in brackets.
    inside = np.flatnonzero(_in_the_picture(corners, depth > NEAREST_M, x, y, wide, high))
    corners, of = corners.take(inside, axis=1), of.take(inside)
    xs, ys = x.take(corners), y.take(corners)
    boxes = left, right, top, foot = xs.min(axis=0), xs.max(axis=0), ys.min(axis=0), ys.max(axis=0)
    facing = turns.take(of) * _doubled_area(xs, ys) >= 0
    order = _far_to_near(boxes, facing, of, forms, depth.take(corners).sum(axis=0), wide, high)
    corners, of, xs, ys = corners.take(order, axis=1), of.take(order), xs.take(order, axis=1), ys.take(order, axis=1)
    reach = np.maximum(right - left, foot - top).take(order)
    length, breadth = _longest_side_first(np.flatnonzero(reach > _SLIM_FROM), corners, xs, ys, reach)
    nearest = _nearest(of, xs, ys, length, breadth, shape).ravel()
    found = np.flatnonzero(nearest >= 0)
    return Hits(corners, xs, ys, found, nearest.take(found), wide, high)


def _longest_side_first(
    these: NDArray[np.intp], corners: NDArray[np.intp], xs: Floats, ys: Floats, reach: Floats
) -> tuple[Floats, Floats]:
    """Turn some of the triangles (3, m) so that their first two corners are farthest apart in the picture; return how
    long that side is of each and how broad it is across it.

    The others are as long as they reach, and broad enough for anything.
    """
    x, y = xs.take(these, axis=1), ys.take(these, axis=1)
    sides = np.array(
        [np.square(x[one] - x[other]) + np.square(y[one] - y[other]) for one, other in ((0, 1), (1, 2), (2, 0))]
    )
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
    """Return twice the area of triangles (3, m) in the picture, positive where they run counter-clockwise in it (its
    rows run downwards).
    """
    return np.asarray((x[2] - x[0]) * (y[1] - y[0]) - (x[1] - x[0]) * (y[2] - y[0]))


def _nearest(
    of: NDArray[np.intp], xs: Floats, ys: Floats, length: Floats, breadth: Floats, shape: tuple[int, int, int]
) -> Codes:
    """Return the nearest triangle for each point of the pictures (n, high, wide), and the index of its point there;
    -1: none.

    Triangles are ordered from far to near, so that the last one at a place stays; hidden ones are not computed.
    """
    forms, high, wide = shape
    # A triangle that is not wholly beyond one edge goes no farther beyond it than it reaches.
    edge = math.ceil(_SAMPLED_REACH) + 1
    across = wide + 2 * edge
    canvas = np.full((forms, high + 2 * edge, across), -1, dtype=np.int32)
    area, flat = (high + 2 * edge) * across, canvas.ravel()
    kind = _kinds(length, breadth)
    # The first stay the farthest.
    by_kind = np.argsort(kind, kind="stable")
    bounds = np.searchsorted(kind.take(by_kind), np.arange(len(_SAMPLINGS) + 1)).tolist()
    for sampling, (low, most) in zip(_SAMPLINGS, pairwise(bounds), strict=True):
        these = by_kind[low:most]
        if len(these):
            columns, rows = (
                (sides.take(these, axis=1).T @ sampling.shares.T + edge).astype(np.intp) for sides in (xs, ys)
            )
            places = (of[these, None] * area + rows * across + columns).ravel()
            codes = (these * len(_ALL_SHARES) + sampling.first).astype(np.int32)[:, None] + np.arange(
                len(sampling.shares), dtype=np.int32
            )
            flat[places] = np.maximum(flat[places], codes.ravel())
    these, rows, columns = _filled(by_kind[bounds[-1] :], xs.T, ys.T, wide, high)
    places = of[these] * area + (rows + edge) * across + columns + edge
    flat[places] = np.maximum(flat[places], (these * len(_ALL_SHARES) + len(_ALL_SHARES) - 1).astype(np.int32))
    return canvas[:, edge:-edge, edge:-edge]


def _far_to_near(
    boxes: tuple[Floats, ...],
    facing: NDArray[np.bool_],
    of: NDArray[np.intp],
    forms: int,
    away: Floats,
    wide: int,
    high: int,
) -> NDArray[np.intp]:
    """Return the triangles that count in order, form by form, each from far to near: of those facing the eye, but
    where they are more than the picture shows not all.

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
    """Return the order from far to near, in 65,536 steps: whole numbers of 16 bits are sorted in a fifth of the
    time.
    """
    near, far = away.min(), away.max()
    steps = (far - away) * (65535 / max(far - near, 1e-300))
    return np.argsort(steps.astype(np.uint16), kind="stable")


def _filled(
    large: NDArray[np.intp], xs: Floats, ys: Floats, wide: int, high: int
) -> tuple[NDArray[np.intp], NDArray[np.intp], NDArray[np.intp]]:
    """Return which of large triangles has its middle of a point where: triangles, rows and columns."""
    left, right = (
        np.clip(xs[large].min(axis=1), 0, wide).astype(int),
        np.clip(xs[large].max(axis=1) + 1, 0, wide).astype(int),
    )
    top, foot = (
        np.clip(ys[large].min(axis=1), 0, high).astype(int),
        np.clip(ys[large].max(axis=1) + 1, 0, high).astype(int),
    )
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
    """Return all whole numbers of ranges (the last excluded), one after another: which range each is of, and the
    number.
    """
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


def _in_the_picture(
    triangles: NDArray[np.intp], near: NDArray[np.bool_], x: Floats, y: Floats, wide: int, high: int
) -> NDArray[np.bool_]:
    """Return which triangles lie before the camera and not wholly beside one edge of the picture."""
    # One bit for each edge that a point lies beyond, and one for points behind the camera.
    beyond = ((x < 0) * 1 + (x >= wide) * 2 + (y < 0) * 4 + (y >= high) * 8 + ~near * 48).astype(np.uint8)
    one, two, three = (beyond[corner] for corner in triangles)
    return np.asarray(((one & two & three & 15) == 0) & ((one | two | three) < 16))


def _room(left: Floats, right: Floats, top: Floats, foot: Floats, wide: int, high: int) -> int:
    """Return how many points of the picture the box around triangles has, or the fewest that are counted."""
    across = min(wide, float(right.max())) - max(0.0, float(left.min()))
    down = min(high, float(foot.max())) - max(0.0, float(top.min()))
    return max(_SMALLEST_ROOM, int(across * down))


@dataclass(frozen=True)
class _Sampling:
    """Points spread over triangles: shares of their corners, (n, 3); first: its place in all shares."""

    shares: Floats
    first: int


def _shares(along: int, across: int) -> Floats:
    """Return barycentric coordinates of points spread over a triangle, with the given number of steps along its
    longest side and across it, (n, 3).
    """
    a, b = (
        item.ravel()
        for item in np.meshgrid(*((np.arange(steps) + 1 / 3) / steps for steps in (along, across)), indexing="ij")
    )
    keep = a + b < 1
    return np.stack((1 - a[keep] - b[keep], a[keep], b[keep]), axis=1)


# How many steps a length in the picture is divided into, up to which length; a breadth likewise, and broader ones as
# finely as they are long. However a triangle is turned, steps of 0.7 to either side leave hardly a point of the picture
# out: along and across they come to less than its diagonal.
_LENGTHS, _ALONG = np.array([1.0, 1.4, 2.1, 2.8, 6.5, 17.0]), (1, 2, 3, 4, 9, 28)
_BREADTHS, _ACROSS = np.array([0.7, 2.1, 4.9]), (1, 4, 8)
# The first of them are sampled alike along and across.
_PLAIN = 4
_SLIM_FROM, _SAMPLED_REACH = float(_LENGTHS[_PLAIN - 1]), float(_LENGTHS[-1])


def _kinds(length: Floats, breadth: Floats) -> NDArray[np.uint8]:
    """Return how each triangle is sampled: a place in _SAMPLINGS, or beyond the last for those that are filled."""
    long, broad = np.searchsorted(_LENGTHS, length), np.searchsorted(_BREADTHS, breadth)
    return np.where(
        long < _PLAIN,
        long,
        np.where(long < len(_LENGTHS), _PLAIN + (len(_BREADTHS) + 1) * (long - _PLAIN) + broad, len(_SAMPLINGS)),
    ).astype(np.uint8)


def _samplings() -> tuple[_Sampling, ...]:
    steps = [(along, along) for along in _ALONG[:_PLAIN]] + [
        (along, across) for along in _ALONG[_PLAIN:] for across in (*_ACROSS, along)
    ]
    made: list[_Sampling] = []
    # What is long and broad is filled.
    for along, across in steps[:-1]:
        made.append(_Sampling(_shares(along, across), sum(len(item.shares) for item in made)))
    return tuple(made)


_SAMPLINGS = _samplings()
# The last stands for the middle of a point of the picture, wherever it lies in the triangle.
_ALL_SHARES = np.concatenate((*(item.shares for item in _SAMPLINGS), np.full((1, 3), 1 / 3)))

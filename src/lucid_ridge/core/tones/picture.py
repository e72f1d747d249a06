"""The scene as a small picture in EV: what the counts, the histogram and the miniatures are made from.

Sky and ground are followed along the ray of every point; of things the triangles of their fine meshes are set into the
picture (triangles.py), and holes between them closed (holes.py).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from ..framing.fine_mesh import Grid, fewer_triangles
from ..framing.outlines import NEAREST_M
from ..framing.projection import Camera, camera_axes, view_matrix
from ..light.direction import lengths
from .holes import closed
from .triangles import Hits, hits_of

Floats = NDArray[np.float64]
Marks = NDArray[np.int32]
SKY, LAND, GROUND = -1, -2, -3
# Points this little above the water stand in it [m].
_IN_WATER_M = 0.01
# Rows and columns of a mesh stand at most so far apart [points of the picture] where some are left out, and so many
# are left at least.
_POINTS_APART, _FEWEST = 1.0, 6


@dataclass(frozen=True)
class Layer:
    """Something to be set into the picture.

    mark: whose it is, an element's index or one of the constants. triangles: (m, 3).

    values: of every point, shape (n, k), for as many pictures. mirrored_at_m: the level of the water that shows it
    upside down. closed: but for its foot who stands outside sees none of its triangles from within; they run
    counter-clockwise from outside.
    """

    points: Floats
    triangles: NDArray[np.int32]
    values: Floats
    mark: int
    mirrored_at_m: float | None = None
    closed: bool = False


@lru_cache(maxsize=4)
def rays(camera: Camera, wide: int, high: int) -> Floats:
    """Return unit vectors (high, wide, 3) through the middles of a picture's points.

    They are shared: nobody writes into them.
    """
    axes = camera_axes(camera.bearing_deg, camera.pitch_deg, camera.roll_deg)
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

    places: which of the picture's points each takes (row times width, and column); bounds: where a layer's points
    begin, and where the last's end.
    """

    places: NDArray[np.intp]
    bounds: NDArray[np.intp]
    _hits: Hits
    # A hole takes the value beside it.
    _source: NDArray[np.intp]

    def lay(self, top: NDArray[np.intp], layer: int) -> None:
        """Add a layer on top: for every point of the picture, store which layer's point is in front."""
        low, most = self.bounds[layer], self.bounds[layer + 1]
        top[self.places[low:most]] = np.arange(low, most)

    def layer_of(self, points: NDArray[np.intp]) -> NDArray[np.intp]:
        """Return which layer points belong to."""
        return np.searchsorted(self.bounds, points, "right") - 1

    def shown(self, points: NDArray[np.intp], values: Floats) -> Floats:
        """Return the values shown at points (n,), shape (n, k).

        values: of all layers' points one after another, (m, k).
        """
        corners, shares = self._hits.at(self._source.take(points))
        return np.asarray(np.einsum("nc,nck->nk", shares, values.take(corners, axis=0)))


def enough_triangles(
    camera: Camera, points: Floats, triangles: NDArray[np.int32], grid: Grid | None, wide: int, high: int
) -> NDArray[np.int32]:
    """Return as many of a mesh's triangles as a picture shows: of rows and columns of a grid that stand closer than
    its points not every one.
    """
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
    down, over = (
        min(max(1, step), max(1, count // _FEWEST)) for step, count in zip(steps, (rows, columns), strict=True)
    )
    return triangles if (down, over) == (1, 1) else fewer_triangles(grid, down, over)


def seen_of(camera: Camera, layers: Sequence[Layer], wide: int, high: int) -> Seen:
    """Return where each layer stands in the picture, whatever stands before it."""
    return _seen(
        camera,
        tuple(_Form(layer.points, layer.triangles, layer.mirrored_at_m, layer.closed) for layer in layers),
        wide,
        high,
    )


@dataclass(frozen=True, eq=False)
class _Form:
    """What of a layer does not change with its light; the same arrays are the same form."""

    points: Floats
    triangles: NDArray[np.int32]
    mirrored_at_m: float | None
    closed: bool

    def _key(self) -> tuple[object, ...]:
        return id(self.points), id(self.triangles), self.mirrored_at_m, self.closed

    def __eq__(self, other: object) -> bool:
        return self._key() == other._key() if isinstance(other, _Form) else NotImplemented

    def __hash__(self) -> int:
        return hash(self._key())

    def turn(self) -> int:
        """Return which way round triangles that face the eye run in the picture; 0: those that do not are seen as
        well.
        """
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
    """Forms one after another.

    points: (n, 3); corners: of their triangles, (3, m), by their place in points; of: whose form each triangle is.

    turns: of each form, which way round its triangles run in the picture where they face the eye: 1, -1 in a mirror; 0:
    either way. low, high: around each form, (n, 3).
    """

    points: Floats
    corners: NDArray[np.intp]
    of: NDArray[np.intp]
    turns: NDArray[np.intp]
    low: Floats
    high: Floats

    def turns_before(self, camera: Camera) -> NDArray[np.intp]:
        """Return the winding of triangles as a camera sees them.

        A camera inside an object, or below it, sees it from within, since objects have no floor.
        """
        eye = np.array([camera.east_m, camera.north_m, camera.height_m])
        within = ((self.low <= eye) & (eye <= self.high)).all(axis=1)
        return np.where(within | ((self.turns > 0) & (eye[2] < self.low[:, 2])), 0, self.turns)


# A camera that turns sees the same forms.
@lru_cache(maxsize=4)
def _joined(forms: tuple[_Form, ...]) -> _Joined:
    if not forms:
        none = np.zeros(0, dtype=np.intp)
        return _Joined(
            np.zeros((0, 3)), np.zeros((3, 0), dtype=np.intp), none, none, np.zeros((0, 3)), np.zeros((0, 3))
        )
    starts = np.cumsum([0] + [len(form.points) for form in forms])
    corners = np.concatenate([form.triangles.T + start for form, start in zip(forms, starts[:-1], strict=True)], axis=1)
    of = np.repeat(np.arange(len(forms)), [len(form.triangles) for form in forms])
    turns = np.array([form.turn() for form in forms])
    placed = [form.placed() for form in forms]
    low, high = (np.array([bound(points, axis=0) for points in placed]) for bound in (np.min, np.max))
    return _Joined(np.concatenate(placed), corners.astype(np.intp), of, turns, low, high)


# Another light falls on the same points of the picture.
@lru_cache(maxsize=16)
def _seen(camera: Camera, forms: tuple[_Form, ...], wide: int, high: int) -> Seen:
    """Return where forms stand in the picture, each alone: all are worked out at once, in as many pictures, one under
    another.
    """
    joined, shape = _joined(forms), (len(forms), high, wide)
    hits = hits_of(
        joined.corners,
        joined.of,
        joined.turns_before(camera),
        _projected(view_matrix(camera), joined.points, wide, high),
        shape,
    )
    places, source = closed(hits.found, shape)
    room = wide * high
    return Seen(places % room, np.searchsorted(places, np.arange(len(forms) + 1) * room), hits, source)


def _projected(matrix: Floats, points: Floats, wide: int, high: int) -> tuple[Floats, Floats, Floats]:
    """Return the positions of points (n, 3) in the picture [its points], and their depth along the axis [m].

    Positions of points behind the camera are arbitrary.
    """
    u, v, depth = matrix[:, :3] @ points.T + matrix[:, 3:]
    scale = np.where(depth > NEAREST_M, depth, 1.0)
    return u / scale * wide, v / scale * high, depth

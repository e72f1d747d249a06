"""Reading a frame: placement against a guide, clearance between elements, edges, horizon, lines, bare room, and the
move that would change each.

Guides are rules of thumb to be overruled (common practice).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from functools import lru_cache

import numpy as np

from ..units.lengths import format_move
from ..units.spelling import Spelling, spelling
from .coverage import Coverage, coverage
from .footing import LEVEL_GROUND, Ground
from .lines import LeadingLine, leading_line
from .many_cameras import WHOLE, Boxes, SceneModel, as_cameras, separation
from .outlines import outline
from .projection import Camera
from .solids import BROAD, FLAT, LINES, Solid, course_points

_GOLDEN = (3 - 5**0.5) / 2


class Guide(StrEnum):
    THIRDS = "thirds"
    GOLDEN = "golden"
    CENTRE = "centre"
    DIAGONALS = "diagonals"
    GRID = "grid"
    NONE = "none"


# Shares of the frame at which a guide's lines stand.
GUIDES: dict[str, tuple[float, ...]] = {
    Guide.THIRDS: (1 / 3, 2 / 3),
    Guide.GOLDEN: (_GOLDEN, 1 - _GOLDEN),
    Guide.CENTRE: (0.5,),
    Guide.DIAGONALS: (),
    Guide.GRID: (),
    Guide.NONE: (),
}
# On a line of the guide within this share of the width; touching when there is less clearance than this between two,
# or to an edge.
ON_LINE, TOUCHING = 0.02, 0.01
# A step to the side and a change of height that one would try, for what is this near [m]: up close a hand's or a
# finger's width.
_STEPS = ((1.0, 0.3, 0.15), (0.2, 0.05, 0.03), (0.0, 0.01, 0.005))


@dataclass(frozen=True)
class Placement:
    """How far an element's middle is from the nearest line of the guide [share of the width, right positive], and that
    line.

    On the diagonals line is nan, and off is the distance from the nearer of the two.
    """

    element: int
    line: float
    off: float


@dataclass(frozen=True)
class Pair:
    """The clearance between two elements [share of the width, negative when they overlap], and the small move that
    opens it most.

    move: a sentence part such as "0.3 m to the right"; opens: by how much. None where no small move helps.
    """

    one: int
    other: int
    clearance: float
    move: str | None
    opens: float


@dataclass(frozen=True)
class Edge:
    """An element that touches an edge of the frame: edge is left, right, top or bottom, margin its clearance to it
    [share of the width].
    """

    element: int
    edge: str
    margin: float


@dataclass(frozen=True)
class Lead:
    """A leading line: its element, its course, and the element it points at (None at none), missing it by off [share
    of the width].
    """

    element: int
    line: LeadingLine
    target: int | None
    off: float


@dataclass(frozen=True)
class Composition:
    """horizon_y: 0 top, 1 bottom, beyond outside the frame; leans_deg: of the horizon in the picture, right side down
    positive.

    verticals_lean_deg: how far a vertical at the side of the frame leans from the pitch (0 level). Shares count from
    the crop.
    """

    placements: tuple[Placement, ...]
    pairs: tuple[Pair, ...]
    edges: tuple[Edge, ...]
    leads: tuple[Lead, ...]
    horizon_y: float
    leans_deg: float
    verticals_lean_deg: float
    coverage: Coverage


def read_frame(
    solids: Sequence[Solid],
    camera: Camera,
    guide: str,
    ground: Ground = LEVEL_GROUND,
    window: tuple[float, float, float, float] = WHOLE,
    melted: frozenset[int] = frozenset(),
) -> Composition:
    """Return the reading of a frame; one that was read lately is not read again.

    camera: its height_m above the ground where it stands. guide: a Guide. window: the crop. Pairs are of upright
    things that stand in the frame; land, water, lines and what is melted (so far out of focus that it has no
    outline; indices) are none.
    """
    return _read(tuple(solids), camera, guide, ground, window, melted, spelling())


@lru_cache(maxsize=32)
def _read(
    solids: tuple[Solid, ...],
    camera: Camera,
    guide: str,
    ground: Ground,
    window: tuple[float, float, float, float],
    melted: frozenset[int],
    _spelling: Spelling,
) -> Composition:
    model = SceneModel(solids, ground)
    moves = [(least, *move) for least, step, lift in _STEPS for move in _moves(camera, step, lift)]
    shifts = np.array([(0.0, 0.0, 0.0), *(shift for _, _, shift in moves)])
    # All small moves are seen at once.
    here = as_cameras([camera] * len(shifts))
    moved = replace(
        here,
        east_m=here.east_m + shifts[:, 0],
        north_m=here.north_m + shifts[:, 1],
        height_m=here.height_m + shifts[:, 2],
    )
    boxes = model.boxes(moved, window)
    aspect = camera.frame_mm[0] * window[2] / (camera.frame_mm[1] * window[3])
    inside = [index for index in range(len(solids)) if _in_frame(boxes, index) and index not in melted]
    upright = [index for index in inside if solids[index].shape not in BROAD]
    pairs = []
    for position, one in enumerate(upright):
        for other in upright[position + 1 :]:
            clearance = separation(boxes, one, other, aspect)
            nearer = min(solids[one].distance_m, solids[other].distance_m)
            size = next(least for least, _, _ in _STEPS if nearer >= least)
            best = max(
                (index for index, move in enumerate(moves) if move[0] == size), key=lambda index: clearance[1 + index]
            )
            opens = float(clearance[1 + best] - clearance[0])
            pairs.append(
                Pair(one, other, float(clearance[0]), moves[best][1] if opens > 0.002 else None, max(0.0, opens))
            )
    standing = replace(camera, height_m=camera.height_m + float(ground.height_m(camera.east_m, camera.north_m)))
    return Composition(
        placements=tuple(_placements(boxes, solids, inside, guide, aspect)),
        pairs=tuple(pairs),
        edges=tuple(edge for index in upright for edge in _edges(boxes, index, aspect)),
        leads=tuple(_leads(standing, solids, ground, window, boxes, inside, aspect)),
        horizon_y=float(boxes.horizon_y[0]),
        leans_deg=camera.roll_deg,
        verticals_lean_deg=math.degrees(
            math.atan(abs(math.tan(math.radians(camera.pitch_deg))) * camera.frame_mm[0] / 2 / camera.focal_mm)
        ),
        coverage=coverage(
            [outline(standing, solid, ground).polygons for solid in solids],
            [math.inf if solid.shape in FLAT else solid.distance_m for solid in solids],
            window,
            aspect,
        ),
    )


def _moves(camera: Camera, step: float, lift: float) -> list[tuple[str, tuple[float, float, float]]]:
    """Return the small moves one would try, in words and as shifts to the east, north and up [m]."""
    turn = math.radians(camera.bearing_deg)
    east, north = math.cos(turn) * step, -math.sin(turn) * step
    aside, upward = format_move(step), format_move(lift)
    moves = [
        (f"{aside} to the right", (east, north, 0.0)),
        (f"{aside} to the left", (-east, -north, 0.0)),
        (f"{upward} higher", (0.0, 0.0, lift)),
    ]
    if camera.height_m > 1.3 * lift:
        moves.append((f"{upward} lower", (0.0, 0.0, -lift)))
    return moves


def _in_frame(boxes: Boxes, index: int) -> bool:
    return bool(
        boxes.right[0, index] > 0
        and boxes.left[0, index] < 1
        and boxes.bottom[0, index] > 0
        and boxes.top[0, index] < 1
    )


def _middle(boxes: Boxes, index: int) -> tuple[float, float]:
    return float(boxes.left[0, index] + boxes.right[0, index]) / 2, float(
        boxes.top[0, index] + boxes.bottom[0, index]
    ) / 2


def _placements(boxes: Boxes, solids: Sequence[Solid], inside: list[int], guide: str, aspect: float) -> list[Placement]:
    placed = [index for index in inside if solids[index].shape not in ("water", *LINES)]
    if guide == Guide.DIAGONALS:
        # The diagonals run from corner to corner of a frame that is 1 wide and 1/aspect high.
        slant = math.hypot(1, 1 / aspect)
        found = []
        for index in placed:
            x, y = _middle(boxes, index)
            found.append(Placement(index, math.nan, min(abs(y - x), abs(y + x - 1)) / aspect / slant))
        return found
    found = []
    for index in placed:
        if GUIDES[guide]:
            middle = _middle(boxes, index)[0]
            line = min(GUIDES[guide], key=lambda position: abs(middle - position))
            found.append(Placement(index, line, middle - line))
    return found


def _edges(boxes: Boxes, index: int, aspect: float) -> list[Edge]:
    margins = {
        "left": float(boxes.left[0, index]),
        "right": 1 - float(boxes.right[0, index]),
        "top": float(boxes.top[0, index]) / aspect,
        "bottom": (1 - float(boxes.bottom[0, index])) / aspect,
    }
    return [Edge(index, name, margin) for name, margin in margins.items() if abs(margin) < TOUCHING]


def _leads(
    camera: Camera,
    solids: Sequence[Solid],
    ground: Ground,
    window: tuple[float, float, float, float],
    boxes: Boxes,
    inside: list[int],
    aspect: float,
) -> list[Lead]:
    targets = [index for index in inside if solids[index].shape not in ("water", "ridge", "skyline", *LINES)]
    found = []
    for index, solid in enumerate(solids):
        if solid.shape not in LINES:
            continue
        line = leading_line(camera, course_points(solid, ground), window)
        if line is None:
            continue
        offs = [(line.off_target(*_middle(boxes, target), aspect), target) for target in targets]
        off, at = min(offs, default=(math.inf, -1))
        found.append(Lead(index, line, at if at >= 0 else None, off))
    return found

"""Reading a frame: placement against a guide, air between elements, edges, horizon, and the move that would change each.

Guides are rules of thumb to be overruled (common practice).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from .outlines import Solid
from .projection import Camera
from .scene import Boxes, Cameras, SceneModel, separation

_GOLDEN = (3 - 5**0.5) / 2
GUIDES: dict[str, tuple[float, ...]] = {
    "thirds": (1 / 3, 2 / 3),
    "golden": (_GOLDEN, 1 - _GOLDEN),
    "centre": (0.5,),
    "none": (),
}
# On a line of the guide within this share of the width; touching when there is less air than this between two.
ON_LINE, TOUCHING = 0.02, 0.01
_STEP_M, _LIFT_M = 0.3, 0.15


@dataclass(frozen=True)
class Placement:
    """How far an element's middle is from the nearest line of the guide [share of the width, right positive], and that line."""

    element: int
    line: float
    off: float


@dataclass(frozen=True)
class Pair:
    """The air between two elements [share of the width, negative when they overlap], and the small move that opens it most.

    move: a sentence part such as "0.3 m to the right"; opens: by how much. None where no small move helps.
    """

    one: int
    other: int
    air: float
    move: str | None
    opens: float


@dataclass(frozen=True)
class Reading:
    """horizon_y: 0 top, 1 bottom, beyond outside the frame. shares: of the frame's area, each element's box."""

    placements: tuple[Placement, ...]
    pairs: tuple[Pair, ...]
    horizon_y: float
    shares: tuple[float, ...]


def read_frame(solids: Sequence[Solid], camera: Camera, guide: str) -> Reading:
    """Return the reading of a frame. guide: a key of GUIDES. Pairs are of elements that stand in the frame, ridges and water apart."""
    model = SceneModel(solids)
    moves = _moves(camera)
    cameras = [camera, *(moved for _, moved in moves)]
    boxes = model.boxes(_as_cameras(cameras))
    aspect = camera.frame_mm[0] / camera.frame_mm[1]
    inside = [index for index in range(len(solids)) if _in_frame(boxes, index)]
    solid = [index for index in inside if solids[index].shape not in ("ridge", "water")]
    pairs = []
    for position, one in enumerate(solid):
        for other in solid[position + 1 :]:
            air = separation(boxes, one, other, aspect)
            best = int(np.argmax(air[1:])) if len(air) > 1 else 0
            opens = float(air[1 + best] - air[0])
            pairs.append(Pair(one, other, float(air[0]), moves[best][0] if opens > 0.002 else None, max(0.0, opens)))
    placements = [_placement(boxes, index, guide) for index in inside if GUIDES[guide] and solids[index].shape != "water"]
    return Reading(tuple(placements), tuple(pairs), float(boxes.horizon_y[0]), tuple(_share(boxes, index) for index in range(len(solids))))


def _moves(camera: Camera) -> list[tuple[str, Camera]]:
    turn = np.radians(camera.bearing_deg)
    right = (float(np.cos(turn)) * _STEP_M, -float(np.sin(turn)) * _STEP_M)
    moves = [
        (f"{_STEP_M:g} m to the right", replace(camera, east_m=camera.east_m + right[0], north_m=camera.north_m + right[1])),
        (f"{_STEP_M:g} m to the left", replace(camera, east_m=camera.east_m - right[0], north_m=camera.north_m - right[1])),
        (f"{_LIFT_M * 100:g} cm higher", replace(camera, height_m=camera.height_m + _LIFT_M)),
    ]
    if camera.height_m > _LIFT_M + 0.05:
        moves.append((f"{_LIFT_M * 100:g} cm lower", replace(camera, height_m=camera.height_m - _LIFT_M)))
    return moves


def _as_cameras(cameras: Sequence[Camera]) -> Cameras:
    columns = {
        name: np.array([float(getattr(camera, name)) for camera in cameras])
        for name in ("east_m", "north_m", "height_m", "focal_mm", "bearing_deg", "pitch_deg")
    }
    return Cameras(**columns, frame_mm=cameras[0].frame_mm)


def _in_frame(boxes: Boxes, index: int) -> bool:
    return bool(boxes.right[0, index] > 0 and boxes.left[0, index] < 1 and boxes.bottom[0, index] > 0 and boxes.top[0, index] < 1)


def _placement(boxes: Boxes, index: int, guide: str) -> Placement:
    middle = float(boxes.left[0, index] + boxes.right[0, index]) / 2
    line = min(GUIDES[guide], key=lambda position: abs(middle - position))
    return Placement(index, line, middle - line)


def _share(boxes: Boxes, index: int) -> float:
    across = min(1.0, float(boxes.right[0, index])) - max(0.0, float(boxes.left[0, index]))
    upwards = min(1.0, float(boxes.bottom[0, index])) - max(0.0, float(boxes.top[0, index]))
    return max(0.0, across) * max(0.0, upwards)

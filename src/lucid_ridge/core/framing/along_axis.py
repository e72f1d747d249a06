"""How far things lie along the optical axis, which is what a lens is focused by.

Source: [1] central projection, any computer-vision text; [2] I. Sutherland and G. Hodgman, Reentrant polygon clipping,
1974.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise

import numpy as np

from .footing import LEVEL_GROUND, Ground
from .meshes import Floats, Mesh
from .projection import Camera, axial_depth_m, camera_axes, view_matrix
from .solids import Solid, meshes_of

# Nothing nearer to the lens than this, along its axis, counts [m].
NEAREST_M = 0.005
# In front of the camera, and inside the frame's left, right, top and bottom edge: of (x·w, y·w, w) these stand above
# their limit.
_SIDES = np.array([[0, 0, 1], [1, 0, 0], [-1, 0, 1], [0, 1, 0], [0, -1, 1]], dtype=np.float64)
_LIMITS = np.array([NEAREST_M, 0, 0, 0, 0])


@dataclass(frozen=True)
class AxialSpan:
    """Nearest and farthest visible part [m along the optical axis].

    in_frame False: nothing of it is in the frame, the whole counts.
    """

    near_m: float
    far_m: float
    in_frame: bool = True


@lru_cache(maxsize=256)
def axial_span(camera: Camera, solid: Solid, ground: Ground = LEVEL_GROUND) -> AxialSpan | None:
    """Return where a solid begins and ends along the optical axis: what of it shows, inside the frame.

    None behind the camera.

    camera: its height from the mark's ground, its focal length as it images now. What a body hides of itself does not
    count; what other things hide of it does. Source: [1], [2].
    """
    eye = np.array([camera.east_m, camera.north_m, camera.height_m])
    matrix = view_matrix(camera)
    shown = [polygon for mesh in meshes_of(solid, ground) for polygon in _shown(mesh, eye)]
    placed = [np.column_stack((polygon, np.ones(len(polygon)))) @ matrix.T for polygon in shown]
    for sides in (5, 1):
        kept = [depths for polygon in placed if (depths := _inside(polygon, sides)) is not None]
        if kept:
            depths = np.concatenate(kept)
            return AxialSpan(float(depths.min()), float(depths.max()), sides == 5)
    return None


def nearest_along_axis_m(camera: Camera, solid: Solid, ground: Ground = LEVEL_GROUND) -> float:
    """Return where a solid begins along the optical axis [m], in the frame or not; negative behind the camera."""
    return min(float(np.min(axial_depth_m(camera, mesh.points))) for mesh in meshes_of(solid, ground))


def ground_at_the_edge_m(camera: Camera, ground: Ground = LEVEL_GROUND) -> float | None:
    """Return where the nearest ground in the frame lies along the optical axis [m]; None where no corner of it sees
    ground.

    h / tan(field / 2 - pitch) away on level ground, at the frame's lower edge. camera as in axial_span. Source: [1].
    """
    right, up, forward = camera_axes(camera.bearing_deg, camera.pitch_deg, camera.roll_deg)
    width, height = camera.frame_mm
    found = []
    for across, upwards in ((-1, -1), (1, -1), (-1, 1), (1, 1)):
        ray = forward + across * width / 2 / camera.focal_mm * right + upwards * height / 2 / camera.focal_mm * up
        depth = _to_the_ground(camera, ground, ray)
        if depth is not None:
            found.append(depth)
    return min(found, default=None)


def _to_the_ground(camera: Camera, ground: Ground, ray: Floats) -> float | None:
    """Return how far along a ray [in its own lengths, 1 along the axis] the ground is met: its height over the ground
    falls to nothing.
    """
    start = np.array([camera.east_m, camera.north_m, camera.height_m])

    def clearance(along: float) -> float:
        east, north, up = start + along * ray
        return float(up - ground.height_m(east, north))

    # The ground is made of level parts and one slope: between its bends the clearance is straight.
    bends = [0.0, 1e6, *_bends(ground, start, ray)]
    ahead = sorted(bend for bend in bends if bend >= 0)
    for low, high in pairwise(ahead):
        above, below = clearance(low), clearance(high)
        if above >= 0 > below:
            return low + (high - low) * above / (above - below)
    return None


def _bends(ground: Ground, start: Floats, ray: Floats) -> list[float]:
    turn = math.radians(ground.down_bearing_deg)
    down = np.array([math.sin(turn), math.cos(turn), 0.0])
    rate, place = float(ray @ down), float(start @ down)
    return [(reach - place) / rate for reach in (-ground.reach_m, ground.reach_m)] if abs(rate) > 1e-12 else []


def _shown(mesh: Mesh, eye: Floats) -> list[Floats]:
    """Return the faces of a mesh that are turned to the eye; all of one that shows from both sides."""
    faces = mesh.faces
    if mesh.closed:
        turned = np.einsum("ij,ij->i", mesh.normals, eye - mesh.points[[face[0] for face in faces]]) > 0
        # From inside a body, or straight along its faces, nothing is turned to the eye: then all of it counts.
        faces = tuple(face for face, towards in zip(faces, turned, strict=True) if towards) or faces
    return [mesh.points[list(face)] for face in faces]


def _inside(polygon: Floats, sides: int) -> Floats | None:
    """Return the depths of the corners of the part inside the first given sides; None if there is none."""
    over = polygon @ _SIDES[:sides].T - _LIMITS[:sides]
    if (over.max(axis=0) < 0).any():
        return None
    if (over >= 0).all():
        return np.asarray(polygon[:, 2])
    corners: Sequence[Floats] = list(polygon)
    for side, limit in zip(_SIDES[:sides], _LIMITS[:sides], strict=True):
        corners = _clipped(corners, side, limit)
        if not corners:
            return None
    return np.array([corner[2] for corner in corners])


def _clipped(corners: Sequence[Floats], side: Floats, limit: float) -> list[Floats]:
    result: list[Floats] = []
    overs = [float(corner @ side) - limit for corner in corners]
    for index, here in enumerate(corners):
        following = (index + 1) % len(corners)
        over, next_over = overs[index], overs[following]
        if over >= 0:
            result.append(here)
        if (over >= 0) != (next_over >= 0):
            result.append(here + (corners[following] - here) * over / (over - next_over))
    return result

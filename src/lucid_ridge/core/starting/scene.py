"""How the camera stands for a kind of picture with the kit at hand, so that its foreground lies inside the frame."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from ..facts.choices import IN_HAND
from ..facts.kit import Body, Lens, Support
from ..facts.settings import sides_mm
from ..framing.projection import Orientation
from ..optics.circle_of_confusion import crop_factor
from .picture_kind import PictureKind, ScenePart

# How far down between the middle (0) and the edge (1) of the frame the foreground's foot may stand.
_FOOT_AT = 0.8
# A lens seldom images quite as large as its largest magnification says.
_REACHED = 0.999


@dataclass(frozen=True, kw_only=True)
class StartScene:
    """Camera and scene. parts: with distances [m] from the tripod's mark. magnification: what the lens reaches of the
    kind's; None for a picture that is no close-up.
    """

    focal_mm: float
    orientation: Orientation
    pitch_deg: float
    camera_height_m: float
    magnification: float | None
    parts: tuple[ScenePart, ...]


def start_scene(kind: PictureKind, body: Body, lens: Lens, support: Support | None) -> StartScene:
    """Return camera and scene of a kind with a body, a lens and a tripod.

    The camera is lowered until a foreground near by comes into the frame below and the horizon above; as far as the
    tripod goes, and from there on the foreground is put farther away.
    """
    focal_mm = _focal_mm(kind, body, lens)
    height = sides_mm(body, kind.orientation)[1]
    half = height / 2 / focal_mm
    pitch_deg = kind.pitch_deg if kind.horizon_share is None else -math.degrees(math.atan(kind.horizon_share * half))
    down = math.radians(-pitch_deg) + math.atan(_FOOT_AT * half)
    lowest, highest = _reach_m(kind, support)
    camera_m = min(max(kind.height_m, lowest), highest)
    front = next((part for part in kind.parts if part.foreground), None)
    if front is not None and down < math.pi / 2:
        nearest_m = front.distance_m - front.width_m / 2
        camera_m = max(lowest, min(camera_m, nearest_m * math.tan(down)))
    scale = None if kind.magnification is None else _magnification(kind.magnification, lens, focal_mm)
    parts = tuple(_placed(part, camera_m, down, kind, scale, lens, focal_mm) for part in kind.parts)
    return StartScene(
        focal_mm=focal_mm,
        orientation=kind.orientation,
        pitch_deg=round(pitch_deg, 1),
        camera_height_m=round(camera_m, 2),
        magnification=scale,
        parts=parts,
    )


def _focal_mm(kind: PictureKind, body: Body, lens: Lens) -> float:
    if kind.focal_mm is None:
        return lens.focal_max_mm
    wanted = kind.focal_mm / crop_factor(body.sensor_width_mm, body.sensor_height_mm)
    return min(max(round(wanted), lens.focal_min_mm), lens.focal_max_mm)


def _reach_m(kind: PictureKind, support: Support | None) -> tuple[float, float]:
    """Return the lowest and the highest place of the camera [m]."""
    if support is None or kind.hold in IN_HAND:
        return 0.05, 2.0
    inverted = support.inverted_min_m
    return min(support.height_min_m, support.height_min_m if inverted is None else inverted), support.height_max_m


def _magnification(wanted: float, lens: Lens, focal_mm: float) -> float:
    return min(wanted, _REACHED * lens.largest_magnification(focal_mm))


def _placed(
    part: ScenePart,
    camera_m: float,
    down: float,
    kind: PictureKind,
    scale: float | None,
    lens: Lens,
    focal_mm: float,
) -> ScenePart:
    """Return a part where it stands: a foreground inside the frame, the subject of a close-up before the lens."""
    if scale is not None:
        imaging = lens.working(focal_mm).at_magnification(scale)
        base_m = max(0.0, camera_m - part.height_m / 2)
        return replace(part, distance_m=round(imaging.object_mm / 1000, 4), base_m=round(base_m, 4))
    if not part.foreground or down >= math.pi / 2:
        return part
    nearest_m = camera_m / math.tan(down)
    return replace(part, distance_m=round(max(part.distance_m, nearest_m + part.width_m / 2), 2))

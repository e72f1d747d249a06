"""Insect by hand."""

from ...facts.choices import Hold
from ...framing.solids import Shape
from ..picture_kind import Facing, PictureKind, ScenePart

KIND = PictureKind(
    key="insect_by_hand",
    label="Insect by hand",
    words="One sharp plane through the eye, in daylight.",
    focal_mm=None,
    facing=Facing.ACROSS,
    height_m=0.5,
    magnification=0.5,
    subject_depth_mm=1.5,
    hold=Hold.HAND,
    parts=(
        ScenePart(
            name="Insect", shape=Shape.INSECT, distance_m=0.3, width_m=0.02, height_m=0.012, base_m=0.494, sharp=True
        ),
    ),
    choices={"most_frames": 1},
)

"""Flower on a rail."""

from ...framing.solids import Shape
from ..picture_kind import Facing, PictureKind, ScenePart

KIND = PictureKind(
    key="flower_on_a_rail",
    label="Flower on a rail",
    words="A still flower, front to back, in a stack of frames.",
    focal_mm=None,
    facing=Facing.ACROSS,
    height_m=0.4,
    magnification=0.5,
    subject_depth_mm=12.0,
    parts=(
        ScenePart(
            name="Flower", shape=Shape.FLOWER, distance_m=0.3, width_m=0.03, height_m=0.03, base_m=0.385, sharp=True
        ),
    ),
)

"""Lichen, flat."""

from ...framing.solids import Shape
from ..picture_kind import Facing, PictureKind, ScenePart

KIND = PictureKind(
    key="lichen",
    label="Lichen, flat",
    words="A flat thing square to the lens, sharp to its corners.",
    focal_mm=None,
    facing=Facing.ACROSS,
    height_m=0.5,
    magnification=1 / 3,
    subject_depth_mm=2.0,
    parts=(ScenePart(name="Lichen", shape=Shape.BLOCK, distance_m=0.4, width_m=0.05, height_m=0.04, sharp=True),),
)

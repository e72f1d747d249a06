"""From above."""

from ...framing.solids import Shape
from ..picture_kind import Facing, PictureKind, ScenePart

KIND = PictureKind(
    key="from_above",
    label="From above",
    words="Leaves, stones or shells on the ground, straight down.",
    focal_mm=50.0,
    facing=Facing.ACROSS,
    height_m=1.4,
    horizon_share=None,
    pitch_deg=-90.0,
    parts=(
        ScenePart(name="On the ground", shape=Shape.BOULDER, distance_m=0.06, width_m=0.3, height_m=0.05, sharp=True),
    ),
)

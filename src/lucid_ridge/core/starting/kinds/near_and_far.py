"""Near and far."""

from ...framing.solids import Shape
from ...light.kinds import LightKind
from ..picture_kind import Facing, Part, PictureKind, ScenePart

KIND = PictureKind(
    key="near_and_far",
    label="Near and far",
    words="Flowers or a stone at your feet and the hills beyond, both sharp.",
    focal_mm=24.0,
    light=LightKind.LOW_SIDE_LIGHT,
    part=Part.EVENING,
    facing=Facing.ACROSS,
    height_m=0.9,
    horizon_share=0.45,
    parts=(
        ScenePart(
            name="Foreground",
            shape=Shape.BOULDER,
            distance_m=0.8,
            width_m=0.4,
            height_m=0.15,
            aside_deg=8.0,
            foreground=True,
            sharp=True,
        ),
        ScenePart(
            name="Hills",
            shape=Shape.RIDGE,
            distance_m=4000.0,
            width_m=3000.0,
            height_m=400.0,
            aside_deg=-6.0,
            sharp=True,
        ),
    ),
    choices={"far_infinite": True},
)

"""Night sky."""

from ...framing.solids import Shape
from ...light.kinds import LightKind
from ..picture_kind import Facing, PictureKind, ScenePart

KIND = PictureKind(
    key="night_sky",
    label="Night sky",
    words="Stars as points over a dark landscape.",
    focal_mm=20.0,
    light=LightKind.DARK_SKY,
    facing=Facing.SOUTH,
    height_m=1.3,
    horizon_share=-0.6,
    parts=(
        ScenePart(
            name="Tor", shape=Shape.TOWER, distance_m=60.0, width_m=12.0, height_m=14.0, aside_deg=12.0, sharp=True
        ),
    ),
    star_points=True,
    choices={"far_infinite": True},
)

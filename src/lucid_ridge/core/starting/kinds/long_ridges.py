"""Ridges through a long lens."""

from ...framing.solids import Shape
from ...light.kinds import LightKind
from ..picture_kind import Facing, Part, PictureKind, ScenePart

KIND = PictureKind(
    key="long_ridges",
    label="Ridges through a long lens",
    words="Ridge behind ridge in the haze before sunrise.",
    focal_mm=200.0,
    light=LightKind.GLOW,
    part=Part.MORNING,
    facing=Facing.BESIDE_SUN,
    height_m=1.5,
    horizon_share=-0.2,
    parts=(
        ScenePart(name="First ridge", shape=Shape.RIDGE, distance_m=3000.0, width_m=700.0, height_m=60.0, sharp=True),
        ScenePart(
            name="Second ridge",
            shape=Shape.RIDGE,
            distance_m=6000.0,
            width_m=1400.0,
            height_m=220.0,
            aside_deg=1.0,
            sharp=True,
        ),
        ScenePart(
            name="Last ridge",
            shape=Shape.RIDGE,
            distance_m=12000.0,
            width_m=2800.0,
            height_m=650.0,
            aside_deg=-1.0,
            sharp=True,
        ),
    ),
)

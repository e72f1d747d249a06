"""Seascape at sunset."""

from ...exposure.motion import LookName
from ...light.kinds import LightKind
from ..picture_kind import Facing, Part, PictureKind
from ._shore import HEADLAND, STONE, SURF

KIND = PictureKind(
    key="seascape_sunset",
    label="Seascape at sunset",
    words="A stone before the surf, the sky after sunset, water as mist.",
    focal_mm=20.0,
    light=LightKind.GLOW,
    part=Part.EVENING,
    facing=Facing.BESIDE_SUN,
    height_m=0.8,
    horizon_share=0.5,
    parts=(STONE, SURF, HEADLAND),
    look=LookName.SILKY,
    choices={"far_infinite": True, "follow_fading": True},
)

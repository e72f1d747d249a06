"""River or fall in a wood."""

from ...exposure.motion import LookName
from ...exposure.moving_things import MovingKind
from ...framing.projection import Orientation
from ...framing.solids import Shape
from ...light.kinds import LightKind
from ...light.materials import Material
from ..picture_kind import Facing, PictureKind, ScenePart

KIND = PictureKind(
    key="water_in_a_wood",
    label="River or fall in a wood",
    words="Silky water between mossy stones, in the even light of dusk or dawn.",
    focal_mm=28.0,
    light=LightKind.GLOW,
    facing=Facing.ACROSS,
    height_m=1.0,
    orientation=Orientation.PORTRAIT,
    horizon_share=0.35,
    parts=(
        ScenePart(
            name="Mossy stone",
            shape=Shape.BOULDER,
            distance_m=1.2,
            width_m=0.5,
            height_m=0.25,
            aside_deg=-8.0,
            material=Material.GRASS,
            foreground=True,
            sharp=True,
        ),
        ScenePart(
            name="Stream",
            shape=Shape.WATER,
            distance_m=2.0,
            width_m=3.0,
            height_m=4.0,
            moving=MovingKind.STREAM,
            speed_mps=1.0,
        ),
        ScenePart(
            name="Fall",
            shape=Shape.BLOCK,
            distance_m=6.0,
            width_m=1.6,
            height_m=1.8,
            aside_deg=4.0,
            material=Material.FOAM,
            moving=MovingKind.FALLS,
            speed_mps=3.0,
        ),
    ),
    look=LookName.SILKY,
    # What moves is silky, and need not be sharp: the rock behind it must.
    choices={"far_m": 7.0},
)

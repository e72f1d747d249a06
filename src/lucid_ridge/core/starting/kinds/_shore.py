"""What stands on the shore of both seascapes."""

from ...exposure.moving_things import MovingKind
from ...framing.solids import Shape
from ..picture_kind import ScenePart

STONE = ScenePart(
    name="Near stone", shape=Shape.BOULDER, distance_m=0.8, width_m=0.35, height_m=0.15, aside_deg=-8.0,
    foreground=True, sharp=True,
)  # fmt: skip
SURF = ScenePart(
    name="Surf",
    shape=Shape.WATER,
    distance_m=4.0,
    width_m=200.0,
    height_m=2000.0,
    moving=MovingKind.SURF,
    speed_mps=1.5,
)
HEADLAND = ScenePart(
    name="Far headland", shape=Shape.RIDGE, distance_m=3000.0, width_m=900.0, height_m=70.0, aside_deg=20.0, sharp=True
)

"""What a kind of picture brings to a new shot. Each kind is one file of data in kinds/."""

from __future__ import annotations

from dataclasses import dataclass, field

from ..exposure.motion import LookName
from ..exposure.moving_things import MovingKind
from ..facts.choices import Hold
from ..facts.declaring import Value
from ..framing.projection import Orientation
from ..framing.solids import Shape
from ..labels import NamedEnum
from ..light.kinds import LightKind
from ..light.materials import Material


class Part(NamedEnum):
    """The half of the day that a kind of light is looked for in; ANY: whichever comes first."""

    MORNING = "morning"
    EVENING = "evening"
    ANY = "any"


class Facing(NamedEnum):
    """Where the camera looks, from the sun at the chosen time."""

    SUN = "sun"
    BESIDE_SUN = "beside_sun"
    ACROSS = "across"
    SOUTH = "south"


@dataclass(frozen=True, kw_only=True)
class ScenePart:
    """Something in the picture. aside_deg: from the middle of the view. base_m: its foot above the ground.

    foreground: it stands at the lower edge of the frame, so that its distance follows from height and lens where it
    cannot stand at distance_m. sharp: it must be.
    """

    name: str
    shape: Shape
    distance_m: float
    width_m: float
    height_m: float
    aside_deg: float = 0.0
    base_m: float = 0.0
    material: Material | None = None
    moving: MovingKind | None = None
    speed_mps: float | None = None
    foreground: bool = False
    sharp: bool = False


@dataclass(frozen=True, kw_only=True)
class PictureKind:
    """A kind of picture. words: one line about it. focal_mm: as on 36 × 24 mm; None for a close-up, where the lens that
    magnifies most is taken.

    light: looked for in part of the day; None: around the sun's highest point. height_m: of the camera, within the
    tripod's reach. horizon_share: height of the horizon in the frame, from its middle in half frames; None: pitch_deg
    as it is. star_points: the shutter
    closes before stars trail. choices: further choices of the shot, by name.
    """

    key: str
    label: str
    words: str
    focal_mm: float | None
    light: LightKind | None = None
    part: Part = Part.ANY
    facing: Facing = Facing.SUN
    parts: tuple[ScenePart, ...] = ()
    height_m: float = 1.5
    orientation: Orientation = Orientation.LANDSCAPE
    horizon_share: float | None = 0.0
    pitch_deg: float = 0.0
    look: LookName | None = None
    hold: Hold = Hold.TRIPOD
    magnification: float | None = None
    subject_depth_mm: float | None = None
    star_points: bool = False
    choices: dict[str, Value] = field(default_factory=dict)

    @property
    def close_up(self) -> bool:
        return self.magnification is not None

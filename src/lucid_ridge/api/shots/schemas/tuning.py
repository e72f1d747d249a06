"""Fine-tuning the camera, and measuring the scene."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ....operations.shots.tuner import WishKind
from ...platform.fields import Distance, Id, In, LengthM, LengthMm, Number, Out, Share


class TargetIn(In):
    """A target in the frame; shares of its width (x, clearance) or height (y).

    See core.framing.tuner.Target. uncut: every upright element whole in the frame, with clearance to its edges.
    """

    kind: WishKind
    element_id: Id | None = None
    other_id: Id | None = None
    x: Annotated[Share, Field(ge=-1, le=2)] | None = None
    y: Annotated[Share, Field(ge=-1, le=2)] | None = None
    clearance: Annotated[Share, Field(ge=-1, le=1)] = 0.0
    weight: Annotated[Number, Field(gt=0, le=100)] = 1.0


class TuneIn(In):
    """What may change: steps to each side of the camera's position, height, focal length, bearing, pitch and crop.

    within_area: only inside the viewpoint's standing area, if it has one.
    """

    targets: Annotated[list[TargetIn], Field(min_length=1, max_length=20)]
    step_m: Annotated[LengthM, Field(ge=0, le=100)] = 0.0
    height_low_m: Annotated[LengthM, Field(ge=0, le=100)] | None = None
    height_high_m: Annotated[LengthM, Field(ge=0, le=100)] | None = None
    focal: bool = False
    bearing: bool = True
    pitch: bool = True
    crop: bool = False
    within_area: bool = True


class MissOut(Out):
    words: str
    met: bool
    miss: float


class TunedCameraOut(Out):
    """changes: values to set in the shot; words: the move in words."""

    changes: dict[str, float | None]
    words: str
    all_met: bool
    misses: list[MissOut]


class TunedOut(Out):
    solutions: list[TunedCameraOut]
    remarks: list[str]


class MeasureIn(In):
    """An angle from thumbs at arm's length (thumbs), or from pixels of a test frame (pixels, focal_mm; body_id or the
    shot's body), with a distance or a size: the other one is returned.
    """

    thumbs: Annotated[Number, Field(gt=0, le=60)] | None = None
    pixels: Annotated[Number, Field(gt=0, le=100_000)] | None = None
    focal_mm: Annotated[LengthMm, Field(ge=1, le=3000)] | None = None
    distance_m: Distance | None = None
    size_m: Distance | None = None


class MeasureOut(Out):
    angle_deg: float
    distance_m: float
    distance_label: str
    size_m: float
    words: str

"""Answers at the tripod: questions as typed, answers with figure, words and notes."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any

from pydantic import Field

from ...core.exposure.motion import LookName
from ...core.now.water import WaterSeen
from ..platform.fields import Aperture, Distance, In, LengthMm, Number, Out, Position, QueryId, Shutter, Speed

Text = Annotated[str, Field(min_length=1, max_length=60)]
Focal = Annotated[LengthMm, Field(ge=1, le=3000)]


class OfBody(In):
    """body_id: of the bag; without one, sensor is a format: full, aps-c, four-thirds, 44x33, 4x5."""

    body_id: QueryId | None = None
    sensor: Annotated[str, Field(max_length=20)] = "full"


class HereQuery(In):
    """A viewpoint of one's own, or coordinates."""

    viewpoint_id: QueryId | None = None
    coordinates: Position | None = None


class DensityNowQuery(HereQuery):
    """filters: "10", "ND64 + pol". With a place the light changes while the shutter is open.

    shot_id: a shot that the choices are for: a reading without an aperture was taken as it is set.
    """

    shot_id: QueryId | None = None
    shutter: Shutter
    filters: Text
    film_exponent: Annotated[Number | None, Field(ge=1, le=2)] = None


class DepthNowQuery(OfBody):
    """far: a distance, or infinity as "inf"."""

    focal_mm: Focal
    f_number: Aperture
    near_m: Distance
    far: Text = "inf"


class CloseUpNowQuery(OfBody):
    """scale: "1.5:1", or the width that fills the frame, "24 mm". lens_id: None for a thin lens of focal_mm."""

    scale: Text
    depth_mm: Annotated[LengthMm, Field(gt=0, le=10_000)]
    f_number: Aperture
    lens_id: QueryId | None = None
    focal_mm: Focal = 100.0


class BracketNowQuery(In):
    """Two readings, "EV 12" or "1/20 at f/11", or two shutter times at one aperture."""

    darkest: Text
    brightest: Text
    holds: Annotated[Number, Field(ge=1, le=25)] = 11.0
    step_ev: Annotated[Number, Field(gt=0, le=10)] = 2.0


class WaterNowQuery(OfBody):
    """speed_mps: None for the usual one of what is seen."""

    seen: WaterSeen
    distance_m: Distance
    focal_mm: Focal
    look: LookName = LookName.TEXTURED
    speed_mps: Annotated[Speed | None, Field(gt=0, le=400)] = None


class StarsNowQuery(OfBody):
    focal_mm: Focal
    f_number: Aperture = 2.0**1.5


class AnswerNowOut(Out):
    """figure: with its unit. choices: a shot's values that would plan it so, as a patch takes them; kit: body and lens
    of the bag for a new one.
    """

    figure: str
    words: str
    notes: list[str]
    choices: dict[str, Any]
    kit: dict[str, int | None]


class DensityNowOut(AnswerNowOut):
    """open_s: how long the shutter stays open; null if the light fades before."""

    open_s: float | None


class DepthNowOut(AnswerNowOut):
    """Distances from the lens [m], as the drawing needs them; a far end of null is infinity."""

    near_m: float
    far_m: float | None
    sharp_from_m: float
    sharp_to_m: float | None
    focus_m: list[float]
    sharp: bool


class LookTimesOut(Out):
    """A look's shutter times [s]; from_s is 0 for frozen."""

    name: LookName
    label: str
    from_s: float
    to_s: float


class WaterNowOut(AnswerNowOut):
    bands: list[LookTimesOut]


class ComingOut(Out):
    """What comes next, in local time; figure: a tide's height."""

    kind: str
    words: str
    clock: str
    tomorrow: bool
    seconds: float
    figure: str | None


class LightNowOut(AnswerNowOut):
    """place: empty for bare coordinates. now_s: seconds since the local day's start, as curve's points count, which are
    curve_step_s apart.
    """

    place: str
    latitude_deg: float
    longitude_deg: float
    zone: str
    now_utc: datetime
    clock: str
    ev100: float | None
    ev_words: str
    coming: list[ComingOut]
    moon_words: str
    now_s: float
    curve_step_s: float
    curve_ev100: list[float]


class BagPieceOut(Out):
    id: int
    name: str


class BagFilterOut(BagPieceOut):
    stops: float


class BagLensOut(BagPieceOut):
    focal_mm: float
    f_number: float


class OwnPlaceOut(Out):
    """A viewpoint with its location."""

    viewpoint_id: int
    name: str


class BeginNowOut(Out):
    """What answers begin with: the bag and one's own places; formats for a photographer without a body."""

    formats: list[str]
    bodies: list[BagPieceOut]
    filters: list[BagFilterOut]
    wide: BagLensOut | None
    close_up: BagLensOut | None
    holds_stops: float
    step_ev: float
    film_exponent: float | None
    places: list[OwnPlaceOut]

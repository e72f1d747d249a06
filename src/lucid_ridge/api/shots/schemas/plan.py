"""The plan of a shot for the front end, with lengths and labels ready; the front end computes nothing from them."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import BeforeValidator, JsonValue

from ....core.exposure.motion import LookName
from ....core.exposure.moving_things import MotionWish
from ....core.planning.exposure.movers import Told
from ....core.planning.reasons import plain_figures
from ....core.planning.verdicts import Mark, Severity, StepName
from ...platform.fields import Labelled, Out
from .close_up import CloseUpOut
from .depth import DepthOut
from .sequence import SequenceOut


class VerdictOut(Out):
    step: StepName
    mark: Mark
    text: str


class ReasonOut(Out):
    """Why a step is judged as it is. code: stable name of the reason; figures: what its sentence is made from."""

    step: StepName
    code: str
    severity: Severity
    text: str
    figures: Annotated[dict[str, JsonValue], BeforeValidator(plain_figures)]
    dial: str | None


class LightOut(Out):
    band: str | None
    window_end_utc: datetime | None
    ev_words: str
    ev_source: str
    window_label: str | None
    sun_altitude_deg: float | None
    sun_azimuth_deg: float | None
    sun_compass: str | None
    direction: str | None
    ev100: float | None
    drift_stops_per_min: float | None
    sun_hidden: bool
    subject_lit: bool | None
    moon_altitude_deg: float | None
    moon_compass: str | None
    moon_words: str | None
    tide_m: float | None
    tide_rate_m_per_h: float | None


class SeenOut(Out):
    """An element as the camera sees it, which may be off the tripod mark."""

    id: int
    bearing_deg: float
    distance_label: str


class PlacePlanOut(Out):
    """Latest local times; walk by Naismith's rule on the given terrain."""

    leave_home: str | None
    leave_car: str | None
    set_up: str | None
    walk_min: float | None
    seen: list[SeenOut]


class MeshOut(Out):
    """points [m; east, north, up from the ground at the mark], faces as indices of their corners, a tone 0 (dark) to 4
    for each. closed: only faces turned to the eye are drawn.
    """

    points: list[list[float]]
    faces: list[list[int]]
    tones: list[int]
    closed: bool


class SeenElementOut(Out):
    """polygons in 0..1 of the frame; empty behind the camera. blur_share: blur over the frame's width, null if not
    planned.

    cover: its visible share of the crop. shadow: its outline on the ground [m]. mirror: 4 x 4, for still water.
    streak_share: streak of its motion over the frame's width.
    """

    id: int
    name: str
    shape: str
    distance_m: float
    distance_label: str
    polygons: list[list[list[float]]]
    left: float | None
    right: float | None
    top: float | None
    bottom: float | None
    share: float
    blur_share: float | None
    must_be_sharp: bool
    cover: float
    meshes: list[MeshOut]
    shadow: list[list[float]] | None
    mirror: list[list[float]] | None
    streak_share: float | None


class DiscOut(Out):
    """Sun or moon: illuminated fraction of the disc, and the direction of its lit side, counter-clockwise from the
    right. point: distant [m].
    """

    x: float
    y: float
    diameter_share: float
    point: list[float]
    fraction: float
    lit_angle_deg: float


class GalaxyOut(Out):
    """The galactic band over the land: its middle line in pieces of distant points [m], its width over the frame's
    width, and the galactic centre; null below the land.
    """

    pieces: list[list[list[float]]]
    width_share: float
    centre: list[float] | None


class ViewOut(Out):
    """matrix: 3 x 4, from (east, north, up, 1) to (x·w, y·w, w) in the frame. eye and right: the camera's position and
    its horizontal axis.

    skyline: the land around as points of a closed strip, null if the scene has its own. ground_m: of the ground under
    the camera; ground_line: of the ground along the view, from behind the camera outwards.
    """

    matrix: list[list[float]]
    eye: list[float]
    right: list[float]
    skyline: list[list[float]] | None
    ground_m: float
    ground_line: list[list[float]]
    sunlit: bool
    galaxy: GalaxyOut | None


class AimOut(Out):
    """corners: of one frame of the panorama, as distant points [m] in the order top left, top right, bottom right,
    bottom left.
    """

    row: int
    column: int
    label: str
    corners: list[list[float]]


class PanoramaOut(Out):
    rows: int
    columns: int
    overlap_across: float
    across_deg: float
    cylindrical_px: list[int]
    flat_px: list[int] | None
    slip_px: float | None
    nearest_name: str | None
    brightest: int | None
    total_label: str | None
    aims: list[AimOut]


class VignettingOut(Out):
    """The ring that vignettes first: radii as shares of the half diagonal at which it begins to darken and is dark."""

    ring: str
    darkens_from: float
    dark_from: float
    clear: bool


class FrameReadingOut(Out):
    key: str
    mark: str
    text: str
    muted: bool


class PrintOut(Out):
    ppi: int
    width_cm: float
    height_cm: float


class CropOut(Out):
    """A crop: left and top, width and height as shares of the frame's.

    share: of the lens's field before the aspect ratio cuts it.
    """

    share: float
    left: float
    top: float
    width_share: float
    height_share: float
    pixels_wide: int
    pixels_high: int
    megapixels: float
    as_focal_mm: float
    cropped: bool
    prints: list[PrintOut]


class FrameOut(Out):
    focal_mm: float | None
    bearing_deg: float | None
    compass: str | None
    camera_height_m: float | None
    width_mm: float | None
    height_mm: float | None
    horizontal_fov_deg: float | None
    vertical_fov_deg: float | None
    horizon: list[list[float]]
    elements: list[SeenElementOut]
    sun: DiscOut | None
    moon: DiscOut | None
    view: ViewOut | None
    readings: list[FrameReadingOut]
    guide_lines: list[float]
    crop: CropOut | None
    panorama: PanoramaOut | None
    close_up: CloseUpOut | None
    vignetting: VignettingOut | None


class LedgerLineOut(Out):
    kind: str
    label: str
    detail: str
    stops: float
    shutter_s: float
    shutter_label: str


class ProposalOut(Out):
    """A proposal.

    changes: values set by hand that it does not keep. set_stops: the setting of each filter; null for a fixed one.
    """

    filter_ids: list[int]
    filter_names: list[str]
    f_number: float
    f_number_label: str
    iso: float
    shutter_s: float
    shutter_label: str
    error_stops: float
    changes: list[str]
    set_stops: list[float | None]


class LookBandOut(Out):
    name: LookName
    from_s: float
    to_s: float
    label: str


class MotionTimeOut(Out):
    """A look that is possible, with its shutter times and the usual ones."""

    wish: MotionWish
    label: str
    trade: str


class MoverOut(Out):
    """Something that moves.

    element_id: null for the clouds. told: the source of its speed. look: in the exposure that carries the picture.
    """

    element_id: int | None
    name: str
    speed_label: str
    told: Told
    main: bool
    wish: MotionWish | None
    wishes: list[MotionTimeOut]
    look: str


class CameraSettingOut(Out):
    name: str
    value: str
    why: str


class ExposureFrameOut(Out):
    """iso: if it differs from the shot's; bare: taken without neutral density."""

    shutter_s: float
    shutter_label: str
    offset_ev: float
    darkest_ev: float
    brightest_ev: float
    look: str | None
    iso: float | None
    bare: bool


class FlashOut(Out):
    """setting: in words, empty if its distance is not known."""

    name: str
    setting: str
    recycle_s: float
    ambient_below_stops: float
    alone: bool


class ExposureOut(Out):
    predicted: bool
    scene_ev100: float | None
    f_number: float | None
    f_number_label: str | None
    iso: float | None
    ledger: list[LedgerLineOut]
    ledger_stops: float | None
    shutter: Labelled | None
    wanted: Labelled | None
    proposals: list[ProposalOut]
    looks: list[LookBandOut]
    movers: list[MoverOut]
    look: str | None
    streak_share: float | None
    moving_element_id: int | None
    shadow_ev: float | None
    highlight_ev: float | None
    range_stops: float | None
    dynamic_range_stops: float | None
    exposures: list[ExposureFrameOut]
    carrying: int
    settings: list[CameraSettingOut]
    bracket_automatic: bool | None
    flash: FlashOut | None


class PlanOut(Out):
    verdicts: list[VerdictOut]
    because: list[ReasonOut]
    place: PlacePlanOut
    light: LightOut
    frame: FrameOut
    depth: DepthOut
    exposure: ExposureOut
    sequence: SequenceOut

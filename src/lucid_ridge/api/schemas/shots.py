"""Shots: what can be said of one, and what comes back."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from .fields import (
    Aperture,
    Bearing,
    Clock,
    Day,
    Distance,
    Id,
    In,
    Instant,
    Name,
    Note,
    Out,
    Shutter,
    angles,
    bounded,
    lengths_m,
    lengths_mm,
    magnifications,
    seconds,
    shares,
    speeds_iso,
    stops,
    wrap_bearing,
)
from .general import MarkingOut
from .light import LightKind
from .places import LocationOut, ViewpointOut
from .plan import PlanOut, UndoOut, VerdictOut

Orientation = Literal["lengthwise", "upright"]
CocCriterion = Literal["handbook", "print", "pixels", "custom"]
FocusSchool = Literal["balanced", "hyperfocal", "third", "subject"]
DepthMethod = Literal["auto", "single", "ring", "rail"]
LookName = Literal["frozen", "textured", "silky", "veiled", "flattened"]
BracketMode = Literal["none", "range"]
Aspect = Literal["3:2", "4:3", "5:4", "1:1", "16:9", "65:24", "free"]
Guide = Literal["thirds", "golden", "centre", "diagonals", "grid", "none"]
Iso = speeds_iso(1, 10_000_000)
Reading = stops(-15, 25)


class FilterUse(In):
    """What a shot does with a filter; neither takes it out of the shot."""

    filter_id: Id
    on_lens: bool
    on_when_metered: bool


class ShotIn(In):
    name: Name
    intent: Note = ""
    viewpoint_id: Id | None = None
    body_id: Id | None = None
    lens_id: Id | None = None
    date_local: Day | None = None


class ShotPatch(In):
    """Only what is named changes; null lets a value go, so that the application chooses it again.

    keep_subject_size: with a new focal_mm the camera steps back or forward so that the subject stays as large as it is. crop_share: the
    crop's field as a share of the lens's, kept as the focal length that has it.
    """

    name: Name = ""
    intent: Note = ""
    viewpoint_id: Id | None = None
    body_id: Id | None = None
    lens_id: Id | None = None
    support_id: Id | None = None
    date_local: Day | None = None
    time_utc: Instant | None = None
    clock_local: Clock = None  # type: ignore[assignment]
    window_end_utc: Instant | None = None
    wanted_light: LightKind | None = None
    water_low_m: lengths_m(-100, 100) | None = None  # type: ignore[valid-type]
    water_high_m: lengths_m(-100, 100) | None = None  # type: ignore[valid-type]
    water_element_id: Id | None = None
    focal_mm: lengths_mm(1, 3000) | None = None  # type: ignore[valid-type]
    keep_subject_size: bool = False
    orientation: Orientation = "lengthwise"
    bearing_deg: Annotated[Bearing | None, AfterValidator(wrap_bearing)] = None
    pitch_deg: angles(-90, 90) = 0.0  # type: ignore[valid-type]
    roll_deg: angles(-45, 45) = 0.0  # type: ignore[valid-type]
    camera_height_m: lengths_m(0, 100) | None = None  # type: ignore[valid-type]
    camera_east_m: lengths_m(-1000, 1000) = 0.0  # type: ignore[valid-type]
    camera_north_m: lengths_m(-1000, 1000) = 0.0  # type: ignore[valid-type]
    crop_aspect: Aspect | None = None
    crop_focal_mm: lengths_mm(1, 6000) | None = None  # type: ignore[valid-type]
    crop_share: shares(0.02, 1) = 1.0  # type: ignore[valid-type]
    crop_ratio: bounded(0.1, 10) | None = None  # type: ignore[valid-type]
    crop_x: shares(0, 1) = 0.5  # type: ignore[valid-type]
    crop_y: shares(0, 1) = 0.5  # type: ignore[valid-type]
    pano_across_deg: angles(1, 360) | None = None  # type: ignore[valid-type]
    pano_upwards_deg: angles(1, 170) | None = None  # type: ignore[valid-type]
    pano_overlap: shares(0, 0.89) = 1 / 3  # type: ignore[valid-type]
    pano_pivot_mm: lengths_mm(0, 1000) = 0.0  # type: ignore[valid-type]
    hood_on: bool = False
    guide: Guide = "thirds"
    muted_readings: Annotated[list[Name], Field(max_length=200)] = []
    sharp_element_ids: Annotated[list[Id], Field(max_length=500)] = []
    near_m: Distance | None = None
    far_m: Distance | None = None
    far_infinite: bool = False
    magnification: magnifications(0, 20, above=True) | None = None  # type: ignore[valid-type]
    subject_depth_mm: lengths_mm(0, 10_000, above=True) | None = None  # type: ignore[valid-type]
    coc_criterion: CocCriterion = "handbook"
    coc_custom_mm: lengths_mm(0.001, 1) | None = None  # type: ignore[valid-type]
    print_width_mm: lengths_mm(10, 20_000) = 600.0  # type: ignore[valid-type]
    viewing_distance_mm: lengths_mm(10, 100_000) = 600.0  # type: ignore[valid-type]
    f_number: Aperture | None = None
    focus_school: FocusSchool = "balanced"
    subject_element_id: Id | None = None
    depth_method: DepthMethod = "auto"
    overlap: shares(0, 0.89) = 0.2  # type: ignore[valid-type]
    metered_f_number: Aperture | None = None
    metered_shutter_s: Shutter | None = None
    metered_iso: Iso | None = None  # type: ignore[valid-type]
    metered_through_lens: bool = True
    shadow_ev: Reading | None = None  # type: ignore[valid-type]
    highlight_ev: Reading | None = None  # type: ignore[valid-type]
    highlight_margin_ev: stops(0, 3) = 0.0  # type: ignore[valid-type]
    compensation_ev: stops(-10, 10) = 0.0  # type: ignore[valid-type]
    iso: Iso | None = None  # type: ignore[valid-type]
    filters: Annotated[list[FilterUse], Field(max_length=100)] = []
    follow_fading: bool = False
    wanted_shutter_s: Shutter | None = None
    wanted_look: LookName | None = None
    moving_element_id: Id | None = None
    bracket: BracketMode = "none"
    bracket_step_ev: stops(0, 10, above=True) = 2.0  # type: ignore[valid-type]
    timer_s: seconds(0, 600) = 2.0  # type: ignore[valid-type]
    settle_s: seconds(0, 600) = 5.0  # type: ignore[valid-type]


class TargetIn(In):
    """What the frame should hold; shares of its width (x, air) or height (y). See core.framing.tuner.Target.

    uncut: every upright thing is whole in the frame, with air to its edges.
    """

    kind: Literal["place", "air", "horizon", "whole", "uncut"]
    element_id: Id | None = None
    other_id: Id | None = None
    x: shares(-1, 2) | None = None  # type: ignore[valid-type]
    y: shares(-1, 2) | None = None  # type: ignore[valid-type]
    air: shares(-1, 1) = 0.0  # type: ignore[valid-type]
    weight: bounded(0, 100, above=True) = 1.0  # type: ignore[valid-type]


class TuneIn(In):
    """What may change: steps to each side of where the camera stands now, its height, focal length, bearing, pitch and crop.

    within_area: only inside the viewpoint's standing area, where it has one.
    """

    targets: Annotated[list[TargetIn], Field(min_length=1, max_length=20)]
    step_m: lengths_m(0, 100) = 0.0  # type: ignore[valid-type]
    height_low_m: lengths_m(0, 100) | None = None  # type: ignore[valid-type]
    height_high_m: lengths_m(0, 100) | None = None  # type: ignore[valid-type]
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
    """changes: what to set in the shot; words: the move as one would say it."""

    changes: dict[str, float | None]
    words: str
    all_met: bool
    misses: list[MissOut]


class TunedOut(Out):
    solutions: list[TunedCameraOut]
    remarks: list[str]


class FilterUseOut(Out):
    filter_id: int
    on_lens: bool
    on_when_metered: bool


class ShotFactsOut(Out):
    """What the photographer has said; null is the application's choice or not said."""

    name: str
    intent: str
    viewpoint_id: int | None
    body_id: int | None
    lens_id: int | None
    support_id: int | None
    date_local: date | None
    time_utc: datetime | None
    clock_local: str | None
    window_end_utc: datetime | None
    window_end_clock: str | None
    wanted_light: LightKind | None
    water_low_m: float | None
    water_high_m: float | None
    water_element_id: int | None
    focal_mm: float | None
    orientation: Orientation
    bearing_deg: float | None
    pitch_deg: float
    roll_deg: float
    camera_height_m: float | None
    camera_east_m: float
    camera_north_m: float
    crop_aspect: Aspect | None
    crop_focal_mm: float | None
    crop_ratio: float | None
    crop_x: float
    crop_y: float
    pano_across_deg: float | None
    pano_upwards_deg: float | None
    pano_overlap: float
    pano_pivot_mm: float
    hood_on: bool
    guide: Guide
    muted_readings: list[str]
    sharp_element_ids: list[int]
    near_m: float | None
    near_label: str | None
    far_m: float | None
    far_label: str | None
    far_infinite: bool
    magnification: float | None
    subject_depth_mm: float | None
    coc_criterion: CocCriterion
    coc_custom_mm: float | None
    print_width_mm: float
    viewing_distance_mm: float
    f_number: float | None
    focus_school: FocusSchool
    subject_element_id: int | None
    depth_method: DepthMethod
    overlap: float
    metered_f_number: float | None
    metered_f_number_label: str | None
    metered_shutter_s: float | None
    metered_shutter_label: str | None
    metered_iso: float | None
    metered_through_lens: bool
    shadow_ev: float | None
    highlight_ev: float | None
    highlight_margin_ev: float
    compensation_ev: float
    iso: float | None
    filters: list[FilterUseOut]
    follow_fading: bool
    wanted_shutter_s: float | None
    wanted_shutter_label: str | None
    wanted_look: LookName | None
    moving_element_id: int | None
    bracket: BracketMode
    bracket_step_ev: float
    timer_s: float
    settle_s: float


class PlaceOut(Out):
    """Where the shot is taken from."""

    location_id: int
    location_name: str
    latitude_deg: float
    longitude_deg: float
    elevation_m: float
    zone: str
    tide_place: str | None
    viewpoint: ViewpointOut


class DetentsOut(Out):
    """The marks of a dial; at_start and at_end say why it goes no further there."""

    marks: list[MarkingOut]
    at_start: str
    at_end: str


class DialsOut(Out):
    """What body and lens in hand can be set to."""

    apertures: DetentsOut
    isos: DetentsOut
    focals: DetentsOut
    shutters: DetentsOut


class RemarkOut(Out):
    """Something worth saying of a field that is allowed all the same."""

    field: str
    text: str


class OwnIn(In):
    """What the shot gets a copy of its own of."""

    what: Literal["viewpoint", "location", "body", "lens", "support"]


class ShotOut(Out):
    id: int
    facts: ShotFactsOut
    dials: DialsOut
    remarks: list[RemarkOut]
    place: PlaceOut | None
    plan: PlanOut
    card_id: int | None
    undo: UndoOut
    backdrop: BackdropOut | None


class ThumbOut(Out):
    """A small finder drawing: polygons in 0..1 of the frame, farthest first."""

    aspect: float
    shapes: list[ThumbShapeOut]
    horizon: list[list[float]]


class ThumbShapeOut(Out):
    shape: str
    distance_m: float
    polygons: list[list[list[float]]]


class FramingIn(In):
    name: Name


class FramingChoices(In):
    """A framing's choices as the walk-through gave them; null lets a value go."""

    body_id: Id | None = None
    lens_id: Id | None = None
    focal_mm: lengths_mm(1, 3000) | None = None  # type: ignore[valid-type]
    orientation: Orientation = "lengthwise"
    bearing_deg: angles(0, 360) | None = None  # type: ignore[valid-type]
    pitch_deg: angles(-90, 90) = 0.0  # type: ignore[valid-type]
    roll_deg: angles(-45, 45) = 0.0  # type: ignore[valid-type]
    camera_height_m: lengths_m(0, 100) | None = None  # type: ignore[valid-type]
    camera_east_m: lengths_m(-1000, 1000) = 0.0  # type: ignore[valid-type]
    camera_north_m: lengths_m(-1000, 1000) = 0.0  # type: ignore[valid-type]
    crop_aspect: Aspect | None = None
    crop_focal_mm: lengths_mm(1, 6000) | None = None  # type: ignore[valid-type]
    crop_ratio: bounded(0.1, 10) | None = None  # type: ignore[valid-type]
    crop_x: shares(0, 1) = 0.5  # type: ignore[valid-type]
    crop_y: shares(0, 1) = 0.5  # type: ignore[valid-type]
    pano_across_deg: angles(1, 360) | None = None  # type: ignore[valid-type]
    pano_upwards_deg: angles(1, 170) | None = None  # type: ignore[valid-type]


class FramingOut(Out):
    """A framing as it looks with the shot's other facts as they are. id null: a step of the walk-through. now: the shot stands so."""

    id: int | None
    label: str
    made_at_utc: datetime
    clock: str
    words: str
    verdict: VerdictOut
    collisions: int
    thumb: ThumbOut | None
    choices: FramingChoices
    now: bool


class FramingsOut(Out):
    kept: list[FramingOut]
    walk: list[FramingOut]


class BackdropPatch(In):
    focal_mm: lengths_mm(1, 3000) = 24.0  # type: ignore[valid-type]
    sensor_width_mm: lengths_mm(1, 400) = 36.0  # type: ignore[valid-type]
    sensor_height_mm: lengths_mm(1, 400) = 24.0  # type: ignore[valid-type]
    bearing_deg: Annotated[Bearing, AfterValidator(wrap_bearing)] = 0.0
    pitch_deg: angles(-90, 90) = 0.0  # type: ignore[valid-type]
    opacity: shares(0.05, 1) = 0.6  # type: ignore[valid-type]


class BackdropOut(Out):
    """corners: directions from the camera, as points far away [m; east, north, up], of the picture's top left, top right, bottom right, bottom left."""

    name: str
    url: str
    pixels_wide: int
    pixels_high: int
    focal_mm: float
    focal_source: str
    sensor_width_mm: float
    sensor_height_mm: float
    bearing_deg: float
    pitch_deg: float
    opacity: float
    corners: list[list[float]]


class MeasureIn(In):
    """An angle from thumbs at arm's length (thumbs), or from pixels of a test frame (pixels, focal_mm; body_id or the shot's body), with a
    distance or a size: the other one is given back."""

    thumbs: bounded(0, 60, above=True) | None = None  # type: ignore[valid-type]
    pixels: bounded(0, 100_000, above=True) | None = None  # type: ignore[valid-type]
    focal_mm: lengths_mm(1, 3000) | None = None  # type: ignore[valid-type]
    distance_m: Distance | None = None
    size_m: Distance | None = None


class MeasureOut(Out):
    angle_deg: float
    distance_m: float
    distance_label: str
    size_m: float
    size_label: str
    words: str


class ShotSummaryOut(Out):
    id: int
    name: str
    intent: str
    location_name: str | None
    date_local: date | None
    clock_local: str | None
    verdicts: list[VerdictOut]
    thumb: ThumbOut | None


class NotebookOut(Out):
    shots: list[ShotSummaryOut]
    undo: UndoOut


class ScopesIn(In):
    """Whose edits undo and redo look at: shot:3, location:2, locations, shots, kit. entry_id: the edit that is meant."""

    scopes: Annotated[list[Name], Field(min_length=1, max_length=2000)]
    entry_id: Id | None = None


class UndoneOut(Out):
    """done false: nothing of the edit could be applied any more and it is passed over; words say why."""

    label: str
    done: bool
    words: str
    undo: UndoOut


__all__ = ["LocationOut", "NotebookOut", "ScopesIn", "ShotIn", "ShotOut", "ShotPatch", "ShotSummaryOut", "UndoneOut"]

"""The photographer's choices for one shot, in groups by the step of the day that asks for them. None means not said.

The annotations are evaluated as the module is read: the store derives its columns from them.
"""

from dataclasses import dataclass
from datetime import date, datetime, time
from enum import StrEnum
from typing import Annotated

from ..exposure.motion import LookName
from ..framing.composition import Guide
from ..framing.crop import Aspect
from ..framing.projection import Orientation
from ..labels import NamedEnum
from ..light.kinds import LightKind
from ..light.materials import Material
from ..optics.circle_of_confusion import CocCriterion
from ..weather.measures import Measure
from .declaring import Declared, Fact, Kind, facts_of, plain_words
from .frame_groups import FrameOrder
from .wishes import WishChoices


class FocusSchool(StrEnum):
    BALANCED = "balanced"
    HYPERFOCAL = "hyperfocal"
    THIRD = "third"
    SUBJECT = "subject"


class DepthMethod(StrEnum):
    AUTO = "auto"
    SINGLE = "single"
    RING = "ring"
    RAIL = "rail"


class Hold(NamedEnum):
    """How the camera is held."""

    TRIPOD = "tripod"
    BEAN_BAG = "bean_bag"
    HAND = "hand"
    BOAT = "boat"


# Held so, nothing settles, and the hand limits the shutter.
IN_HAND = (Hold.HAND, Hold.BOAT)


class BracketMode(NamedEnum):
    """Which exposures are taken of a picture."""

    NONE = "none"
    AROUND = "around"
    RANGE = "range"
    LAND_AND_SKY = "land_and_sky"
    HIGHLIGHTS = "highlights"
    FROZEN_AND_LONG = "frozen_and_long"


_ELEMENT = "element"
_POSITION, _CROP, _PANORAMA = "camera position", "crop", "panorama"


@dataclass(frozen=True)
class ShotHead:
    """What a shot is called, what it is for, where it is taken from and with what."""

    name: Annotated[str, Fact(Kind.NAME, label="name")]
    intent: Annotated[str, Fact(Kind.NOTE, label="intent")] = ""
    viewpoint_id: Annotated[int | None, Fact(label="viewpoint", refers="viewpoint")] = None
    body_id: Annotated[int | None, Fact(label="body", refers="body", framed=True)] = None
    lens_id: Annotated[int | None, Fact(label="lens", refers="lens", framed=True)] = None
    support_id: Annotated[int | None, Fact(label="tripod", refers="support")] = None
    favourite: Annotated[bool, Fact(label="favourite")] = False
    archived: Annotated[bool, Fact(label="archive")] = False


@dataclass(frozen=True)
class LightChoices:
    """When, in which light, and with how much water: depths are counted from the ground under water_element_id, where
    it is said.

    plan_b_*: another shot or location, taken where a measure of the weather stands over a value (see Measure) at a
    clock time of that day.
    """

    date_local: Annotated[date | None, Fact(label="date")] = None
    time_utc: Annotated[datetime | None, Fact(label="time")] = None
    window_end_utc: Annotated[datetime | None, Fact(label="end of the window")] = None
    wanted_light: Annotated[LightKind | None, Fact(label="wanted light")] = None
    water_low_m: Annotated[float | None, Fact(Kind.LENGTH_M, -100.0, 100.0, label="shallowest water")] = None
    water_high_m: Annotated[float | None, Fact(Kind.LENGTH_M, -100.0, 100.0, label="deepest water")] = None
    water_element_id: Annotated[int | None, Fact(label="where the water is wanted", refers=_ELEMENT)] = None
    plan_b_shot_id: Annotated[int | None, Fact(label="plan B", refers="shot")] = None
    plan_b_location_id: Annotated[int | None, Fact(label="plan B", refers="location")] = None
    plan_b_measure: Annotated[Measure | None, Fact(label="plan B's trigger")] = None
    plan_b_over: Annotated[float | None, Fact(Kind.NUMBER, 0.0, 100.0, label="plan B's trigger")] = None
    plan_b_clock: Annotated[time | None, Fact(label="when plan B is decided")] = None


@dataclass(frozen=True)
class FrameChoices:
    """Choices for the frame: camera position and aim, and crop.

    camera_east_m, camera_north_m count from the viewpoint's mark.
    """

    focal_mm: Annotated[float | None, Fact(Kind.LENGTH_MM, 1.0, 3000.0, label="focal length", framed=True)] = None
    orientation: Annotated[Orientation, Fact(label="orientation", framed=True)] = Orientation.LANDSCAPE
    bearing_deg: Annotated[float | None, Fact(Kind.BEARING, 0.0, 360.0, label="bearing", framed=True)] = None
    pitch_deg: Annotated[float, Fact(Kind.ANGLE, -90.0, 90.0, label="pitch", framed=True)] = 0.0
    roll_deg: Annotated[float, Fact(Kind.ANGLE, -45.0, 45.0, label="roll", framed=True)] = 0.0
    camera_height_m: Annotated[float | None, Fact(Kind.LENGTH_M, 0.0, 100.0, label="camera height", framed=True)] = None
    camera_east_m: Annotated[float, Fact(Kind.LENGTH_M, -1000.0, 1000.0, label=_POSITION, framed=True)] = 0.0
    camera_north_m: Annotated[float, Fact(Kind.LENGTH_M, -1000.0, 1000.0, label=_POSITION, framed=True)] = 0.0
    crop_aspect: Annotated[Aspect | None, Fact(label="crop", framed=True)] = None
    crop_focal_mm: Annotated[float | None, Fact(Kind.LENGTH_MM, 1.0, 6000.0, label=_CROP, framed=True)] = None
    crop_ratio: Annotated[float | None, Fact(Kind.NUMBER, 0.1, 10.0, label=_CROP, framed=True)] = None
    crop_x: Annotated[float, Fact(Kind.SHARE, 0.0, 1.0, label=_CROP, framed=True)] = 0.5
    crop_y: Annotated[float, Fact(Kind.SHARE, 0.0, 1.0, label=_CROP, framed=True)] = 0.5
    pano_across_deg: Annotated[float | None, Fact(Kind.ANGLE, 1.0, 360.0, label=_PANORAMA, framed=True)] = None
    pano_upwards_deg: Annotated[float | None, Fact(Kind.ANGLE, 1.0, 170.0, label=_PANORAMA, framed=True)] = None
    pano_overlap: Annotated[float, Fact(Kind.SHARE, 0.0, 0.89, label="panorama's overlap")] = 1 / 3
    pano_pivot_mm: Annotated[float, Fact(Kind.LENGTH_MM, 0.0, 1000.0, label="panorama's pivot")] = 0.0
    hold: Annotated[Hold, Fact(label="how the camera is held")] = Hold.TRIPOD
    braced: Annotated[bool, Fact(label="braced")] = False
    hood_on: Annotated[bool, Fact(label="lens hood")] = False
    guide: Annotated[Guide, Fact(label="guide")] = Guide.THIRDS
    muted_readings: Annotated[frozenset[str], Fact(label="muted readings")] = frozenset()


@dataclass(frozen=True)
class DepthChoices:
    """What must be sharp and how sharp, where it is focused, and in how many frames."""

    near_m: Annotated[float | None, Fact(Kind.DISTANCE, 0.0, 1e6, above=True, label="near limit")] = None
    far_m: Annotated[float | None, Fact(Kind.DISTANCE, 0.0, 1e6, above=True, label="far limit")] = None
    far_infinite: Annotated[bool, Fact(label="sharp to infinity")] = False
    ground_sharp: Annotated[bool, Fact(label="ground at the frame's edge")] = False
    magnification: Annotated[float | None, Fact(Kind.MAGNIFICATION, 0.0, 20.0, above=True, label="magnification")] = (
        None
    )
    subject_depth_mm: Annotated[
        float | None, Fact(Kind.LENGTH_MM, 0.0, 10_000.0, above=True, label="subject's depth")
    ] = None
    coc_criterion: Annotated[CocCriterion, Fact(label="sharpness criterion")] = CocCriterion.HANDBOOK
    coc_custom_mm: Annotated[float | None, Fact(Kind.LENGTH_MM, 0.001, 1.0, label="circle of confusion")] = None
    print_width_mm: Annotated[float, Fact(Kind.LENGTH_MM, 10.0, 20_000.0, label="print width")] = 600.0
    viewing_distance_mm: Annotated[float, Fact(Kind.LENGTH_MM, 10.0, 100_000.0, label="viewing distance")] = 600.0
    f_number: Annotated[float | None, Fact(Kind.APERTURE, 0.5, 128.0, label="aperture")] = None
    focus_school: Annotated[FocusSchool, Fact(label="way of focusing")] = FocusSchool.BALANCED
    subject_element_id: Annotated[int | None, Fact(label="subject", refers=_ELEMENT)] = None
    depth_method: Annotated[DepthMethod, Fact(label="depth method")] = DepthMethod.AUTO
    overlap: Annotated[float, Fact(Kind.SHARE, 0.0, 0.89, label="overlap")] = 0.2
    subject_moves: Annotated[bool, Fact(label="moving the subject instead of the camera")] = False
    frames_per_s: Annotated[float | None, Fact(Kind.NUMBER, 0.2, 120.0, label="frames a second")] = None
    hit_rate: Annotated[float | None, Fact(Kind.SHARE, 0.0, 1.0, above=True, label="hit rate")] = None
    patience_s: Annotated[float | None, Fact(Kind.SECONDS, 1.0, 86_400.0, label="subject's patience")] = None


@dataclass(frozen=True)
class ExposureChoices:
    """Choices for exposure: the meter reading, the scene's range, and the look of moving subjects.

    metered_at_utc: when the meter was read; None: not known, taken to be the shot's time. range_read_at_utc: when
    highlight, shadow and spots were read; None: with the meter.
    graduated_at: height of the middle of a graduated filter's transition, as a share of the frame's height from the
    top at the middle of its width; None: on the skyline. graduated_tilt_deg: clockwise.
    """

    metered_f_number: Annotated[float | None, Fact(Kind.APERTURE, 0.5, 128.0, label="metered aperture")] = None
    metered_shutter_s: Annotated[
        float | None, Fact(Kind.SHUTTER, 0.0, 86_400.0, above=True, label="metered shutter time")
    ] = None
    metered_iso: Annotated[float | None, Fact(Kind.ISO, 1.0, 1e7, label="metered ISO")] = None
    metered_through_lens: Annotated[bool, Fact(label="read through the lens")] = True
    metered_at_utc: Annotated[datetime | None, Fact(label="time of the reading")] = None
    range_read_at_utc: Annotated[datetime | None, Fact(label="time of highlight and shadow")] = None
    shadow_ev: Annotated[float | None, Fact(Kind.EV, -15.0, 25.0, label="shadow reading")] = None
    highlight_ev: Annotated[float | None, Fact(Kind.EV, -15.0, 25.0, label="highlight reading")] = None
    highlight_margin_ev: Annotated[float, Fact(Kind.EV, 0.0, 3.0, label="margin for highlights")] = 0.0
    compensation_ev: Annotated[float, Fact(Kind.EV, -10.0, 10.0, label="compensation")] = 0.0
    iso: Annotated[float | None, Fact(Kind.ISO, 1.0, 1e7, label="ISO")] = None
    follow_fading: Annotated[bool, Fact(label="changing light")] = False
    wanted_shutter_s: Annotated[float | None, Fact(Kind.SHUTTER, 0.0, 86_400.0, above=True, label="wanted shutter")] = (
        None
    )
    wanted_look: Annotated[LookName | None, Fact(label="wanted look")] = None
    moving_element_id: Annotated[int | None, Fact(label="what sets the shutter", refers=_ELEMENT)] = None
    flash_distance_m: Annotated[float | None, Fact(Kind.DISTANCE, 0.01, 20.0, label="light to subject")] = None
    flash_shutter_s: Annotated[float, Fact(Kind.SHUTTER, 0.0, 60.0, above=True, label="shutter with flash")] = 2 ** (
        -23 / 3
    )
    bracket: Annotated[BracketMode, Fact(label="bracket")] = BracketMode.NONE
    bracket_step_ev: Annotated[float, Fact(Kind.EV, 0.0, 10.0, above=True, label="bracket step")] = 2.0
    bracket_count: Annotated[int, Fact(Kind.COUNT, 2, 15, label="frames of the bracket")] = 3
    ground_material: Annotated[Material, Fact(label="ground")] = Material.GRASS
    graduated_at: Annotated[float | None, Fact(Kind.NUMBER, -1.0, 2.0, label="edge of the graduated filter")] = None
    graduated_tilt_deg: Annotated[float, Fact(Kind.ANGLE, -90.0, 90.0, label="tilt of the graduated filter")] = 0.0


@dataclass(frozen=True)
class SequenceChoices:
    """The waits around each frame, and in which order the groups are taken.

    settle_s: after a change of focus or aim; turn_s: more for each turn of the head; filter_change_s: for each filter
    put on or taken off (the default is common practice).
    """

    timer_s: Annotated[float, Fact(Kind.SECONDS, 0.0, 600.0, label="self-timer")] = 2.0
    settle_s: Annotated[float, Fact(Kind.SECONDS, 0.0, 600.0, label="settling")] = 5.0
    mirror_s: Annotated[float, Fact(Kind.SECONDS, 0.0, 600.0, label="wait after the mirror")] = 0.0
    filter_change_s: Annotated[float, Fact(Kind.SECONDS, 0.0, 600.0, label="filter change")] = 20.0
    turn_s: Annotated[float, Fact(Kind.SECONDS, 0.0, 600.0, label="turning the head")] = 0.0
    frame_order: Annotated[FrameOrder, Fact(label="order of the groups")] = FrameOrder.CHOSEN


# By the name that each group has in a shot, in the store and on the wire.
GROUPS: dict[str, type] = {
    "light": LightChoices,
    "frame": FrameChoices,
    "depth": DepthChoices,
    "exposure": ExposureChoices,
    "sequence": SequenceChoices,
    "wishes": WishChoices,
}
# What a shot says beside its declared facts: which rows of other tables it uses, and how some facts are written
# together.
BESIDE = {
    "sharp_element_ids": ("depth", "what must be sharp"),
    "field_mm": ("depth", "field"),
    "accessory_ids": ("frame", "close-up rig"),
    "filters": ("exposure", "filters"),
    "spots": ("exposure", "spot readings"),
    "motion_wishes": ("exposure", "what moves"),
    "frame_groups": ("sequence", "groups of frames"),
    "clock_local": ("light", "time"),
    "keep_subject_size": ("frame", "camera position"),
    "crop_share": ("frame", "crop"),
}


def group_of(name: str) -> str:
    """Return the group that a shot's value belongs to; the head's has no name."""
    if name in BESIDE:
        return BESIDE[name][0]
    return next((group for group, kind in GROUPS.items() if name in facts_of(kind)), "")


def path_of(name: str) -> str:
    """Return a shot's value as it is addressed on the wire: depth.f_number."""
    group = group_of(name)
    return f"{group}.{name}" if group else name


def label_of(name: str) -> str:
    """Return the display name of one of a shot's values, for use in a sentence."""
    if name in BESIDE:
        return BESIDE[name][1]
    found = shot_facts_declared().get(name)
    return found.label if found else plain_words(name)


def shot_facts_declared() -> dict[str, Declared]:
    """Return all declared facts of a shot by name; no name stands in two groups."""
    return {name: fact for kind in (ShotHead, *GROUPS.values()) for name, fact in facts_of(kind).items()}


FRAMED: tuple[str, ...] = tuple(name for name, item in shot_facts_declared().items() if item.fact.framed)

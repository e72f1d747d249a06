"""The scene in tones: meshes with their luminance, and what each frame holds of it."""

from __future__ import annotations

from ....core.facts.choices import BracketMode
from ....core.tones.monochrome import MonochromeFilter
from ...platform.fields import Out
from .plan import ReasonOut
from .shots import FilterUseOut


class ToneLayerOut(Out):
    """A part of the scene, drawn in order. kind: sky, land, ground, water, flat (on the ground) or thing.

    Arrays are little-endian in base64: points as float32 (n × 3, metres from the anchor), triangles as uint32 (m × 3),
    ev and other values per point as float32 (n): ev at ISO 100 at the eye; shade_ev where the sun does not reach the
    ground; mirror_ev as reflected by still water; polariser_stops its change by a polariser beyond the cost,
    mirror_polariser_stops of its reflection. grain_m, grain_stops: surface texture, for drawing only.
    """

    kind: str
    element_id: int | None
    points: str
    triangles: str
    ev: str
    shade_ev: str | None
    mirror_ev: str | None
    polariser_stops: str | None
    mirror_polariser_stops: str | None
    grain_m: float
    grain_stops: float


class FrameTonesOut(Out):
    """brightest_ev, darkest_ev: the range the frame holds. clipped, blocked: shares of the picture beyond it."""

    shutter_label: str
    darkest_ev: float
    brightest_ev: float
    clipped: float
    blocked: float


class PartTonesOut(Out):
    name: str
    element_id: int | None
    middle_ev: float
    low_ev: float
    high_ev: float
    share: float
    spread_stops: float


class MonochromeOut(Out):
    """The effect of a coloured filter on a black-and-white picture [stops]: on sky, land, and elements by id."""

    filter: MonochromeFilter
    sky_stops: float
    land_stops: float
    element_stops: dict[str, float]


class SkyWayOut(Out):
    """A way to hold sky and land: bracket, bracket_count (null: unchanged) and filters are what it sets."""

    name: str
    bracket: BracketMode
    bracket_count: int | None
    filters: list[FilterUseOut]
    frames: int
    total_label: str
    holds: bool
    risk: str
    chosen: bool


class GraduatedOut(Out):
    """at: the middle of the transition, as a share of the frame's height from its top; tilt_deg clockwise.

    plate_width_mm, plate_height_mm: the part of the plate in front of the frame. stops: at table_from_mm and every
    table_step_mm further up.
    """

    names: str
    strength_stops: float
    at: float
    tilt_deg: float
    on_skyline: bool
    plate_width_mm: float
    plate_height_mm: float
    smear_deg: float
    table_from_mm: float
    table_step_mm: float
    stops: list[float]


class LitSceneOut(Out):
    """The scene in its light, before exposure.

    anchor: origin of the points [m]. reference_ev: about the middle of the scene, for scaling. mirror_level_m: of the
    still water; mirrors: ids of these waters. shadows: rings on the ground (n × 3), from the anchor.
    """

    scene_key: str
    layers: list[ToneLayerOut]
    shadows: list[list[list[float]]]
    anchor: list[float]
    mirror_level_m: float | None
    mirrors: list[int]
    disc_altitude_deg: float | None
    disc_azimuth_deg: float | None
    reference_ev: float


class TonesOut(Out):
    """ready: body, lens and time are chosen. scene_key: of its scene; the same key is the same scene.

    response_tones: screen lightness at steps below the brightest that a frame holds, evenly from 0 to
    response_to_stops. carrying: the frame that carries the picture. shift_stops: added to the scene's EV; in addition
    sky_stops, land_stops and element_stops by id from spot readings.
    """

    ready: bool
    scene_key: str
    held_stops: float
    response_to_stops: float
    response_tones: list[float]
    frames: list[FrameTonesOut]
    carrying: int
    parts: list[PartTonesOut]
    histogram_from_ev: float
    histogram_step_ev: float
    histogram: list[float]
    shadow_ev: float
    middle_ev: float
    highlight_ev: float
    shift_stops: float
    sky_stops: float
    land_stops: float
    element_stops: dict[str, float]
    needed_graduated_stops: float | None
    to_the_right_stops: float | None
    compensation_to_the_right: float | None
    graduated: GraduatedOut | None
    polariser_on: bool
    polariser_low_stops: float | None
    polariser_high_stops: float | None
    separation_stops: float | None
    separation_behind: str
    monochrome: list[MonochromeOut]
    ways: list[SkyWayOut]
    reasons: list[ReasonOut]

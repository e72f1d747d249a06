"""What is known of a shot: its place, its kit and the photographer's choices. None means not said yet."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from datetime import date, datetime
from functools import cached_property
from zoneinfo import ZoneInfo

from ..framing.crop import Crop, crop_frame
from ..framing.ground import LEVEL_GROUND, Ground, StandingArea
from ..framing.projection import UPRIGHT, Camera
from ..light.readings import Reading
from ..light.skyline import LEVEL, Skyline
from ..optics.circle_of_confusion import coc_handbook_mm, coc_pixels_mm, coc_print_mm
from ..tides.water import Tide

COC_CRITERIA = ("handbook", "print", "pixels", "custom")
FOCUS_SCHOOLS = ("balanced", "hyperfocal", "third", "subject")
DEPTH_METHODS = ("auto", "single", "ring", "rail")
BRACKET_MODES = ("none", "range")
FILTER_KINDS = ("neutral density", "polariser", "graduated")
MOUNTS = ("screw", "plate")
HAZARD_KINDS = (
    "edge", "tide", "swell", "slippery rock", "loose rock", "river", "bog", "avalanche", "remoteness", "heat", "cold",
)  # fmt: skip
SEASON_KINDS = ("leaf colour", "flowering", "river flow", "snow", "ice", "crowds", "other")
DEFAULT_CAMERA_HEIGHT_M = 1.5


@dataclass(frozen=True)
class Location:
    """Where the tripod stands: the viewpoint's own position, skyline and tide where it has them, else the location's."""

    name: str
    latitude_deg: float
    longitude_deg: float
    elevation_m: float
    zone: str
    skyline: Skyline = LEVEL
    tide: Tide | None = None


@dataclass(frozen=True)
class Hazard:
    """kind is one of HAZARD_KINDS. A tide cuts the place off while it stands above cut_off_m. Months 1..12 bound it in the year."""

    kind: str
    note: str = ""
    cut_off_m: float | None = None
    from_month: int | None = None
    to_month: int | None = None


@dataclass(frozen=True)
class SeasonNote:
    """What a season brings: kind is one of SEASON_KINDS, from a first to a last day of the year (which may run over New Year)."""

    kind: str
    note: str
    from_month: int
    from_day: int
    to_month: int
    to_day: int


@dataclass(frozen=True)
class Approach:
    """The way there. None is not said. drive_min from home to where the car stands; walk on from there."""

    drive_min: float | None = None
    walk_m: float | None = None
    ascent_m: float | None = None
    terrain: str = "path"
    set_up_min: float = 20.0
    reserve_min: float = 15.0


@dataclass(frozen=True)
class Access:
    """What is known of rights, gates, permits, fees and hours, and when that was last checked; None means not checked."""

    notes: str = ""
    checked_on: date | None = None
    source: str = ""


@dataclass(frozen=True)
class Element:
    """Something in the scene. distance_m is from the lens; speed_mps how fast it moves across the view, if it does.

    bed_m: height of the ground it stands on above the tide's zero. skyline: as seen from it, where known. course: further
    (bearing, distance) points of a path, stream, wall or shore.
    """

    id: int
    name: str
    shape: str
    bearing_deg: float
    distance_m: float
    width_m: float
    height_m: float
    base_m: float = 0.0
    speed_mps: float | None = None
    bed_m: float | None = None
    skyline: Skyline | None = None
    course: tuple[tuple[float, float], ...] = ()


@dataclass(frozen=True)
class Support:
    """A tripod: the camera's lowest and highest place upright, and the lowest with the column inverted (None: it cannot be)."""

    id: int
    name: str
    height_min_m: float
    height_max_m: float
    inverted_min_m: float | None = None


@dataclass(frozen=True)
class Body:
    id: int
    name: str
    sensor_width_mm: float
    sensor_height_mm: float
    pixels_wide: int
    pixels_high: int
    base_iso: float
    max_iso: float
    fastest_shutter_s: float
    slowest_shutter_s: float
    has_bulb: bool
    held_stops: float
    bracket_frames: int
    bracket_step_ev: float
    write_s: float = 0.5
    dark_frame: bool = False


@dataclass(frozen=True)
class Lens:
    """closest_focus_mm is engraved: from the sensor plane. pupil_ratio is exit over entrance pupil.

    f_number_min is the widest aperture at the shortest focal length, f_number_min_long at the longest where it differs.
    front_mm: from the front principal plane to the front rim; pupil_depth_mm: from the rim to the entrance pupil at the shortest focal length. hood_mm: how far the hood stands out; hood_clear_mm its opening.
    """

    id: int
    name: str
    focal_min_mm: float
    focal_max_mm: float
    f_number_min: float
    f_number_max: float
    closest_focus_mm: float
    sharpest_f_number: float
    max_magnification: float | None = None
    pupil_ratio: float = 1.0
    filter_thread_mm: float | None = None
    pupil_depth_mm: float | None = None
    front_mm: float | None = None
    hood_mm: float | None = None
    hood_clear_mm: float | None = None
    f_number_min_long: float | None = None

    def widest_f_number(self, focal_mm: float) -> float:
        """Return the widest aperture at a focal length [mm]; between the ends of a zoom it is taken to follow the stops of both."""
        if self.f_number_min_long is None or self.focal_max_mm <= self.focal_min_mm:
            return self.f_number_min
        along = math.log(focal_mm / self.focal_min_mm) / math.log(self.focal_max_mm / self.focal_min_mm)
        return float(self.f_number_min * (self.f_number_min_long / self.f_number_min) ** min(1.0, max(0.0, along)))

    def takes_aperture(self, f_number: float, focal_mm: float) -> bool:
        """Whether an f-number can be set at a focal length [mm]; markings are rounded, so a fiftieth either way counts."""
        return self.widest_f_number(focal_mm) * _ROUNDED_DOWN <= f_number <= self.f_number_max * _ROUNDED_UP


_ROUNDED_DOWN, _ROUNDED_UP = 0.98, 1.02


@dataclass(frozen=True)
class Filter:
    """A filter of the bag, and what the shot does with it."""

    id: int
    name: str
    kind: str
    stops: float
    on_lens: bool = False
    on_when_metered: bool = False
    mount: str = "screw"
    thickness_mm: float = 5.0


@dataclass(frozen=True)
class ShotFacts:
    """Everything a plan is computed from. Optional values left None are chosen by the application."""

    location: Location | None = None
    viewpoint_name: str | None = None
    elements: tuple[Element, ...] = ()
    ground: Ground = LEVEL_GROUND
    standing: StandingArea | None = None
    support: Support | None = None
    date_local: date | None = None
    time_utc: datetime | None = None
    window_end_utc: datetime | None = None
    wanted_light: str | None = None
    water_low_m: float | None = None
    water_high_m: float | None = None
    water_element_id: int | None = None
    readings: tuple[Reading, ...] = ()
    hazards: tuple[Hazard, ...] = ()
    season_notes: tuple[SeasonNote, ...] = ()
    approach: Approach | None = None
    access: Access | None = None
    body: Body | None = None
    lens: Lens | None = None
    focal_mm: float | None = None
    orientation: str = "lengthwise"
    bearing_deg: float | None = None
    pitch_deg: float = 0.0
    roll_deg: float = 0.0
    camera_height_m: float | None = None
    camera_east_m: float = 0.0
    camera_north_m: float = 0.0
    crop_aspect: str | None = None
    crop_focal_mm: float | None = None
    crop_ratio: float | None = None
    crop_x: float = 0.5
    crop_y: float = 0.5
    pano_across_deg: float | None = None
    pano_upwards_deg: float | None = None
    pano_overlap: float = 1 / 3
    pano_pivot_mm: float = 0.0
    hood_on: bool = False
    guide: str = "thirds"
    muted_readings: frozenset[str] = frozenset()
    sharp_element_ids: frozenset[int] = frozenset()
    near_m: float | None = None
    far_m: float | None = None
    far_infinite: bool = False
    magnification: float | None = None
    subject_depth_mm: float | None = None
    coc_criterion: str = "handbook"
    coc_custom_mm: float | None = None
    print_width_mm: float = 600.0
    viewing_distance_mm: float = 600.0
    f_number: float | None = None
    focus_school: str = "balanced"
    subject_element_id: int | None = None
    depth_method: str = "auto"
    overlap: float = 0.2
    metered_f_number: float | None = None
    metered_shutter_s: float | None = None
    metered_iso: float | None = None
    metered_through_lens: bool = True
    shadow_ev: float | None = None
    highlight_ev: float | None = None
    highlight_margin_ev: float = 0.0
    compensation_ev: float = 0.0
    iso: float | None = None
    filters: tuple[Filter, ...] = ()
    follow_fading: bool = False
    wanted_shutter_s: float | None = None
    wanted_look: str | None = None
    moving_element_id: int | None = None
    bracket: str = "none"
    bracket_step_ev: float = 2.0
    timer_s: float = 2.0
    settle_s: float = 5.0
    card: str | None = None

    @property
    def close_up(self) -> bool:
        return self.magnification is not None

    @property
    def zone(self) -> ZoneInfo:
        return ZoneInfo(self.location.zone if self.location else "UTC")

    def clock(self, moment: datetime) -> str:
        """Return the local clock time of an instant as 16:04."""
        return moment.astimezone(self.zone).strftime("%H:%M")

    @property
    def subject(self) -> Element | None:
        """What the light is wanted on: the subject said, close up the nearest, else the largest of what must be sharp, else the largest."""
        said = self.element(self.subject_element_id)
        if said:
            return said
        if self.close_up:
            return min(self.elements, key=lambda item: item.distance_m, default=None)
        solid = [item for item in self.elements if item.shape != "water"]
        sharp = [item for item in solid if item.id in self.sharp_element_ids]
        return max(sharp or solid, key=lambda item: item.height_m / item.distance_m, default=None)

    @property
    def subject_skyline(self) -> Skyline:
        """The land around the subject where it was computed, else around the viewpoint."""
        subject = self.subject
        if subject and subject.skyline is not None:
            return subject.skyline
        return self.location.skyline if self.location else LEVEL

    @property
    def water_wanted_m(self) -> tuple[float | None, float | None]:
        """The heights of the tide wanted: depths at an element are counted from the ground it stands on."""
        element = self.element(self.water_element_id)
        bed = element.bed_m if element and element.bed_m is not None else 0.0
        return tuple(None if depth is None else depth + bed for depth in (self.water_low_m, self.water_high_m))  # type: ignore[return-value]

    @cached_property
    def seen_from_camera(self) -> ShotFacts:
        """The same facts with bearings and distances of the elements as from the camera, which may stand beside the viewpoint's mark."""
        if self.camera_east_m == 0 and self.camera_north_m == 0:
            return self
        return replace(self, elements=tuple(self._from_camera(item) for item in self.elements))

    def _from_camera(self, item: Element) -> Element:
        bearing, distance = self._bearing_and_distance(item.bearing_deg, item.distance_m)
        course = tuple(self._bearing_and_distance(*leg) for leg in item.course)
        # What one would stand upon is taken to be a hand's width away.
        return replace(item, bearing_deg=bearing, distance_m=max(0.05, distance), course=course)

    def _bearing_and_distance(self, bearing_deg: float, distance_m: float) -> tuple[float, float]:
        """Return bearing and distance from the camera of what has these from the mark."""
        bearing = math.radians(bearing_deg)
        east = distance_m * math.sin(bearing) - self.camera_east_m
        north = distance_m * math.cos(bearing) - self.camera_north_m
        return math.degrees(math.atan2(east, north)) % 360, math.hypot(east, north)

    def element(self, element_id: int | None) -> Element | None:
        return next((item for item in self.elements if item.id == element_id), None)


@dataclass(frozen=True)
class Settings:
    """The settings in force: the photographer's where said, else the application's choice."""

    focal_mm: float
    f_number: float
    iso: float
    coc_mm: float
    bearing_deg: float
    camera_height_m: float


def settings_of(facts: ShotFacts) -> Settings | None:
    """Return the settings in force; None while body or lens is missing."""
    body, lens = facts.body, facts.lens
    if body is None or lens is None:
        return None
    focal_mm = facts.focal_mm or lens.focal_min_mm
    looked_at = [item for item in facts.elements if item.id in facts.sharp_element_ids] or list(facts.elements)
    return Settings(
        focal_mm=focal_mm,
        # What was metered at is not what one shoots at unless that is said.
        f_number=facts.f_number or max(lens.sharpest_f_number, lens.widest_f_number(focal_mm)),
        iso=facts.iso or body.base_iso,
        coc_mm=coc_mm(facts, body),
        bearing_deg=facts.bearing_deg if facts.bearing_deg is not None else (looked_at[0].bearing_deg if looked_at else 0.0),
        camera_height_m=facts.camera_height_m if facts.camera_height_m is not None else DEFAULT_CAMERA_HEIGHT_M,
    )


def crop_of(facts: ShotFacts, body: Body, focal_mm: float) -> Crop:
    """Return what is kept of the frame; the whole of it without a crop, and where the lens in use is longer than the crop's."""
    sides, pixels = (body.sensor_width_mm, body.sensor_height_mm), (body.pixels_wide, body.pixels_high)
    if facts.orientation == UPRIGHT:
        sides, pixels = sides[::-1], pixels[::-1]
    longer = facts.crop_focal_mm if facts.crop_focal_mm and facts.crop_focal_mm >= focal_mm else None
    return crop_frame(sides, pixels, focal_mm, longer, facts.crop_aspect, facts.crop_ratio, (facts.crop_x, facts.crop_y))


def camera_of(facts: ShotFacts, settings: Settings, body: Body, magnification: float = 0.0) -> Camera:
    """Return the camera of a shot, its height above the ground where it stands; focused close the lens images longer, by 1 + magnification."""
    return Camera(
        settings.bearing_deg, settings.focal_mm * (1 + magnification), body.sensor_width_mm, body.sensor_height_mm, facts.pitch_deg,
        facts.orientation, facts.camera_east_m, facts.camera_north_m, settings.camera_height_m, facts.roll_deg,
    )  # fmt: skip


def standing_on(camera: Camera, ground: Ground) -> Camera:
    """Return a camera whose height counts from the mark's ground instead of the ground under it."""
    return replace(camera, height_m=camera.height_m + float(ground.height_m(camera.east_m, camera.north_m)))


def coc_mm(facts: ShotFacts, body: Body) -> float:
    """Return the circle of confusion [mm] by the criterion chosen. A print is made from what the crop leaves."""
    if facts.coc_criterion == "custom" and facts.coc_custom_mm:
        return facts.coc_custom_mm
    if facts.coc_criterion == "print":
        crop = crop_of(facts, body, facts.focal_mm or (facts.lens.focal_min_mm if facts.lens else 50.0))
        # By shares, not by pixels: of a very small crop not one whole pixel may be left.
        sides = (body.sensor_width_mm, body.sensor_height_mm)
        wide, high = sides[::-1] if facts.orientation == UPRIGHT else sides
        kept = max(crop.width_share * wide, crop.height_share * high) / max(sides)
        return coc_print_mm(body.sensor_width_mm * kept, facts.print_width_mm, facts.viewing_distance_mm)
    if facts.coc_criterion == "pixels":
        return coc_pixels_mm(body.sensor_width_mm, body.pixels_wide)
    return coc_handbook_mm(body.sensor_width_mm, body.sensor_height_mm)

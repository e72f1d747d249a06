"""Locations, viewpoints and elements."""

from __future__ import annotations

import re
from datetime import date, datetime
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BeforeValidator, Field

from .fields import (
    Aperture,
    Bearing,
    Clock,
    Day,
    Distance,
    Id,
    In,
    Name,
    Note,
    Out,
    Position,
    Shutter,
    angles,
    bounded,
    lengths_m,
    minutes,
    speeds,
    speeds_iso,
    stops,
    wrap_bearing,
)
from .plan import UndoOut

Shape = Literal[
    "block", "boulder", "post", "posts", "tree", "tower", "ridge", "skyline", "water", "shoreline", "wall", "path", "stream", "flower", "insect",
]  # fmt: skip
Size = Annotated[Distance, Field(ge=0.0001)]
WrappedBearing = Annotated[Bearing, AfterValidator(wrap_bearing)]


def _course(value: Any) -> Any:
    """Return a course written as "103 6 m, 124 20 m", one bearing with its distance after another, as pairs."""
    if not isinstance(value, str):
        return value
    legs = [leg.strip() for leg in re.split(r",\s|[;\n]", value) if leg.strip()]
    pairs = [leg.replace("°", " ").split(maxsplit=1) for leg in legs]
    for leg, pair in zip(legs, pairs, strict=True):
        if len(pair) != 2:
            raise ValueError(f"“{leg[:40]}” is not a bearing with its distance. Write 103 6 m, 124 20 m.")
    return pairs


# Further points of a line: bearing [degrees] and distance [m] from the viewpoint's mark.
Leg = tuple[WrappedBearing, Annotated[Distance, Field(ge=0.01, le=500_000)]]
Course = Annotated[list[Leg], Field(max_length=40), BeforeValidator(_course)]
Terrain = Literal["path", "rough", "boulders", "bog", "sand", "snow"]
HazardKind = Literal[
    "edge", "tide", "swell", "slippery rock", "loose rock", "river", "bog", "avalanche", "remoteness", "heat", "cold",
]  # fmt: skip
SeasonKind = Literal["leaf colour", "flowering", "river flow", "snow", "ice", "crowds", "other"]
Month = Annotated[int, Field(ge=1, le=12)]
DayOfMonth = Annotated[int, Field(ge=1, le=31)]


class LocationIn(In):
    """coordinates, one text in any notation, or latitude_deg and longitude_deg. Without a name it is called by them."""

    name: Name | None = None
    coordinates: Position | None = None
    latitude_deg: bounded(-90, 90) | None = None  # type: ignore[valid-type]
    longitude_deg: bounded(-180, 180) | None = None  # type: ignore[valid-type]
    elevation_m: lengths_m(-500, 9000) = 0.0  # type: ignore[valid-type]
    zone: Name | None = None
    notes: Note = ""


class LocationPatch(In):
    name: Name = ""
    coordinates: Position = (0.0, 0.0)
    latitude_deg: bounded(-90, 90) = 0.0  # type: ignore[valid-type]
    longitude_deg: bounded(-180, 180) = 0.0  # type: ignore[valid-type]
    elevation_m: lengths_m(-500, 9000) = 0.0  # type: ignore[valid-type]
    zone: Name = ""
    notes: Note = ""
    access_notes: Note = ""
    access_checked_on: Day | None = None
    access_source: Note = ""
    drive_min: minutes(0, 10_000) | None = None  # type: ignore[valid-type]
    walk_m: Annotated[Distance, Field(le=200_000)] | None = None
    walk_ascent_m: lengths_m(0, 9000) | None = None  # type: ignore[valid-type]
    walk_terrain: Terrain = "path"
    plan_b: Note = ""
    tide_place: Name | None = None


class ViewpointIn(In):
    """Its position as coordinates, or by bearing and distance from another viewpoint, or (neither) the location's own."""

    name: Name
    notes: Note = ""
    coordinates: Position | None = None
    elevation_m: lengths_m(-500, 9000) | None = None  # type: ignore[valid-type]
    from_viewpoint_id: Id | None = None
    from_bearing_deg: WrappedBearing | None = None
    from_distance_m: Annotated[Distance, Field(le=100_000)] | None = None


class StandingIn(In):
    """Where one can stand: corners (east, north) in metres from the mark; drops: sides, by their first corner, with a fall beyond."""

    corners: Annotated[list[Annotated[list[float], Field(min_length=2, max_length=2)]], Field(min_length=3, max_length=24)]
    drops: Annotated[list[Annotated[int, Field(ge=0, le=23)]], Field(max_length=24)] = []


class StandingOut(Out):
    corners: list[list[float]]
    drops: list[int]


class ViewpointPatch(In):
    """coordinates null: it stands where its location stands."""

    name: Name = ""
    notes: Note = ""
    coordinates: Position | None = None
    elevation_m: lengths_m(-500, 9000) | None = None  # type: ignore[valid-type]
    from_viewpoint_id: Id | None = None
    from_bearing_deg: WrappedBearing | None = None
    from_distance_m: Annotated[Distance, Field(le=100_000)] | None = None
    standing: StandingIn | None = None
    ground_slope_deg: angles(0, 45) = 0.0  # type: ignore[valid-type]
    ground_down_bearing_deg: WrappedBearing = 0.0
    ground_reach_m: lengths_m(1, 1000) = 30.0  # type: ignore[valid-type]


class SkylineIn(In):
    """The skyline as text (a bearing and an altitude a line) or as pairs; both null take it away."""

    text: Note | None = None
    points: Annotated[list[Annotated[list[float], Field(min_length=2, max_length=2)]], Field(max_length=1440)] | None = None


class HazardIn(In):
    """A tide cuts the place off above cut_off_m; months bound the others in the year."""

    kind: HazardKind
    note: Note = ""
    cut_off_m: lengths_m(-100, 100) | None = None  # type: ignore[valid-type]
    from_month: Month | None = None
    to_month: Month | None = None


class HazardPatch(In):
    kind: HazardKind = "edge"
    note: Note = ""
    cut_off_m: lengths_m(-100, 100) | None = None  # type: ignore[valid-type]
    from_month: Month | None = None
    to_month: Month | None = None


class SeasonNoteIn(In):
    kind: SeasonKind
    note: Note = ""
    from_month: Month
    from_day: DayOfMonth = 1
    to_month: Month
    to_day: DayOfMonth = 31


class TrackPatch(In):
    name: Name


class ReadingIn(In):
    """A meter reading at a local clock time: ev100 itself, or aperture, shutter and ISO."""

    date_local: Day
    clock_local: Clock
    ev100: stops(-15, 25) | None = None  # type: ignore[valid-type]
    f_number: Aperture | None = None
    shutter_s: Shutter | None = None
    iso: speeds_iso(1, 10_000_000) | None = None  # type: ignore[valid-type]
    note: Note = ""


class ElementIn(In):
    name: Name
    shape: Shape = "block"
    bearing_deg: WrappedBearing
    distance_m: Annotated[Distance, Field(ge=0.01, le=500_000)]
    width_m: Size
    height_m: Annotated[Size, Field(le=9000)]
    base_m: lengths_m(-5000, 9000) = 0.0  # type: ignore[valid-type]
    speed_mps: speeds(0, 400, above=True) | None = None  # type: ignore[valid-type]
    bed_m: lengths_m(-100, 100) | None = None  # type: ignore[valid-type]
    course: Course | None = None


class ElementPatch(In):
    name: Name = ""
    shape: Shape = "block"
    bearing_deg: WrappedBearing = 0.0
    distance_m: Annotated[Distance, Field(ge=0.01, le=500_000)] = 1.0
    width_m: Size = 1.0
    height_m: Annotated[Size, Field(le=9000)] = 1.0
    base_m: lengths_m(-5000, 9000) = 0.0  # type: ignore[valid-type]
    speed_mps: speeds(0, 400, above=True) | None = None  # type: ignore[valid-type]
    bed_m: lengths_m(-100, 100) | None = None  # type: ignore[valid-type]
    course: Course | None = None


class ElementOut(Out):
    id: int
    name: str
    shape: Shape
    bearing_deg: float
    distance_m: float
    distance_label: str
    width_m: float
    height_m: float
    base_m: float
    speed_mps: float | None
    bed_m: float | None
    course: list[list[float]]
    course_text: str
    has_skyline: bool


class ShotRefOut(Out):
    """A shot that uses a thing."""

    id: int
    name: str


class ViewpointOut(Out):
    """position_own: it has coordinates of its own; else they are the location's. skyline: [bearing, altitude] in degrees.

    used_by: the shots taken from here, which all see its elements.
    """

    id: int
    name: str
    notes: str
    latitude_deg: float
    longitude_deg: float
    position_own: bool
    position_words: str
    elevation_m: float | None
    skyline: list[list[float]] | None
    skyline_source: str
    standing: StandingOut | None
    ground_slope_deg: float
    ground_down_bearing_deg: float
    ground_reach_m: float
    elements: list[ElementOut]
    used_by: list[ShotRefOut]


class HazardOut(Out):
    id: int
    kind: HazardKind
    note: str
    cut_off_m: float | None
    from_month: int | None
    to_month: int | None


class SeasonNoteOut(Out):
    id: int
    kind: SeasonKind
    note: str
    from_month: int
    from_day: int
    to_month: int
    to_day: int
    words: str


class TrackOut(Out):
    id: int
    name: str
    length_m: float
    length_label: str
    ascent_m: float
    descent_m: float
    naismith_words: str
    tobler_words: str | None


class ReadingOut(Out):
    id: int
    time_utc: datetime
    date_local: date
    clock: str
    ev100: float
    note: str


class GridOut(Out):
    name: str
    rows: int
    columns: int
    spacing_m: float
    south_deg: float
    north_deg: float
    west_deg: float
    east_deg: float


class LocationOut(Out):
    id: int
    name: str
    latitude_deg: float
    longitude_deg: float
    elevation_m: float
    zone: str
    notes: str
    access_notes: str
    access_checked_on: date | None
    access_source: str
    drive_min: float | None
    walk_m: float | None
    walk_label: str | None
    walk_ascent_m: float | None
    walk_terrain: Terrain
    walk_words: str | None
    plan_b: str
    tide_place: str | None
    viewpoints: list[ViewpointOut]
    hazards: list[HazardOut]
    season_notes: list[SeasonNoteOut]
    tracks: list[TrackOut]
    readings: list[ReadingOut]
    grid: GridOut | None


class LocationsOut(Out):
    locations: list[LocationOut]
    tide_places: list[str]
    hazard_kinds: list[str]
    season_kinds: list[str]
    terrains: list[str]
    undo: UndoOut


class FileQuery(In):
    """The name of the file sent: its ending says what it is."""

    file_name: Name


class ImportedOut(Out):
    location: LocationOut
    viewpoints: int
    tracks: int
    words: str


class JobOut(Out):
    """state: running, done, failed or stopped. progress 0..1."""

    id: int
    label: str
    state: str
    progress: float
    message: str


class ContourOut(Out):
    level_m: float
    line: list[list[float]]


class SketchPointOut(Out):
    id: int
    name: str
    east_m: float
    north_m: float


class SketchTrackOut(Out):
    id: int
    name: str
    line: list[list[float]]


class SketchOut(Out):
    """Metres east and north of the location's coordinates; the drawing reaches half_m each way from middle."""

    middle: list[float]
    half_m: float
    viewpoints: list[SketchPointOut]
    tracks: list[SketchTrackOut]
    contours: list[ContourOut]
    contour_step_m: float | None


class CoordinatesQuery(In):
    text: Name


class CoordinatesOut(Out):
    latitude_deg: float
    longitude_deg: float
    notation: str


class ZoneQuery(In):
    latitude_deg: bounded(-90, 90)  # type: ignore[valid-type]
    longitude_deg: bounded(-180, 180)  # type: ignore[valid-type]


class ZoneOut(Out):
    zone: str

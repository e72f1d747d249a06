"""Locations, viewpoints and elements."""

from __future__ import annotations

import re
from datetime import date, datetime
from typing import Annotated, Any

from pydantic import BeforeValidator, Field, WithJsonSchema

from ...core.facts import place as core
from ...core.framing.solids import Shape
from ...core.ground.walk import Terrain
from ...formats.tide_tables import TableClock
from ...store.jobs import JobState
from ..platform.fact_fields import changes, gives, takes
from ..platform.fields import (
    Aperture,
    Bearing,
    Clock,
    Day,
    Distance,
    Ev,
    Id,
    In,
    Iso,
    LengthM,
    Name,
    Note,
    Number,
    Out,
    Position,
    Shutter,
)
from ..platform.shared_schemas import ShotRefOut
from ..platform.undo import UndoOut


def _course(value: Any) -> Any:
    """Return a course written as "103 6 m, 124 20 m", bearings with distances, as pairs."""
    if not isinstance(value, str):
        return value
    legs = [leg.strip() for leg in re.split(r",\s|[;\n]", value) if leg.strip()]
    pairs = [leg.replace("°", " ").split(maxsplit=1) for leg in legs]
    for leg, pair in zip(legs, pairs, strict=True):
        if len(pair) != 2:
            raise ValueError(f"“{leg[:40]}” is not a bearing with its distance. Write 103 6 m, 124 20 m.")
    return pairs


# Further points of a line: bearing [degrees] and distance [m] from the viewpoint.
Leg = tuple[Bearing, Annotated[Distance, Field(ge=0.01, le=500_000)]]
Course = Annotated[
    list[Leg],
    Field(max_length=40),
    BeforeValidator(_course),
    WithJsonSchema(
        {
            "anyOf": [
                {"type": "string"},
                {
                    "type": "array",
                    "items": {"type": "array", "items": {"anyOf": [{"type": "number"}, {"type": "string"}]}},
                },
            ]
        }
    ),
]


class LocationIn(In):
    """coordinates as one text in any notation, or latitude_deg and longitude_deg.

    Without a name the coordinates become the name.
    """

    name: Name | None = None
    coordinates: Position | None = None
    latitude_deg: Annotated[Number, Field(ge=-90, le=90)] | None = None
    longitude_deg: Annotated[Number, Field(ge=-180, le=180)] | None = None
    elevation_m: Annotated[LengthM, Field(ge=-500, le=9000)] = 0.0
    zone: Name | None = None
    notes: Note = ""


@changes(core.PlaceSaid, but=["tide_place"])
class LocationPatch(In):
    """coordinates as one text in any notation, in place of latitude_deg and longitude_deg."""

    coordinates: Position = (0.0, 0.0)
    tide_place: Name | None = None


class ViewpointIn(In):
    """Its position as coordinates, or by bearing and distance from another viewpoint, or (neither) the location's
    own.
    """

    name: Name
    notes: Note = ""
    coordinates: Position | None = None
    elevation_m: Annotated[LengthM, Field(ge=-500, le=9000)] | None = None
    from_viewpoint_id: Id | None = None
    from_bearing_deg: Bearing | None = None
    from_distance_m: Annotated[Distance, Field(le=100_000)] | None = None


class StandingIn(In):
    """A standing area: corners (east, north) in metres from the tripod mark; drops: sides with a drop, by their first
    corner.
    """

    corners: Annotated[
        list[Annotated[list[float], Field(min_length=2, max_length=2)]], Field(min_length=3, max_length=24)
    ]
    drops: Annotated[list[Annotated[int, Field(ge=0, le=23)]], Field(max_length=24)] = []


class StandingOut(Out):
    corners: list[list[float]]
    drops: list[int]


@changes(core.ViewpointSaid, but=["latitude_deg", "longitude_deg"])
class ViewpointPatch(In):
    """coordinates null: the viewpoint has its location's position."""

    coordinates: Position | None = None
    from_viewpoint_id: Id | None = None
    from_bearing_deg: Bearing | None = None
    from_distance_m: Annotated[Distance, Field(le=100_000)] | None = None
    standing: StandingIn | None = None


class PhotoQuery(In):
    """kept: when the photograph was stored, so that a newer one has another address."""

    kept: Annotated[int, Field(ge=0, le=2**40)] = 0


class SkylineIn(In):
    """The skyline as text (bearing and altitude, one pair per line) or as pairs; both null remove it."""

    text: Note | None = None
    points: (
        Annotated[list[Annotated[list[float], Field(min_length=2, max_length=2)]], Field(max_length=1440)] | None
    ) = None


@takes(core.Hazard)
class HazardIn(In):
    """A hazard. A tide cuts the place off above cut_off_m; the others may be limited to months."""


@changes(core.Hazard)
class HazardPatch(In):
    pass


@takes(core.Opening)
class OpeningIn(In):
    """Open or closed between two clock times on these days; or a permit for these dates.

    Without times, the whole day.
    """


@changes(core.Opening)
class OpeningPatch(In):
    pass


class OwnTideIn(In):
    """table: one water per line, 24 Nov 2026 04:12 1.3 m, in the time of table_clock; or constants: M2 1.42 327, one
    per line, with the mean.
    """

    table: Annotated[str, Field(max_length=200_000)] = ""
    table_clock: TableClock = TableClock.LOCAL
    constants: Annotated[str, Field(max_length=2_000)] = ""
    mean_m: Annotated[LengthM, Field(ge=-30, le=30)] = 0.0
    source: Annotated[str, Field(max_length=200)] = ""
    noted_on: Day | None = None


@takes(core.Scouting)
class ScoutingIn(In):
    """A visit by day. angles: name, bearing and altitude, one per line."""

    angles: Annotated[str, Field(max_length=20_000)] = ""


@changes(core.Scouting)
class ScoutingPatch(In):
    angles: Annotated[str, Field(max_length=20_000)] | None = None


@takes(core.SeasonNote, but=["note", "from_day", "to_day"])
class SeasonNoteIn(In):
    note: Note = ""
    from_day: Annotated[int, Field(ge=1, le=31)] = 1
    to_day: Annotated[int, Field(ge=1, le=31)] = 31


class TrackPatch(In):
    name: Name


class ReadingIn(In):
    """A meter reading at a local time: ev100, or aperture, shutter and ISO."""

    date_local: Day
    clock_local: Clock
    ev100: Annotated[Ev, Field(ge=-15, le=25)] | None = None
    f_number: Aperture | None = None
    shutter_s: Shutter | None = None
    iso: Annotated[Iso, Field(ge=1, le=10_000_000)] | None = None
    note: Note = ""


@takes(core.Element, but=["shape"])
class ElementIn(In):
    shape: Shape = Shape.BLOCK
    course: Course | None = None


@changes(core.Element)
class ElementPatch(In):
    course: Course | None = None


@gives(core.Element)
class ElementOut(Out):
    id: int
    distance_label: str
    course: list[list[float]]
    course_text: str
    has_skyline: bool
    reflectance_typical: float
    moves_mps: float | None
    passes: bool


class AngleOut(Out):
    """An angle measured on a visit: bearing and altitude."""

    name: str
    bearing_deg: float
    altitude_deg: float


@gives(core.Scouting)
class ScoutingOut(Out):
    """angles_text: the angles as editable text. photo: the photograph's address, if there is one."""

    id: int
    angles: list[AngleOut]
    angles_text: str
    day_words: str
    photo: str | None


class ViewpointOut(Out):
    """position_own: it has its own coordinates; else they are the location's.

    skyline: [bearing, altitude] in degrees. used_by: the shots taken from here.
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
    scoutings: list[ScoutingOut]
    used_by: list[ShotRefOut]


@gives(core.Hazard)
class HazardOut(Out):
    id: int


@gives(core.Opening, but=["from_clock", "to_clock"])
class OpeningOut(Out):
    """Clock times as text; empty if not given."""

    id: int
    from_clock: str
    to_clock: str
    words: str


class OwnTideOut(Out):
    """table, constants: as editable text."""

    table: str
    constants: str
    mean_m: float
    source: str
    noted_on: date | None
    words: str


@gives(core.SeasonNote)
class SeasonNoteOut(Out):
    id: int
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
    tide_margin_m: float
    tide_margin_min: float
    horizon: core.Horizon
    horizon_drop_m: float | None
    viewpoints: list[ViewpointOut]
    hazards: list[HazardOut]
    openings: list[OpeningOut]
    own_tide: OwnTideOut | None
    season_notes: list[SeasonNoteOut]
    tracks: list[TrackOut]
    readings: list[ReadingOut]
    grid: GridOut | None


class LocationsOut(Out):
    locations: list[LocationOut]
    tide_places: list[str]
    undo: UndoOut


class ImportedOut(Out):
    location: LocationOut
    viewpoints: int
    tracks: int
    words: str


class JobOut(Out):
    """A job. progress 0..1. viewpoint_id: of the skyline it computes, if it does."""

    id: int
    label: str
    viewpoint_id: int | None
    state: JobState
    progress: float
    message: str


class JobsOut(Out):
    """Work that is waiting or running."""

    jobs: list[JobOut]


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
    """A plan in metres east and north of the location's coordinates, reaching half_m each way from its middle."""

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
    latitude_deg: Annotated[Number, Field(ge=-90, le=90)]
    longitude_deg: Annotated[Number, Field(ge=-180, le=180)]


class ZoneOut(Out):
    zone: str

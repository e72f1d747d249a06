"""A place as a plan knows it: position, elements in view, hazards and access."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, time
from enum import StrEnum
from typing import Annotated

from ..exposure.moving_things import MovingKind, speed_of
from ..framing.footing import STEEPEST_DEG
from ..framing.solids import Shape
from ..ground.walk import Terrain
from ..labels import NamedEnum
from ..light.materials import Material
from ..light.skyline import LEVEL, Skyline
from ..tides.heights import SIMULATED, Tide
from .calibrations import Calibrated, times_as_long
from .declaring import Fact, Kind


class HazardKind(NamedEnum):
    EDGE = "edge"
    TIDE = "tide"
    SWELL = "swell"
    SLIPPERY_ROCK = "slippery_rock"
    LOOSE_ROCK = "loose_rock"
    RIVER = "river"
    BOG = "bog"
    AVALANCHE = "avalanche"
    REMOTENESS = "remoteness"
    HEAT = "heat"
    COLD = "cold"


class SeasonKind(NamedEnum):
    LEAF_COLOUR = "leaf_colour"
    FLOWERING = "flowering"
    RIVER_FLOW = "river_flow"
    SNOW = "snow"
    ICE = "ice"
    CROWDS = "crowds"
    OTHER = "other"


class Horizon(NamedEnum):
    """What the horizon of a place is where its skyline says nothing: at eye level, the sea below, or land that lies
    lower.
    """

    AS_TYPED = "as_typed"
    SEA = "sea"
    LAND = "land"


# The water counts as this much higher, and a closure as this much longer at either end, than the table says (our own
# cautious defaults).
TIDE_MARGIN_M, TIDE_MARGIN_MIN = 0.3, 30.0


@dataclass(frozen=True)
class PlaceSaid:
    """The photographer's statements about a location.

    drive_min from home, walk_m and walk_ascent_m from the car to the viewpoints. tide_margin_m, tide_margin_min: added
    to the tide's height and to both ends of a closure by it. horizon_drop_m: of lower land.
    """

    name: Annotated[str, Fact(Kind.NAME)]
    latitude_deg: Annotated[float, Fact(Kind.NUMBER, -90.0, 90.0, label="latitude")]
    longitude_deg: Annotated[float, Fact(Kind.NUMBER, -180.0, 180.0, label="longitude")]
    zone: Annotated[str, Fact(Kind.NAME, label="time zone")]
    elevation_m: Annotated[float, Fact(Kind.LENGTH_M, -500.0, 9000.0)] = 0.0
    notes: Annotated[str, Fact(Kind.NOTE)] = ""
    access_notes: Annotated[str, Fact(Kind.NOTE)] = ""
    access_checked_on: Annotated[date | None, Fact()] = None
    access_source: Annotated[str, Fact(Kind.NOTE)] = ""
    drive_min: Annotated[float | None, Fact(Kind.MINUTES, 0.0, 10_000.0)] = None
    walk_m: Annotated[float | None, Fact(Kind.DISTANCE, 0.0, 200_000.0)] = None
    walk_ascent_m: Annotated[float | None, Fact(Kind.LENGTH_M, 0.0, 9000.0, label="ascent of the walk")] = None
    walk_terrain: Annotated[Terrain, Fact(label="ground of the walk")] = Terrain.PATH
    plan_b: Annotated[str, Fact(Kind.NOTE)] = ""
    tide_place: Annotated[str | None, Fact(Kind.NOTE, label="tide")] = None
    tide_margin_m: Annotated[float, Fact(Kind.LENGTH_M, 0.0, 10.0, label="tide margin in height")] = TIDE_MARGIN_M
    tide_margin_min: Annotated[float, Fact(Kind.MINUTES, 0.0, 360.0, label="tide margin in time")] = TIDE_MARGIN_MIN
    horizon: Annotated[Horizon, Fact(label="horizon")] = Horizon.AS_TYPED
    horizon_drop_m: Annotated[
        float | None, Fact(Kind.LENGTH_M, 0.0, 9000.0, label="height above the land at the horizon")
    ] = None


@dataclass(frozen=True)
class ViewpointSaid:
    """What the photographer says of a viewpoint itself; without coordinates it stands where its location stands."""

    name: Annotated[str, Fact(Kind.NAME)]
    notes: Annotated[str, Fact(Kind.NOTE)] = ""
    latitude_deg: Annotated[float | None, Fact(Kind.NUMBER, -90.0, 90.0, label="latitude")] = None
    longitude_deg: Annotated[float | None, Fact(Kind.NUMBER, -180.0, 180.0, label="longitude")] = None
    elevation_m: Annotated[float | None, Fact(Kind.LENGTH_M, -500.0, 9000.0)] = None
    ground_slope_deg: Annotated[float, Fact(Kind.ANGLE, 0.0, STEEPEST_DEG)] = 0.0
    ground_down_bearing_deg: Annotated[float, Fact(Kind.BEARING, 0.0, 360.0)] = 0.0
    ground_reach_m: Annotated[float, Fact(Kind.LENGTH_M, 1.0, 1000.0)] = 30.0


@dataclass(frozen=True)
class Location:
    """Where the tripod stands: the viewpoint's own position, skyline and tide where it has them, else the
    location's.
    """

    name: str
    latitude_deg: float
    longitude_deg: float
    elevation_m: float
    zone: str
    skyline: Skyline = LEVEL
    tide: Tide | None = None
    tide_margin_m: float = TIDE_MARGIN_M
    tide_margin_min: float = TIDE_MARGIN_MIN

    @property
    def tide_simulated(self) -> bool:
        """Whether the tide is an invented one."""
        return self.tide is not None and self.tide.told == SIMULATED


@dataclass(frozen=True)
class Hazard:
    """A tide cuts the place off while it stands above cut_off_m. Months 1..12 bound the others in the year."""

    kind: Annotated[HazardKind, Fact(label="kind")]
    note: Annotated[str, Fact(Kind.NOTE)] = ""
    cut_off_m: Annotated[float | None, Fact(Kind.LENGTH_M, -100.0, 100.0, label="height that cuts it off")] = None
    from_month: Annotated[int | None, Fact(Kind.COUNT, 1, 12, label="first month")] = None
    to_month: Annotated[int | None, Fact(Kind.COUNT, 1, 12, label="last month")] = None


class OpeningKind(StrEnum):
    OPEN = "open"
    CLOSED = "closed"
    PERMIT = "permit"


class OpeningDays(NamedEnum):
    EVERY_DAY = "every_day"
    MONDAY_TO_FRIDAY = "monday_to_friday"
    WEEKEND = "weekend"
    MONDAY = "monday"
    TUESDAY = "tuesday"
    WEDNESDAY = "wednesday"
    THURSDAY = "thursday"
    FRIDAY = "friday"
    SATURDAY = "saturday"
    SUNDAY = "sunday"


@dataclass(frozen=True)
class Opening:
    """When one may be there: open, or closed, from a clock time to another on these days; or a permit for these dates.

    Without clock times it is the whole day. An end at or before the start lies on the next day. every_year: the year of
    the dates does not matter; they may then run over New Year.
    """

    kind: Annotated[OpeningKind, Fact(label="kind")]
    note: Annotated[str, Fact(Kind.NOTE)] = ""
    from_clock: Annotated[time | None, Fact(label="from")] = None
    to_clock: Annotated[time | None, Fact(label="to")] = None
    days: Annotated[OpeningDays, Fact(label="days")] = OpeningDays.EVERY_DAY
    first_date: Annotated[date | None, Fact(label="first date")] = None
    last_date: Annotated[date | None, Fact(label="last date")] = None
    every_year: Annotated[bool, Fact(label="every year")] = False


@dataclass(frozen=True)
class Scouting:
    """A visit to a viewpoint in daylight.

    angles: measured ones, as (name, bearing, apparent altitude) [degrees].
    """

    visited_on: Annotated[date, Fact(label="day of the visit")]
    note: Annotated[str, Fact(Kind.NOTE)] = ""
    bring: Annotated[str, Fact(Kind.NOTE, label="what to bring")] = ""
    angles: tuple[tuple[str, float, float], ...] = ()


@dataclass(frozen=True)
class SeasonNote:
    """What a season brings, from a first to a last day of the year (which may run over New Year)."""

    kind: Annotated[SeasonKind, Fact(label="kind")]
    note: Annotated[str, Fact(Kind.NOTE)]
    from_month: Annotated[int, Fact(Kind.COUNT, 1, 12, label="first month")]
    from_day: Annotated[int, Fact(Kind.COUNT, 1, 31, label="first day")]
    to_month: Annotated[int, Fact(Kind.COUNT, 1, 12, label="last month")]
    to_day: Annotated[int, Fact(Kind.COUNT, 1, 31, label="last day")]


@dataclass(frozen=True)
class Approach:
    """The way there.

    None is not said. drive_min from home to where the car stands; walk on from there. set_up_min: as it is said;
    taught_*: how many times as long things take by the log.
    """

    drive_min: float | None = None
    walk_m: float | None = None
    ascent_m: float | None = None
    terrain: Terrain = Terrain.PATH
    set_up_min: float = 20.0
    reserve_min: float = 15.0
    taught_set_up: Calibrated | None = None
    taught_walk: Calibrated | None = None

    @property
    def setting_up_min(self) -> float:
        """Planned time for setting up [min]."""
        return self.set_up_min * times_as_long(self.taught_set_up)


@dataclass(frozen=True)
class Access:
    """What is known of rights, gates, permits, fees and hours, and when that was last checked; None means not
    checked.
    """

    notes: str = ""
    checked_on: date | None = None
    source: str = ""


@dataclass(frozen=True)
class OtherPlace:
    """Another shot or location to go to. Minutes from home, and on foot from the car; None is not known."""

    name: str
    drive_min: float | None = None
    walk_min: float | None = None


@dataclass(frozen=True)
class Element:
    """Something in the scene.

    distance_m is from the lens; speed_mps how fast it moves, if it does; flow_bearing_deg where level water flows to
    (None: taken to be across the view, where it draws the longest streak).

    moving: what kind of thing it is that moves, passing_per_min: how many of them pass through the frame a minute.
    material: what it is made of (None: as its shape is usually), reflectance where it is known better. bed_m: height of
    the ground it stands on above the tide's zero. skyline: as seen from it, where known. course: further (bearing,
    distance) points of a path, stream, wall or shore.
    """

    id: int
    name: Annotated[str, Fact(Kind.NAME)]
    shape: Annotated[Shape, Fact(label="shape")]
    bearing_deg: Annotated[float, Fact(Kind.BEARING, 0.0, 360.0, label="bearing")]
    distance_m: Annotated[float, Fact(Kind.DISTANCE, 0.01, 500_000.0, label="distance")]
    width_m: Annotated[float, Fact(Kind.DISTANCE, 0.0001, 200_000.0, label="width")]
    height_m: Annotated[float, Fact(Kind.DISTANCE, 0.0001, 9000.0, label="height")]
    base_m: Annotated[float, Fact(Kind.LENGTH_M, -5000.0, 9000.0, label="height of its foot")] = 0.0
    speed_mps: Annotated[float | None, Fact(Kind.SPEED, 0.0, 400.0, above=True, label="speed")] = None
    bed_m: Annotated[float | None, Fact(Kind.LENGTH_M, -100.0, 100.0, label="ground above the tide's zero")] = None
    material: Annotated[Material | None, Fact(label="material")] = None
    reflectance: Annotated[float | None, Fact(Kind.SHARE, 0.005, 1.0, label="reflectance")] = None
    moving: Annotated[MovingKind | None, Fact(label="what moves")] = None
    passing_per_min: Annotated[float | None, Fact(Kind.NUMBER, 0.0, 600.0, label="passing a minute")] = None
    flow_bearing_deg: Annotated[float | None, Fact(Kind.BEARING, 0.0, 360.0, label="direction of flow")] = None
    skyline: Skyline | None = None
    course: tuple[tuple[float, float], ...] = ()
    # By how much faster it is than is written of it, by the log [stops].
    taught_speed: Calibrated | None = None

    @property
    def moves_mps(self) -> float | None:
        """Speed [m/s], as entered or usual, with the log's correction; None for an element that stands still or moves
        with the wind.
        """
        written = speed_of(self.speed_mps, self.moving)
        return written if written is None or self.taught_speed is None else written * 2.0**self.taught_speed.value

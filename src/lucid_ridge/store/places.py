"""Locations, the viewpoints on them, and the elements seen from a viewpoint."""

from __future__ import annotations

from datetime import date, datetime, time
from typing import Any

from sqlalchemy import DateTime, ForeignKey, Text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from ..core.exposure.moving_things import MovingKind
from ..core.facts import place as core
from ..core.framing.solids import Shape
from ..core.ground.walk import Terrain
from ..core.light.materials import Material
from .base import Base, Journaled
from .checks import between, not_blank
from .declared import Choice, checks_of
from .file_store import KeptFile
from .versioned import Angles, OwnTide, Pairs, Standing, TrackPoints, Versioned


class Location(Base, Journaled):
    """A location. elevation_m above sea level; zone: an IANA name; tide_place: the reference for its tide, unless
    own_tide is set.

    access_checked_on NULL: not checked. drive_min from home, walk_m and walk_ascent_m from the car to the viewpoints.
    """

    __tablename__ = "location"
    __table_args__ = tuple(checks_of(core.PlaceSaid))

    id: Mapped[int] = mapped_column(primary_key=True)
    owner_id: Mapped[int] = mapped_column(ForeignKey("photographer.id", ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(Text)
    latitude_deg: Mapped[float]
    longitude_deg: Mapped[float]
    elevation_m: Mapped[float] = mapped_column(default=0.0)
    zone: Mapped[str] = mapped_column(Text)
    notes: Mapped[str] = mapped_column(Text, default="")
    access_notes: Mapped[str] = mapped_column(Text, default="", server_default="")
    access_checked_on: Mapped[date | None]
    access_source: Mapped[str] = mapped_column(Text, default="", server_default="")
    drive_min: Mapped[float | None]
    walk_m: Mapped[float | None]
    walk_ascent_m: Mapped[float | None]
    walk_terrain: Mapped[Terrain] = mapped_column(Choice(Terrain), default=Terrain.PATH, server_default="path")
    plan_b: Mapped[str] = mapped_column(Text, default="", server_default="")
    tide_place: Mapped[str | None] = mapped_column(Text)
    tide_margin_m: Mapped[float] = mapped_column(default=core.TIDE_MARGIN_M, server_default="0.3")
    tide_margin_min: Mapped[float] = mapped_column(default=core.TIDE_MARGIN_MIN, server_default="30")
    horizon: Mapped[core.Horizon] = mapped_column(
        Choice(core.Horizon), default=core.Horizon.AS_TYPED, server_default="as_typed"
    )
    horizon_drop_m: Mapped[float | None]
    own_tide: Mapped[OwnTide | None] = mapped_column(Versioned(OwnTide))
    viewpoints: Mapped[list[Viewpoint]] = relationship(
        back_populates="location", cascade="all, delete-orphan", order_by="Viewpoint.id"
    )
    hazards: Mapped[list[Hazard]] = relationship(cascade="all, delete-orphan", order_by="Hazard.id")
    openings: Mapped[list[Opening]] = relationship(cascade="all, delete-orphan", order_by="Opening.id")
    season_notes: Mapped[list[SeasonNote]] = relationship(cascade="all, delete-orphan", order_by="SeasonNote.id")
    forecast: Mapped[KeptForecast | None] = relationship(viewonly=True)
    tracks: Mapped[list[WalkTrack]] = relationship(cascade="all, delete-orphan", order_by="WalkTrack.id")
    readings: Mapped[list[MeterReading]] = relationship(cascade="all, delete-orphan", order_by="MeterReading.time_utc")


class Viewpoint(Base, Journaled):
    """A tripod position, with its own coordinates or the location's. skyline: [[bearing, altitude], …] in degrees.

    standing: {"corners": [[east, north], …] in metres from the mark, "drops": [side, …]}. ground_*: see
    core.framing.footing.
    """

    __tablename__ = "viewpoint"
    __table_args__ = tuple(checks_of(core.ViewpointSaid))

    id: Mapped[int] = mapped_column(primary_key=True)
    location_id: Mapped[int] = mapped_column(ForeignKey("location.id", ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(Text)
    notes: Mapped[str] = mapped_column(Text, default="")
    latitude_deg: Mapped[float | None]
    longitude_deg: Mapped[float | None]
    elevation_m: Mapped[float | None]
    skyline: Mapped[list[list[float]] | None] = mapped_column(Versioned(Pairs))
    skyline_source: Mapped[str] = mapped_column(Text, default="", server_default="")
    standing: Mapped[Standing | None] = mapped_column(Versioned(Standing))
    ground_slope_deg: Mapped[float] = mapped_column(default=0.0, server_default="0")
    ground_down_bearing_deg: Mapped[float] = mapped_column(default=0.0, server_default="0")
    ground_reach_m: Mapped[float] = mapped_column(default=30.0, server_default="30")
    location: Mapped[Location] = relationship(back_populates="viewpoints", lazy="joined")
    scoutings: Mapped[list[Scouting]] = relationship(
        cascade="all, delete-orphan", order_by="Scouting.visited_on, Scouting.id"
    )
    elements: Mapped[list[Element]] = relationship(
        back_populates="viewpoint", cascade="all, delete-orphan", order_by="Element.id"
    )


class Scouting(Base, Journaled):
    """A visit to a viewpoint in daylight. angles: [[name, bearing, altitude], …] in degrees."""

    __tablename__ = "scouting"

    id: Mapped[int] = mapped_column(primary_key=True)
    viewpoint_id: Mapped[int] = mapped_column(ForeignKey("viewpoint.id", ondelete="CASCADE"), index=True)
    visited_on: Mapped[date]
    note: Mapped[str] = mapped_column(Text, default="")
    bring: Mapped[str] = mapped_column(Text, default="")
    angles: Mapped[list[list[Any]]] = mapped_column(Versioned(Angles), default=list)
    photo: Mapped[ScoutingPhoto | None] = relationship(viewonly=True, lazy="joined")


class ScoutingPhoto(Base):
    """The photograph of a visit, at most one; too large for the journal. content: a JPEG for display."""

    __tablename__ = "scouting_photo"

    scouting_id: Mapped[int] = mapped_column(ForeignKey("scouting.id", ondelete="CASCADE"), primary_key=True)
    name: Mapped[str] = mapped_column(Text)
    kept_at_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    content: Mapped[bytes] = mapped_column(KeptFile, deferred=True)


class Element(Base, Journaled):
    """An element. bearing_deg from north; distance_m from the lens; base_m above the viewpoint's ground; for water
    height_m is its length away from the camera.

    bed_m: height of its ground above the tide's zero. skyline: seen from it, if computed. course: [[bearing,
    distance], …], further points of a path, stream, wall or shore.
    """

    __tablename__ = "element"
    __table_args__ = tuple(checks_of(core.Element))

    id: Mapped[int] = mapped_column(primary_key=True)
    viewpoint_id: Mapped[int] = mapped_column(ForeignKey("viewpoint.id", ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(Text)
    shape: Mapped[Shape] = mapped_column(Choice(Shape), default=Shape.BLOCK)
    bearing_deg: Mapped[float]
    distance_m: Mapped[float]
    width_m: Mapped[float]
    height_m: Mapped[float]
    base_m: Mapped[float] = mapped_column(default=0.0)
    speed_mps: Mapped[float | None]
    moving: Mapped[MovingKind | None] = mapped_column(Choice(MovingKind))
    passing_per_min: Mapped[float | None]
    flow_bearing_deg: Mapped[float | None]
    bed_m: Mapped[float | None]
    material: Mapped[Material | None] = mapped_column(Choice(Material))
    reflectance: Mapped[float | None]
    skyline: Mapped[list[list[float]] | None] = mapped_column(Versioned(Pairs))
    course: Mapped[list[list[float]]] = mapped_column(
        Versioned(Pairs), default=list, server_default='{"version": 1, "value": []}'
    )
    viewpoint: Mapped[Viewpoint] = relationship(back_populates="elements")


class Hazard(Base, Journaled):
    """A danger at a location. A tide cuts it off above cut_off_m; the others may be limited to months."""

    __tablename__ = "hazard"
    __table_args__ = tuple(checks_of(core.Hazard))

    id: Mapped[int] = mapped_column(primary_key=True)
    location_id: Mapped[int] = mapped_column(ForeignKey("location.id", ondelete="CASCADE"), index=True)
    kind: Mapped[core.HazardKind] = mapped_column(Choice(core.HazardKind))
    note: Mapped[str] = mapped_column(Text, default="")
    cut_off_m: Mapped[float | None]
    from_month: Mapped[int | None]
    to_month: Mapped[int | None]


class Opening(Base, Journaled):
    """When a location is accessible: opening hours, a closure, or a permit."""

    __tablename__ = "opening"
    __table_args__ = tuple(checks_of(core.Opening))

    id: Mapped[int] = mapped_column(primary_key=True)
    location_id: Mapped[int] = mapped_column(ForeignKey("location.id", ondelete="CASCADE"), index=True)
    kind: Mapped[core.OpeningKind] = mapped_column(Choice(core.OpeningKind))
    note: Mapped[str] = mapped_column(Text, default="")
    from_clock: Mapped[time | None]
    to_clock: Mapped[time | None]
    days: Mapped[core.OpeningDays] = mapped_column(Choice(core.OpeningDays), default=core.OpeningDays.EVERY_DAY)
    first_date: Mapped[date | None]
    last_date: Mapped[date | None]
    every_year: Mapped[bool] = mapped_column(default=False)


class SeasonNote(Base, Journaled):
    """A note on a part of the year at a location, from a first to a last day."""

    __tablename__ = "season_note"
    __table_args__ = tuple(checks_of(core.SeasonNote))

    id: Mapped[int] = mapped_column(primary_key=True)
    location_id: Mapped[int] = mapped_column(ForeignKey("location.id", ondelete="CASCADE"), index=True)
    kind: Mapped[core.SeasonKind] = mapped_column(Choice(core.SeasonKind))
    note: Mapped[str] = mapped_column(Text, default="")
    from_month: Mapped[int]
    from_day: Mapped[int]
    to_month: Mapped[int]
    to_day: Mapped[int]


class WalkTrack(Base, Journaled):
    """A track to or around a location.

    points: [[latitude, longitude, height or null], …], thinned; the figures are of the whole track.
    """

    __tablename__ = "walk_track"
    __table_args__ = (
        not_blank(),
        between("length_m", 0.0, 1e7),
        between("ascent_m", 0.0, 1e6),
        between("descent_m", 0.0, 1e6),
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    location_id: Mapped[int] = mapped_column(ForeignKey("location.id", ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(Text)
    points: Mapped[list[Any]] = mapped_column(Versioned(TrackPoints))
    length_m: Mapped[float]
    ascent_m: Mapped[float]
    descent_m: Mapped[float]
    naismith_h: Mapped[float]
    tobler_h: Mapped[float | None]


class MeterReading(Base, Journaled):
    """A meter reading of the open scene at a location."""

    __tablename__ = "meter_reading"
    __table_args__ = (between("ev100", -15.0, 25.0),)

    id: Mapped[int] = mapped_column(primary_key=True)
    location_id: Mapped[int] = mapped_column(ForeignKey("location.id", ondelete="CASCADE"), index=True)
    time_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    ev100: Mapped[float]
    note: Mapped[str] = mapped_column(Text, default="")


class LocationGrid(Base):
    """The elevation grid around a location, at most one; too large for the journal.

    heights: zlib of row-major little-endian numbers.
    """

    __tablename__ = "location_grid"

    location_id: Mapped[int] = mapped_column(ForeignKey("location.id", ondelete="CASCADE"), primary_key=True)
    name: Mapped[str] = mapped_column(Text)
    north_deg: Mapped[float]
    west_deg: Mapped[float]
    step_lat_deg: Mapped[float]
    step_lon_deg: Mapped[float]
    rows: Mapped[int]
    columns: Mapped[int]
    number_kind: Mapped[str] = mapped_column(Text)
    heights: Mapped[bytes] = mapped_column(KeptFile, deferred=True)


class KeptForecast(Base):
    """The forecast last got for a location.

    source: service or file. problem: why a newer one could not be had, empty if it could.
    """

    __tablename__ = "kept_forecast"

    location_id: Mapped[int] = mapped_column(ForeignKey("location.id", ondelete="CASCADE"), primary_key=True)
    source: Mapped[str] = mapped_column(Text)
    simulated: Mapped[bool] = mapped_column(default=True)
    fetched_at_utc: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    tried_at_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    problem: Mapped[str] = mapped_column(Text, default="")
    # Large and parsed once; the result is cached in memory.
    content: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True), deferred=True)
    # Figures edited by hand: {UTC hour as ISO text: {figure: value}}; they outlast newer forecasts.
    edits: Mapped[dict[str, dict[str, float]]] = mapped_column(JSONB, default=dict, server_default="{}")

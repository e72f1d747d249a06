"""Locations, the viewpoints on them, and the elements seen from a viewpoint."""

from __future__ import annotations

from sqlalchemy import ForeignKey, Text
from sqlalchemy.orm import Mapped, mapped_column, relationship

from ..core.framing.outlines import SHAPES
from .base import Base, Journaled
from .checks import above, between, not_blank, one_of


class Location(Base, Journaled):
    """elevation_m above sea level; zone is an IANA name."""

    __tablename__ = "location"
    __table_args__ = (
        not_blank(),
        not_blank("zone"),
        between("latitude_deg", -90.0, 90.0),
        between("longitude_deg", -180.0, 180.0),
        between("elevation_m", -500.0, 9000.0),
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    owner_id: Mapped[int] = mapped_column(ForeignKey("photographer.id", ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(Text)
    latitude_deg: Mapped[float]
    longitude_deg: Mapped[float]
    elevation_m: Mapped[float] = mapped_column(default=0.0)
    zone: Mapped[str] = mapped_column(Text)
    notes: Mapped[str] = mapped_column(Text, default="")
    viewpoints: Mapped[list[Viewpoint]] = relationship(back_populates="location", cascade="all, delete-orphan", order_by="Viewpoint.id")


class Viewpoint(Base, Journaled):
    __tablename__ = "viewpoint"
    __table_args__ = (not_blank(),)

    id: Mapped[int] = mapped_column(primary_key=True)
    location_id: Mapped[int] = mapped_column(ForeignKey("location.id", ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(Text)
    notes: Mapped[str] = mapped_column(Text, default="")
    location: Mapped[Location] = relationship(back_populates="viewpoints", lazy="joined")
    elements: Mapped[list[Element]] = relationship(back_populates="viewpoint", cascade="all, delete-orphan", order_by="Element.id")


class Element(Base, Journaled):
    """bearing_deg from north; distance_m from the lens; base_m above the viewpoint's ground; for water height_m is its depth away."""

    __tablename__ = "element"
    __table_args__ = (
        not_blank(),
        one_of("shape", SHAPES),
        between("bearing_deg", 0.0, 360.0),
        between("distance_m", 0.01, 500_000.0),
        between("width_m", 0.0001, 200_000.0),
        between("height_m", 0.0001, 9000.0),
        between("base_m", -5000.0, 9000.0),
        above("speed_mps", 0.0, 400.0),
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    viewpoint_id: Mapped[int] = mapped_column(ForeignKey("viewpoint.id", ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(Text)
    shape: Mapped[str] = mapped_column(Text, default="block")
    bearing_deg: Mapped[float]
    distance_m: Mapped[float]
    width_m: Mapped[float]
    height_m: Mapped[float]
    base_m: Mapped[float] = mapped_column(default=0.0)
    speed_mps: Mapped[float | None]
    viewpoint: Mapped[Viewpoint] = relationship(back_populates="elements")

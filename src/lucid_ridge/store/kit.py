"""Bodies, lenses, filters and supports."""

from __future__ import annotations

from sqlalchemy import ForeignKey, Text
from sqlalchemy.orm import Mapped, mapped_column

from ..core.planning.facts import FILTER_KINDS, MOUNTS
from .base import Base, Journaled
from .checks import above, between, not_blank, one_of, ordered


class Body(Base, Journaled):
    """shutter times in s (fastest is the shortest); held_stops: scene range one frame holds at base ISO."""

    __tablename__ = "body"
    __table_args__ = (
        not_blank(),
        between("sensor_width_mm", 1.0, 400.0),
        between("sensor_height_mm", 1.0, 400.0),
        between("pixels_wide", 100, 100000),
        between("pixels_high", 100, 100000),
        between("base_iso", 1.0, 1e6),
        between("max_iso", 1.0, 1e7),
        ordered("base_iso", "max_iso"),
        above("fastest_shutter_s", 0.0, 60.0),
        above("slowest_shutter_s", 0.0, 3600.0),
        ordered("fastest_shutter_s", "slowest_shutter_s"),
        between("held_stops", 1.0, 25.0),
        between("bracket_frames", 1, 31),
        above("bracket_step_ev", 0.0, 5.0),
        between("write_s", 0.0, 60.0),
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    owner_id: Mapped[int] = mapped_column(ForeignKey("photographer.id", ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(Text)
    sensor_width_mm: Mapped[float]
    sensor_height_mm: Mapped[float]
    pixels_wide: Mapped[int]
    pixels_high: Mapped[int]
    base_iso: Mapped[float]
    max_iso: Mapped[float]
    fastest_shutter_s: Mapped[float]
    slowest_shutter_s: Mapped[float]
    has_bulb: Mapped[bool] = mapped_column(default=True)
    held_stops: Mapped[float]
    bracket_frames: Mapped[int] = mapped_column(default=3)
    bracket_step_ev: Mapped[float] = mapped_column(default=2.0)
    write_s: Mapped[float] = mapped_column(default=0.5)
    dark_frame: Mapped[bool] = mapped_column(default=False)


class Lens(Base, Journaled):
    """closest_focus_mm is engraved, from the sensor plane. front_mm: from the front principal plane to the front rim.

    pupil_depth_mm: from the rim to the entrance pupil at the shortest focal length. f_number_min is the widest aperture at the
    shortest focal length, f_number_min_long at the longest where that differs.
    """

    __tablename__ = "lens"
    __table_args__ = (
        not_blank(),
        between("focal_min_mm", 1.0, 3000.0),
        between("focal_max_mm", 1.0, 3000.0),
        ordered("focal_min_mm", "focal_max_mm"),
        between("f_number_min", 0.5, 128.0),
        between("f_number_min_long", 0.5, 128.0),
        between("f_number_max", 0.5, 128.0),
        ordered("f_number_min", "f_number_max"),
        between("closest_focus_mm", 10.0, 1e6),
        between("sharpest_f_number", 0.5, 128.0),
        above("max_magnification", 0.0, 20.0),
        between("pupil_ratio", 0.1, 10.0),
        between("filter_thread_mm", 10.0, 200.0),
        between("pupil_depth_mm", 0.0, 500.0),
        between("front_mm", 0.0, 500.0),
        between("hood_mm", 1.0, 300.0),
        between("hood_clear_mm", 10.0, 500.0),
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    owner_id: Mapped[int] = mapped_column(ForeignKey("photographer.id", ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(Text)
    focal_min_mm: Mapped[float]
    focal_max_mm: Mapped[float]
    f_number_min: Mapped[float]
    f_number_max: Mapped[float]
    f_number_min_long: Mapped[float | None]
    closest_focus_mm: Mapped[float]
    sharpest_f_number: Mapped[float]
    max_magnification: Mapped[float | None]
    pupil_ratio: Mapped[float] = mapped_column(default=1.0)
    filter_thread_mm: Mapped[float | None]
    pupil_depth_mm: Mapped[float | None]
    front_mm: Mapped[float | None]
    hood_mm: Mapped[float | None]
    hood_clear_mm: Mapped[float | None]


class Filter(Base, Journaled):
    __tablename__ = "filter"
    __table_args__ = (
        not_blank(), one_of("kind", FILTER_KINDS), between("stops", 0.0, 25.0), one_of("mount", MOUNTS), between("thickness_mm", 0.5, 40.0),
    )  # fmt: skip

    id: Mapped[int] = mapped_column(primary_key=True)
    owner_id: Mapped[int] = mapped_column(ForeignKey("photographer.id", ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(Text)
    kind: Mapped[str] = mapped_column(Text)
    stops: Mapped[float]
    mount: Mapped[str] = mapped_column(Text, default="screw", server_default="screw")
    thickness_mm: Mapped[float] = mapped_column(default=5.0, server_default="5")


class Support(Base, Journaled):
    """A tripod: how low and how high the camera stands on it; inverted_min_m with the column turned down (NULL: it cannot be)."""

    __tablename__ = "support"
    __table_args__ = (
        not_blank(),
        between("height_min_m", 0.0, 20.0),
        between("height_max_m", 0.01, 20.0),
        ordered("height_min_m", "height_max_m"),
        between("inverted_min_m", 0.0, 20.0),
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    owner_id: Mapped[int] = mapped_column(ForeignKey("photographer.id", ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(Text)
    height_min_m: Mapped[float]
    height_max_m: Mapped[float]
    inverted_min_m: Mapped[float | None]

"""Bodies, lenses, filters, supports and accessories."""

from __future__ import annotations

from sqlalchemy import ForeignKey, Text
from sqlalchemy.orm import Mapped, mapped_column

from ..core.exposure.graduated import Gradation
from ..core.facts import accessory, filters
from ..core.facts import kit as core
from .base import Base, Journaled
from .checks import ordered
from .declared import Choice, checks_of


class Body(Base, Journaled):
    """A body. Shutter times in s (fastest is the shortest); dynamic_range_stops: range one frame holds at base ISO."""

    __tablename__ = "body"
    __table_args__ = (
        *checks_of(core.Body),
        ordered("base_iso", "max_iso"),
        ordered("fastest_shutter_s", "slowest_shutter_s"),
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
    dynamic_range_stops: Mapped[float]
    bracket_frames: Mapped[int] = mapped_column(default=3)
    bracket_step_ev: Mapped[float] = mapped_column(default=2.0)
    write_s: Mapped[float] = mapped_column(default=0.5)
    dark_frame: Mapped[bool] = mapped_column(default=False)
    dark_frame_from_s: Mapped[float] = mapped_column(default=1.0, server_default="1")
    film_exponent: Mapped[float | None]
    film: Mapped[core.FilmKind | None] = mapped_column(Choice(core.FilmKind))
    battery_frames: Mapped[int | None]
    batteries: Mapped[int] = mapped_column(default=1, server_default="1")
    file_mb: Mapped[float | None]
    card_gb: Mapped[float | None]
    extended_iso_min: Mapped[float | None]
    extended_iso_max: Mapped[float | None]
    stabiliser_stops: Mapped[float | None]
    flash_sync_s: Mapped[float | None]
    burst_per_s: Mapped[float | None]
    buffer_frames: Mapped[int | None]


class Lens(Base, Journaled):
    """A lens. closest_focus_mm is engraved, from the sensor plane. front_mm: from the front principal plane to the
    front rim.

    pupil_depth_mm: from the rim to the entrance pupil at the shortest focal length. f_number_min: the widest aperture
    at the shortest focal length, f_number_min_long at the longest if it differs.
    """

    __tablename__ = "lens"
    __table_args__ = (
        *checks_of(core.Lens),
        ordered("focal_min_mm", "focal_max_mm"),
        ordered("f_number_min", "f_number_max"),
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
    __table_args__ = tuple(checks_of(filters.Filter))

    id: Mapped[int] = mapped_column(primary_key=True)
    owner_id: Mapped[int] = mapped_column(ForeignKey("photographer.id", ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(Text)
    kind: Mapped[filters.FilterKind] = mapped_column(Choice(filters.FilterKind))
    stops: Mapped[float]
    mount: Mapped[filters.Mount] = mapped_column(
        Choice(filters.Mount), default=filters.Mount.SCREW, server_default="screw"
    )
    thickness_mm: Mapped[float] = mapped_column(default=5.0, server_default="5")
    stops_max: Mapped[float | None]
    gradation: Mapped[Gradation] = mapped_column(Choice(Gradation), default=Gradation.SOFT)


class Support(Base, Journaled):
    """A tripod: lowest and highest camera position; inverted_min_m with the column reversed (NULL: not possible)."""

    __tablename__ = "support"
    __table_args__ = (
        *checks_of(core.Support),
        ordered("height_min_m", "height_max_m"),
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    owner_id: Mapped[int] = mapped_column(ForeignKey("photographer.id", ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(Text)
    height_min_m: Mapped[float]
    height_max_m: Mapped[float]
    inverted_min_m: Mapped[float | None]


class Accessory(Base, Journaled):
    """A close-up accessory. The figures of its kind are set, the others NULL."""

    __tablename__ = "accessory"
    __table_args__ = (*checks_of(accessory.Accessory), ordered("shortest_mm", "longest_mm"))

    id: Mapped[int] = mapped_column(primary_key=True)
    owner_id: Mapped[int] = mapped_column(ForeignKey("photographer.id", ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(Text)
    kind: Mapped[accessory.AccessoryKind] = mapped_column(Choice(accessory.AccessoryKind))
    length_mm: Mapped[float | None]
    dioptres: Mapped[float | None]
    factor: Mapped[float | None]
    shortest_mm: Mapped[float | None]
    longest_mm: Mapped[float | None]
    travel_mm: Mapped[float | None]
    finest_mm: Mapped[float | None]
    guide_number_m: Mapped[float | None]
    recycle_s: Mapped[float | None]
    lux_at_1m: Mapped[float | None]
    loss_stops: Mapped[float | None]
    width_mm: Mapped[float | None]
    reflectance: Mapped[float | None]
